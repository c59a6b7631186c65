"""What readings usually mean: explanations with how likely each is, what to look for, and the test that tells the first two apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.messages import Text
from vivid_lattice.core.sources import Source
from vivid_lattice.core.testing.diagnosis.defects import Danger, scoring
from vivid_lattice.core.testing.diagnosis.explanations import UNEXPLAINED, is_sound, probability_in
from vivid_lattice.core.testing.diagnosis.fit import Fit
from vivid_lattice.core.testing.diagnosis.next_test import NextTest, next_test, separating
from vivid_lattice.core.testing.diagnosis.unit import Unit
from vivid_lattice.core.testing.expected_value import Expecting

#: With this likelihood an explanation is told as certain.
_CERTAIN = 0.95
#: So many explanations are told, and none that is less likely than this.
_TOLD, _UNLIKELY = 4, 0.02
_WORST_FIRST: tuple[Danger, ...] = ("now", "soon", "hidden", "none")


@dataclass(frozen=True, slots=True, kw_only=True)
class PossibleDefect:
    """An explanation: one defect, or two at once.

    probability  if it is one of those told or left out as less likely
    danger       the worst of its defects
    seen         what is usually found on the spot;  repair: what puts it right
    unknowns     of each defect's formulas, where it explains the readings best
    """

    ids: tuple[str, ...]
    names: tuple[str, ...]
    probability: float
    danger: Danger
    seen: tuple[str, ...]
    repair: tuple[str, ...]
    unknowns: tuple[dict[str, float], ...]
    sources: tuple[Source, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Diagnosis:
    """What the readings of a circuit, or of the whole installation, usually mean. ``circuit``: its id; of a residual-current device
    that several share ``board/device``; '' of the installation.

    certain    it is almost certainly one of those told: no reading tells these apart;  apart: the first is clearly likelier than any that a
               reading tells from it
    explains   the first explains every reading
    next_test  what best tells the first from the next; None where nothing does
    """

    circuit: str
    name: Text
    possible: tuple[PossibleDefect, ...]
    certain: bool
    apart: bool
    explains: bool
    next_test: NextTest | None


def told(by_design: Expecting, circuit: str, name: Text, unit: Unit, fits: Sequence[Fit]) -> Diagnosis | None:
    """The likeliest explanations; None where it is likeliest that all is as designed."""
    if is_sound(fits[0]):
        return None
    probability = probability_in(fits)
    same, other = _not_told_apart(by_design, unit, fits)
    apart = other is None or other.score - fits[0].score >= scoring().not_told_apart
    explains = fits[0].misfit < UNEXPLAINED
    certain = apart and explains and sum(probability(fit) for fit in same) >= _CERTAIN
    # Of what no reading tells apart, something seen on the spot does.
    rival = (same[1] if len(same) > 1 else None) if certain else other
    likely = [fit for fit in (same if certain else fits[:_TOLD]) if not is_sound(fit) and probability(fit) >= _UNLIKELY]
    return Diagnosis(
        circuit=circuit,
        name=name,
        possible=tuple(_possible(fit, probability(fit)) for fit in likely),
        certain=certain,
        apart=apart,
        explains=explains,
        next_test=None if rival is None else next_test(by_design, unit, fits[0], rival),
    )


def _not_told_apart(by_design: Expecting, unit: Unit, fits: Sequence[Fit]) -> tuple[list[Fit], Fit | None]:
    """The first explanation with those close behind it that no reading tells from it; and the likeliest that one does."""
    same, others = [fits[0]], []
    for fit in fits[1:]:
        near = fit.score - fits[0].score < 2 * scoring().not_told_apart and not is_sound(fit)
        if near and separating(by_design, unit, fits[0], fit) is None:
            same.append(fit)
        else:
            others.append(fit)
    return same, others[0] if others else None


def _possible(fit: Fit, probability: float) -> PossibleDefect:
    return PossibleDefect(
        ids=tuple(each.id for each in fit.defects),
        names=tuple(each.name for each in fit.defects),
        probability=probability,
        danger=min((each.danger for each in fit.defects), key=_WORST_FIRST.index),
        seen=tuple(each.seen for each in fit.defects if each.seen),
        repair=tuple(each.repair for each in fit.defects if each.repair),
        unknowns=tuple({name: fit.parameters[each.unknown(name)] for name in each.parameters} for each in fit.defects),
        sources=tuple(each.source for each in fit.defects),
    )
