"""The heart: a job in, every finding out. Pure, deterministic, quick enough for every keystroke."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection
from functools import partial

from vivid_lattice.core.checks import CHECKS, SUPPLY_CHECKS, run_check, run_supply_check
from vivid_lattice.core.checks.context import Context, Network, SupplyContext
from vivid_lattice.core.checks.voltage_drop import drop_limit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import (
    Assessment,
    CircuitFigures,
    Finding,
    PathPoint,
    Verdict,
    shown_up,
    worst,
)
from vivid_lattice.core.job import Circuit, Job
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet

CAUTIONS: tuple[str, ...] = (
    "Electricity kills. Work dead: isolate, lock off, prove.",
    "The figures come from tables written down from memory. A licensed electrician confirms them against the current "
    "edition and the maker's data, decides, tests and signs.",
    "The cut-out and everything ahead of it belong to the distributor. Local law may restrict work on boards to licensed persons.",
)


def assess(job: Job, *, explain: bool | Collection[tuple[str, str]] = True) -> Assessment:
    """Every check on every circuit of a job that ``read_document`` has accepted.

    explain  whether workings are written out: all, none, or those of the named (check, circuit or 'supply') pairs
    Returns  the supply's findings, then the circuits' in the order of the boards' ways and of the checks, with the
             figures of each row
    """
    network = Network.of(job, rule_set(job.job.rules))
    circuits = in_board_order(job)
    findings = [
        run_supply_check(check, SupplyContext(network, _wanted(explain, check.id, "supply"))) for check in SUPPLY_CHECKS
    ]
    findings += [
        run_check(check, Context(network, circuit, _wanted(explain, check.id, circuit.id)))
        for circuit in circuits
        for check in CHECKS
    ]
    return Assessment(
        job=job.job.title,
        rules=job.job.rules,
        verdict=overall(findings),
        counts=dict(Counter(found.verdict for found in findings)),
        findings=tuple(findings),
        circuits=tuple(_figures(Context(network, circuit)) for circuit in circuits),
        cautions=CAUTIONS,
    )


def _wanted(explain: bool | Collection[tuple[str, str]], check: str, circuit: str) -> bool:
    return explain if isinstance(explain, bool) else (check, circuit) in explain


def findings_of(job: Job, circuit: Circuit, rules: RuleSet) -> list[Finding]:
    """The findings of one circuit alone, for trying out a change."""
    ctx = Context(Network.of(job, rules), circuit, explain=False)
    return [run_check(check, ctx) for check in CHECKS]


def overall(findings: list[Finding]) -> Verdict:
    """The verdict of a whole job: its worst finding. Where nothing applies, that is said."""
    return worst([found.verdict for found in findings if found.verdict != "not-applicable"] or ["not-applicable"])


def in_board_order(job: Job) -> list[Circuit]:
    """Circuits by board and way, as they stand in the boards."""
    circuits = {circuit.id: circuit for circuit in job.circuits}
    return [circuits[way.circuit] for board in job.boards for way in sorted(board.ways, key=lambda way: way.number)]


def _figures(ctx: Context) -> CircuitFigures:
    circuit, network = ctx.circuit, ctx.network
    place = network.tree.place(circuit)
    limit = drop_limit(ctx)
    cable = circuit.cable
    return CircuitFigures(
        circuit=circuit.id,
        board=place.board.id,
        way=place.way.number,
        design_current_a=_known(lambda: network.drops.design_current(circuit).current_a),
        length_m=_known(lambda: run_length_m(circuit)),
        cpc_mm2=None if isinstance(cable, str) else _known(lambda: network.rules.cables.cpc_area_mm2(cable).value),
        drop_limit_pct=limit.value,
        path=_path(ctx),
    )


def _path(ctx: Context) -> tuple[PathPoint, ...]:
    """Origin, each board on the way, and the far end, with drop and loop as they add up."""
    network, supply = ctx.network, ctx.job.supply
    chain = network.tree.chain(ctx.circuit)
    cutout = f"{supply.cutout.rating_a:g} A" if supply.cutout else "not entered"
    points = [_point("Origin", f"cut-out {cutout}", 0.0, _known(network.loops.ze_ohm), ctx)]
    for link in chain:
        board = network.tree.place(link).board
        tails = supply.tails if isinstance(board.fed_by, str) else None
        points.append(
            _point(
                board.name,
                f"tails {tails.area_mm2:g} mm²" if tails else "",
                _known(partial(network.drops.board_v, board)),
                _known(partial(network.loops.board_ohm, board)),
                ctx,
            )
        )
    circuit = ctx.circuit
    detail = "no cable yet" if isinstance(circuit.cable, str) else f"{circuit.cable.area_mm2:g} mm²"
    points.append(
        _point(
            f"End of {circuit.name}",
            detail,
            _known(lambda: network.drops.far_end_v(circuit)),
            _known(lambda: network.loops.far_end_ohm(circuit)),
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


def _known(figure: Callable[[], float]) -> float | None:
    """A figure, or None while one of its inputs is missing; the finding says which."""
    try:
        return figure()
    except NeedsInput:
        return None
