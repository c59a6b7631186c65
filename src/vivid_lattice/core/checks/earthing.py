"""Are the conductors at the main earth large enough? The earthing conductor, the neutral-earth link and a PEN."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.checks.answer import standard_size, step
from vivid_lattice.core.checks.context import SupplyContext
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Finding, Step
from vivid_lattice.core.rules.protocol import Looked

ID = "earthing"


@dataclass(frozen=True, slots=True)
class _Conductor:
    """A conductor of the earthing arrangement: what it is called, what there is, and the least there may be."""

    name: str
    there_is: Looked
    least: Looked


def check(ctx: SupplyContext) -> Finding:
    """The conductor with least in hand, of those at the main earth.

    Equation  size ≥ the rule set's least size for the supply's line conductors
    Source    the rule set's earthing rules
    """
    held = _conductors(ctx)
    worst = min(held, key=lambda one: one.there_is.value / one.least.value)

    def working() -> list[Step]:
        found = []
        for one in held:
            how = f", {one.least.how}" if one.least.how else ""
            found.append(
                step("S", f"least {one.name}{how}", "table or rule", "", one.least.value, "mm²", one.least.source)
            )
            found.append(step("Sp", one.name, "given", "", one.there_is.value, "mm²"))
        return found

    size = ctx.rules.cables.size_label
    sentence = f"The {worst.name} takes {size(worst.least.value)} at least and has {size(worst.there_is.value)}"
    return standard_size(ID, ctx, worst.least, worst.there_is, sentence, working)


def supply_line_mm2(ctx: SupplyContext) -> float:
    """Line conductors of the supply [mm²]: the tails. NeedsInput while they are not entered."""
    tails = ctx.job.supply.tails
    if tails is None:
        raise NeedsInput(Need("the size of the tails", "supply.tails", "Measure the conductors from meter to board."))
    return tails.area_mm2


def _conductors(ctx: SupplyContext) -> list[_Conductor]:
    supply, words = ctx.job.supply, ctx.rules.words
    earthing = supply.earthing
    name = words.get("earthing_conductor", "earthing conductor")
    if earthing is None or earthing.conductor_mm2 is None:
        raise NeedsInput(
            Need(f"the size of the {name}", "supply.earthing.conductor_mm2", "Measure it at the main earth.")
        )
    line = supply_line_mm2(ctx)
    least = ctx.rules.earthing.earthing_mm2(line, earthing.electrode)
    if ctx.rules.earthing.not_below_bonding(supply.system):
        bonding = ctx.rules.earthing.bonding_mm2(supply.system, line)
        least = max(
            least, Looked(bonding.value, bonding.source, "not below the bonding"), key=lambda found: found.value
        )
    there_is = ctx.rules.rule("overload")
    found = [_Conductor(name, Looked(earthing.conductor_mm2, there_is), least)]
    link = ctx.rules.earthing.link_mm2(supply.system, line)
    if link is not None:
        link_name = words.get("link", "neutral-earth link")
        if earthing.link_mm2 is None:
            raise NeedsInput(
                Need(f"the size of the {link_name}", "supply.earthing.link_mm2", "Look in the main board.")
            )
        found.append(_Conductor(link_name, Looked(earthing.link_mm2, there_is), link))
    pen = ctx.rules.earthing.pen_mm2()
    if pen is not None and earthing.pen_mm2 is not None:
        found.append(_Conductor("PEN conductor", Looked(earthing.pen_mm2, there_is), pen))
    return found
