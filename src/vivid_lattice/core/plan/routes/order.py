"""The shortest way through some points: from the board to the last, round and back, or branching.

Up to nine points every order is compared by dynamic programming; beyond that a solver finds a short one, and how much shorter another could
be is told by a bound.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import networkx as nx
from ortools.constraint_solver import pywrapcp, routing_enums_pb2  # type: ignore[import-untyped]

#: So many points are ordered exactly, by trying all subsets. The solver for more counts in millimetres.
_EXACT, _MM = 9, 1000
Table = Mapping[str, Mapping[str, float]]


@dataclass(frozen=True, slots=True)
class Order:
    """Points in their order. ``length_m``: of the routes between; ``gap``: by what share another order could be shorter, 0 where none is."""

    points: tuple[str, ...]
    length_m: float
    gap: float = 0.0


def shortest_path(start: str, points: Sequence[str], table: Table) -> Order:
    """From the board through all points, ending anywhere."""
    return _ordered(start, points, table, closed=False)


def shortest_tour(start: str, points: Sequence[str], table: Table) -> Order:
    """From the board through all points and back: a ring."""
    return _ordered(start, points, table, closed=True)


def length_of(start: str, points: Sequence[str], table: Table, *, closed: bool) -> float:
    """The length of an order that someone pinned [m]."""
    stops = [start, *points, *([start] if closed else [])]
    return sum(table[a][b] for a, b in itertools.pairwise(stops))


def shortest_branches(start: str, points: Sequence[str], table: Table) -> tuple[tuple[str, str], ...]:
    """The shortest tree that joins all points, branching at points only: pairs from the board outwards."""
    graph: nx.Graph[str] = nx.Graph()
    names = [start, *points]
    graph.add_nodes_from(names)
    graph.add_weighted_edges_from((a, b, table[a][b]) for number, a in enumerate(names) for b in names[number + 1 :])
    tree = nx.minimum_spanning_tree(graph)
    return tuple((str(a), str(b)) for a, b in nx.bfs_edges(tree, start))


def _ordered(start: str, points: Sequence[str], table: Table, *, closed: bool) -> Order:
    if not points:
        return Order((), 0.0)
    if len(points) <= _EXACT:
        return _by_subsets(start, tuple(points), table, closed=closed)
    return _by_search(start, tuple(points), table, closed=closed)


def _by_subsets(start: str, points: tuple[str, ...], table: Table, *, closed: bool) -> Order:
    """Held and Karp: the shortest way through each subset to each of its points, from smaller ones."""
    best: dict[tuple[int, int], tuple[float, int]] = {
        (1 << number, number): (table[start][point], -1) for number, point in enumerate(points)
    }
    for subset in range(1, 1 << len(points)):
        for last in range(len(points)):
            if (subset, last) not in best:
                continue
            length = best[subset, last][0]
            for following, point in enumerate(points):
                if subset & 1 << following:
                    continue
                key = (subset | 1 << following, following)
                longer = length + table[points[last]][point]
                if key not in best or longer < best[key][0]:
                    best[key] = longer, last
    whole = (1 << len(points)) - 1
    ends = {last: best[whole, last][0] + (table[points[last]][start] if closed else 0.0) for last in range(len(points))}
    last = min(ends, key=lambda number: (round(ends[number], 6), number))
    length, order, subset = ends[last], [], whole
    while last >= 0:
        order.append(points[last])
        subset, last = subset & ~(1 << last), best[subset, last][1]
    return Order(tuple(reversed(order)), length)


def _by_search(start: str, points: tuple[str, ...], table: Table, *, closed: bool) -> Order:
    """A short way by a routing solver, improved until no exchange shortens it; of a path the way back to the board costs nothing."""
    names = (start, *points)
    cost = [[0 if j == 0 and not closed else round(table[a][b] * _MM) for j, b in enumerate(names)] for a in names]
    index = pywrapcp.RoutingIndexManager(len(names), 1, 0)
    routing = pywrapcp.RoutingModel(index)
    transit = routing.RegisterTransitMatrix(cost)
    routing.SetArcCostEvaluatorOfAllVehicles(transit)
    how = pywrapcp.DefaultRoutingSearchParameters()
    how.first_solution_strategy = routing_enums_pb2.FirstSolutionStrategy.PATH_CHEAPEST_ARC
    found = routing.SolveWithParameters(how)
    order, at = [], found.Value(routing.NextVar(routing.Start(0)))
    while not routing.IsEnd(at):
        order.append(names[index.IndexToNode(at)])
        at = found.Value(routing.NextVar(at))
    length = length_of(start, order, table, closed=closed)
    least = _least_tour(names, table) if closed else _least_tree(names, table)
    return Order(tuple(order), length, max(0.0, 1 - least / length) if length > 0 else 0.0)


def _least_tree(names: Sequence[str], table: Table) -> float:
    """No path through all points is shorter than the shortest tree that joins them."""
    return sum(table[a][b] for a, b in shortest_branches(names[0], names[1:], table))


def _least_tour(names: Sequence[str], table: Table) -> float:
    """No tour is shorter than the shortest tree through all points but one, and the two shortest ways to that one."""
    first, *rest = names
    two = sorted(table[first][name] for name in rest)[:2]
    return _least_tree(rest, table) + sum(two)
