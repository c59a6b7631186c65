"""Do the live conductors stand the energy the device lets through when they are shorted?"""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.checks.support.fault_energy import assumed_fault, by_onsite_table
from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.formulas.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import shown, shown_up
from vivid_lattice.core.units import SLACK

ID = "short-circuit-withstand"
#: Legs of a ring: at its middle each carries half of a fault.
_LEGS = 2


@dataclass(frozen=True, slots=True)
class _End:
    """A place of the fault: the current there and the energy let through."""

    where: Message
    fault_a: float
    energy: SourcedValue


def check(ctx: CircuitContext) -> Finding:
    """The energy let through at the largest fault, next to the board, and at the smallest, at the end of the circuit.

    Equation  I²t ≤ k² · S²
    Source    the rule set's withstand rule, k tables and let-through tables
    Of a dwelling's current that is not measured the energy is that of the current homes have, as an assumption to confirm.
    Where the class's limit is passed, the published on-site size behind the device answers.
    Energy by the manufacturer's figure where it is stated, else by the device's energy class, else by its opening time. A bound by
    time alone is far above what a breaker lets through: where only it would fail, the manufacturer's figure is required. At the
    end of the circuit a current too small to open the device at once is not judged by let-through energy: overload protection and
    ``disconnection`` hold it.
    """
    none = ctx.rules.limits.no_withstand
    if none is not None:
        return not_applicable(ID, ctx, none[0], none[1])
    cable, devices = chosen_cable(ctx.circuit), ctx.rules.devices
    near, assumed = assumed_fault(ctx, ctx.network.loops.board_fault_a(ctx.board))
    ends = [
        _End(
            ctx.message("core.check.short-circuit-withstand.at_board", board=ctx.board.name),
            near,
            devices.let_through(ctx.device, near),
        )
    ]
    far = _far_end(ctx, near)
    if far is not None:
        ends.append(far)
    k = ctx.rules.cables.k_live(cable)
    worst = max(ends, key=lambda end: end.energy.value)
    needed = min_area_for_energy_mm2(worst.energy.value, k.value)
    row = devices.class_row_a(ctx.device, worst.fault_a)
    if needed > cable.area_mm2 and row is None and _breaker(ctx) and not _stated_there(ctx, worst.fault_a):
        stated = ctx.device.let_through_a2s is not None
        raise NeedsInput(
            Need(
                ctx.message(
                    "core.check.short-circuit-withstand.need.what",
                    device=ctx.device_name(),
                    ka=shown_up(worst.fault_a / 1000),
                ),
                "device.let_through_at_ka" if stated else "device.let_through_a2s",
                ctx.message("core.check.short-circuit-withstand.need.ask"),
            )
        )

    def working() -> list[Step]:
        current = ctx.message("core.check.short-circuit-withstand.current", where=worst.where)
        by_energy = ctx.message("core.check.short-circuit-withstand.energy_formula")
        constant, table = ctx.message("core.check.short-circuit-withstand.k"), ctx.message("core.formula.table")
        return [
            step("I", current, "", "", worst.fault_a, "A"),
            step("I²t", worst.energy.basis, by_energy, "", worst.energy.value, "A²s", worst.energy.source),
            step("k", constant, table, "", k.value, "A·√s/mm²", k.source),
            step(
                "S",
                ctx.message("core.check.short-circuit-withstand.minimum"),
                "√(I²t) / k",
                f"√{shown(worst.energy.value)} / {k.value:g}",
                needed,
                "mm²",
                ctx.rules.rule("withstand"),
            ),
            *(
                step(
                    "I²t",
                    ctx.message("core.phrase.labelled", label=end.where, text=end.energy.basis),
                    ctx.message("core.formula.comparison"),
                    "",
                    end.energy.value,
                    "A²s",
                    end.energy.source,
                )
                for end in ends
                if end is not worst
            ),
        ]

    sentence = ctx.message(
        "core.check.short-circuit-withstand.size",
        size=ctx.size(cable.area_mm2),
        needed=shown_up(needed),
        where=worst.where,
    )
    rule = ctx.rules.rule("withstand")
    finding = finding_from_limit(ID, ctx, needed, cable.area_mm2, "mm²", sentence, rule, working, assumptions=assumed)
    return by_onsite_table(ctx, finding, SourcedValue(cable.area_mm2, worst.energy.source), worst.fault_a)


def _stated_there(ctx: CircuitContext, fault_a: float) -> bool:
    """Whether the manufacturer's let-through energy is stated for so large a current."""
    at_ka = ctx.device.let_through_at_ka
    return ctx.device.let_through_a2s is not None and at_ka is not None and fault_a <= at_ka * 1000 * (1 + SLACK)


def _breaker(ctx: CircuitContext) -> bool:
    return ctx.rules.devices.kind(ctx.device.kind).action == "breaker"


def _far_end(ctx: CircuitContext, most_a: float) -> _End | None:
    try:
        fault = min(ctx.network.loops.neutral_fault_a(ctx.circuit), most_a)
        clearing = ctx.rules.devices.clearing(ctx.device, fault)
    except NeedsInput:
        return None
    energy, why = clearing.energy_a2s, clearing.reason
    if ctx.circuit.kind == "ring":
        energy, why = energy / _LEGS**2, ctx.message("core.check.short-circuit-withstand.ring_leg", basis=why)
    return _End(
        ctx.message("core.check.short-circuit-withstand.at_end"), fault, SourcedValue(energy, clearing.source, why)
    )
