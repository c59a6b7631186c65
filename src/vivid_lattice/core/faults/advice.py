"""What stays live after an event, and what to do next."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from vivid_lattice.core.document.job import LINES
from vivid_lattice.core.faults import nodes
from vivid_lattice.core.faults.engine import Run
from vivid_lattice.core.faults.event import FaultKind
from vivid_lattice.core.messages import Text
from vivid_lattice.core.text import Shown

#: Touch voltage limit, alternating [V]: IEC 60364-4-41:2005, 411 (from memory).
_LIVE_ABOVE_V = 50.0


def still_live(run: Run) -> Iterator[Text]:
    """Parts that still carry a dangerous voltage to true earth when everything has tripped that trips."""
    last, network = run.last, run.network
    for board in network.job.boards:
        bars = [node for node in (nodes.bar(board.id, line) for line in LINES) if node in last.nodes]
        live = [bar for bar in bars if abs(last.volt(bar, nodes.EARTH)) > _LIVE_ABOVE_V]
        if live:
            yield network.message("core.fault.live.bars", board=board.name)
    circuit = run.hand.circuit
    if circuit is not None:
        for conductor in ("L1", "L2", "L3", "N", "PE"):
            node = nodes.at_end(circuit.id, conductor)
            if node in last.nodes and abs(last.volt(node, nodes.EARTH)) > _LIVE_ABOVE_V:
                v = Shown(f"{abs(last.volt(node, nodes.EARTH)):.0f}")
                yield network.message("core.fault.live.end", circuit=circuit.name, conductor=conductor, v=v)
    if run.hand.event.kind == "open-neutral" and abs(last.volt(nodes.meter("PE"), nodes.EARTH)) > _LIVE_ABOVE_V:
        volts = abs(last.volt(nodes.meter("PE"), nodes.EARTH))
        yield network.message("core.fault.live.earthed", v=Shown(f"{volts:.0f}"))


#: How many steps the catalogue has for a kind: ``core.fault.next.<kind>.1`` and so on.
_STEPS: Mapping[FaultKind, int] = {
    "overload": 2,
    "line-neutral": 2,
    "line-line": 2,
    "line-earth": 1,
    "neutral-earth": 2,
    "leakage": 2,
    "nail": 2,
    "surge": 2,
    "open-neutral": 2,
    "voltage": 2,
    "neutral-wrong-bar": 1,
    "neutrals-swapped": 1,
    "rcd-neutral-crossed": 1,
    "borrowed-neutral": 2,
    "loose-terminal": 1,
}


def next_steps(run: Run) -> Iterator[Text]:
    """What to do next, in order, with the usual caution first."""
    kind = run.hand.event.kind
    yield run.network.message("core.fault.next.dead")
    for number in range(1, _STEPS[kind] + 1):
        yield run.network.message(f"core.fault.next.{kind}.{number}")
    if not run.stages[0].openings and kind in ("line-earth", "nail", "line-neutral"):
        yield run.network.message("core.fault.next.not_cleared")
