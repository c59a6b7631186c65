"""Backup and restore of everything while it is in use, and what is not restored."""

from __future__ import annotations

import sqlite3
import tempfile
import threading
import unittest
from contextlib import closing
from pathlib import Path
from unittest.mock import patch

from tests.builders import circuit, job, laid
from tests.store.old import write_first_version
from vivid_lattice.store.backup import read_backup, restore, write_backup
from vivid_lattice.store.database import back_up, connect, prepare
from vivid_lattice.store.errors import DatabaseDamaged, NewerDatabase, NotABackup, StaleRevision
from vivid_lattice.store.jobs import (
    append_revision,
    create_job,
    get_revision,
    list_jobs,
    list_revisions,
    redo,
    undo,
)


class BackupCase(unittest.TestCase):
    """A database with two jobs."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.database = self.folder / "jobs.sqlite3"
        prepare(self.database)
        with closing(connect(self.database)) as conn:
            self.job_id = create_job(conn, job(), "begun", "x").job_id
            append_revision(conn, self.job_id, 1, job(circuit(run=(laid(9.0),))), "x")
            create_job(conn, job(), "begun", "x")

    def changed(self, sql: str) -> Path:
        """A backup that something was done to."""
        target = write_backup(self.database, self.folder / "changed.sqlite3")
        with closing(sqlite3.connect(target)) as conn:
            conn.executescript(sql)
        return target


class Backups(BackupCase):
    """There and back."""

    def test_what_was_there_is_there_again_and_what_came_since_is_kept_beside(self) -> None:
        target = write_backup(self.database, self.folder / "backup.sqlite3")
        content = read_backup(target)
        self.assertEqual((content.jobs, content.revisions, content.titles), (2, 3, ("Test", "Test")))
        with closing(connect(self.database)) as conn:
            create_job(conn, job(), "since", "x")
            done = restore(self.database, target)
            # Through the connection that was open all the while.
            self.assertEqual(len(list_jobs(conn)), 2)
            self.assertEqual(get_revision(conn, self.job_id).job, job(circuit(run=(laid(9.0),))))
            append_revision(conn, self.job_id, 3, job(circuit(run=(laid(7.0),))), "x")
        self.assertEqual(done.content.jobs, 2)
        self.assertEqual(read_backup(Path(done.kept_before)).jobs, 3)

    def test_a_page_that_was_open_all_the_while_cannot_write_over_what_was_restored(self) -> None:
        target = write_backup(self.database, self.folder / "backup.sqlite3")
        with closing(connect(self.database)) as conn:
            for number, length in ((2, 5.0), (3, 4.0)):
                append_revision(conn, self.job_id, number, job(circuit(run=(laid(length),))), "x")
            restore(self.database, target)
            head = get_revision(conn, self.job_id)
            self.assertEqual((head.number, head.text), (5, "restored from a backup"))
            for base in (1, 2, 3, 4):
                self.assertRaises(StaleRevision, append_revision, conn, self.job_id, base, job(), "stale tab")
            self.assertEqual(get_revision(conn, self.job_id).job, job(circuit(run=(laid(9.0),))))

    def test_a_backup_is_consistent_while_others_write(self) -> None:
        stop = threading.Event()

        def write() -> None:
            with closing(connect(self.database)) as conn:
                while not stop.is_set():
                    create_job(conn, job(), "begun", "x")

        writer = threading.Thread(target=write)
        writer.start()
        try:
            for number in range(5):
                content = read_backup(write_backup(self.database, self.folder / f"b{number}.sqlite3"))
                self.assertEqual(content.revisions, content.jobs + 1)
        finally:
            stop.set()
            writer.join()

    def test_an_older_backup_is_brought_up_to_date_in_a_copy(self) -> None:
        old = write_first_version(self.folder / "old.sqlite3")
        before = old.read_bytes()
        self.assertEqual(restore(self.database, old).content.jobs, 1)
        self.assertEqual(old.read_bytes(), before)
        with closing(connect(self.database)) as conn:
            self.assertEqual(conn.execute("select count(*) from photo").fetchone()[0], 0)


class WhileOthersWrite(BackupCase):
    """A restore while pages are saving: nothing that was acknowledged is lost, and every page is told."""

    def test_a_save_that_comes_in_between_waits_and_then_meets_the_conflict(self) -> None:
        target = write_backup(self.database, self.folder / "backup.sqlite3")
        told: list[Exception] = []

        def save() -> None:
            with closing(connect(self.database)) as conn:
                try:
                    append_revision(conn, self.job_id, 2, job(circuit(run=(laid(3.0),))), "page")
                except StaleRevision as why:
                    told.append(why)

        page = threading.Thread(target=save)

        def copied(database: Path, to: Path) -> Path:
            """The copy of what was there, with a save asked for while it is made."""
            page.start()
            page.join(0.2)
            self.assertTrue(page.is_alive(), "the save was not kept waiting")
            return write_backup(database, to)

        with patch("vivid_lattice.store.backup.write_backup", copied):
            done = restore(self.database, target)
        page.join()
        self.assertEqual(len(told), 1)
        with closing(connect(self.database)) as conn:
            self.assertEqual((get_revision(conn, self.job_id).number, len(list_revisions(conn, self.job_id))), (3, 3))
        self.assertEqual(read_backup(Path(done.kept_before)).revisions, 3)

    def test_every_acknowledged_save_is_in_the_database_or_in_the_copy_of_what_was_there(self) -> None:
        target = write_backup(self.database, self.folder / "backup.sqlite3")
        stop, acknowledged = threading.Event(), list[str]()

        def save() -> None:
            with closing(connect(self.database)) as conn:
                while not stop.is_set():
                    made = create_job(conn, job(), "begun", "x")
                    acknowledged.append(made.uid)

        pages = [threading.Thread(target=save) for _ in range(3)]
        for page in pages:
            page.start()
        try:
            copies = [Path(restore(self.database, target).kept_before) for _ in range(4)]
        finally:
            stop.set()
            for page in pages:
                page.join()
        there = set[str]()
        for file in (self.database, *copies):
            with closing(connect(file)) as conn:
                there |= {row[0] for row in conn.execute("select uid from revision")}
        self.assertGreater(len(acknowledged), 10)
        self.assertEqual(set(acknowledged) - there, set())

    def test_a_revision_of_the_same_number_and_another_content_is_another_one(self) -> None:
        # The file went to another machine; both went on from revision 2, and the other one's comes back.
        other = write_backup(self.database, self.folder / "other.sqlite3")
        with closing(connect(other)) as conn:
            theirs = append_revision(conn, self.job_id, 2, job(circuit(run=(laid(5.0),))), "there")
        with closing(connect(self.database)) as conn:
            mine = append_revision(conn, self.job_id, 2, job(circuit(run=(laid(6.0),))), "here")
        self.assertEqual(theirs.number, mine.number)
        with closing(connect(other)) as conn:
            changed = job(circuit(run=(laid(7.0),)))
            with self.assertRaises(StaleRevision):
                append_revision(conn, self.job_id, mine.number, changed, "here", mine.uid)
            for step in (undo, redo):
                self.assertRaises(StaleRevision, step, conn, self.job_id, mine.number, mine.uid)
            self.assertEqual(append_revision(conn, self.job_id, 3, changed, "there", theirs.uid).number, 4)

    def test_a_restore_that_fails_changes_nothing_and_leaves_no_copy_behind(self) -> None:
        target = write_backup(self.database, self.folder / "backup.sqlite3")
        with (
            patch("vivid_lattice.store.backup._move_on", side_effect=sqlite3.OperationalError("no")),
            self.assertRaises(sqlite3.OperationalError),
        ):
            restore(self.database, target)
        self.assertEqual(read_backup(write_backup(self.database, target)).revisions, 3)
        self.assertFalse((self.folder / "backups").exists())

    def test_a_backup_of_another_page_size_is_restored(self) -> None:
        small = self.changed("pragma journal_mode = delete; pragma page_size = 1024; vacuum;")
        self.assertEqual(restore(self.database, small).content.jobs, 2)

    def test_what_keeps_rows_from_being_changed_is_there_again_after_a_restore(self) -> None:
        restore(self.database, write_backup(self.database, self.folder / "backup.sqlite3"))
        with closing(connect(self.database)) as conn:
            for sql in ("delete from revision", "update revision set author = 'x'"):
                self.assertRaises(sqlite3.IntegrityError, conn.execute, sql)


class Written(BackupCase):
    """A backup is under its name only when it is whole."""

    def test_one_that_breaks_off_leaves_nothing_under_its_name(self) -> None:
        class Broken(sqlite3.Connection):
            def backup(self, target: sqlite3.Connection, **_more: object) -> None:  # type: ignore[override]
                target.execute("create table half (x)")
                raise sqlite3.OperationalError("power gone")

        target = self.folder / "backups" / "b.sqlite3"
        with closing(sqlite3.connect(self.database, factory=Broken)) as conn:
            self.assertRaises(sqlite3.OperationalError, back_up, conn, target)
        self.assertEqual(list(target.parent.iterdir()), [])

    def test_the_name_is_on_the_disk_when_it_returns(self) -> None:
        synced: list[int] = []
        with patch("os.fsync", synced.append):
            write_backup(self.database, self.folder / "backup.sqlite3")
        self.assertEqual(len(synced), 1)


class ImportRefused(BackupCase):
    """What is not restored, and leaves everything as it was."""

    def refused(self, file: Path, error: type[Exception], said: str) -> None:
        before = read_backup(write_backup(self.database, self.folder / "before.sqlite3"))
        for act in (read_backup, lambda one: restore(self.database, one)):
            with self.assertRaisesRegex(error, said):
                act(file)  # type: ignore[operator]
        self.assertEqual(read_backup(write_backup(self.database, self.folder / "after.sqlite3")), before)

    def test_a_file_that_is_no_database(self) -> None:
        for number, raw in enumerate((b"", b"hello", b"PK\x03\x04", b"SQLite format 3")):
            file = self.folder / f"f{number}"
            file.write_bytes(raw)
            self.refused(file, NotABackup, "not a database")

    def test_a_database_of_another_program(self) -> None:
        file = self.folder / "other.sqlite3"
        with closing(sqlite3.connect(file)) as conn:
            conn.execute("create table job (x)")
        self.refused(file, NotABackup, "another program")

    def test_a_damaged_one(self) -> None:
        file = write_backup(self.database, self.folder / "d.sqlite3")
        raw = bytearray(file.read_bytes())
        raw[4096:8192] = b"\xaa" * 4096
        file.write_bytes(raw)
        self.refused(file, DatabaseDamaged, "damaged")

    def test_one_that_was_cut_off(self) -> None:
        file = write_backup(self.database, self.folder / "c.sqlite3")
        file.write_bytes(file.read_bytes()[:9000])
        self.refused(file, DatabaseDamaged, "damaged")

    def test_a_newer_one(self) -> None:
        self.refused(self.changed("pragma user_version = 99;"), NewerDatabase, "schema 99")

    def test_one_with_a_trigger_a_view_or_a_table_of_its_own(self) -> None:
        for sql in (
            "create trigger t after insert on revision begin delete from trip; end;",
            "create view v as select * from job;",
            "create table t (x);",
            "drop trigger revision_is_never_changed;",
        ):
            self.refused(self.changed(sql), NotABackup, "do not match this program")

    def test_one_whose_lines_belong_to_nothing(self) -> None:
        sql = "pragma foreign_keys = off; insert into trip (job_id, at, device, ran, note, added_at) values ('x', '', '', '[]', '', '');"
        self.refused(self.changed(sql), DatabaseDamaged, "refers to nothing")


if __name__ == "__main__":
    unittest.main()
