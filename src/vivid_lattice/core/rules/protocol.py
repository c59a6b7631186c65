"""What a rule set must be able to tell. A check knows this protocol and never the name of a standard.

A standard is a handful of parts, each answering one kind of question. Every answer carries its source; where a
table ends, the answer is ``NotTabulated``, never a guess.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

from vivid_lattice.core.document.job import Cable, Circuit, Device, Job, JobInfo, Line, Section
from vivid_lattice.core.document.local_earthing import LocalEarthingKind
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.formulas.load_currents import CircuitSupply
from vivid_lattice.core.messages import Text, Vocabulary
from vivid_lattice.core.rules.board_rules import BoardRules
from vivid_lattice.core.rules.document_rules import DocumentRules
from vivid_lattice.core.rules.extension_rules import ExtensionRules
from vivid_lattice.core.rules.fixing_rules import FixingRules
from vivid_lattice.core.rules.plan_rules import PlanRules
from vivid_lattice.core.rules.protection_rules import BandRules, ProtectionRules
from vivid_lattice.core.rules.source_rules import SourceRules
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.rules.testing_rules import TestingRules
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True)
class Factor:
    """A rating factor that applies to a section."""

    symbol: str
    meaning: Text
    value: float
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class DropFigure:
    """Voltage drop of a cable: resistive, reactive and impedance parts [mV/(A·m)], of two loaded conductors both together,
    of three between lines. ``any_power_factor``: the figure is the greatest over the power factor, and is used as it is."""

    r: float
    x: float
    z: float
    any_power_factor: bool
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class HotFactors:
    """Multipliers from 20 °C resistance to the temperature assumed under fault, line and protective conductor."""

    line: float
    cpc: float
    line_c: float
    cpc_c: float
    source: Source


@dataclass(frozen=True, slots=True)
class CableSize:
    """A size of conductor: its area, and what the standard calls it."""

    area_mm2: float
    label: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CableKind:
    """A kind of cable the standard knows. ``loaded``: the numbers of loaded conductors it has ratings for."""

    id: str
    title: str
    short: str
    insulation: str
    material: str
    operating_c: float
    sizes_mm2: tuple[float, ...]
    sizes: tuple[CableSize, ...]
    methods: tuple[str, ...]
    loaded: tuple[int, ...]
    cpc_choices: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """A reference method of installation. ``short``: what is in a narrow column."""

    id: str
    short: str
    title: str
    text: str
    medium: str
    picture: str
    entry_words: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Grouping:
    """An arrangement of grouped circuits that has a table of factors."""

    id: str
    title: str
    medium: str


@dataclass(frozen=True, slots=True, kw_only=True)
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
    #: What the standard usually takes of it: its characteristic and its residual-current part, where it has one.
    usual_curve: Curve | None = None
    usual_rcd: Rcd | None = None

    @property
    def rewirable(self) -> bool:
        """Whether it is a fuse with a wire: it lets an overload pass for long, so it counts for less than 0.9 of its rating
        (0.725 in BS 7671, 433.1.202)."""
        return self.action == "fuse" and self.overload_factor < 0.9


@dataclass(frozen=True, slots=True)
class LoopLimit:
    """Greatest earth fault loop impedance at which a device trips in the time, and the current it needs."""

    zs_ohm: float
    ia_a: float
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearing:
    """How a device clears a fault: the current and time calculated with, and the most energy it lets through."""

    current_a: float
    time_s: float
    energy_a2s: float
    source: Source
    reason: Text


@dataclass(frozen=True, slots=True, kw_only=True)
class RingRule:
    """What the standard asks of a ring: least cable rating and size, largest device, and how it is loaded for its voltage drop: so much
    at the furthest point, the rest of the device's rating spread evenly, which counts as half of it at the furthest point."""

    min_iz_a: float
    min_area_mm2: float
    max_device_a: float
    far_point_a: float
    drop_current_a: float
    rule: Source
    drop_rule: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class DropLimit:
    """Greatest voltage drop [%]: in all, from where it counts, and of a circuit's own run where the standard parts them.

    ``advisory``: the publication recommends it and does not demand it. ``by_device``: the source of the rule that the drop
    is calculated with the device's rating, where there is one.
    """

    percent: float
    source: Source
    use: Text
    counts_from: str
    own_percent: float | None
    advisory: bool
    by_device: Source | None


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitDemand:
    """Current of a circuit: the largest of its lines, each line's, what of each comes back through the neutral, what heats
    the cable (intermittent loads count less), what flows while the largest load starts, and how it was found: the steps
    are written out only when they are called for."""

    current_a: float
    by_line: Mapping[Line, float]
    to_neutral: Mapping[Line, float]
    heating_a: float
    starting_a: float
    source: Source | None
    steps: Callable[[], list[Step]]


@dataclass(frozen=True, slots=True, kw_only=True)
class MaximumDemand:
    """A current calculated with diversity: that of the worst line, each line's, and what comes back through the neutral."""

    current_a: float
    line: Line
    by_line: Mapping[Line, float]
    to_neutral: Mapping[Line, float]
    source: Source
    steps: Callable[[], list[Step]]


@dataclass(frozen=True, slots=True, kw_only=True)
class TailsRules:
    """What a standard requires of the conductors from the meter to the first board.

    max_m               longest they may be without a device of their own [m]; None: the data has no limit
    max_m_always        whatever protects them; else only where the cut-out does not protect them against overload
    rating_share        share of the rating ahead that they must carry
    load_end            the rule by which they may be protected against overload at the board; None: there is none
    aluminium_capacity  capacity of aluminium over that of copper of the same size; ``aluminium_k``: the same of k
    in_short_circuit    the rule by which a device that protects against overload protects in a short circuit too
    """

    max_m: float | None
    max_m_always: bool
    max_m_source: Source | None
    rating_share: float
    rating_share_source: Source | None
    load_end: Source | None
    aluminium_capacity: float
    aluminium_k: float
    aluminium_source: Source
    in_short_circuit: Source


class CableRules(Protocol):
    """Cables: sizes, capacities, drops, resistances."""

    kinds: Mapping[str, CableKind]

    def kind(self, cable_type: str) -> CableKind: ...
    def size_label(self, area_mm2: float) -> str: ...
    def capacity_a(self, cable: Cable, method: str, loaded: int = 2) -> SourcedValue: ...
    def terminals_text(self) -> str: ...
    def terminal_ceiling(self, cable: Cable, rating_a: float, marked_c: int | None) -> SourcedValue | None: ...
    def drop_figure(self, cable: Cable, method: str, loaded: int = 2) -> DropFigure: ...
    def cpc_area_mm2(self, cable: Cable, loaded: int = 2) -> SourcedValue: ...
    def line_mohm_per_m(self, cable: Cable) -> SourcedValue: ...
    def reactance_mohm_per_m(self, cable: Cable) -> float: ...
    def cpc_mohm_per_m(self, cable: Cable, loaded: int = 2) -> SourcedValue: ...
    def hot_factors(self, cable: Cable) -> HotFactors: ...
    def k_protective(self, cable: Cable) -> SourcedValue: ...
    def k_live(self, cable: Cable) -> SourcedValue: ...


class FactorRules(Protocol):
    """Methods of installation and what they take off a cable's rating."""

    methods: Mapping[str, Method]
    groupings: Mapping[str, Grouping]
    ambients_c: Mapping[str, float]
    drop_correction_rule: Source | None

    def factors(self, section: Section, cable: Cable, loaded: int = 2) -> tuple[Factor, ...]: ...
    def device_factors(self, section: Section, device: Device) -> tuple[Factor, ...]: ...
    def harmonic(self, third_pct: float) -> tuple[Factor | None, bool]: ...
    def base_ambient_c(self, section: Section) -> float: ...
    def drop_correction_refused(self, section: Section, device: Device) -> Text: ...


class DeviceRules(Protocol):
    """Protective devices: ratings, loop limits, clearing, breaking capacity."""

    kinds: Mapping[str, DeviceKind]

    def kind(self, device_kind: str) -> DeviceKind: ...
    def loop_limit(self, device: Device, within_s: float) -> LoopLimit: ...
    def clearing(self, device: Device, fault_a: float) -> Clearing: ...
    def let_through(self, device: Device, fault_a: float) -> SourcedValue: ...
    def class_row_a(self, device: Device, fault_a: float) -> float | None: ...
    @property
    def energy_fault_ka(self) -> SourcedValue | None: ...
    def onsite_mm2(self, device: Device, fault_a: float) -> SourcedValue | None: ...
    def holds_a(self, device: Device) -> SourcedValue | None: ...
    def breaking_ka(self, device: Device) -> SourcedValue: ...
    def backed_up_ka(self, assembly_ka: float, cutout_kind: str, cutout_a: float) -> SourcedValue | None: ...
    def rcd_loop_limit(self, rcd: Rcd, system: str) -> LoopLimit: ...
    def rcd_time_s(self, rcd: Rcd, multiple: float) -> SourcedValue: ...
    def default_device(self, circuit: Circuit, rating_a: float) -> Device: ...
    def socket_rating_a(self, circuit: Circuit) -> float: ...


class LimitRules(Protocol):
    """Limits that belong to a circuit's use."""

    @property
    def knows_rings(self) -> bool: ...
    @property
    def no_disconnection(self) -> tuple[str, Source] | None: ...
    @property
    def no_withstand(self) -> tuple[str, Source] | None: ...
    def drop_limit(self, circuit: Circuit) -> DropLimit: ...
    def disconnection_s(self, circuit: Circuit, rating_a: float, system: str) -> SourcedValue: ...
    def ring(self, device: Device) -> RingRule: ...
    def min_area_mm2(self, circuit: Circuit) -> SourcedValue: ...
    def min_device_a(self, circuit: Circuit, rooms: Mapping[str, Room]) -> SourcedValue | None: ...
    def max_device_a(self, circuit: Circuit) -> SourcedValue | None: ...
    def continuous(self, circuit: Circuit) -> SourcedValue | None: ...
    def is_continuous(self, load_kind: str, stated: bool) -> bool: ...
    @property
    def caps_small_conductors(self) -> bool: ...
    def device_ceiling_a(self, circuit: Circuit, material: str, label: str) -> SourcedValue | None: ...
    def next_size_up_a(self, circuit: Circuit, ampacity_a: float) -> SourcedValue | None: ...
    def u_min_v(self, nominal_v: float) -> SourcedValue: ...
    def stable_electrode_ohm(self) -> SourcedValue: ...


@dataclass(frozen=True, slots=True)
class RefusedEarth:
    """Appliances that may not be on an earth, by their customary circuits, and the rule that says so."""

    appliances: frozenset[str]
    text: str
    source: Source


@dataclass(frozen=True, slots=True, kw_only=True)
class CleanEarthRule:
    """How outlets with a clean earth are marked, whether that is required, and the rule that permits them."""

    marking: str
    marking_required: bool
    source: Source


class EarthingRules(Protocol):
    """Sizes of protective, earthing and bonding conductors."""

    def protective_mm2(self, line_mm2: float) -> SourcedValue | None: ...
    def protective_by_device_mm2(self, rating_a: float, material: str) -> SourcedValue | None: ...
    def upsized_with_line(self) -> SourcedValue | None: ...
    def earthing_mm2(self, line_mm2: float, electrode_alone: bool, material: str = "copper") -> SourcedValue: ...
    def bonding_mm2(self, system: str, line_mm2: float, material: str = "copper") -> SourcedValue: ...
    def what_to_bond(self) -> SourcedValue: ...
    @property
    def link_systems(self) -> tuple[str, ...]: ...
    @property
    def pen_systems(self) -> tuple[str, ...]: ...

    def supplementary_mm2(self, protective_mm2: float, *, to_pipe: bool, protected: bool) -> SourcedValue: ...

    @property
    def by_calculation(self) -> bool: ...
    def not_below_bonding(self, system: str) -> bool: ...
    def link_mm2(self, system: str, neutral_mm2: float) -> SourcedValue | None: ...
    def pen_mm2(self) -> SourcedValue | None: ...
    def bonded_by_neutral(self, system: str) -> bool: ...
    def local_earthing(self, kind: LocalEarthingKind) -> SourcedValue | None: ...
    def separation_m(self) -> SourcedValue | None: ...
    def refused_earth(self, system: str) -> RefusedEarth | None: ...
    def clean_earth(self) -> CleanEarthRule | None: ...


class DemandRules(Protocol):
    """How much of what is connected is taken to run at once."""

    methods: Mapping[str, str]
    #: Whether one of the methods goes by the dwelling's floor area.
    by_floor_area: bool
    #: Whether a calculated demand over the rating of the service fails; from which rating on [A] any of the methods may be taken;
    #: and whether the main breaker may limit it.
    excess_fails: bool
    alternative_from_a: float
    #: Points a circuit counts for where no one has counted them and the method goes by them.
    usual_points: SourcedValue | None
    may_be_limited: bool

    def circuit_current(self, circuit: Circuit, supplied: CircuitSupply) -> CircuitDemand: ...
    def maximum(
        self,
        circuits: Sequence[Circuit],
        supplied: Callable[[Circuit], CircuitSupply],
        job: JobInfo,
        phases: int,
        nominal_v: float,
        *,
        whole: bool,
        at_peak: bool = True,
        method: str | None = None,
    ) -> MaximumDemand: ...


class RuleSet(Protocol):
    """A standard: its words, tables and rules."""

    id: str
    title: str
    edition: str
    caution: str
    vocabulary: Mapping[str, str]
    words: Vocabulary
    rcd_word: str
    systems: tuple[str, ...]
    supplies: tuple[int, ...]
    nominal_v: float
    declared_ze_ohm: Mapping[str, float]
    #: Kinds of load that a split phase feeds between both lines, and whether such a circuit has a neutral.
    between_lines: Mapping[str, bool]
    default_method: str
    default_cable: str
    default_three_phase_cable: str
    default_buried_cable: str
    tails_cable: str
    tails_method: str
    #: Kind and curve of the distributor's device that a rating alone means.
    usual_cutout: tuple[str, str | None]
    #: Whether the prospective current of a three-phase supply is stated between all lines, and not to neutral.
    fault_stated_between_lines: bool
    #: Uses of a circuit that the standard's demand goes by, with their titles.
    uses: Mapping[str, str]
    cables: CableRules
    factors: FactorRules
    devices: DeviceRules
    limits: LimitRules
    earthing: EarthingRules
    demand: DemandRules
    bands: BandRules
    protection: ProtectionRules
    board: BoardRules
    #: Whether a service may be looped to a neighbour, and whether the meter has a rating of its own: asked before a larger supply.
    looped_services: bool
    meter_rating_counts: bool
    papers: DocumentRules
    plan: PlanRules
    fixing: FixingRules
    extension: ExtensionRules
    testing: TestingRules
    sources: SourceRules

    @property
    def tails(self) -> TailsRules: ...
    @property
    def colours_now(self) -> tuple[str, ...]: ...
    @property
    def supply_range_pct(self) -> tuple[float, float, Source] | None: ...
    def rule(self, topic: str) -> Source: ...
    def calculated_source_factors(self) -> tuple[float, float, Source]: ...
    def check_job(self, job: Job) -> Sequence[tuple[str, str]]: ...
