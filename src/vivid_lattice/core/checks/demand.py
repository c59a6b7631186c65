"""Is the cut-out enough for everything together?"""

from __future__ import annotations

from vivid_lattice.core.checks.answer import compared
from vivid_lattice.core.checks.context import SupplyContext
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Finding, shown_up

ID = "demand"


def check(ctx: SupplyContext) -> Finding:
    """Maximum demand with diversity against the rating of the cut-out.

    Equation  Id = Σ (diversified current of each kind of load) ≤ rating of the cut-out
    Source    the rule set's diversity tables
    """
    job = ctx.network.job
    if not job.circuits:
        raise NeedsInput(Need("any circuit", "circuits", "Add the circuits first."))
    cutout = job.supply.cutout
    if cutout is None:
        raise NeedsInput(
            Need(
                "the rating of the cut-out",
                "supply.cutout",
                "Read it on the carrier, or ask the distributor; do not pull it.",
            )
        )
    demand = ctx.network.drops.whole_demand()
    sentence = f"With diversity the job draws {shown_up(demand.current_a)} A through a cut-out of {cutout.rating_a:g} A"
    if demand.current_a > cutout.rating_a:
        sentence += "; less load, load control or a larger service is for the designer, the client and the distributor to settle"
    return compared(ID, ctx, demand.current_a, cutout.rating_a, "A", sentence, demand.source, demand.steps)
