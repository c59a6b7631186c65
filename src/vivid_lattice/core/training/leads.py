"""Which test a tester makes, by its function and by where its two leads are."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import Literal

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.test_plan import PlannedTest
from vivid_lattice.core.training.boards import TrainingBoard, circuits_of

Function = Literal[
    "continuity", "insulation", "loop", "voltage", "rcd-half", "rcd-1", "rcd-5", "rcd-ramp",
]  # fmt: skip
Point = Literal["line", "neutral", "earth", "line-end", "neutral-end", "earth-end", "main-earth", "other-line"]
#: Functions that put the tester's own voltage on a dead circuit, by a test of theirs.
DEAD: Mapping[Function, ReadingKind] = {"continuity": "r2", "insulation": "ir_le"}


@lru_cache
def _connections() -> tuple[tuple[ReadingKind, Function, frozenset[Point]], ...]:
    """The function and the points of each test, in the order in which they are looked for."""
    rows = rule_set("uk").data.table("common.training.leads").rows
    return tuple((test, function, frozenset((first, second))) for test, function, first, second in rows)  # type: ignore[arg-type, misc]


def connection_of(kind: ReadingKind) -> tuple[Function, tuple[Point, Point]] | None:
    """The function and the points of a test; None: it is looked at or tried, not read with two leads."""
    for test, function, points in _connections():
        if test == kind:
            first, second = sorted(points)
            return function, (first, second)
    return None


def test_made(board: TrainingBoard, function: Function, first: Point, second: Point, at: str) -> PlannedTest | None:
    """The test of a board's plan that a function makes between two points of a circuit, or of the supply: ''. None: none of the plan."""
    for kind in _kinds(function, frozenset((first, second))):
        for test in board.plan.tests:
            if test.test == kind and (at in circuits_of(board, test.subject) if at else test.subject.kind == "supply"):
                return test
    return None


def _kinds(function: Function, points: frozenset[Point]) -> Iterator[ReadingKind]:
    return (test for test, own, ends in _connections() if (own, ends) == (function, points))
