"""The way to a far end, place by place, with voltage drop and loop as they add up."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from vivid_lattice.core.checks.context import Context
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import PathPoint, shown_up


def path_to(ctx: Context) -> tuple[PathPoint, ...]:
    """Origin, each board on the way, and the far end, with drop and loop as they add up."""
    network, supply = ctx.network, ctx.job.supply
    chain = network.tree.chain(ctx.circuit)
    cutout = f"{supply.cutout.rating_a:g} A" if supply.cutout else "not entered"
    points = [_point("Origin", f"cut-out {cutout}", 0.0, known(network.loops.ze_ohm), ctx)]
    for link in chain:
        board = network.tree.place(link).board
        tails = supply.tails if isinstance(board.fed_by, str) else None
        points.append(
            _point(
                board.name,
                f"tails {tails.area_mm2:g} mm²" if tails else "",
                known(partial(network.drops.board_v, board)),
                known(partial(network.loops.board_ohm, board)),
                ctx,
            )
        )
    circuit = ctx.circuit
    detail = "no cable yet" if isinstance(circuit.cable, str) else f"{circuit.cable.area_mm2:g} mm²"
    points.append(
        _point(
            f"End of {circuit.name}",
            detail,
            known(lambda: network.drops.far_end_v(circuit)),
            known(lambda: network.loops.far_end_ohm(circuit)),
            ctx,
        )
    )
    return tuple(points)


def _point(label: str, detail: str, drop_v: float | None, loop_ohm: float | None, ctx: Context) -> PathPoint:
    percent = None if drop_v is None else 100 * drop_v / ctx.job.supply.nominal_v
    return PathPoint(
        label,
        detail,
        percent,
        loop_ohm,
        "?" if percent is None else shown_up(percent),
        "?" if loop_ohm is None else shown_up(loop_ohm),
    )


def known(figure: Callable[[], float]) -> float | None:
    """A figure, or None while one of its inputs is missing; the finding says which."""
    try:
        return figure()
    except NeedsInput:
        return None
