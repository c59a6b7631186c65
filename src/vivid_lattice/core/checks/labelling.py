"""Is the board named so that the next person finds every way, and warned of what stays live?"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence

from vivid_lattice.core.board.labels import ChartLine, chart_of, notices_of
from vivid_lattice.core.checks.support.finding_builder import not_laid_out
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import BoardContext

ID = "labelling"

#: Words that say what a way feeds and not where it is: common practice, no source.
_VAGUE = frozenset({"power", "lights", "lighting", "sockets", "plugs", "spare", "various", "other", "general", "misc"})


def check(ctx: BoardContext) -> Finding:
    """Every way has its own text with its location; the location of the main earth is stated; the notices the standard requires.

    Source  the rule set's rules on marking
    """
    if not ctx.model.begun:
        return not_laid_out(ID, ctx)
    return finding_from_requirements(ID, ctx, [*_chart(ctx), *_earth(ctx), *_notices(ctx)])


def _chart(ctx: BoardContext) -> Iterator[RequirementResult]:
    rule = ctx.rules.board.source("chart")
    lines = chart_of(ctx.model)
    counts = Counter(line.text.strip().casefold() for line in lines)
    twice = [line.text for line in lines if counts[line.text.strip().casefold()] > 1]
    if twice:
        words = ctx.message("core.check.labelling.twice", text=twice[0], n=str(counts[twice[0].strip().casefold()]))
        yield RequirementResult(verdict="fail", text=words, value=float(len(twice)), limit=0.0, source=rule)
    vague = _vague(lines)
    if vague:
        words = ctx.message("core.check.labelling.vague", text=vague[0].text, n=str(vague[0].way))
        yield RequirementResult(verdict="advice", text=words, value=float(len(vague)), limit=0.0, source=rule)
    if not twice and not vague:
        yield RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.labelling.ok", n=len(lines)),
            value=0.0,
            limit=0.0,
            source=rule,
        )


def _earth(ctx: BoardContext) -> Iterator[RequirementResult]:
    if not is_origin(ctx.board.fed_by):
        return
    where = ctx.board.build.labels.main_earth_location
    rule = ctx.rules.board.source("chart")
    if where:
        yield RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.labelling.earth_ok", where=where),
            value=0.0,
            limit=0.0,
            source=rule,
        )
    else:
        yield RequirementResult(
            verdict="advice", text=ctx.message("core.check.labelling.earth_missing"), value=1.0, limit=0.0, source=rule
        )


def _notices(ctx: BoardContext) -> Iterator[RequirementResult]:
    for notice in notices_of(ctx.network.boards, ctx.model):
        yield RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.labelling.notice", text=notice.text.rstrip(".")),
            value=0.0,
            limit=0.0,
            source=notice.source,
        )


def _vague(lines: Sequence[ChartLine]) -> list[ChartLine]:
    """Lines that say what is fed and not where."""
    return [line for line in lines if line.text.strip().casefold() in _VAGUE and not line.rooms]
