"""Is each residual-current switch protected against overload?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.answer import compared, not_applicable, step
from vivid_lattice.core.checks.context import BoardContext
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Finding, Step, shown_up
from vivid_lattice.core.job import Board
from vivid_lattice.core.protection.residuals import RcdPlace

ID = "rcd-loading"


def check(ctx: BoardContext) -> Finding:
    """The rating of each residual-current switch against the device ahead of it, or the sum of those behind it.

    Equation  In,switch ≥ min(rating of the device ahead, Σ ratings of the circuits behind it on a line)
    Source    the rule set's loading rule. A switch has no overload part of its own: either what is ahead opens before it is
              overloaded, or what is behind cannot overload it.
    """
    places = [place for place in ctx.network.rcds.all if place.board is ctx.board and place.own is None]
    if not places:
        return not_applicable(ID, ctx, f"{ctx.board.name} has no residual-current switch that several circuits share.")
    found = [(place, *_load(ctx, place)) for place in places]
    place, amps, how = max(found, key=lambda one: one[1] / one[0].rating_a)
    sentence = f"{place.name} of {place.rating_a:g} A may have to carry {shown_up(amps)} A ({how})"
    rule = ctx.rules.protection.source("loading")

    def working() -> list[Step]:
        steps = []
        for one, load, by in found:
            steps.append(step("I", f"{one.name}: {by}", "the smaller of ahead and sum behind", "", load, "A", rule))
            steps.append(step("In", f"rating of {one.name}", "as stated", "", one.rating_a, "A"))
        return steps

    finding = compared(ID, ctx, amps, place.rating_a, "A", sentence, rule, working)
    # A rating that is met exactly is met: switches come in steps.
    return replace(finding, verdict="pass") if finding.verdict == "tight" else finding


def _load(ctx: BoardContext, place: RcdPlace) -> tuple[float, str]:
    """The most a switch may have to carry [A], and by what: the device ahead, or those behind."""
    behind = _sum_behind(ctx, place)
    ahead = _ahead_a(ctx, ctx.board)
    if ahead is not None and (behind is None or ahead[0] <= behind):
        return ahead
    if behind is None:
        raise NeedsInput(
            Need(f"the devices behind {place.name}", "circuits.device", "Choose them, or let the design choose.")
        )
    return behind, "sum of the devices behind it"


def _sum_behind(ctx: BoardContext, place: RcdPlace) -> float | None:
    """Sum of the ratings behind a switch on its most loaded line [A]; None while a device is left open."""
    own = [circuit for circuit in place.behind if ctx.network.tree.place(circuit).board is ctx.board]
    if any(isinstance(circuit.device, str) for circuit in own):
        return None
    by_line: dict[str, float] = {}
    for circuit in own:
        assert not isinstance(circuit.device, str)
        for line in ctx.network.tree.supplied(circuit).lines:
            by_line[line] = by_line.get(line, 0.0) + circuit.device.rating_a
    return max(by_line.values(), default=0.0)


def _ahead_a(ctx: BoardContext, board: Board) -> tuple[float, str] | None:
    feeder = ctx.network.tree.feeder(board)
    if feeder is None:
        cutout = ctx.network.series.cutout
        return (cutout.key[2], f"{cutout.name} ahead") if cutout else None
    if isinstance(feeder.device, str):
        return None
    return feeder.device.rating_a, f"{feeder.name} ahead"
