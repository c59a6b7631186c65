"""A protective or earthing conductor by the energy of the fault that it must stand: the calculation in place of the table."""

from __future__ import annotations

from vivid_lattice.core.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.checks.context import BoardContext, SupplyContext
from vivid_lattice.core.device.loop import fault_current_a
from vivid_lattice.core.errors import NeedsInput, OutOfRange
from vivid_lattice.core.incoming import Cutout
from vivid_lattice.core.job import Cable
from vivid_lattice.core.network.upstream import as_device
from vivid_lattice.core.rules.looked import Looked


def least_by_energy_mm2(ctx: SupplyContext | BoardContext, upstream: Cutout | None, loop_ohm: float) -> Looked | None:
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
    return Looked(needed, ctx.rules.rule("adiabatic"), "by calculation")
