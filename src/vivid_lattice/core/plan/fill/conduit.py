"""The conduit that some single wires are drawn into: by the method of the standard, with its calculation."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.plan_rules import PlanRules
from vivid_lattice.core.sources import Source

#: A straight run to so many metres has factors of its own; slack of a comparison of sums.
_SHORT_M, _SLACK = 3.0, 1e-6


@dataclass(frozen=True, slots=True)
class Wires:
    """Wires of one size in a conduit: ``size`` in mm², or a gauge as the standard writes it."""

    size: float | str
    count: int
    stranded: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class ConduitChoice:
    """The smallest conduit that takes some wires. ``used`` and ``limit``: by the method's own measure; ``parts``: the terms of the calculation."""

    conduit: str
    used: float
    limit: float
    unit: str
    parts: tuple[str, ...]
    source: Source


def conduit_for(
    rules: PlanRules, wires: Sequence[Wires], *, length_m: float = 2.0, bends: int = 0, kind: str = "rigid"
) -> ConduitChoice:
    """The smallest conduit for some wires.

    length_m, bends  between two draw-in points, where the method goes by them
    kind             rigid, or pliable corrugated; EMT or PVC40 of raceways
    Source  the standard's own method: factors, a share of the inside, or its table of raceways. Equal is allowed.
    Raises  NotPossible where a size is not tabulated, or no conduit is large enough
    """
    for choice in conduits(rules, wires, length_m=length_m, bends=bends, kind=kind):
        if choice.used <= choice.limit + _SLACK:
            return choice
    raise NotPossible(message(None, "core.plan.fill.no_conduit"))


def conduits(
    rules: PlanRules, wires: Sequence[Wires], *, length_m: float = 2.0, bends: int = 0, kind: str = "rigid"
) -> tuple[ConduitChoice, ...]:
    """Every conduit with what the wires use of it, the smallest first."""
    method = rules.conduit_fill.method
    made = {"factors": _by_factors, "share": _by_share, "raceway": _by_raceway}[method]
    return tuple(made(rules, wires, length_m, bends, kind))


def _not_tabulated(size: object) -> NotPossible:
    return NotPossible(message(None, "core.plan.fill.no_size", size=str(size)))


# ------------------------------------------------------------------------------------------ factors


def _by_factors(
    rules: PlanRules, wires: Sequence[Wires], length_m: float, bends: int, kind: str
) -> Iterator[ConduitChoice]:
    """Sum of wire factors against the factor of the conduit, by length and bends."""
    short = bends == 0 and length_m <= _SHORT_M
    parts, used = [], 0.0
    for each in wires:
        factor = _wire_factor(rules, each, short=short)
        used += factor * each.count
        parts.append(f"{each.count} × {factor:g}")
    for size, limit in _conduit_factors(rules, length_m, bends, short=short):
        yield ConduitChoice(
            conduit=f"{size:g} mm",
            used=used,
            limit=limit,
            unit="",
            parts=tuple(parts),
            source=rules.conduit_fill.source,
        )


def _wire_factor(rules: PlanRules, wires: Wires, *, short: bool) -> float:
    if not short:
        rows = rules.table_rows("uk.plan.conduit.wire-long")
        found = next((factor for area, factor in rows if float(area) == float(wires.size)), None)
    else:
        make = "stranded" if wires.stranded else "solid"
        rows = rules.table_rows("uk.plan.conduit.wire-short")
        found = next((factor for kind, area, factor in rows if kind == make and float(area) == float(wires.size)), None)
    if found is None:
        raise _not_tabulated(wires.size)
    return float(found)


def _conduit_factors(rules: PlanRules, length_m: float, bends: int, *, short: bool) -> list[tuple[float, float]]:
    if short:
        return [(float(size), float(factor)) for size, factor in rules.table_rows("uk.plan.conduit.short")]
    rows = [
        row
        for row in rules.table_rows("uk.plan.conduit.long")
        if row[1] == bends and float(row[0]) >= length_m - _SLACK
    ]
    if not rows:
        raise NotPossible(message(None, "core.plan.fill.too_long"))
    # Between two lengths the longer.
    row = min(rows, key=lambda each: float(each[0]))
    return list(zip((16.0, 20.0, 25.0, 32.0), (float(each) for each in row[2:]), strict=True))


# ------------------------------------------------------------------------------------------ a share of the inside


def _by_share(
    rules: PlanRules, wires: Sequence[Wires], length_m: float, bends: int, kind: str
) -> Iterator[ConduitChoice]:
    """Cross-section of all wires against a share of the inside: one, two, or three and more."""
    occupied = {
        float(area): (float(rigid), float(flexible))
        for area, rigid, flexible in rules.table_rows("common.plan.conduit.wire")
    }
    parts, used = [], 0.0
    for each in wires:
        if float(each.size) not in occupied:
            raise _not_tabulated(each.size)
        area = occupied[float(each.size)][1 if each.stranded else 0]
        used += area * each.count
        parts.append(f"{each.count} × {area:g} mm²")
    count = sum(each.count for each in wires)
    share = rules.conduit_fill.shares[min(count, 3) - 1]
    for make, size, _, area, *_ in rules.table_rows("common.plan.conduit.inside"):
        if make == kind and float(size) >= rules.conduit_fill.least_mm:
            yield ConduitChoice(
                conduit=f"{float(size):g} mm", used=used, limit=float(area) * share, unit="mm²", parts=tuple(parts),
                source=rules.conduit_fill.source,
            )  # fmt: skip


# ------------------------------------------------------------------------------------------ raceways


def _by_raceway(
    rules: PlanRules, wires: Sequence[Wires], length_m: float, bends: int, kind: str
) -> Iterator[ConduitChoice]:
    """Area of all wires against the share for their number; of one size alone, a quotient that ends in 0.8 is rounded up."""
    areas = {str(size): float(area) for size, _, area in rules.table_rows("na.conduit.thhn")}
    parts, used = [], 0.0
    for each in wires:
        if str(each.size) not in areas:
            raise _not_tabulated(each.size)
        used += areas[str(each.size)] * each.count
        parts.append(f"{each.count} × {areas[str(each.size)]:g} in²")
    count = sum(each.count for each in wires)
    make = kind if kind in ("EMT", "PVC40") else "EMT"
    for size, raceway, one, two, more, _ in rules.table_rows("na.plan.conduit"):
        if raceway == make:
            limit = float((one, two, more)[min(count, 3) - 1])
            if len(wires) == 1:
                limit = max(limit, _rounded(limit, areas[str(wires[0].size)]))
            yield ConduitChoice(
                conduit=f"{size} {make}",
                used=used,
                limit=limit,
                unit="in²",
                parts=tuple(parts),
                source=rules.conduit_fill.source,
            )


def _rounded(limit: float, area: float) -> float:
    """What so many wires of one size take: the next whole number where the quotient ends in 0.8 or more."""
    quotient = limit / area
    whole = math.floor(quotient)
    return area * (whole + 1 if quotient - whole >= 0.8 else whole)
