"""The file: durable settings, migrations whole or not at all, a backup first, damage noticed."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from tests.builders import job
from vivid_lattice.store import jobs as store
from vivid_lattice.store.database import Migration, connect, packaged_migrations, prepare, schema_version, transaction
from vivid_lattice.store.errors import DatabaseDamaged, NewerDatabase


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


if __name__ == "__main__":
    unittest.main()
