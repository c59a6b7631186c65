"""Which findings are advice that someone has accepted, and is not raised again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from vivid_lattice.core.assessment.causes import cause_of
from vivid_lattice.core.document.accepted_advice import ADVICE_MAX, AcceptedAdvice
from vivid_lattice.core.findings.assessment import AcceptedCause
from vivid_lattice.core.findings.finding import Cause, Finding
from vivid_lattice.core.messages import Joined, Message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.units import SLACK


def with_acceptance(findings: Sequence[Finding], entries: Sequence[AcceptedAdvice]) -> list[Finding]:
    """The findings; advice that was accepted with the reason for it. The verdict stays."""
    if not entries:
        return list(findings)
    return [
        replace(finding, accepted=entry.reason) if (entry := _entry_for(finding, entries)) is not None else finding
        for finding in findings
    ]


def accepts(entry: AcceptedAdvice, cause: Cause) -> bool:
    """Whether an entry is about a cause."""
    return (entry.check, entry.kind, entry.subject) == (cause.check, cause.subject.kind, cause.subject.id)


def advice_key(finding: Finding) -> str:
    """What tells one advice from another: the id of its sentence; with its values too where no margin tells whether they got worse.

    It is the same in every language.
    """
    sentence = finding.sentence
    if finding.margin is not None and isinstance(sentence, Message):
        return sentence.id
    return _key_of(sentence)[:ADVICE_MAX]


def _key_of(param: Param) -> str:
    if isinstance(param, Message):
        return " ".join((param.id, *map(_key_of, param.params.values())))
    if isinstance(param, Joined):
        return " ".join(map(_key_of, param.items))
    return str(param)


def accepted_causes(findings: Sequence[Finding], entries: Sequence[AcceptedAdvice]) -> tuple[AcceptedCause, ...]:
    """The advice that is accepted today, each cause once, in the order in which it was accepted."""
    causes = []
    for entry in entries:
        members = [finding for finding in findings if finding.accepted and accepts(entry, cause_of(finding))]
        if members:
            causes.append(_accepted(members, entry))
    return tuple(causes)


def _accepted(members: Sequence[Finding], entry: AcceptedAdvice) -> AcceptedCause:
    circuits = dict.fromkeys(member.subject.id for member in members if member.subject.kind == "circuit")
    return AcceptedCause(
        cause=cause_of(members[0]),
        sentence=members[0].sentence,
        circuits=tuple(circuits),
        reason=entry.reason,
        name=entry.name,
        date=entry.date or "",
    )


def _entry_for(finding: Finding, entries: Sequence[AcceptedAdvice]) -> AcceptedAdvice | None:
    if finding.verdict != "advice":
        return None
    cause = cause_of(finding)
    return next((entry for entry in entries if accepts(entry, cause) and _no_worse(finding, entry)), None)


def _no_worse(finding: Finding, entry: AcceptedAdvice) -> bool:
    """Whether advice says what was accepted, at a margin that is no smaller."""
    if advice_key(finding) not in entry.advice:
        return False
    if finding.margin is None or entry.margin is None:
        return True
    return finding.margin >= entry.margin - SLACK
