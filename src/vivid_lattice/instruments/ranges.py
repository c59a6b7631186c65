"""The modes of the simulated tester: which readings each takes, its range and its resolution."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from vivid_lattice.core.rules import rule_set

_TABLE = "common.instrument.ranges"


@dataclass(frozen=True, slots=True)
class Mode:
    """A mode: the readings it takes, its range, resolution and unit, and whether it needs the circuit live."""

    name: str
    readings: frozenset[str]
    least: float
    most: float
    resolution: float
    unit: str
    live: bool

    def shown(self, value: float) -> str:
        """A value as it is displayed: to the resolution, beyond the range with its sign.

        Rounded like a display does, half up; of a reading the uncertainty says how far it is to be believed.
        """
        if value > self.most:
            return f">{self.most:g}"
        steps = int(value / self.resolution + 0.5)
        digits = len(f"{self.resolution:g}".partition(".")[2])
        return f"{steps * self.resolution:.{digits}f}"


@lru_cache
def modes() -> tuple[Mode, ...]:
    """Every mode, in the order of the table."""
    rows = rule_set("uk").data.table(_TABLE).rows
    return tuple(
        Mode(str(name), frozenset(str(readings).split()), float(least), float(most), float(step), str(unit), bool(live))
        for name, readings, least, most, step, unit, live in rows
    )


def mode_for(test: str, *, no_trip: bool = False) -> str | None:
    """The mode for a reading; None for what is seen and not read."""
    if no_trip and test == "zs":
        return "loop-no-trip"
    names = [mode.name for mode in modes() if test in mode.readings]
    # What may be read at either voltage is read at 500 V.
    return max(names, key=lambda name: name != "insulation-250", default=None)
