"""Two variants of a job side by side: what differs in words, and what that does to the verdicts."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.changes import differences
from vivid_lattice.core.document.job import Job, names_of
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.messages import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangedResult:
    """A finding that answers otherwise in the other variant. A verdict of None: it is not there in that one, and nothing is better or
    worse then."""

    check: str
    subject: Subject
    name: str
    before: Verdict | None
    after: Verdict | None
    figure_before: str
    figure_after: str
    better: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """Two variants: what differs between the documents, and which findings turned."""

    text: tuple[Text, ...]
    verdict_before: Verdict
    verdict_after: Verdict
    counts_before: dict[str, int]
    counts_after: dict[str, int]
    changed: tuple[ChangedResult, ...]


def compare(before: Job, after: Job) -> Comparison:
    """What differs between two variants of a job, each assessed by its own rules."""
    old, new = assess(before, explain=False), assess(after, explain=False)
    names = names_of(before) | names_of(after)
    was, now = _by_place(old), _by_place(new)
    turned = [
        _turned(place, was.get(place), now.get(place), names)
        for place in dict.fromkeys([*was, *now])
        if _verdict_of(was.get(place)) != _verdict_of(now.get(place))
    ]
    rank = {False: 0, None: 1, True: 2}
    ranked = sorted(
        turned, key=lambda item: (rank[item.better], VERDICT_ORDER.index(item.after or item.before or "pass"))
    )
    return Comparison(
        text=tuple(differences(before, after)),
        verdict_before=old.verdict,
        verdict_after=new.verdict,
        counts_before=old.counts,
        counts_after=new.counts,
        changed=tuple(ranked),
    )


_Place = tuple[str, Subject]


def _by_place(assessment: Assessment) -> dict[_Place, Finding]:
    return {(finding.check, finding.subject): finding for finding in assessment.findings}


def _verdict_of(finding: Finding | None) -> Verdict | None:
    return finding.verdict if finding else None


def _turned(place: _Place, was: Finding | None, now: Finding | None, names: dict[str, str]) -> ChangedResult:
    check, subject = place
    better = None
    if was is not None and now is not None:
        better = VERDICT_ORDER.index(now.verdict) > VERDICT_ORDER.index(was.verdict)
    return ChangedResult(
        check=check,
        subject=subject,
        name=names.get(subject.id, subject.id),
        before=_verdict_of(was),
        after=_verdict_of(now),
        figure_before=_figure(was),
        figure_after=_figure(now),
        better=better,
    )


def _figure(finding: Finding | None) -> str:
    if finding is None or finding.value is None:
        return "–"
    return f"{finding.shown_value} / {finding.shown_limit} {finding.unit}".strip()
