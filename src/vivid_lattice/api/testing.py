"""Testing over HTTP: the plan of a document with its readings judged, readings entered, and every reading a job ever had."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer
from vivid_lattice.api.dependencies import AUTHOR, Connection
from vivid_lattice.api.jobs import JobId
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import CheckedRoute, ComputingRoute
from vivid_lattice.core.document.base import Minute
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import ReadingId, ReadingKind, ReadingSubject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.enter_reading import ReadingEntry, enter_readings
from vivid_lattice.core.testing.judgement import JudgedReading, judged
from vivid_lattice.core.testing.merge_readings import SentReading
from vivid_lattice.core.testing.reading_table import read_readings
from vivid_lattice.core.testing.test_plan import TestPlan, plan_of
from vivid_lattice.store import sent_readings as store
from vivid_lattice.store.jobs import Revision, get_revision
from vivid_lattice.store.readings import ReadingRecord, history_of

router = APIRouter(prefix="/api/testing", tags=["testing"], route_class=ComputingRoute)
of_job = APIRouter(prefix="/api/jobs/{job_id}/readings", tags=["testing"], route_class=CheckedRoute)


class TestingRequest(BaseModel):
    """A document whose tests are wanted, at a temperature of its conductors [°C]; None: as stated in it."""

    document: Job
    temperature_c: Annotated[float, Field(ge=-40, le=60)] | None = None


class TestingView(BaseModel):
    """The test plan of a document, its readings judged, and what those that disagree usually mean."""

    plan: TestPlan
    judged: list[JudgedReading]
    diagnoses: list[Diagnosis]


class NewReading(BaseModel):
    """A reading as it is typed. ``text``: 0.45, >200, LIM, ok; empty takes the one in force away."""

    id: ReadingId
    test: ReadingKind
    subject: ReadingSubject
    text: Annotated[str, Field(max_length=60, examples=[">200"])]
    point: Annotated[str, Field(max_length=80)] = ""
    reason: Annotated[str, Field(max_length=400)] = ""
    no_trip: bool = False
    alone: bool | None = None
    temperature_c: Annotated[float, Field(ge=-40, le=120)] | None = None


class TypedReading(NewReading):
    """A reading as it was typed somewhere: when it was read by the clock of that place, by whom, with which instrument of the job, and the
    id of the reading that was shown there then (``before``; '' where none was)."""

    at: Minute | None = None
    by: Annotated[str, Field(max_length=80)] = ""
    instrument: Annotated[str, Field(max_length=40)] = ""
    before: Annotated[str, Field(max_length=60)] = ""


class SentReadings(BaseModel):
    """Readings for a job, whatever its head is by now."""

    readings: Annotated[list[TypedReading], Field(max_length=1000)]


class RefusedReading(BaseModel):
    """A reading that was not taken, and why."""

    id: ReadingId
    why: str


class SentAnswer(BaseModel):
    """The head with the readings merged in; which of them arrived, and which were refused. Of those that arrived, some may be undecided:
    the list of readings says which."""

    revision: Revision
    taken: list[ReadingId]
    refused: list[RefusedReading]


class ReadingTable(BaseModel):
    """A table of readings, as an instrument's memory or a spreadsheet gives it."""

    csv: Annotated[str, Field(max_length=2_000_000)]


class ReadingTableAnswer(SentAnswer):
    """The same, with what is wrong with the rows that gave no reading."""

    rows: int
    problems: list[str]


class ReadingDecision(BaseModel):
    """Whether an undecided reading is put in force; else the one that is in force stays."""

    take: bool


class NewReadings(BaseModel):
    """Readings for a document: when they were read by the clock on the wall, by whom, with which of its instruments."""

    document: Job
    readings: Annotated[list[NewReading], Field(max_length=1000)]
    at: Minute | None = None
    by: Annotated[str, Field(max_length=80)] = ""
    instrument: Annotated[str, Field(max_length=40)] = ""


@router.post("")
def show_testing(request: TestingRequest) -> TestingView:
    """The tests of a document in order, its readings judged, and explained where they disagree."""
    job = checked(request.document)
    network = Installation.of(job, rule_set(job.job.rules))
    readings = judged(network, request.temperature_c)
    return TestingView(
        plan=plan_of(network, request.temperature_c),
        judged=list(readings),
        diagnoses=list(diagnosed(network, readings, request.temperature_c)),
    )


@router.post("/readings")
def add_readings(request: NewReadings) -> DocumentAnswer:
    """The document with readings entered. Refused whole where one of them is not understood."""
    entries = [_entry(new) for new in request.readings]
    job = enter_readings(
        checked(request.document), entries, at=request.at, by=request.by, instrument=request.instrument
    )
    return DocumentAnswer(document=job)


def _entry(new: NewReading) -> ReadingEntry:
    return ReadingEntry(
        id=new.id,
        test=new.test,
        subject=new.subject,
        text=new.text,
        point=new.point,
        reason=new.reason,
        no_trip=new.no_trip,
        alone=new.alone,
        temperature_c=new.temperature_c,
    )


@of_job.get("", responses=NOT_FOUND)
def list_readings(job_id: JobId, conn: Connection) -> list[ReadingRecord]:
    """Every reading that the job ever had, in the order they were saved."""
    return history_of(conn, job_id, get_revision(conn, job_id).job.testing.readings)


@of_job.post("", responses=NOT_FOUND)
def send_readings(job_id: JobId, sent: SentReadings, conn: Connection) -> SentAnswer:
    """Readings merged into the open revision, one by one; sent twice they are there once."""
    readings = [
        SentReading(entry=_entry(each), at=each.at, by=each.by, instrument=each.instrument, before=each.before)
        for each in sent.readings
    ]
    revision, merged = store.send_readings(conn, job_id, readings, AUTHOR)
    refused = [RefusedReading(id=identity, why=str(why)) for identity, why in merged.refused]
    return SentAnswer(revision=revision, taken=list(merged.taken), refused=refused)


@of_job.post("/table", responses=NOT_FOUND)
def import_readings(job_id: JobId, table: ReadingTable, conn: Connection) -> ReadingTableAnswer:
    """Readings of a CSV table merged into the open revision. The same table a second time changes nothing."""
    job = get_revision(conn, job_id).job
    rows = read_readings(Installation.of(job, rule_set(job.job.rules)), table.csv)
    revision, merged = store.send_readings(conn, job_id, rows.sent, AUTHOR)
    return ReadingTableAnswer(
        revision=revision,
        taken=list(merged.taken),
        refused=[RefusedReading(id=identity, why=str(why)) for identity, why in merged.refused],
        rows=len(rows.sent),
        problems=[f"{number}: {problem}" for number, problem in rows.problems],
    )


@of_job.post("/{reading_id}/decide", responses=NOT_FOUND)
def decide_reading(job_id: JobId, reading_id: ReadingId, decision: ReadingDecision, conn: Connection) -> Revision:
    """Which of two readings that contradict each other counts: the one that came later, or the one in force."""
    return store.decide_reading(conn, job_id, reading_id, decision.take, AUTHOR)
