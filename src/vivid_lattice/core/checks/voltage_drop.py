"""Does enough voltage arrive? From the origin to the far end, against the limit for the use."""

from __future__ import annotations

from vivid_lattice.core.checks.answer import compared, step
from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.findings import Finding, Step, shown, shown_up
from vivid_lattice.core.network.drops import StretchDrop
from vivid_lattice.core.rules.protocol import Looked

ID = "voltage-drop"


def check(ctx: Context) -> Finding:
    """Voltage drop from the origin, every stretch added up, in per cent of nominal.

    Equation  U = Σ (mV/(A·m) · I · l · Ct / 1000), u = 100 · U / Uo
    Source    the rule set's drop tables and limits; a limit the designer has tightened takes its place
    """
    nominal = ctx.job.supply.nominal_v
    percent = 100 * ctx.network.drops.far_end_v(ctx.circuit) / nominal
    limit = drop_limit(ctx)
    sentence = (
        f"{ctx.circuit.name} loses {shown_up(percent)} % of the voltage by its far end "
        f"({limit.how}: {limit.value:g} % allowed)"
    )
    return compared(ID, ctx, percent, limit.value, "%", sentence, limit.source, lambda: _working(ctx))


def _working(ctx: Context) -> list[Step]:
    drops, nominal = ctx.network.drops, ctx.job.supply.nominal_v
    working = [_stretch(part) for part in drops.tails()]
    for link in ctx.network.tree.chain(ctx.circuit):
        if link.id == ctx.circuit.id:
            working += _currents(ctx)
        working += [_stretch(part) for part in drops.run(link)]
    volts = drops.far_end_v(ctx.circuit)
    parts = " + ".join(line.shown for line in working if line.unit == "V")
    figures = f"100 · {shown(volts)} / {nominal:g}"
    return [
        *working,
        step("ΣU", "from the origin to the far end", "sum", parts, volts, "V"),
        step("u", "in per cent of nominal", "100 · ΣU / Uo", figures, 100 * volts / nominal, "%"),
    ]


def drop_limit(ctx: Context) -> Looked:
    """The limit in force: the rule set's, or the designer's own where that is tighter."""
    found = ctx.rules.limits.drop_limit_pct(ctx.circuit)
    settings = ctx.job.settings
    own = settings.lighting_drop_limit_pct if ctx.circuit.kind == "lighting" else settings.other_drop_limit_pct
    if own is not None and own < found.value:
        return Looked(own, found.source, f"{found.how}, tightened for this job")
    return found


def _currents(ctx: Context) -> list[Step]:
    circuit = ctx.circuit
    if circuit.kind == "ring" and circuit.design_current_a is None:
        rule, rating = ctx.rules.limits.ring(ctx.device), ctx.device.rating_a
        far = f"{rule.far_point_a:g}"
        meaning = f"ring: {far} A at the far point, the rest spread evenly"
        figures = f"{far} + ({rating:g} − {far}) / 2"
        return [step("I", meaning, f"{far} + (In − {far}) / 2", figures, rule.drop_current_a, "A", rule.drop_rule)]
    return ctx.network.drops.design_current(circuit).steps()


def _stretch(part: StretchDrop) -> Step:
    figures = f"{part.mv_per_a_m:g} · {shown(part.current_a)} · {shown(part.counted_m)}"
    formula = "mV/(A·m) · I · l / 1000"
    if part.correction != 1.0:
        formula, figures = (
            "mV/(A·m) · Ct · I · l / 1000",
            f"{part.mv_per_a_m:g} · {part.correction:.4f} · {shown(part.current_a)} · {shown(part.counted_m)}",
        )
    note = f" ({part.correction_note})" if part.correction_note else ""
    return step("U", part.label + note, formula, f"{figures} / 1000", part.drop_v, "V", part.source)
