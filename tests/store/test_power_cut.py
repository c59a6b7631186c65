"""Every acknowledged revision is there after the server is killed, and after the power of the whole machine has failed."""

from __future__ import annotations

import json
import tempfile
import threading
import unittest
import urllib.error
import urllib.request
from contextlib import closing
from pathlib import Path
from typing import Any

from tests.browser.harness import Server
from tests.builders import circuit, job, laid
from tests.store.synced import recorded
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.jobs import append_revision, create_job, get_revision, list_revisions

ROUNDS = 3


def call(server: Server, method: str, path: str, body: Any = None) -> Any:
    """A request to the server, with the JSON it answers."""
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(
        server.url + path, data=data, method=method, headers={"content-type": "application/json"}
    )
    with urllib.request.urlopen(request, timeout=10) as response:
        return json.load(response)


class Disks(unittest.TestCase):
    """What was acknowledged is on the disk, not on its way there."""

    def test_what_was_synced_when_a_save_returns_holds_that_save(self) -> None:
        with tempfile.TemporaryDirectory() as folder, recorded() as disk:
            database = Path(folder) / "jobs.sqlite3"
            prepare(database)
            with closing(connect(database)) as conn:
                made = create_job(conn, job(), "begun", "x")
                for number, length in ((2, 9.0), (3, 8.0), (4, 7.0)):
                    append_revision(conn, made.job_id, number - 1, job(circuit(run=(laid(length),))), "x")
                    left = disk.after_power_cut(database, Path(folder) / f"after-{number}")
                    with closing(connect(left)) as found:
                        self.assertEqual(get_revision(found, made.job_id).number, number)

    def test_a_save_without_a_sync_would_be_seen_here(self) -> None:
        with tempfile.TemporaryDirectory() as folder, recorded() as disk:
            database = Path(folder) / "jobs.sqlite3"
            prepare(database)
            with closing(connect(database)) as conn:
                made = create_job(conn, job(), "begun", "x")
                conn.execute("pragma synchronous = normal")
                append_revision(conn, made.job_id, 1, job(circuit(run=(laid(9.0),))), "x")
                with closing(connect(disk.after_power_cut(database, Path(folder) / "after"))) as found:
                    self.assertEqual(get_revision(found, made.job_id).number, 1)


class PowerCut(unittest.TestCase):
    """With a real process and SIGKILL."""

    def test_every_acknowledged_revision_survives(self) -> None:
        for cut_after in (5, 17, 40)[:ROUNDS]:
            with self.subTest(cut_after=cut_after):
                server = Server(with_demo=False)
                self.addCleanup(server.stop)
                opened = call(server, "POST", "/api/jobs", {"title": "Burst", "demo": "millrace"})
                acknowledged = self._burst(server, opened, cut_after)
                self.assertGreaterEqual(len(acknowledged), cut_after)
                prepare(server.database)
                with closing(connect(server.database)) as conn:
                    kept = {line.number for line in list_revisions(conn, opened["job_id"])}
                    self.assertLessEqual(set(acknowledged), kept)
                    for number, length in acknowledged.items():
                        document = get_revision(conn, opened["job_id"], number).job
                        self.assertEqual(document.circuits[2].run[0].length_m, length)
                    self.assertIn(get_revision(conn, opened["job_id"]).number, kept)

    def _burst(self, server: Server, opened: Any, cut_after: int) -> dict[int, float]:
        """Saves without a pause until the server dies; the revisions it acknowledged, with the length each held."""
        document, base, acknowledged = opened["job"], opened["number"], {}
        enough = threading.Event()

        def cut() -> None:
            enough.wait(30)
            server.kill()

        killer = threading.Thread(target=cut)
        killer.start()
        try:
            for number in range(2000):
                length = 10 + number / 10
                document["circuits"][2]["run"][0]["length_m"] = length
                kept = call(server, "PUT", f"/api/jobs/{opened['job_id']}", {"base": base, "document": document})
                base = kept["number"]
                acknowledged[base] = length
                if len(acknowledged) == cut_after:
                    enough.set()
        except (OSError, urllib.error.URLError, json.JSONDecodeError):
            pass
        finally:
            enough.set()
            killer.join()
        return acknowledged


if __name__ == "__main__":
    unittest.main()
