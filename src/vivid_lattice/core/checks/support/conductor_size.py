"""Conductors that must be of a standard size at least: the one with least left answers for all."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.checks.support.finding_builder import AnyContext, standard_size, step
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True)
class ConductorResult:
    """A conductor: what it is called, its size [mm²], and the least there may be."""

    name: Text
    area_mm2: float
    least: SourcedValue
    calculated: bool = False


def finding_from_conductors(check: str, ctx: SupplyContext, results: list[ConductorResult]) -> Finding:
    """The finding of the conductor with least left; every one of them is in the working."""
    worst = min(results, key=lambda conductor_result: conductor_result.area_mm2 / conductor_result.least.value)

    def working() -> list[Step]:
        steps = []
        for result in results:
            meaning: Text = ctx.message("core.check.conductor.formula", name=result.name)
            if result.least.basis:
                meaning = ctx.message("core.phrase.detail", text=meaning, detail=result.least.basis)
            steps.append(
                step(
                    "S",
                    meaning,
                    ctx.message("core.formula.table_or_rule"),
                    "",
                    result.least.value,
                    "mm²",
                    result.least.source,
                )
            )
            steps.append(step("Sp", result.name, ctx.message("core.formula.given"), "", result.area_mm2, "mm²"))
        return steps

    size = ctx.rules.cables.size_label
    sold = sold_mm2(ctx, worst.least.value)
    key = "size_calculated" if worst.calculated else "size"
    sentence = ctx.message(
        f"core.check.conductor.{key}", conductor=worst.name, size=size(worst.area_mm2), least=size(sold)
    )
    there_is = SourcedValue(worst.area_mm2, worst.least.source)
    return standard_size(check, ctx, worst.least, there_is, sentence, working)


def sold_mm2(ctx: AnyContext, area_mm2: float) -> float:
    """The smallest conductor that is sold at or above a size [mm²]; the size itself past the largest."""
    sizes = {size for kind in ctx.rules.cables.kinds.values() for size in kind.sizes_mm2}
    return min((size for size in sizes if size >= area_mm2 - SLACK), default=area_mm2)


def supply_mm2(ctx: AnyContext) -> float:
    """Line conductors of the supply [mm²]: the tails. NeedsInput while they are not entered."""
    tails = ctx.job.supply.tails
    if tails is None:
        raise NeedsInput(
            Need(
                ctx.message("core.check.conductor.need.tails.what"),
                "supply.tails",
                ctx.message("core.check.conductor.need.tails.ask"),
            )
        )
    return tails.area_mm2
