"""Branches that meet in joint boxes between the points, where that saves cable."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import networkx as nx

from vivid_lattice.core.plan.geometry.house import Spot

#: A joint box is worth its work where it saves so much cable [m]. Common practice, no source.
WORTH_M = 1.0
#: No rectilinear tree with joints is shorter than two thirds of the shortest without (Hwang 1976).
_HWANG = 2 / 3
_TRIED = 400


@dataclass(frozen=True, slots=True)
class Branches:
    """A tree from the board. ``joints``: boxes between points, by name; ``pairs``: from the board outwards; ``gap``: by what share another
    tree could be shorter at most."""

    joints: Mapping[str, Spot]
    pairs: tuple[tuple[str, str], ...]
    length_m: float
    gap: float


def branches_with_joints(
    start: str, spots: Mapping[str, Spot], between: Callable[[Spot, Spot], float], plane_m: Callable[[int], float]
) -> Branches:
    """The shortest tree found through some places, with joint boxes where columns and rows of the places cross (Hanan's grid).

    One box after another is added, always the one that saves the most, while that is worth it; one that no branch needs any more goes.
    plane_m: the height of the cables above the floor of a level.
    Source  iterated Steiner points (Kahng and Robins 1992); Hwang's bound
    """
    alone = _tree(spots, between)
    joints: dict[str, Spot] = {}
    best = alone
    candidates = _crossings(list(spots.values()), plane_m)
    while True:
        found = None
        for spot in candidates:
            tried = _tree({**spots, **joints, "new": spot}, between)
            if found is None or _length(tried) < _length(found[0]):
                found = tried, spot
        if found is None or _length(best) - _length(found[0]) < WORTH_M:
            break
        joints[_free(joints)] = found[1]
        joints = _needed(joints, _tree({**spots, **joints}, between))
        best = _tree({**spots, **joints}, between)
    length = _length(best)
    least = _HWANG * _length(alone)
    pairs = tuple((str(a), str(b)) for a, b in nx.bfs_edges(best, start))
    return Branches(joints, pairs, length, max(0.0, 1 - least / length) if length > 0 else 0.0)


def _crossings(spots: Sequence[Spot], plane_m: Callable[[int], float]) -> list[Spot]:
    """Where a column and a row of places on one floor cross, at the height of the cables."""
    found = []
    for level in sorted({spot.level for spot in spots}):
        own = [spot for spot in spots if spot.level == level]
        xs, ys = sorted({spot.x_m for spot in own}), sorted({spot.y_m for spot in own})
        found += [Spot(level, x, y, plane_m(level)) for x in xs for y in ys]
    return found[:_TRIED]


def _tree(spots: Mapping[str, Spot], between: Callable[[Spot, Spot], float]) -> nx.Graph[str]:
    graph: nx.Graph[str] = nx.Graph()
    names = list(spots)
    graph.add_nodes_from(names)
    graph.add_weighted_edges_from(
        (a, b, between(spots[a], spots[b])) for number, a in enumerate(names) for b in names[number + 1 :]
    )
    return nx.minimum_spanning_tree(graph)


def _length(tree: nx.Graph[str]) -> float:
    return float(tree.size(weight="weight"))


def _needed(joints: Mapping[str, Spot], tree: nx.Graph[str]) -> dict[str, Spot]:
    """The boxes that three cables or more meet in."""
    return {name: spot for name, spot in joints.items() if tree.degree(name) > 2}


def _free(joints: Mapping[str, Spot]) -> str:
    return next(name for number in range(1, len(joints) + 2) if (name := f"joint-{number}") not in joints)
