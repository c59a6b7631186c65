"""An electrode read with two spikes, its potential spike at three places: half-way to the current spike, and a tenth nearer and farther."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import fmean

#: The three agree within so much of their mean. Common practice, no source.
AGREE_SHARE = 0.05


def mean_of_fall_ohm(readings_ohm: Sequence[float]) -> float | None:
    """The resistance of an electrode [Ω] from readings at three places; None where they are too far apart: the current spike is too near.

    Equation  R = (R1 + R2 + R3)/3, each within 5 % of it
    Source    common practice, no source

    >>> mean_of_fall_ohm([39.5, 40.0, 40.5]), mean_of_fall_ohm([30.0, 40.0, 55.0])
    (40.0, None)
    """
    mean = fmean(readings_ohm)
    return mean if all(abs(reading - mean) <= AGREE_SHARE * mean for reading in readings_ohm) else None
