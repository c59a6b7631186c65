"""Under overload, does the device nearest to it open alone?"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isinf

from vivid_lattice.core.checks.support.device_pairs import cause_of_pair, pairs_shown, with_distributor
from vivid_lattice.core.checks.support.finding_builder import not_applicable, step
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.formulas.device.coordination import OverloadOrder
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.network.overcurrent_series import Pair
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain, shown, shown_down, shown_up

ID = "selectivity-overload"


@dataclass(frozen=True, slots=True)
class _OverloadResult:
    """A pair, its order, and what follows from it."""

    pair: Pair
    order: OverloadOrder
    verdict: Verdict


def check(ctx: CircuitContext) -> Finding:
    """The circuit's device against every one ahead, and against each fuse at its end.

    Equation  latest opening of the downstream device ≤ earliest of the upstream one, at every current below which the
              upstream one acts at once
    Source    the product standards' time-current limits; IEC 60364-5-53, 536.4.1.2
    A fuse at the circuit's end takes the supply from no more than the circuit's own device does: its pair is told and not judged. The edges of breakers are so wide that even good pairs overlap; where their typical curves keep order it is 'tight' from
    the usual rating ratio up and 'advice' below, and only a pair whose typical curves cross fails; with the distributor's device, which
    no one on site chooses, that is advice too, once for a board.
    """
    _ = ctx.device
    pairs = ctx.network.series.pairs(ctx.circuit)
    if not pairs:
        return not_applicable(ID, ctx, ctx.message("core.check.selectivity-overload.none"))
    judged = [_judge(ctx, pair) for pair in pairs_shown(ctx, pairs)]
    # Of equal verdicts the pair that comes nearest to racing answers; a fuse at the circuit's end only where it is alone.
    worst = min(
        judged, key=lambda item: (VERDICT_ORDER.index(item.verdict), item.pair.down.outlet, _in_hand(item.order))
    )
    order = worst.order
    times_known = order.selective and not isinf(order.up_s)
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict=worst.verdict,
        sentence=_sentence(ctx, worst),
        value=order.down_s if times_known else None,
        limit=order.up_s if times_known else None,
        unit="s",
        shown_value=_never(ctx) if isinf(order.down_s) else shown_up(order.down_s),
        shown_limit=_never(ctx) if isinf(order.up_s) else shown_down(order.up_s),
        margin=_in_hand(order),
        rule=ctx.rules.protection.figure("common.selectivity.ratio", "ratio").source,
        working=tuple(line for result in judged for line in _working(ctx, result)) if ctx.explain else (),
        cause=None if worst.verdict == "pass" else cause_of_pair(ID, worst.pair),
    )


def _judge(ctx: CircuitContext, pair: Pair) -> _OverloadResult:
    order = ctx.network.series.order(pair)
    if order.selective:
        return _OverloadResult(pair, order, "pass")
    if pair.down.outlet:
        return _OverloadResult(pair, order, "pass")
    ratio = pair.up.key.rating_a / pair.down.key.rating_a
    wide = ratio >= ctx.rules.protection.figure("common.selectivity.ratio", "ratio").value
    if not order.typical and with_distributor(pair):
        # No one on site chooses that device: it is reported, and is no fault of the installation.
        return _OverloadResult(pair, order, "advice")
    return _OverloadResult(pair, order, "fail" if not order.typical else "tight" if wide else "advice")


def _never(ctx: CircuitContext) -> str:
    return str(ctx.message("core.check.selectivity-overload.never"))


def _in_hand(order: OverloadOrder) -> float:
    """Share of the upstream device's time that is left when the downstream one has tripped at the latest; −1 where it never does."""
    if isinf(order.up_s):
        return 1.0
    return -1.0 if order.down_s == inf else max(-1.0, 1 - order.down_s / order.up_s)


def _sentence(ctx: CircuitContext, overload_result: _OverloadResult) -> Message:
    up, down, order = overload_result.pair.up.name, overload_result.pair.down.name, overload_result.order
    if order.selective:
        return ctx.message("core.check.selectivity-overload.total", up=up, down=down)
    span = ctx.message(
        "core.check.selectivity-overload.span", a=shown_down(order.from_a or 0.0), b=shown_up(order.to_a or 0.0)
    )
    if overload_result.verdict == "fail":
        return ctx.message("core.check.selectivity-overload.crossed", up=up, down=down, span=span)
    if not order.typical:
        return ctx.message("core.check.selectivity-overload.distributor", up=up, down=down, span=span)
    if overload_result.pair.down.outlet:
        return ctx.message("core.check.selectivity-overload.outlet", up=up, down=down, span=span)
    typical = ctx.message("core.check.selectivity-overload.typical", up=up, down=down, span=span)
    if overload_result.verdict == "tight":
        return typical
    ratio = ctx.rules.protection.figure("common.selectivity.ratio", "ratio").value
    return ctx.message("core.check.selectivity-overload.close", typical=typical, ratio=plain(ratio))


def _working(ctx: CircuitContext, overload_result: _OverloadResult) -> list[Step]:
    pair, order = overload_result.pair, overload_result.order
    up, down = ctx.network.series.band(pair.up), ctx.network.series.band(pair.down)
    ratio, at = pair.up.key.rating_a / pair.down.key.rating_a, shown(order.at_a)
    steps = [
        step(
            "r",
            ctx.message("core.check.selectivity-overload.ratio", up=pair.up.name, down=pair.down.name),
            ctx.message("core.check.selectivity-overload.ratio_formula"),
            "",
            ratio,
            "",
        ),
        _time(
            "t1",
            ctx.message("core.check.selectivity-overload.latest", device=pair.down.name, a=at),
            order.down_s,
            down.sources,
        ),
        _time(
            "t2",
            ctx.message("core.check.selectivity-overload.earliest", device=pair.up.name, a=at),
            order.up_s,
            up.sources,
        ),
    ]
    return [
        *steps,
        Step(
            symbol="",
            meaning=ctx.message("core.ending.compare"),
            formula=ctx.message("core.check.selectivity-overload.compare"),
            figures="",
            result=order.at_a,
            unit="",
            shown=ctx.message(f"core.check.selectivity-overload.word_{overload_result.verdict}"),
        ),
    ]


def _time(symbol: str, meaning: Text, time_s: float, sources: tuple[Source, ...]) -> Step:
    source = sources[0] if sources else None
    band = message(None, "core.formula.band")
    if isinf(time_s):
        return Step(
            symbol=symbol,
            meaning=meaning,
            formula=band,
            figures="",
            result=0.0,
            unit="",
            shown=message(None, "core.check.selectivity-overload.never"),
            source=source,
        )
    return step(symbol, meaning, band, "", time_s, "s", source)
