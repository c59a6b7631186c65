"""Do the combs fit the devices they join, and carry what runs through them?"""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.board.layout.board_devices import line_index
from vivid_lattice.core.board.layout.rail_positions import RailPositions
from vivid_lattice.core.board.wiring.busbars import Busbar
from vivid_lattice.core.checks.support.finding_builder import not_applicable, not_laid_out
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.text import shown_up
from vivid_lattice.core.units import SLACK

ID = "comb"


def check(ctx: BoardContext) -> Finding:
    """Of each comb: one family of devices at one height, current, teeth, covered ends; in a panel of plug-on breakers, whether
    each sits on the line it is meant for.

    Equation  rating ≥ min(device ahead, Σ ratings behind it on a line);  teeth ≤ those of the piece at hand
    Source    the rule set's rule on combs
    """
    if not ctx.model.begun:
        return not_laid_out(ID, ctx)
    places = ctx.model.laid_out
    if places.enclosure.form == "panelboard":
        return finding_from_requirements(ID, ctx, [*_on_its_line(ctx, places)])
    combs = ctx.model.combs
    if not combs:
        return not_applicable(ID, ctx, f"{ctx.board.name} has no comb: its devices are fed by links.")
    return finding_from_requirements(ID, ctx, [result for comb in combs for result in _comb(ctx, comb)])


def _comb(ctx: BoardContext, comb: Busbar) -> Iterator[RequirementResult]:
    rule = ctx.rules.board.source("comb")
    name = f"comb {comb.id.removeprefix('comb')} in row {comb.row}"
    units = [ctx.model.units.by_id[member] for member in comb.members]
    heights = {
        unit.family.busbar_height_mm for unit in units if unit.family and unit.family.busbar_height_mm is not None
    }
    if comb.stock is not None and comb.stock.terminal_height_mm is not None:
        heights.add(comb.stock.terminal_height_mm)
    unknown = [unit.name for unit in units if unit.family is None or unit.family.busbar_height_mm is None]
    if len(heights) > 1:
        heights_text = " and ".join(f"{height:g} mm" for height in sorted(heights))
        yield RequirementResult(
            verdict="fail",
            text=f"{name} joins devices whose clamps lie at {heights_text}: a forced comb leaves loose clamps; use one family, or links",
            value=float(len(heights)),
            limit=1.0,
            source=rule,
        )
    elif unknown:
        yield RequirementResult(
            verdict="advice",
            text=f"{name}: the family of {unknown[0]}{f' and {len(unknown) - 1} more' if len(unknown) > 1 else ''} is not stated; take all of one family",
            value=float(len(unknown)),
            limit=0.0,
            source=rule,
        )
    else:
        yield RequirementResult(
            verdict="pass", text=f"{name}: all clamps lie at one height", value=1.0, limit=1.0, source=rule
        )
    needed = ctx.model.carried_a(comb.feed)
    if comb.stock is None:
        yield RequirementResult(
            verdict="fail",
            text=f"{name} may carry {shown_up(needed)} A, and no comb at hand does",
            value=needed,
            limit=0.0,
            source=rule,
            unit="A",
        )
        return
    verdict: Verdict = "pass" if comb.stock.rating_a >= needed - SLACK else "fail"
    words = f"{name} may carry {shown_up(needed)} A, and is made for {comb.stock.rating_a:g} A"
    yield RequirementResult(verdict=verdict, text=words, value=needed, limit=comb.stock.rating_a, source=rule, unit="A")
    teeth = len(comb.teeth)
    verdict = "pass" if teeth <= comb.stock.pins else "fail"
    words = f"{name} is cut to {teeth} teeth, and the piece at hand has {comb.stock.pins}"
    yield RequirementResult(verdict=verdict, text=words, value=teeth, limit=comb.stock.pins, source=rule)
    if len(comb.lines) > 1 and comb.stock.lines != len(ctx.model.units.lines):
        words = f"{name} meets {len(comb.lines)} lines in turn, and the piece at hand has {comb.stock.lines}"
        yield RequirementResult(verdict="fail", text=words, value=len(comb.lines), limit=comb.stock.lines, source=rule)
    if not comb.stock.end_caps:
        yield RequirementResult(
            verdict="fail", text=f"{name}: its cut ends are bare; cap them", value=1.0, limit=0.0, source=rule
        )


def _on_its_line(ctx: BoardContext, places: RailPositions) -> Iterator[RequirementResult]:
    """A single-pole breaker takes the line of its space: neighbouring spaces of a column are on alternate lines."""
    rule, lines = ctx.rules.board.source("comb"), places.units.lines
    single = [
        placed_device
        for placed_device in places.in_order()
        if placed_device.row > 0 and len(placed_device.unit.lines) == 1
    ]
    wrong = [
        placed_device
        for placed_device in single
        if lines[int(placed_device.offset_modules) % len(lines)] != placed_device.unit.lines[0]
    ]
    for placed in wrong:
        there, wanted = lines[int(placed.offset_modules) % len(lines)], placed.unit.lines[0]
        words = (
            f"{placed.unit.name} is meant for {wanted} and sits on {there}: move it by one space, or change its line"
        )
        yield RequirementResult(
            verdict="fail",
            text=words,
            value=float(line_index(there) + 1),
            limit=float(line_index(wanted) + 1),
            source=rule,
        )
    if not wrong:
        words = f"each of {len(single)} single-pole breakers sits on its line"
        yield RequirementResult(verdict="pass", text=words, value=0.0, limit=0.0, source=rule)
