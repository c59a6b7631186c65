"""The plan over HTTP."""

from __future__ import annotations

import itertools
import unittest

from tests.api.test_api import ApiCase, plain
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.rules import rule_set


class PlanOverHttp(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        job = begin("Mill", rule_set("uk"), "TN-C-S")
        for line in ("kitchen ring", "lights"):
            job = enter_and_design(job, line, "main").job
        self.document = plain(job)

    def enter(self, text: str) -> None:
        answer = self.client.post("/api/plan/enter", json={"document": self.document, "text": text})
        self.assertEqual(answer.status_code, 200, answer.text)
        self.document = answer.json()["document"]

    def test_lines_make_a_plan_with_sections_and_joints(self) -> None:
        for line in ("kitchen 4 x 3 door left", "board kitchen left at 0.2", "4 sockets kitchen", "light kitchen"):
            self.enter(line)
        view = self.client.post("/api/plan", json={"document": self.document}).json()
        self.assertEqual(view["undecided"], [])
        ring, lights = view["circuits"]
        self.assertEqual((ring["shape"], lights["shape"], lights["proved"]), ("ring", "radial", True))
        self.assertEqual(len(ring["sections"]), 5)
        self.assertEqual(
            round(sum(part["length_m"] for part in self.document["circuits"][0]["run"]), 2), ring["length_m"]
        )
        self.assertEqual({room["room"] for room in view["drawing"]["rooms"]}, {"kitchen"})
        for section in view["drawing"]["sections"]:
            for a, b in itertools.pairwise(section["corners"]):
                self.assertTrue(a[0] == b[0] or a[1] == b[1], section)
        self.assertEqual({part["section"]["concealed_in"] for part in ring["run"]}, {"wall", "floor-or-ceiling"})
        self.assertEqual(view["remarks"], [])
        self.assertEqual([each["name"] for each in view["proposals"]], ["Kitchen"])
        terminals = {joint["terminals_of"] for box in ring["boxes"] for joint in box["joints"]}
        self.assertEqual(terminals, {"socket"})

    def test_other_routes_tell_their_length_and_whether_they_pass(self) -> None:
        for line in ("kitchen 4 x 3 door left", "board kitchen left at 0.2", "4 sockets kitchen"):
            self.enter(line)
        circuit = self.document["circuits"][0]["id"]
        found = self.client.post("/api/plan/other-routes", json={"document": self.document, "circuit": circuit}).json()
        self.assertEqual({each["way"] for each in found}, {"ceiling", "floor", "loft", "surface", "wall"})
        [current] = [each for each in found if each["current"]]
        run = sum(part["length_m"] for part in self.document["circuits"][0]["run"])
        self.assertAlmostEqual(current["length_m"], run, places=2)
        missing = self.client.post("/api/plan/other-routes", json={"document": self.document, "circuit": "c99"})
        self.assertEqual(missing.status_code, 404)

    def test_a_circuit_is_entered_for_points_that_have_none(self) -> None:
        for line in ("kitchen 4 x 3 door left", "board kitchen left at 0.2", "cooker kitchen right at 1.5"):
            self.enter(line)
        [open_point] = self.client.post("/api/plan", json={"document": self.document}).json()["undecided"]
        self.assertEqual((open_point["point"], open_point["line"]), ("kitchen-cooker", "kitchen cooker"))
        body = {"document": self.document, "point": open_point["point"]}
        made = self.client.post("/api/plan/circuit", json=body).json()["document"]
        view = self.client.post("/api/plan", json={"document": made}).json()
        self.assertEqual((view["undecided"], [each["name"] for each in view["circuits"]]), ([], ["Kitchen cooker"]))
        missing = self.client.post("/api/plan/circuit", json=body | {"point": "nowhere"})
        self.assertEqual(missing.status_code, 404)

    def test_a_line_that_is_not_understood_changes_nothing_and_says_why(self) -> None:
        answer = self.client.post("/api/plan/enter", json={"document": self.document, "text": "4 sockets attic"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("room of the plan", answer.text)

    def test_a_plan_that_contradicts_itself_is_refused(self) -> None:
        self.enter("kitchen 4 x 3 door left")
        self.enter("2 sockets kitchen")
        self.document["plan"]["points"][0]["room"] = "attic"
        answer = self.client.post("/api/plan", json={"document": self.document})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("attic", answer.text)


if __name__ == "__main__":
    unittest.main()
