"""Assumed values over HTTP: taken again after a change of the supply, confirmed as measured, by enquiry or as read off. Stateless."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer, DocumentRequest
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.actions.assume import assume_supply
from vivid_lattice.core.document.assumptions import SYSTEM, Confirmation, confirmed, stated
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
    """The document with what no one has stated of its supply taken as declared or usual, and what was assumed before renewed."""
    return DocumentAnswer(document=assume_supply(checked(request.document)))


@router.post("/system")
def answer_system(request: SystemRequest) -> DocumentAnswer:
    """The document with its earthing system stated, and what follows from it assumed."""
    job = request.document
    job = job.model_copy(update={"supply": job.supply.model_copy(update={"system": request.system})})
    return DocumentAnswer(document=assume_supply(checked(stated(job, [SYSTEM]))))


@router.post("/confirm", responses=NOT_FOUND)
def confirm(request: ConfirmRequest) -> DocumentAnswer:
    """The document with assumed values confirmed."""
    job = checked(request.document)
    for field in request.fields:
        try:
            job = confirmed(job, field, request.how)
        except KeyError:
            raise HTTPException(404, message(None, "api.not_assumed", field=field)) from None
    return DocumentAnswer(document=job)
