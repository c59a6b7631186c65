"""In a fault to earth, does the nearest residual-current device open alone?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import not_applicable, step
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.text import shown
from vivid_lattice.core.units import SLACK

ID = "selectivity-residual"


def check(ctx: CircuitContext) -> Finding:
    """Every residual-current device ahead of the nearest one: three times its IΔn, and a delay.

    Equation  IΔn,up ≥ 3 · IΔn,down, and the upstream one is time-delayed (type S)
    Source    the rule set's selectivity rule; the break times of IEC 61008-1
    Ratio alone is no selectivity: a fault of amperes is far above both.
    """
    _ = ctx.device  # it may have a residual-current part of its own
    places = ctx.network.rcds.ahead_of(ctx.circuit)
    if not places:
        return not_applicable(ID, ctx, f"No {ctx.rules.rcd_word} upstream of {ctx.circuit.name}.")
    if len(places) == 1:
        return not_applicable(ID, ctx, f"One {ctx.rules.rcd_word} alone upstream of {ctx.circuit.name}.")
    ratio = ctx.rules.protection.selective_ratio
    down, *ahead = places
    worst = min(ahead, key=lambda up: (_delayed(up, down), up.rcd.idn_ma / down.rcd.idn_ma))
    has = worst.rcd.idn_ma / down.rcd.idn_ma
    enough, delayed = has >= ratio.value * (1 - SLACK), _delayed(worst, down)
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        steps = tuple(line for up in ahead for line in _working(ctx, up, down))
    if enough and delayed:
        text = f"A fault to earth opens {_rcd_name(ctx, down)} alone: {_rcd_name(ctx, worst)} is delayed and has {has:g} times its current."
    else:
        lacks = [] if enough else [f"it has {has:g} times the current and {ratio.value:g} are needed"]
        lacks += [] if delayed else ["it has no delay that the other has not"]
        behind = len(ctx.network.rcds.final_behind(worst))
        text = f"A fault to earth may open {_rcd_name(ctx, worst)} as well as {_rcd_name(ctx, down)}, and {behind} circuits with it: {' and '.join(lacks)}."
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict="pass" if enough and delayed else "fail",
        sentence=text,
        value=ratio.value,
        limit=has,
        unit="",
        shown_value=f"{ratio.value:g} S",
        shown_limit=shown(has, 3) + (" S" if delayed else ""),
        margin=None,
        rule=ratio.source,
        working=steps,
        cause=None if enough and delayed else Cause(ID, CauseSubject("rcd", worst.id)),
    )


def _delayed(up: RcdPlace, down: RcdPlace) -> bool:
    return up.rcd.time_delayed and not down.rcd.time_delayed


def _rcd_name(ctx: CircuitContext, place: RcdPlace) -> str:
    return f"the {ctx.rules.bands.rcd_name(place.rcd)} ({place.name}, {place.where})"


def _working(ctx: CircuitContext, up: RcdPlace, down: RcdPlace) -> list[Step]:
    early, late = ctx.rules.bands.residual(up.rcd), ctx.rules.bands.residual(down.rcd)
    amps = 5 * max(up.rcd.idn_ma, down.rcd.idn_ma) / 1000
    return [
        step("IΔ1", f"{_rcd_name(ctx, up)}", "as stated", "", up.rcd.idn_ma, "mA"),
        step("IΔ2", f"{_rcd_name(ctx, down)}", "as stated", "", down.rcd.idn_ma, "mA"),
        step(
            "t2",
            f"the nearer one opens at the latest, at {amps:g} A",
            "table",
            "",
            late.opens_s(amps)[1],
            "s",
            late.source,
        ),
        step(
            "t1",
            f"the one ahead stays closed at least, at {amps:g} A",
            "table",
            "",
            early.opens_s(amps)[0],
            "s",
            early.source,
        ),
    ]
