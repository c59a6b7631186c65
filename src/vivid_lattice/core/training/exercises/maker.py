"""Exercises by kind and number."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import lru_cache
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


def kinds_of(standard: str) -> tuple[ExerciseKind, ...]:
    """The kinds of exercise in a standard: residual-current devices have types, and bars of their own, where its data know them."""
    if homes()[standard][0] == "na":
        return tuple(kind for kind in KINDS if kind not in ("rcd-type", "neutral-bar"))
    return KINDS


@lru_cache(maxsize=2048)
def exercise(standard: str, kind: ExerciseKind, number: int) -> Exercise:
    """The exercise of a kind and number in a standard."""
    return _MAKERS[kind](rule_set(standard), number)
