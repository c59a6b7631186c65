"""Clips of cables, and saddles, bends and straight parts of conduit, section by section."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.fixing.counting import fixings
from vivid_lattice.core.plan.fixing.laid_cables import LaidCable
from vivid_lattice.core.plan.fixing.places import Place, place_of
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.rules.fixing_rules import Direction, Supports
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.sources import Source

#: Parts that need no clip of their own: they are held by the members they go through, or hang inside a hollow wall.
_HELD_BY_ITSELF = ("joists", "studs", "site")
#: Points whose entry must stay free: conduit stops short of them.
_STAYS_FREE = ("light", "sensor", "fan")


@dataclass(frozen=True, slots=True, kw_only=True)
class ClippedPart:
    """A straight part with its fixings. ``length_m``: of what is fixed; ``count`` None: the plan does not say what it is fixed to."""

    length_m: float
    direction: Direction
    held: str
    count: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class FixedSection:
    """A section with its fixings.

    circuit, a, b   the section;  what: its cable
    conduit         where it is single wires: the conduit's name, with ``bends``; '' of cables
    parts           straight parts one by one;  source: of the spacing
    """

    circuit: str
    a: str
    b: str
    what: Text
    conduit: str
    bends: int
    parts: tuple[ClippedPart, ...]
    source: Source

    @property
    def count(self) -> int:
        """Fixings that are known."""
        return sum(part.count or 0 for part in self.parts)

    @property
    def open_m(self) -> float:
        """Length of parts whose fixings are not known [m]."""
        return sum(part.length_m for part in self.parts if part.count is None)


def fixed_section(laid: LaidCable, house: House, rules: RuleSet, kinds: dict[str, str]) -> FixedSection:
    """The fixings of a section; ``kinds``: of the points, by id.

    Source  the standard's table of clips, or common practice of neat work for conduit
    """
    parts = tuple(_parts(laid, house, rules, kinds))
    sample = _supports(laid, rules, "horizontal")
    size = f"{laid.conduit_mm:g} mm" if laid.conduit_mm is not None else "?" if laid.wires else ""
    return FixedSection(
        circuit=laid.plan.circuit.id,
        a=laid.section.a,
        b=laid.section.b,
        what=laid.what,
        conduit=size,
        bends=sum(1 for _ in itertools.pairwise(laid.route)) if laid.wires else 0,
        parts=parts,
        source=sample.source,
    )


def _parts(laid: LaidCable, house: House, rules: RuleSet, kinds: dict[str, str]) -> Iterator[ClippedPart]:
    last = len(laid.route) - 1
    for number, leg in enumerate(laid.route):
        place = place_of(leg, house)
        direction: Direction = "vertical" if leg.upright else "horizontal"
        length = leg.length_m
        if laid.wires:
            ends = [laid.section.a] * (number == 0) + [laid.section.b] * (number == last)
            length -= sum(rules.fixing.stop_short_m for end in ends if kinds.get(end) in _STAYS_FREE)
        if length <= 0:
            continue
        yield ClippedPart(
            length_m=round(length, 3),
            direction=direction,
            held=place.held,
            count=_count(laid, leg, place, length, direction, rules),
        )


def _count(
    laid: LaidCable, leg: Leg, place: Place, length_m: float, direction: Direction, rules: RuleSet
) -> int | None:
    if place.held in _HELD_BY_ITSELF:
        return 0
    if place.held == "unknown":
        return None
    supports = _supports(laid, rules, direction)
    if place.held == "hollow" and not rules.fixing.staples_in_walls:
        return 0
    return fixings(length_m, supports)


def _supports(laid: LaidCable, rules: RuleSet, direction: Direction) -> Supports:
    if laid.wires:
        return rules.fixing.saddles()
    wide = None if laid.outside is None else laid.outside.wide_least_mm
    return rules.fixing.clips(wide, direction)
