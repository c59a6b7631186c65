"""Resistance of the conductors of a run, cold and warm, straight and as a ring."""

from __future__ import annotations

from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.units import ohm_from_mohm


def conductor_ohm(mohm_per_m: float, length_m: float, hot_factor: float = 1.0) -> float:
    """Resistance of one conductor.

    Equation  R = r · l · f / 1000

    mohm_per_m  r, resistance at 20 °C [mΩ/m], over 0
    length_m    l, length [m], over 0
    hot_factor  f, multiplier to the temperature wanted [-], over 0
    Returns     R [Ω]
    Raises      OutOfRange
    Source      IEC 60228 figures; multipliers of the on-site guidance, Table I3 (from memory)

    >>> round(conductor_ohm(7.41 + 12.1, 20, 1.2), 3)
    0.468
    """
    if mohm_per_m <= 0:
        raise OutOfRange("mohm_per_m", mohm_per_m, "over 0")
    if length_m <= 0:
        raise OutOfRange("length_m", length_m, "over 0")
    if hot_factor <= 0:
        raise OutOfRange("hot_factor", hot_factor, "over 0")
    return ohm_from_mohm(mohm_per_m * length_m) * hot_factor


def ring_mid_ohm(end_to_end_ohm: float) -> float:
    """Resistance at the furthest point of a ring: two halves in parallel.

    Equation  R = (R/2 ∥ R/2) = R / 4

    end_to_end_ohm  resistance once round the loop [Ω], 0 or more
    Returns         resistance from the origin to the furthest point [Ω]
    Raises          OutOfRange
    Source          two equal resistances in parallel; BS 7671:2018, 643.2.1 (from memory)

    >>> ring_mid_ohm(0.6 + 1.0)
    0.4
    """
    if end_to_end_ohm < 0:
        raise OutOfRange("end_to_end_ohm", end_to_end_ohm, "0 or more")
    return end_to_end_ohm / 4


def temperature_factor(temperature_c: float, beta_c: float = 234.5) -> float:
    """Resistance at a temperature over that at 20 °C.

    Equation  f = (β + θ) / (β + 20)

    temperature_c  θ [°C], over −β
    beta_c         β, 234.5 for copper, 228 for aluminium [°C]
    Returns        f [-]
    Raises         OutOfRange
    Source         IEC 60364-5-54:2011, Annex A; IEC 60228:2004, Annex A (from memory)

    >>> round(temperature_factor(70.0), 4), round(temperature_factor(75.0), 4)
    (1.1965, 1.2161)
    """
    if temperature_c <= -beta_c:
        raise OutOfRange("temperature_c", temperature_c, f"over {-beta_c:g}")
    return (beta_c + temperature_c) / (beta_c + 20.0)


def factor_of_day(temperature_c: float, per_kelvin: float, reference_c: float) -> float:
    """What a conductor's resistance is multiplied by at a temperature.

    Equation  1 + α·(t − t0)
    Source    the rule set's rule ``common.test.temperature``

    >>> factor_of_day(20, 0.004, 20), factor_of_day(5, 0.004, 20)
    (1.0, 0.94)
    """
    return 1 + per_kelvin * (temperature_c - reference_c)
