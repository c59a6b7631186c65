"""The device and cable of each circuit of a job: devices first, then cables from the origin outwards, each looked at again where the other does not do."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from vivid_lattice.core.assessment.assess import findings_of, in_board_order
from vivid_lattice.core.checks import disconnection, overload, rcd_requirement, run_check_alone, surge
from vivid_lattice.core.design.board_changes import surge_device
from vivid_lattice.core.design.cable_choice import choose_cable
from vivid_lattice.core.design.candidate_changes import with_cable, with_device
from vivid_lattice.core.design.decisions import (
    GOOD,
    Decision,
    Design,
    bad_checks,
)
from vivid_lattice.core.design.device_choice import choose_device, that_breaks
from vivid_lattice.core.design.phase_balance import balanced
from vivid_lattice.core.design.shared_rcds import with_shared_rcds
from vivid_lattice.core.design.usual import usual_in
from vivid_lattice.core.document.base import is_auto, is_origin
from vivid_lattice.core.document.job import Circuit, Device, Job, with_circuit, with_parts
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.contexts import CircuitContext, SupplyContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet

#: Decisions by circuit or board, and what is decided.
Decisions = dict[tuple[str, str], Decision]

#: Checks of a final circuit that a larger feeder can fix.
_FEEDER_HELPS = ("voltage-drop", "disconnection")


def design(job: Job, *, spd: bool = True) -> Design:
    """Fill every line, device and cable left open with what passes all checks: the smallest, or the cheapest where the job
    requires that; but no smaller than is usual for the kind of circuit, unless the job's setting turns that off.

    Lines come first, spread evenly; then devices, since a feeder's load is fed by what it feeds; then cables from the origin
    outwards. Where a final circuit cannot be made to pass and its feeder was left open too, the feeder grows until it does.
    What lacks an input stays auto, and the decision says what is missing. The job given is left as it was.

    spd  whether a board that needs a surge protective device gets one too, where the job's setting says so
    """
    rules = rule_set(job.job.rules)
    decisions: Decisions = {}
    open_cables = {circuit.id for circuit in job.circuits if is_auto(circuit.cable)}
    open_devices = {circuit.id for circuit in job.circuits if is_auto(circuit.device)}
    job = _on_lines(job, rules, decisions)
    job = _behind_usual_rcds(job, rules, open_devices, decisions)
    for circuit in _devices_first(job):
        if is_auto(circuit.device):
            job, decision = choose_device(job, circuit, rules)
            decisions[circuit.id, "device"] = decision
    for circuit in _feeders_first(job):
        if circuit.id in open_cables:
            job = _with_its_cable(job, circuit, rules, open_cables, open_devices, decisions)
    job, added = _with_spd(job, rules) if spd else (job, ())
    return Design(job, (*decisions.values(), *added))


def _on_lines(job: Job, rules: RuleSet, decisions: Decisions) -> Job:
    """The job with a line for each circuit that has none."""
    job, placed = balanced(job, rules)
    for identity in placed:
        [line] = job.circuit(identity).lines
        sentence = message(rules.words, "core.design.line", phase=line)
        decisions[identity, "line"] = Decision(
            circuit=identity, what="line", chosen=line, decided_by="demand", sentence=sentence, passes=True
        )
    return job


def _behind_usual_rcds(job: Job, rules: RuleSet, open_devices: set[str], decisions: Decisions) -> Job:
    """The job with the shared RCDs that are usual in boards whose circuits have no devices yet."""
    for board in job.boards:
        here = {way.circuit for way in board.ways} & open_devices
        usual = [usual_in(job, circuit, rules) for circuit in job.circuits if circuit.id in here]
        job, sentence = with_shared_rcds(job, board, [choice for choice in usual if choice is not None], rules)
        if sentence:
            decisions[board.id, "rcds"] = Decision(
                circuit=board.id,
                what="rcds",
                chosen="shared",
                decided_by=rcd_requirement.ID,
                sentence=sentence,
                passes=True,
            )
    return job


def _with_its_cable(
    job: Job, circuit: Circuit, rules: RuleSet, open_cables: set[str], open_devices: set[str], decisions: Decisions
) -> Job:
    """The job with a circuit's cable; with a quicker device or larger feeders too, where those alone make it pass."""
    before = job
    job, decision = choose_cable(job, circuit, rules)
    decisions[circuit.id, "cable"] = decision
    if circuit.id in open_devices and decision.decided_by == disconnection.ID:
        job, quicker = _quicker(before, job, circuit, rules, decision)
        for revised in quicker:
            decisions[circuit.id, revised.what] = decision = revised
    return job if decision.passes else _grow_feeders(job, circuit, rules, open_cables, decisions)


def _with_spd(job: Job, rules: RuleSet) -> tuple[Job, tuple[Decision, ...]]:
    """The job with the usual surge protective device in its first board, where one is required and the job's setting has it added."""
    board = next((board for board in job.boards if is_origin(board.fed_by)), None)
    if not job.settings.design_spd or board is None or any(other.spds for other in job.boards) or not job.circuits:
        return job, ()
    try:
        finding = run_check_alone(surge.check, surge.ID, SupplyContext(Installation.of(job, rules), explain=False))
    except NeedsInput:
        return job, ()
    if finding.verdict != "fail":
        return job, ()
    spd = surge_device(job, board)
    changed = with_parts(job, (), (board.model_copy(update={"spds": (spd,)}),))
    sentence = message(rules.words, "core.design.spd", type=spd.type, board=board.name)
    return changed, (
        Decision(
            circuit=board.id, what="spd", chosen=f"type {spd.type}", decided_by=surge.ID, sentence=sentence, passes=True
        ),
    )


def _devices_first(job: Job) -> list[Circuit]:
    """Final circuits before the feeders that carry them, deepest boards first."""
    network = Installation.of(job, rule_set(job.job.rules))
    return sorted(
        in_board_order(job), key=lambda circuit: (circuit.kind == "distribution", -len(network.tree.chain(circuit)))
    )


def _feeders_first(job: Job) -> list[Circuit]:
    network = Installation.of(job, rule_set(job.job.rules))
    return sorted(
        in_board_order(job), key=lambda circuit: (circuit.kind != "distribution", len(network.tree.chain(circuit)))
    )


def _quicker(
    before: Job, job: Job, circuit: Circuit, rules: RuleSet, decision: Decision
) -> tuple[Job, tuple[Decision, ...]]:
    """The job with a device that trips at less current, where the one chosen requires a larger cable than it carries, or fails: the
    same rating in a quicker characteristic, then as a fuse. The job as it was where none does better."""
    here = before.circuit(circuit.id)
    best_area = _area_of(job, circuit.id) if decision.passes else inf
    best: tuple[Job, tuple[Decision, ...]] = (job, ())
    device = here.device
    if is_auto(device) or (circuit.preferred is not None and circuit.preferred.curve is not None):
        return best
    for tried in _opening_sooner(device, circuit, rules):
        changed = with_circuit(before, with_device(here, that_breaks(before, here, tried, rules)))
        if run_check_alone(overload.check, overload.ID, _context(changed, circuit.id, rules)).verdict not in GOOD:
            continue
        made, cable_decision = choose_cable(changed, circuit, rules)
        if cable_decision.passes and (area := _area_of(made, circuit.id)) < best_area:
            name = f"{tried.curve or ''}{tried.rating_a:g}"
            sentence = message(rules.words, "core.design.sooner", device=name)
            chosen = Decision(
                circuit=circuit.id,
                what="device",
                chosen=name,
                decided_by=disconnection.ID,
                sentence=sentence,
                passes=True,
            )
            best, best_area = (made, (chosen, cable_decision)), area
    return best


def _opening_sooner(device: Device, circuit: Circuit, rules: RuleSet) -> Iterator[Device]:
    """The same rating in each quicker characteristic, and for a feeder as a fuse."""
    kind = rules.devices.kind(device.kind)
    for curve in kind.curves:
        if device.curve is not None and curve < device.curve:
            yield device.model_copy(update={"curve": curve})
    if circuit.kind != "distribution":
        return
    for other in rules.devices.kinds.values():
        if other.action == "fuse" and other.current and device.rating_a in other.common_ratings_a:
            yield device.model_copy(update={"kind": other.id, "curve": None, "rcd": None, "breaking_ka": None})


def _context(job: Job, identity: str, rules: RuleSet) -> CircuitContext:
    circuit = job.circuit(identity)
    return CircuitContext(Installation.of(job, rules), circuit, explain=False)


def _area_of(job: Job, identity: str) -> float:
    """Size of a circuit's cable [mm²]; infinite while it is open."""
    cable = job.circuit(identity).cable
    return inf if is_auto(cable) else cable.area_mm2


def _open_feeders(job: Job, circuit: Circuit, rules: RuleSet, open_cables: set[str]) -> list[Circuit]:
    """Feeders ahead of a circuit whose cable the design chose itself, nearest first."""
    chain = Installation.of(job, rules).tree.chain(circuit)[:-1]
    return [link for link in reversed(chain) if link.id in open_cables and not is_auto(link.cable)]


def _grow_feeders(job: Job, circuit: Circuit, rules: RuleSet, open_cables: set[str], decisions: Decisions) -> Job:
    """Larger feeders, nearest first and a size at a time, until the circuit passes; the job as it was if none helps."""
    stuck = job.circuit(circuit.id)
    helped = [check for check in bad_checks(findings_of(job, stuck, rules)) if check in _FEEDER_HELPS]
    if not helped:
        return job
    for feeder in _open_feeders(job, circuit, rules, open_cables):
        assert not is_auto(feeder.cable)
        for area in rules.cables.kind(feeder.cable.type).sizes_mm2:
            if area <= feeder.cable.area_mm2:
                continue
            grown = with_circuit(job, with_cable(feeder, feeder.cable.model_copy(update={"area_mm2": area})))
            reopened = with_circuit(grown, circuit.model_copy(update={"cable": "auto", "device": stuck.device}))
            settled, decision = choose_cable(reopened, circuit, rules)
            if decision.passes:
                decisions[circuit.id, "cable"] = decision
                size = rules.cables.size_label(area)
                sentence = message(rules.words, "core.design.feeder", cable=size, circuit=circuit.name)
                decisions[feeder.id, "cable"] = Decision(
                    circuit=feeder.id, what="cable", chosen=size, decided_by=helped[0], sentence=sentence, passes=True
                )
                return settled
    return job
