"""The server keeps answering: bodies are read off the event loop, and what no one waits for is not calculated."""

from __future__ import annotations

import asyncio
import json
import sqlite3
import tempfile
import threading
import unittest
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from typing import Any
from unittest.mock import patch

from tests.api.test_api import ApiCase, plain
from tests.builders import circuit, job
from vivid_lattice.api.app import create_app
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.validation import validated
from vivid_lattice.core.errors import Stopped
from vivid_lattice.core.stopping import stop_point, stopping_when


class Bodies(ApiCase):
    """What is sent."""

    def test_a_body_is_validated_in_a_worker_thread_and_once(self) -> None:
        threads: list[threading.Thread] = []

        def noted(*args: Any) -> Any:
            threads.append(threading.current_thread())
            return validated(*args)

        with patch("vivid_lattice.api.routes.validated", noted):
            answer = self.client.post("/api/assess", json={"document": plain(job())})
        self.assertEqual((answer.status_code, len(threads)), (200, 1))
        self.assertIn("worker", threads[0].name.lower())

    def test_half_a_million_wrong_circuits_are_one_refusal(self) -> None:
        document = plain(job()) | {"circuits": [{"x": 1}] * 450_000}
        refused = self.client.post("/api/assess", json={"document": document})
        self.refused(refused, 422, "bad-document")
        self.assertLess(len(refused.content), 2000)

    def test_what_is_no_json_is_refused_as_before(self) -> None:
        head = {"content-type": "application/json"}
        self.refused(self.client.post("/api/assess", content=b"{", headers=head), 422, "bad-request")
        for raw in (b"\xff", b"[" * 100_000, b"1" * 5000):
            self.refused(self.client.post("/api/assess", content=raw, headers=head), 400, "http")
        self.refused(self.client.post("/api/assess", content=b"{}"), 422, "bad-request")


class HungUp(unittest.IsolatedAsyncioTestCase):
    """A client that is gone before its turn, or while its answer is worked on."""

    async def asyncSetUp(self) -> None:
        # The debugging that comes with these tests prints every step of the loop that takes a tenth of a second.
        asyncio.get_running_loop().set_debug(False)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.app = create_app(Path(folder.name) / "t.sqlite3")
        self.body = json.dumps({"document": plain(job()), "explain": []}).encode()

    async def send(self, gone: asyncio.Event) -> int:
        """One request to assess by a client that hangs up when ``gone`` is set; the status it would have seen."""
        sent, status = False, 0

        async def receive() -> dict[str, Any]:
            nonlocal sent
            if not sent:
                sent = True
                return {"type": "http.request", "body": self.body, "more_body": False}
            await gone.wait()
            return {"type": "http.disconnect"}

        async def answer(message: Any) -> None:
            nonlocal status
            status = message.get("status", status)

        scope = {
            "type": "http", "asgi": {"version": "3.0"}, "http_version": "1.1", "method": "POST", "scheme": "http",
            "path": "/api/assess", "raw_path": b"/api/assess", "query_string": b"", "root_path": "",
            "headers": [(b"host", b"127.0.0.1"), (b"content-type", b"application/json")],
            "client": ("127.0.0.1", 1), "server": ("127.0.0.1", 8765),
        }  # fmt: skip
        await self.app(scope, receive, answer)
        return status

    def counted(self, work: Callable[[], Any] | None = None) -> Any:
        calls: list[int] = []

        def run(*args: Any, **more: Any) -> Any:
            calls.append(1)
            if work is not None:
                work()
            return assess(*args, **more)

        return calls, patch("vivid_lattice.api.assessments.assess", run)

    async def test_thirty_that_hung_up_are_not_calculated(self) -> None:
        waiting, gone = asyncio.Event(), asyncio.Event()
        free = threading.Event()
        calls, patched = self.counted(lambda: free.wait(20))
        with patched:
            first = [asyncio.create_task(self.send(waiting)) for _ in range(2)]
            while len(calls) < 2:
                await asyncio.sleep(0.01)
            abandoned = [asyncio.create_task(self.send(gone)) for _ in range(30)]
            last = asyncio.create_task(self.send(waiting))
            await asyncio.sleep(0.05)
            gone.set()
            free.set()
            statuses = await asyncio.gather(*first, last, *abandoned)
        self.assertEqual((statuses[:3], set(statuses[3:]), len(calls)), ([200] * 3, {499}, 3))

    async def test_one_that_hangs_up_meanwhile_ends_the_work(self) -> None:
        gone, begun = asyncio.Event(), threading.Event()

        def without_end() -> None:
            begun.set()
            while True:
                stop_point()

        _, patched = self.counted(without_end)
        with patched:
            request = asyncio.create_task(self.send(gone))
            await asyncio.to_thread(begun.wait, 20)
            gone.set()
            self.assertEqual(await request, 499)


class StopPoints(unittest.TestCase):
    """Long calculations look whether anyone waits."""

    def test_an_assessment_ends_between_two_circuits(self) -> None:
        asked: list[int] = []

        def after_three() -> bool:
            asked.append(1)
            return len(asked) > 3

        many = job(*(circuit(id=f"c{at}") for at in range(20)))
        with stopping_when(after_three), self.assertRaises(Stopped):
            assess(many)
        self.assertEqual(len(asked), 4)
        self.assertEqual(len(assess(many).circuits), 20)


class DatabaseInDistress(ApiCase):
    """What is wrong with the database is said as it is; when it clears, the same save goes through."""

    def setUp(self) -> None:
        super().setUp()
        self.opened = self.client.post("/api/jobs", json={"title": "x", "demo": "millrace"}).json()

    def save(self) -> Any:
        document = json.loads(json.dumps(self.opened["job"]))
        document["circuits"][2]["run"][0]["length_m"] = 15.5
        body = {"base": 1, "base_uid": self.opened["uid"], "document": document}
        return self.client.put(f"/api/jobs/{self.opened['job_id']}", json=body)

    def test_locked(self) -> None:
        with (
            closing(sqlite3.connect(self.database, isolation_level=None)) as other,
            patch("vivid_lattice.store.database._BUSY_TIMEOUT_MS", 50),
        ):
            other.execute("begin immediate")
            self.assertIn("Close that program", self.refused(self.save(), 503, "database-locked")["detail"])
            other.execute("rollback")
        self.assertEqual(self.save().json()["number"], 2)

    def test_full(self) -> None:
        real = sqlite3.connect

        def full(*args: Any, **more: Any) -> sqlite3.Connection:
            conn = real(*args, **more)
            conn.execute("pragma max_page_count = 1")
            return conn

        with patch("sqlite3.connect", full):
            self.assertIn("Free some space", self.refused(self.save(), 507, "disk-full")["detail"])
        self.assertEqual(self.save().json()["number"], 2)

    def test_gone_and_back(self) -> None:
        aside = self.database.with_name("aside")
        self.database.rename(aside)
        self.refused(self.save(), 503, "database-unreachable")
        self.assertFalse(self.database.exists())
        aside.rename(self.database)
        self.assertEqual(self.save().json()["number"], 2)

    def test_a_conflict_names_the_revision_that_is_open(self) -> None:
        saved = self.save().json()
        self.opened["job"]["circuits"][1]["run"][0]["length_m"] = 9.0
        body = self.refused(self.save(), 409, "stale-revision")
        self.assertEqual((body["head"], body["head_uid"]), (2, saved["uid"]))


if __name__ == "__main__":
    unittest.main()
