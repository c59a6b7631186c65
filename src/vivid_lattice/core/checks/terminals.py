"""Is every neutral on its own bar, is there a terminal for each, and does every terminal take what goes under it?"""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.wiring.netlist import neutral_bar
from vivid_lattice.core.checks.support.finding_builder import not_applicable, not_laid_out
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.text import plain
from vivid_lattice.core.units import SLACK

ID = "terminals"


def check(ctx: BoardContext) -> Finding:
    """Each neutral returns to the bar of the device its line went out through; terminals of the bars; conductors under a terminal.

    Equation  bar(neutral) = bar(line's device);  terminals needed ≤ terminals there are;  conductor within the terminal's range
    Source    physics of the residual-current device; the rule set's rule on bars; the manufacturer's data, else usual ones
    """
    if not ctx.model.begun and not ctx.board.build.neutral_connections:
        return not_laid_out(ID, ctx)
    units = ctx.model.units
    if units.open:
        raise NeedsInput(ctx.need("core.check.terminals.need", "circuits.device", circuit=units.open[0].name))
    ways = [unit for unit in units.all if unit.kind == "way" and unit.circuit is not None]
    if not ways:
        return not_applicable(ID, ctx, ctx.message("core.check.terminals.none"))
    results = [*_neutrals(ctx, ways), *_screws(ctx), *(result for unit in ways for result in _clamp(ctx, unit))]
    return finding_from_requirements(ID, ctx, results)


def _neutrals(ctx: BoardContext, ways: list[BoardDevice]) -> Iterator[RequirementResult]:
    rule = ctx.rules.board.source("own_bar")
    titles = {bar.id: bar.title for bar in ctx.model.scheme.bars}
    elsewhere = {connection.circuit: connection.bar for connection in ctx.board.build.neutral_connections}
    wrong = 0
    for unit in ways:
        assert unit.circuit is not None
        bar, home = elsewhere.get(unit.circuit.id), neutral_bar(unit.feed)
        through = "N" in unit.poles
        if bar is None or not unit.circuit.neutral or (bar == home and not through):
            continue
        wrong += 1
        there = titles.get(bar, bar)
        if through:
            words = ctx.message("core.check.terminals.neutral_device", circuit=unit.name, bar=there)
        else:
            effect = ctx.message(f"core.check.terminals.{_effect(home, bar)}")
            words = ctx.message(
                "core.check.terminals.neutral_bar",
                circuit=unit.name,
                bar=there,
                own=titles[home],
                effect=effect,
            )
        yield RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=rule)
    if not wrong:
        yield RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.terminals.neutrals_ok", bar=_its_bar(ctx)),
            value=0.0,
            limit=0.0,
            source=rule,
        )


def _effect(home: str, bar: str) -> str:
    """Key of what a neutral on the wrong bar leads to."""
    if home == "N":
        return "effect_moved"
    return "effect_own" if bar == "N" else "effect_both"


def _screws(ctx: BoardContext) -> Iterator[RequirementResult]:
    enclosure = ctx.board.build.enclosure
    if enclosure is None:
        return
    rule = ctx.rules.board.source("bar")
    for conductor, key in (("N", "neutral_terminals"), ("PE", "earth_terminals")):
        needed = sum(len(net.terminals) for net in ctx.model.scheme.nets if net.bar and net.conductor == conductor)
        needed += 1 if ctx.model.scheme.link else 0
        verdict: Verdict = "pass" if needed <= enclosure.bar_terminals else "fail"
        words = ctx.message(f"core.check.terminals.{key}", n=str(needed), total=str(enclosure.bar_terminals))
        yield RequirementResult(verdict=verdict, text=words, value=needed, limit=enclosure.bar_terminals, source=rule)


def _clamp(ctx: BoardContext, unit: BoardDevice) -> Iterator[RequirementResult]:
    """What goes under the outgoing terminal of a way: the size, and the two ends of a ring."""
    circuit = unit.circuit
    assert circuit is not None
    rule, family = ctx.rules.board.source("clamp"), unit.family
    area = chosen_cable(circuit).area_mm2
    least = family.terminal_from_mm2 if family else None
    most = family.terminal_to_mm2 if family else None
    source = rule
    if most is None:
        _, _, most, source = ctx.rules.board.torque("RCBO" if unit.rcd else "MCB up to 63 A")
    size = ctx.rules.cables.size_label(area)
    if area > most + SLACK:
        words = ctx.message("core.check.terminals.too_large", device=unit.name, size=size, max=plain(most))
        yield RequirementResult(verdict="fail", text=words, value=area, limit=most, source=source, unit="mm²")
    elif least is not None and area < least - SLACK:
        words = ctx.message("core.check.terminals.too_small", device=unit.name, size=size, min=plain(least))
        yield RequirementResult(verdict="fail", text=words, value=least, limit=area, source=source, unit="mm²")
    else:
        yield RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.terminals.fits", device=unit.name, size=size),
            value=area,
            limit=most,
            source=source,
            unit="mm²",
        )
    if circuit.kind == "ring":
        doubles = family.two_conductors if family else None
        verdict: Verdict = "advice" if doubles is None else "pass" if doubles else "fail"
        permission = ctx.message(f"core.check.terminals.shared_{verdict}")
        yield RequirementResult(
            verdict=verdict,
            text=ctx.message("core.check.terminals.shared", circuit=unit.name, permission=permission),
            value=2.0,
            limit=2.0 if doubles else 1.0,
            source=rule,
        )


def _its_bar(ctx: BoardContext) -> Message:
    bars = sum(bar.conductor == "N" for bar in ctx.model.scheme.bars)
    return (
        ctx.message("core.check.terminals.bar_one")
        if bars == 1
        else ctx.message("core.check.terminals.bar_several", n=str(bars))
    )
