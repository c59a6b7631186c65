"""Does the cable carry what its device lets through? In ≤ Iz, in the worst section of the run."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial
from math import prod

from vivid_lattice.core.checks.overload import counted_current_a
from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, step
from vivid_lattice.core.document.job import Cable, Section
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.formulas.cable.capacity import installed_capacity_a, needed_tabulated_a
from vivid_lattice.core.formulas.load_currents import third_harmonic_pct
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Joined, Message, message
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.rules.protocol import Factor
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown, shown_down, shown_up

ID = "capacity"


@dataclass(frozen=True, slots=True, kw_only=True)
class _SectionCapacity:
    """What a section of the run can carry, and the largest device that may stand ahead of it."""

    number: int
    section: Section
    tabulated: SourcedValue
    factors: tuple[Factor, ...]
    device_factors: tuple[Factor, ...]
    iz_a: float
    device_limit_a: float
    ceiling: SourcedValue | None


def check(ctx: CircuitContext) -> Finding:
    """The device's rating against what the cable carries where it lies.

    Equation  In ≤ Iz · Cf · Cc, with Iz = It · Ca · Cg · Ci · Cs · Ch; a ring: Iz at or above the standard's figure
    Source    the rule set's capacity table, factor tables and rules
    The worst section rules. A conductor under the least size for its use fails whatever its rating. Where the neutral
    carries more than the lines, by third harmonics, it is the neutral that must not be overloaded. In standards that let the
    next standard device stand above the ampacity, the load must still be within it; small conductors have ceilings.
    """
    circuit, device, cable = ctx.circuit, ctx.device, chosen_cable(ctx.circuit)
    harmonic, times_neutral = _harmonic(ctx)
    sections = [_capacity(ctx, cable, number, section, harmonic) for number, section in enumerate(circuit.run, 1)]
    ruling = min(sections, key=lambda entry: entry.device_limit_a if circuit.kind != "ring" else entry.iz_a)
    least = ctx.rules.limits.min_area_mm2(circuit)
    if cable.area_mm2 < least.value:
        sentence = ctx.message(
            "core.check.capacity.min_size",
            size=ctx.size(cable.area_mm2),
            least=ctx.size(least.value),
            use=least.basis,
        )
        return finding_from_limit(
            ID, ctx, least.value, cable.area_mm2, "mm²", sentence, least.source, lambda: _working(sections, ruling)
        )
    spur = _spurs(ctx, cable)
    if spur is not None:
        return spur
    if circuit.kind == "ring":
        return _ring(ctx, cable, sections, ruling)
    ceiling = _ceiling(ctx, cable)
    if ceiling is not None and device.rating_a > ceiling.value <= ruling.device_limit_a:
        sentence = ctx.message(
            "core.check.capacity.ceiling",
            device=ctx.device_name(),
            rating=plain(device.rating_a),
            limit=plain(ceiling.value),
            conductor=ceiling.basis,
        )
        return finding_from_limit(
            ID, ctx, device.rating_a, ceiling.value, "A", sentence, ceiling.source, lambda: _working(sections, ruling)
        )
    if device.rating_a > ruling.device_limit_a:
        by_load = _next_size_up(ctx, sections, ruling)
        if by_load is not None:
            return by_load
    if times_neutral > 1:
        return _by_neutral(ctx, sections, ruling, times_neutral)
    sentence = ctx.message(
        "core.check.capacity.device",
        device=ctx.device_name(),
        rating=plain(device.rating_a),
        limit=shown_down(ruling.device_limit_a),
    )
    rule = ctx.rules.rule("capacity")
    finding = finding_from_limit(
        ID,
        ctx,
        device.rating_a,
        ruling.device_limit_a,
        "A",
        sentence,
        rule,
        lambda: [*_working(sections, ruling), *_device_working(device.rating_a, ruling)],
    )
    if finding.verdict == "tight" and ceiling is not None:
        # The standard pairs this size with this device: it is made to have no margin.
        return replace(finding, verdict="pass", sentence=ctx.message("core.check.capacity.paired", fact=sentence))
    return finding


def _ceiling(ctx: CircuitContext, cable: Cable) -> SourcedValue | None:
    """The largest device that a small conductor may have ahead of it, where the standard has such a rule."""
    if not ctx.rules.limits.caps_small_conductors:
        return None
    material, label = ctx.rules.cables.kind(cable.type).material, ctx.size(cable.area_mm2).split(" ")[0]
    return ctx.rules.limits.device_ceiling_a(ctx.circuit, material, label)


def _harmonic(ctx: CircuitContext) -> tuple[Factor | None, float]:
    """Factor for third harmonics in a three-phase circuit with a neutral, and the neutral's current over the lines'."""
    third = third_harmonic_pct(ctx.circuit) if ctx.loaded == 3 and ctx.circuit.neutral else 0.0
    if not third:
        return None, 1.0
    factor, by_neutral = ctx.rules.factors.harmonic(third)
    return factor, 3 * third / 100 if by_neutral else 1.0


def _by_neutral(
    ctx: CircuitContext, sections: list[_SectionCapacity], ruling: _SectionCapacity, times: float
) -> Finding:
    """The neutral's current against what the cable carries: In of the lines lets more than In through the neutral."""
    current = times * ctx.device.rating_a
    third = third_harmonic_pct(ctx.circuit)
    sentence = ctx.message(
        "core.check.capacity.neutral",
        a=shown_up(current),
        harmonic=plain(third),
        iz=shown_down(ruling.device_limit_a),
    )

    def working() -> list[Step]:
        figures = f"3 · {third / 100:g} · {ctx.device.rating_a:g}"
        neutral_step = step(
            "In", ctx.message("core.check.capacity.neutral_working"), "3 · h · In", figures, current, "A"
        )
        return [*_working(sections, ruling), neutral_step]

    return finding_from_limit(
        ID, ctx, current, ruling.device_limit_a, "A", sentence, ctx.rules.rule("capacity"), working
    )


def _next_size_up(ctx: CircuitContext, sections: list[_SectionCapacity], ruling: _SectionCapacity) -> Finding | None:
    """Where the standard lets the next standard device stand: the load against the ampacity; None where it does not let it."""
    allowed = ctx.rules.limits.next_size_up_a(ctx.circuit, ruling.device_limit_a)
    load, limit = counted_current_a(ctx), ruling.device_limit_a
    if allowed is None or ctx.device.rating_a > allowed.value or load.value > ctx.device.rating_a:
        return None
    next_up = ctx.message("core.check.capacity.next_up", device=ctx.device_name(), iz=shown_down(limit))

    def working() -> list[Step]:
        up = step("In,max", allowed.basis, ctx.message("core.formula.table"), "", allowed.value, "A", allowed.source)
        meaning = load.basis or ctx.message("core.check.capacity.load")
        return [*_working(sections, ruling), up, step("I", meaning, "", "", load.value, "A", load.source)]

    if load.value > limit:
        sentence = ctx.message("core.check.capacity.next_up_over", next_up=next_up, ib=shown_up(load.value))
        return finding_from_limit(ID, ctx, load.value, limit, "A", sentence, allowed.source, working)
    # The margin there was is used up by the rule itself, however small the load.
    sentence = ctx.message("core.check.capacity.next_up_ok", next_up=next_up, ib=shown_up(load.value))
    return finding_from_limit(ID, ctx, ctx.device.rating_a, allowed.value, "A", sentence, allowed.source, working)


def _spurs(ctx: CircuitContext, cable: Cable) -> Finding | None:
    """A spur whose cable does not carry its fuse, or an unfused one thinner than the circuit; None where all are in order."""
    for spur in ctx.circuit.spurs:
        rule = ctx.rules.rule("capacity")
        if spur.fuse_a is None and spur.area_mm2 < cable.area_mm2:
            sentence = ctx.message(
                "core.check.capacity.spur_unfused",
                spur=spur.name,
                size=ctx.size(spur.area_mm2),
                least=ctx.size(cable.area_mm2),
            )
            return finding_from_limit(ID, ctx, cable.area_mm2, spur.area_mm2, "mm²", sentence, rule, list)
        if spur.fuse_a is None:
            continue
        spur_cable = cable.model_copy(update={"area_mm2": spur.area_mm2})
        worst = min(
            (_capacity(ctx, spur_cable, number, section, None) for number, section in enumerate(ctx.circuit.run, 1)),
            key=lambda entry: entry.iz_a,
        )
        if spur.fuse_a > worst.iz_a:
            sentence = ctx.message(
                "core.check.capacity.spur_fused",
                spur=spur.name,
                fuse=plain(spur.fuse_a),
                iz=shown_down(worst.iz_a),
            )
            return finding_from_limit(
                ID, ctx, spur.fuse_a, worst.iz_a, "A", sentence, rule, partial(_working, [worst], worst)
            )
    return None


def _device_working(rating_a: float, ruling: _SectionCapacity) -> list[Step]:
    """The same condition twice, as people write it: the largest device for the cable, the least cable for the device."""
    steps = []
    if ruling.device_factors:
        figures = " · ".join([shown(ruling.iz_a), *(f"{factor.value:g}" for factor in ruling.device_factors)])
        symbols = " · ".join(factor.symbol for factor in ruling.device_factors)
        source = ruling.device_factors[0].source
        steps.append(
            step(
                "In,max",
                message(None, "core.check.capacity.device_limit"),
                f"Iz · {symbols}",
                figures,
                ruling.device_limit_a,
                "A",
                source,
            )
        )
    every = [factor.value for factor in (*ruling.factors, *ruling.device_factors)]
    needed, figures = needed_tabulated_a(rating_a, every), f"{rating_a:g}" + (f" / {prod(every):.4g}" if every else "")
    meaning = message(None, "core.check.capacity.tabulated_needed")
    formula = message(None, "core.check.capacity.all_factors")
    steps.append(step("It,min", meaning, formula, figures, needed, "A"))
    return steps


def _capacity(
    ctx: CircuitContext, cable: Cable, number: int, section: Section, harmonic: Factor | None
) -> _SectionCapacity:
    tabulated = ctx.rules.cables.capacity_a(cable, section.method, ctx.loaded)
    factors = ctx.rules.factors.factors(section, cable, ctx.loaded)
    if harmonic is not None:
        factors = (*factors, harmonic)
    device_factors = ctx.rules.factors.device_factors(section, ctx.device)
    iz = installed_capacity_a(tabulated.value, [factor.value for factor in factors])
    ceiling = ctx.rules.cables.terminal_ceiling(cable, ctx.device.rating_a, ctx.job.settings.terminals_c)
    if ceiling is not None:
        iz = min(iz, ceiling.value)
    limit = installed_capacity_a(iz, [factor.value for factor in device_factors])
    return _SectionCapacity(
        number=number,
        section=section,
        tabulated=tabulated,
        factors=factors,
        device_factors=device_factors,
        iz_a=iz,
        device_limit_a=limit,
        ceiling=ceiling,
    )


def _working(sections: list[_SectionCapacity], ruling: _SectionCapacity) -> list[Step]:
    details = [
        ruling.section.method,
        *_which(sections, ruling),
        *([ruling.tabulated.basis] if ruling.tabulated.basis else []),
    ]
    table = message(None, "core.formula.table")
    working = [
        step(
            "It",
            message(None, "core.check.capacity.tabulated", method=Joined.of(details, ", ")),
            table,
            "",
            ruling.tabulated.value,
            "A",
            ruling.tabulated.source,
        )
    ]
    working += [
        step(factor.symbol, factor.meaning, table, "", factor.value, "", factor.source)
        for factor in (*ruling.factors, *ruling.device_factors)
    ]
    formula = " · ".join(["It", *(factor.symbol for factor in ruling.factors)])
    figures = " · ".join([f"{ruling.tabulated.value:g}", *(f"{factor.value:g}" for factor in ruling.factors)])
    if ruling.ceiling is not None:
        ceiling = ruling.ceiling
        working.append(step("Itc", ceiling.basis, table, "", ceiling.value, "A", ceiling.source))
        formula, figures = f"min({formula}, Itc)", f"min({figures}, {ceiling.value:g})"
    working.append(step("Iz", message(None, "core.check.capacity.installed"), formula, figures, ruling.iz_a, "A"))
    others = [section_capacity for section_capacity in sections if section_capacity is not ruling]
    working += [
        step(
            f"Iz{section_capacity.number}",
            message(
                None,
                "core.check.capacity.section",
                n=str(section_capacity.number),
                method=section_capacity.section.method,
            ),
            message(None, "core.formula.comparison"),
            "",
            section_capacity.iz_a,
            "A",
            section_capacity.tabulated.source,
        )
        for section_capacity in others
    ]
    return working


def _which(sections: list[_SectionCapacity], ruling: _SectionCapacity) -> list[Message]:
    """Which section governs, and by how much less it carries than the next; nothing where there is one only."""
    others = [section_capacity.iz_a for section_capacity in sections if section_capacity is not ruling]
    if not others:
        return []
    by = (min(others) - ruling.iz_a) / min(others)
    governs = message(None, "core.check.capacity.section_rules", n=str(ruling.number), total=str(len(sections)))
    return (
        [governs, message(None, "core.check.capacity.section_less", percent=shown(100 * by, 2))]
        if by > 0
        else [governs]
    )


def _ring(ctx: CircuitContext, cable: Cable, sections: list[_SectionCapacity], ruling: _SectionCapacity) -> Finding:
    rule = ctx.rules.limits.ring(ctx.device)

    def working() -> list[Step]:
        meaning, formula = ctx.message("core.check.capacity.ring_min"), ctx.message("core.formula.rule")
        least = step("Iz,min", meaning, formula, "", rule.min_iz_a, "A", rule.rule)
        return [*_working(sections, ruling), least]

    if ctx.device.rating_a > rule.max_device_a:
        sentence = ctx.message(
            "core.check.capacity.ring_device",
            device=ctx.device_name(),
            rating=plain(ctx.device.rating_a),
            max=plain(rule.max_device_a),
        )
        return finding_from_limit(ID, ctx, ctx.device.rating_a, rule.max_device_a, "A", sentence, rule.rule, working)
    if cable.area_mm2 < rule.min_area_mm2:
        sentence = ctx.message(
            "core.check.capacity.ring_size", size=plain(cable.area_mm2), min=plain(rule.min_area_mm2)
        )
        return finding_from_limit(ID, ctx, rule.min_area_mm2, cable.area_mm2, "mm²", sentence, rule.rule, working)
    sentence = ctx.message("core.check.capacity.ring_capacity", iz=shown_down(ruling.iz_a), min=plain(rule.min_iz_a))
    return finding_from_limit(ID, ctx, rule.min_iz_a, ruling.iz_a, "A", sentence, rule.rule, working)
