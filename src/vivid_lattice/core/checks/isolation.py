"""Can the board be switched off, and what of it stays live when it is?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from vivid_lattice.core.board.isolation.live_parts import stays_live, switch_id
from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.findings.finding import Assumption, Finding
from vivid_lattice.core.installation.contexts import BoardContext

ID = "isolation"


def check(ctx: BoardContext) -> Finding:
    """A main switch that breaks what the rule set asks, and what stays live inside with it open, by following the metal.

    Equation  open(main switch) ⇒ no net of the board but its incoming ones is joined to a line
    Source    the rule set's rule on main switches
    """
    if not ctx.model.begun and ctx.board.main_switch is None:
        return not_applicable(
            ID, ctx, f"No main switch of {ctx.board.name} is stated yet, and the board is not laid out."
        )
    finding = finding_from_requirements(ID, ctx, [*_main(ctx), *_live(ctx), *_functional(ctx)])
    main, rule = ctx.board.main_switch, ctx.rules.board.main
    if main is None or main.switched_poles is not None or main.rcd is not None:
        return finding
    usual = Assumption("boards.main_switch.switched_poles", rule.breaks, rule.source.publication)
    return replace(finding, assumptions=(*finding.assumptions, usual))


def _main(ctx: BoardContext) -> Iterator[RequirementResult]:
    rule, board = ctx.rules.board.main, ctx.board
    origin = is_origin(board.fed_by)
    if board.main_switch is None:
        if origin:
            words = f"{board.name} has no main switch: nothing isolates the installation"
            yield RequirementResult(verdict="fail", text=words, value=0.0, limit=1.0, source=rule.source)
        else:
            words = f"{board.name} has no main switch of its own: it is switched off at the board that feeds it"
            yield RequirementResult(verdict=rule.sub_level, text=words, value=0.0, limit=1.0, source=rule.sub_source)
        return
    poles = ctx.model.units.by_id["main"].poles
    if rule.breaks == "all" and "N" not in poles:
        words = f"the main switch of {board.name} breaks the lines and leaves the neutral joined; all live conductors are asked for"
        yield RequirementResult(
            verdict="fail" if origin else "advice",
            text=words,
            value=len(poles),
            limit=len(poles) + 1.0,
            source=rule.source,
        )
        return
    poles_text = "all live conductors" if "N" in poles else "all lines"
    yield RequirementResult(
        verdict="pass",
        text=f"the main switch of {board.name} breaks {poles_text}",
        value=len(poles),
        limit=len(poles),
        source=rule.source,
    )


def _live(ctx: BoardContext) -> Iterator[RequirementResult]:
    """What can be touched live with the main switch open, beyond its incoming side."""
    board = ctx.board
    if board.main_switch is None:
        return
    units = ctx.model.units.by_id
    left = []
    for _, terminals in stays_live(ctx.network.boards, board.id, [switch_id(board.id, "main")]):
        for terminal in terminals:
            unit = units.get(terminal.device)
            if unit is not None and unit.kind != "main" and unit.name not in left:
                left.append(unit.name)
    rule = ctx.rules.board.main.source
    if left:
        more = f" and {len(left) - 1} more" if len(left) > 1 else ""
        words = f"{left[0]}{more} stays live with the main switch off: cover it, and say so on the board"
        yield RequirementResult(verdict="advice", text=words, value=float(len(left)), limit=0.0, source=rule)
    else:
        yield RequirementResult(
            verdict="pass",
            text="with the main switch off only its incoming side stays live",
            value=0.0,
            limit=0.0,
            source=rule,
        )


def _functional(ctx: BoardContext) -> Iterator[RequirementResult]:
    for gear in ctx.board.control_gear:
        if gear.kind != "socket":
            words = f"{gear.name} is no isolator: its circuits are isolated by their breakers"
            yield RequirementResult(
                verdict="pass", text=words, value=0.0, limit=0.0, source=ctx.rules.board.main.source
            )
