"""Revisions: appended, stepped through, never overwritten."""

from __future__ import annotations

import json
import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from tests.builders import circuit, flat, job
from vivid_lattice.core.document.job import Job, Prices
from vivid_lattice.core.job_file import to_text
from vivid_lattice.store import jobs as store
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.errors import NoSuchJob, NoSuchRevision, NothingToUndo, StaleRevision


class StoreCase(unittest.TestCase):
    """A database of its own for each test."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "test.sqlite3"
        prepare(self.path)
        self.conn = connect(self.path)
        self.addCleanup(lambda: self.conn.close())

    def reopen(self) -> None:
        """As after a restart."""
        self.conn.close()
        prepare(self.path)
        self.conn = connect(self.path)

    def save(self, job_id: str, base: int, area: float) -> store.Revision:
        return store.append_revision(self.conn, job_id, base, sized(area), "test")


def sized(area: float) -> Job:
    """A job that differs from the others by its cable."""
    return job(circuit(cable=flat(area)))


class Revisions(StoreCase):
    """A job's chain."""

    def test_each_change_is_a_revision_with_its_words(self) -> None:
        first = store.create_job(self.conn, sized(2.5), "begun", "test")
        second = self.save(first.job_id, 1, 4.0)
        self.assertEqual((second.number, second.parent, second.text), (2, 1, "Heater: 2.5 → 4 mm²"))
        self.assertEqual(store.get_revision(self.conn, first.job_id, 1).job, sized(2.5))
        self.assertEqual(
            [line.text for line in store.list_revisions(self.conn, first.job_id)], ["Heater: 2.5 → 4 mm²", "begun"]
        )

    def test_the_same_document_again_adds_nothing(self) -> None:
        first = store.create_job(self.conn, sized(2.5), "begun", "test")
        self.assertEqual(self.save(first.job_id, 1, 2.5).number, 1)

    def test_a_save_from_a_stale_revision_is_refused_and_writes_nothing(self) -> None:
        first = store.create_job(self.conn, sized(2.5), "begun", "test")
        self.save(first.job_id, 1, 4.0)
        with self.assertRaises(StaleRevision) as caught:
            self.save(first.job_id, 1, 6.0)
        self.assertEqual((caught.exception.base, caught.exception.head), (1, 2))
        self.assertEqual(len(store.list_revisions(self.conn, first.job_id)), 2)

    def test_undo_and_redo_go_on_after_a_restart(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        self.save(made, 1, 4.0)
        self.save(made, 2, 6.0)
        self.reopen()
        self.assertEqual(store.undo(self.conn, made, 3).job, sized(4.0))
        self.reopen()
        self.assertEqual(store.undo(self.conn, made, 2).job, sized(2.5))
        self.assertEqual(store.redo(self.conn, made, 1).job, sized(4.0))
        last = store.redo(self.conn, made, 2)
        self.assertEqual((last.job, last.can_undo, last.can_redo), (sized(6.0), True, False))

    def test_a_change_after_undo_leaves_the_old_branch_in_the_history(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        self.save(made, 1, 4.0)
        store.undo(self.conn, made, 2)
        branched = self.save(made, 1, 10.0)
        self.assertEqual((branched.number, branched.parent, branched.can_redo), (3, 1, False))
        self.assertEqual(store.get_revision(self.conn, made, 2).job, sized(4.0))
        store.undo(self.conn, made, 3)
        self.assertEqual(store.redo(self.conn, made, 1).number, 3)

    def test_there_is_an_end_to_both_directions(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        for step in (store.undo, store.redo):
            with self.assertRaises(NothingToUndo):
                step(self.conn, made, 1)
        with self.assertRaises(StaleRevision):
            store.undo(self.conn, made, 7)

    def test_what_is_not_there_is_named(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        with self.assertRaises(NoSuchRevision):
            store.get_revision(self.conn, made, 9)
        for call in (store.get_revision, store.list_revisions):
            with self.assertRaises(NoSuchJob):
                call(self.conn, "nobody")

    def test_a_revision_can_be_neither_changed_nor_removed(self) -> None:
        store.create_job(self.conn, sized(2.5), "begun", "test")
        for statement in ("update revision set words = 'other'", "delete from revision"):
            with self.subTest(statement), self.assertRaisesRegex(sqlite3.IntegrityError, "never"):
                self.conn.execute(statement)

    def test_a_revision_kept_by_an_older_program_is_read_as_one_of_today_and_left_as_it_is(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        old = json.loads(to_text(sized(4.0).model_copy(update={"prices": Prices(copper_per_kg=9.5)})))
        prices = old.pop("prices")
        old |= {"format": "vivid-lattice/1", "settings": old["settings"] | {"prices": prices}}
        written = json.dumps(old)
        insert = "insert into revision (job_id, number, parent, document, words, author, saved_at) values (?, 2, 1, ?, '', '', '')"
        self.conn.execute(insert, (made, written))
        self.conn.execute("update job set head = 2 where id = ?", (made,))
        found = store.get_revision(self.conn, made)
        self.assertEqual((found.job.format, found.job.prices.copper_per_kg), ("vivid-lattice/3", 9.5))
        self.assertEqual(store.append_revision(self.conn, made, 2, found.job, "test").number, 2)
        saved = self.save(made, 2, 6.0)
        self.assertEqual((saved.number, saved.job.format), (3, "vivid-lattice/3"))
        kept = self.conn.execute("select document from revision where job_id = ? and number = 2", (made,)).fetchone()[0]
        self.assertEqual(kept, written)

    def test_a_job_put_away_is_still_there(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        store.set_archived(self.conn, made, True)
        [line] = store.list_jobs(self.conn)
        self.assertEqual((line.archived, line.circuits, line.title), (True, 1, "Test"))
        self.assertEqual(store.get_revision(self.conn, made).job, sized(2.5))

    def test_two_connections_see_one_truth(self) -> None:
        made = store.create_job(self.conn, sized(2.5), "begun", "test").job_id
        with closing(connect(self.path)) as other:
            store.append_revision(other, made, 1, sized(4.0), "other")
        with self.assertRaises(StaleRevision):
            self.save(made, 1, 6.0)


if __name__ == "__main__":
    unittest.main()
