"""Assumed values over HTTP, from a new job to the last one confirmed."""

from __future__ import annotations

import unittest

from tests.api.test_api import ApiCase


class Assumed(ApiCase):
    """A job begun in the browser."""

    def begun(self, **body: object) -> dict[str, object]:
        answer = self.client.post("/api/jobs", json={"title": "Loft", "rules": "uk"} | body)
        self.assertEqual(answer.status_code, 201, answer.text)
        document: dict[str, object] = answer.json()["job"]
        return document

    def test_the_system_answers_the_question_and_the_rest_is_assumed(self) -> None:
        asked = self.begun()
        self.assertEqual(self.client.post("/api/assess", json={"document": asked}).json()["to_confirm"], 1)
        answered = self.client.post("/api/assumptions/system", json={"document": asked, "system": "TN-S"})
        document = answered.json()["document"]
        self.assertEqual(document["supply"]["ze_ohm"], 0.8)
        found = self.client.post("/api/assess", json={"document": document}).json()
        self.assertEqual(found["to_confirm"], len(found["assumptions"]))
        self.assertIn("Ze", [each["label"] for each in found["assumptions"]])

    def test_one_is_confirmed_and_not_twice(self) -> None:
        document = self.begun(system="TN-C-S")
        body = {"document": document, "fields": ["supply.ze_ohm"], "how": "measured"}
        done = self.client.post("/api/assumptions/confirm", json=body).json()["document"]
        self.assertEqual(done["supply"]["ze_source"], "measured")
        again = self.client.post("/api/assumptions/confirm", json=body | {"document": done})
        self.assertEqual(again.status_code, 404)
        self.assertIn("supply.ze_ohm", again.json()["detail"])

    def test_a_change_of_the_supply_assumes_again(self) -> None:
        document = self.begun(system="TN-C-S")
        document["supply"]["system"] = "TT"  # type: ignore[index]
        again = self.client.post("/api/assumptions/supply", json={"document": document}).json()["document"]
        self.assertEqual(again["supply"]["ze_ohm"], 200.0)

    def test_a_typical_home_is_designed(self) -> None:
        document = self.begun(home="three-bed", title="Number nine")
        found = self.client.post("/api/assess", json={"document": document, "explain": []}).json()
        self.assertEqual(found["verdict"], "advice")
        self.assertGreater(len(found["circuits"]), 10)
        unknown = self.client.post("/api/jobs", json={"title": "x", "rules": "uk", "home": "castle"})
        self.assertEqual(unknown.status_code, 404)

    def test_a_typed_line_says_what_it_took_as_usual(self) -> None:
        document = self.begun(system="TN-C-S")
        body = {"document": document, "board": "main", "text": "cooker"}
        entered = self.client.post("/api/parse/circuit", json=body).json()
        said = " | ".join(entered["assumed"])
        self.assertIn("Length of Cooker 20 m", said)
        self.assertNotIn("length not given", said)
        self.assertEqual(len(entered["document"]["boards"][0]["spds"]), 1)

    def test_of_an_existing_board_nothing_is_assumed_but_what_arrives(self) -> None:
        document = self.begun(system="TN-S", existing=True)
        self.assertEqual(len(document["assumptions"]), 2)  # type: ignore[arg-type]


if __name__ == "__main__":
    unittest.main()
