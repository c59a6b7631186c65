"""How everything on a plan is fixed, drilled, chased and marked out; and what the plan does not state for it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import FloorBuild
from vivid_lattice.core.messages import Joined, Text, message
from vivid_lattice.core.plan.fixing.chases import Chase, chases
from vivid_lattice.core.plan.fixing.clips import FixedSection, fixed_section
from vivid_lattice.core.plan.fixing.drill_list import DrillRow, drill_list
from vivid_lattice.core.plan.fixing.laid_cables import LaidCable, laid_cables
from vivid_lattice.core.plan.fixing.marking_out import Mark, marking_out
from vivid_lattice.core.plan.fixing.places import Place, place_of
from vivid_lattice.core.plan.fixing.stud_holes import StudHoles, stud_holes
from vivid_lattice.core.plan.floor_names import floor_name
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.plan.house_plan import HousePlan
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class FixingPlan:
    """Fixing of a whole plan. ``questions``: what it does not state, each once, with the line to type; ``refused``: what must not be made as
    it is planned, once a room; ``clips``: how many clips and saddles in all; ``open_m``: of how much cable they are not known [m]."""

    sections: tuple[FixedSection, ...]
    joists: tuple[DrillRow, ...]
    studs: tuple[StudHoles, ...]
    chases: tuple[Chase, ...]
    marks: tuple[Mark, ...]
    questions: tuple[Text, ...]
    refused: tuple[Text, ...]
    clips: int
    open_m: float


def fixing_plan(job: Job, rules: RuleSet, plan: HousePlan) -> FixingPlan:
    """The fixing of a plan."""
    house = House(job.plan, rules.plan)
    laid = list(laid_cables(plan, rules))
    kinds = {point.id: str(point.kind) for point in job.plan.points}
    joists, studs, cut = drill_list(laid, house, rules), stud_holes(laid, house, rules), chases(laid, house, rules)
    names = {room.id: room.name for room in job.rooms}
    sections = tuple(fixed_section(each, house, rules, kinds) for each in laid)
    return FixingPlan(
        sections=sections,
        joists=joists,
        studs=studs,
        chases=cut,
        marks=marking_out(job, rules),
        questions=tuple(_questions(job, house, laid, rules)),
        refused=tuple(dict.fromkeys(_refused(names, joists, studs, cut))),
        clips=sum(section.count for section in sections),
        open_m=sum(section.open_m for section in sections),
    )


def _refused(
    names: Mapping[str, str], joists: Sequence[DrillRow], studs: Sequence[StudHoles], cut: Sequence[Chase]
) -> Iterator[Text]:
    """What must not be made. Runs that cross the joists of a room outside the permitted zone are one."""
    outside: dict[tuple[str, str], list[DrillRow]] = {}
    for row in joists:
        if row.refused is not None and row.outside_zone:
            outside.setdefault((row.room, row.void), []).append(row)
    for (room, void), rows in outside.items():
        assert rows[0].zone_m is not None
        begin, end = rows[0].zone_m
        yield message(
            None, f"core.plan.fixing.outside.{void}", room=names.get(room, room), n=len(rows), begin=f"{begin:.2f}",
            end=f"{end:.2f}", more=f"{max(row.more_m for row in rows):.1f}",
        )  # fmt: skip
    others = [
        *((row.room, row.refused) for row in joists if not row.outside_zone),
        *((row.room, row.refused) for row in studs),
        *((row.room, row.refused) for row in cut),
    ]
    for room, text in others:
        if text is not None:
            yield message(None, "core.plan.fixing.in_room", room=names.get(room, room), text=text)


def _questions(job: Job, house: House, laid: Sequence[LaidCable], rules: RuleSet) -> Iterator[Text]:
    """What is not stated of joists, floor by floor, and of walls, for all rooms at once."""
    rooms = {room.id: room.name for room in job.rooms}
    floors: dict[int, tuple[FloorBuild, bool]] = {}
    unknown: dict[str, None] = {}
    thin: dict[str, None] = {}
    studs: dict[str, None] = {}
    for place in (place_of(leg, house) for cable in laid for leg in cable.route):
        if place.floor is not None and place.held in ("unknown", "joists"):
            floors.setdefault(place.floor.level, (place.floor, rules.fixing.timber("joist") is not None))
        elif place.room is not None:
            _wall_lacks(place, rules, unknown, thin, studs)
    for level, (floor, limits) in sorted(floors.items()):
        wanted = _of_joists(floor, limits)
        if wanted:
            yield message(None, f"core.plan.fixing.ask.{wanted}", floor=floor_name(house, level))
    for key, found in (("walls", unknown), ("thickness", thin), ("studs", studs)):
        if found:
            named = Joined.of([rooms.get(room, room) for room in found], ", ")
            yield message(None, f"core.plan.fixing.ask.{key}", rooms=named)


def _of_joists(floor: FloorBuild, limits: bool) -> str:
    """Which question a floor raises: how its joists lie, then how large they are where the standard limits holes."""
    if floor.joists is None:
        return "joists"
    if floor.joists == "none":
        return ""
    sized = floor.joist_depth_mm is not None and floor.joist_span_m is not None
    if floor.joist_centres_mm is None or (limits and floor.joist_kind == "solid" and not sized):
        return "joist_size"
    return ""


def _wall_lacks(
    place: Place, rules: RuleSet, unknown: dict[str, None], thin: dict[str, None], studs: dict[str, None]
) -> None:
    assert place.room is not None
    room = place.room.room
    if place.held == "unknown":
        unknown[room] = None
    elif place.held == "chase" and place.room.wall_mm is None and rules.fixing.chase("vertical", 100.0, 1.0):
        thin[room] = None
    elif place.held == "studs" and place.room.stud_centres_mm is None:
        studs[room] = None
