"""The plan of a house as plain shapes in its own size [mm], its floors beside each other: walls, openings, routes, points and names."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from vivid_lattice.core.plan.drawing import Drawing, DrawnPoint, DrawnRoom
from vivid_lattice.reports.drawing import Label, Layer, Path, Shape

LAYERS: tuple[Layer, ...] = ("walls", "openings", "fixtures", "routes", "points", "text")
_MM, _GAP_M = 1000.0, 1.5
_INK, _SOFT, _GLASS, _PAPER, _CABLE = "#141b28", "#6b7686", "#2c7a8c", "#ffffff", "#2b4bdb"
_WALL_MM, _LINE_MM, _CABLE_MM, _LETTERS_MM = 90.0, 20.0, 25.0, 160.0
_Placing = Callable[[float, float], tuple[float, float]]


def plan_shapes(drawing: Drawing) -> tuple[list[Shape], float, float]:
    """The shapes, and how wide and high all of them are [mm]."""
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
                shapes += _point(point, place)
        x, y = place(left + wide / 2, low)
        shapes.append(
            Label(
                layer="text",
                x=x,
                y=y + 2.5 * _LETTERS_MM,
                text=str(drawing.names[level]),
                high_mm=_LETTERS_MM,
                room_mm=3000,
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
        yield from (Path("fixtures", tuple(place(*each) for each in leaf), _SOFT, _LINE_MM) for leaf in opening.leaf)
    for fixture in room.fixtures:
        for stroke in fixture.strokes:
            yield Path("fixtures", tuple(place(*each) for each in stroke), _SOFT, _LINE_MM)
    x, y = min(x for x, _ in corners), min(y for _, y in corners)
    wide = max(x for x, _ in corners) - x
    yield Label(
        layer="text", x=x + wide / 2, y=y + 2.5 * _LETTERS_MM, text=room.name, high_mm=_LETTERS_MM, room_mm=wide * 0.8
    )


def _point(point: DrawnPoint, place: _Placing) -> Iterator[Shape]:
    for stroke in point.strokes:
        yield Path("points", tuple(place(point.at[0] + x, point.at[1] + y) for x, y in stroke), _INK, _LINE_MM)
