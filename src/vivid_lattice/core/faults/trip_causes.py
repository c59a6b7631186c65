"""A device has tripped: what it probably was, ranked by running the same engine on each suspect."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.feeds import feeds_lights
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.errors import CoreError, NotPossible
from vivid_lattice.core.faults.engine import run_event
from vivid_lattice.core.faults.event import FaultEvent, FaultKind, kind_title
from vivid_lattice.core.faults.read_since import ReadSince
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.stopping import stop_point

#: How often each kind is met behind a device that tripped, against each other. Common practice, no source.
_OFTEN: Mapping[FaultKind, float] = {
    "leakage": 5.0,
    "overload": 4.0,
    "line-earth": 3.0,
    "line-neutral": 2.0,
    "neutral-earth": 2.0,
    "borrowed-neutral": 1.0,
    "neutral-wrong-bar": 1.0,
    "nail": 0.5,
    "voltage": 0.5,
}
#: A circuit on which something was just switched on is that much likelier. Common practice, no source.
_RAN = 3.0
#: Causes that are shown; the rest is less likely than any of them.
_MOST = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class PossibleCause:
    """A likely cause: what and where, how likely against the others [%], why, and how to tell it from them."""

    event: FaultEvent
    title: Text
    likelihood_pct: float
    reason: Text
    how_to_check: Text


def possible_causes(job: Job, device: str, ran: Sequence[str] = (), since: str = "") -> tuple[PossibleCause, ...]:
    """What may have made a device open, the likeliest first.

    device  ``cutout``, a circuit's id for its own device, ``board:part`` for a residual-current switch, ``relay:board``
    ran     circuits on which something was running or had just been switched on
    since   when it tripped, by the clock on the wall: readings before it do not count; '': all count
    Raises  NotPossible where there is no such device
    Each suspect is run by the fault engine: one that would not open the device is none, one for which another device trips
    for certain is none either, and one after which several may have tripped counts half.
    """
    network = Installation.of(job, rule_set(job.job.rules))
    behind = _behind(network, device)
    read = ReadSince.of(network, since)
    scored: list[tuple[float, FaultEvent, Text]] = []
    for event in _events(network, device, behind):
        stop_point()
        answer = _opens(network, event, device)
        if answer:
            named = event.circuit in ran or event.other in ran
            score = _OFTEN[event.kind] * answer[0] * (_RAN if named else 1.0)
            reason = network.message("core.fault.cause.in_use", reason=answer[1]) if named else answer[1]
            times, reason = read.weigh(event, reason)
            scored.append((score * times, event, reason))
    total = sum(score for score, _, _ in scored)
    names = {circuit.id: circuit.name for circuit in job.circuits}
    ranked = sorted(scored, key=lambda item: (-item[0], item[1].kind, item[1].circuit or ""))[:_MOST]
    return tuple(
        PossibleCause(
            event=event,
            title=_title(network, event, names),
            likelihood_pct=100 * score / total,
            reason=why,
            how_to_check=network.message(f"core.fault.check.{event.kind}"),
        )
        for score, event, why in ranked
    )


def _title(network: Installation, event: FaultEvent, names: Mapping[str, str]) -> Message:
    title = kind_title(event.kind, network.rules.words)
    if event.other:
        circuit, other = names[event.circuit or ""], names[event.other]
        return network.message("core.fault.cause.on_two", kind=title, circuit=circuit, other=other)
    if event.circuit:
        return network.message("core.fault.cause.on", kind=title, circuit=names[event.circuit])
    return title


def _behind(network: Installation, device: str) -> list[Circuit]:
    """Circuits whose faults a device could answer to."""
    job, tree = network.job, network.tree
    if device == "cutout":
        return list(job.circuits)
    if device.startswith("relay:"):
        return []
    if device in tree.circuits:
        circuit = tree.circuits[device]
        return [circuit, *tree.fed_through(circuit)]
    for place in network.rcds.all:
        if place.id == device:
            return list(place.behind)
    known = ["cutout", *tree.circuits, *(place.id for place in network.rcds.all)]
    raise NotPossible(network.message("core.fault.cause.no_device", device=device, known=Joined.of(known, ", ")))


def _events(network: Installation, device: str, behind: list[Circuit]) -> Iterator[FaultEvent]:
    volts = network.job.supply.nominal_v
    if device.startswith("relay:"):
        yield FaultEvent(kind="voltage", volts=volts * 1.25)
        yield FaultEvent(kind="voltage", volts=volts * 0.7)
        return
    final = [circuit for circuit in behind if circuit.kind != "distribution"]
    for circuit in final:
        yield from _events_of(circuit)
    lights = [circuit for circuit in network.job.circuits if feeds_lights(circuit)]
    for borrowing, other in product(final, lights):
        if feeds_lights(borrowing) and borrowing.id != other.id:
            yield FaultEvent(kind="borrowed-neutral", circuit=borrowing.id, other=other.id)


def _opens(network: Installation, event: FaultEvent, device: str) -> tuple[float, Text] | None:
    """How certainly an event opens a device, as a weight, and why; None where it does not, or cannot be run."""
    try:
        run = run_event(network.job, event)
    except CoreError:
        return None
    first = run.stages[0].openings
    mine = next((opening for opening in first if opening.device == device), None)
    if mine is None:
        return None
    if mine.certain:
        return 1.0, network.message("core.fault.cause.certain", times=mine.shown)
    if len(first) == 1:
        return 0.7, network.message("core.fault.cause.may", times=mine.shown)
    return 0.5, network.message("core.fault.cause.with_another", times=mine.shown)


def _events_of(circuit: Circuit) -> Iterator[FaultEvent]:
    """What may happen on one circuit."""
    rating = 16.0 if is_auto(circuit.device) else circuit.device.rating_a
    yield FaultEvent(kind="overload", circuit=circuit.id, amps=rating * 1.6)
    yield FaultEvent(kind="line-earth", circuit=circuit.id, at=1.0)
    yield FaultEvent(kind="nail", circuit=circuit.id, at=0.5)
    if circuit.neutral:
        yield FaultEvent(kind="line-neutral", circuit=circuit.id)
        yield FaultEvent(kind="neutral-earth", circuit=circuit.id)
    yield FaultEvent(kind="leakage", circuit=circuit.id, milliamps=30.0)
    yield FaultEvent(kind="neutral-wrong-bar", circuit=circuit.id)
