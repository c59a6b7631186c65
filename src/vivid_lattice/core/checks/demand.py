"""Is the supply enough for everything together? The distributor's device for the whole job, the main switch for a board."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.certain_load import certain_a
from vivid_lattice.core.checks.support.finding_builder import (
    AnyContext,
    finding_from_limit,
    not_applicable,
    step,
    verdict_text,
)
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Assumption, Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import BoardContext, SupplyContext
from vivid_lattice.core.rules.protocol import MaximumDemand
from vivid_lattice.core.text import shown_up
from vivid_lattice.core.units import SLACK

ID = "demand"


def check(ctx: SupplyContext) -> Finding:
    """Maximum demand of the worst line against the rating of the distributor's device.

    Equation  Id = Σ (diversified currents of the line) ≤ rating; in its place a measured demand, or the rating of the main breaker
              that limits it by agreement
    Source    the rule set's demand method; ``common.demand.estimate``
    Exceeding the estimate is advice: it says what could be done and forbids nothing. It fails where the standard goes by the
    calculated load, and where loads that certainly run together exceed the rating.
    """
    job = ctx.network.job
    if not job.circuits:
        raise NeedsInput(Need("any circuit", "circuits", "Add the circuits first."))
    cutout = job.supply.cutout
    name = ctx.rules.vocabulary.get("origin", "cut-out")
    if cutout is None:
        ask = "Read it on the carrier, or ask the distributor; do not pull it."
        raise NeedsInput(Need(f"the rating of the {name}", "supply.cutout", ask))
    known = _known(ctx, cutout.rating_a, f"{name} of {cutout.rating_a:g} A")
    if known is not None:
        return known
    demand = _permitted(ctx, cutout.rating_a)
    line = "" if len(demand.by_line) == 1 else f" in {demand.line}, the most loaded line"
    sentence = f"Estimated demand {shown_up(demand.current_a)} A{line}, {name} {cutout.rating_a:g} A"
    return _answer(ctx, demand, cutout.rating_a, sentence, None)


def check_board(ctx: BoardContext) -> Finding:
    """Maximum demand of a board's worst line against its main switch.

    Equation  Id ≤ rating of the main switch
    Source    the rule set's demand method; as for the supply, where that already says it both are one cause
    """
    board = ctx.board
    if board.main_switch is None:
        return not_applicable(ID, ctx, f"{board.name}: no main switch is entered.")
    if not board.ways:
        return not_applicable(ID, ctx, f"{board.name} feeds nothing yet.")
    drops, rating = ctx.network.drops, board.main_switch.rating_a
    whole = is_origin(board.fed_by) and sum(is_origin(other.fed_by) for other in ctx.job.boards) == 1
    if whole:
        known = _known(ctx, rating, f"main switch of {rating:g} A")
        if known is not None:
            return known
    demand = _permitted(ctx, rating) if whole else drops.board_demand(board)
    where = "" if len(demand.by_line) == 1 else f" in {demand.line}"
    sentence = f"{board.name}: estimated demand {shown_up(demand.current_a)} A{where}, main switch {rating:g} A"
    finding = _answer(ctx, demand, rating, sentence, None if whole else board)
    cutout = ctx.job.supply.cutout
    if whole and cutout is not None and demand.current_a > cutout.rating_a:
        return replace(finding, cause=Cause(ID, CauseSubject("supply", "supply")))
    return finding


def _permitted(ctx: SupplyContext | BoardContext, rating_a: float) -> MaximumDemand:
    """The demand by the job's method; where it exceeds the rating and the standard leaves the method open, by the one that gives least."""
    drops, rules, settings = ctx.network.drops, ctx.rules.demand, ctx.network.job.settings
    demand = drops.whole_demand()
    if demand.current_a <= rating_a or settings.demand_method or rating_a < rules.alternative_from_a:
        return demand
    return min((drops.whole_demand(method) for method in rules.methods), key=lambda item: item.current_a)


def _known(ctx: SupplyContext | BoardContext, rating_a: float, what: str) -> Finding | None:
    """The answer by a measured demand, or by the main breaker that limits it where the standard allows that; None without either."""
    known = ctx.network.job.supply.demand
    if known is None:
        return None
    rule = ctx.rules.protection.rule
    if known.measured_a is not None:
        days = f" over {known.measured_days} days" if known.measured_days else ""
        sentence = f"Measured demand{days}: {shown_up(known.measured_a)} A, {what}"
        source = rule("common.demand.estimate")
        steps = [step("Id", f"measured{days}", "as stated", "", known.measured_a, "A", source)]
        return finding_from_limit(
            ID, ctx, known.measured_a, rating_a, "A", sentence, source, lambda: steps, in_steps=True
        )
    if known.limited_a is not None and ctx.rules.demand.may_be_limited:
        source = rule("common.demand.limited")
        sentence = f"The main breaker limits the demand to {known.limited_a:g} A, {what}"
        steps = [step("Id", "rating of the main breaker", "as stated", "", known.limited_a, "A", source)]
        return finding_from_limit(
            ID, ctx, known.limited_a, rating_a, "A", sentence, source, lambda: steps, in_steps=True
        )
    return None


def _answer(ctx: AnyContext, demand: MaximumDemand, rating_a: float, sentence: str, board: Board | None) -> Finding:
    certain, line = certain_a(ctx.network, board)
    value = max(demand.current_a, certain)

    def working() -> list[Step]:
        last = [step("Ic", f"certainly at once, {line}", "ΣI", "", certain, "A", demand.source)]
        return [*demand.steps(), *(last if certain > demand.current_a else [])]

    finding = finding_from_limit(ID, ctx, value, rating_a, "A", sentence, demand.source, working)
    finding = replace(finding, assumptions=_uncounted(ctx))
    if finding.verdict != "fail" or ctx.rules.demand.excess_fails:
        return finding
    if certain > rating_a * (1 + SLACK):
        where = f" in {line}" if len(demand.by_line) > 1 else ""
        text = (
            f"{sentence}. Loads that certainly run at once draw {shown_up(certain)} A{where}. "
            f"{verdict_text(finding.margin or 0.0, 'fail')} Manage the charging, keep a load off at peak, or ask for a larger supply."
        )
        return replace(finding, sentence=text)
    text = f"{sentence}: over by {shown_up(value - rating_a)} A. An estimate, to settle with client and distributor."
    return replace(finding, verdict="advice", sentence=text)


def _uncounted(ctx: AnyContext) -> tuple[Assumption, ...]:
    """Points that the estimate counts by what is usual, because nobody has counted them."""
    figure = ctx.rules.demand.usual_points
    loads = [load for circuit in ctx.network.job.circuits for load in circuit.loads if load.count is None]
    if figure is None or not loads:
        return ()
    return (Assumption("loads.count", f"{figure.value:g} outlets or points a circuit", figure.source.publication),)
