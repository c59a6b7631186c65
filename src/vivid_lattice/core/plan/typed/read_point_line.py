"""A typed line of points in parts: how many of what, where, at what height, and what switches them."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import PointKind, RoomShape, Wall
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.typed.measures import metres
from vivid_lattice.core.plan.typed.named_rooms import is_wall, rooms_named

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
#: How far along a wall, and how high.
AT = re.compile(r"\bat\s(?P<at>[\d.,]+\s?(?:m|ft|')?)", re.IGNORECASE)
HEIGHT = re.compile(r"\b(?:h|height|high)\s?(?P<h>[\d.,]+\s?(?:m|ft|')?)", re.IGNORECASE)
#: An outlet or a sensor in the plate of the switch, or beside it.
_WITH_SWITCH = re.compile(r"\b(?:with|at|beside) the switch\b", re.IGNORECASE)
#: What lights are switched by: the first of two-way switches is a dimmer then.
_SWITCHED_BY = re.compile(r"\bwith (?:an? )?(?P<kind>dimmer|pull[ -]cord|motion sensor|sensor|pir)\b", re.IGNORECASE)


@dataclass(slots=True)
class PointLine:
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


def read_point_line(job: Job, line: str) -> PointLine:
    """The parts of a line.

    Raises  EntryNotUnderstood where it names no kind of point or no room of the plan
    """
    low = " ".join(line.lower().split())
    ways = _WAYS.search(low)
    rest = _WAYS.sub("", low).strip()
    at, height = AT.search(rest), HEIGHT.search(rest)
    rest = HEIGHT.sub("", AT.sub("", rest)).strip()
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
    return PointLine(
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
