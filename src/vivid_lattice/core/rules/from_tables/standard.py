"""A rule set made from a standard's tables, with the questions a document can already get wrong."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.formulas.load_currents import SUPPLY_WORDS
from vivid_lattice.core.messages import Vocabulary
from vivid_lattice.core.rules.board_rules import BoardRules
from vivid_lattice.core.rules.data_folder import homes
from vivid_lattice.core.rules.document_rules import DocumentRules
from vivid_lattice.core.rules.extension_rules import ExtensionRules
from vivid_lattice.core.rules.fixing_rules import FixingRules
from vivid_lattice.core.rules.from_tables.bands import BandsFromTables
from vivid_lattice.core.rules.from_tables.board import BoardRulesFromTables
from vivid_lattice.core.rules.from_tables.cables import CablesFromTables
from vivid_lattice.core.rules.from_tables.demand import DemandFromTables
from vivid_lattice.core.rules.from_tables.devices import DevicesFromTables
from vivid_lattice.core.rules.from_tables.documents import DocumentsFromTables
from vivid_lattice.core.rules.from_tables.earthing import EarthingFromTables
from vivid_lattice.core.rules.from_tables.extension import ExtensionFromTables
from vivid_lattice.core.rules.from_tables.factors import FactorsFromTables
from vivid_lattice.core.rules.from_tables.fixing import FixingFromTables
from vivid_lattice.core.rules.from_tables.limits import LimitsFromTables
from vivid_lattice.core.rules.from_tables.plan import PlanFromTables
from vivid_lattice.core.rules.from_tables.protection import ProtectionFromTables
from vivid_lattice.core.rules.from_tables.sizes import SizeNames
from vivid_lattice.core.rules.from_tables.sources import SourcesFromTables
from vivid_lattice.core.rules.from_tables.testing import TestingFromTables
from vivid_lattice.core.rules.plan_rules import PlanRules
from vivid_lattice.core.rules.protection_rules import BandRules, ProtectionRules
from vivid_lattice.core.rules.protocol import (
    CableRules,
    DemandRules,
    DeviceRules,
    EarthingRules,
    FactorRules,
    LimitRules,
    TailsRules,
)
from vivid_lattice.core.rules.rule_data import load
from vivid_lattice.core.rules.source_rules import SourceRules
from vivid_lattice.core.rules.standard_file import standard_file
from vivid_lattice.core.rules.testing_rules import TestingRules
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True)
class Colours:
    """Conductor colours in the order L1, L2, L3, neutral, protective: as now laid, and as met in old work."""

    now: tuple[str, ...]
    old: tuple[str, ...]
    source: Source


class StandardFromTables:
    """All parts of a standard, read from its packaged data."""

    def __init__(self, standard_id: str):
        standard, self.data = standard_file(standard_id), load(standard_id)
        self.file = standard
        head = standard["standard"]
        self.id, self.title, self.edition = str(head["id"]), str(head["title"]), str(head["edition"])
        self.caution = str(head.get("caution", ""))
        self.vocabulary: Mapping[str, str] = MappingProxyType(dict(standard["words"]))
        self.words = Vocabulary.of(self.id, str(head.get("english", "en")), standard["vocabulary"])
        self.rcd_word = self.vocabulary.get("rcd", "RCD")
        self.systems: tuple[str, ...] = tuple(head["systems"])
        self.system_titles: Mapping[str, str] = MappingProxyType(dict(standard.get("system_titles", {})))
        self.uses: Mapping[str, str] = MappingProxyType({use["id"]: use["title"] for use in standard.get("use", [])})
        self.supplies: tuple[int, ...] = tuple(head.get("supplies", (1,)))
        self.between_lines: Mapping[str, bool] = MappingProxyType(dict(standard.get("between_lines", {})))
        self.fault_stated_between_lines = bool(standard["standard"].get("fault_stated_between_lines", False))
        self.nominal_v = float(head["nominal_v"])
        self.default_method = str(head["default_method"])
        self.default_cable = str(head["default_cable"])
        self.default_three_phase_cable = str(head.get("default_three_phase_cable", self.default_cable))
        self.default_buried_cable = str(head["default_buried_cable"])
        cutout: Mapping[str, str] = standard["usual_cutout"]
        self.usual_cutout: tuple[str, str | None] = (cutout["kind"], cutout.get("curve"))
        self.tails_cable = str(head["tails_cable"])
        self.tails_method = str(head.get("tails_method", self.default_method))
        self.names: Mapping[str, str] = MappingProxyType(dict(standard["tables"]))
        self._topics: dict[str, Source] = {}
        self.declared_ze_ohm = self._declared()
        self.sizes = SizeNames(self.data, standard)
        cables = CablesFromTables(self.data, standard, self.sizes)
        devices = DevicesFromTables(self.data, standard)
        self.cables: CableRules = cables
        self.devices: DeviceRules = devices
        self.factors: FactorRules = FactorsFromTables(self.data, standard, cables, devices)
        self.limits: LimitRules = LimitsFromTables(self.data, standard)
        self.earthing: EarthingRules = EarthingFromTables(self.data, standard, self.sizes)
        self.demand: DemandRules = DemandFromTables(self.data, standard)
        self.bands: BandRules = BandsFromTables(self.data, standard, self.words)
        self.protection: ProtectionRules = ProtectionFromTables(self.data, standard)
        self.board: BoardRules = BoardRulesFromTables(self.data, standard)
        larger: Mapping[str, Any] = standard.get("larger_supply", {})
        self.looped_services = bool(larger.get("looped", False))
        self.meter_rating_counts = bool(larger.get("meter", False))
        self.sources: SourceRules = SourcesFromTables(self.data, standard)
        self.papers: DocumentRules = DocumentsFromTables(self.data, standard)
        self.plan: PlanRules = PlanFromTables(self.data, standard)
        self.fixing: FixingRules = FixingFromTables(self.data, standard, homes()[self.id][0], self.sizes.with_unit)
        self.extension: ExtensionRules = ExtensionFromTables(self.data, standard)
        self.testing: TestingRules = TestingFromTables(self.data, standard)

    def _declared(self) -> Mapping[str, float]:
        if "declared_ze" not in self.names:
            return MappingProxyType({})
        table = self.data.table(self.names["declared_ze"])
        return MappingProxyType({str(row[0]): float(row[1]) for row in table.rows})

    @cached_property
    def tails(self) -> TailsRules:
        """What is required of the conductors from the meter to the first board."""
        entry: Mapping[str, Any] = self.file.get("tails", {})
        length = self.data.rule(entry["length_rule"]) if "length_rule" in entry else None
        share = self.data.table(entry["share_table"]).source if "share_table" in entry else None
        aluminium = self.data.rule("common.aluminium")
        return TailsRules(
            max_m=float(length.params["max_m"]) if length else None,
            max_m_always=bool(entry.get("always", False)),
            max_m_source=length.source if length else None,
            rating_share=float(entry.get("rating_share", 1.0)),
            rating_share_source=share,
            load_end=self.data.rule(entry["load_end_rule"]).source if "load_end_rule" in entry else None,
            aluminium_capacity=float(aluminium.params["capacity_share"]),
            aluminium_k=float(aluminium.params["k_share"]),
            aluminium_source=aluminium.source,
            in_short_circuit=self.data.rule("common.overload-device-in-a-short-circuit").source,
        )

    @property
    def colours(self) -> Colours | None:
        """Conductor colours, where the standard's file holds them."""
        entry: Mapping[str, Any] | None = self.file.get("colours")
        if entry is None:
            return None
        return Colours(tuple(entry["now"]), tuple(entry["old"]), self._source(entry["rule"]))

    @property
    def colours_now(self) -> tuple[str, ...]:
        """Colours of L1, L2, L3, neutral and protective conductor as now laid; empty where the standard's file holds none."""
        colours = self.colours
        return colours.now if colours else ()

    @property
    def supply_range_pct(self) -> tuple[float, float, Source] | None:
        """How far the supply's voltage may lie below and above nominal [%], where the standard's file holds it."""
        entry: Mapping[str, Any] | None = self.file.get("supply_range")
        if entry is None:
            return None
        return float(entry["low_pct"]), float(entry["high_pct"]), self._source(entry["rule"])

    def _source(self, name: str) -> Source:
        return self.data.rule(name).source if name in self.data.rules else self.data.table(name).source

    def rule(self, topic: str) -> Source:
        """Where the rule behind a topic ('overload', 'capacity', 'drop', 'adiabatic', …) is."""
        source = self._topics.get(topic)
        if source is None:
            source = self._topics[topic] = self._source(self.names[f"{topic}_rule"])
        return source

    def calculated_source_factors(self) -> tuple[float, float, Source]:
        """Voltage factors c for the largest and the smallest current of a calculated supply, and where they stand."""
        entry: Mapping[str, Any] | None = self.file.get("calculated_source")
        if entry is None:
            return 1.0, 1.0, self.rule("loop")
        table = self.data.table(entry["table"])
        row = table.row_where(network_tolerance=entry["row"])
        return float(row["c_max"]), float(row["c_min"]), table.source

    def check_job(self, job: Job) -> Sequence[tuple[str, str]]:
        """What in a document this standard does not know: pairs of path and message."""
        return list(self._problems(job))

    def _problems(self, job: Job) -> Iterator[tuple[str, str]]:
        yield from self._supply_problems(job.supply)
        if job.settings.demand_method is not None and job.settings.demand_method not in self.demand.methods:
            yield (
                "settings.demand_method",
                _unknown("method of demand", job.settings.demand_method, self.demand.methods),
            )
        for index, circuit in enumerate(job.circuits):
            for path, message in self._circuit_problems(circuit):
                yield f"circuits[{index}].{path}", message

    def _supply_problems(self, supply: Supply) -> Iterator[tuple[str, str]]:
        if supply.system not in self.systems:
            yield (
                "supply.system",
                f"{self.title} has no system {supply.system}; it has {', '.join(self.systems)}",
            )
        if supply.phases not in self.supplies:
            known = " and ".join(SUPPLY_WORDS[count] for count in self.supplies)
            yield "supply.phases", f"{self.title} knows {known} supplies, not {SUPPLY_WORDS[supply.phases]} ones"
        if supply.nominal_v != self.nominal_v:
            yield (
                "supply.nominal_v",
                f"the tables of {self.title} are made for {self.nominal_v:g} V from line to neutral",
            )
        if supply.cutout and supply.cutout.kind not in self.devices.kinds:
            yield "supply.cutout.kind", _unknown("device", supply.cutout.kind, self.devices.kinds)
        elif supply.cutout and supply.cutout.curve and not self.devices.kinds[supply.cutout.kind].curves:
            yield "supply.cutout.curve", "a fuse has no characteristic letter; leave it out"

    def _circuit_problems(self, circuit: Circuit) -> Iterator[tuple[str, str]]:
        if circuit.kind == "ring" and not self.limits.knows_rings:
            yield "kind", f"{self.title} knows no ring circuits; make it a radial"
        if not is_auto(circuit.cable) and circuit.cable.type not in self.cables.kinds:
            yield "cable.type", _unknown("cable", circuit.cable.type, self.cables.kinds)
        if circuit.use is not None and circuit.use not in self.uses:
            yield "use", _unknown("use", circuit.use, self.uses)
        yield from self._device_problems(circuit)
        yield from self._run_problems(circuit)

    def _run_problems(self, circuit: Circuit) -> Iterator[tuple[str, str]]:
        for number, section in enumerate(circuit.run):
            if section.method not in self.factors.methods:
                yield f"run[{number}].method", _unknown("method", section.method, self.factors.methods)
            if section.grouping is not None and section.grouping not in self.factors.groupings:
                yield (
                    f"run[{number}].grouping",
                    _unknown("grouping", section.grouping, self.factors.groupings),
                )

    def _device_problems(self, circuit: Circuit) -> Iterator[tuple[str, str]]:
        if is_auto(circuit.device):
            return
        kind = self.devices.kinds.get(circuit.device.kind)
        if kind is None:
            yield "device.kind", _unknown("device", circuit.device.kind, self.devices.kinds)
        elif kind.has_rcd and circuit.device.rcd is None:
            yield "device.rcd", f"the {kind.short} needs its residual-current part: idn_ma and type"
        elif not kind.has_rcd and circuit.device.rcd is not None:
            yield (
                "device.rcd",
                f"the {kind.short} has no residual-current part; choose another kind or leave it out",
            )
        elif not kind.curves and circuit.device.curve is not None:
            yield "device.curve", f"the {kind.title.lower()} has no characteristic letter; leave it out"


def _unknown(what: str, given: str, known: Mapping[str, object]) -> str:
    return f"no {what} '{given}' in these rules; known: {', '.join(known)}"
