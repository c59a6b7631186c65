"""Verdicts, their order, and the verdict that follows from a value and its limit."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from vivid_lattice.core.units import SLACK

Verdict = Literal["pass", "tight", "fail", "advice", "missing", "not-applicable"]

#: Under a tenth left is worth a look before the cable is bought. Common practice, no source.
TIGHT_BELOW = 0.10

#: The worst first.
VERDICT_ORDER: tuple[Verdict, ...] = ("fail", "missing", "advice", "tight", "pass", "not-applicable")


def margin_of(value: float, limit: float) -> float:
    """Share of the limit still left: 1 − value/limit.

    >>> margin_of(4.1, 5.0) > 0.179
    True
    """
    return 1.0 - value / limit


def verdict_by(margin: float) -> Verdict:
    """Pass, tight or fail for a figure by its margin; at the limit it passes, but is tight.

    >>> [verdict_by(margin_of(value, 16)) for value in (16, 14.4, 16.001)]
    ['tight', 'pass', 'fail']
    """
    if margin < -SLACK:
        return "fail"
    return "tight" if margin < TIGHT_BELOW - SLACK else "pass"


def worst(verdicts: Sequence[Verdict]) -> Verdict:
    """The worst of several verdicts; of none, 'not-applicable'.

    >>> worst(["pass", "missing", "tight"])
    'missing'
    """
    return min(verdicts, key=VERDICT_ORDER.index, default="not-applicable")
