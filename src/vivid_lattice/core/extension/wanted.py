"""The point that is wanted, and what was found at the box where it could be joined."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.rules.extension_rules import Found

PointWanted = Literal["socket", "double-socket", "light", "fixed"]


@dataclass(frozen=True, slots=True, kw_only=True)
class WantedPoint:
    """The new point.

    kind        two singles or more are several points;  power_w of what is fixed, None: not known
    length_m    of the new cable, with what is left at its ends
    concealed_in, depth_mm  where it is hidden, None: not known
    area_mm2    of the new cable; None: as the circuit has
    fused       through a fused connection unit;  outlets: how many behind it
    """

    name: str
    kind: PointWanted
    length_m: float
    power_w: float | None = None
    concealed_in: Literal["no", "wall", "metal-partition", "floor-or-ceiling"] | None = None
    depth_mm: float | None = None
    area_mm2: float | None = None
    fused: bool = False
    outlets: int = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class Host:
    """The circuit and what was found at the box. ``outlets_on_ring``, ``spurs``: counted on site; None: as the job has them."""

    circuit: str
    found: Found
    outlets_on_ring: int | None = None
    spurs: int | None = None
