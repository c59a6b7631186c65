"""What stays live after an event, and what to do next."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from vivid_lattice.core.document.job import LINES
from vivid_lattice.core.faults import nodes
from vivid_lattice.core.faults.engine import Run

#: Touch voltage limit, alternating [V]: IEC 60364-4-41:2005, 411 (from memory).
_LIVE_ABOVE_V = 50.0


def still_live(run: Run) -> Iterator[str]:
    """Parts that still carry a dangerous voltage to true earth when everything has opened that opens."""
    last, network = run.last, run.network
    for board in network.job.boards:
        bars = [node for node in (nodes.bar(board.id, line) for line in LINES) if node in last.nodes]
        live = [bar for bar in bars if abs(last.volt(bar, nodes.EARTH)) > _LIVE_ABOVE_V]
        if live:
            yield f"{board.name}: its incoming bars and all that nothing has opened"
    circuit = run.hand.circuit
    if circuit is not None:
        for conductor in ("L1", "L2", "L3", "N", "PE"):
            node = nodes.at_end(circuit.id, conductor)
            if node in last.nodes and abs(last.volt(node, nodes.EARTH)) > _LIVE_ABOVE_V:
                yield f"{circuit.name}: conductor {conductor} at its end, {abs(last.volt(node, nodes.EARTH)):.0f} V to the ground"
    if run.hand.event.kind == "open-neutral" and abs(last.volt(nodes.meter("PE"), nodes.EARTH)) > _LIVE_ABOVE_V:
        volts = abs(last.volt(nodes.meter("PE"), nodes.EARTH))
        yield f"Everything that is earthed: {volts:.0f} V to the ground"


_NEXT: Mapping[str, tuple[str, ...]] = {
    "overload": ("Take load off the circuit, then close the device once.", "If it opens again at once, it is no overload: test dead."),
    "line-neutral": ("Do not close it on the fault.", "Unplug everything, test insulation line to neutral, then close."),
    "line-line": ("Do not close it on the fault.", "Test insulation between the lines, all switches on."),
    "line-earth": ("Test insulation line to earth, appliance by appliance.",),
    "neutral-earth": ("Isolate, part the neutral from its bar, test it to earth.", "A breaker's loop test does not see it; insulation does."),
    "leakage": ("Unplug one appliance after another until the device holds.", "Measure what is left with a leakage clamp on line and neutral together."),
    "nail": ("Touch nothing at the wall.", "Open the wall there, renew the cable between two accessible joints, test insulation."),
    "surge": ("Look at the window of the surge device; red means renew its modules.", "Test what is dead afterwards before it is used again."),
    "open-neutral": ("Switch off the main switch; touch neither earthed metal nor water pipes.", "Call the distributor: the fault is theirs, and others in the street have it too."),
    "voltage": ("Switch off what is delicate.", "Measure line to neutral at the origin, and call the distributor where it lies outside the band."),
    "neutral-wrong-bar": ("Follow each neutral to its bar: it belongs behind the device of its line.",),
    "neutrals-swapped": ("Both devices open under load: change the two neutrals over.",),
    "rcd-neutral-crossed": ("The device opens as soon as anything draws: change supply and load side of its neutral.",),
    "borrowed-neutral": ("Isolate both circuits: the neutral of a dead one may be live.", "Part the neutrals and give each circuit its own."),
    "loose-terminal": ("Renew what is discoloured, tighten to the printed torque, tug every conductor.",),
}  # fmt: skip


def next_steps(run: Run) -> Iterator[str]:
    """What to do next, in order, with the usual caution first."""
    yield "Work dead: isolate, lock off, prove; a licensed electrician looks for the fault."
    yield from _NEXT[run.hand.event.kind]
    if not run.stages[0].openings and run.hand.event.kind in ("line-earth", "nail", "line-neutral"):
        yield "Nothing ends this fault by itself: mend the protection before the circuit is used."
