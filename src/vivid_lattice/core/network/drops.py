"""Voltage drop from the origin to the end of every circuit, stretch by stretch and line by line."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import partial
from itertools import takewhile
from math import prod

from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.energy_source import CHARGING, EnergySource
from vivid_lattice.core.document.feeds import loads_of
from vivid_lattice.core.document.job import RESISTIVE_LOADS, Board, Cable, Circuit, Job, Line, Load, Section
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.formulas.cable.drop import operating_temperature_factor
from vivid_lattice.core.formulas.load_currents import (
    LINE_ANGLES_DEG,
    CircuitSupply,
    driving_v,
    lines_of_load,
    load_current_a,
)
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.loops import chosen_cable, section_length_m, spur_length_m
from vivid_lattice.core.network.source_output import rated_output_a
from vivid_lattice.core.network.stretch import Flow, InstalledSection, StretchDrop, stretch_drop
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protocol import CircuitDemand, MaximumDemand, RuleSet
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import SLACK


class Drops:
    """Voltage drops and design currents of a job's network, worked out once each."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree, like: Drops | None = None):
        """``like``: drops of a job with the same loads and devices, whose currents are shared."""
        self._job, self._rules, self._tree = job, rules, tree
        self._currents: dict[str, CircuitDemand] = like._currents if like else {}
        self._maxima: dict[str, MaximumDemand] = like._maxima if like else {}
        self._runs: dict[str, tuple[StretchDrop, ...]] = {}
        self._tails: tuple[StretchDrop, ...] | None = None
        self._far_ends: dict[str, Mapping[Line, float]] = {}

    # ------------------------------------------------------------------------------------------ currents

    def design_current(self, circuit: Circuit) -> CircuitDemand:
        """Design current Ib [A]; of a distribution circuit, the diversified demand of what it feeds."""
        demand = self._currents.get(circuit.id)
        if demand is None:
            behind = self._tree.feeds.get(circuit.id)
            if circuit.kind == "distribution" and circuit.design_current_a is None and behind:
                demand = self._of_feeder(self._tree.boards[behind])
            elif circuit.source is not None and circuit.design_current_a is None:
                demand = self._of_source(circuit, circuit.source)
            else:
                demand = self._rules.demand.circuit_current(circuit, self._tree.supplied(circuit))
            self._currents[circuit.id] = demand
        return demand

    def _of_feeder(self, board: Board) -> CircuitDemand:
        """What a board draws, or what the sources behind it feed back where that is more. NeedsInput while nothing is in it."""
        if not board.ways:
            raise NeedsInput(
                Need(
                    message(self._rules.words, "core.network.need.board_load.what", board=board.name),
                    "circuits",
                    message(self._rules.words, "core.network.need.board_load.ask"),
                )
            )
        demand = _as_demand(self.board_demand(board))
        fed_back_a = max(self.generated_a(board).values(), default=0.0)
        return demand if fed_back_a <= demand.current_a else _alike(demand, fed_back_a)

    def _of_source(self, circuit: Circuit, source: EnergySource) -> CircuitDemand:
        """The output of a source, in each of its lines; the loads of its circuit too, where it has any."""
        own = or_none(lambda: self._rules.demand.circuit_current(circuit, self._tree.supplied(circuit)))
        output = _in_lines(
            self._tree.supplied(circuit).lines, rated_output_a(circuit, source, self._rules), self._rules
        )
        return output if own is None or own.current_a <= output.current_a else own

    def generated_a(self, board: Board) -> Mapping[Line, float]:
        """What the sources of a board and of those behind it can feed, of each line [A]. NeedsInput while one is not known."""
        return self.output_a(self._tree.fed_by_board(board))

    def output_a(self, circuits: Iterable[Circuit]) -> Mapping[Line, float]:
        """What the sources of some circuits can feed, of each line [A]. NeedsInput while one is not known."""
        total: dict[Line, float] = {}
        for circuit in circuits:
            if circuit.source is not None:
                for line in self._tree.supplied(circuit).lines:
                    total[line] = total.get(line, 0.0) + rated_output_a(circuit, circuit.source, self._rules)
        return total

    def board_demand(self, board: Board) -> MaximumDemand:
        """Maximum demand of what a board feeds, boards behind it included [A]. What is managed or kept off while the rest of the job draws
        most runs at another time, and the feeder of its board carries it then: it counts for a board that a way feeds."""
        if board.id not in self._maxima:
            behind = [
                circuit
                for circuit in self._tree.fed_by_board(board)
                if circuit.kind != "distribution" or circuit.id not in self._tree.feeds
            ]
            self._maxima[board.id] = self._maximum(behind, whole=False, at_peak=is_origin(board.fed_by))
        return self._maxima[board.id]

    def standby_demand(self, board: Board) -> MaximumDemand:
        """Maximum demand of what a standby supply feeds: a board and those behind it, without what charges from the supply [A]."""
        key = f"standby {board.id}"
        if key not in self._maxima:
            behind = [
                circuit
                for circuit in self._tree.fed_by_board(board)
                if circuit.source is None and (circuit.kind != "distribution" or circuit.id not in self._tree.feeds)
            ]
            self._maxima[key] = self._maximum(behind, whole=False, at_peak=False)
        return self._maxima[key]

    def whole_demand(self, method: str | None = None) -> MaximumDemand:
        """Maximum demand of the whole job [A]; by the job's method unless another is named."""
        key = f"method {method or ''}"
        if key not in self._maxima:
            feeding = self._tree.feeds.keys()
            final = [
                circuit for circuit in self._job.circuits if circuit.kind != "distribution" or circuit.id not in feeding
            ]
            self._maxima[key] = self._maximum(final, whole=True, at_peak=True, method=method)
        return self._maxima[key]

    def _maximum(
        self, circuits: list[Circuit], *, whole: bool, at_peak: bool, method: str | None = None
    ) -> MaximumDemand:
        supply, settings = self._job.supply, self._job.settings
        drawing = [self._charging(circuit) if circuit.source is not None else circuit for circuit in circuits]
        return self._rules.demand.maximum(
            [circuit for circuit in drawing if circuit is not None],
            self._tree.supplied,
            self._job.job,
            supply.phases,
            supply.nominal_v,
            whole=whole,
            at_peak=at_peak,
            method=method or settings.demand_method,
        )

    def _charging(self, circuit: Circuit) -> Circuit | None:
        """What a circuit with a source draws: its own loads, and the charging of a battery or vehicle, as much as it can feed. None where
        it draws nothing."""
        source = circuit.source
        assert source is not None
        if source.kind not in CHARGING:
            return circuit if circuit.loads else None
        supplied = self._tree.supplied(circuit)
        power_w = rated_output_a(circuit, source, self._rules) * driving_v(
            len(supplied.lines), supplied.phases, supplied.nominal_v
        )
        charging = Load(
            name=circuit.name, kind="charger", power_w=power_w, power_factor=1.0, at_peak=source.charging_at_peak
        )
        return circuit.model_copy(update={"loads": (*circuit.loads, charging), "source": None})

    # ------------------------------------------------------------------------------------------ stretches

    def tails(self) -> tuple[StretchDrop, ...]:
        """Drop in the tails; none where the first board is at the origin itself.

        Their current is the maximum demand, or the cut-out's rating where the demand is not known or is larger.
        """
        if self._tails is None:
            self._tails = self._tails_drop()
        return self._tails

    def _tails_drop(self) -> tuple[StretchDrop, ...]:
        tails, cutout = self._job.supply.tails, self._job.supply.cutout
        if tails is None:
            return ()
        if tails.length_m is None:
            raise NeedsInput(
                Need(
                    message(self._rules.words, "core.network.need.tails.what"),
                    "supply.tails.length_m",
                    message(self._rules.words, "core.network.need.tails.ask"),
                )
            )
        try:
            demand = self.whole_demand()
            flow = Flow(demand.by_line, demand.to_neutral)
        except NeedsInput:
            if cutout is None:
                raise
            flow = Flow.alike(tuple(LINE_ANGLES_DEG[self._job.supply.phases]), cutout.rating_a)
        if cutout is not None:
            flow = Flow(
                {line: min(amps, cutout.rating_a) for line, amps in flow.by_line.items()},
                {line: min(amps, cutout.rating_a) for line, amps in flow.to_neutral.items()},
            )
        cable = Cable(type=self._rules.tails_cable, area_mm2=tails.area_mm2, cpc="separate")
        return (
            self._drop(
                InstalledSection(label="tails", cable=cable, method=self._rules.tails_method, counted_m=tails.length_m),
                flow,
            ),
        )

    def _drop(self, laid: InstalledSection, flow: Flow) -> StretchDrop:
        return stretch_drop(laid, flow, self._rules.cables, self._job.supply.phases)

    def run(self, circuit: Circuit) -> tuple[StretchDrop, ...]:
        """Drop of every section of a circuit's own run; a ring counts a quarter of its loop."""
        stretch_drops = self._runs.get(circuit.id)
        if stretch_drops is None:
            flow, cable = self._flow(circuit), chosen_cable(circuit)
            stretches = [self._stretch(circuit, cable, section, flow) for section in circuit.run]
            stretch_drops = self._runs[circuit.id] = (*stretches, *self._spur(circuit, cable, flow))
        return stretch_drops

    def _flow(self, circuit: Circuit) -> Flow:
        device = None if is_auto(circuit.device) else circuit.device
        stated = circuit.design_current_a is not None
        if circuit.kind == "ring" and not stated and device is not None:
            return Flow.alike(self._tree.supplied(circuit).lines, self._rules.limits.ring(device).drop_current_a)
        demand = self.design_current(circuit)
        by_device = self._rules.limits.drop_limit(circuit).by_device
        if by_device and not stated and circuit.kind != "distribution":
            if device is None:
                raise NeedsInput(
                    Need(
                        message(self._rules.words, "core.need.device.what", circuit=circuit.name),
                        "device",
                        message(self._rules.words, "core.network.need.drop_device.ask"),
                    )
                )
            return Flow.alike(tuple(demand.by_line), max(device.rating_a, demand.current_a))
        return Flow(demand.by_line, demand.to_neutral)

    def _stretch(self, circuit: Circuit, cable: Cable, section: Section, flow: Flow) -> StretchDrop:
        length = section_length_m(circuit, section)
        counted = length / 4 if circuit.kind == "ring" else self._counted_m(circuit, section, length)
        correction, note = self._correction(circuit, cable, section, flow.largest_a)
        label = message(None, "core.network.drop.section", circuit=circuit.name, method=section.method)
        if circuit.kind != "ring" and counted < length * (1 - SLACK):
            label = message(
                None,
                "core.network.drop.loads_along",
                section=label,
                m=Shown(f"{counted:.3g}"),
                length=Shown(f"{length:g}"),
            )
        laid = InstalledSection(
            label=label,
            cable=cable,
            method=section.method,
            counted_m=counted,
            power_factor=_power_factor(circuit),
            correction=correction,
            correction_note=note,
        )
        return self._drop(laid, flow)

    def _counted_m(self, circuit: Circuit, section: Section, length_m: float) -> float:
        """Length of a section that counts for the whole current: Σ I·l of the loads downstream of each place, over Σ I.

        The worst phase decides. Sections count in the order of the run.
        """
        if circuit.kind == "distribution" or not (
            circuit.distributed_load or any(load.along_m is not None for load in circuit.loads)
        ):
            return length_m
        before = _start_m(circuit, section)
        total = sum(section_length_m(circuit, section) for section in circuit.run)
        shares = []
        for line in self._tree.supplied(circuit).lines:
            points = self._points_along(circuit, line, total)
            weight = sum(amps for amps, _ in points)
            if weight:
                moment = sum(amps * min(max(at - before, 0.0), length_m) for amps, at in points)
                shares.append(moment / weight)
        return max(shares, default=length_m)

    def _points_along(self, circuit: Circuit, line: Line, total_m: float) -> list[tuple[float, float]]:
        """Loads of a phase as currents [A] and positions [m]: as stated, at equal distances, or at the end.

        Loads whose current is not known (socket-outlets) count by their number, each the same.
        """
        supplied = self._tree.supplied(circuit)
        loads = [load for load in loads_of(circuit) if line in lines_of_load(load, supplied)]
        points: list[tuple[float, float]] = []
        for load, each in zip(loads, _amps_each(loads, supplied), strict=True):
            number = load.items
            if load.along_m is not None:
                points.append((each * number, min(load.along_m, total_m)))
            elif circuit.distributed_load and load.count is not None:
                points += [(each, total_m * (at + 1) / number) for at in range(number)]
            else:
                points.append((each * number, total_m))
        return points

    def _spur(self, circuit: Circuit, cable: Cable, flow: Flow) -> tuple[StretchDrop, ...]:
        """Drop of the longest spur, for its fuse's current, or for what one outlet may take of the circuit."""
        drops, lines = [], tuple(flow.by_line)
        for spur in circuit.spurs:
            current = min(spur.fuse_a or _ONE_OUTLET_A, flow.largest_a)
            spur_cable = cable.model_copy(update={"area_mm2": spur.area_mm2})
            laid = InstalledSection(
                label=message(None, "core.network.drop.spur", spur=spur.name),
                cable=spur_cable,
                method=circuit.run[-1].method,
                counted_m=spur_length_m(spur),
            )
            drop = self._drop(laid, Flow.alike(lines[:1], current))
            # No one says which of several lines it is connected to, so it may be the worst.
            drops.append(replace(drop, by_line=dict.fromkeys(lines, drop.drop_v)))
        return (max(drops, key=lambda part: part.drop_v),) if drops else ()

    def _correction(self, circuit: Circuit, cable: Cable, section: Section, current: float) -> tuple[float, Text]:
        if not self._job.settings.drop_at_operating_temperature or is_auto(circuit.device):
            return 1.0, ""
        refused = self._rules.factors.drop_correction_refused(section, circuit.device)
        if refused:
            return 1.0, message(None, "core.network.drop.no_correction", reason=refused)
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
        return factor, message(None, "core.network.drop.corrected")

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
        """Drop from the origin to a circuit's end, of each of its lines [V]."""
        volts_by_line = self._far_ends.get(circuit.id)
        if volts_by_line is None:
            ahead, parts = self.board_lines_v(self._tree.place(circuit).board), self.run(circuit)
            lines = self._tree.supplied(circuit).lines
            volts_by_line = self._far_ends[circuit.id] = {
                line: ahead[line] + sum(part.by_line.get(line, 0.0) for part in parts) for line in lines
            }
        return volts_by_line

    def worst_line(self, circuit: Circuit) -> Line:
        """The line of a circuit that loses most on the way."""
        volts_by_line = self.far_end_lines_v(circuit)
        return max(volts_by_line, key=lambda line: volts_by_line[line])

    def board_v(self, board: Board) -> float:
        """Drop from the origin to a board, of its worst line [V]."""
        return max(self.board_lines_v(board).values())

    def far_end_v(self, circuit: Circuit) -> float:
        """Drop from the origin to a circuit's end, of its worst line [V]."""
        return max(self.far_end_lines_v(circuit).values())


#: Taken by an unfused spur: one double outlet. On-site guidance, common practice.
_ONE_OUTLET_A = 20.0


def _in_lines(lines: Sequence[Line], current_a: float, rules: RuleSet) -> CircuitDemand:
    """The same current in each line [A]; in the neutral too where there is one line."""
    by_line = dict.fromkeys(lines, current_a)
    return CircuitDemand(
        current_a=current_a,
        by_line=by_line,
        to_neutral=by_line if len(lines) == 1 else {},
        heating_a=current_a,
        starting_a=current_a,
        source=rules.rule("overload"),
        steps=list,
    )


def _alike(demand: CircuitDemand, current_a: float) -> CircuitDemand:
    """A demand with a larger current in each of its lines [A]."""
    by_line = dict.fromkeys(demand.by_line, current_a)
    return replace(demand, current_a=current_a, by_line=by_line, heating_a=current_a, starting_a=current_a)


def _as_demand(maximum_demand: MaximumDemand) -> CircuitDemand:
    current = maximum_demand.current_a
    return CircuitDemand(
        current_a=current,
        by_line=maximum_demand.by_line,
        to_neutral=maximum_demand.to_neutral,
        heating_a=current,
        starting_a=current,
        source=maximum_demand.source,
        steps=maximum_demand.steps,
    )


def _power_factor(circuit: Circuit) -> float | None:
    """The power factor the drop is calculated with: the largest among the loads, since it drops most; None: unknown."""
    if circuit.kind in ("ring", "radial", "distribution") or not circuit.loads:
        return None
    power_factors = [
        1.0 if load.power_factor is None and load.kind in RESISTIVE_LOADS else load.power_factor
        for load in circuit.loads
    ]
    or_none = [factor for factor in power_factors if factor is not None]
    return max(or_none) if len(or_none) == len(power_factors) else None


def _start_m(circuit: Circuit, section: Section) -> float:
    """Where a section of the run begins, from the board [m]."""
    earlier = takewhile(lambda each: each is not section, circuit.run)
    return sum(section_length_m(circuit, each) for each in earlier)


def _amps_each(loads: Sequence[Load], supplied: CircuitSupply) -> list[float]:
    """What each item of a load draws [A]; 1 for all where one of the loads has no current: sockets count by their number."""
    currents = [or_none(partial(load_current_a, load, supplied)) for load in loads]
    known = [amps for amps in currents if amps is not None]
    if len(known) < len(loads):
        return [1.0] * len(loads)
    return [amps / load.items for amps, load in zip(known, loads, strict=True)]
