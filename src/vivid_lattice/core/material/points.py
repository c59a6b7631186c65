"""What the points of the plan are made of: accessories by plate, boxes, connectors, sleeves; each by room for the van."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from math import ceil

from vivid_lattice.core.document.plan import PlanPoint
from vivid_lattice.core.material.articles import article_of
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.line import Group, MaterialLine
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.plan.fill.boxes_of_plan import fills_of
from vivid_lattice.core.plan.house_plan import made_joints

#: Switches that go by how they control: alone, at the ends of several, or between them.
_SWITCHES = ("switch", "pull-cord", "dimmer", "sensor")


class _Tally:
    """Articles counted by room."""

    def __init__(self, group: Group):
        self._group = group
        self._rooms: dict[str, Counter[str]] = defaultdict(Counter)
        self._words: dict[str, Text] = {}

    def add(self, what: Text, room: str, count: int = 1) -> None:
        """So many of something, for a room."""
        article = article_of(self._group, what)
        self._words.setdefault(article, what)
        self._rooms[article][room] += count

    def lines(self, spare: float, note: Text = "") -> Iterator[MaterialLine]:
        """A line each article, with spares rounded up."""
        for article, rooms in sorted(self._rooms.items()):
            count = sum(rooms.values())
            yield MaterialLine(
                group=self._group, article=article, what=self._words[article],
                quantity=float(ceil(round(count * (1 + spare), 9))), unit="pcs", note=note if spare else "",
                rooms={room: float(many) for room, many in rooms.items()},
            )  # fmt: skip


def point_material(counting: Counting) -> Iterator[MaterialLine]:
    """Accessories, boxes, connectors and sleeves of the plan; nothing where there is none."""
    if counting.house is None:
        return
    yield from _accessories(counting)
    yield from _boxes_and_connectors(counting)
    yield from _sleeves(counting)


def _note(counting: Counting, share: float) -> Text:
    return counting.say("core.material.spares", n=round(share * 100))


# ------------------------------------------------------------------------------------------ accessories


def _accessories(counting: Counting) -> Iterator[MaterialLine]:
    plan = counting.network.job.plan
    by_plate: dict[str, list[PlanPoint]] = defaultdict(list)
    for point in plan.points:
        by_plate[point.plate or point.id].append(point)
    role = _roles(counting)
    tally = _Tally("accessory")
    for points in by_plate.values():
        switches = [point for point in points if point.kind in _SWITCHES]
        for point in points:
            if point.kind not in _SWITCHES and point.kind != "junction-box":
                tally.add(_words(counting, point), point.room)
        if switches:
            tally.add(_plate(counting, switches, role), switches[0].room)
    share = counting.waste("accessories", counting.network.job.purchase.accessories_pct)
    yield from tally.lines(share, _note(counting, share))


def _roles(counting: Counting) -> Mapping[str, str]:
    """Whether a switch works its lights alone, from one of two ends, or between them."""
    found: dict[str, str] = {}
    for group in counting.network.job.plan.switching:
        for number, switch in enumerate(group.switches):
            ends = number in (0, len(group.switches) - 1)
            found[switch] = "one_way" if len(group.switches) == 1 else "two_way" if ends else "intermediate"
    return found


def _plate(counting: Counting, switches: Sequence[PlanPoint], role: Mapping[str, str]) -> Message:
    """The switches of one plate."""
    names = [
        counting.say(f"core.material.point.{role.get(point.id, 'one_way')}")
        if point.kind == "switch"
        else counting.say(f"core.material.point.{point.kind}")
        for point in switches
    ]
    return counting.say("core.material.point.plate", n=len(switches), kinds=Joined.of(sorted(names, key=str), ", "))


def _words(counting: Counting, point: PlanPoint) -> Message:
    if point.kind == "socket":
        return counting.say("core.material.point.socket", n=point.gangs)
    return counting.say(f"core.material.point.{point.kind}")


# ------------------------------------------------------------------------------------------ boxes and connectors


def _boxes_and_connectors(counting: Counting) -> Iterator[MaterialLine]:
    assert counting.house is not None
    job, rules = counting.network.job, counting.network.rules
    points = {point.id: point for point in job.plan.points}
    walls = {shape.room: shape.wall_kind for shape in job.plan.rooms}
    boxes, connectors = _Tally("box"), _Tally("box")
    made: set[str] = set()
    for plan in counting.house.circuits:
        joints = made_joints(plan, rules)
        fills = fills_of(plan, points, joints, rules)
        for box, ways in joints.items():
            point = points.get(box)
            room = point.room if point is not None else ""
            for joint in ways:
                if joint.connectors is not None:
                    what = counting.say("core.material.connector", n=joint.connectors.ports)
                    connectors.add(what, room, joint.connectors.count)
            if box in made:
                continue
            made.add(box)
            if point is None or point.kind == "junction-box":
                boxes.add(counting.say("core.material.junction_box"), room)
            elif point.wall is not None:
                fill = fills.get(box)
                size = fill.box.name if fill is not None and fill.box is not None else ""
                boxes.add(_box_words(counting, size, walls.get(point.room)), room)
    yield from boxes.lines(counting.waste("accessories", job.purchase.accessories_pct))
    share = counting.waste("connectors", job.purchase.connectors_pct)
    yield from connectors.lines(share, _note(counting, share))


def _box_words(counting: Counting, size: str, wall: str | None) -> Message:
    """A box by its size, and by the wall it goes into."""
    into = "masonry" if wall in ("masonry", "external") else "hollow" if wall else "any"
    name: Text = size or counting.say("core.material.box.unsized")
    return counting.say(f"core.material.box.{into}", size=name)


def _sleeves(counting: Counting) -> Iterator[MaterialLine]:
    """Short sleeves at both ends of each section, by colour."""
    assert counting.house is not None
    tally = _Tally("accessory")
    for plan in counting.house.circuits:
        for section in plan.sections:
            for colour, count in (section.cores.sleeves if section.cores is not None else {}).items():
                if count:
                    room = counting.room_of.get(section.b, "")
                    tally.add(counting.say("core.material.sleeve", colour=colour), room, count)
    yield from tally.lines(0.0)
