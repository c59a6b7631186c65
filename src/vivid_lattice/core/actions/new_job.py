"""A new job: one empty board, with nothing known of the supply or with what is assumed until someone confirms it; a typical home."""

from __future__ import annotations

from typing import cast

from vivid_lattice.core.actions.assume import with_system
from vivid_lattice.core.actions.enter_line import enter_line
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.assumptions import SYSTEM, AssumedValue, assumed_with
from vivid_lattice.core.document.existing_board import ExistingBoard, Survey
from vivid_lattice.core.document.job import Board, Job, JobInfo, with_circuit
from vivid_lattice.core.document.supply import Supply, System
from vivid_lattice.core.document.versions import FORMAT
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.customary_supply import TypicalHome
from vivid_lattice.core.rules.protocol import RuleSet

#: Ways of a new job's board: a usual house; changed with the enclosure. Common practice, no source.
_WAYS = 12
#: How the earthing system is confirmed.
_AT_THE_ORIGIN = "read at the origin, or ask the distributor"


def blank(title: str, rules: RuleSet, phases: int | None = None) -> Job:
    """A job with one empty board and nothing known of the supply. ``phases`` None: split-phase where the standard has it,
    else single-phase.

    The earthing system is the one most common under the standard, until it is read at the origin.
    """
    board = rules.vocabulary.get("board", "board")
    system = rules.systems[1 if len(rules.systems) > 2 else 0]
    supply = Supply.model_validate(
        {
            "system": system,
            "phases": phases or (2 if 2 in rules.supplies else rules.supplies[0]),
            "nominal_v": rules.nominal_v,
        }
    )
    boards = (Board(id="main", name=f"Main {board}", fed_by="origin", way_count=_WAYS),)
    return checked(Job(format=FORMAT, job=JobInfo(title=title, rules=rules.id), supply=supply, boards=boards))


def begin(
    title: str, rules: RuleSet, system: System | None, phases: int | None = None, *, existing: bool = False
) -> Job:
    """A new job with what its standard declares and people assume of the supply, each value marked until someone confirms it.

    system    the earthing system, which is asked; None: not answered yet. Then nothing else is assumed, and the job lacks an input.
    phases    lines of the supply; None: as homes under the standard usually have them
    existing  a board that is there already: only what arrives at it is assumed
    Raises    BadDocument where the standard has no such system
    """
    job = blank(title, rules, phases or _usual_phases(rules))
    if existing:
        # The board to survey is what tells, from now on, that nothing of it may be assumed.
        old = ExistingBoard(id="existing", name=f"Existing {rules.vocabulary.get('board', 'board')}")
        job = job.model_copy(update={"survey": Survey(boards=(old,))})
    asked = AssumedValue(field=SYSTEM, value=job.supply.system, source=rules.id, confirm=_AT_THE_ORIGIN)
    job = assumed_with(job, [asked])
    if len(rules.systems) == 1:
        system = cast(System, rules.systems[0])
    return job if system is None else with_system(job, system)


def _usual_phases(rules: RuleSet) -> int:
    homes = customary(rules.id).homes
    return homes[0].phases if homes else rules.supplies[0]


def typical_home(home: TypicalHome, rules: RuleSet, title: str, system: System | None = None) -> Job:
    """A typical home, its supply assumed, its circuits typed line by line and designed.

    Raises  EntryNotUnderstood where a line is not understood
    """
    job = begin(title, rules, system or cast(System, home.system), home.phases)
    board = job.boards[0].model_copy(update={"way_count": max(home.ways, len(home.lines))})
    job = job.model_copy(update={"boards": (board, *job.boards[1:])})
    if home.floor_m2 is not None:
        job = job.model_copy(update={"job": job.job.model_copy(update={"floor_area_m2": home.floor_m2})})
    for name, line in home.lines:
        entered = enter_line(job, line, board.id)
        job = _called(entered.job, entered.circuit, name)
    return design(checked(job)).job


def _called(job: Job, circuit_id: str, name: str) -> Job:
    return with_circuit(job, job.circuit(circuit_id).model_copy(update={"name": name}))
