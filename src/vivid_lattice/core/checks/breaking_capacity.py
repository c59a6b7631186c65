"""Can the device break the largest fault it may see?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, step
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown, shown_up
from vivid_lattice.core.units import ka_from_a

ID = "breaking-capacity"


def check(ctx: CircuitContext) -> Finding:
    """The largest prospective current at the board against what the device can break.

    Equation  I = c · Uo / |Z0 + Σ Z| ≤ Icn, conductors cold: between all lines, or from line to neutral
    Source    the rule set's breaking rule; a tested assembly or declared back-up where its rule allows
    Of a current that was measured or stated no angle is known: the run's resistance is then added across it, so that the
    current comes out no smaller than it can be.
    """
    fault_ka = ka_from_a(ctx.network.loops.board_fault_a(ctx.board))
    limit = _limit(ctx)
    sentence = ctx.message(
        "core.check.breaking-capacity.current",
        device=ctx.device_name(),
        icn=plain(limit.value),
        ipf=shown_up(fault_ka),
        board=ctx.board.name,
    )
    finding = finding_from_limit(
        ID,
        ctx,
        fault_ka,
        limit.value,
        "kA",
        sentence,
        limit.source,
        lambda: _working(ctx, fault_ka, limit),
        in_steps=_declared(ctx),
    )
    if finding.verdict != "fail":
        return finding
    cause = Cause(ID, CauseSubject("board", ctx.board.id))
    finding = replace(finding, cause=cause)
    if not _assembly_would_do(ctx, fault_ka):
        return finding
    return replace(finding, sentence=ctx.message("core.check.breaking-capacity.if_tested", sentence=finding.sentence))


def _declared(ctx: CircuitContext) -> bool:
    """Whether the current is the highest that is declared or usual: ratings come in its steps, and 16 kA for 16 kA is enough."""
    stated = ctx.job.supply.fault_current_ka
    return any(each.field == "supply.fault_current_ka" and each.value == stated for each in ctx.job.assumptions)


def _assembly_would_do(ctx: CircuitContext, fault_ka: float) -> bool:
    """Whether a tested assembly would be enough where no one has stated what the board was tested for."""
    cutout = ctx.job.supply.cutout
    if ctx.board.assembly_ka is not None or cutout is None:
        return False
    backed = ctx.rules.devices.backed_up_ka(fault_ka, cutout.kind, cutout.rating_a)
    return backed is not None and backed.value >= fault_ka


def _working(ctx: CircuitContext, fault_ka: float, limit: SourcedValue) -> list[Step]:
    loops, supply = ctx.network.loops, ctx.job.supply
    ahead, prospective = loops.ahead, loops.board_fault(ctx.board)
    several = prospective.lines_a is not None and prospective.lines_a >= prospective.neutral_a
    kind = ctx.message(f"core.check.breaking-capacity.{'between_lines' if several else 'line_neutral'}")
    came: Text = supply.fault_current_source or ctx.message("core.formula.given")
    if ahead.calculated:
        came = ctx.message("core.check.breaking-capacity.calculated")
    origin = ahead.fault_lines_a if several else ahead.fault_a
    meaning = ctx.message("core.check.breaking-capacity.origin", kind=kind)
    working = [step("I0", meaning, came, "", ka_from_a(origin), "kA")]
    source = ahead.origin.volts_max / origin
    feeders, run = _feeder_steps(ctx, several)
    working += feeders
    if feeders:
        together = ahead.origin.volts_max / prospective.largest_a
        how: Text = "|Z0 + R|" if ahead.calculated else ctx.message("core.check.breaking-capacity.angle")
        working.append(
            step(
                "Z",
                ctx.message("core.check.breaking-capacity.total"),
                how,
                f"{shown(source)}, {shown(run)}",
                together,
                "Ω",
            )
        )
        figures = f"{ahead.origin.volts_max:g} / {shown(together)}"
        at = ctx.message("core.check.breaking-capacity.at_board", board=ctx.board.name)
        working.append(step("I", at, "U / Z", figures, fault_ka, "kA"))
    return [
        *working,
        step("Icn", limit.basis, ctx.message("core.formula.given"), "", limit.value, "kA", limit.source),
    ]


def _limit(ctx: CircuitContext) -> SourcedValue:
    """The device's own capacity, or that of a tested assembly behind the cut-out where it is larger."""
    board, cutout = ctx.board, ctx.job.supply.cutout
    backed = (
        ctx.rules.devices.backed_up_ka(board.assembly_ka, cutout.kind, cutout.rating_a)
        if board.assembly_ka is not None and cutout is not None
        else None
    )
    basis = ctx.message("core.check.breaking-capacity.assembly")
    assembly = SourcedValue(backed.value, backed.source, basis) if backed else None
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
        steps.append(
            step(
                "R",
                ctx.message("core.check.breaking-capacity.cold", circuit=link.name),
                formula,
                figures,
                run_ohm,
                "Ω",
                loop.line.source,
            )
        )
    return steps, run_ohm
