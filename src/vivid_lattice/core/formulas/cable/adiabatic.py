"""Heat in a conductor while a fault lasts."""

from __future__ import annotations

from math import sqrt

from vivid_lattice.core.errors import OutOfRange


def min_area_for_energy_mm2(energy_a2s: float, k: float) -> float:
    """Least conductor size that a let-through energy does not overheat.

    Equation  S = √(I²t) / k

    energy_a2s  I²t, energy let through until the fault is cleared [A²s], 0 or more
    k           heat constant of conductor and insulation [A·√s/mm²], over 0
    Returns     S [mm²]
    Raises      OutOfRange
    Holds for   all heat kept in the conductor, which is so for times to 5 s; the tables of devices end there
    Source      BS 7671:2018, 434.5.2 and 543.1.3 (from memory)

    >>> round(min_area_for_energy_mm2(45000, 115), 4)
    1.8446
    """
    if energy_a2s < 0:
        raise OutOfRange("energy_a2s", energy_a2s, "0 or more")
    if k <= 0:
        raise OutOfRange("k", k, "over 0")
    return sqrt(energy_a2s) / k
