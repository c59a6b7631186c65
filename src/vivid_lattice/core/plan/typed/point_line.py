"""Points as they are typed: ``6 double sockets kitchen worktop`` · ``2 way light hall landing`` · ``smoke alarm landing``."""

from __future__ import annotations

import dataclasses
import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Circuit, Job, free_id
from vivid_lattice.core.document.plan import (
    WALLS,
    BoardPlace,
    Fixture,
    LightSwitching,
    PlanPoint,
    PointKind,
    RoomShape,
    Wall,
)
from vivid_lattice.core.entry.rooms import id_from
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan import clearances
from vivid_lattice.core.plan.geometry.house import House, wall_length_m
from vivid_lattice.core.plan.geometry.wall_line import round_the_room
from vivid_lattice.core.plan.geometry.walls import (
    FROM_CORNER_M,
    NEAR_CORNER_M,
    Stretch,
    by_the_door,
    free_stretches,
    spread,
)
from vivid_lattice.core.plan.typed.measures import metres
from vivid_lattice.core.plan.typed.named_rooms import is_wall, rooms_named
from vivid_lattice.core.rules import rule_set

#: Words for points, the longest first where one begins another.
_WORDS: Mapping[str, PointKind] = {
    "double sockets": "socket", "double socket": "socket", "sockets": "socket", "socket": "socket", "receptacles": "socket",
    "receptacle": "socket", "power points": "socket", "power point": "socket", "double power points": "socket", "double power point": "socket",
    "plugs": "socket", "outlets": "socket",
    "downlights": "light", "spotlights": "light", "lights": "light", "light": "light", "pendant": "light", "luminaire": "light",
    "smoke alarms": "alarm", "smoke alarm": "alarm", "heat alarm": "alarm", "alarms": "alarm", "alarm": "alarm",
    "pull cord": "pull-cord", "pull-cord": "pull-cord", "switches": "switch", "switch": "switch", "dimmer": "dimmer",
    "motion sensor": "sensor", "pir": "sensor", "sensor": "sensor", "extractor fan": "fan", "fan": "fan",
    "cooker": "cooker", "oven": "cooker", "hob": "cooker", "range": "cooker", "stove": "cooker", "shower": "shower",
    "fused connection unit": "connection-unit", "connection unit": "connection-unit", "fcu": "connection-unit",
    "shaver": "shaver", "heater": "heater", "water heater": "heater", "immersion heater": "heater", "boiler": "connection-unit",
    "pump": "connection-unit", "motor": "connection-unit", "kiln": "heater", "charger": "charger",
    "data": "data", "junction box": "junction-box",
}  # fmt: skip
_WAYS = re.compile(r"\b(?P<n>one|two|three|four|five|\d)[ -](?:way|places?)\b", re.IGNORECASE)
_NUMBERS = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5}
_AT = re.compile(r"\bat\s(?P<at>[\d.,]+\s?(?:m|ft|')?)", re.IGNORECASE)
_HEIGHT = re.compile(r"\b(?:h|height|high)\s?(?P<h>[\d.,]+\s?(?:m|ft|')?)", re.IGNORECASE)
_BOARD = re.compile(r"^(?:consumer unit|board|switchboard|distribution board|panel|db)\b", re.IGNORECASE)
#: An outlet or a sensor in the plate of the switch, or beside it.
_WITH_SWITCH = re.compile(r"\b(?:with|at|beside) the switch\b", re.IGNORECASE)
#: What lights are switched by: the first of two-way switches is a dimmer then.
_SWITCHED_BY = re.compile(r"\bwith (?:an? )?(?P<kind>dimmer|pull[ -]cord|motion sensor|sensor|pir)\b", re.IGNORECASE)
#: What people call the floors in the name of a circuit.
_UP = re.compile(r"\b(up|upstairs|upper|first floor|1st floor)\b", re.IGNORECASE)
_DOWN = re.compile(r"\b(down|downstairs|lower|ground floor)\b", re.IGNORECASE)
#: Kinds of load that a kind of point feeds.
_FEEDS: Mapping[PointKind, tuple[str, ...]] = {
    "socket": ("socket",), "light": ("lamp",), "alarm": ("alarm",), "cooker": ("cooker", "oven", "hob"), "shower": ("shower",),
    "heater": ("heater", "water-heater", "kiln"), "charger": ("charger",),
    "connection-unit": ("appliance", "heater", "boiler", "motor"),
    "fan": ("lamp",), "shaver": ("lamp", "socket"),
}  # fmt: skip
#: Half of what a board and a plate of two gangs take along a wall, with what is left beside it [m]. Common practice, no source.
_BOARD_M, _PLATE_M = 0.35, 0.2
_SWITCHES: frozenset[PointKind] = frozenset({"switch", "pull-cord", "dimmer", "sensor"})


@dataclass(slots=True)
class _Line:
    """A typed line in parts."""

    text: str
    count: int
    kind: PointKind
    with_switch: bool
    switched_by: PointKind
    word: str
    ways: int
    rooms: list[RoomShape]
    wall: Wall | None
    at_m: float | None
    height_m: float | None
    worktop: bool
    gangs: int


def enter_points(job: Job, line: str) -> Job:
    """The job with the points of a line: put where such points usually are, each on the circuit that feeds such things there.

    A light brings a switch by each door that is named; several are two-way, with intermediate ones between. A board is put on a wall.
    Raises  EntryNotUnderstood where no point or no room of the plan is named, or there is no wall left
    """
    if _BOARD.match(line.strip()):
        return _board(job, line)
    read = _read(job, line)
    made = _with_the_switch(job, read) if read.with_switch else list(_points(job, read))
    if not made:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_wall", room=read.rooms[0].room))
    switching = list(job.plan.switching)
    if read.kind == "light":
        switches = list(_switches(job, read, made))
        if switches:
            switching.append(
                LightSwitching(lights=tuple(one.id for one in made), switches=tuple(one.id for one in switches))
            )
        made += switches
    if read.with_switch and read.kind == "sensor":
        switching = [_joined(group, made[0]) for group in switching]
    plan = job.plan.model_copy(update={"points": (*job.plan.points, *made), "switching": tuple(switching)})
    return checked(job.model_copy(update={"plan": plan}))


def _with_the_switch(job: Job, line: _Line) -> list[PlanPoint]:
    """A socket in the plate of the room's switch, or a sensor that works beside it."""
    switch = next(
        (
            each
            for each in job.plan.points
            if each.room == line.rooms[0].room and each.kind == "switch" and each.plate is None
        ),
        None,
    )
    if switch is None or line.kind not in ("socket", "sensor"):
        raise EntryNotUnderstood(line.text, message(None, "core.plan.point.no_switch", room=line.rooms[0].room))
    [made] = _points(job, dataclasses.replace(line, count=1, wall=switch.wall, at_m=switch.along_m))
    return [made.model_copy(update={"plate": switch.id, "circuit": switch.circuit, "gangs": 1, "height_m": None})]


def _joined(group: LightSwitching, sensor: PlanPoint) -> LightSwitching:
    """The group of a switch with the sensor in its plate."""
    if sensor.plate not in group.switches:
        return group
    return group.model_copy(update={"switches": (*group.switches, sensor.id)})


def _read(job: Job, line: str) -> _Line:
    low = " ".join(line.lower().split())
    ways = _WAYS.search(low)
    rest = _WAYS.sub("", low).strip()
    at, height = _AT.search(rest), _HEIGHT.search(rest)
    rest = _HEIGHT.sub("", _AT.sub("", rest)).strip()
    count = 1
    number = re.match(r"(\d+)\s*(?:x\s*)?", rest)
    if number:
        count, rest = int(number[1]), rest[number.end() :]
    by = _SWITCHED_BY.search(rest)
    rest = _SWITCHED_BY.sub("", rest)
    with_switch = _WITH_SWITCH.search(rest) is not None
    rest = _WITH_SWITCH.sub("", rest)
    word = _word_in(rest)
    if word is None or not 1 <= count <= 60:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_kind"))
    rest = re.sub(rf"\b{re.escape(word)}\b", "", rest, count=1)
    worktop = bool(re.search(r"\b(worktop|counter|bench|countertop)\b", rest))
    rest = " ".join(re.sub(r"\b(worktop|counter|bench|countertop|wall|by the door|door)\b", "", rest).split())
    words = rest.split()
    wall = next((found for each in words if (found := is_wall(each))), None)
    rooms = rooms_named(job, line, [each for each in words if is_wall(each) is None])
    return _Line(
        text=line, count=count, kind=_WORDS[word], with_switch=with_switch,
        switched_by=_WORDS[by["kind"].lower()] if by else "switch", word=word, ways=_number(ways["n"]) if ways else 1, rooms=rooms, wall=wall,
        at_m=metres(at["at"]) if at else None, height_m=metres(height["h"]) if height else None, worktop=worktop,
        gangs=2 if word.startswith("double") else 1,
    )  # fmt: skip


def names_point(line: str) -> bool:
    """Whether a line names a kind of point."""
    return _word_in(line.lower()) is not None


def _word_in(text: str) -> str | None:
    words = sorted(_WORDS, key=len, reverse=True)
    return next((word for word in words if re.search(rf"\b{re.escape(word)}\b", text)), None)


def _number(word: str) -> int:
    return _NUMBERS.get(word, 0) or int(word)


def _points(job: Job, line: _Line) -> Iterator[PlanPoint]:
    shape = line.rooms[0]
    taken = {point.id for point in job.plan.points}
    circuit = _circuit_for(job, line.kind, shape, line.word, line.wall)
    name = next(room.name for room in job.rooms if room.id == shape.room)
    # A socket-outlet is called a socket for short, a receptacle is not.
    socket = rule_set(job.job.rules).words.form("socket").removesuffix("-outlet")
    what = socket if line.kind == "socket" else line.kind.replace("-", " ")
    # Numbers go on from those that the room has.
    before = sum(point.room == shape.room and point.kind == line.kind for point in job.plan.points)
    for number, place in enumerate(_places(job, line, shape), before + 1):
        which = f" {number}" if line.count > 1 or before else ""
        title = f"{name} {what}{which}"
        id_ = free_id(id_from(f"{name} {line.kind}{which}"), taken)
        taken.add(id_)
        yield PlanPoint(
            id=id_, kind=line.kind, name=title, room=shape.room, height_m=line.height_m, above_worktop=line.worktop,
            gangs=line.gangs, circuit=circuit.id if circuit is not None else None, **place,
        )  # fmt: skip


def _places(job: Job, line: _Line, shape: RoomShape) -> Iterator[dict[str, Any]]:
    """Where points of a kind go in a room: on the ceiling in a grid, beside the door, or along the walls."""
    house = House(job.plan, rule_set(job.job.rules).plan)
    if line.kind in ("light", "alarm", "fan") and line.wall is None:
        yield from _grid(shape, line.count)
        return
    walls = (line.wall,) if line.wall is not None else WALLS
    if line.at_m is not None:
        for number in range(line.count):
            yield {"wall": walls[0], "along_m": min(line.at_m + 0.3 * number, wall_length_m(shape, walls[0]))}
        return
    probe = PlanPoint(
        id="probe", kind=line.kind, name="probe", room=shape.room, wall="front", along_m=0.0, above_worktop=line.worktop
    )
    height_m = line.height_m if line.height_m is not None else house.point_height_m(probe)
    if line.kind in _SWITCHES and line.wall is None and (place := by_the_door(shape, height_m)) is not None:
        yield from ({"wall": place[0], "along_m": place[1]} for _ in range(line.count))
        return
    rules = rule_set(job.job.rules).plan

    def barred(wall: Wall) -> Iterator[tuple[float, float]]:
        yield from clearances.barred(shape, wall, line.kind, height_m, rules)
        yield from _taken(job, shape, wall, height_m)

    stretches = free_stretches(shape, height_m, walls, barred=barred)
    if line.kind == "socket" and line.wall is None and not line.worktop and stretches:
        # Where every wall has to be near a socket, those by a corner may be nearer to it.
        clear_m = FROM_CORNER_M if rules.wall_spacing is None else NEAR_CORNER_M
        places = round_the_room(shape, height_m, line.count, from_corner_m=clear_m, barred=barred)
        yield from ({"wall": wall, "along_m": along} for wall, along in places)
        return
    if line.worktop:
        over = list(_over_worktops(shape, free_stretches(shape, height_m, walls, 0.0, barred)))
        if over:
            stretches = over
        elif line.wall is None and stretches:
            # A worktop that is not on the plan runs along one wall: the longest that is free.
            stretches = [max(stretches, key=lambda stretch: stretch.length_m)]
    yield from ({"wall": wall, "along_m": along} for wall, along in spread(stretches, line.count))


def _taken(job: Job, shape: RoomShape, wall: Wall, height_m: float) -> Iterator[tuple[float, float]]:
    """Parts of a wall that the board or another point of about that height has."""
    for place in job.plan.boards:
        if (place.room, place.wall) == (shape.room, wall):
            yield place.along_m - _BOARD_M, place.along_m + _BOARD_M
    house = House(job.plan, rule_set(job.job.rules).plan)
    for point in job.plan.points:
        here, along_m = (point.room, point.wall) == (shape.room, wall), point.along_m or 0.0
        if here and abs(house.point_height_m(point) - height_m) < _PLATE_M:
            yield along_m - _PLATE_M, along_m + _PLATE_M


def _over_worktops(shape: RoomShape, free: list[Stretch]) -> Iterator[Stretch]:
    """The free parts of walls over the worktops of a room, broken by sinks and hobs."""
    for top in (each for each in shape.fixtures if each.kind == "worktop"):
        breaks = [(each.from_m, each.from_m + each.width_m) for each in shape.fixtures if _breaks(each, top)]
        for stretch in (each for each in free if each.wall == top.wall):
            at, end = max(top.from_m, stretch.from_m), min(top.from_m + top.width_m, stretch.to_m)
            for begin, finish in [*sorted(breaks), (end, end)]:
                if min(begin, end) > at:
                    yield Stretch(top.wall, at, min(begin, end))
                at = max(at, finish)


def _breaks(fixture: Fixture, top: Fixture) -> bool:
    return fixture.kind in ("sink", "hob") and fixture.wall == top.wall


def _grid(shape: RoomShape, count: int) -> Iterator[dict[str, Any]]:
    """So many places evenly under the ceiling, in rows along the longer side."""
    rows = max(1, round(math.sqrt(count * min(shape.width_m, shape.depth_m) / max(shape.width_m, shape.depth_m))))
    across = math.ceil(count / rows)
    wide = shape.width_m >= shape.depth_m
    for number in range(count):
        row, column = divmod(number, across)
        in_row = min(across, count - row * across)
        a, b = (column + 0.5) / in_row, (row + 0.5) / math.ceil(count / across)
        x, y = (a, b) if wide else (b, a)
        yield {"x_m": round(x * shape.width_m, 2), "y_m": round(y * shape.depth_m, 2)}


def _switches(job: Job, line: _Line, lights: list[PlanPoint]) -> Iterator[PlanPoint]:
    """A switch by the door of each room that is named; more places than rooms are on the other walls of the last."""
    taken = {point.id for point in (*job.plan.points, *lights)}
    names = {room.id: room.name for room in job.rooms}
    house = House(job.plan, rule_set(job.job.rules).plan)
    shared = False
    for number in range(max(line.ways, len(line.rooms) if line.ways > 1 else 1)):
        shape = line.rooms[min(number, len(line.rooms) - 1)]
        title = f"{names[shape.room]} {line.switched_by.replace('-', ' ') if not number else 'switch'}"
        id_ = free_id(id_from(title), taken)
        taken.add(id_)
        again = number >= len(line.rooms)
        probe = PlanPoint(id="probe", kind="switch", name="probe", room=shape.room, wall="front", along_m=0.0)
        place = None if again else by_the_door(shape, house.point_height_m(probe))
        if place is None:
            free = free_stretches(shape, house.point_height_m(probe))
            places = list(spread(free, 1 + again))
            if not places:
                return
            place = places[-1]
        kind: PointKind = "pull-cord" if _is_wet(job, shape) else "switch" if number else line.switched_by
        beside = next((each for each in job.plan.points if _is_at(each, kind, shape, place)), None)
        # One plate at most is shared with other groups, so that there is one way to each box.
        same = not shared and beside is not None and beside.circuit == lights[0].circuit and beside.kind == "switch"
        shared = shared or same
        along_m = place[1]
        if beside is not None and not same:
            along_m = _next_to(place, kind, shape, job)
        yield PlanPoint(
            id=id_, kind=kind, name=title, room=shape.room, wall=place[0], along_m=along_m, circuit=lights[0].circuit,
            plate=beside.id if beside is not None and same else None,
        )  # fmt: skip


def _is_at(point: PlanPoint, kind: PointKind, shape: RoomShape, place: tuple[Wall, float]) -> bool:
    """Whether a switch has a plate of its own at a place already."""
    if (point.room, point.kind, point.wall, point.plate) != (shape.room, kind, place[0], None):
        return False
    return abs((point.along_m or 0.0) - place[1]) < _PLATE_M / 4


def _next_to(place: tuple[Wall, float], kind: PointKind, shape: RoomShape, job: Job) -> float:
    """The next place for a plate of its own, away from the door; towards it where the wall ends."""
    length = wall_length_m(shape, place[0])
    steps = [place[1] + number * _PLATE_M / 2 for number in (1, 2, 3, -1, -2, -3)]
    free = (
        each
        for each in steps
        if 0 <= each <= length and not any(_is_at(point, kind, shape, (place[0], each)) for point in job.plan.points)
    )
    return round(next(free, place[1]), 2)


def _is_wet(job: Job, shape: RoomShape) -> bool:
    return next(room.kind for room in job.rooms if room.id == shape.room) in ("bath", "shower")


def _circuit_for(
    job: Job, kind: PointKind, shape: RoomShape, word: str = "", wall: Wall | None = None
) -> Circuit | None:
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
    floor = [each for each in open_to if _floor_of(each) == (1 if shape.level > 0 else 0)]
    rest = [each for each in open_to if _floor_of(each) is None and each.id not in elsewhere]
    # A socket of its own for an appliance: only where the room has no other circuit for sockets.
    appliances = [
        each for each in job.circuits if kind == "socket" and any(load.kind == "appliance" for load in each.loads)
    ]
    for_one = [each for each in appliances if _is_of_room(each, shape.room, names[shape.room])]
    found = next((each for each in (own, for_one, floor, rest, open_to) if each), [])
    return found[0] if len(found) == 1 else None


def _is_of_room(circuit: Circuit, room: str, name: str) -> bool:
    return any(load.room == room for load in circuit.loads) or name in circuit.name.casefold()


def _floor_of(circuit: Circuit) -> int | None:
    """The floor that the name of a circuit states: 0 below, 1 above; None where it states neither or both."""
    up, down = bool(_UP.search(circuit.name)), bool(_DOWN.search(circuit.name))
    return None if up == down else int(up)


def _board(job: Job, line: str) -> Job:
    """A board on a wall: ``board hall left at 0.5``."""
    words = _AT.sub("", _HEIGHT.sub("", _BOARD.sub("", line.strip()))).split()
    [shape, *_] = rooms_named(job, line, [each for each in words if is_wall(each) is None])
    wall: Wall = next((found for each in words if (found := is_wall(each))), "left")
    at, height = _AT.search(line), _HEIGHT.search(line)
    board = next((each for each in job.boards if each.name.casefold() in line.casefold()), None)
    if board is None:
        placed = {place.board for place in job.plan.boards}
        origin = [each for each in job.boards if is_origin(each.fed_by)]
        board = next(
            (each for each in (*origin, *job.boards) if each.id not in placed), job.boards[0] if job.boards else None
        )
    if board is None:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_board"))
    usual = rule_set(job.job.rules).plan.height("board")
    place = BoardPlace(
        board=board.id, room=shape.room, wall=wall,
        along_m=metres(at["at"]) if at else round(wall_length_m(shape, wall) / 2, 2),
        height_m=metres(height["h"]) if height else usual.usual_m if usual is not None else 1.4,
    )  # fmt: skip
    others = tuple(each for each in job.plan.boards if each.board != board.id)
    return checked(job.model_copy(update={"plan": job.plan.model_copy(update={"boards": (*others, place)})}))
