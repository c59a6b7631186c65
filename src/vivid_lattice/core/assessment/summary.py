"""A job at a glance, for a list of jobs: whether it is ready, what is left to do, and its boards in miniature."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.signatures import is_closed
from vivid_lattice.core.board.miniature import Miniature, miniature_of
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set

#: What a job is in one word, the worst first. Ready: nothing fails, lacks an input, is to be confirmed or is advised.
JobStatus = Literal["failing", "needs-input", "to-confirm", "advice", "ready", "empty"]


@dataclass(frozen=True, slots=True, kw_only=True)
class JobSummary:
    """A job's status, how many causes of each verdict it has, how many values to confirm, its boards, and each circuit's worst
    verdict. ``closed``: it is signed as inspected and tested, and has not changed since."""

    status: JobStatus
    causes: dict[str, int]
    to_confirm: int
    boards: tuple[Miniature, ...]
    circuits: dict[str, Verdict]
    closed: bool


def summary_of(job: Job) -> JobSummary:
    """A job at a glance, of a job that ``read_document`` has accepted."""
    assessment = assess(job, explain=False)
    causes = Counter(cause.verdict for cause in assessment.causes)
    worst: dict[str, Verdict] = {}
    for finding in assessment.findings:
        if finding.subject.kind == "circuit":
            verdict: Verdict = "pass" if finding.accepted else finding.verdict
            worst[finding.subject.id] = min(worst.get(finding.subject.id, verdict), verdict, key=VERDICT_ORDER.index)
    network = Installation.of(job, rule_set(job.job.rules))
    return JobSummary(
        status=_status(job, causes, assessment.to_confirm),
        causes={str(verdict): count for verdict, count in causes.items()},
        to_confirm=assessment.to_confirm,
        boards=tuple(miniature_of(network.boards[board.id]) for board in job.boards),
        circuits=worst,
        closed=is_closed(job),
    )


def _status(job: Job, causes: Counter[Verdict], to_confirm: int) -> JobStatus:
    if not job.circuits:
        return "empty"
    if causes["fail"]:
        return "failing"
    if causes["missing"]:
        return "needs-input"
    if to_confirm:
        return "to-confirm"
    return "advice" if causes["advice"] else "ready"
