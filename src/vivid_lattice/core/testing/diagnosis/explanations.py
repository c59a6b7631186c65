"""Readings explained by no defect, by one, or by two at once: the likeliest first."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from vivid_lattice.core.testing.diagnosis.defects import Defect, no_defect
from vivid_lattice.core.testing.diagnosis.fit import Fit, fitted
from vivid_lattice.core.testing.diagnosis.unit import Unit

#: A single defect that leaves so much unexplained may be two. So many of the best are combined with each other one, and so many of those
#: pairs are looked at closely.
UNEXPLAINED, _COMBINED, _CLOSELY = 8.0, 5, 10


def explanations(units: Sequence[Unit], candidates: Sequence[Defect]) -> list[Fit]:
    """The fits of no defect, of each alone, and in one circuit of two at once where one leaves much unexplained; the likeliest first.

    units  the circuits that a defect is in: one, or those of the whole installation
    """
    kinds = frozenset[str]().union(*(unit.done for unit in units))
    single = [fitted(units, (each,)) for each in candidates if kinds & each.changed]
    found = sorted([fitted(units, (no_defect(),)), *single], key=_score)
    if found[0].misfit > UNEXPLAINED and len(units) == 1:
        found += _by_twos(units, [fit for fit in found if not is_sound(fit)])
    return sorted(found, key=_score)


def _by_twos(units: Sequence[Unit], single: Sequence[Fit]) -> list[Fit]:
    """Two defects at once: one of the likeliest, and any that explains what it leaves. The best pairs are searched for both at once."""
    pairs: dict[frozenset[str], Fit] = {}
    for number, a in enumerate(single[:_COMBINED]):
        for b in single[number + 1 :]:
            fit = fitted(units, (*a.defects, *b.defects), {**b.parameters, **a.parameters}, b.unknowns)
            pairs[frozenset(each.id for each in fit.defects)] = fit
    likeliest = sorted(pairs.values(), key=_score)[:_CLOSELY]
    closely = [fitted(units, fit.defects, fit.parameters) for fit in likeliest]
    alone = {fit.defects[0].id: fit.score for fit in single}
    # Two are told only where one of them does not do.
    return [fit for fit in closely if fit.score < min(alone[each.id] for each in fit.defects)]


def is_sound(fit: Fit) -> bool:
    """Whether a fit is that all is as designed."""
    return fit.defects == (no_defect(),)


def sound_of(fits: Sequence[Fit]) -> Fit:
    """The fit of no defect among some."""
    return next(fit for fit in fits if is_sound(fit))


def probability_in(fits: Sequence[Fit]) -> Callable[[Fit], float]:
    """How likely each of some explanations is, the likeliest first, if it is one of them."""

    def likelihood(fit: Fit) -> float:
        return math.exp((fits[0].score - fit.score) / 2)

    total = sum(likelihood(fit) for fit in fits)
    return lambda fit: likelihood(fit) / total


def _score(fit: Fit) -> float:
    return fit.score
