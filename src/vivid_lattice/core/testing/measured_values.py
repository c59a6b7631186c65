"""The figures in force of a job, by what they are of, as they were read and at 20 °C."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.readings import Reading, ReadingKind, ReadingSubject
from vivid_lattice.core.formulas.cable.impedance import factor_of_day
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.subjects import Subject

_SUPPLY = ReadingSubject(kind="supply", id="supply")


@dataclass(frozen=True, slots=True)
class MeasuredValues:
    """Figures of readings that are figures; of several points the worst: insulation the lowest, all else the highest."""

    network: Installation
    by_subject: Mapping[tuple[ReadingKind, str, str], tuple[float, float]]

    @classmethod
    def of(cls, network: Installation, day_c: float) -> MeasuredValues:
        """The figures of a job. day_c  temperature of the conductors where a reading states none"""
        per_kelvin, reference_c, _ = network.rules.testing.temperature
        found: dict[tuple[ReadingKind, str, str], tuple[float, float]] = {}
        for reading in network.job.testing.readings:
            value = _figure(reading)
            if value is None:
                continue
            temperature_c = day_c if reading.temperature_c is None else reading.temperature_c
            factor = factor_of_day(temperature_c, per_kelvin, reference_c)
            cold = value / factor if TRAITS[reading.test].of_conductor else value
            key = (reading.test, reading.subject.kind, reading.subject.id)
            before = found.get(key)
            lower = reading.test.startswith("ir_")
            if before is None or (value < before[0] if lower else value > before[0]):
                found[key] = (value, cold)
        return cls(network, found)

    def read(self, kind: ReadingKind, subject: ReadingSubject) -> float | None:
        """A figure as it was read; None where none was."""
        entry = self.by_subject.get((kind, subject.kind, subject.id))
        return None if entry is None else entry[0]

    def cold(self, kind: ReadingKind, subject: ReadingSubject) -> float | None:
        """A resistance at 20 °C; None where none was read."""
        entry = self.by_subject.get((kind, subject.kind, subject.id))
        return None if entry is None else entry[1]

    @property
    def ze_ohm(self) -> float | None:
        """Ze as it was read."""
        return self.read("ze", _SUPPLY)

    def r1r2_cold_ohm(self, subject: ReadingSubject) -> float | None:
        """R1+R2 at 20 °C: of a ring, the cross-connected reading."""
        radial = self.cold("r1r2", subject)
        return self.cold("x_le", subject) if radial is None else radial

    def ahead_ohm(self, subject: Subject) -> float | None:
        """The loop read ahead of a circuit: Ze at a board of the origin, else the loop at the end of its feeder."""
        feeder = self.network.tree.feeder(self.network.job.board(subject.board))
        if feeder is None:
            return self.ze_ohm
        return self.read("zs", ReadingSubject(kind="circuit", id=feeder.id))

    def warm_loop_ohm(self, subject: Subject) -> float | None:
        """Ze as read and R1+R2 as read dead, warm; None where one of them was not read, or the cable is not known."""
        ahead, cold, circuit = self.ahead_ohm(subject), self.r1r2_cold_ohm(subject.subject), subject.circuit
        if ahead is None or cold is None or circuit is None or is_auto(circuit.cable):
            return None
        return ahead + cold * self.network.rules.cables.hot_factors(circuit.cable).line


def _figure(reading: Reading) -> float | None:
    return reading.value if reading.state == "value" else None
