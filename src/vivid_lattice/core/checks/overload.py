"""Does the device carry the load? Ib ≤ In."""

from __future__ import annotations

from vivid_lattice.core.checks.answer import compared, not_applicable, step
from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.findings import Finding, Step, shown_up
from vivid_lattice.core.rules.protocol import Demand

ID = "overload"


def check(ctx: Context) -> Finding:
    """The design current against the device's rating.

    Equation  Ib ≤ In
    Source    the rule set's overload rule; the other half, In ≤ Iz, is ``capacity``
    A socket circuit with no stated current is reckoned as loaded to its device, so there is nothing to compare.
    """
    circuit, device, rule = ctx.circuit, ctx.device, ctx.rules.rule("overload")
    if circuit.kind in ("ring", "radial") and circuit.design_current_a is None:
        return not_applicable(
            ID,
            ctx,
            "Sockets: what is plugged in is held to the rating by the device itself. "
            "State a design current to have it checked.",
            rule,
        )
    demand = ctx.network.drops.design_current(circuit)
    sentence = f"{circuit.name} draws {shown_up(demand.current_a)} A through a device of {device.rating_a:g} A"
    return compared(ID, ctx, demand.current_a, device.rating_a, "A", sentence, rule, lambda: _working(ctx, demand))


def _working(ctx: Context, demand: Demand) -> list[Step]:
    rating = ctx.device.rating_a
    return [*demand.steps(), step("In", f"rating of {ctx.device_name()}", "chosen", f"{rating:g} A", rating, "A")]
