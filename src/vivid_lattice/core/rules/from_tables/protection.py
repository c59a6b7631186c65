"""Residual-current duties, division, arc faults, surge and special places, read from a standard's tables."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from math import pi
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.document.job import Load
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protection_rules import (
    ArcFaultRequirement,
    DeviceKey,
    Division,
    OneOf,
    OutletFuse,
    OwnCircuit,
    RcdRequirement,
    Residual,
    SurgeRules,
    ZoneRules,
)
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown

_RESIDUAL_TABLE = "common.load.residual"
_CABLE_RULE = "common.leakage.cable-per-m"


class ProtectionFromTables:
    """Protection rules read from a standard's ``[protection]`` part."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._sections: Mapping[str, Any] | None = standard.get("protection")
        self._title = str(standard["standard"]["title"])
        self._residuals: dict[tuple[object, ...], Residual] = {}

    @property
    def _file(self) -> Mapping[str, Any]:
        if self._sections is None:
            raise NotTabulated(
                message(None, "core.rules.protection.need.what", standard=self._title),
                path="job.rules",
                ask=message(None, "core.rules.need.ask"),
            )
        return self._sections

    def _source(self, name: str) -> Source:
        return self._data.rule(name).source if name in self._data.rules else self._data.table(name).source

    def source(self, topic: str) -> Source:
        """Where the rule behind a topic ('loading', 'type', 'order', 'residual', 'tt', 'charger', …) is."""
        if f"{topic}_rule" not in self._file:
            raise NotTabulated(
                message(None, "core.rules.protection.need.topic", topic=topic, standard=self._title), path="job.rules"
            )
        return self._source(self._file[f"{topic}_rule"])

    def rule(self, name: str) -> Source:
        """Where a rule or a table of a name is."""
        return self._source(name)

    def figure(self, rule: str, param: str) -> SourcedValue:
        """A figure of a rule by name."""
        entry = self._data.rule(rule)
        return SourcedValue(float(entry.params[param]), entry.source)

    @cached_property
    def additional_ma(self) -> SourcedValue:
        """Greatest IΔn that counts as additional protection of people [mA]."""
        return SourcedValue(float(self._file["additional_ma"]), self.source("additional"))

    @cached_property
    def leak_share(self) -> SourcedValue:
        """Share of IΔn that standing leakage may take."""
        return SourcedValue(float(self._file["leak_share"]), self.source("leak"))

    @cached_property
    def selective_ratio(self) -> SourcedValue:
        """Least ratio of residual currents of two devices in series."""
        return SourcedValue(float(self._file["selective_ratio"]), self.source("selectivity"))

    @cached_property
    def alternating_only(self) -> tuple[str, Source]:
        """Where type AC may still be used: 'never', 'resistive' (loads without direct current) or 'yes'."""
        return str(self._file["ac"]), self.source("ac")

    @cached_property
    def outlet_fuse(self) -> OutletFuse | None:
        """The fuse in the plug behind every outlet, where the standard has one."""
        if "outlet_fuse_kind" not in self._file:
            return None
        rating = float(self._file["outlet_fuse_a"])
        key = DeviceKey(str(self._file["outlet_fuse_kind"]), None, rating)
        return OutletFuse(
            key, message(None, "core.rules.protection.plug_fuse", a=Shown(f"{rating:g}")), self.source("outlet_fuse")
        )

    @cached_property
    def charger_pen(self) -> Source | None:
        """Where the standard requires protection against a lost PEN at charging points; None where it does not."""
        return self.source("charger_pen") if "charger_pen_rule" in self._file else None

    @cached_property
    def duties(self) -> tuple[RcdRequirement, ...]:
        """Every reason for a residual-current device."""
        least = float(self._file["additional_ma"])
        return tuple(
            RcdRequirement(
                id=entry["id"],
                when=entry["when"],
                text=entry["words"],
                lifted=entry.get("lifted", ""),
                most_ma=float(entry.get("most_ma", least)),
                places=tuple(entry["places"]),
                source=self._source(entry["rule"]),
                upto_a=_figure(entry, "upto_a"),
                depth_mm=_figure(entry, "depth_mm"),
                rooms=tuple(entry.get("rooms", ())),
                kinds=tuple(entry.get("kinds", ())),
                appliances=tuple(entry.get("appliances", ())),
                besides=tuple(entry.get("besides", ())),
                premises=tuple(entry.get("premises", ())),
                only_sockets=bool(entry.get("only_sockets")),
                mobile_only=bool(entry.get("mobile_only")),
                own_device=bool(entry.get("own")),
            )
            for entry in self._file.get("duty", ())
        )

    @cached_property
    def arcs(self) -> tuple[ArcFaultRequirement, ...]:
        """Every reason for an arc-fault device, the weightiest first."""
        return tuple(
            ArcFaultRequirement(
                when=entry["when"],
                text=entry["words"],
                level=entry["level"],
                source=self._source(entry["rule"]),
                premises=tuple(entry.get("premises", ())),
                rooms=tuple(entry.get("rooms", ())),
                upto_a=_figure(entry, "upto_a"),
            )
            for entry in self._file.get("arc", ())
        )

    @cached_property
    def division(self) -> Division:
        """How circuits are shared out over devices."""
        entry = self._file

        def count(name: str) -> tuple[int | None, Source | None]:
            return (int(entry[name]), self.source(name)) if name in entry else (None, None)

        min_rcds, min_rcds_rule = count("least_rcds")
        max_per_rcd, max_per_rcd_rule = count("most_per_rcd")
        return Division(
            lights_least=int(entry["lights_least"]),
            lights_rule=self.source("lights"),
            separate_rule=self.source("separate"),
            rule=self.source("division"),
            least_rcds=min_rcds,
            least_rcds_rule=min_rcds_rule,
            most_per_rcd=max_per_rcd,
            most_per_rcd_rule=max_per_rcd_rule,
            own=tuple(
                OwnCircuit(frozenset(item["kinds"]), bool(item.get("demanded", True)), self._source(item["rule"]))
                for item in entry.get("own_circuit", ())
            ),
            one_of=self._one_of(entry.get("one_of_rating")),
        )

    def _one_of(self, entry: Mapping[str, Any] | None) -> OneOf | None:
        if entry is None:
            return None
        rule = self._data.rule(entry["rule"])
        return OneOf(str(entry["room"]), SourcedValue(float(rule.params["rating_a"]), rule.source))

    @cached_property
    def surge(self) -> SurgeRules:
        """What is asked of surge protection."""
        entry: Mapping[str, Any] = self._file.get("surge", {})
        if not entry:
            raise NotTabulated(message(None, "core.rules.protection.need.surge", standard=self._title), path="surge")

        def value(name: str, rule: str) -> SourcedValue:
            return SourcedValue(float(entry[name]), self._source(entry[rule]))

        return SurgeRules(
            when=str(entry["when"]),
            required=self._source(entry["required_rule"]),
            otherwise=self._source(entry["otherwise_rule"]),
            type_rule=self._source(entry["type_rule"]),
            up_max_kv=value("up_max_kv", "up_rule"),
            uc_factor=value("uc_factor", "uc_rule"),
            discharge_ka=value("discharge_ka", "discharge_rule"),
            impulse_ka=value("impulse_ka", "discharge_rule"),
            leads_prefer_m=value("leads_prefer_m", "leads_rule"),
            leads_max_m=value("leads_max_m", "leads_rule"),
            live_mm2=MappingProxyType(dict(entry.get("live_mm2", {}))),
            earth_mm2=MappingProxyType(dict(entry.get("earth_mm2", {}))),
            conductors=self._source(entry["conductors_rule"]) if "conductors_rule" in entry else None,
            distance_m=value("distance_m", "distance_rule"),
            tt_rule=self._source(entry["tt_rule"]),
            backup_rule=self._source(entry["backup_rule"]),
            short_rule=self._source(entry["short_rule"]),
            status_rule=self._source(entry["status_rule"]),
        )

    @cached_property
    def _zones(self) -> Mapping[str, ZoneRules]:
        return {entry["id"]: self._zone(entry) for entry in self._file.get("zones", ())}

    def _zone(self, entry: Mapping[str, Any]) -> ZoneRules:
        figures = {key: float(value) for key, value in entry.items() if isinstance(value, (int, float))}
        rules = {key: self._source(value) for key, value in entry.items() if key.endswith("_rule") and key != "ip_rule"}
        return ZoneRules(
            shape=str(entry["shape"]),
            source=self._source(entry["rule"]),
            ip_source=self._source(entry["ip_rule"]),
            ip=MappingProxyType(dict(entry["ip"])),
            figures=MappingProxyType(figures),
            jets_ip=str(entry.get("jets_ip", "")),
            rules=MappingProxyType(rules),
        )

    def zones(self, room_kind: str) -> ZoneRules:
        """The zones of a kind of room; a shower without a tray has those of a bath. NotTabulated where there are none."""
        zone_rules = self._zones.get("bath" if room_kind == "shower" else room_kind)
        if zone_rules is None:
            raise NotTabulated(
                message(None, "core.rules.protection.need.zones", room=room_kind, standard=self._title),
                path="rooms",
                ask=message(None, "core.rules.protection.need.zones_ask"),
            )
        return zone_rules

    def residual(self, load: Load) -> Residual:
        """A load's standing leakage and direct current: as stated, else the usual of its kind."""
        key = (load.kind, load.count, load.leakage_ma, load.dc_residual)
        residual = self._residuals.get(key)
        if residual is None:
            residual = self._residuals[key] = self._residual(load)
        return residual

    def _residual(self, load: Load) -> Residual:
        table = self._data.table(_RESIDUAL_TABLE)
        row = table.row_where(kind=load.kind)
        usual = float(row["each_mA"])
        each = usual if load.leakage_ma is None else load.leakage_ma
        dc = load.dc_residual or str(row["dc"])
        return Residual(each * load.items, dc, load.leakage_ma is not None, table.source)

    def max_usual_ma(self, kind: str) -> SourcedValue:
        """The most that is counted of the usual leakage of a circuit that feeds so much [mA]; see ``common.leakage.caps``."""
        table = self._data.table("common.leakage.caps")
        return SourcedValue(float(table.row_where(circuit=kind)["most_mA"]), table.source)

    def cable_leakage_ma(self, length_m: float, nominal_v: float) -> SourcedValue:
        """Capacitive leakage of so many metres of cable [mA].

        Equation  I = U · 2π · f · C · l
        """
        rule = self._data.rule(_CABLE_RULE)
        farad_per_m = float(rule.params["capacitance_pF_per_m"]) * 1e-12
        amps = nominal_v * 2 * pi * float(rule.params["frequency_Hz"]) * farad_per_m * length_m
        return SourcedValue(amps * 1000, rule.source)


def _figure(entry: Mapping[str, Any], name: str) -> float | None:
    return float(entry[name]) if name in entry else None
