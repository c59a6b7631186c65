"""Does the protective conductor stand the heat of an earth fault until the device opens?"""

from __future__ import annotations

from vivid_lattice.core.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.checks.answer import compared, step
from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings import Finding, Step, shown, shown_up
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.rules.protocol import Clearing
from vivid_lattice.core.units import a_from_ma

ID = "protective-conductor"


def check(ctx: Context) -> Finding:
    """The adiabatic size against the protective conductor there is, for a fault at the far end.

    Equation  S = √(I²·t) / k ≤ cross-section of the protective conductor
    Source    the rule set's k tables, device tables and adiabatic rule
    A fault close to the board is larger and shorter; there the energy the device lets through counts, which is
    the business of ``short-circuit-withstand``.
    """
    cable, loops = chosen_cable(ctx.circuit), ctx.network.loops
    fault = loops.earth_fault_a(ctx.circuit)
    clearing = _clearing(ctx, fault)
    area, k = ctx.rules.cables.cpc_area_mm2(cable), ctx.rules.cables.k_protective(cable)
    needed = min_area_for_energy_mm2(clearing.energy_a2s, k.value)

    def working() -> list[Step]:
        zs, volts = loops.far_end_ohm(ctx.circuit), ctx.job.supply.nominal_v
        current, time, energy = clearing.current_a, clearing.time_s, clearing.energy_a2s
        by_time = energy >= current**2 * time
        made = f", {area.how}" if area.how else ""
        return [
            step("If", "earth fault current at the far end", "Uo / Zs", f"{volts:g} / {shown(zs)}", fault, "A"),
            step("t", clearing.why if by_time else "its instantaneous time", "table", "", time, "s", clearing.source),
            step(
                "I²t",
                "energy until it is cleared" if by_time else clearing.why,
                "I² · t" if by_time else "table, less than I² · t",
                f"{shown(current)}² · {time:g}"
                if by_time
                else f"{shown(current)}² · {time:g} = {shown(current**2 * time)}",
                energy,
                "A²s",
                clearing.source,
            ),
            step("k", "heat constant of the protective conductor", "table", "", k.value, "A·√s/mm²", k.source),
            step(
                "S",
                "least size",
                "√(I²t) / k",
                f"√{shown(energy)} / {k.value:g}",
                needed,
                "mm²",
                ctx.rules.rule("adiabatic"),
            ),
            step(
                "Sp", f"protective conductor of the cable{made}", "table or given", "", area.value, "mm²", area.source
            ),
        ]

    sentence = f"The protective conductor of {ctx.circuit.name} needs {shown_up(needed)} mm² and has {area.value:g} mm²"
    return compared(ID, ctx, needed, area.value, "mm²", sentence, ctx.rules.rule("adiabatic"), working)


def _clearing(ctx: Context, fault_a: float) -> Clearing:
    """By the overcurrent device; where the fault is too small for it, by the nearest RCD that opens."""
    try:
        return ctx.rules.devices.clearing(ctx.device, fault_a)
    except NotTabulated as overcurrent_refused:
        for ahead in ctx.network.tree.rcds_ahead(ctx.circuit):
            try:
                opens = ctx.rules.devices.rcd_time_s(ahead.rcd, fault_a / a_from_ma(ahead.rcd.idn_ma))
            except NotTabulated:
                continue
            return Clearing(
                fault_a,
                opens.value,
                fault_a**2 * opens.value,
                opens.source,
                f"the {ahead.rcd.idn_ma:g} mA RCD opens {opens.how}",
            )
        raise NeedsInput(*overcurrent_refused.needs) from overcurrent_refused
