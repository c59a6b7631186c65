"""Limits that belong to a circuit's use: voltage drop, disconnection time, rings, least size, what a device may be."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from vivid_lattice.core.document.feeds import feeds_lights, feeds_sockets
from vivid_lattice.core.document.job import Circuit, Device, Load
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protocol import DropLimit, RingRule
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown


class LimitsFromTables:
    """Limits read from a standard's tables."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._names: Mapping[str, str] = standard["tables"]
        self._drop: Mapping[str, Any] = standard["drop_limit"]
        self._min_area: Mapping[str, Any] = standard["min_area"]
        self._disconnection: Mapping[str, Any] = standard["disconnection"]
        self._time_cases: list[Mapping[str, Any]] = standard.get("disconnection_case", [])
        self._continuous: Mapping[str, Any] = standard.get("continuous", {})
        self._small: Mapping[str, Any] | None = standard.get("small_conductors")
        self._next_up: Mapping[str, Any] | None = standard.get("next_size_up")
        self._least_device: Sequence[Mapping[str, Any]] = standard.get("least_device", ())
        self._most_device: Mapping[str, Any] | None = standard.get("most_device")
        self._withstand: Mapping[str, Any] = standard.get("withstand", {})
        self._drop_limits: dict[bool, DropLimit] = {}

    @property
    def knows_rings(self) -> bool:
        """Whether the standard has ring circuits at all."""
        return "ring_rule" in self._names

    def drop_limit(self, circuit: Circuit) -> DropLimit:
        """Greatest voltage drop to the load [% of nominal], where it counts from, and whether it binds."""
        lighting = feeds_lights(circuit)
        if lighting not in self._drop_limits:
            self._drop_limits[lighting] = self._drop_limit(lighting)
        return self._drop_limits[lighting]

    def _drop_limit(self, lighting: bool) -> DropLimit:
        entry = self._drop
        if "table" in entry:
            table = self._data.table(entry["table"])
            percent, source = table.row_where(**entry["row"])[entry["lighting" if lighting else "other"]], table.source
        else:
            percent, source = entry["lighting_pct" if lighting else "other_pct"], self._data.rule(entry["rule"]).source
        device = entry.get("device_current_rule")
        return DropLimit(
            percent=float(percent),
            source=source,
            use="lighting" if lighting else message(None, "core.rules.limit.other"),
            counts_from=entry["counts_from"],
            own_percent=float(entry["own_pct"]) if "own_pct" in entry else None,
            advisory=bool(entry.get("advisory", False)),
            by_device=self._data.rule(device).source if device else None,
        )

    @property
    def no_disconnection(self) -> tuple[str, Source] | None:
        """Why the standard knows no loop limits, where it knows none."""
        if "none" not in self._disconnection:
            return None
        rule = self._data.rule(self._disconnection["none"])
        return rule.text, rule.source

    @property
    def no_withstand(self) -> tuple[str, Source] | None:
        """Why the standard requires no sum of let-through energy, where it requires none."""
        if "none" not in self._withstand:
            return None
        rule = self._data.rule(self._withstand["none"])
        return rule.text, rule.source

    def disconnection_s(self, circuit: Circuit, rating_a: float, system: str) -> SourcedValue:
        """Longest time [s] in which an earth fault must be cleared, by use, rating and system."""
        use = "distribution" if circuit.kind == "distribution" else "sockets" if feeds_sockets(circuit) else "fixed"
        for case in self._time_cases:
            if use in case["uses"] and rating_a <= case.get("upto_a", rating_a):
                if "s" in case:
                    source = self._data.rule(self._disconnection["rule"]).source
                    return SourcedValue(float(case["s"][system]), source, case["row"])
                table = self._data.table(self._disconnection["table"])
                row = table.row_where(circuit=case["row"])
                return SourcedValue(float(row[self._disconnection["column"][system]]), table.source, case["row"])
        raise NotTabulated(
            message(None, "core.rules.limit.need.time", use=use, a=Shown(f"{rating_a:g}")), path="device.rating_a"
        )

    def ring(self, device: Device) -> RingRule:
        """What a ring on this device has to meet. NotTabulated in a standard without rings."""
        if not self.knows_rings:
            raise NotTabulated(
                message(None, "core.rules.limit.no_ring"),
                path="kind",
                ask=message(None, "core.rules.limit.no_ring_ask"),
            )
        rule, drop = self._data.rule(self._names["ring_rule"]), self._data.rule(self._names["ring_drop_rule"])
        far = float(drop.params["far_point_A"])
        return RingRule(
            min_iz_a=float(rule.params["iz_min_A"]),
            min_area_mm2=float(rule.params["min_mm2"]),
            max_device_a=float(max(rule.params["device_A"])),
            far_point_a=far,
            drop_current_a=min(far, device.rating_a) + max(0.0, device.rating_a - far) / 2,
            rule=rule.source,
            drop_rule=drop.source,
        )

    def min_area_mm2(self, circuit: Circuit) -> SourcedValue:
        """Least copper conductor by use [mm²]."""
        entry = self._min_area
        use = "sockets" if feeds_sockets(circuit) else circuit.kind
        if "mm2" in entry:
            areas: Mapping[str, float] = entry["mm2"]
            name = use if use in areas else "other"
            words = message(None, f"core.rules.limit.use.{name if name in ('lighting', 'control') else 'power'}")
            return SourcedValue(float(areas[name]), self._data.rule(entry["rule"]).source, words)
        table, uses = self._data.table(entry["table"]), entry["uses"]
        words = uses.get(use, uses["other"])
        return SourcedValue(float(table.row_where(use=words, **entry["row"])[entry["column"]]), table.source, words)

    def min_device_a(self, circuit: Circuit, rooms: Mapping[str, Room]) -> SourcedValue | None:
        """Smallest rating [A] that the circuit's largest load of a kind may be on, or its sockets by their room; None where no rule
        names one."""
        for entry in self._least_device:
            rule = self._data.rule(entry["rule"])
            loads = [load for load in circuit.loads if load.kind in entry["kinds"]]
            in_room = not _room_kinds(loads, rooms).isdisjoint(entry.get("rooms", ()))
            largest = max((load.power_w or 0.0 for load in loads), default=0.0)
            if in_room or ("from_w" in rule.params and largest >= float(rule.params["from_w"])):
                return SourcedValue(float(rule.params["rating_a"]), rule.source)
        return None

    def max_device_a(self, circuit: Circuit) -> SourcedValue | None:
        """Largest rating [A] that a circuit of a kind may be on; None where no rule names one."""
        if self._most_device is None or circuit.kind not in self._most_device["circuit_kinds"]:
            return None
        rule = self._data.rule(self._most_device["rule"])
        return SourcedValue(float(rule.params["rating_a"]), rule.source)

    def continuous(self, circuit: Circuit) -> SourcedValue | None:
        """Factor on the part of a circuit's load that runs for hours; None where the standard has none."""
        if not self._continuous:
            return None
        return SourcedValue(float(self._continuous["factor"]), self._data.rule(self._continuous["rule"]).source)

    def is_continuous(self, load_kind: str, stated: bool) -> bool:
        """Whether a load counts as running for hours: as stated, or by its kind."""
        return stated or load_kind in self._continuous.get("always", [])

    @property
    def caps_small_conductors(self) -> bool:
        """Whether small conductors have a largest device whatever they carry."""
        return self._small is not None

    def device_ceiling_a(self, circuit: Circuit, material: str, label: str) -> SourcedValue | None:
        """Largest device [A] for a small conductor whatever its ampacity; None where no such rule binds."""
        small = self._small
        if small is None or any(load.kind in small["except_loads"] for load in circuit.loads):
            return None
        table = self._data.table(small["table"])
        name = small["material"][material]
        for row in table.rows:
            if row[table.column("size")] == label and row[table.column("material")] == name:
                return SourcedValue(float(row[table.column(small["most"])]), table.source, f"{label} {name}")
        return None

    def next_size_up_a(self, circuit: Circuit, ampacity_a: float) -> SourcedValue | None:
        """The next standard device at or above an ampacity, where the standard allows it; None where it does not."""
        rule = self._next_up
        if rule is None or feeds_sockets(circuit):
            return None
        ratings = self._data.table(rule["table"]).key_figures()
        rating_a = next((rating for rating in ratings if rating >= ampacity_a), None)
        if rating_a is None or rating_a > float(rule["upto_a"]):
            return None
        return SourcedValue(rating_a, self._data.rule(rule["rule"]).source, message(None, "core.rules.limit.next_up"))

    def u_min_v(self, nominal_v: float) -> SourcedValue:
        """Voltage that drives the smallest fault: nominal times Cmin [V]."""
        rule = self._data.rule(self._names["loop_rule"])
        return SourcedValue(nominal_v * float(rule.params["cmin"]), rule.source)

    def stable_electrode_ohm(self) -> SourcedValue:
        """Loop above which an earth electrode may not stay as good as it was measured [Ω]."""
        rule = self._data.rule(self._names["electrode_rule"])
        return SourcedValue(float(rule.params["ra_max_ohm"]), rule.source)


def _room_kinds(loads: Sequence[Load], rooms: Mapping[str, Room]) -> set[str]:
    """The kinds of room that loads are said to be in."""
    return {room.kind for load in loads if (room := rooms.get(load.room or "")) is not None}
