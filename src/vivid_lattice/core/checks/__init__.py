"""The checks, in the order people work. This registry is the only list of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
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
    energy_sources,
    isolation,
    labelling,
    leakage,
    local_devices,
    local_earthing,
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
    standby_supply,
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
from vivid_lattice.core.findings.finding import Finding, SubjectKind
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext
from vivid_lattice.core.messages import Message, Vocabulary, message

_Ctx = TypeVar("_Ctx", CircuitContext, SupplyContext, BoardContext)


#: What a cable needs, or what protects people and the rest of the house.
CheckGroup = Literal["sizing", "protection"]
#: What of a circuit a row of the grid states, and can be typed over.
RowField = Literal["device", "lines", "cable", "length", "method"]
#: The view that shows a result.
View = Literal["setup", "protection", "board"]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Named:
    """A check by its stable id. ``key``: what its texts are under in the catalogue, where that is not the id."""

    id: str
    key: str = ""

    def text(self, part: str, words: Vocabulary) -> Message:
        """A text of the check in the words of a standard: its ``title``, ``question``, column ``head`` or ``unit_head``."""
        return message(words, f"core.check.{self.key or self.id}.{part}")

    def title(self, words: Vocabulary) -> Message:
        """What the check is called."""
        return self.text("title", words)

    def question(self, words: Vocabulary) -> Message:
        """The question that the check answers."""
        return self.text("question", words)


@dataclass(frozen=True, slots=True, kw_only=True)
class Check(_Named):
    """A check of every circuit: its stable id and the function that decides. ``decides``: what of the circuit it decides first of
    all checks, so that it is shown beside it. ``where_used``: its column is shown only in a job that it concerns."""

    run: Callable[[CircuitContext], Finding]
    group: CheckGroup = "sizing"
    decides: tuple[RowField, ...] = ()
    where_used: bool = False

    def head(self, words: Vocabulary) -> Message:
        """The head of its column."""
        return self.text("head", words)

    def unit_head(self, words: Vocabulary) -> Message:
        """What the column compares, with the unit."""
        return self.text("unit_head", words)


@dataclass(frozen=True, slots=True, kw_only=True)
class SupplyCheck(_Named):
    """A check of the supply as a whole. ``view``: where its result is shown."""

    run: Callable[[SupplyContext], Finding]
    view: View = "setup"


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardCheck(_Named):
    """A check of a board as a whole: of how it protects, or of how it is built."""

    run: Callable[[BoardContext], Finding]
    category: Literal["protection", "build"] = "protection"

    @property
    def view(self) -> View:
        """Where its result is shown."""
        return "board" if self.category == "build" else "protection"


SUPPLY_CHECKS: tuple[SupplyCheck, ...] = (
    SupplyCheck(
        id=demand.ID,
        run=demand.check,
    ),
    SupplyCheck(
        id=tails.ID,
        run=tails.check,
    ),
    SupplyCheck(
        id=earthing.ID,
        run=earthing.check,
    ),
    SupplyCheck(
        id=bonding.ID,
        run=bonding.check,
    ),
    SupplyCheck(
        id=surge.ID,
        run=surge.check,
        view="protection",
    ),
)

BOARD_CHECKS: tuple[BoardCheck, ...] = (
    BoardCheck(
        id=demand.ID,
        run=demand.check_board,
        key="demand-board",
    ),
    BoardCheck(
        id=main_switch.ID,
        run=main_switch.check,
    ),
    BoardCheck(
        id=local_earthing.ID,
        run=local_earthing.check,
    ),
    BoardCheck(
        id=energy_sources.ID,
        run=energy_sources.check,
    ),
    BoardCheck(
        id=standby_supply.ID,
        run=standby_supply.check,
    ),
    BoardCheck(
        id=rcd_loading.ID,
        run=rcd_loading.check,
    ),
    BoardCheck(
        id=division.ID,
        run=division.check,
    ),
    BoardCheck(
        id=voltage_relay.ID,
        run=voltage_relay.check,
    ),
    BoardCheck(
        id=ways.ID,
        run=ways.check,
        category="build",
    ),
    BoardCheck(
        id=busbars.ID,
        run=busbars.check,
        category="build",
    ),
    BoardCheck(
        id=terminals.ID,
        run=terminals.check,
        category="build",
    ),
    BoardCheck(
        id=thermal.ID,
        run=thermal.check,
        category="build",
    ),
    BoardCheck(
        id=control_gear.ID,
        run=control_gear.check,
        category="build",
    ),
    BoardCheck(
        id=isolation.ID,
        run=isolation.check,
        category="build",
    ),
    BoardCheck(
        id=tap.ID,
        run=tap.check,
        category="build",
    ),
    BoardCheck(
        id=labelling.ID,
        run=labelling.check,
        category="build",
    ),
    BoardCheck(
        id=position.ID,
        run=position.check,
        category="build",
    ),
)

CHECKS: tuple[Check, ...] = (
    Check(
        id=overload.ID,
        run=overload.check,
        decides=("device",),
    ),
    Check(
        id=capacity.ID,
        run=capacity.check,
        decides=("cable", "method"),
    ),
    Check(
        id=voltage_drop.ID,
        run=voltage_drop.check,
        decides=("lines", "length"),
    ),
    Check(
        id=disconnection.ID,
        run=disconnection.check,
    ),
    Check(
        id=protective_conductor.ID,
        run=protective_conductor.check,
    ),
    Check(
        id=short_circuit_withstand.ID,
        run=short_circuit_withstand.check,
    ),
    Check(
        id=breaking_capacity.ID,
        run=breaking_capacity.check,
    ),
    Check(
        id=selectivity_overload.ID,
        run=selectivity_overload.check,
        group="protection",
    ),
    Check(
        id=selectivity_short_circuit.ID,
        run=selectivity_short_circuit.check,
        group="protection",
    ),
    Check(
        id=selectivity_residual.ID,
        run=selectivity_residual.check,
        group="protection",
    ),
    Check(
        id=rcd_requirement.ID,
        run=rcd_requirement.check,
        group="protection",
    ),
    Check(
        id=rcd_type.ID,
        run=rcd_type.check,
        group="protection",
    ),
    Check(
        id=leakage.ID,
        run=leakage.check,
        group="protection",
    ),
    Check(
        id=arc_fault.ID,
        run=arc_fault.check,
        group="protection",
    ),
    Check(
        id=local_devices.ID,
        run=local_devices.check,
        group="protection",
        where_used=True,
    ),
    Check(
        id=special_location.ID,
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


def check_title(check_id: str, words: Vocabulary, kind: SubjectKind = "circuit") -> Message:
    """What a check of a circuit, a board or the supply is called, by its id: the same id may be asked of each of them."""
    checks: Mapping[SubjectKind, Sequence[_Named]] = {
        "circuit": CHECKS,
        "board": BOARD_CHECKS,
        "supply": SUPPLY_CHECKS,
    }
    return next(check for check in checks[kind] if check.id == check_id).title(words)
