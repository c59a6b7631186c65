"""How an expert finds the defects of a board: by the tests that show most of what is usually wrong, then by what tells explanations apart;
and by tests in any order, for comparison."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Mapping, Sequence

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.enter_reading import ReadingEntry, enter_readings
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.test_plan import planned_id
from vivid_lattice.core.training.acts import Measure
from vivid_lattice.core.training.answers import LEAST_MOHM, answer, seen_at
from vivid_lattice.core.training.bench import BY_CLOSING, Bench
from vivid_lattice.core.training.boards import (
    ALL_AT_ONCE,
    HiddenDefect,
    TrainingBoard,
    all_at_once,
    circuits_of,
    possible_places,
    shown_by,
    sizes_of,
    tells_of,
)
from vivid_lattice.core.training.house import house_circuit

#: A defect that shows what is seen is so many times as likely as one that shows nothing.
_SHOWS = 50.0
#: Circuits that leak so much of what all do explain it. One circuit is read before all at once where that covers as much of what is likely.
_EXPLAINS, _ALL_AT_ONCE_SHARE = 0.8, 0.8
#: What is read in a doubt comes before a test of the standard that shows less than half as much.
_IN_DOUBT = 0.5
#: So many tests at most are taken to tell a board.
_MOST = 120


class Findings:
    """What is known of a board as tests are taken: the readings, and what they usually mean."""

    def __init__(self, board: TrainingBoard):
        self.board = board
        self.done: list[Measure] = []
        self._job: Job = board.job
        self.diagnoses: tuple[Diagnosis, ...] = ()
        self._dead = _found_dead(board)
        self._all_at_once = _AllAtOnce(board, self._dead)
        #: Defects that were seen, not read.
        self.seen: set[str] = set()

    def take(self, measure: Measure) -> bool:
        """A test taken; whether something is off now."""
        shown = answer(self.board, measure.test, measure.subject)
        self.done.append(measure)
        if shown.wrong:
            self.seen |= {each.defect.id for each in seen_at(self.board, measure.test, measure.subject)}
        if measure.test in ALL_AT_ONCE:
            self._all_at_once.take(measure, shown.text)
        if all_at_once(measure.test, measure.subject):
            return bool(self.diagnoses or self.seen or self._all_at_once.next())
        entry = ReadingEntry(id=f"t{len(self.done)}", test=measure.test, subject=measure.subject, text=shown.text)
        try:
            self._job = enter_readings(self._job, [entry])
        except EntryNotUnderstood:
            return bool(self.diagnoses or self.seen)
        network = Installation.of(self._job, rule_set(self._job.job.rules))
        read = judged(network)
        if any(each.off for each in read):
            self.diagnoses = diagnosed(network, read)
        return bool(self.diagnoses or self.seen)

    def tells_all(self) -> bool:
        """Whether every hidden defect was seen, or is the first explanation of a circuit; the second too where no reading that can be taken
        tells the two apart, and the place is looked at."""
        told = set(self.seen)
        for each in self.diagnoses:
            for explanation in each.possible[: 1 if self._next_of(each) is not None else 2]:
                told.update(explanation.ids)
        return all(each.id in told for each in self.board.hidden)

    def next_of_all_at_once(self) -> Measure | None:
        """After insulation of all circuits at once was low: the next circuit, until one is as low as all."""
        return self._all_at_once.next()

    def next_of_diagnosis(self) -> Measure | None:
        """The test that best tells the explanations of a circuit apart, of those not taken."""
        return next((own for each in self.diagnoses if not each.certain and (own := self._next_of(each))), None)

    def _next_of(self, diagnosis: Diagnosis) -> Measure | None:
        reading = diagnosis.next_test.reading if diagnosis.next_test is not None else None
        measure = None if reading is None else Measure(test=reading.test, subject=reading.subject)
        return (
            measure
            if measure is not None and measure not in self.done and is_possible(self.board, measure, self._dead)
            else None
        )


class _AllAtOnce:
    """Readings of all circuits at once that were low, and which circuits they may come from."""

    def __init__(self, board: TrainingBoard, dead: frozenset[str]):
        #: What does not stay on is looked at first.
        self._circuits = sorted((each.id for each in board.job.circuits), key=lambda each: each not in dead)
        #: What leaks, of all, by kind; what was read of each circuit [1/MΩ].
        self._low: dict[ReadingKind, float] = {}
        self._read: dict[ReadingKind, dict[str, float]] = {}

    def take(self, measure: Measure, text: str) -> None:
        """A reading of insulation, of a circuit or of all."""
        leaks = 1 / max(float(text.lstrip(">")), LEAST_MOHM)
        if measure.subject.kind == "circuit":
            self._read.setdefault(measure.test, {})[measure.subject.id] = leaks
        elif not text.startswith(">"):
            self._low[measure.test] = leaks

    def next(self) -> Measure | None:
        """The next circuit to read; None where what was read explains what leaks."""
        for kind, whole in self._low.items():
            read = self._read.get(kind, {})
            left = [each for each in self._circuits if each not in read]
            if left and sum(read.values()) < _EXPLAINS * whole:
                return Measure(test=kind, subject=ReadingSubject(kind="circuit", id=left[0]))
        return None


def _found_dead(board: TrainingBoard) -> frozenset[str]:
    """Circuits that have no voltage as a board is found: a device does not stay closed."""
    bench = Bench(board=board)
    return frozenset(each for each in bench.circuits if not bench.has_voltage(each))


def is_possible(board: TrainingBoard, measure: Measure, dead: frozenset[str]) -> bool:
    """Whether a test can be taken as a board is found: a live one where there is voltage."""
    circuits = circuits_of(board, measure.subject)
    live = TRAITS[measure.test].live and measure.test not in BY_CLOSING
    return not live or not circuits or not dead.issuperset(circuits)


def plan_tests(board: TrainingBoard) -> tuple[Measure, ...]:
    """The tests of the standard, as far as they are not left to a doubt."""
    return tuple(Measure(test=each.test, subject=each.subject) for each in board.plan.tests if not each.optional)


def all_tests(board: TrainingBoard) -> tuple[Measure, ...]:
    """Everything that can be read."""
    return tuple(Measure(test=each.test, subject=each.subject) for each in board.tests)


Symptoms = frozenset[tuple[str, str]]


def symptoms(board: TrainingBoard) -> Symptoms:
    """What is seen of a board before a test: devices that do not stay closed, points that are dark or dim."""
    bench = Bench(board=board)
    dark = {
        (each.id, point.state)
        for each in board.job.circuits
        for point in house_circuit(bench, each).points
        if point.state != "works"
    }
    return frozenset({*((device, "tripped") for device in bench.tripped), *dark})


#: A defect of some size at a place: its name, its circuit, which of its sizes.
_Suspect = tuple[str, str, int]


def _weights(board: TrainingBoard) -> Mapping[_Suspect, float]:
    """How likely each defect is at each place and size, by how often it is met and by what is seen: one that would show what is not there is none;
    one that shows what is there comes before those that show nothing."""
    seen = symptoms(board)
    weights: dict[_Suspect, float] = {}
    for id_, circuits in possible_places(board).items():
        defect = board.known[id_]
        for circuit in circuits:
            for n, size in enumerate(sizes_of(defect)):
                own = symptoms(board.with_hidden(HiddenDefect(id_, circuit, size)))
                if own <= seen:
                    weights[id_, circuit, n] = defect.weight * (_SHOWS if own else 1.0) / len(sizes_of(defect))
    return weights


def screening_order(board: TrainingBoard) -> tuple[Measure, ...]:
    """The tests of a board: those first that show most of what is likely to be wrong, of a circuit its dead tests before its live
    ones; what shows nothing new comes last.

    Equation  greedy: the test with the greatest weight of defects that it shows and none before it did
    """
    weights, dead = _weights(board), _found_dead(board)
    shows: dict[Measure, set[_Suspect]] = {}
    tests, planned = all_tests(board), frozenset(plan_tests(board))
    possible = [each for each in tests if is_possible(board, each, dead)]
    for id_, circuit, size in weights:
        defect = board.known[id_]
        own = circuit or board.job.circuits[0].id
        kinds = set(shown_by(board, defect, own, sizes_of(defect)[size]))
        for test in possible:
            # Which device switches what is a finding of itself only where no reading shows the defect.
            tells = test.test != "ident" or test.subject.kind != "board" or kinds == {"ident"}
            if tells and test.test in kinds and tells_of(board, test.subject, defect, own):
                shows.setdefault(test, set()).add((id_, circuit, size))
    covered: set[_Suspect] = set()
    order: list[Measure] = []
    left = dict.fromkeys(possible)
    while left:
        gain = {
            test: _share(test, planned) * sum(weights[each] for each in shows.get(test, set()) - covered)
            for test in left
        }
        waits = {test.subject.id for test in left if gain[test] > 0 and not TRAITS[test.test].live and test in planned}

        def rank(
            test: Measure, gain: Mapping[Measure, float] = gain, waits: set[str] = waits
        ) -> tuple[bool, bool, float, str]:
            live = TRAITS[test.test].live
            return (
                gain[test] > 0,
                not (live and test.subject.id in waits),
                gain[test],
                planned_id(test.test, test.subject),
            )

        best = max(left, key=rank)
        covered |= shows.get(best, set())
        order.append(best)
        del left[best]
    return (*order, *(each for each in tests if each not in order))


def _share(test: Measure, planned: frozenset[Measure]) -> float:
    """What a test counts for: a circuit by itself before all at once; what is read in a doubt, after what the standard has."""
    if all_at_once(test.test, test.subject):
        return _ALL_AT_ONCE_SHARE
    return 1.0 if test in planned or test.test in ALL_AT_ONCE else _IN_DOUBT


def expert_next(findings: Findings, order: Sequence[Measure]) -> Measure | None:
    """What an expert does next: what tells the explanations apart, else the next test of the screening."""
    own = findings.next_of_diagnosis() or findings.next_of_all_at_once()
    return own or next((each for each in order if each not in findings.done), None)


def tests_by_expert(board: TrainingBoard) -> int | None:
    """How many tests an expert takes until every hidden defect is told; None: it is not told by all of them."""
    order = screening_order(board)
    return _until_told(board, lambda findings: expert_next(findings, order))


def tests_at_random(board: TrainingBoard, seed: int) -> int | None:
    """The same with the tests of the standard in any order, then with what is read in a doubt in any order."""
    rng, planned = random.Random(seed), plan_tests(board)
    doubt = [each for each in all_tests(board) if each not in planned]
    turn: Iterator[Measure] = iter([*rng.sample(planned, len(planned)), *rng.sample(doubt, len(doubt))])
    return _until_told(board, lambda _: next(turn, None))


def _until_told(board: TrainingBoard, choose: Callable[[Findings], Measure | None]) -> int | None:
    findings = Findings(board)
    while len(findings.done) < _MOST:
        measure = choose(findings)
        if measure is None:
            return None
        if findings.take(measure) and findings.tells_all():
            return len(findings.done)
    return None
