"""A straight part of a route: where it lies, from corner to corner."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.plan import Wall

#: Where a part of a route lies. ``outside``: between parts of the house that share no wall.
LiesIn = Literal["wall", "ceiling", "floor", "loft", "surface", "outside"]
#: x and y on the plan, z above the finished floor of the ground floor [m].
Corner3 = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Leg:
    """A straight part of a route [m]. ``level``: the floor it is drawn on; ``face``: the room and wall it is in, where that is known."""

    lies_in: LiesIn
    level: int
    a: Corner3
    b: Corner3
    face: tuple[str, Wall] | None = None

    @property
    def length_m(self) -> float:
        """How long it is."""
        return sum(abs(one - other) for one, other in zip(self.a, self.b, strict=True))

    @property
    def upright(self) -> bool:
        """Whether it goes straight up or down."""
        return self.a[:2] == self.b[:2]
