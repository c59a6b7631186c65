"""What the store refuses, as a tree. Each error carries its fields.

StoreError
├── NoSuchJob        no job of that id
├── NoSuchRevision   the job has no revision of that number
├── NoSuchTrip       the job's log has no such line
├── NoSuchPhoto      the job has no photo of that id
├── TooManyPhotos    the job holds as many photos as one may
├── StaleRevision    somebody has saved since: the head is another revision than the one the change was made from
├── NothingToUndo    the head has no parent, or nothing was undone
├── DatabaseDamaged  SQLite's integrity check found something
├── NotABackup       a file that is no backup of this program
└── NewerDatabase    a newer program has written the file
"""

from __future__ import annotations


class StoreError(Exception):
    """Root of all errors the store raises on purpose."""


class NoSuchJob(StoreError):
    """No job of that id."""

    def __init__(self, job_id: str):
        self.job_id = job_id
        super().__init__(f"There is no job '{job_id}'.")


class NoSuchRevision(StoreError):
    """The job has no revision of that number."""

    def __init__(self, job_id: str, number: int):
        self.job_id, self.number = job_id, number
        super().__init__(f"Job '{job_id}' has no revision {number}.")


class NoSuchTrip(StoreError):
    """The job's log has no such line, or it is struck out already."""

    def __init__(self, job_id: str, trip_id: int):
        self.job_id, self.trip_id = job_id, trip_id
        super().__init__(f"The log of job '{job_id}' has no line {trip_id}.")


class NoSuchPhoto(StoreError):
    """The job has no photo of that id."""

    def __init__(self, job_id: str, photo_id: str):
        self.job_id, self.photo_id = job_id, photo_id
        super().__init__(f"Job '{job_id}' has no photo '{photo_id}'.")


class TooManyPhotos(StoreError):
    """The job holds as many photos as one may."""

    def __init__(self, job_id: str, most: int):
        self.job_id, self.most = job_id, most
        super().__init__(f"The job holds {most} photos already; throw one away first.")


class StaleRevision(StoreError):
    """The head is another revision than the one a change was made from."""

    def __init__(self, job_id: str, base: int, head: int):
        self.job_id, self.base, self.head = job_id, base, head
        super().__init__(f"The job has moved on: the change was made from revision {base}, and {head} is open now.")


class NothingToUndo(StoreError):
    """There is no revision to step to."""

    def __init__(self, job_id: str, direction: str):
        self.job_id, self.direction = job_id, direction
        super().__init__(f"There is nothing to {direction}.")


class DatabaseDamaged(StoreError):
    """SQLite's integrity check found something."""

    def __init__(self, path: str, what: str):
        self.path, self.what = path, what
        super().__init__(f"The database {path} is damaged ({what}). It was left as it is; restore a backup beside it.")


class NotABackup(StoreError):
    """A file that is no backup of this program."""

    def __init__(self, why: str):
        self.why = why
        super().__init__(f"That file cannot be restored: {why}. Nothing was changed.")


class NewerDatabase(StoreError):
    """A newer program has written the file."""

    def __init__(self, path: str, version: int, known: int):
        self.path, self.version, self.known = path, version, known
        super().__init__(
            f"The database {path} has schema {version}; this program knows {known}. Use the newer program; nothing was changed."
        )
