"""A job while a board is on its standby supply: the board and those behind it, fed by a source that limits its current."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.job import Board, Job
from vivid_lattice.core.errors import NeedsInput, NotPossible
from vivid_lattice.core.installation.installation import Installation

#: Impedance of a source that holds its voltage up to its limit [Ω]: none that matters beside a run.
_SOURCE_OHM = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class LimitedSource:
    """A source whose current is limited: the least and the most that it gives into a short circuit [A], when it stops after its
    voltage has broken down [s], and its electrode [Ω]; None: not known. ``multiple_known``: what it gives is from its data."""

    name: str
    board: str
    least_a: float
    most_a: float
    multiple_known: bool
    shutdown_s: float | None
    electrode_ohm: float | None


def on_standby(network: Installation, board_id: str) -> tuple[Job, LimitedSource]:
    """The job of a board on its standby supply, and the source; sources at the end of its circuits are left out.

    Neutral and earth are joined at the source, or where the network has them joined while the neutral is not switched.
    Raises  NotPossible where the board has no standby supply, or no neutral is joined to earth: then no fault current flows;
            NeedsInput while its rating or its link is not known
    """
    job, tree = network.job, network.tree
    board = tree.boards.get(board_id)
    standby = board.standby if board is not None else None
    if board is None or standby is None:
        raise NotPossible(network.message("core.fault.no_standby", board=board_id))
    for field in ("rated_a", "neutral_earth_link", "switched_poles"):
        if getattr(standby, field) is None:
            need = f"core.check.standby-supply.need.{field}"
            raise NeedsInput(network.need(need, f"boards.standby.{field}", name=standby.name))
    if standby.neutral_earth_link == "none" and standby.switched_poles == "all":
        raise NotPossible(network.message("core.fault.standby_no_link", name=standby.name))
    fed = {circuit.id for circuit in tree.fed_by_board(board) if circuit.source is None}
    boards = tuple(_kept(each, each.id == board.id, fed) for each in job.boards if _reached(network, each, board))
    low, high, _ = network.rules.sources.inverter_multiple()
    rated_a, stated = standby.rated_a or 0.0, standby.fault_multiple
    system = "TN-S" if job.supply.system == "TT" and "TN-S" in network.rules.systems else job.supply.system
    supply = job.supply.model_copy(
        update={
            "system": system,
            "ze_ohm": _SOURCE_OHM,
            "fault_current_ka": job.supply.nominal_v / _SOURCE_OHM / 1000,
            "transformer": None,
            "service_cable": None,
            "electrode": None,
            "cutout": None,
        }
    )
    circuits = tuple(circuit for circuit in job.circuits if circuit.id in fed)
    island = job.model_copy(update={"supply": supply, "boards": boards, "circuits": circuits})
    source = LimitedSource(
        name=standby.name,
        board=board.name,
        least_a=(stated or low) * rated_a,
        most_a=(stated or high) * rated_a,
        multiple_known=stated is not None,
        shutdown_s=standby.shutdown_s,
        electrode_ohm=standby.electrode_ohm,
    )
    return island, source


def _reached(network: Installation, board: Board, source: Board) -> bool:
    """Whether a board is the one with the source, or behind it."""
    if board.id == source.id:
        return True
    feeder = network.tree.feeder(board)
    return feeder is not None and feeder in network.tree.fed_by_board(source)


def _kept(board: Board, first: bool, fed: set[str]) -> Board:
    ways = tuple(way for way in board.ways if way.circuit in fed)
    changed: dict[str, object] = {"ways": ways, "standby": None}
    if first:
        changed |= {"fed_by": "origin", "tap": None}
    return board.model_copy(update=changed)
