"""Loads that certainly run together, or run at all: what of the demand no diversity takes off."""

from __future__ import annotations

from vivid_lattice.core.document.job import LINES, Board, Circuit, Line, Load
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.formulas.load_currents import lines_of_load, load_current_a
from vivid_lattice.core.installation.installation import Installation

#: Appliance of storage heating, all of which the tariff switches on at once.
_STORAGE = "storage-heater"


def runs_for_certain(load: Load) -> bool:
    """Whether a load is on while the rest draws most: as stated; else charging that nothing manages, and storage heating."""
    if load.at_peak is not None:
        return load.at_peak == "always"
    return load.kind == "charger" or load.appliance == _STORAGE


def certain_a(network: Installation, board: Board | None = None) -> tuple[float, Line]:
    """Current of the loads that certainly run together, or of one load alone where it is more, in the line that carries most of it
    [A], and that line.

    board   behind a board alone; None: in the whole job
    Loads whose power is not known are left out: the demand itself requires them.
    """
    supply = network.job.supply
    alone: dict[Line, float] = dict.fromkeys(LINES[: supply.phases], 0.0)
    sums: dict[Line, float] = dict.fromkeys(LINES[: supply.phases], 0.0)
    for circuit in _circuits(network, board):
        supplied = network.tree.supplied(circuit)
        for load in _running(circuit):
            try:
                current = circuit.design_current_a or load_current_a(load, supplied)
            except NeedsInput:
                continue
            for line in lines_of_load(load, supplied):
                sums[line] = sums.get(line, 0.0) + current * runs_for_certain(load)
                # The plates and the oven of a cooker are hardly ever all on: it has a diversity of its own.
                if load.kind != "cooker":
                    alone[line] = max(alone.get(line, 0.0), current / load.items)
    certain = {line: max(sums[line], alone[line]) for line in sums}
    worst = max(certain, key=lambda line: certain[line])
    return certain[worst], worst


def _running(circuit: Circuit) -> list[Load]:
    """The loads of a circuit that may be on at peak; of a circuit whose current is stated one, since that current is of them all."""
    loads = [load for load in circuit.loads if load.at_peak not in ("managed", "off")]
    if circuit.design_current_a is None:
        return loads
    return sorted(loads, key=runs_for_certain, reverse=True)[:1]


def _circuits(network: Installation, board: Board | None) -> list[Circuit]:
    circuits = network.job.circuits if board is None else network.tree.fed_by_board(board)
    return [circuit for circuit in circuits if circuit.kind != "distribution"]
