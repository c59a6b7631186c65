"""Voltage drop along a run."""

from __future__ import annotations

from math import sqrt

from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.units import volt_from_millivolt


def volt_drop_v(mv_per_a_m: float, current_a: float, length_m: float) -> float:
    """Voltage drop along one run, from the tabulated figure of its cable.

    Equation  U = z · I · l / 1000

    mv_per_a_m  z, tabulated drop [mV/(A·m)], over 0
    current_a   I, design current [A], 0 or more
    length_m    l, one-way length of the route [m], 0 or more
    Returns     U [V]
    Raises      OutOfRange
    Holds for   the conductor at the temperature its table is made for
    Source      BS 7671:2018, Appendix 4, section 6 (from memory)

    >>> round(volt_drop_v(7.3, 32.0, 20.0), 3)
    4.672
    """
    if mv_per_a_m <= 0:
        raise OutOfRange("mv_per_a_m", mv_per_a_m, "over 0")
    if current_a < 0:
        raise OutOfRange("current_a", current_a, "0 or more")
    if length_m < 0:
        raise OutOfRange("length_m", length_m, "0 or more")
    return volt_from_millivolt(mv_per_a_m * current_a * length_m)


def drop_figure_mv(r: float, x: float, z: float, power_factor: float | None) -> float:
    """Tabulated figure for a load of known or unknown power factor.

    Equation  z for unknown cos φ;  r · cos φ + x · sin φ;  z · cos φ where no reactance is tabulated

    r, x, z       resistive, reactive and impedance part [mV/(A·m)]; x 0 at sizes where it is neglected
    power_factor  cos φ of the load [-], over 0 and at most 1; None where it is not known
    Returns       the figure to multiply by current and length [mV/(A·m)]
    Raises        OutOfRange
    Source        BS 7671:2018, Appendix 4, section 6; IEC 60364-5-52:2009, Annex G (from memory)

    >>> round(drop_figure_mv(1.85, 0.160, 1.90, 0.95) * 60 * 40 / 1000, 3)
    4.338
    """
    if power_factor is None:
        return z
    if not 0 < power_factor <= 1:
        raise OutOfRange("power_factor", power_factor, "over 0 and at most 1")
    return z * power_factor if x == 0 else r * power_factor + x * sqrt(1 - power_factor**2)


def operating_temperature_factor(
    permitted_c: float,
    base_c: float,
    ambient_factor: float,
    grouping_factor: float,
    design_a: float,
    tabulated_a: float,
) -> float:
    """Correction of voltage drop for a conductor that runs cooler than its limit.

    Equation  Ct = [230 + tp − (Ca²·Cg² − Ib²/It²)·(tp − t0)] / (230 + tp)

    permitted_c      tp, greatest conductor temperature [°C]
    base_c           t0, ambient the capacity table is made for [°C]
    ambient_factor   Ca [-];  grouping_factor  Cg [-]
    design_a         Ib [A];  tabulated_a  It [A], over 0
    Returns          Ct [-], at most 1: a hotter conductor than its limit is the business of ``capacity``
    Raises           OutOfRange
    Source           BS 7671:2018, Appendix 4, section 6.1 (from memory)

    >>> round(operating_temperature_factor(70, 30, 1.0, 1.0, 13.5, 27), 2)
    0.9
    """
    if tabulated_a <= 0:
        raise OutOfRange("tabulated_a", tabulated_a, "over 0")
    cooler = (ambient_factor * grouping_factor) ** 2 - (design_a / tabulated_a) ** 2
    return min(1.0, (230 + permitted_c - cooler * (permitted_c - base_c)) / (230 + permitted_c))
