"""Household cooking appliances by their number and size, where a code calculates them so."""

from __future__ import annotations

from vivid_lattice.core.document.job import Load
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.formulas.load_currents import power_factor_of
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.rule_data import Table
from vivid_lattice.core.text import Shown

_RANGE_LIMIT_VA, _RANGE_OVEN_VA = 12_000.0, 1750.0
_SMALL_RANGE_VA, _MIDDLE_RANGE_VA = 3500.0, 8750.0


def volt_amperes(load: Load) -> float:
    """Apparent power of a load, all its items [VA]. NeedsInput where its power or power factor is not known."""
    if load.power_w is None:
        raise NeedsInput(
            Need(
                message(None, "core.rules.demand.need.power.what", load=load.name),
                "loads.power_w",
                message(None, "core.rules.demand.need.power.ask"),
            )
        )
    return load.power_w * load.items / power_factor_of(load)


def range_demand_va(table: Table, each: list[float]) -> float:
    """Demand of household cooking appliances [VA]: by the least that their sizes and number allow.

    each     rating of each appliance [VA]; those to 1750 VA count as they stand
    Returns  the demand; NotTabulated past five appliances or 27 kW
    """
    large = [va for va in each if va > _RANGE_OVEN_VA]
    small = sum(va for va in each if va <= _RANGE_OVEN_VA)
    if not large:
        return small
    row = next((row for row in table.rows if int(float(row[0])) == len(large)), None)
    if row is None or max(large) > 27_000:
        raise NotTabulated(
            message(None, "core.rules.demand.need.ranges", n=len(large), kw=Shown(f"{max(large) / 1000:g}"))
        )
    over = max(0.0, sum(max(va, _RANGE_LIMIT_VA) for va in large) / len(large) - _RANGE_LIMIT_VA) / 1000
    column_c = 1000 * float(row[3]) * (1 + 0.05 * int(over + 0.5))
    if max(large) <= _SMALL_RANGE_VA:
        return small + min(column_c, sum(large) * float(row[1]) / 100)
    if max(large) <= _MIDDLE_RANGE_VA and min(large) > _SMALL_RANGE_VA:
        return small + min(column_c, sum(large) * float(row[2]) / 100)
    return small + column_c
