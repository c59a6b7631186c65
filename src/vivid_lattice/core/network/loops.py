"""Earth fault loops and prospective currents, from the origin to every far end."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.cable.impedance import conductor_ohm, ring_mid_ohm
from vivid_lattice.core.device.loop import fault_current_a
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.job import Board, Cable, Circuit, Job, Section
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import HotFactors, Looked, RuleSet
from vivid_lattice.core.units import a_from_ka


@dataclass(frozen=True, slots=True)
class RunOhm:
    """Resistance of a circuit's conductors to its far end [Ω], with the figures it was made of."""

    length_m: float
    ring: bool
    line: Looked
    cpc: Looked
    hot: HotFactors
    r1_cold_ohm: float
    r2_cold_ohm: float
    r1_hot_ohm: float
    r2_hot_ohm: float

    @property
    def cold_ohm(self) -> float:
        """R1+R2 at 20 °C: what a meter reads."""
        return self.r1_cold_ohm + self.r2_cold_ohm

    @property
    def hot_ohm(self) -> float:
        """R1+R2 at the temperature assumed under fault."""
        return self.r1_hot_ohm + self.r2_hot_ohm


def chosen_cable(circuit: Circuit) -> Cable:
    """The circuit's cable; NeedsInput while it is left to the design."""
    if isinstance(circuit.cable, str):
        raise NeedsInput(Need(f"a cable for {circuit.name}", "cable", "Choose one, or let the design choose."))
    return circuit.cable


def section_length_m(circuit: Circuit, section: Section) -> float:
    """Length of a section; NeedsInput while it is not known."""
    if section.length_m is None:
        raise NeedsInput(
            Need(f"length of {circuit.name}", "run.length_m", "Measure the route, drops and slack included.")
        )
    return section.length_m


def run_length_m(circuit: Circuit) -> float:
    """Length of the whole run [m]; of a ring, once round."""
    return sum(section_length_m(circuit, section) for section in circuit.run)


class Loops:
    """Impedances of a job's network, worked out once each."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree):
        self._job, self._rules, self._tree = job, rules, tree
        self._runs: dict[str, RunOhm] = {}
        self._boards: dict[str, float] = {}
        self._far_ends: dict[str, float] = {}
        self._faults: dict[str, float] = {}

    def run(self, circuit: Circuit) -> RunOhm:
        """Resistances of a circuit to its far end; of a ring, to the middle of the loop."""
        if circuit.id not in self._runs:
            self._runs[circuit.id] = self._run(circuit)
        return self._runs[circuit.id]

    def _run(self, circuit: Circuit) -> RunOhm:
        cable, length = chosen_cable(circuit), run_length_m(circuit)
        line, cpc = self._rules.cables.line_mohm_per_m(cable), self._rules.cables.cpc_mohm_per_m(cable)
        hot, ring = self._rules.cables.hot_factors(cable), circuit.kind == "ring"

        r1, r2 = conductor_ohm(line.value, length), conductor_ohm(cpc.value, length)
        if ring:
            r1, r2 = ring_mid_ohm(r1), ring_mid_ohm(r2)
        return RunOhm(length, ring, line, cpc, hot, r1, r2, r1 * hot.line, r2 * hot.cpc)

    def ze_ohm(self) -> float:
        """External loop; NeedsInput while it is not known."""
        if self._job.supply.ze_ohm is None:
            declared = self._rules.declared_ze_ohm.get(self._job.supply.system)
            ask = "Measure it at the incoming terminals, or ask the distributor"
            ask += (
                f"; {declared:g} Ω is the figure usually declared for {self._job.supply.system}." if declared else "."
            )
            raise NeedsInput(Need("Ze, the external earth fault loop", "supply.ze_ohm", ask))
        return self._job.supply.ze_ohm

    def board_ohm(self, board: Board) -> float:
        """Earth fault loop at a board, conductors warm [Ω]."""
        if board.id not in self._boards:
            feeder = self._tree.feeder(board)
            self._boards[board.id] = self.far_end_ohm(feeder) if feeder else self.ze_ohm()
        return self._boards[board.id]

    def far_end_ohm(self, circuit: Circuit) -> float:
        """Zs: earth fault loop at a circuit's far end, conductors warm [Ω]."""
        if circuit.id not in self._far_ends:
            ahead = self.board_ohm(self._tree.place(circuit).board)
            self._far_ends[circuit.id] = ahead + self.run(circuit).hot_ohm
        return self._far_ends[circuit.id]

    def earth_fault_a(self, circuit: Circuit) -> float:
        """Earth fault current at the far end, conductors warm [A]."""
        return fault_current_a(self._job.supply.nominal_v, self.far_end_ohm(circuit))

    def origin_fault_a(self) -> float:
        """Largest prospective current at the origin [A]: as stated, and never less than Ze itself would let flow."""
        supply = self._job.supply
        if supply.fault_current_ka is None:
            raise NeedsInput(
                Need(
                    "the prospective fault current at the origin",
                    "supply.fault_current_ka",
                    "Measure line to neutral and line to earth and take the larger, or ask the distributor.",
                )
            )
        by_ze = fault_current_a(supply.nominal_v, supply.ze_ohm) if supply.ze_ohm is not None else 0.0
        return max(a_from_ka(supply.fault_current_ka), by_ze)

    def board_fault_a(self, board: Board) -> float:
        """Largest prospective current at a board [A]: line to neutral, conductors cold."""
        if board.id not in self._faults:
            self._faults[board.id] = self._board_fault_a(board)
        return self._faults[board.id]

    def _board_fault_a(self, board: Board) -> float:
        feeder = self._tree.feeder(board)
        if feeder is None:
            return self.origin_fault_a()
        ahead_ohm = self._job.supply.nominal_v / self.origin_fault_a()
        while feeder is not None:
            ahead_ohm += 2 * self.run(feeder).r1_cold_ohm
            feeder = self._tree.feeder(self._tree.place(feeder).board)
        return fault_current_a(self._job.supply.nominal_v, ahead_ohm)
