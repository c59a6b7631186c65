"""Sockets along the walls of rooms: how far any point of a wall is from the nearest, and how many a room needs at least."""

from __future__ import annotations

import itertools
import math
import re
from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import RoomShape
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.clearances import distance_m, footprint, worktop_spaces
from vivid_lattice.core.plan.geometry.house import House, on_wall
from vivid_lattice.core.plan.geometry.wall_line import WallLine
from vivid_lattice.core.rules.plan_rules import WallSpacing
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.sources import Source

#: Rooms that people live in, by their kind; of no kind of its own, all but those that are passed through or stored in.
_LIVED_IN = ("bedroom", "living")
_PASSED_THROUGH = re.compile(
    r"\b(hall|hallway|landing|stairs?|corridor|entry|foyer|porch|closet|pantry|store|utility|cupboard|loft|attic|wc|toilet)\b",
    re.IGNORECASE,
)
_HALL = re.compile(r"\b(hall|hallway|corridor|passage)\b", re.IGNORECASE)
_SLACK_M, _FOOT_M, _INCH_M = 1e-6, 0.3048, 0.0254
#: A socket that serves a worktop is higher than this [m]. Common practice, no source.
_WORKTOP_M = 0.9


@dataclass(frozen=True, slots=True, kw_only=True)
class WallSpace:
    """A part of the wall line of a room without a door in it [m]; ``closed``: all round. ``sockets``: where along it they are."""

    length_m: float
    sockets: tuple[float, ...]
    closed: bool = False

    @property
    def furthest_m(self) -> float:
        """How far the furthest point of it is from a socket; all of it where there is none."""
        if not self.sockets:
            return self.length_m
        gaps = [(b - a) / 2 for a, b in itertools.pairwise(self.sockets)]
        ends = [self.sockets[0], self.length_m - self.sockets[-1]]
        return max([*gaps, sum(ends) / 2] if self.closed else [*gaps, *ends])


@dataclass(frozen=True, slots=True, kw_only=True)
class SpacingGap:
    """A room whose walls are further from a socket than the standard lets them be."""

    room: str
    furthest_m: float
    reach_m: float
    needed: int
    present: int
    text: Text


def least_sockets(length_m: float, spacing: WallSpacing) -> int:
    """The fewest sockets of a wall space.

    Equation  n = ⌈w/2r⌉; none where w is less than the least space
    Source    NEC 210.52(A)
    """
    if length_m < spacing.least_m - _SLACK_M:
        return 0
    return math.ceil(length_m / (2 * spacing.reach_m) - _SLACK_M)


def spacing_gaps(job: Job, rules: RuleSet) -> tuple[SpacingGap, ...]:
    """Rooms of the plan where a point of a wall or of a worktop is too far from a socket, halls and basins without one. None where the
    standard has no such rule.

    The walls of kitchens are not judged: their cupboards are not on the plan.
    Source  NEC 210.52(A), (C), (D), (H)
    """
    return (*_along_walls(job, rules), *_along_worktops(job, rules), *_required(job, rules))


def _along_walls(job: Job, rules: RuleSet) -> tuple[SpacingGap, ...]:
    spacing = rules.plan.wall_spacing
    if spacing is None:
        return ()
    kinds = {room.id: (room.kind, room.name) for room in job.rooms}
    found = []
    for shape in job.plan.rooms:
        kind, name = kinds[shape.room]
        if kind not in _LIVED_IN and (kind != "ordinary" or _PASSED_THROUGH.search(name)):
            continue
        spaces = [each for each in wall_spaces(job, rules, shape) if least_sockets(each.length_m, spacing)]
        furthest = max((each.furthest_m for each in spaces), default=0.0)
        if furthest > spacing.reach_m + _SLACK_M:
            needed = sum(least_sockets(each.length_m, spacing) for each in spaces)
            present = sum(len(each.sockets) for each in spaces)
            text = message(
                rules.words, "core.plan.spacing.gap", room=name, furthest=f"{math.ceil(10 * furthest / _FOOT_M - _SLACK_M) / 10:g}",
                reach=f"{spacing.reach_m / _FOOT_M:g}", needed=needed, present=present, publication=spacing.source.publication,
            )  # fmt: skip
            found.append(
                SpacingGap(
                    room=shape.room,
                    furthest_m=furthest,
                    reach_m=spacing.reach_m,
                    needed=needed,
                    present=present,
                    text=text,
                )
            )
    return tuple(found)


def _along_worktops(job: Job, rules: RuleSet) -> Iterator[SpacingGap]:
    """Spaces of worktops, each broken by a sink or a hob in its wall, where a point is too far from a socket above it."""
    spacing = rules.plan.counter_spacing
    if spacing is None:
        return
    names = {room.id: room.name for room in job.rooms}
    for shape in job.plan.rooms:
        spaces = [space for space in counter_spaces(job, rules, shape) if least_sockets(space.length_m, spacing)]
        furthest = max((space.furthest_m for space in spaces), default=0.0)
        if furthest > spacing.reach_m + _SLACK_M:
            needed = sum(least_sockets(space.length_m, spacing) for space in spaces)
            present = sum(len(space.sockets) for space in spaces)
            text = message(
                rules.words, "core.plan.spacing.counter", room=names[shape.room],
                furthest=f"{math.ceil(furthest / _INCH_M - _SLACK_M)}", reach=f"{spacing.reach_m / _INCH_M:g}", needed=needed,
                present=present, publication=spacing.source.publication,
            )  # fmt: skip
            yield SpacingGap(
                room=shape.room, furthest_m=furthest, reach_m=spacing.reach_m, needed=needed, present=present, text=text
            )


def counter_spaces(job: Job, rules: RuleSet, shape: RoomShape) -> tuple[WallSpace, ...]:
    """The worktops of a room along their walls, broken by sinks and hobs, with the sockets above them."""
    spacing, house = rules.plan.counter_spacing, House(job.plan, rules.plan)
    if spacing is None:
        return ()
    found = []
    for top, begin, end in worktop_spaces(shape):
        sockets = sorted(
            (point.along_m or 0.0) - begin
            for point in job.plan.points
            if (point.room, point.wall, point.kind) == (shape.room, top.wall, "socket")
            and begin - _SLACK_M <= (point.along_m or 0.0) <= end + _SLACK_M
            and house.point_height_m(point) <= spacing.highest_m
            and (point.above_worktop or house.point_height_m(point) > _WORKTOP_M)
        )
        found.append(WallSpace(length_m=end - begin, sockets=tuple(sockets)))
    return tuple(found)


def _required(job: Job, rules: RuleSet) -> Iterator[SpacingGap]:
    """Long halls without a socket, and basins without one near them."""
    house = House(job.plan, rules.plan)
    names = {room.id: room.name for room in job.rooms}

    def lack(shape: RoomShape, key: str, found_m: float, limit: tuple[float, Source]) -> SpacingGap:
        text = message(
            rules.words, key, room=names[shape.room], limit=f"{limit[0] / _FOOT_M:g}", publication=limit[1].publication
        )
        return SpacingGap(room=shape.room, furthest_m=found_m, reach_m=limit[0], needed=1, present=0, text=text)

    hall, basin = rules.plan.required_within_m("hallway"), rules.plan.required_within_m("basin")
    for shape in job.plan.rooms:
        sockets = [
            house.spot_of(point) for point in job.plan.points if point.room == shape.room and point.kind == "socket"
        ]
        long_m = max(shape.width_m, shape.depth_m)
        if hall is not None and _HALL.search(names[shape.room]) and long_m >= hall[0] - _SLACK_M and not sockets:
            yield lack(shape, "core.plan.spacing.hall", long_m, hall)
        for fixture in shape.fixtures:
            if basin is None or fixture.kind != "basin":
                continue
            box = footprint(shape, fixture)
            nearest = min((distance_m((spot.x_m, spot.y_m), box) for spot in sockets), default=math.inf)
            if nearest > basin[0] + _SLACK_M:
                yield lack(shape, "core.plan.spacing.basin", nearest, basin)


def wall_spaces(job: Job, rules: RuleSet, shape: RoomShape) -> tuple[WallSpace, ...]:
    """The wall line of a room, measured round its corners and broken at its doors and gaps, with the sockets that count: no higher than
    the standard lets them be, and none above a worktop."""
    spacing, house = rules.plan.wall_spacing, House(job.plan, rules.plan)
    if spacing is None:
        return ()
    line = WallLine(shape)
    sockets = [
        line.at(on_wall(shape, point.wall, point.along_m))
        for point in job.plan.points
        if point.room == shape.room and point.kind == "socket" and not point.above_worktop
        if point.wall is not None and point.along_m is not None and house.point_height_m(point) <= spacing.highest_m
    ]
    return tuple(
        WallSpace(
            length_m=length,
            sockets=tuple(
                sorted(at for each in sockets if (at := (each - begin) % line.length_m) <= length + _SLACK_M)
            ),
            closed=line.closed,
        )
        for begin, length in line.spaces
    )
