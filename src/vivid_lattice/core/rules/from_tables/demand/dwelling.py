"""Demand by the dwelling: a dimensioning load for the whole, whatever its circuits."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import Any

from vivid_lattice.core.document.job import Line
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.formulas.load_currents import lines_of_load
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.from_tables.demand.count import ByCount
from vivid_lattice.core.rules.from_tables.demand.currents import (
    Currents,
    Household,
    amps,
    by_lines,
    neutral_shares,
    on_line,
    total_meaning,
)
from vivid_lattice.core.rules.protocol import MaximumDemand
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.text import shown


class ByDwelling:
    """Dimensioning load of one dwelling, with or without electric water heating; boards within it by assumed loading."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any], currents: Currents):
        self._currents, self._rule = currents, data.rule(entry["rule"])
        self._full, self._water = frozenset(entry["full"]), frozenset(entry["water_heating"])
        self._boards = ByCount(data, entry, currents)
        self._full_rule = data.rule(entry["full_rule"]).source

    def maximum(self, house: Household) -> MaximumDemand:
        """P / (lines · U) + what counts in full; no line less than its largest circuit."""
        if not house.whole:
            return self._boards.maximum(house)
        kinds = {load.kind for circuit in house.circuits for load in circuit.loads}
        watts = float(self._rule.params["with_w" if kinds & self._water else "without_w"])
        share = watts / (house.phases * house.nominal_v)
        full = {line: self._in_full(house, line) for line in house.lines}
        largest = {line: self._largest(house, line) for line in house.lines}
        sums = {line: max(share + full[line], largest[line]) for line in house.lines}
        steps = partial(self._steps, house, watts, share, full, largest, sums)
        return by_lines(house, self._rule.source, sums, neutral_shares(house, self._currents), steps)

    def _in_full(self, house: Household, line: Line) -> float:
        total_va = 0.0
        for circuit in house.on(line):
            supplied = house.supplied(circuit)
            if any(load.kind in self._full and line in lines_of_load(load, supplied) for load in circuit.loads):
                total_va += self._currents.of(circuit, supplied).by_line[line]
        return total_va

    def _largest(self, house: Household, line: Line) -> float:
        demands = [self._currents.of(circuit, house.supplied(circuit)).by_line[line] for circuit in house.on(line)]
        return max(demands, default=0.0)

    def _steps(
        self,
        house: Household,
        watts: float,
        share: float,
        full: Mapping[Line, float],
        largest: Mapping[Line, float],
        sums: Mapping[Line, float],
    ) -> list[Step]:
        heated = watts == float(self._rule.params["with_w"])
        kind = "heated" if heated else "unheated"
        figures = f"{watts:g} W / ({house.phases} · {house.nominal_v:g} V)"
        steps = [
            amps(
                "I",
                message(None, f"core.rules.demand.dwelling.{kind}"),
                "P / (n · U)",
                figures,
                share,
                self._rule.source,
            )
        ]
        for line in house.lines:
            if full[line]:
                steps.append(
                    amps(
                        "I",
                        on_line(message(None, "core.rules.demand.count.full"), line),
                        "ΣI",
                        "",
                        full[line],
                        self._full_rule,
                    )
                )
            text = f"{shown(share)} + {shown(full[line])}; {shown(largest[line])}"
            formula = message(None, "core.rules.demand.count.sum")
            steps.append(amps("Id", total_meaning(line), formula, text, sums[line], self._rule.source))
        return steps
