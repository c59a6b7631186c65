"""The drill for some cables in one hole."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.rules.fixing_rules import FixingRules

#: Room round cables in a hole [mm]. Common practice, no source.
ROOM_MM = 5.0


def needed_mm(wide_mm: Sequence[float], rules: FixingRules) -> float | None:
    """The hole that some cables need [mm]: the circle round them, all taken as large as the largest, with room; None: too many for one.

    Source  runs.holes.diameter: circles in a circle; the room is practice
    """
    factor = rules.circle(len(wide_mm))
    return None if factor is None else factor * max(wide_mm) + ROOM_MM


def drill_for(wide_mm: Sequence[float], rules: FixingRules) -> float | None:
    """The smallest drill that is kept [mm]; None: no drill is large enough for all in one hole."""
    need = needed_mm(wide_mm, rules)
    return None if need is None else next((each for each in rules.drills_mm if each >= need - 1e-9), None)
