"""The checks, in the order people work. This registry is the only list of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, TypeVar

from vivid_lattice.core.checks import (
    arc_fault,
    bonding,
    breaking_capacity,
    capacity,
    comb,
    control_gear,
    demand,
    disconnection,
    division,
    earthing,
    isolation,
    labelling,
    leakage,
    main_switch,
    overload,
    position,
    protective_conductor,
    rcd_duty,
    rcd_loading,
    rcd_type,
    selectivity_overload,
    selectivity_residual,
    selectivity_short_circuit,
    short_circuit_withstand,
    special_location,
    surge,
    tails,
    tap,
    terminals,
    thermal,
    voltage_drop,
    voltage_relay,
    ways,
)
from vivid_lattice.core.checks.answer import missing
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Finding
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext

_Ctx = TypeVar("_Ctx", CircuitContext, SupplyContext, BoardContext)


Face = Literal["sizing", "protection"]


@dataclass(frozen=True, slots=True)
class Check:
    """A check of every circuit: its stable id, the words people know it by, and the function that decides."""

    id: str
    title: str
    short: str
    question: str
    compares: str
    run: Callable[[CircuitContext], Finding]
    #: The face of the lattice it stands on: what the cable needs, or what protects people and the rest of the house.
    group: Face = "sizing"


@dataclass(frozen=True, slots=True)
class SupplyCheck:
    """A check of the supply as a whole."""

    id: str
    title: str
    question: str
    run: Callable[[SupplyContext], Finding]


@dataclass(frozen=True, slots=True)
class BoardCheck:
    """A check of a board as a whole: of how it protects, or of how it is built."""

    id: str
    title: str
    question: str
    run: Callable[[BoardContext], Finding]
    category: Literal["protection", "build"] = "protection"


SUPPLY_CHECKS: tuple[SupplyCheck, ...] = (
    SupplyCheck(demand.ID, "Maximum demand", "Is the supply enough for everything together?", demand.check),
    SupplyCheck(tails.ID, "Tails", "Do the tails suit the cut-out: size, length, fault?", tails.check),
    SupplyCheck(earthing.ID, "Earthing", "Are the conductors at the main earth large enough?", earthing.check),
    SupplyCheck(bonding.ID, "Main bonding", "Is the main bonding large enough?", bonding.check),
    SupplyCheck(surge.ID, "Surge protection", "Is surge protection there where it is asked for?", surge.check),
)

BOARD_CHECKS: tuple[BoardCheck, ...] = (
    BoardCheck(demand.ID, "Demand of the board", "Is its main switch enough?", demand.check_board),
    BoardCheck(main_switch.ID, "Main switch", "Is the main switch protected against overload?", main_switch.check),
    BoardCheck(rcd_loading.ID, "Loading of RCDs", "Is each shared RCD protected against overload?", rcd_loading.check),
    BoardCheck(division.ID, "Division", "Does one device opening leave the house usable?", division.check),
    BoardCheck(voltage_relay.ID, "Voltage relay", "Do its settings agree with the supply?", voltage_relay.check),
    BoardCheck(ways.ID, "Ways", "Is there room for what stands in it, and for later?", ways.check, "build"),
    BoardCheck(comb.ID, "Combs", "Do they fit the devices and carry what runs through them?", comb.check, "build"),
    BoardCheck(terminals.ID, "Bars and clamps", "Is every neutral on its own bar?", terminals.check, "build"),
    BoardCheck(thermal.ID, "Heat", "Does it stay cool enough?", thermal.check, "build"),
    BoardCheck(
        control_gear.ID,
        "Control gear",
        "Do contactors, relays and isolators suit their loads?",
        control_gear.check,
        "build",
    ),
    BoardCheck(isolation.ID, "Isolation", "Can it be switched off, and what stays live?", isolation.check, "build"),
    BoardCheck(tap.ID, "Tapped-off feed", "Is a board that stays on fed and earthed for itself?", tap.check, "build"),
    BoardCheck(labelling.ID, "Labels", "Does the next person find every way?", labelling.check, "build"),
    BoardCheck(position.ID, "Place", "May it hang where it hangs?", position.check, "build"),
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
    Check(
        selectivity_overload.ID,
        "Discrimination under overload",
        "Overload",
        "Under overload, does the nearest device open alone?",
        "s, s",
        selectivity_overload.check,
        "protection",
    ),
    Check(
        selectivity_short_circuit.ID,
        "Discrimination in a short circuit",
        "Fault",
        "In a short circuit, does the nearest device open alone?",
        "kA",
        selectivity_short_circuit.check,
        "protection",
    ),
    Check(
        selectivity_residual.ID,
        "Discrimination of RCDs",
        "Series",
        "In a fault to earth, does the nearest RCD open alone?",
        "ratio",
        selectivity_residual.check,
        "protection",
    ),
    Check(rcd_duty.ID, "RCD duty", "RCD", "Is an RCD demanded, and is it there?", "mA", rcd_duty.check, "protection"),
    Check(
        rcd_type.ID,
        "RCD type",
        "Type",
        "Does the RCD see what its loads can leak?",
        "type",
        rcd_type.check,
        "protection",
    ),
    Check(
        leakage.ID,
        "Standing leakage",
        "Leakage",
        "Does standing leakage leave the RCD room?",
        "mA",
        leakage.check,
        "protection",
    ),
    Check(
        arc_fault.ID, "Arc faults", "Arc", "Is an arc-fault device asked for?", "device", arc_fault.check, "protection"
    ),
    Check(
        special_location.ID,
        "Special location",
        "Place",
        "May it stand where it stands?",
        "zone",
        special_location.check,
        "protection",
    ),
)


#: What a cable and its device are chosen by: the checks that a change of one circuit alone can turn.
SIZING: tuple[Check, ...] = tuple(check for check in CHECKS if check.group == "sizing")


def run_check(check: Check, ctx: CircuitContext) -> Finding:
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
