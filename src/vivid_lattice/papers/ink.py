"""Lines of text drawn many at a time: face and colour are changed as seldom as can be, which is what takes the time on a page."""

from __future__ import annotations

from reportlab.lib.colors import Color
from reportlab.pdfgen.canvas import Canvas

from vivid_lattice.papers.fonts import width_pt
from vivid_lattice.papers.look import INK

_Look = tuple[int, str, float]


class Ink:
    """Gathers lines, then draws them all."""

    def __init__(self) -> None:
        self._held: dict[_Look, tuple[Color, list[tuple[float, float, str]]]] = {}

    def put(self, text: str, x: float, y: float, font: str, size_pt: float, colour: Color = INK) -> None:
        """A line whose left end is at a place."""
        if text:
            self._held.setdefault((id(colour), font, size_pt), (colour, []))[1].append((x, y, text))

    def put_right(self, text: str, x: float, y: float, font: str, size_pt: float, colour: Color = INK) -> None:
        """A line whose right end is at a place."""
        self.put(text, x - width_pt(text, font, size_pt), y, font, size_pt, colour)

    def put_middle(self, text: str, x: float, y: float, font: str, size_pt: float, colour: Color = INK) -> None:
        """A line whose middle is at a place."""
        self.put(text, x - width_pt(text, font, size_pt) / 2, y, font, size_pt, colour)

    def draw(self, canvas: Canvas) -> None:
        """Everything gathered, on the page."""
        for (_, font, size), (colour, lines) in self._held.items():
            canvas.setFillColor(colour)
            text = canvas.beginText()
            text.setFont(font, size)
            for x, y, words in lines:
                text.setTextOrigin(x, y)
                text.textOut(words)
            canvas.drawText(text)
        self._held.clear()
