"""How many circuits lie together on each part of a circuit's way."""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass

import networkx as nx

from vivid_lattice.core.plan.circuit_plan import CircuitPlan, PlannedSection
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.routes.distance import Route
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.plan.routes.lines import CableLines, axis_of

#: Shorter common parts, as through a wall or into a board, are left out [m]. Common practice, no source (IEC 60364-5-52, 523.5).
SHORT_M = 1.0
Key = tuple[str, str, str]
#: A cable by its circuit; 1: the other leg of a ring.
Cable = tuple[str, int]


@dataclass(frozen=True, slots=True)
class LaidLeg:
    """A part of a route with how many circuits lie together there, this one counted, and which the others are."""

    leg: Leg
    together: int
    beside: tuple[str, ...] = ()


class Company:
    """What lies beside what. ``uncounted``: circuits that are left out when the rest are counted."""

    def __init__(
        self,
        plans: Sequence[CircuitPlan],
        sections: Mapping[Key, Route],
        lines: CableLines,
        uncounted: Collection[str] = (),
    ):
        self._sections, self._lines, self._uncounted = sections, lines, uncounted
        self._rings = {plan.circuit.id for plan in plans if plan.shape == "ring"}

    def of(self, plan: CircuitPlan) -> tuple[LaidLeg, ...]:
        """The way of a circuit to its furthest point, or all round its ring, with what lies beside each part.

        Equation  together = the most circuits that lie together for more than SHORT_M without a break
        """
        way = [(leg, counts) for section in _way(plan) for leg, counts in self._parts(plan, section)]
        cut = [
            (number, length, beside)
            for number, (leg, counts) in enumerate(way)
            for length, beside in (self._pieces(leg, plan) if counts else [(leg.length_m, frozenset[Cable]())])
        ]
        found: list[tuple[int, frozenset[Cable]]] = [(1, frozenset())] * len(way)
        for at in range(2, max((len(beside) + 1 for _, _, beside in cut), default=1) + 1):
            for full, stretch in itertools.groupby(cut, key=lambda piece: len(piece[2]) + 1 >= at):
                parts = list(stretch)
                if full and sum(length for _, length, _ in parts) > SHORT_M:
                    for number, pieces in itertools.groupby(parts, key=lambda piece: piece[0]):
                        found[number] = at, frozenset().union(*(beside for _, _, beside in pieces))
        return tuple(
            LaidLeg(leg, together, tuple(sorted({owner for owner, _ in beside})))
            for (leg, _), (together, beside) in zip(way, found, strict=True)
        )

    def _parts(self, plan: CircuitPlan, section: PlannedSection) -> Iterator[tuple[Leg, bool]]:
        route = self._sections[plan.circuit.id, section.a, section.b]
        for number, leg in enumerate(route):
            yield leg, not rises_at_board(section, route, number)

    def _pieces(self, leg: Leg, plan: CircuitPlan) -> list[tuple[float, frozenset[Cable]]]:
        """A part of a route cut where other cables join and leave it: how long each piece is, and what lies beside it. Both legs of a
        ring count; other cables of a radial carry a part of the same current and do not."""
        axis, own = axis_of(leg), plan.circuit.id
        low, high = sorted((leg.a[axis], leg.b[axis]))
        found = [each for each in self._lines.beside(leg) if each[2] == own or each[2] not in self._uncounted]
        cuts = sorted({low, high, *(at for begin, end, _ in found for at in (begin, end))})
        pieces = []
        for begin, end in itertools.pairwise(cuts):
            here = Counter(owner for a, b, owner in found if a <= begin and end <= b)
            cables = {(owner, number) for owner, count in here.items() for number in range(self._most(owner, count))}
            pieces.append((end - begin, frozenset(cables - {(own, 0)})))
        return pieces if leg.a[axis] <= leg.b[axis] else pieces[::-1]

    def _most(self, owner: str, count: int) -> int:
        return min(count, 2) if owner in self._rings else 1


def rises_at_board(section: PlannedSection, route: Route, number: int) -> bool:
    """Whether a part of a route is what rises at the board: it is not counted, as cables are spread to their ways there."""
    at_board = (section.a == FEED and number == 0) or (section.b == FEED and number == len(route) - 1)
    return at_board and route[number].upright


def _way(plan: CircuitPlan) -> list[PlannedSection]:
    """The sections from the board to the furthest point, or all of a ring, in their order."""
    if plan.shape == "ring":
        return list(plan.sections)
    graph: nx.Graph[str] = nx.Graph()
    for section in plan.sections:
        graph.add_edge(section.a, section.b, section=section)
    path = nx.shortest_path(graph, FEED, plan.furthest)
    return [graph.edges[a, b]["section"] for a, b in itertools.pairwise(path)]
