"""The trip log: kept, in order, struck out and never lost."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from tests.builders import job
from tests.store.old import OLD_JOB, write_first_version
from vivid_lattice.store import jobs, trips
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.errors import NoSuchJob, NoSuchTrip


class Log(unittest.TestCase):
    """Lines of one job's log."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "t.sqlite3"
        prepare(self.path)
        self.conn = connect(self.path)
        self.addCleanup(self.conn.close)
        self.job = jobs.create_job(self.conn, job(), "begun", "test").job_id

    def add(self, at: str, device: str = "c1") -> trips.Trip:
        return trips.add_trip(self.conn, self.job, at, device, ["c1"], "kettle")

    def test_newest_first_and_the_same_after_a_restart(self) -> None:
        later, earlier = self.add("2026-11-20T18:40"), self.add("2026-11-19T07:05")
        with closing(connect(self.path)) as again:
            self.assertEqual(trips.list_trips(again, self.job), [later, earlier])

    def test_a_line_struck_out_is_shown_no_more_and_stays_in_the_file(self) -> None:
        line = self.add("2026-11-20T18:40")
        trips.delete_trip(self.conn, self.job, line.id)
        self.assertEqual(trips.list_trips(self.conn, self.job), [])
        self.assertEqual(self.conn.execute("select count(*) from trip").fetchone()[0], 1)
        with self.assertRaises(NoSuchTrip):
            trips.delete_trip(self.conn, self.job, line.id)
        with self.assertRaises(sqlite3.IntegrityError):
            self.conn.execute("delete from trip")

    def test_a_job_that_is_not_there_has_no_log(self) -> None:
        with self.assertRaises(NoSuchJob):
            trips.list_trips(self.conn, "nowhere")
        with self.assertRaises(NoSuchJob):
            trips.add_trip(self.conn, "nowhere", "2026-11-20T18:40", "c1", [], "")

    def test_a_file_of_the_version_before_gets_its_log_and_keeps_its_jobs(self) -> None:
        old = write_first_version(self.path.with_name("old.sqlite3"))
        prepare(old)
        with closing(connect(old)) as conn:
            self.assertEqual(jobs.get_revision(conn, OLD_JOB).job, job())
            self.assertEqual(trips.list_trips(conn, OLD_JOB), [])


if __name__ == "__main__":
    unittest.main()
