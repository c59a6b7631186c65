"""The new board from the old one: each way becomes a circuit with the cable that is there and the device the cable allows."""

from __future__ import annotations

from vivid_lattice.core.design.device_choice import with_ratings
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.existing_board import ExistingBoard, ExistingWay, Survey
from vivid_lattice.core.document.job import Board, Circuit, Job, MainSwitch, Way, free_id
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.entry.circuit_line import read_circuit
from vivid_lattice.core.entry.conductors import ConductorSize
from vivid_lattice.core.entry.devices import TypedDevice
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.messages import Joined, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.survey.before_after import existing_board
from vivid_lattice.core.survey.rating_transfer import RatingTransfer, rating_transfers


def _further_board(job: Job, surveyed: ExistingBoard, ways: int) -> Board:
    """A board for so many ways, a quarter of them spare."""
    return Board(
        id=free_id("main", {board.id for board in job.boards}),
        name=f"{surveyed.name}, renewed"[:120],
        fed_by="origin",
        way_count=max(2, -(-ways * 5 // 4)),
        main_switch=MainSwitch(rating_a=100.0),
    )


def replaced_board(job: Job, board_id: str) -> Job:
    """The job with a new board in place of a surveyed one. Ways that a circuit transfers to already keep it; the others become
    circuits whose lengths and powers are still to be entered. A way whose cable or rating is not written down is left.

    Raises  BadDocument where nothing can be transferred yet, with what is lacking
    """
    surveyed, rules = existing_board(job, board_id), rule_set(job.job.rules)
    lines = {line.way: line for line in rating_transfers(job, rules, surveyed)}
    ready = [
        way for way in surveyed.ways if way.number in lines and (way.circuit or lines[way.number].new_a is not None)
    ]
    if not ready:
        lacks = (
            Joined.of(
                message(None, "core.survey.replace.way", n=line.way, reason=line.reason) for line in lines.values()
            )
            if lines
            else message(None, "core.survey.replace.none")
        )
        raise BadDocument(
            [DocumentProblem("survey.boards.ways", message(None, "core.survey.replace.refused", reasons=lacks))]
        )
    taken = {circuit.id for circuit in job.circuits}
    board_there = _board_there(job, surveyed)
    replacement = board_there or _further_board(job, surveyed, len(ready))
    ways, circuits, marked = list(replacement.ways), list(job.circuits), []
    ratings: dict[str, float] = {}
    for way in surveyed.ways:
        if way not in ready or way.circuit is not None:
            marked.append(way)
            continue
        circuit, rooms = _circuit(job, rules, way, lines[way.number], free_id(f"c{way.number}", taken))
        ratings[circuit.id] = lines[way.number].new_a or 0.0
        job = job.model_copy(update={"rooms": rooms})
        taken.add(circuit.id)
        circuits.append(circuit)
        number = max((way.number for way in ways), default=0) + 1
        ways.append(Way(number=number, circuit=circuit.id))
        marked.append(way.model_copy(update={"circuit": circuit.id}))
    total = max(replacement.way_count, *(way.number for way in ways)) if ways else replacement.way_count
    replacement = replacement.model_copy(update={"ways": tuple(ways), "way_count": total})
    survey = _marked(job, surveyed.model_copy(update={"ways": tuple(marked), "replaced_by": replacement.id}))
    boards = tuple(replacement if board.id == replacement.id else board for board in job.boards)
    if board_there is None:
        boards = (replacement, *boards)
    job = job.model_copy(update={"boards": boards, "circuits": tuple(circuits), "survey": survey})
    return with_ratings(job, replacement.id, ratings)


def _board_there(job: Job, surveyed: ExistingBoard) -> Board | None:
    """The board that replaces the one found: as it was stated; else one that is empty so far and fed from the origin."""
    stated = job.find_board(surveyed.replaced_by)
    return stated or next((board for board in job.boards if is_origin(board.fed_by) and not board.ways), None)


def _marked(job: Job, surveyed: ExistingBoard) -> Survey:
    boards = tuple(surveyed if board.id == surveyed.id else board for board in job.survey.boards)
    return job.survey.model_copy(update={"boards": boards})


def _circuit(
    job: Job, rules: RuleSet, way: ExistingWay, line: RatingTransfer, name: str
) -> tuple[Circuit, tuple[Room, ...]]:
    """The circuit of a way, from the line it was typed as and what was found since; and the rooms with any that it names."""
    assert way.conductor_mm2 is not None and line.new_a is not None
    parsed = parse_line(_text(way), rules, job.rooms, kind="way" if _text(way) == way.line else "name")
    parsed.name, parsed.name_given = line.name[:1].upper() + line.name[1:], True
    parsed.device, parsed.unused = TypedDevice(), []
    parsed.conductor = ConductorSize(area_mm2=way.conductor_mm2, cables=way.cable_count)
    if way.cable_count > 1 and rules.limits.knows_rings:
        parsed.circuit = "ring"
    if not parsed.loads:
        parsed.kind = parsed.circuit or "fixed"
    made = read_circuit(parsed, job, rules)
    return made.circuit.model_copy(update={"id": name}), made.rooms


def _text(way: ExistingWay) -> str:
    """What says what a way feeds: what it was found to feed, else the typed line, else its label."""
    return way.actually_feeds or way.line or way.label
