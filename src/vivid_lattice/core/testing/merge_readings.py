"""Readings that come in from several places at once, merged reading by reading: what two people read differently is left to be decided."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.enter_reading import ReadingEntry, is_of, reading_of
from vivid_lattice.core.testing.subjects import subject_of


@dataclass(frozen=True, slots=True, kw_only=True)
class SentReading:
    """A reading as it was typed somewhere, even hours ago.

    at, by, instrument  when it was read by the clock of that place, by whom, with which of the job's instruments
    before              the reading of the same thing that was shown there when it was typed; '' where none was
    """

    entry: ReadingEntry
    at: str | None = None
    by: str = ""
    instrument: str = ""
    before: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class MergedReadings:
    """What came of readings that were sent: the job; those taken, and those refused and why; ``made``: all of them for the history; those
    that another reading contradicts, and those of an earlier time that are settled by it."""

    job: Job
    taken: tuple[str, ...]
    made: tuple[Reading, ...] = ()
    refused: tuple[tuple[str, Text], ...] = ()
    undecided: tuple[Reading, ...] = ()
    settled: tuple[str, ...] = ()


@dataclass
class _Merging:
    """Readings while they are merged one by one. ``open``: ids of those that are undecided by now."""

    network: Installation
    readings: list[Reading]
    open: set[str]
    undecided: dict[str, Reading] = field(default_factory=dict)
    made: list[Reading] = field(default_factory=list)

    def add(self, sent: SentReading) -> None:
        entry = sent.entry
        now = next((reading for reading in self.readings if is_of(reading, entry)), None)
        if subject_of(self.network, entry.test, entry.subject) is None:
            raise EntryNotUnderstood(entry.text, message(None, "core.testing.gone", id=entry.subject.id))
        made = reading_of(entry, sent.before or None, sent.at, sent.by, sent.instrument) if entry.text.strip() else None
        if made is not None:
            self.made.append(made)
        # A correction of one that is undecided takes its place among those.
        self.open.discard(sent.before)
        self.undecided.pop(sent.before, None)
        if made is None:
            if now is not None and now.id == sent.before:
                self.readings.remove(now)
        elif now is None:
            self.readings.append(made)
        elif now.id == sent.before:
            self.readings[self.readings.index(now)] = made
        elif (now.state, now.value) != (made.state, made.value):
            self.undecided[made.id] = made


def merge_readings(
    job: Job, sent: Sequence[SentReading], known: Collection[str] = (), undecided: Collection[str] = ()
) -> MergedReadings:
    """The job with readings merged in, in their order.

    known       ids of readings that came before: one of them sent again changes nothing
    undecided   ids of those of them that wait for a decision
    A reading typed over one that is no longer in force contradicts what is: it is left undecided, unless both read the same.
    """
    merging = _Merging(Installation.of(job, rule_set(job.job.rules)), list(job.testing.readings), set(undecided))
    taken, refused = [], []
    done = set(known)
    for each in sent:
        if each.entry.id in done:
            taken.append(each.entry.id)
            continue
        try:
            merging.add(each)
        except EntryNotUnderstood as why:
            refused.append((each.entry.id, why.why))
        else:
            taken.append(each.entry.id)
            done.add(each.entry.id)
    testing = job.testing.model_copy(update={"readings": tuple(merging.readings)})
    return MergedReadings(
        job=checked(job.model_copy(update={"testing": testing})),
        taken=tuple(taken),
        made=tuple(merging.made),
        refused=tuple(refused),
        undecided=tuple(merging.undecided.values()),
        settled=tuple(set(undecided) - merging.open),
    )


def decide(job: Job, reading: Reading) -> Job:
    """The job with an undecided reading in force, in the place of the one that is."""
    now = next((each for each in job.testing.readings if is_of(each, reading)), None)
    chosen = reading.model_copy(update={"replaces": now.id if now is not None else reading.replaces})
    others = tuple(each for each in job.testing.readings if each is not now)
    return checked(job.model_copy(update={"testing": job.testing.model_copy(update={"readings": (*others, chosen)})}))
