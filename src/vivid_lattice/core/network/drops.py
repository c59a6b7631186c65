"""Voltage drop from the origin to every far end, stretch by stretch and line by line."""

from __future__ import annotations

from cmath import exp
from collections.abc import Mapping
from dataclasses import dataclass
from math import acos, pi, prod, sqrt

from vivid_lattice.core.cable.drop import drop_figure_mv, operating_temperature_factor, volt_drop_v
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Source
from vivid_lattice.core.job import RESISTIVE_LOADS, Board, Cable, Circuit, Job, Line, Section
from vivid_lattice.core.loads import LINE_ANGLES_DEG
from vivid_lattice.core.network.loops import chosen_cable, section_length_m
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import Demand, DropFigure, MaximumDemand, RuleSet


@dataclass(frozen=True, slots=True)
class StretchDrop:
    """Voltage drop of one section, line to neutral: its figure [mV/(A·m)], current, counted length, correction, and what
    each line loses [V]. ``how``: what the figure is and what current it is multiplied by."""

    label: str
    mv_per_a_m: float
    current_a: float
    counted_m: float
    correction: float
    correction_note: str
    by_line: Mapping[Line, float]
    source: Source
    how: str = ""

    @property
    def drop_v(self) -> float:
        """What the worst line loses [V]."""
        return max(self.by_line.values())


@dataclass(frozen=True, slots=True)
class _Flow:
    """Currents along a run: of each line, and what of each comes back through the neutral [A]."""

    by_line: Mapping[Line, float]
    to_neutral: Mapping[Line, float]


class Drops:
    """Voltage drops and design currents of a job's network, worked out once each."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree, like: Drops | None = None):
        """``like``: drops of a job with the same loads and devices, whose currents are shared."""
        self._job, self._rules, self._tree = job, rules, tree
        self._currents: dict[str, Demand] = like._currents if like else {}
        self._maxima: dict[str, MaximumDemand] = like._maxima if like else {}
        self._runs: dict[str, tuple[StretchDrop, ...]] = {}
        self._tails: tuple[StretchDrop, ...] | None = None
        self._far_ends: dict[str, Mapping[Line, float]] = {}

    # ------------------------------------------------------------------------------------------ currents

    def design_current(self, circuit: Circuit) -> Demand:
        """Design current Ib [A]; of a distribution circuit, the diversified demand of what it feeds."""
        found = self._currents.get(circuit.id)
        if found is None:
            behind = self._tree.feeds.get(circuit.id)
            if circuit.kind == "distribution" and circuit.design_current_a is None and behind:
                found = _as_demand(self.board_demand(self._tree.boards[behind]))
            else:
                found = self._rules.demand.circuit_current(circuit, self._tree.supplied(circuit))
            self._currents[circuit.id] = found
        return found

    def board_demand(self, board: Board) -> MaximumDemand:
        """Maximum demand of what a board feeds, boards behind it included [A]."""
        if board.id not in self._maxima:
            direct = [self._tree.circuits[way.circuit] for way in board.ways]
            behind = [below for one in direct for below in (one, *self._tree.fed_through(one))]
            self._maxima[board.id] = self._maximum(behind, whole=False)
        return self._maxima[board.id]

    def whole_demand(self) -> MaximumDemand:
        """Maximum demand of the whole job [A]."""
        if "" not in self._maxima:
            self._maxima[""] = self._maximum(list(self._job.circuits), whole=True)
        return self._maxima[""]

    def _maximum(self, circuits: list[Circuit], *, whole: bool) -> MaximumDemand:
        supply, settings = self._job.supply, self._job.settings
        return self._rules.demand.maximum(
            circuits,
            self._tree.supplied,
            self._job.job,
            supply.phases,
            supply.nominal_v,
            whole=whole,
            method=settings.demand_method,
        )

    # ------------------------------------------------------------------------------------------ stretches

    def tails(self) -> tuple[StretchDrop, ...]:
        """Drop in the tails; none where the first board stands at the origin itself.

        Their current is the maximum demand, or the cut-out's rating where the demand is not known or is larger.
        """
        if self._tails is None:
            self._tails = self._tails_drop()
        return self._tails

    def _tails_drop(self) -> tuple[StretchDrop, ...]:
        tails, cutout = self._job.supply.tails, self._job.supply.cutout
        if tails is None:
            return ()
        try:
            demand = self.whole_demand()
            flow = _Flow(demand.by_line, demand.to_neutral)
        except NeedsInput:
            if cutout is None:
                raise
            lines = tuple(LINE_ANGLES_DEG[self._job.supply.phases])
            rated = dict.fromkeys(lines, cutout.rating_a)
            flow = _Flow(rated, rated if len(lines) == 1 else {})
        if cutout is not None:
            flow = _Flow(
                {line: min(amps, cutout.rating_a) for line, amps in flow.by_line.items()},
                {line: min(amps, cutout.rating_a) for line, amps in flow.to_neutral.items()},
            )
        cable = Cable(type=self._rules.tails_cable, area_mm2=tails.area_mm2, cpc="separate")
        return (self._drop("tails", cable, self._rules.tails_method, flow, None, tails.length_m, 1.0, ""),)

    def run(self, circuit: Circuit) -> tuple[StretchDrop, ...]:
        """Drop of every section of a circuit's own run; a ring counts a quarter of its loop."""
        found = self._runs.get(circuit.id)
        if found is None:
            flow, cable = self._flow(circuit), chosen_cable(circuit)
            stretches = [self._stretch(circuit, cable, section, flow) for section in circuit.run]
            found = self._runs[circuit.id] = (*stretches, *self._spur(circuit, cable, flow))
        return found

    def _flow(self, circuit: Circuit) -> _Flow:
        device = None if isinstance(circuit.device, str) else circuit.device
        stated = circuit.design_current_a is not None
        if circuit.kind == "ring" and not stated and device is not None:
            [line] = self._tree.supplied(circuit).lines
            current = self._rules.limits.ring(device).drop_current_a
            return _Flow({line: current}, {line: current})
        demand = self.design_current(circuit)
        by_device = self._rules.limits.drop_limit(circuit).by_device
        if by_device and not stated and circuit.kind != "distribution":
            if device is None:
                raise NeedsInput(
                    Need(
                        f"a protective device for {circuit.name}",
                        "device",
                        "Voltage drop is reckoned with its rating here: choose one, or let the design choose.",
                    )
                )
            by_line = dict.fromkeys(demand.by_line, max(device.rating_a, demand.current_a))
            return _Flow(by_line, by_line if len(by_line) == 1 else {})
        return _Flow(demand.by_line, demand.to_neutral)

    def _stretch(self, circuit: Circuit, cable: Cable, section: Section, flow: _Flow) -> StretchDrop:
        length = section_length_m(circuit, section)
        counted = length / 4 if circuit.kind == "ring" else length / 2 if circuit.spread else length
        correction, note = self._correction(circuit, cable, section, max(flow.by_line.values()))
        label = f"{circuit.name}, {section.method}" + (
            ", loads spread along it: half its length" if circuit.spread else ""
        )
        return self._drop(label, cable, section.method, flow, _power_factor(circuit), counted, correction, note)

    def _spur(self, circuit: Circuit, cable: Cable, flow: _Flow) -> tuple[StretchDrop, ...]:
        """Drop of the longest spur, for its fuse's current, or for what one outlet may take of the circuit."""
        found = []
        for spur in circuit.spurs:
            current = min(spur.fuse_a or _ONE_OUTLET_A, max(flow.by_line.values()))
            line = next(iter(flow.by_line))
            own = cable.model_copy(update={"area_mm2": spur.area_mm2})
            carried = _Flow({line: current}, {line: current})
            found.append(
                self._drop(f"spur to {spur.name}", own, circuit.run[-1].method, carried, None, spur.length_m, 1.0, "")
            )
        return (max(found, key=lambda part: part.drop_v),) if found else ()

    def _drop(
        self,
        label: str,
        cable: Cable,
        method: str,
        flow: _Flow,
        power_factor: float | None,
        counted_m: float,
        correction: float,
        note: str,
    ) -> StretchDrop:
        current = max(flow.by_line.values())
        if len(flow.by_line) == 1:
            figure = self._rules.cables.drop_figure(cable, method)
            mv = _figure(figure, power_factor)
            lost = volt_drop_v(mv * correction, current, counted_m)
            by_line: dict[Line, float] = dict.fromkeys(flow.by_line, lost)
            return StretchDrop(label, mv, current, counted_m, correction, note, by_line, figure.source)
        if not any(flow.to_neutral.values()):
            return self._balanced(label, cable, method, flow, power_factor, counted_m, correction, note)
        return self._unbalanced(label, cable, method, flow, power_factor, counted_m, correction, note)

    def _balanced(
        self,
        label: str,
        cable: Cable,
        method: str,
        flow: _Flow,
        power_factor: float | None,
        counted_m: float,
        correction: float,
        note: str,
    ) -> StretchDrop:
        """Lines that need no neutral: each loses what one conductor of it loses."""
        three = len(flow.by_line) == 3
        figure = self._rules.cables.drop_figure(cable, method, 3 if three else 2)
        mv = _figure(figure, power_factor) / (sqrt(3.0) if three else 2.0)
        by_line = {line: volt_drop_v(mv * correction, amps, counted_m) for line, amps in flow.by_line.items()}
        how = "balanced: the figure between lines / √3" if three else "between two lines: half the figure of both"
        return StretchDrop(
            label, mv, max(flow.by_line.values()), counted_m, correction, note, by_line, figure.source, how
        )

    def _unbalanced(
        self,
        label: str,
        cable: Cable,
        method: str,
        flow: _Flow,
        power_factor: float | None,
        counted_m: float,
        correction: float,
        note: str,
    ) -> StretchDrop:
        """Line and neutral apart: a line loses its own drop, and what the others' return current adds to it or takes off."""
        figure = self._rules.cables.drop_figure(cable, method)
        r, x, lag = figure.r / 2, figure.x / 2, acos(power_factor) if power_factor is not None else 0.0
        z = complex(figure.z / 2, 0.0) if power_factor is None or figure.any_power_factor else complex(r, x)
        angles = LINE_ANGLES_DEG[self._job.supply.phases]
        turn = 1.0 if power_factor is None or figure.any_power_factor else exp(-1j * lag)
        by_line: dict[Line, float] = {}
        for line, amps in flow.by_line.items():
            back = sum(
                other * exp(1j * pi / 180 * (angles[name] - angles[line])) for name, other in flow.to_neutral.items()
            )
            lost = (z * turn * (amps + back)).real
            by_line[line] = max(0.0, lost * correction * counted_m / 1000)
        how = "half the figure of both conductors, for the line and for what comes back through the neutral"
        return StretchDrop(
            label, abs(z), max(flow.by_line.values()), counted_m, correction, note, by_line, figure.source, how
        )

    def _correction(self, circuit: Circuit, cable: Cable, section: Section, current: float) -> tuple[float, str]:
        if not self._job.settings.drop_at_operating_temperature or isinstance(circuit.device, str):
            return 1.0, ""
        refused = self._rules.factors.drop_correction_refused(section, circuit.device)
        if refused:
            return 1.0, f"no correction: {refused}"
        loaded = self._tree.loaded(circuit)
        values = {factor.symbol: factor.value for factor in self._rules.factors.factors(section, cable, loaded)}
        tabulated = self._rules.cables.capacity_a(cable, section.method, loaded).value
        # Insulation round the cable warms it as its company does, so it counts with the grouping.
        together = prod(value for symbol, value in values.items() if symbol != "Ca")
        factor = operating_temperature_factor(
            self._rules.cables.kind(cable.type).operating_c,
            self._rules.factors.base_ambient_c(section),
            values.get("Ca", 1.0),
            together,
            current,
            tabulated,
        )
        return factor, "corrected for a cooler conductor"

    # ------------------------------------------------------------------------------------------ sums

    def board_lines_v(self, board: Board) -> Mapping[Line, float]:
        """Drop from the origin to a board, of each of its lines [V]."""
        feeder = self._tree.feeder(board)
        if feeder is not None:
            return self.far_end_lines_v(feeder)
        tails = self.tails()
        return {
            line: sum(part.by_line.get(line, part.drop_v) for part in tails) for line in self._tree.board_lines(board)
        }

    def far_end_lines_v(self, circuit: Circuit) -> Mapping[Line, float]:
        """Drop from the origin to a circuit's far end, of each of its lines [V]."""
        found = self._far_ends.get(circuit.id)
        if found is None:
            ahead, parts = self.board_lines_v(self._tree.place(circuit).board), self.run(circuit)
            lines = self._tree.supplied(circuit).lines
            found = self._far_ends[circuit.id] = {
                line: ahead[line] + sum(part.by_line.get(line, 0.0) for part in parts) for line in lines
            }
        return found

    def worst_line(self, circuit: Circuit) -> Line:
        """The line of a circuit that loses most on the way."""
        held = self.far_end_lines_v(circuit)
        return max(held, key=lambda line: held[line])

    def board_v(self, board: Board) -> float:
        """Drop from the origin to a board, of its worst line [V]."""
        return max(self.board_lines_v(board).values())

    def far_end_v(self, circuit: Circuit) -> float:
        """Drop from the origin to a circuit's far end, of its worst line [V]."""
        return max(self.far_end_lines_v(circuit).values())


#: Taken by an unfused spur: one double outlet. On-site guidance, common practice.
_ONE_OUTLET_A = 20.0


def _as_demand(found: MaximumDemand) -> Demand:
    current = found.current_a
    return Demand(current, found.by_line, found.to_neutral, current, current, found.source, found.steps)


def _figure(figure: DropFigure, power_factor: float | None) -> float:
    if figure.any_power_factor:
        return figure.z
    return drop_figure_mv(figure.r, figure.x, figure.z, power_factor)


def _power_factor(circuit: Circuit) -> float | None:
    """The power factor the drop is reckoned with: the largest among the loads, since it drops most; None: unknown."""
    if circuit.kind in ("ring", "radial", "distribution") or not circuit.loads:
        return None
    found = [
        1.0 if load.power_factor is None and load.kind in RESISTIVE_LOADS else load.power_factor
        for load in circuit.loads
    ]
    known = [factor for factor in found if factor is not None]
    return max(known) if len(known) == len(found) else None
