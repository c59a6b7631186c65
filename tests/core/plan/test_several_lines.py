"""Circuits of several lines on the plan: ranges and heaters between two, multiwire circuits, three phases; as they are typed."""

from __future__ import annotations

import unittest

from tests.core.plan.test_typed_plan import typed
from vivid_lattice.core.document.job import Job, Load
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import demo_job

HOUSE = ("kitchen 4 x 3 door left", "board kitchen left at 0.4")


def plan_of(job: Job, number: int = 0) -> CircuitPlan:
    return house_plan(job, rule_set(job.job.rules)).circuits[number]


class TwoLines(unittest.TestCase):
    def test_a_range_has_both_lines_and_the_neutral_and_a_heater_no_neutral(self) -> None:
        """Common practice: a range is 120/240 V with a three-wire cable, a water heater 240 V with a two-wire one, white re-marked."""
        house = demo_job("keepers-house")
        plans = {each.circuit.id: each for each in house_plan(house, rule_set("na")).circuits}
        [cooker] = plans["c5"].sections
        self.assertEqual(cooker.carries, ("L1", "L2", "N", "PE"))
        self.assertEqual(
            (cooker.cable and cooker.cable.name, cooker.cores and cooker.cores.cores),
            ("/3 with ground", "black L1, red L2, white N"),
        )
        [heater] = plans["c7"].sections
        self.assertEqual(heater.carries, ("L1", "L2", "PE"))
        self.assertEqual(
            (heater.cable and heater.cable.name, heater.cores and heater.cores.marked),
            ("/2 with ground", "white re-marked"),
        )
        self.assertTrue(all(plan.proved for plan in plans.values()))

    def test_a_multiwire_circuit_carries_each_line_as_far_as_its_loads(self) -> None:
        """The living room is on L1, the bedrooms on L2: a section to one room alone does not carry the other's line."""
        house = demo_job("keepers-house")
        plan = next(each for each in house_plan(house, rule_set("na")).circuits if each.circuit.id == "c4")
        rooms = {point.id: point.room for point in house.plan.points}
        self.assertTrue(plan.proved)
        first = next(section for section in plan.sections if section.a == "feed")
        self.assertEqual(first.carries[:2], ("L1", "L2"))
        for section in plan.sections:
            if {rooms.get(section.a), rooms.get(section.b)} == {"living"}:
                self.assertNotIn("SL2", section.carries)
            if {rooms.get(section.a), rooms.get(section.b)} == {"bed"}:
                self.assertNotIn("L1", section.carries)


class ThreePhases(unittest.TestCase):
    def test_five_cores_where_there_is_a_neutral_and_four_where_there_is_none(self) -> None:
        job = typed(*HOUSE, "cooker kitchen right at 1.5", circuits=("cooker 16A",), standard="iec")
        [circuit] = job.circuits
        for neutral, wanted in ((True, ("L1", "L2", "L3", "N", "PE")), (False, ("L1", "L2", "L3", "PE"))):
            loads = tuple(load.model_copy(update={"lines": ()}) for load in circuit.loads)
            three = circuit.model_copy(update={"lines": ("L1", "L2", "L3"), "neutral": neutral, "loads": loads})
            plan = plan_of(job.model_copy(update={"circuits": (three,)}))
            [section] = plan.sections
            self.assertEqual(section.carries, wanted)
            self.assertEqual(section.cable and section.cable.name, "five-core")
            self.assertIsNotNone(section.cores)
            self.assertTrue(plan.proved)

    def test_a_line_that_nothing_is_on_is_not_carried(self) -> None:
        job = typed(*HOUSE, "2 sockets kitchen", circuits=("sockets 20m",), standard="iec")
        [circuit] = job.circuits
        load = Load(name="Sockets", kind="socket", room="kitchen", lines=("L2",))
        three = circuit.model_copy(update={"lines": ("L1", "L2", "L3"), "loads": (load,)})
        plan = plan_of(job.model_copy(update={"circuits": (three,)}))
        self.assertEqual({section.carries for section in plan.sections}, {("L2", "N", "PE")})


if __name__ == "__main__":
    unittest.main()
