"""What the readings of other circuits and devices say of one: insulation beside insulation, residual-current devices in series."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from statistics import median

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.readings import Reading, ReadingKind
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.testing.subjects import MAIN, Subject

#: Fewer other circuits than this say nothing of what is usual.
_SIMILAR_LEAST = 2


def beside_insulation(network: Installation, reading: Reading, subject: Subject) -> Iterator[tuple[str, float]]:
    """What insulation is compared with [MΩ]: of a feeder the circuits of its board in parallel, 1/R = Σ 1/Rn; of any circuit the middle one
    of the others of its board that have the same cable. Beyond the range counts as the end of the range, which is on the safe side: it is the
    least that the others have."""
    circuit = subject.circuit
    if circuit is None:
        return
    read = _insulation(network, reading.test)
    supplied = [
        other.id
        for other in network.job.circuits
        if other.id in network.tree.places and network.tree.feeder(network.tree.place(other).board) is circuit
    ]
    if supplied and all(read.get(identity) for identity in supplied):
        yield "parallel", in_parallel(read[identity] for identity in supplied)
    others = [read[other.id] for other in _similar(network, circuit) if other.id in read]
    if len(others) >= _SIMILAR_LEAST:
        yield "similar", median(others)


def in_parallel(values: Iterable[float]) -> float:
    """Resistances in parallel, each above 0, in the unit that they are in: 1/R = Σ 1/Rn.

    >>> in_parallel((2.0, 2.0))
    1.0
    """
    return 1 / sum(1 / value for value in values)


def _insulation(network: Installation, kind: ReadingKind) -> dict[str, float]:
    """Insulation as it was read, by circuit [MΩ]; of several points the lowest."""
    found: dict[str, float] = {}
    for reading in network.job.testing.readings:
        if reading.test == kind and reading.state in ("value", "above-range") and reading.value is not None:
            identity = reading.subject.id
            found[identity] = min(reading.value, found.get(identity, reading.value))
    return found


def _similar(network: Installation, circuit: Circuit) -> Iterator[Circuit]:
    """Other circuits of the board of the same kind, with the same cable."""
    if is_auto(circuit.cable) or circuit.id not in network.tree.places:
        return
    board = network.tree.place(circuit).board.id
    for other in network.job.circuits:
        if other.id == circuit.id or is_auto(other.cable) or other.id not in network.tree.places:
            continue
        same = (other.kind, other.cable) == (circuit.kind, circuit.cable)
        if same and network.tree.place(other).board.id == board:
            yield other


def downstream_times(network: Installation, reading: Reading, subject: Subject) -> Iterator[tuple[str, float]]:
    """The longest time that a residual-current device behind this one took [ms]: this one has to take longer, or both trip."""
    own = subject.subject.id
    behind = set(_behind(network, own))
    times = [
        other.value
        for other in network.job.testing.readings
        if other.test == reading.test and other.state == "value" and other.value and other.subject.id in behind
    ]
    if times:
        yield "series", max(times)


def _behind(network: Installation, own: str) -> Iterator[str]:
    """The residual-current devices behind one, all named as in a reading."""
    places = {name_in_reading(place): place for place in network.rcds.all}
    place = places.get(own)
    if place is None:
        return
    reached = {circuit.id for circuit in place.behind}
    for name, other in places.items():
        ids = {circuit.id for circuit in other.behind}
        if name != own and ids and ids <= reached and (ids < reached or other.own_device is not None):
            yield name


def name_in_reading(place: RcdPlace) -> str:
    """What a residual-current device is called in a reading: the circuit whose own it is, or ``board/device``."""
    if place.own_device is not None:
        return place.own_device.id
    part = place.id.partition(":")[2]
    return f"{place.board.id}/{MAIN if part == 'main' else part}"
