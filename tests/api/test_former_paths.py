"""Former paths of the API lead to the present ones, with method, body and query."""

from __future__ import annotations

from tests.api.test_api import ApiCase, plain
from tests.builders import circuit, job
from vivid_lattice.api.former_paths import PATHS


class FormerPaths(ApiCase):
    """Asked as a script written last year asks."""

    def test_a_document_sent_to_a_former_path_is_answered_as_by_the_present_one(self) -> None:
        body = {"document": plain(job(circuit())), "circuit": "c1"}
        for former, present in (("/api/lengths", "/api/max-lengths"), ("/api/whatif/ranges", "/api/what-if/ranges")):
            before = self.client.post(former, json=body, follow_redirects=True)
            after = self.client.post(present, json=body)
            self.assertEqual((before.status_code, before.json()), (200, after.json()))
            self.assertEqual(before.url.path, present)

    def test_every_former_path_leads_to_one_there_is(self) -> None:
        there_are = self.client.get("/api/openapi.json").json()["paths"]
        for former, present in PATHS.items():
            with self.subTest(former):
                self.assertNotIn(former, there_are)
                self.assertTrue(
                    any(path == present or path.startswith(present.split("{table}")[0]) for path in there_are)
                )
                asked = former.replace("{job_id}", "j1").replace("{table}", "circuits")
                answer = self.client.post(f"{asked}?x=1", follow_redirects=False)
                target = present.replace("{job_id}", "j1").replace("{table}", "circuits")
                self.assertEqual((answer.status_code, answer.headers["location"]), (308, f"{target}?x=1"))

    def test_an_entry_of_the_trip_log_is_deleted_by_its_former_path_too(self) -> None:
        made = self.client.post("/api/jobs", json={"title": "Mill"}).json()["job_id"]
        path = f"/api/jobs/{made}/trips"
        entry = self.client.post(path, json={"at": "2026-11-20T18:40", "device": "main:r1"}).json()
        self.assertEqual(self.client.post(f"{path}/{entry['id']}/strike").status_code, 204)
        self.assertEqual(self.client.get(path).json(), [])
