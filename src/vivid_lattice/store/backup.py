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

from vivid_lattice.store.database import back_up, connect, packaged_migrations, prepare, schema_version
from vivid_lattice.store.errors import DatabaseDamaged, NotABackup
from vivid_lattice.store.jobs import get_revision, insert_revision

_MAGIC = b"SQLite format 3\0"


@dataclass(frozen=True, slots=True)
class BackupContent:
    """What a backup holds: jobs (those put away too), revisions, photos, and when it was saved in last."""

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
    partial = target.with_name(target.name + ".partial")
    partial.unlink(missing_ok=True)
    with closing(connect(database)) as conn:
        back_up(conn, partial)
    partial.replace(target)
    return target


def look_into(file: Path) -> BackupContent:
    """What a backup holds. The file is left as it is. Raises NotABackup, DatabaseDamaged, NewerDatabase."""
    with _usable_copy(file) as copy, closing(connect(copy, read_only=True)) as conn:
        return _content(conn)


def restore(database: Path, file: Path) -> Restored:
    """Put a backup in the place of everything. What was there is kept as a backup of its own first.

    Raises NotABackup, DatabaseDamaged or NewerDatabase, and nothing is changed then.
    """
    with _usable_copy(file) as copy:
        stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
        before = write_backup(database, _folder(database) / f"{database.stem}-before-restore-{stamp}.sqlite3")
        with closing(connect(database)) as live:
            reached = _reached(live)
        with closing(connect(copy)) as source:
            _moved_on(source, reached)
            content = _content(source)
            with closing(connect(database)) as live:
                source.backup(live)
        return Restored(content, str(before))


def _reached(conn: sqlite3.Connection) -> dict[str, int]:
    """The last number of each job's revisions."""
    return dict(conn.execute("select job_id, max(number) from revision group by job_id").fetchall())


def _moved_on(conn: sqlite3.Connection, reached: dict[str, int]) -> None:
    """A revision past all numbers that were reached, of every job that was there before: a page that has such a job open
    still, and saves from a number that now means something else, is told of the conflict instead of writing over it."""
    for job_id, last in _reached(conn).items():
        if job_id in reached:
            head = get_revision(conn, job_id)
            insert_revision(
                conn, job_id, max(last, reached[job_id]) + 1, head, "restored from a backup", "this machine"
            )


def _folder(database: Path) -> Path:
    folder = database.parent / "backups"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


@contextmanager
def _usable_copy(file: Path) -> Iterator[Path]:
    """A copy of the file, brought to the present schema, once all of it is in order: nothing of it has run before that."""
    with file.open("rb") as opened:
        if opened.read(len(_MAGIC)) != _MAGIC:
            raise NotABackup("it is no database; choose the file that 'Back up' wrote")
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
        raise NotABackup("it is a database, but of another program")


def _must_have_our_schema(copy: Path) -> None:
    """The very schema of a new database: no trigger, view or table that this program did not make."""
    with tempfile.TemporaryDirectory() as folder:
        fresh = Path(folder) / "fresh.sqlite3"
        prepare(fresh, packaged_migrations())
        with closing(connect(fresh, read_only=True)) as ours, closing(connect(copy, read_only=True)) as theirs:
            if _schema(ours) != _schema(theirs):
                raise NotABackup(
                    "its tables are not those of this program; it was changed by hand, or by something else"
                )
            broken = theirs.execute("pragma foreign_key_check").fetchone()
            if broken is not None:
                raise DatabaseDamaged("that was sent", f"a line of '{broken[0]}' belongs to nothing")


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
    return BackupContent(jobs, revisions, photos, saved_at, tuple(str(row[0]) for row in titles))
