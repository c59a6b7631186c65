"""Conductors that must be of a standard size at least: the one with least in hand answers for all."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.checks.support.finding_builder import AnyContext, standard_size, step
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True)
class ConductorResult:
    """A conductor: what it is called, its size [mm²], and the least there may be."""

    name: str
    area_mm2: float
    least: SourcedValue


def finding_from_conductors(check: str, ctx: SupplyContext, results: list[ConductorResult]) -> Finding:
    """The finding of the conductor with least in hand; every one of them stands in the working."""
    worst = min(results, key=lambda conductor_result: conductor_result.area_mm2 / conductor_result.least.value)

    def working() -> list[Step]:
        steps = []
        for result in results:
            how = f", {result.least.basis}" if result.least.basis else ""
            steps.append(
                step(
                    "S",
                    f"least {result.name}{how}",
                    "table or rule",
                    "",
                    result.least.value,
                    "mm²",
                    result.least.source,
                )
            )
            steps.append(step("Sp", result.name, "given", "", result.area_mm2, "mm²"))
        return steps

    size = ctx.rules.cables.size_label
    sold = sold_mm2(ctx, worst.least.value)
    sentence = f"The {worst.name} has {size(worst.area_mm2)} (minimum {size(sold)}{', by calculation' if worst.least.basis == 'by calculation' else ''})"
    there_is = SourcedValue(worst.area_mm2, worst.least.source)
    return standard_size(check, ctx, worst.least, there_is, sentence, working)


def sold_mm2(ctx: AnyContext, area_mm2: float) -> float:
    """The smallest conductor that is sold at or above a size [mm²]; the size itself past the largest."""
    sizes = {size for kind in ctx.rules.cables.kinds.values() for size in kind.sizes_mm2}
    return min((size for size in sizes if size >= area_mm2 - SLACK), default=area_mm2)


def supply_line_mm2(ctx: SupplyContext) -> float:
    """Line conductors of the supply [mm²]: the tails. NeedsInput while they are not entered."""
    tails = ctx.job.supply.tails
    if tails is None:
        raise NeedsInput(Need("the size of the tails", "supply.tails", "Measure the conductors from meter to board."))
    return tails.area_mm2
