"""Lines of a floor that cables may follow: parallel to the walls inside the house, or along the walls only.

The graph joins where edges of rooms cross; a place between them is joined to the nearest crossings. A shortest route parallel to the walls
can always be moved onto such lines, so none is shorter.
"""

from __future__ import annotations

import bisect
import itertools
from collections.abc import Iterable, Iterator, Mapping, Sequence

import networkx as nx

from vivid_lattice.core.document.plan import RoomShape
from vivid_lattice.core.plan.geometry.house import boxes_of
from vivid_lattice.core.plan.geometry.walls import Place, corners_of

#: Rooms that are no further apart than a thick wall are joined [m]. Common practice, no source.
_WALL_M = 0.35
_NEAR_M = 1e-6


class FloorLines:
    """The permitted lines of a floor. ``along_walls``: only the walls; else all that is inside, but over rooms open to above only along
    their walls where ``over_open`` is false."""

    def __init__(self, rooms: Sequence[RoomShape], *, along_walls: bool = False, over_open: bool = True):
        self.along_walls = along_walls
        inside = [] if along_walls else [shape for shape in rooms if over_open or not shape.open_above]
        reach = _WALL_M / 2
        self._boxes = [
            (x0 - reach, x1 + reach, y0 - reach, y1 + reach) for shape in inside for x0, x1, y0, y1 in boxes_of(shape)
        ]
        self._walls = [
            (min(a[0], b[0]), max(a[0], b[0]), min(a[1], b[1]), max(a[1], b[1]))
            for shape in rooms
            for a, b in itertools.pairwise((*corners_of(shape), corners_of(shape)[0]))
        ]
        edges = [box for shape in rooms for box in boxes_of(shape)]
        self._xs = sorted({round(x, 6) for box in edges for x in box[:2]})
        self._ys = sorted({round(y, 6) for box in edges for y in box[2:]})
        self._graph: nx.Graph[Place] | None = None
        self._from: dict[Place, tuple[Mapping[Place, float], Mapping[Place, list[Place]]]] = {}

    # ------------------------------------------------------------------------------------------ what is permitted

    def permits(self, a: Place, b: Place) -> bool:
        """Whether a straight line parallel to a wall lies where cables may."""
        flat = abs(a[1] - b[1]) <= _NEAR_M
        along, across = (0, 1) if flat else (1, 0)
        low, high = sorted((a[along], b[along]))
        at = a[across]
        covered = sorted(
            (box[2 * along], box[2 * along + 1])
            for box in itertools.chain(self._boxes, self._walls)
            if box[2 * across] - _NEAR_M <= at <= box[2 * across + 1] + _NEAR_M
        )
        reached = low
        for begin, end in covered:
            if begin > reached + _NEAR_M:
                break
            reached = max(reached, end)
        return reached >= high - _NEAR_M

    def turns(self, a: Place, b: Place) -> Iterator[tuple[Place, ...]]:
        """Ways from one place to another with one turn at most, the corners of each: first in x, then in y, where permitted."""
        if abs(a[0] - b[0]) <= _NEAR_M or abs(a[1] - b[1]) <= _NEAR_M:
            if self.permits(a, b):
                yield (a, b)
            return
        for turn in ((b[0], a[1]), (a[0], b[1])):
            if self.permits(a, turn) and self.permits(turn, b):
                yield (a, turn, b)

    def shortest(self, a: Place, b: Place) -> tuple[float, tuple[Place, ...]] | None:
        """The shortest way and its corners; None where there is none."""
        for corners in self.turns(a, b):
            return _length(corners), corners
        best: tuple[float, tuple[Place, ...]] | None = None
        for corners in itertools.chain(self._direct(a, b), self._by_crossings(a, b)):
            length = _length(corners)
            if best is None or length < best[0] - _NEAR_M:
                best = length, corners
        return best

    # ------------------------------------------------------------------------------------------ the graph

    def _routes_from(self, start: Place) -> tuple[Mapping[Place, float], Mapping[Place, list[Place]]]:
        if start not in self._from:
            graph = self._built()
            self._from[start] = (
                nx.single_source_dijkstra_path_length(graph, start),
                nx.single_source_dijkstra_path(graph, start),
            )
        return self._from[start]

    def _built(self) -> nx.Graph[Place]:
        if self._graph is None:
            graph: nx.Graph[Place] = nx.Graph()
            graph.add_nodes_from((x, y) for x in self._xs for y in self._ys)
            pairs = itertools.chain(
                (((x0, y), (x1, y)) for y in self._ys for x0, x1 in itertools.pairwise(self._xs)),
                (((x, y0), (x, y1)) for x in self._xs for y0, y1 in itertools.pairwise(self._ys)),
            )
            graph.add_weighted_edges_from((a, b, _length((a, b))) for a, b in pairs if self.permits(a, b))
            self._graph = graph
        return self._graph

    def _direct(self, a: Place, b: Place) -> Iterator[tuple[Place, ...]]:
        """Ways with one turn at most between the feet of two places on the walls."""
        for one, other in itertools.product(self._feet(a), self._feet(b)):
            for corners in self.turns(one, other):
                yield _straightened((a, *corners, b))

    def _by_crossings(self, a: Place, b: Place) -> Iterator[tuple[Place, ...]]:
        """Ways by the crossings near both places."""
        ends = list(self._joined(b))
        for start, way_in in self._joined(a):
            far, by = self._routes_from(start)
            for end, way_out in ends:
                if end in far:
                    yield _straightened((*way_in, *by[end], *reversed(way_out)))

    def _joined(self, place: Place) -> Iterator[tuple[Place, tuple[Place, ...]]]:
        """Crossings near a place with the way to each."""
        for foot in self._feet(place):
            for crossing in itertools.product(_around(self._xs, foot[0]), _around(self._ys, foot[1])):
                way = next(iter(self.turns(foot, crossing)), None)
                if way is not None:
                    yield crossing, (place, *way)

    def _feet(self, place: Place) -> list[Place]:
        """Where a place is joined to the lines: at itself, or square to the walls where only they are permitted and it is on none."""
        return list(self._square_to_walls(place)) if self.along_walls and not self._on_wall(place) else [place]

    def _on_wall(self, place: Place) -> bool:
        return any(
            x0 - _NEAR_M <= place[0] <= x1 + _NEAR_M and y0 - _NEAR_M <= place[1] <= y1 + _NEAR_M
            for x0, x1, y0, y1 in self._walls
        )

    def _square_to_walls(self, place: Place) -> Iterator[Place]:
        """The feet of a place on the nearest wall in each of the four directions."""
        x, y = place
        for upright, at, low, high in ((True, x, y, y), (False, y, x, x)):
            walls = [
                wall[0] if upright else wall[2]
                for wall in self._walls
                if (wall[0] == wall[1] if upright else wall[2] == wall[3])
                and (wall[2] <= low <= wall[3] if upright else wall[0] <= high <= wall[1])
            ]
            for side in (
                max((w for w in walls if w <= at), default=None),
                min((w for w in walls if w >= at), default=None),
            ):
                if side is not None:
                    yield (side, y) if upright else (x, side)


def _around(lines: Sequence[float], at: float) -> set[float]:
    """The lines on both sides of a coordinate, or the one it is on."""
    number = bisect.bisect_left(lines, at - _NEAR_M)
    if number < len(lines) and abs(lines[number] - at) <= _NEAR_M:
        return {lines[number]}
    return {lines[each] for each in (number - 1, number) if 0 <= each < len(lines)}


def _length(corners: Iterable[Place]) -> float:
    return sum(abs(a[0] - b[0]) + abs(a[1] - b[1]) for a, b in itertools.pairwise(corners))


def _straightened(corners: Sequence[Place]) -> tuple[Place, ...]:
    """Corners without those that nothing turns at."""
    kept: list[Place] = []
    for corner in corners:
        if kept and _length((kept[-1], corner)) <= _NEAR_M:
            continue
        if len(kept) > 1 and any(
            abs(kept[-2][k] - kept[-1][k]) <= _NEAR_M and abs(kept[-1][k] - corner[k]) <= _NEAR_M for k in (0, 1)
        ):
            kept.pop()
        kept.append(corner)
    return tuple(kept) if len(kept) > 1 else tuple(corners[:1]) * 2
