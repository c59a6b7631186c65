"""What of a wiring list is done: ticks, by conductor and what it was when it was ticked."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime

from vivid_lattice.store.database import transaction
from vivid_lattice.store.jobs import must_exist


@dataclass(frozen=True, slots=True)
class WiringTick:
    """A conductor that is in. ``as_made``: its ends, size and colour then; a list that says otherwise now has it to do again."""

    board: str
    wire: str
    as_made: str


def list_ticks(conn: sqlite3.Connection, job_id: str) -> list[WiringTick]:
    """Every tick of a job. Raises NoSuchJob."""
    must_exist(conn, job_id)
    rows = conn.execute(
        "select board, wire, as_made from wired where job_id = ? and back_at is null order by id", (job_id,)
    )
    return [WiringTick(board, wire, as_made) for board, wire, as_made in rows]


def set_tick(conn: sqlite3.Connection, job_id: str, tick: WiringTick, done: bool) -> None:
    """Tick a conductor, or take its tick back. A tick of what it was before is replaced. Raises NoSuchJob."""
    now = datetime.now(UTC).isoformat(timespec="milliseconds")
    with transaction(conn):
        must_exist(conn, job_id)
        conn.execute(
            "update wired set back_at = ? where job_id = ? and board = ? and wire = ? and back_at is null",
            (now, job_id, tick.board, tick.wire),
        )
        if done:
            conn.execute(
                "insert into wired (job_id, board, wire, as_made, at) values (?, ?, ?, ?, ?)",
                (job_id, tick.board, tick.wire, tick.as_made, now),
            )
