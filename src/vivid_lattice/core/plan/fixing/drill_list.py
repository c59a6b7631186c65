"""Holes through joists that a plan needs: which joists, how far from a support, how large; and whether the standard lets them be there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from vivid_lattice.core.document.plan import FloorBuild, RoomShape, Wall
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.fixing.counting import crossed_at
from vivid_lattice.core.plan.fixing.drills import drill_for
from vivid_lattice.core.plan.fixing.laid_cables import LaidCable
from vivid_lattice.core.plan.fixing.places import place_of, rooms_under
from vivid_lattice.core.plan.fixing.timber import (
    Bore,
    Timber,
    apart_m,
    edge_cover_m,
    needs_protection,
    refused,
    too_close,
    zone_m,
)
from vivid_lattice.core.plan.geometry.house import House
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.plan.routes.lines import axis_of
from vivid_lattice.core.rules.fixing_rules import TimberLimits
from vivid_lattice.core.rules.protocol import RuleSet

Void = Literal["ceiling", "floor"]
#: Cables that cross a joist so near to each other share a hole [m]. Common practice, no source.
_SHARED_M = 0.05
#: A span that is typed and the measure of a room are the same up to this [m].
_SAME_M = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class DrillRow:
    """Holes on one line through some joists of a room.

    room, void       over the room, or under it
    from_wall        the wall that joists are counted from;  joists_at_m: of their centre lines from it
    support_wall     the wall near which they are drilled;  at_m: how far from it, along the joist
    circuits, cables  whose cables, and how many go through each joist
    kind             a hole on the centre line, or a notch where no hole is allowed and a notch is
    size_mm          the drill, or the depth of the notch; None: the outside of a cable is not known
    holes            side by side in each joist, ``apart_m`` from centre to centre
    depth_mm         of the joists;  height_mm: of the hole above their lower edge;  cover_mm: from its edge to the nearer edge
    protect          a plate or earthed metal is needed
    zone_m           where holes are allowed, from a support
    refused          why it must not be made;  lack: what is not known, or not available for this standard
    """

    room: str
    void: Void
    from_wall: Wall
    joists_at_m: tuple[float, ...]
    support_wall: Wall
    at_m: float
    circuits: tuple[str, ...]
    cables: int
    kind: Literal["hole", "notch"]
    size_mm: float | None
    holes: int
    apart_m: float
    depth_mm: float | None
    height_mm: float | None
    cover_mm: float | None
    protect: bool
    zone_m: tuple[float, float] | None
    span_m: float | None
    refused: Text | None
    lack: Text | None

    @property
    def count(self) -> int:
        """Holes in all."""
        return self.holes * len(self.joists_at_m)

    @property
    def outside_zone(self) -> bool:
        """Whether it is where the joist must not be drilled, and would be permitted further along."""
        at = self.at_m
        return self.zone_m is not None and not self.zone_m[0] - 1e-9 <= at <= self.zone_m[1] + 1e-9

    @property
    def more_m(self) -> float:
        """Cable that it takes at most to cross the joists where that is permitted [m]."""
        if self.zone_m is None:
            return 0.0
        return 2 * max(self.zone_m[0] - self.at_m, self.at_m - self.zone_m[1], 0.0)

    @property
    def bore(self) -> Bore | None:
        """The first of them in a joist; None: its size is not known."""
        return None if self.size_mm is None else Bore(self.kind, self.at_m, self.size_mm / 1000)


@dataclass(frozen=True, slots=True)
class _Line:
    """A line on which joists are crossed: whose room, over or under it, along which axis, where along the joists."""

    room: str
    void: Void
    axis: int
    along_cell: int


def drill_list(laid: Sequence[LaidCable], house: House, rules: RuleSet) -> tuple[DrillRow, ...]:
    """Every hole through joists of which the plan states direction and centres.

    Source  counting; circles in a circle; the limits of the standard, where its data have them
    """
    crossed: dict[_Line, dict[float, list[tuple[LaidCable, float]]]] = defaultdict(lambda: defaultdict(list))
    floors: dict[_Line, FloorBuild] = {}
    for cable in laid:
        for leg in cable.route:
            place = place_of(leg, house)
            if place.held != "joists" or place.floor is None or place.floor.joist_centres_mm is None:
                continue
            for shape in _rooms_of(leg, house):
                line = _line(leg, shape)
                floors[line] = place.floor
                for joist in _joists(leg, shape, place.floor):
                    crossed[line][joist].append((cable, leg.a[1 - axis_of(leg)]))
    rows = [
        row
        for line, joists in crossed.items()
        for row in _rows(line, joists, floors[line], house.rooms[line.room], rules)
    ]
    return tuple(_apart(rows, rules.fixing.timber("joist")))


def _rooms_of(leg: Leg, house: House) -> list[RoomShape]:
    """The rooms that a part crosses joists of; along a wall between two rooms, the joists of one."""
    across = 1 - axis_of(leg)
    at, rooms = leg.a[across], rooms_under(leg, house)
    starts = {round(_extent(shape, across)[0], 3) for shape in rooms}
    return [
        shape for shape in rooms if round(_extent(shape, across)[1], 3) != round(at, 3) or round(at, 3) not in starts
    ]


def _extent(shape: RoomShape, axis: int) -> tuple[float, float]:
    start, size = ((shape.x_m, shape.width_m), (shape.y_m, shape.depth_m))[axis]
    return start, start + size


def _line(leg: Leg, shape: RoomShape) -> _Line:
    axis = axis_of(leg)
    void: Void = "floor" if leg.lies_in == "floor" else "ceiling"
    return _Line(shape.room, void, axis, round(leg.a[1 - axis] / _SHARED_M))


def _joists(leg: Leg, shape: RoomShape, floor: FloorBuild) -> tuple[float, ...]:
    """Joists of a room that a part crosses, by their distance from the room's left or front wall [m]. They are taken to be set out from it."""
    axis = axis_of(leg)
    start, stop = _extent(shape, axis)
    begin, end = sorted((leg.a[axis] - start, leg.b[axis] - start))
    assert floor.joist_centres_mm is not None
    centres = floor.joist_centres_mm / 1000
    return crossed_at(max(begin, 0.0), min(end, stop - start - 0.001), centres, centres)


def _rows(
    line: _Line,
    joists: Mapping[float, Sequence[tuple[LaidCable, float]]],
    floor: FloorBuild,
    shape: RoomShape,
    rules: RuleSet,
) -> Iterator[DrillRow]:
    """Joists with the same cables through them are one row."""
    alike: dict[tuple[int, ...], list[float]] = defaultdict(list)
    sets: dict[tuple[int, ...], list[LaidCable]] = {}
    places: dict[tuple[int, ...], float] = {}
    for joist, through in sorted(joists.items()):
        key = tuple(sorted({id(cable) for cable, _ in through}))
        alike[key].append(joist)
        sets[key] = list({id(cable): cable for cable, _ in through}.values())
        places[key] = through[0][1]
    for key, at in alike.items():
        yield _row(line, tuple(at), sets[key], places[key], floor, shape, rules)


def _row(
    line: _Line,
    at: tuple[float, ...],
    cables: Sequence[LaidCable],
    along: float,
    floor: FloorBuild,
    shape: RoomShape,
    rules: RuleSet,
) -> DrillRow:
    across = 1 - line.axis
    start, stop = _extent(shape, across)
    size = stop - start
    low, high = max(0.0, along - start), max(0.0, stop - along)
    walls: tuple[Wall, Wall] = ("left", "right") if across == 0 else ("front", "back")
    limits = rules.fixing.timber("joist")
    empty = DrillRow(
        room=line.room,
        void=line.void,
        from_wall="left" if line.axis == 0 else "front",
        joists_at_m=at,
        support_wall=walls[0] if low <= high else walls[1],
        at_m=round(min(low, high), 3),
        circuits=tuple(dict.fromkeys(cable.plan.circuit.id for cable in cables)),
        cables=len(cables),
        kind="hole",
        size_mm=None,
        holes=1,
        apart_m=0.0,
        depth_mm=floor.joist_depth_mm,
        height_mm=None if floor.joist_depth_mm is None else floor.joist_depth_mm / 2,
        cover_mm=None,
        protect=False,
        zone_m=None,
        span_m=floor.joist_span_m,
        refused=None,
        lack=None,
    )
    known = [each for each in (cable.wide_mm for cable in cables) if each is not None]
    if len(known) < len(cables):
        return replace(empty, lack=message(None, "core.plan.fixing.lack.cable", cable=cables[0].what))
    if floor.joist_kind == "engineered":
        return _sized(empty, known, None, None, rules, message(None, "core.plan.fixing.engineered"))
    if limits is None:
        return _sized(empty, known, None, None, rules, message(None, "core.plan.fixing.not_available"))
    if floor.joist_depth_mm is None or floor.joist_span_m is None:
        return _sized(empty, known, None, limits, rules, message(None, "core.plan.fixing.lack.joists"))
    timber = Timber(floor.joist_depth_mm / 1000, floor.joist_span_m)
    lack = _span_lack(size, floor.joist_span_m, shape)
    row = _sized(empty, known, timber, limits, rules, lack)
    thick = [each for each in (cable.thick_mm for cable in cables) if each is not None]
    return _allowed(row, timber, limits, low, high, thick)


def _span_lack(size_m: float, span_m: float, shape: RoomShape) -> Text | None:
    """A room that is longer than the span has a support that the plan does not show."""
    if size_m > span_m + _SAME_M:
        return message(None, "core.plan.fixing.lack.support", span=f"{span_m:g}", room=f"{size_m:g}")
    return None


def _sized(
    row: DrillRow, wide_mm: Sequence[float], timber: Timber | None, limits: TimberLimits | None, rules: RuleSet,
    lack: Text | None,
) -> DrillRow:  # fmt: skip
    """The row with its drill: all in one hole where one is large enough and allowed by size, else shared out over several."""
    for holes in range(1, len(wide_mm) + 1):
        each = ceil(len(wide_mm) / holes)
        drill = drill_for(sorted(wide_mm, reverse=True)[:each], rules.fixing)
        if drill is None:
            continue
        if timber is not None and limits is not None and holes < len(wide_mm):
            bore = Bore("hole", zone_m(timber, limits, "hole")[0], drill / 1000)
            if refused(timber, bore, limits) is not None:
                continue
        gap = apart_m(drill / 1000, drill / 1000, limits) if limits is not None and holes > 1 else 0.0
        return replace(row, size_mm=drill, holes=holes, apart_m=round(gap, 4), lack=lack)
    return replace(row, lack=lack or message(None, "core.plan.fixing.lack.drill"))


def _allowed(
    row: DrillRow, timber: Timber, limits: TimberLimits, low_m: float, high_m: float, thick_mm: Sequence[float]
) -> DrillRow:
    """The row judged: a hole where it is allowed; a notch for one cable where that alone is; else refused. What lacks an input is not."""
    if row.size_mm is None or row.lack is not None:
        return row
    zone, drill_m = zone_m(timber, limits, "hole"), row.size_mm / 1000
    row = replace(row, zone_m=zone)
    ends = _from_supports(low_m, high_m, timber.span_m)
    hole = [Bore("hole", at + shift, drill_m) for at in ends for shift in _shifts(row, at, zone)]
    why = next((text for bore in hole if (text := refused(timber, bore, limits)) is not None), None)
    first = hole[0]
    if why is None:
        cover = edge_cover_m(timber, first)
        return replace(row, cover_mm=round(cover * 1000, 2), protect=needs_protection(timber, first, limits))
    if row.cables == 1 and thick_mm:
        notches = [Bore("notch", at, thick_mm[0] / 1000) for at in ends]
        if all(refused(timber, bore, limits) is None for bore in notches):
            return replace(row, kind="notch", size_mm=thick_mm[0], height_mm=None, cover_mm=0.0, protect=True)
    return replace(row, refused=why)


def _from_supports(low_m: float, high_m: float, span_m: float) -> tuple[float, ...]:
    """How far a hole is from the nearer support: by the walls of the room. Where the joist is longer than the room, either wall may be the
    support."""
    if low_m + high_m >= span_m - _SAME_M:
        return (min(low_m, high_m),)
    return tuple(min(at, span_m - at) for at in (low_m, high_m))


def _shifts(row: DrillRow, at_m: float, zone: tuple[float, float]) -> tuple[float, ...]:
    """Holes side by side go on from the first towards the middle of the zone."""
    step = row.apart_m if at_m <= sum(zone) / 2 else -row.apart_m
    return tuple(step * number for number in range(row.holes))


def _apart(rows: Sequence[DrillRow], limits: TimberLimits | None) -> Iterator[DrillRow]:
    """Rows with those refused that are too close to another in the same joist."""
    for number, row in enumerate(rows):
        own = row.bore
        if limits is None or row.refused is not None or own is None:
            yield row
            continue
        others = [other.bore for at, other in enumerate(rows) if at != number and _same_joists(other, row)]
        why = too_close(own, [bore for bore in others if bore is not None], limits)
        yield row if why is None else replace(row, refused=why)


def _same_joists(one: DrillRow, other: DrillRow) -> bool:
    """Whether two rows are in a joist of both, near the same support."""
    place = (one.room, one.void, one.from_wall, one.support_wall)
    return place == (other.room, other.void, other.from_wall, other.support_wall) and bool(
        set(one.joists_at_m) & set(other.joists_at_m)
    )
