"""Training boards with hidden defects over HTTP: what there is, attempts played, replayed, kept."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, Field

from vivid_lattice.api.dependencies import Connection
from vivid_lattice.api.problems import NOT_FOUND, Problem
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.testing.test_plan import PlannedTest
from vivid_lattice.core.training.acts import Link
from vivid_lattice.core.training.bench import Bench, Outcome
from vivid_lattice.core.training.exercises.exercise import ExerciseKind
from vivid_lattice.core.training.exercises.maker import kinds_of
from vivid_lattice.core.training.house import HouseCircuit, house_circuit
from vivid_lattice.core.training.leads import Function, Point, connection_of
from vivid_lattice.core.training.replay import ReplayStep, Revealed, replay, revealed
from vivid_lattice.core.training.score import Score
from vivid_lattice.core.training.session import Attempt, Played, play
from vivid_lattice.core.training.training_rules import Level, Part, Stopped, levels, pieces, points
from vivid_lattice.store import training as store

router = APIRouter(prefix="/api/training", tags=["training"], route_class=ComputingRoute)

Learner = Annotated[str, Field(min_length=1, max_length=80, pattern=r"\S")]
_GOES_ON: dict[str, Any] = {"model": Problem, "description": "The attempt has not ended"}


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
    group: str
    house: HouseCircuit
    neutral_off: bool
    link: Link
    live: bool
    off: bool
    locked: bool
    tripped: bool
    proved: bool
    open: bool
    taken_off: bool
    tested: bool


class BenchGroup(BaseModel):
    """A shared residual-current device, and what it is like now."""

    id: str
    name: Text
    device: str
    off: bool
    locked: bool
    tripped: bool


class Leads(BaseModel):
    """The function of the tester and the points of its leads."""

    function: Function
    first: Point
    second: Point


class BenchTest(BaseModel):
    """A test that can be taken, with the last reading of it; '' of none. ``in_doubt``: the standard's sequence does not have it; ``leads``:
    None of what is looked at or tried."""

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
    in_doubt: bool
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
    """An attempt as far as it went. ``leads_by_hand``: the learner sets the tester and its leads for every test. ``most``: the greatest points of each part; ``score``, ``revealed`` and what an expert would have done come when it has ended."""

    title: str
    leads_by_hand: bool
    main_off: bool
    main_locked: bool
    indicator: bool
    nulled: bool
    told: bool
    earth_off: bool
    hints_left: int
    groups: list[BenchGroup]
    circuits: list[BenchCircuit]
    tests: list[BenchTest]
    defects: list[DefectName]
    named: list[NamedDefect]
    outcomes: list[Outcome]
    stopped: list[Stopped]
    ended: bool
    score: Score | None
    most: dict[Part, int]
    total: float | None
    passed: bool | None
    revealed: list[Revealed]


class SaveAttempt(BaseModel):
    """An attempt that has ended, and whose it is."""

    learner: Learner
    attempt: Attempt


def known_standard(standard: str) -> str:
    """The standard by its id; 404 where there is none such."""
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
    known_standard(attempt.board.standard)
    return _view(play(attempt))


@router.post("/replay", responses=NOT_FOUND)
def replay_attempt(attempt: Attempt) -> list[ReplayStep]:
    """What was read, test by test, and the test that an expert would have chosen; nothing while the attempt goes on."""
    known_standard(attempt.board.standard)
    played = play(attempt)
    return list(replay(played)) if played.ended else []


@router.post("/attempts", status_code=201, responses={**NOT_FOUND, 409: _GOES_ON})
def save_attempt(request: SaveAttempt, conn: Connection) -> store.SavedAttempt:
    """An attempt that has ended kept for its learner; the score is worked out again from its record."""
    board = request.attempt.board
    known_standard(board.standard)
    played = play(request.attempt)
    if played.score is None:
        raise HTTPException(409, message(None, "core.training.not_ended"))
    return store.save_attempt(
        conn, request.learner.strip(), request.attempt.model_dump_json(), standard=board.standard, level=board.level,
        number=board.number, total=played.score.total, passed=played.score.passed, tests=played.score.tests,
    )  # fmt: skip


def _view(played: Played) -> PlayView:
    bench, board = played.bench, played.board
    readings = {
        (each.measure.test, each.measure.subject.kind, each.measure.subject.id): each.text for each in bench.taken
    }
    level = next(each for each in levels() if each.level == board.level)
    return PlayView(
        title=board.network.rules.title,
        leads_by_hand=bench.by_hand,
        main_off="" in bench.off,
        main_locked="" in bench.locked,
        indicator=bench.indicator,
        nulled=bench.nulled,
        told=bench.told,
        earth_off=bench.earth_off,
        hints_left=level.hints - bench.hints,
        groups=_groups(bench),
        circuits=_circuits(bench),
        tests=[_test(each, readings.get((each.test, each.subject.kind, each.subject.id), "")) for each in board.tests],
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
        most=dict(points()),
        total=None if played.score is None else played.score.total,
        passed=None if played.score is None else played.score.passed,
        revealed=list(revealed(played)) if played.ended else [],
    )


def _groups(bench: Bench) -> list[BenchGroup]:
    return [
        BenchGroup(
            id=each.id, name=each.name, device=f"{each.rating_a:g} A, {bench.board.network.rules.bands.rcd_name(each.rcd)}",
            off=each.id in bench.off, locked=each.id in bench.locked, tripped=each.id in bench.tripped,
        )
        for each in bench.board.network.rcds.all
        if each.id in bench.board.groups
    ]  # fmt: skip


def _circuits(bench: Bench) -> list[BenchCircuit]:
    group = {circuit: name for name, circuits in bench.board.groups.items() for circuit in circuits}
    return [
        BenchCircuit(
            id=each.id, name=each.name, device="" if isinstance(each.device, str) else each.device.label,
            group=group.get(each.id, ""), house=house_circuit(bench, each), neutral_off=each.id in bench.neutrals_off,
            link=bench.links.get(each.id, "none"), live=bench.has_voltage(each.id), off=each.id in bench.off,
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
        test=test.test, reading=reading, expected=test.expected.value, in_doubt=not test.step, leads=_leads(test.test),
    )  # fmt: skip
