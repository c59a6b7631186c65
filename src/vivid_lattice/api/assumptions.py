"""Assumed values over HTTP: taken again after a change of the supply, confirmed as measured, by enquiry or as read off. Stateless."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer, DocumentRequest
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.actions.assume import assume_again, confirm, with_system
from vivid_lattice.core.document.assumptions import Confirmation
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.supply import System
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message

router = APIRouter(prefix="/api/assumptions", tags=["computing"], route_class=ComputingRoute)


class ConfirmRequest(BaseModel):
    """Assumed values of a document that someone has confirmed, and how."""

    document: Job
    fields: Annotated[list[Annotated[str, Field(max_length=160)]], Field(max_length=400, examples=[["supply.ze_ohm"]])]
    how: Confirmation


class SystemRequest(BaseModel):
    """The answer to the question for the earthing system."""

    document: Job
    system: System


@router.post("/supply")
def assume(request: DocumentRequest) -> DocumentAnswer:
    """The document after a change of its supply, with what is assumed of it taken again; as it is where nothing is assumed."""
    job = checked(request.document)
    return DocumentAnswer(document=assume_again(job, job))


@router.post("/system")
def answer_system(request: SystemRequest) -> DocumentAnswer:
    """The document with its earthing system stated, and what follows from it assumed."""
    return DocumentAnswer(document=with_system(checked(request.document), request.system))


@router.post("/confirm", responses=NOT_FOUND)
def confirm_values(request: ConfirmRequest) -> DocumentAnswer:
    """The document with assumed values confirmed."""
    job = checked(request.document)
    for field in request.fields:
        try:
            job = confirm(job, field, request.how)
        except KeyError:
            raise HTTPException(404, message(None, "api.not_assumed", field=field)) from None
    return DocumentAnswer(document=job)
