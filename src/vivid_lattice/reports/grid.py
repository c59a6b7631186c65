"""Tables on paper: light enough for thousands of rows, broken between rows, with the head on every page."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from reportlab.lib.colors import Color
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable

from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.reports import style
from vivid_lattice.reports.fonts import BOLD, REGULAR, printable, wrapped
from vivid_lattice.reports.text_drawing import Ink

Align = Literal["left", "right", "middle"]
_PAD = 2.6
#: A row is parted where it has this much room at least [pt]; with less it goes to the next page first.
_ROOM_FOR_A_PART = 300.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """A column: its head, its share of the width, where its text is."""

    head: str
    share: float
    align: Align = "left"
    bold: bool = False
    size_pt: float = style.TEXT_PT - 0.6


@dataclass(frozen=True, slots=True, kw_only=True)
class GridCell:
    """A cell that is not plain text: bold, coloured, small; or a verdict's mark, before its text."""

    text: str
    bold: bool = False
    colour: Color | None = None
    mark: Verdict | None = None
    size_pt: float | None = None


@dataclass(frozen=True, slots=True)
class Row:
    """A row. ``band``: a heading across the whole table; ``tall_pt``: its least height, for what is written in by hand."""

    cells: Sequence[str | GridCell]
    band: bool = False
    tall_pt: float = 0.0


@dataclass(slots=True)
class _Laid:
    row: Row
    lines: list[list[str]] = field(default_factory=list)
    height: float = 0.0


class Grid(Flowable):
    """A table. Rows are laid out once, and handed on when it is broken over pages."""

    def __init__(
        self, columns: Sequence[Column], rows: Sequence[Row], *, lined: bool = False, laid: list[_Laid] | None = None
    ):
        super().__init__()
        self._columns, self._rows, self._lined, self._laid = columns, rows, lined, laid
        self._head: list[list[str]] = []
        self._widths: list[float] = []

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        self._measure(availWidth)
        assert self._laid is not None
        self.width = availWidth
        self.height = self._head_height + sum(cell.height for cell in self._laid)
        return self.width, self.height

    def _measure(self, width: float) -> None:
        total = sum(column.share for column in self._columns)
        self._widths = [width * column.share / total for column in self._columns]
        self._head = [
            wrapped(column.head, BOLD, style.SMALL_PT - 0.4, wide - 2 * _PAD)
            for column, wide in zip(self._columns, self._widths, strict=True)
        ]
        tallest = max(
            (len(lines) for lines, column in zip(self._head, self._columns, strict=True) if column.head), default=0
        )
        self._head_height = tallest * (style.SMALL_PT - 0.4) * style.LEADING + 5.5 if tallest else 0.0
        if self._laid is None:
            self._laid = [self._lay(row, width) for row in self._rows]

    def _lay(self, row: Row, width: float) -> _Laid:
        laid, tallest = _Laid(row), 0.0
        for at, cell in enumerate(row.cells):
            font, size, _, mark, text = self._style(row, at, cell)
            room = (width if row.band else self._widths[at]) - 2 * _PAD - (_MARK + 2 if mark else 0)
            lines = wrapped(text, font, size, room) if text else []
            laid.lines.append(lines)
            tallest = max(tallest, len(lines) * size * style.LEADING)
        laid.height = max(tallest + 4.2 + (3 if row.band else 0), row.tall_pt)
        return laid

    def _style(self, row: Row, at: int, cell: str | GridCell) -> tuple[str, float, Color, Verdict | None, str]:
        column = self._columns[at]
        plain = cell if isinstance(cell, GridCell) else GridCell(text=cell)
        bold = plain.bold or row.band or (column.bold and not isinstance(cell, GridCell))
        size = plain.size_pt or column.size_pt
        return BOLD if bold else REGULAR, size, plain.colour or style.INK, plain.mark, plain.text

    def split(self, availWidth: float, availHeight: float) -> list[Flowable]:
        """Broken between rows: what fits, and the rest. A heading does not stand alone at the foot."""
        self._measure(availWidth)
        assert self._laid is not None
        used, fits = self._head_height, 0
        for cell in self._laid:
            if used + cell.height > availHeight:
                break
            used += cell.height
            fits += 1
        headings = fits
        while fits and self._laid[fits - 1].row.band:
            fits -= 1
        if fits == 0 and all(cell.row.band for cell in self._laid):
            fits = headings
        if fits == 0 and availHeight < _ROOM_FOR_A_PART:
            return []
        if fits == 0:
            # The first row that is no heading is taller than a page: its headings stay with its upper part.
            at = next((number for number, cell in enumerate(self._laid) if not cell.row.band), 0)
            ahead = self._head_height + sum(cell.height for cell in self._laid[:at])
            self._laid[at : at + 1] = self._parted(self._laid[at], availHeight - ahead)
            fits = at + 1
        parts = (self._laid[:fits], self._laid[fits:])
        return [Grid(self._columns, (), lined=self._lined, laid=part) for part in parts if part]

    def _parted(self, laid: _Laid, room: float) -> tuple[_Laid, _Laid]:
        """A row that is taller than a page, in what fits and the rest."""
        halves = _Laid(laid.row), _Laid(laid.row)
        for at, lines in enumerate(laid.lines):
            step = self._style(laid.row, at, laid.row.cells[at])[1] * style.LEADING
            fits = max(1, int((room - 8) // step))
            for half, part in zip(halves, (lines[:fits], lines[fits:]), strict=True):
                half.lines.append(part)
                half.height = max(half.height, len(part) * step + 4.2)
        return halves

    def draw(self) -> None:
        """The head, then row by row."""
        canvas: Canvas = self.canv
        assert self._laid is not None
        y, ink = self.height, Ink()
        if self._head_height:
            self._draw_head(canvas, ink, y)
            y -= self._head_height
        canvas.setLineWidth(0.4)
        for cell in self._laid:
            self._draw_row(canvas, ink, cell, y)
            y -= cell.height
        ink.draw(canvas)

    def _draw_head(self, canvas: Canvas, ink: Ink, top: float) -> None:
        size = style.SMALL_PT - 0.4
        x = 0.0
        for column, wide, lines in zip(self._columns, self._widths, self._head, strict=True):
            y = top - self._head_height + 4.5 + (len(lines) - 1) * size * style.LEADING
            for line in lines:
                _put(ink, line, x, y, wide, column.align, BOLD, size, style.SOFT)
                y -= size * style.LEADING
            x += wide
        canvas.setStrokeColor(style.INK)
        canvas.setLineWidth(0.7)
        canvas.line(0, top - self._head_height + 1.5, self.width, top - self._head_height + 1.5)

    def _draw_row(self, canvas: Canvas, ink: Ink, laid: _Laid, top: float) -> None:
        row, x = laid.row, 0.0
        if row.band:
            canvas.setFillColor(style.WASH)
            canvas.rect(0, top - laid.height, self.width, laid.height - 1.5, stroke=0, fill=1)
        for at, cell in enumerate(row.cells):
            font, size, colour, mark, _ = self._style(row, at, cell)
            wide = self.width if row.band else self._widths[at]
            y = top - 2.4 - size * 0.86 - (2 if row.band else 0)
            left = x
            if mark is not None:
                draw_mark(canvas, mark, x + _PAD, y - 0.2)
                left += _MARK + 2
            align = "left" if row.band else self._columns[at].align
            for line in laid.lines[at]:
                _put(ink, line, left, y, wide - (left - x), align, font, size, colour)
                y -= size * style.LEADING
            x += wide
        canvas.setStrokeColor(style.LINE)
        canvas.line(0, top - laid.height, self.width, top - laid.height)
        if self._lined and not row.band:
            x = 0.0
            for wide in (0.0, *self._widths):
                x += wide
                canvas.line(x, top - laid.height, x, top)


def _put(
    ink: Ink, line: str, x: float, y: float, wide: float, align: Align, font: str, size: float, colour: Color
) -> None:
    if align == "left":
        ink.put(line, x + _PAD, y, font, size, colour)
    elif align == "right":
        ink.put_right(line, x + wide - _PAD, y, font, size, colour)
    else:
        ink.put_middle(line, x + wide / 2, y, font, size, colour)


_MARK = 11.0


def draw_mark(canvas: Canvas, verdict: Verdict, x: float, y: float) -> None:
    """A verdict's shape, as in the lattice: a bar, a notched bar, a wedge, an open diamond, a broken outline, a dash."""
    colour = style.OF_VERDICT[verdict]
    canvas.saveState()
    canvas.setFillColor(colour)
    canvas.setStrokeColor(colour)
    canvas.setLineWidth(0.8)
    wide, high = _MARK - 1, 4.4
    if verdict == "pass":
        canvas.rect(x, y + 0.6, wide, high - 1.2, stroke=0, fill=1)
    elif verdict == "tight":
        canvas.rect(x, y, 1.4, high, stroke=0, fill=1)
        canvas.rect(x + 2.6, y, 1.4, high, stroke=0, fill=1)
        canvas.rect(x + 4.6, y + 0.8, 2.6, high - 1.6, stroke=0, fill=1)
    elif verdict == "fail":
        path = canvas.beginPath()
        path.moveTo(x + wide, y - 0.4)
        path.lineTo(x, y + high / 2)
        path.lineTo(x + wide, y + high + 0.4)
        path.close()
        canvas.drawPath(path, stroke=0, fill=1)
    elif verdict == "advice":
        path = canvas.beginPath()
        for number, (dx, dy) in enumerate(((0, high / 2), (wide / 2, high), (wide, high / 2), (wide / 2, 0))):
            (path.lineTo if number else path.moveTo)(x + dx, y + dy)
        path.close()
        canvas.drawPath(path, stroke=1, fill=0)
    elif verdict == "missing":
        canvas.setDash(1.6, 1.3)
        canvas.rect(x, y, wide, high, stroke=1, fill=0)
    else:
        canvas.line(x + 2, y + high / 2, x + wide - 2, y + high / 2)
    canvas.restoreState()


def verdict_cell(verdict: Verdict) -> GridCell:
    """A verdict as a mark with its word."""
    return GridCell(
        text=printable(style.verdict_word(verdict)),
        bold=verdict in ("fail", "tight"),
        colour=style.OF_VERDICT[verdict],
        mark=verdict,
    )
