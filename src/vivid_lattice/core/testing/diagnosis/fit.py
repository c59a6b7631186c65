"""The unknowns of a defect, searched for what explains the readings best."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.testing.diagnosis.circuit_symbols import CircuitModel
from vivid_lattice.core.testing.diagnosis.defects import Defect, no_defect
from vivid_lattice.core.testing.diagnosis.prediction import Taken, penalty, predicted
from vivid_lattice.core.testing.diagnosis.unit import Unit

#: Values of an unknown that are tried first, and how often the best of them is drawn closer.
_STEPS, _REFINED = 14, 4
#: A length that is not known may be so many times the one supposed.
_SCALE = (0.05, 20.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """Defects with their unknowns where they explain the readings best, and what that leaves unexplained. Lower is likelier."""

    defects: tuple[Defect, ...]
    parameters: Mapping[str, float]
    misfit: float
    score: float

    @property
    def unknowns(self) -> frozenset[str]:
        """The names of the unknowns of its defects."""
        return frozenset(name for defect in self.defects for name in defect.unknowns)


def fitted(
    units: Sequence[Unit],
    defects: tuple[Defect, ...],
    begin: Mapping[str, float] | None = None,
    search: frozenset[str] | None = None,
) -> Fit:
    """Some defects fitted to the readings of one or several circuits that they are in.

    begin   unknowns to begin from, as found for each defect alone
    search  the unknowns that are searched for, the others are as to begin from; None: all
    """
    ranges = {name: limits for defect in defects for name, limits in defect.unknowns.items()}
    if any(unit.model.scale_free for unit in units):
        ranges["scale"] = _SCALE

    readings = [(unit.model, one) for unit in units for one in unit.taken]
    at = {name: (begin or {}).get(name, _middle(limits)) for name, limits in ranges.items()}
    searched = [(name, limits) for name, limits in ranges.items() if search is None or name in search]
    for name, limits in searched * (2 if len(searched) > 1 else 1):
        # The others stay as they are, whatever this unknown is.
        moved = [(model, one) for model, one in readings if _moves(defects, name, one)]
        before = _misfit(moved, defects, at)
        value, found = _along(
            lambda trial, name=name, moved=moved: _misfit(moved, defects, {**at, name: trial}),  # type: ignore[misc]
            limits,
        )
        if found < before:
            at[name] = value
    best = _misfit(readings, defects, at)
    prior = sum(defect.penalty for defect in defects)
    if len(defects) > 1:
        # Two at once are as likely as each is, compared with none.
        prior += 2.0 * (len(defects) - 1) * math.log(no_defect().weight)
    return Fit(defects=defects, parameters=at, misfit=best, score=best + prior)


def _misfit(
    readings: Sequence[tuple[CircuitModel, Taken]], defects: tuple[Defect, ...], parameters: Mapping[str, float]
) -> float:
    return sum(penalty(one, predicted(model, defects, parameters, one.reading.test)) for model, one in readings)


def _moves(defects: tuple[Defect, ...], unknown: str, taken: Taken) -> bool:
    """Whether an unknown has to do with a reading: that of a length with all."""
    owner = next((defect for defect in defects if unknown in defect.unknowns), None)
    return owner is None or taken.reading.test in owner.effects


def _middle(limits: tuple[float, float]) -> float:
    low, high = limits
    return math.sqrt(low * high) if low > 0 else (low + high) / 2


def _along(misfit: Callable[[float], float], limits: tuple[float, float]) -> tuple[float, float]:
    """The best value of one unknown within its range: first in steps, then between the neighbours of the best."""
    low, high = limits
    by_ratio = low > 0 and high / low > 10
    forth = math.log if by_ratio else float
    back = math.exp if by_ratio else float
    a, b = forth(low), forth(high)
    best, found = back(a), math.inf
    steps = _STEPS
    for _ in range(1 + _REFINED):
        width = (b - a) / steps
        tried = [(misfit(back(a + width * number)), a + width * number) for number in range(steps + 1)]
        least, at = min(tried)
        if least < found:
            best, found = back(at), least
        a, b, steps = max(forth(low), at - width), min(forth(high), at + width), 6
    return best, found
