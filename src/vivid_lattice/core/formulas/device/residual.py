"""How a residual-current device answers: which currents it sees, and how soon it trips at the earliest and the latest."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import inf
from typing import Literal

from vivid_lattice.core.messages import Text
from vivid_lattice.core.sources import Source
from vivid_lattice.core.units import SLACK

Waveform = Literal["ac", "pulsating", "smooth"]


@dataclass(frozen=True, slots=True)
class ResidualPoint:
    """From this multiple of the rated residual current on: it holds at least, and has tripped at the latest [s]."""

    multiple: float
    holds_s: float
    opens_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ResidualBand:
    """A residual-current characteristic.

    idn_a      rated residual current IΔn [A]
    sees       the currents it answers to: least and most, in times IΔn; a waveform that is not in it, it does not see
    steps      its times by multiples of what certainly trips it, smallest first; below the first it may stay closed
    dc_a       smooth direct current it still works under [A]; infinite where it sees that itself
    """

    name: Text
    idn_a: float
    sees: Mapping[Waveform, tuple[float, float]]
    steps: tuple[ResidualPoint, ...]
    dc_a: float
    source: Source
    #: Where the time falls smoothly with current: (numerator [A], exponent) of t = (numerator / I) ^ exponent.
    inverse: tuple[float, float] | None = None

    def opens_s(self, residual_a: float, waveform: Waveform = "ac", dc_ahead_a: float = 0.0) -> tuple[float, float]:
        """Earliest and latest opening [s] at a residual current; infinite where it may, or will, stay closed.

        dc_ahead_a  smooth direct current that runs through it as well [A]; more than it is blinds it: it may still
                    open at once, and may never
        """
        seen = self.sees.get(waveform)
        if seen is None:
            return inf, inf
        least, most = seen
        if residual_a < least * self.idn_a:
            return inf, inf
        multiple = residual_a / (most * self.idn_a)
        early, late = self._at(multiple, residual_a)
        return early, inf if dc_ahead_a > self.dc_a else late

    def _at(self, multiple: float, residual_a: float) -> tuple[float, float]:
        slack = multiple * (1 + SLACK)
        if self.inverse is not None:
            return 0.0, (self.inverse[0] / residual_a) ** self.inverse[1] if slack >= 1 else inf
        reached = [step for step in self.steps if step.multiple <= slack]
        early = max((step.holds_s for step in self.steps[:1]), default=0.0) if not reached else reached[-1].holds_s
        return early, reached[-1].opens_s if reached else inf
