"""Shapes of a drawing on a PDF page: as large as fits, or at a scale."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable

from vivid_lattice.reports import style
from vivid_lattice.reports.drawing import CAPS, Dot, Label, Path, Rect, Shape
from vivid_lattice.reports.fonts import REGULAR, printable, width_pt

_FILLS = {"enclosure": style.WHITE, "rails": style.WASH, "devices": style.WHITE, "bars": HexColor("#dfe6f0")}


class Art(Flowable):
    """A drawing as wide as the page lets it be, no higher than ``most_mm``; or at a scale."""

    def __init__(
        self,
        shapes: Sequence[Shape],
        width_mm: float,
        height_mm: float,
        most_mm: float = 150,
        scale: float | None = None,
    ):
        super().__init__()
        self._shapes, self._size, self._most = shapes, (width_mm, height_mm), most_mm
        self._fixed, self._scale = scale, 1.0

    def wrap(self, availWidth: float, availHeight: float) -> tuple[float, float]:
        """Its size on the page."""
        del availHeight
        wide, high = self._size[0] * mm, self._size[1] * mm
        self._scale = self._fixed or min(1.0, availWidth / wide, self._most * mm / high)
        self.width, self.height = availWidth, high * self._scale + 6
        return self.width, self.height

    def draw(self) -> None:
        """Shape by shape, turned over: a page counts upwards."""
        canvas: Canvas = self.canv
        canvas.saveState()
        canvas.translate(0, self.height - 3)
        canvas.scale(self._scale * mm, self._scale * mm)
        for shape in self._shapes:
            _draw(canvas, shape)
        canvas.restoreState()


def _draw(canvas: Canvas, shape: Shape) -> None:
    canvas.setStrokeColor(style.SOFT)
    canvas.setLineWidth(0.35)
    if isinstance(shape, Rect):
        canvas.setFillColor(_FILLS.get(shape.layer, style.WHITE))
        canvas.rect(shape.x, -shape.y - shape.h, shape.w, shape.h, stroke=1, fill=1 if shape.filled else 0)
    elif isinstance(shape, Dot):
        canvas.setFillColor(style.WHITE)
        canvas.circle(shape.x, -shape.y, shape.r, stroke=1, fill=1)
    elif isinstance(shape, Path):
        canvas.setStrokeColor(HexColor(shape.colour))
        canvas.setLineWidth(shape.width_mm)
        path = canvas.beginPath()
        for number, (x, y) in enumerate(shape.points):
            (path.lineTo if number else path.moveTo)(x, -y)
        canvas.drawPath(path, stroke=1, fill=0)
    else:
        _words(canvas, shape)


def _words(canvas: Canvas, words: Label) -> None:
    text, size = printable(words.text), words.high_mm / CAPS
    wide = width_pt(text, REGULAR, size)
    if wide > words.room_mm:
        size, wide = size * words.room_mm / wide, words.room_mm
    canvas.setFillColor(style.INK)
    canvas.setFont(REGULAR, size)
    if words.upright:
        canvas.saveState()
        canvas.translate(words.x, -words.y)
        canvas.rotate(90)
        canvas.drawString(0, 0, text)
        canvas.restoreState()
    else:
        canvas.drawString(words.x - wide / 2, -words.y, text)
