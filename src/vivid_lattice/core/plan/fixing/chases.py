"""Chases that a plan needs, against how deep the standard lets them be."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.plan import Wall
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.fixing.laid_cables import LaidCable
from vivid_lattice.core.plan.fixing.places import place_of
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.rules.fixing_rules import ChaseLimit, Direction
from vivid_lattice.core.rules.protocol import RuleSet

#: What covers a cable in its chase [mm]. Common practice, no source: 4 mm of plaster at least.
COVER_MM = 4.0
_EXACT = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Chase:
    """A chase. ``along_m``: of an upright one, its distance along the wall from its left or front end; ``height_m``: of a level one above
    the floor. ``needed_mm`` None: the outside of the cable is not known; ``limit`` None: not available for this standard, or
    the thickness of the wall is not stated. ``refused``: why it must not be cut."""

    room: str
    wall: Wall
    direction: Direction
    length_m: float
    along_m: float
    height_m: float
    circuits: tuple[str, ...]
    needed_mm: float | None
    limit: ChaseLimit | None
    refused: Text | None


def chases(laid: Sequence[LaidCable], house: House, rules: RuleSet) -> tuple[Chase, ...]:
    """Every chase, once where several cables share it.

    Source  the standard's table of chases; the cover is practice
    """
    parts: dict[tuple[str, Wall, Direction, float], list[tuple[float, float, LaidCable]]] = {}
    for cable in laid:
        for leg in cable.route:
            place = place_of(leg, house)
            if place.held != "chase" or leg.face is None:
                continue
            room, wall = leg.face
            shape, axis = house.rooms[room], 0 if wall in ("front", "back") else 1
            start, floor = (shape.x_m, shape.y_m)[axis], house.base_m(leg.level)
            if leg.upright:
                key = (room, wall, "vertical", round(leg.a[axis] - start, 2))
                span = sorted((leg.a[2] - floor, leg.b[2] - floor))
            else:
                key = (room, wall, "horizontal", round(leg.a[2] - floor, 2))
                span = sorted((leg.a[axis] - start, leg.b[axis] - start))
            parts.setdefault(key, []).append((span[0], span[1], cable))  # type: ignore[arg-type]
    return tuple(_made(parts, house, rules))


def _made(
    parts: Mapping[tuple[str, Wall, Direction, float], Sequence[tuple[float, float, LaidCable]]],
    house: House,
    rules: RuleSet,
) -> Iterator[Chase]:
    for (room, wall, direction, at), cables in parts.items():
        low, high = min(each[0] for each in cables), max(each[1] for each in cables)
        shape = house.rooms[room]
        thick = [each[2].thick_mm for each in cables]
        needed = None if None in thick else max(each for each in thick if each is not None) + COVER_MM
        limit = None if shape.wall_mm is None else rules.fixing.chase(direction, shape.wall_mm, high - low)
        upright = direction == "vertical"
        yield Chase(
            room=room,
            wall=wall,
            direction=direction,
            length_m=round(high - low, 3),
            along_m=at if upright else low,
            height_m=low if upright else at,
            circuits=tuple(dict.fromkeys(each[2].plan.circuit.id for each in cables)),
            needed_mm=needed,
            limit=limit,
            refused=None
            if limit is None or needed is None
            else _refused(needed, limit, at_m=at, height_m=shape.height_m, upright=upright),
        )


def _refused(needed_mm: float, limit: ChaseLimit, *, at_m: float, height_m: float, upright: bool) -> Text | None:
    if needed_mm / 1000 > limit.depth_m + _EXACT:
        most = int(limit.depth_m * 10_000 + _EXACT) / 10
        return message(None, "core.plan.fixing.chase_deep", needed=f"{needed_mm:g}", most=f"{most:g}")
    near = limit.within_m
    if not upright and near is not None and min(at_m, height_m - at_m) > near + _EXACT:
        return message(None, "core.plan.fixing.chase_place", within=f"{near:g}")
    return None
