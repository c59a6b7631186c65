"""A board on a wall, as it is typed: ``board hall left at 0.5``."""

from __future__ import annotations

import re

from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import BoardPlace, Wall
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.geometry.house import wall_length_m
from vivid_lattice.core.plan.typed.measures import metres
from vivid_lattice.core.plan.typed.named_rooms import is_wall, rooms_named
from vivid_lattice.core.plan.typed.read_point_line import AT, HEIGHT
from vivid_lattice.core.rules import rule_set

_BOARD = re.compile(r"^(?:consumer unit|board|switchboard|distribution board|panel|db)\b", re.IGNORECASE)


def is_board_line(line: str) -> bool:
    """Whether a line begins with a board."""
    return _BOARD.match(line.strip()) is not None


def enter_board(job: Job, line: str) -> Job:
    """The job with a board on a wall: the one that is named, else the next that has no place yet.

    Raises  EntryNotUnderstood where no room of the plan is named, or the job has no board
    """
    words = AT.sub("", HEIGHT.sub("", _BOARD.sub("", line.strip()))).split()
    [shape, *_] = rooms_named(job, line, [each for each in words if is_wall(each) is None])
    wall: Wall = next((found for each in words if (found := is_wall(each))), "left")
    at, height = AT.search(line), HEIGHT.search(line)
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
