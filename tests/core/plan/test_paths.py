"""Paths of cables: inside the house only, along walls, through zones; what lies together; and what of that is in the runs."""

from __future__ import annotations

import itertools
import math
import unittest
from typing import Any

import networkx as nx
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.plan.test_typed_plan import typed
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import CircuitRoute, FloorBuild, PinnedSection, Plan, RoomShape, Way
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.geometry.floor_lines import FloorLines
from vivid_lattice.core.plan.geometry.house import House, Spot
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.plan.planned_runs import BRANCH_M, with_planned_runs
from vivid_lattice.core.plan.remarks import questions
from vivid_lattice.core.plan.routes.distance import Distances
from vivid_lattice.core.plan.routes.zones import Plate, WallFace, is_in_zone
from vivid_lattice.core.rules import rule_set

UK = rule_set("uk")


def shape(name: str, x: float, y: float, width: float, depth: float, **more: Any) -> RoomShape:
    return RoomShape(room=name, x_m=x, y_m=y, width_m=width, depth_m=depth, **more)


#: Two wings and what joins them: the air between the wings is outside.
WINGS = (shape("left", 0, 0, 3, 8), shape("middle", 3, 0, 4, 3), shape("right", 7, 0, 3, 8))


class InsideTheHouse(unittest.TestCase):
    def distances(self, *rooms: RoomShape, way: Way = "ceiling", standard: str = "uk") -> Distances:
        return Distances(House(Plan(rooms=rooms), rule_set(standard).plan), way)

    def test_a_cable_goes_round_what_is_outside(self) -> None:
        one, other = Spot(0, 1.0, 7.0, 2.5), Spot(0, 9.0, 7.0, 2.5)
        # Down the left wing by 4 m, across by 8 m, up again by 4 m; as the crow flies 8 m.
        self.assertAlmostEqual(self.distances(*WINGS).between(one, other), 16.0)
        [route] = self.distances(*WINGS).routes(one, other)
        self.assertEqual({leg.lies_in for leg in route}, {"ceiling"})
        self.assertAlmostEqual(sum(leg.length_m for leg in route), 16.0)

    def test_a_part_of_the_house_that_touches_no_other_is_reached_outside(self) -> None:
        shed = shape("shed", 14, 0, 2, 2)
        [route] = self.distances(*WINGS, shed).routes(Spot(0, 9.0, 1.0, 2.5), Spot(0, 15.0, 1.0, 2.5))
        self.assertIn("outside", {leg.lies_in for leg in route})

    def test_round_a_stairwell_over_the_ceiling_but_not_under_the_floor(self) -> None:
        stairs = shape("stairs", 3, 1, 4, 6, open_above=True)
        rooms = (shape("left", 0, 0, 3, 8), shape("hall", 3, 0, 4, 1), shape("right", 7, 0, 3, 8), stairs)
        one, other = Spot(0, 2.0, 4.0, 2.5), Spot(0, 8.0, 4.0, 2.5)
        self.assertAlmostEqual(self.distances(*rooms).between(one, other), 12.0)
        self.assertAlmostEqual(self.distances(*rooms, way="floor").between(one, other), 6.0 + 2 * 2.62)

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.tuples(*[st.integers(0, 6)] * 2, *[st.integers(1, 4)] * 2), min_size=1, max_size=5),
        st.data(),
    )
    def test_against_every_step_of_a_grid(self, boxes: list[tuple[int, int, int, int]], data: st.DataObject) -> None:
        """The shortest way over half metres inside the rooms, found step by step, is as long."""
        rooms = [shape(f"r{n}", *map(float, box)) for n, box in enumerate(boxes)]
        inside = {
            (i, j)
            for i, j in itertools.product(range(21), repeat=2)
            if any(2 * x <= i <= 2 * (x + w) and 2 * y <= j <= 2 * (y + d) for x, y, w, d in boxes)
        }
        graph = nx.Graph()
        graph.add_nodes_from(inside)
        for i, j in inside:
            for step in ((i + 1, j), (i, j + 1)):
                middle = ((i + step[0]) / 4, (j + step[1]) / 4)
                if step in inside and any(x <= middle[0] <= x + w and y <= middle[1] <= y + d for x, y, w, d in boxes):
                    graph.add_edge((i, j), step)
        a, b = (data.draw(st.sampled_from(sorted(inside))) for _ in "ab")
        found = FloorLines(rooms).shortest((a[0] / 2, a[1] / 2), (b[0] / 2, b[1] / 2))
        if not nx.has_path(graph, a, b):
            self.assertIsNone(found)
            return
        assert found is not None
        self.assertAlmostEqual(found[0], nx.shortest_path_length(graph, a, b) / 2)
        walked = sum(abs(p[0] - q[0]) + abs(p[1] - q[1]) for p, q in itertools.pairwise(found[1]))
        self.assertAlmostEqual(walked, found[0])
        self.assertEqual((found[1][0], found[1][-1]), ((a[0] / 2, a[1] / 2), (b[0] / 2, b[1] / 2)))


class InWalls(unittest.TestCase):
    def test_from_a_box_by_the_door_to_an_outlet(self) -> None:
        """iec.runs.ex.zone-route: 6.55 m of route, 6.95 m with 0.2 m at both ends; the switch below the box 1.55 m."""
        of = House(Plan(rooms=(shape("bedroom", 0, 0, 4.0, 3.5, height_m=2.5),)), rule_set("iec").plan)
        box = Spot(0, 1.35, 0.0, 2.2, ("bedroom", "front"))
        outlet = Spot(0, 4.0, 2.0, 0.3, ("bedroom", "right"))
        switch = Spot(0, 1.35, 0.0, 1.05, ("bedroom", "front"))
        walls = Distances(of, "wall")
        self.assertAlmostEqual(walls.between(box, outlet), 6.55, delta=0.005)
        self.assertAlmostEqual(walls.between(box, switch) + 2 * 0.2, 1.55, delta=0.005)
        [route] = walls.routes(box, outlet)
        self.assertEqual({leg.lies_in for leg in route}, {"wall"})

    def test_a_light_is_fed_square_from_the_wall_and_never_across_the_room_from_point_to_point(self) -> None:
        of = House(Plan(rooms=(shape("bedroom", 0, 0, 4.0, 3.0, height_m=2.5),)), rule_set("iec").plan)
        light, switch = Spot(0, 2.0, 1.5, 2.5), Spot(0, 0.0, 0.3, 1.05, ("bedroom", "left"))
        # Up 1.15 m to the zone at 2.20 m, along the wall to the foot of the light, across the ceiling, up 0.3 m.
        self.assertAlmostEqual(Distances(of, "wall").between(switch, light), 1.15 + 1.2 + 2.0 + 0.3, places=3)

    def test_zones_of_a_british_wall(self) -> None:
        """uk.runs.ex.zones: the first four parts are in a zone, the last four are not."""
        zones = UK.plan.wall_zones
        assert zones is not None
        plates = (Plate(1.0, 0.45, 0.146, 0.086), Plate(2.6, 1.15, 0.086, 0.086))
        wall = WallFace(length_m=3.5, height_m=2.4, plates=plates)
        parts = (
            (2.6, 1.15, 2.6, 2.4), (0.0, 2.3, 3.5, 2.3), (0.08, 2.4, 0.08, 0.45), (0.08, 0.45, 1.0, 0.45),
            (0.08, 0.6, 2.6, 0.6), (1.8, 0.45, 1.8, 2.4), (2.6, 1.15, 1.0, 0.45), (0.0, 0.08, 3.5, 0.08),
        )  # fmt: skip
        found = [is_in_zone((a, b), (c, d), wall, zones) for a, b, c, d in parts]
        self.assertEqual(found, [True] * 4 + [False] * 4)

    def test_zones_of_a_german_bedroom(self) -> None:
        """iec.runs.ex.zones: horizontal at 0.20 … 2.36 m, vertical at 0.05, 0.12 and 0.35 m from the corner."""
        zones = rule_set("iec").plan.wall_zones
        assert zones is not None
        wall = WallFace(length_m=4.0, height_m=2.5)
        level = [is_in_zone((0.5, z), (3.0, z), wall, zones) for z in (0.20, 0.45, 0.50, 1.15, 2.06, 2.36)]
        self.assertEqual(level, [True, True, False, False, True, False])
        upright = [is_in_zone((x, 0.3), (x, 2.2), wall, zones) for x in (0.05, 0.12, 0.35)]
        self.assertEqual(upright, [False, True, False])
        kitchen = WallFace(length_m=4.0, height_m=2.5, worktop=True, frames=((1.0, 1.9),))
        self.assertTrue(is_in_zone((0.5, 1.15), (3.0, 1.15), kitchen, zones))
        self.assertEqual(
            [is_in_zone((x, 0.3), (x, 2.2), kitchen, zones) for x in (0.85, 0.95, 2.05, 2.25)],
            [True, False, True, False],
        )

    def test_every_wall_part_of_a_planned_british_house_is_in_a_zone(self) -> None:
        job = typed(
            "kitchen 4.2 x 3.6 door left", "hall 1.6 x 5 left of kitchen door right", "board hall left at 0.5",
            "8 sockets kitchen", "4 sockets hall", "2 way light hall kitchen", "cooker kitchen right at 1.9",
        )  # fmt: skip
        zones, house = UK.plan.wall_zones, House(job.plan, UK.plan)
        assert zones is not None
        for way in ("ceiling", "floor", "wall"):
            routes = tuple(CircuitRoute(circuit=each.id, way=way) for each in job.circuits)
            plan = house_plan(job.model_copy(update={"plan": job.plan.model_copy(update={"routes": routes})}), UK)
            seen = 0
            for route in plan.laying.sections.values():
                for leg in route:
                    if leg.lies_in != "wall" or leg.face is None:
                        continue
                    seen += 1
                    room, wall = leg.face
                    of, axis = house.rooms[room], 0 if wall in ("front", "back") else 1
                    start = of.x_m if axis == 0 else of.y_m
                    plates = [
                        Plate(point.along_m or 0.0, house.point_height_m(point), 0.09, 0.09)
                        for point in job.plan.points
                        if (point.room, point.wall) == leg.face
                    ] + [
                        Plate(place.along_m, place.height_m, 0.3, 0.3)
                        for place in job.plan.boards
                        if (place.room, place.wall) == leg.face
                    ]
                    face = WallFace(
                        length_m=of.width_m if axis == 0 else of.depth_m, height_m=of.height_m, plates=plates
                    )
                    a, b = ((end[axis] - start, end[2]) for end in (leg.a, leg.b))
                    self.assertTrue(is_in_zone(a, b, face, zones), (way, leg))
            self.assertGreater(seen, 10)


def planned(
    *lines: str, circuits: tuple[str, ...], apart: bool | None = None, standard: str = "uk", **build: Any
) -> Job:
    """A job as it is typed, with how its floors are built, and its plan in its runs."""
    job = typed(*lines, circuits=circuits, standard=standard)
    floors = (FloorBuild(level=0, **build),) if build else ()
    job = job.model_copy(update={"plan": job.plan.model_copy(update={"floors": floors, "apart": apart})})
    return with_planned_runs(job, rule_set(standard))


LONG = ("barn 12 x 4", "board barn left at 2")


class Together(unittest.TestCase):
    COOKERS = (*LONG, "cooker barn right at 2", "heater barn right at 2")

    def grouped(self, job: Job, name: str) -> int:
        return max(section.circuits_grouped for each in job.circuits if name in each.name for section in each.run)

    def test_two_circuits_that_go_the_same_way_count_as_two(self) -> None:
        circuits = ("cooker 32A", "heater 3kW")
        job = planned(*self.COOKERS, circuits=circuits)
        self.assertEqual([self.grouped(job, each) for each in ("Cooker", "Heater")], [2, 2])
        apart = planned(*self.COOKERS, circuits=circuits, apart=True)
        self.assertEqual([self.grouped(apart, each) for each in ("Cooker", "Heater")], [1, 1])

    def test_a_circuit_that_carries_little_is_not_counted_with_the_rest(self) -> None:
        """uk.cg.may-be-ignored: up to 30 % of its rating in company; it counts the others itself."""
        lines = (*LONG, "cooker barn right at 2", "heater barn right at 2")
        for heater, counted in (("heater 0.5kW", 1), ("heater 3kW", 2)):
            job = planned(*lines, circuits=("cooker 32A", heater))
            self.assertEqual([self.grouped(job, each) for each in ("Cooker", "Heater")], [counted, 2], heater)

    def test_what_rises_at_the_board_and_short_common_parts_are_left_out(self) -> None:
        """Common practice, no source: parts up to a metre, and where cables are spread from the board."""
        lines = (*LONG, "cooker barn back at 0.9", "heater barn front at 0.9")
        job = planned(*lines, circuits=("cooker 32A", "heater 3kW"))
        self.assertEqual([self.grouped(job, each) for each in ("Cooker", "Heater")], [1, 1])

    def test_of_two_paths_the_one_with_less_beside_it(self) -> None:
        lines = (*LONG, "cooker barn back at 9", "heater barn back at 9.2")
        job = planned(*lines, circuits=("cooker 32A", "heater 3kW"))
        self.assertEqual([self.grouped(job, each) for each in ("Cooker", "Heater")], [1, 1])

    def test_both_legs_of_a_ring_in_one_place_are_two(self) -> None:
        job = planned(*LONG, "socket barn right at 2", circuits=("sockets ring",))
        self.assertEqual(self.grouped(job, "ocket"), 2)

    def test_a_path_is_pinned(self) -> None:
        job = planned(*LONG, "cooker barn back at 9", circuits=("cooker 32A",))
        cooker = job.circuits[0].id
        [point] = [each.id for each in job.plan.points]
        ends: list[tuple[float, float]] = []
        for first in ("x", "y"):
            pin = PinnedSection(a="feed", b=point, first=first)
            plan = job.plan.model_copy(update={"routes": (CircuitRoute(circuit=cooker, pinned=(pin,)),)})
            [route] = house_plan(job.model_copy(update={"plan": plan}), UK).laying.sections.values()
            turn = next(leg.b for leg in route if not leg.upright)
            ends.append((round(turn[0], 3), round(turn[1], 3)))
        self.assertEqual(ends, [(9.0, 2.0), (0.0, 4.0)])
        floor = PinnedSection(a=point, b="feed", way="floor")
        plan = job.plan.model_copy(update={"routes": (CircuitRoute(circuit=cooker, pinned=(floor,)),)})
        [route] = house_plan(job.model_copy(update={"plan": plan}), UK).laying.sections.values()
        self.assertIn("floor", {leg.lies_in for leg in route})


class InTheRuns(unittest.TestCase):
    LINES = (*LONG, "cooker barn right at 2")

    def methods(self, job: Job) -> dict[str, str]:
        return {str(section.concealed_in): section.method for section in job.circuits[0].run}

    def test_the_method_follows_insulation_and_walls(self) -> None:
        """uk.runs.way-method: none C, to 100 mm 100, more 101; an insulated stud wall 102."""
        for build, method in (
            ({}, "C"),
            ({"above": "loft", "insulation_mm": 100.0}, "100"),
            ({"above": "loft", "insulation_mm": 101.0}, "101"),
        ):
            found = self.methods(planned(*self.LINES, circuits=("cooker 32A",), **build))
            self.assertEqual(found, {"wall": "C", "floor-or-ceiling": method})
        stud = planned("barn 12 x 4 insulated stud", *self.LINES[1:], circuits=("cooker 32A",))
        self.assertEqual(self.methods(stud)["wall"], "102")

    def test_a_branch_that_lies_worse_than_the_way_to_the_furthest_point_counts(self) -> None:
        """The furthest heater is in masonry, a nearer one in an insulated stud wall: its method is in the run, and the length is unchanged."""
        lines = (
            "barn 12 x 4 masonry", "store 3 x 2 insulated stud behind barn", "board barn left at 3.5", "heater barn right at 0.3",
            "heater store back at 1.5",
        )  # fmt: skip
        job = planned(*lines, circuits=("heater 7kW 6mm2",))
        [circuit] = job.circuits
        branch = (CircuitRoute(circuit=circuit.id, shape="branch"),)
        job = with_planned_runs(job.model_copy(update={"plan": job.plan.model_copy(update={"routes": branch})}), UK)
        [plan] = house_plan(job, UK).circuits
        self.assertEqual(plan.furthest, "barn-heater")
        lies = {(section.concealed_in, section.method): section.length_m for section in job.circuits[0].run}
        self.assertEqual(lies["wall", "102"], BRANCH_M)
        total = sum(round(100 * (section.length_m or 0)) for section in job.circuits[0].run)
        self.assertEqual(total, round(100 * plan.length_m))
        self.assertEqual(with_planned_runs(job, UK), job)
        masonry = with_planned_runs(enter_plan_line(job, "store 3 x 2 masonry behind barn"), UK)
        self.assertNotIn("102", {section.method for section in masonry.circuits[0].run})

    def test_a_branch_in_company_counts_as_grouped(self) -> None:
        """Two cookers share the way to the near wall for more than a metre; the first circuit goes on alone to a further point."""
        lines = (*LONG, "cooker barn back at 6", "cooker barn right at 2", "heater barn back at 6")
        job = planned(*lines, circuits=("cooker 32A", "heater 3kW"))
        cooker = job.circuits[0]
        branch = (CircuitRoute(circuit=cooker.id, shape="branch"),)
        job = with_planned_runs(job.model_copy(update={"plan": job.plan.model_copy(update={"routes": branch})}), UK)
        for circuit in job.circuits:
            laid = house_plan(job, UK).laying.circuits[circuit.id]
            most = max(leg.together for leg in (*laid.way, *laid.branches))
            self.assertEqual(max(section.circuits_grouped for section in circuit.run), most)

    def test_insulation_that_is_not_stated_is_asked_where_it_matters(self) -> None:
        def asked(job: Job) -> int:
            rules = rule_set(job.job.rules)
            return len(questions(job, rules, house_plan(job, rules)))

        job = planned(*self.LINES, circuits=("cooker 32A",))
        self.assertEqual(asked(job), 1)
        for line in (
            "ground floor insulation none",
            "ground floor above loft insulation 200",
            "ground floor above floor",
        ):
            self.assertEqual(asked(enter_plan_line(job, line)), 0, line)
        self.assertEqual(asked(enter_plan_line(job, "attic 12 x 4 above barn")), 0)
        floor = (CircuitRoute(circuit=job.circuits[0].id, way="floor"),)
        self.assertEqual(asked(job.model_copy(update={"plan": job.plan.model_copy(update={"routes": floor})})), 0)
        american = planned(
            "kitchen 4 x 3", "board kitchen left at 1", "range kitchen back at 2", circuits=("range",), standard="na"
        )
        self.assertEqual(asked(american), 0)

    def test_what_the_plan_does_not_know_stays(self) -> None:
        job = planned(*self.LINES, circuits=("cooker 7kW in trunking 35°C",), above="loft", insulation_mm=200.0)
        self.assertEqual({section.method for section in job.circuits[0].run}, {"B"})
        self.assertEqual({section.ambient_c for section in job.circuits[0].run}, {35.0})
        wrapped = planned(
            *self.LINES, circuits=("cooker 7kW, 200 mm in insulation",), above="loft", insulation_mm=200.0
        )
        self.assertEqual({section.in_insulation_mm for section in wrapped.circuits[0].run}, {200.0})

    def test_the_parts_are_as_long_as_the_cable_and_stay_so(self) -> None:
        job = planned(*self.LINES, circuits=("cooker 32A",), above="loft", insulation_mm=150.0)
        [plan] = house_plan(job, UK).circuits
        self.assertEqual(math.fsum(section.length_m or 0 for section in job.circuits[0].run), plan.length_m)
        self.assertEqual(with_planned_runs(job, UK), job)

    def test_grouping_and_insulation_of_the_plan_weigh_on_the_cable(self) -> None:
        """The same cable, planned without and with insulation over the ceiling: it passes, then it carries too little."""
        passed = []
        for build in ({}, {"above": "loft", "insulation_mm": 270.0}):
            job = planned(*self.LINES, circuits=("cooker 32A 6mm2",), **build)
            own = [
                each
                for each in assess(job).findings
                if each.subject.id == job.circuits[0].id and each.check == "capacity"
            ]
            passed.append([each.verdict for each in own])
        self.assertEqual(passed, [["pass"], ["fail"]])

    def test_a_metal_partition_wants_an_rcd_and_surface_wiring_does_not(self) -> None:
        metal = planned("barn 12 x 4 metal stud", *self.LINES[1:], circuits=("cooker 32A",))
        self.assertIn("metal-partition", {section.concealed_in for section in metal.circuits[0].run})
        routes = (CircuitRoute(circuit=metal.circuits[0].id, way="surface"),)
        surface = with_planned_runs(
            metal.model_copy(update={"plan": metal.plan.model_copy(update={"routes": routes})}), UK
        )
        self.assertEqual({section.concealed_in for section in surface.circuits[0].run}, {"no"})


if __name__ == "__main__":
    unittest.main()
