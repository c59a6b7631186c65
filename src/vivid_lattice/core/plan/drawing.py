"""The plan as it is drawn: outlines of rooms with their openings, points at their places, and the path of every section on its floors."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Opening, PointKind, RoomShape, Wall
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.geometry.house import House, Spot, on_wall
from vivid_lattice.core.plan.geometry.walls import Place, corners_of
from vivid_lattice.core.plan.house_plan import HousePlan
from vivid_lattice.core.rules.protocol import RuleSet

#: As good as on the edge of a room [m].
_EDGE_M = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnOpening:
    """A door, a window or a gap, from one end to the other."""

    kind: Literal["door", "window", "gap"]
    a: Place
    b: Place


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnRoom:
    """A room: its corners one after another."""

    room: str
    name: str
    level: int
    corners: tuple[Place, ...]
    openings: tuple[DrawnOpening, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnPoint:
    """A point or a board. ``wall``: the wall it is on, so that its symbol points into the room; None: on the ceiling."""

    id: str
    name: str
    kind: PointKind | Literal["board"]
    level: int
    at: Place
    height_m: float
    wall: Wall | None
    circuit: str | None


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
    """Everything that is drawn, and the floors there are, the lowest first."""

    levels: tuple[int, ...]
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
            id=point.id, name=point.name, kind=point.kind, level=spot.level, at=(spot.x_m, spot.y_m), height_m=spot.z_m,
            wall=point.wall, circuit=point.circuit,
        )
        for point in job.plan.points
        for spot in [plan.spots[point.id]]
    ]  # fmt: skip
    points += [
        DrawnPoint(
            id=f"board:{place.board}", name=board_names[place.board], kind="board", level=boards[place.board].level,
            at=(boards[place.board].x_m, boards[place.board].y_m), height_m=place.height_m, wall=place.wall, circuit=None,
        )
        for place in job.plan.boards
    ]  # fmt: skip
    sections: list[DrawnSection] = []
    for circuit in plan.circuits:
        board = job.find_board_of(circuit.circuit.id)
        spots = {**circuit.spots, FEED: boards[board.id]} if board is not None else dict(circuit.spots)
        for section in circuit.sections:
            sections += _section(house, circuit.circuit.id, section.a, section.b, spots[section.a], spots[section.b])
    rooms = tuple(_room(shape, names[shape.room]) for shape in job.plan.rooms)
    return Drawing(
        levels=tuple(sorted({shape.level for shape in job.plan.rooms})),
        rooms=rooms,
        points=tuple(points),
        sections=tuple(sections),
    )


def _section(house: House, circuit: str, a: str, b: str, one: Spot, other: Spot) -> list[DrawnSection]:
    """The path of a section, round the corner that is in the house; of one that goes up or down, on both floors."""
    turns = ((other.x_m, one.y_m), (one.x_m, other.y_m))
    turn = next((each for each in turns if _inside(house, one.level, each)), turns[0])
    corners = ((one.x_m, one.y_m), turn, (other.x_m, other.y_m))
    levels = sorted({one.level, other.level})
    return [DrawnSection(circuit=circuit, a=a, b=b, level=level, corners=corners) for level in levels]


def _inside(house: House, level: int, place: Place) -> bool:
    x, y = place
    return any(
        shape.level == level
        and shape.x_m - _EDGE_M <= x <= shape.x_m + shape.width_m + _EDGE_M
        and shape.y_m - _EDGE_M <= y <= shape.y_m + shape.depth_m + _EDGE_M
        for shape in house.rooms.values()
    )


def _room(shape: RoomShape, name: str) -> DrawnRoom:
    return DrawnRoom(
        room=shape.room,
        name=name,
        level=shape.level,
        corners=corners_of(shape),
        openings=tuple(_opening(shape, opening) for opening in shape.openings),
    )


def _opening(shape: RoomShape, opening: Opening) -> DrawnOpening:
    ends = (on_wall(shape, opening.wall, at) for at in (opening.from_m, opening.from_m + opening.width_m))
    a, b = ends
    return DrawnOpening(kind=opening.kind, a=a, b=b)
