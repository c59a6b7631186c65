"""Which acts are stopped at a board, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import PlannedTest
from vivid_lattice.core.training.acts import Act, Finish, Measure, Open, ProveDead, Switch, TakeOff
from vivid_lattice.core.training.answers import answer
from vivid_lattice.core.training.bench_state import BenchState
from vivid_lattice.core.training.boards import circuits_of

_INSULATION: frozenset[ReadingKind] = frozenset({"ir_ln", "ir_le", "ir_ne", "ir_cc", "ir_selv"})
_CONTINUITY: frozenset[ReadingKind] = frozenset({"r1r2", "r2", "r2_end"})
#: Before a circuit is energised: its continuity, its insulation, its polarity.
_BEFORE_LIVE: tuple[frozenset[ReadingKind], ...] = (_CONTINUITY, frozenset({"ir_le"}), frozenset({"pol"}))
_LOOPS: frozenset[ReadingKind] = frozenset({"zs", "rcd_1", "rcd_5", "rcd_half", "rcd_ramp"})


def unsafe(bench: BenchState, act: Act) -> str:
    """Why an act is stopped, as the rules of training name it; '': it is not."""
    if isinstance(act, Measure):
        return _to_test(bench, act)
    if (isinstance(act, Open) and act.opened) or (isinstance(act, TakeOff) and act.off):
        return _to_open(bench, act.circuit)
    if isinstance(act, ProveDead) and not bench.indicator:
        return "indicator-not-proved"
    if isinstance(act, Switch) and act.on:
        return _to_energise(bench, act.device)
    if isinstance(act, Finish):
        return "leave-dangerous" if _danger_left(bench) else "not-put-back" if bench.open or bench.taken_off else ""
    return ""


def _to_open(bench: BenchState, circuit: str) -> str:
    if not bench.is_on(circuit) and not bench.is_isolated(circuit):
        return "no-lock"
    return "" if circuit in bench.proved else "no-proof"


def _to_test(bench: BenchState, act: Measure) -> str:
    """A live test only after no open protective conductor; a dead one on what is proved dead and locked off; what is seen, always."""
    at_circuits = act.subject.kind in ("circuit", "rcd")
    circuits = circuits_of(bench.board, act.subject) if at_circuits else bench.circuits
    if act.test == "insp":
        return ""
    if TRAITS[act.test].live:
        no_earth = at_circuits and act.test in _LOOPS and any(_no_earth(bench, circuit) for circuit in circuits)
        return "loop-no-earth" if no_earth else ""
    if not at_circuits:
        if not (bench.board_proved and bench.is_isolated("")):
            return "dead-test-live"
    elif any(each not in bench.proved or bench.has_voltage(each) for each in circuits):
        return "dead-test-live"
    elif not all(bench.is_isolated(each) for each in circuits):
        return "no-lock"
    apart = act.test not in _INSULATION or set(circuits) <= bench.taken_off
    return "" if apart else "insulation-electronics"


def _no_earth(bench: BenchState, circuit: str) -> bool:
    """Whether continuity of the protective conductor was read as open."""
    return any(_text(bench, each) == "OL" for each in _read(bench, circuit, _CONTINUITY))


def _read(bench: BenchState, circuit: str, kinds: frozenset[ReadingKind]) -> Sequence[Measure]:
    return [each for each in bench.done if each.test in kinds and each.subject.id == circuit]


def _text(bench: BenchState, measure: Measure) -> str:
    return answer(bench.board, measure.test, measure.subject).text


def _to_energise(bench: BenchState, device: str) -> str:
    circuits = (
        [device]
        if device
        else [each for each in bench.circuits if each not in bench.off or bench.is_fed_elsewhere(each)]
    )
    if set(circuits) & (bench.open | bench.taken_off):
        return "not-put-back"
    if device in bench.tripped and bench.closings.get(device, 0) >= 1 and not _read(bench, device, _INSULATION):
        return "reset-again"
    worked_on = {measure.subject.id for measure in bench.done if not TRAITS[measure.test].live}
    if all(_dead_tests_pass(bench, circuit) for circuit in circuits if circuit in worked_on):
        return ""
    return "live-before-dead"


def _dead_tests_pass(bench: BenchState, circuit: str) -> bool:
    """Whether continuity, insulation and polarity of a circuit were read as far as the standard has them, and each passes."""
    planned = {each.test: each for each in bench.board.plan.tests if each.subject.id == circuit}
    for kinds in _BEFORE_LIVE:
        read = _read(bench, circuit, kinds)
        if kinds & planned.keys() and not read:
            return False
        if not all(_passes(bench, each, planned) for each in read):
            return False
    return True


def _passes(bench: BenchState, measure: Measure, planned: Mapping[ReadingKind, PlannedTest]) -> bool:
    """Whether a dead test is no break, no wrong polarity, and no insulation below its limit."""
    text = _text(bench, measure)
    if text in ("OL", "wrong"):
        return False
    least = planned[measure.test].expected.least if measure.test in planned else None
    return measure.test not in _INSULATION or float(text.lstrip(">")) >= (least or 0.0)


def _danger_left(bench: BenchState) -> bool:
    """Whether something that was named as a danger of the class 'now' has voltage when the attempt is ended."""
    for name in bench.named:
        defect = bench.board.known.get(name.defect)
        if defect is None or defect.danger != "now":
            continue
        if any(bench.has_voltage(each) for each in ([name.circuit] if name.circuit else bench.circuits)):
            return True
    return False
