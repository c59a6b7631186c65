"""A house typed line by line: rooms beside each other, points where such points go, switches by the doors; and what is refused."""

from __future__ import annotations

import math
import unittest

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.plan import PlanPoint, RoomShape
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.plan.new_circuit import with_circuit_for
from vivid_lattice.core.plan.typed.room_line import metres
from vivid_lattice.core.rules import rule_set


def typed(
    *lines: str, circuits: tuple[str, ...] = ("kitchen ring", "lights", "cooker 32A"), standard: str = "uk"
) -> Job:
    job = begin("Mill", rule_set(standard), "MEN" if standard == "anz" else "TN-C-S")
    for line in circuits:
        job = enter_and_design(job, line, "main").job
    for line in lines:
        job = enter_plan_line(job, line)
    return job


def run_m(circuit: Circuit) -> float:
    """The length of a run [m]."""
    return math.fsum(section.length_m or 0.0 for section in circuit.run)


KITCHEN = "kitchen 4.2 x 3.6 h 2.4 door left 0.8 at 1.2 window back 1.4 at 1.2"


def shape_of(job: Job, room: str) -> RoomShape:
    return next(each for each in job.plan.rooms if each.room == room)


def of_kind(job: Job, kind: str) -> list[PlanPoint]:
    return [point for point in job.plan.points if point.kind == kind]


class Rooms(unittest.TestCase):
    def test_measures_height_openings_and_kind(self) -> None:
        job = typed(KITCHEN)
        shape = shape_of(job, "kitchen")
        self.assertEqual((shape.width_m, shape.depth_m, shape.height_m), (4.2, 3.6, 2.4))
        door, window = shape.openings
        self.assertEqual((door.kind, door.wall, door.width_m, door.from_m), ("door", "left", 0.8, 1.2))
        self.assertEqual((window.kind, window.wall, window.sill_m), ("window", "back", 0.9))
        self.assertEqual(job.rooms[0].kind, "kitchen")

    def test_beside_each_other_and_over_each_other(self) -> None:
        job = typed(
            KITCHEN, "hall 1.2 x 5 left of kitchen", "study 3 x 3 right of kitchen", "yard 2 x 2 in front of kitchen",
            "pantry 2 x 1.5 behind kitchen offset 1.2", "landing 3 x 2 above hall",
        )  # fmt: skip
        at = {shape.room: (shape.level, shape.x_m, shape.y_m) for shape in job.plan.rooms}
        self.assertEqual(at["hall"], (0, -1.2, 0.0))
        self.assertEqual(at["study"], (0, 4.2, 0.0))
        self.assertEqual(at["yard"], (0, 0.0, -2.0))
        self.assertEqual((at["pantry"][0], at["pantry"][2]), (0, 3.6))
        self.assertEqual(at["landing"], (1, -1.2, 0.0))

    def test_feet_and_inches_and_decimal_commas(self) -> None:
        for text, wanted in (
            ("4.2", 4.2),
            ("3,6 m", 3.6),
            ("12'", 3.658),
            ("12 ft", 3.658),
            ("12'6\"", 3.81),
            ("8 ft 3 in", 2.515),
        ):
            self.assertAlmostEqual(metres(text), wanted, places=3)
        shape = shape_of(typed("study 12' x 10'6\" h 8ft"), "study")
        self.assertEqual((shape.width_m, shape.depth_m, shape.height_m), (3.658, 3.2, 2.438))

    def test_an_l_and_a_room_typed_again_keeps_its_place(self) -> None:
        job = typed(KITCHEN, "hall 3 x 5 left of kitchen less 1.5 x 2 back-left")
        notch = shape_of(job, "hall").notch
        assert notch is not None
        self.assertEqual((notch.corner, notch.width_m, notch.depth_m), ("back-left", 1.5, 2.0))
        again = enter_plan_line(job, "kitchen 4.0 x 3.6")
        shape = shape_of(again, "kitchen")
        self.assertEqual((shape.width_m, shape.x_m, len(shape.openings)), (4.0, 0.0, 2))
        self.assertEqual(len(again.plan.rooms), 2)

    def test_what_is_refused(self) -> None:
        job = typed(KITCHEN)
        for line in ("4 x 3", "hall 2 x 3 left of garage", "hall 3 x 3 right of kitchen offset -1"):
            with self.subTest(line):
                try:
                    made = enter_plan_line(job, line)
                except EntryNotUnderstood as why:
                    self.assertTrue(str(why.why))
                else:
                    self.assertEqual(len(made.plan.rooms), 2)
        with self.assertRaises(EntryNotUnderstood):
            enter_plan_line(enter_plan_line(job, "hall 3 x 3 right of kitchen"), "study 2 x 2 right of kitchen")


class Points(unittest.TestCase):
    def test_sockets_on_the_worktop_wall_clear_of_its_ends(self) -> None:
        job = typed(KITCHEN, "6 double sockets kitchen worktop")
        points = of_kind(job, "socket")
        self.assertEqual(len({point.wall for point in points}), 1)
        self.assertTrue(all(point.above_worktop and point.circuit == "c1" for point in points))
        along = [point.along_m or 0.0 for point in points]
        self.assertEqual(along, sorted(along))
        self.assertTrue(min(along) >= 0.3 and max(along) <= 3.9)

    def test_points_stay_clear_of_doors(self) -> None:
        job = typed("hall 2 x 2 door front 0.9 at 0.5", "12 sockets hall", circuits=("sockets 20m",))
        for point in of_kind(job, "socket"):
            if point.wall == "front":
                self.assertFalse(0.5 < (point.along_m or 0.0) < 1.4, point)

    def test_a_light_brings_its_switch_and_two_way_brings_two(self) -> None:
        job = typed(KITCHEN, "hall 1.2 x 5 left of kitchen door front 0.9 at 0.1", "landing 3 x 2 above hall door front 0.8 at 1",
                    "light kitchen", "2 way light hall landing")  # fmt: skip
        one, two = job.plan.switching
        self.assertEqual((one.lights, one.switches), (("kitchen-light",), ("kitchen-switch",)))
        self.assertEqual((two.lights, two.switches), (("hall-light",), ("hall-switch", "landing-switch")))
        switch = next(point for point in job.plan.points if point.id == "kitchen-switch")
        self.assertEqual(switch.wall, "left")
        self.assertAlmostEqual(switch.along_m or 0.0, 2.15)

    def test_a_bathroom_has_a_pull_cord(self) -> None:
        job = typed("bathroom 2 x 2.4 door front", "light bathroom")
        self.assertEqual([point.kind for point in job.plan.points], ["light", "pull-cord"])

    def test_lights_in_a_grid(self) -> None:
        job = typed(KITCHEN, "6 downlights kitchen")
        at = {(point.x_m, point.y_m) for point in of_kind(job, "light")}
        self.assertEqual(at, {(x, y) for x in (0.7, 2.1, 3.5) for y in (0.9, 2.7)})

    def test_a_point_of_two_circuits_that_could_feed_it_is_left_open(self) -> None:
        job = typed("study 3 x 3", "2 sockets study", circuits=("front ring", "back ring"))
        self.assertEqual({point.circuit for point in job.plan.points}, {None})

    def test_a_circuit_is_known_by_the_word_that_is_typed(self) -> None:
        job = typed(
            "kitchen 4 x 3", "hob kitchen", "cooker kitchen", circuits=("hob 32A", "kitchen ring", "cooker 32A")
        )
        self.assertEqual([point.circuit for point in job.plan.points], ["c1", "c3"])

    def test_a_circuit_is_known_by_its_room_then_by_its_floor(self) -> None:
        job = typed(
            "kitchen 4 x 3", "study 3 x 3 right of kitchen", "bedroom 3 x 3 above kitchen", "2 sockets kitchen", "2 sockets study",
            "2 sockets bedroom", "light study", "light bedroom",
            circuits=("kitchen ring", "upstairs ring", "downstairs ring", "lights up", "lights down"),
        )  # fmt: skip
        self.assertEqual(
            {(point.room, point.kind, point.circuit) for point in job.plan.points if point.kind != "switch"},
            {
                ("kitchen", "socket", "c1"), ("study", "socket", "c3"), ("bedroom", "socket", "c2"), ("study", "light", "c5"),
                ("bedroom", "light", "c4"),
            },
        )  # fmt: skip

    def test_a_board_and_its_height(self) -> None:
        job = typed(KITCHEN, "hall 1.2 x 5 left of kitchen", "board hall left at 0.5")
        [place] = job.plan.boards
        self.assertEqual(
            (place.board, place.room, place.wall, place.along_m, place.height_m), ("main", "hall", "left", 0.5, 1.4)
        )

    def test_what_is_refused(self) -> None:
        job = typed(KITCHEN)
        for line in ("", "sockets", "4 sockets garage", "4 kitchen", "0 sockets kitchen", "99 sockets kitchen"):
            with self.subTest(line), self.assertRaises(EntryNotUnderstood):
                enter_plan_line(job, line)
        no_wall = typed("hall 0.5 x 0.5", circuits=("sockets 20m",))
        with self.assertRaises(EntryNotUnderstood):
            enter_plan_line(no_wall, "4 sockets hall")


class AtAPlace(unittest.TestCase):
    def test_a_room_by_its_corner_and_floor(self) -> None:
        job = typed("kitchen 4 x 3 place 3.1 2.4", "loft 4 x 3 h 2.2 place -1 0.5 floor 1")
        at = {shape.room: (shape.level, shape.x_m, shape.y_m) for shape in job.plan.rooms}
        self.assertEqual(at, {"kitchen": (0, 3.1, 2.4), "loft": (1, -1.0, 0.5)})
        with self.assertRaises(EntryNotUnderstood):
            enter_plan_line(job, "hall 2 x 2 place 4 3")


class SwitchedBy(unittest.TestCase):
    def test_a_dimmer_a_cord_and_a_sensor(self) -> None:
        for words, kind in (
            ("dimmer", "dimmer"),
            ("pull cord", "pull-cord"),
            ("a motion sensor", "sensor"),
            ("PIR", "sensor"),
        ):
            job = typed(KITCHEN, "board kitchen right at 1", f"2 lights kitchen with {words}")
            [group] = job.plan.switching
            [switch] = [point for point in job.plan.points if point.id in group.switches]
            self.assertEqual((switch.kind, len(group.lights)), (kind, 2), words)
            lights = next(each for each in house_plan(job, rule_set("uk")).circuits if each.circuit.name == "Lights")
            self.assertTrue(lights.proved, words)

    def test_of_two_way_switches_the_first_is_the_dimmer(self) -> None:
        job = typed(KITCHEN, "hall 2 x 3 left of kitchen door right", "2 way light hall kitchen with dimmer")
        [group] = job.plan.switching
        kinds = {point.id: point.kind for point in job.plan.points}
        self.assertEqual([kinds[each] for each in group.switches], ["dimmer", "switch"])


class NoCircuitYet(unittest.TestCase):
    def test_one_is_entered_for_open_points_of_every_kind_in_every_standard(self) -> None:
        for standard in ("uk", "iec", "na", "anz", "za"):
            lines = (
                KITCHEN,
                "board kitchen right at 1",
                "2 lights kitchen",
                "2 sockets kitchen",
                "cooker kitchen right at 2",
                "smoke alarm kitchen",
            )
            job = typed(*lines, circuits=(), standard=standard)
            rules = rule_set(standard)
            for _ in range(6):
                undecided = house_plan(job, rules).undecided
                if undecided:
                    job = with_circuit_for(job, undecided[0])
            plan = house_plan(job, rules)
            self.assertEqual(plan.undecided, (), standard)
            self.assertEqual(len(plan.circuits), 4, standard)
            self.assertTrue(all(each.proved for each in plan.circuits), standard)
        with self.assertRaises(KeyError):
            with_circuit_for(job, "nowhere")


class Lengths(unittest.TestCase):
    LINES = (KITCHEN, "hall 1.2 x 5 left of kitchen door front 0.9 at 0.1", "board hall left at 0.5")

    def test_the_plan_gives_the_length_of_a_circuit_as_soon_as_its_points_are_there(self) -> None:
        job = typed(*self.LINES)
        before = job.circuits[2].run[0].length_m
        job = enter_plan_line(job, "cooker kitchen right at 1.9")
        # From 0.5 m on the left wall of the hall up 1.1 m, 5.4 and 1.4 m along, down 1.4 m; 1.0 and 0.3 m left at the ends.
        self.assertNotEqual(before, run_m(job.circuits[2]))
        self.assertAlmostEqual(run_m(job.circuits[2]), 1.1 + 5.4 + 1.4 + 1.4 + 1.3, places=2)
        self.assertEqual(job.circuits[1].run[0].length_m, typed(*self.LINES).circuits[1].run[0].length_m)

    def test_a_board_that_moves_away_makes_every_circuit_longer(self) -> None:
        near = typed(*self.LINES, "6 sockets kitchen worktop", "cooker kitchen right at 1.9")
        far = enter_plan_line(enter_plan_line(near, "shed 2 x 2 in front of hall"), "board shed left at 0.2")
        for one, other in zip(near.circuits, far.circuits, strict=True):
            if one.name != "Lights":
                self.assertGreater(run_m(other), run_m(one))

    def test_the_document_comes_back_as_it_was(self) -> None:
        job = typed(*self.LINES, "6 sockets kitchen worktop", "light kitchen")
        self.assertEqual(read_document(to_text(job).encode()), job)


if __name__ == "__main__":
    unittest.main()
