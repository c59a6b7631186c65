"""Which cables lie beside each other: straight parts of routes on one line, and for how far."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from vivid_lattice.core.plan.routes.leg import Leg

#: Cables on lines so near to each other lie together, as in the same holes of joists [m]. Common practice, no source.
_TOGETHER_M = 0.05
_Line = tuple[int, int, int]


class CableLines:
    """Straight parts of cables by the line they lie on. ``owner``: whose each is."""

    def __init__(self) -> None:
        self._on: dict[_Line, list[tuple[float, float, float, float, str]]] = defaultdict(list)

    def add(self, leg: Leg, owner: str) -> None:
        """A part of a cable."""
        axis, one, other = _across(leg)
        low, high = _ends(leg, axis)
        self._on[axis, _cell(one), _cell(other)].append((one, other, low, high, owner))

    def beside(self, leg: Leg) -> Iterator[tuple[float, float, str]]:
        """Parts of cables on the line of a leg: from where to where along its axis [m], and whose."""
        axis, one, other = _across(leg)
        low, high = _ends(leg, axis)
        for i in (-1, 0, 1):
            for j in (-1, 0, 1):
                for a, b, begin, end, owner in self._on.get((axis, _cell(one) + i, _cell(other) + j), ()):
                    near = abs(a - one) <= _TOGETHER_M and abs(b - other) <= _TOGETHER_M
                    if near and min(high, end) > max(low, begin):
                        yield max(low, begin), min(high, end), owner


def _cell(at: float) -> int:
    return round(at / _TOGETHER_M)


def _ends(leg: Leg, axis: int) -> tuple[float, float]:
    low, high = sorted((leg.a[axis], leg.b[axis]))
    return low, high


def _across(leg: Leg) -> tuple[int, float, float]:
    """The axis of a leg, and its two other coordinates."""
    axis = max(range(3), key=lambda each: abs(leg.a[each] - leg.b[each]))
    one, other = (each for each in range(3) if each != axis)
    return axis, leg.a[one], leg.a[other]


def axis_of(leg: Leg) -> int:
    """The axis that a leg runs along: 0 to the right, 1 to the back, 2 up."""
    return _across(leg)[0]
