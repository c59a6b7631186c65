"""Boards with hidden defects: from a list, or drawn from a number; the same number gives the same board."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property, lru_cache

from vivid_lattice.core.actions.enter_line import enter_and_design, enter_line
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.job import Circuit, Job, SharedRcd, with_parts
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.circuit_symbols import CircuitModel, circuit_model
from vivid_lattice.core.testing.diagnosis.defects import Defect, defects
from vivid_lattice.core.testing.diagnosis.prediction import Predicted, predicted
from vivid_lattice.core.testing.expected_value import Expecting, expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.subjects import Subject, subject_of
from vivid_lattice.core.testing.test_plan import PlannedTest, TestPlan, plan_of, planned_id, planned_test
from vivid_lattice.core.training.training_rules import BoardLines, Level, board_lines, levels

#: A defect is shown by a reading that it changes by so many times its uncertainty.
_SHOWN_SIGMA = 3.0
#: A range whose ends are so many times apart is of several orders of size.
_WIDE = 30.0
#: The loop ahead of a board where the standard assumes none [Ω].
_ZE_OHM = 0.25
#: A sound electrode, below every limit [Ω]; invented.
_ELECTRODE_OHM = 60.0
#: Scopes of defects that a circuit of the board has; and of those that a part of the installation has, which is read by itself.
_SCOPES, _PARTS = ("circuit", "rcd", "installation"), ("bond", "spd")
#: The rating of a shared residual-current device [A], and what it opens at [mA].
_SHARED_A, _RATED_MA = 63.0, 30.0
#: Read of all circuits in parallel too.
ALL_AT_ONCE: tuple[ReadingKind, ...] = ("ir_le", "ir_ne", "ir_ln")
_PLAIN = frozenset({"open", "zero", "wrong", "dead", "live", "fails", "no trip"})


@dataclass(frozen=True, slots=True)
class HiddenDefect:
    """A defect of a board: where, and the size of its unknowns. ``circuit`` '': of the whole installation."""

    id: str
    circuit: str
    parameters: Mapping[str, float]


@dataclass(frozen=True, kw_only=True)
class TrainingBoard:
    """A board to practise on. ``number``: what it was drawn from."""

    standard: str
    level: int
    number: int
    job: Job
    hidden: tuple[HiddenDefect, ...]

    @cached_property
    def network(self) -> Installation:
        """The installation as it is drawn."""
        return Installation.of(self.job, rule_set(self.standard))

    @cached_property
    def by_design(self) -> Expecting:
        """What each reading should be."""
        return expecting(self.network, self.job.testing.temperature_c)

    @cached_property
    def plan(self) -> TestPlan:
        """The tests of the standard, in order."""
        return plan_of(self.network)

    @cached_property
    def tests(self) -> tuple[PlannedTest, ...]:
        """What can be read: the tests of the plan, insulation of all circuits at once, and what is read where there is a doubt."""
        return (*self.plan.tests, *self._all_at_once(), *self._in_doubt())

    def _all_at_once(self) -> Iterator[PlannedTest]:
        board = self.job.boards[0]
        whole = Subject(subject=ReadingSubject(kind="board", id=board.id), name=board.name, board=board.id)
        return (planned_test(self.network, self.by_design, kind, whole) for kind in ALL_AT_ONCE)

    def _in_doubt(self) -> Iterator[PlannedTest]:
        planned = {each.id for each in self.plan.tests}
        for other in self.plan.others:
            for each in other.of:
                subject = subject_of(self.network, other.test, each.subject)
                if subject is not None and planned_id(other.test, each.subject) not in planned:
                    yield planned_test(self.network, self.by_design, other.test, subject)

    @cached_property
    def groups(self) -> Mapping[str, tuple[str, ...]]:
        """The circuits behind each shared residual-current device, by its own name."""
        return {
            place.id: tuple(each.id for each in place.behind)
            for place in self.network.rcds.all
            if place.own_device is None
        }

    @cached_property
    def sources(self) -> tuple[str, ...]:
        """The circuits of supplies other than the network: solar panels, a battery."""
        return tuple(each.id for each in self.job.circuits if each.source is not None)

    @cached_property
    def models(self) -> Mapping[str, CircuitModel]:
        """The model of each circuit, by id."""
        measured = MeasuredValues.of(self.network, self.job.testing.temperature_c)
        return {each.id: circuit_model(self.by_design, measured, each) for each in self.job.circuits}

    @cached_property
    def known(self) -> Mapping[str, Defect]:
        """The defects of the standard, by id."""
        return {each.id: each for each in defects(self.standard)}

    def with_hidden(self, *hidden: HiddenDefect) -> TrainingBoard:
        """The same board with other defects: what was worked out of the installation stays."""
        made = replace(self, hidden=hidden)
        made.__dict__.update({name: value for name, value in self.__dict__.items() if name not in _FIELDS})
        return made

    def defects_of(self, circuit: str) -> tuple[tuple[Defect, HiddenDefect], ...]:
        """The hidden defects that show in a circuit: its own, those of the device that it shares, those of the whole installation."""
        return tuple(
            (self.known[each.id], each)
            for each in self.hidden
            if each.circuit in ("", circuit)
            or (self.known[each.id].scope == "rcd" and circuit in self.with_(each.circuit))
        )

    def with_(self, circuit: str) -> tuple[str, ...]:
        """The circuits behind the shared residual-current device of a circuit; itself where it has one of its own, or none."""
        return next((group for group in self.groups.values() if circuit in group), (circuit,))


_FIELDS = frozenset(each.name for each in fields(TrainingBoard))


@lru_cache(maxsize=32)
def sound_job(standard: str, which: int) -> Job:
    """One of a standard's boards as it is typed, designed, with nothing wrong."""
    typed = board_lines(standard)[which]
    rules = rule_set(standard)
    job = begin("Training board", rules, typed.system)  # type: ignore[arg-type]
    job = _behind_shared(job, typed) if typed.rcds else _with_own(job, typed)
    known = {"ze_ohm": _ELECTRODE_OHM if typed.system == "TT" else job.supply.ze_ohm or _ZE_OHM}
    return job.model_copy(update={"supply": job.supply.model_copy(update=known)})


def _with_own(job: Job, typed: BoardLines) -> Job:
    for line in typed.lines:
        job = enter_and_design(job, line, "main").job
    return job


def _behind_shared(job: Job, typed: BoardLines) -> Job:
    """The lines behind shared residual-current devices, each of the rating and the type that is usual."""
    word = rule_set(job.job.rules).rcd_word
    shared = tuple(
        SharedRcd(id=f"r{n}", name=f"{word} {n}", rating_a=_SHARED_A, rcd=Rcd(idn_ma=_RATED_MA, type="A"))
        for n in range(1, len(typed.rcds) + 1)
    )
    job = with_parts(job, (), (job.boards[0].model_copy(update={"shared_rcds": shared}),))
    for line in typed.lines:
        job = enter_line(job, line, "main").job
    board = job.boards[0]
    of = {line: shared[n].id for n, lines in enumerate(typed.rcds) for line in lines}
    ways = tuple(way.model_copy(update={"rcd": of.get(n)}) for n, way in enumerate(board.ways, start=1))
    return design(with_parts(job, (), (board.model_copy(update={"ways": ways}),))).job


def training_board(standard: str, level: int, number: int) -> TrainingBoard:
    """The board of a number at a level of a standard.

    Raises  NotPossible where there is no such level
    """
    of = _level(level)
    rng = random.Random(f"{standard} {level} {number}")
    job = sound_job(standard, rng.randrange(len(board_lines(standard))))
    sound = TrainingBoard(standard=standard, level=level, number=number, job=job, hidden=())
    wanted = rng.randint(of.defects_low, of.defects_high)
    return sound.with_hidden(*_drawn(sound, wanted, rng))


def board_with(standard: str, chosen: Sequence[str], number: int = 1, level: int = 1) -> TrainingBoard:
    """A board with defects of a list, by their ids; where each is follows from the number.

    Raises  NotPossible where a defect is not met in the standard, or no circuit of its boards can have it
    """
    rng = random.Random(f"{standard} {' '.join(chosen)} {number}")
    hidden: list[HiddenDefect] = []
    for which in rng.sample(range(len(board_lines(standard))), len(board_lines(standard))):
        sound = TrainingBoard(standard=standard, level=level, number=number, job=sound_job(standard, which), hidden=())
        places = possible_places(sound)
        if all(id_ in places for id_ in chosen):
            for id_ in chosen:
                taken = {each.circuit for each in hidden}
                free = [each for each in places[id_] if each not in taken] or list(places[id_])
                hidden.append(_put_in(sound, sound.known[id_], rng.choice(free), rng))
            return sound.with_hidden(*hidden)
    raise NotPossible(message(None, "core.training.no_place", defects=", ".join(chosen)))


def _level(level: int) -> Level:
    found = next((each for each in levels() if each.level == level), None)
    if found is None:
        known = ", ".join(str(each.level) for each in levels())
        raise NotPossible(message(None, "core.training.no_level", level=str(level), known=known))
    return found


def _drawn(sound: TrainingBoard, wanted: int, rng: random.Random) -> tuple[HiddenDefect, ...]:
    """Defects by how often they are met, each in a circuit of its own."""
    places = possible_places(sound)
    if sound.level == 1:
        places = {id_: where for id_, where in places.items() if _is_plain(sound.known[id_])} or places
    if wanted > 1:
        # One of the whole installation would cover those of the circuits.
        places = {id_: where for id_, where in places.items() if where != ("",)}
    hidden: list[HiddenDefect] = []
    for _ in range(wanted):
        taken = {each.circuit for each in hidden}
        open_to = {
            id_: free for id_, where in places.items() if (free := [each for each in where if each not in taken])
        }
        if not open_to:
            break
        names = sorted(open_to)
        id_ = rng.choices(names, [sound.known[name].weight for name in names])[0]
        hidden.append(_put_in(sound, sound.known[id_], rng.choice(open_to[id_]), rng))
    return tuple(hidden)


def _is_plain(defect: Defect) -> bool:
    return defect.scope == "circuit" and any(effect.change in _PLAIN for effect in defect.effects.values())


def possible_places(sound: TrainingBoard) -> Mapping[str, tuple[str, ...]]:
    """The defects that a board may have, with the circuits where a reading of its plan shows them; '' of the whole installation."""
    found: dict[str, list[str]] = {}
    for defect in sound.known.values():
        if defect.scope not in _SCOPES:
            continue
        circuits = [
            each
            for each in sound.job.circuits
            if each.kind != "distribution" and each.source is None and _may_have(sound, defect, each)
        ]
        if circuits:
            found[defect.id] = [""] if defect.scope == "installation" else [each.id for each in circuits]
    for part in _PARTS:
        known = [each for each in sound.known.values() if each.scope == part and _is_read(sound, each)]
        # Of several that read the same, the one that is met most: what tells them apart is seen on the spot.
        found |= {each.id: [""] for each in sorted(known, key=lambda each: -each.weight)[:1]}
    return {id_: tuple(where) for id_, where in found.items()}


def _is_read(sound: TrainingBoard, defect: Defect) -> bool:
    """Whether the plan has a reading of the part of an installation that a defect is in."""
    return any(test.subject.kind == defect.scope and test.test in defect.effects for test in sound.plan.tests)


def _may_have(sound: TrainingBoard, defect: Defect, circuit: Circuit) -> bool:
    model = sound.models[circuit.id]
    ring = "ring" if model.ring else "radial"
    if defect.circuits not in ("any", ring) or not defect.needs <= model.facts:
        return False
    return bool(shown_by(sound, defect, circuit.id, middle_of(defect)))


def all_at_once(kind: ReadingKind, subject: ReadingSubject) -> bool:
    """Whether a reading is of all circuits of a board in parallel."""
    return subject.kind == "board" and kind in ALL_AT_ONCE


def sizes_of(defect: Defect) -> tuple[dict[str, float], ...]:
    """Its unknowns at a quarter, the middle and three quarters of their ranges; one where it has none."""
    shares = (0.25, 0.5, 0.75) if defect.parameters else (0.5,)
    return tuple({name: _at(low, high, share) for name, (low, high) in defect.parameters.items()} for share in shares)


def _at(low: float, high: float, share: float) -> float:
    """A share of a range: by ratio where it is of several orders of size."""
    return low * (high / low) ** share if 0 < low * _WIDE < high else low + (high - low) * share


def middle_of(defect: Defect) -> dict[str, float]:
    """Its unknowns in the middle of their ranges: by their ratio where the range is of several orders of size."""
    return {name: _at(low, high, 0.5) for name, (low, high) in defect.parameters.items()}


def _predictions(
    board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]
) -> Iterator[tuple[ReadingKind, Predicted, Predicted]]:
    """The kinds of reading of a board that tell of a defect in a circuit, with it and without."""
    model = board.models[circuit]
    unknowns = {defect.unknown(name): value for name, value in parameters.items()}
    seen = set()
    for test in board.tests:
        if test.test not in seen and tells_of(board, test.subject, defect, circuit):
            seen.add(test.test)
            yield test.test, predicted(model, [defect], unknowns, test.test), predicted(model, [], {}, test.test)


def is_as_stated(board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]) -> bool:
    """Whether every reading goes up or down as the catalogue says: not so where it is read at a place that has less to begin with."""
    return not any(
        made.value is not None and sound.value is not None
        and ((made.change == "up" and made.value < sound.value) or (made.change == "down" and made.value > sound.value))
        for _, made, sound in _predictions(board, defect, circuit, parameters)
    )  # fmt: skip


def shown_by(
    board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]
) -> tuple[ReadingKind, ...]:
    """The kinds of reading of a board that a defect in a circuit changes by more than their uncertainty."""
    found = []
    for kind, made, sound in _predictions(board, defect, circuit, parameters):
        effect = defect.effects.get(kind)
        if effect is None or effect.change in ("same", "may trip", "unstable"):
            continue
        if made.value is None or sound.value is None or not TRAITS[kind].is_figure:
            if made.change != sound.change:
                found.append(kind)
            continue
        own = board.network.rules.testing.uncertainty(kind)
        sigma = own.pct / 100 * max(made.value, sound.value) + own.absolute if own is not None else 0.0
        if abs(made.value - sound.value) > _SHOWN_SIGMA * sigma:
            found.append(kind)
    return tuple(found)


def _where(board: TrainingBoard, circuit: str) -> tuple[str, ...]:
    """The circuits that a hidden defect is in: its own, all of the installation's."""
    return (circuit,) if circuit else tuple(each.id for each in board.job.circuits)


def shown_in(
    board: TrainingBoard, defect: Defect, circuit: str, parameters: Mapping[str, float]
) -> frozenset[ReadingKind]:
    """The same of the circuits where a defect is; '' of the whole installation."""
    return frozenset(kind for each in _where(board, circuit) for kind in shown_by(board, defect, each, parameters))


def tells_of(board: TrainingBoard, subject: ReadingSubject, defect: Defect, circuit: str) -> bool:
    """Whether a reading of something tells of a defect in a circuit: of the circuit, of the residual-current device before it; of the supply
    where the whole installation has it; of a part, by that; of a board, by what is seen and tried at all of its circuits."""
    if subject.kind in _PARTS or defect.scope in _PARTS:
        return subject.kind == defect.scope
    return (subject.kind == "supply" and defect.scope == "installation") or circuit in circuits_of(board, subject)


def circuits_of(board: TrainingBoard, subject: ReadingSubject) -> tuple[str, ...]:
    """The circuits that a reading of something is of; none: it is of the supply."""
    if subject.kind == "circuit":
        return (subject.id,)
    if subject.kind == "board":
        return tuple(each.id for each in board.job.circuits)
    return behind(board, subject.id) if subject.kind == "rcd" else ()


def behind(board: TrainingBoard, device: str) -> tuple[str, ...]:
    """The circuits behind a residual-current device, as a reading names it."""
    if board.job.find_circuit(device) is not None:
        return (device,)
    return board.groups.get(device.replace("/", ":", 1), ())


def accused(board: TrainingBoard, hidden: HiddenDefect) -> frozenset[str]:
    """The places that a hidden defect may be named at: its circuit; every circuit of its group where only readings of their shared device
    show it."""
    group = board.with_(hidden.circuit)
    defect = board.known[hidden.id]
    shown = shown_in(board, defect, hidden.circuit, hidden.parameters)
    alone = any(test.test in shown and test.subject.id == hidden.circuit for test in board.plan.tests)
    return frozenset((hidden.circuit,) if alone and defect.scope != "rcd" else group)


def _put_in(sound: TrainingBoard, defect: Defect, circuit: str, rng: random.Random) -> HiddenDefect:
    """The defect with sizes of its unknowns that a reading shows: drawn over their range, else the middle of it."""
    for _ in range(40):
        sizes = {name: round(_drawn_from(low, high, rng), 4) for name, (low, high) in defect.parameters.items()}
        if shown_in(sound, defect, circuit, sizes) and all(
            is_as_stated(sound, defect, each, sizes) for each in _where(sound, circuit)
        ):
            return HiddenDefect(defect.id, circuit, sizes)
    return HiddenDefect(defect.id, circuit, middle_of(defect))


def _drawn_from(low: float, high: float, rng: random.Random) -> float:
    """A size of a range, each order of size as often as the others."""
    return math.exp(rng.uniform(math.log(low), math.log(high))) if low > 0 else rng.uniform(low, high)
