"""Currents of loads, before any diversity."""

from __future__ import annotations

from vivid_lattice.core.errors import Need, NeedsInput, OutOfRange
from vivid_lattice.core.job import RESISTIVE_LOADS, Load


def single_phase_current_a(power_w: float, voltage_v: float, power_factor: float) -> float:
    """Current of a single-phase load.

    Equation  I = P / (U · cos φ)

    power_w       P, active power [W], 0 or more
    voltage_v     U, nominal voltage [V], over 0
    power_factor  cos φ [-], over 0, at most 1
    Returns       I [A]
    Raises        OutOfRange
    Source        definition of active power

    >>> round(single_phase_current_a(10500, 230, 1.0), 4)
    45.6522
    """
    if voltage_v <= 0:
        raise OutOfRange("voltage_v", voltage_v, "over 0")
    if not 0 < power_factor <= 1:
        raise OutOfRange("power_factor", power_factor, "over 0 and at most 1")
    return power_w / (voltage_v * power_factor)


def load_current_a(load: Load, voltage_v: float) -> float:
    """Current of a load, all its items together [A].

    Raises NeedsInput where power is missing, or the power factor of a load that is not plain resistance.
    """
    if load.power_w is None:
        raise NeedsInput(Need(f"power of {load.name}", "loads.power_w", "Read the rating plate."))
    factor = load.power_factor
    if factor is None:
        if load.kind not in RESISTIVE_LOADS:
            raise NeedsInput(
                Need(
                    f"power factor of {load.name}",
                    "loads.power_factor",
                    "Rating plate or maker's sheet; taking 1 would make the current look smaller.",
                )
            )
        factor = 1.0
    return single_phase_current_a(load.power_w * load.count, voltage_v, factor)
