"""The checks, in the order people work. This registry is the only list of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TypeVar

from vivid_lattice.core.checks import (
    bonding,
    breaking_capacity,
    capacity,
    demand,
    disconnection,
    earthing,
    overload,
    protective_conductor,
    short_circuit_withstand,
    voltage_drop,
)
from vivid_lattice.core.checks.answer import missing
from vivid_lattice.core.checks.context import BoardContext, Context, SupplyContext
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Finding

_Ctx = TypeVar("_Ctx", Context, SupplyContext, BoardContext)


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


@dataclass(frozen=True, slots=True)
class BoardCheck:
    """A check of a board as a whole."""

    id: str
    title: str
    question: str
    run: Callable[[BoardContext], Finding]


SUPPLY_CHECKS: tuple[SupplyCheck, ...] = (
    SupplyCheck(demand.ID, "Maximum demand", "Is the supply enough for everything together?", demand.check),
    SupplyCheck(earthing.ID, "Earthing", "Are the conductors at the main earth large enough?", earthing.check),
    SupplyCheck(bonding.ID, "Main bonding", "Is the main bonding large enough?", bonding.check),
)

BOARD_CHECKS: tuple[BoardCheck, ...] = (
    BoardCheck(demand.ID, "Demand of the board", "Is its main switch enough?", demand.check_board),
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
        short_circuit_withstand.ID,
        "Short-circuit withstand",
        "Short",
        "Do the live conductors stand a short circuit?",
        "mm², I²t",
        short_circuit_withstand.check,
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
    return run_check_alone(check.run, check.id, ctx)


def run_check_alone(run: Callable[[_Ctx], Finding], check_id: str, ctx: _Ctx) -> Finding:
    """The answer of a check given as a function, for those that want one alone."""
    try:
        return run(ctx)
    except NeedsInput as lack:
        return missing(check_id, ctx, lack.needs)


def run_board_check(check: BoardCheck, ctx: BoardContext) -> Finding:
    """The same for a check of a board."""
    return run_check_alone(check.run, check.id, ctx)


def run_supply_check(check: SupplyCheck, ctx: SupplyContext) -> Finding:
    """The same for a check of the supply."""
    return run_check_alone(check.run, check.id, ctx)
