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
    verdict_of,
)

#: What a check may be asked about.
Asked = Context | SupplyContext


def said(value: float, limit: float) -> str:
    """How a figure stands to its limit, in words; what is in hand is rounded down, what is over is rounded up.

    >>> said(16, 32), said(15.9, 16), said(18, 16)
    ('In order, 50 % in hand.', 'In order, but only 0 % in hand.', 'Over the limit by 13 %.')
    """
    margin = margin_of(value, limit)
    verdict = verdict_of(value, limit)
    if verdict == "fail":
        return f"Over the limit by {shown_up(-margin * 100, 2)} %."
    in_hand = f"{whole_percent_down(margin)} % in hand."
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
    plain = verdict_of(value, limit)
    shown_value, shown_limit = shown_up(value), shown_down(limit)
    return Finding(
        check,
        ctx.subject,
        plain,
        f"{sentence}. {said(value, limit)}",
        value,
        limit,
        unit,
        shown_value,
        shown_limit,
        margin_of(value, limit),
        rule,
        (*working(), _compare(plain, value, limit, rule)) if ctx.explain else (),
    )


def _compare(verdict: Verdict, value: float, limit: float, rule: Source) -> Step:
    percent = margin_of(value, limit) * 100
    sign = ">" if verdict == "fail" else "≤"
    figures = f"{shown_up(value)} {sign} {shown_down(limit)}"
    shown_ = str(whole_percent_down(margin_of(value, limit)))
    return Step("", "compare", "figure ≤ limit", figures, percent, "% in hand", shown_, rule)


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
