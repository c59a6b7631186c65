"""The survey over HTTP: ways typed in, what is wrong, old to new, before and after. Stateless."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.survey.before_after import BeforeAfter, as_found, before_after, existing_board
from vivid_lattice.core.survey.board_replacement import replaced_board
from vivid_lattice.core.survey.observations import (
    ObservationKind,
    ObservationResult,
    observation_kinds,
    observation_results,
)
from vivid_lattice.core.survey.rating_transfer import RatingTransfer, existing_way_text, rating_transfers

router = APIRouter(prefix="/api/survey", tags=["survey"], route_class=ComputingRoute)

BoardId = Annotated[str, Field(max_length=40, examples=["old"])]


class SurveyRequest(BaseModel):
    """A surveyed board of a document."""

    document: Job
    board: BoardId


class FoundLine(BaseModel):
    """A way's device in words."""

    way: int
    text: Text


class SurveyAnswer(BaseModel):
    """What follows from a surveyed board: its ways in words, what is wrong, and what each way becomes."""

    ways: list[FoundLine]
    observations: list[ObservationResult]
    rating_transfers: list[RatingTransfer]


class BoardReplacementAnswer(BaseModel):
    """The document with the new board."""

    document: Job


@router.get("/observation-kinds")
def list_observation_kinds() -> list[ObservationKind]:
    """What may be wrong in a board, the most urgent first."""
    return list(observation_kinds().values())


@router.post("/evaluate")
def evaluate_survey(request: SurveyRequest) -> SurveyAnswer:
    """What follows from a surveyed board."""
    job = checked(request.document)
    board, rules = existing_board(job, request.board), rule_set(job.job.rules)
    return SurveyAnswer(
        ways=[FoundLine(way=way.number, text=existing_way_text(rules, way)) for way in board.ways],
        observations=list(observation_results(job, rules, board)),
        rating_transfers=list(rating_transfers(job, rules, board)),
    )


@router.post("/assess")
def assess_as_found(request: SurveyRequest) -> Assessment:
    """The old board by the same checks as a new one."""
    return assess(as_found(checked(request.document), request.board), explain=False)


@router.post("/replace-board")
def replace_board(request: SurveyRequest) -> BoardReplacementAnswer:
    """The new board made from the old one, the cable being the limit."""
    return BoardReplacementAnswer(document=replaced_board(checked(request.document), request.board))


@router.post("/compare")
def compare_sides(request: SurveyRequest) -> BeforeAfter:
    """Before and after."""
    return before_after(checked(request.document), request.board)
