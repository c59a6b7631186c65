"""Lengths and orders: worked examples of the reference by name, and every order tried by hand."""

from __future__ import annotations

import itertools
import random
import unittest
from collections.abc import Mapping, Sequence

import networkx as nx
from hypothesis import given, settings
from hypothesis import strategies as st

from vivid_lattice.core.document.plan import CircuitRoute, FloorBuild, Opening, Plan, PlanPoint, RoomShape
from vivid_lattice.core.plan.geometry.house import House, Spot, area_m2
from vivid_lattice.core.plan.routes.distance import Distances
from vivid_lattice.core.plan.routes.joint_boxes import WORTH_M, Branches, branches_with_joints
from vivid_lattice.core.plan.routes.order import (
    length_of,
    shortest_branches,
    shortest_path,
    shortest_tour,
)
from vivid_lattice.core.plan.routes.ways import CircuitWays, HouseWays
from vivid_lattice.core.rules import rule_set


def house(*rooms: RoomShape, standard: str = "uk", floors: tuple[FloorBuild, ...] = ()) -> House:
    return House(Plan(rooms=rooms, floors=floors), rule_set(standard).plan)


def room(width: float, depth: float, height: float = 2.4, **more: object) -> RoomShape:
    return RoomShape(room="study", x_m=0.0, y_m=0.0, width_m=width, depth_m=depth, height_m=height, **more)  # type: ignore[arg-type]


class WorkedExamples(unittest.TestCase):
    def test_a_study_over_the_ceiling_and_under_the_floor(self) -> None:
        """uk.runs.ex.study-radial: 6.85 + 8.00 m over the ceiling, 5.79 + 5.04 m under the floor; with slack 16.45 and 12.43 m."""
        of = house(room(3.6, 2.9))
        board, one, two = Spot(0, 0.0, 1.0, 1.4), Spot(0, 1.8, 2.9, 0.45), Spot(0, 3.6, 0.8, 0.45)
        slack = rule_set("uk").plan.slack_m("board") + 3 * rule_set("uk").plan.slack_m("box")
        for way, stretches, cable in (("ceiling", (6.85, 8.00), 16.45), ("floor", (5.79, 5.04), 12.43)):
            distances = Distances(of, way)  # type: ignore[arg-type]
            found = distances.between(board, one), distances.between(one, two)
            for route, wanted in zip(found, stretches, strict=True):
                self.assertAlmostEqual(route, wanted, delta=0.005)
            self.assertAlmostEqual(sum(found) + slack, cable, delta=0.005)

    def test_a_small_ring(self) -> None:
        """uk.runs.ex.small-ring: A, B, C; 14.0 m along, 20.46 m of route, 23.66 m of cable."""
        spots = {
            "board": Spot(0, 0.0, 0.5, 1.4), "A": Spot(0, 2.0, 0.0, 0.45), "B": Spot(0, 4.0, 1.5, 0.45), "C": Spot(0, 1.0, 3.0, 0.45)
        }  # fmt: skip
        ways = CircuitWays(HouseWays(house(room(4.0, 3.0))), CircuitRoute(circuit="c1", way="floor"), spots)
        found = shortest_tour("board", ("A", "B", "C"), ways.table(spots))
        self.assertIn(found.points, (("A", "B", "C"), ("C", "B", "A")))
        self.assertAlmostEqual(found.length_m, 20.46, delta=0.005)
        self.assertAlmostEqual(found.length_m + 2 * 1.0 + 6 * 0.2, 23.66, delta=0.005)

    def test_drops_and_rises(self) -> None:
        """runs.ex.drop-and-rise: 2.25 and 1.55 m from the void over a ceiling at 2.60 m, 0.57 and 1.27 m from under the floor."""
        of = house(room(3.0, 3.0, 2.6))
        for way, socket_m, switch_m in (("ceiling", 2.25, 1.55), ("floor", 0.57, 1.27)):
            distances = Distances(of, way)  # type: ignore[arg-type]
            for height_m, wanted in ((0.45, socket_m), (1.15, switch_m)):
                spot = Spot(0, 1.0, 0.0, height_m)
                self.assertAlmostEqual(distances.between(spot, spot), 2 * wanted, places=3)
        self.assertAlmostEqual(of.base_m(1), 2.88, places=3)

    def test_a_store_from_a_box_in_its_corner(self) -> None:
        """runs.ex.route-box: 2.8 and 3.5 m, with slack 3.3 and 4.0 m."""
        distances = Distances(house(room(3.0, 2.4, 2.5)), "ceiling")
        light, switch, box = Spot(0, 1.5, 1.2, 2.5), Spot(0, 2.2, 0.0, 1.1), Spot(0, 0.0, 0.0, 2.6)
        self.assertAlmostEqual(distances.between(box, light), 2.8, places=3)
        self.assertAlmostEqual(distances.between(light, switch), 3.5, places=3)
        slack = rule_set("uk").plan.slack_m
        self.assertAlmostEqual(2.8 + slack("junction-box") + slack("light"), 3.3, places=3)
        self.assertAlmostEqual(3.5 + slack("light") + slack("box"), 4.0, places=3)


class Ways(unittest.TestCase):
    def test_straight_sideways_between_neighbours_on_a_wall_but_not_across_a_door(self) -> None:
        def spots(of: House) -> tuple[Spot, Spot]:
            points = [
                PlanPoint(id=f"p{n}", kind="socket", name="p", room="study", wall="back", along_m=along)
                for n, along in enumerate((1.0, 3.0))
            ]
            one, two = (of.spot_of(point) for point in points)
            return one, two

        plain = house(room(4.0, 3.0))
        self.assertAlmostEqual(Distances(plain, "ceiling").between(*spots(plain)), 2.0)
        for opening, wanted in (
            (Opening(kind="door", wall="back", from_m=1.6, width_m=0.8), 2.0 + 2 * (2.5 - 0.45)),
            (Opening(kind="door", wall="front", from_m=1.6, width_m=0.8), 2.0),
            (Opening(kind="window", wall="back", from_m=1.6, width_m=0.8, sill_m=0.9), 2.0),
        ):
            of = house(room(4.0, 3.0, openings=(opening,)))
            self.assertAlmostEqual(Distances(of, "ceiling").between(*spots(of)), wanted, places=3)

    def test_from_floor_to_floor_by_the_nearer_void(self) -> None:
        upper = RoomShape(room="bed", level=1, x_m=0.0, y_m=0.0, width_m=4.0, depth_m=3.0, height_m=2.4)
        of = house(room(4.0, 3.0), upper)
        below, above = Spot(0, 0.0, 0.0, 1.4), Spot(1, 2.0, 0.0, 0.45)
        # Up to the void at 2.5 m, 2 m along, and up again to 2.68 + 0.45 m.
        self.assertAlmostEqual(Distances(of, "ceiling").between(below, above), 1.1 + 2.0 + 0.63, places=3)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.tuples(st.floats(0, 9), st.floats(0, 9), st.floats(0, 2.4)), min_size=3, max_size=3))
    def test_a_route_is_the_same_both_ways_and_never_shorter_than_the_air(
        self, at: list[tuple[float, float, float]]
    ) -> None:
        a, b, c = (Spot(0, *each) for each in at)
        for way in ("ceiling", "floor", "loft", "surface"):
            distances = Distances(house(room(9.0, 9.0)), way)  # type: ignore[arg-type]
            self.assertAlmostEqual(distances.between(a, b), distances.between(b, a))
            straight = ((a.x_m - b.x_m) ** 2 + (a.y_m - b.y_m) ** 2 + (a.z_m - b.z_m) ** 2) ** 0.5
            self.assertGreaterEqual(distances.between(a, b), straight - 1e-9)
            self.assertLessEqual(distances.between(a, b), distances.between(a, c) + distances.between(c, b) + 1e-9)


def scattered(count: int, seed: int) -> Mapping[str, Mapping[str, float]]:
    rng = random.Random(seed)
    at = {f"p{n}": (rng.uniform(0, 12), rng.uniform(0, 9)) for n in range(count + 1)}
    return {a: {b: abs(xa - xb) + abs(ya - yb) for b, (xb, yb) in at.items()} for a, (xa, ya) in at.items()}


class Orders(unittest.TestCase):
    def every_order(
        self, start: str, points: Sequence[str], table: Mapping[str, Mapping[str, float]], closed: bool
    ) -> float:
        return min(length_of(start, order, table, closed=closed) for order in itertools.permutations(points))

    def test_against_every_order(self) -> None:
        for count in range(1, 8):
            table = scattered(count, count)
            points = [f"p{n}" for n in range(1, count + 1)]
            for find, closed in ((shortest_path, False), (shortest_tour, True)):
                found = find("p0", points, table)
                self.assertEqual(sorted(found.points), sorted(points))
                self.assertAlmostEqual(found.length_m, self.every_order("p0", points, table, closed), places=6)
                self.assertAlmostEqual(found.length_m, length_of("p0", found.points, table, closed=closed), places=6)

    def test_more_points_than_can_be_tried_say_how_much_shorter_another_could_be(self) -> None:
        for count, seed in ((10, 1), (12, 2), (24, 3), (40, 4)):
            table = scattered(count, seed)
            points = [f"p{n}" for n in range(1, count + 1)]
            for find, closed in ((shortest_path, False), (shortest_tour, True)):
                found = find("p0", points, table)
                self.assertEqual(sorted(found.points), sorted(points))
                self.assertAlmostEqual(found.length_m, length_of("p0", found.points, table, closed=closed), places=6)
                self.assertTrue(0 <= found.gap < 0.5, (count, closed, found.gap))
                nearest = self.nearest_first("p0", points, table)
                self.assertLessEqual(found.length_m, length_of("p0", nearest, table, closed=closed) + 1e-6)

    def test_the_bound_is_below_what_every_order_gives(self) -> None:
        from vivid_lattice.core.plan.routes import order as module

        for seed in range(6):
            table = scattered(7, seed)
            points = tuple(f"p{n}" for n in range(1, 8))
            for closed in (False, True):
                found = module._by_search("p0", points, table, closed=closed)
                exact = self.every_order("p0", points, table, closed)
                self.assertGreaterEqual(found.length_m, exact - 0.01)
                self.assertLessEqual(found.length_m * (1 - found.gap), exact + 0.01)

    def nearest_first(self, start: str, points: Sequence[str], table: Mapping[str, Mapping[str, float]]) -> list[str]:
        left, at, order = set(points), start, []
        while left:
            at = min(left, key=lambda name: table[at][name])
            left.remove(at)
            order.append(at)
        return order

    def test_branches_against_every_tree(self) -> None:
        table = scattered(4, 3)
        points = [f"p{n}" for n in range(1, 5)]
        found = shortest_branches("p0", points, table)
        length = sum(table[a][b] for a, b in found)
        pairs = list(itertools.combinations(["p0", *points], 2))
        best = min(
            sum(table[a][b] for a, b in chosen)
            for chosen in itertools.combinations(pairs, 4)
            if nx.is_connected(nx.Graph([*chosen, *((name, name) for name in ("p0", *points))]))
        )
        self.assertAlmostEqual(length, best)

    def test_nothing_to_order(self) -> None:
        self.assertEqual(shortest_path("p0", [], {}).points, ())


class Areas(unittest.TestCase):
    def test_an_l_has_less(self) -> None:
        from vivid_lattice.core.document.plan import Notch

        whole = room(4.0, 3.0)
        self.assertEqual(area_m2(whole), 12.0)
        self.assertEqual(area_m2(room(4.0, 3.0, notch=Notch(corner="back-right", width_m=1.5, depth_m=1.0))), 10.5)


class JointBoxes(unittest.TestCase):
    """Branches that meet between the points: against every choice of boxes, on small ones."""

    def branches(self, places: Sequence[tuple[float, float]]) -> tuple[Branches, dict[str, Spot]]:
        spots = {f"p{n}": Spot(0, x, y, 2.5) for n, (x, y) in enumerate(places)}
        return branches_with_joints("p0", spots, _flat, lambda _level: 2.5), spots

    def test_three_places_meet_in_the_middle(self) -> None:
        found, _ = self.branches([(0, 0), (6, 4), (6, -4)])
        self.assertAlmostEqual(found.length_m, 14.0)
        self.assertEqual([(spot.x_m, spot.y_m) for spot in found.joints.values()], [(6, 0)])

    def test_none_where_it_saves_less_than_a_metre(self) -> None:
        found, _ = self.branches([(0, 0), (6, 0.4), (6, -0.4)])
        self.assertEqual(dict(found.joints), {})

    def test_against_every_choice_of_two_boxes(self) -> None:
        """No choice of up to two crossings is shorter by more than what a box is worth; and the gap tells at least as much."""
        rng = random.Random(11)
        for _ in range(12):
            places = [(rng.randint(0, 20) / 2, rng.randint(0, 20) / 2) for _ in range(4)]
            found, spots = self.branches(places)
            crossings = [Spot(0, x, y, 2.5) for x in {x for x, _ in places} for y in {y for _, y in places}]
            least = min(
                _tree_m([*spots.values(), *chosen])
                for count in range(3)
                for chosen in itertools.combinations(crossings, count)
            )
            self.assertLess(found.length_m, least + 2 * WORTH_M)
            self.assertGreaterEqual(least, found.length_m * (1 - found.gap) - 1e-9)
            self.assertLessEqual(found.length_m, _tree_m(list(spots.values())) + 1e-9)

    @settings(max_examples=30, deadline=None)
    @given(st.lists(st.tuples(st.integers(0, 24), st.integers(0, 24)), min_size=2, max_size=6, unique=True))
    def test_a_tree_that_reaches_every_place_and_whose_boxes_have_three_cables(self, at: list[tuple[int, int]]) -> None:
        found, spots = self.branches([(x / 2, y / 2) for x, y in at])
        graph = nx.Graph(found.pairs)
        self.assertTrue(nx.is_tree(graph))
        self.assertEqual(set(graph), {*spots, *found.joints})
        for joint in found.joints:
            self.assertGreaterEqual(graph.degree(joint), 3)


def _flat(a: Spot, b: Spot) -> float:
    return abs(a.x_m - b.x_m) + abs(a.y_m - b.y_m)


def _tree_m(spots: Sequence[Spot]) -> float:
    graph = nx.Graph()
    graph.add_weighted_edges_from(
        (a, b, _flat(spots[a], spots[b])) for a, b in itertools.combinations(range(len(spots)), 2)
    )
    return float(nx.minimum_spanning_tree(graph).size(weight="weight"))


if __name__ == "__main__":
    unittest.main()
