"""The one table from error to HTTP answer. Every error is answered as problem+json, never as a traceback."""

from __future__ import annotations

import logging
import sqlite3
from dataclasses import dataclass
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from vivid_lattice.api.errors import Conflict, NoSuchExport
from vivid_lattice.core.errors import (
    BadDocument,
    BadTable,
    CoreError,
    EntryNotUnderstood,
    NeedsInput,
    OutOfRange,
    Stopped,
    UnknownRuleSet,
)
from vivid_lattice.core.job_file import problems_of
from vivid_lattice.core.messages import Text, message
from vivid_lattice.imports.refusal import ImportRefused
from vivid_lattice.instruments.adapter import InstrumentRefused
from vivid_lattice.photos import NotAPicture
from vivid_lattice.store.errors import (
    DatabaseDamaged,
    DatabaseLocked,
    DatabaseReadOnly,
    DatabaseUnavailable,
    DatabaseUnreachable,
    DiskFull,
    NewerDatabase,
    NoSuchJob,
    NoSuchPhoto,
    NoSuchReading,
    NoSuchRevision,
    NoSuchTrip,
    NotABackup,
    NothingToUndo,
    StaleRevision,
    StoreError,
    TooManyPhotos,
    from_sqlite,
)

MEDIA_TYPE = "application/problem+json"
_log = logging.getLogger(__name__)


class ProblemLine(BaseModel):
    """One thing wrong with what was sent, and where."""

    path: str
    message: str


class Problem(BaseModel):
    """An error as it is answered (RFC 9457)."""

    type: str = Field(examples=["urn:vivid-lattice:problem:bad-document"])
    title: str
    status: int
    detail: str
    problems: list[ProblemLine] = []


class ConflictProblem(Problem):
    """A save made from a revision that is no longer the open one, with what differs."""

    head: int = 0
    head_uid: str = ""
    theirs: list[str] = []
    yours: list[str] = []


@dataclass(frozen=True, slots=True)
class Answer:
    """How an error class is answered."""

    status: int
    kind: str
    more: tuple[tuple[str, str], ...] = ()

    @property
    def title(self) -> str:
        """What kind of error it is, in a few words."""
        return str(message(None, f"api.problem.{self.kind.replace('-', '_')}", **dict(self.more)))


ANSWERS: dict[type[Exception], Answer] = {
    BadDocument: Answer(422, "bad-document"),
    EntryNotUnderstood: Answer(422, "entry-not-understood"),
    UnknownRuleSet: Answer(404, "unknown-rule-set"),
    OutOfRange: Answer(422, "out-of-range"),
    NeedsInput: Answer(422, "needs-input"),
    Stopped: Answer(499, "stopped"),
    BadTable: Answer(404, "no-table"),
    InstrumentRefused: Answer(409, "instrument-refused"),
    NoSuchJob: Answer(404, "no-such-job"),
    NoSuchRevision: Answer(404, "no-such-revision"),
    NoSuchTrip: Answer(404, "no-such-trip"),
    NoSuchPhoto: Answer(404, "no-such-photo"),
    NoSuchReading: Answer(404, "no-such-reading"),
    TooManyPhotos: Answer(409, "too-many-photos"),
    NotAPicture: Answer(422, "not-a-picture"),
    ImportRefused: Answer(422, "file-refused"),
    NotABackup: Answer(422, "not-a-backup"),
    NoSuchExport: Answer(404, "no-such-export"),
    StaleRevision: Answer(409, "stale-revision"),
    Conflict: Answer(409, "stale-revision"),
    NothingToUndo: Answer(409, "nothing-to-step-to"),
    DatabaseLocked: Answer(503, "database-locked"),
    DiskFull: Answer(507, "disk-full"),
    DatabaseReadOnly: Answer(503, "database-read-only"),
    DatabaseUnreachable: Answer(503, "database-unreachable"),
    DatabaseDamaged: Answer(503, "database-damaged"),
    DatabaseUnavailable: Answer(503, "database-unavailable"),
    NewerDatabase: Answer(503, "newer-database"),
}


def answer_for(error: Exception) -> Answer:
    """How an error is answered: by its class, or the nearest of its ancestors."""
    for ancestor in type(error).__mro__:
        if ancestor in ANSWERS:
            return ANSWERS[ancestor]
    return Answer(500, "unforeseen")


def problem_response(
    answer: Answer, detail: Text, problems: list[dict[str, str]] | None = None, **more: Any
) -> JSONResponse:
    """An error as a response."""
    body = {
        "type": f"urn:vivid-lattice:problem:{answer.kind}",
        "title": answer.title,
        "status": answer.status,
        "detail": str(detail),
        "problems": problems or [],
        **more,
    }
    return JSONResponse(body, status_code=answer.status, media_type=MEDIA_TYPE)


def install(app: FastAPI) -> None:
    """Have every error of the core, the store and the framework answered from the table."""
    for root in (CoreError, StoreError, NotAPicture, ImportRefused, InstrumentRefused, NoSuchExport, Conflict):
        app.add_exception_handler(root, _known)
    app.add_exception_handler(sqlite3.Error, _database)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(Exception, _unforeseen)


def _known(_request: Request, error: Exception) -> JSONResponse:
    lines: list[dict[str, str]] = []
    if isinstance(error, BadDocument):
        lines = [{"path": line.path, "message": str(line.message)} for line in error.problems]
    if isinstance(error, NeedsInput):
        # What is missing, so that it can be typed where it is missed.
        lines = [{"path": need.path, "message": str(need.sentence)} for need in error.needs]
    if isinstance(error, Conflict):
        return problem_response(
            answer_for(error),
            str(error),
            head=error.head,
            head_uid=error.head_uid,
            theirs=error.theirs,
            yours=error.yours,
        )
    return problem_response(answer_for(error), str(error), lines)


def _database(request: Request, error: Exception) -> JSONResponse:
    """What SQLite says while the program runs: about the file, said with what to do; about a statement, unforeseen."""
    assert isinstance(error, sqlite3.Error)
    unavailable = from_sqlite(error, request.app.state.database)
    if unavailable is None:
        return _unforeseen(request, error)
    return _known(request, unavailable)


def _invalid(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    lines = [{"path": line.path, "message": str(line.message)} for line in problems_of(error.errors())]
    detail = "; ".join(f"{line['path']}: {line['message']}" for line in lines[:3])
    return problem_response(Answer(422, "bad-request"), detail, lines)


def _http(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    response = problem_response(Answer(error.status_code, "http", (("detail", str(error.detail)),)), str(error.detail))
    response.headers.update(error.headers or {})
    return response


def _unforeseen(_request: Request, error: Exception) -> JSONResponse:
    _log.error("unexpected error", exc_info=error)
    return problem_response(answer_for(error), message(None, "api.unforeseen"))


CONFLICT: dict[int | str, dict[str, Any]] = {
    409: {"model": ConflictProblem, "description": "The job was changed elsewhere"}
}
NOT_FOUND: dict[int | str, dict[str, Any]] = {404: {"model": Problem, "description": "Not found"}}
INVALID: dict[int | str, dict[str, Any]] = {422: {"model": Problem, "description": "The data sent cannot be used"}}
EVERYWHERE: dict[int | str, dict[str, Any]] = {
    **INVALID,
    400: {"model": Problem, "description": "The request is malformed"},
    401: {"model": Problem, "description": "The access token is missing or wrong"},
    403: {"model": Problem, "description": "Host or origin not permitted"},
    413: {"model": Problem, "description": "The request is too large"},
    503: {"model": Problem, "description": "The database cannot be used now: locked, read-only, gone or damaged"},
    507: {"model": Problem, "description": "The disk is full"},
}
