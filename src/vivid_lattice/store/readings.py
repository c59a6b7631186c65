"""Every reading that a job ever had, whether it is in force, was corrected or removed since, or waits for a decision."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.readings import Reading


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingRecord:
    """A reading of a job's history: when it was first saved, and whether the head still has it in force.

    undecided  it came from another place while one that contradicts it was in force, and no one has decided yet
    """

    reading: Reading
    kept_at: str
    in_force: bool
    undecided: bool = False


def add_readings(
    conn: sqlite3.Connection, job_id: str, readings: Iterable[Reading], kept_at: str, revision: int | None = None
) -> None:
    """Adds the readings that a job's history does not have yet; within a transaction that is open already."""
    conn.executemany(
        "insert or ignore into reading (job_id, id, body, revision, kept_at) values (?, ?, ?, ?, ?)",
        [(job_id, reading.id, reading.model_dump_json(), revision, kept_at) for reading in readings],
    )


def known_readings(conn: sqlite3.Connection, job_id: str) -> set[str]:
    """The ids of all readings of a job."""
    return {row[0] for row in conn.execute("select id from reading where job_id = ?", (job_id,))}


def undecided_readings(conn: sqlite3.Connection, job_id: str) -> set[str]:
    """The ids of those that wait for a decision."""
    return {row[0] for row in conn.execute("select reading_id from undecided_reading where job_id = ?", (job_id,))}


def add_undecided(conn: sqlite3.Connection, job_id: str, readings: Sequence[Reading], kept_at: str) -> None:
    """Adds readings that wait for a decision; within a transaction that is open already."""
    add_readings(conn, job_id, readings, kept_at)
    conn.executemany("insert or ignore into undecided_reading values (?, ?)", [(job_id, each.id) for each in readings])


def settle(conn: sqlite3.Connection, job_id: str, ids: Iterable[str]) -> None:
    """Nothing more is to be decided of some readings; they stay in the history."""
    conn.executemany(
        "delete from undecided_reading where job_id = ? and reading_id = ?", [(job_id, each) for each in ids]
    )


def history_of(conn: sqlite3.Connection, job_id: str, in_force: Iterable[Reading]) -> list[ReadingRecord]:
    """All readings of a job in the order they were saved. ``in_force``: those of its head."""
    present = {reading.id for reading in in_force}
    undecided = undecided_readings(conn, job_id)
    rows = conn.execute("select body, kept_at from reading where job_id = ? order by kept_at, rowid", (job_id,))
    records = []
    for body, kept_at in rows:
        reading = Reading.model_validate_json(body)
        records.append(
            ReadingRecord(
                reading=reading,
                kept_at=kept_at,
                in_force=reading.id in present,
                undecided=reading.id in undecided and reading.id not in present,
            )
        )
    return records
