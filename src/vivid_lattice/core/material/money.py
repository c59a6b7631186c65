"""Money in whole coins: rounded line by line, half up."""

from __future__ import annotations

from decimal import ROUND_HALF_UP, Decimal


def coins(amount: float) -> int:
    """An amount in the smallest coin, a hundredth; half a coin is rounded up.

    >>> coins(8.25), coins(1.005), coins(2.675)
    (825, 101, 268)
    """
    exact = Decimal(repr(round(amount, 9))) * 100
    return int(exact.quantize(Decimal(1), rounding=ROUND_HALF_UP))


def share_coins(amount_coins: int, percent: float) -> int:
    """A percentage of an amount in coins."""
    exact = Decimal(amount_coins) * Decimal(repr(percent)) / 100
    return int(exact.quantize(Decimal(1), rounding=ROUND_HALF_UP))
