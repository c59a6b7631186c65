"""A board on the bench: what each act does to it, and what the learner sees, hears or reads."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.testing.diagnosis.defects import Defect
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import reading_title
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
from vivid_lattice.core.training.bench_state import BenchState
from vivid_lattice.core.training.boards import circuits_of
from vivid_lattice.core.training.leads import DEAD, test_made
from vivid_lattice.core.training.training_rules import levels, stopped
from vivid_lattice.core.training.unsafe import unsafe

#: Faults of a live defect that its overcurrent device opens at once, and those that its residual-current device does.
_OVERCURRENT = frozenset({"line-neutral", "line-earth"})
_RESIDUAL = frozenset({"line-earth", "leakage", "neutral-earth", "borrowed-neutral", "neutral-wrong-bar", "neutrals-swapped", "rcd-neutral-crossed", "nail"})  # fmt: skip
#: Tests after which a residual-current device is open, as it should be; by half of its current only where it is too sensitive.
_TRIP_TESTS: frozenset[ReadingKind] = frozenset({"rcd_half", "rcd_1", "rcd_5", "rcd_ramp", "rcd_button"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """What came of an act. ``said``: what the learner sees or hears, of a reading its name; ``refused``: the act that was stopped, '' of
    none; ``reading``: the display; ``tripped``: circuits whose device tripped."""

    said: Text = ""
    refused: str = ""
    reading: str = ""
    tripped: tuple[str, ...] = ()


@dataclass(kw_only=True)
class Bench(BenchState):
    """A board that is worked on."""

    def __post_init__(self) -> None:
        """A device that cannot stay closed is found open."""
        self.tripped.update(self._trips(self.circuits))

    def do(self, act: Act) -> Outcome:
        """An act done, or stopped with the reason; nothing changes then but what is counted.

        Raises  NotPossible where it names a circuit that the board does not have
        """
        self._check(act)
        why = unsafe(self, act)
        return self._stop(why) if why else self._done(act)

    def _check(self, act: Act) -> None:
        named = act.model_dump(include={"circuit", "device", "at"}).values()
        subject = [act.subject.id] if isinstance(act, Measure) and act.subject.kind == "circuit" else []
        for circuit in (*named, *subject):
            if circuit and circuit not in self.circuits:
                raise NotPossible(message(None, "core.training.no_circuit", circuit=circuit))

    def _stop(self, why: str) -> Outcome:
        self.stopped.append(stopped()[why])
        return Outcome(refused=why, said=stopped()[why].why)

    def _connect(self, act: Connect) -> Outcome:
        """The test that the leads make; where they make none, still stopped where the circuit is not proved dead."""
        made = test_made(self.board, act.function, act.first, act.second, act.at)
        if made is not None:
            return self.do(Measure(test=made.test, subject=made.subject))
        kind = DEAD.get(act.function)
        subject = ReadingSubject(kind="circuit" if act.at else "supply", id=act.at or "supply")
        why = unsafe(self, Measure(test=kind, subject=subject)) if kind is not None else ""
        return self._stop(why) if why else Outcome(said=_say("no_such_test"))

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
            circuits -= {each for each in circuits if self.has_voltage(each)}
        self.board_proved = self.board_proved and "" in self.off
        opened = self._trips([act.device] if act.device else self.circuits)
        for circuit in opened:
            self.tripped.add(circuit)
            self.closings[circuit] = self.closings.get(circuit, 0) + 1
        return Outcome(said=_say("trips" if opened else "on"), tripped=opened)

    def _trips(self, circuits: Sequence[str]) -> tuple[str, ...]:
        """Circuits whose device trips as they are switched on with loads: by the faults that their defects are when they are live."""
        return tuple(
            each
            for each in circuits
            if self.is_on(each) and any(self._opens(d, each) for d, _ in self.board.defects_of(each))
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
        if self.has_voltage(circuit):
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
        if TRAITS[act.test].live and circuits and not any(self.has_voltage(each) for each in circuits):
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
