"""May the board hang where it hangs, and is it of what it has to be of?"""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.checks.support.finding_builder import not_laid_out
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.board_build import Mounting
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.formulas.zones import OUTSIDE, zone_of
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.rules.board_rules import PlaceRule
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.units import SLACK

ID = "position"
_ZONED = ("bath", "shower", "sauna", "pool")


def check(ctx: BoardContext) -> Finding:
    """Kind of place, zones of wet rooms, height of the handles and of the lower edge, room in front, material, openings.

    Equation  handle ≤ greatest height;  lower edge ≥ least height without a door;  depth in front ≥ least
    Source    the rule set's rules on where boards may be
    """
    if not ctx.model.begun:
        return not_laid_out(ID, ctx)
    standing = ctx.board.build.mounting
    if standing is None:
        raise NeedsInput(
            Need(
                f"where {ctx.board.name} hangs",
                "boards.build.mounting",
                "Enter its room, its place and the height of its handles.",
            )
        )
    return finding_from_requirements(
        ID, ctx, [*_place(ctx, standing), *_wet(ctx, standing), *_heights(ctx, standing), *_made_of(ctx)]
    )


def _place(ctx: BoardContext, standing: Mounting) -> Iterator[RequirementResult]:
    place_rules = [place for place in ctx.rules.board.places if place.when == standing.location]
    for place_rule in place_rules:
        yield _against(ctx, place_rule)
    if not place_rules:
        words = f"{ctx.board.name} hangs where it may: {standing.location.replace('-', ' ')}"
        yield RequirementResult(verdict="pass", text=words, value=0.0, limit=0.0, source=ctx.rules.board.place_source)


def _against(ctx: BoardContext, rule: PlaceRule) -> RequirementResult:
    return RequirementResult(
        verdict=rule.level, text=f"{ctx.board.name}: {rule.text}", value=1.0, limit=0.0, source=rule.source
    )


def _wet(ctx: BoardContext, standing: Mounting) -> Iterator[RequirementResult]:
    room = ctx.network.tree.rooms.get(standing.room or "")
    if room is None:
        wet = next(
            (room for room in ctx.network.tree.rooms.values() if room.kind in (*_ZONED, *ctx.rules.board.wet_rooms)),
            None,
        )
        if wet is not None:
            what, ask = (
                f"the room {ctx.board.name} hangs in",
                f"Choose it: there is {wet.name}, which has rules of its own.",
            )
            raise NeedsInput(Need(what, "boards.build.mounting.room", ask))
        return
    if room.kind in ctx.rules.board.wet_rooms:
        yield from (_against(ctx, place) for place in ctx.rules.board.places if place.when == "wet-room")
        return
    if room.kind not in _ZONED:
        return
    for rule in (place for place in ctx.rules.board.places if place.when == "wet-zone"):
        yield _in_zone(ctx, standing, room, rule)


def _in_zone(ctx: BoardContext, standing: Mounting, room: Room, rule: PlaceRule) -> RequirementResult:
    if standing.distance_m is None or standing.bottom_edge_m is None:
        raise NeedsInput(
            Need(
                f"how far {ctx.board.name} is from the zones of {room.name}",
                "boards.build.mounting.distance_m",
                "Measure across, and the height of its lower edge.",
            )
        )
    zones = ctx.rules.protection.zones(room.kind)
    zone = zone_of(zones.shape, room, standing.distance_m, standing.bottom_edge_m, zones.figures)
    if zone == OUTSIDE:
        return RequirementResult(
            verdict="pass",
            text=f"{ctx.board.name} hangs outside the zones of {room.name}",
            value=0.0,
            limit=0.0,
            source=rule.source,
        )
    return RequirementResult(
        verdict=rule.level,
        text=f"{ctx.board.name} hangs in zone {zone} of {room.name}: {rule.text}",
        value=1.0,
        limit=0.0,
        source=rule.source,
    )


def _heights(ctx: BoardContext, standing: Mounting) -> Iterator[RequirementResult]:
    board, rules = ctx.board.name, ctx.rules.board
    if rules.handle_max_m is not None:
        handle = _measured(ctx, standing.highest_handle_m, "the height of the highest handle", "highest_handle_m")
        yield _most(f"the highest handle of {board} is", handle, rules.handle_max_m)
    if rules.bottom_min_m is not None and not standing.door:
        bottom = _measured(ctx, standing.bottom_edge_m, "the height of the lower edge", "bottom_edge_m")
        yield _least(f"the lower edge of {board}, with no door to keep hands off, is", bottom, rules.bottom_min_m)
    if rules.clear_min_m is not None:
        clear = _measured(ctx, standing.clear_depth_m, "the free depth in front", "clear_depth_m")
        yield _least(f"the free depth in front of {board} is", clear, rules.clear_min_m)


def _measured(ctx: BoardContext, value: float | None, what: str, field: str) -> float:
    if value is None:
        raise NeedsInput(Need(f"{what} of {ctx.board.name}", f"boards.build.mounting.{field}", "Measure it."))
    return value


def _most(words: str, value: float, limit: SourcedValue) -> RequirementResult:
    verdict: Verdict = "pass" if value <= limit.value + SLACK else "fail"
    return RequirementResult(
        verdict=verdict,
        text=f"{words} {value:g} m; {limit.value:g} m is the most",
        value=value,
        limit=limit.value,
        source=limit.source,
        unit="m",
    )


def _least(words: str, value: float, limit: SourcedValue) -> RequirementResult:
    verdict: Verdict = "pass" if value >= limit.value - SLACK else "fail"
    return RequirementResult(
        verdict=verdict,
        text=f"{words} {value:g} m; {limit.value:g} m is the least",
        value=limit.value,
        limit=value,
        source=limit.source,
        unit="m",
    )


def _made_of(ctx: BoardContext) -> Iterator[RequirementResult]:
    enclosure, asked = ctx.board.build.enclosure, ctx.rules.board.non_combustible
    if enclosure is None:
        return
    if asked is not None and ctx.job.job.premises in asked[0]:
        verdict: Verdict = "pass" if enclosure.material == "metal" else "fail"
        words = f"{ctx.board.name} is of {'metal' if enclosure.material == 'metal' else enclosure.material + ' material'}; it must not burn"
        yield RequirementResult(verdict=verdict, text=words, value=0.0, limit=0.0, source=asked[1])
    if not enclosure.openings_closed:
        words = f"{ctx.board.name} has openings without a blank: live parts can be reached"
        yield RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=ctx.rules.board.place_source)
