"""Readings that disagree, explained: the likeliest defects of each circuit, or one of the installation that explains several."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.testing.diagnosis.defects import Defect, defects, no_defect, scoring
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis, told
from vivid_lattice.core.testing.diagnosis.explanations import UNEXPLAINED, explanations, is_sound, sound_of
from vivid_lattice.core.testing.diagnosis.fit import fitted
from vivid_lattice.core.testing.diagnosis.unit import (
    Unit,
    circuit_of,
    shared_device,
    unit_of,
    unit_of_device,
    unit_of_part,
    units_of_supply,
)
from vivid_lattice.core.testing.expected_value import Expecting, expecting
from vivid_lattice.core.testing.judgement import JudgedReading
from vivid_lattice.core.testing.measured_values import MeasuredValues

#: What a defect of a residual-current device changes.
_OF_RCD: frozenset[ReadingKind] = frozenset(
    {"rcd_half", "rcd_1", "rcd_5", "rcd_ramp", "rcd_button", "rcd_load", "i_res", "ir_ne", "ir_le", "ident", "func"}
)
#: What is diagnosed by itself, whatever the circuits are.
_PARTS = ("bond", "spd")
#: So many circuits are looked at for one defect of the installation: those that are off first, and others that speak against it.
_LOOKED_AT = 8
#: In so many circuits one cause is likelier than as many of their own, if it explains them as well.
_SEVERAL = 3


def diagnosed(
    network: Installation, judged: Sequence[JudgedReading], temperature_c: float | None = None
) -> tuple[Diagnosis, ...]:
    """Explanations for the circuits of which a reading fails or disagrees; that of the installation first, where one defect explains several.

    A circuit whose cable or supply is not known is left out: nothing can be predicted of it.

    temperature_c  of the conductors; None: as stated in the job
    """
    off = tuple(reading for reading in judged if reading.off)
    if not off:
        return ()
    circuits_off = _circuits(network, off)
    known = defects(network.rules.id)
    day_c = network.job.testing.temperature_c if temperature_c is None else temperature_c
    by_design, measured = expecting(network, day_c), MeasuredValues.of(network, day_c)
    as_read = _without(measured, off)
    whole = _of_installation(network, by_design, as_read, circuits_off, _circuits(network, judged), known)
    found = [] if whole is None else [whole.diagnosis]
    devices: set[tuple[str, str]] = set()
    for circuit in circuits_off:
        if whole is not None and circuit in whole.explained:
            continue
        unit = unit_of(network, by_design, measured, circuit)
        if unit is None:
            continue
        fits = explanations((unit,), _of_circuit(known, unit))
        diagnosis = told(by_design, circuit, unit.model.circuit.name, unit, fits)
        if diagnosis is None:
            continue
        place = shared_device(network, circuit) if fits[0].defects[0].scope == "rcd" else None
        if place is not None:
            # What is wrong with a device shows in each of its circuits: it is told once.
            if (place.id, fits[0].defects[0].id) in devices:
                continue
            devices.add((place.id, fits[0].defects[0].id))
            diagnosis = replace(diagnosis, name=place.name)
        found.append(diagnosis)
    return (
        *found,
        *_of_devices(network, by_design, measured, off, known),
        *_of_parts(network, by_design, measured, off, known),
    )


def _of_parts(
    network: Installation,
    by_design: Expecting,
    measured: MeasuredValues,
    off: Sequence[JudgedReading],
    known: Sequence[Defect],
) -> Iterator[Diagnosis]:
    """What a bond or a surge device that failed its test usually is."""
    for reading in off:
        if reading.subject.kind not in _PARTS:
            continue
        candidates = [each for each in known if each.scope == reading.subject.kind]
        unit = unit_of_part(network, by_design, measured, reading.reading) if candidates else None
        if unit is None:
            continue
        name = f"{reading.subject.kind}:{reading.subject.id}"
        diagnosis = told(by_design, name, reading.name, unit, explanations((unit,), candidates))
        if diagnosis is not None:
            yield diagnosis


def _of_devices(
    network: Installation,
    by_design: Expecting,
    measured: MeasuredValues,
    off: Sequence[JudgedReading],
    known: Sequence[Defect],
) -> Iterator[Diagnosis]:
    """Explanations for residual-current devices that several circuits share."""
    shared = {
        reading.subject.id: reading.name
        for reading in off
        if reading.subject.kind == "rcd" and circuit_of(network, reading.subject) is None
    }
    for device, name in shared.items():
        unit = unit_of_device(network, by_design, measured, device)
        if unit is None:
            continue
        diagnosis = told(
            by_design,
            device,
            name,
            unit,
            explanations((unit,), [each for each in known if _of_rcd(each) and each.needs <= unit.model.facts]),
        )
        if diagnosis is not None:
            yield diagnosis


def _of_rcd(defect: Defect) -> bool:
    """Whether a defect is one of a residual-current device, or of what leaks behind it: it changes nothing else."""
    changed = defect.changed
    return defect.scope == "circuit" and any(kind.startswith("rcd_") for kind in changed) and changed <= _OF_RCD


def _without(measured: MeasuredValues, off: Sequence[JudgedReading]) -> MeasuredValues:
    """What was read, but for what is off: that is what may be wrong."""
    gone = {(reading.kind, reading.subject.kind, reading.subject.id) for reading in off}
    kept = {key: value for key, value in measured.by_subject.items() if key not in gone}
    return MeasuredValues(measured.network, kept)


def _circuits(network: Installation, readings: Iterable[JudgedReading]) -> tuple[str, ...]:
    """The circuits that some readings are of, in the order of the job."""
    found = {circuit_of(network, reading.subject) for reading in readings}
    return tuple(circuit.id for circuit in network.job.circuits if circuit.id in found)


def _of_circuit(known: Sequence[Defect], unit: Unit) -> list[Defect]:
    """What may be wrong in a circuit; and with all readings, which of one circuit alone is seen too."""
    ring = "ring" if unit.model.ring else "radial"
    return [
        each
        for each in known
        if each.circuits in ("any", ring)
        and each.needs <= unit.model.facts
        and each.scope in ("circuit", "rcd", "readings")
    ]


@dataclass(frozen=True, slots=True)
class _Whole:
    """A defect of the installation, and the circuits whose readings it explains."""

    diagnosis: Diagnosis
    explained: frozenset[str]


def _of_installation(
    network: Installation,
    by_design: Expecting,
    as_read: MeasuredValues,
    off: Sequence[str],
    read: Sequence[str],
    known: Sequence[Defect],
) -> _Whole | None:
    """One defect that explains the readings of the supply and of several circuits better than one of each would; None where none does."""
    looked_at = [*off, *(circuit for circuit in read if circuit not in off)][:_LOOKED_AT]
    units = [unit for circuit in looked_at if (unit := unit_of(network, by_design, as_read, circuit)) is not None]
    supply = units_of_supply(network, by_design, as_read, units)
    if not units or len(units) + bool(supply) < 2:
        return None
    joined = [*supply, *units]
    wide = [
        each
        for each in known
        if each.scope in ("installation", "readings") and any(each.needs <= unit.model.facts for unit in units)
    ]
    if len(units) == 1:
        # The readings of one circuit alone say nothing of the others.
        wide = [each for each in wide if any(each.effects.keys() & unit.done for unit in supply)]
    fits = explanations(joined, wide)
    if is_sound(fits[0]):
        return None
    each_alone = sound_of(fits).score + sum(_gain(unit, known) for unit in units)
    margin = scoring().not_told_apart if len(off) < _SEVERAL else 0.0
    if fits[0].score > each_alone - margin:
        return None
    together = Unit(units[0].model, tuple(one for unit in joined for one in unit.taken), of_supply=True)
    diagnosis = told(by_design, "", network.message("core.testing.subject.supply"), together, fits)
    if diagnosis is None:
        return None
    best = fits[0]
    explained = (
        unit.model.circuit.id
        for unit in units
        if fitted((unit,), best.defects, best.parameters, frozenset()).misfit < UNEXPLAINED
    )
    return _Whole(diagnosis, frozenset(explained))


def _gain(unit: Unit, known: Sequence[Defect]) -> float:
    """How much better a circuit's own best explanation is than none: 0 or less."""
    if fitted((unit,), (no_defect(),)).misfit < scoring().not_told_apart:
        return 0.0
    fits = explanations((unit,), _of_circuit(known, unit))
    return fits[0].score - sound_of(fits).score
