"""May the board be mounted where it is, and is it of what it must be of?"""

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
from vivid_lattice.core.text import plain
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
        raise NeedsInput(ctx.need("core.check.position.need", "boards.build.mounting", board=ctx.board.name))
    return finding_from_requirements(
        ID, ctx, [*_place(ctx, standing), *_wet(ctx, standing), *_heights(ctx, standing), *_made_of(ctx)]
    )


def _place(ctx: BoardContext, standing: Mounting) -> Iterator[RequirementResult]:
    place_rules = [place for place in ctx.rules.board.places if place.when == standing.location]
    for place_rule in place_rules:
        yield _against(ctx, place_rule)
    if not place_rules:
        words = ctx.message(
            "core.check.position.ok", location=ctx.message(f"core.check.position.location.{standing.location}")
        )
        yield RequirementResult(verdict="pass", text=words, value=0.0, limit=0.0, source=ctx.rules.board.place_source)


def _against(ctx: BoardContext, rule: PlaceRule) -> RequirementResult:
    return RequirementResult(
        verdict=rule.level,
        text=ctx.message("core.check.position.against", board=ctx.board.name, rule=rule.text),
        value=1.0,
        limit=0.0,
        source=rule.source,
    )


def _wet(ctx: BoardContext, standing: Mounting) -> Iterator[RequirementResult]:
    room = ctx.network.tree.rooms.get(standing.room or "")
    if room is None:
        wet = next(
            (room for room in ctx.network.tree.rooms.values() if room.kind in (*_ZONED, *ctx.rules.board.wet_rooms)),
            None,
        )
        if wet is not None:
            what = ctx.message("core.check.position.need.room.what", board=ctx.board.name)
            ask = ctx.message("core.check.position.need.room.ask", room=wet.name)
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
        path = "boards.build.mounting.distance_m"
        raise NeedsInput(ctx.need("core.check.position.need.zone", path, board=ctx.board.name, room=room.name))
    zones = ctx.rules.protection.zones(room.kind)
    zone = zone_of(zones.shape, room, standing.distance_m, standing.bottom_edge_m, zones.figures)
    if zone == OUTSIDE:
        return RequirementResult(
            verdict="pass",
            text=ctx.message("core.check.position.outside", room=room.name),
            value=0.0,
            limit=0.0,
            source=rule.source,
        )
    return RequirementResult(
        verdict=rule.level,
        text=ctx.message("core.check.position.zone", zone=zone, room=room.name, rule=rule.text),
        value=1.0,
        limit=0.0,
        source=rule.source,
    )


def _heights(ctx: BoardContext, standing: Mounting) -> Iterator[RequirementResult]:
    rules = ctx.rules.board
    if rules.handle_max_m is not None:
        handle = _measured(ctx, standing.highest_handle_m, "highest_handle_m")
        yield _most(ctx, "highest_handle_m", handle, rules.handle_max_m)
    if rules.bottom_min_m is not None and not standing.door:
        bottom = _measured(ctx, standing.bottom_edge_m, "bottom_edge_m")
        yield _least(ctx, "bottom_edge_m", bottom, rules.bottom_min_m)
    if rules.clear_min_m is not None:
        clear = _measured(ctx, standing.clear_depth_m, "clear_depth_m")
        yield _least(ctx, "clear_depth_m", clear, rules.clear_min_m)


def _measured(ctx: BoardContext, value: float | None, field: str) -> float:
    if value is None:
        part = ctx.message(f"core.check.position.part.{field}")
        path = f"boards.build.mounting.{field}"
        raise NeedsInput(ctx.need("core.check.position.need.part", path, part=part, board=ctx.board.name))
    return value


def _most(ctx: BoardContext, field: str, value: float, limit: SourcedValue) -> RequirementResult:
    verdict: Verdict = "pass" if value <= limit.value + SLACK else "fail"
    return RequirementResult(
        verdict=verdict,
        text=ctx.message(
            "core.check.position.maximum",
            part=ctx.message(f"core.check.position.value.{field}"),
            m=plain(value),
            max=plain(limit.value),
        ),
        value=value,
        limit=limit.value,
        source=limit.source,
        unit="m",
    )


def _least(ctx: BoardContext, field: str, value: float, limit: SourcedValue) -> RequirementResult:
    verdict: Verdict = "pass" if value >= limit.value - SLACK else "fail"
    return RequirementResult(
        verdict=verdict,
        text=ctx.message(
            "core.check.position.minimum",
            part=ctx.message(f"core.check.position.value.{field}"),
            m=plain(value),
            min=plain(limit.value),
        ),
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
        words = ctx.message("core.check.position.material", material=enclosure.material)
        yield RequirementResult(verdict=verdict, text=words, value=0.0, limit=0.0, source=asked[1])
    if not enclosure.openings_closed:
        words = ctx.message("core.check.position.openings")
        yield RequirementResult(verdict="fail", text=words, value=1.0, limit=0.0, source=ctx.rules.board.place_source)
