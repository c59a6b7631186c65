"""The way round a room along its walls, broken at its doors; and places evenly along it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from vivid_lattice.core.document.plan import WALLS, RoomShape, Wall
from vivid_lattice.core.plan.geometry.house import on_wall
from vivid_lattice.core.plan.geometry.walls import NEAR_CORNER_M, Barred, Place, Stretch, corners_of, free_stretches


class WallLine:
    """The walls of a room one after another, from its first corner to the right.

    spaces  parts without a door or gap, as beginning and length [m];  closed: there is none, so that the line has no ends
    """

    def __init__(self, shape: RoomShape):
        self._shape = shape
        corners = corners_of(shape)
        self._edges = list(zip(corners, (*corners[1:], corners[0]), strict=True))
        self.length_m = sum(math.dist(a, b) for a, b in self._edges)
        breaks = sorted(self._breaks())
        self.closed = not breaks
        self.spaces = (
            tuple(
                (begin, (end - begin) % self.length_m)
                for (_, begin), (end, _) in zip(breaks, [*breaks[1:], *breaks[:1]], strict=True)
            )
            if breaks
            else ((0.0, self.length_m),)
        )

    def _breaks(self) -> Iterator[tuple[float, float]]:
        """Where each door or gap begins and ends: the shorter way between its sides."""
        for opening in self._shape.openings:
            if opening.kind != "window":
                ends = (opening.from_m, opening.from_m + opening.width_m)
                a, b = (self.at(on_wall(self._shape, opening.wall, at)) for at in ends)
                yield (a, b) if (b - a) % self.length_m <= self.length_m / 2 else (b, a)

    def at(self, place: Place) -> float:
        """How far along the line a place is that is on a wall [m]."""
        best, passed = (math.inf, 0.0), 0.0
        for a, b in self._edges:
            length = math.dist(a, b)
            along = ((place[0] - a[0]) * (b[0] - a[0]) + (place[1] - a[1]) * (b[1] - a[1])) / length if length else 0.0
            along = min(max(along, 0.0), length)
            share = along / length if length else 0.0
            foot = (a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share)
            best = min(best, (round(math.dist(foot, place), 9), passed + along))
            passed += length
        return best[1] % self.length_m

    def wall_at(self, at_m: float) -> tuple[Wall, float]:
        """The wall that a place of the line is on, and how far along it [m]."""
        left = at_m % self.length_m
        for a, b in self._edges:
            length = math.dist(a, b)
            if left <= length and length > 0:
                x = a[0] + (b[0] - a[0]) * left / length - self._shape.x_m
                y = a[1] + (b[1] - a[1]) * left / length - self._shape.y_m
                if abs(b[0] - a[0]) > abs(b[1] - a[1]):
                    return ("front" if b[0] > a[0] else "back"), x
                return ("right" if b[1] > a[1] else "left"), y
            left -= length
        return "front", 0.0


def round_the_room(
    shape: RoomShape, height_m: float, count: int, *, from_corner_m: float = NEAR_CORNER_M, barred: Barred | None = None
) -> Iterator[tuple[Wall, float]]:
    """So many places evenly round a room, each space between doors by its length, half a gap from its ends; clear of corners, of what is
    open at their height, and of what else is barred. None where no wall is free."""
    line, free = WallLine(shape), free_stretches(shape, height_m, WALLS, from_corner_m, barred)
    shares = [count * length / sum(length for _, length in line.spaces) for _, length in line.spaces]
    counts = [math.floor(share) for share in shares]
    for number in sorted(range(len(shares)), key=lambda number: counts[number] - shares[number])[: count - sum(counts)]:
        counts[number] += 1
    for (begin, length), many in zip(line.spaces, counts, strict=True):
        for number in range(many):
            wall, along = line.wall_at(begin + length * (number + 0.5) / many)
            own = [stretch for stretch in free if stretch.wall == wall] or free
            if own:
                place = min((_nearest(stretch, along) for stretch in own), key=lambda each: abs(each[1] - along))
                yield place[0], round(place[1], 2)


def _nearest(stretch: Stretch, along_m: float) -> tuple[Wall, float]:
    return stretch.wall, min(max(along_m, stretch.from_m), stretch.to_m)
