"""Earth fault loops and prospective currents, from the origin to the end of every circuit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Cable, Circuit, Job, Section, Spur
from vivid_lattice.core.document.local_earthing import links_neutral, own_electrode_alone
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.formulas.cable.impedance import conductor_ohm, ring_mid_ohm
from vivid_lattice.core.formulas.device.loop import fault_current_a
from vivid_lattice.core.messages import message
from vivid_lattice.core.network.electrode import electrode_ohm
from vivid_lattice.core.network.measured import MeasuredRun
from vivid_lattice.core.network.source_output import rated_output_a
from vivid_lattice.core.network.supply_source import SupplySource
from vivid_lattice.core.network.tree import EarthInUse, Tree
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protocol import HotFactors, RuleSet
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.units import ohm_from_mohm


@dataclass(frozen=True, slots=True)
class SpurOhm:
    """Resistance of a spur's conductors [Ω], by name, cold and warm."""

    name: str
    cold_ohm: float
    hot_ohm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RunOhm:
    """Impedance of a circuit's conductors to its end [Ω], with the figures it was made of: the tables and the length, or a reading where
    it is worse or nothing else is known."""

    length_m: float
    ring: bool
    line: SourcedValue
    cpc: SourcedValue
    hot: HotFactors
    r1_cold_ohm: float
    r2_cold_ohm: float
    r1_hot_ohm: float
    r2_hot_ohm: float
    x_ohm: float
    spur: SpurOhm | None
    measured: MeasuredRun | None = None

    @property
    def cold_ohm(self) -> float:
        """R1+R2 at 20 °C [Ω]: what a meter reads, on the spur if there is one."""
        return self.r1_cold_ohm + self.r2_cold_ohm + (self.spur.cold_ohm if self.spur else 0.0)

    @property
    def hot_ohm(self) -> float:
        """R1+R2 at the temperature assumed under fault [Ω]."""
        return self.r1_hot_ohm + self.r2_hot_ohm + (self.spur.hot_ohm if self.spur else 0.0)

    @property
    def loop(self) -> complex:
        """Line and protective conductor there and back, warm [Ω]."""
        return complex(self.hot_ohm, 2 * self.x_ohm)

    @property
    def line_cold(self) -> complex:
        """One line conductor, cold [Ω]."""
        return complex(self.r1_cold_ohm, self.x_ohm)

    @property
    def line_hot(self) -> complex:
        """One line conductor, warm [Ω]."""
        return complex(self.r1_hot_ohm, self.x_ohm)


@dataclass(frozen=True, slots=True)
class Link:
    """A circuit on the way of an earth fault, and what the current returns in beside it: its protective conductor, its neutral where
    the board it feeds joins neutral and earth, or the ground."""

    circuit: Circuit
    returns_in: Literal["earth", "neutral", "ground"]


def _lines_alone(links: Sequence[Link]) -> tuple[Link, ...]:
    """The same feeders, where the current returns through the ground."""
    return tuple(Link(link.circuit, "ground") for link in links)


@dataclass(frozen=True, slots=True)
class Prospective:
    """Currents at a place [A]: largest between lines (of a single-phase circuit, None), largest from line to neutral."""

    lines_a: float | None
    neutral_a: float

    @property
    def largest_a(self) -> float:
        """The larger of the two [A]."""
        return max(self.lines_a or 0.0, self.neutral_a)


def chosen_cable(circuit: Circuit) -> Cable:
    """The circuit's cable; NeedsInput while it is left to the design."""
    if is_auto(circuit.cable):
        raise NeedsInput(
            Need(
                message(None, "core.network.need.cable.what", circuit=circuit.name),
                "cable",
                message(None, "core.network.need.cable.ask"),
            )
        )
    return circuit.cable


def section_length_m(circuit: Circuit, section: Section) -> float:
    """Length of a section [m]; NeedsInput while it is not known."""
    if section.length_m is None:
        raise NeedsInput(
            Need(
                message(None, "core.network.need.length.what", circuit=circuit.name),
                "run.length_m",
                message(None, "core.network.need.length.ask"),
            )
        )
    return section.length_m


def spur_length_m(spur: Spur) -> float:
    """Length of a spur [m]; NeedsInput while it is not known."""
    if spur.length_m is None:
        raise NeedsInput(
            Need(
                message(None, "core.network.need.spur.what", spur=spur.name),
                "spurs.length_m",
                message(None, "core.network.need.spur.ask"),
            )
        )
    return spur.length_m


def run_length_m(circuit: Circuit) -> float:
    """Length of the whole run [m]; of a ring, once round."""
    return sum(section_length_m(circuit, section) for section in circuit.run)


_NOTHING_READ: Mapping[str, MeasuredRun] = MappingProxyType({})


class Loops:
    """Impedances of a job's network, worked out once each."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree, measured: Mapping[str, MeasuredRun] = _NOTHING_READ):
        self._job, self._rules, self._tree, self._measured = job, rules, tree, measured
        self.ahead = SupplySource(job, rules)
        self._runs: dict[str, RunOhm] = {}
        self._boards: dict[str, complex] = {}
        self._far_ends: dict[str, complex] = {}
        self._faults: dict[str, Prospective] = {}
        self._neutral_loops: dict[str, complex] = {}
        self._cold: dict[str, float] = {}
        self._links: dict[str, tuple[Link, ...]] = {}
        self._ends: dict[str, Prospective] = {}

    def run(self, circuit: Circuit) -> RunOhm:
        """Impedances of a circuit to its end; of a ring, to the middle of the loop."""
        if circuit.id not in self._runs:
            self._runs[circuit.id] = self._run(circuit)
        return self._runs[circuit.id]

    def is_measured(self, circuit: Circuit) -> bool:
        """Whether a reading of a circuit's conductors is known."""
        return circuit.id in self._measured

    def _run(self, circuit: Circuit) -> RunOhm:
        cable, measured = chosen_cable(circuit), self._measured.get(circuit.id)
        try:
            drawn = self._drawn_run(circuit, cable)
        except NeedsInput:
            if measured is None:
                raise
            return self._measured_run(circuit, cable, measured)
        if measured is None or measured.r1_cold_ohm + measured.r2_cold_ohm <= drawn.cold_ohm:
            return drawn
        return self._measured_run(circuit, cable, measured)

    def _measured_run(self, circuit: Circuit, cable: Cable, measured: MeasuredRun) -> RunOhm:
        """A run by what was read at its end, whatever is on the way; its spurs are in the highest reading."""
        cables = self._rules.cables
        hot = cables.hot_factors(cable)
        x = ohm_from_mohm(cables.reactance_mohm_per_m(cable) * measured.length_m)
        return RunOhm(
            length_m=measured.length_m,
            ring=circuit.kind == "ring",
            line=cables.line_mohm_per_m(cable),
            cpc=cables.cpc_mohm_per_m(cable, self._tree.loaded(circuit)),
            hot=hot,
            r1_cold_ohm=measured.r1_cold_ohm,
            r2_cold_ohm=measured.r2_cold_ohm,
            r1_hot_ohm=measured.r1_cold_ohm * hot.line,
            r2_hot_ohm=measured.r2_cold_ohm * hot.cpc,
            x_ohm=ring_mid_ohm(x) if circuit.kind == "ring" else x,
            spur=None,
            measured=measured,
        )

    def _drawn_run(self, circuit: Circuit, cable: Cable) -> RunOhm:
        length, cables = run_length_m(circuit), self._rules.cables
        loaded = self._tree.loaded(circuit)
        line, cpc = cables.line_mohm_per_m(cable), cables.cpc_mohm_per_m(cable, loaded)
        hot, ring = cables.hot_factors(cable), circuit.kind == "ring"
        r1, r2 = conductor_ohm(line.value, length), conductor_ohm(cpc.value, length)
        x = ohm_from_mohm(cables.reactance_mohm_per_m(cable) * length)
        if ring:
            r1, r2, x = ring_mid_ohm(r1), ring_mid_ohm(r2), ring_mid_ohm(x)
        spur = self._worst_spur(circuit, cable, hot)
        return RunOhm(
            length_m=length,
            ring=ring,
            line=line,
            cpc=cpc,
            hot=hot,
            r1_cold_ohm=r1,
            r2_cold_ohm=r2,
            r1_hot_ohm=r1 * hot.line,
            r2_hot_ohm=r2 * hot.cpc,
            x_ohm=x,
            spur=spur,
        )

    def _worst_spur(self, circuit: Circuit, cable: Cable, hot: HotFactors) -> SpurOhm | None:
        """The spur of most resistance, as if it left at the end of the circuit."""
        spurs = []
        for spur in circuit.spurs:
            spur_cable, length = (
                cable.model_copy(update={"area_mm2": spur.area_mm2, "cpc_mm2": None}),
                spur_length_m(spur),
            )
            r1 = conductor_ohm(self._rules.cables.line_mohm_per_m(spur_cable).value, length)
            r2 = conductor_ohm(self._rules.cables.cpc_mohm_per_m(spur_cable).value, length)
            spurs.append(SpurOhm(spur.name, r1 + r2, r1 * hot.line + r2 * hot.cpc))
        return max(spurs, key=lambda spur: spur.hot_ohm, default=None)

    def ze_ohm(self) -> float:
        """External loop [Ω]; NeedsInput while it is not known."""
        return abs(self.ahead.ze)

    def links_to(self, board: Board) -> tuple[Link, ...]:
        """The feeders ahead of a board, from the origin, each with what an earth fault at the board returns in."""
        links = self._links.get(board.id)
        if links is None:
            links = self._links[board.id] = self._links_to(board)
        return links

    def _links_to(self, board: Board) -> tuple[Link, ...]:
        feeder = self._tree.feeder(board)
        if feeder is None:
            return ()
        above = self.links_to(self._tree.place(feeder).board)
        if own_electrode_alone(board.earthing):
            return (*_lines_alone(above), Link(feeder, "ground"))
        return (*above, Link(feeder, "neutral" if links_neutral(board.earthing) else "earth"))

    def links(self, circuit: Circuit) -> tuple[Link, ...]:
        """The circuit and the feeders ahead of it, from the origin, each with what an earth fault at its end returns in."""
        above = self.links_to(self._tree.place(circuit).board)
        if own_electrode_alone(circuit.earthing):
            return (*_lines_alone(above), Link(circuit, "ground"))
        return (*above, Link(circuit, "earth"))

    def _link_loop(self, link: Link) -> complex:
        run = self.run(link.circuit)
        return {"earth": run.loop, "neutral": 2 * run.line_hot, "ground": run.line_hot}[link.returns_in]

    def _link_cold_ohm(self, link: Link) -> float:
        run = self.run(link.circuit)
        return {"earth": run.cold_ohm, "neutral": 2 * run.r1_cold_ohm, "ground": run.r1_cold_ohm}[link.returns_in]

    def ahead_of(self, circuit: Circuit) -> complex:
        """What an earth fault at the end of a circuit has ahead of all feeders, its return through the ground included [Ω]."""
        return self._ahead_of(self._tree.earth_of(circuit))

    def _ahead_of(self, earth: EarthInUse) -> complex:
        """What an earth fault has ahead of the feeders, its return through the ground included [Ω]."""
        if earth.system != "TT" or earth.own is None:
            return self.ahead.ze
        return self._line_ahead() + self.local_electrode_ohm(earth)

    def _line_ahead(self) -> complex:
        """Line conductor ahead of the origin, warm [Ω]: no more than Ze, which has the return in it; in TT, where the electrode is in Ze,
        the line alone."""
        return self.ahead.origin.line_warm if self._job.supply.system == "TT" else self.ahead.ze

    def _board_loop(self, board: Board) -> complex:
        if board.id not in self._boards:
            ahead = self._ahead_of(self._tree.earth_of_board(board))
            self._boards[board.id] = sum((self._link_loop(link) for link in self.links_to(board)), ahead)
        return self._boards[board.id]

    def _far_end_loop(self, circuit: Circuit) -> complex:
        if circuit.id not in self._far_ends:
            if own_electrode_alone(circuit.earthing):
                ahead = self._ahead_of(self._tree.earth_of(circuit))
                loop = sum((self._link_loop(link) for link in self.links(circuit)), ahead)
            else:
                loop = self._board_loop(self._tree.place(circuit).board) + self.run(circuit).loop
            self._far_ends[circuit.id] = loop
        return self._far_ends[circuit.id]

    def local_electrode_ohm(self, earth: EarthInUse) -> float:
        """Resistance of a board's or circuit's own electrode to true earth, as measured, else calculated; with the source's electrode
        where that is stated [Ω]. NeedsInput while it is not known."""
        own, owner = earth.own, earth.owner
        assert own is not None and owner is not None
        source_ohm = (own.electrode.source_ohm or 0.0) if own.electrode is not None else 0.0
        if own.electrode_ohm is not None:
            return own.electrode_ohm + source_ohm
        if own.electrode is not None:
            return electrode_ohm(own.electrode) + source_ohm
        path = "boards.earthing.electrode_ohm" if isinstance(owner, Board) else "earthing.electrode_ohm"
        what = message(self._rules.words, "core.network.need.electrode.what", name=owner.name)
        raise NeedsInput(Need(what, path, message(self._rules.words, "core.network.need.electrode.ask")))

    def standby_electrode_ohm(self, board: Board) -> float:
        """Resistance of the electrode that a board's earth has while its standby supply feeds it [Ω]. NeedsInput while it is not known."""
        standby = board.standby
        if standby is not None and standby.electrode_ohm is not None:
            return standby.electrode_ohm
        need, words = "core.check.standby-supply.need.electrode_ohm", self._rules.words
        what = message(words, f"{need}.what", name=standby.name if standby is not None else board.name)
        raise NeedsInput(Need(what, "boards.standby.electrode_ohm", message(words, f"{need}.ask")))

    def earth_ohm(self, earth: EarthInUse) -> float:
        """What the path to the ground has in TT [Ω]: of the supply, Ze; of an electrode of its own, that. NeedsInput while not known."""
        return self.ze_ohm() if earth.own is None else self.local_electrode_ohm(earth)

    def board_ohm(self, board: Board) -> float:
        """Earth fault loop at a board, conductors warm [Ω]."""
        return abs(self._board_loop(board))

    def far_end_ohm(self, circuit: Circuit) -> float:
        """Zs: earth fault loop at a circuit's end, conductors warm [Ω].

        A measured Ze has no angle and is added as resistance, which makes the total no smaller than it can be.
        """
        return abs(self._far_end_loop(circuit))

    def least_far_end_ohm(self, circuit: Circuit) -> float:
        """The least that the loop at a circuit's end may be, conductors warm [Ω]: with a reading less its uncertainty, where one is known.
        The largest fault current counts for what conductors stand."""
        most, measured = self._far_end_loop(circuit), self._measured.get(circuit.id)
        if measured is None:
            return abs(most)
        run = self.run(circuit)
        drawn = or_none(lambda: self._drawn_run(circuit, chosen_cable(circuit)).hot_ohm)
        least = measured.least_cold_ohm * min(run.hot.line, run.hot.cpc)
        least = least if drawn is None else min(least, drawn)
        return abs(most - run.hot_ohm + min(least, run.hot_ohm))

    def far_end_cold_ohm(self, circuit: Circuit) -> float:
        """The loop a meter should read at the end of the circuit with conductors at 20 °C [Ω]."""
        cold_ohm = self._cold.get(circuit.id)
        if cold_ohm is None:
            ahead = abs(self._ahead_of(self._tree.earth_of(circuit)))
            cold_ohm = self._cold[circuit.id] = ahead + sum(self._link_cold_ohm(link) for link in self.links(circuit))
        return cold_ohm

    def board_cold_ohm(self, board: Board) -> float:
        """The loop a meter should read at a board with conductors at 20 °C [Ω]. NeedsInput as ``far_end_cold_ohm``."""
        ahead = abs(self._ahead_of(self._tree.earth_of_board(board)))
        return ahead + sum(self._link_cold_ohm(link) for link in self.links_to(board))

    def earth_fault_a(self, circuit: Circuit) -> float:
        """Earth fault current at the end of the circuit, conductors warm [A]."""
        return fault_current_a(self._job.supply.nominal_v, self.far_end_ohm(circuit))

    def neutral_fault_a(self, circuit: Circuit) -> float:
        """Smallest current of a fault between line and neutral at the end of the circuit, conductors warm [A]."""
        return fault_current_a(self.ahead.origin.volts_min, abs(self._neutral_loop(circuit)))

    def _neutral_loop(self, circuit: Circuit) -> complex:
        """Line and neutral from the source to the end of the circuit and back, warm [Ω]."""
        loop_ohm = self._neutral_loops.get(circuit.id)
        if loop_ohm is None:
            feeder = self._tree.feeder(self._tree.place(circuit).board)
            origin = self.ahead.origin
            ahead = origin.line_warm + origin.return_warm if feeder is None else self._neutral_loop(feeder)
            loop_ohm = self._neutral_loops[circuit.id] = ahead + 2 * self.run(circuit).line_hot
        return loop_ohm

    def origin_fault_a(self) -> float:
        """Largest prospective current at the origin [A]; see ``SupplySource``."""
        return max(self.ahead.fault_a, self.ahead.fault_lines_a)

    def board_fault(self, board: Board) -> Prospective:
        """Largest prospective currents at a board, conductors cold."""
        if board.id not in self._faults:
            feeder = self._tree.feeder(board)
            chain = self._tree.chain(feeder) if feeder else ()
            self._faults[board.id] = self._prospective(chain, len(self._tree.board_lines(board)))
        return self._faults[board.id]

    def far_end_fault(self, circuit: Circuit) -> Prospective:
        """Largest prospective currents at a circuit's end, conductors cold."""
        prospective = self._ends.get(circuit.id)
        if prospective is None:
            lines = len(self._tree.supplied(circuit).lines)
            prospective = self._ends[circuit.id] = self._prospective(self._tree.chain(circuit), lines)
        return prospective

    def board_fault_a(self, board: Board) -> float:
        """Largest prospective current at a board [A]."""
        return self.board_fault(board).largest_a

    def _from_sources_a(self) -> float:
        """What the sources of the job add to a short circuit anywhere in it [A]: the most that an inverter gives, × its rated current.
        Nothing is added to the highest current that the supply is declared for, which no supply reaches. NeedsInput while the rating of
        one is not known.

        Source  the rule set's figure of an inverter: common practice
        """
        supply = self._job.supply
        assumed = any(
            each.field == "supply.fault_current_ka" and each.value == supply.fault_current_ka
            for each in self._job.assumptions
        )
        if assumed or supply.fault_current_source == "declared":
            return 0.0
        ratings_a = [
            rated_output_a(circuit, circuit.source, self._rules)
            for circuit in self._job.circuits
            if circuit.source is not None
        ]
        return self._rules.sources.inverter_multiple()[1] * sum(ratings_a) if ratings_a else 0.0

    def _prospective(self, chain: tuple[Circuit, ...], lines: int) -> Prospective:
        origin = self.ahead.origin
        run = sum((self.run(link).line_cold for link in chain), 0j)
        to_neutral = self._together(origin.line_cold + origin.return_cold, 2 * run)
        added_a = self._from_sources_a()
        neutral_a = fault_current_a(origin.volts_max, to_neutral) + added_a
        if lines == 1:
            return Prospective(None, neutral_a)
        # Three lines meet at a star point; two opposite lines are a loop of twice the voltage and twice the line.
        lines_a = fault_current_a(origin.volts_max, self._together(origin.line_cold, run)) + added_a
        return Prospective(lines_a, neutral_a)

    def _together(self, source: complex, run: complex) -> float:
        """Magnitude of source and run in series [Ω]. Where the source's angle is not known it is taken across the run's, which
        makes the total no larger, and the current no smaller, than it can be."""
        if self.ahead.calculated:
            return abs(source + run)
        return abs(complex(run.real, run.imag + abs(source))) if run else abs(source)
