"""What a reading is expected to be at the temperature of the day, its limits, and what it means with conductors at operating temperature."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import partial

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.formulas.cable.impedance import factor_of_day
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.network.tree import EarthInUse
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.testing_rules import Agreement, ReadingLimit
from vivid_lattice.core.sources import Source
from vivid_lattice.core.testing.expected_readings import ExpectedReadings, RingEnds, expected_of, ring_ends
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.subjects import Subject

#: From here on there is no continuity [Ω]. Common practice, no source.
_APART_OHM = 1000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """What a reading should be. None: not known, or there is none.

    value      at the temperature of the day
    low, high  inside them a reading agrees with the design; ``far_low``, ``far_high``: outside them it disagrees
    least, most  its limits, with the rule; ``over``: the least is not permitted itself
    by_calculation  above ``most`` a loop is judged by Ze and the warm R1+R2 against this limit
    by_rcd     in TN: only a residual-current device disconnects in time
    warm       the value with conductors at operating temperature
    missing    why there is no value
    """

    value: float | None = None
    low: float | None = None
    high: float | None = None
    far_low: float | None = None
    far_high: float | None = None
    least: float | None = None
    most: float | None = None
    over: bool = False
    by_calculation: float | None = None
    by_rcd: bool = False
    warm: float | None = None
    limit_source: Source | None = None
    standing: str = ""
    missing: tuple[Text, ...] = ()


@dataclass(slots=True)
class Expecting:
    """Expected readings of a job on a day.

    network        the installation as it is assessed, with what was measured: limits are by it
    design         the same without readings: what is expected is by it, or a reading would be compared with itself
    temperature_c  of the conductors
    """

    network: Installation
    design: Installation
    temperature_c: float
    #: Of each circuit, whatever the temperature.
    circuits: dict[str, ExpectedReadings] = field(default_factory=dict)

    def of(self, kind: ReadingKind, subject: Subject) -> Expected:
        """What a reading of a subject should be."""
        made = _MAKERS.get(kind)
        found = Expected()
        if made is not None:
            try:
                found = made(self, subject)
            except NeedsInput as lack:
                found = replace(self._limited(kind), missing=tuple(need.what for need in lack.needs))
        return self._with_bands(kind, found)

    # ------------------------------------------------------------------------------------------ bands and limits

    def _with_bands(self, kind: ReadingKind, found: Expected) -> Expected:
        agreement = self.network.rules.testing.agreement(kind, "design")
        if found.value is None or agreement is None:
            return found
        (low, high), (far_low, far_high) = agreement.agrees_from(found.value), agreement.disagrees_from(found.value)
        return replace(found, low=low, high=high, far_low=far_low, far_high=far_high)

    def _limited(self, kind: ReadingKind, times: float = 1.0) -> Expected:
        """The limits that the standard's list of readings holds; ``times``: what a limit in multiples is multiplied by."""
        found = Expected()
        for limit in self.network.rules.testing.limits(kind):
            found = _with_limit(found, limit, times if limit.unit.startswith("times") else 1.0)
        return found

    # ------------------------------------------------------------------------------------------ conductors

    def _designed(self, subject: Subject) -> Circuit:
        """The circuit as it is designed: in the installation as assessed, a reading of it may have given it another length."""
        return self.design.tree.circuits[_circuit(subject).id]

    @property
    def factor(self) -> float:
        """What a resistance at 20 °C is multiplied by on the day."""
        per_kelvin, reference_c, _ = self.network.rules.testing.temperature
        return factor_of_day(self.temperature_c, per_kelvin, reference_c)

    def _conductor(self, cold_ohm: float, warm_ohm: float | None = None, kind: ReadingKind | None = None) -> Expected:
        limits = self._limited(kind) if kind else Expected()
        return replace(limits, value=cold_ohm * self.factor, warm=warm_ohm)

    def r1r2(self, subject: Subject) -> Expected:
        """R1+R2 to the end of a circuit, on its longest spur; no more than leaves the loop within its limit when it is warm."""
        circuit = _circuit(subject)
        most = or_none(partial(self._most_r1r2, circuit))
        readings = self._readings(circuit)
        limits = Expected(most=most, limit_source=readings.zs_source if most is not None else None)
        run = or_none(partial(self.design.loops.run, self._designed(subject)))
        if run is None:
            return replace(limits, missing=readings.missing)
        return replace(limits, value=run.cold_ohm * self.factor, warm=run.hot_ohm)

    def _most_r1r2(self, circuit: Circuit) -> float | None:
        """The largest R1+R2 that may be read on the day [Ω]: what the limit of the loop leaves beside what is ahead, not warm."""
        limit = self._readings(circuit).zs_limit_ohm
        if limit is None:
            return None
        loops = self.network.loops
        ahead = loops.board_ohm(self.network.tree.place(circuit).board)
        hot = self.network.rules.cables.hot_factors(chosen_cable(circuit))
        return max(0.0, limit - ahead) / max(hot.line, hot.cpc) * self.factor

    def r1rn(self, subject: Subject) -> Expected:
        """Line and neutral to the end of a circuit; the neutral is as large as the line."""
        run = self.design.loops.run(self._designed(subject))
        return self._conductor(2 * run.r1_cold_ohm, 2 * run.r1_hot_ohm)

    def r2(self, subject: Subject) -> Expected:
        """Protective conductor alone, to the end of a circuit."""
        run = self.design.loops.run(self._designed(subject))
        return self._conductor(run.r2_cold_ohm, run.r2_hot_ohm, "r2")

    def ring_end(self, part: Callable[[RingEnds], float], subject: Subject) -> Expected:
        """A conductor of a ring, end to end."""
        return self._conductor(part(ring_ends(self.design, self._designed(subject))))

    def cross(self, part: Callable[[RingEnds], float], subject: Subject) -> Expected:
        """Two conductors of a ring cross-connected: a quarter of the two together; on a spur what that has more."""
        ends = ring_ends(self.design, self._designed(subject))
        return self._conductor((ends.line_ohm + part(ends)) / 4)

    # ------------------------------------------------------------------------------------------ insulation, electrodes, supply

    def insulation(self, subject: Subject) -> Expected:
        """Insulation of a circuit against its least value."""
        rule = self.network.rules.papers.insulation
        return Expected(least=rule.least_mohm, limit_source=rule.source)

    def insulation_selv(self, subject: Subject) -> Expected:
        """Insulation of an extra-low-voltage circuit to earth and to others, at 250 V."""
        return self._limited("ir_selv")

    def listed(self, kind: ReadingKind, subject: Subject) -> Expected:
        """What has a limit in the standard's list and no value of the design."""
        return self._limited(kind)

    def electrode(self, subject: Subject) -> Expected:
        """An electrode: as calculated where it is; no more than what stays stable, or the standard's figure."""
        limits = self._limited("ra")
        if limits.most is None:
            stable = self.network.rules.limits.stable_electrode_ohm()
            limits = replace(limits, most=stable.value, limit_source=stable.source, standing="practice")
        return replace(limits, value=or_none(partial(self._electrode_ohm, subject)))

    def _electrode_ohm(self, subject: Subject) -> float:
        job, owner_id = self.network.job, subject.subject.id
        if owner_id == "supply":
            return self.design.loops.ze_ohm()
        owner = job.find_board(owner_id) or job.circuit(owner_id)
        return self.design.loops.local_electrode_ohm(EarthInUse(system="TT", own=owner.earthing, owner=owner))

    def voltage(self, subject: Subject) -> Expected:
        """Line to neutral at the origin."""
        return replace(self._limited("u_ln"), value=self.network.job.supply.nominal_v)

    def voltage_between(self, subject: Subject) -> Expected:
        """Between two lines at the origin."""
        supply = self.network.job.supply
        times = 3**0.5 if supply.phases == 3 else 2.0
        least_most = self._limited("u_ln")
        return replace(
            least_most,
            value=supply.nominal_v * times,
            least=None if least_most.least is None else least_most.least * times,
            most=None if least_most.most is None else least_most.most * times,
        )

    def to_earth(self, subject: Subject) -> Expected:
        """Line to earth: as line to neutral, but for the drop of the neutral."""
        return Expected(value=self.network.job.supply.nominal_v)

    def none(self, subject: Subject) -> Expected:
        """What has no current and no voltage while all is right."""
        return Expected(value=0.0)

    def earth_to_ground(self, subject: Subject) -> Expected:
        """The earth of the house to a true earth: none, or no more than the standard reports to the supplier."""
        return replace(self._limited("u_me"), value=0.0)

    def apart(self, subject: Subject) -> Expected:
        """No continuity between conductors that have nothing to do with each other."""
        return Expected(least=_APART_OHM)

    def ze(self, subject: Subject) -> Expected:
        """Loop outside the installation: the design rests on the value that it has."""
        return Expected(value=self.design.loops.ze_ohm())

    def fault_to_neutral(self, subject: Subject) -> Expected:
        """Prospective current from line to neutral at a board, against the least breaking capacity there. A declared one is the largest there
        may be: what is read below it agrees, so nothing is expected unless it was measured."""
        board = self.design.job.board(subject.board)
        capacities = [
            1000 * circuit.device.breaking_ka
            for way in board.ways
            if not is_auto((circuit := self.network.tree.circuits[way.circuit]).device)
            and circuit.device.breaking_ka is not None
        ]
        rated = min(capacities, default=None)
        if board.assembly_ka is not None:
            rated = max(rated or 0.0, 1000 * board.assembly_ka)
        measured = self.design.job.supply.fault_current_source == "measured"
        fault = or_none(lambda: self.design.loops.board_fault(board).neutral_a) if measured else None
        source = self.network.rules.rule("breaking") if rated is not None else None
        return Expected(value=fault, most=rated, limit_source=source)

    def fault_to_earth(self, subject: Subject) -> Expected:
        """Prospective current from line to earth at a board."""
        loop = self.design.loops.board_cold_ohm(self.network.job.board(subject.board))
        return Expected(value=self.network.job.supply.nominal_v / loop)

    # ------------------------------------------------------------------------------------------ loops and RCDs

    def zs(self, subject: Subject) -> Expected:
        """The loop at the end of a circuit: Ze and the conductors at the temperature of the day."""
        circuit, designed, loops = _circuit(subject), self._designed(subject), self.design.loops
        readings = self._readings(circuit)
        cold = or_none(partial(loops.far_end_cold_ohm, designed))
        value = None
        if cold is not None:
            ahead = abs(loops.ahead_of(designed))
            value = ahead + (cold - ahead) * self.factor
        return Expected(
            value=value,
            warm=or_none(partial(loops.far_end_ohm, designed)),
            most=readings.zs_reading_ohm,
            by_calculation=None if readings.zs_by_rcd else readings.zs_limit_ohm,
            by_rcd=readings.zs_by_rcd and self.network.tree.earth_of(circuit).system != "TT",
            limit_source=readings.zs_source,
            missing=() if value is not None else readings.missing,
        )

    def zln(self, subject: Subject) -> Expected:
        """The loop to neutral at the end of a circuit: what was read at its board, and the conductors at the temperature of the day. The
        design knows only how large the current there may be."""
        read = MeasuredValues.of(self.network, self.temperature_c).read(
            "pfc_ln", ReadingSubject(kind="board", id=subject.board)
        )
        if not read:
            return Expected()
        designed = self._designed(subject)
        if designed.kind == "ring":
            ends = ring_ends(self.design, designed)
            conductors = (ends.line_ohm + ends.neutral_ohm) / 4
        else:
            conductors = 2 * self.design.loops.run(designed).r1_cold_ohm
        return Expected(value=self.network.job.supply.nominal_v / read + conductors * self.factor)

    def _readings(self, circuit: Circuit) -> ExpectedReadings:
        if circuit.id not in self.circuits:
            self.circuits[circuit.id] = expected_of(self.network, circuit)
        return self.circuits[circuit.id]

    def rcd_time(self, multiple: float, subject: Subject) -> Expected:
        """How long an RCD may take at a multiple of its rated residual current [ms]."""
        assert subject.rcd is not None
        rules = self.network.rules
        most = or_none(partial(rules.devices.rcd_time_s, subject.rcd, multiple))
        least = rules.testing.rcd_least_ms(multiple, delayed=subject.rcd.time_delayed)
        if most is None:
            return Expected()
        return Expected(
            least=least.value if least is not None else None, most=1000 * most.value, limit_source=most.source
        )

    def rcd_ramp(self, subject: Subject) -> Expected:
        """The rising current at which an RCD trips [mA]."""
        assert subject.rcd is not None
        return self._limited("rcd_ramp", subject.rcd.idn_ma)


def expecting(network: Installation, temperature_c: float) -> Expecting:
    """What the readings of a job should be on a day, by its design."""
    return Expecting(network, by_design(network), temperature_c)


def by_design(network: Installation) -> Installation:
    """The installation as it is designed, without its readings."""
    job = network.entered
    if not job.testing.readings:
        return network
    bare = job.model_copy(update={"testing": job.testing.model_copy(update={"readings": ()})})
    return Installation.of(bare, network.rules)


def _with_limit(found: Expected, limit: ReadingLimit, times: float) -> Expected:
    value = limit.value * times
    if limit.sense == "most":
        return replace(found, most=value, limit_source=limit.source, standing=limit.standing)
    if limit.sense in ("least", "over"):
        return replace(
            found, least=value, over=limit.sense == "over", limit_source=limit.source, standing=limit.standing
        )
    return found


def _circuit(subject: Subject) -> Circuit:
    assert subject.circuit is not None
    return subject.circuit


def agreement_with(network: Installation, kind: str, against: str) -> Agreement | None:
    """The bands of a reading about another reading."""
    return network.rules.testing.agreement(kind, against)


def _neutral(ends: RingEnds) -> float:
    return ends.neutral_ohm


def _line(ends: RingEnds) -> float:
    return ends.line_ohm


def _protective(ends: RingEnds) -> float:
    return ends.cpc_ohm


_Maker = Callable[[Expecting, Subject], Expected]
_MAKERS: Mapping[ReadingKind, _Maker] = {
    "r_me": lambda expecting, subject: expecting.listed("r_me", subject),
    "r_bond": lambda expecting, subject: expecting.listed("r_bond", subject),
    "r1r2": Expecting.r1r2,
    "r1rn": Expecting.r1rn,
    "r2": Expecting.r2,
    "r1_end": lambda expecting, subject: expecting.ring_end(_line, subject),
    "rn_end": lambda expecting, subject: expecting.ring_end(_neutral, subject),
    "r2_end": lambda expecting, subject: expecting.ring_end(_protective, subject),
    "x_ln": lambda expecting, subject: expecting.cross(_neutral, subject),
    "x_le": lambda expecting, subject: expecting.cross(_protective, subject),
    "ir_ln": Expecting.insulation,
    "ir_le": Expecting.insulation,
    "ir_ne": Expecting.insulation,
    "ra": Expecting.electrode,
    "u_ln": Expecting.voltage,
    "u_ll": Expecting.voltage_between,
    "ze": Expecting.ze,
    "pfc_ln": Expecting.fault_to_neutral,
    "pfc_le": Expecting.fault_to_earth,
    "zs": Expecting.zs,
    "zln": Expecting.zln,
    "rcd_1": lambda expecting, subject: expecting.rcd_time(1.0, subject),
    "rcd_5": lambda expecting, subject: expecting.rcd_time(5.0, subject),
    "rcd_ramp": Expecting.rcd_ramp,
    "u_le": Expecting.to_earth,
    "u_ne": Expecting.none,
    "u_me": Expecting.earth_to_ground,
    "i_res": Expecting.none,
    "i_pe": Expecting.none,
    "r_nn": Expecting.apart,
    "r_cc": Expecting.apart,
    "ir_cc": Expecting.insulation,
    "ir_selv": Expecting.insulation_selv,
}
