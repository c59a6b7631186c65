"""What each circuit draws: its design current, line by line, before circuits are added up."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any, Protocol

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import LINES, Circuit, Device, JobInfo, Line, Load
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.findings.finding import Step
from vivid_lattice.core.formulas.load_currents import (
    CircuitSupply,
    driving_v,
    duty_share,
    lines_of_load,
    load_current_a,
)
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.from_tables.demand.ranges import range_demand_va, volt_amperes
from vivid_lattice.core.rules.protocol import CircuitDemand, MaximumDemand
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown, shown


@dataclass(frozen=True, slots=True, kw_only=True)
class Household:
    """Final circuits whose demand is wanted, how each is supplied, and what is known of the place."""

    circuits: tuple[Circuit, ...]
    supplied: Callable[[Circuit], CircuitSupply]
    job: JobInfo
    phases: int
    nominal_v: float
    whole: bool

    @property
    def lines(self) -> tuple[Line, ...]:
        """The lines of the supply."""
        return LINES[: self.phases]

    def on(self, line: Line) -> list[Circuit]:
        """The circuits that a line feeds, alone or with others."""
        return [circuit for circuit in self.circuits if line in self.supplied(circuit).lines]


class DemandMethod(Protocol):
    """A way of adding circuits up."""

    def maximum(self, house: Household) -> MaximumDemand: ...


class Currents:
    """Design currents of single circuits."""

    def __init__(self, data: RuleData, entry: Mapping[str, Any]):
        self._socket_rule = data.rule(entry["socket_rule"]).source
        self._points = data.table(entry["points"]).source if "points" in entry else None
        self._cooking = data.table(entry["by_total"]).row_where(load=entry["cooking"]) if "cooking" in entry else None
        self._assessed = data.table(entry["cooking_circuit"]) if "cooking_circuit" in entry else None
        ranges = entry.get("tables", {}).get("ranges")
        self._ranges = data.table(ranges) if ranges else None

    def of(self, circuit: Circuit, supplied: CircuitSupply) -> CircuitDemand:
        """Design current Ib of a final circuit, with the steps.

        A stated current is taken as it is, in every line. A socket circuit counts as loaded to its device's rating;
        cooking appliances by the standard's table of them; everything else by its connected current.
        """
        if circuit.design_current_a is not None:
            return self._alike(circuit, circuit.design_current_a, supplied, self._points)
        if circuit.kind in ("ring", "radial"):
            return self._alike(circuit, device_of(circuit).rating_a, supplied, self._socket_rule)
        if not circuit.loads:
            raise NeedsInput(
                Need(
                    message(None, "core.rules.demand.need.load.what"),
                    "loads",
                    message(None, "core.rules.demand.need.load.ask"),
                )
            )
        total = dict.fromkeys(supplied.lines, 0.0)
        heating, to_neutral, largest_start = dict(total), dict(total), 0.0
        for load in circuit.loads:
            lines, current = lines_of_load(load, supplied), self.reckoned_a(load, supplied)
            for line in lines:
                total[line] += current
                heating[line] += current * duty_share(load)
                if len(lines) == 1:
                    to_neutral[line] += current
            largest_start = max(largest_start, current * ((load.starting_multiple or 1.0) - 1.0))
        return CircuitDemand(
            current_a=max(total.values()),
            by_line=total,
            to_neutral=to_neutral,
            heating_a=max(heating.values()),
            starting_a=max(total.values()) + largest_start,
            source=self._points,
            steps=partial(self._steps, circuit, supplied, total),
        )

    def _alike(self, circuit: Circuit, current: float, supplied: CircuitSupply, source: Source | None) -> CircuitDemand:
        by_line = dict.fromkeys(supplied.lines, current)
        alone = by_line if len(supplied.lines) == 1 else {}
        return CircuitDemand(
            current_a=current,
            by_line=by_line,
            to_neutral=alone,
            heating_a=current,
            starting_a=current,
            source=source,
            steps=partial(self._given, circuit, current),
        )

    def reckoned_a(self, load: Load, supplied: CircuitSupply) -> float:
        """Current of a load in each of its lines [A], cooking appliances after the standard's table of them."""
        current = load_current_a(load, supplied)
        if load.kind != "cooker":
            return current
        if self._cooking is not None:
            first, rest, extra = self._cooking_row(load.with_socket)
            return min(current, first) + rest * max(0.0, current - first) + extra
        if self._assessed is not None and load.power_w is not None and len(lines_of_load(load, supplied)) == 1:
            return self._assessed_a(load)
        if self._ranges is not None:
            volts = driving_v(len(lines_of_load(load, supplied)), supplied.phases, supplied.nominal_v)
            return range_demand_va(self._ranges, [volt_amperes(load) / load.items] * load.items) / volts
        return current

    def _assessed_a(self, load: Load) -> float:
        assert self._assessed is not None and load.power_w is not None
        watts = load.power_w * load.items
        for over, upto, amps in self._assessed.rows:
            if float(over) < watts <= float(upto):
                return float(amps)
        raise NotTabulated(
            message(
                None,
                "core.rules.demand.need.table",
                load=load.name,
                w=Shown(f"{watts:g}"),
                table=self._assessed.id,
                most=Shown(f"{float(self._assessed.rows[-1][1]):g}"),
            ),
            path="design_current_a",
            ask=message(None, "core.rules.demand.need.table_ask"),
        )

    def _cooking_row(self, with_socket: bool) -> tuple[float, float, float]:
        assert self._cooking is not None
        extra = float(self._cooking["socket_extra_A"]) if with_socket else 0.0
        return float(self._cooking["first_A"]), float(self._cooking["rest_fraction"]), extra

    # ------------------------------------------------------------------------------------------ steps

    def _given(self, circuit: Circuit, current: float) -> list[Step]:
        if circuit.design_current_a is not None:
            return [
                amps(
                    "Ib",
                    message(None, "core.rules.demand.stated"),
                    message(None, "core.rules.demand.stated_formula"),
                    "",
                    current,
                    None,
                )
            ]
        meaning = message(None, "core.rules.demand.socket")
        return [amps("Ib", meaning, "In", f"{current:g} A", current, self._socket_rule)]

    def _steps(self, circuit: Circuit, supplied: CircuitSupply, total: Mapping[Line, float]) -> list[Step]:
        steps = [self._load_step(load, supplied) for load in circuit.loads]
        if len(total) > 1:
            return [*steps, *self._line_steps(circuit, supplied, total)]
        if len(steps) > 1:
            parts = " + ".join(str(step.shown) for step in steps)
            [current] = total.values()
            steps.append(amps("Ib", message(None, "core.rules.demand.all"), "ΣI", parts, current, self._points))
        return steps

    def _line_steps(self, circuit: Circuit, supplied: CircuitSupply, total: Mapping[Line, float]) -> list[Step]:
        steps = []
        for line, current in total.items():
            parts = [
                shown(self.reckoned_a(load, supplied))
                for load in circuit.loads
                if line in lines_of_load(load, supplied)
            ]
            steps.append(
                amps(
                    "Ib",
                    message(None, "core.rules.demand.on_phase", phase=line),
                    "ΣI",
                    " + ".join(parts) or "0",
                    current,
                    self._points,
                )
            )
        return steps

    def _load_step(self, load: Load, supplied: CircuitSupply) -> Step:
        lines, current = lines_of_load(load, supplied), load_current_a(load, supplied)
        watts = f"{load.items} × {load.power_w:g}" if load.items > 1 else f"{load.power_w:g}"
        factor = f" · {load.power_factor:g}" if load.power_factor not in (None, 1.0) else ""
        between = supplied.nominal_v * (2 if supplied.phases == 2 else 3**0.5)
        volts, symbol = f"{supplied.nominal_v:g} V", "U"
        if len(lines) == 2:
            volts, symbol = f"{between:.4g} V", "U between lines"
        elif len(lines) == 3:
            volts, symbol = f"3 · {supplied.nominal_v:g} V", "3 · U"
        name: Text = load.name
        if len(supplied.lines) > 1:
            name = message(None, "core.rules.demand.on_each", load=load.name, phases=", ".join(lines))
        figures = f"{watts} W / ({volts}{factor})" if factor or len(lines) == 3 else f"{watts} W / {volts}"
        if load.kind == "cooker" and (self._cooking or self._assessed or self._ranges) is not None:
            return self._cooking_step(load, current, figures, name, supplied)
        formula = f"P / ({symbol} · cos φ)" if factor else f"P / ({symbol})" if len(lines) == 3 else f"P / {symbol}"
        return amps("Ib", name, formula, figures, current, None)

    def _cooking_step(self, load: Load, current: float, figures: str, name: Text, supplied: CircuitSupply) -> Step:
        reduced = self.reckoned_a(load, supplied)
        if self._cooking is None:
            table = self._assessed or self._ranges
            assert table is not None
            meaning = message(None, "core.rules.demand.cooking", load=name)
            return amps("Ib", meaning, "table", f"I = {figures} = {shown(current)} A", reduced, table.source)
        first, rest, extra = self._cooking_row(load.with_socket)
        meaning = message(
            None, "core.rules.demand.cooking_first", load=name, a=Shown(f"{first:g}"), percent=Shown(f"{rest:.0%}")
        )
        if extra:
            meaning = message(None, "core.rules.demand.cooking_socket", cooking=meaning, a=Shown(f"{extra:g}"))
        formula = f"min(I, {first:g}) + {rest:g} · (I − {first:g})" + (f" + {extra:g}" if extra else "")
        text = f"I = {figures} = {shown(current)} A; {shown(min(current, first))} + {rest:g} · {shown(max(0.0, current - first))}"
        return amps("Ib", meaning, formula, text + (f" + {extra:g}" if extra else ""), reduced, self._points)


def device_of(circuit: Circuit) -> Device:
    """The circuit's device; NeedsInput while it is left to the design."""
    if is_auto(circuit.device):
        raise NeedsInput(
            Need(
                message(None, "core.rules.demand.need.device.what"),
                "device",
                message(None, "core.rules.demand.need.device.ask"),
            )
        )
    return circuit.device


def amps(symbol: str, meaning: Text, formula: Text, figures: Text, result: float, source: Source | None) -> Step:
    """A line of a calculation whose result is a current [A]."""
    return Step(
        symbol=symbol,
        meaning=meaning,
        formula=formula,
        figures=figures,
        result=result,
        unit="A",
        shown=shown(result),
        source=source,
    )


def on_line(text: Text, line: str) -> Text:
    """A text with the line it is on; as it is where there is one line alone (``line`` empty)."""
    return message(None, "core.rules.demand.at", text=text, phase=line) if line else text


def total_meaning(line: str) -> Text:
    """What the total of a demand is called, of a line where there are several."""
    return on_line(message(None, "core.rules.demand.total"), line)


def with_total(steps: Sequence[Step], line: str, total_a: float, source: Source | None) -> list[Step]:
    """The lines of a demand and their total [A].

    line   the line it is on; empty where there is one
    """
    added = " + ".join(str(step.shown) for step in steps) or "0"
    return [*steps, amps("Id", total_meaning(line), "Σ", added, total_a, source)]


def by_lines(
    house: Household,
    source: Source,
    sums: Mapping[Line, float],
    neutral_share: Mapping[Line, float],
    steps: Callable[[], list[Step]],
) -> MaximumDemand:
    """The maximum demand from its lines' sums, with the part of each that comes back through the neutral."""
    worst = max(sums, key=lambda line: sums[line], default=house.lines[0])
    to_neutral = {line: current * neutral_share.get(line, 1.0) for line, current in sums.items()}
    return MaximumDemand(
        current_a=sums.get(worst, 0.0),
        line=worst,
        by_line=dict(sums),
        to_neutral=to_neutral,
        source=source,
        steps=steps,
    )


def neutral_shares(house: Household, currents: Currents) -> dict[Line, float]:
    """Of what each line carries before diversity, the share that single-line loads send back through the neutral."""
    if house.phases == 1:
        return {"L1": 1.0}
    total, alone = dict.fromkeys(house.lines, 0.0), dict.fromkeys(house.lines, 0.0)
    for circuit in house.circuits:
        demand = currents.of(circuit, house.supplied(circuit))
        for line, current in demand.by_line.items():
            total[line] += current
            alone[line] += demand.to_neutral.get(line, 0.0)
    return {line: alone[line] / total[line] if total[line] else 0.0 for line in total}
