"""What a rule set must be able to tell. A check knows this protocol and never the name of a school.

A school is a handful of parts, each answering one kind of question. Every answer carries its source; where a
table ends, the answer is ``NotTabulated``, never a guess.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

from vivid_lattice.core.findings import Source, Step
from vivid_lattice.core.job import Cable, Circuit, Device, Job, Rcd, Section


@dataclass(frozen=True, slots=True)
class Looked:
    """A figure looked up: its value, where it stands, and how the row was chosen if that was not plain."""

    value: float
    source: Source
    how: str = ""


@dataclass(frozen=True, slots=True)
class Factor:
    """A rating factor that applies to a section."""

    symbol: str
    meaning: str
    value: float
    source: Source


@dataclass(frozen=True, slots=True)
class DropFigure:
    """Tabulated voltage drop of a cable: resistive, reactive and impedance parts [mV/(A·m)], both conductors."""

    r: float
    x: float
    z: float
    source: Source


@dataclass(frozen=True, slots=True)
class HotFactors:
    """Multipliers from 20 °C resistance to the temperature assumed under fault, line and protective conductor."""

    line: float
    cpc: float
    line_c: float
    cpc_c: float
    source: Source


@dataclass(frozen=True, slots=True)
class CableKind:
    """A kind of cable the school knows."""

    id: str
    title: str
    short: str
    insulation: str
    operating_c: float
    sizes_mm2: tuple[float, ...]
    methods: tuple[str, ...]
    cpc_choices: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Method:
    """A reference method of installation."""

    id: str
    title: str
    text: str
    medium: str
    entry_words: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Grouping:
    """An arrangement of grouped circuits that has a table of factors."""

    id: str
    title: str
    medium: str


@dataclass(frozen=True, slots=True)
class DeviceKind:
    """A kind of protective device. ``action``: 'breaker' trips at once above a multiple, 'fuse' melts with time."""

    id: str
    title: str
    short: str
    standard: str
    action: str
    curves: tuple[str, ...]
    ratings_a: tuple[float, ...]
    common_ratings_a: tuple[float, ...]
    breaking_choices_ka: tuple[float, ...]
    overload_factor: float
    has_rcd: bool
    current: bool
    modules: int


@dataclass(frozen=True, slots=True)
class LoopLimit:
    """Greatest earth fault loop impedance at which a device opens in the time, and the current it needs."""

    zs_ohm: float
    ia_a: float
    source: Source


@dataclass(frozen=True, slots=True)
class Clearing:
    """How a device clears a fault: the current and time reckoned with, and the most energy it lets through."""

    current_a: float
    time_s: float
    energy_a2s: float
    source: Source
    why: str


@dataclass(frozen=True, slots=True)
class RingRule:
    """What the school asks of a ring: least cable rating and size, largest device, and how it is loaded for its voltage drop: so much
    at the far point, the rest of the device's rating spread evenly, which counts as half of it at the far point."""

    min_iz_a: float
    min_area_mm2: float
    max_device_a: float
    far_point_a: float
    drop_current_a: float
    rule: Source
    drop_rule: Source


@dataclass(frozen=True, slots=True)
class Demand:
    """A current reckoned with diversity, and how: the steps are written out only when they are called for."""

    current_a: float
    source: Source
    steps: Callable[[], list[Step]]


class CableRules(Protocol):
    """Cables: sizes, capacities, drops, resistances."""

    kinds: Mapping[str, CableKind]

    def kind(self, cable_type: str) -> CableKind: ...
    def capacity_a(self, cable: Cable, method: str) -> Looked: ...
    def drop_figure(self, cable: Cable, method: str) -> DropFigure: ...
    def cpc_area_mm2(self, cable: Cable) -> Looked: ...
    def line_mohm_per_m(self, cable: Cable) -> Looked: ...
    def cpc_mohm_per_m(self, cable: Cable) -> Looked: ...
    def hot_factors(self, cable: Cable) -> HotFactors: ...
    def k_protective(self, cable: Cable) -> Looked: ...


class FactorRules(Protocol):
    """Methods of installation and what they take off a cable's rating."""

    methods: Mapping[str, Method]
    groupings: Mapping[str, Grouping]
    ambients_c: Mapping[str, float]
    drop_correction_rule: Source

    def factors(self, section: Section, cable: Cable) -> tuple[Factor, ...]: ...
    def device_factors(self, section: Section, device: Device) -> tuple[Factor, ...]: ...
    def base_ambient_c(self, section: Section) -> float: ...
    def drop_correction_refused(self, section: Section, device: Device) -> str: ...


class DeviceRules(Protocol):
    """Protective devices: ratings, loop limits, clearing, breaking capacity."""

    kinds: Mapping[str, DeviceKind]

    def kind(self, device_kind: str) -> DeviceKind: ...
    def loop_limit(self, device: Device, within_s: float) -> LoopLimit: ...
    def clearing(self, device: Device, fault_a: float) -> Clearing: ...
    def breaking_ka(self, device: Device) -> Looked: ...
    def backed_up_ka(self, assembly_ka: float, cutout_kind: str, cutout_a: float) -> Looked | None: ...
    def rcd_loop_limit(self, rcd: Rcd, system: str) -> LoopLimit: ...
    def rcd_time_s(self, rcd: Rcd, multiple: float) -> Looked: ...
    def default_device(self, circuit: Circuit, rating_a: float) -> Device: ...
    def socket_rating_a(self, circuit: Circuit) -> float: ...


class LimitRules(Protocol):
    """Limits that belong to a circuit's use."""

    def drop_limit_pct(self, circuit: Circuit) -> Looked: ...
    def disconnection_s(self, circuit: Circuit, rating_a: float, system: str) -> Looked: ...
    def ring(self, device: Device) -> RingRule: ...
    def min_area_mm2(self, circuit: Circuit) -> Looked: ...
    def u_min_v(self, nominal_v: float) -> Looked: ...
    def stable_electrode_ohm(self) -> Looked: ...


class DemandRules(Protocol):
    """How much of what is connected is taken to run at once."""

    def circuit_current(self, circuit: Circuit, nominal_v: float) -> Demand: ...
    def maximum(self, circuits: Sequence[Circuit], nominal_v: float) -> Demand: ...


class RuleSet(Protocol):
    """A school: its words, tables and rules."""

    id: str
    title: str
    edition: str
    words: Mapping[str, str]
    systems: tuple[str, ...]
    nominal_v: float
    declared_ze_ohm: Mapping[str, float]
    default_method: str
    default_cable: str
    default_buried_cable: str
    tails_cable: str
    cables: CableRules
    factors: FactorRules
    devices: DeviceRules
    limits: LimitRules
    demand: DemandRules

    def rule(self, topic: str) -> Source: ...
    def check_job(self, job: Job) -> Sequence[tuple[str, str]]: ...
