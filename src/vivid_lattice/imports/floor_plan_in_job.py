"""Rooms of a drawing in a job: on a floor, with their names; a room of the same name takes the new measures."""

from __future__ import annotations

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import RoomShape
from vivid_lattice.core.entry.rooms import named_room, with_room
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.rules import rule_set
from vivid_lattice.imports.floor_plan import FoundLayer


def with_floor_plan(job: Job, layer: FoundLayer, level: int) -> Job:
    """The job with the rooms of a layer on a floor, their least corner at its origin, and the runs that follow. Rooms that are on the floor
    already and not in the drawing stay."""
    left, front = min(room.x_m for room in layer.rooms), min(room.y_m for room in layer.rooms)
    for found in layer.rooms:
        rooms, id_ = with_room(job.rooms, named_room(found.name, job.rooms))
        before = next((shape for shape in job.plan.rooms if shape.room == id_), None)
        shape = RoomShape(
            room=id_, level=level, x_m=round(found.x_m - left, 3), y_m=round(found.y_m - front, 3), width_m=found.width_m,
            depth_m=found.depth_m, notch=found.notch, openings=found.doors or (before.openings if before else ()),
            height_m=before.height_m if before else 2.4, fixtures=before.fixtures if before else (),
            wall_kind=before.wall_kind if before else None,
        )  # fmt: skip
        others = tuple(each for each in job.plan.rooms if each.room != id_)
        plan = job.plan.model_copy(update={"rooms": (*others, shape)})
        job = job.model_copy(update={"rooms": rooms, "plan": plan})
    return checked(with_planned_runs(checked(job), rule_set(job.job.rules)))
