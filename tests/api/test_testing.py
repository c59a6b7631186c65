"""Testing over HTTP: the plan, readings entered as typed, judged, saved, and listed with those corrected."""

from __future__ import annotations

import unittest

from tests.api.test_api import ApiCase, plain
from tests.builders import circuit, job


class Testing(ApiCase):
    def entered(self, document: object, identity: str, text: str) -> object:
        new = {"id": identity, "test": "zs", "subject": {"kind": "circuit", "id": "c1"}, "text": text}
        body = {"document": document, "readings": [new], "at": "2026-11-30T09:12", "by": "E. Weir"}
        answer = self.client.post("/api/testing/readings", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()["document"]

    def test_a_plan_is_shown_and_readings_are_entered_judged_saved_and_listed(self) -> None:
        document = plain(job(circuit()))
        made = self.client.post("/api/jobs", json={"document": document}).json()
        view = self.client.post("/api/testing", json={"document": document}).json()
        zs = next(test for test in view["plan"]["tests"] if test["id"] == "zs:circuit:c1")
        self.assertGreater(zs["expected"]["most"], zs["expected"]["value"])
        address, number, uid = f"/api/jobs/{made['job_id']}", made["number"], made["uid"]
        for identity, text in (("a1", "0.5"), ("a2", "0,55")):
            document = self.entered(document, identity, text)
            saved = self.client.put(address, json={"document": document, "base": number, "base_uid": uid}).json()
            number, uid = saved["number"], saved["uid"]
        view = self.client.post("/api/testing", json={"document": document}).json()
        self.assertEqual([(one["reading"], one["verdict"]) for one in view["judged"]], [("a2", "pass")])
        self.assertEqual(view["diagnoses"], [])
        document = self.entered(document, "a3", "4.5")
        view = self.client.post("/api/testing", json={"document": document}).json()
        self.assertEqual(view["diagnoses"][0]["circuit"], "c1")
        self.assertGreater(view["diagnoses"][0]["possible"][0]["probability"], 0)
        listed = self.client.get(f"{address}/readings").json()
        self.assertEqual([(one["reading"]["id"], one["in_force"]) for one in listed], [("a1", False), ("a2", True)])

    def test_readings_are_merged_and_contradictions_are_decided(self) -> None:
        made = self.client.post("/api/jobs", json={"demo": "lamp-cottage"}).json()
        address = f"/api/jobs/{made['job_id']}/readings"
        subject = {"kind": "circuit", "id": made["job"]["circuits"][0]["id"]}
        one = {"id": "a1", "test": "zs", "subject": subject, "text": "0.5", "by": "E. Weir", "before": ""}
        for _ in range(2):
            answer = self.client.post(address, json={"readings": [one]}).json()
            self.assertEqual((answer["taken"], answer["revision"]["number"]), (["a1"], 2))
        other = one | {"id": "b1", "text": "0.9", "by": "R. Sluice"}
        self.client.post(address, json={"readings": [other, one | {"id": "c1", "text": "lots"}]})
        listed = {each["reading"]["id"]: each for each in self.client.get(address).json()}
        self.assertEqual(
            {name: (each["in_force"], each["undecided"]) for name, each in listed.items()},
            {"a1": (True, False), "b1": (False, True)},
        )
        decided = self.client.post(f"{address}/b1/decide", json={"take": True}).json()
        self.assertEqual([each["value"] for each in decided["job"]["testing"]["readings"]], [0.9])
        self.assertEqual(self.client.post(f"{address}/b1/decide", json={"take": True}).status_code, 404)

    def test_a_table_is_merged_once_and_a_wrong_head_is_refused(self) -> None:
        made = self.client.post("/api/jobs", json={"demo": "lamp-cottage"}).json()
        address = f"/api/jobs/{made['job_id']}/readings/table"
        name = made["job"]["circuits"][0]["id"]
        csv = f"test,subject,value\nzs,circuit:{name},0.5\nzs,circuit:{name},0.6\nzs,gone,1\n"
        for _ in range(2):
            answer = self.client.post(address, json={"csv": csv}).json()
            self.assertEqual((len(answer["taken"]), len(answer["problems"]), answer["revision"]["number"]), (2, 1, 2))
        self.assertEqual([each["value"] for each in answer["revision"]["job"]["testing"]["readings"]], [0.6])
        self.assertEqual(self.client.post(address, json={"csv": "a,b\n1,2\n"}).status_code, 422)

    def test_what_is_no_reading_is_refused_with_the_reason(self) -> None:
        document = plain(job(circuit()))
        new = {"id": "a1", "test": "zs", "subject": {"kind": "circuit", "id": "c1"}, "text": "lots"}
        answer = self.client.post("/api/testing/readings", json={"document": document, "readings": [new]})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Type a value", answer.text)
        answer = self.client.post("/api/testing", json={"document": document, "temperature_c": 4000})
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(self.client.get("/api/jobs/0000/readings").status_code, 404)


if __name__ == "__main__":
    unittest.main()
