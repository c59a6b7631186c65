"""A paper as a PDF: its pages with job, revision, page number and caution on each, and the blocks that stand on them."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from reportlab import rl_config
from reportlab.lib.colors import Color
from reportlab.lib.pagesizes import A4, LETTER, landscape
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    CondPageBreak,
    Flowable,
    Frame,
    NextPageTemplate,
    PageBreak,
    PageTemplate,
    Spacer,
)

from vivid_lattice.reports import style
from vivid_lattice.reports.fonts import BOLD, REGULAR, printable, register, width_pt, wrapped
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData

_HEAD, _FOOT = 13 * mm, 15 * mm
# Pages as bytes, not spelt out in letters for the mail of thirty years ago: a fifth smaller, and sooner ready.
rl_config.useA85 = 0


class Text(Flowable):
    """A paragraph, that may be broken between its lines."""

    def __init__(
        self,
        text: str,
        *,
        font: str = REGULAR,
        size_pt: float = style.TEXT_PT,
        colour: Color = style.INK,
        after: float = 2.0,
        indent: float = 0.0,
        lines: list[str] | None = None,
    ):
        super().__init__()
        self._text, self._font, self._size, self._colour = text, font, size_pt, colour
        self._after, self._indent, self._lines = after, indent, lines or []
        self._given = lines is not None

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        if not self._given:
            self._lines = wrapped(self._text, self._font, self._size, availWidth - self._indent)
        self.width = availWidth
        self.height = len(self._lines) * self._size * style.LEADING + self._after
        return self.width, self.height

    def split(self, availWidth: float, availHeight: float) -> list[Flowable]:
        """Broken between lines."""
        self.wrap(availWidth, availHeight)
        fits = int((availHeight - self._after) // (self._size * style.LEADING))
        if fits < 1:
            return []
        return [self._with(part) for part in (self._lines[:fits], self._lines[fits:]) if part]

    def _with(self, lines: list[str]) -> Text:
        return Text(
            "",
            after=self._after,
            lines=lines,
            font=self._font,
            size_pt=self._size,
            colour=self._colour,
            indent=self._indent,
        )

    def draw(self) -> None:
        """Line by line."""
        canvas: Canvas = self.canv
        canvas.setFillColor(self._colour)
        canvas.setFont(self._font, self._size)
        y = self.height - self._size * 0.92
        for line in self._lines:
            canvas.drawString(self._indent, y, line)
            y -= self._size * style.LEADING


class Heading(Text):
    """A heading; it does not stand alone at the foot of a page."""

    #: Room that must be left under it [pt], or it goes to the next page.
    ROOM_PT = 64.0

    def __init__(self, text: str, *, level: int = 1):
        size = {0: style.TITLE_PT, 1: style.HEAD_PT, 2: style.TEXT_PT + 0.4}[level]
        super().__init__(text, font=BOLD, size_pt=size, after=3.5 if level < 2 else 1.5)
        self.spaceBefore = {0: 0, 1: 9, 2: 6}[level]

    def getSpaceBefore(self) -> float:
        """Room above it."""
        return float(self.spaceBefore)


def soft(text: str, *, after: float = 2.0) -> Text:
    """A small, quiet paragraph."""
    return Text(text, size_pt=style.SMALL_PT, colour=style.SOFT, after=after)


def bullets(lines: Sequence[object], *, size_pt: float = style.TEXT_PT) -> list[Flowable]:
    """Lines of a list."""
    return [Text(f"–  {line}", size_pt=size_pt, after=1.0, indent=3) for line in lines]


class Boxed(Flowable):
    """Lines in a box: cautions, what is missing. Broken between lines."""

    _SIZE = style.TEXT_PT - 0.4

    def __init__(self, title: str, lines: Sequence[str], colour: Color = style.ACCENT):
        super().__init__()
        self._title, self._texts, self._colour = title, lines, colour
        self._lines: list[list[str]] = []

    def split(self, availWidth: float, availHeight: float) -> list[Flowable]:
        """What fits, and the rest in a box of its own."""
        self.wrap(availWidth, availHeight)
        used, fits = 22.0 if self._title else 11.0, 0
        for lines in self._lines:
            used += len(lines) * self._SIZE * style.LEADING + 2
            if used > availHeight:
                break
            fits += 1
        if fits == 0:
            return []
        parts = (self._texts[:fits], self._texts[fits:])
        return [Boxed(self._title if part is parts[0] else "", part, self._colour) for part in parts if part]

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        room = availWidth - 16
        self._lines = [wrapped(line, REGULAR, style.TEXT_PT - 0.4, room) for line in self._texts]
        count = sum(len(lines) for lines in self._lines)
        self.width = availWidth
        self.height = (
            count * (style.TEXT_PT - 0.4) * style.LEADING + (13 if self._title else 2) + 9 + 2 * len(self._lines)
        )
        return self.width, self.height

    def draw(self) -> None:
        """A bar in its colour, the title, the lines."""
        canvas: Canvas = self.canv
        canvas.setFillColor(style.WASH)
        canvas.rect(0, 4, self.width, self.height - 4, stroke=0, fill=1)
        canvas.setFillColor(self._colour)
        canvas.rect(0, 4, 2.4, self.height - 4, stroke=0, fill=1)
        y = self.height - 12
        if self._title:
            canvas.setFont(BOLD, style.TEXT_PT)
            canvas.drawString(9, y, printable(self._title))
            y -= 13
        canvas.setFillColor(style.INK)
        canvas.setFont(REGULAR, self._SIZE)
        for lines in self._lines:
            for line in lines:
                canvas.drawString(9, y, line)
                y -= self._SIZE * style.LEADING
            y -= 2


class Blank(Flowable):
    """A line to write on by hand, with what belongs there under it."""

    def __init__(self, labels: Sequence[str], height_mm: float = 13):
        super().__init__()
        self._labels, self._height = labels, height_mm * mm

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        self.width = availWidth
        return availWidth, self._height

    def draw(self) -> None:
        """A line a label."""
        canvas: Canvas = self.canv
        wide = self.width / len(self._labels)
        canvas.setStrokeColor(style.INK)
        canvas.setLineWidth(0.5)
        canvas.setFillColor(style.SOFT)
        canvas.setFont(REGULAR, style.SMALL_PT)
        for at, label in enumerate(self._labels):
            canvas.line(at * wide, 9, (at + 1) * wide - 8, 9)
            canvas.drawString(at * wide, 1, printable(label))


def facts(pairs: Sequence[tuple[str, str]], columns: int = 2) -> Grid:
    """What is known, as names and values side by side."""
    heads = [Column(head="", share=1.0 if at % 2 == 0 else 1.75) for at in range(2 * columns)]
    rows = []
    for start in range(0, len(pairs), columns):
        cells: list[str | GridCell] = []
        for name, value in pairs[start : start + columns]:
            cells += [GridCell(text=name, colour=style.SOFT), GridCell(text=value or "–", bold=True)]
        rows.append(Row([*cells, *[""] * (2 * columns - len(cells))]))
    return Grid(heads, rows)


@dataclass(frozen=True, slots=True)
class PdfDocument:
    """A paper that is ready: the bytes of its file, and how many pages it has."""

    content: bytes
    pages: int


def page_size(data: ReportData) -> tuple[float, float]:
    """Width and height of an upright page [pt]."""
    size: tuple[float, float] = {"a4": A4, "letter": LETTER}[data.network.rules.papers.page]
    return size


def paper(data: ReportData, title: str, story: Sequence[Flowable], *, wide: bool = False) -> PdfDocument:
    """The PDF of a story, each page with title, job, revision, number and caution."""
    register()
    out, size = io.BytesIO(), page_size(data)
    document = BaseDocTemplate(
        out,
        pagesize=landscape(size) if wide else size,
        title=printable(f"{title}: {data.job.job.title}"),
        author="Vivid Lattice",
        leftMargin=style.MARGIN,
        rightMargin=style.MARGIN,
        invariant=1,
    )
    templates = [_template("upright", size), _template("wide", landscape(size))]
    document.addPageTemplates(templates[::-1] if wide else templates)
    pages = _Pages()

    def canvas(*args: Any, **kwargs: Any) -> _Numbered:
        return _Numbered(*args, data=data, title=title, pages=pages, **kwargs)

    document.build(list(_with_room(story)) or [Text(data.say("documents.page.empty"))], canvasmaker=canvas)
    return PdfDocument(out.getvalue(), pages.count)


def _with_room(story: Sequence[Flowable]) -> Iterator[Flowable]:
    for flowable in story:
        if isinstance(flowable, Heading):
            yield CondPageBreak(flowable.ROOM_PT)
        yield flowable


def _template(name: str, size: tuple[float, float]) -> PageTemplate:
    frame = Frame(
        style.MARGIN, _FOOT, size[0] - 2 * style.MARGIN, size[1] - _HEAD - _FOOT - 4 * mm, 0, 0, 0, 0, id=name
    )
    return PageTemplate(id=name, frames=[frame], pagesize=size)


def turned(wide: bool) -> list[Flowable]:
    """A new page, the other way round."""
    return [NextPageTemplate("wide" if wide else "upright"), PageBreak()]


@dataclass(slots=True)
class _Pages:
    count: int = 0


class _Numbered(Canvas):
    """Holds every page back until the last is known, so that each can say which of how many it is."""

    def __init__(self, *args: Any, data: ReportData, title: str, pages: _Pages, **kwargs: Any):
        super().__init__(*args, **kwargs)
        self._data, self._title, self._count, self._states = data, title, pages, []  # type: ignore[var-annotated]

    def showPage(self) -> None:
        """Holds the page back."""
        self._states.append(dict(self.__dict__))
        self._data.progress(len(self._states), 0, "pages")
        self._startPage()  # type: ignore[attr-defined]  # not in the stubs

    def save(self) -> None:
        """Every page, with its frame."""
        self._count.count = len(self._states)
        states = self._states
        for number, state in enumerate(states, 1):
            self.__dict__.update(state)
            self._frame(number, len(states))
            super().showPage()
        super().save()

    def _frame(self, number: int, count: int) -> None:
        wide, high = self._pagesize  # type: ignore[attr-defined]  # not in the stubs
        left, right = style.MARGIN, wide - style.MARGIN
        self.setFillColor(style.ACCENT)
        self.rect(left, high - 9.2 * mm, 2.2 * mm, 2.2 * mm, stroke=0, fill=1)
        self.setFillColor(style.INK)
        self.setFont(BOLD, style.TEXT_PT)
        self.drawString(left + 4 * mm, high - 9 * mm, printable(self._title))
        self.setFont(REGULAR, style.TEXT_PT)
        room = right - left - 4 * mm - width_pt(printable(self._title), BOLD, style.TEXT_PT) - 12
        self.drawRightString(right, high - 9 * mm, _cut(self._data.job.job.title, REGULAR, style.TEXT_PT, room))
        self.setStrokeColor(style.LINE)
        self.setLineWidth(0.6)
        self.line(left, high - 11.5 * mm, right, high - 11.5 * mm)
        self.line(left, 12.5 * mm, right, 12.5 * mm)
        self.setFillColor(style.SOFT)
        self.setFont(REGULAR, style.SMALL_PT - 0.6)
        # On every page; all cautions of a job are in full in its report.
        self.drawString(left, 9.4 * mm, printable(self._data.say("documents.page.caution")))
        self.setFont(REGULAR, style.SMALL_PT)
        printed = self._data.made_at[:16].replace("T", " ")
        text = self._data.say("documents.page.printed", revision=self._data.revision_text, time=printed)
        self.drawString(left, 5.8 * mm, printable(text))
        self.setFillColor(style.INK)
        self.setFont(BOLD, style.SMALL_PT)
        self.drawRightString(right, 5.8 * mm, self._data.say("documents.page.number", n=number, total=count))


def _cut(text: str, font: str, size: float, room: float) -> str:
    """A text in one line, cut where it is too long."""
    text = printable(text)
    if width_pt(text, font, size) <= room:
        return text
    while text and width_pt(text + "…", font, size) > room:
        text = text[:-1]
    return text + "…"


__all__ = [
    "Blank",
    "Boxed",
    "Column",
    "Grid",
    "GridCell",
    "Heading",
    "PageBreak",
    "PdfDocument",
    "Row",
    "Spacer",
    "Text",
    "bullets",
    "facts",
    "paper",
    "soft",
    "turned",
]
