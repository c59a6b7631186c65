"""Does the device open in time when the end of the circuit faults to earth?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.network.loops import RunOhm
from vivid_lattice.core.network.tree import RcdAhead
from vivid_lattice.core.rules.protocol import LoopLimit
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown, shown_down, shown_up
from vivid_lattice.core.units import SLACK, a_from_ma

ID = "disconnection"


def check(ctx: CircuitContext) -> Finding:
    """Zs with warm conductors against the device's limit for the time required.

    Equation  Zs = Ze + Σ(R1+R2)·f ≤ Uo·Cmin / Ia; by RCD: Zs · IΔn ≤ touch-voltage limit, opening in time
    Source    the rule set's loop tables, times and RCD tables
    In TT the RCD is the regular way. In TN an RCD in place of an overcurrent device which would not open in
    time is accepted by the rules, and said as advice: the design then relies on the RCD alone.
    """
    circuit, system = ctx.circuit, ctx.job.supply.system
    none = ctx.rules.limits.no_disconnection
    if none is not None:
        return not_applicable(ID, ctx, none[0], none[1])
    zs = ctx.network.loops.far_end_ohm(circuit)
    time = ctx.rules.limits.disconnection_s(circuit, ctx.device.rating_a, system)
    overcurrent, refused = _overcurrent_limit(ctx, time.value)
    if overcurrent and zs <= overcurrent.zs_ohm:
        return _by_overcurrent(ctx, zs, time, overcurrent)
    by_rcd = _by_rcd(ctx, zs, time)
    if by_rcd:
        return by_rcd
    if system == "TT" and (refused_rcd := _rcd_not_enough(ctx, zs, time)) is not None:
        return refused_rcd
    if overcurrent is None and refused is not None:
        raise refused
    assert overcurrent is not None  # one of the two is always there
    return _by_overcurrent(ctx, zs, time, overcurrent)


def _overcurrent_limit(ctx: CircuitContext, within_s: float) -> tuple[LoopLimit | None, NeedsInput | None]:
    try:
        return ctx.rules.devices.loop_limit(ctx.device, within_s), None
    except NotTabulated as why:
        return None, why


def _by_overcurrent(ctx: CircuitContext, zs: float, time: SourcedValue, limit: LoopLimit) -> Finding:
    def working() -> list[Step]:
        volts = ctx.rules.limits.u_min_v(ctx.job.supply.nominal_v)
        meaning = ctx.message("core.check.disconnection.limit_working", device=ctx.device_name(), a=shown(limit.ia_a))
        figures = f"{volts.value:g} / {shown(limit.ia_a)}"
        formula = ctx.message("core.check.disconnection.limit_formula")
        return [
            *_loop_working(ctx, zs, time),
            step("Zs,max", meaning, formula, figures, limit.zs_ohm, "Ω", limit.source),
        ]

    sentence = ctx.message(
        "core.check.disconnection.loop",
        zs=shown_up(zs),
        limit=shown_down(limit.zs_ohm),
        device=ctx.device_name(),
    )
    return finding_from_limit(ID, ctx, zs, limit.zs_ohm, "Ω", sentence, ctx.rules.rule("loop"), working)


def _by_rcd(ctx: CircuitContext, zs: float, time: SourcedValue) -> Finding | None:
    """The answer by the first RCD on the way that meets both impedance and time; None where none does."""
    system = ctx.job.supply.system
    for ahead in ctx.network.tree.rcds_ahead(ctx.circuit):
        limit = ctx.rules.devices.rcd_loop_limit(ahead.rcd, system)
        try:
            opens = ctx.rules.devices.rcd_time_s(ahead.rcd, _multiple(ctx, zs, ahead))
        except NotTabulated:
            continue
        if opens.value <= time.value and zs <= limit.zs_ohm:
            return _rcd_finding(ctx, zs, time, ahead, limit, opens)
    return None


def _rcd_not_enough(ctx: CircuitContext, zs: float, time: SourcedValue) -> Finding | None:
    """In TT, why the RCD that comes nearest is not enough: its loop limit, or its time; None where no RCD is on the way.

    The electrode is what can be changed: its loop at the end of the circuit is nearly all of it.
    """
    rcd_aheads = ctx.network.tree.rcds_ahead(ctx.circuit)
    if not rcd_aheads:
        return None
    limits = [(ahead, ctx.rules.devices.rcd_loop_limit(ahead.rcd, "TT")) for ahead in rcd_aheads]
    ahead, limit = max(limits, key=lambda pair: pair[1].zs_ohm)
    name = _rcd_name(ctx, ahead)
    if zs > limit.zs_ohm:
        wanted = limit.zs_ohm - (zs - ctx.network.loops.ze_ohm())
        sentence = ctx.message(
            "core.check.disconnection.loop_rcd", zs=shown_up(zs), limit=shown_down(limit.zs_ohm), rcd=name
        )

        def working() -> list[Step]:
            figures = f"{limit.zs_ohm * limit.ia_a:.3g} V / {limit.ia_a:g} A"
            meaning = ctx.message("core.check.disconnection.rcd_limit_own", rcd=name)
            return [
                *_loop_working(ctx, zs, time),
                step("Zs,max", meaning, "UL / IΔn", figures, limit.zs_ohm, "Ω", limit.source),
            ]

        finding = finding_from_limit(ID, ctx, zs, limit.zs_ohm, "Ω", sentence, limit.source, working)
        if wanted <= 0:
            return finding
        text = ctx.message(
            "core.check.disconnection.electrode_wanted", sentence=finding.sentence, limit=shown_down(wanted)
        )
        return replace(finding, sentence=text)
    times: list[tuple[float, RcdAhead, SourcedValue]] = []
    for rcd_limit, _ in limits:
        try:
            opens = ctx.rules.devices.rcd_time_s(rcd_limit.rcd, _multiple(ctx, zs, rcd_limit))
        except NotTabulated:
            continue
        times.append((opens.value, rcd_limit, opens))
    if not times:
        return None
    value, ahead, opens = min(times, key=lambda entry: entry[0])
    sentence = ctx.message(
        "core.check.disconnection.rcd_too_slow",
        t=shown_up(value),
        limit=plain(time.value),
        rcd=_rcd_name(ctx, ahead),
    )
    return finding_from_limit(
        ID, ctx, value, time.value, "s", sentence, opens.source, lambda: _loop_working(ctx, zs, time)
    )


def _rcd_finding(
    ctx: CircuitContext, zs: float, time: SourcedValue, ahead: RcdAhead, limit: LoopLimit, opens: SourcedValue
) -> Finding:
    name = _rcd_name(ctx, ahead)

    def working() -> list[Step]:
        volts, idn_a = ctx.job.supply.nominal_v, a_from_ma(ahead.rcd.idn_ma)
        flows = ctx.message("core.check.disconnection.rcd_current", n=shown(_multiple(ctx, zs, ahead), 3))
        fault = ctx.message("core.check.disconnection.fault_current")
        time_of_rcd = ctx.message("core.check.disconnection.rcd_time", rcd=name, condition=opens.basis)
        must_flow = ctx.message("core.check.disconnection.rcd_limit", rcd=name, a=shown(limit.ia_a))
        return [
            *_loop_working(ctx, zs, time),
            step("If", fault, "Uo / Zs", f"{volts:g} / {shown(zs)}", volts / zs, "A"),
            step("tΔ", time_of_rcd, ctx.message("core.formula.table"), flows, opens.value, "s", opens.source),
            step(
                "Zs,max",
                must_flow,
                ctx.message("core.check.disconnection.rcd_formula"),
                f"IΔn = {idn_a:g} A",
                limit.zs_ohm,
                "Ω",
                limit.source,
            ),
        ]

    sentence = ctx.message(
        "core.check.disconnection.loop_rcd", zs=shown_up(zs), limit=shown_down(limit.zs_ohm), rcd=name
    )
    finding = finding_from_limit(ID, ctx, zs, limit.zs_ohm, "Ω", sentence, limit.source, working)
    if ctx.job.supply.system != "TT":
        alone = ctx.message("core.check.disconnection.rcd_only", zs=shown_up(zs), device=ctx.device_name(), rcd=name)
        return replace(finding, verdict="advice", sentence=alone)
    stable = ctx.rules.limits.stable_electrode_ohm()
    if ctx.network.loops.ze_ohm() > stable.value * (1 + SLACK):
        text = ctx.message("core.check.disconnection.electrode", sentence=finding.sentence, limit=plain(stable.value))
        cause = Cause(ID, CauseSubject("supply", "supply"))
        return replace(finding, verdict="advice", sentence=text, cause=cause)
    return finding


def _multiple(ctx: CircuitContext, zs: float, ahead: RcdAhead) -> float:
    return ctx.job.supply.nominal_v / zs / a_from_ma(ahead.rcd.idn_ma)


def _loop_working(ctx: CircuitContext, zs: float, time: SourcedValue) -> list[Step]:
    loops, supply = ctx.network.loops, ctx.job.supply
    working = loops.ahead.steps()
    for link in ctx.network.tree.chain(ctx.circuit):
        working += _run_working(ctx, loops.run(link), link.name)
    parts = " + ".join(str(s.shown) for s in working if s.symbol in ("Ze", "(R1+R2)hot"))
    vector = loops.ahead.calculated or any(loops.run(link).x_ohm for link in ctx.network.tree.chain(ctx.circuit))
    formula = "|Ze + Σ(R1+R2)hot + jΣX|" if vector else "Ze + Σ(R1+R2)hot"
    cold = loops.far_end_cold_ohm(ctx.circuit)
    return [
        *working,
        step("Zs20", ctx.message("core.check.disconnection.cold"), "Ze + Σ(R1+R2)", "", cold, "Ω"),
        step("Zs", ctx.message("core.check.disconnection.warm"), formula, parts, zs, "Ω"),
        step(
            "t",
            ctx.message("core.check.disconnection.time", basis=time.basis),
            ctx.message("core.formula.table"),
            supply.system,
            time.value,
            "s",
            time.source,
        ),
    ]


def _rcd_name(ctx: CircuitContext, ahead: RcdAhead) -> Message:
    return ctx.message("core.check.disconnection.rcd_name", idn=plain(ahead.rcd.idn_ma), where=ahead.where)


def _run_working(ctx: CircuitContext, run: RunOhm, name: str) -> list[Step]:
    own_cold, own_hot = run.r1_cold_ohm + run.r2_cold_ohm, run.r1_hot_ohm + run.r2_hot_ohm
    formula: Text = "(r1 + r2) · l / 1000"
    cold = step(
        "R1+R2",
        ctx.message("core.check.disconnection.run_cold", circuit=name),
        ctx.message("core.check.disconnection.ring", formula=formula) if run.ring else formula,
        f"({run.line.value:.5g} + {run.cpc.value:.5g}) · {shown(run.length_m)} / 1000" + (" / 4" if run.ring else ""),
        own_cold,
        "Ω",
        run.line.source,
    )
    same = run.hot.line == run.hot.cpc
    figures = (
        f"{shown(own_cold)} · {run.hot.line:.4g}"
        if same
        else f"{shown(run.r1_cold_ohm)} · {run.hot.line:.4g} + {shown(run.r2_cold_ohm)} · {run.hot.cpc:.4g}"
    )
    hot = step(
        "(R1+R2)hot",
        ctx.message("core.check.disconnection.run_hot", circuit=name, t=plain(run.hot.line_c)),
        "(R1+R2) · f" if same else "R1 · f1 + R2 · f2",
        figures,
        own_hot,
        "Ω",
        run.hot.source,
    )
    if run.spur is None:
        return [cold, hot]
    meaning = ctx.message("core.check.disconnection.spur", spur=run.spur.name)
    spur = step("(R1+R2)hot", meaning, "(r1 + r2) · l · f", "", run.spur.hot_ohm, "Ω", run.line.source)
    return [cold, hot, spur]
