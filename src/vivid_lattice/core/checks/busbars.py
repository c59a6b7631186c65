"""Do the busbars fit the devices they join, and carry what runs through them?"""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.board.layout.board_devices import line_index
from vivid_lattice.core.board.layout.rail_positions import RailPositions
from vivid_lattice.core.board.wiring.busbars import Busbar
from vivid_lattice.core.checks.support.finding_builder import not_applicable, not_laid_out
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.board_build import BusbarStock
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Joined, Message
from vivid_lattice.core.text import plain, shown_up
from vivid_lattice.core.units import SLACK

ID = "comb"


def check(ctx: BoardContext) -> Finding:
    """Of each busbar: one family of devices at one height, current, pins, covered ends; in a panel of plug-on breakers, whether
    each is on the line it is meant for.

    Equation  rating ≥ min(device ahead, Σ ratings behind it on a line);  pins ≤ those of the piece at hand
    Source    the rule set's rule on busbars
    """
    if not ctx.model.begun:
        return not_laid_out(ID, ctx)
    places = ctx.model.laid_out
    if places.enclosure.form == "panelboard":
        return finding_from_requirements(ID, ctx, [*_on_its_line(ctx, places)])
    combs = ctx.model.combs
    if not combs:
        return not_applicable(ID, ctx, ctx.message("core.check.comb.none"))
    return finding_from_requirements(ID, ctx, [result for comb in combs for result in _comb(ctx, comb)])


def _comb(ctx: BoardContext, comb: Busbar) -> Iterator[RequirementResult]:
    """What a busbar has to meet: terminals at one height, its rating, and the piece it is cut from."""
    name = ctx.message("core.check.comb.name", n=comb.id.removeprefix("comb"), row=str(comb.row))
    yield _at_one_height(ctx, comb, name)
    needed = ctx.model.carried_a(comb.feed)
    rating = 0.0 if comb.stock is None else comb.stock.rating_a
    yield RequirementResult(
        verdict="pass" if rating >= needed - SLACK and comb.stock is not None else "fail",
        text=ctx.message(
            f"core.check.comb.{'no_stock' if comb.stock is None else 'rating'}",
            busbar=name,
            a=shown_up(needed),
            b=plain(rating),
        ),
        value=needed,
        limit=rating,
        source=ctx.rules.board.source("comb"),
        unit="A",
    )
    if comb.stock is not None:
        yield from _cut(ctx, comb, comb.stock, name)


def _at_one_height(ctx: BoardContext, comb: Busbar, name: Message) -> RequirementResult:
    """Whether the terminals that a busbar joins lie at one height."""
    rule = ctx.rules.board.source("comb")
    units = [ctx.model.units.by_id[member] for member in comb.members]
    known = {unit.name: unit.family.busbar_height_mm for unit in units if unit.family is not None}
    heights = {height for height in known.values() if height is not None}
    if comb.stock is not None and comb.stock.terminal_height_mm is not None:
        heights.add(comb.stock.terminal_height_mm)
    if len(heights) > 1:
        heights_text = Joined.of((f"{height:g} mm" for height in sorted(heights)), ", ")
        return RequirementResult(
            verdict="fail",
            text=ctx.message("core.check.comb.heights", busbar=name, list=heights_text),
            value=float(len(heights)),
            limit=1.0,
            source=rule,
        )
    unknown = [unit.name for unit in units if known.get(unit.name) is None]
    if unknown:
        return RequirementResult(
            verdict="advice",
            text=ctx.message("core.check.comb.family", busbar=name, device=unknown[0], n=len(unknown) - 1),
            value=float(len(unknown)),
            limit=0.0,
            source=rule,
        )
    return RequirementResult(
        verdict="pass", text=ctx.message("core.check.comb.one_height", busbar=name), value=1.0, limit=1.0, source=rule
    )


def _cut(ctx: BoardContext, comb: Busbar, stock: BusbarStock, name: Message) -> Iterator[RequirementResult]:
    """Whether the piece at hand gives the pins and the lines a busbar needs, and covers its cut ends."""
    rule, teeth = ctx.rules.board.source("comb"), len(comb.teeth)
    verdict: Verdict = "pass" if teeth <= stock.pins else "fail"
    words = ctx.message("core.check.comb.pins", busbar=name, n=teeth, total=str(stock.pins))
    yield RequirementResult(verdict=verdict, text=words, value=teeth, limit=stock.pins, source=rule)
    if len(comb.lines) > 1 and stock.lines != len(ctx.model.units.lines):
        words = ctx.message("core.check.comb.phases", busbar=name, n=len(comb.lines), m=str(stock.lines))
        yield RequirementResult(verdict="fail", text=words, value=len(comb.lines), limit=stock.lines, source=rule)
    if not stock.end_caps:
        yield RequirementResult(
            verdict="fail", text=ctx.message("core.check.comb.ends", busbar=name), value=1.0, limit=0.0, source=rule
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
        words = ctx.message("core.check.comb.wrong_phase", device=placed.unit.name, phase=wanted, actual=there)
        yield RequirementResult(
            verdict="fail",
            text=words,
            value=float(line_index(there) + 1),
            limit=float(line_index(wanted) + 1),
            source=rule,
        )
    if not wrong:
        words = ctx.message("core.check.comb.phases_ok", n=str(len(single)))
        yield RequirementResult(verdict="pass", text=words, value=0.0, limit=0.0, source=rule)
