"""A joist from the side: where holes and notches may be, and those that the plan makes."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib.colors import HexColor
from reportlab.platypus import Flowable

from vivid_lattice.core.plan.fixing.drill_list import DrillRow
from vivid_lattice.core.plan.fixing.timber import Timber, hole_at_most_m, notch_at_most_m, zone_m
from vivid_lattice.core.rules.fixing_rules import TimberLimits
from vivid_lattice.reports import style
from vivid_lattice.reports.fonts import REGULAR

_WIDE_PT, _HIGH_PT, _TEXT_PT = 430.0, 34.0, 7.0
_TIMBER, _HOLES, _NOTCHES = HexColor("#f3ead9"), HexColor("#cfe3d4"), HexColor("#f4dfc4")


class JoistDrawing(Flowable):
    """Half of it mirrors the other: zones are drawn from both supports, holes where the plan makes them from the nearer one."""

    def __init__(self, depth_mm: float, span_m: float, limits: TimberLimits, rows: Sequence[DrillRow]):
        super().__init__()
        self._timber, self._limits, self._rows = Timber(depth_mm / 1000, span_m), limits, rows
        self.width, self.height = _WIDE_PT, _HIGH_PT + 3 * _TEXT_PT + 10

    def wrap(self, _width: float, _height: float) -> tuple[float, float]:
        """Its size [pt]."""
        return self.width, self.height

    def draw(self) -> None:
        """Onto the page."""
        canvas, timber, limits = self.canv, self._timber, self._limits
        across = _WIDE_PT / timber.span_m
        base = 2 * _TEXT_PT + 4
        canvas.setLineWidth(0.6)
        canvas.setStrokeColor(style.INK)
        canvas.setFillColor(_TIMBER)
        canvas.rect(0, base, _WIDE_PT, _HIGH_PT, fill=1, stroke=1)
        tall = hole_at_most_m(timber, limits) / timber.depth_m * _HIGH_PT
        notch = notch_at_most_m(timber, limits) / timber.depth_m * _HIGH_PT
        for mirrored in (False, True):
            begin, end = (each * across for each in zone_m(timber, limits, "hole"))
            at = _WIDE_PT - end if mirrored else begin
            canvas.setFillColor(_HOLES)
            canvas.rect(at, base + (_HIGH_PT - tall) / 2, end - begin, tall, fill=1, stroke=0)
            begin, end = (each * across for each in zone_m(timber, limits, "notch"))
            at = _WIDE_PT - end if mirrored else begin
            canvas.setFillColor(_NOTCHES)
            canvas.rect(at, base + _HIGH_PT - notch, end - begin, notch, fill=1, stroke=0)
        for row in self._rows:
            self._bore(row, across, base)
        canvas.setFont(REGULAR, _TEXT_PT)
        canvas.setFillColor(style.INK)
        low, high = zone_m(timber, limits, "hole")
        size = f"Joist {timber.depth_m * 1000:g} mm deep, span {timber.span_m:g} m."
        canvas.drawString(
            0, _TEXT_PT + 2, f"{size} Holes {low:.2f} to {high:.2f} m from a support, on the centre line (band)."
        )
        canvas.drawString(
            0, 0, "Notches in the band at the top. Circles and slots: of the plan; red: not permitted there."
        )

    def _bore(self, row: DrillRow, across: float, base: float) -> None:
        if row.size_mm is None:
            return
        canvas, high = self.canv, row.size_mm / 1000 / self._timber.depth_m * _HIGH_PT
        canvas.setStrokeColor(style.OF_VERDICT["fail"] if row.refused is not None else style.ACCENT)
        x = min(row.at_m, self._timber.span_m) * across
        if row.kind == "notch":
            canvas.rect(x - 2, base + _HIGH_PT - high, 4, high, fill=0, stroke=1)
        else:
            canvas.circle(x, base + _HIGH_PT / 2, max(1.5, high / 2), fill=0, stroke=1)
