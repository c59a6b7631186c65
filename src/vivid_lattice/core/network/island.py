"""A board while the supply is off and a source of its own supplies it: which circuits it feeds, and the fault currents there."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.job import Board, Circuit, Job
from vivid_lattice.core.document.local_earthing import own_electrode_alone
from vivid_lattice.core.formulas.device.loop import fault_current_a
from vivid_lattice.core.network.loops import Loops
from vivid_lattice.core.network.tree import RcdAhead, Tree


@dataclass(frozen=True, slots=True)
class IslandFault:
    """An earth fault at the end of a circuit: its current [A], and the loop of the conductors it runs through [Ω]."""

    current_a: float
    loop_ohm: float


class Island:
    """What a board's standby source supplies while the supply is off."""

    def __init__(self, job: Job, tree: Tree, loops: Loops, board: Board):
        self._job, self._tree, self._loops, self._board = job, tree, loops, board

    def circuits(self) -> tuple[Circuit, ...]:
        """Every circuit that it supplies, of boards behind too; those that are sources themselves left out."""
        return tuple(circuit for circuit in self._tree.fed_by_board(self._board) if circuit.source is None)

    def earth_fault(self, circuit: Circuit, source_a: float) -> IslandFault:
        """An earth fault at the end of a circuit.

        Equation  I = min(Is, U0 / |Σ(R1+R2) + jΣX|): an inverter limits its current, and its voltage drives no more than the loop takes
        source_a  Is, what the source gives into a short circuit [A]
        Raises    NeedsInput while a run or an electrode is not known
        Source    physics; neutral and earth of the source are joined at it, so that nothing of the network is in the loop
        """
        loop = sum((self._loops.run(link).loop for link in self._behind(circuit)), 0j)
        earth = self._tree.earth_of(circuit)
        if earth.own is not None and own_electrode_alone(earth.own):
            # Back through the ground: its electrode, and that of the source.
            loop += self._loops.local_electrode_ohm(earth) + self._loops.standby_electrode_ohm(self._board)
        driven_a = fault_current_a(self._job.supply.nominal_v, abs(loop)) if loop else source_a
        return IslandFault(min(source_a, driven_a), abs(loop))

    def _behind(self, circuit: Circuit) -> tuple[Circuit, ...]:
        """The circuit and the feeders between it and the board."""
        links: list[Circuit] = []
        for link in reversed(self._tree.chain(circuit)):
            links.append(link)
            if self._tree.place(link).board.id == self._board.id:
                break
        return tuple(reversed(links))

    def rcds(self, circuit: Circuit) -> tuple[RcdAhead, ...]:
        """Residual-current functions between the source and a circuit, nearest first: those of the board and of the boards behind it."""
        boards = {self._tree.place(link).board.id for link in self._behind(circuit)}
        return tuple(ahead for ahead in self._tree.rcds_ahead(circuit) if ahead.board in boards)
