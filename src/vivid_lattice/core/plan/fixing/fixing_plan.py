"""How everything on a plan is fixed, drilled, chased and marked out; and what the plan does not state for it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
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
    """Fixing of a whole plan. ``questions``: what it does not state, each once, with the line to type."""

    sections: tuple[FixedSection, ...]
    joists: tuple[DrillRow, ...]
    studs: tuple[StudHoles, ...]
    chases: tuple[Chase, ...]
    marks: tuple[Mark, ...]
    questions: tuple[Text, ...]

    @property
    def refused(self) -> tuple[Text, ...]:
        """What must not be made as it is planned."""
        found = (
            *(row.refused for row in self.joists),
            *(row.refused for row in self.studs),
            *(row.refused for row in self.chases),
        )
        return tuple(dict.fromkeys(text for text in found if text is not None))


def fixing_plan(job: Job, rules: RuleSet, plan: HousePlan) -> FixingPlan:
    """The fixing of a plan."""
    house = House(job.plan, rules.plan)
    laid = list(laid_cables(plan, rules))
    kinds = {point.id: str(point.kind) for point in job.plan.points}
    return FixingPlan(
        sections=tuple(fixed_section(each, house, rules, kinds) for each in laid),
        joists=drill_list(laid, house, rules),
        studs=stud_holes(laid, house, rules),
        chases=chases(laid, house, rules),
        marks=marking_out(job, rules),
        questions=tuple(_questions(job, house, laid, rules)),
    )


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
