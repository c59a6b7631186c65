"""The plan of a house as plain shapes in its own size [mm], its floors beside each other: walls, openings, routes, points and names."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence

from vivid_lattice.core.plan.drawing import Drawing, DrawnPoint, DrawnRoom
from vivid_lattice.reports.drawing import Dot, Label, Layer, Path, Shape

LAYERS: tuple[Layer, ...] = ("walls", "openings", "routes", "points", "text")
_MM, _GAP_M = 1000.0, 1.5
_INK, _GLASS, _PAPER, _CABLE = "#141b28", "#2c7a8c", "#ffffff", "#2b4bdb"
_WALL_MM, _LINE_MM, _CABLE_MM, _LETTERS_MM = 90.0, 20.0, 25.0, 160.0
#: How far a symbol is turned so that it points into the room [degrees], by the wall it is on.
_TURNS: Mapping[str | None, float] = {None: 0.0, "front": 0.0, "left": 90.0, "right": -90.0, "back": 180.0}
_OUTLETS = ("socket", "cooker", "connection-unit", "heater", "shaver", "charger", "shower")
_SWITCHES = ("switch", "dimmer", "pull-cord", "sensor")
_Stroke = Sequence[tuple[float, float]]
_Placing = Callable[[float, float], tuple[float, float]]


def plan_shapes(drawing: Drawing, floor_names: Mapping[int, str]) -> tuple[list[Shape], float, float]:
    """The shapes, and how wide and high all of them are [mm].

    Source  symbols: IEC 60617 (half circle for an outlet, circle with a stroke for a switch, cross for a light)
    """
    across = [corner for room in drawing.rooms for corner in room.corners]
    left, low = min(x for x, _ in across), min(y for _, y in across)
    wide, deep = max(x for x, _ in across) - left, max(y for _, y in across) - low
    shapes: list[Shape] = []
    for number, level in enumerate(drawing.levels):
        from_left = number * (wide + _GAP_M) - left

        def place(x: float, y: float, from_left: float = from_left) -> tuple[float, float]:
            return (x + from_left) * _MM, (low + deep - y) * _MM

        for room in drawing.rooms:
            if room.level == level:
                shapes += _room(room, place)
        shapes += [
            Path("routes", tuple(place(*corner) for corner in section.corners), _CABLE, _CABLE_MM)
            for section in drawing.sections
            if section.level == level
        ]
        for point in drawing.points:
            if point.level == level:
                shapes += _point(point, place(*point.at))
        x, y = place(left + wide / 2, low)
        shapes.append(
            Label(
                layer="text", x=x, y=y + 2.5 * _LETTERS_MM, text=floor_names[level], high_mm=_LETTERS_MM, room_mm=3000
            )
        )
    count = len(drawing.levels)
    return shapes, (count * wide + (count - 1) * _GAP_M) * _MM, deep * _MM + 3 * _LETTERS_MM


def _room(room: DrawnRoom, place: _Placing) -> Iterator[Shape]:
    corners = [place(*corner) for corner in room.corners]
    yield Path("walls", (*corners, corners[0]), _INK, _WALL_MM)
    for opening in room.openings:
        colour = _GLASS if opening.kind == "window" else _PAPER
        yield Path("openings", (place(*opening.a), place(*opening.b)), colour, _WALL_MM)
    x, y = min(x for x, _ in corners), min(y for _, y in corners)
    wide = max(x for x, _ in corners) - x
    yield Label(
        layer="text", x=x + wide / 2, y=y + 2.5 * _LETTERS_MM, text=room.name, high_mm=_LETTERS_MM, room_mm=wide * 0.8
    )


def _point(point: DrawnPoint, at: tuple[float, float]) -> Iterator[Shape]:
    turn = math.radians(_TURNS[point.wall])
    for stroke in _strokes(point.kind):
        turned = [
            (at[0] + x * math.cos(turn) - y * math.sin(turn), at[1] + x * math.sin(turn) + y * math.cos(turn))
            for x, y in stroke
        ]
        yield Path("points", tuple(turned), _INK, _LINE_MM)
    if point.kind == "junction-box":
        yield Dot("points", *at, 70.0)


def _strokes(kind: str) -> tuple[_Stroke, ...]:
    """The lines of a symbol about its point [mm]; on a wall the room is upwards, where y falls."""
    if kind in _OUTLETS:
        cup = _arc((0.0, -140.0), 140.0, 0.0, 180.0)
        bars: tuple[_Stroke, ...] = (((0, -280), (0, -360)), ((-140, -280), (140, -280)), ((0, 0), (0, -140)))
        mark: tuple[_Stroke, ...] = () if kind == "socket" else (_arc((0.0, -140.0), 40.0, 0.0, 360.0),)
        return (cup, *bars, *mark)
    if kind in _SWITCHES:
        return (_arc((0.0, -100.0), 70.0, 0.0, 360.0), ((50, -150), (200, -340), (260, -290)))
    if kind == "board":
        return (((-220, 0), (220, 0), (220, -180), (-220, -180), (-220, 0), (220, -180)),)
    if kind in ("alarm", "fan"):
        inner: _Stroke = _arc((0.0, 0.0), 40.0, 0.0, 360.0) if kind == "alarm" else ((-90, -90), (90, 90))
        return (_arc((0.0, 0.0), 130.0, 0.0, 360.0), inner)
    if kind == "data":
        return (((-120, 0), (0, -220), (120, 0), (-120, 0)),)
    if kind == "junction-box":
        return ()
    return (((-130, -130), (130, 130)), ((-130, 130), (130, -130)))


def _arc(middle: tuple[float, float], radius: float, first: float, last: float) -> _Stroke:
    """A part of a circle as a line through points 15° apart."""
    count = round(abs(last - first) / 15)
    angles = (math.radians(first + (last - first) * number / count) for number in range(count + 1))
    return [(middle[0] + radius * math.cos(angle), middle[1] - radius * math.sin(angle)) for angle in angles]
