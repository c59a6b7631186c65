"""A board on the bench: what each act does to it, and what the learner sees, hears or reads."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import Joined, Text, message
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import PlannedTest, reading_title
from vivid_lattice.core.training.acts import (
    Act,
    Connect,
    DisconnectNeutral,
    EarthingConductor,
    Finish,
    Hint,
    Link,
    LinkAtBoard,
    Lock,
    Look,
    Measure,
    Name,
    NullLeads,
    Open,
    ProveDead,
    ProveIndicator,
    Shortcut,
    Switch,
    TakeOff,
    Tell,
)
from vivid_lattice.core.training.answers import Answer, answer, in_parallel, seen_at
from vivid_lattice.core.training.bench_state import BenchState, Taken
from vivid_lattice.core.training.boards import circuits_of
from vivid_lattice.core.training.leads import DEAD, link_of, tests_made
from vivid_lattice.core.training.training_rules import levels, stopped
from vivid_lattice.core.training.tripping import devices_that_trip
from vivid_lattice.core.training.unsafe import unsafe

#: Tests after which a residual-current device is open, as it should be; by half of its current only where it is too sensitive.
_TRIP_TESTS: frozenset[ReadingKind] = frozenset({"rcd_half", "rcd_1", "rcd_5", "rcd_ramp", "rcd_button"})
#: Tried by closing a device, which may be open before.
BY_CLOSING: frozenset[ReadingKind] = frozenset({"rcd_load", "rcd_other"})
#: Read with one end of the conductor off.
_ONE_END_OFF: frozenset[ReadingKind] = frozenset({"r_me", "ra"})
#: Metalwork with so much to the ground is dangerous [V]: the conventional touch voltage limit, IEC 60364-4-41 and IEC 61140, from memory.
TOUCH_V = 50.0
#: Links that short what an insulation test is between.
_SHORTED_BY: Mapping[ReadingKind, tuple[Link, ...]] = {
    "ir_ln": ("line-neutral", "crossed-neutral"), "ir_le": ("line-earth", "crossed-earth"),
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """What came of an act. ``said``: what the learner sees or hears, of a reading its name; ``refused``: the act that was stopped, '' of
    none; ``reading``: the display, with its ``unit``; ``tripped``: devices that tripped."""

    said: Text = ""
    refused: str = ""
    reading: str = ""
    unit: str = ""
    tripped: tuple[str, ...] = ()


@dataclass(kw_only=True)
class Bench(BenchState):
    """A board that is worked on."""

    def __post_init__(self) -> None:
        """A device that cannot stay closed is found open."""
        self.tripped.update(devices_that_trip(self, self.circuits))

    def do(self, act: Act) -> Outcome:
        """An act done, or stopped with the reason; nothing changes then but what is counted.

        Raises  NotPossible where it names a circuit that the board does not have
        """
        self._check(act)
        why = unsafe(self, act)
        return self._stop(why) if why else self._done(act)

    def _check(self, act: Act) -> None:
        named = act.model_dump(include={"circuit", "device", "at"})
        subject = [act.subject.id] if isinstance(act, Measure) and act.subject.kind == "circuit" else []
        for circuit in (*named.values(), *subject):
            is_group = circuit in self.board.groups and "device" in named
            if circuit and circuit not in self.circuits and not is_group:
                raise NotPossible(message(None, "core.training.no_circuit", circuit=circuit))

    def _stop(self, why: str) -> Outcome:
        self.stopped.append(stopped()[why])
        return Outcome(refused=why, said=stopped()[why].why)

    def _connect(self, act: Connect) -> Outcome:
        """The test that the leads make; where they make none, still stopped where the circuit is not proved dead."""
        made = self._made_by(act)
        if made is not None:
            return self.do(Measure(test=made.test, subject=made.subject))
        kind = DEAD.get(act.function)
        subject = ReadingSubject(kind="circuit" if act.at else "supply", id=act.at or "supply")
        why = unsafe(self, Measure(test=kind, subject=subject)) if kind is not None else ""
        return self._stop(why) if why else Outcome(said=_say("no_such_test"))

    def _made_by(self, act: Connect) -> PlannedTest | None:
        """The test of the points, where what is joined at the board is what it is read with; of several, the one that has the link."""
        tests = tests_made(self.board, act.function, act.first, act.second, act.at)
        link = self.links.get(act.at, "none")
        return next((each for each in tests if link_of(each.test) == link), next(iter(tests), None))

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
            case LinkAtBoard():
                return self._link(act)
            case DisconnectNeutral():
                (self.neutrals_off.add if act.off else self.neutrals_off.discard)(act.circuit)
                return Outcome(said=_say("neutral_off" if act.off else "neutral_back"))
            case EarthingConductor():
                self.earth_off = act.off
                return Outcome(said=_say("earth_off" if act.off else "earth_back"))
            case Tell():
                self.told = True
                return Outcome(said=_say("told"))
            case Shortcut():  # always stopped before
                return Outcome()
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
        opened = devices_that_trip(self, self.circuits_at(act.device))
        self.tripped.update(opened)
        for device in opened:
            self.closings[device] = self.closings.get(device, 0) + 1
        return Outcome(said=_say("trips" if opened else "on"), tripped=opened)

    def _link(self, act: LinkAtBoard) -> Outcome:
        if act.link == "none":
            self.links.pop(act.circuit, None)
            return Outcome(said=_say("link_out"))
        self.links[act.circuit] = act.link
        return Outcome(said=_say("link_in"))

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
        seen = seen_at(self.board, "insp", ReadingSubject(kind="circuit", id=circuit))
        return Outcome(said=seen[0].defect.seen if seen else _say("looks_sound"))

    def _measure(self, act: Measure) -> Outcome:
        circuits = circuits_of(self.board, act.subject) if act.subject.kind in ("circuit", "rcd") else ()
        live = TRAITS[act.test].live and act.test not in BY_CLOSING
        if live and circuits and not any(self.has_voltage(each) for each in circuits):
            return Outcome(said=_say("not_live"))
        if act.test in _ONE_END_OFF and not self.earth_off:
            return Outcome(said=_say("one_end_off"))
        shown, prepared = self._shown(act), self._is_prepared(act)
        self.metal_live = self.metal_live or (act.test == "u_me" and _volts(shown.text) >= TOUCH_V)
        self.taken.append(Taken(act, shown.text, prepared))
        opened = self._tripped_by(act, shown)
        self.tripped.update(opened)
        said = self._sights(act) if shown.wrong else ""
        said = said or reading_title(self.board.network, act.test)
        return Outcome(said=said, reading=shown.text, unit=TRAITS[act.test].unit, tripped=opened)

    def _sights(self, act: Measure) -> Text:
        """What is seen where something is looked at or tried, with the circuits."""
        by_defect: dict[str, list[str]] = {}
        for each in seen_at(self.board, act.test, act.subject):
            by_defect.setdefault(each.defect.seen, []).append(self.board.job.circuit(each.circuit).name)
        found = [_say("seen", circuits=", ".join(where), seen=seen) for seen, where in by_defect.items()]
        return message(None, "core.training.said.all_seen", seen=Joined.of(found)) if found else ""

    def _shown(self, act: Measure) -> Answer:
        """What the tester shows with the links, the neutral and the earthing conductor as they are now."""
        repeat = sum((each.test, each.subject) == (act.test, act.subject) for each in self.done)
        shown = answer(
            self.board, act.test, act.subject, nulled=self.nulled, repeat=repeat, earth_on=not self.earth_off
        )
        if not self.by_hand or act.subject.kind != "circuit" or not TRAITS[act.test].is_figure:
            return shown
        link = self.links.get(act.subject.id, "none")
        if act.test in _SHORTED_BY and link in _SHORTED_BY[act.test]:
            return Answer("0.00", False)
        if act.test == "ir_ne" and act.subject.id not in self.neutrals_off:
            return self._over_the_bar(act, shown)
        return shown if self._is_prepared(act) else Answer("OL", False)

    def _is_prepared(self, act: Measure) -> bool:
        """Whether what a test is read with is joined at the board, and nothing that shorts it."""
        if not self.by_hand or act.subject.kind != "circuit" or TRAITS[act.test].live:
            return True
        link = self.links.get(act.subject.id, "none")
        return link not in _SHORTED_BY.get(act.test, ()) and link_of(act.test) in (link, "none")

    def _over_the_bar(self, act: Measure, own: Answer) -> Answer:
        """Neutral to earth of a circuit whose neutral is on its bar: all that are on the bar, in parallel."""
        on_bar = [
            each
            for each in self.board.behind_the_same(act.subject.id)
            if each not in self.neutrals_off | {act.subject.id}
        ]
        others = [answer(self.board, act.test, ReadingSubject(kind="circuit", id=each)).text for each in on_bar]
        return Answer(in_parallel([own.text, *others]), False)

    def _tripped_by(self, act: Measure, shown: Answer) -> tuple[str, ...]:
        """The device that a test of it tripped, as it should or too early."""
        circuits = circuits_of(self.board, act.subject)
        if act.test not in _TRIP_TESTS or act.subject.kind != "rcd" or not circuits:
            return ()
        stays = shown.text == "did not trip" or (shown.wrong and act.test == "rcd_button")
        early = act.test == "rcd_half" and shown.wrong
        device = self.devices_of(circuits[0])[-2] or circuits[0]
        return (device,) if early or (act.test != "rcd_half" and not stays) else ()

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


def _volts(text: str) -> float:
    """What a display shows; nothing where it is over its range."""
    return float(text) if text.replace(".", "", 1).isdigit() else 0.0


def _say(key: str, **params: str) -> Text:
    return message(None, f"core.training.said.{key}", **params)
