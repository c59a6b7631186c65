"""What each kind of reading is taken of in a job: circuits, rings, boards, residual-current devices, bonds, electrodes, the supply."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial

from vivid_lattice.core.assessment.assess import in_board_order
from vivid_lattice.core.board.wiring.netlist import bonds_of
from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Board, Circuit, Job
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text
from vivid_lattice.core.optional import or_none

#: The main switch of a board among its residual-current devices.
MAIN = "main-switch"


@dataclass(frozen=True, slots=True, kw_only=True)
class Subject:
    """What is tested: as a reading names it, in words, and the board and way it is found at."""

    subject: ReadingSubject
    name: Text
    board: str
    way: int | None = None
    circuit: Circuit | None = None
    rcd: Rcd | None = None


def subjects_of(network: Installation, kind: ReadingKind) -> tuple[Subject, ...]:
    """What the plan takes a kind of reading of, in the order of the boards' ways."""
    return tuple(_FINDERS[kind](network)) if kind in _FINDERS else ()


def readable_of(network: Installation, kind: ReadingKind) -> tuple[Subject, ...]:
    """All that a kind of reading may be of: what the plan takes it of, and what it is read of beside where there is a doubt."""
    beside = _BESIDE.get(kind)
    return (*subjects_of(network, kind), *(beside(network) if beside is not None else ()))


def subject_of(network: Installation, kind: ReadingKind, subject: ReadingSubject) -> Subject | None:
    """A subject of a kind of reading by its name in a reading; None where the job has it no more."""
    return next((each for each in readable_of(network, kind) if each.subject == subject), None)


def _supply(network: Installation) -> Iterator[Subject]:
    first = next((board.id for board in network.job.boards if is_origin(board.fed_by)), "")
    name = network.message("core.testing.subject.supply")
    yield Subject(subject=ReadingSubject(kind="supply", id="supply"), name=name, board=first)


def _lines_of_supply(network: Installation) -> Iterator[Subject]:
    if network.job.supply.phases > 1:
        yield from _supply(network)


def _boards(network: Installation) -> Iterator[Subject]:
    for board in network.job.boards:
        yield Subject(subject=ReadingSubject(kind="board", id=board.id), name=board.name, board=board.id)


def _three_phase_boards(network: Installation) -> Iterator[Subject]:
    for board, subject in zip(network.job.boards, _boards(network), strict=True):
        if len(or_none(partial(network.tree.board_lines, board)) or ()) == 3:
            yield subject


def _circuits(network: Installation, wanted: Callable[[Circuit], bool] = lambda circuit: True) -> Iterator[Subject]:
    for circuit in in_board_order(network.job):
        if not wanted(circuit) or (circuit.source is not None and not circuit.loads):
            continue
        place = network.tree.place(circuit)
        yield Subject(
            subject=ReadingSubject(kind="circuit", id=circuit.id),
            name=circuit.name,
            board=place.board.id,
            way=place.way.number,
            circuit=circuit,
        )


def _is_ring(circuit: Circuit) -> bool:
    return circuit.kind == "ring"


def _is_radial(circuit: Circuit) -> bool:
    return circuit.kind != "ring"


def _with_neutral(circuit: Circuit) -> bool:
    return circuit.kind != "ring" and circuit.neutral


def _with_arc_detection(circuit: Circuit) -> bool:
    return not is_auto(circuit.device) and circuit.device.detects_arcs


def _of_several_lines(circuit: Circuit) -> bool:
    return len(circuit.lines) > 1


def _of_three_lines(circuit: Circuit) -> bool:
    return len(circuit.lines) == 3


def _behind_rcds(network: Installation) -> Iterator[Subject]:
    """The circuits that a residual-current device is ahead of."""
    behind = {circuit.id for place in network.rcds.all for circuit in place.behind}
    yield from _circuits(network, lambda circuit: circuit.id in behind)


def _behind_shared(network: Installation) -> Iterator[Subject]:
    """The circuits that share a residual-current device with others."""
    behind = {circuit.id for place in network.rcds.all if len(place.behind) > 1 for circuit in place.behind}
    yield from _circuits(network, lambda circuit: circuit.id in behind)


def _supply_and_circuits(network: Installation) -> Iterator[Subject]:
    yield from _supply(network)
    yield from _circuits(network)


def _feeds_outlets(circuit: Circuit) -> bool:
    return any(load.kind == "socket" for load in circuit.loads)


def _rcds(network: Installation) -> Iterator[Subject]:
    """Every residual-current device in a board: in its main switch, shared, or of one circuit."""
    for board in network.job.boards:
        if board.main_switch is not None and board.main_switch.rcd is not None:
            yield _rcd(f"{board.id}/{MAIN}", board.name, board.id, board.main_switch.rcd)
        for group in board.shared_rcds:
            yield _rcd(f"{board.id}/{group.id}", group.name, board.id, group.rcd)
    for subject in _circuits(network):
        circuit = subject.circuit
        if circuit is not None and not is_auto(circuit.device) and circuit.device.rcd is not None:
            yield Subject(
                subject=ReadingSubject(kind="rcd", id=circuit.id),
                name=circuit.name,
                board=subject.board,
                way=subject.way,
                circuit=circuit,
                rcd=circuit.device.rcd,
            )


def _rcd(name: str, title: Text, board: str, rcd: Rcd) -> Subject:
    return Subject(subject=ReadingSubject(kind="rcd", id=name), name=title, board=board, rcd=rcd)


def _bonds(network: Installation) -> Iterator[Subject]:
    for board in network.job.boards:
        for number, bond in enumerate(bonds_of(network.job, board), 1):
            yield Subject(
                subject=ReadingSubject(kind="bond", id=f"{board.id}/{number}"), name=bond.name, board=board.id
            )


def _electrodes(network: Installation) -> Iterator[Subject]:
    """The electrode of the installation where its system rests on one, and those of boards and circuits."""
    job = network.job
    if job.supply.system == "TT" or _rests_on_electrode(job, network):
        [supply] = _supply(network)
        yield Subject(subject=ReadingSubject(kind="electrode", id="supply"), name=supply.name, board=supply.board)
    owners: list[Board | Circuit] = [*job.boards, *job.circuits]
    for owner in owners:
        if owner.earthing is not None and owner.earthing.kind in WITH_ELECTRODE:
            board = owner.id if not isinstance(owner, Circuit) else network.tree.place(owner).board.id
            yield Subject(subject=ReadingSubject(kind="electrode", id=owner.id), name=owner.name, board=board)


def _rests_on_electrode(job: Job, network: Installation) -> bool:
    """Where neutral and earth are joined in the installation, its standard has an electrode there too."""
    return job.supply.system in network.rules.earthing.link_systems and bool(network.rules.testing.limits("ra"))


def _spds(network: Installation) -> Iterator[Subject]:
    for board in network.job.boards:
        for device in board.spds:
            yield Subject(
                subject=ReadingSubject(kind="spd", id=f"{board.id}/{device.id}"), name=device.name, board=board.id
            )


_rings = partial(_circuits, wanted=_is_ring)
_radials = partial(_circuits, wanted=_is_radial)
_FINDERS: Mapping[ReadingKind, Callable[[Installation], Iterator[Subject]]] = {
    "insp": _boards,
    "r_me": _supply,
    "r_bond": _bonds,
    "r1r2": _radials,
    "r1rn": partial(_circuits, wanted=_with_neutral),
    "r2": _radials,
    "r1_end": _rings,
    "rn_end": _rings,
    "r2_end": _rings,
    "x_ln": _rings,
    "x_le": _rings,
    "ir_ln": _circuits,
    "ir_le": _circuits,
    "ir_ne": _circuits,
    "pol": _circuits,
    "ident": _boards,
    "ra": _electrodes,
    "u_ln": _supply,
    "u_ll": _lines_of_supply,
    "u_load": partial(_circuits, wanted=_feeds_outlets),
    "ze": _supply,
    "pfc_ln": _boards,
    "pfc_le": _boards,
    "zs": _circuits,
    "zln": _circuits,
    "rcd_half": _rcds,
    "rcd_1": _rcds,
    "rcd_5": _rcds,
    "rcd_ramp": _rcds,
    "rcd_button": _rcds,
    "afdd": partial(_circuits, wanted=_with_arc_detection),
    "spd": _spds,
    "rot": _three_phase_boards,
    "func": _boards,
    "tester": partial(_circuits, wanted=_feeds_outlets),
}
#: What is read where there is a doubt, beside what the plan has: circuit by circuit, or of the supply.
_BESIDE: Mapping[ReadingKind, Callable[[Installation], Iterator[Subject]]] = {
    "insp": _circuits,
    "ident": _circuits,
    "func": _circuits,
    "rot": partial(_circuits, wanted=_of_three_lines),
    "u_ln": _circuits,
    "u_ll": partial(_circuits, wanted=_of_several_lines),
    "u_le": _supply_and_circuits,
    "u_ne": _supply_and_circuits,
    "u_me": _supply_and_circuits,
    "i_pe": _supply_and_circuits,
    "r_nn": _circuits,
    "r_cc": _circuits,
    "ir_cc": _circuits,
    "ir_selv": _circuits,
    "i_res": _circuits,
    "temp": _circuits,
    "rcd_load": _behind_rcds,
    "rcd_other": _behind_shared,
}
