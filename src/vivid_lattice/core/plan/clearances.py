"""Points that are too near to sinks, hobs, baths and trays by the rules of the standard, and where on a wall they may be."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Fixture, PlanPoint, RoomShape, Wall
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.geometry.house import House, on_wall
from vivid_lattice.core.plan.geometry.walls import unbroken
from vivid_lattice.core.rules.plan_rules import Clearance, PlanRules
from vivid_lattice.core.rules.protocol import RuleSet

_NEAR_M = 1e-6
#: Which points a rule for sockets or for switches means. A cord and a shaver outlet may be nearer.
_MEANT = {"socket": ("socket", "connection-unit"), "switch": ("switch", "dimmer", "sensor")}
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class TooNear:
    """A point that is too near to something fixed [m]."""

    point: str
    fixture: Fixture
    distance_m: float
    wanted_m: float
    text: Text


def too_near(job: Job, rules: RuleSet) -> tuple[TooNear, ...]:
    """Points of a plan that are nearer to something fixed than the standard lets them be: each told once, of what is worst."""
    house = House(job.plan, rules.plan)
    found = []
    for point in job.plan.points:
        own = list(_of_point(point, house, rules))
        if own:
            found.append(max(own, key=lambda each: each.wanted_m - each.distance_m))
    return tuple(found)


def _of_point(point: PlanPoint, house: House, rules: RuleSet) -> Iterator[TooNear]:
    shape, spot = house.rooms[point.room], house.spot_of(point)
    for fixture in shape.fixtures:
        for rule in rules.plan.clearances:
            if rule.fixture != fixture.kind or point.kind not in _MEANT[rule.points]:
                continue
            if not rule.from_height_m <= spot.z_m <= rule.to_height_m:
                continue
            distance = distance_m((spot.x_m, spot.y_m), footprint(shape, fixture))
            if distance < rule.sideways_m - _NEAR_M or (rule.sideways_m == 0 and distance < _NEAR_M):
                yield TooNear(
                    point=point.id, fixture=fixture, distance_m=distance, wanted_m=rule.sideways_m,
                    text=_text(point, fixture, rule, distance, rules),
                )  # fmt: skip


def _text(point: PlanPoint, fixture: Fixture, rule: Clearance, distance_m: float, rules: RuleSet) -> Text:
    what = message(rules.words, f"core.plan.fixture.{fixture.kind}")
    publication = rule.source.publication
    if distance_m < _NEAR_M:
        return message(None, "core.plan.clear.over", point=point.name, fixture=what, publication=publication)
    # Down to the centimetre: a place that is too near never looks far enough.
    return message(
        None, "core.plan.clear.near", point=point.name, fixture=what, distance=f"{math.floor(distance_m * 100 + _NEAR_M) / 100:.2f}",
        wanted=f"{rule.sideways_m:.2f}", publication=publication,
    )  # fmt: skip


def worktop_spaces(shape: RoomShape) -> Iterator[tuple[Fixture, float, float]]:
    """The worktops of a room without the sinks and hobs in their wall: each with a part of it, from and to along the wall [m]."""
    for top in (each for each in shape.fixtures if each.kind == "worktop"):
        breaks = [
            (each.from_m, each.from_m + each.width_m)
            for each in shape.fixtures
            if each.kind in ("sink", "hob") and each.wall == top.wall
        ]
        for begin, end in unbroken(top.from_m, top.from_m + top.width_m, breaks):
            yield top, begin, end


def footprint(shape: RoomShape, fixture: Fixture) -> Box:
    """The floor that something fixed covers: x from and to, y from and to [m]."""
    (xa, ya), (xb, yb) = (on_wall(shape, fixture.wall, at) for at in (fixture.from_m, fixture.from_m + fixture.width_m))
    dx, dy = {"front": (0, 1), "back": (0, -1), "left": (1, 0), "right": (-1, 0)}[fixture.wall]
    xs = (xa, xb, xa + dx * fixture.depth_m)
    ys = (ya, yb, ya + dy * fixture.depth_m)
    return min(xs), max(xs), min(ys), max(ys)


def distance_m(place: tuple[float, float], box: Box) -> float:
    """How far a place is from a rectangle [m]; 0 inside."""
    x0, x1, y0, y1 = box
    return math.hypot(max(x0 - place[0], place[0] - x1, 0.0), max(y0 - place[1], place[1] - y1, 0.0))


def barred(shape: RoomShape, wall: Wall, kind: str, height_m: float, rules: PlanRules) -> Iterator[tuple[float, float]]:
    """Parts of a wall where a kind of point may not be at a height, by what is fixed in the room: from and to along the wall [m]."""
    (x0, y0), (_, y1) = on_wall(shape, wall, 0.0), on_wall(shape, wall, 1e9)
    flat = abs(y0 - y1) < _NEAR_M
    for fixture in shape.fixtures:
        box = footprint(shape, fixture)
        (low, high), (near, far) = (box[:2], box[2:]) if flat else (box[2:], box[:2])
        start, line = (x0, y0) if flat else (y0, x0)
        away = max(near - line, line - far, 0.0)
        for rule in rules.clearances:
            if rule.fixture != fixture.kind or kind not in _MEANT[rule.points]:
                continue
            if not rule.from_height_m <= height_m <= rule.to_height_m:
                continue
            if away < rule.sideways_m - _NEAR_M or (rule.sideways_m == 0 and away < _NEAR_M):
                reach = math.sqrt(max(rule.sideways_m**2 - away**2, 0.0))
                yield low - start - reach, high - start + reach
