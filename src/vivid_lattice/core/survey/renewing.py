"""The new board from the old one: each way becomes a circuit with the cable that is there and the device the cable allows."""

from __future__ import annotations

from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.found import FoundBoard, FoundWay, Survey
from vivid_lattice.core.job import (
    Board,
    Cable,
    Circuit,
    CircuitKind,
    Job,
    Load,
    LoadKind,
    MainSwitch,
    Section,
    Way,
    free_id,
)
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.survey.before_after import found_board
from vivid_lattice.core.survey.mapping import Mapped, mapped

#: Words of a label that tell what hangs on a way: common practice, no source.
_LOADS: tuple[tuple[str, LoadKind], ...] = (
    ("cooker", "cooker"), ("oven", "cooker"), ("hob", "cooker"), ("shower", "shower"), ("immersion", "water-heater"),
    ("water heater", "water-heater"), ("geyser", "water-heater"), ("storage heater", "heater"), ("heater", "heater"),
    ("socket", "socket"), ("ring", "socket"), ("light", "lamp"), ("lamp", "lamp"), ("alarm", "alarm"),
)  # fmt: skip


def renewed(job: Job, board_id: str) -> Job:
    """The job with a new board in place of a surveyed one. Ways that a circuit takes over already keep it; the others become
    circuits whose lengths and powers are still to be entered. A way whose cable or rating is not written down is left.

    Raises  BadDocument where nothing can be taken over yet, with what is lacking
    """
    found, rules = found_board(job, board_id), rule_set(job.job.rules)
    lines = {line.way: line for line in mapped(job, rules, found)}
    ready = [way for way in found.ways if way.number in lines and (way.circuit or lines[way.number].new_a is not None)]
    if not ready:
        lacks = "; ".join(f"way {line.way}: {line.why}" for line in lines.values()) or "no way holds a device"
        raise BadDocument([DocumentProblem("survey.boards.ways", f"nothing can be taken over yet: {lacks}")])
    taken = {circuit.id for circuit in job.circuits}
    board_there = next((one for one in job.boards if one.id == found.replaced_by), None)
    new_board = board_there or Board(
        id=free_id("main", {one.id for one in job.boards}),
        name=f"{found.name}, renewed"[:120],
        fed_by="origin",
        ways_total=max(2, -(-len(ready) * 5 // 4)),
        main_switch=MainSwitch(rating_a=100.0),
    )
    ways, circuits, marked = list(new_board.ways), list(job.circuits), []
    for way in found.ways:
        if way not in ready or way.circuit is not None:
            marked.append(way)
            continue
        circuit = _circuit(rules, way, lines[way.number], free_id(f"c{way.number}", taken))
        taken.add(circuit.id)
        circuits.append(circuit)
        number = max((one.number for one in ways), default=0) + 1
        ways.append(Way(number=number, circuit=circuit.id))
        marked.append(way.model_copy(update={"circuit": circuit.id}))
    total = max(new_board.ways_total, *(way.number for way in ways)) if ways else new_board.ways_total
    new_board = new_board.model_copy(update={"ways": tuple(ways), "ways_total": total})
    survey = _marked(job, found.model_copy(update={"ways": tuple(marked), "replaced_by": new_board.id}))
    boards = tuple(new_board if one.id == new_board.id else one for one in job.boards)
    if board_there is None:
        boards = (new_board, *boards)
    return job.model_copy(update={"boards": boards, "circuits": tuple(circuits), "survey": survey})


def _marked(job: Job, found: FoundBoard) -> Survey:
    boards = tuple(found if one.id == found.id else one for one in job.survey.boards)
    return job.survey.model_copy(update={"boards": boards})


def _circuit(rules: RuleSet, way: FoundWay, line: Mapped, name: str) -> Circuit:
    assert way.conductor_mm2 is not None and line.new_a is not None
    said = (way.turned_out or way.label).casefold()
    load = next((kind for word, kind in _LOADS if word in said), None)
    ring = way.cables > 1 and rules.limits.knows_rings
    kind: CircuitKind = "ring" if ring else "lighting" if load == "lamp" else "radial" if load == "socket" else "fixed"
    circuit = Circuit(
        id=name,
        name=line.name,
        kind=kind,
        loads=(Load(name=line.name, kind=load),) if load else (),
        run=(Section(length_m=None, method=rules.default_method),),
        cable=Cable(type=rules.default_cable, area_mm2=way.conductor_mm2),
    )
    return circuit.model_copy(update={"device": rules.devices.default_device(circuit, line.new_a)})
