"""What a pair of devices in series that keeps no order lies in."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.findings.finding import Cause, CauseSubject
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.network.overcurrent_series import Pair

#: The check that selectivity with the distributor's device is told under, of overload and of short circuit.
DISTRIBUTOR = "selectivity-short-circuit"


def with_distributor(pair: Pair) -> bool:
    """Whether the upstream device of a pair is the distributor's: no one on site may choose another."""
    return pair.up.board is None


def cause_of_pair(check: str, pair: Pair) -> Cause:
    """One cause for all circuits of a board behind the distributor's device; else one for all behind the upstream device."""
    if with_distributor(pair):
        board = pair.down.board
        assert board is not None  # the distributor's device is only judged against devices of boards
        return Cause(DISTRIBUTOR, CauseSubject("board", board.id))
    circuit = pair.up.circuit
    assert circuit is not None  # every upstream device but the distributor's is a circuit's
    return Cause(check, CauseSubject("circuit", circuit.id))


def pairs_shown(ctx: CircuitContext, pairs: Sequence[Pair]) -> Sequence[Pair]:
    """Without fuses at the circuit's end while no calculation is wanted: they are shown, and judge nothing."""
    return [pair for pair in pairs if ctx.explain or not pair.down.outlet] or pairs
