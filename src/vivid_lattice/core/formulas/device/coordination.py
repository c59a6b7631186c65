"""Two devices in series: does the one nearer the fault open alone?

Two regions are told apart. Under overload and moderate fault both devices are judged by time: the downstream one's latest
against the upstream one's earliest, at every current. Above, where both act within half a wave, times mean nothing: a fuse
is judged by energy, a breaker by the current at which its instantaneous part may begin.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from math import inf

from vivid_lattice.core.curves import Band
from vivid_lattice.core.units import SLACK

#: Below this the product standards compare energies and no longer times [s].
MOMENT_S = 0.1
_JUST_BELOW = 1 - SLACK


@dataclass(frozen=True, slots=True, kw_only=True)
class OverloadOrder:
    """How two bands stand to each other under overload.

    kept       the downstream one has tripped before the upstream one may, at every current
    typical    the middles of both bands keep that order everywhere
    at_a       the current at which they come nearest, or cross most [A]
    down_s     latest opening of the downstream device there [s];  up_s  earliest of the upstream one [s]
    from_a     where they begin to race, and to_a where they end [A]; None where the order is kept
    """

    selective: bool
    typical: bool
    at_a: float
    down_s: float
    up_s: float
    from_a: float | None
    to_a: float | None


def overload_order(up: Band, down: Band) -> OverloadOrder:
    """The order of two bands from the upstream device's least current to where it acts at once.

    Source  IEC 60364-5-53:2019, 536.4.1.2: tripping curves of devices in series do not cross (from memory)
    """
    start, end = up.least_a, _acts_at_once_a(up)
    below = _currents_between(up, down, start, end)
    racing = [(current, *_pair(up, down, current)) for current in below]
    # Where both act within a moment times say little: what is told is how near they come before that.
    slow = [item for item in racing if item[1] > MOMENT_S * (1 + 1e-6)]
    at = max(slow or racing, key=lambda item: _ratio(item[1], item[2]))
    crossed = [current for current, late, early in racing if late > early]
    typical = all(_sooner(down.typical_s(current), up.typical_s(current)) for current in below)
    stays = all(current >= down.certain_trip_a for current in crossed) or down.certain_trip_a <= up.certain_trip_a
    return OverloadOrder(
        selective=not crossed,
        typical=typical and stays,
        at_a=at[0],
        down_s=at[1],
        up_s=at[2],
        from_a=min(crossed) if crossed else None,
        to_a=max(crossed) if crossed else None,
    )


def _pair(up: Band, down: Band, current_a: float) -> tuple[float, float]:
    return down.opens_s(current_a)[1], up.opens_s(current_a)[0]


def _sooner(down_s: float, up_s: float) -> bool:
    return down_s < up_s or down_s == up_s == inf


def _ratio(late_s: float, early_s: float) -> float:
    if late_s == inf:
        return inf if early_s < inf else 0.0
    return 0.0 if early_s == inf else late_s / early_s


def _dense(turns: list[float]) -> list[float]:
    """Turning points and, between each two, four more: edges are straight on double logarithmic paper, their ratio too."""
    currents_a: list[float] = []
    for low, high in pairwise(turns):
        currents_a += [low * (high / low) ** (part / 4) for part in range(4)]
    return [*currents_a, turns[-1]]


def _acts_at_once_a(band: Band) -> float:
    """From here on a device may act within a moment [A]."""
    step = band.lower.step_a
    return step if step is not None else band.lower.current_a(MOMENT_S)


@dataclass(frozen=True, slots=True)
class SelectivityLimit:
    """Up to which prospective current the downstream device clears a short circuit alone [A]; infinite: always.

    ``by``: what decided, 'bands', 'energy', or the 'delay' of an upstream device that waits. ``up_a2s``: what the upstream fuse takes before it melts, where that counts.
    """

    current_a: float
    by: str
    up_a2s: float | None


def short_circuit_reach(
    up: Band, down: Band, let_through_a2s: Callable[[float], float | None], probes_a: tuple[float, ...]
) -> SelectivityLimit:
    """How far a pair is selective under short circuit.

    let_through_a2s  energy that the downstream device lets through at a prospective current [A²s]; None: not held
    probes_a         currents at which that is asked, smallest first [A]
    Source           IEC 60269-2 and IEC 60947-2, annex on coordination: a fuse stays whole below its least pre-arcing energy, a
                     breaker stays closed below its least instantaneous current (from memory)
    """
    if up.breaker:
        return SelectivityLimit(_acts_at_once_a(up), "bands", None)
    takes = up.lower.last_energy_a2s
    by_bands = up.lower.current_a(MOMENT_S) if down.breaker else 0.0
    if not down.breaker and down.upper.last_energy_a2s <= takes * (1 + SLACK):
        return SelectivityLimit(inf, "energy", takes)
    if not down.breaker:
        return SelectivityLimit(_fuses_by_time_a(up, down), "bands", takes)
    reached = by_bands
    for current in probes_a:
        energy = let_through_a2s(current)
        if energy is None or energy > takes:
            break
        reached = max(reached, current)
    return SelectivityLimit(reached, "energy" if reached > by_bands else "bands", takes)


def _fuses_by_time_a(up: Band, down: Band) -> float:
    """Largest current up to which the slow edge of one fuse stays below the quick edge of another [A]."""
    best = 0.0
    for current in _dense(sorted({*up.currents_a(1e5), *down.currents_a(1e5)})):
        late, early = _pair(up, down, current)
        if late > early and late < inf:
            break
        best = current
    return best


def _currents_between(up: Band, down: Band, start_a: float, end_a: float) -> list[float]:
    """Currents at which two bands are compared [A]: where either of them turns, and densely between."""
    turns = {
        start_a,
        end_a,
        *(current for band in (up, down) for current in band.currents_a(end_a) if start_a <= current),
    }
    # An edge that steps has two times at one current, and just below it the slower one still holds; at the end itself the
    # upstream device may act at once, and what is asked is what happens before.
    return [at for current in _dense(sorted(turns)) for at in (current * _JUST_BELOW, current) if start_a <= at < end_a]
