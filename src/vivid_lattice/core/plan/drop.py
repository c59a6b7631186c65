"""A point dropped on the plan: it snaps to the nearest wall of its room, clear of doors, corners and water; lights and alarms stay where they are."""

from __future__ import annotations

from typing import Any

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import WALLS, PlanPoint, PointKind, RoomShape, Wall
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan import clearances
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.geometry.house import ON_CEILING, House, boxes_of, on_wall, wall_length_m
from vivid_lattice.core.plan.geometry.walls import NEAR_CORNER_M, free_stretches
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.rules import rule_set

#: What is typed for a kind of point.
_WORDS: dict[PointKind, str] = {
    "connection-unit": "connection unit", "pull-cord": "pull cord", "junction-box": "junction box", "alarm": "smoke alarm",
}  # fmt: skip


def drop_new(job: Job, kind: PointKind, level: int, x_m: float, y_m: float) -> Job:
    """The job with another point, at a place of a floor; its circuit as of a typed one. A light brings its switch.

    Raises  EntryNotUnderstood where there is no room, or no wall is free
    """
    shape = _room_at(job, level, x_m, y_m)
    name = next(room.name.lower() for room in job.rooms if room.id == shape.room)
    before = {point.id for point in job.plan.points}
    made = enter_plan_line(job, f"{_WORDS.get(kind, kind)} {name}")
    new = next(point.id for point in made.plan.points if point.id not in before and point.kind == kind)
    return drop(made, new, level, x_m, y_m)


def drop(job: Job, point_id: str, level: int, x_m: float, y_m: float) -> Job:
    """The job with a point at another place: in the room that is there, with what shares its plate and the runs that follow. KeyError if there is no such point.

    Raises  EntryNotUnderstood where there is no room
    """
    point = next((each for each in job.plan.points if each.id == point_id), None)
    if point is None:
        raise KeyError(point_id)
    shape = _room_at(job, level, x_m, y_m)
    moved = point.model_copy(update={"room": shape.room, "plate": None, **_place(job, point, shape, x_m, y_m)})
    place = {"room": moved.room, "wall": moved.wall, "along_m": moved.along_m}
    points = tuple(
        moved if each.id == point_id else each.model_copy(update=place) if each.plate == point_id else each
        for each in job.plan.points
    )
    job = checked(job.model_copy(update={"plan": job.plan.model_copy(update={"points": points})}))
    return checked(with_planned_runs(job, rule_set(job.job.rules)))


def _room_at(job: Job, level: int, x_m: float, y_m: float) -> RoomShape:
    """The room of a floor at a place."""
    for shape in job.plan.rooms:
        if shape.level == level and any(x0 <= x_m <= x1 and y0 <= y_m <= y1 for x0, x1, y0, y1 in boxes_of(shape)):
            return shape
    raise EntryNotUnderstood("", message(None, "core.plan.drop.no_room"))


def _place(job: Job, point: PlanPoint, shape: RoomShape, x_m: float, y_m: float) -> dict[str, Any]:
    if point.kind in ON_CEILING and point.wall is None:
        return {"x_m": round(x_m - shape.x_m, 2), "y_m": round(y_m - shape.y_m, 2)}
    rules = rule_set(job.job.rules).plan
    height_m = House(job.plan, rules).point_height_m(point)
    wall, along = min((_on(shape, wall, x_m, y_m) for wall in WALLS), key=lambda found: found[2])[:2]
    free = free_stretches(
        shape, height_m, (wall,), NEAR_CORNER_M,
        lambda each: clearances.barred(shape, each, point.kind, height_m, rules),
    )  # fmt: skip
    nearest = min(
        (min(max(along, part.from_m), part.to_m) for part in free), key=lambda at: abs(at - along), default=along
    )
    return {"wall": wall, "along_m": round(nearest, 2), "x_m": None, "y_m": None}


def _on(shape: RoomShape, wall: Wall, x_m: float, y_m: float) -> tuple[Wall, float, float]:
    """How far along a wall the foot of a place is, and how far it is from it [m]."""
    along = x_m - shape.x_m if wall in ("front", "back") else y_m - shape.y_m
    along = min(max(along, 0.0), wall_length_m(shape, wall))
    foot = on_wall(shape, wall, along)
    return wall, along, abs(foot[0] - x_m) + abs(foot[1] - y_m)
