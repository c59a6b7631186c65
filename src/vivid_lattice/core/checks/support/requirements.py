"""A check that makes several demands at once: each is said, and the worst decides."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from vivid_lattice.core.checks.support.finding_builder import AnyContext
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Assumption, Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import shown_down, shown_up


@dataclass(frozen=True, slots=True, kw_only=True)
class RequirementResult:
    """How one demand is, what it reads, and its figure against what it must not pass (of a minimum: the minimum,
    against what is there)."""

    verdict: Verdict
    text: Text
    value: float
    limit: float
    source: Source | None
    unit: str = ""


def finding_from_requirements(
    check: str, ctx: AnyContext, demands: list[RequirementResult], assumptions: tuple[Assumption, ...] = ()
) -> Finding:
    """The finding of a check by its worst demand, with a line of working for each; ``demands`` is not empty."""
    worst = min(demands, key=lambda demand: VERDICT_ORDER.index(demand.verdict))
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        steps = tuple(
            Step(
                symbol="",
                meaning=demand.text,
                formula=message(None, "core.ending.compare"),
                figures="",
                result=demand.value,
                unit="",
                shown=message(None, f"core.ending.requirement_{demand.verdict}"),
                source=demand.source,
            )
            for demand in demands
        )
    has_figure = bool(worst.value or worst.limit or worst.unit)
    return Finding(
        check=check,
        subject=ctx.subject,
        verdict=worst.verdict,
        sentence=message(None, "core.ending.fact", fact=worst.text),
        value=worst.value if has_figure else None,
        limit=worst.limit if has_figure else None,
        unit=worst.unit,
        shown_value=shown_up(worst.value) if has_figure else "",
        shown_limit=shown_down(worst.limit) if has_figure else "",
        margin=None,
        rule=worst.source,
        working=steps,
        assumptions=assumptions,
    )


def finding_from_known_requirements(
    check: str,
    ctx: AnyContext,
    parts: Iterable[Callable[[], Iterable[RequirementResult]]],
    assumptions: tuple[Assumption, ...] = (),
) -> Finding:
    """As ``finding_from_requirements``, of parts that may each lack an input: a part that fails decides, else what is missing does.

    Raises  NeedsInput with every input that a part lacks, where none fails
    """
    demands: list[RequirementResult] = []
    needs: dict[tuple[str, Text], Need] = {}
    for part in parts:
        try:
            demands += part()
        except NeedsInput as lack:
            needs |= {(need.path, need.what): need for need in lack.needs}
    if needs and not any(demand.verdict == "fail" for demand in demands):
        raise NeedsInput(*needs.values())
    return finding_from_requirements(check, ctx, demands, assumptions)
