"""What feeds what."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import LINES, Board, Circuit, Job, Line, Way
from vivid_lattice.core.document.local_earthing import LocalEarthing, links_neutral, own_electrode_alone
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.supply import System
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.formulas.load_currents import CircuitSupply
from vivid_lattice.core.messages import Text, message


@dataclass(frozen=True, slots=True)
class Place:
    """Where a circuit is."""

    board: Board
    way: Way


@dataclass(frozen=True, slots=True)
class RcdAhead:
    """A residual-current function that an earth fault in a circuit runs through, where it is in words, and the board it is in."""

    where: Text
    rcd: Rcd
    board: str


@dataclass(frozen=True, slots=True, kw_only=True)
class EarthInUse:
    """The earth that a board or circuit is connected to.

    own    what is known of it, where it is not the supply's
    owner  the board or circuit that has it; None: the supply's
    """

    system: System
    own: LocalEarthing | None = None
    owner: Board | Circuit | None = None


class Tree:
    """The boards and circuits of a job, by id, with the feeders between them.

    The document has been read by ``read_document``, so every reference holds and there is no loop.
    """

    def __init__(self, job: Job):
        self.job = job
        self.rooms: Mapping[str, Room] = {room.id: room for room in job.rooms}
        self.circuits: Mapping[str, Circuit] = {circuit.id: circuit for circuit in job.circuits}
        self.boards: Mapping[str, Board] = {board.id: board for board in job.boards}
        self.places: Mapping[str, Place] = {
            way.circuit: Place(board, way) for board in job.boards for way in board.ways
        }
        by_way = {(place.board.id, place.way.number): circuit for circuit, place in self.places.items()}
        self._feeder: dict[str, str] = {
            board.id: by_way[(board.fed_by.board, board.fed_by.way)]
            for board in job.boards
            if not is_origin(board.fed_by)
        }
        self.feeds: Mapping[str, str] = {circuit: board for board, circuit in self._feeder.items()}
        self._supplied: dict[str, CircuitSupply] = {}

    def feeder(self, board: Board) -> Circuit | None:
        """The distribution circuit that feeds a board; None where the origin does."""
        circuit = self._feeder.get(board.id)
        return self.circuits[circuit] if circuit else None

    def board_lines(self, board: Board) -> tuple[Line, ...]:
        """The lines that reach a board: those of the supply, or of its feeder. NeedsInput as ``supplied``."""
        feeder = self.feeder(board)
        return LINES[: self.job.supply.phases] if feeder is None else self.supplied(feeder).lines

    def earth_of_board(self, board: Board) -> EarthInUse:
        """The earth of a board: its own where it has an electrode alone or a link of its own, else that of the board it is fed from."""
        own = board.earthing
        if own_electrode_alone(own):
            return EarthInUse(system="TT", own=own, owner=board)
        if links_neutral(own):
            return EarthInUse(system=self.job.supply.system, own=own, owner=board)
        feeder = self.feeder(board)
        if feeder is None:
            return EarthInUse(system=self.job.supply.system)
        return self.earth_of_board(self.place(feeder).board)

    def earth_of(self, circuit: Circuit) -> EarthInUse:
        """The earth of a circuit's points: their own electrode, else that of its board. NeedsInput where it has no way yet."""
        if own_electrode_alone(circuit.earthing):
            return EarthInUse(system="TT", own=circuit.earthing, owner=circuit)
        return self.earth_of_board(self.place(circuit).board)

    def earths(self) -> tuple[EarthInUse, ...]:
        """Every earth of the job, the supply's first."""
        own = [self.earth_of_board(board) for board in self.boards.values()]
        own += [self.earth_of(circuit) for circuit in self.circuits.values() if circuit.id in self.places]
        owners: dict[str, EarthInUse] = {earth.owner.id: earth for earth in own if earth.owner is not None}
        return (EarthInUse(system=self.job.supply.system), *owners.values())

    def supplied(self, circuit: Circuit) -> CircuitSupply:
        """The lines of a circuit: as stated; where nothing is stated, the only line its board has.

        NeedsInput where a board has several lines and no one has said which one feeds the circuit.
        """
        circuit_supply = self._supplied.get(circuit.id)
        if circuit_supply is None:
            supply = self.job.supply
            lines = circuit.lines or self.board_lines(self.place(circuit).board)
            if not circuit.lines and len(lines) > 1:
                raise NeedsInput(
                    Need(
                        message(None, "core.network.need.line.what", circuit=circuit.name),
                        "lines",
                        message(None, "core.network.need.line.ask"),
                    )
                )
            circuit_supply = self._supplied[circuit.id] = CircuitSupply(lines, supply.phases, supply.nominal_v)
        return circuit_supply

    def loaded(self, circuit: Circuit) -> int:
        """Loaded conductors of a circuit: two, or three where it has three lines."""
        return 3 if len(circuit.lines) == 3 else 2

    def place(self, circuit: Circuit) -> Place:
        """Where a circuit is. NeedsInput where it has been given no way yet."""
        try:
            return self.places[circuit.id]
        except KeyError:
            raise NeedsInput(
                Need(
                    message(None, "core.network.need.way.what", circuit=circuit.name),
                    "boards.ways",
                    message(None, "core.network.need.way.ask"),
                )
            ) from None

    def chain(self, circuit: Circuit) -> tuple[Circuit, ...]:
        """The circuit and all feeders ahead of it, from the origin outwards."""
        circuits = [circuit]
        feeder = self.feeder(self.place(circuit).board)
        while feeder is not None:
            circuits.append(feeder)
            feeder = self.feeder(self.place(feeder).board)
        return tuple(reversed(circuits))

    def fed_through(self, circuit: Circuit) -> tuple[Circuit, ...]:
        """All circuits behind a distribution circuit, sub-boards' ones included; of any other circuit, none."""
        board = self.feeds.get(circuit.id)
        if board is None:
            return ()
        return self.fed_by_board(self.boards[board])

    def fed_by_board(self, board: Board) -> tuple[Circuit, ...]:
        """All circuits of a board and of the boards behind it."""
        direct = [self.circuits[way.circuit] for way in board.ways]
        return tuple(below for circuit in direct for below in (circuit, *self.fed_through(circuit)))

    def detected_through(self, circuit: Circuit) -> tuple[Circuit, ...]:
        """Circuits behind a distribution circuit whose earth faults a device ahead of it detects: not those behind a neutral–earth
        link, where the fault current returns in the neutral."""
        board = self.feeds.get(circuit.id)
        if board is None or links_neutral(self.boards[board].earthing):
            return ()
        direct = [self.circuits[way.circuit] for way in self.boards[board].ways]
        return tuple(below for each in direct for below in (each, *self.detected_through(each)))

    def rcds_ahead(self, circuit: Circuit) -> tuple[RcdAhead, ...]:
        """Every residual-current function that an earth fault in a circuit runs through, nearest first: none ahead of a board that
        joins neutral and earth, since the fault current returns to it in the neutral."""
        rcd_aheads: list[RcdAhead] = []
        for link in reversed(self.chain(circuit)):
            place = self.place(link)
            if not is_auto(link.device) and link.device.rcd:
                rcd_aheads.append(
                    RcdAhead(
                        message(None, "core.network.way_at", n=place.way.number, board=place.board.name),
                        link.device.rcd,
                        place.board.id,
                    )
                )
            rcd_aheads.extend(
                RcdAhead(group.name, group.rcd, place.board.id)
                for group in place.board.shared_rcds
                if group.id == place.way.rcd
            )
            switch = place.board.main_switch
            if switch and switch.rcd:
                rcd_aheads.append(
                    RcdAhead(
                        message(None, "core.network.main_switch_at", board=place.board.name), switch.rcd, place.board.id
                    )
                )
            if links_neutral(place.board.earthing):
                break
        return tuple(rcd_aheads)
