"""Holes and notches in sawn timber against the limits of the standard."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.fixing_rules import TimberLimits

#: Exact limits are allowed, whatever the last binary digit [m].
_EXACT = 1e-9


@dataclass(frozen=True, slots=True)
class Bore:
    """A hole on the centre line, or a notch, at a distance from the nearer support [m]. ``size_m``: diameter, or depth."""

    kind: Literal["hole", "notch"]
    at_m: float
    size_m: float


@dataclass(frozen=True, slots=True)
class Timber:
    """A member: depth and clear span [m]; of a stud the height it has between plates."""

    depth_m: float
    span_m: float


def hole_at_most_m(timber: Timber, limits: TimberLimits) -> float:
    """The greatest hole by the depth alone, and by its edges where the standard has a least distance [m]."""
    by_share = limits.hole_share * timber.depth_m
    if limits.edge_m is None:
        return by_share
    return min(by_share, max(0.0, timber.depth_m - 2 * limits.edge_m))


def notch_at_most_m(timber: Timber, limits: TimberLimits) -> float:
    """The deepest notch [m]."""
    return limits.notch_share * timber.depth_m


def zone_m(timber: Timber, limits: TimberLimits, kind: Literal["hole", "notch"]) -> tuple[float, float]:
    """Where holes or notches may be, from the nearer support [m]."""
    shares = (limits.hole_from, limits.hole_to) if kind == "hole" else (limits.notch_from, limits.notch_to)
    return shares[0] * timber.span_m, shares[1] * timber.span_m


def apart_m(one_m: float, other_m: float, limits: TimberLimits) -> float:
    """How far two holes are apart at least, centre to centre [m]."""
    return max(limits.apart_diameters * max(one_m, other_m), limits.apart_m + (one_m + other_m) / 2)


def edge_cover_m(timber: Timber, bore: Bore) -> float:
    """How far what is in a hole on the centre line, or in a notch, is from the nearer edge [m]."""
    return (timber.depth_m - bore.size_m) / 2 if bore.kind == "hole" else 0.0


def needs_protection(timber: Timber, bore: Bore, limits: TimberLimits) -> bool:
    """Whether a cable there is nearer to an edge than the standard lets it be unprotected."""
    return edge_cover_m(timber, bore) < limits.cover_m - _EXACT


def refused(timber: Timber, bore: Bore, limits: TimberLimits) -> Text | None:
    """Why a hole or notch is not allowed by itself; None: it is.

    Source  the limits of the standard; equal is allowed
    """
    if limits.deepest_m is not None and timber.depth_m > limits.deepest_m + _EXACT:
        return message(None, "core.plan.fixing.too_deep", depth=_mm(timber.depth_m), most=_mm(limits.deepest_m))
    most = hole_at_most_m(timber, limits) if bore.kind == "hole" else notch_at_most_m(timber, limits)
    if bore.size_m > most + _EXACT:
        return message(None, f"core.plan.fixing.{bore.kind}_size", size=_mm(bore.size_m), most=_down_mm(most))
    begin, end = zone_m(timber, limits, bore.kind)
    if not begin - _EXACT <= bore.at_m <= end + _EXACT:
        return message(
            None, f"core.plan.fixing.{bore.kind}_zone", at=f"{bore.at_m:.2f}", begin=f"{begin:.2f}", end=f"{end:.2f}"
        )
    return None


def too_close(bore: Bore, others: Sequence[Bore], limits: TimberLimits) -> Text | None:
    """Why a hole or notch is too close to others of the same member; None: it is not."""
    for other in others:
        gap = abs(bore.at_m - other.at_m)
        if bore.kind == other.kind == "hole":
            least = apart_m(bore.size_m, other.size_m, limits)
        elif bore.kind != other.kind:
            least = limits.notch_clear_m
        else:
            continue
        if gap < least - _EXACT:
            return message(None, "core.plan.fixing.too_close", gap=_down_mm(gap), least=_mm(least))
    return None


def _mm(metres: float) -> str:
    return f"{metres * 1000:g}"


def _down_mm(metres: float) -> str:
    """Millimetres to a tenth, rounded down: a limit is not flattered."""
    return f"{int(metres * 10_000 + 1e-6) / 10:g}"
