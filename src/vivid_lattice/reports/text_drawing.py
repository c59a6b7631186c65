"""Lines of text drawn many at a time: to begin a text again for each of them is what takes the time on a page."""

from __future__ import annotations

from reportlab.lib.colors import Color
from reportlab.pdfgen.canvas import Canvas

from vivid_lattice.reports.fonts import width_pt
from vivid_lattice.reports.style import INK


class Ink:
    """Gathers lines, then draws them all in the order in which they came: it is the order they are read out and copied in."""

    def __init__(self) -> None:
        self._texts: list[tuple[float, float, str, str, float, Color]] = []

    def put(self, text: str, x: float, y: float, font: str, size_pt: float, colour: Color = INK) -> None:
        """A line whose left end is at a place."""
        if text:
            self._texts.append((x, y, text, font, size_pt, colour))

    def put_right(self, text: str, x: float, y: float, font: str, size_pt: float, colour: Color = INK) -> None:
        """A line whose right end is at a place."""
        self.put(text, x - width_pt(text, font, size_pt), y, font, size_pt, colour)

    def put_middle(self, text: str, x: float, y: float, font: str, size_pt: float, colour: Color = INK) -> None:
        """A line whose middle is at a place."""
        self.put(text, x - width_pt(text, font, size_pt) / 2, y, font, size_pt, colour)

    def draw(self, canvas: Canvas) -> None:
        """Everything gathered, on the page."""
        if not self._texts:
            return
        text = canvas.beginText()
        face: tuple[str, float] | None = None
        paint: Color | None = None
        for x, y, words, font, size, colour in self._texts:
            if (font, size) != face:
                text.setFont(font, size)
                face = font, size
            if colour is not paint:
                text.setFillColor(colour)
                paint = colour
            text.setTextOrigin(x, y)
            text.textOut(words)
        canvas.drawText(text)
        self._texts.clear()
