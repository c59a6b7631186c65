"""The ways of a house: distances by each, and which way each section of a circuit takes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from vivid_lattice.core.document.plan import CircuitRoute, PinnedSection, Way
from vivid_lattice.core.plan.geometry.house import House, Spot
from vivid_lattice.core.plan.routes.distance import Distances


class HouseWays:
    """Distances in a house by each way, worked out once."""

    def __init__(self, house: House):
        self.house = house
        self._by_way: dict[Way, Distances] = {}

    def by(self, way: Way) -> Distances:
        """Distances by a way."""
        if way not in self._by_way:
            self._by_way[way] = Distances(self.house, way)
        return self._by_way[way]


class CircuitWays:
    """Distances of a circuit: by its way, or by another between two points where that is pinned."""

    def __init__(self, ways: HouseWays, chosen: CircuitRoute, spots: Mapping[str, Spot]):
        self._ways, self._chosen, self._spots = ways, chosen, spots
        self._pinned = {frozenset((pin.a, pin.b)): pin for pin in chosen.pinned}

    def pin(self, a: str, b: str) -> PinnedSection | None:
        """What is pinned between two points; turned round where it was pinned from the other end."""
        pin = self._pinned.get(frozenset((a, b)))
        if pin is None or pin.a == a:
            return pin
        turned = {"x": "y", "y": "x", None: None}[pin.first]
        return PinnedSection(a=a, b=b, way=pin.way, first=turned)  # type: ignore[arg-type]

    @property
    def by_default(self) -> Distances:
        """Distances by the way of the circuit."""
        return self._ways.by(self._chosen.way)

    def of(self, a: str, b: str) -> Distances:
        """Distances by the way that goes from one point to another."""
        pin = self.pin(a, b)
        return self._ways.by(pin.way if pin is not None and pin.way is not None else self._chosen.way)

    def between(self, a: str, b: str) -> float:
        """The route from one point to another [m], without what is left at its ends."""
        return self.of(a, b).between(self._spots[a], self._spots[b])

    def table(self, names: Iterable[str]) -> dict[str, dict[str, float]]:
        """All routes between some points [m]."""
        all_names = list(names)
        return {a: {b: self.between(a, b) for b in all_names} for a in all_names}
