"""Is what stands ahead enough for everything together? The cut-out for the whole job, the main switch for a board."""

from __future__ import annotations

from vivid_lattice.core.checks.answer import Asked, compared, not_applicable
from vivid_lattice.core.checks.context import BoardContext, SupplyContext
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Finding, shown_up
from vivid_lattice.core.rules.protocol import MaximumDemand

ID = "demand"


def check(ctx: SupplyContext) -> Finding:
    """Maximum demand of the worst line, with diversity, against the rating of the cut-out.

    Equation  Id = Σ (diversified currents of the line) ≤ rating of the cut-out
    Source    the rule set's demand method
    """
    job = ctx.network.job
    if not job.circuits:
        raise NeedsInput(Need("any circuit", "circuits", "Add the circuits first."))
    cutout = job.supply.cutout
    if cutout is None:
        name = ctx.rules.words.get("origin", "cut-out")
        raise NeedsInput(
            Need(
                f"the rating of the {name}",
                "supply.cutout",
                "Read it on the carrier, or ask the distributor; do not pull it.",
            )
        )
    demand = ctx.network.drops.whole_demand()
    what = "the job draws" if len(demand.by_line) == 1 else f"{demand.line}, the most loaded line, draws"
    name = ctx.rules.words.get("origin", "cut-out")
    sentence = f"With diversity {what} {shown_up(demand.current_a)} A through a {name} of {cutout.rating_a:g} A"
    if demand.current_a > cutout.rating_a:
        sentence += "; less load, load control or a larger service is for the designer, the client and the distributor to settle"
    return _answer(ctx, demand, cutout.rating_a, sentence)


def check_board(ctx: BoardContext) -> Finding:
    """Maximum demand of a board's worst line against its main switch.

    Equation  Id ≤ rating of the main switch
    Source    the rule set's demand method
    """
    board = ctx.board
    if board.main_switch is None:
        return not_applicable(ID, ctx, f"{board.name} has no main switch entered to hold the demand against.")
    if not board.ways:
        return not_applicable(ID, ctx, f"{board.name} feeds nothing yet.")
    drops = ctx.network.drops
    whole = isinstance(board.fed_by, str) and sum(isinstance(other.fed_by, str) for other in ctx.job.boards) == 1
    demand = drops.whole_demand() if whole else drops.board_demand(board)
    rating = board.main_switch.rating_a
    where = "" if len(demand.by_line) == 1 else f" in {demand.line}"
    sentence = f"{board.name} draws {shown_up(demand.current_a)} A{where} through a main switch of {rating:g} A"
    return _answer(ctx, demand, rating, sentence)


def _answer(ctx: Asked, demand: MaximumDemand, rating_a: float, sentence: str) -> Finding:
    return compared(ID, ctx, demand.current_a, rating_a, "A", sentence, demand.source, demand.steps)
