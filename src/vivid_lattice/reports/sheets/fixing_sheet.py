"""Fixing on paper: where to mark out, what to drill and chase, how many clips; with the joists drawn."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.plan.fixing.drill_list import DrillRow
from vivid_lattice.core.plan.fixing.fixing_plan import FixingPlan, fixing_plan
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.joist_drawing import JoistDrawing
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, paper, soft
from vivid_lattice.reports.sheets.parts import head_of


def make(data: ReportData) -> PdfDocument:
    """The sheet. Nothing on it where the job has no plan."""
    return paper(data, data.say("documents.kind.fixing.title"), list(_story(data)))


def _story(data: ReportData) -> Iterator[Flowable]:
    rules = data.network.rules
    fixing = fixing_plan(data.job, rules, house_plan(data.job, rules))
    yield from head_of(data, data.say("documents.kind.fixing.title"))
    if fixing.questions:
        title = data.say("documents.fixing.asked")
        yield Boxed(title, [str(each) for each in fixing.questions], style.OF_VERDICT["missing"])
    if fixing.refused:
        title = data.say("documents.fixing.refused")
        yield Boxed(title, [str(each) for each in fixing.refused], style.OF_VERDICT["fail"])
    yield Heading(data.say("documents.fixing.marks"))
    yield Grid(_MARKS, list(_marks(data, fixing)))
    if fixing.joists or fixing.studs:
        yield Heading(data.say("documents.fixing.holes"))
        yield Grid(_HOLES, [*_joists(data, fixing), *_studs(data, fixing)])
        yield soft(data.say("documents.fixing.holes_note"))
        yield from _drawings(data, fixing)
    if fixing.chases:
        yield Heading(data.say("documents.fixing.chases"))
        yield Grid(_CHASES, list(_chases(data, fixing)))
    yield Heading(data.say("documents.fixing.clips"))
    yield Grid(_CLIPS, list(_clips(data, fixing)))
    yield soft(data.say("documents.fixing.caution"))


_MARKS = [
    Column(head="Point", share=1.8), Column(head="Wall", share=0.7), Column(head="From", share=2.6), Column(head="Height", share=0.8, align="right"),
]  # fmt: skip
_HOLES = [
    Column(head="Where", share=1.6), Column(head="Joists at [m]", share=2), Column(head="From support", share=1.2), Column(head="Drill", share=1.1),
    Column(head="Circuits", share=1.6), Column(head="", share=2, size_pt=style.SMALL_PT),
]  # fmt: skip
_CHASES = [
    Column(head="Wall", share=1.4), Column(head="", share=0.9), Column(head="At", share=1.4), Column(head="Length", share=0.8, align="right"),
    Column(head="Depth", share=0.8, align="right"), Column(head="Most", share=0.8, align="right"), Column(head="", share=1.6, size_pt=style.SMALL_PT),
]  # fmt: skip
_CLIPS = [
    Column(head="Section", share=2.6), Column(head="Cable", share=2), Column(head="Pieces", share=0.8, align="right"),
    Column(head="Not known", share=1, align="right"),
]  # fmt: skip


def _room(data: ReportData, room: str) -> str:
    found = data.network.tree.rooms.get(room)
    return found.name if found is not None else room


def _circuits(data: ReportData, ids: tuple[str, ...]) -> str:
    return ", ".join(data.names[each] for each in ids)


def _marks(data: ReportData, fixing: FixingPlan) -> Iterator[Row]:
    room = ""
    for mark in fixing.marks:
        if mark.room != room:
            room = mark.room
            yield Row([GridCell(text=_room(data, room)), "", "", ""], band=True)
        place = (
            f"{mark.distance_m:.2f} m from the {mark.from_wall} wall"
            if mark.wall is not None
            else f"{mark.x_m:.2f} m from the left, {mark.y_m:.2f} m from the front wall"
        )
        yield Row([mark.name, mark.wall or "ceiling", place, f"{mark.height_m:.2f} m"])


def _said(refused: object, lack: object, protect: bool) -> GridCell | str:
    if refused is not None:
        return GridCell(text=f"✗ {refused}", colour=style.OF_VERDICT["fail"])
    if lack is not None:
        return GridCell(text=f"? {lack}", colour=style.OF_VERDICT["missing"])
    return "protect: steel plate or earthed metal" if protect else "✓"


def _joists(data: ReportData, fixing: FixingPlan) -> Iterator[Row]:
    for row in fixing.joists:
        where = f"{_room(data, row.room)}, {'over the ceiling' if row.void == 'ceiling' else 'under the floor'}"
        joists = ", ".join(f"{at:g}" for at in row.joists_at_m)
        at = f"{row.at_m:.2f} m from the {row.support_wall} wall"
        yield Row([where, f"{joists} from the {row.from_wall} wall", at, drill_words(row), _circuits(data, row.circuits), _said(row.refused, row.lack, row.protect)])  # fmt: skip


def drill_words(row: DrillRow) -> str:
    """What is made in each joist."""
    if row.size_mm is None:
        return "?"
    if row.kind == "notch":
        return f"notch {row.size_mm:g} mm"
    return f"{row.holes} × Ø {row.size_mm:g} mm" if row.holes > 1 else f"Ø {row.size_mm:g} mm"


def _studs(data: ReportData, fixing: FixingPlan) -> Iterator[Row]:
    for row in fixing.studs:
        where = f"{_room(data, row.room)}, {row.wall} wall"
        drill = "?" if row.size_mm is None else f"Ø {row.size_mm:g} mm"
        said = _said(row.refused, row.lack, row.protect)
        yield Row(
            [where, f"{row.count} studs", f"{row.height_m:.2f} m up", drill, _circuits(data, (row.circuit,)), said]
        )


def _drawings(data: ReportData, fixing: FixingPlan) -> Iterator[Flowable]:
    """Each kind of joist once, with where holes and notches may be."""
    limits = data.network.rules.fixing.timber("joist")
    if limits is None:
        return
    rows: dict[tuple[float, float], list[DrillRow]] = {}
    for row in fixing.joists:
        if row.depth_mm is not None and row.span_m is not None:
            rows.setdefault((row.depth_mm, row.span_m), []).append(row)
    for (depth, span), of_joist in rows.items():
        yield JoistDrawing(depth, span, limits, of_joist)


def _chases(data: ReportData, fixing: FixingPlan) -> Iterator[Row]:
    for chase in fixing.chases:
        at = (
            f"{chase.along_m:.2f} m along"
            if chase.direction == "vertical"
            else f"{chase.height_m:.2f} m up"
        )  # fmt: skip
        needed = "?" if chase.needed_mm is None else f"{chase.needed_mm:g} mm"
        limit = "–" if chase.limit is None else f"{int(chase.limit.depth_m * 10_000 + 1e-6) / 10:g} mm"
        said = _said(chase.refused, None if chase.limit is not None else data.say("documents.fixing.no_limit"), False)
        yield Row(
            [
                f"{_room(data, chase.room)}, {chase.wall}",
                chase.direction,
                at,
                f"{chase.length_m:.2f} m",
                needed,
                limit,
                said,
            ]
        )


def _clips(data: ReportData, fixing: FixingPlan) -> Iterator[Row]:
    names = {point.id: point.name for point in data.job.plan.points}
    for section in fixing.sections:
        if not section.count and not section.open_m:
            continue
        between = f"{names.get(section.a, section.a)} – {names.get(section.b, section.b)}"
        open_m = f"{section.open_m:.2f} m" if section.open_m else ""
        yield Row([f"{data.names[section.circuit]}: {between}", str(section.what), f"{section.count}", open_m])
