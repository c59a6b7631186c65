"""Does the board stay cool enough, and does each breaker still carry its circuit in it?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.heat import Heat, runs_long, warm_neighbours
from vivid_lattice.core.board.layout.rail_positions import RailPositions
from vivid_lattice.core.checks.support.finding_builder import not_laid_out, step
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.findings.finding import Finding, Step
from vivid_lattice.core.findings.verdict import Verdict, margin_of, verdict_by
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.text import plain, shown, shown_down, shown_up

ID = "thermal"


def check(ctx: BoardContext) -> Finding:
    """Heat of the devices at their assumed loading against what the enclosure gets rid of; and of each breaker, what it still
    carries in that warmth and among neighbours that run for hours, against its circuit's current (of one that does not run for
    hours, no more than the assumed loading).

    Equation  P = Σ poles·loss·share²;  T = Troom + P/(k·A);  Ib ≤ In · (1 − 0.007·(T − 30)) · g
    Source    IEC 61439-3, Table 101 (loading); IEC 60890 (surface); practice for k, for the breaker's loss of rating and for g
    """
    if not ctx.model.begun:
        return not_laid_out(ID, ctx)
    places = ctx.model.laid_out
    heat = ctx.model.heat
    results = [_air(ctx, heat, places), *_breakers(ctx, heat, places)]
    finding = finding_from_requirements(ID, ctx, results)
    if not ctx.explain:
        return finding
    return replace(finding, working=(*_working(ctx, heat), *finding.working))


def _air(ctx: BoardContext, heat: Heat, places: RailPositions) -> RequirementResult:
    stated = places.enclosure.heat_dissipation_w
    if stated is not None:
        verdict: Verdict = "pass" if heat.total_w <= stated else "fail"
        words = ctx.message("core.check.thermal.loss", w=shown_up(heat.total_w), limit=shown_down(stated))
        return RequirementResult(
            verdict=verdict,
            text=words,
            value=heat.total_w,
            limit=stated,
            source=ctx.rules.board.source("heat"),
            unit="W",
        )
    most = ctx.rules.board.figure("common.board.inside", "most_c")
    verdict = "pass" if heat.inside_c <= most.value else "advice"
    words = ctx.message("core.check.thermal.air", t=shown_up(heat.inside_c), max=plain(most.value))
    return RequirementResult(
        verdict=verdict, text=words, value=heat.inside_c, limit=most.value, source=most.source, unit="°C"
    )


def _final_ways(ctx: BoardContext) -> Iterator[tuple[BoardDevice, Circuit]]:
    """Devices of the board's final circuits."""
    for unit in ctx.model.units.all:
        if unit.kind == "way" and unit.circuit is not None and unit.circuit.kind != "distribution":
            yield unit, unit.circuit


def _warming_a(ctx: BoardContext, heat: Heat, unit: BoardDevice, circuit: Circuit) -> float:
    """Current that warms a device [A]: what does not run for hours warms it as the assumed loading has it."""
    amps = ctx.network.drops.design_current(circuit).current_a
    return amps if runs_long(circuit) else min(amps, (unit.rating_a or 0.0) * heat.loading.value)


def too_warm(ctx: BoardContext) -> tuple[Circuit, ...]:
    """Circuits whose breakers do not carry them in the warmth of the board. NeedsInput as the check."""
    places, heat = ctx.model.laid_out, ctx.model.heat
    return tuple(
        circuit
        for unit, circuit in _final_ways(ctx)
        if verdict_by(margin_of(_warming_a(ctx, heat, unit, circuit), _carries_a(ctx, heat, places, unit)[0])) == "fail"
    )


def _breakers(ctx: BoardContext, heat: Heat, places: RailPositions) -> Iterator[RequirementResult]:
    """The breaker with least left in the warmth, and every one that is over."""
    figures = []
    for unit, circuit in _final_ways(ctx):
        amps = _warming_a(ctx, heat, unit, circuit)
        carries, group = _carries_a(ctx, heat, places, unit)
        figures.append((margin_of(amps, carries), unit, amps, carries, group))
    for number, (margin, unit, amps, carries, group) in enumerate(sorted(figures, key=lambda figure: figure[0])):
        verdict = verdict_by(margin)
        if number and verdict == "pass":
            break
        words = ctx.message(
            "core.check.thermal.breaker",
            device=unit.name,
            a=shown_up(amps),
            mark=unit.mark,
            limit=shown_down(carries),
            t=shown_up(heat.inside_c),
            n=group - 1,
        )
        if verdict == "fail":
            words = ctx.message("core.check.thermal.breaker_fix", breaker=words)
        yield RequirementResult(
            verdict=verdict,
            text=words,
            value=amps,
            limit=carries,
            source=ctx.rules.board.side_by_side(group).source,
            unit="A",
        )


def _carries_a(ctx: BoardContext, heat: Heat, places: RailPositions, unit: BoardDevice) -> tuple[float, int]:
    """What a breaker carries in a board [A], and how many run warm side by side with it."""
    assert unit.rating_a is not None and unit.circuit is not None
    rule = "common.board.warm-breaker"
    base = ctx.rules.board.figure(rule, "base_c").value
    share = ctx.rules.board.figure(rule, "share_per_k").value
    warm = max(0.0, 1 - share * max(0.0, heat.inside_c - base))
    group = warm_neighbours(places, unit) if runs_long(unit.circuit) else 1
    return unit.rating_a * warm * ctx.rules.board.side_by_side(group).value, group


def _working(ctx: BoardContext, heat: Heat) -> tuple[Step, ...]:
    rules = ctx.rules.board
    return (
        step(
            "g",
            ctx.message("core.check.thermal.loading", basis=heat.loading.basis),
            ctx.message("core.formula.table"),
            "",
            heat.loading.value,
            "",
            heat.loading.source,
        ),
        *(
            step(
                "P",
                ctx.message("core.check.thermal.loss_one", name=loss.name),
                ctx.message("core.check.thermal.loss_formula"),
                f"{loss.poles} · {shown(loss.pole_w)} · {shown(loss.share)}²",
                loss.watt,
                "W",
            )
            for loss in heat.losses
        ),
        step("P", ctx.message("core.check.thermal.loss_all"), "Σ", "", heat.total_w, "W"),
        step(
            "A",
            ctx.message("core.check.thermal.surface"),
            "1.4·W·(H+D) + 1.8·D·H",
            "",
            heat.surface_m2,
            "m²",
            rules.source("heat"),
        ),
        step(
            "k",
            ctx.message("core.check.thermal.k"),
            ctx.message("core.check.thermal.by_material"),
            "",
            heat.k_w.value,
            "W/(m²·K)",
            heat.k_w.source,
        ),
        step(
            "T",
            ctx.message("core.check.thermal.inside"),
            "Troom + P/(k·A)",
            f"{heat.room_c:g} + {shown(heat.total_w)}/({heat.k_w.value:g} · {shown(heat.surface_m2)})",
            heat.inside_c,
            "°C",
        ),
    )
