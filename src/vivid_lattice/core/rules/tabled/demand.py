"""Demand with diversity from tables: some loads by their total, others ranked item by item."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from typing import Any

from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Source, Step, shown
from vivid_lattice.core.job import Circuit, Device, Load
from vivid_lattice.core.loads import load_current_a
from vivid_lattice.core.rules.protocol import Demand
from vivid_lattice.core.rules.tables import RuleData

#: The category of loads that are always counted in full.
_NO_DIVERSITY = "no diversity"


class TabledDemand:
    """Demand rules read from a school's tables."""

    def __init__(self, data: RuleData, school: Mapping[str, Any]):
        names: Mapping[str, str] = school["tables"]
        self._by_total = data.table(names["diversity_total"])
        self._by_item = data.table(names["diversity_item"])
        self._points = data.table(names["demand_points"])
        self._method = data.rule(names["demand_rule"]).source
        self._socket_rule = data.rule(names["socket_current_rule"]).source
        self._full_rule = data.rule(names["no_diversity_rule"]).source
        self._category: Mapping[str, str] = school["demand_category"]
        self._cooking_row_name: str = school["demand"]["cooking"]
        self._full: frozenset[str] = frozenset(school["no_diversity"]["loads"])
        self._items = {str(row[0]) for row in self._by_item.rows}

    def circuit_current(self, circuit: Circuit, nominal_v: float) -> Demand:
        """Design current Ib of a final circuit [A], with the steps.

        A stated current is taken as it stands. A socket circuit counts as loaded to its device's rating; cooking
        appliances by the table of assumed demand; everything else by its connected current.
        Raises NeedsInput where loads, a power, a power factor or the device is missing.
        """
        if circuit.design_current_a is not None:
            current, source = circuit.design_current_a, self._points.source
        elif circuit.kind in ("ring", "radial"):
            current, source = _device(circuit).rating_a, self._socket_rule
        elif circuit.loads:
            current, source = sum(self._reckoned(load, nominal_v) for load in circuit.loads), self._points.source
        else:
            raise NeedsInput(Need("what the circuit feeds", "loads", "Add the load, or state the design current."))
        return Demand(current, source, partial(self._current_steps, circuit, current, nominal_v))

    def _reckoned(self, load: Load, nominal_v: float) -> float:
        current = load_current_a(load, nominal_v)
        return self._cooking(current, load.with_socket) if load.kind == "cooker" else current

    def _current_steps(self, circuit: Circuit, current: float, nominal_v: float) -> list[Step]:
        if circuit.design_current_a is not None:
            return [_step("Ib", "design current, as stated", "stated", "", current, None)]
        if circuit.kind in ("ring", "radial"):
            meaning = "socket circuit, reckoned as fully loaded"
            return [_step("Ib", meaning, "In", f"{current:g} A", current, self._socket_rule)]
        steps = [self._load_step(load, nominal_v) for load in circuit.loads]
        if len(steps) > 1:
            parts = " + ".join(step.shown for step in steps)
            steps.append(_step("Ib", "all loads together", "ΣI", parts, current, self._points.source))
        return steps

    def _load_step(self, load: Load, nominal_v: float) -> Step:
        current = load_current_a(load, nominal_v)
        watts = f"{load.count} × {load.power_w:g}" if load.count > 1 else f"{load.power_w:g}"
        factor = f" · {load.power_factor:g}" if load.power_factor not in (None, 1.0) else ""
        if load.kind == "cooker":
            return self._cooking_step(load, current, f"{watts} W / {nominal_v:g} V")
        formula = "P / (U · cos φ)" if factor else "P / U"
        figures = f"{watts} W / ({nominal_v:g} V{factor})" if factor else f"{watts} W / {nominal_v:g} V"
        return _step("Ib", load.name, formula, figures, current, None)

    def _cooking_step(self, load: Load, current: float, figures: str) -> Step:
        first, rest, extra = self._cooking_row(load.with_socket)
        meaning = f"{load.name}, first {first:g} A and {rest:.0%} of the rest" + (
            f", {extra:g} A for its socket" if extra else ""
        )
        formula = f"min(I, {first:g}) + {rest:g} · (I − {first:g})" + (f" + {extra:g}" if extra else "")
        reduced = self._cooking(current, load.with_socket)
        figures = f"I = {figures} = {shown(current)} A; {shown(min(current, first))} + {rest:g} · {shown(max(0.0, current - first))}"
        return _step("Ib", meaning, formula, figures + (f" + {extra:g}" if extra else ""), reduced, self._points.source)

    def _cooking_row(self, with_socket: bool) -> tuple[float, float, float]:
        row = self._by_total.row_where(load=self._cooking_row_name)
        return float(row["first_A"]), float(row["rest_fraction"]), float(row["socket_extra_A"]) if with_socket else 0.0

    def _cooking(self, current: float, with_socket: bool) -> float:
        first, rest, extra = self._cooking_row(with_socket)
        return min(current, first) + rest * max(0.0, current - first) + extra

    def maximum(self, circuits: Sequence[Circuit], nominal_v: float) -> Demand:
        """Maximum demand of several final circuits [A] with the household diversity, category by category.

        Distribution circuits are passed over: what they carry is counted where it is used.
        Raises NeedsInput as ``circuit_current`` does.
        """
        sums: dict[str, list[float]] = {}
        sockets = 0
        for circuit in circuits:
            if circuit.kind == "distribution":
                continue
            for category, current in self._contributions(circuit, nominal_v):
                sums.setdefault(category, []).append(current)
            sockets += sum(load.with_socket for load in circuit.loads if load.kind == "cooker")
        total = sum(self._diversified(category, currents, sockets) for category, currents in sums.items())
        return Demand(total, self._method, partial(self._maximum_steps, sums, sockets, total))

    def _maximum_steps(self, sums: Mapping[str, list[float]], sockets: int, total: float) -> list[Step]:
        steps = [self._category_step(category, currents, sockets) for category, currents in sums.items()]
        parts = " + ".join(step.shown for step in steps) or "no circuits"
        return [*steps, _step("Id", "maximum demand", "Σ", parts, total, self._method)]

    def _contributions(self, circuit: Circuit, nominal_v: float) -> list[tuple[str, float]]:
        if circuit.kind in ("ring", "radial"):
            return [(self._category["socket"], self.circuit_current(circuit, nominal_v).current_a)]
        if circuit.design_current_a is not None or not circuit.loads:
            kind = circuit.loads[0].kind if circuit.loads else "appliance"
            return [(self._of(kind), self.circuit_current(circuit, nominal_v).current_a)]
        return [(self._of(load.kind), load_current_a(load, nominal_v)) for load in circuit.loads]

    def _of(self, kind: str) -> str:
        return _NO_DIVERSITY if kind in self._full else self._category[kind]

    def _diversified(self, category: str, currents: list[float], sockets: int) -> float:
        """What is left of a category's currents after diversity [A]."""
        if category == _NO_DIVERSITY:
            return sum(currents)
        if category in self._items:
            row = self._by_item.row_where(load=category)
            ranked, full = sorted(currents, reverse=True), int(float(row["full_count"]))
            return sum(ranked[:full]) + float(row["rest_fraction"]) * sum(ranked[full:])
        row = self._by_total.row_where(load=category)
        total, first = sum(currents), float(row["first_A"])
        extra = float(row["socket_extra_A"]) * sockets if category == self._cooking_row_name else 0.0
        return min(total, first) + float(row["rest_fraction"]) * max(0.0, total - first) + extra

    def _category_step(self, category: str, currents: list[float], sockets: int) -> Step:
        result = self._diversified(category, currents, sockets)
        if category == _NO_DIVERSITY:
            return _step("I", category, "Σ", " + ".join(map(shown, currents)), result, self._full_rule)
        if category in self._items:
            row = self._by_item.row_where(load=category)
            ranked, full, rest = (
                sorted(currents, reverse=True),
                int(float(row["full_count"])),
                float(row["rest_fraction"]),
            )
            figures = " + ".join(map(shown, ranked[:full]))
            figures += f" + {rest:g} · ({' + '.join(map(shown, ranked[full:]))})" if ranked[full:] else ""
            name = category.split(" of ")[0]
            return _step(
                "I", name, f"largest {full} in full, the rest by {rest:g}", figures, result, self._by_item.source
            )
        row = self._by_total.row_where(load=category)
        total, first, rest = sum(currents), float(row["first_A"]), float(row["rest_fraction"])
        extra = float(row["socket_extra_A"]) * sockets if category == self._cooking_row_name else 0.0
        figures = shown(total) if total <= first else f"{rest:g} · {shown(total - first)}"
        figures = f"{first:g} + {figures}" if 0 < first < total else figures
        figures += f" + {extra:g}" if extra else ""
        formula = f"first {first:g} A, the rest by {rest:g}" if first else f"all by {rest:g}"
        return _step("I", category, formula, figures, result, self._by_total.source)


def _device(circuit: Circuit) -> Device:
    if isinstance(circuit.device, str):
        raise NeedsInput(Need("a protective device", "device", "Choose one, or let the design choose."))
    return circuit.device


def _step(symbol: str, meaning: str, formula: str, figures: str, result: float, source: Source | None) -> Step:
    return Step(symbol, meaning, formula, figures, result, "A", shown(result), source)
