"""Whether a hidden cable runs where people expect one in a wall: the zones of the standard."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.rules.plan_rules import WallZones

#: As good as on a line [m].
_NEAR_M = 1e-6


@dataclass(frozen=True, slots=True)
class Plate:
    """An accessory on a wall: its middle along the wall and above the floor, width and height [m]."""

    along_m: float
    height_m: float
    wide_m: float
    high_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WallFace:
    """A wall as it is seen from its room [m]. ``worktop``: there is one, or it is a room to work in; ``frames``: sides of doors and windows."""

    length_m: float
    height_m: float
    plates: Sequence[Plate] = ()
    frames: Sequence[tuple[float, float]] = ()
    worktop: bool = False


def is_in_zone(a: tuple[float, float], b: tuple[float, float], face: WallFace, zones: WallZones) -> bool:
    """Whether a part of a cable, from one place on a wall to another (along it, above the floor), is in a zone.

    A part that slants is in none. Limits are inside.
    Source  BS 7671 522.6.202 (i): within 150 mm of the top or of a corner, or straight from an accessory; DIN 18015-3: zones of the wall
    """
    upright, level = abs(a[0] - b[0]) <= _NEAR_M, abs(a[1] - b[1]) <= _NEAR_M
    if upright:
        return _upright(a[0], face, zones)
    return level and _level(a[1], face, zones)


def _upright(along_m: float, face: WallFace, zones: WallZones) -> bool:
    near, far = zones.corner_m
    sides = [along_m, face.length_m - along_m]
    if not zones.from_accessory:
        sides += [distance for low, high in face.frames for distance in (low - along_m, along_m - high)]
    if any(_within(side, near, far) for side in sides):
        return True
    return zones.from_accessory and any(
        abs(along_m - plate.along_m) <= plate.wide_m / 2 + _NEAR_M for plate in face.plates
    )


def _level(height_m: float, face: WallFace, zones: WallZones) -> bool:
    if _within(face.height_m - height_m, *zones.top_m):
        return True
    if zones.bottom_m is not None and _within(height_m, *zones.bottom_m):
        return True
    if zones.middle_m is not None and face.worktop and _within(height_m, *zones.middle_m):
        return True
    return zones.from_accessory and any(
        abs(height_m - plate.height_m) <= plate.high_m / 2 + _NEAR_M for plate in face.plates
    )


def _within(value: float, low: float, high: float) -> bool:
    return low - _NEAR_M <= value <= high + _NEAR_M
