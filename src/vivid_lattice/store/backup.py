"""Backup and restore of the whole database while it is in use."""

from __future__ import annotations

import shutil
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from vivid_lattice.core.messages import message
from vivid_lattice.store.database import (
    back_up,
    connect,
    packaged_migrations,
    prepare,
    schema_version,
    transaction,
)
from vivid_lattice.store.errors import DatabaseDamaged, NotABackup, database_errors
from vivid_lattice.store.jobs import get_revision, insert_revision

_MAGIC = b"SQLite format 3\0"


@dataclass(frozen=True, slots=True, kw_only=True)
class BackupContent:
    """What a backup holds: jobs (those archived too), revisions, photos, and when it was saved in last."""

    jobs: int
    revisions: int
    photos: int
    saved_at: str
    titles: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Restored:
    """A restore that was done: what is there now, and the file that holds what was there before."""

    content: BackupContent
    kept_before: str


def write_backup(database: Path, target: Path) -> Path:
    """A whole, consistent copy of the database, while it is in use; whole or not there at all."""
    with closing(connect(database, read_only=True)) as conn:
        return back_up(conn, target)


def read_backup(file: Path) -> BackupContent:
    """What a backup holds. The file is left as it is. Raises NotABackup, DatabaseDamaged, NewerDatabase."""
    with _usable_copy(file) as copy, closing(connect(copy, read_only=True)) as conn:
        return _content(conn)


def restore(database: Path, file: Path) -> Restored:
    """Replace everything by a backup. What was there is kept as a backup of its own first.

    One write transaction from before the copy of what was there to after the exchange: a save that was acknowledged is in
    that copy, and one that comes during that time waits, and then meets a conflict.
    Raises NotABackup, NewerDatabase or DatabaseUnavailable, and nothing is changed then.
    """
    with _usable_copy(file) as copy, closing(connect(database)) as live:
        # Outside of the transaction, where SQLite takes them; the references are checked before the commit.
        live.execute("pragma foreign_keys = off")
        live.execute("attach database ? as backup", (str(copy),))
        with database_errors(database), transaction(live):
            reached = _reached(live)
            _exchange_rows(live)
            _move_on(live, reached)
            _must_hold_together(live)
            content = _content(live)
            kept = write_backup(database, _before_restore(database))
        return Restored(content, str(kept))


def _exchange_rows(conn: sqlite3.Connection) -> None:
    """The rows of the attached backup in the place of all rows. The triggers that keep rows from being removed are put
    aside for it, in the same transaction; both sides have the same schema."""
    triggers = conn.execute("select name, sql from main.sqlite_master where type = 'trigger'").fetchall()
    for name, _ in triggers:
        conn.execute(f"drop trigger main.{_quoted(name)}")
    tables = conn.execute(
        "select name from main.sqlite_master where type = 'table' and name not like 'sqlite_%'"
    ).fetchall()
    for [table] in tables:
        name = _quoted(table)
        columns = ", ".join(_quoted(row[0]) for row in conn.execute("select name from pragma_table_info(?)", (table,)))
        conn.execute(f"delete from main.{name}")
        conn.execute(f"insert into main.{name} ({columns}) select {columns} from backup.{name}")
    for _, sql in triggers:
        conn.execute(sql)


def _quoted(name: str) -> str:
    return '"' + name.replace('"', '""') + '"'


def _before_restore(database: Path) -> Path:
    stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
    return database.parent / "backups" / f"{database.stem}-before-restore-{stamp}.sqlite3"


def _must_hold_together(conn: sqlite3.Connection) -> None:
    broken = conn.execute("pragma main.foreign_key_check").fetchone()
    if broken is not None:
        raise DatabaseDamaged("that was sent", f"a row of “{broken[0]}” refers to nothing")


def _reached(conn: sqlite3.Connection) -> dict[str, int]:
    """The last number of each job's revisions."""
    return dict(conn.execute("select job_id, max(number) from revision group by job_id").fetchall())


def _move_on(conn: sqlite3.Connection, reached: dict[str, int]) -> None:
    """A revision past all numbers that were reached, of every job that was there before: a page that has such a job open
    still, and saves from a number that now means something else, is told of the conflict instead of writing over it."""
    for job_id, last in _reached(conn).items():
        if job_id in reached:
            head = get_revision(conn, job_id)
            insert_revision(
                conn, job_id, max(last, reached[job_id]) + 1, head, "restored from a backup", "this machine"
            )


@contextmanager
def _usable_copy(file: Path) -> Iterator[Path]:
    """A copy of the file, brought to the present schema, once all of it is in order: nothing of it has run before that."""
    with file.open("rb") as opened:
        if opened.read(len(_MAGIC)) != _MAGIC:
            raise NotABackup(message(None, "store.backup.no_database"))
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "copy.sqlite3"
        shutil.copyfile(file, copy)
        _must_be_ours(copy)
        prepare(copy)
        _must_have_our_schema(copy)
        yield copy


def _must_be_ours(copy: Path) -> None:
    """Tables of this program, looked for before anything in the file may run."""
    try:
        with closing(sqlite3.connect(copy)) as conn:
            tables = {str(row[0]) for row in conn.execute("select name from sqlite_master where type = 'table'")}
            version = schema_version(conn)
    except sqlite3.DatabaseError as why:
        raise DatabaseDamaged("that was sent", str(why)) from why
    if version < 1 or not {"job", "revision"} <= tables:
        raise NotABackup(message(None, "store.backup.other_program"))


def _must_have_our_schema(copy: Path) -> None:
    """The very schema of a new database: no trigger, view or table that this program did not make."""
    with tempfile.TemporaryDirectory() as folder:
        fresh = Path(folder) / "fresh.sqlite3"
        prepare(fresh, packaged_migrations())
        with closing(connect(fresh, read_only=True)) as ours, closing(connect(copy, read_only=True)) as theirs:
            if _schema(ours) != _schema(theirs):
                raise NotABackup(message(None, "store.backup.tables"))
            _must_hold_together(theirs)


def _schema(conn: sqlite3.Connection) -> set[tuple[str, str, str]]:
    rows = conn.execute("select type, name, coalesce(sql, '') from sqlite_master where name not like 'sqlite_%'")
    return {(str(kind), str(name), str(sql)) for kind, name, sql in rows}


def _content(conn: sqlite3.Connection) -> BackupContent:
    jobs, revisions, photos, saved_at = conn.execute(
        "select (select count(*) from job), (select count(*) from revision), (select count(*) from photo),"
        " (select coalesce(max(saved_at), '') from revision)"
    ).fetchone()
    titles = conn.execute(
        "select document ->> '$.job.title' from job join revision on revision.job_id = job.id and revision.number = job.head"
        " order by saved_at desc limit 12"
    )
    return BackupContent(
        jobs=jobs, revisions=revisions, photos=photos, saved_at=saved_at, titles=tuple(str(row[0]) for row in titles)
    )
