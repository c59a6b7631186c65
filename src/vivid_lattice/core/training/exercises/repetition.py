"""Which exercise comes next: a topic that went wrong comes again soon, one that went well later."""

from __future__ import annotations

import datetime
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from vivid_lattice.core.training.exercises.exercise import Exercise, ExerciseKind
from vivid_lattice.core.training.exercises.maker import KINDS, exercise, kinds_of

#: Days until a topic comes again, by how often in a row it went well. Common practice of spaced repetition, no source.
_DAYS = (0, 1, 3, 7, 14, 30)
#: What each kind of exercise is about.
TOPICS: Mapping[ExerciseKind, tuple[str, ...]] = {
    "cable-size": ("alone", "grouped"),
    "selective-pair": ("same-curve", "other-curve"),
    "rcd-type": ("plain", "converter", "charger", "charger_detected"),
    "neutral-bar": ("first", "second", "own", "ahead"),
    "find-mistake": (
        "drop-current", "drop-both_ways", "drop-drop", "drop-percent", "loop-cold", "loop-warm", "loop-loop", "loop-fault",
    ),
}  # fmt: skip
#: An exercise of a topic is looked for among so many numbers.
_TRIES = 120

Topic = tuple[ExerciseKind, str]


@lru_cache
def topics_of(standard: str) -> tuple[Topic, ...]:
    """The topics of a standard, by kind: those that its exercises have."""
    found: list[Topic] = []
    for kind in kinds_of(standard):
        met = {exercise(standard, kind, number).topic for number in range(_TRIES)}
        found += [(kind, name) for name in TOPICS[kind] if name in met]
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Given:
    """An answer that was given: to which exercise, on which day, whether it was right."""

    standard: str
    kind: ExerciseKind
    number: int
    on: datetime.date
    right: bool

    @property
    def topic(self) -> Topic:
        """What it was about."""
        return self.kind, exercise(self.standard, self.kind, self.number).topic


def due(standard: str, given: Sequence[Given], today: datetime.date) -> tuple[Topic, ...]:
    """The topics of a standard in the order in which they should come: those that are due and went wrong last; then those that are due, and
    those never asked, one of each kind after the other; then the others."""
    of: dict[Topic, list[Given]] = {}
    for each in given:
        of.setdefault(each.topic, []).append(each)

    def place(topic: Topic) -> tuple[int, int, int, int]:
        kind, name = topic
        order = (TOPICS[kind].index(name), KINDS.index(kind))
        own = of.get(topic)
        if not own:
            return (1, 0, *order)
        streak = 0
        for each in reversed(own):
            if not each.right:
                break
            streak += 1
        over = (today - own[-1].on).days - _DAYS[min(streak, len(_DAYS) - 1)]
        return (0 if over >= 0 and streak == 0 else 1 if over >= 0 else 2, -over, *order)

    return tuple(sorted(topics_of(standard), key=place))


def next_exercise(standard: str, given: Sequence[Given], today: datetime.date, seed: int) -> Exercise:
    """The exercise that comes next, of a number from ``seed`` on that was not answered yet."""
    answered = {(each.kind, each.number) for each in given if each.standard == standard}
    for kind, name in due(standard, given, today):
        for number in range(seed, seed + _TRIES):
            if (kind, number) not in answered and exercise(standard, kind, number).topic == name:
                return exercise(standard, kind, number)
    return exercise(standard, kinds_of(standard)[0], seed)
