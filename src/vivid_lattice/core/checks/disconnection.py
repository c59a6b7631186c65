"""Does the device open in time when the far end faults to earth?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.network.loops import RunOhm
from vivid_lattice.core.network.tree import RcdAhead
from vivid_lattice.core.rules.protocol import LoopLimit
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import shown, shown_down, shown_up
from vivid_lattice.core.units import SLACK, a_from_ma

ID = "disconnection"


def check(ctx: CircuitContext) -> Finding:
    """Zs with warm conductors against the device's limit for the time required.

    Equation  Zs = Ze + Σ(R1+R2)·f ≤ Uo·Cmin / Ia; by RCD: Zs · IΔn ≤ touch-voltage limit, opening in time
    Source    the rule set's loop tables, times and RCD tables
    In TT the RCD is the regular way. In TN an RCD that stands in for an overcurrent device which would not open in
    time is accepted by the rules, and said as advice: the design then hangs on the RCD alone.
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
        meaning = f"limit of {ctx.device_name()}: Ia = {shown(limit.ia_a)} A"
        figures = f"{volts.value:g} / {shown(limit.ia_a)}"
        formula = "Uo · Cmin / Ia, or the table if smaller"
        return [
            *_loop_working(ctx, zs, time),
            step("Zs,max", meaning, formula, figures, limit.zs_ohm, "Ω", limit.source),
        ]

    sentence = (
        f"{ctx.circuit.name} has a loop of {shown_up(zs)} Ω at its far end, "
        f"and {ctx.device_name()} opens in time up to {shown_down(limit.zs_ohm)} Ω"
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
    name = f"{ahead.rcd.idn_ma:g} mA RCD ({ahead.where})"
    if zs > limit.zs_ohm:
        wanted = limit.zs_ohm - (zs - ctx.network.loops.ze_ohm())
        electrode = (
            f" An electrode with a loop of {shown_down(wanted)} Ω, or an RCD of less residual current."
            if wanted > 0
            else ""
        )
        sentence = f"Loop impedance {shown_up(zs)} Ω at the end of {ctx.circuit.name}, and the {name} needs {shown_down(limit.zs_ohm)} Ω"

        def working() -> list[Step]:
            figures = f"{limit.zs_ohm * limit.ia_a:.3g} V / {limit.ia_a:g} A"
            meaning = f"limit of the {name}"
            return [
                *_loop_working(ctx, zs, time),
                step("Zs,max", meaning, "UL / IΔn", figures, limit.zs_ohm, "Ω", limit.source),
            ]

        finding = finding_from_limit(ID, ctx, zs, limit.zs_ohm, "Ω", sentence, limit.source, working)
        return replace(finding, sentence=finding.sentence + electrode)
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
    name = f"{ahead.rcd.idn_ma:g} mA RCD ({ahead.where})"
    sentence = f"Disconnection time {shown_up(value)} s by the {name} at the end of {ctx.circuit.name} ({time.basis})"
    return finding_from_limit(
        ID, ctx, value, time.value, "s", sentence, opens.source, lambda: _loop_working(ctx, zs, time)
    )


def _rcd_finding(
    ctx: CircuitContext, zs: float, time: SourcedValue, ahead: RcdAhead, limit: LoopLimit, opens: SourcedValue
) -> Finding:
    name = f"{ahead.rcd.idn_ma:g} mA RCD ({ahead.where})"

    def working() -> list[Step]:
        volts, idn_a = ctx.job.supply.nominal_v, a_from_ma(ahead.rcd.idn_ma)
        flows = f"{shown(_multiple(ctx, zs, ahead), 3)} IΔn flow"
        return [
            *_loop_working(ctx, zs, time),
            step("If", "earth fault current at the far end", "Uo / Zs", f"{volts:g} / {shown(zs)}", volts / zs, "A"),
            step("tΔ", f"{name} opens {opens.basis}", "table", flows, opens.value, "s", opens.source),
            step(
                "Zs,max",
                f"limit by {name}: {shown(limit.ia_a)} A has to flow",
                "touch voltage / IΔn, in TN Uo · Cmin / 5 IΔn if smaller",
                f"IΔn = {idn_a:g} A",
                limit.zs_ohm,
                "Ω",
                limit.source,
            ),
        ]

    sentence = f"{ctx.circuit.name} has a loop of {shown_up(zs)} Ω, and the {name} opens in time up to {shown_down(limit.zs_ohm)} Ω"
    finding = finding_from_limit(ID, ctx, zs, limit.zs_ohm, "Ω", sentence, limit.source, working)
    if ctx.job.supply.system != "TT":
        alone = f"{ctx.device_name()} alone would not open in time at {shown_up(zs)} Ω; the {name} does, and the design hangs on it."
        return replace(finding, verdict="advice", sentence=alone)
    stable = ctx.rules.limits.stable_electrode_ohm()
    if ctx.network.loops.ze_ohm() > stable.value * (1 + SLACK):
        warning = f"Above {stable.value:g} Ω an electrode may not stay that good through dry and frost."
        cause = Cause(ID, CauseSubject("supply", "supply"))
        return replace(finding, verdict="advice", sentence=f"{finding.sentence} {warning}", cause=cause)
    return finding


def _multiple(ctx: CircuitContext, zs: float, ahead: RcdAhead) -> float:
    return ctx.job.supply.nominal_v / zs / a_from_ma(ahead.rcd.idn_ma)


def _loop_working(ctx: CircuitContext, zs: float, time: SourcedValue) -> list[Step]:
    loops, supply = ctx.network.loops, ctx.job.supply
    working = loops.ahead.steps()
    for link in ctx.network.tree.chain(ctx.circuit):
        working += _run_working(loops.run(link), link.name)
    parts = " + ".join(s.shown for s in working if s.symbol in ("Ze", "(R1+R2)hot"))
    vector = loops.ahead.calculated or any(loops.run(link).x_ohm for link in ctx.network.tree.chain(ctx.circuit))
    formula = "|Ze + Σ(R1+R2)hot + jΣX|" if vector else "Ze + Σ(R1+R2)hot"
    cold = loops.far_end_cold_ohm(ctx.circuit)
    return [
        *working,
        step("Zs20", "loop a meter should read, conductors at 20 °C", "Ze + Σ(R1+R2)", "", cold, "Ω"),
        step("Zs", "loop at the far end, conductors warm", formula, parts, zs, "Ω"),
        step("t", f"time allowed: {time.basis}", "table", supply.system, time.value, "s", time.source),
    ]


def _run_working(run: RunOhm, name: str) -> list[Step]:
    own_cold, own_hot = run.r1_cold_ohm + run.r2_cold_ohm, run.r1_hot_ohm + run.r2_hot_ohm
    quarter = " / 4 (ring)" if run.ring else ""
    cold = step(
        "R1+R2",
        f"{name}, at 20 °C: what a meter reads",
        f"(r1 + r2) · l / 1000{quarter}",
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
        f"{name}, line at {run.hot.line_c:g} °C",
        "(R1+R2) · f" if same else "R1 · f1 + R2 · f2",
        figures,
        own_hot,
        "Ω",
        run.hot.source,
    )
    if run.spur is None:
        return [cold, hot]
    spur = step(
        "(R1+R2)hot", f"spur to {run.spur.name}, warm", "(r1 + r2) · l · f", "", run.spur.hot_ohm, "Ω", run.line.source
    )
    return [cold, hot, spur]
