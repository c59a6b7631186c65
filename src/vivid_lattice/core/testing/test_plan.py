"""The test plan: every test of the standard in its order, of everything in the job that it applies to, with what each should read."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.readings import Reading, ReadingKind, ReadingSubject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.testing_rules import IsolationStep, TestStep
from vivid_lattice.core.sources import Source
from vivid_lattice.core.testing.expected_value import Expected, Expecting, expecting
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.routine_checks import UsualInterval, usual_intervals
from vivid_lattice.core.testing.subjects import Subject, readable_of, subject_of, subjects_of


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedTest:
    """A reading to take. ``id``: the same for the same reading of the same thing, whatever else changes. ``unit`` '': it is seen, not read."""

    id: str
    step: str
    test: ReadingKind
    title: Text
    subject: ReadingSubject
    name: Text
    board: str
    way: int | None
    unit: str
    live: bool
    optional: bool
    expected: Expected


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherSubject:
    """What a reading in doubt may be of, in words."""

    subject: ReadingSubject
    name: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherReading:
    """A kind of reading that is taken where there is a doubt, and of what."""

    test: ReadingKind
    title: Text
    unit: str
    live: bool
    of: tuple[OtherSubject, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TestPlan:
    """The tests of a job in order, at a temperature of its conductors [°C]; how to isolate, and what stays live at the boards of the origin
    with their main switches open; what each step of the sequence is. ``beyond``: readings that were taken and are in no step;
    ``others``: what may be read beside; ``intervals``: the longest usual times to the next inspection."""

    temperature_c: float
    isolation: tuple[IsolationStep, ...]
    isolation_source: Source
    stays_live: tuple[Text, ...]
    steps: tuple[TestStep, ...]
    tests: tuple[PlannedTest, ...]
    beyond: tuple[PlannedTest, ...]
    others: tuple[OtherReading, ...]
    intervals: tuple[UsualInterval, ...]


def plan_of(network: Installation, temperature_c: float | None = None) -> TestPlan:
    """The plan of a job; at the temperature stated in it unless another is given.

    Raises  NotTabulated where the standard's data hold no tests
    """
    testing = network.rules.testing
    day_c = network.job.testing.temperature_c if temperature_c is None else temperature_c
    by_design = expecting(network, day_c)
    tests = tuple(test for step in testing.steps for test in _tests(network, step, by_design))
    used = {test.step for test in tests}
    return TestPlan(
        temperature_c=day_c,
        isolation=testing.isolation,
        isolation_source=testing.isolation_source,
        stays_live=tuple(_stays_live(network)),
        steps=tuple(step for step in testing.steps if step.id in used),
        tests=tests,
        intervals=usual_intervals(network),
        beyond=tuple(_beyond(network, by_design, frozenset(test.id for test in tests))),
        others=tuple(_others(network, frozenset(test.id for test in tests))),
    )


def _others(network: Installation, planned: frozenset[str]) -> Iterator[OtherReading]:
    """What may be read that the standard's sequence does not have."""
    for kind, traits in TRAITS.items():
        of = tuple(
            OtherSubject(subject=each.subject, name=each.name)
            for each in readable_of(network, kind)
            if planned_id(kind, each.subject) not in planned
        )
        if of:
            title = reading_title(network, kind)
            yield OtherReading(test=kind, title=title, unit=traits.unit, live=traits.live, of=of)


def _stays_live(network: Installation) -> Iterator[Text]:
    boards = [board for board in network.job.boards if is_origin(board.fed_by)]
    for board in boards:
        isolation = or_none(partial(isolation_for, network.boards, board.id, "board"))
        for part in isolation.stays_live if isolation is not None else ():
            yield part if len(boards) == 1 else network.message("core.testing.at_board", part=part, board=board.name)


def _tests(network: Installation, step: TestStep, by_design: Expecting) -> Iterator[PlannedTest]:
    """A step, circuit by circuit: all readings of one are taken before the next."""
    kinds: list[ReadingKind] = [kind for kind in TRAITS if kind in step.readings]
    kinds.sort(key=step.readings.index)
    found = [(kind, number, subject) for kind in kinds for number, subject in enumerate(subjects_of(network, kind))]
    of_rings = any(kind.endswith("_end") for kind in kinds)
    if of_rings or len(kinds) < 2 or step.state == "live":
        found.sort(key=lambda entry: (_place(network, entry[2]), step.readings.index(entry[0])))
    for kind, _, subject in found:
        yield planned_test(network, by_design, kind, subject, step.id)


def planned_test(
    network: Installation, by_design: Expecting, kind: ReadingKind, subject: Subject, step: str = ""
) -> PlannedTest:
    """A reading to take, with what it should be. ``step``: '' where the standard's sequence does not have it."""
    traits = TRAITS[kind]
    return PlannedTest(
        id=planned_id(kind, subject.subject),
        step=step,
        test=kind,
        title=reading_title(network, kind),
        subject=subject.subject,
        name=subject.name,
        board=subject.board,
        way=subject.way,
        unit=traits.unit,
        live=traits.live,
        optional=traits.optional or not step,
        expected=by_design.of(kind, subject),
    )


def _beyond(network: Installation, by_design: Expecting, planned: frozenset[str]) -> Iterator[PlannedTest]:
    """What was read that the standard's sequence does not have."""
    seen = set(planned)
    for reading in network.job.testing.readings:
        name = planned_id(reading.test, reading.subject)
        subject = subject_of(network, reading.test, reading.subject)
        if name not in seen and subject is not None:
            seen.add(name)
            yield planned_test(network, by_design, reading.test, subject)


def _place(network: Installation, subject: Subject) -> tuple[int, int, str]:
    boards = [board.id for board in network.job.boards]
    board = boards.index(subject.board) if subject.board in boards else -1
    return board, subject.way if subject.way is not None else 0, subject.subject.id


def planned_id(kind: ReadingKind, subject: ReadingSubject) -> str:
    """The id of a reading to take.

    >>> planned_id("zs", ReadingSubject(kind="circuit", id="c1"))
    'zs:circuit:c1'
    """
    return f"{kind}:{subject.kind}:{subject.id}"


def reading_title(network: Installation, kind: ReadingKind) -> Message:
    """What a kind of reading is called: R1+R2, Zs, insulation line to earth."""
    return network.message(f"core.testing.reading.{kind}")


def in_force(network: Installation) -> dict[str, list[Reading]]:
    """The readings of a job by the id of the test they are of, in the order they were taken."""
    by_test: dict[str, list[Reading]] = {}
    for reading in network.job.testing.readings:
        by_test.setdefault(planned_id(reading.test, reading.subject), []).append(reading)
    return by_test
