"""An architecture as a plan: the job with it in place, and what it costs, takes and leaves without light."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from vivid_lattice.core.checks import (
    division,
    leakage,
    rcd_loading,
    rcd_requirement,
    rcd_type,
    run_check_alone,
    selectivity_residual,
)
from vivid_lattice.core.design.rcd_plans.architectures import (
    SHAPES,
    Architecture,
    PlanSolution,
    Weights,
    architecture_title,
)
from vivid_lattice.core.design.rcd_plans.circuit_facts import (
    CircuitFacts,
    Limits,
    breaker_price,
    facts_of,
    limits_of,
    present_places,
    rcbo_price,
    switch_for,
)
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit, Device, Job, SharedRcd, with_parts
from vivid_lattice.core.document.rcd import RCD_TYPES, Rcd, RcdType
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import DeviceKind, DeviceRules
from vivid_lattice.core.text import Shown


@dataclass(frozen=True, slots=True, kw_only=True)
class GroupPlan:
    """A residual-current device of a plan: its rating, which circuits lose supply with it, and the margin of leakage [mA].

    shared  whether it is a shared RCD; else it is the RCBO of one circuit, and named after it
    """

    name: str
    shared: bool
    rating_a: float
    circuits: tuple[str, ...]
    circuits_lost: tuple[str, ...]
    loss_score: int
    leakage_ma: float
    margin_ma: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RcdPlan:
    """An architecture worked out for a board; or why the rules leave none (``job`` None then).

    ``assumed_required``: circuits for which an input is missing, so that an RCD counts as required. ``modules``: ways that residual-current devices and the circuits' own take; ``gap_pct``: what might at most be better, by
    the user's weights; 0 where nothing is.
    """

    architecture: Architecture
    title: Text
    not_possible: Text
    job: Job | None
    groups: tuple[GroupPlan, ...]
    ahead: tuple[str, ...]
    assumed_required: tuple[str, ...]
    devices: int
    modules: float
    cost: float
    worst_loss: int
    objective: float
    proven: bool
    gap_pct: float
    seconds: float


def plan(
    job: Job,
    board_id: str,
    architecture: Architecture,
    weights: Weights | None = None,
    *,
    seconds: float = 1.5,
    cancelled: Callable[[], bool] = lambda: False,
) -> RcdPlan:
    """An architecture for a board of a job that ``read_document`` has accepted.

    Raises OutOfRange where there is no such board or it feeds nothing, NeedsInput while a device or a length is open.
    """
    # The solver takes a second to load, which nothing but a plan should wait for.
    from vivid_lattice.core.design.rcd_plans.solver import solve

    network = Installation.of(job, rule_set(job.job.rules))
    board = network.tree.boards.get(board_id)
    if board is None:
        raise NotPossible(
            network.message("core.rcd_plan.no_board", board=board_id, known=Joined.of(network.tree.boards, ", "))
        )
    facts, limits = facts_of(network, board), limits_of(network, board)
    if not facts:
        raise NotPossible(network.message("core.rcd_plan.empty", board=board.name))
    solved = solve(
        facts,
        limits,
        architecture,
        weights or Weights(),
        present=present_places(board, facts),
        seconds=seconds,
        cancelled=cancelled,
    )
    if solved is None:
        return _refused(network, architecture, _why_not(facts, limits, architecture))
    planned = _planned(network, board, facts, limits, architecture, solved)
    assert planned.job is not None
    wrong = not_met(network, planned.job, board.id)
    return _refused(network, architecture, wrong) if wrong else planned


def _refused(network: Installation, architecture: Architecture, why: Text) -> RcdPlan:
    return RcdPlan(
        architecture=architecture,
        title=architecture_title(architecture, network.rules.words),
        not_possible=why,
        job=None,
        groups=(),
        ahead=(),
        assumed_required=(),
        devices=0,
        modules=0.0,
        cost=0.0,
        worst_loss=0,
        objective=0.0,
        proven=True,
        gap_pct=0.0,
        seconds=0.0,
    )


def _why_not(facts: tuple[CircuitFacts, ...], limits: Limits, architecture: Architecture) -> Message:
    """Why an architecture has no grouping, by the first rule that alone forbids it."""
    shared, has_own_device, _ = SHAPES[architecture]
    if shared and not limits.shared:
        return message(limits.words, "core.rcd_plan.per_circuit")
    if not has_own_device and (reason := _alone_forbids(facts, limits, shared)):
        return reason
    if len(facts) < shared:
        return message(limits.words, "core.rcd_plan.too_few", n=len(facts), m=int(shared))
    if shared and (reason := _too_many(facts, limits, shared)):
        return reason
    return message(limits.words, "core.rcd_plan.none")


def _alone_forbids(facts: tuple[CircuitFacts, ...], limits: Limits, shared: int) -> Message | None:
    """Why shared devices alone are not enough; None where they may be."""
    by_itself = next((fact.circuit.name for fact in facts if fact.own_device), None)
    if by_itself is not None:
        return message(limits.words, "core.rcd_plan.own", circuit=by_itself)
    if limits.lights_apart and shared == 1 and sum(fact.lights for fact in facts) > 1:
        return message(limits.words, "core.rcd_plan.lights")
    if 0 < shared < limits.least_rcds:
        return message(limits.words, "core.rcd_plan.least", n=limits.least_rcds)
    return None


def _too_many(facts: tuple[CircuitFacts, ...], limits: Limits, shared: int) -> Message | None:
    """Why so many circuits, or so much leakage, do not go behind the shared devices; None where they do."""
    if limits.most_per_rcd is not None and len(facts) > shared * limits.most_per_rcd:
        return message(limits.words, "core.rcd_plan.most", n=len(facts), m=shared, max=limits.most_per_rcd)
    total = sum(fact.leak_ua for fact in facts)
    if total > shared * limits.leak_ua:
        return message(
            limits.words,
            "core.rcd_plan.leakage",
            ma=Shown(f"{total / 1000:.1f}"),
            limit=Shown(f"{shared * limits.leak_ua / 1000:g}"),
            n=shared,
        )
    return None


def _planned(
    network: Installation,
    board: Board,
    facts: tuple[CircuitFacts, ...],
    limits: Limits,
    architecture: Architecture,
    solved: PlanSolution,
) -> RcdPlan:
    by_place: dict[int | str, list[CircuitFacts]] = {}
    for fact in facts:
        by_place.setdefault(solved.places[fact.circuit.id], []).append(fact)
    singly, ahead = by_place.pop("own", []), by_place.pop("ahead", [])
    shared = [_group(number, facts, limits) for number, facts in sorted(by_place.items()) if isinstance(number, int)]
    groups = (*shared, *(_single(fact, limits) for fact in singly))
    bought = [
        *[breaker_price()] * (len(facts) - len(singly)),
        *(rcbo_price(fact.min_type) for fact in singly),
        *(switch for group in shared if (switch := switch_for(group.rating_a))),
    ]
    gap = 0.0 if solved.proven or solved.objective <= 0 else 100 * (solved.objective - solved.bound) / solved.objective
    return RcdPlan(
        architecture=architecture,
        title=architecture_title(architecture, network.rules.words),
        not_possible="",
        job=_applied(network, board, facts, solved, shared, limits),
        groups=groups,
        ahead=tuple(fact.circuit.name for fact in ahead),
        assumed_required=tuple(fact.circuit.name for fact in facts if fact.unsure),
        devices=len(groups),
        modules=sum(device.modules for device in bought),
        cost=round(sum(device.price for device in bought), 2),
        worst_loss=max((group.loss_score for group in groups), default=0),
        objective=solved.objective,
        proven=solved.proven,
        gap_pct=gap,
        seconds=solved.seconds,
    )


def _fails_anew(before: Installation, after: Installation, circuit: Circuit) -> Text | None:
    """What a check of RCDs says of a circuit that failed nothing of the kind before; None where there is nothing."""
    was = before.tree.circuits[circuit.id]
    for check, name in _OF_CIRCUITS:
        finding = run_check_alone(check, name, CircuitContext(after, circuit, explain=False))
        if finding.verdict != "fail":
            continue
        if run_check_alone(check, name, CircuitContext(before, was, explain=False)).verdict != "fail":
            return finding.sentence
    return None


def not_met(before: Installation, planned: Job, board_id: str) -> Text | None:
    """Why a planned job is not offered: a circuit without an RCD that it needs, or a check of RCDs that fails and did not before;
    None where there is nothing."""
    after = Installation.of(planned, before.rules)
    board = after.tree.boards[board_id]
    circuits = [after.tree.circuits[way.circuit] for way in board.ways]
    for circuit in circuits:
        required = run_check_alone(
            rcd_requirement.check, rcd_requirement.ID, CircuitContext(after, circuit, explain=False)
        )
        if required.verdict in ("fail", "missing") and circuit.kind != "distribution":
            return after.message("core.rcd_plan.at", circuit=circuit.name, sentence=required.sentence)
    for circuit in circuits:
        if worse := _fails_anew(before, after, circuit):
            return after.message("core.rcd_plan.at", circuit=circuit.name, sentence=worse)
    for board_check, name in _OF_BOARDS:
        finding = run_check_alone(board_check, name, BoardContext(after, board, explain=False))
        earlier = run_check_alone(board_check, name, BoardContext(before, before.tree.boards[board_id], explain=False))
        if finding.verdict == "fail" and earlier.verdict != "fail":
            return finding.sentence
    return None


#: Checks that a plan of RCDs decides, of circuits and of boards.
_OF_CIRCUITS = (
    (rcd_type.check, rcd_type.ID),
    (leakage.check, leakage.ID),
    (selectivity_residual.check, selectivity_residual.ID),
)
_OF_BOARDS = ((rcd_loading.check, rcd_loading.ID), (division.check, division.ID))


def darkness(facts: list[CircuitFacts]) -> int:
    """How much loses supply with some circuits at once; what must stay on counts double where sockets trip it."""
    sockets = any(fact.sockets for fact in facts)
    return sum(fact.loss_score * (2 if fact.kept and sockets and len(facts) > 1 else 1) for fact in facts)


def _needed_a(facts: list[CircuitFacts], limits: Limits) -> float:
    """Least rating of a shared switch: what is ahead, or the total behind it on its most loaded line [A]."""
    sums: dict[str, float] = {}
    for fact in facts:
        for line in fact.lines:
            sums[line] = sums.get(line, 0.0) + fact.rating_a
    behind = max(sums.values())
    return min(behind, limits.ahead_a) if limits.ahead_a is not None else behind


def _group(number: int, facts: list[CircuitFacts], limits: Limits) -> GroupPlan:
    switch = switch_for(_needed_a(facts, limits))
    assert switch is not None  # the solver has chosen one
    return _group_plan(f"RCD {number + 1}", True, switch.rating_a, facts, limits)


def _single(fact: CircuitFacts, limits: Limits) -> GroupPlan:
    return _group_plan(f"RCBO {fact.circuit.name}", False, fact.rating_a, [fact], limits)


def _group_plan(name: str, shared: bool, rating_a: float, facts: list[CircuitFacts], limits: Limits) -> GroupPlan:
    leak = sum(fact.leak_ua + fact.usual_ua for fact in facts) / 1000
    names = tuple(fact.circuit.name for fact in facts)
    ids = tuple(fact.circuit.id for fact in facts)
    return GroupPlan(
        name=name,
        shared=shared,
        rating_a=rating_a,
        circuits=ids,
        circuits_lost=names,
        loss_score=darkness(facts),
        leakage_ma=leak,
        margin_ma=limits.leak_ua / 1000 - leak,
    )


def _applied(
    network: Installation,
    board: Board,
    facts: tuple[CircuitFacts, ...],
    solved: PlanSolution,
    groups: list[GroupPlan],
    limits: Limits,
) -> Job:
    """The job with the plan in place: shared devices, ways behind them, breakers and residual-current breakers."""
    devices = network.rules.devices
    rcds = tuple(
        SharedRcd(id=f"r{number}", name=group.name, rating_a=group.rating_a, rcd=Rcd(idn_ma=limits.idn_ma, type="A"))
        for number, group in enumerate(groups, 1)
    )
    behind = {name: f"r{number}" for number, group in enumerate(groups, 1) for name in group.circuits}
    ways = tuple(way.model_copy(update={"rcd": behind.get(way.circuit)}) for way in board.ways)
    switch = board.main_switch
    if switch is not None and switch.rcd is not None and not switch.rcd.time_delayed:
        switch = switch.model_copy(update={"rcd": None})
    changed = board.model_copy(update={"shared_rcds": rcds, "ways": ways, "main_switch": switch})
    circuits = tuple(_refitted(fact, solved.places[fact.circuit.id], devices) for fact in facts)
    return with_parts(network.job, circuits, (changed,))


def _refitted(fact: CircuitFacts, place: int | str, devices: DeviceRules) -> Circuit:
    """A circuit behind a plain breaker, or a residual-current breaker of its own, of the rating and letter it has."""
    circuit, device = fact.circuit, fact.circuit.device
    assert not is_auto(device)
    if place == "own":
        kind = devices.kinds[device.kind] if devices.kinds[device.kind].has_rcd else _with_rcd(devices, device.rating_a)
        if kind is None:
            return circuit
        usual = kind.usual_rcd.model_copy(update={"type": _at_least(fact.min_type)}) if kind.usual_rcd else None
        kept = device.rcd if device.rcd is not None and _sees(device.rcd.type, fact.min_type) else usual
        return circuit.model_copy(
            update={
                "device": device.model_copy(
                    update={"kind": kind.id, "rcd": kept, "curve": device.curve or kind.usual_curve}
                )
            }
        )
    if devices.kinds[device.kind].has_rcd:
        plain = next(
            kind.id for kind in devices.kinds.values() if kind.action == "breaker" and not kind.has_rcd and kind.current
        )
        return circuit.model_copy(
            update={"device": Device.model_validate(device.model_dump() | {"kind": plain, "rcd": None})}
        )
    return circuit


def _with_rcd(devices: DeviceRules, rating_a: float) -> DeviceKind | None:
    """The standard's kind of breaker with a residual-current part that comes in a rating."""
    return next(
        (kind for kind in devices.kinds.values() if kind.has_rcd and kind.current and rating_a in kind.ratings_a), None
    )


def _at_least(least: str) -> RcdType:
    return "F" if least == "F" else "B" if least == "B" else "A"


def _sees(has: RcdType, least: str) -> bool:
    return RCD_TYPES.index(has) >= RCD_TYPES.index(_at_least(least))
