"""Is the main switch of a board protected against overload?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.checks.support.switch_load import sum_a, upstream_a
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Text
from vivid_lattice.core.text import plain, shown_up

ID = "main-switch"


def check(ctx: BoardContext) -> Finding:
    """The rating of the main switch against the device upstream of it, or the total of the devices downstream.

    Equation  In,switch ≥ min(rating of the device upstream, Σ ratings downstream on the most loaded phase)
    Source    the rule set's rule for switches and RCDs without an overload release. Diversity alone does not protect a switch: what
              is expected to run at once says nothing of what can.
    """
    board, switch = ctx.board, ctx.board.main_switch
    if ctx.rules.board.main.has_release:
        return not_applicable(ID, ctx, ctx.message("core.check.main-switch.release"), ctx.rules.board.main.source)
    if switch is None:
        if not is_origin(board.fed_by):
            return not_applicable(ID, ctx, ctx.message("core.check.main-switch.none"))
        raise NeedsInput(ctx.need("core.check.main-switch.need", "boards.main_switch", board=board.name))
    amps, how = _load(ctx, switch.rating_a)
    rule = ctx.rules.protection.source("loading")

    def working() -> list[Step]:
        upstream, (downstream, _) = upstream_a(ctx, board), sum_a(ctx, _circuits(ctx))
        steps = [
            step(
                "ΣIn",
                ctx.message("core.check.main-switch.downstream"),
                ctx.message("core.check.main-switch.total"),
                "",
                downstream,
                "A",
                rule,
            )
        ]
        if upstream is not None:
            steps.insert(0, step("In", upstream[1], ctx.message("core.formula.rating"), "", upstream[0], "A", rule))
        return [
            *steps,
            step(
                "In,switch",
                ctx.message("core.check.main-switch.name"),
                ctx.message("core.formula.rating"),
                "",
                switch.rating_a,
                "A",
            ),
        ]

    sentence = ctx.message("core.check.main-switch.load", a=shown_up(amps), rating=plain(switch.rating_a), basis=how)
    return finding_from_limit(ID, ctx, amps, switch.rating_a, "A", sentence, rule, working, in_steps=True)


def _circuits(ctx: BoardContext) -> list[Circuit]:
    return [ctx.network.tree.circuits[way.circuit] for way in ctx.board.ways]


def _load(ctx: BoardContext, rating_a: float) -> tuple[float, Text]:
    """What the switch may have to carry [A], and by what. NeedsInput while neither side is known far enough to decide."""
    upstream, (downstream, chosen) = upstream_a(ctx, ctx.board), sum_a(ctx, _circuits(ctx))
    if upstream is not None and (upstream[0] <= downstream or not chosen) and upstream[0] <= rating_a:
        return upstream
    if not chosen:
        if upstream is not None and downstream > rating_a:
            return min(upstream[0], downstream), ctx.message("core.check.main-switch.chosen")
        raise NeedsInput(ctx.need("core.check.main-switch.need.devices", "circuits.device", board=ctx.board.name))
    if upstream is not None and upstream[0] <= downstream:
        return upstream
    if upstream is None and downstream > rating_a:
        raise NeedsInput(ctx.need("core.check.demand.need.cutout", "supply.cutout"))
    return downstream, ctx.message("core.check.rcd-loading.sum")
