"""Which test a tester makes, by its function, by where its two leads are, and by what is joined at the board."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import Literal

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.test_plan import PlannedTest
from vivid_lattice.core.training.boards import TrainingBoard, all_at_once, circuits_of

Function = Literal[
    "continuity", "insulation", "loop", "voltage", "rcd-half", "rcd-1", "rcd-5", "rcd-ramp",
]  # fmt: skip
Point = Literal[
    "line", "neutral", "earth", "line-end", "neutral-end", "earth-end", "main-earth", "other-line", "ground"
]
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


def tests_made(
    board: TrainingBoard, function: Function, first: Point, second: Point, at: str
) -> tuple[PlannedTest, ...]:
    """The tests of a board that a function makes between two points of a circuit, or of the supply: ''. Several differ by what is joined
    at the board."""
    return tuple(
        test
        for kind in _kinds(function, frozenset((first, second)))
        for test in board.tests
        if test.test == kind and _is_at(board, test, at)
    )


def _is_at(board: TrainingBoard, test: PlannedTest, at: str) -> bool:
    """Whether a test is made with the leads at a circuit; at the supply, and of all circuits at once: ''."""
    whole = all_at_once(test.test, test.subject)
    return (whole or test.subject.kind == "supply") if not at else not whole and at in circuits_of(board, test.subject)


@lru_cache
def link_of(kind: ReadingKind) -> str:
    """What is joined at the board for a test."""
    rows = rule_set("uk").data.table("common.training.links").rows
    return next((str(link) for test, link in rows if test == kind), "none")


def _kinds(function: Function, points: frozenset[Point]) -> Iterator[ReadingKind]:
    return (test for test, own, ends in _connections() if (own, ends) == (function, points))
