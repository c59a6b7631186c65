"""Characteristics as points for drawing, out to the ends of the plot."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.curves import Edge
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.overcurrent_series import Overcurrent, Series
from vivid_lattice.core.optional import or_none

#: Where the plot ends: largest current [A], longest time [s].
_MAX_A, _MAX_S = 20_000.0, 10_000.0


@dataclass(frozen=True, slots=True)
class PlotPoint:
    """A point of an edge: current [A] and time [s]."""

    amps: float
    seconds: float


@dataclass(frozen=True, slots=True)
class BandPoints:
    """A characteristic drawn: points of its lower and upper edge."""

    device: str
    name: Text
    lower: tuple[PlotPoint, ...]
    upper: tuple[PlotPoint, ...]


def drawn(series: Series, overcurrent: Overcurrent) -> BandPoints | None:
    """A device's characteristic as points that reach the ends of the plot; None where none is held."""
    band = or_none(lambda: series.band(overcurrent))
    return (
        None if band is None else BandPoints(overcurrent.id, overcurrent.name, _points(band.lower), _points(band.upper))
    )


def _points(edge: Edge) -> tuple[PlotPoint, ...]:
    first, last = edge.points[0], edge.points[-1]
    points = [(first[0], _MAX_S), *edge.points]
    if last[0] < _MAX_A:
        points.append((_MAX_A, max(edge.time_s(_MAX_A, after_step=True), 1e-6)))
    return tuple(PlotPoint(round(amps, 4), time) for amps, time in points)
