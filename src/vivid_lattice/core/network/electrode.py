"""The resistance of an earth electrode of rods to true earth."""

from __future__ import annotations

from math import log, pi

from vivid_lattice.core.document.supply import Electrode
from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown, shown

#: Rods a length apart help each other a little less than their number says.
_RODS_TOGETHER = 0.8
_PHYSICS = Source("physics", "fault.formulas", "formula")


def rod_ohm(soil_ohm_m: float, length_m: float, diameter_m: float) -> float:
    """Resistance of one vertical rod.

    Equation  R = ρ / (2π·L) · (ln(8L/d) − 1)

    soil_ohm_m  ρ [Ω·m], over 0;  length_m  L [m];  diameter_m  d [m], each over 0
    Returns     R [Ω]
    Raises      OutOfRange
    Source      IEC 60364-5-54:2011, Annex D; the usual formula of a driven rod (from memory)

    >>> round(rod_ohm(100.0, 2.5, 0.016), 3)
    39.031
    """
    for name, value in (("soil_ohm_m", soil_ohm_m), ("length_m", length_m), ("diameter_m", diameter_m)):
        if value <= 0:
            raise OutOfRange(name, value, "over 0")
    return soil_ohm_m / (2 * pi * length_m) * (log(8 * length_m / diameter_m) - 1)


def rods_ohm(rod_alone_ohm: float, rods: int, spacing_m: float, soil_ohm_m: float) -> float:
    """Resistance of rods driven in a line, each in the soil that the others warm with their potential.

    Equation  Rn = R / n · (1 + λ·a),  a = ρ / (2π·R·s),  λ = 2·(1/2 + 1/3 + … + 1/n)

    rod_alone_ohm  R, one rod alone [Ω];  rods  n, from 1;  spacing_m  s [m];  soil_ohm_m  ρ [Ω·m], each over 0
    Returns        Rn [Ω]
    Raises         OutOfRange
    Source         BS 7430:2011, 9.5.4 (from memory). Its table has λ = 1.00, 1.66, 2.15, 2.54 for two to five rods; this series is no smaller

    >>> round(rods_ohm(39.031, 2, 2.5, 100.0), 2), rods_ohm(39.031, 1, 2.5, 100.0)
    (22.7, 39.031)
    """
    if rods < 1:
        raise OutOfRange("rods", rods, "from 1")
    if min(rod_alone_ohm, spacing_m, soil_ohm_m) <= 0:
        raise OutOfRange("spacing_m", spacing_m, "over 0")
    together = 2 * sum(1 / number for number in range(2, rods + 1))
    return rod_alone_ohm / rods * (1 + together * soil_ohm_m / (2 * pi * rod_alone_ohm * spacing_m))


def electrode_ohm(electrode: Electrode) -> float:
    """Resistance of the rods of an electrode together [Ω]. Where their spacing is not stated they are a rod's length apart, and
    together no better than by the usual factor of 0.8."""
    alone = rod_ohm(electrode.soil_ohm_m, electrode.rod_length_m, electrode.rod_diameter_mm / 1000)
    spacing_m = electrode.spacing_m or electrode.rod_length_m
    together = rods_ohm(alone, electrode.rods, spacing_m, electrode.soil_ohm_m)
    if electrode.rods == 1 or electrode.spacing_m is not None:
        return together
    return max(together, alone / (electrode.rods * _RODS_TOGETHER))


def electrode_steps(electrode: Electrode) -> list[Step]:
    """How the resistance of an electrode was found: of one rod, then of all of them."""
    rod_alone_ohm = rod_ohm(electrode.soil_ohm_m, electrode.rod_length_m, electrode.rod_diameter_mm / 1000)
    figures = f"{electrode.soil_ohm_m:g} Ω·m, {electrode.rod_length_m:g} m, {electrode.rod_diameter_mm:g} mm"
    meaning = message(None, "core.network.loop.rod")
    steps = [ohm_step("R", meaning, "ρ / (2π·L) · (ln(8L/d) − 1)", figures, rod_alone_ohm)]
    if electrode.rods > 1:
        spacing_m = electrode.spacing_m or electrode.rod_length_m
        meaning = message(None, "core.network.loop.rods", n=electrode.rods, m=Shown(f"{spacing_m:g}"))
        rods_text = f"{shown(rod_alone_ohm)}, n = {electrode.rods}, s = {spacing_m:g} m"
        steps.append(ohm_step("RA", meaning, "R / n · (1 + λ·ρ / (2π·R·s))", rods_text, electrode_ohm(electrode)))
    return steps


def ohm_step(symbol: str, meaning: Text, formula: Text, figures: str, result: float) -> Step:
    """A line of a calculation whose result is an impedance [Ω]."""
    return Step(
        symbol=symbol,
        meaning=meaning,
        formula=formula,
        figures=figures,
        result=result,
        unit="Ω",
        shown=shown(result),
        source=_PHYSICS if formula != "given" else None,
    )
