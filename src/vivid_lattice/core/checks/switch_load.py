"""What a switch without an overload release may have to carry: by the device upstream of it, or by those downstream."""

from __future__ import annotations

from collections.abc import Iterable

from vivid_lattice.core.checks.context import BoardContext
from vivid_lattice.core.job import Board, Circuit


def upstream_a(ctx: BoardContext, board: Board) -> tuple[float, str] | None:
    """Rating of the device upstream of a board [A], and what it is called; None while it is not known."""
    feeder = ctx.network.tree.feeder(board)
    if feeder is not None:
        return None if isinstance(feeder.device, str) else (feeder.device.rating_a, f"device of {feeder.name}")
    tails = ctx.job.supply.tails
    if board.tap is not None and board.tap.device is not None:
        return board.tap.device.rating_a, f"device of the feed to {board.name}"
    if tails is not None and tails.device is not None:
        return tails.device.rating_a, "device beside the meter"
    cutout = ctx.network.series.cutout
    return (cutout.key[2], cutout.name) if cutout else None


def sum_a(ctx: BoardContext, circuits: Iterable[Circuit]) -> tuple[float, bool]:
    """Sum of the ratings of circuits' devices on their most loaded phase [A], and whether every device is chosen."""
    by_line: dict[str, float] = {}
    chosen = True
    for circuit in circuits:
        if isinstance(circuit.device, str):
            chosen = False
            continue
        for line in ctx.network.tree.supplied(circuit).lines:
            by_line[line] = by_line.get(line, 0.0) + circuit.device.rating_a
    return max(by_line.values(), default=0.0), chosen
