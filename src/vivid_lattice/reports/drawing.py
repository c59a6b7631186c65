"""Plain shapes to scale [mm], for every format that draws them, x to the right, y downwards; and a board as such shapes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.board.board_view import BoardView, DeviceView
from vivid_lattice.core.board.layout.rail_positions import Rectangle
from vivid_lattice.core.rules.conductor_colours import PAINTS, paint_of

Layer = Literal[
    "enclosure",
    "rails",
    "devices",
    "text",
    "bars",
    "combs",
    "conductors",
    "walls",
    "openings",
    "fixtures",
    "routes",
    "points",
]
#: Those of a board, from the back to the front.
LAYERS: tuple[Layer, ...] = ("enclosure", "rails", "devices", "combs", "conductors", "bars", "text")
#: Height of capital letters over the size of a face.
CAPS = 0.73
#: White insulation on white paper: as its shadow.
_WHITE_ON_PAPER = "#b9c0ca"


@dataclass(frozen=True, slots=True, kw_only=True)
class Rect:
    """A rectangle; ``filled``: with the ground of its layer."""

    layer: Layer
    x: float
    y: float
    w: float
    h: float
    filled: bool = True


@dataclass(frozen=True, slots=True)
class Path:
    """A line through points, in a colour."""

    layer: Layer
    points: tuple[tuple[float, float], ...]
    colour: str
    width_mm: float


@dataclass(frozen=True, slots=True)
class Dot:
    """A terminal."""

    layer: Layer
    x: float
    y: float
    r: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Label:
    """A text: where its middle (or its start, turned by 90°) is, and how high its letters are."""

    layer: Layer
    x: float
    y: float
    text: str
    high_mm: float
    upright: bool = False
    #: The greatest length it may take [mm]; what is longer is set narrower.
    room_mm: float = 60.0


Shape = Rect | Path | Dot | Label


def _paint(colour: str) -> str:
    """The paint of a conductor's colour on paper; black where none is named."""
    paint = paint_of(colour) or PAINTS["black"]
    return _WHITE_ON_PAPER if paint == PAINTS["white"] else paint


def shapes_of(view: BoardView, *, wires: bool = True) -> list[Shape]:
    """Everything of a board, from the back to the front."""
    shapes: list[Shape] = [Rect(layer="enclosure", x=0.0, y=0.0, w=view.width_mm, h=view.height_mm)]
    for row in view.rows:
        shapes.append(
            Rect(layer="rails", x=row.x, y=row.y, w=row.w, h=row.h)
            if view.form == "panelboard"
            else Rect(layer="rails", x=row.x - 6, y=row.y + row.h / 2 - 17, w=row.w + 12, h=34)
        )
    for unit in view.units:
        shapes += _unit(view, unit)
    for comb in view.combs:
        ends = [tooth.x for tooth in comb.teeth]
        y = comb.teeth[0].y
        shapes.append(Path("combs", ((min(ends), y - 5), (max(ends), y - 5)), PAINTS["brown"], 2.2))
        shapes += [
            Path("combs", ((tooth.x, y - 5), (tooth.x, y)), PAINTS["brown"], 1.2)
            for tooth in comb.teeth
            if not tooth.covered
        ]
    if wires:
        shapes += [
            Path("conductors", tuple((point.x, point.y) for point in conductor.corners), _paint(conductor.colour), 1.1)
            for conductor in view.conductors
            if len(conductor.corners) > 1
        ]
    for bar in view.bars:
        shapes.append(_box("bars", bar.box))
        shapes += [Dot("bars", screw.x, screw.y, 1.6) for screw in bar.screws]
        shapes += [
            Label(layer="text", x=screw.x, y=screw.y + 0.7, text=str(screw.number), high_mm=1.7) for screw in bar.screws
        ]
        shapes.append(
            Label(
                layer="text",
                x=bar.box.x + bar.box.w + 4.5,
                y=bar.box.y + bar.box.h,
                text=str(bar.title),
                high_mm=2.6,
                upright=True,
                room_mm=24,
            )
        )
    return shapes


def _box(layer: Layer, box: Rectangle) -> Rect:
    return Rect(layer=layer, x=box.x, y=box.y, w=box.w, h=box.h)


def _unit(view: BoardView, unit: DeviceView) -> list[Shape]:
    box = unit.box
    name = unit.name if unit.way is None else f"{unit.way} {unit.name}"
    shapes: list[Shape] = [Rect(layer="devices", x=box.x + 0.4, y=box.y, w=max(1.0, box.w - 0.8), h=box.h)]
    shapes += [Dot("devices", clamp.x, clamp.y, 1.7) for clamp in unit.clamps]
    if view.form == "panelboard" or box.w > 60:
        shapes.append(
            Label(
                layer="text", x=box.x + box.w / 2, y=box.y + box.h / 2, text=str(name), high_mm=4.0, room_mm=box.w - 4
            )
        )
        shapes.append(
            Label(
                layer="text",
                x=box.x + box.w / 2,
                y=box.y + box.h / 2 + 6,
                text=unit.mark,
                high_mm=3.4,
                room_mm=box.w - 4,
            )
        )
        return shapes
    # Name and mark stand upright beside each other between the terminals.
    foot = box.y + box.h - 16
    room = box.h - 30
    shapes.append(
        Label(layer="text", x=box.x + box.w / 2 - 1.2, y=foot, text=unit.mark, high_mm=2.9, upright=True, room_mm=room)
    )
    shapes.append(
        Label(layer="text", x=box.x + box.w / 2 + 4.4, y=foot, text=str(name), high_mm=3.6, upright=True, room_mm=room)
    )
    return shapes
