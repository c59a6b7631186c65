"""What a rule set says of one more point on an existing circuit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from vivid_lattice.core.sources import Source

#: What is found at the box where a point is joined, once it is proven.
Found = Literal[
    "ring", "ring-with-spur", "spur-end", "spur-middle", "radial-end", "radial-middle", "fused-load", "not-proven"
]
#: What may be done there: an unfused spur; the end extended; a branch; on the load side of a fused unit; or why not: terminals full, one point
#: a spur, a fault already, to be proven first.
Way = Literal["unfused-spur", "extend", "branch", "load-side", "terminals", "one-point", "fault", "prove"]


@dataclass(frozen=True, slots=True)
class FoundRow:
    """What is found, by how many cables are in the box, and what may be done."""

    found: Found
    cables: int
    way: Way
    source: Source


@dataclass(frozen=True, slots=True)
class SpurLimits:
    """A fused spur: the fuse at most [A], the cable at least where socket outlets are behind it [mm²]; a steady load that is kept off a ring
    above so much [W]."""

    fuse_a: float
    sockets_mm2: float
    steady_w: float
    source: Source


class ExtensionRules(Protocol):
    """One more point under a standard."""

    @property
    def found(self) -> tuple[FoundRow, ...]:
        """What can be found in this standard, in the order of the table."""
        ...

    @property
    def limits(self) -> SpurLimits | None:
        """Limits of fused spurs; None: the standard has no rings."""
        ...
