"""Are the conductors at the main earth large enough? The earthing conductor, the neutral-earth link and a PEN."""

from __future__ import annotations

from vivid_lattice.core.checks.support.conductor_size import ConductorResult, finding_from_conductors, supply_mm2
from vivid_lattice.core.checks.support.fault_energy import min_by_energy_mm2
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.sourced_value import SourcedValue

ID = "earthing"


def check(ctx: SupplyContext) -> Finding:
    """The conductor with least left, of those at the main earth.

    Equation  size ≥ the rule set's least size for the supply's line conductors; where the table is not met and the standard permits
              the calculation, S = √(I²t) / k for an earth fault at the origin
    Source    the rule set's earthing rules
    """
    return finding_from_conductors(ID, ctx, _conductors(ctx))


def _conductors(ctx: SupplyContext) -> list[ConductorResult]:
    supply, earthing = ctx.job.supply, ctx.job.supply.earthing
    if earthing is None or earthing.conductor_mm2 is None:
        raise NeedsInput(ctx.need("core.check.earthing.need", "supply.earthing.conductor_mm2"))
    calculated = False
    line = supply_mm2(ctx)
    least = ctx.rules.earthing.earthing_mm2(line, earthing.electrode_only)
    if earthing.conductor_mm2 < least.value:
        tails = supply.tails
        upstream = tails.device if tails is not None and tails.device is not None else supply.cutout
        loop = or_none(ctx.network.loops.ze_ohm)
        by_energy = min_by_energy_mm2(ctx, upstream, loop) if loop is not None else None
        if by_energy is not None and by_energy.value <= earthing.conductor_mm2:
            least, calculated = by_energy, True
    if ctx.rules.earthing.not_below_bonding(supply.system):
        bonding = ctx.rules.earthing.bonding_mm2(supply.system, line)
        if bonding.value > least.value:
            least, calculated = (
                SourcedValue(bonding.value, bonding.source, ctx.message("core.check.earthing.bonding_floor")),
                False,
            )
    results = [ConductorResult(ctx.message("core.check.earthing.name"), earthing.conductor_mm2, least, calculated)]
    link = ctx.rules.earthing.link_mm2(supply.system, line)
    if link is not None:
        if earthing.link_mm2 is None:
            raise NeedsInput(ctx.need("core.check.earthing.need.link", "supply.earthing.link_mm2"))
        results.append(ConductorResult(ctx.message("core.check.earthing.link"), earthing.link_mm2, link))
    pen = ctx.rules.earthing.pen_mm2()
    if pen is not None and earthing.pen_mm2 is not None:
        results.append(ConductorResult(ctx.message("core.check.earthing.pen"), earthing.pen_mm2, pen))
    return results
