"""Advice accepted with a reason, or raised again: a job in, a job out."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.assessment.acceptance import accepts, advice_key
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.causes import cause_of
from vivid_lattice.core.document.accepted_advice import AcceptedAdvice
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.findings.finding import Cause, Finding


def accept_advice(job: Job, cause: Cause, reason: str, name: str = "", date: str | None = None) -> Job:
    """The job with the advice of a cause accepted, as it is now.

    reason  why, in a few words; it is printed
    Raises  KeyError where the cause has no advice in this job: a result that fails, or lacks an input, is never accepted
    """
    members = _advice_of(assess(job, explain=False).findings, cause)
    if not members:
        raise KeyError(f"{cause.check} {cause.subject.id}")
    margins = [finding.margin for finding in members if finding.margin is not None]
    entry = AcceptedAdvice(
        check=cause.check,
        kind=cause.subject.kind,
        subject=cause.subject.id,
        advice=tuple(sorted({advice_key(finding) for finding in members})),
        margin=min(margins, default=None),
        reason=reason,
        name=name,
        date=date,
    )
    return job.model_copy(update={"accepted_advice": (*_without(job, cause), entry)})


def raise_again(job: Job, cause: Cause) -> Job:
    """The job with the advice of a cause no longer accepted. KeyError where it was not."""
    rest = _without(job, cause)
    if len(rest) == len(job.accepted_advice):
        raise KeyError(f"{cause.check} {cause.subject.id}")
    return job.model_copy(update={"accepted_advice": rest})


def _advice_of(findings: Sequence[Finding], cause: Cause) -> list[Finding]:
    return [finding for finding in findings if finding.verdict == "advice" and cause_of(finding) == cause]


def _without(job: Job, cause: Cause) -> tuple[AcceptedAdvice, ...]:
    return tuple(entry for entry in job.accepted_advice if not accepts(entry, cause))
