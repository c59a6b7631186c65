"""A circuit with its readings, as it is compared with what defects would make of it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial

from vivid_lattice.core.document.readings import Reading, ReadingId, ReadingKind, ReadingSubject
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.network.reading_uncertainty import uncertainty_of
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.testing.diagnosis.circuit_symbols import CircuitModel, circuit_model, trips_at_a
from vivid_lattice.core.testing.diagnosis.facts import facts_of_earth
from vivid_lattice.core.testing.diagnosis.prediction import SOUND_FROM_MOHM, Taken
from vivid_lattice.core.testing.expected_value import Expecting
from vivid_lattice.core.testing.measured_values import MeasuredValues
from vivid_lattice.core.testing.neighbours import name_in_reading
from vivid_lattice.core.testing.subjects import subject_of

#: What is read of the circuits behind a device that says why it trips.
_LEAKING: tuple[ReadingKind, ...] = ("ir_le", "ir_ne")
OF_SUPPLY: frozenset[ReadingKind] = frozenset(
    {"ze", "pfc_ln", "pfc_le", "ra", "r_me", "u_ln", "u_le", "u_ne", "u_me", "i_pe"}
)


@dataclass(frozen=True, slots=True)
class Unit:
    """A circuit with its readings; or a residual-current device that several circuits share (``device``, as a reading names it), with one of
    them for its conductors, and the next circuit behind it whose insulation was not read (``unread``). ``of_supply``: what is read of the
    supply is read of it too."""

    model: CircuitModel
    taken: tuple[Taken, ...]
    device: str = ""
    unread: Mapping[ReadingKind, str] = field(default_factory=dict)
    of_supply: bool = False

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
    own = [reading for reading in _figures(network) if circuit_of(network, reading.subject) == circuit_id]
    if all(reading.test != "rcd_other" for reading in own):
        own += _loads_of_others(network, circuit_id)
    return Unit(model, _taken(network, by_design, own))


def shared_device(network: Installation, circuit_id: str) -> RcdPlace | None:
    """The residual-current device nearest a circuit that it shares with others; None: it has none."""
    shared = (place for place in network.rcds.all if len(place.behind) > 1)
    return next((place for place in shared if any(circuit.id == circuit_id for circuit in place.behind)), None)


def _loads_of_others(network: Installation, circuit_id: str) -> list[Reading]:
    """Whether the device that a circuit shares holds with loads of its other circuits on, from what was read there: one that trips it says
    more than those that do not."""
    place = shared_device(network, circuit_id)
    others = {circuit.id for circuit in place.behind} - {circuit_id} if place is not None else set()
    read = [one for one in _figures(network) if one.test == "rcd_load" and one.subject.id in others]
    read.sort(key=lambda one: one.state != "wrong")
    subject = ReadingSubject(kind="circuit", id=circuit_id)
    return [one.model_copy(update={"test": "rcd_other", "subject": subject}) for one in read[:1]]


def unit_of_part(
    network: Installation, by_design: Expecting, measured: MeasuredValues, reading: ReadingId
) -> Unit | None:
    """A bond or a surge device with its reading; with any circuit for the rest of the model, None while nothing of any is known."""
    circuits = by_design.design.job.circuits
    model = next(
        (made for each in circuits if (made := or_none(partial(circuit_model, by_design, measured, each)))), None
    )
    own = [each for each in _figures(network) if each.id == reading]
    return None if model is None else Unit(model, _taken(network, by_design, own))


def unit_of_device(network: Installation, by_design: Expecting, measured: MeasuredValues, device: str) -> Unit | None:
    """A shared residual-current device with its readings, and the lowest insulation of the circuits behind it; None while nothing of any of
    them is known, or there is no such device."""
    place = next((each for each in by_design.design.rcds.all if name_in_reading(each) == device), None)
    if place is None:
        return None
    behind = {circuit.id for circuit in place.behind}
    model = next(
        (found for circuit in place.behind if (found := or_none(partial(circuit_model, by_design, measured, circuit)))),
        None,
    )
    if model is None:
        return None
    own = [each for each in _figures(network) if (each.subject.kind, each.subject.id) == ("rcd", device)]
    unread: dict[ReadingKind, str] = {}
    for kind in _LEAKING:
        read = {each.subject.id: each for each in _figures(network) if each.test == kind and each.subject.id in behind}
        lowest = min(read.values(), key=_insulation, default=None)
        left = [circuit.id for circuit in place.behind if circuit.id not in read]
        # A sound one says nothing of those that were not read.
        if lowest is not None and (not left or _insulation(lowest) < SOUND_FROM_MOHM):
            own.append(lowest)
        elif left:
            unread[kind] = left[0]
    symbols = {**model.symbols, "Itrip": trips_at_a(place.rcd.idn_ma)}
    return Unit(replace(model, symbols=symbols), _taken(network, by_design, own), device, unread)


def _insulation(reading: Reading) -> float:
    """Insulation of a reading [MΩ]; beyond the range without a value it is as good as any."""
    return math.inf if reading.value is None else reading.value


def units_of_supply(
    network: Installation, by_design: Expecting, measured: MeasuredValues, units: Sequence[Unit]
) -> tuple[Unit, ...]:
    """The readings of the supply and of boards, and of electrodes that boards or circuits have for themselves; ``units``: of circuits,
    which say what else is so. None of what was not read."""
    if not units:
        return ()
    model, design = units[0].model, by_design.design
    read = [
        reading
        for reading in _figures(network)
        if reading.test in OF_SUPPLY and circuit_of(network, reading.subject) is None
    ]
    found = []
    for earth in design.tree.earths():
        owner = "supply" if earth.owner is None else earth.owner.id
        own = [each for each in read if (each.subject.id if each.subject.kind == "electrode" else "supply") == owner]
        electrode = or_none(partial(design.loops.local_electrode_ohm, earth)) if earth.owner is not None else None
        ahead = measured.ze_ohm or or_none(design.loops.ze_ohm)
        if own and ahead is not None:
            symbols = {**model.symbols, "Ze": ahead, "RA": ahead if electrode is None else electrode}
            made = replace(model, symbols=symbols, facts=facts_of_earth(model.facts, earth))
            found.append(Unit(made, _taken(network, by_design, own)))
    return tuple(found)


def _figures(network: Installation) -> Iterable[Reading]:
    return (reading for reading in network.entered.testing.readings if reading.state != "left-out")


def _taken(network: Installation, by_design: Expecting, readings: Iterable[Reading]) -> tuple[Taken, ...]:
    return tuple(
        Taken.of(
            reading,
            by_design.of(reading.test, subject),
            network.rules.testing,
            uncertainty_of(network.entered.testing, network.rules.testing, reading),
        )
        for reading in readings
        if (subject := subject_of(network, reading.test, reading.subject)) is not None
    )
