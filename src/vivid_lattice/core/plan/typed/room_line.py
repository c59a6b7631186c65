"""A room as it is typed: ``kitchen 4.2 x 3.6 h 2.4 right of hall door front 0.9 at 1.2``."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Corner, Notch, Opening, RoomShape, WallKind
from vivid_lattice.core.entry.rooms import job_room, named_room, with_room
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.geometry.house import boxes_of
from vivid_lattice.core.plan.typed.measures import MEASURE, NUMBER, metres

_SIZE = re.compile(rf"(?P<a>{MEASURE})\s?[x×]\s?(?P<b>{MEASURE})", re.IGNORECASE)
_HEIGHT = re.compile(rf"\b(?:h|height|high)\s?(?P<h>{MEASURE})", re.IGNORECASE)
_NOTCH = re.compile(
    rf"\b(?:less|l)\s(?P<a>{MEASURE})\s?[x×]\s?(?P<b>{MEASURE})\s(?P<corner>(?:front|back)[ -](?:left|right))",
    re.IGNORECASE,
)
_OPENING = re.compile(
    rf"\b(?P<kind>door|window|gap)\s(?P<wall>front|right|back|left)(?:\s(?P<width>{MEASURE}))?(?:\sat\s(?P<at>{MEASURE}))?"
    rf"(?:\ssill\s(?P<sill>{MEASURE}))?",
    re.IGNORECASE,
)
_PLACED = re.compile(
    r"\b(?P<side>left of|right of|behind|in front of|above|over|below|under)\s(?P<room>.+?)(?=$|\s(?:door|window|gap|h|height|less|offset|open|masonry|brick|insulated|metal|stud|external)\b)",
    re.IGNORECASE,
)
#: Where its left front corner is, from the plan's own, on which floor: ``place 3.1 2.4`` or ``place 3.1 2.4 floor 1``.
_AT_PLACE = re.compile(rf"\bplace\s(?P<x>-?{NUMBER})\s(?P<y>-?{NUMBER})(?:\sfloor\s(?P<level>-?\d+))?", re.IGNORECASE)
_OPEN_ABOVE = re.compile(r"\bopen above\b", re.IGNORECASE)
_OFFSET = re.compile(rf"\boffset\s(?P<m>-?{NUMBER})\s?m?", re.IGNORECASE)
#: What walls are made of, as it is typed; words of more than one first.
WALL_KINDS: dict[str, WallKind] = {
    "masonry": "masonry", "brick": "masonry", "insulated stud": "stud-insulated", "metal stud": "metal-stud", "stud": "stud", "external": "external",
}  # fmt: skip
#: Usual widths and sills [m]. Common practice, no source.
_DOOR_M, _WINDOW_M, _SILL_M, _HEAD_M = 0.8, 1.2, 0.9, 2.1


@dataclass(slots=True)
class _Read:
    """What is left of a line as its parts are read."""

    rest: str
    openings: list[Opening] = field(default_factory=list)

    def take(self, pattern: re.Pattern[str]) -> re.Match[str] | None:
        """The first match, which is gone from the rest then."""
        found = pattern.search(self.rest)
        if found is not None:
            self.rest = " ".join((self.rest[: found.start()] + " " + self.rest[found.end() :]).split())
        return found


def enter_room(job: Job, line: str) -> Job:
    """The job with a room that a line states, new or with other measures; its kind by its name.

    Raises  EntryNotUnderstood where the line has no measures, names no room, or places it beside one that is not on the plan
    """
    read = _Read(" ".join(line.split()))
    notch, size, height = read.take(_NOTCH), None, read.take(_HEIGHT)
    at_place = read.take(_AT_PLACE)
    placed, offset = read.take(_PLACED), read.take(_OFFSET)
    while opening := read.take(_OPENING):
        read.openings.append(_opening(opening))
    size = read.take(_SIZE)
    if size is None:
        raise EntryNotUnderstood(line, message(None, "core.plan.room.no_size"))
    kind = next((word for word in WALL_KINDS if re.search(rf"\b{word}\b", read.rest, re.IGNORECASE)), None)
    if kind is not None:
        read.rest = re.sub(rf"\b{kind}\b", "", read.rest, flags=re.IGNORECASE)
    open_above = read.take(_OPEN_ABOVE) is not None
    name = read.rest.strip(" ,")
    if not name or _SIZE.search(name):
        raise EntryNotUnderstood(line, message(None, "core.plan.room.no_name"))
    job, room = _room(job, name)
    before = next((shape for shape in job.plan.rooms if shape.room == room), None)
    width, depth = metres(size["a"]), metres(size["b"])
    level, x, y = _place(job, line, width, depth, placed, offset, before)
    if at_place is not None:
        level = int(at_place["level"] or 0)
        x, y = (float(at_place[axis].replace(",", ".")) for axis in ("x", "y"))
    openings = tuple(read.openings) or (before.openings if before else ())
    _openings_fit(line, openings, width, depth)
    shape = RoomShape(
        room=room, level=level, x_m=x, y_m=y, width_m=width, depth_m=depth,
        height_m=metres(height["h"]) if height else before.height_m if before else 2.4,
        notch=_notch(notch) if notch else None,
        open_above=open_above or (before is not None and before.open_above),
        openings=openings,
        fixtures=before.fixtures if before else (),
        wall_kind=WALL_KINDS[kind] if kind else before.wall_kind if before else None,
        wall_mm=before.wall_mm if before else None,
        stud_centres_mm=before.stud_centres_mm if before else None,
    )  # fmt: skip
    others = tuple(each for each in job.plan.rooms if each.room != room)
    _apart(line, shape, others, job)
    plan = job.plan.model_copy(update={"rooms": (*others, shape)})
    return checked(job.model_copy(update={"plan": plan}))


def _room(job: Job, name: str) -> tuple[Job, str]:
    """The id of the room of a name: one of the job, or a new one."""
    known = job_room(job.rooms, name)
    if known is not None:
        return job, known.id
    rooms, room = with_room(job.rooms, named_room(name, job.rooms))
    return job.model_copy(update={"rooms": rooms}), room


def _opening(found: re.Match[str]) -> Opening:
    kind, wall = found["kind"].lower(), found["wall"].lower()
    width = metres(found["width"]) if found["width"] else _WINDOW_M if kind == "window" else _DOOR_M
    sill = metres(found["sill"]) if found["sill"] else _SILL_M if kind == "window" else 0.0
    return Opening(
        kind=kind,  # type: ignore[arg-type]
        wall=wall,  # type: ignore[arg-type]
        from_m=metres(found["at"]) if found["at"] else 0.3,
        width_m=width,
        sill_m=sill,
        head_m=_HEAD_M,
    )


def _notch(found: re.Match[str]) -> Notch:
    corner: Corner = found["corner"].lower().replace(" ", "-")  # type: ignore[assignment]
    return Notch(corner=corner, width_m=metres(found["a"]), depth_m=metres(found["b"]))


def _place(
    job: Job,
    line: str,
    width: float,
    depth: float,
    placed: re.Match[str] | None,
    offset: re.Match[str] | None,
    before: RoomShape | None,
) -> tuple[int, float, float]:
    """Level, x and y: beside the room that is named, where it was, or to the right of the last."""
    shift = float(offset["m"].replace(",", ".")) if offset else 0.0
    if placed is None:
        if before is not None:
            return before.level, before.x_m, before.y_m
        ground = [shape for shape in job.plan.rooms if shape.level == 0]
        return (0, max((shape.x_m + shape.width_m for shape in ground), default=0.0), 0.0)
    room = job_room(job.rooms, placed["room"])
    beside = next((shape for shape in job.plan.rooms if room is not None and shape.room == room.id), None)
    if beside is None:
        raise EntryNotUnderstood(placed["room"], message(None, "core.plan.room.no_such", room=placed["room"]))
    side = placed["side"].lower()
    x, y = round(beside.x_m + shift, 3), round(beside.y_m + shift, 3)
    return {
        "left of": (beside.level, round(beside.x_m - width, 3), y),
        "right of": (beside.level, round(beside.x_m + beside.width_m, 3), y),
        "behind": (beside.level, x, round(beside.y_m + beside.depth_m, 3)),
        "in front of": (beside.level, x, round(beside.y_m - depth, 3)),
        "above": (beside.level + 1, x, beside.y_m),
        "over": (beside.level + 1, x, beside.y_m),
        "below": (beside.level - 1, x, beside.y_m),
        "under": (beside.level - 1, x, beside.y_m),
    }[side]


def _openings_fit(line: str, openings: Sequence[Opening], width_m: float, depth_m: float) -> None:
    """A door or window ends where its wall does."""
    for opening in openings:
        length, end = width_m if opening.wall in ("front", "back") else depth_m, opening.from_m + opening.width_m
        if end > length + 1e-6:
            raise EntryNotUnderstood(
                line,
                message(
                    None,
                    "core.plan.room.opening",
                    kind=opening.kind,
                    end=f"{end:.2f}",
                    wall=opening.wall,
                    length=f"{length:.2f}",
                ),
            )


def _apart(line: str, shape: RoomShape, others: Sequence[RoomShape], job: Job) -> None:
    """Two rooms of a floor do not overlap; a missing corner is free for another."""
    names = {room.id: room.name for room in job.rooms}
    for other in others:
        if other.level == shape.level and _overlap(shape, other):
            raise EntryNotUnderstood(
                line, message(None, "core.plan.room.overlap", room=names[shape.room], other=names[other.room])
            )


def _overlap(a: RoomShape, b: RoomShape) -> bool:
    """Whether two rooms cover each other; a missing corner is free."""
    slack = 0.01
    return any(
        ax0 + slack < bx1 and bx0 + slack < ax1 and ay0 + slack < by1 and by0 + slack < ay1
        for ax0, ax1, ay0, ay1 in boxes_of(a)
        for bx0, bx1, by0, by1 in boxes_of(b)
    )
