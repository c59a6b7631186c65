"""One cause told once: findings that repeat each other share it, and lists group by it. Every finding keeps its verdict."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from vivid_lattice.core.errors import Need
from vivid_lattice.core.findings.assessment import CauseGroup
from vivid_lattice.core.findings.finding import Cause, CauseSubject, Finding
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.messages import Text

#: Verdicts that someone has to look at.
OPEN: tuple[Verdict, ...] = ("fail", "missing", "advice")


def cause_of(finding: Finding) -> Cause:
    """What a finding is due to: its cause, else itself."""
    return finding.cause or Cause(finding.check, CauseSubject(finding.subject.kind, finding.subject.id))


def with_causes(findings: Sequence[Finding]) -> list[Finding]:
    """The findings, those that lack the same thing with one cause: the first that lacks it, or the supply where it is told there. A device
    or cable that is still to be chosen is due to what its choice lacks."""
    leads_to = _what_choices_lack(findings)
    exact: dict[_Need, Cause] = {}
    first: dict[_Need, Cause] = {}
    counts: dict[_Need, int] = {}
    for finding in findings:
        for need in finding.needs[:1]:
            key, root = _key(need), _root(finding, leads_to)
            counts[root] = counts.get(root, 0) + 1
            (exact if key == root else first).setdefault(root, _leading(finding, need))
    # Circuits of one name share the words of their needs, so that none may lack the very thing that another waits for.
    leaders = first | exact
    return [
        replace(finding, cause=leaders[root])
        if finding.needs and finding.cause is None and counts[root := _root(finding, leads_to)] > 1
        else finding
        for finding in findings
    ]


#: What is lacking: its field, and what it is in words.
_Need = tuple[str, Text]
#: What the design chooses, once nothing else of a circuit is lacking.
_CHOSEN = frozenset({"device", "cable", "circuits.device", "circuits.cable"})


def _what_choices_lack(findings: Sequence[Finding]) -> dict[_Need, _Need]:
    """For each device and cable to be chosen, what its circuit lacks first of all: an input, else the first of the choices."""
    of_circuit: dict[str, list[_Need]] = {}
    for finding in findings:
        if finding.subject.kind == "circuit":
            of_circuit.setdefault(finding.subject.id, []).extend(_key(need) for need in finding.needs[:1])
    leads_to = {}
    for keys in of_circuit.values():
        chosen = [key for key in keys if key[0] in _CHOSEN]
        inputs = [key for key in keys if key[0] not in _CHOSEN and not key[0].startswith("supply.")]
        for key in chosen:
            leads_to[key] = (inputs or chosen)[0]
    return leads_to


def _root(finding: Finding, leads_to: dict[_Need, _Need]) -> _Need:
    key = _key(finding.needs[0])
    return leads_to.get(key, key)


def _key(need: Need) -> _Need:
    return need.path, need.what


def _leading(finding: Finding, need: Need) -> Cause:
    if need.path.startswith("supply."):
        return Cause(finding.check, CauseSubject("supply", "supply"))
    return cause_of(finding)


def causes_of(findings: Sequence[Finding]) -> tuple[CauseGroup, ...]:
    """The causes of what is not in order, the worst first; of equal verdicts in the order of the findings."""
    by_cause: dict[tuple[Cause, Verdict], list[Finding]] = {}
    for finding in findings:
        if finding.verdict in OPEN and not finding.accepted:
            by_cause.setdefault((cause_of(finding), finding.verdict), []).append(finding)
    groups = [_group(cause, verdict, members) for (cause, verdict), members in by_cause.items()]
    return tuple(sorted(groups, key=lambda group: VERDICT_ORDER.index(group.verdict)))


def _group(cause: Cause, verdict: Verdict, members: list[Finding]) -> CauseGroup:
    """A cause by the finding it lies in, where that is one of them; else by the first."""
    at = (cause.check, cause.subject.kind, cause.subject.id)
    root = next(
        (member for member in members if (member.check, member.subject.kind, member.subject.id) == at),
        next((member for member in members if member.check == cause.check), members[0]),
    )
    circuits = dict.fromkeys(member.subject.id for member in members if member.subject.kind == "circuit")
    return CauseGroup(
        cause=cause, verdict=verdict, sentence=root.sentence, findings=len(members), circuits=tuple(circuits)
    )
