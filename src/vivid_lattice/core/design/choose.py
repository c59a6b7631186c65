"""The smallest device and cable that pass every check."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.assess import findings_of, in_board_order
from vivid_lattice.core.checks.context import Network
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings import Finding, shown
from vivid_lattice.core.job import Cable, Circuit, Job, with_circuit
from vivid_lattice.core.moves import with_cable, with_device
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet

#: Verdicts that do not count against a choice.
_GOOD = frozenset({"pass", "tight", "not-applicable"})
#: Checks of a final circuit that a larger feeder can mend.
_FEEDER_HELPS = ("voltage-drop", "disconnection")


@dataclass(frozen=True, slots=True)
class Decision:
    """What was chosen for a circuit, and the check that ruled out the next smaller choice."""

    circuit: str
    what: str
    chosen: str
    decided_by: str
    sentence: str
    passes: bool


@dataclass(frozen=True, slots=True)
class Design:
    """A job with nothing left as auto (as far as its inputs allow), and why."""

    job: Job
    decisions: tuple[Decision, ...]


def design(job: Job) -> Design:
    """Fill every device and cable left as ``auto`` with the smallest that pass all checks.

    Devices come first, since a feeder's load hangs on what it feeds; then cables from the origin outwards. Where a
    final circuit cannot be made to pass and its feeder was left open too, the feeder grows until it does.
    What lacks an input stays auto, and the decision says what is missing. The job given is left as it was.
    """
    rules, decisions = rule_set(job.job.rules), {}
    open_cables = {circuit.id for circuit in job.circuits if isinstance(circuit.cable, str)}
    for circuit in _devices_first(job):
        if isinstance(circuit.device, str):
            job, decision = _choose_device(job, circuit, rules)
            decisions[circuit.id, "device"] = decision
    for circuit in _feeders_first(job):
        if circuit.id in open_cables:
            job, decision = _choose_cable(job, circuit, rules)
            decisions[circuit.id, "cable"] = decision
            if not decision.passes:
                job = _grow_feeders(job, circuit, rules, open_cables, decisions)
    return Design(job, tuple(decisions.values()))


def _devices_first(job: Job) -> list[Circuit]:
    """Final circuits before the feeders that carry them, deepest boards first."""
    network = Network.of(job, rule_set(job.job.rules))
    return sorted(
        in_board_order(job), key=lambda circuit: (circuit.kind == "distribution", -len(network.tree.chain(circuit)))
    )


def _feeders_first(job: Job) -> list[Circuit]:
    network = Network.of(job, rule_set(job.job.rules))
    return sorted(
        in_board_order(job), key=lambda circuit: (circuit.kind != "distribution", len(network.tree.chain(circuit)))
    )


def _choose_device(job: Job, circuit: Circuit, rules: RuleSet) -> tuple[Job, Decision]:
    sockets = circuit.kind in ("ring", "radial") and circuit.design_current_a is None
    try:
        current = (
            rules.devices.socket_rating_a(circuit)
            if sockets
            else Network.of(job, rules).drops.design_current(circuit).current_a
        )
    except NeedsInput as lack:
        return job, Decision(circuit.id, "device", "auto", "", f"Left open: {lack} is missing.", False)
    kind = rules.devices.kind(rules.devices.default_device(circuit, current).kind)
    devices = [rules.devices.default_device(circuit, rating) for rating in kind.common_ratings_a if rating >= current]
    if not devices:
        sentence = f"Left open: {shown(current)} A is more than any device here carries."
        return job, Decision(circuit.id, "device", "auto", "overload", sentence, False)
    device = devices[0]
    if not isinstance(circuit.cable, str):
        # The cable is given, so a larger rating than the smallest is taken only where it alone passes.
        ranks = [_rank(findings_of(*_with(job, with_device(circuit, found)), rules)) for found in devices]
        device = devices[ranks.index(min(ranks))]
    chosen = f"{device.curve or ''}{device.rating_a:g}"
    why = "the customary rating of a socket circuit" if sockets else f"the smallest at or above {shown(current)} A"
    return with_circuit(job, with_device(circuit, device)), Decision(
        circuit.id, "device", chosen, "overload", f"{chosen}: {why}.", True
    )


def _choose_cable(job: Job, circuit: Circuit, rules: RuleSet) -> tuple[Job, Decision]:
    circuit = next(found for found in job.circuits if found.id == circuit.id)
    tried: list[tuple[int, Circuit, list[Finding]]] = []
    for cable in _cables(circuit, rules):
        candidate = with_cable(circuit, cable)
        findings = findings_of(*_with(job, candidate), rules)
        tried.append((_rank(findings), candidate, findings))
        if tried[-1][0] == 0:
            break
    if not tried:
        return job, Decision(
            circuit.id, "cable", "auto", "", "Left open: no kind of cable here may be laid by all its methods.", False
        )
    at = min(range(len(tried)), key=lambda index: (tried[index][0], index))
    rank, best, findings = tried[at]
    lacks = [need.what for found in findings for need in found.needs]
    if rank >= _RANK_MISSING:
        return job, Decision(
            circuit.id, "cable", "auto", "", f"Left open: {', '.join(dict.fromkeys(lacks))} missing.", False
        )
    assert not isinstance(best.cable, str)
    chosen = f"{best.cable.area_mm2:g} mm²"
    ruled_out = _bad_checks(tried[at - 1][2]) if at else []
    sentence = (
        f"{chosen}: the next smaller size fails {', '.join(ruled_out)}."
        if ruled_out
        else f"{chosen}: the smallest size there is."
    )
    if rank >= _RANK_FAIL:
        sentence = f"{chosen}: the best there is, and it still fails {', '.join(_bad_checks(findings))}."
    return with_circuit(job, best), Decision(
        circuit.id, "cable", chosen, ruled_out[0] if ruled_out else "", sentence, rank < _RANK_FAIL
    )


def _grow_feeders(
    job: Job, circuit: Circuit, rules: RuleSet, open_cables: set[str], decisions: dict[tuple[str, str], Decision]
) -> Job:
    """Larger feeders, nearest first and a size at a time, until the circuit passes; the job as it was if none helps."""
    stuck = next(found for found in job.circuits if found.id == circuit.id)
    helped = [check for check in _bad_checks(findings_of(job, stuck, rules)) if check in _FEEDER_HELPS]
    if not helped:
        return job
    chain = Network.of(job, rules).tree.chain(circuit)[:-1]
    for feeder in reversed([link for link in chain if link.id in open_cables and not isinstance(link.cable, str)]):
        assert not isinstance(feeder.cable, str)
        for area in rules.cables.kind(feeder.cable.type).sizes_mm2:
            if area <= feeder.cable.area_mm2:
                continue
            grown = with_circuit(job, with_cable(feeder, feeder.cable.model_copy(update={"area_mm2": area})))
            reopened = with_circuit(grown, circuit.model_copy(update={"cable": "auto"}))
            settled, decision = _choose_cable(reopened, circuit, rules)
            if decision.passes:
                decisions[circuit.id, "cable"] = decision
                decisions[feeder.id, "cable"] = Decision(
                    feeder.id,
                    "cable",
                    f"{area:g} mm²",
                    helped[0],
                    f"{area:g} mm²: a smaller feeder leaves too little for {circuit.name}.",
                    True,
                )
                return settled
    return job


def _cables(circuit: Circuit, rules: RuleSet) -> Iterator[Cable]:
    """Sizes, smallest first, of the school's usual cable for the way the circuit is laid."""
    methods = {section.method for section in circuit.run}
    buried = any(rules.factors.methods[method].medium == "ground" for method in methods)
    preferred = rules.default_buried_cable if buried else rules.default_cable
    order = [preferred, *(kind for kind in rules.cables.kinds if kind != preferred)]
    kind = next((rules.cables.kinds[name] for name in order if methods <= set(rules.cables.kinds[name].methods)), None)
    if kind is None:
        return
    for area in kind.sizes_mm2:
        yield Cable.model_validate({"type": kind.id, "area_mm2": area, "cpc": kind.cpc_choices[0]})


_RANK_ADVICE, _RANK_FAIL, _RANK_MISSING = 1, 100, 1000


def _rank(findings: list[Finding]) -> int:
    """0 for all good; more for advice, more again for each failure, most for what cannot be worked out."""
    weight = {"advice": _RANK_ADVICE, "fail": _RANK_FAIL, "missing": _RANK_MISSING}
    return sum(weight.get(found.verdict, 0) for found in findings)


def _bad_checks(findings: list[Finding]) -> list[str]:
    return [found.check for found in findings if found.verdict not in _GOOD]


def _with(job: Job, circuit: Circuit) -> tuple[Job, Circuit]:
    return with_circuit(job, circuit), circuit
