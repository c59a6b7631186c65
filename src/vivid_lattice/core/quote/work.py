"""The hours of a job: each kind of work counted from the plan and the boards, by labour units that the user can edit."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Cable, Circuit, Job
from vivid_lattice.core.document.plan import PlanPoint
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.fill.conduits_of_plan import is_wires
from vivid_lattice.core.plan.fixing.clips import FixedSection

#: The kind of work that a point is; a switch goes by its plate.
_WORK_OF: Mapping[str, str] = {
    "socket": "socket", "light": "light", "fan": "light", "cooker": "cooker", "shower": "cooker", "alarm": "alarm",
    "connection-unit": "socket", "data": "socket", "shaver": "socket", "heater": "socket", "charger": "outdoor",
    "junction-box": "junction-box",
}  # fmt: skip
_SWITCHES = ("switch", "pull-cord", "dimmer", "sensor")
#: What the load of a circuit that is not on the plan is, by kind.
_LOAD_WORK: Mapping[str, str] = {
    "socket": "socket", "lamp": "light", "cooker": "cooker", "shower": "cooker", "alarm": "alarm",
}  # fmt: skip
#: Sheathed cable above this is harder to lay [mm²].
_LARGE_MM2 = 5.5
#: A board is counted as one of so many ways.
_WAYS_OF_UNIT = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkLine:
    """Hours of a kind of work. ``hours_each``: by the job's labour units, else as usual, times the factor of the job; ``hours``: of all of it."""

    work: str
    title: Text
    quantity: float
    unit: str
    hours_each: float
    hours: float


@dataclass(frozen=True, slots=True)
class LabourRow:
    """A labour unit as usual, and as the job has it."""

    work: str
    title: str
    per: str
    usual_hours: float
    hours: float


def labour_units(network: Installation) -> tuple[LabourRow, ...]:
    """The labour units of a job.

    Source  runs.labour, common practice; the user's own in their place
    """
    own = {unit.work: unit.hours for unit in network.job.quote.labour}
    return tuple(
        LabourRow(work, title, per, hours, own.get(work, hours))
        for work, title, per, hours in network.rules.fixing.labour()
    )


def work_of(network: Installation) -> tuple[WorkLine, ...]:
    """The work of a job, kind by kind, then what was added by hand.

    Equation  hours = quantity · hours of the unit · factor; what was added by hand has no factor
    """
    counting = Counting(network=network)
    quantities = _quantities(counting)
    factor = network.job.quote.factor
    lines = [
        _line(
            unit.work,
            unit.title,
            round(quantities[unit.work], 2),
            "m" if unit.per == "m" else "pcs",
            unit.hours * factor,
        )
        for unit in labour_units(network)
        if quantities[unit.work] > 0
    ]
    lines += [
        _line(f"extra:{number}", extra.name, 1.0, "pcs", extra.hours)
        for number, extra in enumerate(network.job.quote.extra, 1)
    ]
    return tuple(lines)


def _line(work: str, title: Text, quantity: float, unit: str, hours_each: float) -> WorkLine:
    hours = round(quantity * hours_each, 4)
    return WorkLine(work=work, title=title, quantity=quantity, unit=unit, hours_each=hours_each, hours=hours)


def _quantities(counting: Counting) -> Counter[str]:
    job = counting.network.job
    found: Counter[str] = Counter()
    if counting.wired:
        for work, quantity in (*_points(job), *_fixing(counting), *_not_planned(counting)):
            found[work] += quantity  # type: ignore[assignment]
    found["connect"] = len(job.circuits)
    found["test"] = len(job.circuits)
    for board in job.boards:
        found["board"] += max(1, -(-len(board.ways) // _WAYS_OF_UNIT))
    return found


# ------------------------------------------------------------------------------------------ on the plan


def _points(job: Job) -> Iterator[tuple[str, float]]:
    walls = {shape.room: shape.wall_kind for shape in job.plan.rooms}
    controls = {switch: len(group.switches) for group in job.plan.switching for switch in group.switches}
    plates: dict[str, list[PlanPoint]] = {}
    for point in job.plan.points:
        if point.kind in _SWITCHES:
            plates.setdefault(point.plate or point.id, []).append(point)
        else:
            yield _WORK_OF[point.kind], 1.0
        if point.plate is None and point.wall is not None and point.kind != "junction-box":
            wall = walls.get(point.room)
            yield ("box-plasterboard" if wall in ("stud", "stud-insulated", "metal-stud") else "box-masonry"), 1.0
    for points in plates.values():
        plain = len(points) == 1 and controls.get(points[0].id, 1) == 1
        yield ("switch" if plain else "switch-more"), 1.0


def _fixing(counting: Counting) -> Iterator[tuple[str, float]]:
    fixing = counting.fixing
    if fixing is None:
        return
    yield "hole-timber", float(sum(row.count for row in fixing.joists) + sum(row.count for row in fixing.studs))
    yield "chase-masonry", sum(chase.length_m for chase in fixing.chases)
    for section in fixing.sections:
        yield from _laid(section, counting.planned[section.circuit], counting)
    joint_boxes = {name for plan in counting.planned.values() for name in plan.joints if name not in counting.room_of}
    yield "junction-box", float(len(joint_boxes))


def _laid(section: FixedSection, plan: CircuitPlan, counting: Counting) -> Iterator[tuple[str, float]]:
    """Cable by where it lies; single wires with their conduit."""
    [piece] = [each for each in plan.sections if (each.a, each.b) == (section.a, section.b)]
    if is_wires(plan, counting.network.rules):
        yield "conduit", sum(part.length_m for part in section.parts)
        yield "wire", piece.piece_m * len(piece.carries)
        return
    cable = plan.circuit.cable
    large = isinstance(cable, Cable) and cable.area_mm2 > _LARGE_MM2
    route = [part for part in section.parts if part.held == "clipped"]
    clipped = 0.0 if large else sum(part.length_m for part in route)
    yield ("cable-large" if large else "cable-void"), max(0.0, piece.piece_m - clipped)
    yield "cable-clipped", clipped


# ------------------------------------------------------------------------------------------ not on the plan


def _not_planned(counting: Counting) -> Iterator[tuple[str, float]]:
    """Circuits that are not on the plan: their cable by its run, their points by their loads."""
    for circuit in counting.network.job.circuits:
        if circuit.id in counting.planned:
            continue
        yield from _run_of(circuit)
        for load in circuit.loads:
            yield _LOAD_WORK.get(load.kind, "socket"), float(load.count or 1)


def _run_of(circuit: Circuit) -> Iterator[tuple[str, float]]:
    cable = circuit.cable
    length = or_none(lambda: run_length_m(circuit))
    if length is None or is_auto(cable):
        return
    if cable.cpc == "armour":
        yield "armoured", length
        yield "armoured-end", 2.0
    elif cable.area_mm2 > _LARGE_MM2:
        yield "cable-large", length
    else:
        surface = sum(each.length_m or 0.0 for each in circuit.run if each.concealed_in == "no")
        yield "cable-clipped", min(surface, length)
        yield "cable-void", max(0.0, length - surface)
