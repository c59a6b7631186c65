"""Characteristics of devices as bands, made from a standard's tables."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from math import inf
from typing import Any

from vivid_lattice.core.curves import Band, Edge
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.formulas.device.coordination import OverloadOrder, overload_order
from vivid_lattice.core.formulas.device.residual import ResidualBand, ResidualPoint, Waveform
from vivid_lattice.core.messages import Message, Vocabulary, message
from vivid_lattice.core.rules.protection_rules import DeviceKey
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import plain
from vivid_lattice.core.units import a_from_ma

#: A moulded-case breaker without current limiting takes a cycle and a half to part its contacts and end the arc, however
#: large the current [s]. Common practice, no source.
_MOULDED_CASE_S = 0.025
_HOUR_S = 3600.0


class BandsFromTables:
    """Bands of the kinds of device a standard knows, each worked out once."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any], words: Vocabulary):
        self._data = data
        self._entries: dict[str, Mapping[str, Any]] = {entry["id"]: entry for entry in standard.get("band", [])}
        self._protection: Mapping[str, Any] = standard.get("protection", {})
        self._uo_v = float(standard["standard"]["nominal_v"])
        self._cmin = float(data.rule(standard["tables"]["loop_rule"]).params["cmin"])
        self._words = words
        self._cache: dict[DeviceKey, Band] = {}
        self._residuals: dict[Rcd, ResidualBand] = {}
        self._orders: dict[tuple[DeviceKey, DeviceKey], OverloadOrder] = {}

    def band(self, kind: str, curve: str | None, rating_a: float) -> Band:
        """The characteristic of a device; NotTabulated where the standard's tables hold none of its kind or rating."""
        key = DeviceKey(kind, curve, rating_a)
        band = self._cache.get(key)
        if band is None:
            band = self._cache[key] = self._band(kind, curve, rating_a)
        return band

    def waits_rule(self, kind: str) -> str | None:
        """The rule by which a kind of device waits for any device behind it in a short circuit; None: it does not."""
        text: str | None = self._entries.get(kind, {}).get("waits_rule")
        return text

    def order(self, up: DeviceKey, down: DeviceKey) -> OverloadOrder:
        """The order of two devices in series under overload; NotTabulated as ``band``."""
        kept = self._orders.get((up, down))
        if kept is None:
            kept = self._orders[up, down] = overload_order(self.band(*up), self.band(*down))
        return kept

    def _band(self, kind: str, curve: str | None, rating_a: float) -> Band:
        entry = self._entries.get(kind)
        if entry is None:
            raise NotTabulated(
                message(None, "core.rules.curve.need.kind", kind=kind),
                path="device.kind",
                ask=message(None, "core.rules.curve.need.ask"),
            )
        name = f"{curve or ''}{rating_a:g}" + ("" if curve else " A")
        if entry["by"] == "breaker":
            return self._breaker(self._data.table(entry["table"]), curve, rating_a, name)
        if entry["by"] == "multiples":
            return self._multiples(self._data.table(entry["table"]), rating_a, name)
        if entry["by"] == "gates":
            return self._gates(self._data.table(entry["table"]), rating_a, name)
        return self._points(entry, rating_a, name)

    def _breaker(self, table: Table, curve: str | None, rating_a: float, name: str) -> Band:
        if curve is None:
            raise NeedsInput(
                Need(
                    message(None, "core.rules.curve.need.letter"),
                    "device.curve",
                    message(None, "core.rules.curve.need.letter_ask"),
                )
            )
        rows = [row for row in table.rows if row[0] == curve and _within(str(row[1]), rating_a)]
        if not rows:
            raise self._none(table, name)
        edges = [
            Edge(tuple((float(row[3]) * rating_a, float(row[4])) for row in rows if row[2] == edge))
            for edge in ("lower", "upper")
        ]
        return Band(name=name, lower=edges[0], upper=edges[1], breaker=True, sources=(table.source,))

    def _multiples(self, table: Table, rating_a: float, name: str) -> Band:
        multiples = sorted({float(row[0]) for row in table.rows})
        upto = next((most for most in multiples if rating_a <= most), None)
        if upto is None:
            raise self._none(table, name)
        rows = [row for row in table.rows if row[0] == upto]
        lower, upper = (
            tuple((float(row[2]) * rating_a, float(row[3])) for row in rows if row[1] == edge)
            for edge in ("lower", "upper")
        )
        return Band(
            name=name,
            lower=Edge(lower),
            upper=Edge(upper, "energy", _MOULDED_CASE_S),
            breaker=True,
            sources=(table.source,),
        )

    def _gates(self, table: Table, rating_a: float, name: str) -> Band:
        smaller, larger = _neighbours({float(row[0]) for row in table.rows}, rating_a)
        if smaller is None or larger is None:
            raise self._none(table, name)
        # Between two tabulated ratings the quick edge is that of the smaller, the slow one that of the larger.
        lower, upper = (
            tuple((float(row[2]), float(row[3])) for row in table.rows if (row[0], row[1]) == (rating, edge))
            for rating, edge in ((smaller, "lower"), (larger, "upper"))
        )
        return Band(
            name=name, lower=Edge(lower, "energy"), upper=Edge(upper, "energy"), breaker=False, sources=(table.source,)
        )

    def _points(self, entry: Mapping[str, Any], rating_a: float, name: str) -> Band:
        """From the slow edge alone: the quick one is that of a gG fuse of the same or the next smaller rating."""
        rule, gates = self._data.rule(entry["quick_rule"]), self._data.table(entry["quick"])
        slow, source = self._slow_edge(entry, rating_a)
        if not slow:
            # Between two tabulated ratings the larger one's points are the slower.
            larger = min((rating for rating in self._ratings(entry) if rating > rating_a), default=rating_a)
            slow, source = self._slow_edge(entry, larger)
        smaller = [float(row[0]) for row in gates.rows if float(row[0]) <= rating_a]
        if not slow or not smaller:
            raise NotTabulated(
                message(None, "core.rules.curve.need.fuse", fuse=name),
                path="device.rating_a",
                ask=message(None, "core.rules.curve.need.ask"),
            )
        quick = self._gates(gates, max(smaller), name).lower
        first = (min(rating_a * float(entry["melts"]), slow[0][0]), _HOUR_S)
        return Band(
            name=name, lower=quick, upper=Edge((first, *slow), "energy"), breaker=False, sources=(source, rule.source)
        )

    def _ratings(self, entry: Mapping[str, Any]) -> set[float]:
        """The ratings that the slow edge of a kind of fuse is tabulated for."""
        tables = [entry["table"]] if "table" in entry else [point["table"] for point in entry["points"]]
        return {figure for table in tables for figure in self._data.table(table).key_figures()}

    def _slow_edge(self, entry: Mapping[str, Any], rating_a: float) -> tuple[list[tuple[float, float]], Source]:
        if "table" in entry:
            table = self._data.table(entry["table"])
            points = [(float(row[2]), float(row[1])) for row in table.rows if row[0] == rating_a]
            return sorted(points), table.source
        points, source = [], self._data.rule(entry["quick_rule"]).source
        for point in entry["points"]:
            table = self._data.table(point["table"])
            looked = table.number(point.get("ia") or point["zs"], rating_a)
            if looked is not None:
                source = table.source
                ia = looked.value if "ia" in point else self._uo_v * self._cmin / looked.value
                points.append((ia, float(point["s"])))
        return sorted(points), source

    @staticmethod
    def _none(table: Table, name: str) -> NotTabulated:
        return NotTabulated(
            message(None, "core.rules.curve.need.table", device=name),
            path="device.rating_a",
            ask=message(None, "core.rules.curve.need.ask"),
        )

    def residual(self, rcd: Rcd) -> ResidualBand:
        """The residual-current characteristic of an RCD: what it sees, by its type, and its times."""
        residual_band = self._residuals.get(rcd)
        if residual_band is None:
            residual_band = self._residuals[rcd] = self._residual(rcd)
        return residual_band

    def _residual(self, rcd: Rcd) -> ResidualBand:
        name, idn_a = self.rcd_name(rcd), a_from_ma(rcd.idn_ma)
        if "residual_curve" in self._protection:
            rule = self._data.rule(self._protection["residual_curve"])
            least, most, top = (float(rule.params[key]) for key in ("least_mA", "most_mA", "numerator_mA"))
            span = (least / rcd.idn_ma, most / rcd.idn_ma)
            return ResidualBand(
                name=name,
                idn_a=idn_a,
                sees={"ac": span},
                steps=(),
                dc_a=0.0,
                source=rule.source,
                inverse=(a_from_ma(top), float(rule.params["exponent"])),
            )
        times = self._data.table(self._protection["residual_times"])
        kind = "S" if rcd.time_delayed else "general"
        floor = 0.01 if rcd.short_time_delayed or rcd.type == "F" else 0.0
        steps = tuple(
            ResidualPoint(float(row[1]), max(float(row[2]), floor), float(row[3]))
            for row in times.rows
            if row[0] == kind
        )
        return ResidualBand(
            name=name, idn_a=idn_a, sees=self._sees(rcd), steps=steps, dc_a=self._dc_a(rcd), source=times.source
        )

    def rcd_name(self, rcd: Rcd) -> Message:
        """An RCD by its values: 100 mA RCD type A, time-delayed; without a type where the standard has none."""
        if "residual_curve" in self._protection:
            return message(self._words, "core.label.rcd_plain", idn=plain(rcd.idn_ma))
        key = "rcd_delayed" if rcd.time_delayed else "rcd_type"
        return message(self._words, f"core.label.{key}", idn=plain(rcd.idn_ma), type=rcd.type)

    def _sees(self, rcd: Rcd) -> Mapping[Waveform, tuple[float, float]]:
        table = self._data.table(self._protection["residual_range"])

        def span(words: str) -> tuple[float, float]:
            """Over all rows of a residual current: the least of the least, the most of the most."""
            rows = [row for row in table.rows if str(row[1]).startswith(words) and rcd.type in str(row[0]).split(", ")]
            return min(float(row[2]) for row in rows), max(float(row[3]) for row in rows)

        sees: dict[Waveform, tuple[float, float]] = {"ac": span("sinusoidal")}
        if rcd.type != "AC":
            least, most = span("pulsating")
            sees["pulsating"] = least, 2.0 if rcd.idn_ma <= 10 else most
        if rcd.type == "B":
            sees["smooth"] = span("smooth")
        return sees

    def _dc_a(self, rcd: Rcd) -> float:
        """Smooth direct current that an RCD of a type works under [A]."""
        if rcd.type == "B":
            return inf
        if rcd.type == "AC" or "types_table" not in self._protection:
            return 0.0
        table = self._data.table(self._protection["types_table"])
        return a_from_ma(float(table.row_where(type=rcd.type)[table.columns[2]]))


def _within(span: str, rating_a: float) -> bool:
    low, high = (float(part) for part in span.split("-"))
    return low < rating_a <= high


def _neighbours(currents: Collection[float], rating_a: float) -> tuple[float | None, float | None]:
    """The tabulated currents next to a rating, below and above [A]: itself where it is tabulated; None past an end."""
    smaller = max((current for current in currents if current <= rating_a), default=None)
    larger = min((current for current in currents if current >= rating_a), default=None)
    return smaller, larger
