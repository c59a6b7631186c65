"""What a rule set says of fixing: clips, supports of conduit, holes and notches in timber, chases in masonry; and how goods are sold."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from vivid_lattice.core.sources import Source

#: Whether something goes along or up and down.
Direction = Literal["horizontal", "vertical"]
#: Timber that is drilled.
Member = Literal["joist", "stud"]
#: How goods are sold: in rings or drums, in rigid lengths, or cut to length.
Goods = Literal["cable", "wire", "conduit", "to-length"]


@dataclass(frozen=True, slots=True)
class Supports:
    """How far fixings are apart [m]: the first from an end, the last from the other, and no gap above ``gap_m``."""

    first_m: float
    last_m: float
    gap_m: float
    source: Source


@dataclass(frozen=True, slots=True)
class CableDimensions:
    """The outside of a cable [mm]: thinner way, wider way, and the least that the wider way can be; of a round cable one figure."""

    thick_mm: float
    wide_mm: float
    wide_least_mm: float
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class TimberLimits:
    """Holes and notches in sawn timber of depth D and clear span L, distances from the nearer support.

    hole_share    greatest diameter as a share of D;  hole_from, hole_to: where along L
    edge_m        least from the edge of a hole to the edge of the member; None: on the centre line
    apart         least between holes: so many diameters of the larger centre to centre, and ``apart_m`` between their edges
    notch_share   greatest depth as a share of D, in the zone of L;  notch_clear_m: between holes and notches
    deepest_m     members up to this depth; None: any
    cover_m       cable that is nearer to an edge needs protection
    """

    hole_share: float
    hole_from: float
    hole_to: float
    edge_m: float | None
    apart_diameters: float
    apart_m: float
    notch_share: float
    notch_from: float
    notch_to: float
    notch_clear_m: float
    deepest_m: float | None
    cover_m: float
    source: Source


@dataclass(frozen=True, slots=True)
class ChaseLimit:
    """The greatest depth of a chase [m]; ``within_m``: only so near to the ceiling or floor, None: anywhere."""

    depth_m: float
    within_m: float | None
    source: Source


class FixingRules(Protocol):
    """Fixing under a standard. What its data do not hold is None: not available for this standard."""

    def clips(self, wide_mm: float | None, direction: Direction, *, armoured: bool = False) -> Supports:
        """Clips of a cable by its greater dimension; None: not known, and the closest of the table is taken."""
        ...

    @property
    def staples_in_walls(self) -> bool:
        """Whether cables inside hollow walls are stapled too."""
        ...

    def saddles(self) -> Supports:
        """Saddles of light plastic conduit as in neat work."""
        ...

    def saddles_at_most(self, size_mm: float, direction: Direction) -> Supports | None:
        """The standard's greatest spacing of conduit supports."""
        ...

    @property
    def stop_short_m(self) -> float:
        """How far conduit stops before a fitting whose entry stays free [m]."""
        ...

    def cable_dimensions(self, cores: int, area_mm2: float) -> CableDimensions | None:
        """The outside of a sheathed cable by its cores without the protective one."""
        ...

    def timber(self, member: Member) -> TimberLimits | None:
        """Holes and notches in a kind of member."""
        ...

    def chase(self, direction: Direction, wall_mm: float, length_m: float) -> ChaseLimit | None:
        """The greatest depth of a chase in a masonry wall of a thickness."""
        ...

    @property
    def drills_mm(self) -> tuple[float, ...]:
        """Drills that are kept [mm], the smallest first."""
        ...

    def circle(self, cables: int) -> float | None:
        """The diameter round equal round cables, by that of one; None: more than the table has."""
        ...

    def sold_in_m(self, goods: Goods) -> tuple[float, ...]:
        """Lengths in which goods are sold [m]."""
        ...

    def sold_length(self, length_m: float) -> str:
        """A length as it is sold, in the unit of the trade: 50 m, 250 ft."""
        ...

    def waste(self, item: str) -> tuple[float, float]:
        """What is bought beside what is counted, as a share: with a cut list, and by estimate."""
        ...

    def labour(self) -> tuple[tuple[str, str, str, float], ...]:
        """Labour units: kind of work, its title, per what, hours."""
        ...

    @property
    def saw_m(self) -> float:
        """What a saw takes at each cut [m]."""
        ...
