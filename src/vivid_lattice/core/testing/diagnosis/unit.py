"""A circuit with its readings, as it is compared with what defects would make of it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from vivid_lattice.core.document.readings import Reading, ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.testing.diagnosis.circuit_symbols import CircuitModel, circuit_model
from vivid_lattice.core.testing.diagnosis.prediction import Taken
from vivid_lattice.core.testing.expected_value import Expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.subjects import subject_of

_OF_SUPPLY: frozenset[ReadingKind] = frozenset({"ze", "pfc_ln", "pfc_le", "ra", "r_me", "u_ln"})


@dataclass(frozen=True, slots=True)
class Unit:
    """A circuit with its readings."""

    model: CircuitModel
    taken: tuple[Taken, ...]

    @property
    def done(self) -> frozenset[ReadingKind]:
        """The kinds of reading that were taken."""
        return frozenset(one.reading.test for one in self.taken)


def circuit_of(network: Installation, subject: ReadingSubject) -> str | None:
    """The circuit that a reading is of: its own, or that of a residual-current device with one circuit; None of what several share."""
    if subject.kind in ("circuit", "rcd") and network.job.find_circuit(subject.id) is not None:
        return subject.id
    return None


def unit_of(network: Installation, by_design: Expecting, measured: MeasuredValues, circuit_id: str) -> Unit | None:
    """A circuit with its readings; None while its cable, or the loop ahead of it, is not known."""
    circuit = by_design.design.tree.circuits[circuit_id]
    try:
        model = circuit_model(by_design, measured, circuit)
    except NeedsInput:
        return None
    own = (reading for reading in _figures(network) if circuit_of(network, reading.subject) == circuit_id)
    return Unit(model, _taken(network, by_design, own))


def taken_of_supply(network: Installation, by_design: Expecting) -> tuple[Taken, ...]:
    """The readings of the supply and of boards."""
    return _taken(network, by_design, (reading for reading in _figures(network) if reading.test in _OF_SUPPLY))


def _figures(network: Installation) -> Iterable[Reading]:
    return (reading for reading in network.entered.testing.readings if reading.state != "left-out")


def _taken(network: Installation, by_design: Expecting, readings: Iterable[Reading]) -> tuple[Taken, ...]:
    return tuple(
        Taken.of(reading, by_design.of(reading.test, subject), network.rules.testing)
        for reading in readings
        if (subject := subject_of(network, reading.test, reading.subject)) is not None
    )
