"""Which circuit of a job feeds points of a kind in a room, by what people call circuits."""

from __future__ import annotations

import re
from collections.abc import Mapping

from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.plan import PointKind, RoomShape, Wall
from vivid_lattice.core.rules import rule_set

#: What people call the floors in the name of a circuit.
_UP = re.compile(r"\b(up|upstairs|upper|second floor|2nd floor)\b", re.IGNORECASE)
_DOWN = re.compile(r"\b(down|downstairs|lower|ground floor)\b", re.IGNORECASE)
_FIRST = re.compile(r"\b(first floor|1st floor)\b", re.IGNORECASE)
#: Kinds of load that a kind of point feeds.
_FEEDS: Mapping[PointKind, tuple[str, ...]] = {
    "socket": ("socket",), "light": ("lamp",), "alarm": ("alarm",), "cooker": ("cooker", "oven", "hob"), "shower": ("shower",),
    "heater": ("heater", "water-heater", "kiln"), "charger": ("charger",),
    "connection-unit": ("appliance", "heater", "boiler", "motor"),
    "fan": ("lamp",), "shaver": ("lamp", "socket"),
}  # fmt: skip


def circuit_of(job: Job, kind: PointKind, shape: RoomShape, word: str = "", wall: Wall | None = None) -> Circuit | None:
    """The circuit that feeds such points: the one that has the typed word in its name, else one whose loads or name are of the room, else
    of its floor, else the only one left when those of other rooms and floors are taken away; else none."""
    wanted = _FEEDS.get(kind, ())
    open_to = [each for each in job.circuits if any(load.kind in wanted for load in each.loads)]
    names = {room.id: room.name.casefold() for room in job.rooms}
    others = [(id_, name) for id_, name in names.items() if id_ != shape.room]
    elsewhere = [each.id for each in open_to if any(_is_of_room(each, id_, name) for id_, name in others)]
    called = [each for each in open_to if word and re.search(rf"\b{re.escape(word)}\b", each.name, re.IGNORECASE)]
    own = [each for each in open_to if _is_of_room(each, shape.room, names[shape.room])]
    if len(called) == 1 and (called[0] in own or called[0].id not in elsewhere):
        return called[0]
    if len(own) > 1 and wall is not None:
        # "Kitchen counter, left" is that of the left wall.
        own = [each for each in own if re.search(rf"\b{wall}\b", each.name, re.IGNORECASE)] or own
    first = rule_set(job.job.rules).plan.first_floor
    floor = [each for each in open_to if _floor_of(each, first) == (1 if shape.level > 0 else 0)]
    rest = [each for each in open_to if _floor_of(each, first) is None and each.id not in elsewhere]
    # A socket of its own for an appliance: only where the room has no other circuit for sockets.
    appliances = [
        each for each in job.circuits if kind == "socket" and any(load.kind == "appliance" for load in each.loads)
    ]
    for_one = [each for each in appliances if _is_of_room(each, shape.room, names[shape.room])]
    found = next((each for each in (own, for_one, floor, rest, open_to) if each), [])
    return found[0] if len(found) == 1 else None


def _is_of_room(circuit: Circuit, room: str, name: str) -> bool:
    return any(load.room == room for load in circuit.loads) or name in circuit.name.casefold()


def _floor_of(circuit: Circuit, first: int) -> int | None:
    """The floor that the name of a circuit states: 0 below, 1 above; None where it states neither or both. ``first``: the level of the
    floor that people call so."""
    named = bool(_FIRST.search(circuit.name))
    up = bool(_UP.search(circuit.name)) or (named and first > 0)
    down = bool(_DOWN.search(circuit.name)) or (named and first == 0)
    return None if up == down else int(up)
