"""The checks, in the order people work. This registry is the only list of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from vivid_lattice.core.checks import (
    breaking_capacity,
    capacity,
    demand,
    disconnection,
    overload,
    protective_conductor,
    voltage_drop,
)
from vivid_lattice.core.checks.answer import missing
from vivid_lattice.core.checks.context import Context, SupplyContext
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Finding


@dataclass(frozen=True, slots=True)
class Check:
    """A check of every circuit: its stable id, the words people know it by, and the function that decides."""

    id: str
    title: str
    short: str
    question: str
    compares: str
    run: Callable[[Context], Finding]


@dataclass(frozen=True, slots=True)
class SupplyCheck:
    """A check of the supply as a whole."""

    id: str
    title: str
    question: str
    run: Callable[[SupplyContext], Finding]


SUPPLY_CHECKS: tuple[SupplyCheck, ...] = (
    SupplyCheck(demand.ID, "Maximum demand", "Is the cut-out enough for everything together?", demand.check),
)

CHECKS: tuple[Check, ...] = (
    Check(overload.ID, "Overload", "Load", "Does the device carry the load?", "Ib in In", overload.check),
    Check(capacity.ID, "Cable capacity", "Cable", "Is the cable enough?", "In in Iz", capacity.check),
    Check(
        voltage_drop.ID,
        "Voltage drop",
        "Drop",
        "Does enough voltage arrive?",
        "% lost",
        voltage_drop.check,
    ),
    Check(disconnection.ID, "Disconnection", "Loop", "Does it open in time?", "Zs, Ω", disconnection.check),
    Check(
        protective_conductor.ID,
        "Protective conductor",
        "Earth",
        "Does the earth stand the heat?",
        "mm², heat",
        protective_conductor.check,
    ),
    Check(
        breaking_capacity.ID,
        "Breaking capacity",
        "Break",
        "Can it break the fault?",
        "kA",
        breaking_capacity.check,
    ),
)


def run_check(check: Check, ctx: Context) -> Finding:
    """A check's answer; where it lacks an input, a finding that says which."""
    try:
        return check.run(ctx)
    except NeedsInput as lack:
        return missing(check.id, ctx, lack.needs)


def run_supply_check(check: SupplyCheck, ctx: SupplyContext) -> Finding:
    """The same for a check of the supply."""
    try:
        return check.run(ctx)
    except NeedsInput as lack:
        return missing(check.id, ctx, lack.needs)
