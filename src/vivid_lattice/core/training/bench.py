"""A board on the bench: what is on, off, locked, proved, open and taken off; what each act does, and which acts are stopped."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import PlannedTest, reading_title
from vivid_lattice.core.training.acts import (
    Act,
    Connect,
    Finish,
    Hint,
    Lock,
    Look,
    Measure,
    Name,
    NullLeads,
    Open,
    ProveDead,
    ProveIndicator,
    Switch,
    TakeOff,
)
from vivid_lattice.core.training.answers import Answer, answer
from vivid_lattice.core.training.boards import TrainingBoard, circuits_of
from vivid_lattice.core.training.leads import DEAD, test_made
from vivid_lattice.core.training.training_rules import Stopped, levels, stopped

#: Faults of a live defect that its overcurrent device opens at once, and those that its residual-current device does.
_OVERCURRENT = frozenset({"line-neutral", "line-earth"})
_RESIDUAL = frozenset({"line-earth", "leakage", "neutral-earth", "borrowed-neutral", "neutral-wrong-bar", "neutrals-swapped", "rcd-neutral-crossed", "nail"})  # fmt: skip
_INSULATION: frozenset[ReadingKind] = frozenset({"ir_ln", "ir_le", "ir_ne", "ir_cc", "ir_selv"})
#: Before a circuit is energised: its continuity, its insulation, its polarity.
_CONTINUITY: frozenset[ReadingKind] = frozenset({"r1r2", "r2", "r2_end"})
_BEFORE_LIVE = (_CONTINUITY, frozenset({"ir_le"}), frozenset({"pol"}))
_LOOPS: frozenset[ReadingKind] = frozenset({"zs", "rcd_1", "rcd_5", "rcd_half", "rcd_ramp"})
#: Tests after which a residual-current device is open, as it should be; by half of its current only where it is too sensitive.
_TRIP_TESTS: frozenset[ReadingKind] = frozenset({"rcd_half", "rcd_1", "rcd_5", "rcd_ramp", "rcd_button"})
#: Read at the supply or with the installation off, whatever the circuits are.
_OF_SUPPLY = ("supply", "electrode", "board", "bond", "spd")


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """What came of an act. ``said``: what the learner sees or hears, of a reading its name; ``refused``: the act that was stopped, '' of none; ``reading``: the
    display; ``tripped``: circuits whose device tripped."""

    said: Text = ""
    refused: str = ""
    reading: str = ""
    tripped: tuple[str, ...] = ()


@dataclass(kw_only=True)
class Bench:
    """The state of a board. Devices are named by their circuit; '' is the main switch. It begins live, closed and nothing proved. ``tested``: found
    dead by an indicator that was not proved again yet; they are ``proved`` once it is."""

    board: TrainingBoard
    off: set[str] = field(default_factory=set)
    locked: set[str] = field(default_factory=set)
    tripped: set[str] = field(default_factory=set)
    proved: set[str] = field(default_factory=set)
    tested: set[str] = field(default_factory=set)
    open: set[str] = field(default_factory=set)
    taken_off: set[str] = field(default_factory=set)
    board_proved: bool = False
    indicator: bool = False
    nulled: bool = False
    hints: int = 0
    done: list[Measure] = field(default_factory=list)
    named: list[Name] = field(default_factory=list)
    stopped: list[Stopped] = field(default_factory=list)
    closings: dict[str, int] = field(default_factory=dict)
    finished: bool = False

    def __post_init__(self) -> None:
        """A device that cannot stay closed is found open."""
        self.tripped.update(self._trips([each.id for each in self.board.job.circuits]))

    def is_live(self, circuit: str) -> bool:
        """Whether a circuit has voltage."""
        return not {"", circuit} & self.off and circuit not in self.tripped

    def is_isolated(self, circuit: str) -> bool:
        """Whether a circuit is off, and locked so."""
        return any(device in self.off and device in self.locked for device in ("", circuit))

    def do(self, act: Act) -> Outcome:
        """An act done, or stopped with the reason; nothing changes then but what is counted."""
        why = self._unsafe(act)
        if why:
            self.stopped.append(stopped()[why])
            return Outcome(refused=why, said=stopped()[why].why)
        return self._done(act)

    def _connect(self, act: Connect) -> Outcome:
        """The test that the leads make; where they make none, still stopped where the circuit is not proved dead."""
        made = test_made(self.board, act.function, act.first, act.second, act.at)
        if made is not None:
            return self.do(Measure(test=made.test, subject=made.subject))
        kind = DEAD.get(act.function)
        subject = ReadingSubject(kind="circuit" if act.at else "supply", id=act.at or "supply")
        why = self._unsafe(Measure(test=kind, subject=subject)) if kind is not None else ""
        if why:
            self.stopped.append(stopped()[why])
            return Outcome(refused=why, said=stopped()[why].why)
        return Outcome(said=_say("no_such_test"))

    # ------------------------------------------------------------------------------------------ what is stopped

    def _unsafe(self, act: Act) -> str:
        if isinstance(act, Measure):
            return self._unsafe_test(act)
        if (isinstance(act, Open) and act.opened) or (isinstance(act, TakeOff) and act.off):
            return self._unsafe_to_open(act.circuit)
        if isinstance(act, ProveDead) and not self.indicator:
            return "indicator-not-proved"
        if isinstance(act, Switch) and act.on:
            return self._unsafe_to_energise(act.device)
        if isinstance(act, Finish):
            return "leave-dangerous" if self._danger_left() else "not-put-back" if self.open or self.taken_off else ""
        return ""

    def _unsafe_to_open(self, circuit: str) -> str:
        if not self.is_live(circuit) and not self.is_isolated(circuit):
            return "no-lock"
        return "" if circuit in self.proved else "no-proof"

    def _unsafe_test(self, act: Measure) -> str:
        kind, of = act.test, act.subject
        circuits = circuits_of(self.board, of) if of.kind in ("circuit", "rcd") else ()
        if not TRAITS[kind].live:
            if kind == "insp":
                return ""
            if of.kind in _OF_SUPPLY:
                if not self._whole_board_dead():
                    return "dead-test-live"
                circuits = tuple(each.id for each in self.board.job.circuits)
            elif any(circuit not in self.proved or self._is_really_live(circuit) for circuit in circuits):
                return "dead-test-live"
            elif any(not self.is_isolated(circuit) for circuit in circuits):
                return "no-lock"
            if kind in _INSULATION and any(circuit not in self.taken_off for circuit in circuits):
                return "insulation-electronics"
            return ""
        if kind in _LOOPS and any(self._no_earth(circuit) for circuit in circuits):
            return "loop-no-earth"
        return ""

    def _whole_board_dead(self) -> bool:
        return "" in self.off and "" in self.locked and self.board_proved

    def _no_earth(self, circuit: str) -> bool:
        """Whether continuity of the protective conductor was read as open."""
        return any(
            measure.test in _CONTINUITY
            and measure.subject.id == circuit
            and answer(self.board, measure.test, measure.subject).text == "OL"
            for measure in self.done
        )

    def _unsafe_to_energise(self, device: str) -> str:
        circuits = (
            [device] if device else [each.id for each in self.board.job.circuits if each.id not in self.off - {""}]
        )
        if any(circuit in self.open or circuit in self.taken_off for circuit in circuits):
            return "not-put-back"
        if device in self.tripped and self.closings.get(device, 0) >= 1 and not self._looked_for(device):
            return "reset-again"
        worked_on = {measure.subject.id for measure in self.done if not TRAITS[measure.test].live}
        for circuit in circuits:
            if circuit in worked_on and not self._dead_tests_pass(circuit):
                return "live-before-dead"
        return ""

    def _dead_tests_pass(self, circuit: str) -> bool:
        """Whether continuity, insulation and polarity of a circuit were read as far as the standard has them, and each passes."""
        planned = {each.test: each for each in self.board.plan.tests if each.subject.id == circuit}
        for kinds in _BEFORE_LIVE:
            read = [each for each in self.done if each.test in kinds and each.subject.id == circuit]
            if kinds & planned.keys() and not read:
                return False
            if not all(self._passes(each, planned) for each in read):
                return False
        return True

    def _passes(self, measure: Measure, planned: Mapping[ReadingKind, PlannedTest]) -> bool:
        """Whether a dead test is no break, no wrong polarity, and no insulation below its limit."""
        text = answer(self.board, measure.test, measure.subject).text
        if text in ("OL", "wrong"):
            return False
        least = planned[measure.test].expected.least if measure.test in planned else None
        return measure.test not in _INSULATION or float(text.lstrip(">")) >= (least or 0.0)

    def _looked_for(self, circuit: str) -> bool:
        return any(each.test in _INSULATION and each.subject.id == circuit for each in self.done)

    def _danger_left(self) -> bool:
        """Whether a circuit that has a named danger of the class 'now' is live when the attempt is ended."""
        for name in self.named:
            defect = self.board.known.get(name.defect)
            if defect is not None and defect.danger == "now" and name.circuit and self.is_live(name.circuit):
                return True
        return False

    # ------------------------------------------------------------------------------------------ what is done

    def _done(self, act: Act) -> Outcome:
        match act:
            case Look():
                return self._look(act.circuit)
            case Switch():
                return self._switch(act)
            case Lock():
                return self._lock(act)
            case ProveIndicator():
                return self._prove_indicator()
            case ProveDead():
                return self._prove_dead(act.circuit)
            case Open():
                (self.open.add if act.opened else self.open.discard)(act.circuit)
                return Outcome(said=_say("opened" if act.opened else "closed"))
            case TakeOff():
                (self.taken_off.add if act.off else self.taken_off.discard)(act.circuit)
                return Outcome(said=_say("taken_off" if act.off else "put_back"))
            case NullLeads():
                self.nulled = True
                return Outcome(said=_say("nulled"))
            case Measure():
                return self._measure(act)
            case Connect():
                return self._connect(act)
            case Hint():
                return self._hint()
            case Name():
                self.named.append(act)
                return Outcome(said=_say("named"))
            case Finish():
                self.finished = True
                return Outcome(said=_say("finished"))

    def _switch(self, act: Switch) -> Outcome:
        if not act.on:
            self.off.add(act.device)
            return Outcome(said=_say("off"))
        if act.device in self.locked:
            return Outcome(said=_say("is_locked"))
        self.off.discard(act.device)
        self.tripped.discard(act.device)
        for circuits in (self.proved, self.tested):
            circuits -= {each for each in circuits if self._is_really_live(each)}
        self.board_proved = self.board_proved and "" in self.off
        opened = self._trips([act.device] if act.device else [each.id for each in self.board.job.circuits])
        for circuit in opened:
            self.tripped.add(circuit)
            self.closings[circuit] = self.closings.get(circuit, 0) + 1
        return Outcome(said=_say("trips" if opened else "on"), tripped=opened)

    def _trips(self, circuits: list[str]) -> tuple[str, ...]:
        """Circuits whose device trips as they are switched on with loads: by the faults that their defects are when they are live."""
        return tuple(
            each
            for each in circuits
            if self.is_live(each) and any(self._opens(d, each) for d, _ in self.board.defects_of(each))
        )

    def _opens(self, defect: Defect, circuit: str) -> bool:
        has_rcd = "rcd" in self.board.models[circuit].facts
        faults = set(defect.events)
        on_load = defect.effects.get("rcd_load")
        return bool(faults & _OVERCURRENT) or (
            has_rcd and (bool(faults & _RESIDUAL) or (on_load is not None and on_load.change == "trips"))
        )

    def _lock(self, act: Lock) -> Outcome:
        if not act.locked:
            self.locked.discard(act.device)
            return Outcome(said=_say("unlocked"))
        if act.device not in self.off:
            return Outcome(said=_say("lock_needs_off"))
        self.locked.add(act.device)
        return Outcome(said=_say("locked"))

    def _prove_dead(self, circuit: str) -> Outcome:
        self.indicator = False  # proved again before the next proof
        if self._is_really_live(circuit):
            return Outcome(said=_say("still_live"))
        self.tested.add(circuit)
        return Outcome(said=_say("dead"))

    def _prove_indicator(self) -> Outcome:
        """The indicator works, so what it told since it was proved before is true: those circuits are proved dead."""
        self.indicator = True
        self.proved |= self.tested
        self.board_proved = self.board_proved or (bool(self.tested) and "" in self.off)
        self.tested.clear()
        return Outcome(said=_say("indicator"))

    def _is_really_live(self, circuit: str) -> bool:
        """Whether there is voltage: also where the chart names another device than the circuit's, unless the main switch is off."""
        if "" in self.off:
            return False
        elsewhere = any(
            (effect := defect.effects.get("ident")) is not None and effect.change != "same"
            for defect, _ in self.board.defects_of(circuit)
        )
        return elsewhere or self.is_live(circuit)

    def _look(self, circuit: str) -> Outcome:
        if circuit not in self.open:
            return Outcome(said=_say("looks_closed"))
        seen = [
            defect.seen
            for defect, _ in self.board.defects_of(circuit)
            if (effect := defect.effects.get("insp")) is not None and effect.change != "same"
        ]
        return Outcome(said=seen[0] if seen else _say("looks_sound"))

    def _measure(self, act: Measure) -> Outcome:
        circuits = circuits_of(self.board, act.subject) if act.subject.kind in ("circuit", "rcd") else ()
        if TRAITS[act.test].live and circuits and not any(self.is_live(each) for each in circuits):
            return Outcome(said=_say("not_live"))
        repeat = sum((each.test, each.subject) == (act.test, act.subject) for each in self.done)
        shown = answer(self.board, act.test, act.subject, nulled=self.nulled, repeat=repeat)
        self.done.append(act)
        opened = self._tripped_by(act, shown)
        self.tripped.update(opened)
        return Outcome(said=reading_title(self.board.network, act.test), reading=shown.text, tripped=opened)

    def _tripped_by(self, act: Measure, shown: Answer) -> tuple[str, ...]:
        """The circuits that lose their supply because a test of their residual-current device tripped it, as it should or too early."""
        if act.test not in _TRIP_TESTS or act.subject.kind != "rcd":
            return ()
        stays = shown.text == "did not trip" or (shown.wrong and act.test == "rcd_button")
        early = act.test == "rcd_half" and shown.wrong
        return circuits_of(self.board, act.subject) if early or (act.test != "rcd_half" and not stays) else ()

    def _hint(self) -> Outcome:
        level = next(each for each in levels() if each.level == self.board.level)
        if self.hints >= level.hints:
            return Outcome(said=_say("no_hint"))
        self.hints += 1
        open_to = [
            each
            for each in self.board.hidden
            if all((n.defect, n.circuit) != (each.id, each.circuit) for n in self.named)
        ]
        if not open_to:
            return Outcome(said=_say("all_named"))
        first = open_to[0]
        named = self.board.job.circuit(first.circuit).name if first.circuit else ""
        return Outcome(said=_say("hint_circuit", circuit=named) if named else _say("hint_whole"))


def _say(key: str, **params: str) -> Text:
    return message(None, f"core.training.said.{key}", **params)
