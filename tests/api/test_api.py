"""The API as a client sees it: jobs, conflicts, computing, problems, and what stands at the door."""

from __future__ import annotations

import atexit
import json
import re
import shutil
import tempfile
import unittest
import warnings
from functools import cache
from pathlib import Path
from typing import Any

from fastapi import FastAPI

from tests.builders import circuit, flat, job, laid, supply
from vivid_lattice.api import errors as api_errors
from vivid_lattice.api.app import create_app
from vivid_lattice.api.export_cache import ExportCache
from vivid_lattice.api.guard import COOKIE, MAX_BYTES
from vivid_lattice.api.problems import ANSWERS, MEDIA_TYPE, answer_for
from vivid_lattice.core import errors as core_errors
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.faults.event import KIND_FIELDS, FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.job_file import read_data, to_text
from vivid_lattice.core.selectivity.matrix import matrix
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.store import errors as store_errors
from vivid_lattice.store.database import prepare

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    from fastapi.testclient import TestClient


def plain(made: Job) -> Any:
    """A job as JSON data."""
    return json.loads(to_text(made))


@cache
def application(token: str | None) -> FastAPI:
    """One application for all tests of a process: its routes are made at the first request, which takes half a second."""
    folder = tempfile.mkdtemp(prefix="vivid-lattice-")
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return create_app(Path(folder) / "first.sqlite3", token)


class ApiCase(unittest.TestCase):
    """An application over a database of its own."""

    token: str | None = None

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.database = Path(folder.name) / "test.sqlite3"
        prepare(self.database)
        app = application(self.token)
        app.state.database, app.state.shelf = self.database, ExportCache()
        self.client = TestClient(
            app, base_url="http://127.0.0.1:8765", raise_server_exceptions=False, follow_redirects=False
        )
        self.addCleanup(self.client.close)

    def refused(self, response: Any, status: int, kind: str) -> Any:
        """The body of a refusal, after its form has been checked."""
        self.assertEqual(response.status_code, status, response.text)
        self.assertEqual(response.headers["content-type"], MEDIA_TYPE)
        body = response.json()
        self.assertEqual(body["type"], f"urn:vivid-lattice:problem:{kind}")
        self.assertTrue(body["detail"])
        return body


class Jobs(ApiCase):
    """Jobs and their revisions."""

    def begin(self) -> Any:
        return self.client.post("/api/jobs", json={"title": "Test", "demo": "millrace"}).json()

    def save(self, opened: Any, base: int, length: float) -> Any:
        document = json.loads(json.dumps(opened["job"]))
        document["circuits"][2]["run"][0]["length_m"] = length
        return self.client.put(f"/api/jobs/{opened['job_id']}", json={"base": base, "document": document})

    def test_a_job_is_begun_saved_undone_and_found_again(self) -> None:
        opened = self.begin()
        saved = self.save(opened, 1, 15.5)
        self.assertEqual((saved.status_code, saved.json()["text"]), (200, "Induction hob: 14 → 15.5 m"))
        undone = self.client.post(f"/api/jobs/{opened['job_id']}/undo", json={"base": 2}).json()
        self.assertEqual((undone["job"], undone["can_redo"]), (opened["job"], True))
        redone = self.client.post(f"/api/jobs/{opened['job_id']}/redo", json={"base": 1}).json()
        self.assertEqual(redone["number"], 2)
        self.assertEqual(self.client.get(f"/api/jobs/{opened['job_id']}").json(), redone)
        self.assertEqual(
            [line["number"] for line in self.client.get(f"/api/jobs/{opened['job_id']}/revisions").json()], [2, 1]
        )

    def test_two_tabs_get_each_others_changes_in_words_and_nothing_is_overwritten(self) -> None:
        opened = self.begin()
        self.save(opened, 1, 15.5)
        body = self.refused(self.save(opened, 1, 20.0), 409, "stale-revision")
        self.assertEqual(
            (body["head"], body["theirs"], body["yours"]),
            (2, ["Induction hob: 14 → 15.5 m"], ["Induction hob: 14 → 20 m"]),
        )
        self.assertEqual(
            self.client.get(f"/api/jobs/{opened['job_id']}").json()["job"]["circuits"][2]["run"][0]["length_m"], 15.5
        )

    def test_a_document_that_contradicts_itself_is_not_kept(self) -> None:
        opened = self.begin()
        broken = json.loads(json.dumps(opened["job"]))
        broken["boards"][0]["ways"][0]["circuit"] = "c99"
        body = self.refused(
            self.client.put(f"/api/jobs/{opened['job_id']}", json={"base": 1, "document": broken}), 422, "bad-document"
        )
        self.assertIn({"path": "boards[0].ways[0].circuit", "message": "no circuit 'c99'"}, body["problems"])
        self.assertEqual(self.client.get(f"/api/jobs/{opened['job_id']}").json()["number"], 1)

    def test_a_file_is_read_or_refused_line_by_line(self) -> None:
        read = self.client.post("/api/jobs/import", content=to_text(job()).encode())
        self.assertEqual(read.status_code, 201)
        self.assertEqual(read_data(read.json()["job"]), job())
        for raw, path, said in (
            (b"\x89PNG\r\n", "", "not a text file"),
            (b"{}", "format", "missing"),
            (b"[1]", "", "not a list"),
        ):
            body = self.refused(self.client.post("/api/jobs/import", content=raw), 422, "bad-document")
            self.assertEqual(body["problems"][0]["path"], path)
            self.assertIn(said, body["problems"][0]["message"])
        self.assertEqual(len(self.client.get("/api/jobs").json()), 1)

    def test_put_away_and_taken_out(self) -> None:
        opened = self.begin()
        for archived in (True, False):
            self.assertEqual(
                self.client.post(f"/api/jobs/{opened['job_id']}/archive", json={"archived": archived}).status_code, 204
            )
            self.assertEqual(self.client.get("/api/jobs").json()[0]["archived"], archived)

    def test_what_is_not_there_is_said(self) -> None:
        self.refused(self.client.get("/api/jobs/nobody"), 404, "no-such-job")
        self.refused(self.client.get(f"/api/jobs/{self.begin()['job_id']}/revisions/9"), 404, "no-such-revision")
        self.refused(self.client.post("/api/jobs", json={"title": "x", "demo": "atlantis"}), 404, "http")
        self.refused(self.client.get("/api/nothing"), 404, "no-such-address")
        self.refused(
            self.client.post(f"/api/jobs/{self.begin()['job_id']}/undo", json={"base": 1}), 409, "nothing-to-step-to"
        )


class Computing(ApiCase):
    """Stateless calls."""

    def test_only_the_cells_asked_for_bring_their_working(self) -> None:
        cell = {"check": "voltage-drop", "circuit": "c1"}
        found = self.client.post("/api/assess", json={"document": plain(job()), "explain": [cell]}).json()["findings"]
        self.assertEqual([one["check"] for one in found if one["working"]], ["voltage-drop"])
        everything = self.client.post("/api/assess", json={"document": plain(job())}).json()["findings"]
        self.assertTrue(
            all(one["working"] for one in everything if one["verdict"] not in ("not-applicable", "missing"))
        )

    def test_a_remedy_taken_gives_the_verdict_it_promised(self) -> None:
        document = plain(job(circuit(run=(laid(60.0),))))
        of = {"check": "voltage-drop", "subject": "c1"}
        remedy = self.client.post("/api/remedies", json={"document": document, "finding": of}).json()[0]
        document["circuits"] = remedy["circuits"]
        found = self.client.post("/api/assess", json={"document": document, "remedies": True}).json()["findings"]
        [after] = [one for one in found if one["check"] == "voltage-drop"]
        self.assertEqual((after["verdict"], after["shown_value"]), (remedy["verdict"], remedy["shown_value"]))

    def test_a_typed_line_comes_back_designed(self) -> None:
        entered = self.client.post(
            "/api/parse/circuit", json={"document": plain(job()), "board": "main", "text": "cooker 7.2kW 14m"}
        ).json()
        [made] = [one for one in entered["document"]["circuits"] if one["id"] == entered["circuit"]]
        self.assertNotIn("auto", (made["cable"], made["device"]))
        self.assertEqual({decision["what"] for decision in entered["decisions"]}, {"device", "cable"})
        body = self.client.post("/api/parse/circuit", json={"document": plain(job()), "board": "main", "text": "14m"})
        self.refused(body, 422, "entry-not-understood")

    def test_what_the_slider_shows_is_what_is_taken_over_and_assessed(self) -> None:
        body = {"document": plain(job()), "circuit": "c1", "quantity": "length"}
        ranges = self.client.post("/api/what-if/ranges", json={"document": body["document"], "circuit": "c1"}).json()
        self.assertEqual([one["quantity"] for one in ranges], ["length", "load", "ambient", "grouping", "ze"])
        moved = self.client.post("/api/what-if", json=body).json()
        at = len(moved["values"]) - 1
        taken = self.client.post("/api/what-if/apply", json=body | {"value": moved["values"][at]}).json()["document"]
        self.assertEqual(taken["circuits"][0]["run"][0]["length_m"], moved["values"][at])
        found = self.client.post("/api/assess", json={"document": taken, "explain": []}).json()["findings"]
        said = {one["check"]: one for one in found if one["subject"]["id"] == "c1"}
        for curve in moved["curves"]:
            self.assertEqual(curve["points"][at]["verdict"], said[curve["check"]]["verdict"], curve["check"])
            self.assertEqual(curve["points"][at]["margin"], said[curve["check"]]["margin"], curve["check"])
        beyond = self.client.post("/api/what-if/apply", json=body | {"value": 9000.0})
        self.assertIn("1 to 100 m", self.refused(beyond, 422, "out-of-range")["detail"])

    def test_variants_upgrade_and_even_lines(self) -> None:
        longer = job(circuit(run=(laid(90.0),)))
        told = self.client.post("/api/compare", json={"before": plain(job()), "after": plain(longer)}).json()
        self.assertEqual((told["verdict_after"], told["changed"][0]["after"]), ("fail", "fail"))
        self.assertIsNone(self.client.post("/api/larger-supply", json={"document": plain(job())}).json())
        even = self.client.post("/api/balance-phases", json={"document": plain(job())}).json()
        self.assertEqual(read_data(even["document"]), job())

    def test_what_a_standard_asks_and_offers_is_told_and_not_guessed(self) -> None:
        held = {name: self.client.get(f"/api/rules/{name}").json() for name in ("uk", "anz", "iec", "na")}
        said = {
            name: (one["by_floor_area"], bool(one["usual_terminals"]), one["link_systems"])
            for name, one in held.items()
        }
        self.assertEqual(
            said,
            {
                "uk": (False, False, []),
                "anz": (False, False, ["MEN"]),
                "iec": (False, False, []),
                "na": (True, True, ["TN-C-S"]),
            },
        )
        self.assertEqual(
            [one["title"] for one in held["na"]["supplies"]], ["single-phase, 120 V", "split-phase, 120/240 V"]
        )
        starts = {one["kind"]: one["starts_at"] for one in held["uk"]["loads"]}
        self.assertEqual((starts["motor"], starts["heater"]), (6.0, None))

    def test_protection_is_answered_as_the_core_answers(self) -> None:
        made = demo_job("lamp-cottage")
        body = {"document": plain(made)}
        found = self.client.post("/api/selectivity", json=body).json()
        self.assertEqual(len(found["pairs"]), len(matrix(made).pairs))
        kinds = self.client.get("/api/faults/kinds").json()
        self.assertEqual([one["kind"] for one in kinds], list(KIND_FIELDS))
        event = {"kind": "line-earth", "circuit": "c1"}
        story = self.client.post("/api/faults", json=body | {"event": event}).json()
        self.assertEqual(story["outcome"], str(describe(made, FaultEvent.model_validate(event)).outcome))
        devices = {one["id"] for one in self.client.post("/api/faults/devices", json=body).json()}
        self.assertLessEqual({"cutout", "main:r1", "main:r2", "relay:main", "c1"}, devices)
        for device in ("main:r1", "c3"):
            causes = self.client.post("/api/faults/causes", json=body | {"device": device, "ran": ["c3"]}).json()
            self.assertEqual(causes[0]["event"]["circuit"], "c3")
        wrong = self.client.post("/api/faults", json=body | {"event": {"kind": "line-earth"}})
        self.refused(wrong, 422, "needs-input")
        self.refused(self.client.post("/api/faults/causes", json=body | {"device": "gone"}), 422, "out-of-range")

    def test_every_architecture_is_planned_and_its_document_is_good(self) -> None:
        body = {"document": plain(demo_job("lamp-cottage")), "board": "main"}
        for line in self.client.get("/api/rcds/architectures").json():
            found = self.client.post("/api/rcds/plan", json=body | {"architecture": line["id"]}).json()
            self.assertTrue(found["not_possible"] or read_data(found["job"]))
        self.refused(
            self.client.post("/api/rcds/plan", json=body | {"architecture": "own", "board": "x"}), 422, "out-of-range"
        )

    def test_own_families_and_traces_are_read_or_refused_line_by_line(self) -> None:
        self.assertGreater(len(self.client.get("/api/families").json()), 20)
        wrong = self.client.post("/api/families/read", json={"text": "id,title,kind\nx,X,breaker\n"})
        self.assertIn("needs at least one rating", self.refused(wrong, 422, "bad-document")["problems"][0]["message"])
        relay = {"rating_a": 63.0, "over_v": 265.0, "under_v": 190.0}
        ran = self.client.post(
            "/api/relay/simulate", json={"relay": relay, "csv": "s,V\n0,230\n5,150\n20,230\n200,230"}
        ).json()
        self.assertEqual([(one["at_s"], one["opens"]) for one in ran["switchings"]], [(6.0, True), (80.0, False)])
        for text, said in (("0,230\n0,231", "does not come after"), ("0,a\n1,b", "is not seconds and volts"), ("", "no line"), ("1,2,3,4", "4 values")):  # fmt: skip
            refused = self.client.post("/api/relay/simulate", json={"relay": relay, "csv": text})
            self.assertIn(said, self.refused(refused, 422, "bad-document")["detail"])

    def test_the_trip_log_is_written_read_and_struck_out(self) -> None:
        path = f"/api/jobs/{self.client.post('/api/jobs', json={'demo': 'lamp-cottage'}).json()['job_id']}/trips"
        kept = self.client.post(path, json={"at": "2026-11-20T18:40", "device": "main:r1", "ran": ["c1"]}).json()
        self.assertEqual(self.client.get(path).json(), [kept])
        self.refused(self.client.post(path, json={"at": "yesterday", "device": "main:r1"}), 422, "bad-request")
        self.assertEqual(self.client.delete(f"{path}/{kept['id']}").status_code, 204)
        self.refused(self.client.delete(f"{path}/{kept['id']}"), 404, "no-such-trip")
        self.assertEqual(self.client.get(path).json(), [])

    def test_design_fills_what_is_open(self) -> None:
        done = self.client.post("/api/design", json={"document": plain(job(circuit(cable="auto")))}).json()
        self.assertEqual(done["document"]["circuits"][0]["cable"]["area_mm2"], 2.5)

    def test_bad_figures_are_named_with_their_path(self) -> None:
        document = plain(job())
        document["supply"]["ze_ohm"] = -1
        body = self.refused(self.client.post("/api/assess", json={"document": document}), 422, "bad-request")
        self.assertEqual(body["problems"][0]["path"], "document.supply.ze_ohm")

    def test_rules_and_tables_are_shown_as_packaged(self) -> None:
        rules = self.client.get("/api/rules/uk").json()
        self.assertEqual(rules["vocabulary"]["board"], "consumer unit")
        for table in ("uk.ccc.flat-twin-pvc", "uk.zs.formula"):
            self.assertIn(table, rules["tables"])
            self.assertEqual(self.client.get(f"/api/rules/uk/tables/{table}").json()["id"], table)
        self.refused(self.client.get("/api/rules/mars"), 404, "unknown-rule-set")
        self.refused(self.client.get("/api/rules/uk/tables/uk.nothing"), 404, "no-table")

    def test_every_demo_is_listed(self) -> None:
        self.assertEqual([line["name"] for line in self.client.get("/api/demos").json()], list(DEMOS))

    def test_a_board_of_forty_circuits_and_one_of_none(self) -> None:
        many = job(*(circuit(id=f"c{number}") for number in range(40)))
        found = self.client.post("/api/assess", json={"document": plain(many), "explain": []}).json()
        wanted = len(SUPPLY_CHECKS) + len(BOARD_CHECKS) + 40 * len(CHECKS)
        self.assertEqual(len(found["findings"]), wanted)
        none = plain(job()) | {"circuits": []}
        none["boards"][0]["ways"] = []
        self.assertEqual(self.client.post("/api/assess", json={"document": none}).json()["verdict"], "missing")


class Problems(unittest.TestCase):
    """The table from error to answer."""

    def test_no_error_that_is_raised_on_purpose_is_left_without_an_answer(self) -> None:
        roots = (core_errors.CoreError, store_errors.StoreError)
        leaves = [error for root in roots for error in _tree(root)] + [api_errors.Conflict]
        for error in leaves:
            with self.subTest(error.__name__):
                answer = answer_for(error.__new__(error))
                self.assertNotEqual(answer.status, 500)
        self.assertEqual(answer_for(ValueError()).status, 500)
        self.assertTrue(all(400 <= answer.status < 600 for answer in ANSWERS.values()))


def _tree(error: type[Exception]) -> list[type[Exception]]:
    return [found for child in error.__subclasses__() for found in (child, *_tree(child))]


class Door(ApiCase):
    """Host, origin and size, on a loopback server without a token."""

    def test_foreign_hosts_and_origins_are_refused(self) -> None:
        self.refused(self.client.get("/api/jobs", headers={"host": "evil.example"}), 403, "foreign-host")
        self.refused(self.client.get("/api/jobs", headers={"host": "127.0.0.1.evil.example:8765"}), 403, "foreign-host")
        foreign = {"origin": "http://evil.example"}
        self.refused(self.client.post("/api/jobs", json={"title": "x"}, headers=foreign), 403, "foreign-origin")
        # Another program on the same machine is another site too.
        for other in ("http://127.0.0.1", "http://127.0.0.1:87", "http://127.0.0.1:9000", "null"):
            refused = self.client.post("/api/jobs", json={"title": "x"}, headers={"origin": other})
            self.refused(refused, 403, "foreign-origin")
        own = {"origin": "http://127.0.0.1:8765"}
        self.assertEqual(self.client.post("/api/jobs", json={"title": "x"}, headers=own).status_code, 201)
        for host in ("localhost:8765", "[::1]:8765"):
            self.assertEqual(self.client.get("/api/health", headers={"host": host}).status_code, 200)

    def test_a_request_over_the_limit_is_refused_announced_or_not(self) -> None:
        large = b" " * (MAX_BYTES + 1)
        self.refused(self.client.post("/api/assess", content=large), 413, "too-large")
        pieces = (large[at : at + 65536] for at in range(0, len(large), 65536))
        self.refused(self.client.post("/api/assess", content=pieces), 413, "too-large")
        # A job may come with photos, so the door is wider there; a document of that size is refused behind it.
        self.refused(self.client.post("/api/jobs/import", content=large), 422, "bad-document")
        self.refused(self.client.post("/api/jobs/import", content=2 * large), 422, "file-refused")
        self.assertEqual(self.client.get("/api/jobs").json(), [])

    def test_answers_carry_what_keeps_a_browser_careful(self) -> None:
        headers = self.client.get("/api/jobs").headers
        self.assertEqual(headers["cache-control"], "no-store")
        self.assertIn("default-src 'self'", headers["content-security-policy"])
        self.assertEqual(headers["x-content-type-options"], "nosniff")

    def test_nothing_outside_the_built_front_end_is_served(self) -> None:
        for path in (
            "/..%2f..%2fpyproject.toml",
            "/assets/..%2f..%2fcli.py",
            "/%2fetc/passwd",
            "/%00",
            f"/{'x' * 5000}",
        ):
            found = self.client.get(path)
            self.assertIn(found.status_code, (200, 404))
            body = found.text
            self.assertNotIn("root:", body)
            self.assertNotIn("vivid_lattice", body)


class FrontEnd(ApiCase):
    """The built pages."""

    def test_the_page_is_asked_for_anew_and_its_hashed_files_never(self) -> None:
        page = self.client.get("/jobs/any/lattice")
        self.assertEqual((page.status_code, page.headers["cache-control"]), (200, "no-cache"))
        for asset in re.findall(r"/assets/[\w.-]+", page.text):
            found = self.client.get(asset)
            self.assertEqual(
                (found.status_code, found.headers["cache-control"]), (200, "public, max-age=31536000, immutable")
            )
        self.refused(self.client.get("/assets/gone-abc.js"), 404, "no-such-file")

    def test_every_operation_is_described_and_every_document_exemplified(self) -> None:
        described = self.client.get("/api/openapi.json").json()
        for path, operations in described["paths"].items():
            for method, operation in operations.items():
                with self.subTest(path, method=method):
                    self.assertTrue(operation["description"] and operation["tags"])
                    refusals = [status for status in operation["responses"] if status.startswith("4")]
                    self.assertIn("403", refusals)
        self.assertEqual(
            [
                path
                for path, operations in described["paths"].items()
                for operation in operations.values()
                if path.startswith(
                    (
                        "/api/jobs",
                        "/api/assess",
                        "/api/remedies",
                        "/api/max-lengths",
                        "/api/design",
                        "/api/parse/circuit",
                    )
                )
                and not self._exemplified(operation)
            ],
            [
                "/api/jobs/{job_id}/archive",
                "/api/jobs/{job_id}/trips/{trip_id}",
                "/api/jobs/{job_id}/wiring-progress",
                "/api/jobs/{job_id}/photos/{photo_id}",
                "/api/jobs/{job_id}/photos/{photo_id}",
                "/api/jobs/{job_id}/exports",
            ],
        )
        example = described["components"]["schemas"]["Job"]["examples"][0]
        self.assertEqual(self.client.post("/api/design", json={"document": example}).status_code, 200)

    @staticmethod
    def _exemplified(operation: Any) -> bool:
        good = [answer for status, answer in operation["responses"].items() if status.startswith("2")]
        return all(answer.get("content", {}).get("application/json", {}).get("example") for answer in good)


class DoorWithToken(ApiCase):
    """A server that listens further: every call needs the token."""

    token = "a-long-secret"

    def test_every_call_needs_the_token(self) -> None:
        for path in ("/api/jobs", "/api/health", "/", "/assets/x.js"):
            self.refused(self.client.get(path), 401, "no-token")
        self.refused(self.client.get("/api/jobs", headers={"authorization": "Bearer wrong"}), 401, "no-token")
        good = {"authorization": "Bearer a-long-secret", "host": "board.example:8765"}
        self.assertEqual(self.client.get("/api/jobs", headers=good).status_code, 200)

    def test_a_page_opened_with_the_token_gets_a_cookie_and_a_clean_address(self) -> None:
        self.refused(self.client.get("/?token=wrong"), 401, "no-token")
        sent_on = self.client.get("/jobs/x?token=a-long-secret&view=1")
        self.assertEqual((sent_on.status_code, sent_on.headers["location"]), (303, "/jobs/x?view=1"))
        cookie = sent_on.headers["set-cookie"]
        self.assertIn("HttpOnly", cookie)
        self.assertIn("samesite=strict", cookie.lower())
        self.assertEqual(self.client.get("/api/jobs", cookies={COOKIE: "a-long-secret"}).status_code, 200)


class Unknown(ApiCase):
    """Inputs that are missing."""

    def test_a_supply_nobody_measured_yet_is_not_in_order(self) -> None:
        document = plain(job(supply=supply(ze_ohm=None, fault_current_ka=None)))
        found = self.client.post("/api/assess", json={"document": document}).json()
        self.assertEqual(found["verdict"], "missing")

    def test_a_size_outside_the_tables_is_said(self) -> None:
        document = plain(job(circuit(cable=flat(3.0))))
        found = self.client.post("/api/assess", json={"document": document}).json()["findings"]
        [capacity] = [one for one in found if one["check"] == "capacity"]
        self.assertIn("Needs 3 mm² in", capacity["sentence"])


if __name__ == "__main__":
    unittest.main()
