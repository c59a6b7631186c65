"""The next rating for breakers that run too warm in their board, each with the cable that it needs."""

from __future__ import annotations

from collections.abc import Iterator

from vivid_lattice.core.checks import CHECKS, run_check
from vivid_lattice.core.checks.capacity import ID as CAPACITY
from vivid_lattice.core.checks.thermal import too_warm
from vivid_lattice.core.design.candidate_changes import CandidateChange, with_cable, with_device
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit, Job, with_circuit
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, message
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protocol import RuleSet

_CAPACITY = next(check for check in CHECKS if check.id == CAPACITY)


def cooler_devices(job: Job, board: Board, rules: RuleSet) -> Iterator[CandidateChange]:
    """Every breaker of the board that is too warm in its next rating; its cable where that carries it, else the next that does."""
    network = Installation.of(job, rules)
    warm = or_none(lambda: too_warm(BoardContext(network, board, explain=False))) or ()
    changed = [_next_rating(job, circuit, rules) for circuit in warm]
    circuits = [circuit for circuit in changed if circuit is not None]
    if not circuits or len(circuits) < len(warm):
        return
    labels = [_label(before, after, rules) for before, after in zip(warm, circuits, strict=True)]
    yield CandidateChange(
        kind="next-rating",
        label=message(rules.words, "core.fix.next_rating", list=Joined.of(labels)),
        circuit=circuits[0],
        others=tuple(circuits[1:]),
    )


def _next_rating(job: Job, circuit: Circuit, rules: RuleSet) -> Circuit | None:
    """The circuit behind the next rating of its device, on the smallest cable from its own on that carries it; None where there is
    none of either."""
    device, cable = circuit.device, circuit.cable
    if is_auto(device) or is_auto(cable):
        return None
    ratings = [rating for rating in rules.devices.kind(device.kind).ratings_a if rating > device.rating_a]
    if not ratings:
        return None
    larger = with_device(circuit, device.model_copy(update={"rating_a": min(ratings), "family": None}))
    for area in rules.cables.kind(cable.type).sizes_mm2:
        if area < cable.area_mm2:
            continue
        # A protective conductor within the cable goes with its size; one of its own stays.
        cpc = cable.cpc_mm2 if area == cable.area_mm2 or cable.cpc == "separate" else None
        tried = with_cable(larger, cable.model_copy(update={"area_mm2": area, "cpc_mm2": cpc}))
        context = CircuitContext(Installation.of(with_circuit(job, tried), rules), tried, explain=False)
        if run_check(_CAPACITY, context).verdict in ("pass", "tight"):
            return tried
    return None


def _label(before: Circuit, after: Circuit, rules: RuleSet) -> Message:
    """What changes of a circuit: its device, and its cable where that is another one."""
    assert not is_auto(before.device) and not is_auto(after.device)
    assert not is_auto(before.cable) and not is_auto(after.cable)
    parts = {"circuit": before.name, "old": before.device.label, "new": after.device.label}
    if after.cable.area_mm2 == before.cable.area_mm2:
        return message(rules.words, "core.fix.next_rating_device", **parts)
    size = rules.cables.size_label(after.cable.area_mm2)
    return message(rules.words, "core.fix.next_rating_cable", size=size, **parts)
