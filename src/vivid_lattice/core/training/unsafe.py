"""Which acts are stopped at a board, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import PlannedTest
from vivid_lattice.core.training.acts import (
    Act,
    DisconnectNeutral,
    EarthingConductor,
    Finish,
    LinkAtBoard,
    Measure,
    Open,
    ProveDead,
    Shortcut,
    Switch,
    TakeOff,
)
from vivid_lattice.core.training.bench_state import BenchState, Taken
from vivid_lattice.core.training.boards import circuits_of

_INSULATION: frozenset[ReadingKind] = frozenset({"ir_ln", "ir_le", "ir_ne", "ir_cc", "ir_selv"})
_CONTINUITY: frozenset[ReadingKind] = frozenset({"r1r2", "r2", "r2_end"})
#: Before a circuit is energised: its continuity, its insulation, its polarity.
_BEFORE_LIVE: tuple[frozenset[ReadingKind], ...] = (_CONTINUITY, frozenset({"ir_le"}), frozenset({"pol"}))
_LOOPS: frozenset[ReadingKind] = frozenset({"zs", "rcd_1", "rcd_5", "rcd_half", "rcd_ramp"})
#: Tests that take the supply of something away.
_TAKES_SUPPLY: frozenset[ReadingKind] = frozenset(
    {"rcd_half", "rcd_1", "rcd_5", "rcd_ramp", "rcd_button", "func", "ident"}
)


def unsafe(bench: BenchState, act: Act) -> str:
    """Why an act is stopped, as the rules of training name it; '': it is not."""
    if bench.metal_live and _goes_on(act):
        return "pen-open"
    match act:
        case Shortcut():
            return act.what
        case Measure():
            return _to_test(bench, act)
        case Open(opened=True) | TakeOff(off=True):
            return _to_open(bench, act.circuit)
        case LinkAtBoard() if act.link != "none":
            return _at_the_board(bench, act.circuit)
        case DisconnectNeutral(off=True):
            return _to_disconnect_neutral(bench, act.circuit)
        case EarthingConductor(off=True):
            return _to_take_earth_off(bench)
        case ProveDead():
            return "one-pole-indicator" if act.by != "two-pole" else "" if bench.indicator else "indicator-not-proved"
        case Switch(on=True):
            return _to_energise(bench, act.device)
        case Finish():
            return "leave-dangerous" if _danger_left(bench) else _left(bench, bench.circuits)
    return ""


def _goes_on(act: Act) -> bool:
    """Whether an act is work on the installation: what makes it less dangerous is not."""
    match act:
        case Switch():
            return act.on
        case Open():
            return act.opened
        case TakeOff() | DisconnectNeutral() | EarthingConductor():
            return act.off
        case LinkAtBoard():
            return act.link != "none"
    return isinstance(act, Measure | ProveDead)


def _to_open(bench: BenchState, circuit: str) -> str:
    if not bench.is_on(circuit) and not bench.is_isolated(circuit):
        return "no-lock"
    return "" if circuit in bench.proved else "no-proof"


def _at_the_board(bench: BenchState, circuit: str) -> str:
    """Work on a circuit behind the cover of the board."""
    return "other-supply" if bench.is_other_supply_on() else _to_open(bench, circuit)


def _to_disconnect_neutral(bench: BenchState, circuit: str) -> str:
    """A neutral comes off its bar where every line that may use it is off: at the main switch, or at the shared device that switches the neutral."""
    if not any(each in bench.off for each in bench.devices_of(circuit)[:-1]):
        return "neutral-lift-live"
    return _at_the_board(bench, circuit)


def _to_take_earth_off(bench: BenchState) -> str:
    if bench.is_other_supply_on():
        return "other-supply"
    if bench.whole_is_isolated():
        return ""
    return "step-potential" if bench.board.job.supply.system == "TT" else "earth-off-live"


def _to_test(bench: BenchState, act: Measure) -> str:
    """A live test only after no open protective conductor; a dead one on what is proved dead and locked off; what is seen, always."""
    at_circuits = act.subject.kind in ("circuit", "rcd")
    circuits = circuits_of(bench.board, act.subject) if at_circuits else bench.circuits
    if act.test == "insp":
        return ""
    if TRAITS[act.test].live:
        if at_circuits and act.test in _LOOPS and any(_no_earth(bench, circuit) for circuit in circuits):
            return "loop-no-earth"
        return "rcd-test-consequence" if act.test in _TAKES_SUPPLY and not bench.told else ""
    if not at_circuits:
        if not bench.whole_is_isolated():
            return "dead-test-live"
        if bench.is_other_supply_on():
            return "other-supply"
    elif any(each not in bench.proved or bench.has_voltage(each) for each in circuits):
        return "dead-test-live"
    elif not all(bench.is_isolated(each) for each in circuits):
        return "no-lock"
    if act.test not in _INSULATION:
        return ""
    if not set(circuits) <= bench.taken_off:
        return "insulation-electronics"
    return "" if bench.told else "insulation-person"


def _no_earth(bench: BenchState, circuit: str) -> bool:
    """Whether continuity of the protective conductor was read as open."""
    return any(each.text == "OL" for each in _read(bench, circuit, _CONTINUITY))


def _read(bench: BenchState, circuit: str, kinds: frozenset[ReadingKind]) -> Sequence[Taken]:
    """The last reading of each of some kinds at a circuit, of those that were prepared: without its link nothing is read."""
    last = {
        each.measure.test: each
        for each in bench.taken
        if each.prepared and each.measure.test in kinds and each.measure.subject.id == circuit
    }
    return tuple(last.values())


def _to_energise(bench: BenchState, device: str) -> str:
    after = bench.off - {device}
    circuits = [
        each
        for each in bench.circuits_at(device)
        if not after & set(bench.devices_of(each)) or (device == "" and bench.is_fed_elsewhere(each))
    ]
    if left := _left(bench, circuits):
        return left
    if device in bench.tripped and bench.closings.get(device, 0) >= 1 and not _all_insulated(bench, device):
        return "reset-again"
    worked_on = {measure.subject.id for measure in bench.done if not TRAITS[measure.test].live}
    if all(_dead_tests_pass(bench, circuit) for circuit in circuits if circuit in worked_on):
        return ""
    return "live-before-dead"


def _left(bench: BenchState, circuits: Sequence[str]) -> str:
    """Which link is still in, or what was not put back, of circuits that are to have supply."""
    if any(each in bench.links for each in circuits):
        return "link-left"
    return "not-put-back" if bench.earth_off or any(bench.is_apart(each) for each in circuits) else ""


def _all_insulated(bench: BenchState, device: str) -> bool:
    """Whether insulation was read of what a device that trips feeds: of its circuit, or of one at least behind a shared one."""
    return any(_read(bench, circuit, _INSULATION) for circuit in bench.circuits_at(device))


def _dead_tests_pass(bench: BenchState, circuit: str) -> bool:
    """Whether continuity, insulation and polarity of a circuit were read as far as the standard has them, and each passes."""
    planned = {each.test: each for each in bench.board.plan.tests if each.subject.id == circuit}
    for kinds in _BEFORE_LIVE:
        read = _read(bench, circuit, kinds)
        if kinds & planned.keys() and not read:
            return False
        if not all(_passes(each, planned) for each in read):
            return False
    return True


def _passes(taken: Taken, planned: Mapping[ReadingKind, PlannedTest]) -> bool:
    """Whether a dead test is no break, no wrong polarity, and no insulation below its limit."""
    if taken.text in ("OL", "wrong"):
        return False
    test = taken.measure.test
    least = planned[test].expected.least if test in planned else None
    return test not in _INSULATION or float(taken.text.lstrip(">")) >= (least or 0.0)


def _danger_left(bench: BenchState) -> bool:
    """Whether something that was named as a danger of the class 'now' has voltage when the attempt is ended."""
    for name in bench.named:
        defect = bench.board.known.get(name.defect)
        if defect is None or defect.danger != "now":
            continue
        if any(bench.has_voltage(each) for each in ([name.circuit] if name.circuit else bench.circuits)):
            return True
    return False
