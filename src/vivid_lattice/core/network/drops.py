"""Voltage drop from the origin to every far end, stretch by stretch."""

from __future__ import annotations

from dataclasses import dataclass
from math import prod

from vivid_lattice.core.cable.drop import drop_figure_mv, operating_temperature_factor, volt_drop_v
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Source
from vivid_lattice.core.job import RESISTIVE_LOADS, Board, Cable, Circuit, Job, Section
from vivid_lattice.core.network.loops import chosen_cable, section_length_m
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import Demand, RuleSet


@dataclass(frozen=True, slots=True)
class StretchDrop:
    """Voltage drop of one section: its figure, current, counted length and correction."""

    label: str
    mv_per_a_m: float
    current_a: float
    counted_m: float
    correction: float
    correction_note: str
    drop_v: float
    source: Source


class Drops:
    """Voltage drops and design currents of a job's network, worked out once each."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree):
        self._job, self._rules, self._tree = job, rules, tree
        self._currents: dict[str, Demand] = {}
        self._runs: dict[str, tuple[StretchDrop, ...]] = {}
        self._tails: tuple[StretchDrop, ...] | None = None
        self._whole: Demand | None = None
        self._far_ends: dict[str, float] = {}

    def design_current(self, circuit: Circuit) -> Demand:
        """Design current Ib [A]; of a distribution circuit, the diversified demand of what it feeds."""
        if circuit.id not in self._currents:
            volts, demand = self._job.supply.nominal_v, self._rules.demand
            behind = self._tree.fed_through(circuit)
            if circuit.kind == "distribution" and circuit.design_current_a is None and behind:
                self._currents[circuit.id] = demand.maximum(behind, volts)
            else:
                self._currents[circuit.id] = demand.circuit_current(circuit, volts)
        return self._currents[circuit.id]

    def whole_demand(self) -> Demand:
        """Maximum demand of the whole job [A]."""
        if self._whole is None:
            self._whole = self._rules.demand.maximum(self._job.circuits, self._job.supply.nominal_v)
        return self._whole

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
            current = self.whole_demand().current_a
        except NeedsInput:
            if cutout is None:
                raise
            current = cutout.rating_a
        if cutout is not None:
            current = min(current, cutout.rating_a)
        cable = Cable(type=self._rules.tails_cable, area_mm2=tails.area_mm2, cpc="separate")
        figure = self._rules.cables.drop_figure(cable, self._rules.default_method)
        drop = volt_drop_v(figure.z, current, tails.length_m)
        return (StretchDrop("tails", figure.z, current, tails.length_m, 1.0, "", drop, figure.source),)

    def run(self, circuit: Circuit) -> tuple[StretchDrop, ...]:
        """Drop of every section of a circuit's own run; a ring counts a quarter of its loop."""
        if circuit.id not in self._runs:
            current = self._drop_current_a(circuit)
            cable = chosen_cable(circuit)
            self._runs[circuit.id] = tuple(self._stretch(circuit, cable, section, current) for section in circuit.run)
        return self._runs[circuit.id]

    def _drop_current_a(self, circuit: Circuit) -> float:
        if circuit.kind == "ring" and circuit.design_current_a is None and not isinstance(circuit.device, str):
            return self._rules.limits.ring(circuit.device).drop_current_a
        return self.design_current(circuit).current_a

    def _stretch(self, circuit: Circuit, cable: Cable, section: Section, current: float) -> StretchDrop:
        figure = self._rules.cables.drop_figure(cable, section.method)
        mv = drop_figure_mv(figure.r, figure.x, figure.z, cable.area_mm2, _power_factor(circuit))
        length = section_length_m(circuit, section)
        counted = length / 4 if circuit.kind == "ring" else length
        correction, note = self._correction(circuit, cable, section, current)
        drop = volt_drop_v(mv * correction, current, counted)
        return StretchDrop(
            f"{circuit.name}, {section.method}", mv, current, counted, correction, note, drop, figure.source
        )

    def _correction(self, circuit: Circuit, cable: Cable, section: Section, current: float) -> tuple[float, str]:
        if not self._job.settings.drop_at_operating_temperature or isinstance(circuit.device, str):
            return 1.0, ""
        refused = self._rules.factors.drop_correction_refused(section, circuit.device)
        if refused:
            return 1.0, f"no correction: {refused}"
        values = {factor.symbol: factor.value for factor in self._rules.factors.factors(section, cable)}
        tabulated = self._rules.cables.capacity_a(cable, section.method).value
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

    def board_v(self, board: Board) -> float:
        """Drop from the origin to a board [V]."""
        feeder = self._tree.feeder(board)
        if feeder is None:
            return sum(part.drop_v for part in self.tails())
        return self.far_end_v(feeder)

    def far_end_v(self, circuit: Circuit) -> float:
        """Drop from the origin to a circuit's far end [V]."""
        if circuit.id not in self._far_ends:
            own = sum(part.drop_v for part in self.run(circuit))
            self._far_ends[circuit.id] = self.board_v(self._tree.place(circuit).board) + own
        return self._far_ends[circuit.id]


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
