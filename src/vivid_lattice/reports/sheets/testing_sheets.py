"""Test sheets: what each reading should be, beside the reading, or the place where it is written while there is none."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from reportlab.platypus import Flowable

from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE
from vivid_lattice.core.network.tree import EarthInUse
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.testing.expected_readings import ExpectedReadings, RcdTest, judged_by_sum, rcd_multiples
from vivid_lattice.core.testing.judgement import JudgedReading
from vivid_lattice.core.text import Shown, shown_down, shown_up
from vivid_lattice.core.units import ka_from_a
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData, device_short
from vivid_lattice.reports.sheet import (
    Blank,
    Boxed,
    Heading,
    PdfDocument,
    Spacer,
    Text,
    bullets,
    facts,
    paper,
    soft,
    turned,
)
from vivid_lattice.reports.sheets.parts import cited, papers_due

_TALL = 23.0
_HINT = style.SMALL_PT - 0.6


def make(data: ReportData) -> PdfDocument:
    """The sheets: what is tested dead and live, board by board, then the order and the papers."""
    story = list(_origin(data))
    for board in data.job.boards:
        story += [*turned(wide=True), *results_of_board(data, board)]
    story += [*turned(wide=True), *_closing(data)]
    return paper(data, data.say("documents.kind.tests.title"), story, wide=True)


def _origin(data: ReportData) -> Iterator[Flowable]:
    supply, words = data.job.supply, data.network.rules.vocabulary
    loops = data.network.loops
    ze = or_none(loops.ze_ohm)
    fault = or_none(lambda: ka_from_a(loops.origin_fault_a()))
    insulation = or_none(lambda: data.network.rules.papers.insulation)
    yield Heading("Test sheet: origin", level=0)
    yield facts(
        [
            ("Job", data.job.job.title),
            ("Place", data.job.job.site),
            ("System", supply.system),
            ("Voltage, line to neutral", f"{supply.nominal_v:g} V"),
        ]
    )
    yield Spacer(1, 6)
    yield Boxed(
        "Before testing",
        [
            "Dead tests first. Prove the instrument, isolate, lock off, prove dead. Disconnect or bridge SPDs and electronics before the insulation test.",
            *((insulation.note,) if insulation and insulation.note else ()),
            "Live tests: by a competent person, with fused leads, nothing exposed, no one else within reach.",
        ],
        style.OF_VERDICT["fail"],
    )
    rows = [
        _blank_row("Polarity of the supply", "right", ""),
        _blank_row(
            "External loop impedance Ze",
            _expected_text(ze, "Ω"),
            f"design value: {supply.ze_source or 'no source stated'}",
            _reads(data, "ze:supply:supply"),
        ),
        _blank_row(
            "Maximum prospective fault current",
            _expected_text(fault, "kA"),
            "below the breaking capacity of every device",
            _reads(data, *(f"pfc_{to}:board:{board.id}" for board in data.job.boards for to in ("ln", "le"))),
        ),
        _blank_row(
            f"{words.get('earthing_conductor', 'Earthing conductor')}: continuity",
            "according to its length",
            "",
            _reads(data, "r_me:supply:supply"),
        ),
        _blank_row(
            f"{words.get('bonding', 'bonding')}: continuity",
            "below 0.05 Ω at usual lengths",
            "common practice, no source",
        ),
        _blank_row("Voltage", f"{supply.nominal_v:g} V", "", _reads(data, "u_ln:supply:supply")),
    ]
    if supply.phases == 3:
        rows.append(_blank_row("Phase sequence", "L1, L2, L3 clockwise", "at each board and three-phase outlet"))
    if supply.system == "TT":
        rows.append(
            _blank_row(
                "Earth electrode",
                _expected_text(ze, "Ω"),
                "stable, and RA · IΔn within the touch voltage limit",
                _reads(data, "ra:electrode:supply"),
            )
        )
    rows += list(_own_electrodes(data))
    yield Heading("Supply")
    yield Grid(
        [
            Column(head="Test", share=2.4, bold=True),
            Column(head="Expected", share=1.4),
            Column(head="Reads", share=1.6),
            Column(head="Note", share=2.4, size_pt=style.SMALL_PT),
        ],
        rows,
        lined=True,
    )


def _own_electrodes(data: ReportData) -> Iterator[Row]:
    """Electrodes of boards and circuits that have one of their own."""
    network = data.network
    owners: list[Board | Circuit] = [*data.job.boards, *data.job.circuits]
    for owner in owners:
        own = owner.earthing
        if own is None or own.kind not in WITH_ELECTRODE:
            continue
        earth = EarthInUse(system="TT", own=own, owner=owner)
        ohm = or_none(partial(network.loops.local_electrode_ohm, earth))
        alone = own.kind == "electrode"
        note = data.say("documents.tests.own_electrode" if alone else "documents.tests.beside_electrode")
        yield _blank_row(
            data.say("documents.tests.electrode_of", name=owner.name),
            _expected_text(ohm, "Ω"),
            note,
            _reads(data, f"ra:electrode:{owner.id}"),
        )


def _blank_row(test: str, should: str, note: str, reads: str | GridCell = "") -> Row:
    return Row([test, should, reads, note], tall_pt=_TALL)


def _reads(data: ReportData, *tests: str) -> str | GridCell:
    """The first of some readings that is there; an empty cell while none is."""
    reading = next((data.readings[test] for test in tests if test in data.readings), None)
    return "" if reading is None else _read(reading)


def _read(reading: JudgedReading) -> GridCell:
    """A reading in its cell; what fails is marked."""
    fails = reading.verdict == "fail"
    text = reading.shown.replace("✓", "right").replace("✗", "not right").replace("LIM", "beyond range")
    return GridCell(
        text=text, bold=True, colour=style.OF_VERDICT["fail"] if fails else style.INK, mark="fail" if fails else None
    )


def _or_hint(data: ReportData, test: str, hint: str) -> GridCell:
    """A reading, or while there is none the designed value, small, where it is written."""
    reading = data.readings.get(test)
    return _hint(hint) if reading is None else _read(reading)


def _expected_text(value: float | None, unit: str) -> str:
    return "not known" if value is None else f"{shown_up(value)} {unit}"


def results_of_board(data: ReportData, board: Board) -> Iterator[Flowable]:
    """The tests of a board, dead and live: each reading, or what it should be while there is none."""
    expected = [readings for readings in data.expected if readings.board == board.id]
    insulation = or_none(lambda: data.network.rules.papers.insulation)
    least = f"≥ {insulation.least_mohm:g} MΩ" if insulation else "?"
    volts = f"{insulation.volts:g} V" if insulation else "? V"
    rings = any(readings.ring for readings in expected)
    zs = data.network.rules.vocabulary.get("earth_loop", "Zs")
    yield Heading(f"{board.name}: dead tests", level=0)
    dead = [
        Column(head="Way", share=0.4, align="right", bold=True),
        Column(head="Circuit", share=2.0, bold=True),
        Column(head="Device", share=1.2, size_pt=style.SMALL_PT),
    ]
    dead += [Column(head="R1+R2, Ω", share=1.2)]
    if rings:
        dead += [Column(head=f"Ring end to end {name} [Ω]", share=1.0) for name in ("r1", "rn", "r2")]
    dead += [
        Column(head=f"Insulation {volts}: live–live", share=1.2),
        Column(head="live–earth", share=1.2),
        Column(head="Polarity", share=0.9),
    ]
    yield Grid(dead, [_dead_row(data, readings, rings, least) for readings in expected], lined=True)
    yield soft(
        "Small numbers: expected reading at 20 °C. Investigate readings that differ by more than about 10 %, and rings whose ends differ, before continuing (common practice, no source). ? : design input missing."
    )
    yield from _missing(expected)
    yield from turned(wide=True)
    yield Heading(f"{board.name}: live tests", level=0)
    multiples = rcd_multiples(data.network)
    live = [
        Column(head="Way", share=0.4, align="right", bold=True),
        Column(head="Circuit", share=2.0, bold=True),
        Column(head=f"{zs} expected [Ω]", share=1.0),
        Column(head="maximum [Ω]", share=1.2),
        Column(head=f"{zs} reading [Ω]", share=1.2),
        Column(head="RCD", share=1.5, size_pt=style.SMALL_PT),
        *_times(multiples),
        Column(head="Test button", share=0.8),
    ]
    fault = expected[0].fault_ka if expected else None
    yield Text(
        f"Maximum prospective fault current at this board: {_expected_text(fault, 'kA')} by design; reading ……………………… kA",
        after=5,
    )
    rows = [row for readings in expected for row in _live_rows(data, readings, len(multiples))]
    yield Grid(live, rows, lined=True)
    share = or_none(lambda: data.network.rules.papers.cold_share)
    if share is not None:
        yield soft(data.say("documents.tests.loop_note", share=Shown(f"{share.value:.3g}"), source=cited(share.source)))
    else:
        yield soft("This standard gives no limit for a cold loop reading; values shown are for the warm loop.")
    source = next((rcd.source for readings in expected for rcd in readings.rcds if rcd.source), None)
    if source:
        yield soft(f"RCD times: {cited(source)}.")


def _missing(expected: list[ExpectedReadings]) -> Iterator[Flowable]:
    lacks = [f"{readings.name}: {'; '.join(map(str, readings.missing))}" for readings in expected if readings.missing]
    if lacks:
        yield Boxed(
            "Design inputs missing, so no reading can be judged",
            lacks,
            style.OF_VERDICT["missing"],
        )


def _hint(text: str) -> GridCell:
    """A designed value, small, in the cell where the reading is written."""
    return GridCell(text=text, colour=style.SOFT, size_pt=_HINT)


def _dead_row(data: ReportData, readings: ExpectedReadings, rings: bool, least: str) -> Row:
    circuit = data.network.tree.circuits[readings.circuit]
    cells: list[str | GridCell] = [
        str(readings.way),
        readings.name,
        device_short(circuit),
        _or_hint(data, f"{'x_le' if readings.ring else 'r1r2'}:circuit:{circuit.id}", readings.shown_r1r2()),
    ]
    if rings:
        ends = (readings.ring.line_ohm, readings.ring.neutral_ohm, readings.ring.cpc_ohm) if readings.ring else ()
        named = zip(("r1_end", "rn_end", "r2_end"), ends, strict=False)
        cells += [_or_hint(data, f"{name}:circuit:{circuit.id}", shown_up(end)) for name, end in named] or [
            GridCell(text="–", colour=style.SOFT)
        ] * 3
    seen = {"ir_ln": least, "ir_le": least, "pol": "right"}
    return Row(
        [*cells, *(_or_hint(data, f"{test}:circuit:{circuit.id}", hint) for test, hint in seen.items())], tall_pt=_TALL
    )


def _live_rows(data: ReportData, readings: ExpectedReadings, times: int) -> Iterator[Row]:
    finding = next((finding for finding in data.by_subject[readings.circuit] if finding.check == "disconnection"), None)
    most = readings.shown_most()
    if readings.zs_by_rcd:
        most += " by RCD"
    elif judged_by_sum(readings, finding):
        most += ", or by calculation"
    loop = _reads(data, f"zs:circuit:{readings.circuit}")
    first = [str(readings.way), readings.name, readings.shown_zs(), most, loop]
    for number, rcd in enumerate(readings.rcds or (None,)):
        head = first if number == 0 else ["", "", "", "", ""]
        button = _reads(data, f"rcd_button:rcd:{readings.circuit}") if number == 0 else ""
        yield Row([*head, *_rcd_cells(data, readings, rcd, times), button or _arc(readings, number)], tall_pt=_TALL)


def _times(multiples: tuple[float, ...]) -> Iterator[Column]:
    """Two columns for each multiple of IΔn that is tested: the longest time, and what was read."""
    for many in multiples:
        yield Column(head=f"× {many:g}: at most, ms", share=0.9)
        yield Column(head=f"× {many:g} reads, ms", share=1.1)


def _rcd_cells(data: ReportData, readings: ExpectedReadings, rcd: RcdTest | None, times: int) -> list[str | GridCell]:
    """An RCD's rating, and for each of its times the longest, and the reading of the circuit's own device or an empty cell for it."""
    if rcd is None:
        return ["none", *["–"] * (2 * times)]
    most = [shown_down(ms) if ms is not None else "–" for ms in rcd.most_ms]
    own = {1.0: "rcd_1", 5.0: "rcd_5"}
    cells: list[str | GridCell] = [f"{rcd.idn_ma:g} mA {rcd.type}, {rcd.where}"]
    for many, item in zip(rcd_multiples(data.network), most, strict=True):
        test = f"{own.get(many, '')}:rcd:{readings.circuit}"
        cells += [item, _reads(data, test) if readings.rcds[0] is rcd else ""]
    return cells


def _arc(readings: ExpectedReadings, number: int) -> str:
    return "RCD, arc" if readings.arc_fault and number == 0 else "RCD" if readings.rcds else "–"


def _closing(data: ReportData) -> Iterator[Flowable]:
    papers = data.network.rules.papers
    yield Heading("Signature and method", level=0)
    yield Heading("Polarity")
    polarity = or_none(lambda: papers.polarity)
    if polarity:
        yield from bullets([f"{polarity.text} ({cited(polarity.source)})"])
    ring = or_none(lambda: papers.ring_test)
    if ring is not None and any(readings.ring for readings in data.expected):
        yield Heading("Rings")
        yield from bullets([f"{ring.text} ({cited(ring.source)})"])
    insulation = or_none(lambda: papers.insulation)
    if insulation:
        yield Heading("Insulation")
        yield from bullets(
            [f"{insulation.volts:g} V d.c., at least {insulation.least_mohm:g} MΩ ({cited(insulation.source)})"]
        )
    yield from _to_look_at(data)
    yield from papers_due(data)
    yield Heading("Tested by")
    yield from _testers(data)
    yield Blank(["Name", "Instruments (make, serial number, calibrated on)", "Date", "Signature"])


def _to_look_at(data: ReportData) -> Iterator[Flowable]:
    """Readings that fail, are unclear, or disagree with the design or with each other; tests left out, with the reason."""
    lines = []
    for reading in data.readings.values():
        said = (
            [str(reading.sentence)] if reading.verdict in ("fail", "missing", "advice") or reading.shown == "–" else []
        )
        said += [str(reading.agreement_text)] if reading.agreement in ("below", "above") else []
        said += [str(one.text) for one in reading.comparisons if one.agreement in ("below", "above")]
        if said:
            lines.append(f"{reading.name}, {reading.title}: {reading.shown}. {'. '.join(said)}.")
    if lines:
        yield Heading("Readings to look at")
        yield from bullets(lines)


def _testers(data: ReportData) -> Iterator[Flowable]:
    """Who has read, when, and with which instruments, as the readings say."""
    readings, testing = data.job.testing.readings, data.job.testing
    names = ", ".join(dict.fromkeys(reading.by for reading in readings if reading.by))
    days = sorted({reading.at[:10] for reading in readings if reading.at})
    lines = []
    if names:
        lines.append(("Read by", names))
    if days:
        lines.append(("On", days[0] if len(days) == 1 else f"{days[0]} to {days[-1]}"))
    for each in testing.instruments:
        parts = [
            each.name,
            each.serial and f"no. {each.serial}",
            each.calibrated_on and f"calibrated {each.calibrated_on}",
        ]
        lines.append(("Instrument", ", ".join(part for part in parts if part)))
    if lines:
        yield facts(lines)
