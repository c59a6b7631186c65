"""What a straight part of a route is fixed to: what the plan states of walls and joists there, or what it lacks."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.plan import FloorBuild, RoomShape
from vivid_lattice.core.plan.geometry.house import House, boxes_of
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.plan.routes.lines import axis_of

#: How a part is held: clipped to a surface or along a joist; through joists or studs; drawn up inside a hollow wall; in a chase; measured on
#: site; not known, because the plan does not say.
Held = Literal["clipped", "joists", "studs", "hollow", "chase", "site", "unknown"]
_AXES = ("x", "y")


@dataclass(frozen=True, slots=True)
class Place:
    """How a part is held, and by what: the floor whose joists they are, or the room whose wall it is."""

    held: Held
    floor: FloorBuild | None = None
    room: RoomShape | None = None


def place_of(leg: Leg, house: House) -> Place:
    """What a part of a route is fixed to."""
    if leg.lies_in == "outside":
        return Place("site")
    if leg.lies_in in ("surface", "loft"):
        return Place("clipped")
    if leg.lies_in == "wall":
        return _in_wall(leg, house)
    floor = joists_of(leg, house)
    if leg.upright:
        return Place("clipped", floor)
    if floor.joists is None:
        return Place("unknown", floor)
    crosses = floor.joists != "none" and _AXES[axis_of(leg)] != floor.joists
    return Place("joists" if crosses else "clipped", floor)


def joists_of(leg: Leg, house: House) -> FloorBuild:
    """The floor whose joists a void has: those over a room's ceiling are of its own floor, those under it of the floor below."""
    if leg.lies_in == "floor":
        middle = ((leg.a[0] + leg.b[0]) / 2, (leg.a[1] + leg.b[1]) / 2)
        if house.has_room_at(leg.level - 1, middle):
            return house.floor(leg.level - 1)
    return house.floor(leg.level)


def _in_wall(leg: Leg, house: House) -> Place:
    shape = house.rooms[leg.face[0]] if leg.face is not None else None
    if shape is None or shape.wall_kind is None:
        return Place("unknown", room=shape)
    if shape.wall_kind in ("masonry", "external"):
        return Place("chase", room=shape)
    return Place("hollow" if leg.upright else "studs", room=shape)


def rooms_under(leg: Leg, house: House) -> list[RoomShape]:
    """The rooms of its floor that a level part of a route passes over or under."""
    found = []
    for shape in house.rooms.values():
        if shape.level != leg.level:
            continue
        for x0, x1, y0, y1 in boxes_of(shape):
            low_x, high_x = sorted((leg.a[0], leg.b[0]))
            low_y, high_y = sorted((leg.a[1], leg.b[1]))
            if low_x <= x1 and high_x >= x0 and low_y <= y1 and high_y >= y0:
                found.append(shape)
                break
    return found
