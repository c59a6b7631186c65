"""Jobs and their revisions: append, look up, step back and forth."""

from __future__ import annotations

import secrets
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from vivid_lattice.core.document.changes import in_words
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.store.database import transaction
from vivid_lattice.store.errors import NoSuchJob, NoSuchRevision, NothingToUndo, StaleRevision
from vivid_lattice.store.readings import add_readings


@dataclass(frozen=True, slots=True, kw_only=True)
class Revision:
    """A document as it was kept, and whether one can step back or forth from it. ``uid``: its own id, never used twice."""

    job_id: str
    number: int
    uid: str
    parent: int | None
    job: Job
    text: str
    author: str
    saved_at: str
    can_undo: bool
    can_redo: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class RevisionLine:
    """A line of a job's history."""

    number: int
    parent: int | None
    text: str
    author: str
    saved_at: str
    head: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class JobLine:
    """A line of the list of jobs. ``changed``: the last change in words; ``demo``: the demo it was opened from; '': none."""

    id: str
    title: str
    site: str
    client: str
    rules: str
    head: int
    circuits: int
    saved_at: str
    changed: str
    archived: bool
    demo: str


def must_exist(conn: sqlite3.Connection, job_id: str) -> None:
    """Nothing where there is a job of that id; NoSuchJob where there is none."""
    if conn.execute("select 1 from job where id = ?", (job_id,)).fetchone() is None:
        raise NoSuchJob(job_id)


def create_job(conn: sqlite3.Connection, job: Job, words: str, author: str, demo: str | None = None) -> Revision:
    """A new job with its first revision. ``demo``: the demo it is opened from."""
    with transaction(conn):
        job_id = insert_job(conn, job, words, author, demo)
    return get_revision(conn, job_id)


def insert_job(
    conn: sqlite3.Connection,
    job: Job,
    words: str,
    author: str,
    demo: str | None = None,
    history: Sequence[tuple[Reading, str]] = (),
) -> str:
    """The same within a transaction that is open already; returns the new job's id. ``history``: readings that it had elsewhere, with when
    each was saved."""
    job_id = secrets.token_hex(6)
    conn.execute("insert into job (id, head, created_at, demo) values (?, 1, ?, ?)", (job_id, now(), demo))
    for reading, kept_at in history:
        add_readings(conn, job_id, (reading,), kept_at)
    _insert_revision(conn, job_id, 1, None, job, words, author)
    return job_id


def insert_revision(conn: sqlite3.Connection, job_id: str, number: int, of: Revision, words: str, author: str) -> None:
    """A revision of a number of its own on top of one, with the same document, as the open one; within a transaction
    that is open already."""
    _insert_revision(conn, job_id, number, of.number, of.job, words, author)
    conn.execute("update job set head = ? where id = ?", (number, job_id))


def append_revision(
    conn: sqlite3.Connection, job_id: str, base: int, job: Job, author: str, base_uid: str | None = None
) -> Revision:
    """Keep a changed document on top of the revision it was made from.

    A document that is the same as its base adds nothing. Raises NoSuchJob, or StaleRevision where the head is no
    longer ``base``, or is another revision of that number than ``base_uid``; nothing is written then.
    """
    with transaction(conn):
        _must_be_head(conn, job_id, base, base_uid)
        _put_on(conn, job_id, base, _document(conn, job_id, base), job, author)
    return get_revision(conn, job_id)


def put_on_head(conn: sqlite3.Connection, head: Revision, job: Job, author: str) -> None:
    """Keep a changed document on top of the head, which was read in the transaction that is open; the same one adds nothing."""
    _put_on(conn, head.job_id, head.number, head.job, job, author)


def _put_on(conn: sqlite3.Connection, job_id: str, base: int, before: Job, job: Job, author: str) -> None:
    if before == job:
        return
    number = _last_number(conn, job_id) + 1
    _insert_revision(conn, job_id, number, base, job, str(in_words(before, job)), author)
    conn.execute("update job set head = ? where id = ?", (number, job_id))


def undo(conn: sqlite3.Connection, job_id: str, base: int, base_uid: str | None = None) -> Revision:
    """Step to the parent of the head. Raises NothingToUndo at the first revision, StaleRevision, NoSuchJob."""
    return _step(conn, job_id, base, base_uid, "undo", "select parent from revision where job_id = ? and number = ?")


def redo(conn: sqlite3.Connection, job_id: str, base: int, base_uid: str | None = None) -> Revision:
    """Step to the newest revision made from the head. Raises NothingToUndo where there is none, StaleRevision, NoSuchJob."""
    return _step(
        conn, job_id, base, base_uid, "redo", "select max(number) from revision where job_id = ? and parent = ?"
    )


def _step(
    conn: sqlite3.Connection, job_id: str, base: int, base_uid: str | None, direction: str, find: str
) -> Revision:
    with transaction(conn):
        _must_be_head(conn, job_id, base, base_uid)
        target = conn.execute(find, (job_id, base)).fetchone()[0]
        if target is None:
            raise NothingToUndo(job_id, direction)
        conn.execute("update job set head = ? where id = ?", (target, job_id))
    return get_revision(conn, job_id)


def get_revision(conn: sqlite3.Connection, job_id: str, number: int | None = None) -> Revision:
    """A revision by number, or the head. Raises NoSuchJob, NoSuchRevision."""
    wanted = _head(conn, job_id) if number is None else number
    row = conn.execute(
        """
        select number, uid, parent, document, words, author, saved_at,
               exists (select 1 from revision child where child.job_id = this.job_id and child.parent = this.number) as can_redo
          from revision this
         where job_id = ? and number = ?
        """,
        (job_id, wanted),
    ).fetchone()
    if row is None:
        _head(conn, job_id)
        raise NoSuchRevision(job_id, wanted)
    return Revision(
        job_id=job_id,
        number=row["number"],
        uid=row["uid"],
        parent=row["parent"],
        job=read_document(row["document"]),
        text=row["words"],
        author=row["author"],
        saved_at=row["saved_at"],
        can_undo=row["parent"] is not None,
        can_redo=bool(row["can_redo"]),
    )


def list_revisions(conn: sqlite3.Connection, job_id: str) -> list[RevisionLine]:
    """The history of a job, newest first. Raises NoSuchJob."""
    head = _head(conn, job_id)
    rows = conn.execute(
        "select number, parent, words, author, saved_at from revision where job_id = ? order by number desc", (job_id,)
    )
    return [
        RevisionLine(
            number=row["number"],
            parent=row["parent"],
            text=row["words"],
            author=row["author"],
            saved_at=row["saved_at"],
            head=row["number"] == head,
        )
        for row in rows
    ]


def list_jobs(conn: sqlite3.Connection) -> list[JobLine]:
    """All jobs, the one saved last first; archived ones too, marked."""
    rows = conn.execute(
        """
        select job.id, document ->> '$.job.title' as title, document ->> '$.job.site' as site,
               document ->> '$.job.client' as client, document ->> '$.job.rules' as rules, head, words,
               coalesce(demo, '') as demo, json_array_length(document, '$.circuits') as circuits,
               saved_at, archived_at is not null as archived
          from job join revision on revision.job_id = job.id and revision.number = job.head
         order by saved_at desc, job.id
        """
    )
    return [
        JobLine(
            id=row["id"],
            title=row["title"],
            site=row["site"] or "",
            client=row["client"] or "",
            rules=row["rules"],
            head=row["head"],
            circuits=row["circuits"],
            saved_at=row["saved_at"],
            archived=bool(row["archived"]),
            changed=row["words"],
            demo=row["demo"],
        )
        for row in rows
    ]


def set_archived(conn: sqlite3.Connection, job_id: str, archived: bool) -> None:
    """Put a job away or take it back out. Nothing of it is removed. Raises NoSuchJob."""
    with transaction(conn):
        _head(conn, job_id)
        conn.execute("update job set archived_at = ? where id = ?", (now() if archived else None, job_id))


def _head(conn: sqlite3.Connection, job_id: str) -> int:
    row = conn.execute("select head from job where id = ?", (job_id,)).fetchone()
    if row is None:
        raise NoSuchJob(job_id)
    return int(row["head"])


def _must_be_head(conn: sqlite3.Connection, job_id: str, base: int, base_uid: str | None) -> None:
    """Nothing where the open revision is the one named; StaleRevision where it is another, NoSuchJob where there is none."""
    head = _head(conn, job_id)
    if head != base:
        raise StaleRevision(job_id, base, head)
    if base_uid is not None:
        [uid] = conn.execute("select uid from revision where job_id = ? and number = ?", (job_id, head)).fetchone()
        if uid != base_uid:
            raise StaleRevision(job_id, base, head)


def _document(conn: sqlite3.Connection, job_id: str, number: int) -> Job:
    row = conn.execute("select document from revision where job_id = ? and number = ?", (job_id, number)).fetchone()
    return read_document(row["document"])


def _last_number(conn: sqlite3.Connection, job_id: str) -> int:
    return int(conn.execute("select max(number) from revision where job_id = ?", (job_id,)).fetchone()[0])


def _insert_revision(
    conn: sqlite3.Connection, job_id: str, number: int, parent: int | None, job: Job, words: str, author: str
) -> None:
    conn.execute(
        """
        insert into revision (job_id, number, uid, parent, document, words, author, saved_at)
        values (?, ?, ?, ?, ?, ?, ?, ?)
        """,
        (job_id, number, secrets.token_hex(8), parent, to_text(job), words, author, now()),
    )
    add_readings(conn, job_id, job.testing.readings, now(), number)


def now() -> str:
    """The time as rows are dated."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")
