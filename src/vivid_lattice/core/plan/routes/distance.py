"""How far it is from one point to another by the way that cables take: up or down to a void, along the walls in it, down or up again; or
straight sideways in the wall, from a point to its neighbour of the same height."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.document.plan import Way
from vivid_lattice.core.plan.geometry.house import House, Spot

#: Over the joists of a roof space, and under the ceiling on the surface [m]. Common practice, no source.
_LOFT_M, _SURFACE_M = 0.15, -0.05
#: Two points of so nearly one height are level [m].
_LEVEL_M = 0.02


class Distances:
    """Routes between places of a house by one way.

    Equation  route = |x1 − x2| + |y1 − y2| + the least of |z1 − p| + |z2 − p| over the levels p of the way on either floor
    Source    geometry; parallel to the walls, which joists and later repair require (common practice)
    """

    def __init__(self, house: House, way: Way):
        self._house, self._way = house, way
        self._planes: dict[int, float] = {}

    def plane_m(self, level: int) -> float:
        """Where cables lie on a floor [m], above the finished floor of the ground floor."""
        if level not in self._planes:
            house, floor = self._house, self._house.floor(level)
            over = {
                "ceiling": house.height_m(level) + floor.void_m,
                "loft": house.height_m(level) + _LOFT_M,
                "floor": -floor.under_m,
                "surface": house.height_m(level) + _SURFACE_M,
            }
            self._planes[level] = house.base_m(level) + over[self._way]
        return self._planes[level]

    def between(self, a: Spot, b: Spot) -> float:
        """The route from one place to another [m], without what is left at its ends."""
        flat = abs(a.x_m - b.x_m) + abs(a.y_m - b.y_m)
        if self._along_the_wall(a, b):
            return flat
        za, zb = self._above(a), self._above(b)
        upright = min(abs(za - plane) + abs(zb - plane) for plane in {self.plane_m(a.level), self.plane_m(b.level)})
        return flat + upright

    def table(self, spots: Mapping[str, Spot]) -> dict[str, dict[str, float]]:
        """All routes between some places [m]."""
        return {a: {b: self.between(one, other) for b, other in spots.items()} for a, one in spots.items()}

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
