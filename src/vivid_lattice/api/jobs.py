"""Jobs and their revisions over HTTP."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Body, Depends, HTTPException, Path, Request
from pydantic import BaseModel

from vivid_lattice.api.dependencies import AUTHOR, Connection
from vivid_lattice.api.errors import Conflict
from vivid_lattice.api.problems import CONFLICT, NOT_FOUND
from vivid_lattice.api.routes import CheckedRoute
from vivid_lattice.core.actions.new_job import begin, typical_home
from vivid_lattice.core.assessment.summary import JobSummary, summary_of
from vivid_lattice.core.bundle import Bundle
from vivid_lattice.core.document.changes import differences
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.supply import System
from vivid_lattice.core.job_file import checked, read_document
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.imports.job_bundle import MAX_DOCUMENT_BYTES, read_bundle
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.store import jobs as store
from vivid_lattice.store.errors import NoSuchRevision, StaleRevision
from vivid_lattice.store.job_bundle import bundle_of, create_from

router = APIRouter(prefix="/api/jobs", tags=["jobs"], route_class=CheckedRoute)

JobId = Annotated[str, Path(min_length=1, max_length=40)]
#: SQLite's largest whole number; a greater one is no one's revision.
Number = Annotated[int, Path(ge=1, le=2**63 - 1)]


_FILE = {
    "required": True,
    "description": "A job document, or a job with its photos (ZIP), as a file holds it.",
    "content": {
        "application/json": {"schema": {"type": "string"}},
        "application/zip": {"schema": {"type": "string", "format": "binary"}},
    },
}


class NewJob(BaseModel):
    """A job to begin: blank with a title, or a copy of a demo."""

    title: Annotated[str, Body(min_length=1, max_length=120, examples=["Chapel on the hill"])] = "New job"
    demo: Annotated[str | None, Body(examples=["millrace"])] = None
    rules: Annotated[str, Body(max_length=40, examples=["uk"])] = "uk"
    phases: Annotated[
        Literal[1, 2, 3] | None,
        Body(description="Lines of the supply; none: as homes under the standard usually have them."),
    ] = None
    system: Annotated[System | None, Body(description="The earthing system: it is asked. None: not answered yet.")] = (
        None
    )
    home: Annotated[
        str | None, Body(max_length=40, description="A typical home to begin with.", examples=["three-bed"])
    ] = None
    existing: Annotated[bool, Body(description="The board is there already: nothing of it is assumed.")] = False


class Base(BaseModel):
    """The revision that is open where the request comes from: its number, and its own id. Without the id the number alone is
    compared."""

    base: Annotated[int, Body(ge=1, le=2**63 - 1)]
    base_uid: Annotated[str | None, Body(max_length=40)] = None


class Save(Base):
    """A changed document and the revision it was made from."""

    document: Job


class Archive(BaseModel):
    """Whether the job is archived."""

    archived: bool


@router.get("")
def list_jobs(conn: Connection) -> list[store.JobLine]:
    """All jobs, the one saved last first; archived ones too, marked."""
    return store.list_jobs(conn)


@router.post("", status_code=201, responses=NOT_FOUND)
def create_job(new: NewJob, conn: Connection) -> store.Revision:
    """Begin a job: blank, or from a demo."""
    if new.demo is not None:
        if new.demo not in DEMOS:
            raise HTTPException(404, message(None, "api.no_demo", id=new.demo, list=", ".join(DEMOS)))
        return store.create_job(conn, demo_job(new.demo), f"demo {new.demo} opened", AUTHOR, new.demo)
    rules = rule_set(new.rules)
    if new.home is None:
        job = begin(new.title, rules, new.system, new.phases, existing=new.existing)
        return store.create_job(conn, job, "begun", AUTHOR)
    home = next((home for home in customary(rules.id).homes if home.id == new.home), None)
    if home is None:
        raise HTTPException(404, message(None, "api.no_home", id=new.home))
    return store.create_job(conn, typical_home(home, rules, new.title, new.system), f"begun as {home.title}", AUTHOR)


async def raw_body(request: Request) -> bytes:
    """The bytes that were sent: a file is read by the core, so that what is wrong with it is said in one way."""
    return await request.body()


@router.post("/import", status_code=201, openapi_extra={"requestBody": _FILE})
def import_job(document: Annotated[bytes, Depends(raw_body)], conn: Connection) -> store.Revision:
    """Begin a job from a document, or from a ZIP with its photos. What cannot be read is refused with a line for each thing wrong."""
    if document.startswith(b"PK"):
        return create_from(conn, read_bundle(document), "imported from a file with photos", AUTHOR)
    if len(document) > MAX_DOCUMENT_BYTES:
        raise ImportRefused(message(None, "import.job.file_large", n=str(MAX_DOCUMENT_BYTES // 1024 // 1024)))
    return store.create_job(conn, read_document(document), "imported from a file", AUTHOR)


@router.get("/{job_id}", responses=NOT_FOUND)
def read_job(job_id: JobId, conn: Connection) -> store.Revision:
    """The open revision of a job."""
    return store.get_revision(conn, job_id)


@router.put("/{job_id}", responses={**NOT_FOUND, **CONFLICT})
def save_job(job_id: JobId, save: Save, conn: Connection) -> store.Revision:
    """Keep a changed document. Refused with 409 and the difference where the job has moved on since ``base``."""
    job = checked(save.document)
    try:
        return store.append_revision(conn, job_id, save.base, job, AUTHOR, save.base_uid)
    except StaleRevision as stale:
        head = store.get_revision(conn, job_id, stale.head)
        before = _made_from(conn, job_id, save) or head.job
        theirs, yours = ([str(text) for text in differences(before, other)] for other in (head.job, job))
        raise Conflict(save.base, head.number, head.uid, theirs, yours) from stale


def _made_from(conn: Connection, job_id: str, save: Save) -> Job | None:
    """The document that a save was made from; None where a restored backup does not have that revision."""
    try:
        before = store.get_revision(conn, job_id, save.base)
    except NoSuchRevision:
        return None
    return before.job if save.base_uid in (None, before.uid) else None


@router.post("/{job_id}/undo", responses={**NOT_FOUND, **CONFLICT})
def undo(job_id: JobId, at: Base, conn: Connection) -> store.Revision:
    """Step to the revision before."""
    return store.undo(conn, job_id, at.base, at.base_uid)


@router.post("/{job_id}/redo", responses={**NOT_FOUND, **CONFLICT})
def redo(job_id: JobId, at: Base, conn: Connection) -> store.Revision:
    """Step to the revision that was undone last."""
    return store.redo(conn, job_id, at.base, at.base_uid)


#: Summaries by revision, as long as the server runs.
_SUMMARIES: dict[str, JobSummary] = {}
_SUMMARIES_MAX = 1000


@router.get("/{job_id}/summary", responses=NOT_FOUND)
def read_summary(job_id: JobId, conn: Connection) -> JobSummary:
    """A job at a glance: its status and its boards in miniature."""
    return _summary(store.get_revision(conn, job_id))


def _summary(revision: store.Revision) -> JobSummary:
    """The summary of a revision: a revision never changes, so it is worked out once."""
    known = _SUMMARIES.get(revision.uid)
    if known is None:
        known = summary_of(revision.job)
        if len(_SUMMARIES) >= _SUMMARIES_MAX:
            _SUMMARIES.clear()
        _SUMMARIES[revision.uid] = known
    return known


#: What is added to the title of a copy, and how long a title may be.
_COPY, _TITLE_MAX = " (copy)", 120


@router.post("/{job_id}/duplicate", status_code=201, responses=NOT_FOUND)
def duplicate(job_id: JobId, conn: Connection) -> store.Revision:
    """A copy of a job as it is now, as a job of its own: with its photos, without its trip log and its ticks."""
    revision, bundle = bundle_of(conn, job_id)
    info = revision.job.job
    title = f"{info.title[: _TITLE_MAX - len(_COPY)]}{_COPY}"
    job = revision.job.model_copy(update={"job": info.model_copy(update={"title": title})})
    return create_from(conn, Bundle(job, bundle.photos), f"copied from {info.title}", AUTHOR)


@router.post("/{job_id}/archive", status_code=204, responses=NOT_FOUND)
def archive(job_id: JobId, state: Archive, conn: Connection) -> None:
    """Put a job away, or take it back out."""
    store.set_archived(conn, job_id, state.archived)


@router.get("/{job_id}/revisions", responses=NOT_FOUND)
def list_revisions(job_id: JobId, conn: Connection) -> list[store.RevisionLine]:
    """The history of a job in words, newest first."""
    return store.list_revisions(conn, job_id)


@router.get("/{job_id}/revisions/{number}", responses=NOT_FOUND)
def read_revision(job_id: JobId, number: Number, conn: Connection) -> store.Revision:
    """A revision as it was kept."""
    return store.get_revision(conn, job_id, number)
