"""The overall result of a report: it follows from its observations, and from nothing else."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.inspection.observations import CodedObservation
from vivid_lattice.core.rules.testing_rules import TestingRules
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True)
class CodeCount:
    """How many observations have a code."""

    code: str
    n: int


@dataclass(frozen=True, slots=True, kw_only=True)
class ReportOutcome:
    """Whether the installation is satisfactory; None while an observation is not coded or
    something is left to inspect or test. ``counts``: observations by code, the most
    serious first; ``rule``: what it follows from."""

    satisfactory: bool | None
    counts: tuple[CodeCount, ...]
    rule: str
    source: Source


def outcome_of(rules: TestingRules, observations: Sequence[CodedObservation], *, complete: bool) -> ReportOutcome:
    """The result that follows from some observations. ``complete``: nothing is left to inspect or test; else nothing is satisfactory.

    Source  the rule of the standard on the outcome of a report
    """
    found = Counter(each.code.code for each in observations if each.code is not None)
    bad = any(each.code is not None and each.code.unsatisfactory for each in observations)
    uncoded = any(each.code is None for each in observations)
    return ReportOutcome(
        satisfactory=False if bad else None if uncoded or not complete else True,
        counts=tuple(CodeCount(code.code, found[code.code]) for code in rules.codes if found[code.code]),
        rule=rules.outcome.text,
        source=rules.outcome.source,
    )
