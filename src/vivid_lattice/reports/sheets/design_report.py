"""The design report: supply, demand, boards, every circuit with its checks; as an annex every working with its source."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepTogether

from vivid_lattice.core.checks import CHECKS
from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Board, Circuit, Section
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import worst
from vivid_lattice.core.text import shown_up
from vivid_lattice.reports import style
from vivid_lattice.reports.art import Art
from vivid_lattice.reports.drawing import shapes_of
from vivid_lattice.reports.fonts import BOLD, REGULAR, wrapped
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row, verdict_cell
from vivid_lattice.reports.report_data import ReportData, device_long, device_short
from vivid_lattice.reports.sheet import Heading, PageBreak, PdfDocument, Spacer, facts, paper, soft, turned
from vivid_lattice.reports.sheets.parts import (
    FINDING_COLUMNS,
    NOT_SAID,
    Sources,
    board_words,
    cautions_of,
    finding_row,
    head_of,
    papers_due,
)
from vivid_lattice.reports.text_drawing import Ink


def make(data: ReportData) -> PdfDocument:
    """The whole report."""
    return paper(data, data.say("documents.kind.report.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    yield from head_of(data, data.say("documents.kind.report.title"))
    yield _verdict(data)
    yield Spacer(1, 6)
    yield cautions_of(data)
    yield from _causes(data)
    yield from _accepted(data)
    yield from papers_due(data)
    yield from _supply(data)
    for board in data.job.boards:
        yield from _board(data, board)
    yield from turned(wide=True)
    yield Heading("Circuit overview")
    yield _glance(data)
    yield soft(
        "Value, then limit. Marks: bar = pass, notched bar = tight, wedge = fail, diamond = advice, broken outline = needs input."
    )
    yield from turned(wide=False)
    yield Heading("Circuit by circuit")
    for number, circuit in enumerate(data.circuits, 1):
        data.progress(number, len(data.circuits), circuit.name)
        yield from _circuit(data, circuit)
    yield PageBreak()
    yield from annex(data)


def _verdict(data: ReportData) -> Grid:
    counts = data.assessment.counts
    order = ("fail", "missing", "advice", "tight", "pass")
    cells = [verdict_cell(verdict) for verdict in order]  # type: ignore[arg-type]
    figures = [GridCell(text=str(counts.get(verdict, 0)), bold=True, size_pt=12) for verdict in order]
    columns = [Column(head="", share=1.6), *(Column(head="", share=1.0) for _ in order)]
    return Grid(columns, [Row([GridCell(text="Findings", bold=True), *cells]), Row(["", *figures])])


def _causes(data: ReportData) -> Iterator[Flowable]:
    """What someone has to look at, each cause once."""
    causes = data.assessment.causes
    if not causes:
        return
    yield Heading("To look at")
    names = {circuit.id: circuit.name for circuit in data.job.circuits}
    rows = [
        Row(
            [
                verdict_cell(cause.verdict),
                str(cause.sentence),
                ", ".join(names[name] for name in cause.circuits) or "the whole job",
            ]
        )
        for cause in causes
    ]
    yield Grid([Column(head="", share=0.8), Column(head="Cause", share=3.4), Column(head="Circuits", share=1.8)], rows)


def _accepted(data: ReportData) -> Iterator[Flowable]:
    """Advice that was accepted, with the reason, and who accepted it."""
    accepted = data.assessment.accepted
    if not accepted:
        return
    yield Heading(data.say("documents.report.accepted"))
    rows = [
        Row([str(cause.sentence), cause.reason, ", ".join(filter(None, (cause.name, cause.date))) or NOT_SAID])
        for cause in accepted
    ]
    heads = ("documents.report.accepted_advice", "documents.report.accepted_reason", "documents.report.accepted_by")
    yield Grid(
        [Column(head=data.say(key), share=share) for key, share in zip(heads, (3.2, 2.0, 1.2), strict=True)], rows
    )


def _supply(data: ReportData) -> Iterator[Flowable]:
    supply, size = data.job.supply, data.network.rules.cables.size_label
    lines = {1: "single-phase", 2: "split-phase", 3: "three-phase"}[supply.phases]
    source = supply.ze_source or NOT_SAID
    devices = data.network.rules.devices
    cutout = (
        f"{supply.cutout.rating_a:g} A {devices.kind(supply.cutout.kind).title.lower()}" if supply.cutout else NOT_SAID
    )
    tails = NOT_SAID
    if supply.tails:
        length = f"{supply.tails.length_m:g} m" if supply.tails.length_m is not None else NOT_SAID
        tails = f"{size(supply.tails.area_mm2)}, {length}"
    if supply.ze_ohm is not None:
        ze = f"{supply.ze_ohm:g} Ω ({source})"
    else:
        ze = "calculated from the transformer" if supply.transformer else NOT_SAID
    fault = f"{supply.fault_current_ka:g} kA" if supply.fault_current_ka is not None else NOT_SAID
    earthing = supply.earthing
    conductor = size(earthing.conductor_mm2) if earthing and earthing.conductor_mm2 else NOT_SAID
    bonds = (
        ", ".join(f"{bond.name} {size(bond.area_mm2) if bond.area_mm2 else '?'}" for bond in earthing.bonds)
        if earthing
        else ""
    )
    yield Heading("Supply, demand, earthing")
    yield facts(
        [
            ("System", f"{supply.system}, {lines}, {supply.nominal_v:g} V to neutral"),
            (data.say("documents.report.cut_out"), cutout),
            ("External loop impedance Ze", ze),
            (data.say("documents.report.tails"), tails),
            ("Prospective fault current", fault if supply.transformer is None else "calculated from the transformer"),
            (data.say("documents.report.earthing"), conductor),
            (data.say("documents.report.bonding"), bonds or NOT_SAID),
            ("Premises", data.job.job.premises.replace("-", " ")),
        ]
    )
    yield Spacer(1, 4)
    yield Grid(FINDING_COLUMNS, [finding_row(data, finding) for finding in data.by_subject.get("supply", ())])


def _earthing_of(data: ReportData, board: Board) -> Iterator[tuple[str, str]]:
    """How a board in another building is earthed, in words."""
    own = board.earthing
    if own is None or own.kind == "same-building":
        return
    kind = data.say(f"core.check.local-earthing.kind.{own.kind}")
    size = data.network.rules.cables.size_label
    figures = [f"{own.electrode_ohm:g} Ω"] if own.electrode_ohm is not None else []
    figures += [size(own.conductor_mm2)] if own.conductor_mm2 is not None else []
    yield data.say("documents.report.local_earthing"), ", ".join([kind, *figures])


def _board(data: ReportData, board: Board) -> Iterator[Flowable]:
    figures = next(row for row in data.assessment.boards if row.board == board.id)
    main = board.main_switch
    switch = (
        f"{main.rating_a:g} A{f', RCD {main.rcd.idn_ma:g} mA {main.rcd.type}' if main.rcd else ''}" if main else "none"
    )
    fed = "the origin" if is_origin(board.fed_by) else f"{data.names[board.fed_by.board]}, way {board.fed_by.way}"
    enclosure = board.build.enclosure
    loads = ", ".join(f"{line.line} {line.shown} A" for line in figures.lines)
    yield Heading(f"{board.name}: {board_words(data)}")
    yield facts(
        [
            ("Fed from", fed),
            (data.say("documents.report.main_switch"), switch),
            (data.say("documents.report.ways"), f"{len(board.ways)} of {board.way_count}"),
            *_earthing_of(data, board),
            ("Enclosure", enclosure.title if enclosure else "not chosen yet"),
            ("Demand after diversity", loads or NOT_SAID),
            (
                "Loop impedance, fault current to neutral",
                f"{_up(figures.loop_ohm)} Ω, {_up(figures.fault_neutral_ka)} kA",
            ),
        ]
    )
    yield Spacer(1, 4)
    view = data.view(board.id)
    if view is not None:
        art = Art(shapes_of(view), view.width_mm, view.height_mm, 62)
        yield KeepTogether([art, soft("Board layout, cover off, to scale.")])
    yield Grid(FINDING_COLUMNS, [finding_row(data, finding) for finding in data.by_subject.get(board.id, ())])


def _up(value: float | None) -> str:
    return "?" if value is None else shown_up(value)


def _glance(data: ReportData) -> Grid:
    """The lattice on paper: what the cable needs, a column a check, and the worst of what protects."""
    sizing = [check for check in CHECKS if check.group == "sizing"]
    words = data.network.rules.words
    columns = [
        Column(head="", share=0.4, align="right"),
        Column(head="Circuit", share=2.4, bold=True),
        Column(head="Device", share=1.45, size_pt=style.SMALL_PT + 0.2),
        Column(head="Cable", share=1.4, size_pt=style.SMALL_PT + 0.2),
        *(
            Column(head=f"{check.head(words)}: {check.unit_head(words)}", share=1.35, size_pt=style.SMALL_PT)
            for check in sizing
        ),
        Column(head="Protection", share=1.3, size_pt=style.SMALL_PT),
    ]
    rows = []
    for board in data.job.boards:
        rows.append(Row([GridCell(text=board.name), *[""] * (len(columns) - 1)], band=True))
        for circuit in data.circuits:
            figures = data.figures[circuit.id]
            if figures.board != board.id:
                continue
            findings = {finding.check: finding for finding in data.by_subject[circuit.id]}
            others = [finding for finding in findings.values() if finding.check not in {check.id for check in sizing}]
            protection = worst([other.verdict for other in others])
            rows.append(
                Row(
                    [
                        str(figures.way),
                        circuit.name,
                        device_short(circuit),
                        f"{figures.size or '?'}, {_metres(figures.length_m)}",
                        *(_crossing(findings[check.id]) for check in sizing),
                        GridCell(
                            text=style.verdict_word(protection), colour=style.OF_VERDICT[protection], mark=protection
                        ),
                    ]
                )
            )
    return Grid(columns, rows)


def _metres(length: float | None) -> str:
    return "? m" if length is None else f"{length:g} m"


def _crossing(finding: Finding) -> GridCell:
    words = (
        f"{finding.shown_value} / {finding.shown_limit}"
        if finding.value is not None
        else style.verdict_word(finding.verdict)
    )
    return GridCell(text=words, colour=style.OF_VERDICT[finding.verdict], mark=finding.verdict)


def _circuit(data: ReportData, circuit: Circuit) -> Iterator[Flowable]:
    figures = data.figures[circuit.id]
    cable = circuit.cable
    kind = NOT_SAID if is_auto(cable) else data.network.rules.cables.kind(cable.type).title
    loads = "; ".join(f"{load.items} × {load.name}" if load.items > 1 else load.name for load in circuit.loads)
    head = [
        Heading(f"Way {figures.way}  {circuit.name}   ({data.names[figures.board]})", level=2),
        facts(
            [
                ("Device", device_long(data, circuit)),
                ("Cable", f"{kind}, {figures.size or '?'}"),
                ("Run", "; ".join(_section(data, section) for section in circuit.run)),
                ("Design current", f"{_up(figures.design_current_a)} A"),
                ("Feeds", loads or circuit.kind),
                ("R1+R2, Zs at 20 °C", f"{_up(figures.r1r2_ohm)} Ω, {_up(figures.zs_cold_ohm)} Ω"),
            ]
        ),
    ]
    rows = [finding_row(data, finding) for finding in data.by_subject[circuit.id]]
    yield KeepTogether([*head, Grid(FINDING_COLUMNS, rows[:3])])
    yield Grid(
        [
            Column(head="", share=column.share, align=column.align, bold=column.bold, size_pt=column.size_pt)
            for column in FINDING_COLUMNS
        ],
        rows[3:],
    )
    if circuit.notes:
        yield soft(f"Notes: {circuit.notes}")


def _section(data: ReportData, section: Section) -> str:
    method = data.network.rules.factors.methods[section.method]
    words = f"{_metres(section.length_m)} by {method.id}, {method.title.lower()}"
    if section.circuits_grouped > 1:
        words += f", {section.circuits_grouped} together"
    if section.in_insulation_mm:
        words += f", {section.in_insulation_mm:g} mm in insulation"
    return words


# ------------------------------------------------------------------------------------------------ annex


def annex(data: ReportData) -> Iterator[Flowable]:
    """Every working, step by step, its sources by number; then the sources."""
    sources = Sources()
    yield Heading("Annex: calculations", level=0)
    yield soft(
        "Each line: symbol, meaning, formula with values, result, and the number of its source in the list at the end.",
        after=4,
    )
    findings = [finding for finding in data.assessment.findings if finding.working]
    for finding in findings:
        sources.note(finding)
    subject = None
    for number, finding in enumerate(findings):
        if number % 25 == 0:
            data.progress(number, len(findings), "sums")
        if finding.subject != subject:
            subject = finding.subject
            yield Heading(data.names[subject.id])
        yield Sum(data.title_of(finding), finding, sources)
    yield Heading("Sources")
    yield soft("Source “memory”: the value was written down from memory and must be checked against the publication.")
    yield sources.listed()


class Sum(Flowable):
    """A finding's working: its answer, then a line a step. Broken between steps."""

    _SIZE = style.SMALL_PT
    _COLUMNS = (15 * mm, 73 * mm, 144 * mm, 171 * mm)

    def __init__(self, title: str, finding: Finding, sources: Sources, *, steps: tuple[Step, ...] | None = None):
        super().__init__()
        self._title, self._finding, self._sources = title, finding, sources
        self._steps = finding.working if steps is None else steps
        self._first = steps is None
        self._laid: list[tuple[list[list[str]], float]] = []

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        if not self._laid:
            self._laid = [self._lay(step, availWidth) for step in self._steps]
        self.width = availWidth
        self.height = self._head + sum(height for _, height in self._laid) + 3
        return self.width, self.height

    @property
    def _head(self) -> float:
        return 13.0 if self._first else 0.0

    def _lay(self, step: Step, width: float) -> tuple[list[list[str]], float]:
        figures = " = ".join(str(part) for part in (step.formula, step.figures) if part)
        source = f"[{self._sources.number(step.source)}]" if step.source else ""
        texts = (step.symbol, str(step.meaning), figures, f"{step.shown} {step.unit}".strip(), source)
        edges = (0.0, *self._COLUMNS, width)
        cells = [
            wrapped(text, BOLD if at == 3 else REGULAR, self._SIZE, edges[at + 1] - edges[at] - 4)
            for at, text in enumerate(texts)
        ]
        return cells, max(len(lines) for lines in cells) * self._SIZE * 1.22 + 1.2

    def split(self, availWidth: float, availHeight: float) -> list[Flowable]:
        """Broken between steps."""
        self.wrap(availWidth, availHeight)
        used, fits = self._head, 0
        for _, height in self._laid:
            if used + height > availHeight - 3:
                break
            used, fits = used + height, fits + 1
        if fits == 0:
            return []
        first = Sum(self._title, self._finding, self._sources, steps=self._steps[:fits])
        first._first, first._laid = self._first, self._laid[:fits]
        rest = Sum(self._title, self._finding, self._sources, steps=self._steps[fits:])
        rest._laid = self._laid[fits:]
        return [first, rest] if rest._laid else [first]

    def draw(self) -> None:
        """The title with its answer, then the steps."""
        canvas: Canvas = self.canv
        y, ink = self.height, Ink()
        if self._first:
            self._draw_head(canvas, y)
            y -= self._head
        edges = (0.0, *self._COLUMNS)
        for cells, height in self._laid:
            for at, lines in enumerate(cells):
                colour, font = style.SOFT if at in (1, 4) else style.INK, BOLD if at == 3 else REGULAR
                for number, line in enumerate(lines):
                    ink.put(line, edges[at], y - self._SIZE * (1 + 1.22 * number), font, self._SIZE, colour)
            y -= height
        ink.draw(canvas)

    def _draw_head(self, canvas: Canvas, top: float) -> None:
        finding = self._finding
        canvas.setFillColor(style.OF_VERDICT[finding.verdict])
        canvas.setFont(BOLD, style.SMALL_PT + 0.6)
        figure = f": {finding.shown_value} of {finding.shown_limit} {finding.unit}" if finding.value is not None else ""
        rule = f"   rule [{self._sources.number(finding.rule)}]" if finding.rule else ""
        head = f"{self._title}: {style.verdict_word(finding.verdict)}{figure}{rule}"
        canvas.drawString(0, top - 9, wrapped(head, BOLD, style.SMALL_PT + 0.6, self.width)[0])
        canvas.setStrokeColor(style.LINE)
        canvas.setLineWidth(0.4)
        canvas.line(0, top - 11, self.width, top - 11)
