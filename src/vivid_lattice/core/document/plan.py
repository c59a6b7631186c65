"""The plan of a house: floors, rooms with their measures, points, switching, where boards are, and how circuits run.

Lengths in metres. On a floor x runs to the right and y upwards on the plan. A room is a rectangle, less a corner where it has
the shape of an L; its walls are front (y least), right, back and left.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id, Name

Wall = Literal["front", "right", "back", "left"]
WALLS: tuple[Wall, ...] = ("front", "right", "back", "left")
Corner = Literal["front-left", "front-right", "back-left", "back-right"]
_Place = Annotated[float, Field(ge=-500, le=500)]
_Length = Annotated[float, Field(gt=0, le=200)]
_Depth = Annotated[float, Field(ge=0, le=2)]
_Height = Annotated[float, Field(ge=-5, le=20)]

#: What a wall is made of: it decides how a cable in it is fixed and rated.
WallKind = Literal["masonry", "stud", "stud-insulated", "metal-stud", "external"]
#: What a point is. A gang of switches is one point.
PointKind = Literal[
    "socket", "light", "switch", "pull-cord", "dimmer", "sensor", "fan", "cooker", "shower", "connection-unit", "alarm", "data",
    "shaver", "heater", "junction-box", "charger",
]  # fmt: skip
#: Where the cables of a circuit lie between their points; ``wall``: in the walls, in the upper zone.
Way = Literal["ceiling", "floor", "loft", "surface", "wall"]
#: Where the line and neutral of lights are joined: at the light, in a junction box, or at the switch.
FeedAt = Literal["light", "junction-box", "switch"]
#: ``joints``: branches that meet in joint boxes between the points too.
RouteShape = Literal["radial", "branch", "joints", "ring"]
SwitchForm = Literal["strappers", "three-wire"]


class Opening(DocumentModel):
    """A door, a window or a gap in a wall. ``from_m``: from the left end of the wall as seen on the plan (of front and back), or from its
    front end."""

    kind: Literal["door", "window", "gap"]
    wall: Wall
    from_m: Annotated[float, Field(ge=0, le=200)]
    width_m: _Length
    sill_m: _Depth = 0.0
    head_m: Annotated[float, Field(gt=0, le=10)] = 2.1


#: What points keep clear of, or belong over.
FixtureKind = Literal["sink", "basin", "hob", "bath", "shower-tray", "worktop"]


class Fixture(DocumentModel):
    """Something fixed along a wall. ``from_m``: from the left end of the wall, or its front end; ``depth_m``: into the room."""

    kind: FixtureKind
    wall: Wall
    from_m: Annotated[float, Field(ge=0, le=200)]
    width_m: _Length
    depth_m: _Length


class Notch(DocumentModel):
    """A corner that a room lacks."""

    corner: Corner
    width_m: _Length
    depth_m: _Length


class RoomShape(DocumentModel):
    """The measures of a room. ``level``: of its floor, 0 on the ground; ``open_above``: there is no void over it, as over stairs."""

    room: Id
    level: Annotated[int, Field(ge=-5, le=20)] = 0
    x_m: _Place
    y_m: _Place
    width_m: _Length
    depth_m: _Length
    height_m: Annotated[float, Field(gt=1, le=10)] = 2.4
    notch: Notch | None = None
    openings: Annotated[tuple[Opening, ...], Field(strict=False, max_length=40)] = ()
    fixtures: Annotated[tuple[Fixture, ...], Field(strict=False, max_length=40)] = ()
    wall_kind: WallKind | None = None
    wall_mm: Annotated[float, Field(gt=0, le=2000, description="Thickness of masonry, depth of studs.")] | None = None
    stud_centres_mm: Annotated[float, Field(ge=100, le=2000)] | None = None
    open_above: bool = False


class FloorBuild(DocumentModel):
    """How a floor is built. ``void_m``: depth of cables in the ceiling void over a room; ``under_m``: below the finished floor;
    ``thickness_m``: from a ceiling to the floor above; ``insulation_mm``: on the ceiling; ``joist_span_m``: clear, from support to support;
    None: not known. Joists are those over the rooms of this floor; of the lowest floor those under it too."""

    level: Annotated[int, Field(ge=-5, le=20)] = 0
    name: Annotated[str, Field(max_length=60)] = ""
    void_m: _Depth = 0.1
    under_m: _Depth = 0.12
    thickness_m: Annotated[float, Field(gt=0, le=2)] = 0.28
    joists: Literal["x", "y", "none"] | None = None
    joist_kind: Literal["solid", "engineered"] = "solid"
    joist_depth_mm: Annotated[float, Field(ge=50, le=1000)] | None = None
    joist_centres_mm: Annotated[float, Field(ge=100, le=2000)] | None = None
    joist_span_m: Annotated[float, Field(gt=0, le=30)] | None = None
    above: Literal["floor", "loft", "flat-roof"] | None = None
    insulation_mm: Annotated[float, Field(ge=0, le=1000)] | None = None


class PlanPoint(DocumentModel):
    """A point of the installation. On a wall: ``wall`` and ``along_m`` from its left or front end; else ``x_m`` and ``y_m`` in its room.
    ``height_m`` None: the usual one of its kind. ``circuit`` None: not decided yet. ``plate``: the point whose plate and box it shares."""

    id: Id
    kind: PointKind
    name: Name
    room: Id
    wall: Wall | None = None
    along_m: Annotated[float, Field(ge=0, le=200)] | None = None
    x_m: Annotated[float, Field(ge=0, le=200)] | None = None
    y_m: Annotated[float, Field(ge=0, le=200)] | None = None
    height_m: _Height | None = None
    gangs: Annotated[int, Field(ge=1, le=6)] = 1
    above_worktop: bool = False
    circuit: Id | None = None
    plate: Id | None = None


class LightSwitching(DocumentModel):
    """Which switches control which lights. Two switches or more are two-way, with intermediate ones between, in their order; beside a
    sensor each keeps the lights on by itself."""

    lights: Annotated[tuple[Id, ...], Field(strict=False, min_length=1, max_length=40)]
    switches: Annotated[tuple[Id, ...], Field(strict=False, min_length=1, max_length=12)]
    form: SwitchForm = "strappers"


class BoardPlace(DocumentModel):
    """Where a board is: on a wall of a room. ``height_m``: of its entry."""

    board: Id
    room: Id
    wall: Wall
    along_m: Annotated[float, Field(ge=0, le=200)]
    height_m: _Height = 1.4


class PinnedSection(DocumentModel):
    """The path of one section, from ``a`` to ``b``: points or ``feed``, the board. ``first``: along which axis it leaves ``a``."""

    a: Id
    b: Id
    way: Way | None = None
    first: Literal["x", "y"] | None = None


class CircuitRoute(DocumentModel):
    """How a circuit runs, as far as someone decided it. ``order``: points in their order, pinned; '' of the rest, the shortest."""

    circuit: Id
    way: Way = "ceiling"
    shape: RouteShape | None = None
    feed_at: FeedAt | None = None
    order: Annotated[tuple[Id, ...], Field(strict=False, max_length=200)] = ()
    pinned: Annotated[tuple[PinnedSection, ...], Field(strict=False, max_length=400)] = ()


class Plan(DocumentModel):
    """The plan of a job."""

    floors: Annotated[tuple[FloorBuild, ...], Field(strict=False, max_length=20)] = ()
    rooms: Annotated[tuple[RoomShape, ...], Field(strict=False, max_length=200)] = ()
    points: Annotated[tuple[PlanPoint, ...], Field(strict=False, max_length=1000)] = ()
    switching: Annotated[tuple[LightSwitching, ...], Field(strict=False, max_length=300)] = ()
    boards: Annotated[tuple[BoardPlace, ...], Field(strict=False, max_length=50)] = ()
    routes: Annotated[tuple[CircuitRoute, ...], Field(strict=False, max_length=1000)] = ()
    apart: (
        Annotated[
            bool,
            Field(
                description="Cables that go the same way lie two diameters of the larger apart; else they count as grouped."
            ),
        ]
        | None
    ) = None
