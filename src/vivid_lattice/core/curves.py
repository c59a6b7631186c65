"""Time–current characteristics as bands: nothing trips sooner than the lower edge says, everything by the upper one."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import exp, inf, log, sqrt
from typing import Literal

from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.messages import Text
from vivid_lattice.core.sources import Source
from vivid_lattice.core.units import SLACK

OutsideTable = Literal["flat", "energy"]


@dataclass(frozen=True)
class Edge:
    """One edge of a band: points (current [A], time [s]) joined by straight lines on double logarithmic paper.

    Currents never fall, times never rise; two times at one current are a step. Below the first current nothing ever trips.
    Past the last one the time stays ('flat'), or falls with the energy kept ('energy': I²t is that of the last point), but
    not below ``floor_s``, the time that contacts need to part.
    """

    points: tuple[tuple[float, float], ...]
    beyond: OutsideTable = "flat"
    floor_s: float = 0.0

    def __post_init__(self) -> None:
        if not self.points:
            raise OutOfRange("points", 0, "at least one point")
        for (i1, t1), (i2, t2) in pairwise(self.points):
            if i2 < i1:
                raise OutOfRange("current", i2, f"at least {i1:g}: the points of an edge rise")
            if t2 > t1:
                raise OutOfRange("time", t2, f"at most {t1:g}: an edge never rises with current")

    @cached_property
    def _currents(self) -> list[float]:
        return [current for current, _ in self.points]

    def time_s(self, current_a: float, *, after_step: bool) -> float:
        """Time at a current [s]; infinite below the first point.

        after_step  whether a step counts as passed at exactly its own current: so for an upper edge (it must have tripped),
                    not for a lower one (it may still stay closed)
        """
        if current_a < self.points[0][0]:
            return inf
        last_a, last_s = self.points[-1]
        if current_a > last_a:
            return last_s if self.beyond == "flat" else max(last_s * (last_a / current_a) ** 2, self.floor_s)
        find = bisect_right if after_step else bisect_left
        at = find(self._currents, current_a)
        if at == len(self.points):
            return last_s
        (i2, t2) = self.points[at]
        if i2 == current_a or at == 0:
            return t2
        (i1, t1) = self.points[at - 1]
        if i1 == current_a:
            return t1
        share = log(current_a / i1) / log(i2 / i1)
        return t1 * exp(share * log(t2 / t1)) if t2 > 0 else t2

    def current_a(self, time_s: float) -> float:
        """The largest current at which the edge still is at or above a time [A]; infinite where it does for ever."""
        last_a, last_s = self.points[-1]
        if last_s >= time_s:
            return inf if self.beyond == "flat" or time_s <= self.floor_s else last_a * sqrt(last_s / time_s)
        current_a_at = self.points[0][0]
        for (i1, t1), (i2, t2) in pairwise(self.points):
            if t1 >= time_s > t2:
                share = log(time_s / t1) / log(t2 / t1)
                return i1 * exp(share * log(i2 / i1))
            current_a_at = i2
        return current_a_at

    @property
    def last_energy_a2s(self) -> float:
        """I²t of the last point [A²s]: of a fuse, what it takes (lower edge) or lets through (upper) when it is quickest."""
        current, time = self.points[-1]
        return current**2 * time

    @property
    def step_a(self) -> float | None:
        """Current of the first step [A]: where a breaker's instantaneous part begins; None where the edge has none."""
        pairs = pairwise(self.points)
        return next((i1 for (i1, _), (i2, _) in pairs if i1 == i2), None)


@dataclass(frozen=True, kw_only=True)
class Band:
    """A characteristic: the earliest and the latest a device trips, and where its figures stand.

    ``breaker``: it trips at once above a threshold, so that its energy is that of its class and not of its curve.
    """

    name: Text
    lower: Edge
    upper: Edge
    breaker: bool
    sources: tuple[Source, ...]

    def __post_init__(self) -> None:
        crossing = crossing_a(self.lower, self.upper)
        if crossing is not None:
            raise OutOfRange(
                "lower edge", crossing, "nowhere above the upper edge: the edges cross at that current [A]"
            )

    def opens_s(self, current_a: float) -> tuple[float, float]:
        """Earliest and latest opening at a steady current [s]; infinite where it may, or will, never open."""
        return self.lower.time_s(current_a, after_step=False), self.upper.time_s(current_a, after_step=True)

    def typical_s(self, current_a: float) -> float:
        """The geometric middle of both: where a device of this kind usually lies [s]. Common practice, no source."""
        early, late = self.opens_s(current_a)
        return inf if late == inf else sqrt(early * late)

    @property
    def least_a(self) -> float:
        """Below this nothing trips [A]."""
        return self.lower.points[0][0]

    @property
    def certain_trip_a(self) -> float:
        """From this on it trips sooner or later for certain [A]."""
        return self.upper.points[0][0]

    def currents_a(self, most_a: float) -> list[float]:
        """Currents at which either edge turns, up to a largest one, with points between [A]: what must be looked at to
        compare bands, since between two turning points both edges are straight."""
        breakpoints = {current for edge in (self.lower, self.upper) for current, _ in edge.points if current <= most_a}
        return sorted(breakpoints | {most_a})


def crossing_a(lower: Edge, upper: Edge) -> float | None:
    """The smallest current at which a lower edge is above its upper one [A]; None where it never does."""
    turns = sorted({current for edge in (lower, upper) for current, _ in edge.points})
    # Past the last point an edge may still fall: far out it has come down as far as it ever does.
    for turn in [*turns, 1e6 * turns[-1]]:
        # Just below a step it still is, just past it it has come down.
        for current in (turn * (1 - SLACK), turn):
            late = upper.time_s(current, after_step=True)
            early = lower.time_s(current, after_step=True)
            if late < inf and early > late * (1 + 1e-6):
                return turn
    return None
