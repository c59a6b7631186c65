"""What would mend a finding: changes found by running the engine on the changed job."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from math import floor

from vivid_lattice.core.assess import assess
from vivid_lattice.core.findings import VERDICT_ORDER, Assessment, Finding, Remedy, Subject
from vivid_lattice.core.job import Circuit, Job, with_parts
from vivid_lattice.core.moves import Move, larger_cables, larger_device, other_devices, other_methods, scaled
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.protection.moves import delayed_ahead, larger_feeders, other_types, own_rcd
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.protocol import RuleSet

_MENDED = ("pass", "tight")
_BUT = {"tight": ", still tight", "advice": ", with advice"}
_MOST = 9
#: Lengths are offered to a tenth of a metre, rounded down.
_LENGTH_STEP_M = 0.1

_Maker = Callable[[Circuit, RuleSet], Iterator[Move]]
_MAKERS: dict[str, tuple[_Maker, ...]] = {
    "overload": (larger_device,),
    "capacity": (larger_cables, other_devices, other_methods),
    "voltage-drop": (larger_cables, other_devices),
    "disconnection": (larger_cables, other_devices),
    "protective-conductor": (larger_cables, other_devices),
    "breaking-capacity": (other_devices,),
    "selectivity-overload": (other_devices,),
    "selectivity-short-circuit": (other_devices,),
    "rcd-duty": (other_devices,),
}
#: Those that need the whole job: what stands ahead, or the device that several circuits share.
_MAKERS_OF_JOB: dict[str, tuple[Callable[[Job, Circuit, RuleSet], Iterator[Move]], ...]] = {
    "selectivity-overload": (larger_feeders,),
    "selectivity-short-circuit": (larger_feeders,),
    "selectivity-residual": (delayed_ahead,),
    "rcd-duty": (own_rcd,),
    "rcd-type": (other_types, own_rcd),
    "leakage": (own_rcd,),
}
_HELPED_BY_LENGTH = ("voltage-drop", "disconnection", "protective-conductor")


def remedies(job: Job, check: str, subject: Subject) -> tuple[Remedy, ...]:
    """Changes that turn a failing, advised or tight finding of a circuit into a better one, the gentlest first.

    Every one is judged by assessing the whole changed job: its verdict here, and what it makes worse elsewhere.
    Of a kind (larger cable, smaller device, …) only the first that mends is kept. Empty where nothing mends it.
    """
    before = assess(job, explain=False)
    here = find(before, check, subject)
    circuit = next((circuit for circuit in job.circuits if circuit.id == subject.id), None)
    if here is None or circuit is None or here.verdict not in ("fail", "advice", "tight"):
        return ()
    rules = rule_set(job.job.rules)
    found: dict[str, Remedy] = {}
    for move in _moves(job, circuit, check, rules):
        if move.kind in found:
            continue
        remedy = _tried(job, move, before, here)
        if remedy is not None:
            found[move.kind] = remedy
    shorter = _shorter(job, circuit, before, here) if check in _HELPED_BY_LENGTH else None
    if shorter is not None:
        found["shorter"] = shorter
    ranked = sorted(found.values(), key=lambda remedy: len(remedy.worsens))
    return tuple(ranked[:_MOST])


def with_remedies(job: Job, assessment: Assessment) -> Assessment:
    """The assessment with the remedies of every failing, advised or tight finding filled in."""
    return replace(
        assessment,
        findings=tuple(
            replace(found, remedies=remedies(job, found.check, found.subject))
            if found.verdict in ("fail", "advice", "tight")
            else found
            for found in assessment.findings
        ),
    )


def find(assessment: Assessment, check: str, subject: Subject) -> Finding | None:
    """The finding of a check on a subject, if there is one."""
    return next((found for found in assessment.findings if found.check == check and found.subject == subject), None)


def _moves(job: Job, circuit: Circuit, check: str, rules: RuleSet) -> Iterator[Move]:
    for maker in _MAKERS.get(check, ()):
        yield from maker(circuit, rules)
    for of_job in _MAKERS_OF_JOB.get(check, ()):
        yield from of_job(job, circuit, rules)
    if check in ("voltage-drop", "disconnection"):
        for feeder in Tree(job).chain(circuit)[:-1]:
            for move in larger_cables(feeder, rules):
                yield Move(f"feeder-{feeder.id}", f"{feeder.name}: {move.label}", move.circuit)


def _tried(job: Job, move: Move, before: Assessment, here: Finding) -> Remedy | None:
    after = assess(with_parts(job, (move.circuit,), move.boards), explain=False)
    now = find(after, here.check, here.subject)
    accepted = (*_MENDED, "advice") if here.verdict == "fail" else _MENDED
    if now is None or now.verdict not in accepted or not _better(now, here):
        return None
    worse = worsened(before, after)
    if worse and here.verdict == "tight":
        # More room is no reason to break something else; a failure may be.
        return None
    effect = f"{now.shown_value} of {now.shown_limit} {now.unit}".strip() + _BUT.get(now.verdict, "")
    return Remedy(
        move.kind,
        move.label[0].upper() + move.label[1:],
        effect,
        now.verdict,
        now.value,
        now.shown_value,
        worse,
        (move.circuit,),
        move.boards,
    )


def _better(now: Finding, was: Finding) -> bool:
    if was.verdict == "tight":
        return now.verdict == "pass"
    return VERDICT_ORDER.index(now.verdict) > VERDICT_ORDER.index(was.verdict)


def worsened(before: Assessment, after: Assessment) -> tuple[str, ...]:
    """Findings whose verdict a change makes worse, as 'circuit: check' in ids."""
    old = {(found.check, found.subject): found.verdict for found in before.findings}
    return tuple(
        f"{found.subject.id}: {found.check}"
        for found in after.findings
        if found.verdict in ("fail", "missing", "advice")
        and VERDICT_ORDER.index(found.verdict) < VERDICT_ORDER.index(old.get((found.check, found.subject), "pass"))
    )


def _shorter(job: Job, circuit: Circuit, before: Assessment, here: Finding) -> Remedy | None:
    """The longest run at which the finding is mended, by halving the interval; None where no length mends it."""
    length = sum(section.length_m or 0.0 for section in circuit.run)
    if length <= _LENGTH_STEP_M:
        return None

    def mends(metres: float) -> Remedy | None:
        label = f"a route of {metres:.1f} m in place of {length:g} m"
        return _tried(job, Move("shorter", label, scaled(circuit, metres / length)), before, here)

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
