"""Label strips for the devices' windows, at true size: to be printed at 100 %, cut, and put in."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepTogether

from vivid_lattice.core.board.catalogue import usual_enclosure_form
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.rail_positions import MODULE_MM, SPACE_MM
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.optional import or_none
from vivid_lattice.reports import style
from vivid_lattice.reports.fonts import BOLD, REGULAR, width_pt, wrapped
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Heading, PdfDocument, Spacer, page_size, paper, soft

#: Height of a strip [mm]: what goes under the windows of most covers. Common practice, no source.
STRIP_MM = 15.0
_RULER_MM = 100.0


@dataclass(frozen=True, slots=True)
class Label:
    """What is over a device: how wide it is [mm], its way, its text; an empty one is a blank."""

    wide_mm: float
    number: str
    text: str
    mark: str


def make(data: ReportData, board_id: str | None = None) -> PdfDocument:
    """The strips of one board, or of all."""
    boards = data.job.boards if board_id is None else (data.board(board_id),)
    story: list[Flowable] = [
        Heading(data.say("documents.kind.labels.title"), level=0),
        soft(
            "Print at 100 % (“actual size”, not “fit to page”) and check the line: it must be 100 mm long. Cut along the outlines.",
            after=6,
        ),
        Ruler(),
    ]
    for board in boards:
        story += _board(data, board)
    return paper(data, data.say("documents.kind.labels.title"), story, wide=True)


def _board(data: ReportData, board: Board) -> Iterator[Flowable]:
    rows = strips_of(data, board)
    room_mm = (page_size(data)[1] - 2 * style.MARGIN) / mm - 4
    laid_out = or_none(lambda: data.network.boards[board.id].laid_out) is not None
    yield Heading(board.name)
    if not laid_out:
        yield soft(data.say("documents.labels.no_layout"))
    for number, labels in enumerate(rows, 1):
        pieces = list(_pieces(labels, room_mm))
        for part, piece in enumerate(pieces, 1):
            of = f", piece {part} of {len(pieces)}" if len(pieces) > 1 else ""
            text = soft(f"Row {number}{of}: {sum(label.wide_mm for label in piece):g} mm", after=1)
            yield KeepTogether([text, Strip(piece)])
            yield Spacer(1, 7)


def strips_of(data: ReportData, board: Board) -> list[list[Label]]:
    """The labels of a board, row by row; in the order of the ways where nothing has a place yet."""
    texts = {line.circuit: (str(line.way), line.text) for line in data.chart(board.id)}
    model = data.network.boards[board.id]
    places = or_none(lambda: model.places)
    form = usual_enclosure_form(data.job.supply) if places is None else places.enclosure.form
    step = SPACE_MM if form == "panelboard" else MODULE_MM

    def label(unit: BoardDevice) -> Label:
        circuit = unit.circuit.id if unit.circuit is not None and unit.kind == "way" else ""
        number, text = texts.get(circuit, ("", str(unit.name)))
        return Label(unit.wide * step, number, text, unit.mark)

    if places is None or not places.placed:
        units = or_none(lambda: model.units)
        return [[label(unit) for unit in units.all if unit.wide > 0]] if units else []
    rows = []
    for row in range(1, places.enclosure.rows + 1):
        labels, at = [], 0.0
        for placed in places.row(row):
            if placed.offset_modules > at:
                labels.append(Label((placed.offset_modules - at) * step, "", "", ""))
            labels.append(label(placed.unit))
            at = placed.end
        if at < places.enclosure.modules:
            labels.append(Label((places.enclosure.modules - at) * step, "", "", ""))
        rows.append(labels)
    return rows


def _pieces(labels: Sequence[Label], room_mm: float) -> Iterator[list[Label]]:
    """A row in pieces that a page is wide enough for, cut between labels; a gap that is too long is cut itself."""
    piece: list[Label] = []
    used = 0.0
    for label in labels:
        rest = label.wide_mm
        while used + rest > room_mm:
            if not label.number and not label.text and used < room_mm:
                part = room_mm - used - (room_mm - used) % MODULE_MM
                if part > 0:
                    piece.append(Label(part, "", "", ""))
                    rest -= part
            if piece:
                yield piece
            piece, used = [], 0.0
            if label.text:
                break
        piece.append(Label(rest, label.number, label.text, label.mark))
        used += rest
    if piece:
        yield piece


class Ruler(Flowable):
    """A line to measure the print by."""

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        self.width = availWidth
        return availWidth, 16.0

    def draw(self) -> None:
        """A line of 100 mm with its ends."""
        canvas: Canvas = self.canv
        canvas.setStrokeColor(style.INK)
        canvas.setLineWidth(0.5)
        canvas.line(0, 8, _RULER_MM * mm, 8)
        for end in (0.0, _RULER_MM * mm):
            canvas.line(end, 4, end, 12)
        canvas.setFont(REGULAR, style.SMALL_PT)
        canvas.setFillColor(style.INK)
        canvas.drawString(_RULER_MM * mm + 6, 5.5, "100 mm")


class Strip(Flowable):
    """A row of labels, each as wide as its device."""

    def __init__(self, labels: Sequence[Label]):
        super().__init__()
        self._labels = labels

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        self.width = availWidth
        return availWidth, STRIP_MM * mm + 1

    def draw(self) -> None:
        """Outline by outline."""
        canvas: Canvas = self.canv
        x = 0.0
        canvas.setLineWidth(0.3)
        for label in self._labels:
            wide = label.wide_mm * mm
            canvas.setStrokeColor(style.SOFT)
            canvas.rect(x, 0, wide, STRIP_MM * mm, stroke=1, fill=0)
            if label.text:
                self._label(canvas, label, x, wide)
            x += wide

    def _label(self, canvas: Canvas, label: Label, x: float, wide: float) -> None:
        room, middle = wide - 2 * mm, x + wide / 2
        top = STRIP_MM * mm - 2
        canvas.setFillColor(style.INK)
        if label.number:
            canvas.setFont(BOLD, 10)
            canvas.drawCentredString(middle, top - 9, label.number)
            top -= 11
        floor = 8.0 if label.mark else 2.0
        size = next(
            (
                size
                for size in (7.5, 7.0, 6.5, 6.0, 5.5, 5.0, 4.5)
                if len(wrapped(label.text, BOLD, size, room)) * size * 1.12 <= top - floor
                and _unbroken(label.text, size, room)
            ),
            4.2,
        )
        y = top - size * 0.9
        for line in wrapped(label.text, BOLD, size, room):
            if y < floor - 1:
                break
            canvas.setFont(BOLD, size)
            canvas.drawCentredString(middle, y, line)
            y -= size * 1.12
        if label.mark:
            mark = wrapped(label.mark, REGULAR, 4.8, room)[0]
            canvas.setFont(REGULAR, 4.8)
            canvas.setFillColor(style.SOFT)
            canvas.drawCentredString(middle, 2.6, mark)


def _unbroken(text: str, size: float, room: float) -> bool:
    """Whether no word of it must be broken."""
    return all(width_pt(word, BOLD, size) <= room for word in text.split())
