"""What a rule set says of plans: heights of points, cables by their conductors, which core does what, what is left at cable ends."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal, Protocol

from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True)
class PointHeight:
    """The height of a kind of point above the finished floor [m]. None: the standard's data give none."""

    least_m: float | None
    usual_m: float
    greatest_m: float | None
    source: Source


@dataclass(frozen=True, slots=True)
class SectionCable:
    """A cable that carries a section: how many conductors at most, how many cores it has but for the protective one's (0: wires of any
    number), and its name."""

    conductors: int
    cores: int
    name: str


@dataclass(frozen=True, slots=True)
class CoreUse:
    """Which core does what in a section, and what is marked at both ends; '' where nothing is. ``sleeves``: both ends together, by colour."""

    cores: str
    marked: str
    source: Source
    sleeves: Mapping[str, int] = field(default_factory=dict, hash=False)


@dataclass(frozen=True, slots=True)
class Connector:
    """A connector that is stocked: ports, and the wire that it takes [mm²]."""

    ports: int
    least_mm2: float
    most_mm2: float


FillMethod = Literal["factors", "share", "raceway"]
BoxMethod = Literal["cables", "conductors", "volume"]


@dataclass(frozen=True, slots=True)
class ConduitFill:
    """How a standard fills conduits: by factors, by a share of the inside for one, two and more, or by its table of raceways. ``least_mm``: no
    smaller one is usual."""

    method: FillMethod
    shares: tuple[float, ...]
    source: Source
    least_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class BoxSize:
    """A box, and how much it takes: sheathed cables, conductors or cubic inches, by the size of the conductors [mm²]; a size that is
    not in the table is taken as the next larger. ``gangs`` 0: of any number. ``ceiling``: for a light."""

    name: str
    gangs: int
    takes: Mapping[float, float]
    ceiling: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class WallSpacing:
    """Sockets along walls [m]: no point further than ``reach_m`` from one, in spaces of ``least_m`` and more; none higher than ``highest_m``
    counts."""

    reach_m: float
    least_m: float
    highest_m: float
    source: Source


@dataclass(frozen=True, slots=True)
class LaidMethod:
    """A method of installation by where a cable lies."""

    method: str
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class WallZones:
    """Where hidden cables run in walls [m]. ``top_m``, ``bottom_m``, ``middle_m``: how far from the ceiling, and how high above the floor, from
    and to; None: no such zone. ``corner_m``: from a corner. ``from_accessory``: straight from one counts, in any direction."""

    top_m: tuple[float, float]
    bottom_m: tuple[float, float] | None
    middle_m: tuple[float, float] | None
    corner_m: tuple[float, float]
    from_accessory: bool
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearance:
    """How far sockets or switches keep from something fixed [m], between two heights above the floor. ``sideways_m`` 0: not over it."""

    fixture: str
    points: Literal["socket", "switch"]
    sideways_m: float
    from_height_m: float
    to_height_m: float
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualPoints:
    """Points that a room usually has."""

    lights: int
    switch_places: int
    sockets: int
    above_worktop: int
    alarm: bool


class PlanRules(Protocol):
    """Plans of houses. NotTabulated where a standard's data hold nothing of them."""

    def height(self, kind: str) -> PointHeight | None:
        """The height of a kind of point; None: none is usual, as of a ceiling light."""
        ...

    def slack_m(self, end: str) -> float:
        """Length left at a cable end [m]: of a board, a box, a junction-box, a light, an appliance, an alarm."""
        ...

    @property
    def cables(self) -> tuple[SectionCable, ...]:
        """Cables for sections, by how many conductors they carry."""
        ...

    def core_use(self, carries: str) -> CoreUse | None:
        """Which core does what; ``carries``: what the section carries, without numbers (``L SL SL PE``); None: not tabulated."""
        ...

    def terminal_ends(self, device: str) -> int:
        """How many cable ends the terminals of a device join without a connector; 0: they take one each."""
        ...

    @property
    def conduit_fill(self) -> ConduitFill:
        """How conduits are filled."""
        ...

    @property
    def box_method(self) -> BoxMethod | None:
        """What is counted in a box; None: the standard's data do not say."""
        ...

    @property
    def boxes(self) -> tuple[BoxSize, ...]:
        """Boxes with what each takes, the smallest first; none where nothing is counted."""
        ...

    def table_rows(self, table: str) -> tuple[tuple[Any, ...], ...]:
        """Rows of one of the tables that plans share, by its id."""
        ...

    @property
    def connectors(self) -> tuple[Connector, ...]:
        """Connectors that are stocked."""
        ...

    @property
    def wall_spacing(self) -> WallSpacing | None:
        """Sockets along walls; None: the standard has no such rule, or its data do not say."""
        ...

    @property
    def wall_zone_m(self) -> float:
        """How far below the ceiling cables in walls run [m]: the preferred line of the standard's upper zone."""
        ...

    @property
    def wall_zones(self) -> WallZones | None:
        """Where hidden cables run in walls; None: the standard has no such zones, or its data do not say."""
        ...

    def method_of(self, lies_in: str, insulation_mm: float | None) -> LaidMethod | None:
        """The method of installation of a sheathed cable by where it lies; ``lies_in``: a kind of wall or a way. None: not tabulated."""
        ...

    @property
    def methods_told_apart(self) -> frozenset[str]:
        """The methods that where a cable lies decides between; empty: not tabulated."""
        ...

    @property
    def clearances(self) -> tuple[Clearance, ...]:
        """How far points keep from what is fixed; empty: not tabulated."""
        ...

    @property
    def counter_spacing(self) -> WallSpacing | None:
        """Sockets along worktops; None: the standard has no such rule, or its data do not say."""
        ...

    def required_within_m(self, place: str) -> tuple[float, Source] | None:
        """A hallway so long needs a socket, a basin needs one so near [m]; None: no such rule."""
        ...

    def usual_points(self, name: str, area_m2: float) -> UsualPoints:
        """Points that a room of a name and size usually has: no fewer sockets than the standard's guidance calls least."""
        ...

    def usual_fixture_m(self, kind: str) -> tuple[float, float]:
        """The usual width and depth of something fixed [m]."""
        ...

    @property
    def light_load_share(self) -> float | None:
        """The share of its rating in company up to which a circuit is left out when a group is counted; None: the standard's data have no
        such rule."""
        ...

    @property
    def wire_kinds(self) -> frozenset[str]:
        """The kinds of cable that are single wires in conduit."""
        ...

    @property
    def sockets_word(self) -> str:
        """What is typed for a circuit of sockets."""
        ...

    @property
    def first_floor(self) -> int:
        """The level of the floor that people call the first: 0 on the ground, 1 above it."""
        ...
