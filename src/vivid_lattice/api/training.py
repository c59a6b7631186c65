"""Training over HTTP: boards with hidden defects, exercises, what learners did."""

from __future__ import annotations

import csv
import datetime
import io
from typing import Annotated, Any, get_args

from fastapi import APIRouter, HTTPException, Response
from pydantic import BaseModel, Field, ValidationError

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.problems import NOT_FOUND, Problem
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.testing.test_plan import PlannedTest
from vivid_lattice.core.training.bench import Bench, Outcome
from vivid_lattice.core.training.class_file import ClassFile
from vivid_lattice.core.training.exercises.exercise import Exercise, ExerciseKind
from vivid_lattice.core.training.exercises.maker import Given, due, exercise, kinds_of
from vivid_lattice.core.training.leads import Function, Point, connection_of
from vivid_lattice.core.training.replay import ReplayStep, Revealed, replay, revealed
from vivid_lattice.core.training.score import Score
from vivid_lattice.core.training.session import Attempt, Played, play
from vivid_lattice.core.training.training_rules import LEADS_FROM_LEVEL, Level, Stopped, levels, pieces
from vivid_lattice.safe_text import escape_formula
from vivid_lattice.store import training as store

router = APIRouter(prefix="/api/training", tags=["training"], route_class=ComputingRoute)

_Learner = Annotated[str, Field(min_length=1, max_length=80, pattern=r"\S")]
_GOES_ON: dict[str, Any] = {"model": Problem, "description": "The attempt has not ended"}
_Number = Annotated[int, Field(ge=0, le=10**9)]


class PieceTitle(BaseModel):
    """A board with chosen defects, by what is told of it first."""

    id: str
    title: str
    level: int


class TrainingStandard(BaseModel):
    """A standard with the kinds of exercise that it has, and its boards with chosen defects."""

    id: str
    title: str
    kinds: list[ExerciseKind]
    pieces: list[PieceTitle]


class TrainingOffer(BaseModel):
    """What there is to practise, and everybody who did."""

    standards: list[TrainingStandard]
    levels: list[Level]
    learners: list[str]


class BenchCircuit(BaseModel):
    """A circuit of a board as it is seen and worked on."""

    id: str
    name: str
    device: str
    lights: bool
    live: bool
    off: bool
    locked: bool
    tripped: bool
    proved: bool
    open: bool
    taken_off: bool
    tested: bool


class Leads(BaseModel):
    """The function of the tester and the points of its leads."""

    function: Function
    first: Point
    second: Point


class BenchTest(BaseModel):
    """A test that can be taken, with the last reading of it; '' of none. ``leads``: None of what is looked at or tried."""

    id: str
    title: Text
    name: Text
    step: str
    unit: str
    live: bool
    subject: ReadingSubject
    test: str
    reading: str
    expected: float | None
    leads: Leads | None


class DefectName(BaseModel):
    """A defect that can be named."""

    id: str
    name: str


class NamedDefect(BaseModel):
    """A defect that the learner named, and where: '' of the whole installation."""

    name: str
    circuit: str


class PlayView(BaseModel):
    """An attempt as far as it went. ``leads_by_hand``: the learner sets the tester and its leads for every test. ``score``, ``revealed`` and what an expert would have done come when it has ended."""

    title: str
    leads_by_hand: bool
    main_off: bool
    main_locked: bool
    indicator: bool
    nulled: bool
    hints_left: int
    circuits: list[BenchCircuit]
    tests: list[BenchTest]
    defects: list[DefectName]
    named: list[NamedDefect]
    outcomes: list[Outcome]
    stopped: list[Stopped]
    ended: bool
    score: Score | None
    total: float | None
    passed: bool | None
    revealed: list[Revealed]


class SaveAttempt(BaseModel):
    """An attempt that has ended, and whose it is."""

    learner: _Learner
    attempt: Attempt


class Progress(BaseModel):
    """What a learner did: attempts, the latest first; exercises by kind, how many and how many right; what comes next."""

    learner: str
    attempts: list[store.SavedAttempt]
    answered: dict[str, int]
    right: dict[str, int]
    next: list[ExerciseKind]


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

    learner: _Learner
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


def _standard(standard: str) -> str:
    if standard not in standard_ids():
        raise HTTPException(404, message(None, "core.training.no_standard", standard=standard))
    return standard


@router.get("")
def what_there_is(conn: Connection) -> TrainingOffer:
    """Standards, levels, and everybody who practised."""
    standards = [
        TrainingStandard(
            id=id_,
            title=rule_set(id_).title,
            kinds=list(kinds_of(id_)),
            pieces=[
                PieceTitle(id=each.id, title=each.title, level=each.level)
                for each in pieces().values()
                if id_ in each.standards
            ],
        )
        for id_ in standard_ids()
        if "-" not in id_
    ]
    return TrainingOffer(standards=standards, levels=list(levels()), learners=store.learners(conn))


@router.post("/play", responses=NOT_FOUND)
def play_attempt(attempt: Attempt) -> PlayView:
    """An attempt replayed: the state of the board, what came of each act, and the score once it has ended."""
    _standard(attempt.board.standard)
    return _view(play(attempt))


@router.post("/replay", responses=NOT_FOUND)
def replay_attempt(attempt: Attempt) -> list[ReplayStep]:
    """What was read, test by test, and the test that an expert would have chosen; nothing while the attempt goes on."""
    _standard(attempt.board.standard)
    played = play(attempt)
    return list(replay(played)) if played.ended else []


@router.post("/attempts", status_code=201, responses={**NOT_FOUND, 409: _GOES_ON})
def save_attempt(request: SaveAttempt, conn: Connection) -> store.SavedAttempt:
    """An attempt that has ended kept for its learner; the score is worked out again from its record."""
    board = request.attempt.board
    _standard(board.standard)
    played = play(request.attempt)
    if played.score is None:
        raise HTTPException(409, message(None, "core.training.not_ended"))
    return store.save_attempt(
        conn, request.learner.strip(), request.attempt.model_dump_json(), standard=board.standard, level=board.level,
        number=board.number, total=played.score.total, passed=played.score.passed, tests=played.score.tests,
    )  # fmt: skip


@router.get("/learners/{learner}", responses=NOT_FOUND)
def progress_of(learner: str, standard: str, conn: Connection) -> Progress:
    """What a learner did, and which kind of exercise comes next in a standard."""
    answers = store.answers_of(conn, learner)
    given = [
        Given(each.kind, datetime.date.fromisoformat(each.answered_at[:10]), each.is_right)  # type: ignore[arg-type]
        for each in answers
        if each.kind in get_args(ExerciseKind)
    ]
    today = datetime.datetime.now(datetime.UTC).date()
    kinds = sorted({each.kind for each in answers})
    return Progress(
        learner=learner,
        attempts=store.attempts_of(conn, learner),
        answered={kind: sum(each.kind == kind for each in answers) for kind in kinds},
        right={kind: sum(each.kind == kind and each.is_right for each in answers) for kind in kinds},
        next=list(due(_standard(standard), given, today)),
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
    if kind not in kinds_of(_standard(standard)):
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


def _view(played: Played) -> PlayView:
    bench, board = played.bench, played.board
    readings = {
        (measure.test, measure.subject.kind, measure.subject.id): text
        for measure, text in zip(bench.done, (each.reading for each in played.outcomes if each.reading), strict=False)
    }
    level = next(each for each in levels() if each.level == board.level)
    return PlayView(
        title=board.network.rules.title,
        leads_by_hand=board.level >= LEADS_FROM_LEVEL,
        main_off="" in bench.off,
        main_locked="" in bench.locked,
        indicator=bench.indicator,
        nulled=bench.nulled,
        hints_left=level.hints - bench.hints,
        circuits=_circuits(bench),
        tests=[
            _test(each, readings.get((each.test, each.subject.kind, each.subject.id), "")) for each in board.plan.tests
        ],
        defects=sorted(
            (DefectName(id=each.id, name=each.name) for each in board.known.values()), key=lambda each: each.name
        ),
        named=[
            NamedDefect(
                name=board.known[each.defect].name if each.defect in board.known else each.defect,
                circuit=board.job.circuit(each.circuit).name if board.job.find_circuit(each.circuit) else "",
            )
            for each in bench.named
        ],
        outcomes=list(played.outcomes),
        stopped=list(bench.stopped),
        ended=played.ended,
        score=played.score,
        total=None if played.score is None else played.score.total,
        passed=None if played.score is None else played.score.passed,
        revealed=list(revealed(played)) if played.ended else [],
    )


def _circuits(bench: Bench) -> list[BenchCircuit]:
    return [
        BenchCircuit(
            id=each.id, name=each.name, device="" if isinstance(each.device, str) else each.device.label,
            lights=any(load.kind == "lamp" for load in each.loads), live=bench.is_live(each.id), off=each.id in bench.off,
            locked=each.id in bench.locked, tripped=each.id in bench.tripped, proved=each.id in bench.proved,
            open=each.id in bench.open, taken_off=each.id in bench.taken_off, tested=each.id in bench.tested,
        )
        for each in bench.board.job.circuits
    ]  # fmt: skip


def _leads(kind: ReadingKind) -> Leads | None:
    found = connection_of(kind)
    return None if found is None else Leads(function=found[0], first=found[1][0], second=found[1][1])


def _test(test: PlannedTest, reading: str) -> BenchTest:
    return BenchTest(
        id=test.id, title=test.title, name=test.name, step=test.step, unit=test.unit, live=test.live, subject=test.subject,
        test=test.test, reading=reading, expected=test.expected.value, leads=_leads(test.test),
    )  # fmt: skip
