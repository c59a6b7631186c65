"""The plan as it is drawn: outlines of rooms with their openings, points at their places, and the path of every section on its floors."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import FixtureKind, Opening, PlanPoint, PointKind, RoomShape, Wall
from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.clearances import footprint
from vivid_lattice.core.plan.floor_names import floor_name
from vivid_lattice.core.plan.geometry.house import House, Spot, on_wall
from vivid_lattice.core.plan.geometry.walls import Place, corners_of
from vivid_lattice.core.plan.house_plan import HousePlan
from vivid_lattice.core.plan.routes.distance import Route
from vivid_lattice.core.plan.symbols import Stroke, door_leaf, fixture, symbol
from vivid_lattice.core.rules.protocol import RuleSet

#: Doors whose middles are so near are one, stated in both rooms [m].
_SAME_DOOR_M = 0.6
#: Symbols of one plate are drawn so far apart [m].
_PLATE_M = 0.15


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnOpening:
    """A door, a window or a gap, from one end to the other; ``leaf``: of a door that is open."""

    kind: Literal["door", "window", "gap"]
    a: Place
    b: Place
    leaf: tuple[Stroke, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnFixture:
    """Something fixed in a room, as lines."""

    kind: FixtureKind
    strokes: tuple[Stroke, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnRoom:
    """A room: its corners one after another."""

    room: str
    name: str
    level: int
    corners: tuple[Place, ...]
    openings: tuple[DrawnOpening, ...]
    fixtures: tuple[DrawnFixture, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnPoint:
    """A point or a board. ``wall``: the wall it is on; None: on the ceiling; ``strokes``: its symbol, about its place."""

    id: str
    name: str
    kind: PointKind | Literal["board"]
    level: int
    at: Place
    height_m: float
    wall: Wall | None
    circuit: str | None
    strokes: tuple[Stroke, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnSection:
    """A section on one floor: its corners; of one that goes to another floor a part on each."""

    circuit: str
    a: str
    b: str
    level: int
    corners: tuple[Place, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawing:
    """Everything that is drawn, and the floors there are, the lowest first, with their names."""

    levels: tuple[int, ...]
    names: Mapping[int, Text]
    rooms: tuple[DrawnRoom, ...]
    points: tuple[DrawnPoint, ...]
    sections: tuple[DrawnSection, ...]


def drawing_of(job: Job, plan: HousePlan, rules: RuleSet) -> Drawing:
    """The plan of a job as it is drawn."""
    house = House(job.plan, rules.plan)
    names = {room.id: room.name for room in job.rooms}
    boards = {place.board: house.spot_of_board(place) for place in job.plan.boards}
    board_names = {board.id: board.name for board in job.boards}
    points = [
        DrawnPoint(
            id=point.id, name=point.name, kind=point.kind, level=spot.level, at=_beside(job, point, spot), height_m=spot.z_m,
            wall=point.wall, circuit=point.circuit, strokes=symbol(point.kind, point.wall),
        )
        for point in job.plan.points
        for spot in [plan.spots[point.id]]
    ]  # fmt: skip
    points += [
        DrawnPoint(
            id=f"board:{place.board}", name=board_names[place.board], kind="board", level=boards[place.board].level,
            at=(boards[place.board].x_m, boards[place.board].y_m), height_m=place.height_m, wall=place.wall, circuit=None,
            strokes=symbol("board", place.wall),
        )
        for place in job.plan.boards
    ]  # fmt: skip
    sections = tuple(
        drawn for (circuit, a, b), route in plan.laying.sections.items() for drawn in _section(circuit, a, b, route)
    )
    rooms = tuple(_with_one_leaf([_room(shape, names[shape.room]) for shape in job.plan.rooms]))
    levels = tuple(sorted({shape.level for shape in job.plan.rooms}))
    return Drawing(
        levels=levels,
        names={level: floor_name(house, level) for level in levels},
        rooms=rooms,
        points=tuple(points),
        sections=sections,
    )


def _beside(job: Job, point: PlanPoint, spot: Spot) -> Place:
    """Where a point is drawn: one that shares a plate a little further along its wall than those before it."""
    sharing = [each.id for each in job.plan.points if each.plate is not None and each.plate == point.plate]
    step = _PLATE_M * (sharing.index(point.id) + 1) if point.plate is not None else 0.0
    return (spot.x_m + step, spot.y_m) if point.wall in ("front", "back") else (spot.x_m, spot.y_m + step)


def _section(circuit: str, a: str, b: str, route: Route) -> Iterator[DrawnSection]:
    """The path of a section on the plan; of one that goes to another floor, on both."""
    corners = [route[0].a[:2], *(leg.b[:2] for leg in route if not leg.upright)] if route else []
    for level in sorted({leg.level for leg in route}):
        yield DrawnSection(circuit=circuit, a=a, b=b, level=level, corners=tuple(corners))


def _with_one_leaf(rooms: list[DrawnRoom]) -> Iterator[DrawnRoom]:
    """A door that both its rooms state has one leaf: that of the first."""
    seen: list[tuple[int, Place]] = []
    for room in rooms:
        openings = []
        for opening in room.openings:
            middle = ((opening.a[0] + opening.b[0]) / 2, (opening.a[1] + opening.b[1]) / 2)
            again = any(level == room.level and math.dist(middle, other) < _SAME_DOOR_M for level, other in seen)
            if opening.leaf and not again:
                seen.append((room.level, middle))
            openings.append(replace(opening, leaf=()) if again else opening)
        yield replace(room, openings=tuple(openings))


def _room(shape: RoomShape, name: str) -> DrawnRoom:
    return DrawnRoom(
        room=shape.room,
        name=name,
        level=shape.level,
        corners=corners_of(shape),
        openings=tuple(_opening(shape, opening) for opening in shape.openings),
        fixtures=tuple(
            DrawnFixture(kind=each.kind, strokes=fixture(each.kind, footprint(shape, each))) for each in shape.fixtures
        ),
    )


def _opening(shape: RoomShape, opening: Opening) -> DrawnOpening:
    ends = (on_wall(shape, opening.wall, at) for at in (opening.from_m, opening.from_m + opening.width_m))
    a, b = ends
    leaf = door_leaf(a, b, opening.wall) if opening.kind == "door" else ()
    return DrawnOpening(kind=opening.kind, a=a, b=b, leaf=leaf)
