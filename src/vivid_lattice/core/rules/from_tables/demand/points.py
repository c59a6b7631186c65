"""Demand by load groups: lighting and outlets by their number, everything larger by a share of its current."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from math import ceil
from typing import Any

from vivid_lattice.core.document.job import Circuit, Line, Load
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.formulas.load_currents import lines_of_load, load_current_a
from vivid_lattice.core.messages import Text, message
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
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown, shown

_FULL = "in full"
#: Uses of an outlet circuit that count once as a whole, and the group each falls in.
_FLAT_USES = {"outlet-15a": "B(ii)", "outlet-20a": "B(iii)"}


class ByPoints:
    """Load groups of a single dwelling, per phase."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any], currents: Currents):
        self._currents, self._table = currents, data.table(entry["table"])
        self._method, self._full_rule = data.rule(entry["rule"]).source, data.rule(entry["full_rule"]).source
        self._group: Mapping[str, str] = entry["group"]
        self._full = frozenset(entry["full"])
        self._heavy_a = float(entry["heavy_above_a"])
        usual = data.rule(entry["usual_points"])
        #: Outlets or points a circuit of a dwelling has where no one has counted them.
        self.usual_points: SourcedValue | None = SourcedValue(float(usual.params["points"]), usual.source)

    def maximum(self, house: Household) -> MaximumDemand:
        """Σ over the groups of each line."""
        groups = {line: self._groups(house, line) for line in house.lines}
        sums = {
            line: sum(self.assessed_a(g, figures) for g, figures in currents.items())
            for line, currents in groups.items()
        }
        steps = partial(self._steps, groups, sums)
        return by_lines(house, self._method, sums, neutral_shares(house, self._currents), steps)

    def _groups(self, house: Household, line: Line) -> dict[str, list[float]]:
        """Figures of each group on a line: numbers of points, or currents [A]."""
        currents_by_group: dict[str, list[float]] = {}
        for circuit in house.on(line):
            for group, figure in self._contributions(circuit, house, line):
                currents_by_group.setdefault(group, []).append(figure)
        return currents_by_group

    def _socket_points(self, circuit: Circuit) -> float:
        sockets = [load for load in circuit.loads if load.kind == "socket"]
        if not sockets:
            raise NeedsInput(_count_of(circuit, "outlets"))
        return sum(self._points(load, circuit) for load in sockets)

    def _contributions(self, circuit: Circuit, house: Household, line: Line) -> list[tuple[str, float]]:
        supplied = house.supplied(circuit)
        if circuit.use in _FLAT_USES:
            return [(_FLAT_USES[circuit.use], 1.0)]
        if circuit.kind in ("ring", "radial"):
            return [("B(i)", self._socket_points(circuit))]
        if circuit.design_current_a is not None or not circuit.loads:
            kind = circuit.loads[0].kind if circuit.loads else "appliance"
            return [self._heavy(kind, self._currents.of(circuit, supplied).by_line[line])]
        return [self._of(load, circuit, house) for load in circuit.loads if line in lines_of_load(load, supplied)]

    def _of(self, load: Load, circuit: Circuit, house: Household) -> tuple[str, float]:
        if self._group[load.kind if load.kind not in self._full else "appliance"] == "A(i)":
            return "A(i)", self._points(load, circuit)
        if load.kind == "socket":
            return "B(i)", self._points(load, circuit)
        return self._heavy(load.kind, load_current_a(load, house.supplied(circuit)), load.items)

    def _points(self, load: Load, circuit: Circuit) -> float:
        """Points of a load; while no one has counted those of a dwelling, the usual number."""
        if load.count is None and self.usual_points is not None:
            return self.usual_points.value
        if load.count is None:
            raise NeedsInput(_count_of(circuit, "outlets" if load.kind == "socket" else "points"))
        return float(load.count)

    def _heavy(self, kind: str, current: float, count: int = 1) -> tuple[str, float]:
        if kind in self._full:
            return _FULL, current
        group = self._group[kind]
        if group == "A(i)":
            return _FULL, current
        if current / count <= self._heavy_a and group not in ("E", "F"):
            return "B(i)", float(count)
        return (_FULL if group == "B(i)" else group), current

    def assessed_a(self, group: str, figures: list[float]) -> float:
        """What a group counts for [A]: by its points, once as a whole, or by a share of its currents."""
        if group == _FULL:
            return sum(figures)
        row = self._table.row_where(group=group)
        if row["kind"] == "flat":
            return float(row["first_A"])
        if row["kind"] == "factor":
            return float(row["factor"]) * sum(figures)
        beyond = max(0.0, sum(figures) - float(row["first_points"]))
        return float(row["first_A"]) + ceil(beyond / float(row["step_points"])) * float(row["step_A"])

    def _steps(self, groups: Mapping[Line, dict[str, list[float]]], sums: Mapping[Line, float]) -> list[Step]:
        all_steps = []
        for line, currents_by_group in groups.items():
            on = line if len(groups) > 1 else ""
            steps = [self._step(group, currents_by_group[group], on) for group in sorted(currents_by_group)]
            all_steps += with_total(steps, on, sums[line], self._method)
        return all_steps

    def _step(self, group: str, figures: list[float], line: str) -> Step:
        result = self.assessed_a(group, figures)
        if group == _FULL:
            meaning = on_line(message(None, "core.rules.demand.points.ungrouped"), line)
            return amps("I", meaning, "ΣI", " + ".join(map(shown, figures)), result, self._full_rule)
        row, source = self._table.row_where(group=group), self._table.source
        name = on_line(f"{group} {row['load']}", line)
        if row["kind"] == "points":
            return self._points_step(row, name, sum(figures), result, source)
        if row["kind"] == "flat":
            return amps("I", name, message(None, "core.rules.demand.points.once"), "", result, source)
        figure = f"{float(row['factor']):g} · ({' + '.join(map(shown, figures))})"
        return amps("I", name, f"{float(row['factor']):g} · ΣI", figure, result, source)

    @staticmethod
    def _points_step(row: Mapping[str, Any], name: Text, points: float, result: float, source: Source) -> Step:
        first, step = float(row["first_points"]), float(row["step_points"])
        formula = message(
            None,
            "core.rules.demand.points.formula",
            a=Shown(f"{float(row['first_A']):g}"),
            first=Shown(f"{first:g}"),
            b=Shown(f"{float(row['step_A']):g}"),
            step=Shown(f"{step:g}"),
        )
        return amps(
            "I", name, formula, message(None, "core.rules.demand.points.points", n=Shown(f"{points:g}")), result, source
        )


def _count_of(circuit: Circuit, what: str) -> Need:
    kind = "outlets" if what == "outlets" else "other"
    return Need(
        message(None, "core.rules.demand.points.need.what", kind=what, circuit=circuit.name),
        "loads.count",
        message(None, f"core.rules.demand.points.need.ask_{kind}"),
    )
