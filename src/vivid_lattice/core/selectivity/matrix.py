"""All overcurrent devices of a job against each other: which pairs in series keep their order, and up to which current."""

from __future__ import annotations

from dataclasses import dataclass
from math import isinf
from typing import Literal

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.formulas.device.coordination import OverloadOrder
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.network.overcurrent_series import Overcurrent, Pair
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.selectivity.plot import BandPoints, drawn
from vivid_lattice.core.stopping import stop_point
from vivid_lattice.core.text import shown_down, shown_up
from vivid_lattice.core.units import SLACK

PairStatus = Literal["total", "typical", "partial", "none", "unknown"]
#: ``typical``: apart by typical trip times, though the bands overlap.
OverloadStatus = Literal["total", "typical", "none", "unknown"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PairResult:
    """A pair in series: whether it is selective under overload and in a short circuit, and in words.

    ``upto_a``: selective up to there; None: at every current. ``fault_a``: the most that may flow behind the downstream one.
    """

    up: str
    down: str
    status: PairStatus
    overload: OverloadStatus
    upto_a: float | None
    fault_a: float | None
    shown: str
    sentence: Text


@dataclass(frozen=True, slots=True)
class Listed:
    """A device as a row or column of the matrix."""

    id: str
    name: Text
    where: Text
    outlet: bool


@dataclass(frozen=True, slots=True)
class Matrix:
    """The devices in series with any other, the pairs, and the characteristics for drawing."""

    devices: tuple[Listed, ...]
    pairs: tuple[PairResult, ...]
    bands: tuple[BandPoints, ...]


def matrix(job: Job) -> Matrix:
    """Every pair in series of a job that ``read_document`` has accepted, and the bands of its devices."""
    network = Installation.of(job, rule_set(job.job.rules))
    devices: dict[str, Overcurrent] = {}
    crossings: list[PairResult] = []
    for circuit in job.circuits:
        stop_point()
        if circuit.id not in network.tree.places:
            continue
        for pair in network.series.pairs(circuit):
            devices.setdefault(pair.up.id, pair.up)
            devices.setdefault(pair.down.id, pair.down)
            crossings.append(_crossing(network, pair))
    listed = tuple(Listed(device.id, device.name, device.where, device.outlet) for device in devices.values())
    bands = (drawn(network.series, device) for device in devices.values())
    return Matrix(listed, tuple(crossings), tuple(band for band in bands if band is not None))


def _crossing(network: Installation, pair: Pair) -> PairResult:
    up, down = pair.up, pair.down
    try:
        order = network.series.order(pair)
        loops = network.loops
        assert down.circuit is not None and down.board is not None  # the cut-out is never downstream
        fault = loops.far_end_fault(down.circuit).largest_a if down.outlet else loops.board_fault_a(down.board)
        reach = network.series.reach(pair, fault).current_a
    except NeedsInput as lack:
        return _unknown(network, pair, lack)
    overload: OverloadStatus = "total" if order.selective else "typical" if order.typical else "none"
    upto = None if isinf(reach) else reach
    status: PairStatus = overload
    if overload != "none" and upto is not None and fault > upto * (1 + SLACK):
        status = "partial"
    shown = "all" if upto is None else f"{shown_down(upto / 1000)} kA" if upto >= 1000 else f"{shown_down(upto)} A"
    return PairResult(
        up=up.id,
        down=down.id,
        status=status,
        overload=overload,
        upto_a=upto,
        fault_a=fault,
        shown=shown,
        sentence=network.message(
            "core.selectivity.pair_all" if upto is None else "core.selectivity.pair",
            overload=_overload_words(network, pair, order, overload),
            fault=shown_up(fault),
            **({} if upto is None else {"limit": shown}),
        ),
    )


def _unknown(network: Installation, pair: Pair, lack: NeedsInput) -> PairResult:
    return PairResult(
        up=pair.up.id,
        down=pair.down.id,
        status="unknown",
        overload="unknown",
        upto_a=None,
        fault_a=None,
        shown="?",
        sentence=network.message(
            "core.selectivity.unknown",
            up=pair.up.name,
            down=pair.down.name,
            needs=Joined.of(need.what for need in lack.needs),
        ),
    )


def _overload_words(network: Installation, pair: Pair, order: OverloadOrder, overload: OverloadStatus) -> Message:
    """Which of a pair trips first under overload, and between which currents [A] that is not certain."""
    if overload == "total":
        return network.message("core.selectivity.overload_total", down=pair.down.name)
    from_a, to_a = shown_down(order.from_a or 0), shown_up(order.to_a or 0)
    if overload == "typical":
        return network.message("core.selectivity.overload_typical", down=pair.down.name, low=from_a, high=to_a)
    return network.message("core.selectivity.overload_none", up=pair.up.name, low=from_a, high=to_a)
