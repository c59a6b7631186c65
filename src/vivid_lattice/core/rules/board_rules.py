"""What a rule set says of boards: how they are switched off, where they may be mounted, how they are wired and named."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from vivid_lattice.core.document.board_build import TopOrBottom
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source

MainSide = Literal["left", "right", "top"]


@dataclass(frozen=True, slots=True, kw_only=True)
class MainRule:
    """What a board is switched off by (``has_release``: a breaker with an overload release): whether it breaks 'all' live conductors or the 'lines'; what a sub-board without one
    of its own is ('fail' or 'advice')."""

    breaks: Literal["all", "lines"]
    has_release: bool
    source: Source
    sub_level: Literal["fail", "advice"]
    sub_source: Source


@dataclass(frozen=True, slots=True)
class PlaceRule:
    """Where a board may not be mounted, or had better not. ``when``: a kind of place, 'wet-zone' or 'wet-room'."""

    when: str
    level: Literal["fail", "advice"]
    text: str
    source: Source


@dataclass(frozen=True, slots=True)
class NoticeRule:
    """A notice that is at the board: ``when`` 'always', 'origin', 'rcd', 'ahead', 'contactor' or 'earth'."""

    when: str
    text: str
    source: Source


@dataclass(frozen=True, slots=True)
class SpareSpace:
    """Share of a board to leave free [%], and the least number of modules."""

    pct: float
    least: float
    source: Source

    def to_leave(self, room: float, wish_pct: float | None) -> float:
        """How much of so many modules or spaces is to stay free: the owner's share [%] where stated, else the usual one."""
        return max(self.least, room * (self.pct if wish_pct is None else wish_pct) / 100)


class BoardRules(Protocol):
    """How boards are built. NotTabulated where a standard holds nothing."""

    @property
    def main(self) -> MainRule: ...
    @property
    def main_side(self) -> MainSide: ...
    @property
    def feed(self) -> TopOrBottom: ...
    @property
    def places(self) -> tuple[PlaceRule, ...]: ...
    @property
    def place_source(self) -> Source: ...
    @property
    def wet_rooms(self) -> tuple[str, ...]: ...
    @property
    def handle_max_m(self) -> SourcedValue | None: ...
    @property
    def bottom_min_m(self) -> SourcedValue | None: ...
    @property
    def clear_min_m(self) -> SourcedValue | None: ...
    @property
    def non_combustible(self) -> tuple[tuple[str, ...], Source] | None: ...
    @property
    def spare(self) -> SpareSpace: ...
    @property
    def min_link_mm2(self) -> SourcedValue: ...
    @property
    def balance_pct(self) -> SourcedValue | None: ...
    @property
    def single_phase_max_w(self) -> SourcedValue | None: ...
    @property
    def notices(self) -> tuple[NoticeRule, ...]: ...
    @property
    def switch_category(self) -> Source: ...
    @property
    def tandem(self) -> Source | None: ...
    def rail_socket_device_a(self, outlet_a: float) -> SourcedValue: ...
    def source(self, topic: str) -> Source: ...
    def figure(self, rule: str, param: str) -> SourcedValue: ...
    def loading(self, circuits: int, *, household: bool) -> SourcedValue: ...
    def side_by_side(self, devices: int) -> SourcedValue: ...
    def max_loss_w(self, rating_a: float) -> SourcedValue: ...
    def strip_mm(self, area_mm2: float) -> SourcedValue: ...
    def torque(self, device: str) -> tuple[float, float, float, Source]: ...
    def width(self, device: str, poles: str) -> SourcedValue: ...
    def ferrule_colour(self, area_mm2: float) -> str: ...
