"""Exercises by kind and number, and which one comes next: what went wrong comes again soon, what went well later."""

from __future__ import annotations

import datetime
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import get_args

from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.data_folder import homes
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.training.exercises.cable_size import cable_size
from vivid_lattice.core.training.exercises.exercise import Exercise, ExerciseKind
from vivid_lattice.core.training.exercises.find_mistake import find_mistake
from vivid_lattice.core.training.exercises.neutral_bar import neutral_bar
from vivid_lattice.core.training.exercises.rcd_type import rcd_type
from vivid_lattice.core.training.exercises.selective_pair import selective_pair

KINDS: tuple[ExerciseKind, ...] = get_args(ExerciseKind)
_MAKERS: Mapping[ExerciseKind, Callable[[RuleSet, int], Exercise]] = {
    "cable-size": cable_size, "selective-pair": selective_pair, "rcd-type": rcd_type, "neutral-bar": neutral_bar,
    "find-mistake": find_mistake,
}  # fmt: skip
#: Days until a kind comes again, by how often in a row it went well. Common practice of spaced repetition, no source.
_DAYS = (0, 1, 3, 7, 14, 30)


def kinds_of(standard: str) -> tuple[ExerciseKind, ...]:
    """The kinds of exercise in a standard: residual-current devices have types, and bars of their own, where its data know them."""
    if homes()[standard][0] == "na":
        return tuple(kind for kind in KINDS if kind not in ("rcd-type", "neutral-bar"))
    return KINDS


def exercise(standard: str, kind: ExerciseKind, number: int) -> Exercise:
    """The exercise of a kind and number in a standard."""
    return _MAKERS[kind](rule_set(standard), number)


@dataclass(frozen=True, slots=True)
class Given:
    """An answer that was given: of which kind, on which day, whether it was right."""

    kind: ExerciseKind
    on: datetime.date
    right: bool


def due(standard: str, given: Sequence[Given], today: datetime.date) -> tuple[ExerciseKind, ...]:
    """The kinds of a standard in the order in which they should come: those that are due first, of these the ones that went wrong last; then never asked."""

    def place(kind: ExerciseKind) -> tuple[int, int, int]:
        own = [each for each in given if each.kind == kind]
        if not own:
            return (1, 0, KINDS.index(kind))
        streak = 0
        for each in reversed(own):
            if not each.right:
                break
            streak += 1
        wait = _DAYS[min(streak, len(_DAYS) - 1)]
        over = (today - own[-1].on).days - wait
        return (0 if over >= 0 and streak == 0 else 1 if over >= 0 else 2, -over, KINDS.index(kind))

    return tuple(sorted(kinds_of(standard), key=place))
