"""Readings sent to a job from anywhere: merged into its head in one transaction, so that none is lost and none is there twice."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence

from vivid_lattice.core.document.readings import Reading
from vivid_lattice.core.testing.merge_readings import MergedReadings, SentReading, decide, merge_readings
from vivid_lattice.store.database import transaction
from vivid_lattice.store.errors import NoSuchReading
from vivid_lattice.store.jobs import Revision, get_revision, now, put_on_head
from vivid_lattice.store.readings import add_readings, add_undecided, known_readings, settle, undecided_readings


def send_readings(
    conn: sqlite3.Connection, job_id: str, sent: Sequence[SentReading], author: str
) -> tuple[Revision, MergedReadings]:
    """The head of a job with readings merged in, and what came of each. The same readings sent again change nothing.

    Raises NoSuchJob.
    """
    with transaction(conn):
        head = get_revision(conn, job_id)
        merged = merge_readings(
            head.job, sent, known=known_readings(conn, job_id), undecided=undecided_readings(conn, job_id)
        )
        # Before the revision: one that is corrected by the next of the same batch is in no revision.
        add_readings(conn, job_id, merged.made, now())
        put_on_head(conn, head, merged.job, author)
        add_undecided(conn, job_id, merged.undecided, now())
        settle(conn, job_id, merged.settled)
    return get_revision(conn, job_id), merged


def decide_reading(conn: sqlite3.Connection, job_id: str, reading_id: str, take: bool, author: str) -> Revision:
    """An undecided reading put in force, or left in the history alone. Raises NoSuchJob, NoSuchReading."""
    with transaction(conn):
        head = get_revision(conn, job_id)
        if reading_id not in undecided_readings(conn, job_id):
            raise NoSuchReading(job_id, reading_id)
        if take:
            [body] = conn.execute(
                "select body from reading where job_id = ? and id = ?", (job_id, reading_id)
            ).fetchone()
            put_on_head(conn, head, decide(head.job, Reading.model_validate_json(body)), author)
        settle(conn, job_id, (reading_id,))
    return get_revision(conn, job_id)
