"""Does standing leakage leave the residual-current device room?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.support.finding_builder import finding_from_limit, not_applicable, step
from vivid_lattice.core.findings.finding import Assumption, Cause, CauseSubject, Finding, Step
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.text import plain, shown_down, shown_up

ID = "leakage"


def check(ctx: CircuitContext) -> Finding:
    """Standing leakage of all that is behind a device against a share of its IΔn; the tightest one on the way answers.

    Equation  Σ I_leak ≤ 0.3 · IΔn; I_leak of a cable U · 2π · f · C · l
    Source    the rule set's share; circuits as measured, loads as stated, else the usual of their kind up to what is usual of such a
              circuit (common practice)
    Over the limit by usual figures alone is advice; by stated ones it fails. Leakages are added as if in phase, which makes the total no smaller than it can be.
    """
    _ = ctx.device  # it may have a residual-current part of its own
    rcds = ctx.network.rcds
    places = rcds.ahead_of(ctx.circuit)
    if not places:
        return not_applicable(ID, ctx, ctx.message("core.check.leakage.none"))
    share = ctx.rules.protection.leak_share
    worst = max(places, key=lambda place: rcds.leakage_behind_ma(place) / place.rcd.idn_ma)
    leaks, limit = rcds.leakage_behind_ma(worst), share.value * worst.rcd.idn_ma
    shared = len(rcds.final_behind(worst))
    sentence = ctx.message(
        "core.check.leakage.leakage",
        ma=shown_up(leaks),
        n=max(shared, 1),
        idn=plain(worst.rcd.idn_ma),
        name=worst.name,
        limit=shown_down(limit),
    )
    finding = finding_from_limit(
        ID,
        ctx,
        leaks,
        limit,
        "mA",
        sentence,
        share.source,
        lambda: _working(ctx, worst, limit),
        assumptions=_assumed(ctx, worst),
        cause=Cause(ID, CauseSubject("rcd", worst.id)),
    )
    if finding.verdict == "fail" and _stated_ma(ctx, worst) <= limit:
        text = ctx.message("core.check.leakage.typical_advice", sentence=finding.sentence)
        return replace(finding, verdict="advice", sentence=text)
    return finding


def _assumed(ctx: CircuitContext, place: RcdPlace) -> tuple[Assumption, ...]:
    """The leakage of the loads behind a device of which no one has stated it."""
    usual = sum(ctx.network.rcds.usual_ma(circuit) for circuit in place.behind)
    if not usual:
        return ()
    source = ctx.rules.protection.max_usual_ma("other").source
    return (
        Assumption(
            "loads.leakage_ma", ctx.message("core.check.leakage.by_kind", ma=shown_up(usual)), source.publication
        ),
    )


def _stated_ma(ctx: CircuitContext, place: RcdPlace) -> float:
    """What is measured or stated of the leakage behind a device, without what is only usual [mA]."""
    return sum(ctx.network.rcds.stated_ma(circuit) for circuit in place.behind)


def _working(ctx: CircuitContext, place: RcdPlace, limit: float) -> list[Step]:
    rules, rcds, steps = ctx.rules.protection, ctx.network.rcds, []
    source = rules.max_usual_ma("other").source
    for circuit in place.behind:
        if stated := rcds.stated_ma(circuit):
            steps.append(step("I", circuit.name, ctx.message("core.check.leakage.measured"), "", stated, "mA"))
        if usual := rcds.usual_ma(circuit):
            steps.append(step("I", circuit.name, ctx.message("core.check.leakage.capped"), "", usual, "mA", source))
    cable = rcds.leakage_behind_ma(place) - sum(
        rcds.stated_ma(circuit) + rcds.usual_ma(circuit) for circuit in place.behind
    )
    source = rules.cable_leakage_ma(1.0, ctx.job.supply.nominal_v).source
    steps.append(
        step("Ic", ctx.message("core.check.leakage.cables"), "U · 2π · f · C · l", "", max(0.0, cable), "mA", source)
    )
    total = step(
        "ΣI",
        ctx.message("core.check.leakage.total"),
        ctx.message("core.formula.sum"),
        "",
        rcds.leakage_behind_ma(place),
        "mA",
    )
    figures = f"{rules.leak_share.value:g} · {place.rcd.idn_ma:g}"
    share = step(
        "Imax",
        ctx.message("core.check.leakage.limit"),
        ctx.message("core.check.leakage.limit_formula"),
        figures,
        limit,
        "mA",
        rules.leak_share.source,
    )
    return [*steps, total, share]
