"""How many fixings a straight part needs, and how many members it crosses."""

from __future__ import annotations

from vivid_lattice.core.rules.fixing_rules import Supports


def fixings(length_m: float, supports: Supports) -> int:
    """Fixings on a straight part between two ends.

    Equation  ceil((s − e₁ − e₂)/g) + 1 where s > e₁ + e₂, else 1; in whole tenths of a millimetre, so that an exact quotient stays exact
    Source    runs.clips.formula, by counting
    """
    length, first, last, gap = (
        round(each * 10_000) for each in (length_m, supports.first_m, supports.last_m, supports.gap_m)
    )
    if length <= 0:
        return 0
    between = length - first - last
    return 1 if between <= 0 else -(-between // gap) + 1


def even_gap_m(length_m: float, supports: Supports) -> float | None:
    """The gap when fixings are spread evenly [m]; None where there is one."""
    count = fixings(length_m, supports)
    return (length_m - supports.first_m - supports.last_m) / (count - 1) if count > 1 else None


def crossed_at(begin_m: float, end_m: float, first_m: float, centres_m: float) -> tuple[float, ...]:
    """Members that a straight part crosses at right angles, by their place along it [m].

    begin_m, end_m  the part, on the axis that the members are set out along
    first_m         the first member;  centres_m: from one to the next
    """
    begin, end, first, centres = (round(each * 1000) for each in (*sorted((begin_m, end_m)), first_m, centres_m))
    number = max(0, -(-(begin - first) // centres))
    at = []
    while first + number * centres <= end:
        at.append((first + number * centres) / 1000)
        number += 1
    return tuple(at)
