"""The checks, in the order people work. This registry is the only list of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, TypeVar

from vivid_lattice.core.checks import (
    arc_fault,
    bonding,
    breaking_capacity,
    busbars,
    capacity,
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
    rcd_loading,
    rcd_requirement,
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
from vivid_lattice.core.checks.support.finding_builder import missing
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext

_Ctx = TypeVar("_Ctx", CircuitContext, SupplyContext, BoardContext)


#: What a cable needs, or what protects people and the rest of the house.
CheckGroup = Literal["sizing", "protection"]
#: What of a circuit a row of the grid states, and can be typed over.
RowField = Literal["device", "lines", "cable", "length", "method"]
#: The view that shows a result.
View = Literal["setup", "protection", "board"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """A check of every circuit: its stable id, the words people know it by, and the function that decides. ``decides``: what of
    the circuit it decides first of all checks, so that it is shown beside it."""

    id: str
    title: str
    short: str
    question: str
    compares: str
    run: Callable[[CircuitContext], Finding]
    group: CheckGroup = "sizing"
    decides: tuple[RowField, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class SupplyCheck:
    """A check of the supply as a whole. ``view``: where its result is shown."""

    id: str
    title: str
    question: str
    run: Callable[[SupplyContext], Finding]
    view: View = "setup"


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardCheck:
    """A check of a board as a whole: of how it protects, or of how it is built."""

    id: str
    title: str
    question: str
    run: Callable[[BoardContext], Finding]
    category: Literal["protection", "build"] = "protection"

    @property
    def view(self) -> View:
        """Where its result is shown."""
        return "board" if self.category == "build" else "protection"


SUPPLY_CHECKS: tuple[SupplyCheck, ...] = (
    SupplyCheck(
        id=demand.ID,
        title="Maximum demand",
        question="Is the supply enough for everything together?",
        run=demand.check,
    ),
    SupplyCheck(
        id=tails.ID,
        title="Tails",
        question="Do the tails suit the cut-out: size, length, fault?",
        run=tails.check,
    ),
    SupplyCheck(
        id=earthing.ID,
        title="Earthing",
        question="Are the conductors at the main earth large enough?",
        run=earthing.check,
    ),
    SupplyCheck(
        id=bonding.ID,
        title="Main bonding",
        question="Is the main bonding large enough?",
        run=bonding.check,
    ),
    SupplyCheck(
        id=surge.ID,
        title="Surge protection",
        question="Is surge protection there where it is asked for?",
        run=surge.check,
        view="protection",
    ),
)

BOARD_CHECKS: tuple[BoardCheck, ...] = (
    BoardCheck(
        id=demand.ID,
        title="Demand of the board",
        question="Is its main switch enough?",
        run=demand.check_board,
    ),
    BoardCheck(
        id=main_switch.ID,
        title="Main switch",
        question="Is the main switch protected against overload?",
        run=main_switch.check,
    ),
    BoardCheck(
        id=rcd_loading.ID,
        title="Loading of RCDs",
        question="Is each shared RCD protected against overload?",
        run=rcd_loading.check,
    ),
    BoardCheck(
        id=division.ID,
        title="Division",
        question="Does one device opening leave the house usable?",
        run=division.check,
    ),
    BoardCheck(
        id=voltage_relay.ID,
        title="Voltage relay",
        question="Do its settings agree with the supply?",
        run=voltage_relay.check,
    ),
    BoardCheck(
        id=ways.ID,
        title="Ways",
        question="Is there room for what stands in it, and for later?",
        run=ways.check,
        category="build",
    ),
    BoardCheck(
        id=busbars.ID,
        title="Combs",
        question="Do they fit the devices and carry what runs through them?",
        run=busbars.check,
        category="build",
    ),
    BoardCheck(
        id=terminals.ID,
        title="Bars and clamps",
        question="Is every neutral on its own bar?",
        run=terminals.check,
        category="build",
    ),
    BoardCheck(
        id=thermal.ID,
        title="Heat",
        question="Does it stay cool enough?",
        run=thermal.check,
        category="build",
    ),
    BoardCheck(
        id=control_gear.ID,
        title="Control gear",
        question="Do contactors, relays and isolators suit their loads?",
        run=control_gear.check,
        category="build",
    ),
    BoardCheck(
        id=isolation.ID,
        title="Isolation",
        question="Can it be switched off, and what stays live?",
        run=isolation.check,
        category="build",
    ),
    BoardCheck(
        id=tap.ID,
        title="Tapped-off feed",
        question="Is a board that stays on fed and earthed for itself?",
        run=tap.check,
        category="build",
    ),
    BoardCheck(
        id=labelling.ID,
        title="Labels",
        question="Does the next person find every way?",
        run=labelling.check,
        category="build",
    ),
    BoardCheck(
        id=position.ID,
        title="Place",
        question="May it hang where it hangs?",
        run=position.check,
        category="build",
    ),
)

CHECKS: tuple[Check, ...] = (
    Check(
        id=overload.ID,
        title="Overload",
        short="Load",
        question="Does the device carry the load?",
        compares="Ib in In",
        run=overload.check,
        decides=("device",),
    ),
    Check(
        id=capacity.ID,
        title="Cable capacity",
        short="Cable",
        question="Is the cable enough?",
        compares="In in Iz",
        run=capacity.check,
        decides=("cable", "method"),
    ),
    Check(
        id=voltage_drop.ID,
        title="Voltage drop",
        short="Drop",
        question="Does enough voltage arrive?",
        compares="% lost",
        run=voltage_drop.check,
        decides=("lines", "length"),
    ),
    Check(
        id=disconnection.ID,
        title="Disconnection",
        short="Loop",
        question="Does it open in time?",
        compares="Zs, Ω",
        run=disconnection.check,
    ),
    Check(
        id=protective_conductor.ID,
        title="Protective conductor",
        short="Earth",
        question="Does the earth stand the heat?",
        compares="mm², heat",
        run=protective_conductor.check,
    ),
    Check(
        id=short_circuit_withstand.ID,
        title="Short-circuit withstand",
        short="Short",
        question="Do the live conductors stand a short circuit?",
        compares="mm², I²t",
        run=short_circuit_withstand.check,
    ),
    Check(
        id=breaking_capacity.ID,
        title="Breaking capacity",
        short="Break",
        question="Can it break the fault?",
        compares="kA",
        run=breaking_capacity.check,
    ),
    Check(
        id=selectivity_overload.ID,
        title="Discrimination under overload",
        short="Overload",
        question="Under overload, does the nearest device open alone?",
        compares="s, s",
        run=selectivity_overload.check,
        group="protection",
    ),
    Check(
        id=selectivity_short_circuit.ID,
        title="Discrimination in a short circuit",
        short="Fault",
        question="In a short circuit, does the nearest device open alone?",
        compares="kA",
        run=selectivity_short_circuit.check,
        group="protection",
    ),
    Check(
        id=selectivity_residual.ID,
        title="Discrimination of RCDs",
        short="Series",
        question="In a fault to earth, does the nearest RCD open alone?",
        compares="ratio",
        run=selectivity_residual.check,
        group="protection",
    ),
    Check(
        id=rcd_requirement.ID,
        title="RCD duty",
        short="RCD",
        question="Is an RCD demanded, and is it there?",
        compares="mA",
        run=rcd_requirement.check,
        group="protection",
    ),
    Check(
        id=rcd_type.ID,
        title="RCD type",
        short="Type",
        question="Does the RCD see what its loads can leak?",
        compares="type",
        run=rcd_type.check,
        group="protection",
    ),
    Check(
        id=leakage.ID,
        title="Standing leakage",
        short="Leakage",
        question="Does standing leakage leave the RCD room?",
        compares="mA",
        run=leakage.check,
        group="protection",
    ),
    Check(
        id=arc_fault.ID,
        title="Arc faults",
        short="Arc",
        question="Is an arc-fault device asked for?",
        compares="device",
        run=arc_fault.check,
        group="protection",
    ),
    Check(
        id=special_location.ID,
        title="Special location",
        short="Place",
        question="May it stand where it stands?",
        compares="zone",
        run=special_location.check,
        group="protection",
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
