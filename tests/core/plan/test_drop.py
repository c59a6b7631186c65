"""Points dropped on the plan: they snap to the nearest wall, clear of doors and water; lights stay where they are."""

from __future__ import annotations

import unittest
from typing import get_args

from tests.core.plan.test_typed_plan import of_kind, run_m, typed
from vivid_lattice.core.document.plan import PointKind
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.plan.clearances import too_near
from vivid_lattice.core.plan.drop import drop, drop_new
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.rules import rule_set

ROOMS = ("kitchen 4 x 3 door left 0.8 at 1", "hall 2 x 3 right of kitchen", "board kitchen front at 3.5")


class Dropped(unittest.TestCase):
    def test_a_socket_snaps_to_the_nearest_wall_and_not_into_a_door(self) -> None:
        job = typed(*ROOMS)
        for (x, y), wall, along in (
            ((1.0, 2.8), "back", 1.0),
            ((3.9, 1.5), "right", 1.5),
            ((0.1, 1.3), "left", 0.85),
            ((0.1, 1.6), "left", 1.95),
        ):
            made = drop_new(job, "socket", 0, x, y)
            [socket] = of_kind(made, "socket")
            self.assertEqual((socket.wall, socket.along_m), (wall, along), (x, y))

    def test_it_moves_to_another_room_with_the_length_of_its_circuit(self) -> None:
        job = typed(*ROOMS, "cooker kitchen right at 1.9")
        moved = drop(job, "kitchen-cooker", 0, 5.9, 2.0)
        [cooker] = of_kind(moved, "cooker")
        self.assertEqual((cooker.room, cooker.wall), ("hall", "right"))
        self.assertGreater(run_m(moved.circuits[2]), run_m(job.circuits[2]))

    def test_what_shares_its_plate_goes_with_it(self) -> None:
        job = typed(*ROOMS, "light kitchen", "socket kitchen with the switch")
        moved = drop(job, "kitchen-switch", 0, 5.9, 2.0)
        places = {
            point.kind: (point.room, point.wall, point.along_m) for point in moved.plan.points if point.kind != "light"
        }
        self.assertEqual(places["socket"], places["switch"])
        self.assertEqual(places["switch"][:2], ("hall", "right"))

    def test_it_keeps_clear_of_a_sink(self) -> None:
        job = enter_plan_line(typed(*ROOMS), "sink kitchen back at 1.6")
        made = drop_new(job, "socket", 0, 2.0, 2.9)
        self.assertEqual(too_near(made, rule_set("uk")), ())

    def test_every_kind_can_be_dropped_and_a_light_brings_its_switch(self) -> None:
        for kind in get_args(PointKind):
            with self.subTest(kind):
                made = drop_new(typed(*ROOMS), kind, 0, 2.0, 1.2)
                [point] = [each for each in made.plan.points if each.kind == kind]
                self.assertEqual(point.room, "kitchen")
                if kind == "light":
                    self.assertEqual(((point.x_m, point.y_m), len(made.plan.switching)), ((2.0, 1.2), 1))

    def test_outside_of_every_room_it_is_refused(self) -> None:
        with self.assertRaises(EntryNotUnderstood):
            drop_new(typed(*ROOMS), "socket", 0, 20.0, 1.0)
        with self.assertRaises(EntryNotUnderstood):
            drop_new(typed(*ROOMS), "socket", 1, 1.0, 1.0)
        with self.assertRaises(KeyError):
            drop(typed(*ROOMS), "nothing", 0, 1.0, 1.0)


if __name__ == "__main__":
    unittest.main()
