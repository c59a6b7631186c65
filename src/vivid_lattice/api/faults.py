"""What happens when, over HTTP. Stateless: each call brings the document it is about."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentRequest
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.faults.event import KIND_FIELDS, FaultEvent, FaultKind, kind_title
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.faults.result_types import FaultResult
from vivid_lattice.core.faults.trip_causes import PossibleCause, possible_causes
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules import rule_set

router = APIRouter(prefix="/api/faults", tags=["faults"], route_class=ComputingRoute)


class FaultKindLine(BaseModel):
    """A kind of event, and the fields of it that count."""

    kind: FaultKind
    title: Text
    fields: list[str]


class FaultRequest(BaseModel):
    """An event in a document."""

    document: Job
    event: FaultEvent


class CausesRequest(BaseModel):
    """A device of a document that tripped, the circuits something ran on, and when: readings before it do not count; '': all count."""

    document: Job
    device: Annotated[str, Field(min_length=1, max_length=90, examples=["c1"])]
    ran: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=200)] = []
    since: Annotated[str, Field(max_length=40, examples=["2026-01-30T18:40"])] = ""


class DeviceLine(BaseModel):
    """A device that may trip: by its id, what it is called, and whether it is a residual-current device."""

    id: str
    title: Text
    residual: bool


@router.get("/kinds", responses=NOT_FOUND)
def list_kinds(rules: Annotated[str, Query(max_length=40)] = "uk") -> list[FaultKindLine]:
    """The kinds of event there are, in the order in which they are offered, in the words of a standard."""
    words = rule_set(rules).words
    return [
        FaultKindLine(kind=kind, title=kind_title(kind, words), fields=list(fields))
        for kind, fields in KIND_FIELDS.items()
    ]


@router.post("")
def run_fault(request: FaultRequest) -> FaultResult:
    """What an event leads to."""
    return describe(checked(request.document), request.event)


@router.post("/devices")
def list_devices(request: DocumentRequest) -> list[DeviceLine]:
    """Every device of a document that may trip."""
    job = checked(request.document)
    network = Installation.of(job, rule_set(job.job.rules))
    device_lines = [
        DeviceLine(id=device.id, title=device.name, residual=False) for device in [network.series.cutout] if device
    ]
    for place in network.rcds.all:
        if place.own_device is None:
            title = network.message(
                "core.fault.rcd_at", rcd=network.rules.bands.rcd_name(place.rcd), place=place.name, board=place.where
            )
            device_lines.append(DeviceLine(id=place.id, title=title, residual=True))
    for board in job.boards:
        if board.voltage_relay is not None:
            device_lines.append(
                DeviceLine(
                    id=f"relay:{board.id}", title=network.message("core.fault.relay", board=board.name), residual=False
                )
            )
    single_rcds = {place.own_device.id: place.id for place in network.rcds.all if place.own_device is not None}
    for circuit in job.circuits:
        overcurrent = network.series.device_of(circuit) if circuit.id in network.tree.places else None
        if overcurrent is not None:
            device_lines.append(
                DeviceLine(id=overcurrent.id, title=overcurrent.name, residual=circuit.id in single_rcds)
            )
    return device_lines


@router.post("/causes")
def find_causes(request: CausesRequest) -> list[PossibleCause]:
    """What probably made a device open, the likeliest first."""
    return list(possible_causes(checked(request.document), request.device, request.ran, request.since))
