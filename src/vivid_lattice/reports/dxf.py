"""Drawings as DXF, to scale in millimetres, a layer a kind of thing, y upwards."""

from __future__ import annotations

import io
from collections.abc import Sequence

from vivid_lattice.core.board.board_view import BoardView
from vivid_lattice.reports.drawing import LAYERS, Dot, Layer, Path, Rect, Shape, shapes_of
from vivid_lattice.safe_text import without_controls

#: Colours by the format's index, as near as it comes.
_COLOURS = {"enclosure": 7, "rails": 8, "devices": 7, "combs": 30, "conductors": 5, "bars": 4, "text": 7,
            "walls": 7, "openings": 4, "fixtures": 8, "routes": 5, "points": 7}  # fmt: skip


def board_dxf(view: BoardView) -> bytes:
    """A board. Every conductor is a polyline, every device a closed one."""
    return drawing_dxf(shapes_of(view), view.height_mm, LAYERS)


def drawing_dxf(shapes: Sequence[Shape], high_mm: float, layers: Sequence[Layer]) -> bytes:
    """Some shapes in their layers."""
    import ezdxf
    from ezdxf import colors, units

    drawing = ezdxf.new("R2010", setup=False)
    drawing.units = units.MM
    for layer in layers:
        drawing.layers.add(layer.upper(), color=_COLOURS[layer])
    space, high = drawing.modelspace(), high_mm

    def put(shape: Shape) -> None:
        more: dict[str, object] = {"layer": shape.layer.upper()}
        if isinstance(shape, Rect):
            x, y = shape.x, high - shape.y - shape.h
            corners = [(x, y), (x + shape.w, y), (x + shape.w, y + shape.h), (x, y + shape.h)]
            space.add_lwpolyline(corners, close=True, dxfattribs=more)
        elif isinstance(shape, Dot):
            space.add_circle((shape.x, high - shape.y), shape.r, dxfattribs=more)
        elif isinstance(shape, Path):
            red, green, blue = (int(shape.colour[at : at + 2], 16) for at in (1, 3, 5))
            more["true_color"] = colors.rgb2int((red, green, blue))
            space.add_lwpolyline([(x, high - y) for x, y in shape.points], dxfattribs=more)
        else:
            text = space.add_text(
                without_controls(shape.text).replace("\n", " "),
                height=shape.high_mm,
                rotation=90 if shape.upright else 0,
                dxfattribs=more,
            )
            text.dxf.insert = (shape.x, high - shape.y)

    for shape in shapes:
        put(shape)
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode("utf-8")
