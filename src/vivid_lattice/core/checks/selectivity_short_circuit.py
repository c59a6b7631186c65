"""In a short circuit, does the device nearest to it open alone?"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isinf

from vivid_lattice.core.checks.support.device_pairs import cause_of_pair, pairs_shown, with_distributor
from vivid_lattice.core.checks.support.fault_energy import assumed_fault
from vivid_lattice.core.checks.support.finding_builder import not_applicable, step
from vivid_lattice.core.findings.finding import Assumption, Finding, Step
from vivid_lattice.core.formulas.device.coordination import SelectivityLimit
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.network.overcurrent_series import Overcurrent, Pair
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import shown, shown_down, shown_up
from vivid_lattice.core.units import SLACK, ka_from_a

ID = "selectivity-short-circuit"
#: Where a pair's reach comes from: a fuse's energy upstream, or the instantaneous part of a breaker.
_BY = {"energy": "common.gg.selective-with-mcb", "bands": "common.breaker.selective-to-threshold"}


@dataclass(frozen=True, slots=True)
class _ShortCircuitResult:
    """A pair, the largest current that may flow just behind its downstream device, and how far it is selective [A]."""

    pair: Pair
    fault_a: float
    reach: SelectivityLimit
    assumed: tuple[Assumption, ...]

    @property
    def in_hand(self) -> float:
        """Share of the reach that is left; negative past it."""
        return 1.0 if isinf(self.reach.current_a) else 1 - self.fault_a / max(self.reach.current_a, SLACK)


def check(ctx: CircuitContext) -> Finding:
    """The largest short-circuit current behind each downstream device against what its pair is selective to.

    Equation  Ik ≤ Is; Is: where the upstream breaker's instantaneous part may begin, or where the downstream device lets
              through as much energy as the upstream fuse takes before it melts
    Source    IEC 60269-2 and IEC 60947-2 on coordination; energies by class, or the manufacturer's
    A fuse at the circuit's end takes the supply from no more than the circuit's own device does: its pair is told and not judged.
    A pair that is selective only up to some current is 'advice': no rule of an ordinary dwelling forbids it, and people without light want to know it. With the distributor's device that is told once for a board.
    """
    _ = ctx.device
    pairs = ctx.network.series.pairs(ctx.circuit)
    if not pairs:
        return not_applicable(ID, ctx, ctx.message("core.check.selectivity-short-circuit.none"))
    judged = [_judge(ctx, pair) for pair in pairs_shown(ctx, pairs)]
    inside = [result for result in judged if not result.pair.down.outlet]
    worst = min(inside, key=_hardest, default=judged[0])
    steps: tuple[Step, ...] = ()
    if ctx.explain:
        steps = tuple(line for short_circuit_result in judged for line in _working(ctx, short_circuit_result))
    return _finding(ctx, worst, steps)


def _finding(ctx: CircuitContext, worst: _ShortCircuitResult, steps: tuple[Step, ...]) -> Finding:
    """The finding of the pair that is nearest to losing its selectivity."""
    outlet, reach = worst.pair.down.outlet, worst.reach.current_a
    limit_ka, shown_limit = (None, "all") if isinf(reach) else (ka_from_a(reach), shown_down(ka_from_a(reach)))
    total = bool(outlet) or worst.in_hand >= -SLACK
    rule = _BY.get(worst.reach.by) or ctx.rules.bands.waits_rule(worst.pair.up.key.kind) or _BY["bands"]
    return Finding(
        check=ID,
        subject=ctx.subject,
        verdict="pass" if total else "advice",
        sentence=_sentence(ctx, worst, total),
        value=None if outlet else ka_from_a(worst.fault_a),
        limit=None if outlet else limit_ka,
        unit="kA",
        shown_value=shown_up(ka_from_a(worst.fault_a)),
        shown_limit=shown_limit,
        margin=worst.in_hand,
        rule=ctx.rules.protection.rule(rule),
        working=steps,
        assumptions=worst.assumed if not total else (),
        cause=None if total else cause_of_pair(ID, worst.pair),
    )


def _hardest(short_circuit_result: _ShortCircuitResult) -> tuple[bool, float]:
    """Pairs that someone on site can change go before the distributor's device, where they are not in order."""
    return short_circuit_result.in_hand >= -SLACK or with_distributor(
        short_circuit_result.pair
    ), short_circuit_result.in_hand


def _judge(ctx: CircuitContext, pair: Pair) -> _ShortCircuitResult:
    fault, assumed = assumed_fault(ctx, _fault_behind(ctx, pair.down))
    return _ShortCircuitResult(pair, fault, ctx.network.series.reach(pair, fault), assumed)


def _fault_behind(ctx: CircuitContext, down: Overcurrent) -> float:
    """Largest prospective current just behind a device [A]: at its board, or for a fuse at a circuit's end, there."""
    loops = ctx.network.loops
    if down.outlet:
        return loops.far_end_fault(ctx.circuit).largest_a
    assert down.board is not None  # only the cut-out has no board, and it is never downstream
    return loops.board_fault_a(down.board)


def _sentence(ctx: CircuitContext, short_circuit_result: _ShortCircuitResult, total: bool) -> Message:
    up, down, flows = (
        short_circuit_result.pair.up.name,
        short_circuit_result.pair.down.name,
        shown_up(ka_from_a(short_circuit_result.fault_a)),
    )
    if short_circuit_result.pair.down.outlet:
        return ctx.message("core.check.selectivity-short-circuit.outlet", up=up, down=down)
    if total:
        return ctx.message("core.check.selectivity-short-circuit.total", down=down, ka=flows)
    if with_distributor(short_circuit_result.pair):
        board = short_circuit_result.pair.down.board
        near = board.name if board else down
        return ctx.message("core.check.selectivity-short-circuit.distributor", up=up, where=near)
    upto = shown_down(short_circuit_result.reach.current_a)
    if short_circuit_result.reach.current_a <= 0:
        return ctx.message("core.check.selectivity-short-circuit.never", up=up, down=down, ka=flows)
    partial = ctx.message("core.check.selectivity-short-circuit.partial", up=up, down=down, ka=flows, limit=upto)
    where = _from_where(ctx, short_circuit_result)
    return (
        ctx.message("core.check.selectivity-short-circuit.partial_where", partial=partial, where=where)
        if where
        else partial
    )


def _from_where(ctx: CircuitContext, short_circuit_result: _ShortCircuitResult) -> Message | None:
    """From which metre of the run on a short circuit stays within the limit; None where that is not known."""
    if short_circuit_result.pair.down.outlet:
        return None
    length = or_none(lambda: run_length_m(ctx.circuit))
    far = or_none(lambda: ctx.network.loops.far_end_fault(ctx.circuit).largest_a)
    if not length or not far or far > short_circuit_result.reach.current_a or ctx.circuit.kind == "ring":
        return ctx.message("core.check.selectivity-short-circuit.anywhere") if far else None
    volts = 1.0  # of one source: only the ratio of impedances counts
    near, end, at = volts / short_circuit_result.fault_a, volts / far, volts / short_circuit_result.reach.current_a
    metres = length * (at - near) / (end - near) if end > near else 0.0
    return ctx.message(
        "core.check.selectivity-short-circuit.from",
        m=shown_up(max(0.0, metres), 2),
        down=short_circuit_result.pair.down.name,
    )


def _working(ctx: CircuitContext, short_circuit_result: _ShortCircuitResult) -> list[Step]:
    pair, reach = short_circuit_result.pair, short_circuit_result.reach
    steps = [
        step(
            "Ik",
            ctx.message("core.check.selectivity-short-circuit.working_current", down=pair.down.name),
            ctx.message("core.formula.network"),
            "",
            short_circuit_result.fault_a,
            "A",
        )
    ]
    if reach.up_a2s is not None:
        steps.append(
            step(
                "I²t",
                ctx.message("core.check.selectivity-short-circuit.melt", up=pair.up.name),
                "I² · t",
                "",
                reach.up_a2s,
                "A²s",
            )
        )
    if reach.current_a == inf:
        return [
            *steps,
            Step(
                symbol="Is",
                meaning=ctx.message("core.check.selectivity-short-circuit.working_upto"),
                formula="",
                figures="",
                result=0.0,
                unit="",
                shown=ctx.message("core.check.selectivity-short-circuit.any"),
            ),
        ]
    by = ctx.message(f"core.check.selectivity-short-circuit.by_{reach.by}")
    upto = ctx.message("core.check.selectivity-short-circuit.working_limit", by=by)
    steps.append(step("Is", upto, "", "", reach.current_a, "A"))
    sign = "≤" if short_circuit_result.in_hand >= -SLACK else ">"
    return [
        *steps,
        Step(
            symbol="",
            meaning=ctx.message("core.ending.compare"),
            formula="Ik ≤ Is",
            figures=f"{shown(short_circuit_result.fault_a)} {sign} {shown(reach.current_a)}",
            result=short_circuit_result.in_hand * 100,
            unit="%",
            shown=shown(short_circuit_result.in_hand * 100, 2),
        ),
    ]
