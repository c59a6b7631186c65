"""Photos of a job: of a board, or of one way of it."""

from __future__ import annotations

import secrets
import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Literal

from vivid_lattice.photos import MAX_OF_A_JOB
from vivid_lattice.store.database import transaction
from vivid_lattice.store.errors import NoSuchPhoto, TooManyPhotos
from vivid_lattice.store.jobs import must_exist


@dataclass(frozen=True, slots=True, kw_only=True)
class Photo:
    """A photo without its picture: what it shows, and its size [px]."""

    id: str
    board: str
    way: int | None
    caption: str
    width: int
    height: int
    at: str


@dataclass(frozen=True, slots=True, kw_only=True)
class NewPhoto:
    """A photo to keep: pictures as JPEG. ``id``: chosen where it was taken, so that the same photo sent twice is one; None: a new one."""

    board: str
    way: int | None
    caption: str
    width: int
    height: int
    image: bytes
    small: bytes
    id: str | None = None


def add_photo(conn: sqlite3.Connection, job_id: str, new: NewPhoto) -> Photo:
    """Keep a photo; one whose id is there already is the one that is there. Raises NoSuchJob, TooManyPhotos."""
    photo_id, now = new.id or secrets.token_hex(8), datetime.now(UTC).isoformat(timespec="milliseconds")
    with transaction(conn):
        must_exist(conn, job_id)
        kept = _photos(conn, job_id, photo_id)
        if kept:
            return kept[0]
        photo_count = int(conn.execute("select count(*) from photo where job_id = ?", (job_id,)).fetchone()[0])
        if photo_count >= MAX_OF_A_JOB:
            raise TooManyPhotos(job_id, MAX_OF_A_JOB)
        conn.execute(
            "insert into photo (id, job_id, board, way, caption, width, height, image, small, at)"
            " values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (photo_id, job_id, new.board, new.way, new.caption, new.width, new.height, new.image, new.small, now),
        )
        [made] = _photos(conn, job_id, photo_id)
        return made


def list_photos(conn: sqlite3.Connection, job_id: str) -> list[Photo]:
    """Every photo of a job, board by board and way by way. Raises NoSuchJob."""
    must_exist(conn, job_id)
    return _photos(conn, job_id)


def _photos(conn: sqlite3.Connection, job_id: str, photo_id: str | None = None) -> list[Photo]:
    rows = conn.execute(
        "select id, board, way, caption, width, height, at from photo where job_id = ? and (? is null or id = ?)"
        " order by board, way, at",
        (job_id, photo_id, photo_id),
    )
    columns = [column for column, *_ in rows.description]
    return [Photo(**dict(zip(columns, row, strict=True))) for row in rows]


def picture_of(conn: sqlite3.Connection, job_id: str, photo_id: str, size: Literal["image", "small"]) -> bytes:
    """The picture of a photo, or its small one. Raises NoSuchPhoto."""
    column = {"image": "image", "small": "small"}[size]
    row = conn.execute(f"select {column} from photo where job_id = ? and id = ?", (job_id, photo_id)).fetchone()
    if row is None:
        raise NoSuchPhoto(job_id, photo_id)
    return bytes(row[0])


def delete_photo(conn: sqlite3.Connection, job_id: str, photo_id: str) -> None:
    """Throw a photo away for good. Raises NoSuchPhoto."""
    with transaction(conn):
        done = conn.execute("delete from photo where job_id = ? and id = ?", (job_id, photo_id))
        if done.rowcount == 0:
            raise NoSuchPhoto(job_id, photo_id)
