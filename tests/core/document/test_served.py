"""Which circuits serve which rooms, by the plan: in the house of a fault and on the chart of the board."""

from __future__ import annotations

import unittest

from tests.core.plan.test_typed_plan import typed
from vivid_lattice.core.document.served import circuits_of_room, lights_of_room, rooms_of_circuit

LINES = (
    "kitchen 4 x 3 door left", "hall 2 x 3 right of kitchen door left", "board hall back at 1", "light kitchen", "light hall",
    "2 sockets hall", "cooker kitchen right at 1.5",
)  # fmt: skip


class Served(unittest.TestCase):
    def setUp(self) -> None:
        self.job = typed(*LINES, circuits=("kitchen ring", "sockets", "lights", "cooker 32A"))
        self.ids = {circuit.name: circuit.id for circuit in self.job.circuits}

    def test_points_count_beside_what_loads_state(self) -> None:
        self.assertEqual([each.name for each in circuits_of_room(self.job, "hall")], ["Sockets", "Lights"])
        kitchen = [each.name for each in circuits_of_room(self.job, "kitchen")]
        self.assertIn("Lights", kitchen)
        self.assertIn("Kitchen ring", kitchen)

    def test_lights_go_by_the_plan_where_it_has_some(self) -> None:
        self.assertEqual(lights_of_room(self.job, "hall"), {self.ids["Lights"]})
        bare = self.job.model_copy(update={"plan": self.job.plan.model_copy(update={"points": (), "switching": ()})})
        self.assertEqual(lights_of_room(bare, "hall"), frozenset())

    def test_rooms_of_a_circuit_each_once(self) -> None:
        lights = self.job.circuit(self.ids["Lights"])
        self.assertEqual(sorted(rooms_of_circuit(self.job, lights)), ["hall", "kitchen"])


if __name__ == "__main__":
    unittest.main()
