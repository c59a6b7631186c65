"""A job with everything kept beside its document: removed as a bundle, and put in as a new job in one step."""

from __future__ import annotations

import json
import secrets
import sqlite3
from datetime import UTC, datetime

from vivid_lattice.core.bundle import Bundle, BundledPhoto, BundledReading, BundledTick, BundledTrip
from vivid_lattice.store.database import transaction
from vivid_lattice.store.jobs import Revision, get_revision, insert_job
from vivid_lattice.store.readings import add_undecided, history_of
from vivid_lattice.store.trips import list_trips
from vivid_lattice.store.wiring_progress import list_ticks


def bundle_of(conn: sqlite3.Connection, job_id: str, number: int | None = None) -> tuple[Revision, Bundle]:
    """A revision (the head unless named) and its bundle: photos by board and way, the log from its beginning, ticks, readings.

    Raises NoSuchJob, NoSuchRevision.
    """
    revision = get_revision(conn, job_id, number)
    rows = conn.execute(
        "select board, way, caption, at, width, height, image, small from photo where job_id = ?"
        " order by board, way, at, id",
        (job_id,),
    )
    photos = tuple(
        BundledPhoto(
            board=board,
            way=way,
            caption=caption,
            at=at,
            width=width,
            height=height,
            image=bytes(image),
            small=bytes(small),
        )
        for board, way, caption, at, width, height, image, small in rows
    )
    trips = tuple(
        BundledTrip(list_trip.at, list_trip.device, tuple(list_trip.ran), list_trip.note)
        for list_trip in reversed(list_trips(conn, job_id))
    )
    ticks = tuple(
        BundledTick(list_tick.board, list_tick.wire, list_tick.as_made) for list_tick in list_ticks(conn, job_id)
    )
    readings = tuple(
        BundledReading(record.reading, record.kept_at, record.undecided)
        for record in history_of(conn, job_id, revision.job.testing.readings)
    )
    return revision, Bundle(revision.job, photos, trips, ticks, readings)


def create_from(conn: sqlite3.Connection, bundle: Bundle, words: str, author: str) -> Revision:
    """A new job from a bundle: all of it, or nothing."""
    now = datetime.now(UTC).isoformat(timespec="milliseconds")
    with transaction(conn):
        history = [(each.reading, each.kept_at) for each in bundle.readings]
        job_id = insert_job(conn, bundle.job, words, author, history=history)
        conn.executemany(
            "insert into photo (id, job_id, board, way, caption, width, height, image, small, at)"
            " values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            [
                (
                    f"{number:04x}{secrets.token_hex(6)}",
                    job_id,
                    photo.board,
                    photo.way,
                    photo.caption,
                    photo.width,
                    photo.height,
                    photo.image,
                    photo.small,
                    photo.at,
                )
                for number, photo in enumerate(bundle.photos)
            ],
        )
        add_undecided(conn, job_id, [each.reading for each in bundle.readings if each.undecided], now)
        conn.executemany(
            "insert into trip (job_id, at, device, ran, note, added_at) values (?, ?, ?, ?, ?, ?)",
            [(job_id, trip.at, trip.device, json.dumps(trip.ran), trip.note, now) for trip in bundle.trips],
        )
        conn.executemany(
            "insert or ignore into wired (job_id, board, wire, as_made, at) values (?, ?, ?, ?, ?)",
            [(job_id, tick.board, tick.wire, tick.as_made, now) for tick in bundle.ticks],
        )
    return get_revision(conn, job_id)
