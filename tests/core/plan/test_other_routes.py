"""Which other route of a circuit would pass: tried whole, with all its checks."""

from __future__ import annotations

import unittest

from tests.core.plan.test_paths import LONG, planned
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.plan import CircuitRoute
from vivid_lattice.core.plan.other_routes import other_routes
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.rules import rule_set

UK = rule_set("uk")
LINES = (*LONG, "cooker barn right at 2")


class OtherRoutes(unittest.TestCase):
    def test_a_cable_under_insulation_passes_under_the_floor(self) -> None:
        """6 mm² under more than 100 mm of insulation carries 27 A, clipped 47 A: a cooker of 32 A fails over the ceiling alone."""
        job = planned(*LINES, circuits=("cooker 32A 6mm2",), above="loft", insulation_mm=270.0)
        [circuit] = job.circuits
        found = other_routes(job, UK, circuit.id)
        now = next(each for each in found if each.current)
        self.assertIn("capacity", now.fails)
        passing = {each.way for each in found if each.passes}
        self.assertEqual(passing, {"floor", "surface", "wall"})
        self.assertTrue(found[0].passes)

    def test_a_route_that_lacks_an_input_is_not_one_that_passes(self) -> None:
        """A circuit without a device has nothing to be judged by."""
        job = planned(*LINES, circuits=("cooker 32A 6mm2",))
        [circuit] = job.circuits
        bare = circuit.model_copy(update={"device": "auto", "cable": "auto"})
        found = other_routes(job.model_copy(update={"circuits": (bare,)}), UK, circuit.id)
        self.assertTrue(all(each.verdict == "missing" and not each.passes for each in found))

    def test_taking_one_gives_what_was_told(self) -> None:
        job = planned(*LINES, circuits=("cooker 32A 6mm2",), above="loft", insulation_mm=270.0)
        [circuit] = job.circuits
        chosen = next(each for each in other_routes(job, UK, circuit.id) if each.passes and not each.current)
        route = CircuitRoute(circuit=circuit.id, way=chosen.way, shape=chosen.shape)
        plan = job.plan.model_copy(update={"routes": (route,), "apart": chosen.apart or job.plan.apart})
        taken = with_planned_runs(job.model_copy(update={"plan": plan}), UK)
        length = sum(section.length_m or 0.0 for section in taken.circuits[0].run)
        self.assertAlmostEqual(length, chosen.length_m, places=2)
        self.assertNotIn("fail", {each.verdict for each in assess(taken).findings if each.subject.id == circuit.id})

    def test_every_way_of_a_ring_once_and_an_unknown_circuit(self) -> None:
        job = planned(*LONG, "4 sockets barn", circuits=("sockets ring",))
        found = other_routes(job, UK, job.circuits[0].id)
        self.assertEqual({each.shape for each in found}, {"ring"})
        self.assertEqual(len({(each.way, each.apart) for each in found}), len(found))
        with self.assertRaises(KeyError):
            other_routes(job, UK, "c99")


if __name__ == "__main__":
    unittest.main()
