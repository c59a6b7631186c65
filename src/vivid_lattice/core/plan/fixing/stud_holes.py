"""Holes through the studs of hollow walls that level cables need."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.plan import Wall
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.fixing.counting import crossed_at
from vivid_lattice.core.plan.fixing.drills import drill_for
from vivid_lattice.core.plan.fixing.laid_cables import LaidCable
from vivid_lattice.core.plan.fixing.places import place_of
from vivid_lattice.core.plan.fixing.timber import Bore, Timber, edge_cover_m, needs_protection, refused
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.plan.routes.lines import axis_of
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class StudHoles:
    """Holes through the studs of a wall on one line. ``lack``: what is not known, or not available for this standard."""

    room: str
    wall: Wall
    circuit: str
    height_m: float
    count: int
    size_mm: float | None
    cover_mm: float | None
    protect: bool
    refused: Text | None
    lack: Text | None


def stud_holes(laid: Sequence[LaidCable], house: House, rules: RuleSet) -> tuple[StudHoles, ...]:
    """Holes through studs whose centres the plan states. Studs are taken as bearing: the closer limits.

    Source  the limits of the standard, where its data have them
    """
    limits = rules.fixing.timber("stud")
    found = []
    for cable in laid:
        for leg in cable.route:
            place = place_of(leg, house)
            if place.held != "studs" or place.room is None or place.room.stud_centres_mm is None or leg.face is None:
                continue
            shape, axis = place.room, axis_of(leg)
            start = (shape.x_m, shape.y_m)[axis]
            centres = shape.stud_centres_mm / 1000 if shape.stud_centres_mm else 0.0
            count = len(crossed_at(leg.a[axis] - start, leg.b[axis] - start, centres, centres))
            if not count:
                continue
            drill = None if cable.wide_mm is None else drill_for([cable.wide_mm], rules.fixing)
            lack: Text | None = None
            why, cover, protect = None, None, False
            if drill is None:
                lack = message(None, "core.plan.fixing.lack.cable", cable=cable.what)
            elif limits is None:
                lack = message(None, "core.plan.fixing.not_available")
            elif shape.wall_mm is None:
                lack = message(None, "core.plan.fixing.lack.studs")
            else:
                timber = Timber(shape.wall_mm / 1000, shape.height_m)
                bore = Bore("hole", 0.0, drill / 1000)
                why = refused(timber, bore, limits)
                cover, protect = edge_cover_m(timber, bore) * 1000, needs_protection(timber, bore, limits)
            found.append(
                StudHoles(
                    room=shape.room, wall=leg.face[1], circuit=cable.plan.circuit.id,
                    height_m=round(leg.a[2] - house.base_m(leg.level), 2), count=count, size_mm=drill,
                    cover_mm=cover, protect=protect, refused=why, lack=lack,
                )
            )  # fmt: skip
    return tuple(found)
