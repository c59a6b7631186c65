"""What walls are made of, as it is typed: ``kitchen walls masonry 100`` · ``walls stud 89 at 400``, of every room."""

from __future__ import annotations

import re

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.rooms import job_room
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.typed.measures import SMALL_MEASURE, millimetres
from vivid_lattice.core.plan.typed.room_line import WALL_KINDS

_LINE = re.compile(
    rf"^(?:(?P<room>.+?)\s)?walls\s(?P<kind>{'|'.join(WALL_KINDS)})(?:\s(?P<thick>{SMALL_MEASURE}))?"
    rf"(?:\sat\s(?P<centres>{SMALL_MEASURE}))?$",
    re.IGNORECASE,
)


def is_walls_line(line: str) -> bool:
    """Whether a line says what walls are made of."""
    return _LINE.match(" ".join(line.split())) is not None


def enter_walls(job: Job, line: str) -> Job:
    """The job with what the walls of a room are made of, or of every room: kind, thickness of masonry or depth of studs, and their
    centres [mm]. What is not stated stays.

    Raises  EntryNotUnderstood where the room is not on the plan
    """
    found = _LINE.match(" ".join(line.split()))
    assert found is not None
    room = job_room(job.rooms, found["room"]) if found["room"] else None
    if found["room"] and (room is None or all(shape.room != room.id for shape in job.plan.rooms)):
        raise EntryNotUnderstood(line, message(None, "core.plan.room.no_such", room=found["room"]))
    change: dict[str, object] = {"wall_kind": WALL_KINDS[found["kind"].lower()]}
    for name, field in (("thick", "wall_mm"), ("centres", "stud_centres_mm")):
        if found[name]:
            change[field] = millimetres(found[name])
    rooms = tuple(
        type(shape).model_validate({**shape.model_dump(), **change}) if room is None or shape.room == room.id else shape
        for shape in job.plan.rooms
    )
    return checked(job.model_copy(update={"plan": job.plan.model_copy(update={"rooms": rooms})}))
