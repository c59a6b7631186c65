"""How a check puts its answer: a figure against its limit, with the verdict that follows from the two alone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import floor

from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.finding import Assumption, Cause, Finding, Step
from vivid_lattice.core.findings.verdict import Verdict, margin_of, verdict_by
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext
from vivid_lattice.core.messages import Joined, Message, Text, Vocabulary, message
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown, shown_down, shown_up

#: What a check may be asked about.
AnyContext = CircuitContext | SupplyContext | BoardContext


def with_verdict(words: Vocabulary, fact: Text, margin: float, verdict: Verdict) -> Message:
    """A fact with how it is to its limit: a margin is rounded down, what is over is rounded up.

    fact  a sentence without its full stop
    """
    if verdict == "fail" and margin <= -1:
        return message(words, "core.ending.fail_times", fact=fact, n=shown_up(1 - margin, 2))
    if verdict == "fail":
        return message(words, "core.ending.fail", fact=fact, percent=shown_up(-margin * 100, 2))
    percent = max(0, percent_down(margin))
    if verdict == "tight" and percent == 0:
        return message(words, "core.ending.no_margin", fact=fact)
    return message(words, f"core.ending.{'tight' if verdict == 'tight' else 'pass'}", fact=fact, percent=str(percent))


def percent_down(share: float) -> int:
    """A share in whole per cent, rounded down past the last bit of floating point.

    >>> percent_down(1 - 16 / 20), percent_down(0.1999), percent_down(-0.172)
    (20, 19, -18)
    """
    return floor(round(share * 100, 6))


def step(
    symbol: str,
    meaning: Text,
    formula: Text,
    figures: Text,
    result: float,
    unit: str,
    source: Source | None = None,
    *,
    digits: int = 4,
) -> Step:
    """One line of a calculation, its result shown to so many significant digits."""
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
    sentence: Text,
    rule: Source,
    working: Callable[[], list[Step]],
    *,
    in_steps: bool = False,
    assumptions: tuple[Assumption, ...] = (),
    cause: Cause | None = None,
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
        over = verdict == "fail"
        steps = (
            *working(),
            Step(
                symbol="",
                meaning=message(None, "core.ending.compare"),
                formula=message(None, "core.ending.compare_limit"),
                figures=figures,
                result=margin * 100,
                unit=message(None, "core.ending.percent_over" if over else "core.ending.percent_margin"),
                shown=shown_up(-margin * 100, 2) if over else str(percent_down(margin)),
                source=rule,
            ),
        )
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict=verdict,
        sentence=with_verdict(ctx.rules.words, sentence, margin, verdict),
        value=value,
        limit=limit,
        unit=unit,
        shown_value=shown_value,
        shown_limit=shown_limit,
        margin=margin,
        rule=rule,
        working=steps,
        assumptions=assumptions,
        cause=cause,
    )


#: A class's let-through limit is for the current of its row. Where no more than two thirds of that may flow, and the limit
#: is passed by no more than a tenth, less gets through than the limit says; on-site tables round such sizes away. Common practice.
_CLASS_SHARE, _CLASS_OVER = 2 / 3, -0.10


def by_class_limit(finding: Finding, fault_a: float, row_a: float | None) -> Finding:
    """A finding over the limit of a device's energy class: advice where the limit is a bound well above what flows."""
    if finding.verdict != "fail" or row_a is None or finding.margin is None:
        return finding
    if fault_a > _CLASS_SHARE * row_a or finding.margin < _CLASS_OVER:
        return finding
    text = message(
        None,
        "core.ending.class_limit",
        sentence=finding.sentence,
        class_ka=plain(row_a / 1000),
        fault_ka=shown_up(fault_a / 1000),
    )
    return replace(finding, verdict="advice", sentence=text)


def standard_size(
    check: str,
    ctx: AnyContext,
    least: SourcedValue,
    there_is: SourcedValue,
    sentence: Text,
    working: Callable[[], list[Step]],
) -> Finding:
    """A finding of a conductor against the minimum size of a table: exactly that size passes, and is not tight."""
    margin = margin_of(least.value, there_is.value)
    verdict: Verdict = "fail" if verdict_by(margin) == "fail" else "pass"
    size = ctx.rules.cables.size_label
    least_shown, there_shown, unit = _sizes_shown(size(least.value), size(there_is.value), least.value, there_is.value)
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        sign = "<" if verdict == "fail" else "≥"
        figures = f"{size(there_is.value)} {sign} {size(least.value)}"
        steps = (
            *working(),
            Step(
                symbol="",
                meaning=message(None, "core.ending.compare"),
                formula=message(None, "core.ending.compare_size"),
                figures=figures,
                result=margin * 100,
                unit="",
                shown=message(None, "core.ending.size_small" if verdict == "fail" else "core.ending.size_enough"),
                source=least.source,
            ),
        )
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict=verdict,
        sentence=message(None, f"core.ending.size_{'fail' if verdict == 'fail' else 'pass'}", fact=sentence),
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


def not_applicable(check: str, ctx: AnyContext, reason: Text, rule: Source | None = None) -> Finding:
    """The check does not concern this circuit, and why."""
    return Finding(check=check, subject=ctx.subject, verdict="not-applicable", sentence=reason, rule=rule)


def not_laid_out(check: str, ctx: BoardContext) -> Finding:
    """The board has no enclosure yet, so that nothing of its build can be judged. That is said, and is no pass."""
    return not_applicable(check, ctx, ctx.message("core.ending.no_layout"))


def missing(check: str, ctx: AnyContext, needs: tuple[Need, ...]) -> Finding:
    """The check lacks something. That is never a pass."""
    lacks = Joined.of(need.what for need in needs)
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict="missing",
        sentence=message(None, "core.ending.missing", list=lacks),
        needs=needs,
    )
