"""What a rule set says of protection: who needs which device, how circuits are shared out, surge, special places."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple, Protocol

from vivid_lattice.core.curves import Band
from vivid_lattice.core.document.job import Load
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.formulas.device.coordination import OverloadOrder
from vivid_lattice.core.formulas.device.residual import ResidualBand
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source


#: A device as its characteristic goes: kind, letter, rating [A].
class DeviceKey(NamedTuple):
    """What decides a characteristic: the kind of device, its curve, and its rating [A]."""

    kind: str
    curve: str | None
    rating_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RcdRequirement:
    """A reason for which a rule set demands a residual-current device, and up to which IΔn [mA].

    ``when``: what it goes by; the other fields narrow it. ``places``: where the device may sit: 'board', 'midway', 'outlet'.
    """

    id: str
    when: str
    text: str
    lifted: str
    most_ma: float
    places: tuple[str, ...]
    source: Source
    upto_a: float | None
    depth_mm: float | None
    rooms: tuple[str, ...]
    kinds: tuple[str, ...]
    appliances: tuple[str, ...]
    besides: tuple[str, ...]
    premises: tuple[str, ...]
    only_sockets: bool
    mobile_only: bool
    own_device: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ArcFaultRequirement:
    """A reason for an arc-fault device: ``level`` 'demanded' or 'recommended'."""

    when: str
    text: str
    level: str
    source: Source
    premises: tuple[str, ...]
    rooms: tuple[str, ...]
    upto_a: float | None


@dataclass(frozen=True, slots=True)
class Residual:
    """What a load brings to an RCD: its standing leakage [mA] and the direct current in it, and where both stand."""

    leakage_ma: float
    dc: str
    stated: bool
    source: Source


@dataclass(frozen=True, slots=True)
class OwnCircuit:
    """Kinds of load that have a circuit to themselves; ``demanded``: a rule, else practice."""

    kinds: frozenset[str]
    demanded: bool
    rule: Source


@dataclass(frozen=True, slots=True)
class OneOf:
    """A kind of room of whose socket circuits one at least has a rating [A]."""

    room: str
    rating_a: SourcedValue


@dataclass(frozen=True, slots=True, kw_only=True)
class Division:
    """How circuits are shared out over devices. None: the standard does not say. ``own``: what has a circuit to itself."""

    lights_least: int
    lights_rule: Source
    separate_rule: Source
    rule: Source
    least_rcds: int | None
    least_rcds_rule: Source | None
    most_per_rcd: int | None
    most_per_rcd_rule: Source | None
    own: tuple[OwnCircuit, ...] = ()
    one_of: OneOf | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SurgeRules:
    """What a standard asks of surge protection. ``when``: 'unless-declined', 'by-risk', 'always' or 'recommended'."""

    when: str
    required: Source
    otherwise: Source
    type_rule: Source
    up_max_kv: SourcedValue
    uc_factor: SourcedValue
    discharge_ka: SourcedValue
    impulse_ka: SourcedValue
    leads_prefer_m: SourcedValue
    leads_max_m: SourcedValue
    live_mm2: Mapping[str, float]
    earth_mm2: Mapping[str, float]
    conductors: Source | None
    distance_m: SourcedValue
    tt_rule: Source
    backup_rule: Source
    short_rule: Source
    status_rule: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneRules:
    """The zones of a kind of room: their ``shape``, measures [m], degrees of protection by zone, and where all that is."""

    shape: str
    source: Source
    ip_source: Source
    ip: Mapping[str, str]
    figures: Mapping[str, float]
    jets_ip: str
    rules: Mapping[str, Source]


@dataclass(frozen=True, slots=True)
class OutletFuse:
    """The fuse behind an outlet, in the plug."""

    key: DeviceKey
    title: Text
    source: Source


class BandRules(Protocol):
    """Characteristics of devices as bands."""

    def band(self, kind: str, curve: str | None, rating_a: float) -> Band: ...
    def order(self, up: DeviceKey, down: DeviceKey) -> OverloadOrder: ...
    def waits_rule(self, kind: str) -> str | None: ...
    def residual(self, rcd: Rcd) -> ResidualBand: ...
    def rcd_name(self, rcd: Rcd) -> Message: ...


class ProtectionRules(Protocol):
    """Residual-current duties, division, arc faults, surge, special places. NotTabulated where a standard holds none."""

    @property
    def additional_ma(self) -> SourcedValue: ...
    @property
    def duties(self) -> tuple[RcdRequirement, ...]: ...
    @property
    def arcs(self) -> tuple[ArcFaultRequirement, ...]: ...
    @property
    def leak_share(self) -> SourcedValue: ...
    @property
    def selective_ratio(self) -> SourcedValue: ...
    @property
    def division(self) -> Division: ...
    @property
    def surge(self) -> SurgeRules: ...
    @property
    def alternating_only(self) -> tuple[str, Source]: ...
    @property
    def charger_pen(self) -> Source | None: ...
    @property
    def outlet_fuse(self) -> OutletFuse | None: ...
    def source(self, topic: str) -> Source: ...
    def residual(self, load: Load) -> Residual: ...
    def max_usual_ma(self, kind: str) -> SourcedValue: ...
    def cable_leakage_ma(self, length_m: float, nominal_v: float) -> SourcedValue: ...
    def zones(self, room_kind: str) -> ZoneRules: ...
    def rule(self, name: str) -> Source: ...
    def figure(self, rule: str, param: str) -> SourcedValue: ...
