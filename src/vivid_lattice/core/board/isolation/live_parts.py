"""What is live: which conductors carry a voltage with given switches open, by following the metal from the supply."""

from __future__ import annotations

from collections import deque
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Literal

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.local_earthing import own_electrode_alone
from vivid_lattice.core.optional import or_none

#: 'live': at a line's voltage of the supply; 'generated': joined to another source alone, which keeps it live until it stops or is isolated;
#: 'through-load': parted from the neutral and joined to a line by what is connected; 'neutral': joined to the supply's neutral;
#: 'earth': joined to the main earth; 'dead': joined to nothing.
State = Literal["live", "generated", "through-load", "neutral", "earth", "dead"]
#: What can be touched at a voltage.
HOT: frozenset[State] = frozenset({"live", "generated", "through-load"})


@dataclass(frozen=True, slots=True, kw_only=True)
class LiveNet:
    """A net of a board, what state it is in, and the line it is joined to, if any."""

    board: str
    net: str
    conductor: str
    state: State
    line: str


def switch_id(board: str, unit: str) -> str:
    """Name of a switch of a board.

    >>> switch_id("main", "way:c1")
    'main|way:c1'
    """
    return f"{board}|{unit}"


def source_id(owner: str) -> str:
    """Name of the isolator of a source: of the circuit it is on, or of the board it is the standby supply of.

    >>> source_id("c4")
    'source|c4'
    """
    return f"source|{owner}"


def live_nets(boards: Mapping[str, BoardModel], open_: Collection[str], supply_on: bool = True) -> list[LiveNet]:
    """Every net of every board, with the named switches open (``board|unit``, ``source|circuit``) and all others closed.

    What is connected is taken to be switched on: a neutral parted from the supply while its line is on is live through it.
    Boards whose lines are not known are left out.
    """
    graph = _Graph(boards, frozenset(open_))
    reached = graph.from_lines() if supply_on else {}
    generated = {key: line for key, line in graph.from_sources().items() if key not in reached}
    neutral = graph.joined(graph.supply("N"))
    earth = graph.joined(graph.supply("PE"))
    loaded = graph.through_loads({**generated, **reached}, neutral)
    nets = []
    for (board, net), conductor in graph.conductors.items():
        key = (board, net)
        line = reached.get(key, "")
        state: State = "dead"
        if line:
            state = "live"
        elif key in generated:
            state, line = "generated", generated[key]
        elif key in neutral:
            state = "neutral"
        elif key in earth:
            state = "earth"
        elif key in loaded:
            state, line = "through-load", loaded[key]
        nets.append(LiveNet(board=board, net=net, conductor=conductor, state=state, line=line))
    return nets


_Key = tuple[str, str]


class _Graph:
    """Nets of all boards, joined by closed contacts and by the cables from board to board."""

    def __init__(self, boards: Mapping[str, BoardModel], open_: frozenset[str]):
        self.conductors: dict[_Key, str] = {}
        self._near: dict[_Key, list[_Key]] = {}
        self._loads: list[tuple[_Key, _Key]] = []
        self._sources: list[tuple[_Key, str]] = []
        self._links: list[tuple[_Key, _Key]] = []
        #: Where other sources are connected, with their line.
        self._other_sources: list[tuple[_Key, str]] = []
        board_models = {
            name: model for name, model in boards.items() if or_none(partial(getattr, model, "scheme")) is not None
        }
        for name, model in board_models.items():
            self.conductors.update({(name, net.id): net.conductor for net in model.scheme.nets})
            self._board(name, model, open_)
        for name, model in board_models.items():
            self._feeder(name, model, board_models)

    def _join(self, a: _Key, b: _Key) -> None:
        self._near.setdefault(a, []).append(b)
        self._near.setdefault(b, []).append(a)

    def _board(self, name: str, model: BoardModel, open_: frozenset[str]) -> None:
        nets = model.net_of
        for switch, contacts in model.scheme.contacts.items():
            if switch_id(name, switch) in open_:
                continue
            for start, end in contacts:
                self._join((name, nets[start]), (name, nets[end]))
        for net in model.scheme.nets:
            for terminal in net.terminals:
                if terminal.kind == "switch" and terminal.side == "back":
                    # What is connected is taken to be switched on: a push-button, the switch of a coil.
                    out = Terminal.of(terminal.device, terminal.conductor, "out")
                    self._join((name, net.id), (name, nets[out]))
        for start, end in model.scheme.unbroken:
            self._join((name, nets[start]), (name, nets[end]))
        if model.scheme.link is not None:
            self._links.append(((name, "N"), (name, "PE")))
        for unit in model.units.all:
            if unit.kind == "way" and unit.circuit is not None and unit.circuit.kind != "distribution":
                self._loads_of(name, unit, unit.circuit, nets)
                if unit.circuit.source is not None and source_id(unit.circuit.id) not in open_:
                    cable = _cable_of(unit.circuit)
                    self._other_sources += [((name, nets[f"{cable}/{line}"]), line) for line in unit.lines]
        if model.board.standby is not None and source_id(name) not in open_:
            self._other_sources += [((name, nets[f"supply/{line}"]), line) for line in model.units.lines]

    def _loads_of(self, name: str, unit: BoardDevice, circuit: Circuit, nets: Mapping[str, str]) -> None:
        """What is connected to a circuit joins each of its lines to the neutral and to the other lines; a source alone joins nothing."""
        if circuit.source is not None and not circuit.loads:
            return
        cable = _cable_of(circuit)
        ends = [(name, nets[f"{cable}/{line}"]) for line in unit.lines]
        back = [(name, nets[f"{cable}/N"])] if circuit.neutral else []
        for number, line in enumerate(ends):
            self._loads += [(line, other) for other in (*back, *ends[number + 1 :])]

    def _feeder(self, name: str, model: BoardModel, board_models: Mapping[str, BoardModel]) -> None:
        conductors = (*model.units.lines, "N", "PE")
        board = model.board
        if is_origin(board.fed_by):
            self._sources += [((name, model.net_of[f"supply/{conductor}"]), conductor) for conductor in conductors]
            return
        feeder, above = model.tree.feeder(board), board.fed_by.board
        if feeder is None or above not in board_models:
            return
        for conductor in conductors:
            start = board_models[above].net_of.get(f"cable:{feeder.id}/{conductor}")
            end = model.net_of.get(f"supply/{conductor}")
            if end is None:
                continue
            if conductor == "PE" and own_electrode_alone(board.earthing):
                self._sources.append(((name, end), "PE"))  # earthed by its own electrode, apart from its feeder
            elif start is not None:
                self._join((above, start), (name, end))

    def supply(self, conductor: str) -> list[_Key]:
        """The nets a conductor of the supply arrives at."""
        return [key for key, source in self._sources if source == conductor]

    def joined(self, start: Collection[_Key]) -> set[_Key]:
        """All nets that closed contacts join to some."""
        seen, queue = set(start), deque(start)
        while queue:
            for near in self._near.get(queue.popleft(), ()):
                if near not in seen:
                    seen.add(near)
                    queue.append(near)
        return seen

    def from_lines(self) -> dict[_Key, str]:
        """Nets joined to a line of the supply, with that line."""
        state_by_net: dict[_Key, str] = {}
        for conductor in ("L1", "L2", "L3"):
            for key in self.joined(self.supply(conductor)):
                state_by_net.setdefault(key, conductor)
        return state_by_net

    def from_sources(self) -> dict[_Key, str]:
        """Nets joined to a source other than the supply, with its line."""
        state_by_net: dict[_Key, str] = {}
        for start, line in self._other_sources:
            for key in self.joined([start]):
                state_by_net.setdefault(key, line)
        return state_by_net

    def through_loads(self, reached: Mapping[_Key, str], neutral: Collection[_Key]) -> dict[_Key, str]:
        """Nets that only what is connected joins to a line: nothing else holds them at the neutral's potential."""
        state_by_net: dict[_Key, str] = {}
        changed = True
        while changed:
            changed = False
            for a, b in (pair for load in self._loads for pair in (load, load[::-1])):
                line = reached.get(a) or state_by_net.get(a)
                if not line or any(b in nets for nets in (reached, neutral, state_by_net)):
                    continue
                for key in self.joined([b]):
                    state_by_net[key] = line
                changed = True
        return state_by_net


def isolators(boards: Mapping[str, BoardModel]) -> tuple[str, ...]:
    """The isolators of every source beside the supply."""
    owners = [circuit.id for model in _models(boards) for circuit in model.job.circuits if circuit.source is not None]
    owners += [model.board.id for model in boards.values() if model.board.standby is not None]
    return tuple(source_id(owner) for owner in owners)


def _models(boards: Mapping[str, BoardModel]) -> tuple[BoardModel, ...]:
    """One board's model, which knows the whole job; none where there is no board."""
    return tuple(boards.values())[:1]


def _cable_of(circuit: Circuit) -> str:
    return f"cable:{circuit.id}" + ("+a" if circuit.kind == "ring" else "")


def stays_live(
    boards: Mapping[str, BoardModel], board: str, open_: Collection[str]
) -> Iterator[tuple[LiveNet, tuple[Terminal, ...]]]:
    """What of a board is live with switches open, with the terminals it is live at."""
    model = boards[board]
    terminals_by_net = {net.id: net.terminals for net in model.scheme.nets}
    for net in live_nets(boards, open_):
        if net.board == board and net.state in HOT:
            yield net, terminals_by_net[net.net]


def live_behind_main(boards: Mapping[str, BoardModel], board: str) -> tuple[Terminal, ...]:
    """Terminals of a board that the supply keeps live with its main switch open, those of the switch itself left out. What other sources
    keep live is isolated at them, and told apart.

    Calculated once for each board, since a check and the board's notices both use it.
    """
    model = boards[board]
    if model.live_behind_main is None:
        units = model.units.by_id
        model.live_behind_main = tuple(
            terminal
            for _, terminals in stays_live(boards, board, [switch_id(board, "main"), *isolators(boards)])
            for terminal in terminals
            if terminal.device in units and units[terminal.device].kind != "main"
        )
    return model.live_behind_main
