"""Everything that can leave the application: one list for the interface, the API and the shell."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.bundle import Bundle, as_zip
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.job_file import to_text
from vivid_lattice.files import file_name
from vivid_lattice.reports.dxf import board_dxf
from vivid_lattice.reports.page import job_page
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import PdfDocument
from vivid_lattice.reports.sheets import (
    before_after_sheet,
    circuit_chart,
    client_handover,
    comparison_sheet,
    design_report,
    label_strips,
    material_sheet,
    surge_sheet,
    testing_sheets,
    wiring_sheet,
)
from vivid_lattice.reports.svg import board_svg
from vivid_lattice.reports.tables import TABLE_TITLES, as_csv, as_xlsx, table

Group = Literal["sheets", "tables", "drawings", "whole"]
Needs = Literal["nothing", "board", "survey", "other"]


@dataclass(frozen=True, slots=True)
class ExportedFile:
    """An export that is ready. ``pages``: of a sheet; 0 of what has none."""

    content: bytes
    name: str
    pages: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """Something that can be exported. ``needs``: a board to be named, a survey in the job, another state to compare with."""

    id: str
    title: str
    text: str
    group: Group
    suffix: str
    needs: Needs
    make: Callable[[ReportData, str | None], ExportedFile]


def _sheet(
    make: Callable[[ReportData, str | None], PdfDocument], title: str
) -> Callable[[ReportData, str | None], ExportedFile]:
    def made(data: ReportData, board: str | None) -> ExportedFile:
        paper = make(data, board)
        return ExportedFile(paper.content, _name(data, board, title, "pdf"), paper.pages)

    return made


def _name(data: ReportData, board: str | None, what: str, suffix: str) -> str:
    named = data.names[board] if board is not None else ""
    revision = f"r{data.revision}" if data.revision is not None else ""
    return file_name(data.job.job.title, what, named, revision, suffix=suffix)


def _content(data: ReportData, board: str | None, what: str, suffix: str, content: bytes) -> ExportedFile:
    return ExportedFile(content, _name(data, board, what, suffix))


def _drawn(data: ReportData, board: str | None, suffix: Literal["svg", "dxf"]) -> ExportedFile:
    assert board is not None
    view = data.view(board)
    if view is None:
        raise BadDocument(
            [DocumentProblem("boards.build", f"{data.names[board]} has no enclosure yet, so there is nothing to draw")]
        )
    title = f"{data.job.job.title}: {data.names[board]}"
    content = board_dxf(view) if suffix == "dxf" else board_svg(view, title).encode("utf-8")
    return _content(data, board, "board", suffix, content)


def _tables(data: ReportData, _board: str | None) -> ExportedFile:
    made = []
    for number, name in enumerate(TABLE_TITLES, 1):
        data.progress(number, len(TABLE_TITLES), TABLE_TITLES[name])
        made.append(table(data, name))
    return _content(data, None, "tables", "xlsx", as_xlsx(made, data.job.job.title))


def _csv(name: str) -> Callable[[ReportData, str | None], ExportedFile]:
    return lambda data, _board: _content(data, None, name, "csv", as_csv(table(data, name)))


def _bundle(data: ReportData, _board: str | None) -> ExportedFile:
    made = as_zip(Bundle(data.job, data.photos, data.trips, data.ticks))
    return _content(data, None, "with photos", "zip", made)


def _alone(make: Callable[[ReportData], PdfDocument]) -> Callable[[ReportData, str | None], PdfDocument]:
    return lambda data, _board: make(data)


def _chart(data: ReportData, board: str | None) -> PdfDocument:
    return circuit_chart.all_boards(data) if board is None else circuit_chart.make(data, board)


def _pdf(
    id_: str, title: str, words: str, make: Callable[[ReportData, str | None], PdfDocument], needs: Needs = "nothing"
) -> Kind:
    return Kind(id=id_, title=title, text=words, group="sheets", suffix="pdf", needs=needs, make=_sheet(make, title))


KINDS: tuple[Kind, ...] = (
    _pdf("report", "Design report", "supply, demand, boards, every circuit and every sum", _alone(design_report.make)),
    _pdf("chart", circuit_chart.TITLE, "for the door of each board, by way and by room", _chart),
    _pdf("labels", label_strips.TITLE, "at true size, to be cut", label_strips.make),
    _pdf("wiring", wiring_sheet.TITLE, "in the order to do it", wiring_sheet.make),
    _pdf("material", material_sheet.TITLE, "what to buy and what to cut it to", _alone(material_sheet.make)),
    _pdf("tests", testing_sheets.TITLE, "blank, with what each reading should be", _alone(testing_sheets.make)),
    _pdf("surge", surge_sheet.TITLE, "what was asked, fitted or declined; to be signed", _alone(surge_sheet.make)),
    _pdf("before-after", before_after_sheet.TITLE, "the old board beside the new, with photos", _alone(before_after_sheet.make), "survey"),
    _pdf("hand-over", "Hand-over sheet", "for the client, in plain words", _alone(client_handover.make)),
    _pdf("comparison", comparison_sheet.TITLE, "against an earlier revision or another job", _alone(comparison_sheet.make), "other"),
    Kind(id="xlsx", title="Workbook", text="circuits, findings, wiring, material", group="tables", suffix="xlsx", needs="nothing", make=_tables),
    *(
        Kind(id=f"{name}-csv", title=f"{title} as CSV", text="to be read by anything", group="tables", suffix="csv", needs="nothing", make=_csv(name))
        for name, title in TABLE_TITLES.items()
    ),
    Kind(id="svg", title="Board as SVG", text="to scale, in millimetres", group="drawings", suffix="svg", needs="board", make=lambda data, board: _drawn(data, board, "svg")),
    Kind(id="dxf", title="Board as DXF", text="to scale, a layer a kind of thing", group="drawings", suffix="dxf", needs="board", make=lambda data, board: _drawn(data, board, "dxf")),
    Kind(id="html", title="Page for reading", text="one file, for somebody without the application", group="whole", suffix="html", needs="nothing",
         make=lambda data, _board: _content(data, None, "read", "html", job_page(data))),
    Kind(id="json", title="Job document", text="the open format, to be read back", group="whole", suffix="json", needs="nothing",
         make=lambda data, _board: _content(data, None, "", "json", to_text(data.job).encode("utf-8"))),
    Kind(id="zip", title="Job with photos", text="document, photos, trip log and ticks", group="whole", suffix="zip", needs="nothing", make=_bundle),
)  # fmt: skip

#: By their ids; and what somebody means who names a format alone.
BY_ID = {kind.id: kind for kind in KINDS}
BY_ID |= {"pdf": BY_ID["report"], "csv": BY_ID["circuits-csv"]}


def export(data: ReportData, kind_id: str, board: str | None = None) -> ExportedFile:
    """One export. ``board``: of which board, where it can be of one; None: of all.

    Raises  BadDocument where there is no such kind or board, or the job lacks what it is made from; Stopped
    """
    kind = BY_ID.get(kind_id)
    if kind is None:
        raise BadDocument(
            [
                DocumentProblem(
                    "as", f"nothing is exported as '{kind_id}'; known: {', '.join(kind.id for kind in KINDS)}"
                )
            ]
        )
    if board is not None and all(known.id != board for known in data.job.boards):
        raise BadDocument([DocumentProblem("board", f"no board '{board}'; there are {_boards(data.job)}")])
    if board is None and kind.needs == "board":
        if len(data.job.boards) != 1:
            raise BadDocument([DocumentProblem("board", f"say of which board; there are {_boards(data.job)}")])
        board = data.job.boards[0].id
    return kind.make(data, board)


def _boards(job: Job) -> str:
    return ", ".join(board.id for board in job.boards) or "none"
