"""Selectivity, plans of residual-current devices, the device library and voltage relays over HTTP. Stateless."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentRequest
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.design.rcd_plans.architectures import SHAPES, Architecture, Weights, architecture_title
from vivid_lattice.core.design.rcd_plans.plan import RcdPlan, plan
from vivid_lattice.core.document.device_family import DeviceFamily, packaged, read_families
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.formulas.device.relay import Sample, Switching, built_in_traces, read_trace, run_relay
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.selectivity.matrix import Matrix, matrix

router = APIRouter(prefix="/api", tags=["protection"], route_class=ComputingRoute)


class WeightsGiven(BaseModel):
    """What a plan is for, by the user's weights."""

    worst_loss: Annotated[float, Field(ge=0, le=10_000)] = 100.0
    devices: Annotated[float, Field(ge=0, le=10_000)] = 5.0
    cost: Annotated[float, Field(ge=0, le=10_000)] = 0.1


class PlanRequest(BaseModel):
    """An architecture for a board of a document."""

    document: Job
    board: Annotated[str, Field(max_length=40, examples=["main"])]
    architecture: Architecture
    weights: WeightsGiven = WeightsGiven()


class ArchitectureLine(BaseModel):
    """An architecture there is."""

    id: Architecture
    title: Text


class FamiliesText(BaseModel):
    """A user's families as CSV or JSON, and the ids that are used already."""

    text: Annotated[str, Field(max_length=200_000)]
    taken: Annotated[list[str], Field(max_length=500)] = []


class RelayRequest(BaseModel):
    """A relay and the trace it is run against: one that is built in, by id, or a user's as CSV."""

    relay: VoltageRelay
    nominal_v: Annotated[float, Field(gt=0, le=480)] = 230.0
    trace: Annotated[str | None, Field(max_length=40, examples=["brown-out"])] = None
    csv: Annotated[str | None, Field(max_length=500_000)] = None


class TraceLine(BaseModel):
    """A trace that is built in."""

    id: str
    title: Text


class RelayRun(BaseModel):
    """A trace, and every opening and closing of the relay over it."""

    title: Text
    samples: list[Sample]
    until_s: float
    switchings: list[Switching]
    open_s: float


@router.post("/selectivity")
def compare_devices(request: DocumentRequest) -> Matrix:
    """Every pair of devices in series, how it keeps its order, and the characteristics for drawing."""
    return matrix(checked(request.document))


@router.get("/rcds/architectures", responses=NOT_FOUND)
def list_architectures(rules: Annotated[str, Query(max_length=40)] = "uk") -> list[ArchitectureLine]:
    """The architectures that are planned, in the words of a standard."""
    words = rule_set(rules).words
    return [ArchitectureLine(id=name, title=architecture_title(name, words)) for name in SHAPES]


@router.post("/rcds/plan")
def plan_rcds(request: PlanRequest) -> RcdPlan:
    """An architecture worked out for a board, with the document that has it in place."""
    weights = Weights(request.weights.worst_loss, request.weights.devices, request.weights.cost)
    return plan(checked(request.document), request.board, request.architecture, weights)


@router.get("/families")
def list_families() -> list[DeviceFamily]:
    """The device families that come with the program."""
    return list(packaged())


@router.post("/families/read")
def read_own_families(request: FamiliesText) -> list[DeviceFamily]:
    """A user's families read and checked; refused with a line for each thing wrong."""
    return list(read_families(request.text, request.taken))


@router.get("/relay/traces")
def list_traces() -> list[TraceLine]:
    """The voltage traces that are built in."""
    return [TraceLine(id=name, title=title) for name, (title, _, _) in built_in_traces(230.0).items()]


@router.post("/relay/simulate")
def simulate_relay(request: RelayRequest) -> RelayRun:
    """A relay over a voltage trace."""
    if request.csv is not None:
        samples, until = read_trace(request.csv)
        title = message(None, "core.relay.your_trace")
    else:
        traces = built_in_traces(request.nominal_v)
        title, samples, until = traces.get(request.trace or "", traces["quiet"])
    switchings = run_relay(request.relay, samples, until)
    open_s = sum(
        _open_time(switchings, number, until) for number, switching in enumerate(switchings) if switching.opens
    )
    return RelayRun(title=title, samples=list(samples), until_s=until, switchings=list(switchings), open_s=open_s)


def _open_time(switchings: tuple[Switching, ...], number: int, until_s: float) -> float:
    closes = switchings[number + 1].at_s if number + 1 < len(switchings) else until_s
    return closes - switchings[number].at_s
