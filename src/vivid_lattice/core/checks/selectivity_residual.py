"""In a fault to earth, does the nearest residual-current device open alone?"""

from __future__ import annotations

from vivid_lattice.core.checks.support.finding_builder import not_applicable, step
from vivid_lattice.core.checks.support.labels import rcd_label
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Joined
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.text import plain, shown
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
        return not_applicable(ID, ctx, ctx.message("core.check.selectivity-residual.none"))
    if len(places) == 1:
        return not_applicable(ID, ctx, ctx.message("core.check.selectivity-residual.one"))
    ratio = ctx.rules.protection.selective_ratio
    down, *ahead = places
    worst = min(ahead, key=lambda up: (_delayed(up, down), up.rcd.idn_ma / down.rcd.idn_ma))
    has = worst.rcd.idn_ma / down.rcd.idn_ma
    enough, delayed = has >= ratio.value * (1 - SLACK), _delayed(worst, down)
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        steps = tuple(line for up in ahead for line in _working(ctx, up, down))
    if enough and delayed:
        text = ctx.message(
            "core.check.selectivity-residual.pass",
            down=rcd_label(ctx, down),
            up=rcd_label(ctx, worst),
            n=shown(has, 3),
        )
    else:
        lack_ratio = ctx.message(
            "core.check.selectivity-residual.lack_ratio", n=shown(has, 3), ratio=plain(ratio.value)
        )
        lacks = ([] if enough else [lack_ratio]) + (
            [] if delayed else [ctx.message("core.check.selectivity-residual.lack_delay")]
        )
        text = ctx.message(
            "core.check.selectivity-residual.fail",
            up=rcd_label(ctx, worst),
            down=rcd_label(ctx, down),
            n=len(ctx.network.rcds.final_behind(worst)),
            list=Joined.of(lacks),
        )
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


def _working(ctx: CircuitContext, up: RcdPlace, down: RcdPlace) -> list[Step]:
    early, late = ctx.rules.bands.residual(up.rcd), ctx.rules.bands.residual(down.rcd)
    amps = 5 * max(up.rcd.idn_ma, down.rcd.idn_ma) / 1000
    return [
        step("IΔ1", rcd_label(ctx, up), ctx.message("core.formula.as_stated"), "", up.rcd.idn_ma, "mA"),
        step("IΔ2", rcd_label(ctx, down), ctx.message("core.formula.as_stated"), "", down.rcd.idn_ma, "mA"),
        step(
            "t2",
            ctx.message("core.check.selectivity-residual.down_latest", a=plain(amps)),
            ctx.message("core.formula.table"),
            "",
            late.opens_s(amps)[1],
            "s",
            late.source,
        ),
        step(
            "t1",
            ctx.message("core.check.selectivity-residual.up_earliest", a=plain(amps)),
            ctx.message("core.formula.table"),
            "",
            early.opens_s(amps)[0],
            "s",
            early.source,
        ),
    ]
