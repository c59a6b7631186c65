"""Rooms and walls that some typed words name."""

from __future__ import annotations

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import RoomShape, Wall
from vivid_lattice.core.entry.rooms import job_room
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.messages import message


def rooms_named(job: Job, line: str, words: list[str]) -> list[RoomShape]:
    """The rooms of the plan that some words name, in their order.

    Raises  EntryNotUnderstood where they name none
    """
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


def is_wall(word: str) -> Wall | None:
    """The wall that a word names."""
    low = word.lower()
    return low if low in ("front", "right", "back", "left") else None  # type: ignore[return-value]
