"""Words on a board: the chart by way and by room, and the notices that have to stand at it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.isolation.live_parts import live_behind_main
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE
from vivid_lattice.core.document.served import rooms_of_circuit
from vivid_lattice.core.messages import Joined, message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True, kw_only=True)
class ChartLine:
    """A way on the chart: its text, its device, the rooms it feeds, and what is in them."""

    way: int
    circuit: str
    text: str
    device: str
    rooms: tuple[str, ...]
    feeds: tuple[str, ...]
    trips_with: str


@dataclass(frozen=True, slots=True)
class Notice:
    """A notice for the board, and where it is required."""

    text: str
    source: Source


def chart_of(model: BoardModel) -> tuple[ChartLine, ...]:
    """Every way in its order, in the user's words where there are any. ``goes_with``: the shared device it goes off with. The rooms
    of a feeder are those of everything behind it."""
    texts = {text.circuit: text.text for text in model.board.build.labels.texts}
    groups = {group.id: group.name for group in model.board.shared_rcds}
    chart = []
    for way in sorted(model.board.ways, key=lambda way: way.number):
        circuit = model.tree.circuits[way.circuit]
        unit = (or_none(lambda: model.units.by_id) or {}).get(f"way:{circuit.id}")
        circuits = (circuit, *model.tree.fed_through(circuit))
        rooms = dict.fromkeys(
            model.tree.rooms[room].name for circuit in circuits for room in rooms_of_circuit(model.job, circuit)
        )
        chart.append(
            ChartLine(
                way=way.number,
                circuit=circuit.id,
                text=texts.get(circuit.id, circuit.name),
                device=unit.mark if unit else "",
                rooms=tuple(rooms),
                feeds=_feeds(model.tree, circuit),
                trips_with=groups.get(way.rcd or "", ""),
            )
        )
    return tuple(chart)


def notices_of(boards: Mapping[str, BoardModel], model: BoardModel) -> tuple[Notice, ...]:
    """The notices that the standard requires at a board as it is."""
    board = model.board
    holds = {
        "always": True,
        "origin": is_origin(board.fed_by),
        "earth": is_origin(board.fed_by) or (board.earthing is not None and board.earthing.kind in WITH_ELECTRODE),
        "contactor": any(gear.kind == "contactor" for gear in board.control_gear),
        "rcd": any(unit.rcd is not None for unit in model.units.all),
        "ahead": _ahead(boards, model),
    }
    notices = [Notice(notice.text, notice.source) for notice in model.rules.board.notices if holds[notice.when]]
    return (*notices, *_other_supplies(boards, model))


def _other_supplies(boards: Mapping[str, BoardModel], model: BoardModel) -> Iterator[Notice]:
    """That there is another supply, and where each source is isolated: at the board of each, and at the origin."""
    here = {way.circuit for way in model.board.ways}
    names = [
        circuit.name
        for circuit in model.job.circuits
        if circuit.source is not None and (circuit.id in here or is_origin(model.board.fed_by))
    ]
    names += [
        each.board.standby.name
        for each in boards.values()
        if each.board.standby is not None and (each.board.id == model.board.id or is_origin(model.board.fed_by))
    ]
    if names:
        text = message(model.rules.words, "core.label.other_supplies", list=Joined.of(names))
        yield Notice(str(text), model.rules.sources.isolation)


def _ahead(boards: Mapping[str, BoardModel], model: BoardModel) -> bool:
    """Whether anything but the main switch's own incoming side stays live when it is open."""
    if model.board.main_switch is None:
        return False
    return bool(live_behind_main(boards, model.board.id))


def _feeds(tree: Tree, circuit: Circuit) -> tuple[str, ...]:
    """What a circuit feeds, in words: its board, or its loads with their number."""
    board = tree.feeds.get(circuit.id)
    if board is not None:
        return (tree.boards[board].name,)
    return tuple(f"{load.items} × {load.name}" if load.items > 1 else load.name for load in circuit.loads)
