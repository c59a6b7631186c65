"""The list of jobs at a glance, copies, demos apart; advice accepted and raised again; proposals; a missing input by its field."""

from __future__ import annotations

import unittest
from typing import Any

from tests.api.test_api import ApiCase, plain
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_job

LEADS = {"check": "surge", "kind": "supply", "subject": "supply"}


class Jobs(ApiCase):
    def begun(self, **body: object) -> dict[str, Any]:
        answer = self.client.post("/api/jobs", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        made: dict[str, Any] = answer.json()
        return made

    def test_a_demo_is_told_from_a_job_of_ones_own_and_its_copy_is_ones_own(self) -> None:
        demo = self.begun(demo="millrace")
        own = self.begun(title="Loft", rules="uk", system="TN-S")
        copy = self.client.post(f"/api/jobs/{demo['job_id']}/duplicate").json()
        listed = {line["id"]: line for line in self.client.get("/api/jobs").json()}
        self.assertEqual([listed[made["job_id"]]["demo"] for made in (demo, own, copy)], ["millrace", "", ""])
        self.assertEqual(listed[copy["job_id"]]["title"], f"{demo_job('millrace').job.title} (copy)")
        self.assertIn("copied from", listed[copy["job_id"]]["changed"])
        self.assertEqual(copy["job"]["circuits"], demo["job"]["circuits"])
        self.assertEqual(self.client.post("/api/jobs/nothing/duplicate").status_code, 404)

    def test_a_title_as_long_as_can_be_is_copied_too(self) -> None:
        made = self.begun(title="x" * 120, rules="uk", system="TN-S")
        copy = self.client.post(f"/api/jobs/{made['job_id']}/duplicate").json()
        self.assertLessEqual(len(copy["job"]["job"]["title"]), 120)
        self.assertTrue(copy["job"]["job"]["title"].endswith("(copy)"))

    def test_each_demo_has_its_status_and_its_boards(self) -> None:
        statuses = set()
        for name in DEMOS:
            made = self.begun(demo=name)
            found = self.client.get(f"/api/jobs/{made['job_id']}/summary").json()
            job = demo_job(name)
            assessment = assess(job, explain=False)
            with self.subTest(name):
                statuses.add(found["status"])
                self.assertEqual(found["causes"].get("fail", 0), sum(c.verdict == "fail" for c in assessment.causes))
                self.assertEqual([board["board"] for board in found["boards"]], [board.id for board in job.boards])
                self.assertEqual(set(found["circuits"]), {circuit.id for circuit in job.circuits})
                for board in found["boards"]:
                    for box in board["boxes"]:
                        self.assertTrue(1 <= box["row"] <= board["rows"])
                        self.assertTrue(box["start"] >= 0 and box["start"] + box["wide"] <= board["modules"] + 0.01)
        self.assertLessEqual({"failing", "advice", "empty"}, statuses)

    def test_the_status_follows_the_job(self) -> None:
        made = self.begun(title="Loft", rules="uk", home="flat", system="TN-S")
        of = f"/api/jobs/{made['job_id']}"
        self.assertEqual(self.client.get(f"{of}/summary").json()["status"], "to-confirm")
        document = made["job"]
        document["circuits"][0]["run"][0]["length_m"] = 400
        saved = self.client.put(of, json={"base": 1, "document": document})
        self.assertEqual(saved.status_code, 200, saved.text)
        self.assertEqual(self.client.get(f"{of}/summary").json()["status"], "failing")


class Advice(ApiCase):
    def test_it_is_accepted_told_and_raised_again(self) -> None:
        document = plain(demo_job("millrace"))
        body = {
            "document": document,
            "advice": LEADS,
            "reason": "no nearer place",
            "name": "A. T.",
            "date": "2027-03-01",
        }
        accepted = self.client.post("/api/advice/accept", json=body).json()["document"]
        found = self.client.post("/api/assess", json={"document": accepted}).json()
        self.assertEqual([entry["reason"] for entry in found["accepted"]], ["no nearer place"])
        again = self.client.post("/api/advice/raise-again", json={"document": accepted, "advice": LEADS})
        self.assertEqual(again.json()["document"]["accepted_advice"], [])
        self.assertEqual(
            self.client.post("/api/advice/raise-again", json={"document": document, "advice": LEADS}).status_code, 404
        )

    def test_what_fails_is_refused_and_so_is_no_reason(self) -> None:
        document = plain(demo_job("millrace"))
        kiln = {"check": "capacity", "kind": "circuit", "subject": "c13"}
        for advice, reason, status in ((kiln, "it has always been so", 404), (LEADS, "", 422)):
            body = {"document": document, "advice": advice, "reason": reason}
            self.assertEqual(self.client.post("/api/advice/accept", json=body).status_code, status)


class Needed(ApiCase):
    def test_what_a_page_lacks_is_named_by_its_field(self) -> None:
        job = plain(blank("Old", rule_set("uk")))
        entered = self.client.post(
            "/api/parse/circuit", json={"document": job, "board": "main", "text": "cooker 7.2kW 14m"}
        ).json()["document"]
        event = {"kind": "line-earth", "circuit": entered["circuits"][0]["id"]}
        answer = self.client.post("/api/faults", json={"document": entered, "event": event})
        self.assertEqual(answer.status_code, 422)
        self.assertTrue(answer.json()["type"].endswith(":needs-input"))
        (problem,) = answer.json()["problems"]
        self.assertEqual(problem["path"], "supply.fault_current_ka")
        self.assertTrue(problem["message"].startswith("Needs the prospective fault current"), problem["message"])

    def test_surge_protection_is_proposed_or_the_reason_told(self) -> None:
        proposed = self.client.post("/api/boards/propose-surge", json={"document": plain(demo_job("lamp-cottage"))})
        self.assertEqual(proposed.json()["device"]["type"], "2")
        self.assertGreater(proposed.json()["leads_m"], 0)
        refused = self.client.post("/api/boards/propose-surge", json={"document": plain(demo_job("millrace"))})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("fitted already", refused.json()["detail"])


if __name__ == "__main__":
    unittest.main()
