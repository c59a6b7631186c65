"""Where points go in a room when no place is stated: on the ceiling in a grid, beside the door, along walls and worktops."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import WALLS, PlanPoint, PointKind, RoomShape, Wall
from vivid_lattice.core.plan import clearances
from vivid_lattice.core.plan.geometry.house import House, wall_length_m
from vivid_lattice.core.plan.geometry.wall_line import round_the_room
from vivid_lattice.core.plan.geometry.walls import (
    FROM_CORNER_M,
    NEAR_CORNER_M,
    Stretch,
    by_the_door,
    free_stretches,
    spread,
)
from vivid_lattice.core.plan.typed.read_point_line import PointLine
from vivid_lattice.core.rules import rule_set

#: Half of what a board and a plate of two gangs take along a wall, with what is left beside it [m]. Common practice, no source.
_BOARD_M, PLATE_M = 0.35, 0.2
_SWITCHES: frozenset[PointKind] = frozenset({"switch", "pull-cord", "dimmer", "sensor"})


def places_for(job: Job, line: PointLine, shape: RoomShape) -> Iterator[dict[str, Any]]:
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
    rules = rule_set(job.job.rules).plan

    def barred(wall: Wall) -> Iterator[tuple[float, float]]:
        yield from clearances.barred(shape, wall, line.kind, height_m, rules)
        yield from _taken(job, shape, wall, height_m)

    stretches = free_stretches(shape, height_m, walls, barred=barred)
    if line.kind == "socket" and line.wall is None and not line.worktop and stretches:
        # Where every wall has to be near a socket, those by a corner may be nearer to it.
        clear_m = FROM_CORNER_M if rules.wall_spacing is None else NEAR_CORNER_M
        places = round_the_room(shape, height_m, line.count, from_corner_m=clear_m, barred=barred)
        yield from ({"wall": wall, "along_m": along} for wall, along in places)
        return
    if line.worktop:
        over = list(_over_worktops(shape, free_stretches(shape, height_m, walls, 0.0, barred)))
        if over:
            stretches = over
        elif line.wall is None and stretches:
            # A worktop that is not on the plan runs along one wall: the longest that is free.
            stretches = [max(stretches, key=lambda stretch: stretch.length_m)]
    yield from ({"wall": wall, "along_m": along} for wall, along in spread(stretches, line.count))


def _taken(job: Job, shape: RoomShape, wall: Wall, height_m: float) -> Iterator[tuple[float, float]]:
    """Parts of a wall that the board or another point of about that height has."""
    for place in job.plan.boards:
        if (place.room, place.wall) == (shape.room, wall):
            yield place.along_m - _BOARD_M, place.along_m + _BOARD_M
    house = House(job.plan, rule_set(job.job.rules).plan)
    for point in job.plan.points:
        here, along_m = (point.room, point.wall) == (shape.room, wall), point.along_m or 0.0
        if here and abs(house.point_height_m(point) - height_m) < PLATE_M:
            yield along_m - PLATE_M, along_m + PLATE_M


def _over_worktops(shape: RoomShape, free: list[Stretch]) -> Iterator[Stretch]:
    """The free parts of walls over the worktops of a room, broken by sinks and hobs."""
    for top, begin, end in clearances.worktop_spaces(shape):
        for stretch in (each for each in free if each.wall == top.wall):
            low, high = max(begin, stretch.from_m), min(end, stretch.to_m)
            if low < high:
                yield Stretch(top.wall, low, high)


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
