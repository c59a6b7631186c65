"""Does the device open in time when the end of the circuit faults to earth?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.network.electrode import electrode_steps, ohm_step
from vivid_lattice.core.network.loops import Link, RunOhm
from vivid_lattice.core.network.measured import MeasuredRun
from vivid_lattice.core.network.tree import EarthInUse, RcdAhead
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
    circuit, system = ctx.circuit, ctx.network.tree.earth_of(ctx.circuit).system
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
    system = ctx.network.tree.earth_of(ctx.circuit).system
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
        earth = ctx.network.tree.earth_of(ctx.circuit)
        wanted = limit.zs_ohm - (zs - ctx.network.loops.earth_ohm(earth))
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
    earth = ctx.network.tree.earth_of(ctx.circuit)
    if earth.system != "TT":
        alone = ctx.message("core.check.disconnection.rcd_only", zs=shown_up(zs), device=ctx.device_name(), rcd=name)
        return replace(finding, verdict="advice", sentence=alone)
    stable = ctx.rules.limits.stable_electrode_ohm()
    if ctx.network.loops.earth_ohm(earth) > stable.value * (1 + SLACK):
        text = ctx.message("core.check.disconnection.electrode", sentence=finding.sentence, limit=plain(stable.value))
        cause = Cause(ID, _subject_of(earth))
        return replace(finding, verdict="advice", sentence=text, cause=cause)
    return finding


def _multiple(ctx: CircuitContext, zs: float, ahead: RcdAhead) -> float:
    return ctx.job.supply.nominal_v / zs / a_from_ma(ahead.rcd.idn_ma)


def _subject_of(earth: EarthInUse) -> CauseSubject:
    """Whose electrode an earth is."""
    if earth.owner is None:
        return CauseSubject("supply", "supply")
    return CauseSubject("board" if isinstance(earth.owner, Board) else "circuit", earth.owner.id)


def _loop_working(ctx: CircuitContext, zs: float, time: SourcedValue) -> list[Step]:
    loops = ctx.network.loops
    links = loops.links(ctx.circuit)
    working = _ahead_working(ctx)
    for link in links:
        working += _run_working(ctx, loops.run(link.circuit), link)
    parts = " + ".join(str(s.shown) for s in working if s.symbol in _SUMMED)
    summed = dict.fromkeys(s.symbol for s in working if s.symbol in _SUMMED)
    formula = " + ".join(symbol if symbol in ("Ze", "RA") else f"Σ{symbol}" for symbol in summed)
    cold_formula = formula.replace("hot", "")
    if loops.ahead.calculated or any(loops.run(link.circuit).x_ohm for link in links):
        formula = f"|{formula} + jΣX|"
    cold = loops.far_end_cold_ohm(ctx.circuit)
    return [
        *working,
        step("Zs20", ctx.message("core.check.disconnection.cold"), cold_formula, "", cold, "Ω"),
        step("Zs", ctx.message("core.check.disconnection.warm"), formula, parts, zs, "Ω"),
        step(
            "t",
            ctx.message("core.check.disconnection.time", basis=time.basis),
            ctx.message("core.formula.table"),
            ctx.network.tree.earth_of(ctx.circuit).system,
            time.value,
            "s",
            time.source,
        ),
    ]


#: Symbols of the parts that a loop is the sum of.
_SUMMED = ("Ze", "RA", "(R1+R2)hot", "(R1+RN)hot", "R1hot")


def _ahead_working(ctx: CircuitContext) -> list[Step]:
    """What is ahead of the feeders; and the electrode, where the fault current returns through the ground."""
    loops, earth = ctx.network.loops, ctx.network.tree.earth_of(ctx.circuit)
    if earth.own is None or earth.owner is None or earth.system != "TT":
        return loops.ahead.steps()
    meaning = ctx.message("core.check.disconnection.own_electrode", name=earth.owner.name)
    if earth.own.electrode_ohm is not None:
        own = [ohm_step("RA", meaning, "given", "", loops.earth_ohm(earth))]
    else:
        assert earth.own.electrode is not None
        own = [*electrode_steps(earth.own.electrode), ohm_step("RA", meaning, "", "", loops.earth_ohm(earth))]
    if ctx.job.supply.system == "TT":
        return own  # what the line has ahead of the origin is too little to be written
    return [*loops.ahead.steps(), *own]


def _rcd_name(ctx: CircuitContext, ahead: RcdAhead) -> Message:
    return ctx.message("core.check.disconnection.rcd_name", idn=plain(ahead.rcd.idn_ma), where=ahead.where)


def _run_working(ctx: CircuitContext, run: RunOhm, link: Link) -> list[Step]:
    if link.returns_in != "earth":
        return [_line_working(ctx, run, link)]
    own_cold, own_hot = run.r1_cold_ohm + run.r2_cold_ohm, run.r1_hot_ohm + run.r2_hot_ohm
    formula: Text = "(r1 + r2) · l / 1000"
    cold = (
        _measured_working(ctx, run, run.measured, link, own_cold)
        if run.measured is not None
        else step(
            "R1+R2",
            ctx.message("core.check.disconnection.run_cold", circuit=link.circuit.name),
            ctx.message("core.check.disconnection.ring", formula=formula) if run.ring else formula,
            f"({run.line.value:.5g} + {run.cpc.value:.5g}) · {shown(run.length_m)} / 1000"
            + (" / 4" if run.ring else ""),
            own_cold,
            "Ω",
            run.line.source,
        )
    )
    same = run.hot.line == run.hot.cpc
    figures = (
        f"{shown(own_cold)} · {run.hot.line:.4g}"
        if same
        else f"{shown(run.r1_cold_ohm)} · {run.hot.line:.4g} + {shown(run.r2_cold_ohm)} · {run.hot.cpc:.4g}"
    )
    hot = step(
        "(R1+R2)hot",
        ctx.message("core.check.disconnection.run_hot", circuit=link.circuit.name, t=plain(run.hot.line_c)),
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


def _measured_working(ctx: CircuitContext, run: RunOhm, measured: MeasuredRun, link: Link, cold_ohm: float) -> Step:
    """R1+R2 by a reading: its figure, its uncertainty, its temperature, and the length it implies."""
    reading, uncertainty = measured.reading, measured.uncertainty
    figures = (
        f"({reading.value:g} · {1 + uncertainty.pct / 100:g} + {uncertainty.absolute:g})"
        f" / (1 + 0.004 · ({measured.temperature_c:g} − 20))"
    )
    meaning = ctx.message(
        "core.check.disconnection.run_measured",
        circuit=link.circuit.name,
        reading=ctx.message(f"core.testing.reading.{reading.test}"),
        m=shown_up(run.length_m),
    )
    formula = ctx.message("core.check.disconnection.measured_formula")
    return step("R1+R2", meaning, formula, figures, cold_ohm, "Ω", uncertainty.source)


def _line_working(ctx: CircuitContext, run: RunOhm, link: Link) -> Step:
    """A feeder whose protective conductor the fault current does not use: its line, and its neutral where that is the return."""
    both = link.returns_in == "neutral"
    return step(
        "(R1+RN)hot" if both else "R1hot",
        ctx.message(
            f"core.check.disconnection.run_{link.returns_in}", circuit=link.circuit.name, t=plain(run.hot.line_c)
        ),
        "2 · R1 · f" if both else "R1 · f",
        f"{'2 · ' if both else ''}{shown(run.r1_cold_ohm)} · {run.hot.line:.4g}",
        run.r1_hot_ohm * (2 if both else 1),
        "Ω",
        run.hot.source,
    )
