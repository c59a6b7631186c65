"""Advice over HTTP: accepted with a reason, or raised again. Stateless."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.actions.accept_advice import accept_advice, raise_again
from vivid_lattice.core.document.base import Day
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.findings.finding import Cause, CauseKind, CauseSubject
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message

router = APIRouter(prefix="/api/advice", tags=["computing"], route_class=ComputingRoute)


class AdviceOf(BaseModel):
    """What advice is due to: a check, and what it lies in."""

    check: Annotated[str, Field(max_length=60, examples=["surge"])]
    kind: CauseKind = "supply"
    subject: Annotated[str, Field(max_length=160, examples=["supply"])]

    def cause(self) -> Cause:
        """The cause in the core."""
        return Cause(self.check, CauseSubject(self.kind, self.subject))


class RaiseAgainRequest(BaseModel):
    """Advice of a document that is no longer accepted."""

    document: Job
    advice: AdviceOf


class AcceptRequest(RaiseAgainRequest):
    """Advice of a document that someone accepts, why, who it is, and on which day."""

    reason: Annotated[str, Field(min_length=1, max_length=400, examples=["Agreed with the client."])]
    name: Annotated[str, Field(max_length=120)] = ""
    date: Day | None = None


@router.post("/accept", responses=NOT_FOUND)
def accept(request: AcceptRequest) -> DocumentAnswer:
    """The document with advice accepted."""
    job, cause = checked(request.document), request.advice.cause()
    try:
        return DocumentAnswer(document=accept_advice(job, cause, request.reason, request.name, request.date))
    except KeyError:
        raise HTTPException(404, message(None, "api.no_advice")) from None


@router.post("/raise-again", responses=NOT_FOUND)
def raise_advice_again(request: RaiseAgainRequest) -> DocumentAnswer:
    """The document with advice no longer accepted."""
    job, cause = checked(request.document), request.advice.cause()
    try:
        return DocumentAnswer(document=raise_again(job, cause))
    except KeyError:
        raise HTTPException(404, message(None, "api.no_advice")) from None
