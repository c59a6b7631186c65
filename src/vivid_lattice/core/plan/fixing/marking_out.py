"""Where points and boards are marked on the walls: room by room, from the nearer corner and above the floor."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import BoardPlace, PlanPoint, Wall
from vivid_lattice.core.plan.geometry.house import House, wall_length_m
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """A point to mark out. On a wall: ``distance_m`` from the wall ``from_wall`` that it meets; on a ceiling ``x_m`` from the left wall and
    ``y_m`` from the front one. ``height_m``: of its centre above the finished floor."""

    room: str
    point: str
    name: str
    kind: str
    circuit: str | None
    wall: Wall | None
    from_wall: Wall | None
    distance_m: float | None
    x_m: float | None
    y_m: float | None
    height_m: float


def marking_out(job: Job, rules: RuleSet) -> tuple[Mark, ...]:
    """Every point and board on the plan; those that share a plate once, by the plate."""
    house = House(job.plan, rules.plan)
    order = {shape.room: number for number, shape in enumerate(job.plan.rooms)}
    names = {board.id: board.name for board in job.boards}
    marks = [
        *(_board(house, place, names.get(place.board, place.board)) for place in job.plan.boards),
        *(_point(house, point) for point in job.plan.points if point.plate is None),
    ]
    return tuple(sorted(marks, key=lambda mark: (order.get(mark.room, 0), mark.wall or "", mark.distance_m or 0.0)))


def _from_corner(house: House, room: str, wall: Wall, along_m: float) -> tuple[Wall, float]:
    """The wall at the nearer corner, and how far from it [m]."""
    length = wall_length_m(house.rooms[room], wall)
    ends: tuple[Wall, Wall] = ("left", "right") if wall in ("front", "back") else ("front", "back")
    return (ends[0], round(along_m, 3)) if along_m <= length / 2 else (ends[1], round(length - along_m, 3))


def _point(house: House, point: PlanPoint) -> Mark:
    on_wall = point.wall is not None and point.along_m is not None
    from_wall, distance = (
        _from_corner(house, point.room, point.wall, point.along_m)
        if point.wall is not None and point.along_m is not None
        else (None, None)
    )
    return Mark(
        room=point.room, point=point.id, name=point.name, kind=point.kind, circuit=point.circuit,
        wall=point.wall if on_wall else None, from_wall=from_wall, distance_m=distance,
        x_m=None if on_wall else point.x_m or 0.0, y_m=None if on_wall else point.y_m or 0.0,
        height_m=house.point_height_m(point),
    )  # fmt: skip


def _board(house: House, place: BoardPlace, name: str) -> Mark:
    from_wall, distance = _from_corner(house, place.room, place.wall, place.along_m)
    return Mark(
        room=place.room, point=place.board, name=name, kind="board", circuit=None, wall=place.wall,
        from_wall=from_wall, distance_m=distance, x_m=None, y_m=None, height_m=place.height_m,
    )  # fmt: skip
