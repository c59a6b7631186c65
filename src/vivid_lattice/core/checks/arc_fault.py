"""Is an arc-fault device demanded or recommended?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.document.feeds import feeds_sockets, rooms_of
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.rules.protection_rules import ArcFaultRequirement

ID = "arc-fault"


def check(ctx: CircuitContext) -> Finding:
    """The rule set's reasons for an arc-fault device against the circuit's use, rooms and premises.

    Source  the rule set's arc-fault rules. What is recommended only is advice where it is not there.
    """
    duties = ctx.rules.protection.arcs
    if ctx.circuit.kind == "distribution" or not duties:
        return not_applicable(ID, ctx, "No rule here speaks of arc-fault devices for such a circuit.")
    device = ctx.device
    there = device.arc_fault or "afci" in device.kind or "dual" in device.kind
    holding = [duty for duty in duties if _holds(ctx, duty)]
    demanded = next((duty for duty in holding if duty.level == "demanded"), None)
    steps = tuple(_step(duty, duty in holding) for duty in duties) if ctx.explain else ()
    duty = demanded or (holding[0] if holding else None)
    if duty is None:
        return not_applicable(ID, ctx, f"Nothing asks for an arc-fault device on {ctx.circuit.name}.")
    named = f"{ctx.circuit.name}: {duty.text}"
    if there:
        return _finding(ctx, duty, "pass", f"{named}; it has one.", there, steps)
    if demanded:
        return _finding(ctx, duty, "fail", f"{named}; it has none.", there, steps)
    reason = f"{named}; it has none, which is allowed. Weigh it after trips nobody can explain."
    return Finding(
        check=ID, subject=ctx.subject, verdict="not-applicable", sentence=reason, rule=duty.source, working=steps
    )


def _step(duty: ArcFaultRequirement, applies: bool) -> Step:
    text = "applies" if applies else "does not apply"
    return Step(
        symbol="",
        meaning=duty.text,
        formula=duty.level,
        figures="",
        result=0.0,
        unit="",
        shown=text,
        source=duty.source,
    )


def _finding(
    ctx: CircuitContext, duty: ArcFaultRequirement, verdict: str, text: str, there: bool, steps: tuple[Step, ...]
) -> Finding:
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=verdict,  # type: ignore[arg-type]
        sentence=text,
        shown_value="there" if there else "none",
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
    # By rooms: a circuit of one line and neutral; a load whose room nobody stated counts as in an ordinary one.
    ordinary = not rooms or not all_known
    return len(ctx.circuit.lines) < 2 and (ordinary or any(room.kind in duty.rooms for room in rooms))
