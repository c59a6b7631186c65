"""An exercise: a question with its options, one of which is right, and the calculation that shows it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.messages import Text
from vivid_lattice.core.sources import Source

ExerciseKind = Literal["cable-size", "selective-pair", "rcd-type", "neutral-bar", "find-mistake"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Exercise:
    """A question. ``topic``: what of its kind it is about; ``number``: what it was made from; ``right``: the index of the right option; ``answer``: the calculation, line by line;
    ``facts``: what it was made with, so that it can be checked again."""

    kind: ExerciseKind
    topic: str
    standard: str
    number: int
    question: Text
    lines: tuple[Text, ...]
    options: tuple[Text, ...]
    right: int
    answer: tuple[Text, ...]
    source: Source
    facts: dict[str, float | str]
