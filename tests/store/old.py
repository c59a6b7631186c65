"""Database files as earlier versions of the program wrote them."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path

from tests.builders import job
from vivid_lattice.core.job_file import to_text
from vivid_lattice.store.database import connect, packaged_migrations, prepare, transaction

#: The job in it.
OLD_JOB = "0ld"


def write_first_version(path: Path) -> Path:
    """A file of schema 1 with one job of one revision."""
    prepare(path, packaged_migrations()[:1])
    with closing(connect(path)) as conn, transaction(conn):
        conn.execute("insert into job (id, head, created_at) values (?, 1, '')", (OLD_JOB,))
        conn.execute(
            "insert into revision (job_id, number, document, words, author, saved_at) values (?, 1, ?, 'begun', '', '')",
            (OLD_JOB, to_text(job())),
        )
    return path
