"""Is an arc-fault device demanded or recommended?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.document.feeds import feeds_sockets, rooms_of
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules.protection_rules import ArcFaultRequirement

ID = "arc-fault"


def check(ctx: CircuitContext) -> Finding:
    """The rule set's reasons for an arc-fault device against the circuit's use, rooms and premises.

    Source  the rule set's arc-fault rules. What is recommended only is advice where it is not there.
    """
    duties = ctx.rules.protection.arcs
    if ctx.circuit.kind == "distribution" or not duties:
        return not_applicable(ID, ctx, ctx.message("core.check.arc-fault.no_rule"))
    device = ctx.device
    there = device.detects_arcs
    holding = [duty for duty in duties if _holds(ctx, duty)]
    demanded = next((duty for duty in holding if duty.level == "demanded"), None)
    steps = tuple(_step(ctx, duty, duty in holding) for duty in duties) if ctx.explain else ()
    duty = demanded or (holding[0] if holding else None)
    if duty is None:
        return not_applicable(ID, ctx, ctx.message("core.check.arc-fault.none"))
    if there:
        return _finding(ctx, duty, "pass", ctx.message("core.check.arc-fault.pass", reason=duty.text), there, steps)
    if demanded:
        return _finding(ctx, duty, "fail", ctx.message("core.check.arc-fault.fail", reason=duty.text), there, steps)
    reason = ctx.message("core.check.arc-fault.recommended", reason=duty.text)
    return Finding(
        check=ID, subject=ctx.subject, verdict="not-applicable", sentence=reason, rule=duty.source, working=steps
    )


def _step(ctx: CircuitContext, duty: ArcFaultRequirement, applies: bool) -> Step:
    return Step(
        symbol="",
        meaning=duty.text,
        formula=ctx.message(f"core.check.arc-fault.level.{duty.level}"),
        figures="",
        result=0.0,
        unit="",
        shown=ctx.message(f"core.check.arc-fault.{'applies' if applies else 'applies_not'}"),
        source=duty.source,
    )


def _finding(
    ctx: CircuitContext, duty: ArcFaultRequirement, verdict: Verdict, text: Text, there: bool, steps: tuple[Step, ...]
) -> Finding:
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=verdict,
        sentence=text,
        shown_value=str(ctx.message(f"core.check.arc-fault.{'fitted' if there else 'not_fitted'}")),
        shown_limit="1",
        rule=duty.source,
        working=steps,
    )


def _holds(ctx: CircuitContext, duty: ArcFaultRequirement) -> bool:
    if duty.premises and ctx.job.job.premises not in duty.premises:
        return False
    if duty.upto_a is not None and ctx.device.rating_a > duty.upto_a:
        return False
    rooms, all_known = rooms_of(ctx.circuit, ctx.network.tree.rooms)
    if duty.when == "sockets":
        return feeds_sockets(ctx.circuit)
    if duty.when == "bedrooms":
        return any(room.kind == "bedroom" for room in rooms)
    if duty.when == "fire":
        return any(room.fire_risk for room in rooms)
    # By rooms: a circuit of one line and neutral; a load whose room no one stated counts as in an ordinary one.
    ordinary = not rooms or not all_known
    return len(ctx.circuit.lines) < 2 and (ordinary or any(room.kind in duty.rooms for room in rooms))
