"""The plan on paper: each floor at a scale that is stated, then every cable with its cores and every box with its joints."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.drawing import Drawing, drawing_of
from vivid_lattice.core.plan.house_plan import HousePlan, house_plan, made_joints
from vivid_lattice.core.plan.remarks import remarks
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.text import Shown
from vivid_lattice.reports import style
from vivid_lattice.reports.art import Art
from vivid_lattice.reports.grid import Column, Grid, Row
from vivid_lattice.reports.plan_art import plan_shapes
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, page_size, paper, soft, turned

#: Scales that plans are drawn at; the largest that fits is taken. What a page leaves under its heading [mm].
_SCALES, _HEAD_MM = (20, 50, 100, 200, 500), 52.0


def make(data: ReportData) -> PdfDocument:
    """The plan of a job. BadDocument where it has no rooms."""
    if not data.job.plan.rooms:
        raise BadDocument([DocumentProblem("plan.rooms", str(message(None, "documents.no_plan")))])
    plan = house_plan(data.job, rule_set(data.job.job.rules))
    return paper(data, data.say("documents.kind.plan.title"), list(_story(data, plan)), wide=True)


def _story(data: ReportData, plan: HousePlan) -> Iterator[Flowable]:
    rules = rule_set(data.job.job.rules)
    drawing = drawing_of(data.job, plan, rules)
    against = [str(each) for each in remarks(data.job, rules, plan)]
    for number, level in enumerate(drawing.levels):
        if number:
            yield from turned(wide=True)
        yield Heading(str(drawing.names[level]), level=0)
        if number == 0 and against:
            yield Boxed(data.say("documents.plan.against"), against, style.OF_VERDICT["fail"])
        shapes, wide_mm, high_mm = plan_shapes(_floor(drawing, level))
        high_pt, wide_pt = page_size(data)
        room_mm = (wide_pt - 2 * style.MARGIN) / mm, high_pt / mm - _HEAD_MM - 8 * len(against)
        scale = next(
            (each for each in _SCALES if wide_mm / each <= room_mm[0] and high_mm / each <= room_mm[1]), _SCALES[-1]
        )
        yield Art(shapes, wide_mm, high_mm, scale=1 / scale)
        yield soft(data.say("documents.plan.scale", n=scale))
    names = {point.id: point.name for point in data.job.plan.points}
    yield from turned(wide=True)
    yield Heading(data.say("documents.plan.cables"), level=0)
    for circuit in plan.circuits:
        yield from _circuit(data, data.job, circuit, names)


def _floor(drawing: Drawing, level: int) -> Drawing:
    return replace(drawing, levels=(level,), rooms=tuple(room for room in drawing.rooms if room.level == level))


def _circuit(data: ReportData, job: Job, plan: CircuitPlan, names: Mapping[str, str]) -> Iterator[Flowable]:
    board = job.find_board_of(plan.circuit.id)
    ends = {FEED: board.name if board is not None else "", **names}
    yield Heading(
        data.say(
            "documents.plan.circuit", circuit=plan.circuit.name, length=Shown(f"{plan.length_m:.2f}"),
            cable=Shown(f"{plan.cable_m:.2f}"),
        )
    )  # fmt: skip
    columns = [
        Column(head=data.say("documents.plan.from"), share=22),
        Column(head=data.say("documents.plan.to"), share=22),
        Column(head=data.say("documents.plan.length"), share=9, align="right"),
        Column(head=data.say("documents.plan.carries"), share=16),
        Column(head=data.say("documents.plan.cable"), share=22),
        Column(head=data.say("documents.plan.cores"), share=34),
    ]
    rows = [
        Row(
            (
                ends.get(section.a, section.a), ends.get(section.b, section.b), f"{section.piece_m:.2f} m", " ".join(section.carries),
                section.cable.name if section.cable is not None else data.say("documents.plan.no_cable"),
                "; ".join(each for each in (section.cores.cores, section.cores.marked) if each) if section.cores else "",
            )
        )
        for section in plan.sections
    ]  # fmt: skip
    yield Grid(columns, rows, lined=True)
    joints = list(_joints(data, plan, ends))
    if joints:
        yield soft(data.say("documents.plan.joints", list="; ".join(joints)))


def _joints(data: ReportData, plan: CircuitPlan, names: Mapping[str, str]) -> Iterator[str]:
    """The boxes with connectors: what is in terminals needs none."""
    for box, joints in made_joints(plan, rule_set(data.job.job.rules)).items():
        parts = [
            f"{made.joint.net} {made.joint.cables + made.joint.devices}: {made.connectors.count} × {made.connectors.ports}"
            for made in joints
            if made.connectors is not None
        ]
        if parts:
            yield f"{names.get(box, box)} ({', '.join(parts)})"
