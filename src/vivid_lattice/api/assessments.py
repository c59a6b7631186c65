"""Computing over HTTP. Stateless: each call brings the document it is about."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field, TypeAdapter

from vivid_lattice.api.bodies import DocumentRequest
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.compare import Comparison, compare
from vivid_lattice.core.design.decisions import Decision
from vivid_lattice.core.design.larger_supply import Upgrade, larger_supply
from vivid_lattice.core.design.max_lengths import LongestRun, max_lengths
from vivid_lattice.core.design.phase_balance import rebalanced
from vivid_lattice.core.design.rcd_reach import RcdReach, rcd_reach
from vivid_lattice.core.design.remedies import remedies, with_remedies
from vivid_lattice.core.design.what_if import Quantity, WhatIf, WhatIfRange, applied, ranges, what_if
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.findings.finding import Remedy, Subject, SubjectKind
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set

router = APIRouter(prefix="/api", tags=["computing"], route_class=ComputingRoute)
_assessment = TypeAdapter(Assessment)


class CheckCell(BaseModel):
    """A crossing of the lattice."""

    check: Annotated[str, Field(examples=["voltage-drop"])]
    circuit: Annotated[str, Field(examples=["c7"])]


class AssessRequest(BaseModel):
    """A document to assess. ``explain``: the cells whose working is wanted; None: all of them."""

    document: Job
    explain: list[CheckCell] | None = None
    remedies: bool = False


class FindingOf(BaseModel):
    """A finding that wants fixing: its check, and the circuit, the board or the supply it is of."""

    check: Annotated[str, Field(examples=["voltage-drop"])]
    kind: SubjectKind = "circuit"
    subject: Annotated[str, Field(examples=["c7"])]


class RemedyRequest(BaseModel):
    """A finding of a document that wants fixing."""

    document: Job
    finding: FindingOf


class LengthsRequest(BaseModel):
    """A circuit of a document whose longest runs are wanted."""

    document: Job
    circuit: Annotated[str, Field(examples=["c1"])]


class WhatIfRequest(BaseModel):
    """A circuit of a document, and the quantity that is moved."""

    document: Job
    circuit: Annotated[str, Field(examples=["c1"])]
    quantity: Quantity


class ApplyWhatIfRequest(WhatIfRequest):
    """A quantity that is to be kept at the value it was moved to."""

    value: float


class CompareRequest(BaseModel):
    """Two variants of a job."""

    before: Job
    after: Job


class Designed(BaseModel):
    """A document with everything chosen that could be, and why."""

    document: Job
    decisions: list[Decision]


@router.post("/assess", response_model=Assessment)
def assess_document(request: AssessRequest) -> Response:
    """Every finding of a document."""
    job = checked(request.document)
    explain = True if request.explain is None else {(cell.check, cell.circuit) for cell in request.explain}
    assessment = assess(job, explain=explain)
    if request.remedies:
        assessment = with_remedies(job, assessment)
    return Response(_assessment.dump_json(assessment), media_type="application/json")


@router.post("/remedies")
def find_remedies(request: RemedyRequest) -> list[Remedy]:
    """Changes that would fix a finding, each found by assessing the changed job."""
    of = request.finding
    return list(remedies(checked(request.document), of.check, Subject(of.kind, of.subject)))


@router.post("/max-lengths")
def find_max_lengths(request: LengthsRequest) -> list[LongestRun]:
    """How long a circuit may be in each size of its cable, and which check ends it."""
    return list(max_lengths(checked(request.document), request.circuit))


@router.post("/rcd-reach")
def show_rcd_reach(request: LengthsRequest) -> list[RcdReach]:
    """What each residual-current device of a circuit protects, and what it leaves unprotected."""
    return list(rcd_reach(checked(request.document), request.circuit))


@router.post("/what-if/ranges")
def find_ranges(request: LengthsRequest) -> list[WhatIfRange]:
    """What of a circuit may be moved, and how far."""
    job = checked(request.document)
    circuit = job.find_circuit(request.circuit)
    return list(ranges(job, circuit)) if circuit else []


@router.post("/what-if")
def try_what_if(request: WhatIfRequest) -> WhatIf | None:
    """A quantity of a circuit along its range, with the point at which each check fails."""
    return what_if(checked(request.document), request.circuit, request.quantity)


@router.post("/what-if/apply")
def apply_what_if(request: ApplyWhatIfRequest) -> Designed:
    """The document with the quantity at the value."""
    job = applied(checked(request.document), request.circuit, request.quantity, request.value)
    return Designed(document=job, decisions=[])


@router.post("/compare")
def compare_variants(request: CompareRequest) -> Comparison:
    """Two variants of a job: what differs in words, and which findings turned."""
    return compare(checked(request.before), checked(request.after))


@router.post("/larger-supply")
def find_larger_supply(request: DocumentRequest) -> Upgrade | None:
    """What must be in place before a larger service is granted; nothing where the present one is enough."""
    return larger_supply(checked(request.document))


@router.post("/balance-phases")
def balance_phases(request: DocumentRequest) -> Designed:
    """Every circuit of one line placed again, so that the lines carry as nearly equal as they can."""
    job = checked(request.document)
    return Designed(document=rebalanced(job, rule_set(job.job.rules)), decisions=[])


@router.post("/design")
def design_document(request: DocumentRequest) -> Designed:
    """Fill every device and cable left as auto."""
    done = design(checked(request.document))
    return Designed(document=done.job, decisions=list(done.decisions))
