"""Everything that can leave the application: one list for the interface, the API and the shell."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.bundle import Bundle, as_zip
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.quote import SavedQuote
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.job_file import to_text
from vivid_lattice.core.messages import Message, message, speaking
from vivid_lattice.core.plan.drawing import drawing_of
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set
from vivid_lattice.files import file_name
from vivid_lattice.reports import quote_tables
from vivid_lattice.reports.calendar_file import job_calendar
from vivid_lattice.reports.dxf import board_dxf, drawing_dxf
from vivid_lattice.reports.page import job_page
from vivid_lattice.reports.plan_art import LAYERS as PLAN_LAYERS
from vivid_lattice.reports.plan_art import plan_shapes
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import PdfDocument
from vivid_lattice.reports.sheets import (
    before_after_sheet,
    certificate,
    circuit_chart,
    client_handover,
    comparison_sheet,
    condition_report,
    design_report,
    fixing_sheet,
    label_strips,
    material_sheet,
    plan_sheet,
    quote_sheet,
    supply_request,
    surge_sheet,
    testing_sheets,
    wiring_sheet,
)
from vivid_lattice.reports.svg import Frame, board_svg, drawing_svg
from vivid_lattice.reports.tables import TABLE_TITLES, ReportTable, as_csv, as_xlsx, price_list, table

Group = Literal["sheets", "tables", "drawings", "whole"]
Needs = Literal["nothing", "board", "survey", "plan", "other", "quote"]
#: Of a plan on paper.
_PLAN_SCALE = 50.0


@dataclass(frozen=True, slots=True)
class ExportedFile:
    """An export that is ready. ``pages``: of a sheet; 0 of what has none."""

    content: bytes
    name: str
    pages: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """Something that can be exported. ``needs``: a board to be named, a survey, a plan or a quote in the job, another state to compare with."""

    id: str
    group: Group
    suffix: str
    needs: Needs = "nothing"
    make: Callable[[ReportData, str | None], ExportedFile]

    @property
    def title(self) -> Message:
        """What it is called."""
        return message(None, f"documents.kind.{self.id}.title")

    @property
    def text(self) -> Message:
        """What it is for, in a few words."""
        return message(None, f"documents.kind.{self.id}.text")


def _sheet(id_: str, make: Callable[[ReportData, str | None], PdfDocument]) -> Callable[..., ExportedFile]:
    def made(data: ReportData, board: str | None) -> ExportedFile:
        paper, title = make(data, board), data.say(f"documents.kind.{id_}.title")
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
            [
                DocumentProblem(
                    "boards.build",
                    f"No enclosure chosen for {data.names[board]} yet, so there is no drawing. Choose one under Board.",
                )
            ]
        )
    title = f"{data.job.job.title}: {data.names[board]}"
    content = board_dxf(view) if suffix == "dxf" else board_svg(view, title).encode("utf-8")
    return _content(data, board, "board", suffix, content)


def _planned(data: ReportData, suffix: Literal["svg", "dxf"]) -> ExportedFile:
    if not data.job.plan.rooms:
        raise BadDocument([DocumentProblem("plan.rooms", str(message(None, "documents.no_plan")))])
    rules = rule_set(data.job.job.rules)
    drawing = drawing_of(data.job, house_plan(data.job, rules), rules)
    shapes, wide_mm, high_mm = plan_shapes(drawing)
    if suffix == "dxf":
        return _content(data, None, "plan", suffix, drawing_dxf(shapes, high_mm, PLAN_LAYERS))
    frame = Frame(wide_mm, high_mm, margin_mm=400.0, scale=_PLAN_SCALE)
    return _content(data, None, "plan", suffix, drawing_svg(shapes, frame, PLAN_LAYERS, data.job.job.title).encode())


def _tables(data: ReportData, _board: str | None) -> ExportedFile:
    made = []
    for number, name in enumerate(TABLE_TITLES, 1):
        data.progress(number, len(TABLE_TITLES), TABLE_TITLES[name])
        made.append(table(data, name))
    return _content(data, None, "tables", "xlsx", as_xlsx(made, data.job.job.title))


def _csv(name: str) -> Callable[[ReportData, str | None], ExportedFile]:
    return lambda data, _board: _content(data, None, name, "csv", as_csv(table(data, name)))


def _quoted(data: ReportData, make: Callable[[ReportData, SavedQuote], list[ReportTable]]) -> ExportedFile:
    quote = quote_sheet.last_quote(data)
    named = f"quote {quote.number}" if make is quote_tables.ours else f"quote {quote.number} client"
    return _content(data, None, named, "xlsx", as_xlsx(make(data, quote), data.job.job.title))


def _bundle(data: ReportData, _board: str | None) -> ExportedFile:
    made = as_zip(Bundle(data.job, data.photos, data.trips, data.ticks, data.history))
    return _content(data, None, "with photos", "zip", made)


def _alone(make: Callable[[ReportData], PdfDocument]) -> Callable[[ReportData, str | None], PdfDocument]:
    return lambda data, _board: make(data)


def _chart(data: ReportData, board: str | None) -> PdfDocument:
    return circuit_chart.all_boards(data) if board is None else circuit_chart.make(data, board)


def _pdf(id_: str, make: Callable[[ReportData, str | None], PdfDocument], needs: Needs = "nothing") -> Kind:
    return Kind(id=id_, group="sheets", suffix="pdf", needs=needs, make=_sheet(id_, make))


def _table(id_: str, suffix: str, make: Callable[[ReportData], ExportedFile], needs: Needs = "nothing") -> Kind:
    return Kind(id=id_, group="tables", suffix=suffix, needs=needs, make=lambda data, _board: make(data))


KINDS: tuple[Kind, ...] = (
    _pdf("report", _alone(design_report.make)),
    _pdf("chart", _chart),
    _pdf("labels", label_strips.make),
    _pdf("wiring", wiring_sheet.make),
    _pdf("material", _alone(material_sheet.make)),
    _pdf("plan", _alone(plan_sheet.make), "plan"),
    _pdf("fixing", _alone(fixing_sheet.make), "plan"),
    _pdf("quote", _alone(quote_sheet.ours), "quote"),
    _pdf("quote-client", _alone(quote_sheet.client), "quote"),
    _pdf("tests", _alone(testing_sheets.make)),
    _pdf("certificate", _alone(certificate.make)),
    _pdf("condition", _alone(condition_report.make)),
    _pdf("surge", _alone(surge_sheet.make)),
    _pdf("request", _alone(supply_request.make)),
    _pdf("before-after", _alone(before_after_sheet.make), "survey"),
    _pdf("hand-over", _alone(client_handover.make)),
    _pdf("comparison", _alone(comparison_sheet.make), "other"),
    Kind(id="xlsx", group="tables", suffix="xlsx", make=_tables),
    *(Kind(id=f"{name}-csv", group="tables", suffix="csv", make=_csv(name)) for name in TABLE_TITLES),
    _table("quote-xlsx", "xlsx", lambda data: _quoted(data, quote_tables.ours), "quote"),
    _table("quote-client-xlsx", "xlsx", lambda data: _quoted(data, quote_tables.client), "quote"),
    _table("price-list-csv", "csv", lambda data: _content(data, None, "price list", "csv", as_csv(price_list(data)))),
    Kind(id="svg", group="drawings", suffix="svg", needs="board", make=lambda data, board: _drawn(data, board, "svg")),
    Kind(id="dxf", group="drawings", suffix="dxf", needs="board", make=lambda data, board: _drawn(data, board, "dxf")),
    Kind(id="plan-svg", group="drawings", suffix="svg", needs="plan", make=lambda data, _board: _planned(data, "svg")),
    Kind(id="plan-dxf", group="drawings", suffix="dxf", needs="plan", make=lambda data, _board: _planned(data, "dxf")),
    Kind(
        id="html",
        group="whole",
        suffix="html",
        make=lambda data, _board: _content(data, None, "read", "html", job_page(data)),
    ),
    Kind(
        id="json",
        group="whole",
        suffix="json",
        make=lambda data, _board: _content(data, None, "", "json", to_text(data.job).encode("utf-8")),
    ),
    Kind(
        id="calendar",
        group="whole",
        suffix="ics",
        make=lambda data, _board: _content(data, None, "checks", "ics", job_calendar(data)),
    ),
    Kind(id="zip", group="whole", suffix="zip", make=_bundle),
)

#: By their ids; and what someone means who names a format alone.
BY_ID = {kind.id: kind for kind in KINDS}
BY_ID |= {"pdf": BY_ID["report"], "csv": BY_ID["circuits-csv"]}


def export(data: ReportData, kind_id: str, board: str | None = None, language: str = "") -> ExportedFile:
    """One export. ``board``: of which board, where it can be of one; None: of all. ``language``: of its texts; the job's own unless
    given.

    Raises  BadDocument where there is no such kind or board, or the job lacks what it is made from; Stopped
    """
    kind = BY_ID.get(kind_id)
    if kind is None:
        raise BadDocument(
            [DocumentProblem("as", f"No document type “{kind_id}”. Available: {', '.join(kind.id for kind in KINDS)}.")]
        )
    if board is not None and all(known.id != board for known in data.job.boards):
        raise BadDocument([DocumentProblem("board", f"No board “{board}”. Available: {_boards(data.job)}.")])
    if board is None and kind.needs == "board":
        if len(data.job.boards) != 1:
            raise BadDocument([DocumentProblem("board", f"Choose a board: {_boards(data.job)}.")])
        board = data.job.boards[0].id
    with speaking(language or data.job.settings.language):
        return kind.make(data, board)


def _boards(job: Job) -> str:
    return ", ".join(board.id for board in job.boards) or "none"
