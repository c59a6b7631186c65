"""What a switch without an overload release may have to carry: by the device upstream of it, or by those downstream."""

from __future__ import annotations

from collections.abc import Iterable

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.messages import Text
from vivid_lattice.core.network.upstream import upstream_of


def upstream_a(ctx: BoardContext, board: Board) -> tuple[float, Text] | None:
    """Rating of the device upstream of a board [A], and what it is called; None while it is not known."""
    upstream = upstream_of(ctx.job, ctx.network.tree, board)
    if upstream is None:
        return None
    feeder, cutout = ctx.network.tree.feeder(board), ctx.network.series.cutout
    names: dict[str, Text] = {
        "feeder": ctx.message("core.check.upstream.feeder", circuit=feeder.name) if feeder else "",
        "tap": ctx.message("core.check.upstream.tap", board=board.name),
        "tails": ctx.message("core.check.upstream.tails"),
        "origin": cutout.name if cutout else "",
    }
    return upstream.device.rating_a, names[upstream.where]


def sum_a(ctx: BoardContext, circuits: Iterable[Circuit]) -> tuple[float, bool]:
    """Sum of the ratings of circuits' devices on their most loaded phase [A], and whether every device is chosen."""
    by_line: dict[str, float] = {}
    chosen = True
    for circuit in circuits:
        if is_auto(circuit.device):
            chosen = False
            continue
        for line in ctx.network.tree.supplied(circuit).lines:
            by_line[line] = by_line.get(line, 0.0) + circuit.device.rating_a
    return max(by_line.values(), default=0.0), chosen
