"""A cut-out that is not enough: what must be in place before the distributor grants a larger one, in the order of the work."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.checks import demand
from vivid_lattice.core.design.demand_ways import demand_options
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Cable, Job
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import DemandOption
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown


@dataclass(frozen=True, slots=True, kw_only=True)
class Prerequisite:
    """Something that must be done before a larger service is granted: what, why, who does it, and whether the job already
    has it."""

    id: str
    what: Text
    reason: Text
    who: Text
    met: bool


@dataclass(frozen=True, slots=True)
class Upgrade:
    """A larger supply: the ways to do without it in order, the service rating that carries the demand or is requested, its phases, and what
    must be in place before that."""

    wanted_a: float
    phases: int
    demand_a: float
    ways: tuple[DemandOption, ...]
    prerequisites: tuple[Prerequisite, ...]


def larger_supply(job: Job) -> Upgrade | None:
    """What a larger service requires: the one that is requested, else the next that carries the demand. None where none is requested and the
    present one is enough, or nothing can be said of it yet."""
    rules, cutout = rule_set(job.job.rules), job.supply.cutout
    request, phases = job.supply.request, job.supply.phases
    if request is not None:
        wanted_phases = request.phases or phases
        steps = _steps(job, rules, request.rating_a, wanted_phases)
        return Upgrade(request.rating_a, wanted_phases, _demand_a(job, rules), demand_options(job), steps)
    if cutout is None or not job.circuits:
        return None
    try:
        finding = demand.check(SupplyContext(Installation.of(job, rules), explain=False))
    except NeedsInput:
        return None
    if finding.value is None or finding.value <= cutout.rating_a:
        return None
    drawn, ways = finding.value, demand_options(job)
    ratings = rules.devices.kind(cutout.kind).ratings_a
    wanted = next((rating for rating in ratings if rating >= drawn), None)
    if wanted is None:
        return Upgrade(drawn, phases, drawn, ways, _beyond_any(job, rules, cutout, drawn))
    return Upgrade(wanted, phases, drawn, ways, _steps(job, rules, wanted, phases))


def _demand_a(job: Job, rules: RuleSet) -> float:
    """Maximum demand of the job in its worst line [A]; 0 while it is not known."""
    demand_ = or_none(lambda: Installation.of(job, rules).drops.whole_demand())
    return demand_.current_a if demand_ is not None else 0.0


def _steps(job: Job, rules: RuleSet, wanted_a: float, phases: int) -> tuple[Prerequisite, ...]:
    tails, size = job.supply.tails, _tails_for(rules, wanted_a, 3 if phases == 3 else 2)
    first = next((board for board in job.boards if is_origin(board.fed_by)), None)
    switch = first.main_switch.rating_a if first and first.main_switch else None
    prerequisites = [
        Prerequisite(
            id="tails",
            what=message(rules.words, "core.supply_upgrade.tails", size=rules.cables.size_label(size))
            if size
            else message(rules.words, "core.supply_upgrade.tails_larger"),
            reason=message(rules.words, "core.supply_upgrade.tails_why", a=Shown(f"{wanted_a:g}")),
            who=message(rules.words, "core.supply_upgrade.electrician"),
            met=bool(tails and size and tails.area_mm2 >= size),
        ),
        Prerequisite(
            id="switch",
            what=message(rules.words, "core.supply_upgrade.main", a=Shown(f"{wanted_a:g}")),
            reason=message(rules.words, "core.supply_upgrade.main_why"),
            who=message(rules.words, "core.supply_upgrade.electrician"),
            met=bool(switch and switch >= wanted_a),
        ),
    ]
    if size:
        least = rules.earthing.earthing_mm2(size, False)
        there_is = job.supply.earthing.conductor_mm2 if job.supply.earthing else None
        met = bool(there_is and there_is >= least.value)
        why = message(rules.words, "core.supply_upgrade.earthing_why")
        prerequisites.append(
            Prerequisite(
                id="earthing",
                what=message(rules.words, "core.supply_upgrade.earthing", size=rules.cables.size_label(least.value)),
                reason=why,
                who=message(rules.words, "core.supply_upgrade.electrician"),
                met=met,
            )
        )
    return (
        *prerequisites,
        *_service_steps(job, rules, wanted_a, phases),
        Prerequisite(
            id="isolator",
            what=message(rules.words, "core.supply_upgrade.isolator"),
            reason=message(rules.words, "core.supply_upgrade.isolator_why"),
            who=message(rules.words, "core.supply_upgrade.isolator_who"),
            met=False,
        ),
        Prerequisite(
            id="application",
            what=message(rules.words, "core.supply_upgrade.apply", a=Shown(f"{wanted_a:g}")),
            reason=message(rules.words, "core.supply_upgrade.apply_why"),
            who=message(rules.words, "core.supply_upgrade.apply_who"),
            met=False,
        ),
        Prerequisite(
            id="visit",
            what=message(rules.words, "core.supply_upgrade.visit"),
            reason=message(rules.words, "core.supply_upgrade.visit_why"),
            who=message(rules.words, "core.supply_upgrade.distributor"),
            met=False,
        ),
    )


def _service_steps(job: Job, rules: RuleSet, wanted_a: float, phases: int) -> Iterator[Prerequisite]:
    """What lies ahead of the tails: a service that is looped to a neighbour, the meter, and another number of phases."""
    supply = job.supply
    if rules.looped_services:
        key = "loop" if supply.looped else "loop_unknown"
        yield Prerequisite(
            id="loop",
            what=message(rules.words, f"core.supply_upgrade.{key}"),
            reason=message(rules.words, "core.supply_upgrade.loop_why"),
            who=message(
                rules.words, "core.supply_upgrade.distributor" if supply.looped else "core.supply_upgrade.electrician"
            ),
            met=supply.looped is False,
        )
    if rules.meter_rating_counts:
        yield Prerequisite(
            id="meter",
            what=message(rules.words, "core.supply_upgrade.meter", a=Shown(f"{wanted_a:g}")),
            reason=message(rules.words, "core.supply_upgrade.meter_why"),
            who=message(rules.words, "core.supply_upgrade.meter_who"),
            met=supply.meter_a is not None and supply.meter_a >= wanted_a and phases == supply.phases,
        )
    if phases != supply.phases:
        yield Prerequisite(
            id="phases",
            what=message(rules.words, "core.supply_upgrade.phases", n=phases),
            reason=message(rules.words, "core.supply_upgrade.phases_why"),
            who=message(rules.words, "core.supply_upgrade.electrician"),
            met=False,
        )


def _tails_for(rules: RuleSet, current_a: float, loaded: int) -> float | None:
    """The smallest tails that carry a current as they are usually laid [mm²]; None past the table's end."""
    for area in rules.cables.kind(rules.tails_cable).sizes_mm2:
        cable = Cable(type=rules.tails_cable, area_mm2=area, cpc="separate")
        try:
            if rules.cables.capacity_a(cable, rules.tails_method, loaded).value >= current_a:
                return area
        except NeedsInput:
            continue
    return None


def _beyond_any(job: Job, rules: RuleSet, cutout: CutOut, drawn_a: float) -> tuple[Prerequisite, ...]:
    """What it takes where the demand is more than any cut-out of the kind carries."""
    more = "three_phase" if job.supply.phases == 1 and 3 in rules.supplies else "larger"
    why = message(
        rules.words,
        "core.supply_upgrade.too_large",
        a=Shown(f"{drawn_a:.0f}"),
        device=rules.devices.kind(cutout.kind).title,
    )
    return (
        Prerequisite(
            id="load",
            what=message(rules.words, "core.supply_upgrade.reduce"),
            reason=why,
            who=message(rules.words, "core.supply_upgrade.reduce_who"),
            met=False,
        ),
        Prerequisite(
            id="service",
            what=message(rules.words, f"core.supply_upgrade.ask.{more}"),
            reason=why,
            who=message(rules.words, "core.supply_upgrade.distributor"),
            met=False,
        ),
    )
