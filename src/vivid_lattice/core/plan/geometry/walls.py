"""Where points go on walls: clear of doors and corners, evenly along what is left."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.plan import WALLS, RoomShape, Wall
from vivid_lattice.core.plan.geometry.house import wall_length_m

#: Clear of corners and door frames [m]. Common practice, no source; 0.3 m from an inside corner in accessible dwellings.
FROM_CORNER_M, NEAR_CORNER_M, FROM_DOOR_M = 0.3, 0.1, 0.15

Place = tuple[float, float]
#: Parts of a wall that are barred, from and to along it [m].
Barred = Callable[[Wall], Iterable[tuple[float, float]]]


@dataclass(frozen=True, slots=True)
class Stretch:
    """A part of a wall that points may be on [m]."""

    wall: Wall
    from_m: float
    to_m: float

    @property
    def length_m(self) -> float:
        """How long it is."""
        return self.to_m - self.from_m


def free_stretches(
    shape: RoomShape,
    height_m: float,
    walls: Sequence[Wall] = WALLS,
    from_corner_m: float = FROM_CORNER_M,
    barred: Barred | None = None,
) -> list[Stretch]:
    """The parts of walls where a point at a height is clear of corners, of doors, gaps and windows that reach there, and of what else is
    barred on a wall."""
    found = []
    for wall in walls:
        edges = [
            *(barred(wall) if barred is not None else ()),
            *(
                (opening.from_m - FROM_DOOR_M, opening.from_m + opening.width_m + FROM_DOOR_M)
                for opening in shape.openings
                if opening.wall == wall and opening.sill_m <= height_m <= opening.head_m
            ),
        ]
        found += [
            Stretch(wall, begin, end)
            for begin, end in unbroken(from_corner_m, wall_length_m(shape, wall) - from_corner_m, edges)
        ]
    return found


def unbroken(begin_m: float, end_m: float, breaks: Iterable[tuple[float, float]]) -> Iterator[tuple[float, float]]:
    """What is left of a line between two ends without its breaks [m]."""
    at = begin_m
    for start, finish in [*sorted(breaks), (end_m, end_m)]:
        if min(start, end_m) > at:
            yield at, min(start, end_m)
        at = max(at, finish)


def spread(stretches: Sequence[Stretch], count: int) -> Iterator[tuple[Wall, float]]:
    """So many places evenly along some parts of walls, half a gap from either end; where there is no wall left, none."""
    whole = sum(stretch.length_m for stretch in stretches)
    if whole <= 0:
        return
    for number in range(count):
        left = whole * (number + 0.5) / count
        for stretch in stretches:
            if left <= stretch.length_m:
                yield stretch.wall, round(stretch.from_m + left, 2)
                break
            left -= stretch.length_m


def by_the_door(shape: RoomShape, height_m: float) -> tuple[Wall, float] | None:
    """Beside the first door or gap of a room, on the side that has more wall; None where it has no door."""
    doors = [opening for opening in shape.openings if opening.kind in ("door", "gap")]
    if not doors:
        return None
    door = doors[0]
    length = wall_length_m(shape, door.wall)
    before, after = door.from_m, length - door.from_m - door.width_m
    along = door.from_m + door.width_m + FROM_DOOR_M if after >= before else door.from_m - FROM_DOOR_M
    return door.wall, round(min(max(along, 0.0), length), 2)


def corners_of(shape: RoomShape) -> tuple[Place, ...]:
    """The corners of a room, round it: four, or six of an L."""
    x, y, w, d = shape.x_m, shape.y_m, shape.width_m, shape.depth_m
    notch = shape.notch
    if notch is None:
        return (x, y), (x + w, y), (x + w, y + d), (x, y + d)
    a, b = notch.width_m, notch.depth_m
    return {
        "front-left": ((x + a, y), (x + w, y), (x + w, y + d), (x, y + d), (x, y + b), (x + a, y + b)),
        "front-right": ((x, y), (x + w - a, y), (x + w - a, y + b), (x + w, y + b), (x + w, y + d), (x, y + d)),
        "back-right": ((x, y), (x + w, y), (x + w, y + d - b), (x + w - a, y + d - b), (x + w - a, y + d), (x, y + d)),
        "back-left": ((x, y), (x + w, y), (x + w, y + d), (x + a, y + d), (x + a, y + d - b), (x, y + d - b)),
    }[notch.corner]
