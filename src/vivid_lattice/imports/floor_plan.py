"""A floor plan from a DXF drawing: rooms are what lines of a layer enclose, doors are gaps in them, names are texts inside.

Only what can be a room with straight walls is taken: a rectangle, or one without a corner; of another shape its outer rectangle, and that is
said.
"""

from __future__ import annotations

import io
import itertools
import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import ezdxf
from shapely import LineString, Point, Polygon, box
from shapely.ops import polygonize, unary_union

from vivid_lattice.core.document.plan import Corner, Notch, Opening, Wall
from vivid_lattice.core.messages import message
from vivid_lattice.imports.refusal import ImportRefused

MAX_BYTES = 12 * 1024 * 1024
_MAX_LINES, _MAX_ROOMS = 20_000, 100
#: Metres in a unit of the drawing, by its number in the file; the rest are guessed from its size.
_UNITS_M = {1: 0.0254, 2: 0.3048, 4: 0.001, 5: 0.01, 6: 1.0}
#: Smaller or narrower is no room but the inside of a wall [m², m]; ends so near to each other meet [m]; widths of doors [m].
_LEAST_M2, _LEAST_WIDE_M, _MEET_M, _DOOR_M = 0.8, 0.7, 0.02, (0.5, 2.6)
#: How much of its outer rectangle a room fills that is one.
_WHOLE = 0.985
Spot = tuple[float, float]


@dataclass(frozen=True, slots=True)
class FoundRoom:
    """A room of the drawing [m]. ``exact``: it is what the drawing has, and not its outer rectangle alone."""

    name: str
    x_m: float
    y_m: float
    width_m: float
    depth_m: float
    notch: Notch | None
    doors: tuple[Opening, ...]
    exact: bool


@dataclass(frozen=True, slots=True)
class FoundLayer:
    """A layer with the rooms that its lines enclose."""

    name: str
    rooms: tuple[FoundRoom, ...]


def read_floor_plan(raw: bytes) -> tuple[FoundLayer, ...]:
    """The layers of a drawing that enclose rooms, the one with the most first.

    Raises  ImportRefused where it is no DXF drawing, is too large, or encloses no room
    """
    if len(raw) > MAX_BYTES:
        raise ImportRefused(message(None, "import.plan.large", n=MAX_BYTES // 1024 // 1024))
    try:
        drawing = ezdxf.read(io.StringIO(raw.decode("utf-8", errors="surrogateescape")))
    except (ezdxf.DXFError, OSError, ValueError, IndexError, KeyError, TypeError) as wrong:
        raise ImportRefused(message(None, "import.plan.no_dxf")) from wrong
    lines, texts = _lines_and_texts(drawing)
    if sum(map(len, lines.values())) > _MAX_LINES:
        raise ImportRefused(message(None, "import.plan.lines", n=_MAX_LINES))
    unit_m = _UNITS_M.get(int(drawing.header.get("$INSUNITS", 0)), 0.0) or _guessed_m(lines)
    found = []
    for name, parts in lines.items():
        scaled = [((a[0] * unit_m, a[1] * unit_m), (b[0] * unit_m, b[1] * unit_m)) for a, b in parts]
        named = [(text, (at[0] * unit_m, at[1] * unit_m)) for text, at in texts]
        rooms = tuple(_rooms(scaled, named))
        if rooms:
            found.append(FoundLayer(name, rooms))
    if not found:
        raise ImportRefused(message(None, "import.plan.no_rooms"))
    return tuple(sorted(found, key=lambda layer: -len(layer.rooms)))


def _lines_and_texts(
    drawing: ezdxf.document.Drawing,
) -> tuple[dict[str, list[tuple[Spot, Spot]]], list[tuple[str, Spot]]]:
    lines: dict[str, list[tuple[Spot, Spot]]] = defaultdict(list)
    texts: list[tuple[str, Spot]] = []
    for entity in _entities(drawing.modelspace()):
        kind, layer = entity.dxftype(), str(entity.dxf.layer)
        if kind == "LINE":
            lines[layer].append((_xy(entity.dxf.start), _xy(entity.dxf.end)))
        elif kind in ("LWPOLYLINE", "POLYLINE"):
            places = [(float(x), float(y)) for x, y in _corners(entity)]
            closed = bool(entity.closed if kind == "LWPOLYLINE" else entity.is_closed)
            lines[layer] += itertools.pairwise([*places, *places[:1]] if closed else places)
        elif kind in ("TEXT", "MTEXT"):
            text = str(entity.plain_text()).strip().split("\n")[0]
            if text:
                texts.append((text[:60], _xy(entity.dxf.insert)))
    return lines, texts


def _entities(space: Any) -> Iterator[Any]:
    """What is drawn; of blocks, what they hold."""
    for entity in space:
        if entity.dxftype() == "INSERT":
            yield from entity.virtual_entities()
        else:
            yield entity


def _corners(entity: Any) -> Iterator[tuple[float, float]]:
    if entity.dxftype() == "LWPOLYLINE":
        yield from entity.get_points("xy")
    else:
        yield from (_xy(vertex.dxf.location) for vertex in entity.vertices)


def _xy(place: Any) -> Spot:
    return float(place[0]), float(place[1])


def _guessed_m(lines: dict[str, list[tuple[Spot, Spot]]]) -> float:
    """Metres in a unit where the file does not say: a house is a few to a hundred metres wide."""
    ends = [end for parts in lines.values() for part in parts for end in part]
    wide = max((x for x, _ in ends), default=0.0) - min((x for x, _ in ends), default=0.0)
    return 1.0 if wide <= 150 else 0.01 if wide <= 2000 else 0.001


def _rooms(parts: Sequence[tuple[Spot, Spot]], texts: Sequence[tuple[str, Spot]]) -> Iterator[FoundRoom]:
    finite = [part for part in parts if all(map(math.isfinite, (*part[0], *part[1]))) and math.dist(*part) > _MEET_M]
    doors = list(_door_gaps(finite))
    net = unary_union([LineString([_snapped(a), _snapped(b)]) for a, b in (*finite, *doors)])
    number = 0
    for outline in polygonize(net):
        if outline.area < _LEAST_M2 or outline.buffer(-_LEAST_WIDE_M / 2).is_empty or number >= _MAX_ROOMS:
            continue
        number += 1
        name = next((text for text, at in texts if outline.contains(Point(at))), f"Room {number}")
        yield _room(name, outline, doors)


def _snapped(place: Spot) -> Spot:
    """A place on a grid fine enough for a house, so that ends that meet are one."""
    return round(place[0] / _MEET_M) * _MEET_M, round(place[1] / _MEET_M) * _MEET_M


def _door_gaps(parts: Sequence[tuple[Spot, Spot]]) -> Iterator[tuple[Spot, Spot]]:
    """Gaps as wide as a door between ends that nothing else meets, in line with each other."""
    counts: dict[Spot, int] = defaultdict(int)
    for part in parts:
        for end in part:
            counts[_snapped(end)] += 1
    loose = [place for place, count in counts.items() if count == 1]
    pairs = sorted(
        (math.dist(a, b), a, b)
        for a, b in itertools.combinations(loose, 2)
        if _DOOR_M[0] <= math.dist(a, b) <= _DOOR_M[1] and min(abs(a[0] - b[0]), abs(a[1] - b[1])) <= _MEET_M
    )
    used: set[Spot] = set()
    for _, a, b in pairs:
        if a not in used and b not in used:
            used |= {a, b}
            yield a, b


def _room(name: str, outline: Polygon, doors: Sequence[tuple[Spot, Spot]]) -> FoundRoom:
    x0, y0, x1, y1 = outline.bounds
    whole = box(x0, y0, x1, y1)
    notch = None
    exact = outline.area >= _WHOLE * whole.area
    if not exact:
        notch = _notch(whole.difference(outline), (x0, y0, x1, y1))
        exact = notch is not None
    return FoundRoom(
        name=name, x_m=round(x0, 3), y_m=round(y0, 3), width_m=round(x1 - x0, 3), depth_m=round(y1 - y0, 3), notch=notch,
        doors=tuple(_doors(doors, (x0, y0, x1, y1))), exact=exact,
    )  # fmt: skip


def _notch(missing: Polygon, bounds: tuple[float, float, float, float]) -> Notch | None:
    """The corner that a room lacks, where what is missing is one rectangle in a corner."""
    x0, y0, x1, y1 = bounds
    if missing.geom_type != "Polygon":
        return None
    a0, b0, a1, b1 = missing.bounds
    if missing.area < _WHOLE * (a1 - a0) * (b1 - b0):
        return None
    left, right = abs(a0 - x0) <= _MEET_M, abs(a1 - x1) <= _MEET_M
    front, back = abs(b0 - y0) <= _MEET_M, abs(b1 - y1) <= _MEET_M
    if left == right or front == back:
        return None
    corner: Corner = f"{'front' if front else 'back'}-{'left' if left else 'right'}"  # type: ignore[assignment]
    return Notch(corner=corner, width_m=round(a1 - a0, 3), depth_m=round(b1 - b0, 3))


def _doors(gaps: Sequence[tuple[Spot, Spot]], bounds: tuple[float, float, float, float]) -> Iterator[Opening]:
    """The gaps in the walls of a room."""
    x0, y0, x1, y1 = bounds
    for a, b in gaps:
        across = abs(a[1] - b[1]) <= _MEET_M
        low, high = sorted((a[0], b[0]) if across else (a[1], b[1]))
        at, start, end = (a[1], x0, x1) if across else (a[0], y0, y1)
        near, far, walls = (y0, y1, ("front", "back")) if across else (x0, x1, ("left", "right"))
        wall: Wall | None = None
        if abs(at - near) <= _MEET_M:
            wall = walls[0]  # type: ignore[assignment]
        elif abs(at - far) <= _MEET_M:
            wall = walls[1]  # type: ignore[assignment]
        if wall is not None and start - _MEET_M <= low and high <= end + _MEET_M:
            yield Opening(kind="door", wall=wall, from_m=round(max(low - start, 0.0), 3), width_m=round(high - low, 3))
