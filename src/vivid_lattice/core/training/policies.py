"""How many tests find the defects of a board: an expert's, who screens, then takes what tells explanations apart; and tests in any order."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Sequence

from vivid_lattice.core.training.acts import Measure
from vivid_lattice.core.training.boards import TrainingBoard
from vivid_lattice.core.training.findings import Findings
from vivid_lattice.core.training.screening import all_tests, plan_tests, screening_order

#: So many tests at most are taken to tell a board.
MOST_TESTS = 120


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
    while len(findings.done) < MOST_TESTS:
        measure = choose(findings)
        if measure is None:
            return None
        if findings.take(measure) and findings.tells_all():
            return len(findings.done)
    return None
