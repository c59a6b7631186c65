"""One more point on an existing circuit over HTTP: where it could be joined, and whether it may be."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentRequest
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Wall
from vivid_lattice.core.extension.candidates import Candidate, Place, candidates
from vivid_lattice.core.extension.decision import ExtensionDecision, decide
from vivid_lattice.core.extension.wanted import Host, PointWanted, WantedPoint
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.extension_rules import Found, FoundRow

router = APIRouter(prefix="/api/extension", tags=["extension"], route_class=ComputingRoute)

_Along = Annotated[float, Field(ge=0, le=200)]


class CandidatesRequest(BaseModel):
    """The kind of point that is wanted, and where: on a wall of a room of the plan; none: not stated."""

    document: Job
    kind: PointWanted
    room: str | None = None
    wall: Wall | None = None
    along_m: _Along | None = None
    height_m: Annotated[float, Field(ge=0, le=10)] | None = None


class DecisionRequest(BaseModel):
    """A point, the circuit it is joined to, and what was found at the box."""

    document: Job
    circuit: str
    found: Found
    outlets_on_ring: Annotated[int, Field(ge=0, le=500)] | None = None
    spurs: Annotated[int, Field(ge=0, le=500)] | None = None
    name: Annotated[str, Field(min_length=1, max_length=120)]
    kind: PointWanted
    length_m: Annotated[float, Field(gt=0, le=500)]
    power_w: Annotated[float, Field(gt=0, le=100_000)] | None = None
    concealed_in: Literal["no", "wall", "metal-partition", "floor-or-ceiling"] | None = None
    depth_mm: Annotated[float, Field(ge=0, le=2000)] | None = None
    area_mm2: Annotated[float, Field(gt=0, le=400)] | None = None
    fused: bool = False
    outlets: Annotated[int, Field(ge=1, le=50)] = 1


@router.post("/found")
def what_can_be_found(request: DocumentRequest) -> list[FoundRow]:
    """What can be found at a box under the standard of a document."""
    return list(rule_set(request.document.job.rules).extension.found)


@router.post("/candidates")
def candidate_boxes(request: CandidatesRequest) -> list[Candidate]:
    """Boxes that could take the point, the nearest first where the document has a plan."""
    place = None
    if request.room is not None and request.wall is not None and request.along_m is not None:
        place = Place(room=request.room, wall=request.wall, along_m=request.along_m, height_m=request.height_m)
    return list(candidates(checked(request.document), request.kind, place))


@router.post("/decision")
def decision_for_point(request: DecisionRequest) -> ExtensionDecision:
    """Whether the point may be joined there, what it does to the circuit, and in which order it is done and tested."""
    host = Host(
        circuit=request.circuit, found=request.found, outlets_on_ring=request.outlets_on_ring, spurs=request.spurs
    )
    wanted = WantedPoint(
        name=request.name, kind=request.kind, length_m=request.length_m, power_w=request.power_w,
        concealed_in=request.concealed_in, depth_mm=request.depth_mm, area_mm2=request.area_mm2, fused=request.fused,
        outlets=request.outlets,
    )  # fmt: skip
    return decide(checked(request.document), host, wanted)
