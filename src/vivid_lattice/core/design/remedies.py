"""What would fix a finding: changes found by running the engine on the changed job."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from math import floor

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS, run_board_check, run_check, run_supply_check
from vivid_lattice.core.checks.support.device_pairs import DISTRIBUTOR
from vivid_lattice.core.design.board_changes import OF_BOARDS, OF_SUPPLY
from vivid_lattice.core.design.candidate_changes import (
    CandidateChange,
    larger_cables,
    larger_device,
    other_devices,
    other_methods,
    protected,
    scaled,
)
from vivid_lattice.core.design.protection_changes import (
    delayed_ahead,
    larger_feeders,
    less_residual,
    other_types,
    own_rcd,
)
from vivid_lattice.core.document.job import Circuit, Job, with_parts
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.findings.finding import Finding, Remedy, Subject
from vivid_lattice.core.findings.verdict import VERDICT_ORDER
from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext, SupplyContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.stopping import stop_point
from vivid_lattice.core.text import Shown

_MENDED = ("pass", "tight")
_MENDABLE = ("fail", "advice", "tight")
#: Message of what a remedy comes to, where something is still to be said of it.
_EFFECTS = {"tight": "core.fix.effect_tight", "advice": "core.fix.effect_advice"}
#: Changes that are shown for a finding: one key each, 1 to 9.
_MOST = 9
#: Lengths are offered to a tenth of a metre, rounded down.
_LENGTH_STEP_M = 0.1

_Maker = Callable[[Circuit, RuleSet], Iterator[CandidateChange]]
_MAKERS: dict[str, tuple[_Maker, ...]] = {
    "overload": (larger_device,),
    "capacity": (larger_cables, other_devices, other_methods),
    "voltage-drop": (larger_cables, other_devices),
    "disconnection": (larger_cables, other_devices),
    "protective-conductor": (larger_cables, other_devices),
    "breaking-capacity": (other_devices,),
    "selectivity-overload": (other_devices,),
    "selectivity-short-circuit": (other_devices,),
    "rcd-duty": (protected,),
    "arc-fault": (protected,),
    "rcd-type": (protected,),
}
#: Those that need the whole job: what is ahead, or the device that several circuits share.
_MAKERS_OF_JOB: dict[str, tuple[Callable[[Job, Circuit, RuleSet], Iterator[CandidateChange]], ...]] = {
    "selectivity-overload": (larger_feeders,),
    "selectivity-short-circuit": (larger_feeders,),
    "selectivity-residual": (delayed_ahead,),
    "disconnection": (less_residual, own_rcd),
    "rcd-duty": (less_residual, own_rcd),
    "rcd-type": (other_types, own_rcd),
    "leakage": (own_rcd,),
}
_CHECKS = {check.id: check for check in CHECKS}
_BOARD = {check.id: check for check in BOARD_CHECKS}
_SUPPLY = {check.id: check for check in SUPPLY_CHECKS}
_HELPED_BY_LENGTH = ("voltage-drop", "disconnection", "protective-conductor")


def remedies(job: Job, check: str, subject: Subject) -> tuple[Remedy, ...]:
    """Changes that turn a failing, advised or tight finding of a circuit into a better one, the gentlest first.

    Every one is judged by assessing the whole changed job: its verdict here, and what it makes worse elsewhere.
    Of a kind (larger cable, smaller device, …) only the first that fixes is kept. Empty where nothing fixes it.
    Raises Stopped where no one waits for it any more.
    """
    trials = _Trials(job, assess(job, explain=False))
    here = find(trials.before, check, subject)
    return trials.remedies_of(here) if here is not None else ()


def with_remedies(job: Job, assessment: Assessment) -> Assessment:
    """The assessment with the remedies of every failing, advised or tight finding filled in. Raises Stopped."""
    trials = _Trials(job, assessment)
    return replace(
        assessment,
        findings=tuple(
            replace(finding, remedies=trials.remedies_of(finding)) if finding.verdict in _MENDABLE else finding
            for finding in assessment.findings
        ),
    )


def find(assessment: Assessment, check: str, subject: Subject) -> Finding | None:
    """The finding of a check on a subject, if there is one."""
    return next(
        (finding for finding in assessment.findings if finding.check == check and finding.subject == subject), None
    )


def with_others(here: Finding) -> bool:
    """Whether a finding is due to something outside its circuit or board that is not fixed there: the distributor's device, or the
    supply, which says it itself."""
    if here.cause is None or here.cause.subject.kind == here.subject.kind:
        return False
    return here.cause.check == DISTRIBUTOR or (here.check == "demand" and here.cause.subject.kind == "supply")


def _moves(job: Job, circuit: Circuit, check: str, rules: RuleSet) -> Iterator[CandidateChange]:
    for maker in _MAKERS.get(check, ()):
        yield from maker(circuit, rules)
    for of_job in _MAKERS_OF_JOB.get(check, ()):
        yield from of_job(job, circuit, rules)
    if check in ("voltage-drop", "disconnection"):
        for feeder in Tree(job).chain(circuit)[:-1]:
            for move in larger_cables(feeder, rules):
                yield CandidateChange(
                    kind=f"feeder-{feeder.id}",
                    label=message(rules.words, "core.fix.at", place=feeder.name, change=move.label),
                    circuit=move.circuit,
                )


def _better(now: Finding, was: Finding) -> bool:
    if was.verdict == "tight":
        return now.verdict == "pass"
    return VERDICT_ORDER.index(now.verdict) > VERDICT_ORDER.index(was.verdict)


def worsened(before: Assessment, after: Assessment) -> tuple[str, ...]:
    """Findings whose verdict a change makes worse, as 'circuit: check' in ids."""
    old = {(finding.check, finding.subject): finding.verdict for finding in before.findings}
    return tuple(
        f"{finding.subject.id}: {finding.check}"
        for finding in after.findings
        if finding.verdict in ("fail", "missing", "advice")
        and VERDICT_ORDER.index(finding.verdict)
        < VERDICT_ORDER.index(old.get((finding.check, finding.subject), "pass"))
    )


class _Trials:
    """Changed jobs tried out for one job. The check in question is asked first, alone; only where it comes out better is the
    whole changed job assessed, and once only, however many findings the same change improves."""

    def __init__(self, job: Job, before: Assessment):
        self.before = before
        self._job, self._rules = job, rule_set(job.job.rules)
        self._circuits = {circuit.id: circuit for circuit in job.circuits}
        self._assessed: dict[tuple[str, ...], Assessment] = {}

    def remedies_of(self, here: Finding) -> tuple[Remedy, ...]:
        """The fixes for one finding, the gentlest first; none for what no one on site can change, or what the supply's finding says."""
        if here.verdict not in _MENDABLE or with_others(here):
            return ()
        circuit = self._circuits.get(here.subject.id) if here.subject.kind == "circuit" else None
        by_kind: dict[str, Remedy] = {}
        for move in self._moves(circuit, here):
            if move.kind in by_kind:
                continue
            remedy = self._tried(move, here)
            if remedy is not None:
                by_kind[move.kind] = remedy
        shorter = self._shorter(circuit, here) if circuit is not None and here.check in _HELPED_BY_LENGTH else None
        if shorter is not None:
            by_kind["shorter"] = shorter
        ranked = sorted(by_kind.values(), key=lambda remedy: len(remedy.worsens))
        return tuple(ranked[:_MOST])

    def _moves(self, circuit: Circuit | None, here: Finding) -> Iterator[CandidateChange]:
        if circuit is not None:
            yield from _moves(self._job, circuit, here.check, self._rules)
        elif here.subject.kind == "board" and here.check in OF_BOARDS:
            board = self._job.find_board(here.subject.id)
            if board is not None:
                yield from OF_BOARDS[here.check](self._job, board, self._rules)
        elif here.subject.kind == "supply" and here.check in OF_SUPPLY:
            yield from OF_SUPPLY[here.check](self._job, self._rules)

    def _tried(self, move: CandidateChange, here: Finding) -> Remedy | None:
        stop_point()
        now = self._checked_again(move, here)
        accepted = (*_MENDED, "advice") if here.verdict == "fail" else _MENDED
        if now is None or now.verdict not in accepted or not _better(now, here):
            return None
        worse = worsened(self.before, self._after(move))
        if worse and here.verdict == "tight":
            # More space is no reason to break something else; a failure may be.
            return None
        effect = message(
            self._rules.words,
            _EFFECTS.get(now.verdict, "core.fix.effect"),
            value=now.shown_value,
            limit=now.shown_limit,
            unit=now.unit,
        )
        return Remedy(
            id=move.kind,
            label=move.label,
            effect=effect,
            verdict=now.verdict,
            value=now.value,
            shown_value=now.shown_value,
            worsens=worse,
            circuits=move.circuits,
            boards=move.boards,
            supply=move.supply,
        )

    def _checked_again(self, move: CandidateChange, here: Finding) -> Finding | None:
        changed = with_parts(self._job, move.circuits, move.boards, move.supply)
        network = Installation.of(changed, self._rules)
        if here.subject.kind == "supply":
            return run_supply_check(_SUPPLY[here.check], SupplyContext(network, explain=False))
        if here.subject.kind == "board":
            board = changed.find_board(here.subject.id)
            return run_board_check(_BOARD[here.check], BoardContext(network, board, explain=False)) if board else None
        circuit = changed.find_circuit(here.subject.id)
        if circuit is None:
            return None
        return run_check(_CHECKS[here.check], CircuitContext(network, circuit, explain=False))

    def _after(self, move: CandidateChange) -> Assessment:
        parts = (*move.circuits, *move.boards, *filter(None, [move.supply]))
        key = tuple(part.model_dump_json() for part in parts)
        if key not in self._assessed:
            self._assessed[key] = assess(with_parts(self._job, move.circuits, move.boards, move.supply), explain=False)
        return self._assessed[key]

    def _shorter(self, circuit: Circuit, here: Finding) -> Remedy | None:
        """The longest run that fixes the finding, by halving the interval; None where no length does."""
        length = sum(section.length_m or 0.0 for section in circuit.run)
        if length <= _LENGTH_STEP_M:
            return None

        def mends(metres: float) -> Remedy | None:
            label = message(None, "core.fix.shorter", m=Shown(f"{metres:.1f}"), length=Shown(f"{length:g}"))
            return self._tried(
                CandidateChange(kind="shorter", label=label, circuit=scaled(circuit, metres / length)), here
            )

        low, high = 0, floor(length / _LENGTH_STEP_M)
        best: Remedy | None = None
        while high - low > 1:
            middle = (low + high) // 2
            remedy = mends(middle * _LENGTH_STEP_M)
            if remedy is None:
                high = middle
            else:
                low, best = middle, remedy
        return best
