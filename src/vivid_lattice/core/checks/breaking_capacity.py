"""Can the device break the largest fault it may see?"""

from __future__ import annotations

from vivid_lattice.core.checks.answer import compared, step
from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Finding, Step, shown, shown_up
from vivid_lattice.core.rules.protocol import Looked
from vivid_lattice.core.units import ka_from_a

ID = "breaking-capacity"


def check(ctx: Context) -> Finding:
    """The largest prospective current at the board against what the device can break.

    Equation  I = Uo / (Uo/I0 + Σ 2·R1) ≤ Icn, conductors cold
    Source    the rule set's breaking rule; a tested assembly behind the cut-out where its rule allows
    """
    fault_ka = ka_from_a(ctx.network.loops.board_fault_a(ctx.board))
    limit = _limit(ctx)
    sentence = (
        f"Up to {shown_up(fault_ka)} kA can flow at {ctx.board.name}, and {ctx.device_name()} breaks {limit.value:g} kA"
    )
    return compared(
        ID, ctx, fault_ka, limit.value, "kA", sentence, limit.source, lambda: _working(ctx, fault_ka, limit)
    )


def _working(ctx: Context, fault_ka: float, limit: Looked) -> list[Step]:
    loops, supply = ctx.network.loops, ctx.job.supply
    origin = loops.origin_fault_a()
    came = f", {supply.fault_current_source}" if supply.fault_current_source else ""
    meaning = f"largest prospective current at the origin{came}"
    working = [step("I0", meaning, "given, or Uo/Ze if larger", "", ka_from_a(origin), "kA")]
    ahead = supply.nominal_v / origin
    for link in ctx.network.tree.chain(ctx.circuit)[:-1]:
        run = loops.run(link)
        figures = f"{shown(ahead)} + 2 · {shown(run.r1_cold_ohm)}"
        ahead += 2 * run.r1_cold_ohm
        working.append(
            step("Z", f"{link.name}: line and neutral, cold", "Uo/I0 + 2 · R1", figures, ahead, "Ω", run.line.source)
        )
    figures = f"{supply.nominal_v:g} / {shown(ahead)}"
    working.append(step("I", f"at {ctx.board.name}", "Uo / Z", figures, fault_ka, "kA"))
    return [*working, step("Icn", limit.how, "given", "", limit.value, "kA", limit.source)]


def _limit(ctx: Context) -> Looked:
    """The device's own capacity, or that of a tested assembly behind the cut-out where it is larger."""
    board, cutout = ctx.board, ctx.job.supply.cutout
    backed = (
        ctx.rules.devices.backed_up_ka(board.assembly_ka, cutout.kind, cutout.rating_a)
        if board.assembly_ka is not None and cutout is not None
        else None
    )
    assembly = Looked(backed.value, backed.source, "tested assembly behind the cut-out fuse") if backed else None
    try:
        own = ctx.rules.devices.breaking_ka(ctx.device)
    except NeedsInput:
        if assembly is None:
            raise
        return assembly
    return assembly if assembly and assembly.value > own.value else own
