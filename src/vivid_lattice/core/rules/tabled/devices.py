"""Protective devices from tables: ratings, loop limits, clearing, breaking capacity, RCD figures."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.device.loop import loop_limit_ohm
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.findings import Source
from vivid_lattice.core.job import Circuit, Device, Rcd
from vivid_lattice.core.rules.protocol import Clearing, DeviceKind, Looked, LoopLimit
from vivid_lattice.core.rules.tables import RuleData, Table
from vivid_lattice.core.units import a_from_ka, a_from_ma, s_from_ms


class TabledDevices:
    """Device rules read from a school's tables."""

    def __init__(self, data: RuleData, school: Mapping[str, Any]):
        self._data = data
        self._names: Mapping[str, str] = school["tables"]
        self._entries: dict[str, Mapping[str, Any]] = {entry["id"]: entry for entry in school["device"]}
        self._rcd_kinds: Mapping[str, str] = school["rcd_times"]
        self._backup: Mapping[str, Any] = school["backup"]
        self._default: Mapping[str, Any] = school["default_device"]
        self._uo_v = float(school["school"]["nominal_v"])
        self._cmin = float(data.rule(self._names["loop_rule"]).params["cmin"])
        self._cache: dict[tuple[Any, ...], LoopLimit] = {}
        self.kinds: Mapping[str, DeviceKind] = MappingProxyType(
            {entry["id"]: self._kind(entry) for entry in school["device"]}
        )

    def _kind(self, entry: Mapping[str, Any]) -> DeviceKind:
        if entry["action"] == "breaker":
            table = self._data.table(next(iter(entry["loop"].values())))
            ratings = table.key_figures("rating_A")
            preferred = [float(row[0]) for row in self._data.table(entry["ratings"]).rows if row[1] is True]
            common = tuple(sorted({*preferred, *map(float, entry["also_common_a"])}))
            breaking = tuple(float(value) for value in entry["breaking_choices_ka"])
        else:
            ratings = tuple(
                sorted({key for name in entry["fuse_points"].values() for key in self._data.table(name).key_figures()})
            )
            common = ratings
            rows = self._data.table(self._names["fuse_breaking"])
            breaking = tuple(float(rows.row_where(kind=kind)["capacity_kA"]) for kind in entry["breaking_rows"])
        case = self._data.table(self._names["device_factors"]).row_where(case=entry["overload_rows"]["air"])
        return DeviceKind(
            id=entry["id"],
            title=entry["title"],
            short=entry["short"],
            standard=entry["standard"],
            action=entry["action"],
            curves=tuple(entry["curves"]),
            ratings_a=ratings,
            common_ratings_a=common,
            breaking_choices_ka=breaking,
            overload_factor=float(case["Cf"]),
            has_rcd=entry["has_rcd"],
            current=entry["current"],
            modules=int(entry["modules"]),
        )

    def kind(self, device_kind: str) -> DeviceKind:
        """A kind of device by id; NotTabulated if the school has none of that name."""
        try:
            return self.kinds[device_kind]
        except KeyError:
            raise NotTabulated(f"no device of the kind '{device_kind}' in these rules", path="device.kind") from None

    def overload_row(self, device_kind: str, medium: str) -> str:
        """The row of the device-factor table that the kind falls under, for a cable in air or in the ground."""
        self.kind(device_kind)
        return str(self._entries[device_kind]["overload_rows"][medium])

    def corrects_drop(self, device_kind: str) -> bool:
        """Whether voltage drop behind the kind may be corrected for a cooler conductor."""
        self.kind(device_kind)
        return bool(self._entries[device_kind]["corrects_drop"])

    def loop_limit(self, device: Device, within_s: float) -> LoopLimit:
        """Greatest Zs at which the device opens within the time, by its overcurrent function.

        within_s  time allowed [s]; for a fuse the nearest tabulated time that is no longer is used
        Returns   the smaller of the tabulated limit and Uo·Cmin/Ia, so that a rounded table never flatters
        Raises    NotTabulated for a rating or characteristic the tables do not hold
        """
        key = (device.kind, device.curve, device.rating_a, within_s)
        if key not in self._cache:
            self._cache[key] = self._loop_limit(device, within_s)
        return self._cache[key]

    def _loop_limit(self, device: Device, within_s: float) -> LoopLimit:
        kind = self.kind(device.kind)
        if kind.action == "breaker":
            table = self._breaker_table(device)
            row = self._row(table, device)
            ia, tabulated = float(row["ia_A"]), float(row["zs_max_ohm"])
            return LoopLimit(min(tabulated, loop_limit_ohm(self._uo_v, self._cmin, ia)), ia, table.source)
        table = self._fuse_table(device, within_s)
        tabulated = float(self._row(table, device)["zs_max_ohm"])
        return LoopLimit(tabulated, self._uo_v * self._cmin / tabulated, table.source)

    def _breaker_table(self, device: Device) -> Table:
        loops: Mapping[str, str] = self._entries[device.kind]["loop"]
        if device.curve is None or device.curve not in loops:
            raise NeedsInput(
                Need(
                    f"the characteristic of the {self.kind(device.kind).title.lower()} (B, C or D)",
                    "device.curve",
                    "It is printed before the rating: B32.",
                )
            )
        return self._data.table(loops[device.curve])

    def _fuse_table(self, device: Device, within_s: float) -> Table:
        points = sorted((float(time), name) for time, name in self._entries[device.kind]["fuse_points"].items())
        quick_enough = [(time, name) for time, name in points if time <= within_s]
        if not quick_enough:
            raise NotTabulated(
                f"no fuse table for {within_s:g} s; the shortest is {points[0][0]:g} s",
                path="device",
                ask="Where the time is shorter than the tables, fault protection is by RCD.",
            )
        return self._data.table(quick_enough[-1][1])

    @staticmethod
    def _row(table: Table, device: Device) -> Mapping[str, Any]:
        keys = table.key_figures("rating_A")
        if device.rating_a not in keys:
            raise NotTabulated(
                f"table {table.id} has no {device.rating_a:g} A; it holds {', '.join(f'{key:g}' for key in keys)}",
                path="device.rating_a",
            )
        return table.row_where(rating_A=device.rating_a)

    def clearing(self, device: Device, fault_a: float) -> Clearing:
        """How the device clears a fault of so many amperes, for the heat in a conductor.

        A breaker: within its instantaneous time at or above Ia. A fuse: the tabulated point at or below the fault
        current, since a larger current melts it with no more energy.
        Raises NotTabulated where the fault is too small for any tabulated point.
        """
        kind = self.kind(device.kind)
        if kind.action == "breaker":
            limit = self.loop_limit(device, 0.4)
            if fault_a < limit.ia_a:
                raise NotTabulated(
                    f"{fault_a:.0f} A does not reach the {limit.ia_a:g} A at which the breaker opens at once; its thermal time is not tabulated",
                    path="device",
                    ask="Mend the disconnection first: a larger cable, a smaller device or an RCD.",
                )
            return self._breaker_clearing(device, fault_a, limit.source)
        for time in sorted(float(key) for key in self._entries[device.kind]["fuse_points"]):
            table = self._fuse_table(device, time)
            if device.rating_a not in table.key_figures("rating_A"):
                continue
            ia = self.loop_limit(device, time).ia_a
            if fault_a >= ia:
                why = f"the fuse's {time:g} s point; a larger current melts it with no more energy"
                return Clearing(ia, time, ia**2 * time, table.source, why)
        raise NotTabulated(
            f"{fault_a:.0f} A is below every tabulated point of the fuse",
            path="device",
            ask="Mend the disconnection first: a larger cable or a smaller device.",
        )

    def _breaker_clearing(self, device: Device, fault_a: float, source: Source) -> Clearing:
        """By its instantaneous time, or by the energy its class lets through at most where that is less."""
        time = float(self._entries[device.kind]["clears_s"])
        by_time = Clearing(
            fault_a,
            time,
            fault_a**2 * time,
            source,
            f"at or above its instantaneous current it opens within {time:g} s",
        )
        let_through = self._let_through(device, fault_a)
        if let_through is None or let_through.value >= by_time.energy_a2s:
            return by_time
        return Clearing(fault_a, time, let_through.value, let_through.source, let_through.how)

    def _let_through(self, device: Device, fault_a: float) -> Looked | None:
        """The most energy a breaker of the usual energy-limiting class lets through at a fault of so many amperes
        [A²s]: the row of the next larger rating and fault current; None where the table has neither."""
        entry: Mapping[str, Any] | None = self._entries[device.kind].get("let_through")
        column = entry["columns"].get(device.curve) if entry else None
        if entry is None or column is None:
            return None
        table = self._data.table(entry["table"])
        at = table.column(column)
        ratings = [(float(upto), 1.0) for upto in sorted({row[0] for row in table.rows})]
        ratings.append((float(entry["extended_to_a"]), float(entry["extended_by"])))
        rating, times = next((found for found in ratings if device.rating_a <= found[0]), (None, 1.0))
        row_rating = rating if times == 1.0 else ratings[-2][0]
        fitting = [row for row in table.rows if row[0] == row_rating and a_from_ka(float(row[1])) >= fault_a]
        if rating is None or not fitting:
            return None
        how = f"{entry['class']}: at up to {float(fitting[0][1]):g} kA it lets no more through; see its mark"
        return Looked(times * float(fitting[0][at]), table.source, how)

    def breaking_ka(self, device: Device) -> Looked:
        """Rated breaking capacity [kA], as read off the device. NeedsInput where it is not stated."""
        source = self._data.rule(self._names["breaking_rule"]).source
        if device.breaking_ka is not None:
            return Looked(device.breaking_ka, source, "as marked on the device")
        kind = self.kind(device.kind)
        usual = " or ".join(f"{value:g}" for value in kind.breaking_choices_ka)
        ask = "Read it off the device" + (f"; {usual} kA are usual." if usual else ".")
        raise NeedsInput(Need(f"breaking capacity of the {kind.title.lower()}", "device.breaking_ka", ask))

    def backed_up_ka(self, assembly_ka: float, cutout_kind: str, cutout_a: float) -> Looked | None:
        """Fault current [kA] a tested assembly stands behind its cut-out fuse, or None where that does not hold."""
        rule = self._data.rule(self._names["assembly_rule"])
        if cutout_kind in self._backup["kinds"] and cutout_a <= float(rule.params["backup_fuse_max_A"]):
            return Looked(min(assembly_ka, float(rule.params["conditional_kA"])), rule.source)
        return None

    def rcd_loop_limit(self, rcd: Rcd, system: str) -> LoopLimit:
        """Greatest Zs for fault protection by an RCD: touch voltage over IΔn; in TN also Uo·Cmin over 5 IΔn."""
        touch = self._data.rule(self._names["tt_rule"])
        idn_a = a_from_ma(rcd.idn_ma)
        limit = float(touch.params["touch_voltage_V"]) / idn_a
        if system == "TT":
            return LoopLimit(limit, idn_a, touch.source)
        route = self._data.rule(self._names["rcd_route_rule"]).source
        return LoopLimit(min(limit, loop_limit_ohm(self._uo_v, self._cmin, 5 * idn_a)), 5 * idn_a, route)

    def rcd_time_s(self, rcd: Rcd, multiple: float) -> Looked:
        """Longest time [s] in which the RCD opens at a multiple of IΔn (the next tabulated multiple below it).

        Raises NotTabulated below IΔn: the device need not open at all.
        """
        table = self._data.table(self._names["rcd_times"])
        kind = self._rcd_kinds["delayed" if rcd.delayed else "general"]
        rows = [row for row in table.rows if row[0] == kind and float(row[1]) <= multiple]
        if not rows:
            raise NotTabulated(
                f"at {multiple:.2g} times IΔn the RCD need not open",
                path="supply.ze_ohm",
                ask="Lower the loop impedance (a better electrode) or choose a smaller IΔn.",
            )
        return Looked(s_from_ms(float(rows[-1][3])), table.source, f"at {float(rows[-1][1]):g} IΔn")

    def default_device(self, circuit: Circuit, rating_a: float) -> Device:
        """The device the school would take unless somebody says otherwise."""
        distribution = circuit.kind == "distribution"
        kind = self._default["distribution" if distribution else "final"]
        return Device(
            kind=kind,
            curve=self._default["distribution_curve" if distribution else "curve"],
            rating_a=rating_a,
            breaking_ka=float(self._default["breaking_ka"]),
            rcd=Rcd(idn_ma=float(self._default["idn_ma"]), type=self._default["rcd_type"])
            if self.kind(kind).has_rcd
            else None,
        )

    def socket_rating_a(self, circuit: Circuit) -> float:
        """Rating [A] a socket circuit has by custom: of a ring, or of a radial."""
        return float(self._default["ring_a" if circuit.kind == "ring" else "radial_a"])
