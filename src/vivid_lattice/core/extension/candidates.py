"""Where one more point could be joined: every circuit that takes such a point, the nearest box first where the job has a plan."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.plan import PlanPoint, Wall
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.extension_rules import Found
from vivid_lattice.core.rules.protocol import RuleSet

#: What each kind of point is joined to.
_HOSTS = {
    "socket": ("socket",), "double-socket": ("socket",), "light": ("lamp",), "fixed": ("socket", "lamp", "appliance"),
}  # fmt: skip
#: Left at both ends of the new cable [m].
_BOTH_ENDS_M = 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Where the new point is to be: on a wall of a room, at a height [m]."""

    room: str
    wall: Wall
    along_m: float
    height_m: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """A box of a circuit. ``box``: a point of the plan, '' where the job has none; ``found``: what the drawing says is there, to be proven on
    site; ``length_m``: of the new cable, with what is left at its ends, None: not known."""

    circuit: str
    name: str
    box: str
    box_name: str
    found: Found
    length_m: float | None


def candidates(job: Job, kind: str, place: Place | None = None) -> tuple[Candidate, ...]:
    """Boxes that could take a point of a kind, the nearest first; of circuits that are not on the plan one each."""
    rules = rule_set(job.job.rules)
    hosts = [circuit for circuit in job.circuits if _takes(circuit, kind)]
    planned = {each.circuit.id: each for each in house_plan(job, rules).circuits} if job.plan.points else {}
    found: list[Candidate] = []
    for circuit in hosts:
        plan = planned.get(circuit.id)
        found += list(_boxes(job, plan, place, rules)) if plan is not None else [_alone(circuit)]
    return tuple(sorted(found, key=lambda each: (each.length_m is None, each.length_m or 0.0)))


def _takes(circuit: Circuit, kind: str) -> bool:
    return circuit.kind != "distribution" and any(load.kind in _HOSTS[kind] for load in circuit.loads)


def _alone(circuit: Circuit) -> Candidate:
    found: Found = "ring" if circuit.kind == "ring" else "radial-end"
    return Candidate(circuit=circuit.id, name=circuit.name, box="", box_name="", found=found, length_m=None)


def _boxes(job: Job, plan: CircuitPlan, place: Place | None, rules: RuleSet) -> Iterator[Candidate]:
    """Every point of a circuit on the plan, by how many cables meet there."""
    cables = Counter(end for section in plan.sections for end in (section.a, section.b))
    points = {point.id: point for point in job.plan.points}
    house = House(job.plan, rules.plan)
    for box in plan.joints:
        point = points.get(box)
        if point is None or box == FEED or point.kind in ("switch", "pull-cord", "dimmer", "sensor"):
            continue
        found: Found = (
            "ring" if plan.shape == "ring" else "radial-end" if cables[box] <= 1 else "radial-middle"
        )  # fmt: skip
        yield Candidate(
            circuit=plan.circuit.id, name=plan.circuit.name, box=box, box_name=point.name, found=found,
            length_m=None if place is None else _length_m(plan, house, point, place),
        )  # fmt: skip


def _length_m(plan: CircuitPlan, house: House, point: PlanPoint, place: Place) -> float | None:
    """The new cable from a box to the place, by the way of the circuit."""
    shape = house.rooms.get(place.room)
    if shape is None:
        return None
    new = PlanPoint(
        id="new-point", kind="socket", name="New", room=place.room, wall=place.wall, along_m=place.along_m,
        height_m=place.height_m,
    )  # fmt: skip
    route = plan.ways.by_default.between(house.spot_of(point), house.spot_of(new))
    return round(route + _BOTH_ENDS_M, 2)
