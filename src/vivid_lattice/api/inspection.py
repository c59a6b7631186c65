"""Inspection over HTTP: what a report states, what is left to settle, and signing."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.assessment.signatures import is_closed
from vivid_lattice.core.document.base import Minute
from vivid_lattice.core.document.inspection import SignedFor
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.inspection.observations import (
    CodedObservation,
    SuggestedObservation,
    coded_observations,
    outcome_text,
    suggested,
)
from vivid_lattice.core.inspection.report_outcome import ReportOutcome, outcome_of
from vivid_lattice.core.inspection.sign_off import Declaration, OpenItem, declarations_of, open_items, sign
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.testing_rules import CataloguedObservation, ObservationCode
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.test_plan import plan_of

router = APIRouter(prefix="/api/inspection", tags=["testing"], route_class=ComputingRoute)


class InspectionRequest(BaseModel):
    """A document whose report is wanted."""

    document: Job


class InspectionView(BaseModel):
    """What the report of a document states, and what is left to settle before it is closed."""

    observations: list[CodedObservation]
    suggested: list[SuggestedObservation]
    outcome: ReportOutcome
    outcome_text: Text
    open: list[OpenItem]
    declarations: list[Declaration]
    closed: bool


class ObservationCatalogue(BaseModel):
    """The codes of a standard, and what is found at inspections with how it is usually coded."""

    codes: list[ObservationCode]
    observations: list[CataloguedObservation]


class SignRequest(BaseModel):
    """A declaration to be added to a document."""

    document: Job
    role: SignedFor
    by: Annotated[str, Field(min_length=1, max_length=80)]
    position: Annotated[str, Field(max_length=120)] = ""
    at: Minute


@router.post("")
def show_inspection(request: InspectionRequest) -> InspectionView:
    """The observations with their codes, the overall result, and what is open."""
    job = checked(request.document)
    network = Installation.of(job, rule_set(job.job.rules))
    readings = judged(network)
    observations = coded_observations(network)
    open_ = open_items(network, plan_of(network), readings)
    outcome = outcome_of(network.rules.testing, observations, complete=not open_)
    return InspectionView(
        observations=list(observations),
        suggested=list(suggested(network, readings)),
        outcome=outcome,
        outcome_text=outcome_text(network, outcome.satisfactory),
        open=list(open_),
        declarations=list(declarations_of(job, open_)),
        closed=is_closed(job),
    )


@router.get("/observations", responses=NOT_FOUND)
def list_observations(rules: Annotated[str, Query(max_length=40, examples=["uk"])]) -> ObservationCatalogue:
    """The catalogue of a standard."""
    testing = rule_set(rules).testing
    return ObservationCatalogue(codes=list(testing.codes), observations=list(testing.observations))


@router.post("/sign")
def sign_document(request: SignRequest) -> DocumentAnswer:
    """The document signed. Refused, with what is open, where it is signed as inspected and tested too early."""
    return DocumentAnswer(
        document=sign(checked(request.document), request.role, request.by, request.at, request.position)
    )
