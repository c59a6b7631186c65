"""The heart: a job in, every finding out. Pure, deterministic, quick enough for every keystroke."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection

from vivid_lattice.core.checks import CHECKS, SUPPLY_CHECKS, run_check, run_supply_check
from vivid_lattice.core.checks.context import Context, Network, SupplyContext
from vivid_lattice.core.checks.voltage_drop import drop_limit
from vivid_lattice.core.findings import (
    Assessment,
    CircuitFigures,
    Finding,
    Verdict,
    worst,
)
from vivid_lattice.core.job import Circuit, Job
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.path import known, path_to
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
             figures of each row (its path only where one of its workings is wanted)
    """
    network = Network.of(job, rule_set(job.job.rules))
    circuits = in_board_order(job)
    findings = [
        run_supply_check(check, SupplyContext(network, _wanted(explain, check.id, "supply"))) for check in SUPPLY_CHECKS
    ]
    rows = []
    for circuit in circuits:
        asked = {check.id for check in CHECKS if _wanted(explain, check.id, circuit.id)}
        plain, explained = Context(network, circuit, False), Context(network, circuit, True)
        findings += [run_check(check, explained if check.id in asked else plain) for check in CHECKS]
        rows.append(_figures(explained if asked else plain))
    return Assessment(
        job=job.job.title,
        rules=job.job.rules,
        verdict=overall(findings),
        counts=dict(Counter(found.verdict for found in findings)),
        findings=tuple(findings),
        circuits=tuple(rows),
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
        design_current_a=known(lambda: network.drops.design_current(circuit).current_a),
        length_m=known(lambda: run_length_m(circuit)),
        cpc_mm2=None if isinstance(cable, str) else known(lambda: network.rules.cables.cpc_area_mm2(cable).value),
        drop_limit_pct=limit.value,
        path=path_to(ctx) if ctx.explain else (),
    )
