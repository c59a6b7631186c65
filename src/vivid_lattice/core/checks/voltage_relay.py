"""Do the settings of a voltage-watching relay agree with the supply and with the devices beside it?"""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.network.overcurrent_series import Overcurrent
from vivid_lattice.core.text import plain, shown, shown_down

ID = "voltage-relay"


def check(ctx: BoardContext) -> Finding:
    """Thresholds against the band the supply may keep, delays and re-close time, over-current against the device ahead, and
    rating against what can flow.

    Equation  Uo · (1 − low) > U<;  U> > Uo · (1 + high);  rating ≥ device ahead
    Source    the rule set's supply range; relays of the trade (common practice)
    """
    relay = ctx.board.voltage_relay
    if relay is None:
        return not_applicable(ID, ctx, ctx.message("core.check.voltage-relay.none"))
    return finding_from_requirements(ID, ctx, [*_voltages(ctx, relay), *_times(ctx, relay), *_currents(ctx, relay)])


def _voltages(ctx: BoardContext, relay: VoltageRelay) -> Iterator[RequirementResult]:
    supply_range = ctx.rules.supply_range_pct
    if supply_range is None:
        raise NeedsInput(ctx.need("core.check.voltage-relay.need.range", "supply.nominal_v"))
    low_pct, high_pct, source = supply_range
    nominal = ctx.job.supply.nominal_v
    low, high = nominal * (1 + low_pct / 100), nominal * (1 + high_pct / 100)
    if relay.under_v >= relay.over_v:
        yield RequirementResult(
            verdict="fail",
            text=ctx.message("core.check.voltage-relay.crossed", under=plain(relay.under_v), over=plain(relay.over_v)),
            value=relay.under_v,
            limit=relay.over_v,
            source=None,
            unit="V",
        )
        return
    ok = relay.under_v < low
    words = ctx.message("core.check.voltage-relay.under", under=plain(relay.under_v), low=shown(low))
    yield RequirementResult(
        verdict="pass" if ok else "fail", text=words, value=relay.under_v, limit=round(low, 1), source=source, unit="V"
    )
    ok = relay.over_v > high
    words = ctx.message("core.check.voltage-relay.over", over=plain(relay.over_v), high=shown(high))
    yield RequirementResult(
        verdict="pass" if ok else "fail", text=words, value=round(high, 1), limit=relay.over_v, source=source, unit="V"
    )
    if relay.over_v > nominal * 1.2:
        yield RequirementResult(
            verdict="advice",
            text=ctx.message("core.check.voltage-relay.appliances", over=plain(relay.over_v), v=f"{nominal * 1.2:.0f}"),
            value=relay.over_v,
            limit=round(nominal * 1.2, 1),
            source=None,
            unit="V",
        )
    inside = relay.over_v - relay.under_v - 2 * relay.hysteresis_v
    if inside <= 0 or not relay.under_v + relay.hysteresis_v <= nominal <= relay.over_v - relay.hysteresis_v:
        yield RequirementResult(
            verdict="fail",
            text=ctx.message("core.check.voltage-relay.hysteresis"),
            value=relay.hysteresis_v,
            limit=round(max(0.0, inside), 1),
            source=None,
            unit="V",
        )


def _times(ctx: BoardContext, relay: VoltageRelay) -> Iterator[RequirementResult]:
    least = ctx.rules.protection.figure("common.relay.recloses", "least_s")
    ok = relay.reclose_s >= least.value
    words = ctx.message("core.check.voltage-relay.reclose", s=plain(relay.reclose_s), min=plain(least.value))
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
            text=ctx.message("core.check.voltage-relay.delay", s=plain(relay.over_s), max="0.5"),
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
        raise NeedsInput(ctx.need("core.check.voltage-relay.need.upstream", "supply.cutout", board=ctx.board.name))
    rating = ahead.key.rating_a
    source = ctx.rules.protection.figure("common.relay.recloses", "least_s").source
    ok = relay.rating_a >= rating
    yield RequirementResult(
        verdict="pass" if ok else "fail",
        text=ctx.message("core.check.voltage-relay.contact", a=plain(relay.rating_a), device=ahead.name),
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
            text=ctx.message("core.check.voltage-relay.threshold", a=plain(relay.current_a), b=plain(relay.rating_a)),
            value=relay.current_a,
            limit=relay.rating_a,
            source=source,
            unit="A",
        )
    band = ctx.network.series.band(ahead)
    early = band.opens_s(relay.current_a * 1.05)[0]
    first = early < relay.current_s
    trips = (
        ctx.message("core.check.voltage-relay.upstream_time", t=shown_down(early))
        if early < inf
        else ctx.message("core.check.voltage-relay.upstream_never")
    )
    words = ctx.message(
        "core.check.voltage-relay.wait",
        s=plain(relay.current_s),
        a=plain(relay.current_a),
        device=ahead.name,
        trips=trips,
    )
    yield RequirementResult(
        verdict="advice" if first else "pass",
        text=words,
        value=relay.current_s,
        limit=min(early, 1e6),
        source=band.sources[0] if band.sources else None,
        unit="s",
    )
