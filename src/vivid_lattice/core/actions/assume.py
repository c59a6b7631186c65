"""What a new job assumes of its supply and its first board: declared or usual values, each marked until someone confirms it.

Written when a job is made or its supply is typed, never on assessment, import or upgrade. The earthing system is asked, not assumed.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from vivid_lattice.core.document.assumptions import (
    SYSTEM,
    AssumedValue,
    Confirmation,
    assumed_with,
    confirmed,
    open_assumptions,
    stated,
    supply_assumed,
    value_at,
    with_value,
)
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board, Job, MainSwitch
from vivid_lattice.core.document.supply import Bond, CutOut, Earthing, System, Tails
from vivid_lattice.core.entry.supply_line import SupplyEntry, set_supply
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.customary_supply import UsualSupply
from vivid_lattice.core.rules.protocol import RuleSet

_TO_EARTH = "supply.fault_current_ka"
#: Of a three-phase supply the network operator states the current between all lines.
_BETWEEN_LINES = "supply.fault_current_lines_ka"
#: Of an installation that is there already nothing of its conductors and devices is assumed: only what arrives at it.
_ARRIVING = ("supply.ze_ohm", _TO_EARTH, _BETWEEN_LINES)
#: The metalwork that enters nearly every house. Common practice, no source.
_BONDED = "Water pipe"


def assume_supply(job: Job) -> Job:
    """The job with every value of its supply and first board that no one has stated taken as declared or usual.

    What is stated stays as it is. What was assumed before and is no longer usual (the earthing system or the phases have changed
    since) is assumed again. With a transformer given, Ze and the fault current are calculated and not assumed.
    Source  the standard's customary supply: common practice, no source, or declared values where the table says so
    """
    rules = rule_set(job.job.rules)
    usual = [each for row in customary(rules.id).supply if _is_for(job, row) for each in _each_current(job, row)]
    job = _without_outdated(job, {_field(job, each): each.value for each in usual})
    values: list[AssumedValue] = []
    for each in usual:
        field = _field(job, each)
        if field is None or value_at(job, field) is not None:
            continue
        # A current that is stated from line to earth says nothing of the one between lines: that is asked then.
        if field == _BETWEEN_LINES and not any(known.field == _TO_EARTH for known in (*open_assumptions(job), *values)):
            continue
        changed = _with(job, field, each.value, rules)
        if changed is None:
            continue
        job = changed
        values.append(_assumed(field, each))
    return checked(assumed_with(job, values)) if values else checked(job)


def assume_again(job: Job, before: Job) -> Job:
    """The job after a change of its supply, with what is open assumed for the supply as it is now: once the earthing system is
    known, and nothing where nothing was assumed before."""
    asked = any(assumed.field == SYSTEM for assumed in open_assumptions(job))
    return assume_supply(job) if supply_assumed(before) and not asked else job


def with_system(job: Job, system: System) -> Job:
    """The job with its earthing system stated, and what follows from it assumed as ``assume_again`` does.

    Raises  BadDocument where its standard has no such system
    """
    changed = job.model_copy(update={"supply": job.supply.model_copy(update={"system": system})})
    return assume_again(checked(stated(changed, [SYSTEM])), job)


def confirm(job: Job, field: str, how: Confirmation) -> Job:
    """The job with an assumed value confirmed; with the earthing system confirmed, the rest is assumed. KeyError where nothing at
    that field is assumed and open."""
    done = confirmed(job, field, how)
    return assume_again(done, job) if field == SYSTEM else done


def enter_supply(job: Job, text: str, *, accept: bool = False) -> SupplyEntry:
    """The job with a typed supply, and what its line leaves open assumed as ``assume_again`` does.

    Raises  EntryNotUnderstood where a token of the line is not used, unless accepted
    """
    done = set_supply(job, text, accept=accept)
    return replace(done, job=assume_again(done.job, job))


def _each_current(job: Job, usual: UsualSupply) -> tuple[UsualSupply, ...]:
    """A row of the customary supply; on three lines the fault current also as the one between them."""
    if usual.field == _TO_EARTH and job.supply.phases == 3:
        return usual, replace(usual, field=_BETWEEN_LINES)
    return (usual,)


def _assumed(field: str, usual: UsualSupply) -> AssumedValue:
    return AssumedValue(
        field=field,
        value=usual.value,
        other=None if usual.other == usual.value else usual.other,
        source=usual.source.table or usual.source.publication,
        confirm=usual.confirm,
    )


def _without_outdated(job: Job, usual: Mapping[str | None, float]) -> Job:
    """The job without the assumed values of its supply that are not the usual ones any more."""
    for assumed in open_assumptions(job):
        if (
            assumed.field == SYSTEM
            or assumed.field.startswith("circuits.")
            or usual.get(assumed.field) == assumed.value
        ):
            continue
        job = stated(_removed(job, assumed.field), [assumed.field])
    return job


def _removed(job: Job, field: str) -> Job:
    """The job without a value, and without what it is a part of where that cannot be without it."""
    supply, part = job.supply, field.split(".")
    if part[0] == "boards":
        return with_value(job, ".".join(part[:3]), None)
    if part[:2] == ["supply", "cutout"] or field == "supply.tails.area_mm2":
        return with_value(job, ".".join(part[:2]), None)
    if "bonds" in part and supply.earthing is not None:
        earthing = supply.earthing.model_copy(update={"bonds": ()})
        return job.model_copy(update={"supply": supply.model_copy(update={"earthing": earthing})})
    return with_value(job, field, None) if value_at(job, field) is not None else job


def _is_for(job: Job, usual: UsualSupply) -> bool:
    if job.survey.boards and usual.field not in _ARRIVING:
        return False
    if job.supply.transformer is not None and usual.field in _ARRIVING:
        return False
    of_system = not usual.systems or job.supply.system in usual.systems
    return of_system and job.supply.phases in usual.phases


def _field(job: Job, usual: UsualSupply) -> str | None:
    """The field in this job; None of a board's where no board is at the origin."""
    if not usual.field.startswith("board."):
        return usual.field
    board = next((board for board in job.boards if is_origin(board.fed_by)), None)
    return None if board is None else f"boards.{board.id}.{usual.field.removeprefix('board.')}"


def _with(job: Job, field: str, value: float, rules: RuleSet) -> Job | None:
    """The job with a value, and what it is part of where that is not there yet; None where its place is taken otherwise."""
    supply, part = job.supply, field.split(".")
    if part[0] == "boards":
        return job.model_copy(update={"boards": tuple(_board(board, part, value) for board in job.boards)})
    changed: dict[str, Any]
    if field == "supply.cutout.rating_a":
        kind, curve = rules.usual_cutout
        changed = {"cutout": CutOut.model_validate({"kind": kind, "curve": curve, "rating_a": value})}
    elif field == "supply.tails.area_mm2":
        changed = {"tails": Tails(area_mm2=value)}
    elif part[1] == "tails":
        if supply.tails is None:
            return None
        changed = {"tails": supply.tails.model_copy(update={part[2]: value})}
    elif part[1:3] == ["earthing", "bonds"]:
        earthing = supply.earthing or Earthing()
        if earthing.bonds:
            return None
        changed = {"earthing": earthing.model_copy(update={"bonds": (Bond(name=_BONDED, area_mm2=value),)})}
    elif part[1] == "earthing":
        changed = {"earthing": (supply.earthing or Earthing()).model_copy(update={part[2]: value})}
    else:
        changed = {part[1]: value}
    return job.model_copy(update={"supply": supply.model_copy(update=changed)})


def _board(board: Board, part: list[str], value: float) -> Board:
    if board.id != part[1]:
        return board
    if part[2] == "main_switch":
        return board.model_copy(update={"main_switch": MainSwitch(rating_a=value)})
    return board.model_copy(update={part[2]: value})
