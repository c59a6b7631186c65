"""What a new job assumes of its supply and its first board: declared or usual values, each marked until someone confirms it.

Written when a job is made or its supply is typed, never on assessment, import or upgrade. The earthing system is asked, not assumed.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vivid_lattice.core.assessment.assumed import to_confirm
from vivid_lattice.core.design.usual import customary_kinds
from vivid_lattice.core.document.assumptions import (
    SYSTEM,
    AssumedValue,
    assumed_with,
    open_assumptions,
    stated,
    value_at,
    with_value,
)
from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Board, Circuit, Job, MainSwitch, with_parts
from vivid_lattice.core.document.supply import Bond, CutOut, Earthing, Tails
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.entry.circuit_line import Entry, free_way
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import Customary, customary
from vivid_lattice.core.rules.customary_supply import UsualSupply
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown

#: Of an installation that is there already nothing of its conductors and devices is assumed: only what arrives at it.
_ARRIVING = ("supply.ze_ohm", "supply.fault_current_ka")


#: Of a three-phase supply the network operator states the current between all lines.
_BETWEEN_LINES = "supply.fault_current_lines_ka"
#: A new board grows by so many ways, to no more than a document holds.
_MORE_WAYS, _MAX_WAYS = 6, 200
#: What the reading of a line says of a part that it does not give.
_NOT_GIVEN = {
    "length_m": "core.entry.circuit.no_length",
    "power_w": "core.entry.circuit.no_power",
    "design_current_a": "core.entry.circuit.no_power",
}
#: Where a power or current is read.
_PLATE = "read the rating plate"
_BOARD_FED = "add up what its board feeds"
#: The metalwork that enters nearly every house. Common practice, no source.
_BONDED = "Water pipe"


def assume_supply(job: Job) -> Job:
    """The job with every value of its supply and first board that no one has stated taken as declared or usual.

    What is stated stays as it is. What was assumed before and is no longer usual (the earthing system or the phases have changed
    since) is assumed again. With a transformer given, Ze and the fault current are calculated and not assumed.
    Source  the standard's customary supply: common practice, no source, or declared values where the table says so
    """
    rules = rule_set(job.job.rules)
    usual = [each for each in customary(rules.id).supply if _is_for(job, each)]
    job = _without_outdated(job, {_field(job, each): each.value for each in usual})
    values = []
    for each in usual:
        field = _field(job, each)
        if field is None or value_at(job, field) is not None:
            continue
        changed = _with(job, field, each.value, rules)
        if changed is None:
            continue
        job = changed
        values.append(_assumed(field, each))
        if field == "supply.fault_current_ka" and job.supply.phases == 3 and job.supply.fault_current_lines_ka is None:
            job = with_value(job, _BETWEEN_LINES, each.value)
            values.append(_assumed(_BETWEEN_LINES, each))
    return checked(assumed_with(job, values)) if values else checked(job)


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
        if assumed.field == _BETWEEN_LINES and job.supply.phases == 3:
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


def with_free_way(job: Job, board_id: str) -> Job:
    """The job with room for one more circuit in a new board that has no enclosure yet: how many ways it gets is decided with that.

    A job of which nothing is assumed, and a board that is there already, keep their ways.
    """
    board = job.find_board(board_id)
    if board is None or not job.assumptions or job.survey.boards or board.build.enclosure is not None:
        return job
    if free_way(board) is not None:
        return job
    grown = board.model_copy(update={"way_count": min(board.way_count + _MORE_WAYS, _MAX_WAYS)})
    return with_parts(job, (), (grown,))


def assume_circuit(job: Job, circuit_id: str) -> Job:
    """The job with the length of a new circuit and the power of its loads, where its line states none, taken as usual for its kind.

    On an existing board nothing is assumed: its conductors are measured, not drawn. A circuit whose device or current is stated
    needs no power. KeyError where there is no such circuit.
    Source  the standard's customary lengths and powers: common practice, no source
    """
    circuit = job.circuit(circuit_id)
    if job.survey.boards:
        return job
    rules = rule_set(job.job.rules)
    usual, rooms = customary(rules.id), {room.id: room for room in job.rooms}
    values = []
    for kind in customary_kinds(circuit, rules, rooms)[:1]:
        length_m = usual.lengths_m.get(kind)
        if length_m is not None and len(circuit.run) == 1 and circuit.run[0].length_m is None:
            values.append(_of_circuit(circuit_id, "run.0.length_m", length_m, usual.lengths_source, "measure"))
    if circuit.design_current_a is None and is_auto(circuit.device):
        values += _usual_power(circuit, rules, usual)
    for value in values:
        job = with_value(job, value.field, value.value)
    return checked(assumed_with(job, values)) if values else job


def entry_texts(entry: Entry, job: Job) -> tuple[Text, ...]:
    """What was assumed of a typed line, in words: what the line's reading took as usual, and the values taken since, in place of
    the remark that they are not given."""
    prefix = f"circuits.{entry.circuit}."
    added = [each for each in to_confirm(job, rule_set(job.job.rules)) if each.field.startswith(prefix)]
    replaced = {_NOT_GIVEN[part] for each in added for part in _NOT_GIVEN if part in each.field}
    kept = [text for text in entry.assumed if not (isinstance(text, Message) and text.id in replaced)]
    values = [
        message(None, "core.entry.circuit.usual", label=each.label, value=Shown(f"{each.shown} {each.unit}".rstrip()))
        for each in added
    ]
    return (*values, *kept)


def _usual_power(circuit: Circuit, rules: RuleSet, usual: Customary) -> list[AssumedValue]:
    """The usual power of each load that states none; of one that goes by its running current, the circuit's current."""
    phases = 3 if len(circuit.lines) == 3 else 1
    values = []
    if circuit.kind == "distribution":
        feeder = next(
            (usual.loads[kind, 1] for kind in customary_kinds(circuit, rules, {}) if (kind, 1) in usual.loads), None
        )
        if feeder is None or feeder.current_a is None:
            return []
        return [_of_circuit(circuit.id, "design_current_a", feeder.current_a, usual.loads_source, _BOARD_FED)]
    for number, load in enumerate(circuit.loads):
        kind = appliance_of(load, rules) or ("lighting" if load.kind == "lamp" else "")
        stated = usual.loads.get((kind, phases)) or usual.loads.get((kind, 1))
        if stated is None or load.power_w is not None or load.kind == "socket":
            continue
        if stated.power_w is not None:
            values.append(
                _of_circuit(circuit.id, f"loads.{number}.power_w", stated.power_w, usual.loads_source, _PLATE)
            )
        elif stated.current_a is not None and len(circuit.loads) == 1:
            values.append(_of_circuit(circuit.id, "design_current_a", stated.current_a, usual.loads_source, _PLATE))
    return values


def _of_circuit(circuit_id: str, part: str, value: float, source: str, confirm: str) -> AssumedValue:
    return AssumedValue(field=f"circuits.{circuit_id}.{part}", value=value, source=source, confirm=confirm)


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
