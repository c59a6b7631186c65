"""Is the main bonding large enough?"""

from __future__ import annotations

from vivid_lattice.core.checks.answer import not_applicable, standard_size, step
from vivid_lattice.core.checks.context import SupplyContext
from vivid_lattice.core.checks.earthing import supply_line_mm2
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Finding, Step
from vivid_lattice.core.rules.protocol import Looked

ID = "bonding"


def check(ctx: SupplyContext) -> Finding:
    """The smallest main bonding conductor against the least there may be.

    Equation  size ≥ the rule set's least size, by the supply's neutral or by the earthing conductor
    Source    the rule set's bonding rules
    Which metalwork is to be bonded is a matter of looking: where nothing is entered, that is asked for.
    """
    supply, what = ctx.job.supply, ctx.rules.earthing.what_to_bond()
    if supply.earthing is None:
        raise NeedsInput(
            Need(
                "what metalwork enters and how it is bonded",
                "supply.earthing.bonds",
                "Water, gas, oil, heating, steelwork; an empty list says that nothing has to be.",
            )
        )
    if not supply.earthing.bonds:
        return not_applicable(ID, ctx, f"Nothing is entered that has to be bonded. {what.how}", what.source)
    unknown = [bond.name for bond in supply.earthing.bonds if bond.area_mm2 is None]
    if unknown:
        raise NeedsInput(
            *(
                Need(
                    f"the bonding conductor of {name}",
                    "supply.earthing.bonds",
                    "Measure it, or find that there is none.",
                )
                for name in unknown
            )
        )
    least = ctx.rules.earthing.bonding_mm2(supply.system, supply_line_mm2(ctx))
    held = sorted((bond.area_mm2 or 0.0, bond.name) for bond in supply.earthing.bonds)
    area, name = held[0]

    def working() -> list[Step]:
        how = f", {least.how}" if least.how else ""
        return [
            step("S", f"least main bonding conductor{how}", "table or rule", "", least.value, "mm²", least.source),
            *(step("Sp", f"bonding of {one}", "given", "", size, "mm²") for size, one in held),
        ]

    size_of = ctx.rules.cables.size_label
    sentence = f"Main bonding takes {size_of(least.value)} at least, and {name} has {size_of(area)}"
    return standard_size(ID, ctx, least, Looked(area, least.source), sentence, working)
