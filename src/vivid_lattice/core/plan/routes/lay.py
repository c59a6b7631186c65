"""The path of every section of a job, and how many cables lie together along the way.

Of two paths of one length a section takes the one that has less beside it, unless one is pinned.
"""

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
    """A part of a route with how many circuits lie together there, this one counted."""

    leg: Leg
    together: int
    beside: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Laying:
    """All routes of a job. ``sections``: by circuit and ends; ``legs``: of each circuit to its furthest point, or all round its ring."""

    sections: Mapping[Key, Route]
    legs: Mapping[str, tuple[LaidLeg, ...]]


def neighbours(laying: Laying, circuit: str) -> tuple[str, ...]:
    """Circuits that count as grouped with a circuit somewhere on its way, itself where both legs of its ring do."""
    return tuple(dict.fromkeys(name for laid in laying.legs[circuit] for name in laid.beside))


def lay(plans: Sequence[CircuitPlan], *, apart: bool) -> Laying:
    """The paths of all sections, and what lies together. ``apart``: cables that go the same way do not touch."""
    lines, sections = CableLines(), {}
    for plan in plans:
        for section in plan.sections:
            key = (plan.circuit.id, section.a, section.b)
            route = _chosen(plan, section, lines)
            sections[key] = route
            for leg in _counted(section, route):
                lines.add(leg, plan.circuit.id)
    rings = {plan.circuit.id for plan in plans if plan.shape == "ring"}
    legs = {plan.circuit.id: tuple(_laid(plan, sections, lines, rings, apart=apart)) for plan in plans}
    return Laying(sections, legs)


def _chosen(plan: CircuitPlan, section: PlannedSection, lines: CableLines) -> Route:
    a, b = section.a, section.b
    routes, pin = plan.ways.of(a, b).routes(plan.spots[a], plan.spots[b]), plan.ways.pin(a, b)
    if pin is not None and pin.first is not None:
        wanted = 0 if pin.first == "x" else 1
        routes = [route for route in routes if _leaves_along(route) == wanted] or routes
    return min(routes, key=lambda route: round(sum(_beside_m(leg, lines) for leg in _counted(section, route)), 3))


def _leaves_along(route: Route) -> int | None:
    return next((axis_of(leg) for leg in route if not leg.upright), None)


def _beside_m(leg: Leg, lines: CableLines) -> float:
    return sum(end - begin for begin, end, _ in lines.beside(leg))


def _counted(section: PlannedSection, route: Route) -> Iterator[Leg]:
    """The parts of a route that are looked at: not what rises at the board, where cables are spread to their ways."""
    for number, leg in enumerate(route):
        at_board = (section.a == FEED and number == 0) or (section.b == FEED and number == len(route) - 1)
        if not (at_board and leg.upright):
            yield leg


def _laid(
    plan: CircuitPlan, sections: Mapping[Key, Route], lines: CableLines, rings: Collection[str], *, apart: bool
) -> Iterator[LaidLeg]:
    """The way of a circuit to its furthest point with how many lie together on each part.

    Equation  together = the most circuits that lie together for more than SHORT_M without a break
    """
    way: list[tuple[Leg, bool]] = []
    for section in _way(plan):
        route = sections[plan.circuit.id, section.a, section.b]
        counted = set(map(id, _counted(section, route)))
        way += [(leg, id(leg) in counted) for leg in route]
    pieces = [
        _pieces(leg, plan, lines, rings) if counted and not apart else [(leg.length_m, frozenset[Cable]())]
        for leg, counted in way
    ]
    flat = [(number, *piece) for number, of_leg in enumerate(pieces) for piece in of_leg]
    most = [1] * len(way)
    for at in range(2, max((len(owners) + 1 for _, _, owners in flat), default=1) + 1):
        for long, stretch in itertools.groupby(flat, key=lambda piece: len(piece[2]) + 1 >= at):
            parts = list(stretch)
            if long and sum(length for _, length, _ in parts) > SHORT_M:
                for number, _, _ in parts:
                    most[number] = at
    for (leg, _), of_leg, together in zip(way, pieces, most, strict=True):
        fullest = max((owners for _, owners in of_leg), key=len, default=frozenset[Cable]())
        yield LaidLeg(leg, together, tuple(sorted({owner for owner, _ in fullest})) if together > 1 else ())


def _pieces(
    leg: Leg, plan: CircuitPlan, lines: CableLines, rings: Collection[str]
) -> list[tuple[float, frozenset[Cable]]]:
    """A part of a route cut where other cables join and leave it: how long each piece is, and what lies beside it. Both legs of a ring
    count; other cables of a radial carry a part of the same current and do not."""
    axis = axis_of(leg)
    low, high = sorted((leg.a[axis], leg.b[axis]))
    own = plan.circuit.id
    found = list(lines.beside(leg))
    cuts = sorted({low, high, *(at for begin, end, _ in found for at in (begin, end))})
    pieces = []
    for begin, end in itertools.pairwise(cuts):
        here = Counter(owner for a, b, owner in found if a <= begin and end <= b)
        cables = {
            (owner, number) for owner, count in here.items() for number in range(min(count, 2) if owner in rings else 1)
        }
        pieces.append((end - begin, frozenset(cables - {(own, 0)})))
    return pieces if leg.a[axis] <= leg.b[axis] else pieces[::-1]


def _way(plan: CircuitPlan) -> list[PlannedSection]:
    """The sections from the board to the furthest point, or all of a ring, in their order."""
    if plan.shape == "ring":
        return list(plan.sections)
    graph: nx.Graph[str] = nx.Graph()
    for section in plan.sections:
        graph.add_edge(section.a, section.b, section=section)
    path = nx.shortest_path(graph, FEED, plan.furthest)
    return [graph.edges[a, b]["section"] for a, b in itertools.pairwise(path)]
