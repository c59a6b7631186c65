"""Opening the database file: durable settings, integrity check, backup, and migrations forward only."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator, Sequence
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from importlib.resources import files
from pathlib import Path

from vivid_lattice.store.errors import DatabaseDamaged, NewerDatabase

_BUSY_TIMEOUT_MS = 5000


@dataclass(frozen=True, slots=True)
class Migration:
    """One step of the schema: its number, name and SQL."""

    number: int
    name: str
    sql: str


def connect(path: Path, *, read_only: bool = False) -> sqlite3.Connection:
    """A connection with the settings every use of the database needs.

    Transactions are begun by hand (``with transaction(conn)``). What is committed is on the disk before the commit
    returns (``synchronous = full``). Readers open read-only.
    """
    uri = f"{path.absolute().as_uri()}?mode={'ro' if read_only else 'rwc'}"
    conn = sqlite3.connect(
        uri, uri=True, isolation_level=None, timeout=_BUSY_TIMEOUT_MS / 1000, check_same_thread=False
    )
    conn.row_factory = sqlite3.Row
    conn.execute("pragma foreign_keys = on")
    if not read_only:
        conn.execute("pragma journal_mode = wal")
        conn.execute("pragma synchronous = full")
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

    Returns the backup that was written before a migration, or None where none was needed.
    Raises DatabaseDamaged or NewerDatabase, the file left as it is.
    """
    steps = packaged_migrations() if migrations is None else migrations
    path.parent.mkdir(parents=True, exist_ok=True)
    with closing(_open(path)) as conn:
        _check_integrity(conn, path)
        version = schema_version(conn)
        pending = [step for step in steps if step.number > version]
        known = steps[-1].number if steps else 0
        if version > known:
            raise NewerDatabase(str(path), version, known)
        backed_up = back_up(conn, _backup_path(path, version)) if pending and version > 0 else None
        for step in pending:
            _apply(conn, step)
        return backed_up


def _open(path: Path) -> sqlite3.Connection:
    try:
        return connect(path)
    except sqlite3.DatabaseError as why:
        raise DatabaseDamaged(str(path), str(why)) from why


def schema_version(conn: sqlite3.Connection) -> int:
    """The number of the last migration applied; 0 for a new file."""
    return int(conn.execute("pragma user_version").fetchone()[0])


def packaged_migrations() -> list[Migration]:
    """All migrations that are packaged, in order."""
    found = []
    for item in (files("vivid_lattice.store") / "migrations").iterdir():
        if item.name.endswith(".sql"):
            number, _, name = item.name.removesuffix(".sql").partition("_")
            found.append(Migration(int(number), name, item.read_text("utf-8")))
    return sorted(found, key=lambda step: step.number)


def back_up(conn: sqlite3.Connection, target: Path) -> Path:
    """A whole, consistent copy of the database by SQLite's own backup, while it is in use."""
    target.parent.mkdir(parents=True, exist_ok=True)
    with closing(sqlite3.connect(target)) as copy:
        conn.backup(copy)
    return target


def _apply(conn: sqlite3.Connection, step: Migration) -> None:
    """A migration and the record of it in one transaction. Statement by statement: executescript would commit."""
    with transaction(conn):
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
    try:
        found = [str(row[0]) for row in conn.execute("pragma integrity_check(3)")]
    except sqlite3.DatabaseError as why:
        raise DatabaseDamaged(str(path), str(why)) from why
    if found != ["ok"]:
        raise DatabaseDamaged(str(path), "; ".join(found))


def _backup_path(path: Path, version: int) -> Path:
    stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
    return path.parent / "backups" / f"{path.stem}-schema{version}-{stamp}.sqlite3"
