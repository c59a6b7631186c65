"""The trip log of a job: devices that tripped, and what ran."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime

from vivid_lattice.store.database import transaction
from vivid_lattice.store.errors import NoSuchTrip
from vivid_lattice.store.jobs import must_exist


@dataclass(frozen=True, slots=True, kw_only=True)
class TripRecord:
    """A line of the log: when (local time, as noticed), which device, the circuits something ran on, and a note."""

    id: int
    at: str
    device: str
    ran: list[str]
    note: str


def add_trip(conn: sqlite3.Connection, job_id: str, at: str, device: str, ran: list[str], note: str) -> TripRecord:
    """Write a line into a job's log. Raises NoSuchJob."""
    with transaction(conn):
        must_exist(conn, job_id)
        added = conn.execute(
            "insert into trip (job_id, at, device, ran, note, added_at) values (?, ?, ?, ?, ?, ?)",
            (job_id, at, device, json.dumps(ran), note, datetime.now(UTC).isoformat(timespec="milliseconds")),
        )
    return TripRecord(id=int(added.lastrowid or 0), at=at, device=device, ran=ran, note=note)


def list_trips(conn: sqlite3.Connection, job_id: str) -> list[TripRecord]:
    """The log of a job, newest first, without what is deleted. Raises NoSuchJob."""
    must_exist(conn, job_id)
    rows = conn.execute(
        """
        select id, at, device, ran, note from trip
        where job_id = ? and struck_at is null
        order by at desc, id desc
        """,
        (job_id,),
    )
    return [
        TripRecord(id=number, at=at, device=device, ran=json.loads(ran), note=note)
        for number, at, device, ran, note in rows
    ]


def delete_trip(conn: sqlite3.Connection, job_id: str, trip_id: int) -> None:
    """Delete a line of the log; it stays in the file. Raises NoSuchTrip."""
    with transaction(conn):
        done = conn.execute(
            "update trip set struck_at = ? where id = ? and job_id = ? and struck_at is null",
            (datetime.now(UTC).isoformat(timespec="milliseconds"), trip_id, job_id),
        )
        if done.rowcount == 0:
            raise NoSuchTrip(job_id, trip_id)
