"""The house of a training board: the points of each circuit along its cable, and what is seen of them without a tester."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.loops import chosen_cable, run_length_m
from vivid_lattice.core.plan.fixing.laid_cables import cable_name
from vivid_lattice.core.testing.diagnosis.defects import Change
from vivid_lattice.core.training.bench_state import BenchState

PointKind = Literal["lamp", "outlet", "appliance", "source"]
PointState = Literal["works", "dead", "dim", "bright"]
#: How many points a circuit is drawn with.
_RING, _LAMPS, _OUTLETS = 6, 4, 3
#: A break of which the place is not told is in the middle of the run.
_BREAK_AT = 0.5


@dataclass(frozen=True, slots=True)
class HousePoint:
    """A point of a circuit. ``at``: its place, as a share of the run from the board; on a ring, of once round."""

    at: float
    kind: PointKind
    state: PointState


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseCircuit:
    """A circuit as it is drawn: what the design has, and its points as they are now."""

    cable: Text
    length_m: float
    ring: bool
    points: tuple[HousePoint, ...]


def house_circuit(bench: BenchState, circuit: Circuit) -> HouseCircuit:
    """A circuit of a house with its points as they are now.

    Limits  a break without a known place is drawn in the middle of the run; points are as many as are usual, not as were typed
    """
    return HouseCircuit(
        cable=cable_name(chosen_cable(circuit), bench.board.network.rules),
        length_m=run_length_m(circuit),
        ring=circuit.kind == "ring",
        points=_points(bench, circuit),
    )


def _points(bench: BenchState, circuit: Circuit) -> tuple[HousePoint, ...]:
    kind, places = _drawn(circuit)
    changes = _changes(bench, circuit.id)
    live = bench.has_voltage(circuit.id)
    wrong = _with_wrong_voltage(bench, circuit)
    return tuple(HousePoint(at, kind, _state(live, changes, at, places, wrong)) for at in places)


def _with_wrong_voltage(bench: BenchState, circuit: Circuit) -> PointState:
    """How a circuit is seen with a loose neutral of the supply: on one line dim; on several, those of the line with the least load too
    bright, here the first, and what runs between the lines as before."""
    if bench.board.job.supply.phases == 1:
        return "dim"
    if len(circuit.lines) > 1:
        return "works"
    return "bright" if circuit.lines == ("L1",) else "dim"


def _drawn(circuit: Circuit) -> tuple[PointKind, Sequence[float]]:
    """What the points of a circuit are, and where."""
    if circuit.source is not None:
        return "source", (1.0,)
    if circuit.kind == "ring":
        return "outlet", tuple((n + 1) / (_RING + 1) for n in range(_RING))
    if circuit.kind == "lighting" or any(load.kind == "lamp" for load in circuit.loads):
        return "lamp", tuple((n + 1) / _LAMPS for n in range(_LAMPS))
    if any(load.kind == "socket" for load in circuit.loads):
        return "outlet", tuple((n + 1) / _OUTLETS for n in range(_OUTLETS))
    return "appliance", (1.0,)


def _changes(bench: BenchState, circuit: str) -> frozenset[Change]:
    """What hidden defects make of the voltage at the end of a circuit."""
    return frozenset(
        effect.change
        for defect, _ in bench.board.defects_of(circuit)
        if (effect := defect.effects.get("u_ln")) is not None
    )


def _state(live: bool, changes: frozenset[Change], at: float, places: Sequence[float], wrong: PointState) -> PointState:
    """Past a break there is nothing; at an outlet with wrong conductors nothing runs. ``wrong``: with a wrong voltage."""
    if not live or ("dead" in changes and at > min(_BREAK_AT, places[-1] - 1e-9)):
        return "dead"
    if "zero" in changes and at == places[-1]:
        return "dead"
    return wrong if "wrong" in changes else "works"
