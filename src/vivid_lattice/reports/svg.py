"""Drawings as SVG, to scale: of a board a millimetre is a millimetre."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape, quoteattr

from vivid_lattice.core.board.board_view import BoardView
from vivid_lattice.reports.drawing import CAPS, LAYERS, Dot, Layer, Path, Rect, Shape, shapes_of
from vivid_lattice.safe_text import without_controls

_STYLE = {
    "enclosure": 'fill="#ffffff" stroke="#526072" stroke-width="1"',
    "rails": 'fill="#e6ebf2" stroke="none"',
    "devices": 'fill="#ffffff" stroke="#526072" stroke-width="0.4"',
    "combs": 'fill="none"',
    "conductors": 'fill="none" stroke-linejoin="round"',
    "bars": 'fill="#dfe6f0" stroke="#526072" stroke-width="0.4"',
    "text": 'fill="#141b28" font-family="sans-serif"',
    "walls": 'fill="none" stroke-linejoin="miter"',
    "openings": 'fill="none"',
    "fixtures": 'fill="none"',
    "routes": 'fill="none" stroke-linejoin="round"',
    "points": 'fill="none" stroke="#141b28" stroke-width="20"',
}


def board_svg(view: BoardView, title: str, *, stands_alone: bool = True) -> str:
    """A board. ``stands_alone`` False: to be put into a page, which has a head of its own."""
    frame = Frame(view.width_mm, view.height_mm, margin_mm=4.0)
    return drawing_svg(shapes_of(view), frame, LAYERS, title, stands_alone=stands_alone)


@dataclass(frozen=True, slots=True)
class Frame:
    """What a drawing measures [mm]. ``scale``: of paper to the thing itself, so many to one."""

    wide_mm: float
    high_mm: float
    margin_mm: float
    scale: float = 1.0


def drawing_svg(
    shapes: Sequence[Shape], frame: Frame, layers: Sequence[Layer], title: str, *, stands_alone: bool = True
) -> str:
    """Some shapes, a group a layer."""
    margin = frame.margin_mm
    wide, high = frame.wide_mm + 2 * margin, frame.high_mm + 2 * margin
    head = '<?xml version="1.0" encoding="UTF-8"?>\n' if stands_alone else ""
    lines = [
        f'{head}<svg xmlns="http://www.w3.org/2000/svg" width="{wide / frame.scale:g}mm" height="{high / frame.scale:g}mm" '
        f'viewBox="{-margin:g} {-margin:g} {wide:g} {high:g}" role="img">',
        f"<title>{escape(without_controls(title))}</title>",
    ]
    for layer in layers:
        lines.append(f"<g id={quoteattr(layer)} {_STYLE[layer]}>")
        lines += [_element(shape) for shape in shapes if shape.layer == layer]
        lines.append("</g>")
    return "\n".join([*lines, "</svg>\n"])


def _element(shape: Shape) -> str:
    if isinstance(shape, Rect):
        return f'<rect x="{shape.x:g}" y="{shape.y:g}" width="{shape.w:g}" height="{shape.h:g}"/>'
    if isinstance(shape, Dot):
        return f'<circle cx="{shape.x:g}" cy="{shape.y:g}" r="{shape.r:g}"/>'
    if isinstance(shape, Path):
        points = " ".join(f"{x:g},{y:g}" for x, y in shape.points)
        return f'<polyline points="{points}" stroke="{shape.colour}" stroke-width="{shape.width_mm:g}"/>'
    text = without_controls(shape.text)
    size = shape.high_mm / CAPS
    # Without the face at hand its width is judged by a usual letter, so that a long name stays in its place.
    fits = (
        f' textLength="{shape.room_mm:g}" lengthAdjust="spacingAndGlyphs"'
        if len(text) * size * 0.55 > shape.room_mm
        else ""
    )
    turn = f' transform="rotate(-90 {shape.x:g} {shape.y:g})"' if shape.upright else ' text-anchor="middle"'
    return f'<text x="{shape.x:g}" y="{shape.y:g}" font-size="{size:.3g}"{turn}{fits}>{escape(text)}</text>'
