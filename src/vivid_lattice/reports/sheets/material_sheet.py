"""What to buy, how to cut it, and what goes to which room."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.material.line import GROUPS, CutList, MaterialLine, group_title
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, paper, soft
from vivid_lattice.reports.sheets.parts import head_of
from vivid_lattice.reports.tables import cut_labels

#: What is carried to a room: the rest is cut or fitted at the board.
_TO_ROOMS = ("box", "accessory", "fixing", "device")


def make(data: ReportData) -> PdfDocument:
    """The list."""
    return paper(data, data.say("documents.kind.material.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    yield from head_of(data, data.say("documents.kind.material.title"))
    material = data.material
    if material.missing:
        yield Boxed(
            "Not included, because not known yet", [str(line) for line in material.missing], style.OF_VERDICT["missing"]
        )
    yield Heading("To buy")
    yield Grid(_BUY, list(_buy_rows(data)))
    priced = (
        f"Total of priced lines {material.cost:.2f}; lines without a price: {material.unpriced}."
        if material.cost
        else "No prices for these items yet. Type them under Quote, or import a price list under Documents."
    )
    yield soft(f"{priced} Prices from your own list. Spares as set in the job, else by common practice (no source).")
    yield Heading("To cut")
    yield Grid(_CUT, [row for cut_list in material.cuts for row in _cut_rows(cut_list)])
    rooms = list(_room_rows(data))
    if rooms:
        yield Heading("By room")
        yield Grid([Column(head="What", share=4), Column(head="Quantity", share=1, align="right")], rooms)


_BUY = [
    Column(head="What", share=3.6),
    Column(head="Quantity", share=1.1, align="right"),
    Column(head="", share=1.7, size_pt=style.SMALL_PT),
    Column(head="Each", share=0.7, align="right"),
    Column(head="Cost", share=0.8, align="right"),
]
_CUT = [
    Column(head="From", share=1.2),
    Column(head="Piece", share=4),
    Column(head="Length", share=1, align="right"),
    Column(head="Rest", share=1, align="right"),
]


def _buy_rows(data: ReportData) -> Iterator[Row]:
    for group in GROUPS:
        items = [line for line in data.material.items if line.group == group]
        if not items:
            continue
        yield Row([GridCell(text=str(group_title(group, data.network.rules.words))), "", "", "", ""], band=True)
        for entry in items:
            each = "" if entry.each is None else f"{entry.each:.2f}"
            cost = "" if entry.cost is None else f"{entry.cost:.2f}"
            yield Row([str(entry.what), _quantity(entry), str(entry.note), each, cost])


def _quantity(entry: MaterialLine) -> str:
    if entry.quantity is None:
        return "to be measured"
    packs = f" ({entry.packs:g} × {entry.pack})" if entry.pack > 1 else ""
    return f"{entry.quantity:g} {entry.unit}{packs}"


def _cut_rows(cut_list: CutList) -> Iterator[Row]:
    """Each length with its pieces and its rest; of what is cut to length the pieces alone."""
    yield Row([GridCell(text=str(cut_list.what)), "", "", ""], band=True)
    if cut_list.plan is None:
        for piece in cut_list.pieces:
            yield Row(["", str(piece.label), f"{piece.length_m:.2f} m", ""])
        return
    labels = cut_labels(cut_list)
    for cut in cut_list.plan.cuts:
        for number, piece_mm in enumerate(cut.pieces_mm):
            first, last = number == 0, number == len(cut.pieces_mm) - 1
            yield Row(
                [
                    f"{cut.stock.length_mm / 1000:g} m" if first else "",
                    labels[piece_mm].pop(0),
                    f"{piece_mm / 1000:.2f} m",
                    f"{cut.rest_mm / 1000:.2f} m" if last else "",
                ]
            )
    if cut_list.plan.gap:
        yield Row(["", f"A cheaper plan could save {100 * cut_list.plan.gap:.1f} % at most.", "", ""])


def _room_rows(data: ReportData) -> Iterator[Row]:
    rooms: dict[str, list[tuple[MaterialLine, float]]] = defaultdict(list)
    for line in data.material.items:
        for room, many in line.rooms.items():
            if room and line.group in _TO_ROOMS:
                rooms[room].append((line, many))
    for place in data.job.rooms:
        if place.id in rooms:
            yield Row([GridCell(text=place.name), ""], band=True)
            for line, many in rooms[place.id]:
                yield Row([str(line.what), f"{many:g} {line.unit}"])
