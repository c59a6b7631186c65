"""Does the cable carry what its device lets through? In ≤ Iz, in the worst section of the run."""

from __future__ import annotations

from dataclasses import dataclass
from math import prod

from vivid_lattice.core.cable.capacity import installed_capacity_a, needed_tabulated_a
from vivid_lattice.core.checks.answer import compared, step
from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.findings import Finding, Step, shown, shown_down
from vivid_lattice.core.job import Cable, Section
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.rules.protocol import Factor, Looked

ID = "capacity"


@dataclass(frozen=True, slots=True)
class _SectionCapacity:
    """What a section of the run can carry, and the largest device that may stand ahead of it."""

    number: int
    section: Section
    tabulated: Looked
    factors: tuple[Factor, ...]
    device_factors: tuple[Factor, ...]
    iz_a: float
    device_limit_a: float


def check(ctx: Context) -> Finding:
    """The device's rating against what the cable carries where it lies.

    Equation  In ≤ Iz · Cf · Cc, with Iz = It · Ca · Cg · Ci · Cs; a ring: Iz at or above the school's figure
    Source    the rule set's capacity table, factor tables and rules
    The worst section rules. A conductor under the least size for its use fails whatever its rating.
    """
    circuit, device, cable = ctx.circuit, ctx.device, chosen_cable(ctx.circuit)
    sections = [_capacity(ctx, cable, number, section) for number, section in enumerate(circuit.run, 1)]
    ruling = min(sections, key=lambda found: found.device_limit_a if circuit.kind != "ring" else found.iz_a)
    least = ctx.rules.limits.min_area_mm2(circuit)
    if cable.area_mm2 < least.value:
        sentence = f"A {least.how} takes {least.value:g} mm² at least and this cable has {cable.area_mm2:g} mm²"
        return compared(
            ID, ctx, least.value, cable.area_mm2, "mm²", sentence, least.source, lambda: _working(sections, ruling)
        )
    if circuit.kind == "ring":
        return _ring(ctx, cable, sections, ruling)
    sentence = f"{ctx.device_name()} on a cable that may have {shown_down(ruling.device_limit_a)} A ahead of it"
    rule = ctx.rules.rule("capacity")
    return compared(
        ID,
        ctx,
        device.rating_a,
        ruling.device_limit_a,
        "A",
        sentence,
        rule,
        lambda: [*_working(sections, ruling), *_device_working(device.rating_a, ruling)],
    )


def _device_working(rating_a: float, ruling: _SectionCapacity) -> list[Step]:
    """The same condition twice, as people write it: the largest device for the cable, the least cable for the device."""
    found = []
    if ruling.device_factors:
        figures = " · ".join([shown(ruling.iz_a), *(f"{factor.value:g}" for factor in ruling.device_factors)])
        symbols = " · ".join(factor.symbol for factor in ruling.device_factors)
        source = ruling.device_factors[0].source
        found.append(
            step(
                "In,max",
                "largest device that may protect it",
                f"Iz · {symbols}",
                figures,
                ruling.device_limit_a,
                "A",
                source,
            )
        )
    every = [factor.value for factor in (*ruling.factors, *ruling.device_factors)]
    needed, figures = needed_tabulated_a(rating_a, every), f"{rating_a:g}" + (f" / {prod(every):.4g}" if every else "")
    found.append(step("It,min", "tabulated capacity the device asks for", "In / (all factors)", figures, needed, "A"))
    return found


def _capacity(ctx: Context, cable: Cable, number: int, section: Section) -> _SectionCapacity:
    tabulated = ctx.rules.cables.capacity_a(cable, section.method)
    factors = ctx.rules.factors.factors(section, cable)
    device_factors = ctx.rules.factors.device_factors(section, ctx.device)
    iz = installed_capacity_a(tabulated.value, [factor.value for factor in factors])
    limit = installed_capacity_a(iz, [factor.value for factor in device_factors])
    return _SectionCapacity(number, section, tabulated, factors, device_factors, iz, limit)


def _working(sections: list[_SectionCapacity], ruling: _SectionCapacity) -> list[Step]:
    which = f", section {ruling.number} of {len(sections)} rules" if len(sections) > 1 else ""
    working = [
        step(
            "It",
            f"tabulated capacity, method {ruling.section.method}{which}",
            "table",
            "",
            ruling.tabulated.value,
            "A",
            ruling.tabulated.source,
        )
    ]
    working += [
        step(factor.symbol, factor.meaning, "table", "", factor.value, "", factor.source)
        for factor in (*ruling.factors, *ruling.device_factors)
    ]
    formula = " · ".join(["It", *(factor.symbol for factor in ruling.factors)])
    figures = " · ".join([f"{ruling.tabulated.value:g}", *(f"{factor.value:g}" for factor in ruling.factors)])
    working.append(step("Iz", "what the cable carries as it lies", formula, figures, ruling.iz_a, "A"))
    others = [found for found in sections if found is not ruling]
    working += [
        step(
            f"Iz{found.number}",
            f"section {found.number}, method {found.section.method}",
            "for comparison",
            "",
            found.iz_a,
            "A",
            found.tabulated.source,
        )
        for found in others
    ]
    return working


def _ring(ctx: Context, cable: Cable, sections: list[_SectionCapacity], ruling: _SectionCapacity) -> Finding:
    rule = ctx.rules.limits.ring(ctx.device)

    def working() -> list[Step]:
        least = step("Iz,min", "least rating of a ring's cable", "rule", "", rule.min_iz_a, "A", rule.rule)
        return [*_working(sections, ruling), least]

    if ctx.device.rating_a > rule.max_device_a:
        sentence = f"A ring stands behind {rule.max_device_a:g} A at most, and this one behind {ctx.device_name()}"
        return compared(ID, ctx, ctx.device.rating_a, rule.max_device_a, "A", sentence, rule.rule, working)
    if cable.area_mm2 < rule.min_area_mm2:
        sentence = f"A ring takes {rule.min_area_mm2:g} mm² at least and this cable has {cable.area_mm2:g} mm²"
        return compared(ID, ctx, rule.min_area_mm2, cable.area_mm2, "mm²", sentence, rule.rule, working)
    sentence = f"A ring asks for a cable of {rule.min_iz_a:g} A, and this one carries {shown_down(ruling.iz_a)} A"
    return compared(ID, ctx, rule.min_iz_a, ruling.iz_a, "A", sentence, rule.rule, working)
