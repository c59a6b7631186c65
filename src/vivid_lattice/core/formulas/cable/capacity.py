"""Current-carrying capacity as installed, and what a table must hold for it."""

from __future__ import annotations

from collections.abc import Iterable
from math import prod

from vivid_lattice.core.errors import OutOfRange


def installed_capacity_a(tabulated_a: float, factors: Iterable[float]) -> float:
    """Capacity of a cable in its surroundings.

    Equation  Iz = It · Ca · Cg · Ci · …

    tabulated_a  It, tabulated capacity [A], over 0
    factors      rating factors that apply [-], each over 0
    Returns      Iz [A]
    Raises       OutOfRange
    Source       BS 7671:2018, Appendix 4, section 5 (from memory)

    >>> round(installed_capacity_a(37, [0.94, 0.65]), 3)
    22.607
    """
    return tabulated_a * _product(factors)


def needed_tabulated_a(rating_a: float, factors: Iterable[float]) -> float:
    """Tabulated capacity that a device's rating requires.

    Equation  It ≥ In / (Ca · Cg · Ci · Cf · Cc · …)

    rating_a  In, rated current of the device [A], over 0
    factors   rating factors that apply [-], each over 0
    Returns   It [A]
    Raises    OutOfRange
    Source    BS 7671:2018, Appendix 4, section 5.1 (from memory)

    >>> round(needed_tabulated_a(30, [0.725]), 2)
    41.38
    """
    return rating_a / _product(factors)


def _product(factors: Iterable[float]) -> float:
    values = list(factors)
    for value in values:
        if value <= 0:
            raise OutOfRange("rating factor", value, "over 0")
    return prod(values)
