"""Conductors side by side in their channels, so that each can be followed by eye in a drawing. Their lengths are those of ``routes``."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from vivid_lattice.core.board.layout.rail_positions import PositionMm, RailPositions, Rectangle
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.wiring_list import Conductor

#: Middle to middle of two conductors in a drawing, where there is space for it [mm].
_PITCH_MM = 2.4
#: Two stretches in a lane end so far from each other [mm]; and what stays free beside a device or a bar.
_BETWEEN_MM, _BESIDE_MM = 3.0, 1.5
#: Corners nearer than this are at one height [mm].
_SAME_MM = 0.05
#: What comes from outside enters where there is space, not at a terminal.
_OUTSIDE = frozenset({"supply", "cable", "bond", "case"})


@dataclass(slots=True)
class _Path:
    """The corners of a conductor while they are moved: of each its x and y; and whether its ends may move."""

    corners: list[list[float]]
    free_start: bool
    free_end: bool


@dataclass(frozen=True, slots=True)
class _Stretch:
    """A straight piece of a path: from one of its corners to the next, with where it runs from and to."""

    path: _Path
    at: int
    low: float
    high: float
    #: On which side the paths leave it: below 0 before it, above 0 after it.
    leaves_to: float

    @property
    def length(self) -> float:
        """Length [mm]."""
        return self.high - self.low


def in_lanes(conductors: Sequence[Conductor], places: RailPositions) -> tuple[Conductor, ...]:
    """The conductors with corners as they are drawn: those that share a channel beside each other, the short ones nearest to
    where they leave it. Ends at terminals stay where they are; what a device plugs onto is no conductor that is seen."""
    paths = [_path_of(conductor) for conductor in conductors]
    obstacles = [*(placed.box for placed in places.placed.values()), *places.bars.values()]
    size = (places.width_mm, places.height_mm)
    seen = [path for path, conductor in zip(paths, conductors, strict=True) if conductor.kind != "plug"]
    for axis in (1, 0):  # what runs across first, then what runs down
        _separate(seen, axis, obstacles, size[axis])
    return tuple(
        replace(conductor, corners=tuple(PositionMm(x, y) for x, y in path.corners))
        for conductor, path in zip(conductors, paths, strict=True)
    )


def _path_of(conductor: Conductor) -> _Path:
    start, end = conductor.start.terminal, conductor.end.terminal
    return _Path([[corner.x, corner.y] for corner in conductor.corners], _is_outside(start), _is_outside(end))


def _is_outside(end: str) -> bool:
    terminal = Terminal(end)
    return terminal.kind in _OUTSIDE and not terminal.at_bar


def _separate(paths: Iterable[_Path], axis: int, obstacles: Sequence[Rectangle], size: float) -> None:
    """Moves the stretches along an axis (1: those of one height, 0: those that run down) apart within their channels."""
    channels: dict[float, list[_Stretch]] = {}
    for path in paths:
        for stretch in _movable(path, axis):
            channels.setdefault(round(path.corners[stretch.at][axis], 1), []).append(stretch)
    lanes = {at: _lanes(stretches) for at, stretches in channels.items()}
    for at, low, high in _windows(lanes, obstacles, axis, size):
        _spread(lanes[at], at, low, high, axis)


def _movable(path: _Path, axis: int) -> Iterable[_Stretch]:
    """The stretches of a path that may move across an axis: those that end at no terminal."""
    last = len(path.corners) - 2
    for at, (here, there) in enumerate(pairwise(path.corners)):
        fixed = (at == 0 and not path.free_start) or (at == last and not path.free_end)
        if fixed or abs(here[axis] - there[axis]) > _SAME_MM:
            continue
        if any(abs(beside[axis] - here[axis]) <= _SAME_MM for beside in _beside(path, at)):
            continue  # it goes straight on from a terminal, or back the way it came
        ends = sorted((here[1 - axis], there[1 - axis]))
        leaves = sum(beside[axis] - here[axis] for beside in _beside(path, at))
        yield _Stretch(path, at, ends[0], ends[1], leaves)


def _beside(path: _Path, at: int) -> list[list[float]]:
    """The corners before and after a stretch."""
    return [path.corners[beside] for beside in (at - 1, at + 2) if 0 <= beside < len(path.corners)]


def _lanes(stretches: Sequence[_Stretch]) -> list[list[_Stretch]]:
    """The stretches of a channel in as many lanes as they need: first those that leave to one side, then the others, each time
    the short ones at their own side."""
    before = [stretch for stretch in stretches if stretch.leaves_to < 0]
    after = [stretch for stretch in stretches if stretch.leaves_to >= 0]
    return [*_packed(before), *reversed(_packed(after))]


def _packed(stretches: Sequence[_Stretch]) -> list[list[_Stretch]]:
    lanes: list[list[_Stretch]] = []
    for stretch in sorted(stretches, key=lambda each: each.length):
        lane = next((lane for lane in lanes if all(_apart(stretch, other) for other in lane)), None)
        if lane is None:
            lanes.append([stretch])
        else:
            lane.append(stretch)
    return lanes


def _apart(one: _Stretch, other: _Stretch) -> bool:
    return one.high + _BETWEEN_MM < other.low or other.high + _BETWEEN_MM < one.low


def _windows(
    lanes: dict[float, list[list[_Stretch]]], obstacles: Sequence[Rectangle], axis: int, size: float
) -> Iterable[tuple[float, float, float]]:
    """Each channel with the space it has: to the next device or bar, and to its neighbour, shared by how many lanes both have."""
    order = sorted(lanes)
    for number, at in enumerate(order):
        low, high = _to_obstacles(at, [stretch for lane in lanes[at] for stretch in lane], obstacles, axis, size)
        if number > 0:
            low = max(low, _between(order[number - 1], at, lanes))
        if number + 1 < len(order):
            high = min(high, _between(at, order[number + 1], lanes))
        yield at, low, high


def _between(one: float, other: float, lanes: dict[float, list[list[_Stretch]]]) -> float:
    """Where the space of one channel ends and that of the next begins."""
    share = len(lanes[one]) / (len(lanes[one]) + len(lanes[other]))
    return one + (other - one) * share


def _to_obstacles(
    at: float, stretches: Sequence[_Stretch], obstacles: Sequence[Rectangle], axis: int, size: float
) -> tuple[float, float]:
    first, last = min(each.low for each in stretches), max(each.high for each in stretches)
    low, high = _BESIDE_MM, size - _BESIDE_MM
    for box in obstacles:
        across, down = (box.x, box.x + box.w), (box.y, box.y + box.h)
        (begins, ends), (start, stop) = (down, across) if axis else (across, down)
        if stop < first or start > last:
            continue
        if ends <= at:
            low = max(low, ends + _BESIDE_MM)
        elif begins >= at:
            high = min(high, begins - _BESIDE_MM)
    return min(low, at), max(high, at)


def _spread(lanes: Sequence[Sequence[_Stretch]], at: float, low: float, high: float, axis: int) -> None:
    pitch = min(_PITCH_MM, (high - low) / len(lanes))
    width = pitch * (len(lanes) - 1)
    first = min(max(at - width / 2, low), max(low, high - width))
    for number, lane in enumerate(lanes):
        for stretch in lane:
            for corner in (stretch.at, stretch.at + 1):
                stretch.path.corners[corner][axis] = first + number * pitch
