"""A surge protective device for a job that has none: the usual one, in its place on the first board, with its leads as laid out."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.actions.move_device import model_of
from vivid_lattice.core.actions.propose_layout import propose_layout
from vivid_lattice.core.checks import SUPPLY_CHECKS, run_supply_check
from vivid_lattice.core.checks.surge import ID
from vivid_lattice.core.design.board_changes import surge_device
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.job import Board, Job, with_parts
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import SupplyContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set

_CHECK = next(check for check in SUPPLY_CHECKS if check.id == ID)


@dataclass(frozen=True, slots=True, kw_only=True)
class SurgeProposal:
    """The job with the device fitted, the device, its board, what it is beside ('': at the end of the rail), the length of its
    leads as laid out [m], and the result that the job would get."""

    document: Job
    device: Spd
    board: str
    beside: Text
    leads_m: float | None
    finding: Finding


def propose_surge(job: Job) -> SurgeProposal:
    """The proposal for a job without surge protection. Its board is laid out with the device: in its enclosure, else in the one
    that is proposed for it.

    Raises  BadDocument where a device is fitted already, the first board has no circuits, or the board cannot be laid out
    """
    board = next((each for each in job.boards if is_origin(each.fed_by)), None)
    if board is None or not board.ways:
        raise _not_possible("core.propose_surge.no_circuits")
    if any(each.spds for each in job.boards):
        raise _not_possible("core.propose_surge.fitted")
    device = surge_device(job, board)
    fitted = board.model_copy(update={"spds": (device,)})
    laid_out = propose_layout(with_parts(job, (), (fitted,)), board.id).document
    network = Installation.of(laid_out, rule_set(job.job.rules))
    placed = laid_out.board(board.id)
    return SurgeProposal(
        document=laid_out if board.build.enclosure is not None else with_parts(job, (), (fitted,)),
        device=placed.spds[0],
        board=board.name,
        beside=_beside(laid_out, placed, device),
        leads_m=network.boards[board.id].surge_leads_m(device.id),
        finding=run_supply_check(_CHECK, SupplyContext(network, explain=True)),
    )


def _not_possible(key: str) -> BadDocument:
    return BadDocument([DocumentProblem("boards.spds", message(None, key))])


def _beside(job: Job, board: Board, device: Spd) -> Text:
    """The device that is next to it on its rail: the one nearer to the main switch where there are two."""
    places = model_of(job, board.id).places
    unit = places.placed[f"surge:{device.id}"]
    main = next((placed for placed in places.in_order() if placed.unit.kind == "main"), None)
    towards = main.offset_modules if main is not None and main.row == unit.row else 0.0
    neighbours = [placed for placed in places.row(unit.row) if placed.unit.id != unit.unit.id]
    nearest = min(
        neighbours,
        key=lambda placed: (
            min(abs(placed.end - unit.offset_modules), abs(placed.offset_modules - unit.end)),
            abs(placed.offset_modules - towards),
        ),
        default=None,
    )
    return nearest.unit.name if nearest is not None else ""
