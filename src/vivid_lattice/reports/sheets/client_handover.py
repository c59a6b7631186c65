"""The sheet that stays with the client, in plain words."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.board.isolation.affected_circuits import circuits_lost_with
from vivid_lattice.core.board.labels import notices_of
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.optional import or_none
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Blank, Boxed, Heading, PdfDocument, Spacer, Text, bullets, facts, paper, soft
from vivid_lattice.reports.sheets.parts import head_of, papers_due


def make(data: ReportData) -> PdfDocument:
    """The sheet."""
    return paper(data, data.say("documents.kind.hand-over.heading"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    work = data.job.work_details
    dots = "……………………………………………"
    yield from head_of(data, data.say("documents.kind.hand-over.heading"))
    yield Boxed(
        "Safety",
        [
            data.say("documents.handover.covers"),
            data.say("documents.handover.smoke"),
            "If a switch trips again at once, leave it off, unplug what it supplies, and call.",
        ],
        style.OF_VERDICT["fail"],
    )
    yield Heading("Who to call")
    yield facts(
        [
            ("Your electrician", work.contractor or dots),
            ("Telephone", work.contractor_phone or dots),
            ("No power in the street, or a problem with the supply", work.distributor or dots),
            ("Telephone", work.distributor_phone or dots),
        ]
    )
    for board in data.job.boards:
        yield from _board(data, board)
    yield from _buttons(data)
    yield from _surge(data)
    yield from papers_due(data)
    yield Spacer(1, 8)
    yield Blank(["Handed over by", "Received by", "Date"])


def _board(data: ReportData, board: Board) -> Iterator[Flowable]:
    room = next(
        (room.name for room in data.job.rooms if board.build.mounting and room.id == board.build.mounting.room), ""
    )
    yield Heading(f"{board.name}{f' ({room})' if room else ''}: what each switch feeds")
    rows = []
    for line in data.chart(board.id):
        below = data.network.tree.fed_through(data.network.tree.circuits[line.circuit])
        off = f"trips together with everything behind {line.trips_with}" if line.trips_with else "trips alone"
        if below:
            off = data.say(
                "documents.handover.all_below",
                n=len(below),
                board=data.names[data.network.tree.feeds[line.circuit]],
            )
        rows.append(
            Row(
                [
                    GridCell(text=str(line.way), bold=True, size_pt=10),
                    GridCell(text=line.text, bold=True),
                    ", ".join(line.feeds) or "sockets",
                    ", ".join(line.rooms) or "–",
                    off,
                ]
            )
        )
    columns = [
        Column(head="No.", share=0.4, align="right"),
        Column(head="Name", share=1.9),
        Column(head="Feeds", share=2.1),
        Column(head="Where", share=1.7),
        Column(head="When it trips", share=1.5, size_pt=style.SMALL_PT),
    ]
    yield Grid(columns, rows)


def _buttons(data: ReportData) -> Iterator[Flowable]:
    rows = []
    for board in data.job.boards:
        units = or_none(lambda board=board: data.network.boards[board.id].units)  # type: ignore[misc]
        for unit in units.all if units else ():
            if unit.rcd is not None:
                rows.append(_button(data, board, unit))
    if not rows:
        return
    notices = dict.fromkeys(
        notice.text
        for board in data.job.boards
        for notice in notices_of(data.network.boards, data.network.boards[board.id])
        if "button" in notice.text.lower()
    )
    yield Heading("Test buttons")
    yield from bullets(
        list(notices)
        or [f"Press each test button {_how_often(data)}: it must switch off. If it does not, call your electrician."]
    )
    yield Grid(
        [
            Column(head="Where", share=1.6),
            Column(head="Button on", share=1.8, bold=True),
            Column(head="Without power while it is off", share=4.0),
        ],
        rows,
    )


def _how_often(data: ReportData) -> str:
    """How often a test button is pressed, by the standard's routine checks."""
    rows = or_none(lambda: data.network.rules.testing.routine) or ()
    months = next((row.months for row in rows if row.of == "rcd"), None)
    if months is None:
        return "regularly"
    return "every month" if months == 1 else f"every {months} months"


def _button(data: ReportData, board: Board, unit: BoardDevice) -> Row:
    tree, where_to = data.network.tree, _rooms(data)
    dark = [(circuit.name, where_to[circuit.id]) for circuit in circuits_lost_with(tree, board, unit)]
    rooms = list(dict.fromkeys(room for _, texts in dark for room in texts))
    names = ", ".join(name for name, _ in dark) or "nothing yet"
    where = f" ({', '.join(rooms)})" if rooms else ""
    name = next(
        (
            f"switch {line.way}, {line.text}"
            for line in data.chart(board.id)
            if unit.kind == "way" and unit.circuit and line.circuit == unit.circuit.id
        ),
        str(unit.name),
    )
    return Row([board.name, name, names + where])


def _rooms(data: ReportData) -> dict[str, tuple[str, ...]]:
    """The rooms that each circuit feeds."""
    return {line.circuit: line.rooms for board in data.job.boards for line in data.chart(board.id)}


def _surge(data: ReportData) -> Iterator[Flowable]:
    devices = [(board, device) for board in data.job.boards for device in board.spds]
    yield Heading("Surge protection")
    if devices:
        yield from bullets(
            [
                f"{device.name} in {board.name}: check the status indicator once a year and after a thunderstorm. Green: working. Red or dark: replace; call your electrician."
                for board, device in devices
            ]
        )
        return
    declined = data.job.surge.declined
    text = f"None is fitted: {declined.how()} by {declined.name} on {declined.date}." if declined else "None fitted."
    yield Text(text)
    yield soft("Unplug sensitive equipment during a thunderstorm.")
