"""Demand by the number of circuits: their currents added up, by a factor that falls as they grow many."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import Any

from vivid_lattice.core.document.job import Line
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.messages import message
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
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import Shown, shown


class ByCount:
    """Assumed loading of a board, by the number of its circuits; what must count in full is added."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any], currents: Currents):
        self._currents = currents
        self._table = data.table(entry["table"])
        self._method, self._full_rule = data.rule(entry["rule"]).source, data.rule(entry["full_rule"]).source
        self._full = frozenset(entry["full"])

    def maximum(self, house: Household) -> MaximumDemand:
        """Σ I · factor + what counts in full; never less than the largest circuit."""
        parts = {line: self._line(house, line) for line in house.lines}
        sums = {line: self._sum(shared, full) for line, (shared, full) in parts.items()}
        return by_lines(
            house, self._method, sums, neutral_shares(house, self._currents), partial(self._steps, parts, sums)
        )

    def _line(self, house: Household, line: Line) -> tuple[list[float], list[float]]:
        shared: list[float] = []
        full: list[float] = []
        for circuit in house.on(line):
            current = self._currents.of(circuit, house.supplied(circuit)).by_line[line]
            counts_full = any(load.kind in self._full for load in circuit.loads)
            (full if counts_full else shared).append(current)
        return shared, full

    def _factor(self, count: int) -> SourcedValue:
        sourced_value = self._table.number("factor", max(count, 1), between="next-up", beyond="last")
        assert sourced_value is not None
        return sourced_value

    def _sum(self, shared: list[float], full: list[float]) -> float:
        return max([self._factor(len(shared)).value * sum(shared) + sum(full), *shared, *full])

    def _steps(self, parts: Mapping[Line, tuple[list[float], list[float]]], sums: Mapping[Line, float]) -> list[Step]:
        steps = []
        for line, (shared, full) in parts.items():
            on = line if len(parts) > 1 else ""
            factor = self._factor(len(shared)).value
            added = " + ".join(map(shown, shared)) or "0"
            steps.append(
                amps(
                    "I",
                    on_line(
                        message(None, "core.rules.demand.count.assumed", n=len(shared), factor=Shown(f"{factor:g}")), on
                    ),
                    f"{factor:g} · ΣI",
                    f"{factor:g} · ({added})",
                    factor * sum(shared),
                    self._table.source,
                )
            )
            if full:
                figures = " + ".join(map(shown, full))
                steps.append(
                    amps(
                        "I",
                        on_line(message(None, "core.rules.demand.count.full"), on),
                        "ΣI",
                        figures,
                        sum(full),
                        self._full_rule,
                    )
                )
            formula = message(None, "core.rules.demand.count.sum")
            figures = f"{shown(factor * sum(shared))} + {shown(sum(full))}"
            steps.append(amps("Id", total_meaning(on), formula, figures, sums[line], self._method))
        return steps
