"""Every reading that a job ever had, whether it is in force or was corrected or removed since."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass

from vivid_lattice.core.document.readings import Reading


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingRecord:
    """A reading of a job's history: when it was first saved, and whether the head still has it in force."""

    reading: Reading
    kept_at: str
    in_force: bool


def add_readings(
    conn: sqlite3.Connection, job_id: str, readings: Iterable[Reading], kept_at: str, revision: int | None = None
) -> None:
    """Adds the readings that a job's history does not have yet; within a transaction that is open already."""
    conn.executemany(
        "insert or ignore into reading (job_id, id, body, revision, kept_at) values (?, ?, ?, ?, ?)",
        [(job_id, reading.id, reading.model_dump_json(), revision, kept_at) for reading in readings],
    )


def history_of(conn: sqlite3.Connection, job_id: str, in_force: Iterable[Reading]) -> list[ReadingRecord]:
    """All readings of a job in the order they were saved. ``in_force``: those of its head."""
    present = {reading.id for reading in in_force}
    rows = conn.execute("select body, kept_at from reading where job_id = ? order by kept_at, rowid", (job_id,))
    records = []
    for body, kept_at in rows:
        reading = Reading.model_validate_json(body)
        records.append(ReadingRecord(reading=reading, kept_at=kept_at, in_force=reading.id in present))
    return records
