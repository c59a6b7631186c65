"""What people or older programs wrote: a circuit as a line, a way of an existing board as a line, a document of any version."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.assessments import Designed
from vivid_lattice.api.bodies import DocumentAnswer, DocumentRequest
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.line_preview import LinePreview, preview
from vivid_lattice.core.document.existing_board import ExistingBoard, ExistingWay
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.way_line import read_way
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules import rule_set

router = APIRouter(prefix="/api/parse", tags=["reading"], route_class=ComputingRoute)


class EntryRequest(BaseModel):
    """A typed line, and the board it is meant for."""

    document: Job
    board: Annotated[str, Field(examples=["main"])]
    text: Annotated[str, Field(max_length=300, examples=["cooker 7.2kW 14m"])]


class EnteredCircuit(Designed):
    """The document with the new circuit in it, and what was assumed where the line said nothing; or, of a line that switches circuits
    together, what it did."""

    circuit: str | None
    assumed: list[Text]
    said: list[Text]


class WayLine(BaseModel):
    """A typed line, the rule set, and the board it goes into."""

    rules: Annotated[str, Field(max_length=40)] = "uk"
    board: ExistingBoard
    text: Annotated[str, Field(max_length=300, examples=["3 fuse 30 6mm cooker"])]


@router.post("/circuit")
def parse_circuit(request: EntryRequest) -> EnteredCircuit:
    """A typed line made into a circuit, placed in the first free way and designed."""
    entered = enter_and_design(checked(request.document), request.text, request.board)
    return EnteredCircuit(
        document=entered.job,
        decisions=list(entered.decisions),
        circuit=entered.circuit,
        assumed=list(entered.assumed),
        said=list(entered.said),
    )


@router.post("/preview")
def preview_circuit(request: EntryRequest) -> LinePreview:
    """A typed line as it would be entered, in chips, with the verdict it would get. Nothing is entered."""
    return preview(checked(request.document), request.text, request.board)


@router.post("/way", responses=NOT_FOUND)
def parse_way(line: WayLine) -> ExistingWay:
    """A typed line as a way. Refused with what was not understood."""
    return read_way(rule_set(line.rules), line.board, line.text)


@router.post("/document")
def read_document(request: DocumentRequest) -> DocumentAnswer:
    """A document of any version, such as an edit that a browser has held since an older program, as the newest one writes it."""
    return DocumentAnswer(document=checked(request.document))
