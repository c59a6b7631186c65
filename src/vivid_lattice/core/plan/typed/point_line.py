"""Points as they are typed: ``6 double sockets kitchen worktop`` · ``2 way light hall landing`` · ``smoke alarm landing``."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Circuit, Job, free_id
from vivid_lattice.core.document.plan import WALLS, BoardPlace, LightSwitching, PlanPoint, PointKind, RoomShape, Wall
from vivid_lattice.core.entry.rooms import id_from, job_room
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.geometry.house import House, wall_length_m
from vivid_lattice.core.plan.geometry.wall_line import round_the_room
from vivid_lattice.core.plan.geometry.walls import by_the_door, free_stretches, spread
from vivid_lattice.core.plan.typed.room_line import is_wall, metres
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
    "cooker": "cooker", "hob": "cooker", "range": "cooker", "stove": "cooker", "shower": "shower",
    "fused connection unit": "connection-unit", "connection unit": "connection-unit", "fcu": "connection-unit",
    "shaver": "shaver", "heater": "heater", "water heater": "heater", "boiler": "connection-unit", "charger": "charger",
    "data": "data", "junction box": "junction-box",
}  # fmt: skip
_WAYS = re.compile(r"\b(?P<n>one|two|three|four|five|\d)[ -](?:way|places?)\b", re.IGNORECASE)
_NUMBERS = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5}
_AT = re.compile(r"\bat\s(?P<at>[\d.,]+\s?(?:m|ft|')?)", re.IGNORECASE)
_HEIGHT = re.compile(r"\b(?:h|height|high)\s?(?P<h>[\d.,]+\s?(?:m|ft|')?)", re.IGNORECASE)
_BOARD = re.compile(r"^(?:consumer unit|board|switchboard|distribution board|panel|db)\b", re.IGNORECASE)
#: What people call the floors in the name of a circuit.
_UP = re.compile(r"\b(up|upstairs|upper|first floor|1st floor)\b", re.IGNORECASE)
_DOWN = re.compile(r"\b(down|downstairs|lower|ground floor)\b", re.IGNORECASE)
#: Kinds of load that a kind of point feeds.
_FEEDS: Mapping[PointKind, tuple[str, ...]] = {
    "socket": ("socket",), "light": ("lamp",), "alarm": ("alarm",), "cooker": ("cooker", "oven", "hob"), "shower": ("shower",),
    "heater": ("heater", "water-heater"), "charger": ("charger",), "connection-unit": ("appliance", "heater", "boiler"),
    "fan": ("lamp",), "shaver": ("lamp", "socket"),
}  # fmt: skip
_SWITCHES: frozenset[PointKind] = frozenset({"switch", "pull-cord", "dimmer", "sensor"})


@dataclass(slots=True)
class _Line:
    """A typed line in parts."""

    text: str
    count: int
    kind: PointKind
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
    made = list(_points(job, read))
    if not made:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_wall", room=read.rooms[0].room))
    switching: list[LightSwitching] = []
    if read.kind == "light" and not any(
        point.kind in _SWITCHES for point in job.plan.points if point.room == read.rooms[0].room
    ):
        switches = list(_switches(job, read, made))
        if switches:
            switching.append(
                LightSwitching(lights=tuple(one.id for one in made), switches=tuple(one.id for one in switches))
            )
        made += switches
    plan = job.plan.model_copy(
        update={"points": (*job.plan.points, *made), "switching": (*job.plan.switching, *switching)}
    )
    return checked(job.model_copy(update={"plan": plan}))


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
    word = next(
        (word for word in sorted(_WORDS, key=len, reverse=True) if re.search(rf"\b{re.escape(word)}\b", rest)), None
    )
    if word is None or not 1 <= count <= 60:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_kind"))
    rest = re.sub(rf"\b{re.escape(word)}\b", "", rest, count=1)
    worktop = bool(re.search(r"\b(worktop|counter|bench|countertop)\b", rest))
    rest = " ".join(re.sub(r"\b(worktop|counter|bench|countertop|wall|by the door|door)\b", "", rest).split())
    words = rest.split()
    wall = next((found for each in words if (found := is_wall(each))), None)
    rooms = _rooms(job, line, [each for each in words if is_wall(each) is None])
    return _Line(
        text=line, count=count, kind=_WORDS[word], word=word, ways=_number(ways["n"]) if ways else 1, rooms=rooms, wall=wall,
        at_m=metres(at["at"]) if at else None, height_m=metres(height["h"]) if height else None, worktop=worktop,
        gangs=2 if word.startswith("double") else 1,
    )  # fmt: skip


def _number(word: str) -> int:
    return _NUMBERS.get(word, 0) or int(word)


def _rooms(job: Job, line: str, words: list[str]) -> list[RoomShape]:
    """The rooms that some words name, in their order."""
    shapes = {shape.room: shape for shape in job.plan.rooms}
    found: list[RoomShape] = []
    at = 0
    while at < len(words):
        for count in range(min(4, len(words) - at), 0, -1):
            room = job_room(job.rooms, " ".join(words[at : at + count]))
            if room is not None and room.id in shapes:
                found.append(shapes[room.id])
                at += count
                break
        else:
            at += 1
    if not found:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_room"))
    return found


def _points(job: Job, line: _Line) -> Iterator[PlanPoint]:
    shape = line.rooms[0]
    taken = {point.id for point in job.plan.points}
    circuit = _circuit_for(job, line.kind, shape, line.word)
    name = next(room.name for room in job.rooms if room.id == shape.room)
    # A socket-outlet is called a socket for short, a receptacle is not.
    socket = rule_set(job.job.rules).words.form("socket").removesuffix("-outlet")
    what = socket if line.kind == "socket" else line.kind.replace("-", " ")
    for number, place in enumerate(_places(job, line, shape), 1):
        which = f" {number}" if line.count > 1 else ""
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
    stretches = free_stretches(shape, height_m, walls)
    if line.kind == "socket" and line.wall is None and not line.worktop and stretches:
        yield from ({"wall": wall, "along_m": along} for wall, along in round_the_room(shape, height_m, line.count))
        return
    if line.worktop and line.wall is None and stretches:
        # A worktop runs along one wall: the longest that is free.
        stretches = [max(stretches, key=lambda stretch: stretch.length_m)]
    yield from ({"wall": wall, "along_m": along} for wall, along in spread(stretches, line.count))


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
    for number in range(max(line.ways, len(line.rooms) if line.ways > 1 else 1)):
        shape = line.rooms[min(number, len(line.rooms) - 1)]
        title = f"{names[shape.room]} switch"
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
        kind: PointKind = "pull-cord" if _is_wet(job, shape) else "switch"
        yield PlanPoint(
            id=id_, kind=kind, name=title, room=shape.room, wall=place[0], along_m=place[1], circuit=lights[0].circuit
        )


def _is_wet(job: Job, shape: RoomShape) -> bool:
    return next(room.kind for room in job.rooms if room.id == shape.room) in ("bath", "shower")


def _circuit_for(job: Job, kind: PointKind, shape: RoomShape, word: str = "") -> Circuit | None:
    """The circuit that feeds such points: the one that has the typed word in its name, else one whose loads or name are of the room, else
    of its floor, else the only one left when those of other rooms and floors are taken away; else none."""
    wanted = _FEEDS.get(kind, ())
    open_to = [each for each in job.circuits if any(load.kind in wanted for load in each.loads)]
    names = {room.id: room.name.casefold() for room in job.rooms}
    called = [each for each in open_to if word and re.search(rf"\b{re.escape(word)}\b", each.name, re.IGNORECASE)]
    if len(called) == 1:
        return called[0]
    own = [each for each in open_to if _is_of_room(each, shape.room, names[shape.room])]
    floor = [each for each in open_to if _floor_of(each) == (1 if shape.level > 0 else 0)]
    others = [(id_, name) for id_, name in names.items() if id_ != shape.room]
    rest = [
        each
        for each in open_to
        if _floor_of(each) is None and not any(_is_of_room(each, id_, name) for id_, name in others)
    ]
    found = next((each for each in (own, floor, rest, open_to) if each), [])
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
    [shape, *_] = _rooms(job, line, [each for each in words if is_wall(each) is None])
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
