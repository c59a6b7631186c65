"""How an expert finds the defects of a board: by the tests that show most of what is usually wrong, then by what tells explanations apart;
and by tests in any order, for comparison."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Sequence

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.enter_reading import ReadingEntry, enter_readings
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.test_plan import planned_id
from vivid_lattice.core.training.acts import Measure
from vivid_lattice.core.training.answers import answer
from vivid_lattice.core.training.boards import TrainingBoard, middle_of, possible_places, shown_by, tells_of

#: So many tests at most are taken to tell a board.
_MOST = 120


class Findings:
    """What is known of a board as tests are taken: the readings, and what they usually mean."""

    def __init__(self, board: TrainingBoard):
        self.board = board
        self.done: list[Measure] = []
        self._job: Job = board.job
        self.diagnoses: tuple[Diagnosis, ...] = ()

    def take(self, measure: Measure) -> bool:
        """A test taken; whether something is off now."""
        shown = answer(self.board, measure.test, measure.subject)
        self.done.append(measure)
        entry = ReadingEntry(id=f"t{len(self.done)}", test=measure.test, subject=measure.subject, text=shown.text)
        try:
            self._job = enter_readings(self._job, [entry])
        except EntryNotUnderstood:
            return bool(self.diagnoses)
        network = Installation.of(self._job, rule_set(self._job.job.rules))
        read = judged(network)
        if any(each.off for each in read):
            self.diagnoses = diagnosed(network, read)
        return bool(self.diagnoses)

    @property
    def told(self) -> frozenset[tuple[str, str]]:
        """The first explanation of each circuit: defect and circuit; '' of the whole installation."""
        return frozenset(
            (id_, each.circuit if self.board.job.find_circuit(each.circuit) is not None else "")
            for each in self.diagnoses
            if each.possible
            for id_ in each.possible[0].ids
        )

    def tells_all(self) -> bool:
        """Whether the first explanations hold every hidden defect."""
        told = {id_ for id_, _ in self.told}
        return all(each.id in told for each in self.board.hidden)

    def next_of_diagnosis(self) -> Measure | None:
        """The test that best tells the explanations of a circuit apart, of those not taken."""
        for each in self.diagnoses:
            reading = each.next_test.reading if each.next_test is not None and not each.certain else None
            if reading is not None:
                measure = Measure(test=reading.test, subject=reading.subject)
                if measure not in self.done:
                    return measure
        return None


def screening_order(board: TrainingBoard) -> tuple[Measure, ...]:
    """The tests of a board's plan, dead before live, those first that show most of what is usually wrong; what shows nothing new comes last.

    Equation  greedy: the test with the greatest weight of defects that it shows and none before it did
    """
    places = possible_places(board)
    shows: dict[str, set[tuple[str, str]]] = {}
    tests = {planned_id(test.test, test.subject): test for test in board.plan.tests if not test.optional}
    for id_, circuits in places.items():
        defect = board.known[id_]
        for circuit in circuits:
            own = circuit or board.job.circuits[0].id
            kinds = set(shown_by(board, defect, own, middle_of(defect)))
            for name, test in tests.items():
                if test.test in kinds and tells_of(board, test.subject, defect, own):
                    shows.setdefault(name, set()).add((id_, circuit))
    covered: set[tuple[str, str]] = set()
    order: list[str] = []
    left = dict.fromkeys(tests)
    while left:
        gain = {name: sum(board.known[id_].weight for id_, _ in shows.get(name, set()) - covered) for name in left}
        best = max((gain[name] > 0, not tests[name].live, gain[name], name) for name in left)[-1]
        covered |= shows.get(best, set())
        order.append(best)
        del left[best]
    return tuple(Measure(test=tests[name].test, subject=tests[name].subject) for name in order)


def expert_next(findings: Findings, order: Sequence[Measure]) -> Measure | None:
    """What an expert does next: what tells the explanations apart, else the next test of the screening."""
    own = findings.next_of_diagnosis()
    return own if own is not None else next((each for each in order if each not in findings.done), None)


def tests_by_expert(board: TrainingBoard) -> int | None:
    """How many tests an expert takes until every hidden defect is told; None: it is not told by all of them."""
    order = screening_order(board)
    return _until_told(board, lambda findings: expert_next(findings, order))


def tests_at_random(board: TrainingBoard, seed: int) -> int | None:
    """The same with the tests of the plan in any order."""
    tests = [Measure(test=each.test, subject=each.subject) for each in board.plan.tests if not each.optional]
    random.Random(seed).shuffle(tests)
    turn: Iterator[Measure] = iter(tests)
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
