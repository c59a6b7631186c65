"""Boards over HTTP: how one is drawn, laid out, moved about in and made dead. Stateless."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer, DocumentRequest
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.api.streaming import Cancelled, LinesResponse, Put, in_lines
from vivid_lattice.core.actions.add_circuit import AddCircuitOption, add_circuit_options
from vivid_lattice.core.actions.move_device import board_of, lay_out, move, numbered_as_placed
from vivid_lattice.core.actions.propose_layout import LayoutProposal, propose_layout
from vivid_lattice.core.actions.propose_surge import SurgeProposal, propose_surge
from vivid_lattice.core.actions.swap_device import Swap, swap
from vivid_lattice.core.board.board_view import BoardView, view_of
from vivid_lattice.core.board.catalogue import CatalogueEnclosure, enclosures
from vivid_lattice.core.board.isolation.isolation_steps import Isolation, isolation_for
from vivid_lattice.core.checks import BOARD_CHECKS, run_board_check
from vivid_lattice.core.document.job import Circuit, Device, Job
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set

router = APIRouter(prefix="/api/boards", tags=["boards"], route_class=ComputingRoute)

BoardId = Annotated[str, Field(max_length=40, examples=["main"])]


class ViewRequest(BaseModel):
    """A board of a document, and the switches (``board|unit``) that are open."""

    document: Job
    board: BoardId
    open: Annotated[list[Annotated[str, Field(max_length=120)]], Field(max_length=400)] = []
    supply_on: bool = True


class ViewAnswer(BaseModel):
    """A board as it is drawn, with what the checks of its build say."""

    view: BoardView
    findings: list[Finding]


class MoveRequest(BaseModel):
    """A device of a board to put elsewhere: its row, and modules from the row's start. ``dragging``: it is not let go yet, so that
    the conductors need not be drawn."""

    document: Job
    board: BoardId
    device: Annotated[str, Field(max_length=60, examples=["way:c1"])]
    row: Annotated[int, Field(ge=1, le=8)]
    offset_modules: Annotated[float, Field(ge=0, le=48)]
    dragging: bool = False


class Moved(BaseModel):
    """The document with the device moved, and the board as it is then."""

    document: Job
    view: BoardView
    findings: list[Finding]


class BoardRequest(BaseModel):
    """A board of a document."""

    document: Job
    board: BoardId


class IsolateRequest(BaseModel):
    """Work to be done: at a device of the board (its id), out at a circuit (``circuit:<id>``), or on the whole ``board``."""

    document: Job
    board: BoardId
    work: Annotated[str, Field(max_length=60, examples=["circuit:c1"])]


class LayoutLine(BaseModel):
    """A line of the answer while a board is laid out: a better layout was found, or the best there was time for."""

    kind: Literal["better", "done"]
    cost: int
    bound: int
    proven: bool = False
    seconds: float = 0.0
    document: Job | None = None


class AddCircuitRequest(BaseModel):
    """A circuit to add to a board; what it leaves open is chosen."""

    document: Job
    board: BoardId
    circuit: Circuit


class SwapRequest(BaseModel):
    """A circuit whose device is changed for another one in its place."""

    document: Job
    circuit: Annotated[str, Field(max_length=40, examples=["c1"])]
    device: Device


@router.post("/add-circuit")
def add_circuit(request: AddCircuitRequest) -> list[AddCircuitOption]:
    """Every way to add a circuit to a board, each designed and checked."""
    return list(add_circuit_options(checked(request.document), request.board, request.circuit))


@router.post("/swap-device")
def swap_device(request: SwapRequest) -> Swap:
    """What changing a device in its place meets."""
    return swap(checked(request.document), request.circuit, request.device)


@router.post("/propose")
def propose(request: BoardRequest) -> LayoutProposal:
    """A board laid out in the smallest enclosure that fits with spare space. Nothing is saved."""
    return propose_layout(checked(request.document), request.board)


@router.post("/propose-surge")
def propose_surge_device(request: DocumentRequest) -> SurgeProposal:
    """The usual surge protective device in its place, for a job that has none. Nothing is saved."""
    return propose_surge(checked(request.document))


@router.get("/enclosures")
def list_enclosures() -> list[CatalogueEnclosure]:
    """The enclosures that come with the program."""
    return list(enclosures())


@router.post("/view")
def view_board(request: ViewRequest) -> ViewAnswer:
    """A board with everything in it, joins it and is live of it."""
    job = checked(request.document)
    board_of(job, request.board)
    return _view(job, request.board, request.open, request.supply_on)


def _view(job: Job, board: str, open_: list[str], supply_on: bool = True, wired: bool = True) -> ViewAnswer:
    network = Installation.of(job, rule_set(job.job.rules))
    context = BoardContext(network, board_of(job, board), explain=False)
    findings = [run_board_check(check, context) for check in BOARD_CHECKS if check.category == "build"]
    return ViewAnswer(view=view_of(network.boards, board, open_, supply_on, wired=wired), findings=findings)


@router.post("/move-device")
def move_device(request: MoveRequest) -> Moved:
    """A device put elsewhere; its neighbours make room."""
    job = move(checked(request.document), request.board, request.device, request.row, request.offset_modules)
    view_answer = _view(job, request.board, [], wired=not request.dragging)
    return Moved(document=job, view=view_answer.view, findings=view_answer.findings)


@router.post("/renumber")
def renumber(request: BoardRequest) -> DocumentAnswer:
    """The ways of a board numbered as they stand."""
    return DocumentAnswer(document=numbered_as_placed(checked(request.document), request.board))


@router.post("/isolation-steps")
def isolate(request: IsolateRequest) -> Isolation:
    """The order of isolation for the work to be done."""
    job = checked(request.document)
    board_of(job, request.board)
    network = Installation.of(job, rule_set(job.job.rules))
    units = network.boards[request.board].units.by_id
    known = {"board", *units, *(f"circuit:{unit.circuit.id}" for unit in units.values() if unit.circuit is not None)}
    if request.work not in known:
        raise BadDocument([DocumentProblem("work", message(None, "api.no_work", work=request.work))])
    return isolation_for(network.boards, request.board, request.work)


@router.post("/lay-out", response_class=LinesResponse, responses={200: {"model": LayoutLine}})
async def lay_out_board(request: BoardRequest, client: Request) -> LinesResponse:
    """A board laid out, line by line as better layouts are found. Hanging up ends the search.

    What cannot be laid out is refused before the first line.
    """
    job = checked(request.document)
    board_of(job, request.board)

    def work(put: Put, cancelled: Cancelled) -> None:
        made, layout_result = lay_out(
            job,
            request.board,
            cancelled=cancelled,
            better=lambda cost, bound: put(LayoutLine(kind="better", cost=cost, bound=bound)),
        )
        put(
            LayoutLine(
                kind="done",
                cost=layout_result.cost,
                bound=layout_result.bound,
                proven=layout_result.proven,
                seconds=layout_result.seconds,
                document=made,
            )
        )

    return await in_lines(client, work)
