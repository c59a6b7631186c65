"""How a check puts its answer: a figure against its limit, with the verdict that follows from the two alone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import floor

from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import Verdict, margin_of, verdict_by
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import shown, shown_down, shown_up

#: What a check may be asked about.
AnyContext = CircuitContext | SupplyContext | BoardContext


def verdict_text(margin: float, verdict: Verdict) -> str:
    """How a figure stands to its limit, in words; what is in hand is rounded down, what is over is rounded up.

    >>> verdict_text(0.5, "pass"), verdict_text(0.006, "tight"), verdict_text(-0.125, "fail")
    ('In order, 50 % in hand.', 'In order, but only 0 % in hand.', 'Over the limit by 13 %.')
    >>> verdict_text(-1.5, "fail")
    '2.5 times the limit.'
    """
    if verdict == "fail" and margin <= -1:
        return f"{shown_up(1 - margin, 2)} times the limit."
    if verdict == "fail":
        return f"Over the limit by {shown_up(-margin * 100, 2)} %."
    in_hand = f"{max(0, percent_down(margin))} % in hand."
    return f"In order, but only {in_hand}" if verdict == "tight" else f"In order, {in_hand}"


def percent_down(share: float) -> int:
    """A share in whole per cent, rounded down past the last bit of floating point.

    >>> percent_down(1 - 16 / 20), percent_down(0.1999), percent_down(-0.172)
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
    return Step(
        symbol=symbol,
        meaning=meaning,
        formula=formula,
        figures=figures,
        result=result,
        unit=unit,
        shown=shown(result, digits),
        source=source,
    )


def finding_from_limit(
    check: str,
    ctx: AnyContext,
    value: float,
    limit: float,
    unit: str,
    sentence: str,
    rule: Source,
    working: Callable[[], list[Step]],
    *,
    in_steps: bool = False,
) -> Finding:
    """A finding from a figure and the limit it must not pass; the working is written out only where it is wanted.

    in_steps  value and limit are ratings that come in steps: one that is just met is met, and not tight
    """
    margin = margin_of(value, limit)
    verdict = verdict_by(margin)
    if in_steps and verdict == "tight":
        verdict = "pass"
    shown_value, shown_limit = shown_up(value), shown_down(limit)
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        figures = f"{shown_value} {'>' if verdict == 'fail' else '≤'} {shown_limit}"
        left = (shown_up(-margin * 100, 2), "% over") if verdict == "fail" else (str(percent_down(margin)), "% in hand")
        steps = (
            *working(),
            Step(
                symbol="",
                meaning="compare",
                formula="figure ≤ limit",
                figures=figures,
                result=margin * 100,
                unit=left[1],
                shown=left[0],
                source=rule,
            ),
        )
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict=verdict,
        sentence=f"{sentence}. {verdict_text(margin, verdict)}",
        value=value,
        limit=limit,
        unit=unit,
        shown_value=shown_value,
        shown_limit=shown_limit,
        margin=margin,
        rule=rule,
        working=steps,
    )


#: A class's let-through limit stands for the current of its row. Where no more than two thirds of that may flow, and the limit
#: is passed by no more than a tenth, less gets through than the limit says; on-site tables round such sizes away. Common practice.
_CLASS_SHARE, _CLASS_OVER = 2 / 3, -0.10


def by_class_limit(finding: Finding, fault_a: float, row_a: float | None) -> Finding:
    """A finding over the limit of a device's energy class: advice where the limit is a bound well above what flows."""
    if finding.verdict != "fail" or row_a is None or finding.margin is None:
        return finding
    if fault_a > _CLASS_SHARE * row_a or finding.margin < _CLASS_OVER:
        return finding
    text = f"{finding.sentence} That is by its class's limit at {row_a / 1000:g} kA, and {shown_up(fault_a / 1000)} kA flow: look at the maker's diagram."
    return replace(finding, verdict="advice", sentence=text)


def standard_size(
    check: str,
    ctx: AnyContext,
    least: SourcedValue,
    there_is: SourcedValue,
    sentence: str,
    working: Callable[[], list[Step]],
) -> Finding:
    """A finding of a conductor of a standard size against the least a table asks for: the size itself is all that is asked,
    so that one exactly at it is in order and not tight."""
    margin = margin_of(least.value, there_is.value)
    verdict: Verdict = "fail" if verdict_by(margin) == "fail" else "pass"
    size = ctx.rules.cables.size_label
    least_shown, there_shown, unit = _sizes_shown(size(least.value), size(there_is.value), least.value, there_is.value)
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        sign = "<" if verdict == "fail" else "≥"
        figures = f"{size(there_is.value)} {sign} {size(least.value)}"
        said_ = "too small" if verdict == "fail" else "enough"
        steps = (
            *working(),
            Step(
                symbol="",
                meaning="compare",
                formula="size ≥ least size",
                figures=figures,
                result=margin * 100,
                unit="",
                shown=said_,
                source=least.source,
            ),
        )
    end = "Too small." if verdict == "fail" else "In order."
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict=verdict,
        sentence=f"{sentence}. {end}",
        value=least.value,
        limit=there_is.value,
        unit=unit,
        shown_value=least_shown,
        shown_limit=there_shown,
        margin=margin,
        rule=least.source,
        working=steps,
    )


def _sizes_shown(least: str, there_is: str, least_mm2: float, there_is_mm2: float) -> tuple[str, str, str]:
    """Two sizes by their names where both have one of the same kind (12 AWG), else by their area; and the unit."""
    (size, unit), (other, its_unit) = least.rsplit(" ", 1), there_is.rsplit(" ", 1)
    if unit == its_unit != "mm²":
        return size, other, unit
    return shown_up(least_mm2), shown_down(there_is_mm2), "mm²"


def not_applicable(check: str, ctx: AnyContext, reason: str, rule: Source | None = None) -> Finding:
    """The check does not concern this circuit, and why."""
    return Finding(check=check, subject=ctx.subject, verdict="not-applicable", sentence=reason, rule=rule)


def not_laid_out(check: str, ctx: BoardContext) -> Finding:
    """The board has no enclosure yet, so that nothing of its build can be judged. That is said, and is no pass."""
    return not_applicable(
        check, ctx, f"{ctx.board.name} is not laid out yet: choose its enclosure in the board's view."
    )


def missing(check: str, ctx: AnyContext, needs: tuple[Need, ...]) -> Finding:
    """The check lacks something. That is never a pass."""
    lacks = " and ".join(need.what for need in needs)
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict="missing",
        sentence=f"Cannot be worked out without {lacks}.",
        needs=needs,
    )
