"""How far it is from one point to another by the way that cables take, and the parts of that route: up or down to a void, parallel to the
walls in it, down or up again; or straight sideways in the wall, from a point to its neighbour of the same height."""

from __future__ import annotations

import itertools

from vivid_lattice.core.document.plan import Way
from vivid_lattice.core.plan.geometry.floor_lines import FloorLines
from vivid_lattice.core.plan.geometry.house import House, Spot
from vivid_lattice.core.plan.geometry.walls import Place
from vivid_lattice.core.plan.routes.leg import Leg, LiesIn

#: Over the joists of a roof space, and under the ceiling on the surface [m]. Common practice, no source.
_LOFT_M, _SURFACE_M = 0.15, -0.05
#: Two points of so nearly one height are level [m].
_LEVEL_M = 0.02

Route = tuple[Leg, ...]


class Distances:
    """Routes between places of a house by one way.

    Equation  route = shortest permitted way on the plan + the least of |z1 − p| + |z2 − p| over the levels p of the way on either floor
    Source    geometry; parallel to the walls, which joists and later repair require (common practice)
    """

    def __init__(self, house: House, way: Way):
        self._house, self._way = house, way
        self._planes: dict[int, float] = {}
        self._lines: dict[frozenset[int], FloorLines] = {}
        self._known: dict[tuple[Spot, Spot], float] = {}

    def plane_m(self, level: int) -> float:
        """Where cables lie on a floor [m], above the finished floor of the ground floor."""
        if level not in self._planes:
            house, floor = self._house, self._house.floor(level)
            over = {
                "ceiling": house.height_m(level) + floor.void_m,
                "loft": house.height_m(level) + _LOFT_M,
                "floor": -floor.under_m,
                "surface": house.height_m(level) + _SURFACE_M,
                "wall": house.height_m(level) - house.wall_zone_m,
            }
            self._planes[level] = house.base_m(level) + over[self._way]
        return self._planes[level]

    def above_floor_m(self, level: int) -> float:
        """Where cables lie on a floor [m], above its own finished floor."""
        return self.plane_m(level) - self._house.base_m(level)

    def between(self, a: Spot, b: Spot) -> float:
        """The route from one place to another [m], without what is left at its ends."""
        if (a, b) not in self._known:
            length = abs(a.x_m - b.x_m) + abs(a.y_m - b.y_m)
            if not self._along_the_wall(a, b):
                plane, _ = self._plane(a, b)
                found = self._lines_of(a, b).shortest(_place(a), _place(b))
                flat = found[0] if found is not None else length
                length = flat + abs(self._above(a) - plane) + abs(self._above(b) - plane)
            self._known[a, b] = self._known[b, a] = length
        return self._known[a, b]

    def routes(self, a: Spot, b: Spot) -> list[Route]:
        """The shortest routes from one place to another, part by part: those with one turn, x first, where there are such; else one."""
        za, zb = self._above(a), self._above(b)
        if self._along_the_wall(a, b):
            lies_in: LiesIn = "surface" if self._way == "surface" else "wall"
            return [(Leg(lies_in, a.level, (*_place(a), za), (*_place(b), zb), a.face),)]
        plane, level = self._plane(a, b)
        lines = self._lines_of(a, b)
        ways: list[tuple[Place, ...]] = list(lines.turns(_place(a), _place(b)))
        own: LiesIn = self._way
        if not ways:
            found = lines.shortest(_place(a), _place(b))
            own = own if found else "outside"
            ways = [found[1] if found else (_place(a), (b.x_m, a.y_m), _place(b))]
        return [self._route(a, b, corners, plane, level, own) for corners in ways]

    def _route(self, a: Spot, b: Spot, corners: tuple[Place, ...], plane: float, level: int, own: LiesIn) -> Route:
        parts = [
            Leg(self._upright(a), a.level, (*corners[0], self._above(a)), (*corners[0], plane), a.face),
            *(Leg(own, level, (*one, plane), (*other, plane)) for one, other in itertools.pairwise(corners)),
            Leg(self._upright(b), b.level, (*corners[-1], plane), (*corners[-1], self._above(b)), b.face),
        ]
        return tuple(part for part in parts if part.length_m > 0)

    def _upright(self, spot: Spot) -> LiesIn:
        """Where the part that rises to the way lies: in the wall of the point; over the ceiling where it is on none."""
        if self._way == "surface":
            return "surface"
        return "wall" if spot.face is not None else "ceiling" if self._way == "wall" else self._way

    def _plane(self, a: Spot, b: Spot) -> tuple[float, int]:
        """The level that the route lies on, and the floor that is: the one that needs less up and down."""
        za, zb = self._above(a), self._above(b)
        level = min(
            sorted({a.level, b.level}),
            key=lambda each: round(abs(za - self.plane_m(each)) + abs(zb - self.plane_m(each)), 6),
        )
        return self.plane_m(level), level

    def _lines_of(self, a: Spot, b: Spot) -> FloorLines:
        """The permitted lines between two places: over the rooms of their floors."""
        levels = frozenset({a.level, b.level})
        if levels not in self._lines:
            rooms = [shape for shape in self._house.rooms.values() if shape.level in levels]
            self._lines[levels] = FloorLines(
                rooms, along_walls=self._way == "wall", over_open=self._way not in ("ceiling", "loft")
            )
        return self._lines[levels]

    def _along_the_wall(self, a: Spot, b: Spot) -> bool:
        """Whether it is straight sideways from one to the other in their wall: both at one height of one face, and no opening between."""
        if a.face is None or a.face != b.face or abs(a.z_m - b.z_m) > _LEVEL_M:
            return False
        room, wall = a.face
        shape = self._house.rooms[room]
        if shape.notch is not None:
            return False
        origin, own = (shape.x_m, "x_m") if wall in ("front", "back") else (shape.y_m, "y_m")
        low, high = sorted((getattr(a, own) - origin, getattr(b, own) - origin))
        return not any(
            opening.wall == wall
            and opening.sill_m < a.z_m < opening.head_m
            and opening.from_m < high
            and low < opening.from_m + opening.width_m
            for opening in shape.openings
        )

    def _above(self, spot: Spot) -> float:
        return self._house.base_m(spot.level) + spot.z_m


def _place(spot: Spot) -> Place:
    return spot.x_m, spot.y_m
