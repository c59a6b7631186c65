"""How long a circuit may be in each size of its cable, and which check ends it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vivid_lattice.core.assessment.assess import findings_of
from vivid_lattice.core.checks import breaking_capacity, protective_conductor, short_circuit_withstand
from vivid_lattice.core.design.candidate_changes import scaled, with_cable
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit, Job, with_circuit
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set

#: Lengths are found to a tenth of a metre, rounded down, and not looked for beyond this [m].
STEP_M = 0.1
#: No circuit of a dwelling is longer; what still passes there has no limit in practice.
LONGEST_M = 1000.0
_HEAT = frozenset({protective_conductor.ID})
_AT_BOARD = frozenset({breaking_capacity.ID, short_circuit_withstand.ID})


@dataclass(frozen=True, slots=True, kw_only=True)
class LongestRun:
    """A size, the longest run it allows, and the check that fails first beyond it.

    ``length_m`` None: no length passes, and ``decided_by`` says why; ``unlimited``: passes as far as was looked. ``without``: checks that
    lack an input at any length and so have no say; the answer holds once they pass.
    """

    area_mm2: float
    length_m: float | None
    decided_by: str
    unlimited: bool = False
    without: tuple[str, ...] = ()


def max_lengths(job: Job, circuit_id: str) -> tuple[LongestRun, ...]:
    """The longest run of a circuit in each size of its kind of cable, smallest first; everything else as it is.

    A run of several sections is stretched in proportion. Nothing is said of a circuit with no cable chosen, or of
    several sections some of which have no length yet. The length there is plays no part in the answer. A run much
    shorter than the longest may still fail ``protective-conductor``, since more current flows there.
    """
    rules = rule_set(job.job.rules)
    circuit = job.find_circuit(circuit_id)
    if circuit is None or is_auto(circuit.cable) or circuit.cable.type not in rules.cables.kinds:
        return ()
    if len(circuit.run) > 1 and any(section.length_m is None for section in circuit.run):
        return ()
    runs, network = [], Installation.of(job, rules)
    for area in rules.cables.kinds[circuit.cable.type].sizes_mm2:
        stated = circuit.cable.cpc_mm2 if area == circuit.cable.area_mm2 else None
        sized = with_cable(circuit, circuit.cable.model_copy(update={"area_mm2": area, "cpc_mm2": stated}))
        runs.append(_longest(network, sized, area))
    return tuple(runs)


def longest_run(job: Job, circuit_id: str) -> LongestRun | None:
    """The longest run of a circuit in the cable it has; None where none is chosen, or some of its sections have no length yet.

    Raises  KeyError where there is no such circuit
    """
    circuit = job.circuit(circuit_id)
    if is_auto(circuit.cable) or (len(circuit.run) > 1 and any(section.length_m is None for section in circuit.run)):
        return None
    return _longest(Installation.of(job, rule_set(job.job.rules)), circuit, circuit.cable.area_mm2)


def _longest(network: Installation, circuit: Circuit, area: float) -> LongestRun:
    """Heat under an earth fault is the one check that a longer run can fix, since less current flows: it is left out
    of the search and asked at its end, and only where it fails there does it take part."""
    lacking = _lacking(network, circuit)
    longest_run = _search(network, circuit, area, _HEAT | lacking)
    if (
        longest_run.length_m is not None
        and _first_failing(network, circuit, longest_run.length_m, lacking) == protective_conductor.ID
    ):
        longest_run = _search(network, circuit, area, lacking)
    return replace(longest_run, without=tuple(sorted(lacking)))


def _lacking(network: Installation, circuit: Circuit) -> frozenset[str]:
    """Checks of what happens next to the board that lack an input, on the shortest and the longest run equally: no length answers them.
    Another check that lacks an input still ends the run: without it the longest run is not known."""
    lacks = []
    for length in (STEP_M, LONGEST_M):
        tried = _of_length(circuit, length)
        findings = findings_of(with_circuit(network.job, tried), tried, network.rules, like=network)
        lacks.append({finding.check for finding in findings if finding.verdict == "missing"})
    return _AT_BOARD & lacks[0] & lacks[1]


def _search(network: Installation, circuit: Circuit, area: float, passed_over: frozenset[str]) -> LongestRun:
    def ends(tenths: int) -> str:
        return _first_failing(network, circuit, tenths * STEP_M, passed_over)

    low, high = 1, round(LONGEST_M / STEP_M)
    at_once = ends(low)
    if at_once:
        return LongestRun(area_mm2=area, length_m=None, decided_by=at_once)
    if not ends(high):
        return LongestRun(area_mm2=area, length_m=LONGEST_M, decided_by="", unlimited=True)
    while high - low > 1:
        middle = (low + high) // 2
        if ends(middle):
            high = middle
        else:
            low = middle
    return LongestRun(area_mm2=area, length_m=round(low * STEP_M, 1), decided_by=ends(high))


def _first_failing(network: Installation, circuit: Circuit, length_m: float, passed_over: frozenset[str]) -> str:
    """The first check that does not pass at a length; empty where all do."""
    tried = _of_length(circuit, length_m)
    for finding in findings_of(with_circuit(network.job, tried), tried, network.rules, like=network):
        if finding.verdict in ("fail", "missing", "advice") and finding.check not in passed_over:
            return finding.check
    return ""


def _of_length(circuit: Circuit, length_m: float) -> Circuit:
    if len(circuit.run) == 1:
        return circuit.model_copy(update={"run": (circuit.run[0].model_copy(update={"length_m": length_m}),)})
    return scaled(circuit, length_m / sum(section.length_m or 0.0 for section in circuit.run))
