"""A cut-out that is not enough: what has to stand before the distributor grants a larger one, in the order of the work."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.checks import demand
from vivid_lattice.core.design.demand_ways import demand_options
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Cable, Job
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import DemandOption
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class Prerequisite:
    """Something that has to be done before a larger service is granted: what, why, who does it, and whether the job already
    has it."""

    id: str
    what: str
    reason: str
    who: str
    met: bool


@dataclass(frozen=True, slots=True)
class Upgrade:
    """A demand over the supply: the ways out in order, the next service rating that carries it, and what has to stand before that."""

    wanted_a: float
    demand_a: float
    ways: tuple[DemandOption, ...]
    prerequisites: tuple[Prerequisite, ...]


def larger_supply(job: Job) -> Upgrade | None:
    """What a larger service asks for; None where the present one is enough, or nothing can be said of it yet."""
    rules, cutout = rule_set(job.job.rules), job.supply.cutout
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
        return Upgrade(drawn, drawn, ways, _beyond_any(job, rules, cutout, drawn))
    return Upgrade(wanted, drawn, ways, _steps(job, rules, wanted))


def _steps(job: Job, rules: RuleSet, wanted_a: float) -> tuple[Prerequisite, ...]:
    tails, size = job.supply.tails, _tails_for(rules, wanted_a, 3 if job.supply.phases == 3 else 2)
    size_text = rules.cables.size_label(size) if size else "larger"
    first = next((board for board in job.boards if is_origin(board.fed_by)), None)
    switch = first.main_switch.rating_a if first and first.main_switch else None
    origin = rules.vocabulary.get("origin", "cut-out")
    prerequisites = [
        Prerequisite(
            id="tails",
            what=f"Tails of {size_text} from meter to board",
            reason=f"They have to carry {wanted_a:g} A before a larger {origin} is granted.",
            who="electrician",
            met=bool(tails and size and tails.area_mm2 >= size),
        ),
        Prerequisite(
            id="switch",
            what=f"A main switch of {wanted_a:g} A or more",
            reason="The whole demand runs through it.",
            who="electrician",
            met=bool(switch and switch >= wanted_a),
        ),
    ]
    if size:
        least = rules.earthing.earthing_mm2(size, False)
        there_is = job.supply.earthing.conductor_mm2 if job.supply.earthing else None
        name = rules.vocabulary.get("earthing_conductor", "earthing conductor")
        met = bool(there_is and there_is >= least.value)
        why = "It goes by the size of the tails."
        prerequisites.append(
            Prerequisite(
                id="earthing",
                what=f"{name[0].upper()}{name[1:]} of {rules.cables.size_label(least.value)}",
                reason=why,
                who="electrician",
                met=met,
            )
        )
    return (
        *prerequisites,
        Prerequisite(
            id="isolator",
            what="An isolator between meter and tails",
            reason="So that the work can be done dead, without a second visit.",
            who="distributor or meter operator",
            met=False,
        ),
        Prerequisite(
            id="application",
            what=f"Apply for {wanted_a:g} A",
            reason="The distributor decides whether the service cable carries it.",
            who="client or electrician",
            met=False,
        ),
        Prerequisite(
            id="visit",
            what=f"The operator's visit to change the {origin}",
            reason="It is the distributor's: nobody else pulls or changes it.",
            who="distributor",
            met=False,
        ),
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
    more = "a three-phase service" if job.supply.phases == 1 and 3 in rules.supplies else "a larger service"
    why = f"{drawn_a:.0f} A is more than any {rules.devices.kind(cutout.kind).title.lower()} here carries."
    return (
        Prerequisite(id="load", what="Less load, or load control", reason=why, who="designer and client", met=False),
        Prerequisite(id="service", what=f"Ask for {more}", reason=why, who="distributor", met=False),
    )
