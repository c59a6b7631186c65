"""Protective devices from tables: ratings, loop limits, clearing, breaking capacity, RCD figures."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.document.job import Circuit, Device
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.formulas.device.loop import loop_limit_ohm
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.protocol import Clearing, DeviceKind, LoopLimit
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import SLACK, a_from_ka, a_from_ma, ka_from_a

#: A current worked out as 6000.0000001 A is 6 kA.
#: A fuse limits the current where it melts within half a cycle [s].
_LIMITING_S = 0.01
_JUST_UNDER = 1 - SLACK


@dataclass(frozen=True, slots=True)
class _FusePoint:
    """A point of a fuse's characteristic: at this current or more it has tripped within the time."""

    time_s: float
    ia_a: float
    source: Source


class DevicesFromTables:
    """Device rules read from a standard's tables."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._names: Mapping[str, str] = standard["tables"]
        self._entries: dict[str, Mapping[str, Any]] = {entry["id"]: entry for entry in standard["device"]}
        self._rcd: Mapping[str, Any] = standard["rcd_times"]
        self._backup: Mapping[str, Any] = standard["backup"]
        self._default: Mapping[str, Any] = standard["default_device"]
        self._uo_v = float(standard["standard"]["nominal_v"])
        self._cmin = float(data.rule(self._names["loop_rule"]).params["cmin"])
        self._cache: dict[tuple[Any, ...], LoopLimit] = {}
        self._class_rows: dict[tuple[Any, ...], list[tuple[float, SourcedValue]]] = {}
        self.kinds: Mapping[str, DeviceKind] = MappingProxyType(
            {entry["id"]: self._kind(entry) for entry in standard["device"]}
        )

    def _kind(self, entry: Mapping[str, Any]) -> DeviceKind:
        ratings = self._ratings(entry)
        common: Mapping[str, Any] | None = entry.get("common")
        if common:
            table = self._data.table(common["table"])
            at = table.column(common["usual"])
            preferred = [float(row[table.column(common["column"])]) for row in table.rows if row[at] is True]
            usual = tuple(sorted({*preferred, *map(float, common.get("also", ()))}))
        else:
            usual = ratings
        if "breaking_rows" in entry:
            rows = self._data.table(self._names["fuse_breaking"])
            breaking = tuple(float(rows.row_where(kind=kind)["capacity_kA"]) for kind in entry["breaking_rows"])
        else:
            breaking = tuple(float(value) for value in entry["breaking_choices_ka"])
        return DeviceKind(
            id=entry["id"],
            title=entry["title"],
            short=entry["short"],
            standard=entry["standard"],
            action=entry["action"],
            curves=tuple(entry["curves"]),
            ratings_a=ratings,
            common_ratings_a=usual,
            breaking_choices_ka=breaking,
            overload_factor=self._overload(entry, "air")[0].value,
            has_rcd=entry["has_rcd"],
            current=entry["current"],
            modules=int(entry["modules"]),
            usual_curve=self._default["curve"] if entry["curves"] else None,
            usual_rcd=Rcd(idn_ma=float(self._default["idn_ma"]), type=self._default["rcd_type"])
            if entry["has_rcd"]
            else None,
        )

    def _ratings(self, entry: Mapping[str, Any]) -> tuple[float, ...]:
        if entry["action"] == "fuse":
            points = [self._data.table(point["table"]).key_figures() for point in entry["fuse_points"]]
            return tuple(
                sorted({*(rating for ratings in points for rating in ratings), *map(float, entry.get("also_a", ()))})
            )
        table = self._data.table(entry["ratings"]["table"])
        most = float(entry["ratings"].get("upto_a", 1e9))
        return tuple(rating for rating in table.key_figures(entry["ratings"]["column"]) if rating <= most)

    def kind(self, device_kind: str) -> DeviceKind:
        """A kind of device by id; NotTabulated if the standard has none of that name."""
        try:
            return self.kinds[device_kind]
        except KeyError:
            raise NotTabulated(message(None, "core.rules.device.kind", kind=device_kind), path="device.kind") from None

    def overload_factors(self, device_kind: str, medium: str) -> tuple[SourcedValue, SourcedValue]:
        """What the kind takes off a cable's rating where it gives overload protection: by its fusing factor (Cf), and for
        a cable in the ground (Cc); each 1 where the standard requires nothing."""
        self.kind(device_kind)
        return self._overload(self._entries[device_kind], medium)

    def _overload(self, entry: Mapping[str, Any], medium: str) -> tuple[SourcedValue, SourcedValue]:
        source = entry.get("overload", {})
        if "table" in source:
            table = self._data.table(source["table"])
            row = table.row_where(case=source[medium])
            return SourcedValue(float(row["Cf"]), table.source), SourcedValue(float(row["Cc"]), table.source)
        rule = self._data.rule(source.get("rule", self._names["overload_rule"])).source
        return SourcedValue(float(source.get("cf", 1.0)), rule), SourcedValue(1.0, rule)

    def corrects_drop(self, device_kind: str) -> bool:
        """Whether voltage drop behind the kind may be corrected for a cooler conductor."""
        self.kind(device_kind)
        return bool(self._entries[device_kind].get("corrects_drop", True))

    def loop_limit(self, device: Device, within_s: float) -> LoopLimit:
        """Greatest Zs at which the device trips within the time, by its overcurrent function.

        within_s  time allowed [s]; for a fuse the nearest tabulated time that is no longer is used
        Returns   the smaller of the tabulated limit and Uo·Cmin/Ia, so that a rounded table never flatters
        Raises    NotTabulated for a rating or characteristic the tables do not hold
        """
        key = (device.kind, device.curve, device.rating_a, within_s)
        if key not in self._cache:
            self._cache[key] = self._loop_limit(device, within_s)
        return self._cache[key]

    def _loop_limit(self, device: Device, within_s: float) -> LoopLimit:
        if self.kind(device.kind).action == "breaker":
            return self._breaker_limit(device)
        points = [point for point in self._points(device) if point.time_s <= within_s]
        if not points:
            limits = [point.time_s for point in self._points(device)]
            if not limits:
                raise self._no_rating(device, self._entries[device.kind]["fuse_points"][0]["table"])
            raise NotTabulated(
                message(
                    None, "core.rules.device.need.fuse_time", s=Shown(f"{within_s:g}"), least=Shown(f"{min(limits):g}")
                ),
                path="device",
                ask=message(None, "core.rules.device.need.fuse_time_ask"),
            )
        longest = max(points, key=lambda point: point.time_s)
        return LoopLimit(self._uo_v * self._cmin / longest.ia_a, longest.ia_a, longest.source)

    def _breaker_limit(self, device: Device) -> LoopLimit:
        entry = self._entries[device.kind]
        if "loop" not in entry and "multiples" not in entry:
            raise NotTabulated(
                message(None, "core.rules.device.need.instant", device=self.kind(device.kind).title),
                path="device",
                ask=message(None, "core.rules.device.need.instant_ask"),
            )
        by_curve: Mapping[str, Any] = entry.get("loop") or entry["multiples"]
        curve = device.curve or "any"
        if curve not in by_curve:
            raise NeedsInput(
                Need(
                    message(None, "core.rules.device.need.curve", device=self.kind(device.kind).title),
                    "device.curve",
                    message(None, "core.rules.device.need.curve_ask"),
                )
            )
        if "loop" in entry:
            table = self._data.table(by_curve[curve])
            row = self._row(table, device)
            ia, tabulated = float(row["ia_A"]), float(row["zs_max_ohm"])
            return LoopLimit(min(tabulated, loop_limit_ohm(self._uo_v, self._cmin, ia)), ia, table.source)
        ratings = self._data.table(entry["ratings"]["table"])
        if device.rating_a not in ratings.key_figures(entry["ratings"]["column"]):
            raise self._no_rating(device, ratings.id)
        ia = float(by_curve[curve]) * device.rating_a
        source = self._data.table(by_curve["table"]).source
        return LoopLimit(loop_limit_ohm(self._uo_v, self._cmin, ia), ia, source)

    def _points(self, device: Device) -> list[_FusePoint]:
        """The tabulated points of a fuse's characteristic, quickest first; of a rating between two of the table the larger one's,
        which melts no sooner."""
        fuse_points: dict[float, _FusePoint] = {}
        for point in self._entries[device.kind]["fuse_points"]:
            table, time = self._data.table(point["table"]), float(point["s"])
            ratings = table.key_figures()
            if time in fuse_points or not min(ratings) <= device.rating_a <= max(ratings):
                continue
            looked = table.number(point.get("zs") or point["ia"], device.rating_a, between="next-up")
            assert looked is not None
            ia = self._uo_v * self._cmin / looked.value if "zs" in point else looked.value
            fuse_points[time] = _FusePoint(time, ia, table.source)
        return [fuse_points[time] for time in sorted(fuse_points)]

    def _no_rating(self, device: Device, table: str) -> NotTabulated:
        ratings = ", ".join(f"{key:g}" for key in self.kind(device.kind).ratings_a)
        return NotTabulated(
            message(None, "core.rules.device.need.rating", a=Shown(f"{device.rating_a:g}"), table=table, list=ratings),
            path="device.rating_a",
        )

    def holds_a(self, device: Device) -> SourcedValue | None:
        """Current [A] below which a breaker's instantaneous part certainly stays closed; None for kinds without such a band."""
        holds = self._entries.get(device.kind, {}).get("holds", {})
        if device.curve is None or device.curve not in holds:
            return None
        return SourcedValue(float(holds[device.curve]) * device.rating_a, self._data.table(holds["table"]).source)

    @staticmethod
    def _row(table: Table, device: Device) -> Mapping[str, Any]:
        keys = table.key_figures("rating_A")
        if device.rating_a not in keys:
            raise NotTabulated(
                message(
                    None,
                    "core.rules.device.need.rating",
                    a=Shown(f"{device.rating_a:g}"),
                    table=table.id,
                    list=", ".join(f"{key:g}" for key in keys),
                ),
                path="device.rating_a",
            )
        return table.row_where(rating_A=device.rating_a)

    def clearing(self, device: Device, fault_a: float) -> Clearing:
        """How the device clears a fault of so many amperes, for the heat in a conductor.

        A breaker: within its instantaneous time at or above Ia. A fuse: the tabulated point at or below the fault
        current, since a larger current melts it with no more energy.
        A let-through energy that the manufacturer states goes before both between the upper threshold of the instantaneous part
        (of a fuse, the start of its current-limiting range) and the current it is stated for.
        Raises NotTabulated where the fault is too small for any tabulated point.
        """
        kind = self.kind(device.kind)
        stated = self._stated(device, fault_a)
        if stated is not None:
            return stated
        if kind.action == "breaker":
            limit = self.loop_limit(device, 0.4)
            if fault_a < limit.ia_a:
                raise NotTabulated(
                    message(
                        None, "core.rules.device.need.clearing", a=Shown(f"{fault_a:.0f}"), ia=Shown(f"{limit.ia_a:g}")
                    ),
                    path="device",
                    ask=message(None, "core.rules.device.need.clearing_ask"),
                )
            return self._breaker_clearing(device, fault_a, limit.source)
        for point in self._points(device):
            if fault_a >= point.ia_a:
                why = message(None, "core.rules.device.fuse_point", s=Shown(f"{point.time_s:g}"))
                return Clearing(
                    current_a=point.ia_a,
                    time_s=point.time_s,
                    energy_a2s=point.ia_a**2 * point.time_s,
                    source=point.source,
                    reason=why,
                )
        raise NotTabulated(
            message(None, "core.rules.device.need.fuse_low", a=Shown(f"{fault_a:.0f}")),
            path="device",
            ask=message(None, "core.rules.device.need.fuse_low_ask"),
        )

    def _stated(self, device: Device, fault_a: float) -> Clearing | None:
        """The stated let-through energy, where it holds at a fault of so many amperes."""
        if device.let_through_a2s is None or device.let_through_at_ka is None:
            return None
        at_a = a_from_ka(device.let_through_at_ka)
        from_a = self._limits_from_a(device)
        if from_a is None or not from_a <= fault_a <= at_a / _JUST_UNDER:
            return None
        source = self._data.rule(self._names["withstand_rule"]).source
        time = device.let_through_a2s / fault_a**2
        why = message(None, "core.rules.device.let_through", ka=Shown(f"{device.let_through_at_ka:g}"))
        return Clearing(current_a=fault_a, time_s=time, energy_a2s=device.let_through_a2s, source=source, reason=why)

    def _limits_from_a(self, device: Device) -> float | None:
        """Current [A] from which a stated let-through energy holds: the upper threshold of a breaker's instantaneous part; of a fuse
        the current at which it melts within 10 ms, by the energy of its quickest tabulated point."""
        if self.kind(device.kind).action == "breaker":
            try:
                return self.loop_limit(device, 0.4).ia_a
            except NotTabulated:
                return None
        points = self._points(device)
        return points[0].ia_a * max(1.0, points[0].time_s / _LIMITING_S) ** 0.5 if points else None

    def _breaker_clearing(self, device: Device, fault_a: float, source: Source) -> Clearing:
        """By its instantaneous time, or by the energy its class lets through at most where that is less."""
        time = float(self._entries[device.kind]["clears_s"])
        by_time = Clearing(
            current_a=fault_a,
            time_s=time,
            energy_a2s=fault_a**2 * time,
            source=source,
            reason=message(None, "core.rules.device.breaker_time", s=Shown(f"{time:g}")),
        )
        row = self._class_row(device, fault_a)
        if row is None or row[0].value >= by_time.energy_a2s:
            return by_time
        let_through = row[0]
        return Clearing(
            current_a=fault_a,
            time_s=time,
            energy_a2s=let_through.value,
            source=let_through.source,
            reason=let_through.basis,
        )

    def _class_row(self, device: Device, fault_a: float) -> tuple[SourcedValue, float] | None:
        """The most energy a breaker of the usual energy-limiting class lets through at a fault of so many amperes
        [A²s]: the row of the next larger rating and fault current, and that current [A]; None where the table has neither."""
        key = (device.kind, device.curve, device.rating_a)
        rows = self._class_rows.get(key)
        if rows is None:
            rows = self._class_rows[key] = self._rows_of_class(device)
        for at_a, energy in rows:
            if at_a >= fault_a * _JUST_UNDER:
                return energy, at_a
        return None

    def _rows_of_class(self, device: Device) -> list[tuple[float, SourcedValue]]:
        """The let-through limits of a device's class, by the prospective current [A] each is for, smallest first."""
        entry: Mapping[str, Any] | None = self._entries[device.kind].get("let_through")
        column = entry["columns"].get(device.curve) if entry else None
        if entry is None or column is None:
            return []
        table = self._data.table(entry["table"])
        rating_at, fault_at, energy_at = (table.column(name) for name in (entry["rating"], entry["fault"], column))
        where = [(table.column(name), value) for name, value in entry.get("where", {}).items()]
        rows = [row for row in table.rows if all(row[at] == value for at, value in where)]
        times, rating = _tabulated_rating(entry, {float(row[rating_at]) for row in rows}, device.rating_a)
        limits = []
        for row in rows:
            if row[rating_at] == rating:
                at_a = float(row[fault_at]) * float(entry["fault_a"])
                how = message(None, "core.rules.device.class", name=entry["class"], ka=Shown(f"{ka_from_a(at_a):g}"))
                limits.append((at_a, SourcedValue(times * float(row[energy_at]), table.source, how)))
        return sorted(limits, key=lambda pair: pair[0])

    def let_through(self, device: Device, fault_a: float) -> SourcedValue:
        """The most energy [A²s] the device lets through when a fault of so many amperes is cleared: as stated where that holds,
        else by its class, else by its time.

        Raises NotTabulated where none is known.
        """
        clearing = self.clearing(device, fault_a)
        return SourcedValue(clearing.energy_a2s, clearing.source, clearing.reason)

    def class_row_a(self, device: Device, fault_a: float) -> float | None:
        """The prospective current [A] for which the let-through limit of the device's class is given that is used at a fault;
        None where a figure of its manufacturer, or no limit of a class, is used."""
        if self._stated(device, fault_a) is not None:
            return None
        class_row = self._class_row(device, fault_a)
        return class_row[1] if class_row else None

    @property
    def energy_fault_ka(self) -> SourcedValue | None:
        """The current [kA] that energy is calculated for in a dwelling while it is not measured; None: the largest declared."""
        named = self._names.get("energy_fault_rule")
        if named is None:
            return None
        rule = self._data.rule(named)
        return SourcedValue(float(rule.params["energy_kA"]), rule.source)

    def onsite_mm2(self, device: Device, fault_a: float) -> SourcedValue | None:
        """Least copper conductor [mm²] that on-site guidance gives behind a breaker of the usual energy-limiting class at a fault of
        so many amperes; None where it has no row."""
        named = self._names.get("onsite_sizes")
        if named is None or "let_through" not in self._entries[device.kind] or device.curve not in ("B", "C"):
            return None
        table = self._data.table(named)
        for row in table.rows:
            if device.rating_a <= float(row[0]) and fault_a <= float(row[1]) * 1000 / _JUST_UNDER:
                how = message(
                    None,
                    "core.rules.device.onsite",
                    curve=device.curve,
                    a=Shown(f"{row[0]:g}"),
                    ka=Shown(f"{row[1]:g}"),
                )
                return SourcedValue(float(row[table.column(f"{device.curve}_mm2")]), table.source, how)
        return None

    def breaking_ka(self, device: Device) -> SourcedValue:
        """Rated breaking capacity [kA], as read off the device. NeedsInput where it is not stated."""
        source = self._data.rule(self._names["breaking_rule"]).source
        if device.breaking_ka is not None:
            return SourcedValue(device.breaking_ka, source, message(None, "core.rules.device.marked"))
        kind = self.kind(device.kind)
        usual = ", ".join(f"{value:g}" for value in kind.breaking_choices_ka)
        ask = (
            message(None, "core.rules.device.need.breaking_usual", list=usual)
            if usual
            else message(None, "core.rules.device.need.breaking_ask")
        )
        what = message(None, "core.rules.device.need.breaking", device=kind.title)
        raise NeedsInput(Need(what, "device.breaking_ka", ask))

    def backed_up_ka(self, assembly_ka: float, cutout_kind: str, cutout_a: float) -> SourcedValue | None:
        """Fault current [kA] a tested assembly withstands behind its cut-out fuse, or None where that does not hold."""
        rule = self._data.rule(self._names["assembly_rule"])
        if self._backup.get("declared"):
            return SourcedValue(assembly_ka, rule.source)
        if cutout_kind in self._backup["kinds"] and cutout_a <= float(rule.params["backup_fuse_max_A"]):
            return SourcedValue(min(assembly_ka, float(rule.params["conditional_kA"])), rule.source)
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

    def rcd_time_s(self, rcd: Rcd, multiple: float) -> SourcedValue:
        """Longest time [s] in which the RCD trips at a multiple of IΔn (the next tabulated multiple below it).

        Raises NotTabulated below IΔn: the device need not open at all.
        """
        table = self._data.table(self._rcd["table"])
        kind = self._rcd.get("delayed" if rcd.time_delayed else "general")
        most = table.column(self._rcd["most"]) if kind else 0
        rows = [row for row in table.rows if row[0] == kind and float(row[1]) <= multiple]
        if not rows:
            raise NotTabulated(
                message(None, "core.rules.device.need.rcd", n=Shown(f"{multiple:.2g}")),
                path="supply.ze_ohm",
                ask=message(None, "core.rules.device.need.rcd_ask"),
            )
        time = float(rows[-1][most]) / float(self._rcd["per_second"])
        return SourcedValue(
            time, table.source, message(None, "core.rules.device.rcd_at", n=Shown(f"{float(rows[-1][1]):g}"))
        )

    def default_device(self, circuit: Circuit, rating_a: float) -> Device:
        """The device the standard would take unless someone says otherwise."""
        distribution = circuit.kind == "distribution"
        use = circuit.kind if circuit.kind in self._default else "distribution" if distribution else "final"
        kind = self.kind(self._default[use])
        curve = self._default["distribution_curve"] if distribution and kind.curves else kind.usual_curve
        return Device(
            kind=kind.id,
            curve=curve,
            rating_a=rating_a,
            breaking_ka=float(self._default["breaking_ka"]),
            rcd=kind.usual_rcd,
        )

    def socket_rating_a(self, circuit: Circuit) -> float:
        """Rating [A] a socket circuit has by custom: of a ring, or of a radial."""
        return float(self._default["ring_a" if circuit.kind == "ring" else "radial_a"])


def _tabulated_rating(
    entry: Mapping[str, Any], ratings: Collection[float], rating_a: float
) -> tuple[float, float | None]:
    """The column a rating goes by and the factor on it: the next rating up, or the largest by a factor up to where that is
    allowed; None beyond."""
    upto = min((rating for rating in ratings if rating_a <= rating), default=None)
    if upto is None and rating_a <= float(entry["extended_to_a"]):
        return float(entry["extended_by"]), max(ratings)
    return 1.0, upto
