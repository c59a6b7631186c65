"""The way to the end of the circuit, place by place, with voltage drop and loop as they add up."""

from __future__ import annotations

from functools import partial

from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Board
from vivid_lattice.core.findings.assessment import PathPoint
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import shown_up
from vivid_lattice.core.units import ka_from_a


def path_to(ctx: CircuitContext) -> tuple[PathPoint, ...]:
    """Origin, each board on the way, and the end of the circuit, with drop and loop as they add up."""
    network, supply = ctx.network, ctx.job.supply
    chain = network.tree.chain(ctx.circuit)
    cutout = f"{supply.cutout.rating_a:g} A" if supply.cutout else "not entered"
    name = ctx.rules.vocabulary.get("origin", "cut-out")
    origin = or_none(lambda: ka_from_a(network.loops.origin_fault_a()))
    points = [_point("Origin", f"{name} {cutout}", 0.0, or_none(network.loops.ze_ohm), origin, ctx)]
    for link in chain:
        board = network.tree.place(link).board
        tails = supply.tails if is_origin(board.fed_by) else None
        points.append(
            _point(
                board.name,
                f"tails {ctx.size(tails.area_mm2)}" if tails else "",
                or_none(partial(network.drops.board_v, board)),
                or_none(partial(network.loops.board_ohm, board)),
                or_none(partial(_board_ka, ctx, board)),
                ctx,
            )
        )
    circuit = ctx.circuit
    detail = "no cable yet" if is_auto(circuit.cable) else ctx.size(circuit.cable.area_mm2)
    points.append(
        _point(
            f"End of {circuit.name}",
            detail,
            or_none(lambda: network.drops.far_end_v(circuit)),
            or_none(lambda: network.loops.far_end_ohm(circuit)),
            or_none(lambda: ka_from_a(network.loops.far_end_fault(circuit).largest_a)),
            ctx,
        )
    )
    return tuple(points)


def _board_ka(ctx: CircuitContext, board: Board) -> float:
    return ka_from_a(ctx.network.loops.board_fault_a(board))


def _point(
    label: str, detail: str, drop_v: float | None, loop_ohm: float | None, largest_ka: float | None, ctx: CircuitContext
) -> PathPoint:
    percent = None if drop_v is None else 100 * drop_v / ctx.job.supply.nominal_v
    return PathPoint(
        label=label,
        detail=detail,
        drop_pct=percent,
        loop_ohm=loop_ohm,
        largest_ka=largest_ka,
        shown_drop="?" if percent is None else shown_up(percent),
        shown_loop="?" if loop_ohm is None else shown_up(loop_ohm),
        shown_largest="?" if largest_ka is None else shown_up(largest_ka),
    )
