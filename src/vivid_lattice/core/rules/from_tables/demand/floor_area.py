"""Demand by floor area: general lighting by the area, small-appliance circuits by number, and the large loads one by one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Any

from vivid_lattice.core.document.job import Circuit, Line, Load
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.from_tables.demand.currents import (
    Currents,
    Household,
    amps,
    by_lines,
    device_of,
    neutral_shares,
)
from vivid_lattice.core.rules.from_tables.demand.ranges import range_demand_va, volt_amperes
from vivid_lattice.core.rules.protocol import MaximumDemand
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import shown

FT2_PER_M2 = 10.7639
#: General lighting and receptacles [VA/ft²] and each small-appliance or laundry circuit [VA]: NFPA 70-2023, 220.41 and 220.52
#: (from memory).
_VA_PER_FT2 = 3.0
_VA_PER_CIRCUIT = 1500.0
#: Least numbers of circuits that count, whatever is drawn (210.11(C)).
_MIN_SMALL, _MIN_LAUNDRY = 2, 1
#: What a dryer and a vehicle charger count for at least: 220.54 and 220.57 (from memory).
_MIN_DRYER_VA, _MIN_CHARGER_VA = 5000.0, 7200.0
#: A quarter of the largest motor on top (220.50); three quarters of fixed appliances from the fourth on (220.53). From memory.
_MOTOR_SHARE, _FIXED_SHARE, _FIXED_FROM = 0.25, 0.75, 4
#: Heaters controlled apart, from which on they count for less: 220.82(C) (from memory).
_SEPARATE_HEATERS = 4


@dataclass(kw_only=True)
class _Loads:
    """What a dwelling holds, in volt-amperes, by the parts of the calculation."""

    small: int = 0
    laundry: int = 0
    general: float = 0.0
    ranges: list[float] = field(default_factory=list)
    dryers: list[float] = field(default_factory=list)
    fixed: list[float] = field(default_factory=list)
    motors: list[float] = field(default_factory=list)
    heating: list[float] = field(default_factory=list)
    cooling: list[float] = field(default_factory=list)
    chargers: list[float] = field(default_factory=list)


class ByArea:
    """What both calculations share: taking a dwelling's loads apart."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any], currents: Currents):
        self._currents = currents
        self._method, self._full_rule = data.rule(entry["rule"]).source, data.rule(entry["full_rule"]).source
        self._tables = {use: data.table(name) for use, name in entry["tables"].items()}
        self._fixed_rule = data.rule(entry["fixed_rule"]).source if "fixed_rule" in entry else self._method

    def _lighting_va(self, house: Household, loads: _Loads) -> tuple[float, str]:
        """General lighting by area; of a part of the dwelling, by what is connected."""
        if not house.whole:
            return loads.general, "connected"
        area = house.job.floor_area_m2
        if area is None:
            raise NeedsInput(
                Need(
                    message(None, "core.rules.demand.floor_area.need.what"),
                    "job.floor_area_m2",
                    message(None, "core.rules.demand.floor_area.need.ask"),
                )
            )
        return _VA_PER_FT2 * area * FT2_PER_M2, f"3 VA/ft² · {shown(area * FT2_PER_M2)} ft²"

    def _loads(self, house: Household) -> _Loads:
        loads = _Loads()
        for circuit in house.circuits:
            self._sort(circuit, house, loads)
        if house.whole:
            loads.small, loads.laundry = max(loads.small, _MIN_SMALL), max(loads.laundry, _MIN_LAUNDRY)
        return loads

    def _sort(self, circuit: Circuit, house: Household, loads: _Loads) -> None:
        if circuit.use == "small-appliance":
            loads.small += 1
        elif circuit.use == "laundry":
            loads.laundry += 1
        elif circuit.kind in ("ring", "radial"):
            # General receptacles are part of the lighting load by area; behind a feeder each circuit counts by its own.
            loads.general += _VA_PER_CIRCUIT if not house.whole else 0.0
        elif circuit.design_current_a is not None:
            supplied = house.supplied(circuit)
            loads.fixed.append(circuit.design_current_a * house.nominal_v * len(supplied.lines))
        elif not circuit.loads:
            loads.fixed.append(device_of(circuit).rating_a * house.nominal_v * len(house.supplied(circuit).lines))
        else:
            for load in circuit.loads:
                self._sort_load(load, loads)

    def _sort_load(self, load: Load, loads: _Loads) -> None:
        va = volt_amperes(load)
        if load.kind in ("lamp", "alarm", "socket"):
            loads.general += va
        elif load.kind == "cooker":
            loads.ranges += [va / load.items] * load.items
        elif load.kind == "dryer":
            loads.dryers += [max(va / load.items, _MIN_DRYER_VA)] * load.items
        elif load.kind == "heater":
            loads.heating += [va / load.items] * load.items
        elif load.kind == "air-conditioner":
            loads.cooling.append(va)
        elif load.kind == "charger":
            loads.chargers += [max(va / load.items, _MIN_CHARGER_VA)] * load.items
        else:
            loads.fixed += [va / load.items] * load.items
            if load.kind == "motor":
                loads.motors.append(va / load.items)

    def _answer(self, house: Household, steps: list[Step], total_va: float) -> MaximumDemand:
        volts = house.nominal_v * len(house.lines)
        current = total_va / volts
        sums: dict[Line, float] = dict.fromkeys(house.lines, current)
        last = amps(
            "Id",
            message(None, "core.rules.demand.floor_area.total"),
            "VA / U",
            f"{shown(total_va, 5)} / {volts:g} V",
            current,
            self._method,
        )
        return by_lines(house, self._method, sums, neutral_shares(house, self._currents), partial(list, [*steps, last]))


class StandardCalculation(ByArea):
    """The standard calculation."""

    def maximum(self, house: Household) -> MaximumDemand:
        """General loads by their demand factors, then each kind of large load by its own."""
        loads = self._loads(house)
        lighting, figures = self._lighting_va(house, loads)
        general = lighting + _VA_PER_CIRCUIT * (loads.small + loads.laundry)
        table = self._tables["lighting"]
        net = by_bands(table, general)
        fixed = sum(loads.fixed) * (_FIXED_SHARE if len(loads.fixed) >= _FIXED_FROM else 1.0)
        dryers, ranges = self._dryers(loads.dryers), self._ranges(loads.ranges)
        climate = max(sum(loads.heating), sum(loads.cooling))
        motor = _MOTOR_SHARE * max(
            [*loads.motors, *(loads.cooling if climate == sum(loads.cooling) else [])], default=0.0
        )
        chargers = sum(loads.chargers)
        text = f"{figures} + 1500 · ({loads.small} + {loads.laundry})"
        share = (
            message(None, "core.rules.demand.floor_area.share_four")
            if len(loads.fixed) >= _FIXED_FROM
            else message(None, "core.rules.demand.floor_area.share_fewer")
        )
        steps = [
            _va(message(None, "core.rules.demand.floor_area.lighting"), "Σ", text, general, self._method),
            _va(
                message(None, "core.rules.demand.floor_area.after"),
                message(None, "core.rules.demand.floor_area.lighting_bands"),
                shown(general, 5),
                net,
                table.source,
            ),
            _va(
                message(None, "core.rules.demand.floor_area.fastened"),
                share,
                _sum(loads.fixed),
                fixed,
                self._fixed_rule,
            ),
            _va(
                message(None, "core.rules.demand.floor_area.dryers"),
                message(None, "core.rules.demand.floor_area.dryer_least"),
                _sum(loads.dryers),
                dryers,
                self._tables["dryers"].source,
            ),
            _va(
                message(None, "core.rules.demand.floor_area.cooking"),
                "220.55",
                _sum(loads.ranges),
                ranges,
                self._tables["ranges"].source,
            ),
            _va(
                message(None, "core.rules.demand.floor_area.heating"),
                "max",
                f"{_sum(loads.heating)}; {_sum(loads.cooling)}",
                climate,
                self._method,
            ),
            _va(message(None, "core.rules.demand.floor_area.motor"), "0.25 · VA", "", motor, self._method),
            _va(
                message(None, "core.rules.demand.floor_area.charging"),
                message(None, "core.rules.demand.floor_area.charging_least"),
                _sum(loads.chargers),
                chargers,
                self._full_rule,
            ),
        ]
        return self._answer(
            house, [step for step in steps if step.result], net + fixed + dryers + ranges + climate + motor + chargers
        )

    def _dryers(self, each: list[float]) -> float:
        if not each:
            return 0.0
        sourced_value = self._tables["dryers"].number("percent", len(each))
        if sourced_value is None:
            raise NotTabulated(message(None, "core.rules.demand.floor_area.need.dryers", n=len(each)))
        return sum(each) * sourced_value.value / 100

    def _ranges(self, each: list[float]) -> float:
        return range_demand_va(self._tables["ranges"], each)


class OptionalCalculation(ByArea):
    """The optional calculation of a dwelling."""

    def maximum(self, house: Household) -> MaximumDemand:
        """General loads: the first 10 kVA in full and 40 % of the rest; the largest of heating and cooling beside."""
        loads = self._loads(house)
        lighting, figures = self._lighting_va(house, loads)
        circuits = _VA_PER_CIRCUIT * (loads.small + loads.laundry)
        large = [*loads.fixed, *loads.ranges, *loads.dryers, *loads.chargers]
        general = lighting + circuits + sum(large)
        table, climate_table = self._tables["general"], self._tables["climate"]
        net = by_bands(table, general)
        few = "electric space heating, fewer than four separately controlled units"
        many = "electric space heating, four or more separately controlled units"
        row = climate_table.row_where(load=many if len(loads.heating) >= _SEPARATE_HEATERS else few)
        heating = float(row["factor"]) * sum(loads.heating)
        climate = max(heating, sum(loads.cooling))
        text = f"{figures} + {shown(circuits, 5)} + {_sum(large)}"
        steps = [
            _va(message(None, "core.rules.demand.floor_area.general"), "Σ", text, general, self._method),
            _va(
                message(None, "core.rules.demand.floor_area.after"),
                message(None, "core.rules.demand.floor_area.general_bands"),
                shown(general, 5),
                net,
                table.source,
            ),
            _va(
                message(None, "core.rules.demand.floor_area.climate"),
                f"max(cooling, {float(row['factor']):g} · heating)",
                f"{_sum(loads.cooling)}; {float(row['factor']):g} · {_sum(loads.heating)}",
                climate,
                climate_table.source,
            ),
        ]
        return self._answer(house, [step for step in steps if step.result], net + climate)


def by_bands(table: Table, volt_amperes_: float) -> float:
    """A load after factors that go by bands of it [VA]."""
    return sum(
        float(factor) * max(0.0, min(volt_amperes_, float(upto)) - float(over)) for over, upto, factor in table.rows
    )


def _va(meaning: Text, formula: Text, figures: str, result: float, source: Source) -> Step:
    return Step(
        symbol="S",
        meaning=meaning,
        formula=formula,
        figures=figures,
        result=result,
        unit="VA",
        shown=shown(result, 5),
        source=source,
    )


def _sum(values: list[float]) -> str:
    return " + ".join(shown(value, 5) for value in values) or "0"
