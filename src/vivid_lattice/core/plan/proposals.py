"""Points that the rooms of a plan usually have and do not have yet, as lines that can be typed or edited."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import RoomShape
from vivid_lattice.core.plan.geometry.house import area_m2
from vivid_lattice.core.plan.spacing import least_sockets, wall_spaces
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True)
class Proposal:
    """What a room usually has and lacks: lines for the entry of the plan."""

    room: str
    lines: tuple[str, ...]


def proposals(job: Job, rules: RuleSet) -> tuple[Proposal, ...]:
    """For each room of the plan the points of kinds that it has none of: as many as are usual, and no fewer than the standard asks along
    walls. A starting list (common practice, no source), for someone to edit."""
    names = {room.id: room.name for room in job.rooms}
    found = []
    for shape in job.plan.rooms:
        lines = tuple(_lines(job, rules, shape, names[shape.room]))
        if lines:
            found.append(Proposal(shape.room, lines))
    return tuple(found)


def _lines(job: Job, rules: RuleSet, shape: RoomShape, name: str) -> list[str]:
    usual = rules.plan.usual_points(name, area_m2(shape))
    own = [point for point in job.plan.points if point.room == shape.room]
    kinds = {point.kind for point in own}
    low = name.lower()
    lines = []
    if "socket" not in kinds:
        sockets = max(usual.sockets, _along_walls(job, rules, shape) if usual.sockets else 0)
        if usual.above_worktop:
            lines.append(f"{usual.above_worktop} double sockets {low} worktop")
        if sockets:
            lines.append(f"{sockets} double socket{'s' if sockets > 1 else ''} {low}")
    if "light" not in kinds and usual.lights:
        doors = sum(opening.kind != "window" for opening in shape.openings)
        ways = "2 way " if usual.switch_places > 1 and doors != 1 else ""
        lines.append(f"{ways}{f'{usual.lights} lights' if usual.lights > 1 else 'light'} {low}")
    if "alarm" not in kinds and usual.alarm:
        lines.append(f"{'heat' if 'kitchen' in low else 'smoke'} alarm {low}")
    return lines


def _along_walls(job: Job, rules: RuleSet, shape: RoomShape) -> int:
    """The fewest sockets that the standard's spacing along walls needs; 0 where it has none."""
    spacing = rules.plan.wall_spacing
    if spacing is None:
        return 0
    return sum(least_sockets(space.length_m, spacing) for space in wall_spaces(job, rules, shape))
