"""A new job: one empty board, and nothing known of the supply."""

from __future__ import annotations

from vivid_lattice.core.document.job import Board, Job, JobInfo
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.document.versions import FORMAT
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules.protocol import RuleSet

#: Ways of a new job's board: a usual house; changed with the enclosure. Common practice, no source.
_WAYS = 12


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
