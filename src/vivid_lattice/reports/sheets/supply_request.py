"""The request sheet for the distributor: the supply as it is, the demand, what is requested, and what must be done first by dates."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.design.larger_supply import Upgrade, larger_supply
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import shown_up
from vivid_lattice.reports.grid import Column, Grid, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Blank, Heading, PdfDocument, Spacer, Text, facts, paper, soft
from vivid_lattice.reports.sheets.parts import NOT_SAID, cautions_of, head_of

#: Loads that a distributor asks after by name, and sources.
_NAMED = frozenset({"charger", "air-conditioner", "shower", "welder", "kiln", "motor"})


def make(data: ReportData) -> PdfDocument:
    """The sheet; to be filled in by hand where the present supply is enough and none is requested."""
    return paper(data, data.say("documents.kind.request.title"), list(_story(data, larger_supply(data.job))))


def _story(data: ReportData, upgrade: Upgrade | None) -> Iterator[Flowable]:
    yield from head_of(data, data.say("documents.kind.request.title"))
    yield Heading(data.say("documents.request.wanted"))
    request = data.job.supply.request
    yield facts(
        [
            (data.say("documents.request.rating"), f"{upgrade.wanted_a:g} A" if upgrade else NOT_SAID),
            (data.say("documents.request.phases"), str(upgrade.phases if upgrade else data.job.supply.phases)),
            (data.say("documents.request.by"), (request.wanted_by if request else None) or NOT_SAID),
            (data.say("documents.request.demand"), _demand(data)),
        ]
    )
    if request is not None and request.note:
        yield Text(request.note, after=4)
    yield from _present(data)
    yield from _large_loads(data)
    if upgrade is not None:
        yield from _steps(data, upgrade)
    yield Heading(data.say("documents.request.signature"))
    yield Blank([data.say("documents.request.client"), data.say("documents.request.electrician")])
    yield Spacer(1, 8)
    yield cautions_of(data)


def _demand(data: ReportData) -> str:
    demand = or_none(data.network.drops.whole_demand)
    return NOT_SAID if demand is None else f"{shown_up(demand.current_a)} A"


def _present(data: ReportData) -> Iterator[Flowable]:
    supply, devices = data.job.supply, data.network.rules.devices
    cutout = (
        f"{supply.cutout.rating_a:g} A {devices.kind(supply.cutout.kind).title.lower()}" if supply.cutout else NOT_SAID
    )
    size = data.network.rules.cables.size_label
    looped = {True: "documents.request.yes", False: "documents.request.no", None: "documents.request.unknown"}[
        supply.looped
    ]
    rows = [
        (data.say("documents.request.system"), f"{supply.system}, {supply.phases} x {supply.nominal_v:g} V"),
        (data.say("documents.report.cut_out"), cutout),
        (data.say("documents.report.tails"), size(supply.tails.area_mm2) if supply.tails else NOT_SAID),
        (data.say("documents.request.meter"), f"{supply.meter_a:g} A" if supply.meter_a else NOT_SAID),
    ]
    if data.network.rules.looped_services:
        rows.append((data.say("documents.request.looped"), data.say(looped)))
    yield Heading(data.say("documents.request.present"))
    yield facts(rows)


def _large_loads(data: ReportData) -> Iterator[Flowable]:
    """What a distributor asks after: charging points, heat pumps, other large loads, and sources."""
    rows = []
    for circuit in data.job.circuits:
        for load in circuit.loads:
            if load.kind in _NAMED or (load.power_w or 0.0) >= 3000:
                power = f"{load.power_w * load.items / 1000:g} kW" if load.power_w else NOT_SAID
                managed = data.say("documents.request.managed") if load.at_peak == "managed" else ""
                rows.append(Row([load.name, power, circuit.name, managed], tall_pt=16))
        if circuit.source is not None:
            output = f"{circuit.source.rated_a:g} A" if circuit.source.rated_a else NOT_SAID
            rows.append(Row([circuit.name, output, data.say("documents.request.source"), ""], tall_pt=16))
    if not rows:
        return
    yield Heading(data.say("documents.request.loads"))
    heads = ("load", "power", "circuit", "note")
    yield Grid(
        [
            Column(head=data.say(f"documents.request.head_{head}"), share=share)
            for head, share in zip(heads, (2.0, 0.8, 1.6, 1.2), strict=True)
        ],
        rows,
    )


def _steps(data: ReportData, upgrade: Upgrade) -> Iterator[Flowable]:
    status = {each.id: each for each in data.job.supply.prerequisites}
    rows = []
    for step in upgrade.prerequisites:
        dated = status.get(step.id)
        done = step.met or (dated is not None and dated.done)
        word = data.say("documents.request.done" if done else "documents.request.open")
        rows.append(Row([str(step.what), str(step.who), (dated.due_on if dated else None) or "", word], tall_pt=20))
    yield Heading(data.say("documents.request.steps"))
    heads = (("step", 2.6), ("who", 1.3), ("date", 0.9), ("state", 0.7))
    yield Grid([Column(head=data.say(f"documents.request.head_{head}"), share=share) for head, share in heads], rows)
    yield soft(data.say("documents.request.owner"))
