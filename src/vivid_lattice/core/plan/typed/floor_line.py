"""How a floor is built, as it is typed: ``ground floor void 0.3 joists across depth 225 centres 400 span 3.6`` · ``first floor above loft
insulation 270``."""

from __future__ import annotations

import re
from typing import Any

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import FloorBuild
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.typed.measures import MEASURE, SMALL_MEASURE, metres, millimetres
from vivid_lattice.core.rules import rule_set

#: Floors by name; those with a number are counted from what people call the first.
_NAMED = {"basement": -1, "ground floor": 0}
_NUMBERED = ("first floor", "second floor", "third floor")
_FIRST = re.compile(rf"^(?:(?P<name>{'|'.join((*_NAMED, *_NUMBERED))})|floor\s(?P<level>-?\d+))\b", re.IGNORECASE)
_LENGTHS = {"void": "void_m", "under": "under_m", "thickness": "thickness_m"}
_JOISTS = {"across": "x", "along": "y", "none": "none"}
_KINDS = {"solid": "solid", "engineered": "engineered"}
_OF_JOISTS = {"depth": "joist_depth_mm", "centres": "joist_centres_mm", "centers": "joist_centres_mm"}
_ABOVE = {"loft": "loft", "floor": "floor", "flat roof": "flat-roof"}
_SETTINGS = re.compile(
    r"\b(void|under|thickness|joists|depth|centres|centers|span|timber|above|insulation)\s", re.IGNORECASE
)
_CABLES = re.compile(r"^cables?\s(?P<how>apart|together)$", re.IGNORECASE)


def is_floor_line(line: str) -> bool:
    """Whether a line says how a floor is built, or how cables lie beside each other."""
    text = line.strip()
    return bool(_CABLES.match(text) or (_FIRST.match(text) and _SETTINGS.search(text)))


def enter_floor(job: Job, line: str) -> Job:
    """The job with how a floor is built: depths [m], joists with depth and centres [mm] and span [m], what is above, insulation on its
    ceiling [mm]; or with cables apart or together.

    Raises  EntryNotUnderstood where a setting has no value that it can have
    """
    text = " ".join(line.split())
    cables = _CABLES.match(text)
    if cables is not None:
        plan = job.plan.model_copy(update={"apart": cables["how"].lower() == "apart"})
        return checked(job.model_copy(update={"plan": plan}))
    first = _FIRST.match(text)
    assert first is not None
    level = _level(first["name"].lower(), job) if first["name"] else int(first["level"])
    more = dict(_setting(line, part) for part in _parts(text[first.end() :]))
    before = next((floor for floor in job.plan.floors if floor.level == level), FloorBuild(level=level))
    others = tuple(floor for floor in job.plan.floors if floor.level != level)
    made = FloorBuild.model_validate({**before.model_dump(), **more})
    floors = tuple(sorted((*others, made), key=lambda floor: floor.level))
    return checked(job.model_copy(update={"plan": job.plan.model_copy(update={"floors": floors})}))


def _level(name: str, job: Job) -> int:
    if name in _NAMED:
        return _NAMED[name]
    return rule_set(job.job.rules).plan.first_floor + _NUMBERED.index(name)


def _parts(text: str) -> list[str]:
    """Each setting with its value."""
    starts = [found.start() for found in _SETTINGS.finditer(text)]
    return [text[start:end].strip(" ,") for start, end in zip(starts, [*starts[1:], len(text)], strict=True)]


def _setting(line: str, part: str) -> tuple[str, Any]:
    word, _, value = part.lower().partition(" ")
    if word in _LENGTHS and re.fullmatch(MEASURE, value):
        return _LENGTHS[word], metres(value)
    if word == "joists" and value in _JOISTS:
        return "joists", _JOISTS[value]
    if word in _OF_JOISTS and re.fullmatch(SMALL_MEASURE, value):
        return _OF_JOISTS[word], millimetres(value)
    if word == "span" and re.fullmatch(MEASURE, value):
        return "joist_span_m", metres(value)
    if word == "timber" and value in _KINDS:
        return "joist_kind", _KINDS[value]
    if word == "above" and value in _ABOVE:
        return "above", _ABOVE[value]
    number = re.fullmatch(r"(\d+(?:\.\d+)?)\s?(?:mm)?", value)
    if word == "insulation" and (number or value == "none"):
        return "insulation_mm", float(number[1]) if number else 0.0
    raise EntryNotUnderstood(line, message(None, "core.plan.floor.setting", part=part))
