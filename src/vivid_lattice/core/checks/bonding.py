"""Is the bonding large enough: main bonding at the main earth, and supplementary bonding in a room?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.conductor_size import ConductorResult, finding_from_conductors, supply_mm2
from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.document.supply import Earthing
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import SupplyContext

ID = "bonding"


def check(ctx: SupplyContext) -> Finding:
    """The bonding conductor with least left.

    Equation  main: size ≥ the rule set's least, by the supply's neutral or by the earthing conductor; supplementary: size ≥
              the protective conductor of the part it joins, or a share of it to a pipe, and never below the rule set's least
    Source    the rule set's bonding rules
    Which metalwork is to be bonded is a matter of looking: where nothing is entered, it is asked.
    """
    supply, what = ctx.job.supply, ctx.rules.earthing.what_to_bond()
    if supply.earthing is None:
        raise NeedsInput(ctx.need("core.check.bonding.need", "supply.earthing.bonds"))
    results = [*_main(ctx, supply.earthing), *_supplementary(ctx, supply.earthing)]
    if not results:
        return not_applicable(ID, ctx, ctx.message("core.check.bonding.none", rule=what.basis), what.source)
    return finding_from_conductors(ID, ctx, results)


def _main(ctx: SupplyContext, earthing: Earthing) -> list[ConductorResult]:
    unknown = [
        ctx.need("core.check.bonding.need.size", "supply.earthing.bonds", metalwork=bond.name)
        for bond in earthing.bonds
        if bond.area_mm2 is None
    ]
    if unknown:
        raise NeedsInput(*unknown)
    if not earthing.bonds:
        return []
    least = ctx.rules.earthing.bonding_mm2(ctx.job.supply.system, supply_mm2(ctx))
    return [
        ConductorResult(ctx.message("core.check.bonding.main", metalwork=bond.name), bond.area_mm2 or 0.0, least)
        for bond in earthing.bonds
    ]


def _supplementary(ctx: SupplyContext, earthing: Earthing) -> list[ConductorResult]:
    results = []
    for bond in earthing.supplementary:
        if bond.area_mm2 is None or bond.protective_mm2 is None:
            raise NeedsInput(
                ctx.need("core.check.bonding.need.room", "supply.earthing.supplementary", metalwork=bond.name)
            )
        least = ctx.rules.earthing.supplementary_mm2(
            bond.protective_mm2, to_pipe=bond.to == "pipe", protected=bond.protected
        )
        results.append(
            ConductorResult(ctx.message("core.check.bonding.room", metalwork=bond.name), bond.area_mm2, least)
        )
    return results
