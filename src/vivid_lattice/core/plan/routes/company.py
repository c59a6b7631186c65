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
#: A part of a route by its section and its number there.
_Part = tuple[str, str, int]


@dataclass(frozen=True, slots=True)
class LaidLeg:
    """A part of a route with how many circuits lie together there, this one counted, and which the others are."""

    leg: Leg
    together: int
    beside: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class LaidCircuit:
    """How a circuit lies. ``way``: part by part to its furthest point, or all round its ring; ``branches``: what is on no such way."""

    way: tuple[LaidLeg, ...]
    branches: tuple[LaidLeg, ...]

    @property
    def beside(self) -> tuple[str, ...]:
        """Circuits that count as grouped with it somewhere, itself where both legs of its ring do."""
        return tuple(dict.fromkeys(name for laid in (*self.way, *self.branches) for name in laid.beside))


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

    def of(self, plan: CircuitPlan) -> LaidCircuit:
        """Every part of a circuit with what lies beside it.

        Equation  together = the most circuits that lie together for more than SHORT_M without a break, on any way from the board
        """
        pieces = {
            (section.a, section.b, number): self._pieces(leg, plan) if counts else [(leg.length_m, frozenset[Cable]())]
            for section in plan.sections
            for number, (leg, counts) in enumerate(self._parts(plan, section))
        }
        most: dict[_Part, LaidLeg] = {}
        ways = list(_ways(plan))
        for way in ways:
            for part, laid in self._along(plan, way, pieces):
                if part not in most or laid.together > most[part].together:
                    most[part] = laid
        first = {(section.a, section.b) for section in ways[0]} if ways else set()
        return LaidCircuit(
            way=tuple(most[part] for part in self._parts_of(plan, ways[0] if ways else ())),
            branches=tuple(laid for part, laid in most.items() if part[:2] not in first),
        )

    def _parts_of(self, plan: CircuitPlan, way: Sequence[PlannedSection]) -> list[_Part]:
        return [
            (section.a, section.b, number)
            for section in way
            for number in range(len(self._sections[plan.circuit.id, section.a, section.b]))
        ]

    def _along(
        self,
        plan: CircuitPlan,
        way: Sequence[PlannedSection],
        pieces: Mapping[_Part, list[tuple[float, frozenset[Cable]]]],
    ) -> Iterator[tuple[_Part, LaidLeg]]:
        """The parts of one way from the board, each with the most that lie together there."""
        parts = self._parts_of(plan, way)
        cut = [(number, *piece) for number, part in enumerate(parts) for piece in pieces[part]]
        found: list[tuple[int, frozenset[Cable]]] = [(1, frozenset())] * len(parts)
        for at in range(2, max((len(beside) + 1 for _, _, beside in cut), default=1) + 1):
            for full, stretch in itertools.groupby(cut, key=lambda piece: len(piece[2]) + 1 >= at):
                full_pieces = list(stretch)
                if full and sum(length for _, length, _ in full_pieces) > SHORT_M:
                    for number, own in itertools.groupby(full_pieces, key=lambda piece: piece[0]):
                        found[number] = at, frozenset().union(*(beside for _, _, beside in own))
        for (a, b, number), (together, beside) in zip(parts, found, strict=True):
            leg = self._sections[plan.circuit.id, a, b][number]
            yield (a, b, number), LaidLeg(leg, together, tuple(sorted({owner for owner, _ in beside})))

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


def _ways(plan: CircuitPlan) -> Iterator[list[PlannedSection]]:
    """The ways from the board to every end, each as sections in their order: that to the furthest point first; of a ring all of it."""
    if plan.shape == "ring":
        yield list(plan.sections)
        return
    graph: nx.Graph[str] = nx.Graph()
    for section in plan.sections:
        graph.add_edge(section.a, section.b, section=section)
    ends = [name for name in graph if graph.degree(name) == 1 and name not in (FEED, plan.furthest)]
    paths = nx.single_source_shortest_path(graph, FEED)
    for end in (plan.furthest, *ends):
        yield [graph.edges[a, b]["section"] for a, b in itertools.pairwise(paths[end])]
