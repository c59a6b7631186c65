"""The circuit chart for the board's door: by way and by room, with the notices that stand beside it."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.board.labels import ChartLine, notices_of
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.text import Shown
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, Spacer, Text, facts, paper, turned
from vivid_lattice.reports.sheets.parts import assumed_of


def make(data: ReportData, board_id: str) -> PdfDocument:
    """The chart of one board."""
    return paper(data, data.say("documents.kind.chart.title"), list(_story(data, data.board(board_id))))


def _story(data: ReportData, board: Board) -> Iterator[Flowable]:
    chart = data.chart(board.id)
    main = board.main_switch
    if is_origin(board.fed_by):
        cutout = data.job.supply.cutout
        fed = (
            data.say("documents.chart.cut_out_rated", a=Shown(f"{cutout.rating_a:g}"))
            if cutout
            else data.say("documents.chart.cut_out")
        )
    else:
        fed = data.say("documents.chart.fed", board=data.names[board.fed_by.board], n=board.fed_by.way)
    yield Heading(data.say("documents.chart.head", board=board.name), level=0)
    yield facts(
        [
            (data.say("documents.chart.place"), data.job.job.site or data.job.job.title),
            (data.say("documents.chart.fed_from"), fed),
            (
                data.say("documents.chart.off"),
                data.say("documents.chart.main", a=Shown(f"{main.rating_a:g}"))
                if main
                else data.say("documents.chart.off_upstream"),
            ),
            (
                data.say("documents.chart.earth"),
                board.build.labels.main_earth_location or data.say("documents.chart.by_hand"),
            ),
        ]
    )
    yield Spacer(1, 6)
    yield from assumed_of(data)
    yield _by_way(data, chart)
    yield Heading(data.say("documents.chart.by_room"))
    yield _by_room(data, chart)
    notices = notices_of(data.network.boards, data.network.boards[board.id])
    if notices:
        yield Spacer(1, 8)
        yield Boxed(data.say("documents.chart.notices"), [notice.text for notice in notices])
    yield Spacer(1, 4)
    by, phone = data.job.work_details.contractor, data.job.work_details.contractor_phone
    yield Text(data.say("documents.chart.completed", by=by or "…" * 14, phone=phone or "…" * 12))


def _by_way(data: ReportData, chart: tuple[ChartLine, ...]) -> Grid:
    rows = [
        Row(
            [
                GridCell(text=str(line.way), bold=True, size_pt=12),
                GridCell(text=line.text, bold=True, size_pt=10),
                line.device,
                ", ".join(line.feeds),
                ", ".join(line.rooms) or "–",
                line.trips_with,
            ],
            tall_pt=20,
        )
        for line in chart
    ]
    columns = [
        Column(head=data.say("documents.chart.head.way"), share=0.5, align="right"),
        Column(head=data.say("documents.chart.head.circuit"), share=2.2),
        Column(head=data.say("documents.chart.head.device"), share=1.2),
        Column(head=data.say("documents.chart.head.feeds"), share=2.0),
        Column(head=data.say("documents.chart.head.rooms"), share=1.7),
        Column(head=data.say("documents.chart.head.trips"), share=1.0),
    ]
    return Grid(columns, rows)


def _by_room(data: ReportData, chart: tuple[ChartLine, ...]) -> Grid:
    """Room by room, floor by floor: which ways must be off there."""
    chart_lines: dict[str, list[ChartLine]] = {}
    for line in chart:
        for room in line.rooms:
            chart_lines.setdefault(room, []).append(line)
    floors = {room.name: room.floor for room in data.job.rooms}
    order = {room.name: at for at, room in enumerate(data.job.rooms)}
    rows = [
        Row(
            [
                GridCell(text=room, bold=True),
                floors.get(room, ""),
                ", ".join(str(line.way) for line in lines),
                "; ".join(f"{line.way} {line.text}" for line in lines),
            ]
        )
        for room, lines in sorted(chart_lines.items(), key=lambda pair: order.get(pair[0], len(order)))
    ]
    nowhere = [line for line in chart if not line.rooms]
    if nowhere:
        rows.append(
            Row(
                [
                    GridCell(text=data.say("documents.chart.no_room"), bold=True),
                    "",
                    ", ".join(str(line.way) for line in nowhere),
                    "; ".join(f"{line.way} {line.text}" for line in nowhere),
                ]
            )
        )
    return Grid(
        [
            Column(head=data.say("documents.chart.head.room"), share=1.5),
            Column(head=data.say("documents.chart.head.floor"), share=0.9),
            Column(head=data.say("documents.chart.head.ways"), share=0.9),
            Column(head=data.say("documents.chart.head.circuits"), share=4.0),
        ],
        rows,
    )


def all_boards(data: ReportData) -> PdfDocument:
    """The charts of all boards, each on a page of its own."""
    story: list[Flowable] = []
    for board in data.job.boards:
        story += [*(turned(wide=False) if story else []), *_story(data, board)]
    return paper(data, data.say("documents.kind.chart.title"), story)
