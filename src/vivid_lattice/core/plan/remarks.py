"""What the standard says against a plan: walls too far from a socket, points too near to water or a hob, cables outside the zones of walls."""

from __future__ import annotations

import re
from collections.abc import Iterator

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.clearances import too_near
from vivid_lattice.core.plan.floor_names import floor_name
from vivid_lattice.core.plan.geometry.house import House, wall_length_m
from vivid_lattice.core.plan.house_plan import HousePlan
from vivid_lattice.core.plan.planned_runs import insulation_mm
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.plan.routes.zones import Plate, WallFace, is_in_zone
from vivid_lattice.core.plan.spacing import spacing_gaps
from vivid_lattice.core.rules.plan_rules import WallZones
from vivid_lattice.core.rules.protocol import RuleSet

#: The plate of one gang, and a board [m]. Common practice, no source.
_PLATE_M, _BOARD_M = 0.086, 0.3
#: Rooms to work in, which have a middle zone.
_WORK = re.compile(r"\b(kitchen|utility|laundry|workshop|studio)\b", re.IGNORECASE)


def remarks(job: Job, rules: RuleSet, plan: HousePlan) -> tuple[Text, ...]:
    """Everything that the standard says against a plan, each thing once."""
    found = [
        *(gap.text for gap in spacing_gaps(job, rules)),
        *(each.text for each in too_near(job, rules)),
        *_outside_zones(job, rules, plan),
        *_outside_house(job, plan),
    ]
    return tuple(dict.fromkeys(found))


def questions(job: Job, rules: RuleSet, plan: HousePlan) -> tuple[Text, ...]:
    """What the plan does not state and the method of installation depends on: insulation over a ceiling that cables lie over."""
    if rules.plan.method_of("ceiling", 0.0) is None:
        return ()
    house = House(job.plan, rules.plan)
    open_levels = {
        leg.level
        for route in plan.laying.sections.values()
        for leg in route
        if leg.lies_in in ("ceiling", "loft") and not leg.upright and insulation_mm(leg, house) is None
    }
    return tuple(
        message(None, "core.plan.ask.insulation", floor=floor_name(house, level), level=level)
        for level in sorted(open_levels)
    )


def _outside_house(job: Job, plan: HousePlan) -> Iterator[Text]:
    names = {circuit.id: circuit.name for circuit in job.circuits}
    for (circuit, _, _), route in plan.laying.sections.items():
        if any(leg.lies_in == "outside" for leg in route):
            yield message(None, "core.plan.outside", circuit=names[circuit])


def _outside_zones(job: Job, rules: RuleSet, plan: HousePlan) -> Iterator[Text]:
    """Level parts of cables hidden in a wall that are in no zone. What drops to a point straight is: a point outside the zones is fed so."""
    zones = rules.plan.wall_zones
    if zones is None:
        return
    names, rooms = {circuit.id: circuit.name for circuit in job.circuits}, {room.id: room.name for room in job.rooms}
    house = House(job.plan, rules.plan)
    for (circuit, _, _), route in plan.laying.sections.items():
        for leg in route:
            if (
                leg.lies_in == "wall"
                and leg.face is not None
                and not leg.upright
                and not _is_in_zone(job, house, leg, zones)
            ):
                room, wall = leg.face
                yield message(
                    None, "core.plan.zone", circuit=names[circuit], room=rooms[room], wall=wall,
                    height=f"{leg.a[2] - house.base_m(leg.level):.2f}", publication=zones.source.publication,
                )  # fmt: skip


def _is_in_zone(job: Job, house: House, leg: Leg, zones: WallZones) -> bool:
    assert leg.face is not None
    room, wall = leg.face
    shape, axis = house.rooms[room], 0 if wall in ("front", "back") else 1
    start, floor = (shape.x_m, shape.y_m)[axis], house.base_m(leg.level)
    name = next(each.name for each in job.rooms if each.id == room)
    plates = [
        Plate(point.along_m or 0.0, house.point_height_m(point), _PLATE_M * point.gangs, _PLATE_M)
        for point in job.plan.points
        if (point.room, point.wall) == leg.face
    ]
    plates += [
        Plate(place.along_m, place.height_m, _BOARD_M, _BOARD_M)
        for place in job.plan.boards
        if (place.room, place.wall) == leg.face
    ]
    face = WallFace(
        length_m=wall_length_m(shape, wall), height_m=shape.height_m, plates=plates,
        frames=[(opening.from_m, opening.from_m + opening.width_m) for opening in shape.openings if opening.wall == wall],
        worktop=bool(_WORK.search(name)) or any(each.kind == "worktop" for each in shape.fixtures),
    )  # fmt: skip
    one, other = ((end[axis] - start, end[2] - floor) for end in (leg.a, leg.b))
    return is_in_zone(one, other, face, zones)
