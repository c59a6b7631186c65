"""Limits that belong to a circuit's use: voltage drop, disconnection time, rings, least size."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.job import Circuit, Device
from vivid_lattice.core.rules.protocol import Looked, RingRule
from vivid_lattice.core.rules.tables import RuleData


class TabledLimits:
    """Limits read from a school's tables."""

    def __init__(self, data: RuleData, school: Mapping[str, Any]):
        self._data = data
        self._names: Mapping[str, str] = school["tables"]
        self._drop: Mapping[str, Any] = school["drop_limit"]
        self._min_area: Mapping[str, Any] = school["min_area"]
        self._time_column: Mapping[str, str] = school["disconnection"]["column"]
        self._time_cases: list[Mapping[str, Any]] = school["disconnection_case"]

    def drop_limit_pct(self, circuit: Circuit) -> Looked:
        """Greatest voltage drop from the origin to the load [% of nominal]."""
        table = self._data.table(self._names["drop_limit"])
        lighting = circuit.kind == "lighting"
        percent = table.row_where(**self._drop["row"])[self._drop["lighting" if lighting else "other"]]
        return Looked(float(percent), table.source, "lighting" if lighting else "other uses")

    def disconnection_s(self, circuit: Circuit, rating_a: float, system: str) -> Looked:
        """Longest time [s] in which an earth fault has to be cleared, by use, rating and system."""
        table = self._data.table(self._names["disconnection_which"])
        use = "distribution" if circuit.kind == "distribution" else "sockets" if _feeds_sockets(circuit) else "fixed"
        for case in self._time_cases:
            if use in case["uses"] and rating_a <= case.get("upto_a", rating_a):
                row = table.row_where(circuit=case["row"])
                return Looked(float(row[self._time_column[system]]), table.source, case["row"])
        raise NotTabulated(f"no disconnection time for {use} behind {rating_a:g} A", path="device.rating_a")

    def ring(self, device: Device) -> RingRule:
        """What a ring on this device has to meet."""
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

    def min_area_mm2(self, circuit: Circuit) -> Looked:
        """Least copper conductor by use [mm²]."""
        table = self._data.table(self._names["min_area"])
        use = self._min_area["lighting" if circuit.kind == "lighting" else "other"]
        return Looked(float(table.row_where(use=use, **self._min_area["row"])["min_mm2"]), table.source, use)

    def u_min_v(self, nominal_v: float) -> Looked:
        """Voltage that drives the smallest fault: nominal times Cmin [V]."""
        rule = self._data.rule(self._names["loop_rule"])
        return Looked(nominal_v * float(rule.params["cmin"]), rule.source)

    def stable_electrode_ohm(self) -> Looked:
        """Loop above which an earth electrode may not stay as good as it was measured [Ω]."""
        rule = self._data.rule(self._names["electrode_rule"])
        return Looked(float(rule.params["ra_max_ohm"]), rule.source)


def _feeds_sockets(circuit: Circuit) -> bool:
    return circuit.kind in ("ring", "radial") or any(
        load.kind == "socket" or load.with_socket for load in circuit.loads
    )
