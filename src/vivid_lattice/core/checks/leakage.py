"""Does standing leakage leave the residual-current device room?"""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.checks.answer import compared, not_applicable, step
from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.feeds import loads_of
from vivid_lattice.core.findings import Assumption, Cause, CauseSubject, Finding, Step, shown, shown_down, shown_up
from vivid_lattice.core.protection.residuals import RcdPlace

ID = "leakage"


def check(ctx: Context) -> Finding:
    """Standing leakage of all that is behind a device against a share of its IΔn; the tightest one on the way answers.

    Equation  Σ I_leak ≤ 0.3 · IΔn; I_leak of a cable U · 2π · f · C · l
    Source    the rule set's share; loads as stated, else the usual of their kind (common practice)
    Over the limit by usual figures alone is advice; by stated ones it fails. Leakages are added as if in phase, which makes the sum no smaller than it can be.
    """
    _ = ctx.device  # it may have a residual-current part of its own
    rcds = ctx.network.rcds
    places = rcds.ahead_of(ctx.circuit)
    if not places:
        return not_applicable(ID, ctx, f"No {ctx.rules.rcd_word} upstream of {ctx.circuit.name}.")
    share = ctx.rules.protection.leak_share
    worst = max(places, key=lambda place: rcds.leakage_behind_ma(place) / place.rcd.idn_ma)
    leaks, limit = rcds.leakage_behind_ma(worst), share.value * worst.rcd.idn_ma
    shared = len(rcds.final_behind(worst))
    behind = f"{shared} circuits behind it leak" if shared > 1 else f"{ctx.circuit.name} leaks"
    sentence = (
        f"{behind[0].upper()}{behind[1:]} {shown_up(leaks)} mA in ordinary service, and the {worst.rcd.idn_ma:g} mA device "
        f"({worst.name}) keeps its peace up to {shown_down(limit)} mA"
    )
    found = compared(ID, ctx, leaks, limit, "mA", sentence, share.source, lambda: _working(ctx, worst, limit))
    found = replace(found, assumptions=_assumed(ctx, worst), cause=Cause(ID, CauseSubject("rcd", worst.id)))
    if found.verdict == "fail" and _stated_ma(ctx, worst) <= limit:
        text = (
            f"{found.sentence} That is by the usual figures of its loads' kinds: state theirs, or measure with a clamp."
        )
        return replace(found, verdict="advice", sentence=text)
    return found


def _assumed(ctx: Context, place: RcdPlace) -> tuple[Assumption, ...]:
    """The leakage of the loads behind a device of which nobody has stated it."""
    leaks = [ctx.rules.protection.residual(load) for one in place.behind for load in loads_of(one)]
    usual = [leak for leak in leaks if not leak.stated and leak.leakage_ma > 0]
    if not usual:
        return ()
    value = f"{shown_up(sum(leak.leakage_ma for leak in usual))} mA by kind"
    return (Assumption("loads.leakage_ma", value, usual[0].source.publication),)


def _stated_ma(ctx: Context, place: RcdPlace) -> float:
    """What is stated of the leakage behind a device, without what is only usual [mA]."""
    loads = [load for circuit in place.behind for load in loads_of(circuit)]
    found = [ctx.rules.protection.residual(load) for load in loads]
    return sum(leak.leakage_ma for leak in found if leak.stated)


def _working(ctx: Context, place: RcdPlace, limit: float) -> list[Step]:
    rules, rcds, found = ctx.rules.protection, ctx.network.rcds, []
    for circuit in place.behind:
        for load in loads_of(circuit):
            leak = rules.residual(load)
            how = "as stated" if leak.stated else "usual of its kind"
            count = f"{load.items} · {shown(leak.leakage_ma / load.items)}" if load.items > 1 else ""
            source = None if leak.stated else leak.source
            found.append(step("I", f"{load.name}, {circuit.name}", how, count, leak.leakage_ma, "mA", source))
    cable = rcds.leakage_behind_ma(place) - sum(
        rules.residual(load).leakage_ma for circuit in place.behind for load in loads_of(circuit)
    )
    source = rules.cable_leakage_ma(1.0, ctx.job.supply.nominal_v).source
    found.append(step("Ic", "its cables", "U · 2π · f · C · l", "", max(0.0, cable), "mA", source))
    total = step("ΣI", "in ordinary service", "sum", "", rcds.leakage_behind_ma(place), "mA")
    share = step(
        "Imax",
        "leaves it at peace",
        "share · IΔn",
        f"{rules.leak_share.value:g} · {place.rcd.idn_ma:g}",
        limit,
        "mA",
        rules.leak_share.source,
    )
    return [*found, total, share]
