"""What one stretch of cable loses, line by line: a section of a run, a spur, or the tails."""

from __future__ import annotations

from cmath import exp
from collections.abc import Mapping
from dataclasses import dataclass
from math import acos, pi, sqrt

from vivid_lattice.core.document.job import Cable, Line
from vivid_lattice.core.formulas.cable.drop import drop_figure_mv, volt_drop_v
from vivid_lattice.core.formulas.load_currents import LINE_ANGLES_DEG
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.protocol import CableRules, DropFigure
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True)
class Flow:
    """Currents along a run: of each line, and what of each comes back through the neutral [A]."""

    by_line: Mapping[Line, float]
    to_neutral: Mapping[Line, float]

    @property
    def largest_a(self) -> float:
        """Current of the line that carries most [A]."""
        return max(self.by_line.values())

    @classmethod
    def alike(cls, lines: tuple[Line, ...], current_a: float) -> Flow:
        """The same current in every line; of one line alone it comes back through the neutral."""
        by_line = dict.fromkeys(lines, current_a)
        return cls(by_line, by_line if len(lines) == 1 else {})


@dataclass(frozen=True, slots=True, kw_only=True)
class InstalledSection:
    """A stretch as it is laid: its cable and method, the length that counts, the power factor (None: not known), and the
    correction for a cooler conductor with why it is, or is not, made."""

    label: Text
    cable: Cable
    method: str
    counted_m: float
    power_factor: float | None = None
    correction: float = 1.0
    correction_note: Text = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class StretchDrop:
    """Voltage drop of one stretch, line to neutral: its figure [mV/(A·m)], current, counted length, correction, and what
    the drop of each line [V]. ``how``: what the value is and what current it is multiplied by; ``vector``: the currents of uneven
    lines, each with its angle."""

    label: Text
    mv_per_a_m: float
    current_a: float
    counted_m: float
    correction: float
    correction_note: Text
    by_line: Mapping[Line, float]
    source: Source
    how: Text = ""
    vector: bool = False

    @property
    def drop_v(self) -> float:
        """What the worst line loses [V]."""
        return max(self.by_line.values())


def stretch_drop(laid: InstalledSection, flow: Flow, cables: CableRules, phases: int) -> StretchDrop:
    """Drop of a stretch by the currents in it.

    Equation  one line: mV · I · l / 1000; lines that need no neutral: the figure of one conductor; uneven lines: of the line
              and of what comes back through the neutral, along the line's own voltage
    phases    lines of the supply, for the angles of their voltages
    Source    the rule set's drop tables; IEC 60364-5-52, Annex G for the parts of the figure
    """
    lines = len(flow.by_line)
    uneven = lines > 1 and any(flow.to_neutral.values())
    figure = cables.drop_figure(laid.cable, laid.method, 3 if lines == 3 and not uneven else 2)
    if uneven:
        mv, by_line = _uneven(figure, laid, flow, phases)
        how: Text = message(None, "core.network.drop.uneven")
    else:
        share, key = _SHARES[lines]
        how = message(None, key) if key else ""
        mv = _figure_mv(figure, laid.power_factor) / share
        by_line = {line: volt_drop_v(mv * laid.correction, amps, laid.counted_m) for line, amps in flow.by_line.items()}
    return StretchDrop(
        label=laid.label,
        mv_per_a_m=mv,
        current_a=flow.largest_a,
        counted_m=laid.counted_m,
        correction=laid.correction,
        correction_note=laid.correction_note,
        by_line=by_line,
        source=figure.source,
        how=how,
        vector=uneven,
    )


#: What the table's figure is divided by to be that of one line, and how that is said, by the number of lines.
_SHARES: Mapping[int, tuple[float, str]] = {
    1: (1.0, ""),
    2: (2.0, "core.network.drop.between_two"),
    3: (sqrt(3.0), "core.network.drop.balanced"),
}


def _uneven(figure: DropFigure, laid: InstalledSection, flow: Flow, phases: int) -> tuple[float, dict[Line, float]]:
    """A line loses its own drop, and what the others' return current adds to it or takes off."""
    unknown = laid.power_factor is None or figure.any_power_factor
    lag = 0.0 if unknown else acos(laid.power_factor or 1.0)
    z = complex(figure.z / 2, 0.0) if unknown else complex(figure.r / 2, figure.x / 2)
    angles, by_line = LINE_ANGLES_DEG[phases], {}
    for line, amps in flow.by_line.items():
        back = sum(
            other * exp(1j * pi / 180 * (angles[name] - angles[line])) for name, other in flow.to_neutral.items()
        )
        lost = (z * exp(-1j * lag) * (amps + back)).real
        by_line[line] = max(0.0, lost * laid.correction * laid.counted_m / 1000)
    return abs(z), by_line


def _figure_mv(figure: DropFigure, power_factor: float | None) -> float:
    if figure.any_power_factor:
        return figure.z
    return drop_figure_mv(figure.r, figure.x, figure.z, power_factor)
