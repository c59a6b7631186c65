"""Can the device break the largest fault it may see?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, step
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import shown, shown_up
from vivid_lattice.core.units import ka_from_a

ID = "breaking-capacity"


def check(ctx: CircuitContext) -> Finding:
    """The largest prospective current at the board against what the device can break.

    Equation  I = c · Uo / |Z0 + Σ Z| ≤ Icn, conductors cold: between all lines, or from line to neutral
    Source    the rule set's breaking rule; a tested assembly or declared back-up where its rule allows
    Of a current that was measured or asked for no angle is known: the run's resistance is then added across it, so that the
    current comes out no smaller than it can be.
    """
    fault_ka = ka_from_a(ctx.network.loops.board_fault_a(ctx.board))
    limit = _limit(ctx)
    sentence = (
        f"Up to {shown_up(fault_ka)} kA can flow at {ctx.board.name}, and {ctx.device_name()} breaks {limit.value:g} kA"
    )
    finding = finding_from_limit(
        ID, ctx, fault_ka, limit.value, "kA", sentence, limit.source, lambda: _working(ctx, fault_ka, limit)
    )
    if finding.verdict != "fail":
        return finding
    cause = Cause(ID, CauseSubject("board", ctx.board.id))
    return replace(finding, cause=cause, sentence=f"{finding.sentence}{_if_tested(ctx, fault_ka)}")


def _if_tested(ctx: CircuitContext, fault_ka: float) -> str:
    """What else would do where nobody has stated what the board was tested for; nothing where no such rating would be enough."""
    cutout = ctx.job.supply.cutout
    if ctx.board.assembly_ka is not None or cutout is None:
        return ""
    backed = ctx.rules.devices.backed_up_ka(fault_ka, cutout.kind, cutout.rating_a)
    if backed is None or backed.value < fault_ka:
        return ""
    return " Is the board tested for it as a whole? Then enter its assembly rating."


def _working(ctx: CircuitContext, fault_ka: float, limit: SourcedValue) -> list[Step]:
    loops, supply = ctx.network.loops, ctx.job.supply
    ahead, prospective = loops.ahead, loops.board_fault(ctx.board)
    several = prospective.lines_a is not None and prospective.lines_a >= prospective.neutral_a
    kind = "between all lines" if several else "line to neutral or earth"
    came = "calculated from the transformer" if ahead.calculated else supply.fault_current_source or "given"
    origin = ahead.fault_lines_a if several else ahead.fault_a
    working = [step("I0", f"largest prospective current at the origin, {kind}", came, "", ka_from_a(origin), "kA")]
    source = ahead.origin.volts_max / origin
    feeders, run = _feeder_steps(ctx, several)
    working += feeders
    if feeders:
        together = ahead.origin.volts_max / prospective.largest_a
        how = "|Z0 + R|" if ahead.calculated else "√(Z0² + R²): Z0's angle is not known"
        working.append(step("Z", "together", how, f"{shown(source)}, {shown(run)}", together, "Ω"))
        figures = f"{ahead.origin.volts_max:g} / {shown(together)}"
        working.append(step("I", f"at {ctx.board.name}", "U / Z", figures, fault_ka, "kA"))
    return [*working, step("Icn", limit.basis, "given", "", limit.value, "kA", limit.source)]


def _limit(ctx: CircuitContext) -> SourcedValue:
    """The device's own capacity, or that of a tested assembly behind the cut-out where it is larger."""
    board, cutout = ctx.board, ctx.job.supply.cutout
    backed = (
        ctx.rules.devices.backed_up_ka(board.assembly_ka, cutout.kind, cutout.rating_a)
        if board.assembly_ka is not None and cutout is not None
        else None
    )
    assembly = SourcedValue(backed.value, backed.source, "tested assembly behind the cut-out fuse") if backed else None
    try:
        breaking = ctx.rules.devices.breaking_ka(ctx.device)
    except NeedsInput:
        if assembly is None:
            raise
        return assembly
    return assembly if assembly and assembly.value > breaking.value else breaking


def _feeder_steps(ctx: CircuitContext, several: bool) -> tuple[list[Step], float]:
    """Cold resistance of the runs between the origin and the board [Ω], added up; there and back unless it is between lines."""
    run_ohm = 0.0
    steps = []
    for link in ctx.network.tree.chain(ctx.circuit)[:-1]:
        loop = ctx.network.loops.run(link)
        run_ohm += loop.r1_cold_ohm * (1 if several else 2)
        formula, figures = ("R1", "") if several else ("2 · R1", f"2 · {shown(loop.r1_cold_ohm)}")
        steps.append(step("R", f"{link.name}, cold", formula, figures, run_ohm, "Ω", loop.line.source))
    return steps, run_ohm
