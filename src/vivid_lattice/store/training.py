"""What learners did: attempts at boards, answers to exercises; all of a class as one list."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime

from vivid_lattice.store.database import transaction


@dataclass(frozen=True, slots=True, kw_only=True)
class SavedAttempt:
    """An attempt that ended: its record as JSON, and its score."""

    id: int
    learner: str
    record: str
    standard: str
    level: int
    number: int
    total: float
    passed: bool
    tests: int
    ended_at: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SavedAnswer:
    """An exercise that was answered."""

    learner: str
    standard: str
    kind: str
    number: int
    chosen: int
    is_right: bool
    answered_at: str


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def _known(conn: sqlite3.Connection, learner: str) -> None:
    conn.execute("insert or ignore into learner (name, created_at) values (?, ?)", (learner, _now()))


def save_attempt(
    conn: sqlite3.Connection, learner: str, record: str, *, standard: str, level: int, number: int, total: float, passed: bool,
    tests: int,
) -> SavedAttempt:  # fmt: skip
    """Keep an attempt of a learner, who is written down with it. The same record again is the one that is there."""
    with transaction(conn):
        _known(conn, learner)
        there = conn.execute("select id from attempt where learner = ? and record = ?", (learner, record)).fetchone()
        if there is None:
            conn.execute(
                "insert into attempt (learner, record, standard, level, number, total, passed, tests, ended_at)"
                " values (?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (learner, record, standard, level, number, total, int(passed), tests, _now()),
            )
    return next(each for each in attempts_of(conn, learner) if each.record == record)


def save_answer(
    conn: sqlite3.Connection, learner: str, *, standard: str, kind: str, number: int, chosen: int, is_right: bool
) -> None:
    """Keep the answer of a learner to an exercise."""
    with transaction(conn):
        _known(conn, learner)
        conn.execute(
            "insert into exercise_answer (learner, standard, kind, number, chosen, is_right, answered_at)"
            " values (?, ?, ?, ?, ?, ?, ?)",
            (learner, standard, kind, number, chosen, int(is_right), _now()),
        )


def learners(conn: sqlite3.Connection) -> list[str]:
    """Everybody who was written down, by name."""
    return [str(name) for (name,) in conn.execute("select name from learner order by name")]


def attempts_of(conn: sqlite3.Connection, learner: str | None = None) -> list[SavedAttempt]:
    """The attempts of a learner, or of all, the latest first."""
    rows = conn.execute(
        "select id, learner, record, standard, level, number, total, passed, tests, ended_at from attempt"
        " where ? is null or learner = ? order by id desc",
        (learner, learner),
    )
    return [
        SavedAttempt(
            id=id_, learner=of, record=record, standard=standard, level=level, number=number, total=total,
            passed=bool(passed), tests=tests, ended_at=ended_at,
        )
        for id_, of, record, standard, level, number, total, passed, tests, ended_at in rows
    ]  # fmt: skip


def answers_of(conn: sqlite3.Connection, learner: str | None = None) -> list[SavedAnswer]:
    """The answers of a learner, or of all, in the order in which they were given."""
    rows = conn.execute(
        "select learner, standard, kind, number, chosen, is_right, answered_at from exercise_answer"
        " where ? is null or learner = ? order by id",
        (learner, learner),
    )
    return [
        SavedAnswer(
            learner=of, standard=standard, kind=kind, number=number, chosen=chosen, is_right=bool(is_right),
            answered_at=answered_at,
        )
        for of, standard, kind, number, chosen, is_right, answered_at in rows
    ]  # fmt: skip


def result_rows(conn: sqlite3.Connection) -> Iterator[tuple[str, str, str, str, str, str, str]]:
    """The results of a class, one row each: who, what, standard, level or kind, number, points or right, when."""
    for attempt in reversed(attempts_of(conn)):
        yield (
            attempt.learner, "board", attempt.standard, str(attempt.level), str(attempt.number), f"{attempt.total:g}",
            attempt.ended_at,
        )  # fmt: skip
    for answer in answers_of(conn):
        right = "right" if answer.is_right else "wrong"
        yield (answer.learner, "exercise", answer.standard, answer.kind, str(answer.number), right, answer.answered_at)
