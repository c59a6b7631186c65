"""Currents of loads, before any diversity, and over which lines they flow."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import sqrt

from vivid_lattice.core.document.job import RESISTIVE_LOADS, Circuit, Line, Load
from vivid_lattice.core.errors import Need, NeedsInput, OutOfRange
from vivid_lattice.core.messages import message

#: Angle of each line's voltage to neutral [degrees], by the number of lines of the supply.
LINE_ANGLES_DEG: Mapping[int, Mapping[Line, float]] = {
    1: {"L1": 0.0},
    2: {"L1": 0.0, "L2": 180.0},
    3: {"L1": 0.0, "L2": -120.0, "L3": 120.0},
}
#: Voltage between two lines over that from line to neutral, by the number of lines of the supply.
BETWEEN_LINES: Mapping[int, float] = {1: 1.0, 2: 2.0, 3: sqrt(3.0)}


#: What a supply is called by the number of its lines.
SUPPLY_WORDS: Mapping[int, str] = {1: "single-phase", 2: "split-phase", 3: "three-phase"}


def supply_title(phases: int, nominal_v: float) -> str:
    """A supply by its lines and voltages, the one between lines to the next ten as it is named.

    >>> supply_title(1, 230.0), supply_title(2, 120.0), supply_title(3, 230.0)
    ('single-phase, 230 V', 'split-phase, 120/240 V', 'three-phase, 230/400 V')
    """
    between = "" if phases == 1 else f"/{10 * round(nominal_v * BETWEEN_LINES[phases] / 10)}"
    return f"{SUPPLY_WORDS[phases]}, {nominal_v:g}{between} V"


@dataclass(frozen=True, slots=True)
class CircuitSupply:
    """How a circuit is supplied: its lines, of how many the supply has, and the voltage from line to neutral [V]."""

    lines: tuple[Line, ...]
    phases: int
    nominal_v: float


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


def driving_v(lines: int, phases: int, nominal_v: float) -> float:
    """Voltage by which a power becomes the current of each of its lines [V]: U, U between two lines, or 3 · U.

    >>> driving_v(1, 3, 230.0), driving_v(2, 2, 120.0), driving_v(3, 3, 230.0)
    (230.0, 240.0, 690.0)
    """
    if lines == 3:
        return 3 * nominal_v
    return nominal_v * BETWEEN_LINES[phases] if lines == 2 else nominal_v


def lines_of_load(load: Load, supplied: CircuitSupply) -> tuple[Line, ...]:
    """The lines a load is on: its own, or all of its circuit's."""
    return load.lines or supplied.lines


def load_current_a(load: Load, supplied: CircuitSupply) -> float:
    """Current of a load in each of its lines, all its items together [A].

    Raises NeedsInput where power is missing, or the power factor of a load that is not plain resistance.
    """
    if load.power_w is None:
        raise NeedsInput(
            Need(
                message(None, "core.rules.demand.need.power.what", load=load.name),
                "loads.power_w",
                message(None, "core.rules.demand.need.power.ask"),
            )
        )
    volts = driving_v(len(lines_of_load(load, supplied)), supplied.phases, supplied.nominal_v)
    return single_phase_current_a(load.power_w * load.items, volts, power_factor_of(load))


def power_factor_of(load: Load) -> float:
    """Power factor of a load; that of plain resistance is 1. NeedsInput where it is not known."""
    if load.power_factor is not None:
        return load.power_factor
    if load.kind in RESISTIVE_LOADS:
        return 1.0
    raise NeedsInput(
        Need(
            message(None, "core.rules.demand.need.factor.what", load=load.name),
            "loads.power_factor",
            message(None, "core.rules.demand.need.factor.ask"),
        )
    )


def duty_share(load: Load) -> float:
    """Share of a load's current that heats a cable, by its duty cycle.

    Equation  √(duty)

    Returns   1 for a load that is not intermittent
    Source    equal heat over the cycle; NEC 630.11 tabulates the same figures for welders (from memory)

    >>> duty_share(Load(name="Welder", kind="welder", power_w=4000.0, duty_pct=36.0))
    0.6
    """
    return 1.0 if load.duty_pct is None else sqrt(load.duty_pct / 100)


def third_harmonic_pct(circuit: Circuit) -> float:
    """Largest stated third harmonic of a circuit's loads [% of the line current]; 0 where none is stated."""
    return max((load.third_harmonic_pct or 0.0 for load in circuit.loads), default=0.0)
