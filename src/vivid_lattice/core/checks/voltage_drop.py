"""Does enough voltage arrive? From where the rules count to the end of the circuit, against the limit for the use."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, step
from vivid_lattice.core.document.feeds import feeds_lights
from vivid_lattice.core.document.job import Line
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding, Step
from vivid_lattice.core.findings.verdict import margin_of
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.stretch import StretchDrop
from vivid_lattice.core.rules.protocol import DropLimit
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import plain, shown, shown_up

ID = "voltage-drop"


def check(ctx: CircuitContext) -> Finding:
    """Voltage drop of the worst line, every stretch added up, in per cent of nominal.

    Equation  U = Σ (mV/(A·m) · I · l · Ct / 1000), line to neutral; u = 100 · U / Uo
    Source    the rule set's drop tables and limits; a limit the designer has tightened takes its place
    Where the standard divides the limit, the circuit's own run has a limit of its own, and the one with less margin decides.
    What a publication only recommends is advice when it is passed, not a failure.
    """
    rules = ctx.rules.limits.drop_limit(ctx.circuit)
    nominal = ctx.job.supply.nominal_v
    percent, limit = 100 * ctx.network.drops.far_end_v(ctx.circuit) / nominal, drop_limit(ctx)
    finding = _compared(ctx, rules, percent, limit, own_run_only=False)
    if rules.own_percent is not None and ctx.circuit.kind != "distribution":
        line = ctx.network.drops.worst_line(ctx.circuit)
        own_drop_pct = 100 * sum(part.by_line.get(line, 0.0) for part in ctx.network.drops.run(ctx.circuit)) / nominal
        if margin_of(own_drop_pct, rules.own_percent) < margin_of(percent, limit.value):
            own_limit = SourcedValue(rules.own_percent, rules.source, ctx.message("core.check.voltage-drop.use_branch"))
            finding = _compared(ctx, rules, own_drop_pct, own_limit, own_run_only=True)
    if rules.advisory and finding.verdict == "fail":
        board = ctx.network.tree.place(ctx.circuit).board
        return replace(
            finding,
            verdict="advice",
            sentence=ctx.message("core.check.voltage-drop.advisory", sentence=finding.sentence),
            cause=Cause(ID, CauseSubject("board", board.id)),
        )
    return finding


def _compared(
    ctx: CircuitContext, rules: DropLimit, percent: float, limit: SourcedValue, *, own_run_only: bool
) -> Finding:
    sentence = ctx.message(
        "core.check.voltage-drop.drop",
        u=shown_up(percent),
        place=ctx.message(f"core.check.voltage-drop.place_{'branch' if own_run_only else 'end'}"),
        limit=plain(limit.value),
        use=limit.basis,
    )
    return finding_from_limit(
        ID,
        ctx,
        percent,
        limit.value,
        "%",
        sentence,
        limit.source,
        lambda: _working(ctx, rules, own_run_only=own_run_only),
    )


def _working(ctx: CircuitContext, rules: DropLimit, *, own_run_only: bool) -> list[Step]:
    drops, nominal = ctx.network.drops, ctx.job.supply.nominal_v
    line = drops.worst_line(ctx.circuit)
    before = [] if own_run_only else _stretches_before(ctx, line)
    own_run = [_stretch(part, line) for part in drops.run(ctx.circuit)]
    working = [*before, *_currents(ctx, rules), *own_run]
    parts = [line_ for line_ in working if line_.unit == "V"]
    volts = sum(part.result for part in parts)
    several = len(ctx.network.tree.supplied(ctx.circuit).lines) > 1
    meaning = (
        ctx.message("core.check.voltage-drop.working_branch")
        if own_run_only
        else ctx.message("core.check.voltage-drop.working_origin", origin=rules.counts_from)
    )
    if several:
        meaning = ctx.message("core.check.voltage-drop.working_worst", path=meaning, phase=line)
    figures = f"100 · {shown(volts)} / {nominal:g}"
    return [
        *working,
        step("ΣU", meaning, ctx.message("core.formula.sum"), " + ".join(str(part.shown) for part in parts), volts, "V"),
        step(
            "u",
            ctx.message("core.check.voltage-drop.working_percent"),
            "100 · ΣU / Uo",
            figures,
            100 * volts / nominal,
            "%",
        ),
    ]


def drop_limit(ctx: CircuitContext) -> SourcedValue:
    """The limit in force [%]: the standard's, or the designer's own where that is tighter."""
    limit = ctx.rules.limits.drop_limit(ctx.circuit)
    settings = ctx.job.settings
    own_limit_pct = settings.lighting_drop_limit_pct if feeds_lights(ctx.circuit) else settings.other_drop_limit_pct
    if own_limit_pct is not None and own_limit_pct < limit.percent:
        return SourcedValue(
            own_limit_pct, limit.source, ctx.message("core.check.voltage-drop.limit_own", use=limit.use)
        )
    return SourcedValue(limit.percent, limit.source, limit.use)


def _currents(ctx: CircuitContext, rules: DropLimit) -> list[Step]:
    circuit = ctx.circuit
    if circuit.kind == "ring" and circuit.design_current_a is None:
        rule, rating = ctx.rules.limits.ring(ctx.device), ctx.device.rating_a
        far = f"{rule.far_point_a:g}"
        meaning = ctx.message("core.check.voltage-drop.ring", a=far)
        figures = f"{far} + ({rating:g} − {far}) / 2"
        return [step("I", meaning, f"{far} + (In − {far}) / 2", figures, rule.drop_current_a, "A", rule.drop_rule)]
    if rules.by_device is not None and circuit.design_current_a is None and circuit.kind != "distribution":
        rating = max(ctx.device.rating_a, ctx.network.drops.design_current(circuit).current_a)
        return [
            step(
                "I",
                ctx.message("core.check.voltage-drop.by_rating"),
                "In",
                f"{rating:g} A",
                rating,
                "A",
                rules.by_device,
            )
        ]
    return ctx.network.drops.design_current(circuit).steps()


def _stretch(part: StretchDrop, line: str) -> Step:
    lost = next((volts for name, volts in part.by_line.items() if name == line), part.drop_v)
    label = part.label
    for note in (part.how, part.correction_note):
        label = message(None, "core.check.voltage-drop.stretch", section=label, note=note) if note else label
    factor, value = (" · Ct", f" · {part.correction:.4f}") if part.correction != 1.0 else ("", "")
    figures = f"{part.mv_per_a_m:g}{value} · {shown(part.current_a)} · {shown(part.counted_m)} / 1000"
    formula: Text = f"mV/(A·m){factor} · I · l / 1000"
    if part.vector:
        formula = message(None, "core.check.voltage-drop.vector", factor=factor, phase=line)
        figures = f"z = {shown(part.mv_per_a_m)} mV/(A·m), {shown(part.counted_m)} m"
    elif part.how:
        figures = f"{shown(part.mv_per_a_m)}{value} · {shown(part.current_a)} · {shown(part.counted_m)} / 1000"
    return step("U", label, formula, figures, lost, "V", part.source)


def _stretches_before(ctx: CircuitContext, line: Line) -> list[Step]:
    """The drop of the tails and of every feeder ahead of the circuit, on one line [V]."""
    drops = ctx.network.drops
    feeders = ctx.network.tree.chain(ctx.circuit)[:-1]
    parts = [*drops.tails(), *(part for feeder in feeders for part in drops.run(feeder))]
    return [_stretch(part, line) for part in parts]
