"""Readings in a table, a row each: from an instrument's memory or typed. A row is taken whole, or it says what is wrong with it.

Columns: test, subject, value, point, temperature_c, no_trip, alone, at, by, instrument, reason. The first three are needed. A subject is
``supply``, a way (``3``, ``main/3``), a circuit's id or name, a board's id or name, or as the test plan prints it (``rcd:main/r1``).
"""

from __future__ import annotations

import csv
import hashlib
import io
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, cast, get_args

from pydantic import ValidationError

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading, ReadingKind, ReadingSubject
from vivid_lattice.core.entry.tables.columns import number_in
from vivid_lattice.core.errors import BadDocument, DocumentProblem, EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.testing.enter_reading import ReadingEntry, reading_of
from vivid_lattice.core.testing.merge_readings import SentReading
from vivid_lattice.core.testing.subjects import Subject, readable_of

COLUMNS = (
    "test",
    "subject",
    "value",
    "point",
    "temperature_c",
    "no_trip",
    "alone",
    "at",
    "by",
    "instrument",
    "reason",
)
_NEEDED = ("test", "subject", "value")
_YES = frozenset({"yes", "y", "true", "1"})
_NO = frozenset({"no", "n", "false", "0"})


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadRows:
    """The readings of a table as they were typed, and what is wrong with the rows that gave none: each with its row."""

    sent: tuple[SentReading, ...]
    problems: tuple[tuple[int, Text], ...]

    @property
    def readings(self) -> tuple[Reading, ...]:
        """The readings alone, as if none was there before."""
        return tuple(reading_of(each.entry, None, each.at, each.by, each.instrument) for each in self.sent)


def read_readings(network: Installation, text: str) -> ReadRows:
    """The readings of a CSV text. A row has an id of its content, so that the same file read twice gives the same readings; of two rows of
    one thing the second corrects the first.

    Raises  BadDocument where the head lacks a column that is needed, or has one that is none
    """
    table = csv.DictReader(io.StringIO(text.lstrip("\ufeff")), skipinitialspace=True)
    heads = [str(head).strip().casefold() for head in table.fieldnames or ()]
    lacking = [column for column in _NEEDED if column not in heads]
    unknown = [head for head in heads if head not in COLUMNS]
    if lacking or unknown:
        text_ = (
            message(None, "core.testing.table.lacks", column=lacking[0])
            if lacking
            else message(None, "core.testing.table.unknown", column=unknown[0])
        )
        raise BadDocument(
            [DocumentProblem("", message(None, "core.testing.table.head", reason=text_, list=", ".join(COLUMNS)))]
        )
    sent: list[SentReading] = []
    ids: set[str] = set()
    last: dict[tuple[object, ...], str] = {}
    problems: list[tuple[int, Text]] = []
    for row in table:
        number = table.line_num
        cells = {
            head: (row.get(original) or "").strip()
            for head, original in zip(heads, table.fieldnames or (), strict=True)
        }
        if not any(cells.values()):
            continue
        try:
            made = _sent(network, cells, _identity(cells, ids), last)
        except EntryNotUnderstood as why:
            problems.append((number, why.why))
        except ValidationError as why:
            error = why.errors()[0]
            problems.append((number, f"{error['loc'][0] if error['loc'] else ''}: {error['msg']}"))
        else:
            sent.append(made)
    return ReadRows(sent=tuple(sent), problems=tuple(problems))


def _identity(cells: Mapping[str, str], ids: set[str]) -> str:
    """An id of the content of a row; the same row a second time has another one."""
    content = "\n".join(f"{head}={cells[head]}" for head in sorted(cells) if cells[head])
    for number in range(len(ids) + 1):
        made = f"csv-{hashlib.sha256(f'{content}#{number}'.encode()).hexdigest()[:24]}"
        if made not in ids:
            ids.add(made)
            return made
    raise AssertionError("more ids than rows")


def _sent(
    network: Installation, cells: Mapping[str, str], identity: str, last: dict[tuple[object, ...], str]
) -> SentReading:
    test = cells["test"].casefold()
    if test not in get_args(ReadingKind):
        raise EntryNotUnderstood(test, message(None, "core.testing.table.test", word=test[:40]))
    kind = cast(ReadingKind, test)
    subject = found_subject(network, kind, cells["subject"])
    more: dict[str, Any] = {}
    if cells.get("temperature_c"):
        more["temperature_c"] = number_in(cells["temperature_c"])
    for name in ("no_trip", "alone"):
        if cells.get(name):
            more[name] = _yes_no(cells[name])
    entry = ReadingEntry(
        id=identity,
        test=kind,
        subject=subject,
        text=cells["value"],
        point=cells.get("point", ""),
        reason=cells.get("reason", ""),
        **more,
    )
    place = (kind, subject, entry.point)
    made = SentReading(
        entry=entry,
        at=cells.get("at") or None,
        by=cells.get("by", ""),
        instrument=cells.get("instrument", ""),
        before=last.get(place, ""),
    )
    # What is wrong with it is told by its row; an empty value too.
    reading_of(entry, None, made.at, made.by, made.instrument)
    last[place] = identity
    return made


def _yes_no(text: str) -> bool:
    word = text.casefold()
    if word not in _YES | _NO:
        raise EntryNotUnderstood(text, message(None, "core.import.yes_no", value=text[:40]))
    return word in _YES


def found_subject(network: Installation, kind: ReadingKind, text: str) -> ReadingSubject:
    """The subject of a kind of reading that a text names. EntryNotUnderstood where it names none, or more than one."""
    subjects = readable_of(network, kind)
    word = " ".join(text.split()).casefold()
    fitting = [each.subject for each in subjects if word in _names(network.job, each)]
    if len(fitting) == 1:
        return fitting[0]
    key = "core.testing.table.two_subjects" if fitting else "core.testing.table.no_subject"
    names = ", ".join(str(each.name) for each in subjects[:12]) or "–"
    raise EntryNotUnderstood(text, message(None, key, word=text[:60], list=names))


def _names(job: Job, subject: Subject) -> set[str]:
    """What a subject goes by: its id, its kind and id, its name, its way."""
    own = subject.subject
    names = {own.id.casefold(), f"{own.kind}:{own.id}".casefold(), " ".join(str(subject.name).split()).casefold()}
    if subject.way is not None:
        names |= {f"{subject.board}/{subject.way}".casefold(), f"way {subject.way}"}
        if len(job.boards) == 1:
            names.add(str(subject.way))
    return names
