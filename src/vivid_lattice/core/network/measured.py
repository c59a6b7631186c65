"""What was measured in place of what is not drawn: conductors of circuits, the supply, electrodes. Where both are known, the worse counts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import TypeVar

from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Board, Circuit, Job, Section
from vivid_lattice.core.document.local_earthing import LocalEarthing
from vivid_lattice.core.document.readings import Reading, ReadingKind
from vivid_lattice.core.formulas.cable.impedance import factor_of_day
from vivid_lattice.core.network.reading_uncertainty import uncertainty_of
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.rules.testing_rules import Uncertainty
from vivid_lattice.core.units import ohm_from_mohm


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredRun:
    """Conductors of a circuit to its end, at 20 °C, with the uncertainty of the reading added [Ω]; of a ring to its middle.

    reading     the one they are from: its kind, figure and temperature; ``ratio``: the share of line and protective conductor is that of the
                cable
    least_cold_ohm  the least that R1+R2 may be, with the uncertainty subtracted: the fault current is largest then
    length_m    the length they imply
    for_drop    nothing but the circuit's own conductors can be in the reading, so that voltage drop follows from it
    """

    reading: Reading
    temperature_c: float
    uncertainty: Uncertainty
    r1_cold_ohm: float
    r2_cold_ohm: float
    least_cold_ohm: float
    length_m: float
    for_drop: bool


class _Readings:
    """The figures of a job's readings, at 20 °C where they are of conductors, and the most that each may be."""

    def __init__(self, job: Job, rules: RuleSet):
        self._testing, self._rules = job.testing, rules
        self._by: dict[tuple[ReadingKind, str, str], list[Reading]] = {}
        for reading in job.testing.readings:
            if reading.state == "value" and reading.value is not None:
                key = (reading.test, reading.subject.kind, reading.subject.id)
                self._by.setdefault(key, []).append(reading)

    def worst(self, kind: ReadingKind, of: str, identity: str) -> Reading | None:
        """The highest figure of a kind; None where there is none."""
        found = self._by.get((kind, of, identity), ())
        return max(found, key=lambda reading: self.most(reading), default=None)

    def temperature_c(self, reading: Reading) -> float:
        return self._testing.temperature_c if reading.temperature_c is None else reading.temperature_c

    def uncertainty(self, reading: Reading) -> Uncertainty:
        """The instrument's own, else the usual one."""
        found = uncertainty_of(self._testing, self._rules.testing, reading)
        assert found is not None, reading.test
        return found

    def most(self, reading: Reading) -> float:
        """The most that the true value may be."""
        return self.uncertainty(reading).above(reading.value or 0.0)

    def least_cold(self, reading: Reading) -> float:
        """The least that a conductor may be, at 20 °C."""
        return self.uncertainty(reading).below(reading.value or 0.0) / self.factor(reading)

    def factor(self, reading: Reading) -> float:
        """What the resistance at 20 °C was multiplied by when it was read."""
        per_kelvin, reference_c, _ = self._rules.testing.temperature
        return factor_of_day(self.temperature_c(reading), per_kelvin, reference_c)

    def most_cold(self, reading: Reading) -> float:
        """The same of a conductor, at 20 °C."""
        return self.most(reading) / self.factor(reading)


def measured_runs(job: Job, rules: RuleSet, tree: Tree) -> Mapping[str, MeasuredRun]:
    """What was read of the conductors of each circuit whose cable is known.

    Equation  R20 = (R·(1 + u) + a) / (1 + α·(t − 20));  of R1+R2 the line has 1/(1 + r2/r1) by the table of the cable;
              l = 1000·R1 / r1;  of Zs alone R1+R2 = Zs − Ze
    Source    IEC 60364-6; the rule set's rules of testing
    """
    if not job.testing.readings:
        return {}
    readings = _Readings(job, rules)
    runs: dict[str, MeasuredRun] = {}
    for circuit in job.circuits:
        if not is_auto(circuit.cable) and (run := _run(job, rules, tree, readings, circuit)) is not None:
            runs[circuit.id] = run
    return runs


def _run(job: Job, rules: RuleSet, tree: Tree, readings: _Readings, circuit: Circuit) -> MeasuredRun | None:
    assert not is_auto(circuit.cable)
    line_mohm = rules.cables.line_mohm_per_m(circuit.cable).value
    ratio = rules.cables.cpc_mohm_per_m(circuit.cable, tree.loaded(circuit)).value / line_mohm
    ring = circuit.kind == "ring"
    legs = 4 if ring else 1

    def read(kind: ReadingKind) -> Reading | None:
        return readings.worst(kind, "circuit", circuit.id)

    def made(reading: Reading, r1_ohm: float, r2_ohm: float, least_ohm: float, *, own: bool) -> MeasuredRun:
        return MeasuredRun(
            reading=reading,
            temperature_c=readings.temperature_c(reading),
            uncertainty=readings.uncertainty(reading),
            r1_cold_ohm=r1_ohm,
            r2_cold_ohm=r2_ohm,
            least_cold_ohm=least_ohm,
            length_m=(r1_ohm if line_ohm is None else line_ohm) * legs / ohm_from_mohm(line_mohm),
            for_drop=own or line_ohm is not None,
        )

    # Line and neutral are nowhere joined to other metal: what is read of them is the cable's own.
    of_line, both = read("r1_end" if ring else "r1rn"), read("x_le" if ring else "r1r2")
    line_ohm = None if of_line is None else readings.most_cold(of_line) / (legs if ring else 2)
    found: list[MeasuredRun] = []
    if both is not None:
        total = readings.most_cold(both)
        r1 = total / (1 + ratio)
        found.append(made(both, r1, total - r1, readings.least_cold(both), own=bool(both.alone)))
    if of_line is not None and line_ohm is not None:
        protective = read("r2_end") if ring else None
        r2 = line_ohm * ratio if protective is None else readings.most_cold(protective) / legs
        least = readings.least_cold(of_line) / (legs if ring else 2) * (1 + ratio)
        found.append(made(of_line, line_ohm, r2, least, own=True))
    if found:
        return max(found, key=lambda run: run.r1_cold_ohm + run.r2_cold_ohm)
    loop = read("zs")
    ahead = job.supply.ze_ohm if tree.feeder(tree.place(circuit).board) is None else None
    if loop is not None and ahead is not None and circuit.earthing is None:
        total = max(0.0, readings.most(loop) - ahead)
        least = max(0.0, readings.uncertainty(loop).below(loop.value or 0.0) - ahead)
        return made(loop, total / (1 + ratio), total - total / (1 + ratio), least, own=False)
    return None


def with_measured(job: Job, rules: RuleSet) -> Job:
    """The job with the supply and electrodes as they were measured: in place of what is not known or assumed; else the worse of the two.

    The job given is left as it was, and one without readings comes back as it is.
    """
    if not job.testing.readings:
        return job
    readings = _Readings(job, rules)
    supply, assumed = job.supply, {each.field: each.value for each in job.assumptions}
    ze = readings.worst("ze", "supply", "supply") or (
        readings.worst("ra", "electrode", "supply") if supply.system == "TT" else None
    )
    changes: dict[str, object] = {}
    if ze is not None:
        known = None if assumed.get("supply.ze_ohm") == supply.ze_ohm else supply.ze_ohm
        changes |= {"ze_ohm": max(known or 0.0, readings.most(ze)), "ze_source": "measured"}
    fault = _largest(readings, job)
    if fault is not None:
        known_ka = (
            None if assumed.get("supply.fault_current_ka") == supply.fault_current_ka else supply.fault_current_ka
        )
        changes |= {"fault_current_ka": max(known_ka or 0.0, fault / 1000), "fault_current_source": "measured"}
    if changes:
        supply = supply.model_copy(update=changes)
    return job.model_copy(
        update={
            "supply": supply,
            "boards": tuple(_with_electrode(board, readings) for board in job.boards),
            "circuits": tuple(_with_electrode(circuit, readings) for circuit in job.circuits),
        }
    )


def _largest(readings: _Readings, job: Job) -> float | None:
    """The largest prospective current read at a board of the origin [A]."""
    found = [
        readings.most(reading)
        for board in job.boards
        if is_origin(board.fed_by)
        for kind in _CURRENTS
        if (reading := readings.worst(kind, "board", board.id)) is not None
    ]
    return max(found, default=None)


Owner = TypeVar("Owner", Board, Circuit)
_CURRENTS: tuple[ReadingKind, ...] = ("pfc_ln", "pfc_le")


def _with_electrode(owner: Owner, readings: _Readings) -> Owner:
    earthing: LocalEarthing | None = owner.earthing
    reading = readings.worst("ra", "electrode", owner.id)
    if earthing is None or reading is None:
        return owner
    ohm = max(earthing.electrode_ohm or 0.0, readings.most(reading))
    return owner.model_copy(update={"earthing": earthing.model_copy(update={"electrode_ohm": ohm})})


def with_measured_lengths(job: Job, runs: Mapping[str, MeasuredRun]) -> Job:
    """The job with the lengths that its readings imply: of circuits whose length is not known, or is shorter as drawn.

    Only readings in which nothing but the circuit's own conductors can be count here: a parallel path makes R1+R2 look good.
    """
    changed = {
        circuit.id: circuit.model_copy(update={"run": tuple(_sections(circuit.run, run.length_m))})
        for circuit in job.circuits
        if (run := runs.get(circuit.id)) is not None and run.for_drop and run.length_m > 0
    }
    if not changed:
        return job
    return job.model_copy(update={"circuits": tuple(changed.get(circuit.id, circuit) for circuit in job.circuits)})


def _sections(run: tuple[Section, ...], length_m: float) -> Iterable[Section]:
    known = sum(section.length_m or 0.0 for section in run)
    open_ = [section for section in run if section.length_m is None]
    if open_:
        each = max(length_m - known, 0.01) / len(open_)
        return (
            section.model_copy(update={"length_m": each}) if section.length_m is None else section for section in run
        )
    if length_m <= known:
        return run
    return (section.model_copy(update={"length_m": (section.length_m or 0.0) * length_m / known}) for section in run)
