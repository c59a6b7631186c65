"""Numbers as text: rounded so that rounding never flatters."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import lru_cache


class Shown(str):
    """A value as it is shown: text in every way, and told from other text where the decimal sign goes with the language."""

    __slots__ = ()


def plain(value: float) -> Shown:
    """A value that is shown as it was stated: a rating, a size, a limit of a table.

    >>> plain(32.0), plain(0.4)
    ('32', '0.4')
    """
    return Shown(f"{value:g}")


@lru_cache(maxsize=65536)
def shown_up(value: float, digits: int = 3) -> Shown:
    """A figure rounded up to so many significant digits, so that rounding never makes it look better.

    >>> shown_up(0.65001), shown_up(16.0), shown_up(4.2398), shown_up(120.5853), shown_up(0.003317)
    ('0.651', '16', '4.24', '121', '0.00332')
    """
    return _shown(value, digits, math.ceil)


@lru_cache(maxsize=65536)
def shown_down(value: float, digits: int = 3) -> Shown:
    """A limit rounded down, for the same reason.

    >>> shown_down(1.36563), shown_down(1666.67), shown_down(11.5)
    ('1.36', '1666', '11.5')
    """
    return _shown(value, digits, math.floor)


@lru_cache(maxsize=65536)
def shown(value: float, digits: int = 4) -> Shown:
    """A figure inside a calculation, to the nearest of so many significant digits, and whole digits never cut.

    >>> shown(25.69565), shown(0.3008), shown(37.0), shown(12345.6), shown(0.0000412)
    ('25.7', '0.3008', '37', '12346', '0.0000412')
    """
    return _shown(value, digits, round)


def _shown(value: float, digits: int, rounded: Callable[[float], int]) -> Shown:
    if value == 0:
        return Shown("0")
    places = max(0, digits - 1 - math.floor(math.log10(abs(value))))
    scale = 10**places
    # Nine places first: 1.13 × 100 is 112.99999999999999, and must not be floored to 112.
    text = f"{rounded(round(value * scale, 9)) / scale:.{places}f}"
    return Shown(text.rstrip("0").rstrip(".") if places else text)
