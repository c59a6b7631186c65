"""Is each residual-current switch protected against overload?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.checks.support.switch_load import sum_a, upstream_a
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.text import plain, shown_up

ID = "rcd-loading"


def check(ctx: BoardContext) -> Finding:
    """The rating of each residual-current switch against the device ahead of it, or the total of those behind it.

    Equation  In,switch ≥ min(rating of the device ahead, Σ ratings of the circuits behind it on a line)
    Source    the rule set's loading rule. A switch has no overload part of its own: either what is ahead trips before it is
              overloaded, or what is behind cannot overload it.
    """
    places = [place for place in ctx.network.rcds.all if place.board is ctx.board and place.own_device is None]
    if not places:
        return not_applicable(ID, ctx, ctx.message("core.check.rcd-loading.none"))
    overloaded = [(place, *_load(ctx, place)) for place in places]
    place, amps, how = max(overloaded, key=lambda item: item[1] / item[0].rating_a)
    sentence = ctx.message(
        "core.check.rcd-loading.load", a=shown_up(amps), rcd=place.name, rating=plain(place.rating_a), basis=how
    )
    rule = ctx.rules.protection.source("loading")

    def working() -> list[Step]:
        steps = []
        for rcd_place, load, by in overloaded:
            carried = ctx.message("core.phrase.labelled", label=rcd_place.name, text=by)
            steps.append(step("I", carried, ctx.message("core.check.rcd-loading.working"), "", load, "A", rule))
            rating = ctx.message("core.check.rcd-loading.rating", rcd=rcd_place.name)
            steps.append(step("In", rating, ctx.message("core.formula.as_stated"), "", rcd_place.rating_a, "A"))
        return steps

    return finding_from_limit(ID, ctx, amps, place.rating_a, "A", sentence, rule, working, in_steps=True)


def _load(ctx: BoardContext, place: RcdPlace) -> tuple[float, Text]:
    """The most a switch may have to carry [A], and by what: the device ahead, or those behind."""
    own_circuits = [circuit for circuit in place.behind if ctx.network.tree.place(circuit).board is ctx.board]
    total, chosen = sum_a(ctx, own_circuits)
    behind = total if chosen else None
    ahead = upstream_a(ctx, ctx.board)
    if ahead is not None and (behind is None or ahead[0] <= behind):
        return ahead
    if behind is None:
        raise NeedsInput(ctx.need("core.check.rcd-loading.need", "circuits.device", rcd=place.name))
    return behind, ctx.message("core.check.rcd-loading.sum")
