"""From an old way to a new one: the cable is the limit, never the old fuse."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.existing_board import EMPTY, ExistingBoard, ExistingWay
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job
from vivid_lattice.core.entry.devices import OLD_DEVICES
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import SLACK

#: An old rating and the modern one that replaces it differ by no more than this: 30 A and 32 A, 5 A and 6 A.
_NEAR = 1.21


@dataclass(frozen=True, slots=True)
class CapacityRange:
    """What a conductor carries [A]: at the very best and at the worst of the methods it may be laid by; ``method`` where one
    is known."""

    max_a: float
    min_a: float
    method: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RatingTransfer:
    """An old way and what it becomes. ``existing_rating_a`` and ``nearest_rating_a``: its rating and the modern one next to it; ``cable_a``: what
    its conductor carries as it is laid, or, unknown, as in an insulated wall (where the standard has none: by its usual
    method); ``new_a``: the rating to take, None where the conductor is not known."""

    way: int
    name: str
    old: Text
    existing_rating_a: float | None
    nearest_rating_a: float | None
    cable_a: float | None
    new_a: float | None
    reason: Text
    source: Source


def _by_method(rules: RuleSet, cable: Cable) -> dict[str, float]:
    """What a cable carries by each method that its table has [A]."""
    figures: dict[str, float] = {}
    for method in rules.factors.methods:
        try:
            figures[method] = rules.cables.capacity_a(cable, method).value
        except NeedsInput:
            continue
    return figures


def capacity_as_found(job: Job, rules: RuleSet, way: ExistingWay) -> CapacityRange | None:
    """What the conductor of a way carries; None where its size was not written down, or the tables hold none."""
    if way.conductor_mm2 is None:
        return None
    ring = way.cable_count > 1 and rules.limits.knows_rings
    cable = Cable(type=rules.default_cable, area_mm2=way.conductor_mm2)
    circuit = _circuit(job, way)
    known = (
        {section.method for section in circuit.run if section.length_m is not None} if circuit is not None else set()
    )
    figures = _by_method(rules, cable)
    if not figures:
        return None
    laid = [figures[method] for method in known if method in figures]
    least = min(laid) if laid else _least_a(rules, figures)
    # Both ends of a ring share its current: each leg carries at least the share the rule set has in its ring rule.
    best = max(figures.values())
    if ring:
        best, least = best * 2, _ring_a(rules, least)
    return CapacityRange(best, least, next(iter(known), "") if laid else "")


def _ring_a(rules: RuleSet, leg_a: float) -> float:
    """What a ring of two legs may be protected at [A]: the rule set's greatest, where each leg carries what its rule asks."""
    rule = rules.limits.ring(Device(kind=next(iter(rules.devices.kinds)), rating_a=32.0))
    return rule.max_device_a if leg_a >= rule.min_iz_a else leg_a


def _circuit(job: Job, way: ExistingWay) -> Circuit | None:
    return job.find_circuit(way.circuit)


def rating_transfers(job: Job, rules: RuleSet, board: ExistingBoard) -> tuple[RatingTransfer, ...]:
    """Every way that holds a device, with what becomes of it.

    Source  common practice: never raise a rating because the old fuse was odd; the cable is the limit
    """
    return tuple(_mapped(job, rules, way) for way in board.ways if way.kind not in EMPTY)


def _mapped(job: Job, rules: RuleSet, way: ExistingWay) -> RatingTransfer:
    circuit = _circuit(job, way)
    near, carries = _nearest_a(rules, way), capacity_as_found(job, rules, way)
    cable = None if carries is None or near is None else carries.min_a
    new, reason = _new_a(rules, way, near, carries)
    return RatingTransfer(
        way=way.number,
        name=circuit.name if circuit else way.actually_feeds or way.label or f"Way {way.number}",
        old=existing_way_text(rules, way),
        existing_rating_a=way.rating_a,
        nearest_rating_a=near,
        cable_a=cable,
        new_a=new,
        reason=reason,
        source=rules.board.source("mapping"),
    )


def _nearest_a(rules: RuleSet, way: ExistingWay) -> float | None:
    """The rating of today nearest to the old one [A]: at it or little above, else the next below."""
    old, ratings = way.rating_a, _standard(rules, way)
    if old is None:
        return None
    near = next((rating for rating in ratings if old - SLACK <= rating <= old * _NEAR), None)
    return near if near is not None else max((rating for rating in ratings if rating <= old), default=None)


def _new_a(
    rules: RuleSet, way: ExistingWay, near: float | None, carries: CapacityRange | None
) -> tuple[float | None, Text]:
    """The new rating [A], None where it cannot be told or none is small enough, and why."""
    if carries is None:
        return None, message(None, "core.survey.rating.needs_size")
    if near is None:
        return None, message(None, "core.survey.rating.needs_rating")
    how: Text = message(None, "core.survey.rating.method", method=carries.method) if carries.method else _unknown(rules)
    reason = message(None, "core.survey.rating.capacity", iz=Shown(f"{carries.min_a:g}"), how=how)
    if carries.min_a >= near - SLACK:
        return near, reason
    lower = max((rating for rating in _standard(rules, way) if rating <= carries.min_a + SLACK), default=None)
    return lower, message(None, "core.survey.rating.below", reason=reason, a=Shown(f"{near:g}"))


def _unknown(rules: RuleSet) -> Text:
    """How a conductor is assumed to be installed where it is not known."""
    methods = rules.factors.methods
    if any(method.picture == "insulated-wall" for method in methods.values()):
        return message(None, "core.survey.rating.insulated_wall")
    return message(None, "core.survey.rating.assumed", method=methods[rules.default_method].title)


def _standard(rules: RuleSet, way: ExistingWay) -> tuple[float, ...]:
    """Ratings that the standard's usual device for a fixed load is had in today: sockets may have a kind of fewer ratings."""
    usual = rules.devices.default_device(
        Circuit.model_validate(
            {"id": "c", "name": "c", "kind": "fixed", "run": ({"length_m": 1.0, "method": rules.default_method},)}
        ),
        way.rating_a or 16.0,
    )
    kind = rules.devices.kind(usual.kind)
    # Of two ratings that mean the same, the one of old (5, 15, 30 A) yields to the one that is commonly had.
    return tuple(
        rating_a
        for rating_a in kind.ratings_a
        if rating_a in kind.common_ratings_a
        or not any(rating_a < other <= rating_a * _NEAR for other in kind.common_ratings_a)
    )


def existing_way_text(rules: RuleSet, way: ExistingWay) -> Text:
    """A way's device as it is said: '30 A rewirable fuse', 'B32', 'blank'."""
    if way.kind in EMPTY:
        return message(None, f"core.survey.way.{way.kind}")
    kind = rules.devices.kinds.get(way.kind)
    rating = f"{way.rating_a:g}" if way.rating_a is not None else "?"
    if way.curve:
        return f"{way.curve}{rating}"
    if way.old_type:
        return message(None, "core.survey.way.old_type", a=rating, type=way.old_type)
    return f"{rating} A {kind.title.lower() if kind else OLD_DEVICES.get(way.kind, way.kind)}"


def _least_a(rules: RuleSet, figures: Mapping[str, float]) -> float:
    """What a conductor carries that no one saw the run of [A]: in an insulated wall, or as usual, or the least of all."""
    walled = [amps for method, amps in figures.items() if rules.factors.methods[method].picture == "insulated-wall"]
    usual = [amps for method, amps in figures.items() if method == rules.default_method]
    return min(walled or usual or figures.values())
