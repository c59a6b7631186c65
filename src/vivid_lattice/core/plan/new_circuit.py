"""A circuit for points of the plan that have none: the line that would be typed, and the points that go to it."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import PlanPoint, PointKind
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.rules import rule_set

#: What is typed for a circuit of such points, in every standard; of sockets the standard has its own word.
_LINES: Mapping[PointKind, str] = {
    "light": "lights", "switch": "lights", "pull-cord": "lights", "dimmer": "lights", "sensor": "lights", "fan": "lights", "shaver": "lights",
    "alarm": "smoke alarms", "cooker": "cooker", "shower": "shower", "heater": "water heater", "charger": "car charger",
    "connection-unit": "appliance",
}  # fmt: skip
_LIGHTS: frozenset[PointKind] = frozenset({"light", "switch", "pull-cord", "dimmer", "sensor", "fan", "shaver"})


def line_for(job: Job, point: PlanPoint) -> str:
    """The line of a circuit for a point: of its room for sockets and what is fixed there, of the house for lights and alarms."""
    room = next(each.name.lower() for each in job.rooms if each.id == point.room)
    if point.kind == "socket":
        return f"{room} {rule_set(job.job.rules).plan.sockets_word}"
    line = _LINES.get(point.kind, "appliance")
    return line if point.kind in _LIGHTS or point.kind == "alarm" else f"{room} {line}"


def with_circuit_for(job: Job, point_id: str) -> Job:
    """The job with a circuit for a point that has none, on the board of its plan, and all open points of its kind with it: those of its room,
    lights, their switches and alarms of all rooms.

    Raises  EntryNotUnderstood where the standard does not know such a circuit; KeyError if there is no such point
    """
    point = next((each for each in job.plan.points if each.id == point_id), None)
    if point is None:
        raise KeyError(point_id)
    board = job.plan.boards[0].board if job.plan.boards else job.boards[0].id
    before = {circuit.id for circuit in job.circuits}
    made = enter_and_design(job, line_for(job, point), board).job
    circuit = next(each.id for each in made.circuits if each.id not in before)
    points = tuple(
        each.model_copy(update={"circuit": circuit}) if _goes_too(each, point) else each for each in made.plan.points
    )
    made = made.model_copy(update={"plan": made.plan.model_copy(update={"points": points})})
    return checked(with_planned_runs(checked(made), rule_set(made.job.rules)))


def _goes_too(each: PlanPoint, point: PlanPoint) -> bool:
    if each.circuit is not None:
        return False
    if point.kind in _LIGHTS:
        return each.kind in _LIGHTS
    return each.kind == point.kind and (point.kind == "alarm" or each.room == point.room)
