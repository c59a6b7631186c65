"""Opening the database file: durable settings, integrity check, backup, and migrations forward only."""

from __future__ import annotations

import os
import sqlite3
import time
from collections.abc import Iterator, Sequence
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from importlib.resources import files
from pathlib import Path

from vivid_lattice.store.errors import DatabaseDamaged, DatabaseLocked, NewerDatabase, database_errors

_BUSY_TIMEOUT_MS = 5000


@dataclass(frozen=True, slots=True)
class Migration:
    """One step of the schema: its number, name and SQL."""

    number: int
    name: str
    sql: str


def connect(path: Path, *, read_only: bool = False, create: bool = False) -> sqlite3.Connection:
    """A connection with the settings every use of the database needs.

    Transactions are begun by hand (``with transaction(conn)``). What is committed is on the disk before the commit
    returns (``synchronous = full``). Readers open read-only. Only ``create`` makes a file that is not there: a database
    that was deleted while the program runs is reported, not replaced by an empty one.
    Raises DatabaseUnavailable, with what is wrong and what to do.
    """
    mode = "ro" if read_only else "rwc" if create else "rw"
    with database_errors(path):
        conn = sqlite3.connect(
            f"{path.absolute().as_uri()}?mode={mode}",
            uri=True,
            isolation_level=None,
            timeout=_BUSY_TIMEOUT_MS / 1000,
            check_same_thread=False,
        )
        try:
            conn.row_factory = sqlite3.Row
            conn.execute("pragma foreign_keys = on")
            if not read_only:
                conn.execute("pragma journal_mode = wal")
                conn.execute("pragma synchronous = full")
        except BaseException:
            conn.close()
            raise
        return conn


@contextmanager
def transaction(conn: sqlite3.Connection) -> Iterator[None]:
    """A write transaction: committed at the end, rolled back on any error."""
    conn.execute("begin immediate")
    try:
        yield
        conn.execute("commit")
    except BaseException:
        # A commit that failed (a deferred foreign key, a full disk) leaves the transaction open as well.
        if conn.in_transaction:
            conn.execute("rollback")
        raise


def prepare(path: Path, migrations: Sequence[Migration] | None = None) -> Path | None:
    """Make the database ready: create it, check it, back it up and migrate it where its schema is older.

    Two programs that start at once on one file take turns: the second finds the schema as the first has left it.
    Returns the backup that was written before a migration, or None where none was needed.
    Raises DatabaseUnavailable or NewerDatabase, the file left as it is.
    """
    steps = packaged_migrations() if migrations is None else migrations
    known = steps[-1].number if steps else 0
    path.parent.mkdir(parents=True, exist_ok=True)
    with closing(_opened(path)) as conn:
        _check_integrity(conn, path)
        with database_errors(path), transaction(conn):
            version = schema_version(conn)
            if version > known:
                raise NewerDatabase(str(path), version, known)
            pending = [step for step in steps if step.number > version]
            backed_up = None
            if pending and version > 0:
                # From a connection of its own: it sees what is committed, which is all there is by now.
                with closing(connect(path, read_only=True)) as before:
                    backed_up = back_up(before, _backup_path(path, version))
            for step in pending:
                _apply(conn, step)
        return backed_up


def _opened(path: Path) -> sqlite3.Connection:
    """A connection to a file that is made if it is not there. Turning a new file to WAL does not wait for a lock by
    itself, so that two programs starting at once would fail; it is tried again for as long as any other lock."""
    end = time.monotonic() + _BUSY_TIMEOUT_MS / 1000
    while True:
        try:
            return connect(path, create=True)
        except DatabaseLocked:
            if time.monotonic() >= end:
                raise
            time.sleep(0.02)


def schema_version(conn: sqlite3.Connection) -> int:
    """The number of the last migration applied; 0 for a new file."""
    return int(conn.execute("pragma user_version").fetchone()[0])


def packaged_migrations() -> list[Migration]:
    """All migrations that are packaged, in order."""
    migrations = []
    for path in (files("vivid_lattice.store") / "migrations").iterdir():
        if path.name.endswith(".sql"):
            number, _, name = path.name.removesuffix(".sql").partition("_")
            migrations.append(Migration(int(number), name, path.read_text("utf-8")))
    return sorted(migrations, key=lambda step: step.number)


def back_up(conn: sqlite3.Connection, target: Path) -> Path:
    """A whole, consistent copy of the database by SQLite's own backup, while it is in use.

    It is written under a temporary name and renamed when it is whole and on the disk: a file of the name given is
    always a good backup.
    """
    target.parent.mkdir(parents=True, exist_ok=True)
    partial = target.with_name(target.name + ".partial")
    partial.unlink(missing_ok=True)
    try:
        with database_errors(target), closing(sqlite3.connect(partial)) as copy:
            conn.backup(copy)
        partial.replace(target)
    except BaseException:
        partial.unlink(missing_ok=True)
        raise
    _sync_folder(target.parent)
    return target


def _sync_folder(folder: Path) -> None:
    """Have a rename in a folder on the disk."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _apply(conn: sqlite3.Connection, step: Migration) -> None:
    """A migration and the record of it, in the transaction that is open. Statement by statement: executescript would commit."""
    for statement in _statements(step.sql):
        conn.execute(statement)
    conn.execute(f"pragma user_version = {int(step.number)}")


def _statements(sql: str) -> Iterator[str]:
    """The statements of a script, whole: a trigger's body holds semicolons of its own."""
    buffer = ""
    for line in sql.splitlines(keepends=True):
        buffer += line
        if sqlite3.complete_statement(buffer):
            yield buffer
            buffer = ""
    if buffer.strip() and not all(line.strip().startswith("--") or not line.strip() for line in buffer.splitlines()):
        yield buffer


def _check_integrity(conn: sqlite3.Connection, path: Path) -> None:
    with database_errors(path):
        texts = [str(row[0]) for row in conn.execute("pragma integrity_check(3)")]
    if texts != ["ok"]:
        raise DatabaseDamaged(str(path), "; ".join(texts))


def _backup_path(path: Path, version: int) -> Path:
    stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
    return path.parent / "backups" / f"{path.stem}-schema{version}-{stamp}.sqlite3"
