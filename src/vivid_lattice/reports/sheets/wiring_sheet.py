"""The wiring list of a board, in the order to do it, with boxes to tick."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.board.wiring.wiring_list import STEPS, Wiring, step_title
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.text import Shown
from vivid_lattice.reports import style
from vivid_lattice.reports.art import Art
from vivid_lattice.reports.drawing import shapes_of
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, Spacer, bullets, paper, soft, turned

#: A box to tick by hand.
_BOX = "\u25a1"


def make(data: ReportData, board_id: str | None = None) -> PdfDocument:
    """The list of one board, or of all."""
    boards = data.job.boards if board_id is None else (data.board(board_id),)
    story: list[Flowable] = []
    for board in boards:
        story += [*(turned(wide=True) if story else []), *_story(data, board)]
    return paper(data, data.say("documents.kind.wiring.title"), story, wide=True)


def _story(data: ReportData, board: Board) -> Iterator[Flowable]:
    yield Heading(f"Wiring of {board.name}", level=0)
    yield Boxed(
        "Dead, locked off, proved dead",
        [
            "Work on a board that is not connected, or is isolated, locked off and proved dead. Connect the supply last.",
            "Torques are typical values unless a device family states its own. The value printed on the device takes precedence.",
        ],
        style.OF_VERDICT["fail"],
    )
    try:
        wiring = data.network.boards[board.id].whole_wiring()
    except NeedsInput as lack:
        yield Boxed("No wiring list yet", [str(need.sentence) for need in lack.needs])
        return
    yield from _list(data, board, wiring)


def _list(data: ReportData, board: Board, wiring: Wiring) -> Iterator[Flowable]:
    if wiring.missing:
        yield Boxed("Not known yet", [str(need) for need in wiring.missing], style.OF_VERDICT["missing"])
    if wiring.combs:
        yield Heading(data.say("documents.wiring.busbars"))
        yield from bullets(
            [
                data.say(
                    "documents.wiring.busbar",
                    n=str(number),
                    row=str(comb.row),
                    phases=" ".join(comb.lines),
                    mm=Shown(f"{comb.cut_mm:g}"),
                    pins=sum(bool(tooth.terminal) for tooth in comb.teeth),
                )
                for number, comb in enumerate(wiring.combs, 1)
            ]
        )
    rows, number = [], 0
    for step in range(1, len(STEPS) + 1):
        conductors = [
            conductor for conductor in wiring.conductors if conductor.step == step and conductor.kind != "plug"
        ]
        if not conductors:
            continue
        rows.append(Row([GridCell(text=f"{step}. {step_title(step, data.network.rules.words)}"), *[""] * 9], band=True))
        for wire in conductors:
            number += 1
            shares = (
                f" (with {wire.shares - 1} more in the terminal; manufacturer: {wire.shared})"
                if wire.shares > 1
                else ""
            )
            rows.append(
                Row(
                    [
                        _BOX,
                        str(number),
                        str(wire.start.text),
                        str(wire.end.text),
                        wire.colour or wire.conductor,
                        str(wire.size),
                        f"{wire.length_mm:g}",
                        f"{wire.start.finish}{shares}",
                        f"{wire.start.strip_mm:g}" if wire.start.strip_mm else "–",
                        " / ".join(dict.fromkeys(str(end.torque) for end in (wire.start, wire.end) if end.torque))
                        or "–",
                    ]
                )
            )
    yield Heading("Conductors in order")
    size = style.SMALL_PT
    columns = [
        Column(head="", share=0.3, align="middle", size_pt=10),
        Column(head="No.", share=0.4, align="right", size_pt=size),
        Column(head="From", share=2.6, size_pt=size),
        Column(head="To", share=2.6, size_pt=size),
        Column(head="Colour", share=1.0, size_pt=size),
        Column(head="Size", share=0.8, size_pt=size),
        Column(head="Length [mm]", share=0.7, align="right", size_pt=size),
        Column(head="Ends", share=1.5, size_pt=size),
        Column(head="Strip [mm]", share=0.6, align="right", size_pt=size),
        Column(head="Torque", share=1.6, size_pt=size),
    ]
    yield Grid(columns, rows)
    view = data.view(board.id)
    if view is not None:
        yield from turned(wide=True)
        yield Art(shapes_of(view), view.width_mm, view.height_mm, 150)
        yield soft("Board layout, cover off, to scale. Conductors in current colours.")
    yield Spacer(1, 2)
