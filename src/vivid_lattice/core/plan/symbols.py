"""Lines that plans are drawn with [m]: symbols of points, what is fixed in rooms, leaves of doors.

Source  symbols: IEC 60617 (half circle for an outlet, circle with a stroke for a switch, cross for a light)
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping

from vivid_lattice.core.document.plan import FixtureKind, Wall
from vivid_lattice.core.plan.geometry.walls import Place

Stroke = tuple[Place, ...]

_OUTLETS = ("socket", "cooker", "connection-unit", "heater", "shaver", "charger", "shower")
_SWITCHES = ("switch", "dimmer", "pull-cord", "sensor")
#: Along the wall and into the room, by wall.
_AXES: Mapping[Wall, tuple[Place, Place]] = {
    "front": ((1, 0), (0, 1)), "back": ((-1, 0), (0, -1)), "left": ((0, -1), (1, 0)), "right": ((0, 1), (-1, 0)),
}  # fmt: skip


def symbol(kind: str, wall: Wall | None) -> tuple[Stroke, ...]:
    """The lines of a symbol about its point, turned so that it points from its wall into the room."""
    along, into = _AXES[wall or "front"]
    return tuple(
        tuple((round(x * along[0] + y * into[0], 4), round(x * along[1] + y * into[1], 4)) for x, y in stroke)
        for stroke in _strokes(kind)
    )


def _strokes(kind: str) -> tuple[Stroke, ...]:
    """The lines of a symbol with the room upwards."""
    if kind in _OUTLETS:
        bars: tuple[Stroke, ...] = (((0, 0.28), (0, 0.36)), ((-0.14, 0.28), (0.14, 0.28)), ((0, 0), (0, 0.14)))
        mark = () if kind == "socket" else (_arc((0, 0.14), 0.04, 0, 360),)
        return (_arc((0, 0.14), 0.14, 0, 180), *bars, *mark)
    if kind in _SWITCHES:
        cord = (_arc((0, 0.1), 0.03, 0, 360),) if kind == "pull-cord" else ()
        return (_arc((0, 0.1), 0.07, 0, 360), ((0.05, 0.15), (0.2, 0.34), (0.26, 0.29)), *cord)
    if kind == "board":
        return (((-0.22, 0), (0.22, 0), (0.22, 0.18), (-0.22, 0.18), (-0.22, 0), (0.22, 0.18)),)
    if kind in ("alarm", "fan"):
        inner: tuple[Stroke, ...] = (_arc((0, 0), 0.04, 0, 360),) if kind == "alarm" else _cross(0.09)
        return (_arc((0, 0), 0.13, 0, 360), *inner)
    if kind == "data":
        return (((-0.12, 0), (0, 0.22), (0.12, 0), (-0.12, 0)),)
    if kind == "junction-box":
        return _arc((0, 0), 0.07, 0, 360), _arc((0, 0), 0.035, 0, 360)
    return _cross(0.13)


def fixture(kind: FixtureKind, box: tuple[float, float, float, float]) -> tuple[Stroke, ...]:
    """The lines of something fixed, by the floor that it covers: its outline, and a mark inside."""
    x0, x1, y0, y1 = box
    outline: Stroke = ((x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0))
    middle, least = ((x0 + x1) / 2, (y0 + y1) / 2), min(x1 - x0, y1 - y0)
    if kind == "hob":
        rings = (
            _arc((x0 + (x1 - x0) * a, y0 + (y1 - y0) * b), least * 0.16, 0, 360)
            for a in (0.28, 0.72)
            for b in (0.28, 0.72)
        )
        return (outline, *rings)
    if kind in ("sink", "basin", "bath"):
        inset = least * 0.15
        x0, x1, y0, y1 = x0 + inset, x1 - inset, y0 + inset, y1 - inset
        return (outline, ((x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)), _arc(middle, least * 0.08, 0, 360))
    if kind == "shower-tray":
        return outline, ((x0, y0), (x1, y1)), ((x0, y1), (x1, y0))
    return (outline,)


def door_leaf(a: Place, b: Place, wall: Wall) -> tuple[Stroke, ...]:
    """A door that is open into its room: the leaf square to the wall at one end, and the way it swings."""
    _, into = _AXES[wall]
    wide = math.dist(a, b)
    tip = (a[0] + into[0] * wide, a[1] + into[1] * wide)
    to_b, to_tip = math.atan2(b[1] - a[1], b[0] - a[0]), math.atan2(into[1], into[0])
    turn = (to_tip - to_b + math.pi) % (2 * math.pi) - math.pi
    angles = (to_b + turn * number / 6 for number in range(7))
    return (a, tip), tuple(
        (round(a[0] + wide * math.cos(angle), 4), round(a[1] + wide * math.sin(angle), 4)) for angle in angles
    )


def _cross(half: float) -> tuple[Stroke, ...]:
    return ((-half, -half), (half, half)), ((-half, half), (half, -half))


def _arc(middle: Place, radius: float, first: float, last: float) -> Stroke:
    """A part of a circle as a line through points 15° apart."""
    return tuple(_on_circle(middle, radius, first, last))


def _on_circle(middle: Place, radius: float, first: float, last: float) -> Iterator[Place]:
    count = round(abs(last - first) / 15)
    for number in range(count + 1):
        angle = math.radians(first + (last - first) * number / count)
        yield round(middle[0] + radius * math.cos(angle), 4), round(middle[1] + radius * math.sin(angle), 4)
