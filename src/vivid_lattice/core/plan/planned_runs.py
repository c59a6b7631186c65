"""The plan in the runs of the circuits: how long each part is, where it lies, what it lies beside and under."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Literal

from vivid_lattice.core.document.job import Job, Section
from vivid_lattice.core.document.plan import WallKind
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.plan.house_plan import HousePlan, house_plan
from vivid_lattice.core.plan.routes.company import SHORT_M, LaidLeg
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.rules.protocol import RuleSet

#: The part of a run that tells how a branch lies, where that is worse than the way to the furthest point [m].
BRANCH_M = 0.01
#: What a part of a run is concealed in, by where it lies.
Concealed = Literal["no", "wall", "metal-partition", "floor-or-ceiling"]
_CONCEALED: Mapping[str, Concealed] = {"surface": "no", "ceiling": "floor-or-ceiling", "loft": "floor-or-ceiling", "floor": "floor-or-ceiling"}  # fmt: skip


def with_planned_runs(job: Job, rules: RuleSet) -> Job:
    """The job with its plan in the runs of its circuits: to the furthest point, or all round a ring, part by part. What is not on the plan
    stays as it is; so does what the plan does not know: ambient temperature, depth in the wall, insulation and metal around it, and a
    method of installation where the plan does not state what decides it, or one that is none of those it tells apart."""
    planned = _with_runs(job, rules)
    # Which circuits carry too little to be counted depends on their methods: where the plan changed one, they are counted again.
    return planned if _methods(planned) == _methods(job) else _with_runs(planned, rules)


def _with_runs(job: Job, rules: RuleSet) -> Job:
    runs = planned_runs(job, rules, house_plan(job, rules))
    circuits = tuple(
        circuit.model_copy(update={"run": runs[circuit.id]}) if circuit.id in runs else circuit
        for circuit in job.circuits
    )
    return job if circuits == job.circuits else job.model_copy(update={"circuits": circuits})


def _methods(job: Job) -> list[frozenset[str]]:
    return [frozenset(section.method for section in circuit.run) for circuit in job.circuits]


def planned_runs(job: Job, rules: RuleSet, plan: HousePlan) -> dict[str, tuple[Section, ...]]:
    """The run of each circuit of a plan, part by part."""
    house = House(job.plan, rules.plan)
    return {each.circuit.id: _Run(each, house, rules).sections(plan) for each in plan.circuits}


class _Run:
    """The run of a circuit: parts that are laid the same way are one; what is left at cable ends is shared out by length.

    Equation  sum of the parts = the length of the pieces to the furthest point
    """

    def __init__(self, circuit: CircuitPlan, house: House, rules: RuleSet):
        self._circuit, self._house, self._rules = circuit, house, rules
        self._stated = circuit.circuit.run

    def sections(self, plan: HousePlan) -> tuple[Section, ...]:
        """Its parts, in the order in which each begins. How a branch lies counts too, though the length is that of the way to the furthest
        point: where no part of that way lies as badly, a centimetre tells of it."""
        laid = plan.laying.circuits[self._circuit.circuit.id]
        parts = _without_short(self._lengths(laid.way))
        if not parts:
            return (self._stated[0].model_copy(update={"length_m": self._circuit.length_m}),)
        branches = _not_covered(self._lengths(laid.branches), parts)
        on_way = tuple(_in_cm(parts, self._circuit.length_m - BRANCH_M * len(branches)))
        return (*on_way, *(section.model_copy(update={"length_m": BRANCH_M}) for section in branches))

    def _lengths(self, legs: Sequence[LaidLeg]) -> dict[Section, float]:
        """How much lies each way [m]."""
        parts: dict[Section, float] = {}
        for laid in legs:
            for section, share in self._parts(laid):
                parts[section] = parts.get(section, 0.0) + laid.leg.length_m * share
        return parts

    def _parts(self, laid: LaidLeg) -> Iterator[tuple[Section, float]]:
        """A part of the route by what was stated: of parts that were concealed in the same, else of all, by their lengths."""
        leg = laid.leg
        kind = self._wall_kind(leg)
        concealed = _concealed(leg, kind)
        stated = [each for each in self._stated if (each.length_m or 1.0) > BRANCH_M] or list(self._stated)
        like = [each for each in stated if each.concealed_in == concealed] or stated
        whole = sum(each.length_m or 0.0 for each in like)
        for before in like:
            share = (before.length_m or 0.0) / whole if whole > 0 else 1 / len(like)
            yield self._section(before, laid, kind, concealed), share

    def _section(self, before: Section, laid: LaidLeg, kind: WallKind | None, concealed: Concealed | None) -> Section:
        leg, rules = laid.leg, self._rules.plan
        lies_in = kind if leg.lies_in == "wall" else leg.lies_in
        known = None if lies_in is None else rules.method_of(lies_in, insulation_mm(leg, self._house))
        keep = known is None or before.in_insulation_mm is not None or before.method not in rules.methods_told_apart
        own = before.concealed_in if leg.lies_in == "outside" else concealed
        return before.model_copy(
            update={
                "length_m": None,
                "method": before.method if keep or known is None else known.method,
                "circuits_grouped": laid.together,
                "concealed_in": own,
                "depth_mm": self._depth_mm() if own == "wall" else None,
            }
        )

    def _wall_kind(self, leg: Leg) -> WallKind | None:
        return self._house.rooms[leg.face[0]].wall_kind if leg.lies_in == "wall" and leg.face is not None else None

    def _depth_mm(self) -> float | None:
        """How deep cables lie in walls [mm], as it was stated: the least."""
        depths = [each.depth_mm for each in self._stated if each.concealed_in in ("wall", None)]
        return min((depth for depth in depths if depth is not None), default=None)


def insulation_mm(leg: Leg, house: House) -> float | None:
    """Insulation over a part of a route [mm]: none inside the house, what the floor states under a roof; None: not stated."""
    if leg.lies_in not in ("ceiling", "loft"):
        return 0.0
    floor = house.floor(leg.level)
    middle = ((leg.a[0] + leg.b[0]) / 2, (leg.a[1] + leg.b[1]) / 2)
    inside = floor.above == "floor" or (floor.above is None and house.has_room_at(leg.level + 1, middle))
    return 0.0 if inside else floor.insulation_mm


def _concealed(leg: Leg, kind: WallKind | None) -> Concealed | None:
    if leg.lies_in == "wall":
        return "metal-partition" if kind == "metal-stud" else "wall"
    return _CONCEALED.get(leg.lies_in)


def _without_short(parts: Mapping[Section, float]) -> dict[Section, float]:
    """Parts with those that are short in the part that differs by its grouping only and is grouped the most."""
    kept = dict(parts)
    for section, length in sorted(parts.items(), key=lambda each: each[0].circuits_grouped):
        alike = [
            other
            for other in kept
            if other.circuits_grouped > section.circuits_grouped and _alone(other) == _alone(section)
        ]
        if length < SHORT_M and alike:
            kept[max(alike, key=lambda other: other.circuits_grouped)] += kept.pop(section)
    return kept


def _not_covered(branches: Mapping[Section, float], way: Iterable[Section]) -> list[Section]:
    """How branches lie where the way lies nowhere so, with as many together: the most grouped of those that differ by that alone."""
    most: dict[Section, int] = {}
    for section in way:
        alone = _alone(section)
        most[alone] = max(most.get(alone, 0), section.circuits_grouped)
    worse: dict[Section, Section] = {}
    for section in branches:
        alone = _alone(section)
        if section.circuits_grouped > most.get(alone, 0):
            most[alone] = section.circuits_grouped
            worse[alone] = section
    return list(worse.values())


def is_branch(section: Section) -> bool:
    """Whether a part of a planned run tells how a branch lies."""
    return section.length_m == BRANCH_M


def _alone(section: Section) -> Section:
    return section.model_copy(update={"circuits_grouped": 1})


def _in_cm(parts: Mapping[Section, float], length_m: float) -> Iterator[Section]:
    """Parts with their lengths, to the centimetre: together the length of the cable, exactly."""
    whole, left = sum(parts.values()), round(length_m * 100)
    ends = list(itertools.accumulate(parts.values()))
    for section, end in zip(parts, ends, strict=True):
        cm = left - round(length_m * 100 * (1 - end / whole))
        left -= cm
        if cm > 0:
            yield section.model_copy(update={"length_m": cm / 100})
