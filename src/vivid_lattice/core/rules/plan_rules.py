"""What a rule set says of plans: heights of points, cables by their conductors, which core does what, what is left at cable ends."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

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
    """Which core does what in a section, and what is marked at both ends; '' where nothing is."""

    cores: str
    marked: str
    source: Source


@dataclass(frozen=True, slots=True)
class Connector:
    """A connector that is stocked: ports, and the wire that it takes [mm²]."""

    ports: int
    least_mm2: float
    most_mm2: float


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
    def connectors(self) -> tuple[Connector, ...]:
        """Connectors that are stocked."""
        ...
