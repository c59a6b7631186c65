"""What certificate and report have in common: who it is for, what it covers, what was found, who signs, and the schedule of results."""

from __future__ import annotations

import io
from collections.abc import Iterator

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, KeepTogether

from vivid_lattice.core.assessment.signatures import signed_states
from vivid_lattice.core.document.inspection import SignedFor
from vivid_lattice.core.inspection.observations import CodedObservation, coded_observations
from vivid_lattice.core.inspection.sign_off import OpenItem, open_items
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.testing.test_plan import TestPlan, plan_of
from vivid_lattice.core.text import shown_up
from vivid_lattice.core.units import ka_from_a
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Blank, Boxed, Heading, Spacer, Text, bullets, facts, soft, turned
from vivid_lattice.reports.sheets import testing_sheets
from vivid_lattice.reports.sheets.parts import NOT_SAID

#: How many open items are printed one by one.
_OPEN_MOST = 12


def open_of(data: ReportData) -> tuple[OpenItem, ...]:
    """What is left to settle before the job is closed."""
    return open_items(data.network, plan_of(data.network), tuple(data.readings.values()))


def not_closed(data: ReportData) -> Iterator[Flowable]:
    """A box that says that the sheet is no certificate yet, and why; nothing where the job is signed and unchanged."""
    items = open_of(data)
    signed = [state for state in signed_states(data.job) if state.signature.role == "inspection"]
    if signed and signed[0].unchanged and not items:
        return
    lines = [str(item.text) for item in items[:_OPEN_MOST]]
    if len(items) > _OPEN_MOST:
        lines.append(data.say("documents.inspection.more_open", n=len(items) - _OPEN_MOST))
    if signed and not signed[0].unchanged:
        lines.insert(0, data.say("documents.inspection.changed"))
    if not signed:
        lines.append(data.say("documents.inspection.unsigned"))
    yield Boxed(data.say("documents.inspection.draft"), lines, style.OF_VERDICT["missing"])
    yield Spacer(1, 6)


def supply_particulars(data: ReportData) -> Iterator[Flowable]:
    """The supply as it is stated, and as it was measured."""
    supply, size = data.job.supply, data.network.rules.cables.size_label
    read = {test: reading.shown for test, reading in data.readings.items()}
    fault = or_none(lambda: ka_from_a(data.network.loops.origin_fault_a()))
    earthing = supply.earthing
    conductor = size(earthing.conductor_mm2) if earthing and earthing.conductor_mm2 else NOT_SAID
    bonds = ", ".join(
        f"{bond.name} {size(bond.area_mm2) if bond.area_mm2 else NOT_SAID}"
        for bond in (earthing.bonds if earthing else ())
    )
    cutout = (
        f"{supply.cutout.rating_a:g} A {data.network.rules.devices.kind(supply.cutout.kind).title.lower()}"
        if supply.cutout
        else NOT_SAID
    )
    currents = [reading.shown for test, reading in data.readings.items() if test.startswith("pfc_")]
    yield Heading(data.say("documents.inspection.supply"))
    yield facts(
        [
            (
                data.say("documents.inspection.system"),
                f"{supply.system}, {data.say('documents.inspection.phases', n=supply.phases)}",
            ),
            (
                data.say("documents.inspection.voltage"),
                read.get("u_ln:supply:supply", f"{supply.nominal_v:g} V {data.say('documents.inspection.nominal')}"),
            ),
            (
                data.say("documents.inspection.ze"),
                read.get("ze:supply:supply") or f"{shown_up(supply.ze_ohm)} Ω, {supply.ze_source or NOT_SAID}"
                if supply.ze_ohm is not None or "ze:supply:supply" in read
                else NOT_SAID,
            ),
            (
                data.say("documents.inspection.fault_current"),
                ", ".join(currents) or (NOT_SAID if fault is None else f"{shown_up(fault)} kA, calculated"),
            ),
            (data.say("documents.inspection.cut_out"), cutout),
            (data.say("documents.report.earthing"), conductor),
            (data.say("documents.report.bonding"), bonds or NOT_SAID),
            (data.say("documents.inspection.electrode"), read.get("ra:electrode:supply", "–")),
        ]
    )


def boards_of(data: ReportData) -> Iterator[Flowable]:
    """Each board: its main switch, its ways, what protects it."""
    rows = []
    for board in data.job.boards:
        main = board.main_switch
        rating = f"{main.rating_a:g} A" if main is not None and main.rating_a else NOT_SAID
        circuits = sum(place.board.id == board.id for place in data.network.tree.places.values())
        surge = data.say("documents.inspection.yes" if board.spds else "documents.inspection.no")
        rows.append(Row([GridCell(text=board.name, bold=True), rating, str(circuits), surge]))
    heads = ("board", "main_switch", "circuits", "surge")
    yield Heading(data.say("documents.inspection.boards"))
    yield Grid(
        [
            Column(head=data.say(f"documents.inspection.{head}"), share=share)
            for head, share in zip(heads, (3, 1, 1, 1), strict=True)
        ],
        rows,
    )


def extent_and_limits(data: ReportData) -> Iterator[Flowable]:
    """What the document covers, and what not."""
    inspection = data.job.inspection
    yield Heading(data.say("documents.inspection.extent"))
    yield Text(inspection.extent or NOT_SAID, after=4)
    if inspection.sample_pct is not None or inspection.sample:
        share = (
            ""
            if inspection.sample_pct is None
            else data.say("documents.inspection.sample_pct", pct=f"{inspection.sample_pct:g}")
        )
        yield Text(" ".join(part for part in (share, inspection.sample) if part), after=4)
    yield Heading(data.say("documents.inspection.limitations"), level=2)
    lines = []
    for limitation in inspection.limitations:
        if not limitation.text.strip():
            continue
        agreed = (
            data.say("documents.inspection.agreed_with", name=limitation.agreed_with)
            if limitation.agreed_with
            else data.say("documents.inspection.on_the_day")
        )
        lines.append(". ".join(part.rstrip(".") for part in (limitation.text, limitation.reason, agreed) if part) + ".")
    left = [
        f"{reading.name}, {reading.title}: {reason}"
        for reading in data.readings.values()
        if reading.shown == "–" and (reason := _reason(data, reading.reading))
    ]
    yield from bullets([*lines, *left] or [data.say("documents.inspection.none")])


def _reason(data: ReportData, reading_id: str) -> str:
    return next((each.reason for each in data.job.testing.readings if each.id == reading_id), "")


def departures_of(data: ReportData) -> Iterator[Flowable]:
    """Where the work departs from the standard on purpose."""
    yield Heading(data.say("documents.inspection.departures"))
    departures = [each for each in data.job.inspection.departures if each.clause.strip() or each.text.strip()]
    if not departures:
        yield Text(data.say("documents.inspection.none"), after=4)
        return
    yield Grid(
        [
            Column(head=data.say("documents.inspection.clause"), share=1, bold=True),
            Column(head=data.say("documents.inspection.departure"), share=2.4),
            Column(head=data.say("documents.inspection.why_safe"), share=2.6),
        ],
        [Row([each.clause, each.text, each.reason or NOT_SAID]) for each in departures],
    )


def observations_of(data: ReportData, title: str) -> Iterator[Flowable]:
    """Every observation with its code, the most serious first, and its photos."""
    observations = coded_observations(data.network)
    yield Heading(title)
    if not observations:
        yield Text(data.say("documents.inspection.no_observations"), after=4)
        return
    rows = [_observation_row(data, number, each) for number, each in enumerate(observations, 1)]
    yield Grid(
        [
            Column(head=data.say("documents.inspection.number"), share=0.3, align="right"),
            Column(head=data.say("documents.inspection.code"), share=0.8, bold=True),
            Column(head=data.say("documents.inspection.where"), share=1.1),
            Column(head=data.say("documents.inspection.observation"), share=3.2),
            Column(head=data.say("documents.inspection.action"), share=1.9, size_pt=style.SMALL_PT),
        ],
        rows,
    )
    for number, each in enumerate(observations, 1):
        for photo in data.photos:
            if photo.board == f"observation:{each.id}":
                picture = Image(io.BytesIO(photo.image))
                picture._restrictSize(100 * mm, 75 * mm)  # type: ignore[attr-defined]  # not in the stubs
                picture.hAlign = "LEFT"
                caption = data.say("documents.inspection.photo_of", n=number, title=each.title, date=photo.at[:10])
                yield KeepTogether([picture, soft(caption, after=8)])


def _observation_row(data: ReportData, number: int, each: CodedObservation) -> Row:
    bad = each.code is None or each.code.unsatisfactory
    code = GridCell(
        text=each.code.code if each.code else data.say("documents.inspection.not_coded"),
        bold=True,
        colour=style.OF_VERDICT["fail"] if bad else style.INK,
    )
    found = ": ".join(str(part).rstrip(".") for part in (each.title, each.text) if str(part))
    said = [part.rstrip(".") for part in (found, each.reason, each.clause) if part]
    done = data.say("documents.inspection.done", what=each.done) if each.done else ""
    action = each.code.action if each.code else ""
    return Row(
        [
            str(number),
            code,
            str(each.where) or data.say("documents.inspection.installation"),
            ". ".join(said) + ".",
            " ".join(part for part in (done, action) if part),
        ]
    )


def declarations(data: ReportData, roles: tuple[SignedFor, ...]) -> Iterator[Flowable]:
    """Who declares what; a line to sign on where no one has signed in the job."""
    signed = {state.signature.role: state for state in signed_states(data.job)}
    yield Heading(data.say("documents.inspection.declarations"))
    for role in roles:
        text = data.say(f"documents.inspection.declare.{role}")
        state = signed.get(role)
        if state is None:
            to_sign = Blank([data.say(f"documents.inspection.{key}") for key in _SIGN])
            yield KeepTogether([Text(text, after=2), to_sign, Spacer(1, 8)])
            continue
        signature = state.signature
        mark = "" if state.unchanged else f" {data.say('documents.inspection.changed')}"
        named = ", ".join(part for part in (signature.by, signature.position) if part)
        line = data.say(
            "documents.inspection.signed", name=named, at=signature.at.replace("T", " "), digest=signature.digest[:12]
        )
        yield KeepTogether([Text(text, after=1), Text(f"{line}{mark}", after=6)])
    due = data.job.testing.next_inspection
    yield Text(data.say("documents.inspection.next", date=due or NOT_SAID), after=4)


_SIGN = ("name", "position", "date", "signature")


def results_of(data: ReportData) -> Iterator[Flowable]:
    """How many of the required tests are done, then the schedule of results, board by board."""
    plan: TestPlan = plan_of(data.network)
    required = [test for test in plan.tests if not test.optional]
    done = sum(test.id in data.readings for test in required)
    fails = sum(reading.verdict == "fail" for reading in data.readings.values())
    yield Text(data.say("documents.inspection.results", done=done, n=len(required), fails=fails), after=4)


def schedule_of(data: ReportData) -> Iterator[Flowable]:
    """The results, on wide pages."""
    for board in data.job.boards:
        yield from turned(wide=True)
        yield from testing_sheets.results_of_board(data, board)
