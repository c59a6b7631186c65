"""Demand with all loads in full: nothing is taken to be off while the rest runs."""

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
)
from vivid_lattice.core.rules.protocol import MaximumDemand
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.text import shown


class InFull:
    """The design currents of all circuits added up, line by line."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any], currents: Currents):
        self._currents, self._rule = currents, data.rule(entry["rule"]).source

    def maximum(self, house: Household) -> MaximumDemand:
        """Σ Ib of each line."""
        parts = {
            line: [self._currents.of(circuit, house.supplied(circuit)).by_line[line] for circuit in house.on(line)]
            for line in house.lines
        }
        sums = {line: sum(currents) for line, currents in parts.items()}
        return by_lines(
            house, self._rule, sums, neutral_shares(house, self._currents), partial(self._steps, parts, sums)
        )

    def _steps(self, parts: Mapping[Line, list[float]], sums: Mapping[Line, float]) -> list[Step]:
        return [
            amps(
                "Id",
                on_line(message(None, "core.rules.demand.full"), line if len(parts) > 1 else ""),
                "ΣIb",
                " + ".join(map(shown, currents)) or "0",
                sums[line],
                self._rule,
            )
            for line, currents in parts.items()
        ]
