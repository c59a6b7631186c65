"""How a check puts its answer: a figure against its limit, with the verdict that follows from the two alone."""

from __future__ import annotations

from collections.abc import Callable
from math import floor

from vivid_lattice.core.checks.context import Context, SupplyContext
from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings import (
    Finding,
    Source,
    Step,
    Verdict,
    margin_of,
    shown,
    shown_down,
    shown_up,
    verdict_by,
)

#: What a check may be asked about.
Asked = Context | SupplyContext


def said(margin: float, verdict: Verdict) -> str:
    """How a figure stands to its limit, in words; what is in hand is rounded down, what is over is rounded up.

    >>> said(0.5, "pass"), said(0.006, "tight"), said(-0.125, "fail")
    ('In order, 50 % in hand.', 'In order, but only 0 % in hand.', 'Over the limit by 13 %.')
    """
    if verdict == "fail":
        return f"Over the limit by {shown_up(-margin * 100, 2)} %."
    in_hand = f"{max(0, whole_percent_down(margin))} % in hand."
    return f"In order, but only {in_hand}" if verdict == "tight" else f"In order, {in_hand}"


def whole_percent_down(share: float) -> int:
    """A share in whole per cent, rounded down past the last bit of floating point.

    >>> whole_percent_down(1 - 16 / 20), whole_percent_down(0.1999), whole_percent_down(-0.172)
    (20, 19, -18)
    """
    return floor(round(share * 100, 6))


def step(
    symbol: str,
    meaning: str,
    formula: str,
    figures: str,
    result: float,
    unit: str,
    source: Source | None = None,
    *,
    digits: int = 4,
) -> Step:
    """One line of a sum, its result shown to so many significant digits."""
    return Step(symbol, meaning, formula, figures, result, unit, shown(result, digits), source)


def compared(
    check: str,
    ctx: Asked,
    value: float,
    limit: float,
    unit: str,
    sentence: str,
    rule: Source,
    working: Callable[[], list[Step]],
) -> Finding:
    """A finding from a figure and the limit it must not pass; the working is written out only where it is wanted."""
    margin = margin_of(value, limit)
    verdict = verdict_by(margin)
    shown_value, shown_limit = shown_up(value), shown_down(limit)
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        figures = f"{shown_value} {'>' if verdict == 'fail' else '≤'} {shown_limit}"
        left = (
            (shown_up(-margin * 100, 2), "% over")
            if verdict == "fail"
            else (str(whole_percent_down(margin)), "% in hand")
        )
        steps = (*working(), Step("", "compare", "figure ≤ limit", figures, margin * 100, left[1], left[0], rule))
    return Finding(
        check,
        ctx.subject,
        verdict,
        f"{sentence}. {said(margin, verdict)}",
        value,
        limit,
        unit,
        shown_value,
        shown_limit,
        margin,
        rule,
        steps,
    )


def not_applicable(check: str, ctx: Asked, reason: str, rule: Source | None = None) -> Finding:
    """The check does not concern this circuit, and why."""
    return Finding(check, ctx.subject, "not-applicable", reason, rule=rule)


def missing(check: str, ctx: Asked, needs: tuple[Need, ...]) -> Finding:
    """The check lacks something. That is never a pass."""
    lacks = " and ".join(need.what for need in needs)
    return Finding(
        check,
        ctx.subject,
        "missing",
        f"Cannot be worked out without {lacks}.",
        needs=needs,
    )
