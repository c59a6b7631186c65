"""The switches that a typed light brings: one by each door that is named, in a plate with another where that has one way to each box."""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.document.job import Job, free_id
from vivid_lattice.core.document.plan import PlanPoint, PointKind, RoomShape, Wall
from vivid_lattice.core.entry.rooms import id_from
from vivid_lattice.core.plan.geometry.house import House, wall_length_m
from vivid_lattice.core.plan.geometry.walls import by_the_door, free_stretches, spread
from vivid_lattice.core.plan.placing import PLATE_M
from vivid_lattice.core.plan.typed.read_point_line import PointLine
from vivid_lattice.core.rules import rule_set


def switches_for(job: Job, line: PointLine, lights: list[PlanPoint]) -> Iterator[PlanPoint]:
    """A switch by the door of each room that is named; more places than rooms are on the other walls of the last."""
    taken = {point.id for point in (*job.plan.points, *lights)}
    names = {room.id: room.name for room in job.rooms}
    house = House(job.plan, rule_set(job.job.rules).plan)
    shared = False
    for number in range(max(line.ways, len(line.rooms) if line.ways > 1 else 1)):
        shape = line.rooms[min(number, len(line.rooms) - 1)]
        title = f"{names[shape.room]} {line.switched_by.replace('-', ' ') if not number else 'switch'}"
        id_ = free_id(id_from(title), taken)
        taken.add(id_)
        again = number >= len(line.rooms)
        probe = PlanPoint(id="probe", kind="switch", name="probe", room=shape.room, wall="front", along_m=0.0)
        place = None if again else by_the_door(shape, house.point_height_m(probe))
        if place is None:
            free = free_stretches(shape, house.point_height_m(probe))
            places = list(spread(free, 1 + again))
            if not places:
                return
            place = places[-1]
        kind: PointKind = "pull-cord" if _is_wet(job, shape) else "switch" if number else line.switched_by
        beside = next((each for each in job.plan.points if _is_at(each, kind, shape, place)), None)
        # One plate at most is shared with other groups, so that there is one way to each box.
        same = not shared and beside is not None and beside.circuit == lights[0].circuit and beside.kind == "switch"
        shared = shared or same
        along_m = place[1]
        if beside is not None and not same:
            along_m = _next_to(place, kind, shape, job)
        yield PlanPoint(
            id=id_, kind=kind, name=title, room=shape.room, wall=place[0], along_m=along_m, circuit=lights[0].circuit,
            plate=beside.id if beside is not None and same else None,
        )  # fmt: skip


def _is_at(point: PlanPoint, kind: PointKind, shape: RoomShape, place: tuple[Wall, float]) -> bool:
    """Whether a switch has a plate of its own at a place already."""
    if (point.room, point.kind, point.wall, point.plate) != (shape.room, kind, place[0], None):
        return False
    return abs((point.along_m or 0.0) - place[1]) < PLATE_M / 4


def _next_to(place: tuple[Wall, float], kind: PointKind, shape: RoomShape, job: Job) -> float:
    """The next place for a plate of its own, away from the door; towards it where the wall ends."""
    length = wall_length_m(shape, place[0])
    steps = [place[1] + number * PLATE_M / 2 for number in (1, 2, 3, -1, -2, -3)]
    free = (
        each
        for each in steps
        if 0 <= each <= length and not any(_is_at(point, kind, shape, (place[0], each)) for point in job.plan.points)
    )
    return round(next(free, place[1]), 2)


def _is_wet(job: Job, shape: RoomShape) -> bool:
    return next(room.kind for room in job.rooms if room.id == shape.room) in ("bath", "shower")
