"""Exercises without a board, what learners did, and the work of a class over HTTP."""

from __future__ import annotations

import csv
import datetime
import io
from typing import Annotated

from fastapi import APIRouter, HTTPException, Response
from pydantic import BaseModel, Field, ValidationError

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.api.training import Learner, known_standard
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import standard_ids
from vivid_lattice.core.training.class_file import ClassFile
from vivid_lattice.core.training.exercises.exercise import Exercise, ExerciseKind
from vivid_lattice.core.training.exercises.maker import exercise, kinds_of
from vivid_lattice.core.training.exercises.repetition import Given, next_exercise
from vivid_lattice.safe_text import escape_formula
from vivid_lattice.store import training as store

router = APIRouter(prefix="/api/training", tags=["training"], route_class=ComputingRoute)

_Number = Annotated[int, Field(ge=0, le=10**9)]


class NextExercise(BaseModel):
    """An exercise by its kind and number."""

    kind: ExerciseKind
    number: int


class Progress(BaseModel):
    """What a learner did: attempts, the latest first; exercises by kind, how many and how many right; what comes next."""

    learner: str
    attempts: list[store.SavedAttempt]
    answered: dict[str, int]
    right: dict[str, int]
    next: NextExercise


class ExerciseView(BaseModel):
    """A question without its answer."""

    kind: ExerciseKind
    standard: str
    number: int
    question: Text
    lines: list[Text]
    options: list[Text]


class AnswerRequest(BaseModel):
    """The option that a learner chose."""

    learner: Learner
    standard: str
    kind: ExerciseKind
    number: _Number
    chosen: Annotated[int, Field(ge=0, le=9)]


class Judged(BaseModel):
    """Whether it was right, which one is, the calculation, and its source."""

    is_right: bool
    right: int
    answer: list[Text]
    publication: str


class ClassText(BaseModel):
    """A file for a class, as text."""

    text: Annotated[str, Field(max_length=200_000)]


@router.get("/learners/{learner}", responses=NOT_FOUND)
def progress_of(learner: str, standard: str, conn: Connection, seed: _Number = 1) -> Progress:
    """What a learner did, and which exercise comes next in a standard, of a number from ``seed`` on."""
    answers = store.answers_of(conn, learner)
    given = [
        Given(
            each.standard,
            each.kind,
            each.number,
            datetime.date.fromisoformat(each.answered_at[:10]),
            each.is_right,
        )
        for each in answers
        if each.standard in standard_ids() and each.kind in kinds_of(each.standard)
    ]
    today = datetime.datetime.now(datetime.UTC).date()
    kinds = sorted({each.kind for each in answers})
    following = next_exercise(known_standard(standard), given, today, seed)
    return Progress(
        learner=learner,
        attempts=store.attempts_of(conn, learner),
        answered={kind: sum(each.kind == kind for each in answers) for kind in kinds},
        right={kind: sum(each.kind == kind and each.is_right for each in answers) for kind in kinds},
        next=NextExercise(kind=following.kind, number=following.number),
    )


@router.get("/exercises/{standard}/{kind}/{number}", responses=NOT_FOUND)
def question(standard: str, kind: ExerciseKind, number: _Number) -> ExerciseView:
    """The question of a kind and number."""
    made = _exercise(standard, kind, number)
    return ExerciseView(
        kind=made.kind, standard=made.standard, number=made.number, question=made.question, lines=list(made.lines),
        options=list(made.options),
    )  # fmt: skip


def _exercise(standard: str, kind: ExerciseKind, number: int) -> Exercise:
    if kind not in kinds_of(known_standard(standard)):
        raise HTTPException(404, message(None, "core.training.no_kind", kind=kind))
    return exercise(standard, kind, number)


@router.post("/exercises", responses=NOT_FOUND)
def answer_exercise(request: AnswerRequest, conn: Connection) -> Judged:
    """An option judged and kept, with the calculation as the answer."""
    made = _exercise(request.standard, request.kind, request.number)
    is_right = request.chosen == made.right
    store.save_answer(
        conn, request.learner.strip(), standard=request.standard, kind=request.kind, number=request.number,
        chosen=request.chosen, is_right=is_right,
    )  # fmt: skip
    return Judged(is_right=is_right, right=made.right, answer=list(made.answer), publication=made.source.publication)


@router.post("/class")
def read_class(request: ClassText) -> ClassFile:
    """A file for a class, read; what is wrong in it is told."""
    try:
        return ClassFile.model_validate_json(request.text)
    except ValidationError as wrong:
        first = wrong.errors()[0]
        place = ".".join(str(each) for each in first["loc"]) or "file"
        raise HTTPException(422, message(None, "core.training.class_wrong", place=place, why=first["msg"])) from wrong


@router.get("/results.csv", response_class=Response)
def results(conn: Connection) -> Response:
    """The results of everybody as CSV; no cell is a formula."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(("Learner", "What", "Standard", "Level or kind", "Number", "Result", "At"))
    for row in store.result_rows(conn):
        writer.writerow(tuple(escape_formula(cell) for cell in row))
    named = 'attachment; filename="training-results.csv"'
    return Response(out.getvalue().encode("utf-8-sig"), media_type="text/csv", headers={"content-disposition": named})
