"""The ways to share residual-current devices out, what a plan is wanted for, and what a search brings back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.messages import Message, Vocabulary, message

Architecture = Literal[
    "one", "two", "three", "four", "five", "six", "own", "mixed", "mixed-four", "split-one", "split", "split-three"
]

#: What each architecture may use: shared devices at most (all of which are used), own ones, circuits ahead.
SHAPES: Mapping[Architecture, tuple[int, bool, bool]] = {
    "one": (1, False, False),
    "two": (2, False, False),
    "three": (3, False, False),
    "four": (4, False, False),
    "five": (5, False, False),
    "six": (6, False, False),
    "own": (0, True, False),
    "mixed": (2, True, False),
    "mixed-four": (4, True, False),
    "split-one": (1, False, True),
    "split": (2, False, True),
    "split-three": (3, False, True),
}


def architecture_title(architecture: Architecture, words: Vocabulary) -> Message:
    """What an architecture is called in the words of a standard."""
    return message(words, f"core.rcd_plan.title.{architecture}")


@dataclass(frozen=True, slots=True)
class Weights:
    """What the plan is for: worst-case loss of supply, number of devices, cost, each by the user's weight (0 or more)."""

    worst_loss: float = 100.0
    devices: float = 5.0
    cost: float = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanSolution:
    """Where each circuit goes: a group's number from 0, 'own' or 'ahead'; and how sure it is that nothing is better.

    ``objective`` and ``bound`` in the units of the weights; ``proven``: they are equal.
    """

    places: Mapping[str, int | str]
    objective: float
    bound: float
    proven: bool
    seconds: float
