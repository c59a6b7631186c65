"""Is the supply enough for everything together? The distributor's device for the whole job, the main switch for a board."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.certain_load import certain_a
from vivid_lattice.core.checks.support.finding_builder import (
    AnyContext,
    finding_from_limit,
    not_applicable,
    step,
    with_verdict,
)
from vivid_lattice.core.document.assumptions import open_assumptions
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.document.supply import LoadManagement
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Assumption, Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import BoardContext, SupplyContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.rules.protocol import MaximumDemand
from vivid_lattice.core.text import plain, shown_up
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
        raise NeedsInput(ctx.need("core.check.demand.need.circuit", "circuits"))
    cutout = job.supply.cutout
    if cutout is None:
        raise NeedsInput(ctx.need("core.check.demand.need.cutout", "supply.cutout"))
    rating = ctx.message("core.check.demand.cutout_rating", a=plain(cutout.rating_a))
    known = _known(ctx, cutout.rating_a, rating)
    if known is not None:
        return known
    demand = _permitted(ctx, cutout.rating_a)
    management = job.supply.demand.management if job.supply.demand is not None else None
    if management is not None:
        return _managed(ctx, demand, management, cutout.rating_a, rating)
    sentence = _sentence(ctx, demand, rating)
    return _by_smaller(ctx, _answer(ctx, demand, cutout.rating_a, sentence, None))


def _managed(
    ctx: SupplyContext, demand: MaximumDemand, management: LoadManagement, rating_a: float, rating: Message
) -> Finding:
    """The supply with a controller: its limit, and what is drawn when its sensor is lost, whichever is more.

    Equation  max(limit, Id of what is not managed + fallback) ≤ rating
    """
    loads = [load for circuit in ctx.job.circuits for load in circuit.loads]
    charging = [circuit.source for circuit in ctx.job.circuits if circuit.source is not None]
    if not any(load.at_peak == "managed" for load in loads) and not any(
        source.charging_at_peak == "managed" for source in charging
    ):
        raise NeedsInput(ctx.need("core.check.demand.need.managed", "loads.at_peak"))
    if management.fallback_a is None:
        raise NeedsInput(ctx.need("core.check.demand.need.fallback", "supply.demand.management.fallback_a"))
    lost_a = demand.current_a + management.fallback_a
    value = max(management.limit_a, lost_a)
    source = ctx.rules.protection.rule("common.demand.managed")
    sentence = ctx.message(
        "core.check.demand.managed",
        limit=plain(management.limit_a),
        a=shown_up(demand.current_a),
        lost=shown_up(lost_a),
        rating=rating,
    )
    given = ctx.message("core.formula.as_stated")

    def working() -> list[Step]:
        lost = ctx.message("core.check.demand.managed_lost")
        return [
            *demand.steps(),
            step("Im", ctx.message("core.check.demand.managed_limit"), given, "", management.limit_a, "A", source),
            step("Id + If", lost, "Id + If", "", lost_a, "A", source),
        ]

    return finding_from_limit(ID, ctx, value, rating_a, "A", sentence, source, working, in_steps=True)


def _by_smaller(ctx: SupplyContext, finding: Finding) -> Finding:
    """A demand that an assumed device carries and a smaller usual one does not: advice to read it first."""
    assumed = next((each for each in open_assumptions(ctx.job) if each.field == "supply.cutout.rating_a"), None)
    if assumed is None or assumed.other is None or finding.value is None or finding.verdict not in ("pass", "tight"):
        return finding
    if finding.value <= assumed.other * (1 + SLACK):
        return finding
    text = ctx.message("core.check.demand.smaller", sentence=finding.sentence, a=plain(assumed.other))
    return replace(finding, verdict="advice", sentence=text)


def check_board(ctx: BoardContext) -> Finding:
    """Maximum demand of a board's worst line against its main switch.

    Equation  Id ≤ rating of the main switch
    Source    the rule set's demand method; as for the supply, where that already says it both are one cause
    """
    board = ctx.board
    if board.main_switch is None:
        return not_applicable(ID, ctx, ctx.message("core.check.demand.board_no_switch"))
    if not board.ways:
        return not_applicable(ID, ctx, ctx.message("core.check.demand.board_empty"))
    drops, rating = ctx.network.drops, board.main_switch.rating_a
    rating_text = ctx.message("core.check.demand.switch_rating", a=plain(rating))
    whole = is_origin(board.fed_by) and sum(is_origin(other.fed_by) for other in ctx.job.boards) == 1
    if whole:
        known = _known(ctx, rating, rating_text)
        if known is not None:
            return known
    demand = _permitted(ctx, rating) if whole else drops.board_demand(board)
    finding = _answer(ctx, demand, rating, _sentence(ctx, demand, rating_text), None if whole else board)
    cutout = ctx.job.supply.cutout
    if whole and cutout is not None and demand.current_a > cutout.rating_a:
        return replace(finding, cause=Cause(ID, CauseSubject("supply", "supply")))
    return finding


def _sentence(ctx: SupplyContext | BoardContext, demand: MaximumDemand, rating: Message) -> Message:
    key = "estimate" if len(demand.by_line) == 1 else "estimate_phase"
    return ctx.message(f"core.check.demand.{key}", a=shown_up(demand.current_a), phase=demand.line, rating=rating)


def _permitted(ctx: SupplyContext | BoardContext, rating_a: float) -> MaximumDemand:
    """The demand by the job's method; where it exceeds the rating and the standard leaves the method open, by the one that gives least."""
    drops, rules, settings = ctx.network.drops, ctx.rules.demand, ctx.network.job.settings
    demand = drops.whole_demand()
    if demand.current_a <= rating_a or settings.demand_method or rating_a < rules.alternative_from_a:
        return demand
    return min((drops.whole_demand(method) for method in rules.methods), key=lambda item: item.current_a)


def _known(ctx: SupplyContext | BoardContext, rating_a: float, rating: Message) -> Finding | None:
    """The answer by a measured demand, or by the main breaker that limits it where the standard allows that; None without either."""
    known = ctx.network.job.supply.demand
    if known is None:
        return None
    rule = ctx.rules.protection.rule
    if known.measured_a is not None:
        days = known.measured_days or 0
        sentence = ctx.message("core.check.demand.measured", n=days, a=shown_up(known.measured_a), rating=rating)
        source = rule("common.demand.estimate")
        meaning = ctx.message("core.check.demand.measured_working", n=days)
        steps = [step("Id", meaning, ctx.message("core.formula.as_stated"), "", known.measured_a, "A", source)]
        return finding_from_limit(
            ID, ctx, known.measured_a, rating_a, "A", sentence, source, lambda: steps, in_steps=True
        )
    if known.limited_a is not None and ctx.rules.demand.may_be_limited:
        source = rule("common.demand.limited")
        sentence = ctx.message("core.check.demand.limited", a=plain(known.limited_a), rating=rating)
        meaning = ctx.message("core.check.demand.limited_working")
        steps = [step("Id", meaning, ctx.message("core.formula.as_stated"), "", known.limited_a, "A", source)]
        return finding_from_limit(
            ID, ctx, known.limited_a, rating_a, "A", sentence, source, lambda: steps, in_steps=True
        )
    return None


def _answer(ctx: AnyContext, demand: MaximumDemand, rating_a: float, sentence: Message, board: Board | None) -> Finding:
    certain, line = certain_a(ctx.network, board)
    value = max(demand.current_a, certain)

    def working() -> list[Step]:
        last = [
            step(
                "Ic",
                ctx.message("core.check.demand.certain_working", phase=line),
                "ΣI",
                "",
                certain,
                "A",
                demand.source,
            )
        ]
        return [*demand.steps(), *(last if certain > demand.current_a else [])]

    finding = finding_from_limit(ID, ctx, value, rating_a, "A", sentence, demand.source, working)
    finding = replace(finding, assumptions=_uncounted(ctx))
    if finding.verdict != "fail" or ctx.rules.demand.excess_fails:
        return finding
    if certain > rating_a * (1 + SLACK):
        key = "certain_phase" if len(demand.by_line) > 1 else "certain"
        fact = ctx.message(f"core.check.demand.{key}", estimate=sentence, a=shown_up(certain), phase=line)
        failing = with_verdict(ctx.rules.words, fact, finding.margin or 0.0, "fail")
        return replace(finding, sentence=ctx.message("core.check.demand.certain_fix", failing=failing))
    text = ctx.message("core.check.demand.over", estimate=sentence, a=shown_up(value - rating_a))
    return replace(finding, verdict="advice", sentence=text)


def _uncounted(ctx: AnyContext) -> tuple[Assumption, ...]:
    """Points that the estimate counts by what is usual, because no one has counted them."""
    figure = ctx.rules.demand.usual_points
    loads = [load for circuit in ctx.network.job.circuits for load in circuit.loads if load.count is None]
    if figure is None or not loads:
        return ()
    return (
        Assumption(
            "loads.count", ctx.message("core.check.demand.points", n=plain(figure.value)), figure.source.publication
        ),
    )
