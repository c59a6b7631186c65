"""The file: durable settings, migrations whole or not at all, a backup first, damage noticed."""

from __future__ import annotations

import sqlite3
import tempfile
import threading
import unittest
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from unittest.mock import patch

from tests.builders import job
from vivid_lattice.store import jobs as store
from vivid_lattice.store.database import Migration, connect, packaged_migrations, prepare, schema_version, transaction
from vivid_lattice.store.errors import (
    DatabaseDamaged,
    DatabaseLocked,
    DatabaseReadOnly,
    DatabaseUnreachable,
    DiskFull,
    NewerDatabase,
    database_errors,
)


class DatabaseFile(unittest.TestCase):
    """A file of its own for each test."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "jobs" / "test.sqlite3"

    def test_a_new_file_is_made_with_what_durability_needs(self) -> None:
        self.assertIsNone(prepare(self.path))
        with closing(connect(self.path)) as conn:
            settings = {
                name: conn.execute(f"pragma {name}").fetchone()[0]
                for name in ("journal_mode", "synchronous", "foreign_keys")
            }
        self.assertEqual(settings, {"journal_mode": "wal", "synchronous": 2, "foreign_keys": 1})

    def test_migrations_are_numbered_without_gaps(self) -> None:
        self.assertEqual(
            [step.number for step in packaged_migrations()], list(range(1, len(packaged_migrations()) + 1))
        )

    def test_an_older_file_is_backed_up_and_brought_forward_with_its_jobs(self) -> None:
        prepare(self.path)
        with closing(connect(self.path)) as conn:
            made = store.create_job(conn, job(), "begun", "test").job_id
        further = [
            *packaged_migrations(),
            Migration(99, "more", "create table more (a integer) strict;\ncreate index more_a on more (a);"),
        ]
        backup = prepare(self.path, further)
        assert backup is not None
        with closing(connect(self.path)) as now, closing(connect(backup)) as before:
            self.assertEqual((schema_version(now), schema_version(before)), (99, len(packaged_migrations())))
            self.assertEqual(store.get_revision(now, made).job, job())
            self.assertEqual(store.get_revision(before, made).job, job())

    def test_a_failed_migration_leaves_the_schema_as_it_was(self) -> None:
        prepare(self.path)
        broken = [
            *packaged_migrations(),
            Migration(99, "broken", "create table half (a integer);\ncreate table job (a integer);"),
        ]
        with self.assertRaises(sqlite3.OperationalError):
            prepare(self.path, broken)
        with closing(connect(self.path)) as conn:
            self.assertEqual(schema_version(conn), len(packaged_migrations()))
            self.assertIsNone(conn.execute("select name from sqlite_schema where name = 'half'").fetchone())
        self.assertIsNone(prepare(self.path))

    def test_a_newer_file_is_left_alone(self) -> None:
        prepare(self.path, [*packaged_migrations(), Migration(99, "more", "create table more (a integer);")])
        with self.assertRaises(NewerDatabase):
            prepare(self.path)

    def test_a_damaged_file_is_refused_and_left_as_it_is(self) -> None:
        self.path.parent.mkdir()
        for content in (b"this is a picture, not a database " * 200, b"SQLite format 3\0" + b"\x01" * 4000):
            self.path.write_bytes(content)
            with self.subTest(content[:8]), self.assertRaises(DatabaseDamaged):
                prepare(self.path)
            self.assertEqual(self.path.read_bytes(), content)

    def test_a_page_gone_bad_is_noticed_at_start(self) -> None:
        prepare(self.path)
        with closing(connect(self.path)) as conn:
            for _ in range(40):
                store.create_job(conn, job(), "begun", "test")
            conn.execute("pragma wal_checkpoint(truncate)")
        content = bytearray(self.path.read_bytes())
        content[4096 * 3 : 4096 * 4] = b"\xa5" * 4096
        self.path.write_bytes(content)
        with self.assertRaises(DatabaseDamaged):
            prepare(self.path)

    def test_a_transaction_is_whole_or_nothing(self) -> None:
        prepare(self.path)
        with closing(connect(self.path)) as conn:
            with self.assertRaises(ZeroDivisionError), transaction(conn):
                conn.execute("insert into job (id, head, created_at) values ('x', 1, '')")
                _ = 1 / 0
            with self.assertRaises(sqlite3.IntegrityError), transaction(conn):
                # A job whose head is no revision: found out only at the commit.
                conn.execute("insert into job (id, head, created_at) values ('x', 1, '')")
            self.assertEqual(conn.execute("select count(*) from job").fetchone()[0], 0)
            self.assertFalse(conn.in_transaction)

    def test_a_reader_cannot_write(self) -> None:
        prepare(self.path)
        with closing(connect(self.path, read_only=True)) as conn, self.assertRaises(sqlite3.OperationalError):
            conn.execute("delete from job")


class Distress(unittest.TestCase):
    """What is wrong with the file is said as what it is: only a damaged one is called damaged."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "test.sqlite3"
        prepare(self.path)

    @contextmanager
    def locked(self) -> Iterator[None]:
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:
            other.execute("pragma locking_mode = exclusive")
            other.execute("begin exclusive")
            yield

    def test_a_locked_one_is_called_locked_and_works_when_it_is_let_go(self) -> None:
        with self.locked(), patch("vivid_lattice.store.database._BUSY_TIMEOUT_MS", 50):
            for opening in (prepare, connect):
                with self.assertRaisesRegex(DatabaseLocked, "not damaged"):
                    opening(self.path)
        self.assertIsNone(prepare(self.path))

    def test_a_folder_is_called_unreachable(self) -> None:
        self.assertRaises(DatabaseUnreachable, prepare, self.folder)

    def test_one_that_is_gone_while_the_program_runs_is_not_replaced_by_an_empty_one(self) -> None:
        for file in self.folder.glob("test.sqlite3*"):
            file.unlink()
        self.assertRaises(DatabaseUnreachable, connect, self.path)
        self.assertFalse(self.path.exists())

    def test_what_sqlite_says_is_told_apart(self) -> None:
        def full(conn: sqlite3.Connection) -> None:
            conn.execute("pragma max_page_count = 1")
            conn.execute("create table more (x)")

        def read_only(conn: sqlite3.Connection) -> None:
            conn.execute("pragma query_only = on")
            conn.execute("create table more (x)")

        def of_a_statement(conn: sqlite3.Connection) -> None:
            conn.execute("select nothing from nowhere")

        for act, error in ((full, DiskFull), (read_only, DatabaseReadOnly), (of_a_statement, sqlite3.OperationalError)):
            with (
                self.subTest(act.__name__),
                closing(connect(self.path)) as conn,
                self.assertRaises(error),
                database_errors(self.path),
            ):
                act(conn)

    def test_programs_that_start_at_once_on_a_new_file_all_work(self) -> None:
        for turn in range(4):
            path, start = self.folder / f"new-{turn}.sqlite3", threading.Barrier(4)
            wrong: list[Exception] = []

            def begin(path: Path = path, start: threading.Barrier = start, wrong: list[Exception] = wrong) -> None:
                start.wait()
                try:
                    prepare(path)
                except Exception as why:  # told below, with the turn
                    wrong.append(why)

            threads = [threading.Thread(target=begin) for _ in range(4)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            with self.subTest(turn):
                self.assertEqual(wrong, [])
                with closing(connect(path)) as conn:
                    self.assertEqual(schema_version(conn), len(packaged_migrations()))

    def test_of_several_migrations_all_are_made_or_none(self) -> None:
        steps = [
            *packaged_migrations(),
            Migration(98, "good", "create table good (a integer);"),
            Migration(99, "broken", "create table job (a integer);"),
        ]
        self.assertRaises(sqlite3.OperationalError, prepare, self.path, steps)
        with closing(connect(self.path)) as conn:
            self.assertEqual(schema_version(conn), len(packaged_migrations()))
            self.assertIsNone(conn.execute("select 1 from sqlite_schema where name = 'good'").fetchone())


if __name__ == "__main__":
    unittest.main()
