"""A line of the plan: a floor, a room, what is fixed in it, a board or points. Lengths follow at once."""

from __future__ import annotations

import re

from pydantic import ValidationError

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.plan.typed.board_line import enter_board, is_board_line
from vivid_lattice.core.plan.typed.fixture_line import enter_fixture, is_fixture_line
from vivid_lattice.core.plan.typed.floor_line import enter_floor, is_floor_line
from vivid_lattice.core.plan.typed.point_line import enter_points
from vivid_lattice.core.plan.typed.room_line import enter_room
from vivid_lattice.core.plan.typed.walls_line import enter_walls, is_walls_line
from vivid_lattice.core.rules import rule_set

_ROOM = re.compile(r"\d\s?(?:m|ft|'|\")?\s?[x×]\s?\d", re.IGNORECASE)


def enter_plan_line(job: Job, line: str) -> Job:
    """The job with what a line states: how a floor or its walls are built, a room where it has two measures, something fixed, a board or points; with the
    runs that follow.

    Raises  EntryNotUnderstood where the line is not understood; nothing is changed then
    """
    try:
        made = _enter(job, line)
    except ValidationError as wrong:
        raise EntryNotUnderstood(line, _beyond(wrong)) from wrong
    return checked(with_planned_runs(made, rule_set(made.job.rules)))


def _beyond(wrong: ValidationError) -> Text:
    """Which measure is beyond what it can be, and the limit."""
    first = wrong.errors()[0]
    measure = str(first["loc"][-1]).removesuffix("_mm").removesuffix("_m").replace("_", " ")
    limits = first.get("ctx", {})
    most = limits.get("le", limits.get("lt"))
    key = "core.plan.limit.over" if most is not None else "core.plan.limit.under"
    limit = most if most is not None else limits.get("ge", limits.get("gt", 0))
    return message(None, key, measure=measure, value=f"{first['input']}", limit=f"{limit:g}")


def _enter(job: Job, line: str) -> Job:
    if is_floor_line(line):
        return enter_floor(job, line)
    if is_walls_line(line):
        return enter_walls(job, line)
    if _ROOM.search(line):
        return enter_room(job, line)
    if is_fixture_line(line):
        return enter_fixture(job, line)
    return enter_board(job, line) if is_board_line(line) else enter_points(job, line)
