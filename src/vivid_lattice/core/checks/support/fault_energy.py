"""Conductors by the energy of the fault that they must stand: for which current, and by on-site guidance or by calculation."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import by_class_limit, standard_size, step
from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.errors import NeedsInput, OutOfRange
from vivid_lattice.core.findings.finding import Assumption, Finding
from vivid_lattice.core.formulas.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.formulas.device.loop import fault_current_a
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.network.upstream import as_device
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain
from vivid_lattice.core.units import SLACK, a_from_ka


def assumed_fault(ctx: CircuitContext, fault_a: float) -> tuple[float, tuple[Assumption, ...]]:
    """The current [A] that energy is calculated for, and what is assumed with it: of a dwelling's current that is not measured or
    calculated, no more than homes have.

    Source  ``common.fault.dwelling``: common practice, no source
    """
    supply, figure = ctx.job.supply, ctx.rules.devices.energy_fault_ka
    known = supply.transformer is not None or supply.fault_current_source == "measured"
    if (
        known
        or ctx.job.job.premises != "dwelling"
        or figure is None
        or fault_a <= a_from_ka(figure.value) * (1 + SLACK)
    ):
        return fault_a, ()
    value = ctx.message("core.check.fault-energy.assumed", ka=plain(figure.value))
    return a_from_ka(figure.value), (Assumption("supply.fault_current_ka", value, figure.source.publication),)


def by_onsite_table(ctx: CircuitContext, finding: Finding, there_is: SourcedValue, fault_a: float) -> Finding:
    """A finding over the limit of a device's energy class, or in order by the published size behind such a device."""
    if finding.verdict == "fail" and ctx.rules.cables.kind(chosen_cable(ctx.circuit).type).material == "copper":
        least = ctx.rules.devices.onsite_mm2(ctx.device, fault_a)
        if least is not None and least.value <= there_is.value:
            sentence = ctx.message(
                "core.check.fault-energy.onsite",
                size=ctx.size(there_is.value),
                least=ctx.size(least.value),
                table=least.basis,
            )
            steps = [step("S", least.basis, ctx.message("core.formula.table"), "", least.value, "mm²", least.source)]
            by_size = standard_size(finding.check, ctx, least, there_is, sentence, lambda: [*finding.working, *steps])
            return replace(by_size, assumptions=finding.assumptions)
    return by_class_limit(finding, fault_a, ctx.rules.devices.class_row_a(ctx.device, fault_a))


def min_by_energy_mm2(
    ctx: SupplyContext | BoardContext, upstream: CutOut | None, loop_ohm: float
) -> SourcedValue | None:
    """Least copper conductor [mm²] for an earth fault of a loop that the device upstream clears; None where the standard has no
    calculation for it, or an input or a table row is missing.

    Equation  S = √(I²t) / k
    Source    the rule set's adiabatic rule, device tables and k of a separate conductor
    """
    if upstream is None or not ctx.rules.earthing.by_calculation:
        return None
    cable = Cable(type=ctx.rules.tails_cable, area_mm2=16.0, cpc="separate")
    try:
        fault = fault_current_a(ctx.job.supply.nominal_v, loop_ohm)
        energy = ctx.rules.devices.clearing(as_device(upstream), fault)
        k = ctx.rules.cables.k_protective(cable)
    except (NeedsInput, OutOfRange):
        return None
    needed = min_area_for_energy_mm2(energy.energy_a2s, k.value)
    return SourcedValue(needed, ctx.rules.rule("adiabatic"), ctx.message("core.check.fault-energy.calculated"))
