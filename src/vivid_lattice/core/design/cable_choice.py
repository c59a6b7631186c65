"""The cable of a circuit: what is usual for it, or the smallest or cheapest size that passes every check."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from vivid_lattice.core.assessment.assess import findings_of
from vivid_lattice.core.checks import (
    breaking_capacity,
    capacity,
    check_title,
    protective_conductor,
    short_circuit_withstand,
)
from vivid_lattice.core.design.candidate_changes import with_cable
from vivid_lattice.core.design.cost import cable_cost
from vivid_lattice.core.design.decisions import (
    RANK_FAIL,
    RANK_MISSING,
    RANK_OWN,
    Decision,
    RejectedChoice,
    bad_checks,
    left_open,
    rank_of,
)
from vivid_lattice.core.design.usual import usual_in
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Cable, Circuit, Job, with_circuit
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message, message
from vivid_lattice.core.rules.protocol import CableKind, RuleSet
from vivid_lattice.core.text import Shown

#: Sizes and kinds that were not chosen and are still shown: more is not read.
_MAX_RUNNERS = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class _Candidate:
    """A circuit on a cable: how it does in the checks, what the cable costs, the checks that no cable fixes (``beyond``), and
    whether it is smaller than is usual here."""

    circuit: Circuit
    cable: Cable
    kind: CableKind
    rank: int
    findings: list[Finding]
    cost: float
    beyond: tuple[str, ...] = ()
    below_usual: bool = False


def choose_cable(job: Job, circuit: Circuit, rules: RuleSet) -> tuple[Job, Decision]:
    circuit = job.circuit(circuit.id)
    cheapest = job.settings.design_for == "price"
    kinds = _kinds(circuit, rules)
    if not kinds:
        return job, left_open(circuit, "cable", "", message(rules.words, "core.design.no_method"))
    least = _usual_mm2(job, circuit, rules)
    tried = [_climbed(job, circuit, kind, rules, least) for kind in (kinds if cheapest else kinds[:1])]
    best_of = [_best(candidates) for candidates in tried]
    best = min(best_of, key=lambda item: (item.rank, item.cost)) if cheapest else best_of[0]
    sizes = tried[best_of.index(best)]
    if best.rank >= RANK_MISSING:
        return job, left_open(
            circuit, "cable", "", message(rules.words, "core.design.needs", needs=_lacks(best.findings))
        )
    if capacity.ID in bad_checks(best.findings):
        return job, left_open(circuit, "cable", capacity.ID, _too_small(sizes, rules))
    return with_circuit(job, best.circuit), _decided(
        best, sizes, [candidate for candidate in best_of if candidate is not best], rules
    )


def _best(candidates: list[_Candidate]) -> _Candidate:
    """The best size of a kind: of those that only miss a limit of our own the largest, which comes nearest; else the smallest."""
    rank = min(candidate.rank for candidate in candidates)
    equal = [candidate for candidate in candidates if candidate.rank == rank]
    return equal[-1] if 0 < rank < RANK_FAIL else equal[0]


def _usual_mm2(job: Job, circuit: Circuit, rules: RuleSet) -> float:
    """The usual conductor of a circuit [mm²]; 0 where its device is smaller than the usual one, or nothing is usual."""
    usual = usual_in(job, circuit, rules)
    if usual is None or is_auto(circuit.device):
        return 0.0
    return usual.area_mm2 if circuit.device.rating_a >= (usual.rating_a or 0.0) else 0.0


def _too_small(candidates: list[_Candidate], rules: RuleSet) -> Message:
    """Why a cable is left open that no size is known to be large enough for: a cable that its device does not protect is never chosen."""
    label, kind = rules.cables.size_label, candidates[-1].kind.title
    carrying = next((candidate for candidate in candidates if capacity.ID not in bad_checks(candidate.findings)), None)
    if carrying is None:
        more = next(
            (kind for kind in rules.cables.kinds.values() if max(kind.sizes_mm2) > candidates[-1].cable.area_mm2), None
        )
        size, words = label(candidates[-1].cable.area_mm2), rules.words
        if more is None:
            return message(words, "core.design.cable_ends", cable=kind, size=size)
        return message(words, "core.design.cable_ends_other", cable=kind, size=size, other=more.title)
    checks = _titles(bad_checks(carrying.findings), rules)
    return message(rules.words, "core.design.cable_fails", cable=label(carrying.cable.area_mm2), checks=checks)


def _decided(best: _Candidate, candidates: list[_Candidate], others: list[_Candidate], rules: RuleSet) -> Decision:
    at = candidates.index(best)
    before = candidates[at - 1] if at else None
    ruled_out = [] if before is None or before.below_usual else _ruling(before)
    return Decision(
        circuit=best.circuit.id,
        what="cable",
        chosen=rules.cables.size_label(best.cable.area_mm2),
        decided_by=(bad_checks(best.findings) or ruled_out or [""])[0],
        sentence=_sentence(best, before, candidates, others, rules),
        passes=best.rank < RANK_FAIL and not best.beyond,
        cost=best.cost,
        runners=_rejected(best, candidates[:at], others, rules),
    )


def _sentence(
    best: _Candidate, before: _Candidate | None, candidates: list[_Candidate], others: list[_Candidate], rules: RuleSet
) -> Message:
    """Why a size was taken, with what it requires."""
    label = rules.cables.size_label
    chosen = label(best.cable.area_mm2)
    words, parts = rules.words, list[Message]()
    if best.rank >= RANK_FAIL:
        checks = _titles(bad_checks(best.findings), rules)
        parts.append(message(words, "core.design.cable_best", cable=chosen, checks=checks))
    else:
        reason = _reason(before, candidates, rules)
        parts.append(message(words, "core.design.cable", cable=chosen, reason=reason))
        if best.cable.cpc_mm2 is not None:
            parts.append(message(words, "core.design.cpc", size=label(best.cable.cpc_mm2)))
        if others:
            parts.append(message(words, "core.design.cheapest", n=len(others) + 1))
    if best.beyond:
        parts.append(message(words, "core.design.beyond", checks=_titles(best.beyond, rules)))
    return message(words, "core.design.parts", parts=Joined.of(parts, " "))


def _reason(before: _Candidate | None, candidates: list[_Candidate], rules: RuleSet) -> Message:
    """Why no smaller size was taken."""
    if before is None:
        return message(rules.words, "core.design.cable_least")
    if before.below_usual and not bad_checks(before.findings):
        passing = next(candidate for candidate in candidates if not bad_checks(candidate.findings))
        size = rules.cables.size_label(passing.cable.area_mm2)
        return message(rules.words, "core.design.cable_usual", size=size)
    return message(rules.words, "core.design.next_smaller", reason=_why(before, rules))


def _rejected(
    best: _Candidate, smaller: list[_Candidate], others: list[_Candidate], rules: RuleSet
) -> tuple[RejectedChoice, ...]:
    """The choices that came next: smaller sizes of the same cable, largest first, then the other kinds."""

    def rejected(candidate: _Candidate, reason: Message) -> RejectedChoice:
        name = f"{rules.cables.size_label(candidate.cable.area_mm2)} {candidate.kind.short}"
        return RejectedChoice(name, reason, candidate.cost)

    runners = [rejected(candidate, _why(candidate, rules)) for candidate in reversed(smaller)]
    for other in others:
        dearer = message(rules.words, "core.design.dearer", n=Shown(f"{other.cost - best.cost:.0f}"))
        runners.append(rejected(other, _why(other, rules) if other.rank else dearer))
    return tuple(runners[:_MAX_RUNNERS])


def _with_earth(cable: Cable, rules: RuleSet) -> Cable:
    """A cable; of a kind whose makes differ in their earth, with the least earth to buy it with: half the line or the next size up."""
    sizes = rules.cables.kind(cable.type).sizes_mm2
    if any(_earth_known(cable.model_copy(update={"area_mm2": size}), rules) for size in sizes):
        return cable
    least = next((size for size in sizes if size >= cable.area_mm2 / 2), cable.area_mm2)
    return cable.model_copy(update={"cpc_mm2": least})


def _earth_known(cable: Cable, rules: RuleSet) -> bool:
    try:
        rules.cables.cpc_area_mm2(cable)
    except NeedsInput:
        return False
    return True


def _ruling(candidate: _Candidate) -> list[str]:
    """The checks that rule a size out; a feeder that passes them all loses too much voltage."""
    return bad_checks(candidate.findings) or ["voltage-drop"]


def _climbed(job: Job, circuit: Circuit, kind: CableKind, rules: RuleSet, least_mm2: float = 0.0) -> list[_Candidate]:
    """A kind of cable in each size, smallest first, up to the first that passes everything and is no smaller than is usual.

    Advice does not speak against a size: only what fails or is not known does, and the job's own limits.
    """
    candidates: list[_Candidate] = []
    network = Installation.of(job, rules)
    for area in kind.sizes_mm2:
        cable = _with_earth(
            Cable.model_validate({"type": kind.id, "area_mm2": area, "cpc": kind.cpc_choices[0]}), rules
        )
        candidate = with_cable(circuit, cable)
        changed = with_circuit(job, candidate)
        findings = findings_of(changed, candidate, rules, like=network)
        cost = cable_cost(candidate, cable, network.tree, rules, job.prices)
        beyond = _beyond_cable(findings)
        counting = [finding for finding in _counting(findings, job, rules, candidate) if finding.check not in beyond]
        rank = rank_of(counting) + (RANK_OWN if _leaves_too_little(candidate, findings) else 0)
        if protective_conductor.ID not in bad_checks(counting) and _earth_fails_at_board(changed, candidate, rules):
            counting = _with_earth_failing(counting)
            rank += RANK_OWN
        below = kind.material == "copper" and area < least_mm2
        rank += RANK_OWN if below else 0
        candidates.append(
            _Candidate(
                circuit=candidate,
                cable=cable,
                kind=kind,
                rank=rank,
                findings=counting,
                cost=cost,
                beyond=beyond,
                below_usual=below,
            )
        )
        if candidates[-1].rank == 0:
            break
    return candidates


def _with_earth_failing(findings: Sequence[Finding]) -> list[Finding]:
    return [replace(each, verdict="fail") if each.check == protective_conductor.ID else each for each in findings]


def _earth_fails_at_board(job: Job, circuit: Circuit, rules: RuleSet) -> bool:
    """Whether the protective conductor is too small for a fault next to the board, by which on-site guidance chooses it."""
    try:
        finding = protective_conductor.next_to_board(
            CircuitContext(Installation.of(job, rules), circuit, explain=False)
        )
    except NeedsInput:
        return False
    return finding is not None and finding.verdict == "fail"


def _beyond_cable(findings: list[Finding]) -> tuple[str, ...]:
    """Checks that a circuit does not pass and that no cable fixes: a device that cannot break the fault, or of which that is not known, and
    the energy that no one can say it lets through then. A larger cable is no answer to either."""
    of = {finding.check: finding.verdict for finding in findings}
    if of.get(breaking_capacity.ID) not in ("fail", "missing"):
        return ()
    unknown = of.get(short_circuit_withstand.ID) == "missing"
    return (breaking_capacity.ID, short_circuit_withstand.ID) if unknown else (breaking_capacity.ID,)


def _counting(findings: list[Finding], job: Job, rules: RuleSet, circuit: Circuit) -> list[Finding]:
    """The findings that may speak against a choice: advice does not, but for a drop over a limit that is only recommended where it
    is above the job's own setting."""
    advisory, most = rules.limits.drop_limit(circuit).advisory, job.settings.design_drop_pct

    def over(finding: Finding) -> bool:
        return advisory and finding.check == "voltage-drop" and finding.value is not None and finding.value > most

    return [finding for finding in findings if finding.verdict != "advice" or over(finding)]


def _leaves_too_little(circuit: Circuit, findings: list[Finding]) -> bool:
    """Whether a feeder loses more than half of what may be lost in all. Half and half is a usual split; common practice."""
    return circuit.kind == "distribution" and any(
        finding.check == "voltage-drop" and finding.margin is not None and finding.margin < 1 / 2
        for finding in findings
    )


def _why(candidate: _Candidate, rules: RuleSet) -> Message:
    """What speaks against a choice that does not pass."""
    bad = bad_checks(candidate.findings)
    if bad:
        return message(rules.words, "core.design.fails", checks=_titles(bad, rules))
    if candidate.below_usual:
        return message(rules.words, "core.design.below_usual")
    return message(rules.words, "core.design.feeder_half")


def _titles(checks: Iterable[str], rules: RuleSet) -> Joined:
    """Checks by what they are called."""
    return Joined.of((check_title(check, rules.words) for check in checks), ", ")


def _kinds(circuit: Circuit, rules: RuleSet) -> list[CableKind]:
    """Kinds of cable that may be laid as the circuit is, the standard's usual one first."""
    methods = {section.method for section in circuit.run}
    buried = any(rules.factors.methods[method].medium == "ground" for method in methods)
    loaded = 3 if len(circuit.lines) == 3 else 2
    indoors = rules.default_three_phase_cable if loaded == 3 else rules.default_cable
    usual = rules.default_buried_cable if buried else indoors
    preferred = _preferred_cable(circuit) or usual
    order = sorted(rules.cables.kinds.values(), key=lambda kind: kind.id != preferred)
    return [kind for kind in order if methods <= set(kind.methods) and loaded in kind.loaded]


def _preferred_cable(circuit: Circuit) -> str | None:
    return circuit.preferred.cable if circuit.preferred else None


def _lacks(findings: Iterable[Finding]) -> Joined:
    """What the findings have no value of, each once."""
    return Joined.of((need.what for finding in findings for need in finding.needs), ", ")
