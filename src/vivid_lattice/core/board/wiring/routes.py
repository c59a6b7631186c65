"""The way a conductor takes inside a board: along the channels between the rails, round their ends, never across a device."""

from __future__ import annotations

from itertools import pairwise

from vivid_lattice.core.board.layout.rail_positions import PositionMm, RailPositions
from vivid_lattice.core.board.terminal import Terminal

#: A conductor bends into its channel so far from a terminal, and so far from a bar's terminal [mm].
_BEND_MM, _BAR_MM = 16.0, 14.0
#: The channel above the columns of a panel [mm].
_TOP_MM = 26.0


def route(places: RailPositions, start: Terminal, end: Terminal) -> tuple[PositionMm, ...]:
    """The corners of a conductor's way between two ends: terminals of units, terminals of bars (by the terminal whose conductor
    goes there, ``bar>…``), entries.

    Raises  KeyError where an end belongs to a unit that has no place yet
    """
    return way(places, _at(places, start), _at(places, end))


def way(places: RailPositions, p: PositionMm, q: PositionMm) -> tuple[PositionMm, ...]:
    """The same between two places in the enclosure."""
    if places.enclosure.form == "panelboard":
        return _clean(_beside(places, p, q))
    return _clean(_between(places, p, q))


def length_mm(corners: tuple[PositionMm, ...]) -> float:
    """Length of a way [mm]."""
    return sum(abs(b.x - a.x) + abs(b.y - a.y) for a, b in pairwise(corners))


def _at(places: RailPositions, end: Terminal) -> PositionMm:
    if end.at_bar:
        screw = places.screw(end.without_bar)
        if screw is None:
            raise KeyError(end)
        return places.screw_point(screw)
    return places.point(end)


def _between(places: RailPositions, p: PositionMm, q: PositionMm) -> list[PositionMm]:
    """Rows: down (or up) into the channel beside the terminal, along it, and round the rails by the nearer side."""
    y1, y2 = _channel(places, p.y), _channel(places, q.y)
    if not _rail_between(places, y1, y2):
        return [p, PositionMm(p.x, y1), PositionMm(q.x, y1), q]
    left, right = places.rail_x - 14, places.width_mm - places.rail_x + 14
    side = left if p.x + q.x <= left + right else right
    return [p, PositionMm(p.x, y1), PositionMm(side, y1), PositionMm(side, y2), PositionMm(q.x, y2), q]


def _channel(places: RailPositions, y: float) -> float:
    """The channel that a terminal at this height leads into."""
    for row in range(1, places.enclosure.rows + 1):
        middle = places.rail_y(row)
        if abs(y - middle) <= 45:
            return y + _BEND_MM if y > middle else y - _BEND_MM
    return min(max(y, _BAR_MM + 16), places.height_mm - _BAR_MM - 16)


def _rail_between(places: RailPositions, y1: float, y2: float) -> bool:
    low, high = min(y1, y2), max(y1, y2)
    return any(low < places.rail_y(row) < high for row in range(1, places.enclosure.rows + 1))


def _beside(places: RailPositions, p: PositionMm, q: PositionMm) -> list[PositionMm]:
    """Columns: into the gutter beside them, and round them above where the other side is meant; from an entry at the top down into
    the channel above them first."""
    if q.y < _TOP_MM:
        return list(reversed(_beside(places, q, p))) if p.y >= _TOP_MM else [p, q]
    x1, x2 = _gutter(places, p.x), _gutter(places, q.x)
    if p.y < _TOP_MM:
        return [p, PositionMm(p.x, _TOP_MM), PositionMm(x2, _TOP_MM), PositionMm(x2, q.y), q]
    if x1 == x2:
        return [p, PositionMm(x1, p.y), PositionMm(x1, q.y), q]
    top = max(_TOP_MM, min(p.y, q.y, 155.0))
    return [p, PositionMm(x1, p.y), PositionMm(x1, top), PositionMm(x2, top), PositionMm(x2, q.y), q]


def _gutter(places: RailPositions, x: float) -> float:
    middle = places.width_mm / 2
    return middle - 100 if x < middle else middle + 100


def _clean(corners: list[PositionMm]) -> tuple[PositionMm, ...]:
    points = [corners[0]]
    for corner in corners[1:]:
        if corner != points[-1]:
            points.append(corner)
    return tuple(points)
