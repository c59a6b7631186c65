"""What is fixed in a room, as it is typed: ``sink kitchen back at 1.2`` · ``worktop kitchen back at 0 width 3.2`` · ``bath bathroom left``."""

from __future__ import annotations

import re
from collections.abc import Mapping

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Fixture, FixtureKind, Wall
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.geometry.house import wall_length_m
from vivid_lattice.core.plan.typed.measures import MEASURE, metres
from vivid_lattice.core.plan.typed.named_rooms import is_wall, rooms_named
from vivid_lattice.core.plan.typed.read_point_line import names_point
from vivid_lattice.core.rules import rule_set

_WORDS: Mapping[str, FixtureKind] = {
    "sink": "sink", "basin": "basin", "washbasin": "basin", "hob top": "hob", "cooktop": "hob", "bath": "bath", "bathtub": "bath",
    "tub": "bath", "shower tray": "shower-tray", "shower enclosure": "shower-tray", "worktop": "worktop", "counter": "worktop",
    "countertop": "worktop",
}  # fmt: skip
_FIRST = re.compile(rf"^(?P<word>{'|'.join(sorted(_WORDS, key=len, reverse=True))})\s", re.IGNORECASE)
_AT = re.compile(rf"\bat\s(?P<m>{MEASURE})", re.IGNORECASE)
_WIDTH = re.compile(rf"\b(?:width|wide)\s(?P<m>{MEASURE})", re.IGNORECASE)
_DEPTH = re.compile(rf"\b(?:depth|deep)\s(?P<m>{MEASURE})", re.IGNORECASE)


def is_fixture_line(line: str) -> bool:
    """Whether a line begins with something that is fixed in a room, and names no kind of point after it."""
    first = _FIRST.match(line.strip())
    return first is not None and not names_point(line.strip()[first.end() :])


def enter_fixture(job: Job, line: str) -> Job:
    """The job with something fixed along a wall of a room; of its usual size, and in the middle of the wall, where nothing is stated.

    Raises  EntryNotUnderstood where no room of the plan or no wall is named, or it does not fit on the wall
    """
    first = _FIRST.match(line.strip())
    assert first is not None
    kind = _WORDS[first["word"].lower()]
    rest = line.strip()[first.end() :]
    at, width, depth = _AT.search(rest), _WIDTH.search(rest), _DEPTH.search(rest)
    for pattern in (_AT, _WIDTH, _DEPTH):
        rest = pattern.sub("", rest)
    words = rest.split()
    wall: Wall | None = next((found for each in words if (found := is_wall(each))), None)
    [shape, *_] = rooms_named(job, line, [each for each in words if is_wall(each) is None])
    if wall is None:
        raise EntryNotUnderstood(line, message(None, "core.plan.fixture.no_wall"))
    usual_width, usual_depth = rule_set(job.job.rules).plan.usual_fixture_m(kind)
    length = wall_length_m(shape, wall)
    wide = metres(width["m"]) if width else min(usual_width, length)
    start = metres(at["m"]) if at else max(0.0, round((length - wide) / 2, 2))
    if start + wide > length + 1e-6:
        raise EntryNotUnderstood(
            line, message(None, "core.plan.fixture.too_long", wall=f"{length:.2f}", end=f"{start + wide:.2f}")
        )
    made = Fixture(
        kind=kind, wall=wall, from_m=start, width_m=wide, depth_m=metres(depth["m"]) if depth else usual_depth
    )
    # One that is typed again at its place is moved, not doubled.
    others = tuple(
        each
        for each in shape.fixtures
        if (each.kind, each.wall) != (kind, wall) or (kind == "worktop" and each.from_m != start)
    )
    changed = shape.model_copy(update={"fixtures": (*others, made)})
    rooms = tuple(changed if each.room == shape.room else each for each in job.plan.rooms)
    return checked(job.model_copy(update={"plan": job.plan.model_copy(update={"rooms": rooms})}))
