"""The heart: a job in, every finding out. Pure, deterministic, quick enough for every keystroke."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence

from vivid_lattice.core.assessment.acceptance import accepted_causes, with_acceptance
from vivid_lattice.core.assessment.assumed import marked, to_confirm
from vivid_lattice.core.assessment.causes import causes_of, with_causes
from vivid_lattice.core.assessment.next_steps import next_steps
from vivid_lattice.core.checks import (
    BOARD_CHECKS,
    CHECKS,
    SIZING,
    SUPPLY_CHECKS,
    run_board_check,
    run_check,
    run_supply_check,
)
from vivid_lattice.core.checks.voltage_drop import drop_limit
from vivid_lattice.core.document.assumptions import SYSTEM
from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Board, Cable, Circuit, Job
from vivid_lattice.core.findings.assessment import Assessment, BoardFigures, CircuitFigures, LineLoad, OpenAssumption
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict, worst
from vivid_lattice.core.installation.circuit_path import path_to
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.stopping import stop_point
from vivid_lattice.core.text import shown_up
from vivid_lattice.core.units import ka_from_a

CAUTIONS: tuple[str, ...] = (
    "Electricity kills. Work dead: isolate, lock off, prove dead.",
    "Table values were written down from memory. A licensed electrician checks them against the current edition and the "
    "manufacturer's data, decides, tests and signs.",
    "The cut-out and everything upstream of it belong to the distributor. Local law may restrict work on boards to licensed persons.",
)


def assess(job: Job, *, explain: bool | Collection[tuple[str, str]] = True) -> Assessment:
    """Every check on every circuit of a job that ``read_document`` has accepted.

    explain  whether workings are written out: all, none, or those of the named (check, circuit or 'supply') pairs
    Returns  the supply's findings, the boards', then the circuits' in the order of the boards' ways and of the checks, with the
             figures of each row (its path only where one of its workings is wanted)
    Raises   Stopped where no one waits for it any more (``stopping_when``)
    """
    network = Installation.of(job, rule_set(job.job.rules))
    circuits = in_board_order(network.job)
    findings = [
        run_supply_check(check, SupplyContext(network, _wanted(explain, check.id, "supply"))) for check in SUPPLY_CHECKS
    ]
    findings += [
        run_board_check(check, BoardContext(network, board, _wanted(explain, check.id, board.id)))
        for board in network.job.boards
        for check in BOARD_CHECKS
    ]
    rows = []
    for circuit in circuits:
        stop_point()
        circuit_findings, row = _of_circuit(network, circuit, explain)
        findings += circuit_findings
        rows.append(row)
    findings = with_acceptance(marked(with_causes(findings), network), job.accepted_advice)
    assumed = to_confirm(job, network.rules)
    causes = causes_of(findings)
    return Assessment(
        job=job.job.title,
        rules=job.job.rules,
        verdict=worst([overall(findings), *_at_best(assumed)]),
        counts=dict(Counter(finding.verdict for finding in findings if not finding.accepted)),
        findings=tuple(findings),
        causes=causes,
        circuits=tuple(rows),
        boards=tuple(_board_figures(network, board) for board in job.boards),
        to_confirm=len(assumed),
        assumptions=assumed,
        accepted=accepted_causes(findings, job.accepted_advice),
        next_steps=next_steps(job, causes, len(assumed)),
        cautions=cautions_of(network.rules),
    )


def _at_best(assumed: Sequence[OpenAssumption]) -> tuple[Verdict, ...]:
    """What a job is at best while values are assumed: advice; with an earthing system that no one has stated it lacks an input."""
    if any(each.field == SYSTEM for each in assumed):
        return ("missing",)
    return ("advice",) if assumed else ()


def cautions_of(rules: RuleSet) -> tuple[str, ...]:
    """The cautions every output carries, with the standard's own."""
    return (*CAUTIONS, rules.caution) if rules.caution else CAUTIONS


def _wanted(explain: bool | Collection[tuple[str, str]], check: str, circuit: str) -> bool:
    return explain if isinstance(explain, bool) else (check, circuit) in explain


def findings_of(job: Job, circuit: Circuit, rules: RuleSet, like: Installation | None = None) -> list[Finding]:
    """What one circuit is sized by, for trying out a change of it alone; ``like``: see ``Installation.of``."""
    stop_point()
    ctx = CircuitContext(Installation.of(job, rules, like), circuit, explain=False)
    return [run_check(check, ctx) for check in SIZING]


def overall(findings: list[Finding]) -> Verdict:
    """The verdict of a whole job: its worst finding; accepted advice counts as passed. Where nothing applies, that is said."""
    verdicts: list[Verdict] = ["pass" if finding.accepted else finding.verdict for finding in findings]
    return worst([verdict for verdict in verdicts if verdict != "not-applicable"] or ["not-applicable"])


def in_board_order(job: Job) -> list[Circuit]:
    """Circuits by board and way, as they stand in the boards."""
    circuits = {circuit.id: circuit for circuit in job.circuits}
    return [circuits[way.circuit] for board in job.boards for way in sorted(board.ways, key=lambda way: way.number)]


def _figures(ctx: CircuitContext) -> CircuitFigures:
    circuit, network = ctx.circuit, ctx.network
    loops = network.loops
    place = network.tree.place(circuit)
    limit = drop_limit(ctx)
    cable = circuit.cable
    return CircuitFigures(
        circuit=circuit.id,
        board=place.board.id,
        way=place.way.number,
        lines=or_none(lambda: network.tree.supplied(circuit).lines) or (),
        design_current_a=or_none(lambda: network.drops.design_current(circuit).current_a),
        length_m=or_none(lambda: run_length_m(circuit)),
        cpc_mm2=None if is_auto(cable) else or_none(lambda: _cpc_mm2(ctx, cable)),
        size="" if is_auto(cable) else ctx.size(cable.area_mm2),
        r1r2_ohm=or_none(lambda: loops.run(circuit).cold_ohm),
        zs_cold_ohm=or_none(lambda: loops.far_end_cold_ohm(circuit)),
        zs_warm_ohm=or_none(lambda: loops.far_end_ohm(circuit)),
        fault_max_ka=or_none(lambda: ka_from_a(loops.board_fault_a(place.board))),
        fault_min_ka=or_none(lambda: ka_from_a(loops.earth_fault_a(circuit))),
        drop_limit_pct=limit.value,
        path=path_to(ctx) if ctx.explain else (),
    )


def _cpc_mm2(ctx: CircuitContext, cable: Cable) -> float:
    return ctx.rules.cables.cpc_area_mm2(cable, ctx.loaded).value


def _board_figures(network: Installation, board: Board) -> BoardFigures:
    loops, drops = network.loops, network.drops
    fault = or_none(lambda: loops.board_fault(board))
    whole = is_origin(board.fed_by)
    demand = or_none(lambda: drops.whole_demand() if whole else drops.board_demand(board)) if board.ways else None
    return BoardFigures(
        board=board.id,
        lines=tuple(LineLoad(line, amps, shown_up(amps)) for line, amps in demand.by_line.items()) if demand else (),
        fault_lines_ka=ka_from_a(fault.lines_a) if fault and fault.lines_a is not None else None,
        fault_neutral_ka=ka_from_a(fault.neutral_a) if fault else None,
        loop_ohm=or_none(lambda: loops.board_ohm(board)),
    )


def _of_circuit(
    network: Installation, circuit: Circuit, explain: bool | Collection[tuple[str, str]]
) -> tuple[list[Finding], CircuitFigures]:
    """The findings of a circuit in the order of the checks, and its row's figures."""
    explained_checks = {check.id for check in CHECKS if _wanted(explain, check.id, circuit.id)}
    plain = CircuitContext(network, circuit, False)
    explained = CircuitContext(network, circuit, True) if explained_checks else plain
    findings = [run_check(check, explained if check.id in explained_checks else plain) for check in CHECKS]
    return findings, _figures(explained)
