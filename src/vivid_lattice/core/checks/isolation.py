"""Can the board be switched off, and what of it stays live when it is?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from vivid_lattice.core.board.isolation.live_parts import live_behind_main
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
        return not_applicable(ID, ctx, ctx.message("core.check.isolation.none"))
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
            words = ctx.message("core.check.isolation.no_main", board=board.name)
            yield RequirementResult(verdict="fail", text=words, value=0.0, limit=1.0, source=rule.source)
        else:
            words = ctx.message("core.check.isolation.sub", board=board.name)
            yield RequirementResult(verdict=rule.sub_level, text=words, value=0.0, limit=1.0, source=rule.sub_source)
        return
    poles = ctx.model.units.by_id["main"].poles
    if rule.breaks == "all" and "N" not in poles:
        words = ctx.message("core.check.isolation.neutral", board=board.name)
        yield RequirementResult(
            verdict="fail" if origin else "advice",
            text=words,
            value=len(poles),
            limit=len(poles) + 1.0,
            source=rule.source,
        )
        return
    conductors = ctx.message(f"core.check.isolation.{'all_live' if 'N' in poles else 'all_lines'}")
    yield RequirementResult(
        verdict="pass",
        text=ctx.message("core.check.isolation.ok", board=board.name, conductors=conductors),
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
    terminals = live_behind_main(ctx.network.boards, board.id)
    left = list(dict.fromkeys(units[terminal.device].name for terminal in terminals))
    rule = ctx.rules.board.main.source
    if left:
        words = ctx.message("core.check.isolation.live", device=left[0], n=len(left) - 1)
        yield RequirementResult(verdict="advice", text=words, value=float(len(left)), limit=0.0, source=rule)
    else:
        yield RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.isolation.live_none"),
            value=0.0,
            limit=0.0,
            source=rule,
        )


def _functional(ctx: BoardContext) -> Iterator[RequirementResult]:
    for gear in ctx.board.control_gear:
        if gear.kind != "socket":
            words = ctx.message("core.check.isolation.gear", gear=gear.name)
            yield RequirementResult(
                verdict="pass", text=words, value=0.0, limit=0.0, source=ctx.rules.board.main.source
            )
