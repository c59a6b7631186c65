"""Do the settings of a voltage-watching relay agree with the supply and with the devices beside it?"""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.network.overcurrent_series import Overcurrent

ID = "voltage-relay"


def check(ctx: BoardContext) -> Finding:
    """Thresholds against the band the supply may keep, delays and re-close time, over-current against the device ahead, and
    rating against what can flow.

    Equation  Uo · (1 − low) > U<;  U> > Uo · (1 + high);  rating ≥ device ahead
    Source    the rule set's supply range; relays of the trade (common practice)
    """
    relay = ctx.board.voltage_relay
    if relay is None:
        return not_applicable(ID, ctx, f"{ctx.board.name} has no voltage-watching relay.")
    return finding_from_requirements(ID, ctx, [*_voltages(ctx, relay), *_times(ctx, relay), *_currents(ctx, relay)])


def _voltages(ctx: BoardContext, relay: VoltageRelay) -> Iterator[RequirementResult]:
    supply_range = ctx.rules.supply_range_pct
    if supply_range is None:
        raise NeedsInput(
            Need("the band within which the supply's voltage may lie", "supply.nominal_v", "Ask the distributor.")
        )
    low_pct, high_pct, source = supply_range
    nominal = ctx.job.supply.nominal_v
    low, high = nominal * (1 + low_pct / 100), nominal * (1 + high_pct / 100)
    if relay.under_v >= relay.over_v:
        yield RequirementResult(
            verdict="fail",
            text=f"it opens below {relay.under_v:g} V and above {relay.over_v:g} V, so it never closes",
            value=relay.under_v,
            limit=relay.over_v,
            source=None,
            unit="V",
        )
        return
    ok = relay.under_v < low
    words = f"it opens below {relay.under_v:g} V, and the supply may go down to {low:.1f} V"
    yield RequirementResult(
        verdict="pass" if ok else "fail", text=words, value=relay.under_v, limit=round(low, 1), source=source, unit="V"
    )
    ok = relay.over_v > high
    words = f"it opens above {relay.over_v:g} V, and the supply may go up to {high:.1f} V"
    yield RequirementResult(
        verdict="pass" if ok else "fail", text=words, value=round(high, 1), limit=relay.over_v, source=source, unit="V"
    )
    if relay.over_v > nominal * 1.2:
        yield RequirementResult(
            verdict="advice",
            text=f"it lets {relay.over_v:g} V through; from about {nominal * 1.2:.0f} V on appliances begin to die (common practice)",
            value=relay.over_v,
            limit=round(nominal * 1.2, 1),
            source=None,
            unit="V",
        )
    inside = relay.over_v - relay.under_v - 2 * relay.hysteresis_v
    if inside <= 0 or not relay.under_v + relay.hysteresis_v <= nominal <= relay.over_v - relay.hysteresis_v:
        yield RequirementResult(
            verdict="fail",
            text="at the nominal voltage it would not close again: its hysteresis is too wide",
            value=relay.hysteresis_v,
            limit=round(max(0.0, inside), 1),
            source=None,
            unit="V",
        )


def _times(ctx: BoardContext, relay: VoltageRelay) -> Iterator[RequirementResult]:
    least = ctx.rules.protection.figure("common.relay.recloses", "least_s")
    ok = relay.reclose_s >= least.value
    words = f"it closes again after {relay.reclose_s:g} s; {least.value:g} s spares compressors"
    yield RequirementResult(
        verdict="pass" if ok else "advice",
        text=words,
        value=least.value,
        limit=relay.reclose_s,
        source=least.source,
        unit="s",
    )
    if relay.over_s > 1.0:
        yield RequirementResult(
            verdict="advice",
            text=f"it waits {relay.over_s:g} s at too high a voltage; half a second is long for electronics",
            value=relay.over_s,
            limit=1.0,
            source=least.source,
            unit="s",
        )


def _ahead(ctx: BoardContext) -> Overcurrent | None:
    feeder = ctx.network.tree.feeder(ctx.board)
    return ctx.network.series.cutout if feeder is None else ctx.network.series.device_of(feeder)


def _currents(ctx: BoardContext, relay: VoltageRelay) -> Iterator[RequirementResult]:
    ahead = _ahead(ctx)
    if ahead is None:
        raise NeedsInput(Need(f"the device ahead of {ctx.board.name}", "supply.cutout", "Read it on its carrier."))
    rating = ahead.key.rating_a
    source = ctx.rules.protection.figure("common.relay.recloses", "least_s").source
    ok = relay.rating_a >= rating
    yield RequirementResult(
        verdict="pass" if ok else "fail",
        text=f"its contact carries {relay.rating_a:g} A behind the {ahead.name}",
        value=rating,
        limit=relay.rating_a,
        source=source,
        unit="A",
    )
    if relay.current_a is None:
        return
    if relay.current_a > relay.rating_a:
        yield RequirementResult(
            verdict="fail",
            text=f"it opens at {relay.current_a:g} A, more than its contact carries",
            value=relay.current_a,
            limit=relay.rating_a,
            source=source,
            unit="A",
        )
    band = ctx.network.series.band(ahead)
    early = band.opens_s(relay.current_a * 1.05)[0]
    first = early < relay.current_s
    words = f"at {relay.current_a:g} A it waits {relay.current_s:g} s, and the {ahead.name} opens "
    words += f"after {early:.3g} s at the earliest" if early < float("inf") else "not at all"
    yield RequirementResult(
        verdict="advice" if first else "pass",
        text=words,
        value=relay.current_s,
        limit=min(early, 1e6),
        source=band.sources[0] if band.sources else None,
        unit="s",
    )
