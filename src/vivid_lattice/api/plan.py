"""The plan over HTTP: rooms and points typed, cables routed, and everything that is drawn."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer, DocumentRequest
from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.document.job import Job, Section
from vivid_lattice.core.document.plan import FeedAt, PointKind, RouteShape
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.circuit_plan import CircuitPlan, PlannedSection
from vivid_lattice.core.plan.conductors.terminals import EARTH, Terminals
from vivid_lattice.core.plan.drawing import Drawing, drawing_of
from vivid_lattice.core.plan.drop import drop, drop_new
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.fill.box import BoxFill
from vivid_lattice.core.plan.fill.boxes_of_plan import fills_of
from vivid_lattice.core.plan.fill.conduit import ConduitChoice
from vivid_lattice.core.plan.fill.conduits_of_plan import conduits_of
from vivid_lattice.core.plan.house_plan import HousePlan, MadeJoint, house_plan, made_joints
from vivid_lattice.core.plan.new_circuit import line_for, with_circuit_for
from vivid_lattice.core.plan.other_routes import OtherRoute, other_routes
from vivid_lattice.core.plan.planned_runs import is_branch, planned_runs, with_planned_runs
from vivid_lattice.core.plan.proposals import proposals
from vivid_lattice.core.plan.remarks import questions, remarks
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.plan_rules import BoxMethod
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.imports.floor_plan import MAX_BYTES, read_floor_plan
from vivid_lattice.imports.floor_plan_in_job import with_floor_plan
from vivid_lattice.imports.refusal import ImportRefused

router = APIRouter(prefix="/api/plan", tags=["plan"], route_class=ComputingRoute)


class PlanLine(BaseModel):
    """A typed line: a room, a board or points."""

    document: Job
    text: Annotated[str, Field(max_length=300, examples=["kitchen 4.2 x 3.6 h 2.4"])]


class BoxFilling(BaseModel):
    """What is counted in a box, and the smallest that takes it; none: no box of the table does. ``counted`` none: not available."""

    counted: BoxMethod | None
    used: float
    parts: list[str]
    smallest_box: str | None
    takes: float | None


class ConduitFilling(BaseModel):
    """The smallest conduit of a section of single wires, with the calculation; none: ``lack`` says why."""

    a: str
    b: str
    conduit: str | None = None
    used: float = 0.0
    limit: float = 0.0
    unit: str = ""
    parts: list[str] = []
    lack: Text | None = None


class BoxDevice(BaseModel):
    """A device in a box: its terminals by the conductor that each takes; the protective one where it has a terminal for it."""

    name: str
    terminals: list[str]


class BoxJoints(BaseModel):
    """A box with what is in it, how each joint is made, and how full it is; none: there is no box, or the cable is not chosen yet."""

    box: str
    devices: list[BoxDevice]
    joints: list[MadeJoint]
    fill: BoxFilling | None


class RunPart(BaseModel):
    """A part of the run of a circuit. ``branch``: it tells how a branch lies, and its length says nothing."""

    section: Section
    branch: bool


class PlannedCircuit(BaseModel):
    """A circuit as it runs. ``gap``: by what share another order could be shorter; ``run``: its parts by where they lie; ``beside``: circuits
    that count as grouped with it."""

    id: str
    name: str
    shape: RouteShape
    feed_at: FeedAt
    order: list[str]
    gap: float
    length_m: float
    cable_m: float
    furthest: str
    proved: bool
    sections: list[PlannedSection]
    boxes: list[BoxJoints]
    run: list[RunPart]
    beside: list[str]
    conduits: list[ConduitFilling]


class UndecidedPoint(BaseModel):
    """A point without a circuit, and the line of one that would be entered for it."""

    point: str
    line: str


class RoomProposal(BaseModel):
    """Lines that can be typed for a room: what it usually has and lacks."""

    room: str
    name: str
    lines: list[str]


class PointRequest(BaseModel):
    """A point of a document."""

    document: Job
    point: str


class DropRequest(BaseModel):
    """A place on a floor [m], and the point that is dropped there: one that is on the plan, or a new one of a kind."""

    document: Job
    level: Annotated[int, Field(ge=-5, le=20)]
    x_m: Annotated[float, Field(ge=-500, le=500)]
    y_m: Annotated[float, Field(ge=-500, le=500)]
    point: str | None = None
    kind: PointKind = "socket"


class OtherRoutesRequest(BaseModel):
    """A circuit of a document."""

    document: Job
    circuit: str


class FloorPlanFile(BaseModel):
    """A DXF drawing as text, the layer whose rooms are taken ('': the one with the most), and the floor they are on."""

    document: Job
    dxf: Annotated[str, Field(max_length=MAX_BYTES)]
    layer: Annotated[str, Field(max_length=300)] = ""
    level: Annotated[int, Field(ge=-5, le=20)] = 0


class DrawingLayer(BaseModel):
    """A layer of a drawing, and how many rooms it has."""

    name: str
    rooms: int


class FloorPlanAnswer(BaseModel):
    """The document with the rooms of a drawing; which layers have rooms, and which rooms are only as large as their outer rectangle."""

    document: Job
    layers: list[DrawingLayer]
    layer: str
    rooms: list[str]
    inexact: list[str]


class PlanView(BaseModel):
    """The plan of a document. ``lacks``: circuits that are not on it, with what is missing; ``undecided``: points without a circuit;
    ``remarks``: what the standard says against it; ``questions``: what is not stated and matters; ``proposals``: points that rooms usually have and lack."""

    drawing: Drawing
    circuits: list[PlannedCircuit]
    lacks: dict[str, Text]
    undecided: list[UndecidedPoint]
    remarks: list[Text]
    questions: list[Text]
    proposals: list[RoomProposal]


@router.post("")
def show_plan(request: DocumentRequest) -> PlanView:
    """The plan of a document: its drawing, and every circuit with its sections and joints."""
    job = checked(request.document)
    rules = rule_set(job.job.rules)
    plan = house_plan(job, rules)
    runs = planned_runs(job, rules, plan)
    names = {room.id: room.name for room in job.rooms}
    points = {point.id: point for point in job.plan.points}
    return PlanView(
        drawing=drawing_of(job, plan, rules),
        circuits=[_circuit(each, job, rules, plan, runs[each.circuit.id]) for each in plan.circuits],
        lacks=dict(plan.lacks),
        undecided=[UndecidedPoint(point=each, line=line_for(job, points[each])) for each in plan.undecided],
        remarks=list(remarks(job, rules, plan)),
        questions=list(questions(job, rules, plan)),
        proposals=[
            RoomProposal(room=each.room, name=names[each.room], lines=list(each.lines))
            for each in proposals(job, rules)
        ],
    )


def _circuit(plan: CircuitPlan, job: Job, rules: RuleSet, house: HousePlan, run: tuple[Section, ...]) -> PlannedCircuit:
    made = made_joints(plan, rules)
    fills = fills_of(plan, {point.id: point for point in job.plan.points}, made, rules)
    return PlannedCircuit(
        id=plan.circuit.id,
        name=plan.circuit.name,
        shape=plan.shape,
        feed_at=plan.feed_at,
        order=list(plan.order.points),
        gap=plan.order.gap,
        length_m=plan.length_m,
        cable_m=round(plan.cable_m, 3),
        furthest=plan.furthest,
        proved=plan.proved,
        sections=list(plan.sections),
        boxes=[
            BoxJoints(
                box=box, devices=_devices(plan.terminals[box]), joints=list(joints), fill=_filling(fills.get(box))
            )
            for box, joints in made.items()
        ],
        run=[RunPart(section=each, branch=is_branch(each)) for each in run],
        conduits=[_conduit(a, b, each) for (a, b), each in conduits_of(plan, house.laying.sections, rules).items()],
        beside=[job.circuit(each).name for each in house.laying.circuits[plan.circuit.id].beside],
    )


def _conduit(a: str, b: str, found: ConduitChoice | Text) -> ConduitFilling:
    if not isinstance(found, ConduitChoice):
        return ConduitFilling(a=a, b=b, lack=found)
    return ConduitFilling(
        a=a,
        b=b,
        conduit=found.conduit,
        used=round(found.used, 3),
        limit=round(found.limit, 3),
        unit=found.unit,
        parts=list(found.parts),
    )


def _devices(devices: tuple[Terminals, ...]) -> list[BoxDevice]:
    return [
        BoxDevice(name=device.name, terminals=[*device.nets, *([EARTH] if device.earthed else [])])
        for device in devices
    ]


def _filling(fill: BoxFill | None) -> BoxFilling | None:
    if fill is None:
        return None
    box = fill.box.name if fill.box is not None else None
    return BoxFilling(counted=fill.method, used=fill.used, parts=list(fill.parts), smallest_box=box, takes=fill.limit)


@router.post("/enter")
def enter_line_of_plan(request: PlanLine) -> DocumentAnswer:
    """The document with a room, a board or points of a typed line, and the lengths that follow."""
    return DocumentAnswer(document=enter_plan_line(checked(request.document), request.text))


@router.post("/lengths")
def lengths_of_plan(request: DocumentRequest) -> DocumentAnswer:
    """The document with the lengths of its plan in its circuits."""
    job = checked(request.document)
    return DocumentAnswer(document=with_planned_runs(job, rule_set(job.job.rules)))


@router.post("/other-routes", responses=NOT_FOUND)
def other_routes_of_circuit(request: OtherRoutesRequest) -> list[OtherRoute]:
    """The routes that a circuit could have, each with its length and whether it passes its checks."""
    job = checked(request.document)
    if all(circuit.id != request.circuit for circuit in job.circuits):
        known = ", ".join(circuit.id for circuit in job.circuits)
        raise HTTPException(404, message(None, "core.fault.no_circuit", circuit=request.circuit, known=known))
    return list(other_routes(job, rule_set(job.job.rules), request.circuit))


@router.post("/circuit", responses=NOT_FOUND)
def circuit_for_point(request: PointRequest) -> DocumentAnswer:
    """The document with a circuit for a point that has none, designed, and for the open points that go with it."""
    job = checked(request.document)
    try:
        return DocumentAnswer(document=with_circuit_for(job, request.point))
    except KeyError:
        known = ", ".join(point.id for point in job.plan.points)
        raise HTTPException(404, message(None, "core.plan.point.no_such", point=request.point, known=known)) from None


@router.post("/drop", responses=NOT_FOUND)
def drop_point(request: DropRequest) -> DocumentAnswer:
    """The document with a point dropped at a place: snapped to the nearest wall of the room there, or under its ceiling."""
    job, at = checked(request.document), (request.level, request.x_m, request.y_m)
    if request.point is None:
        return DocumentAnswer(document=drop_new(job, request.kind, *at))
    try:
        return DocumentAnswer(document=drop(job, request.point, *at))
    except KeyError:
        known = ", ".join(point.id for point in job.plan.points)
        raise HTTPException(404, message(None, "core.plan.point.no_such", point=request.point, known=known)) from None


@router.post("/drawing")
def take_drawing(request: FloorPlanFile) -> FloorPlanAnswer:
    """The document with the rooms that the walls of a DXF drawing enclose."""
    layers = read_floor_plan(request.dxf.encode("utf-8", errors="replace"))
    names = [layer.name for layer in layers]
    if request.layer and request.layer not in names:
        raise ImportRefused(message(None, "import.plan.no_layer", layer=request.layer, known=", ".join(names)))
    layer = next((each for each in layers if each.name == request.layer), layers[0])
    return FloorPlanAnswer(
        document=with_floor_plan(checked(request.document), layer, request.level),
        layers=[DrawingLayer(name=each.name, rooms=len(each.rooms)) for each in layers],
        layer=layer.name,
        rooms=[room.name for room in layer.rooms],
        inexact=[room.name for room in layer.rooms if not room.exact],
    )
