"""Readings: none is ever lost, changed or doubled, whatever becomes of the document."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from tests.builders import circuit, job
from tests.store.old import OLD_JOB, write_first_version
from vivid_lattice.core.bundle import as_zip
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import ReadingSubject
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.testing.enter_reading import ReadingEntry, enter_readings
from vivid_lattice.imports.job_bundle import read_bundle
from vivid_lattice.store import job_bundle, jobs
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.readings import history_of

OF = ReadingSubject(kind="circuit", id="c1")


def entry(identity: str, text: str, test: str = "zs", **more: object) -> ReadingEntry:
    return ReadingEntry(id=identity, test=test, subject=OF, text=text, **more)  # type: ignore[arg-type]


class Entered(unittest.TestCase):
    def test_a_correction_takes_the_place_of_the_reading_and_names_it(self) -> None:
        of = enter_readings(job(circuit()), [entry("a1", "0.5"), entry("a2", ">200", "ir_le")], by="E. Weir")
        of = enter_readings(of, [entry("a3", "0,55")], at="2026-11-30T09:12")
        readings = {reading.id: reading for reading in of.testing.readings}
        self.assertEqual(set(readings), {"a2", "a3"})
        self.assertEqual((readings["a3"].replaces, readings["a3"].value), ("a1", 0.55))
        self.assertEqual(
            (readings["a2"].by, readings["a2"].state, readings["a2"].value), ("E. Weir", "above-range", 200.0)
        )

    def test_the_same_entry_twice_is_one_and_points_are_apart(self) -> None:
        of = job(circuit())
        for _ in range(2):
            of = enter_readings(of, [entry("a1", "0.5"), entry("a2", "0.7", point="outlet 3")])
        self.assertEqual([reading.id for reading in of.testing.readings], ["a1", "a2"])

    def test_nothing_is_entered_where_one_is_not_understood(self) -> None:
        of = job(circuit())
        for wrong in (
            entry("a2", "many"),
            ReadingEntry(id="a3", test="zs", subject=ReadingSubject(kind="circuit", id="gone"), text="1"),
        ):
            with self.assertRaises(EntryNotUnderstood):
                enter_readings(of, [entry("a1", "0.5"), wrong])

    def test_an_empty_text_takes_it_away(self) -> None:
        of = enter_readings(job(circuit()), [entry("a1", "0.5")])
        self.assertEqual(enter_readings(of, [entry("a2", " ")]).testing.readings, ())


class Stored(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "t.sqlite3"
        prepare(self.path)
        self.conn = connect(self.path)
        self.addCleanup(self.conn.close)
        self.revision = jobs.create_job(self.conn, job(circuit()), "begun", "test")

    def save(self, of: Job) -> None:
        self.revision = jobs.append_revision(self.conn, self.revision.job_id, self.revision.number, of, "test")

    def typed(self, *entries: ReadingEntry) -> None:
        self.save(enter_readings(self.revision.job, entries))

    def ids(self) -> list[tuple[str, bool]]:
        records = history_of(self.conn, self.revision.job_id, self.revision.job.testing.readings)
        return [(record.reading.id, record.in_force) for record in records]

    def test_corrections_removals_and_undo_leave_every_reading_in_the_history(self) -> None:
        self.typed(entry("a1", "0.5"))
        self.typed(entry("a2", "0.6"))
        self.typed(entry("a3", ""))
        self.assertEqual(self.ids(), [("a1", False), ("a2", False)])
        self.revision = jobs.undo(self.conn, self.revision.job_id, self.revision.number)
        self.assertEqual(self.ids(), [("a1", False), ("a2", True)])
        with closing(connect(self.path)) as again:
            self.assertEqual(len(history_of(again, self.revision.job_id, ())), 2)

    def test_the_table_refuses_change_and_removal(self) -> None:
        self.typed(entry("a1", "0.5"))
        for command in ("delete from reading", "update reading set body = '{}'"):
            with self.assertRaises(sqlite3.IntegrityError):
                self.conn.execute(command)

    def test_a_bundle_has_the_whole_history_with_its_times(self) -> None:
        self.typed(entry("a1", "0.5"))
        self.typed(entry("a2", "0.6"))
        _, bundle = job_bundle.bundle_of(self.conn, self.revision.job_id)
        back = read_bundle(as_zip(bundle))
        self.assertEqual(back, bundle)
        made = job_bundle.create_from(self.conn, back, "imported", "test")
        _, again = job_bundle.bundle_of(self.conn, made.job_id)
        self.assertEqual(again.readings, bundle.readings)

    def test_a_file_of_the_first_version_gets_its_table(self) -> None:
        old = write_first_version(self.path.with_name("old.sqlite3"))
        prepare(old)
        with closing(connect(old)) as conn:
            self.assertEqual(history_of(conn, OLD_JOB, ()), [])


if __name__ == "__main__":
    unittest.main()
