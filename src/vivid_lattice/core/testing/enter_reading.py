"""Readings entered into a job: typed as they are read off the tester, each in place of the one in force of the same thing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading, ReadingKind, ReadingSubject
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.reading_text import reading_text
from vivid_lattice.core.testing.subjects import subject_of


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingEntry:
    """A reading as it is typed: of what, and its text; '' takes the one in force away. ``id``: of the new reading, chosen where it is typed,
    so that the same entry sent twice is one."""

    id: str
    test: ReadingKind
    subject: ReadingSubject
    text: str
    point: str = ""
    reason: str = ""
    no_trip: bool = False
    alone: bool | None = None
    temperature_c: float | None = None


def enter_readings(
    job: Job, entries: Sequence[ReadingEntry], *, at: str | None = None, by: str = "", instrument: str = ""
) -> Job:
    """The job with readings entered, in their order. One whose id is there already is passed over.

    at, by, instrument  when they were read (local time), by whom, with which of the job's instruments
    Raises  EntryNotUnderstood where a text is no reading of its kind, or the job has no such thing; nothing is entered then
    """
    network = Installation.of(job, rule_set(job.job.rules))
    readings = list(job.testing.readings)
    for entry in entries:
        if any(reading.id == entry.id for reading in readings):
            continue
        if subject_of(network, entry.test, entry.subject) is None:
            raise EntryNotUnderstood(entry.text, message(None, "core.testing.gone", id=entry.subject.id))
        before = next((reading for reading in readings if is_of(reading, entry)), None)
        replaces = before.id if before is not None else None
        made = None if not entry.text.strip() else reading_of(entry, replaces, at, by, instrument)
        if before is not None:
            readings.remove(before)
        if made is not None:
            readings.append(made)
    testing = job.testing.model_copy(update={"readings": tuple(readings)})
    return checked(job.model_copy(update={"testing": testing}))


def is_of(reading: Reading, other: Reading | ReadingEntry) -> bool:
    """Whether two readings are of the same thing at the same point, so that only one of them can be in force."""
    return (reading.test, reading.subject, reading.point) == (other.test, other.subject, other.point)


def reading_of(entry: ReadingEntry, replaces: str | None, at: str | None, by: str, instrument: str) -> Reading:
    """The reading that an entry states; ``replaces``: the id of the one in whose place it comes. Raises EntryNotUnderstood."""
    typed = reading_text(entry.text, entry.test)
    return Reading(
        id=entry.id,
        test=entry.test,
        subject=entry.subject,
        point=entry.point,
        state=typed.state,
        value=typed.value,
        parts=typed.parts,
        temperature_c=entry.temperature_c,
        no_trip=entry.no_trip,
        alone=entry.alone,
        at=at,
        by=by,
        instrument=instrument,
        replaces=replaces,
        reason=entry.reason,
    )
