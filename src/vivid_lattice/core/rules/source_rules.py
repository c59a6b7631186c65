"""What a standard requires of sources beside the supply."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True, kw_only=True)
class BusbarRule:
    """A busbar that is fed from both sides: device upstream + factor · outputs ≤ share · busbar.

    output_factor   what an output counts
    opposite_share  share of the busbar's rating that may be reached with every source at the end away from the main device; 1 otherwise
    """

    output_factor: float
    opposite_share: float
    source: Source


@dataclass(frozen=True, slots=True)
class ConnectionRule:
    """When the network company is told: up to ``upto_a`` in each line afterwards, above it before the source is connected. ``upto_a`` None:
    the standard's tables hold no limit."""

    upto_a: float | None
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class StandbyRules:
    """What supplies while the supply is off. ``needs_electrode``: an electrode of its own; ``neutral``: the changeover switches it, or may."""

    changeover: Source
    earth: Source
    earth_text: str
    needs_electrode: bool
    neutral: Literal["switched", "either"]


class SourceRules(Protocol):
    """Sources in parallel with the supply, and standby supplies."""

    @property
    def busbar(self) -> BusbarRule: ...
    @property
    def final_circuit(self) -> Source | None: ...
    @property
    def isolation(self) -> Source: ...
    @property
    def load_side(self) -> Source: ...
    @property
    def backfed(self) -> Source | None: ...
    @property
    def connection(self) -> ConnectionRule: ...
    @property
    def standby(self) -> StandbyRules | None: ...
    def inverter_multiple(self) -> tuple[float, float, Source]: ...
