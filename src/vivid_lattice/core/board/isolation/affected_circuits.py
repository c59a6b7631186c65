"""What loses supply with a device of a board: every circuit behind it, those of further boards included."""

from __future__ import annotations

from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.network.tree import Tree


def circuits_lost_with(tree: Tree, board: Board, unit: BoardDevice) -> tuple[Circuit, ...]:
    """Circuits that go off with a device, in the order of the ways: of a main switch all, of a shared RCD those behind it, of a way's
    own device its circuit."""
    if unit.kind == "main":
        circuit_ids = [way.circuit for way in board.ways]
    elif unit.kind == "rcd":
        circuit_ids = [way.circuit for way in board.ways if f"rcd:{way.rcd}" == unit.id]
    else:
        circuit_ids = [unit.circuit.id] if unit.circuit else []
    return tuple(
        circuit for name in circuit_ids for circuit in (tree.circuits[name], *tree.fed_through(tree.circuits[name]))
    )
