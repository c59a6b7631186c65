"""What the store refuses, as a tree. Each error carries its fields.

StoreError
├── NoSuchJob        no job of that id
├── NoSuchRevision   the job has no revision of that number
├── NoSuchTrip       the job's log has no such line
├── NoSuchPhoto      the job has no photo of that id
├── NoSuchReading    the job has no such reading that waits for a decision
├── TooManyPhotos    the job holds as many photos as one may
├── StaleRevision    someone has saved since: the head is another revision than the one the change was made from
├── NothingToUndo    the head has no parent, or nothing was undone
├── NotABackup       a file that is no backup of this program
├── NewerDatabase    a newer program has written the file
└── DatabaseUnavailable  the file cannot be used as it is now; what was saved is safe, and saving goes on when it clears
    ├── DatabaseLocked       another program has it locked
    ├── DiskFull             there is no space left to write
    ├── DatabaseReadOnly     this user may not write to it
    ├── DatabaseUnreachable  the file is gone, or cannot be read
    └── DatabaseDamaged      SQLite found that its contents are damaged
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from vivid_lattice.core.errors import MessageError
from vivid_lattice.core.messages import Text, message


class StoreError(MessageError):
    """Root of all errors the store raises on purpose."""


class NoSuchJob(StoreError):
    """No job of that id."""

    def __init__(self, job_id: str):
        self.job_id = job_id
        super().__init__(message(None, "store.no_such_job", id=job_id))


class NoSuchRevision(StoreError):
    """The job has no revision of that number."""

    def __init__(self, job_id: str, number: int):
        self.job_id, self.number = job_id, number
        super().__init__(message(None, "store.no_such_revision", id=job_id, n=str(number)))


class NoSuchTrip(StoreError):
    """The job's log has no such line, or it is deleted already."""

    def __init__(self, job_id: str, trip_id: int):
        self.job_id, self.trip_id = job_id, trip_id
        super().__init__(message(None, "store.no_such_trip", id=job_id, n=str(trip_id)))


class NoSuchPhoto(StoreError):
    """The job has no photo of that id."""

    def __init__(self, job_id: str, photo_id: str):
        self.job_id, self.photo_id = job_id, photo_id
        super().__init__(message(None, "store.no_such_photo", id=job_id, photo=photo_id))


class NoSuchReading(StoreError):
    """The job has no reading of that id that waits for a decision."""

    def __init__(self, job_id: str, reading_id: str):
        self.job_id, self.reading_id = job_id, reading_id
        super().__init__(message(None, "store.no_such_reading", id=job_id, reading=reading_id))


class TooManyPhotos(StoreError):
    """The job holds as many photos as one may."""

    def __init__(self, job_id: str, most: int):
        self.job_id, self.most = job_id, most
        super().__init__(message(None, "store.too_many_photos", n=str(most)))


class StaleRevision(StoreError):
    """The head is another revision than the one a change was made from."""

    def __init__(self, job_id: str, base: int, head: int):
        self.job_id, self.base, self.head = job_id, base, head
        super().__init__(message(None, "store.stale", base=str(base), head=str(head)))


class NothingToUndo(StoreError):
    """There is no revision to step to."""

    def __init__(self, job_id: str, direction: str):
        self.job_id, self.direction = job_id, direction
        super().__init__(f"Nothing to {direction}.")


class NotABackup(StoreError):
    """A file that is no backup of this program."""

    def __init__(self, why: Text):
        self.why = why
        super().__init__(message(None, "store.not_a_backup", why=why))


class NewerDatabase(StoreError):
    """A newer program has written the file."""

    def __init__(self, path: str, version: int, known: int):
        self.path, self.version, self.known = path, version, known
        super().__init__(message(None, "store.newer", path=path, version=str(version), known=str(known)))


class DatabaseUnavailable(StoreError):
    """The database file cannot be used as it is now. Nothing of it was changed."""

    def __init__(self, path: str, sentence: Text):
        self.path = path
        super().__init__(sentence)


class DatabaseLocked(DatabaseUnavailable):
    """Another program has the file locked, and has not let go of it within the waiting time."""

    def __init__(self, path: str):
        super().__init__(
            path,
            message(None, "store.locked", path=path),
        )


class DiskFull(DatabaseUnavailable):
    """There is no space left on the disk."""

    def __init__(self, path: str):
        super().__init__(
            path,
            message(None, "store.disk_full", path=path),
        )


class DatabaseReadOnly(DatabaseUnavailable):
    """This user may not write to the file or its folder."""

    def __init__(self, path: str):
        super().__init__(
            path,
            message(None, "store.read_only", path=path),
        )


class DatabaseUnreachable(DatabaseUnavailable):
    """The file is gone, is no file, or the system cannot open or read it."""

    def __init__(self, path: str, what: str):
        self.what = what
        super().__init__(
            path,
            message(None, "store.unreachable", path=path, what=what),
        )


class DatabaseDamaged(DatabaseUnavailable):
    """SQLite found that the contents of the file are damaged."""

    def __init__(self, path: str, what: str):
        self.what = what
        super().__init__(path, message(None, "store.damaged", path=path, what=what))


#: SQLite's primary result codes: what each says about the file.
_LOCKED = (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED, sqlite3.SQLITE_PROTOCOL)
_READ_ONLY = (sqlite3.SQLITE_READONLY, sqlite3.SQLITE_PERM, sqlite3.SQLITE_AUTH)
_UNREACHABLE = (sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_IOERR)
_DAMAGED = (sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB)


def from_sqlite(error: sqlite3.Error, path: Path) -> DatabaseUnavailable | None:
    """What an error of SQLite says about the database file; None where it is about a statement, not the file."""
    code = getattr(error, "sqlite_errorcode", None)
    if code is None:
        return None
    primary, name = code & 0xFF, str(path)
    if primary in _LOCKED:
        return DatabaseLocked(name)
    if primary == sqlite3.SQLITE_FULL:
        return DiskFull(name)
    if primary in _READ_ONLY:
        return DatabaseReadOnly(name)
    if primary in _UNREACHABLE:
        return DatabaseUnreachable(name, str(error))
    if primary in _DAMAGED:
        return DatabaseDamaged(name, str(error))
    return None


@contextmanager
def database_errors(path: Path) -> Iterator[None]:
    """What SQLite says about the file, raised as DatabaseUnavailable; what it says about a statement, as it is."""
    try:
        yield
    except sqlite3.Error as why:
        unavailable = from_sqlite(why, path)
        if unavailable is None:
            raise
        raise unavailable from why
