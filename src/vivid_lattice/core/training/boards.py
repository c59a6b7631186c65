"""A board to practise on: its job, its hidden defects, what can be read of it, and of what a reading is."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, fields, replace
from functools import cached_property

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.circuit_symbols import CircuitModel, circuit_model
from vivid_lattice.core.testing.diagnosis.defects import Defect, defects
from vivid_lattice.core.testing.expected_value import Expecting, expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.subjects import Subject, subject_of
from vivid_lattice.core.testing.test_plan import PlannedTest, TestPlan, plan_of, planned_id, planned_test

#: Scopes of defects that a part of the installation has, which is read by itself.
PARTS = ("bond", "spd")
#: Read of all circuits in parallel too.
ALL_AT_ONCE: tuple[ReadingKind, ...] = ("ir_le", "ir_ne", "ir_ln")


@dataclass(frozen=True, slots=True)
class HiddenDefect:
    """A defect of a board: where, and the size of its unknowns. ``circuit`` '': of the whole installation."""

    id: str
    circuit: str
    parameters: Mapping[str, float]


@dataclass(frozen=True, kw_only=True)
class TrainingBoard:
    """A board to practise on. ``number``: what it was drawn from; ``which``: of the boards of its standard."""

    standard: str
    level: int
    number: int
    job: Job
    hidden: tuple[HiddenDefect, ...]
    which: int

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

    def with_hidden(self, *hidden: HiddenDefect, level: int | None = None, number: int | None = None) -> TrainingBoard:
        """The same board with other defects, and at another level: what was worked out of the installation stays."""
        made = replace(
            self,
            hidden=hidden,
            level=self.level if level is None else level,
            number=self.number if number is None else number,
        )
        made.__dict__.update({name: value for name, value in self.__dict__.items() if name not in _FIELDS})
        return made

    def defects_of(self, circuit: str) -> tuple[tuple[Defect, HiddenDefect], ...]:
        """The hidden defects that show in a circuit: its own, those of the device that it shares, those of the whole installation."""
        return tuple(
            (self.known[each.id], each)
            for each in self.hidden
            if each.circuit in ("", circuit)
            or (self.known[each.id].scope == "rcd" and circuit in self.behind_the_same(each.circuit))
        )

    def behind_the_same(self, circuit: str) -> tuple[str, ...]:
        """The circuits behind the shared residual-current device of a circuit; itself where it has one of its own, or none."""
        return next((group for group in self.groups.values() if circuit in group), (circuit,))


_FIELDS = frozenset(each.name for each in fields(TrainingBoard))


def all_at_once(kind: ReadingKind, subject: ReadingSubject) -> bool:
    """Whether a reading is of all circuits of a board in parallel."""
    return subject.kind == "board" and kind in ALL_AT_ONCE


def tells_of(board: TrainingBoard, subject: ReadingSubject, defect: Defect, circuit: str) -> bool:
    """Whether a reading of something tells of a defect in a circuit: of the circuit, of the residual-current device before it; of the supply
    where the whole installation has it; of a part, by that; of a board, by what is seen and tried at all of its circuits."""
    if subject.kind in PARTS or defect.scope in PARTS:
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
