"""Demand by kinds of load: some by their total, others ranked item by item, each with its own diversity."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import Any

from vivid_lattice.core.document.job import Circuit, Line
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.formulas.load_currents import lines_of_load, load_current_a
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.from_tables.demand.currents import (
    Currents,
    Household,
    amps,
    by_lines,
    neutral_shares,
    on_line,
    with_total,
)
from vivid_lattice.core.rules.protocol import MaximumDemand
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.text import Shown, shown

#: The category of loads that are always counted in full.
_NO_DIVERSITY = "no diversity"


class Categories:
    """Household diversity, kind by kind."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any], currents: Currents):
        self._currents = currents
        self._by_total, self._by_item = data.table(entry["by_total"]), data.table(entry["by_item"])
        self._method, self._full_rule = data.rule(entry["rule"]).source, data.rule(entry["full_rule"]).source
        self._category: Mapping[str, str] = entry["category"]
        self._cooking_row_name: str = entry["cooking"]
        self._full = frozenset(entry["full"])
        self._items = {str(row[0]) for row in self._by_item.rows}

    def maximum(self, house: Household) -> MaximumDemand:
        """Sum over the kinds of load of each line's diversified currents."""
        sums: dict[Line, float] = {}
        parts: dict[Line, tuple[dict[str, list[float]], int]] = {}
        for line in house.lines:
            kinds, sockets = self._kinds(house, line)
            parts[line] = (kinds, sockets)
            sums[line] = sum(self._diversified(kind, currents, sockets) for kind, currents in kinds.items())
        return by_lines(
            house, self._method, sums, neutral_shares(house, self._currents), partial(self._steps, parts, sums)
        )

    def _kinds(self, house: Household, line: Line) -> tuple[dict[str, list[float]], int]:
        kinds: dict[str, list[float]] = {}
        sockets = 0
        for circuit in house.on(line):
            for kind, current in self._contributions(circuit, house, line):
                kinds.setdefault(kind, []).append(current)
            sockets += sum(load.with_socket for load in circuit.loads if load.kind == "cooker")
        return kinds, sockets

    def _contributions(self, circuit: Circuit, house: Household, line: Line) -> list[tuple[str, float]]:
        supplied = house.supplied(circuit)
        if circuit.kind in ("ring", "radial"):
            return [(self._category["socket"], self._currents.of(circuit, supplied).by_line[line])]
        if circuit.design_current_a is not None or not circuit.loads:
            kind = circuit.loads[0].kind if circuit.loads else "appliance"
            return [(self._of(kind), self._currents.of(circuit, supplied).by_line[line])]
        return [
            (self._of(load.kind), load_current_a(load, supplied))
            for load in circuit.loads
            if line in lines_of_load(load, supplied)
        ]

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

    def _steps(
        self, parts: Mapping[Line, tuple[dict[str, list[float]], int]], sums: Mapping[Line, float]
    ) -> list[Step]:
        all_steps = []
        for line, (kinds, sockets) in parts.items():
            on = line if len(parts) > 1 else ""
            steps = [self._category_step(category, currents, sockets, on) for category, currents in kinds.items()]
            all_steps += with_total(steps, on, sums[line], self._method)
        return all_steps

    def _category_step(self, category: str, currents: list[float], sockets: int, line: str) -> Step:
        result = self._diversified(category, currents, sockets)
        if category == _NO_DIVERSITY:
            return amps("I", on_line(category, line), "Σ", " + ".join(map(shown, currents)), result, self._full_rule)
        if category in self._items:
            row = self._by_item.row_where(load=category)
            ranked, full, rest = (
                sorted(currents, reverse=True),
                int(float(row["full_count"])),
                float(row["rest_fraction"]),
            )
            figures = " + ".join(map(shown, ranked[:full]))
            figures += f" + {rest:g} · ({' + '.join(map(shown, ranked[full:]))})" if ranked[full:] else ""
            name = on_line(category.split(" of ")[0], line)
            formula = message(None, "core.rules.demand.categories.largest", n=full, rest=Shown(f"{rest:g}"))
            return amps("I", name, formula, figures, result, self._by_item.source)
        row = self._by_total.row_where(load=category)
        total, first, rest = sum(currents), float(row["first_A"]), float(row["rest_fraction"])
        extra = float(row["socket_extra_A"]) * sockets if category == self._cooking_row_name else 0.0
        figures = shown(total) if total <= first else f"{rest:g} · {shown(total - first)}"
        figures = f"{first:g} + {figures}" if 0 < first < total else figures
        figures += f" + {extra:g}" if extra else ""
        formula = (
            message(None, "core.rules.demand.categories.first", a=Shown(f"{first:g}"), rest=Shown(f"{rest:g}"))
            if first
            else message(None, "core.rules.demand.categories.all", rest=Shown(f"{rest:g}"))
        )
        return amps("I", on_line(category, line), formula, figures, result, self._by_total.source)
