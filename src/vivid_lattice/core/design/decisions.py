"""What design decides, why, and how a choice is ranked by its findings."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.messages import Text, message

#: Verdicts that do not count against a choice.
GOOD = frozenset({"pass", "tight", "not-applicable"})

#: What a finding adds to the rank of a choice: advice, or a limit of the job's own; what fails; what cannot be calculated.
RANK_ADVICE, RANK_OWN, RANK_FAIL, RANK_MISSING = 1, 1, 100, 1000


@dataclass(frozen=True, slots=True)
class RejectedChoice:
    """A choice that was not taken, and why it lost. ``cost`` by the job's price list, as cable."""

    what: str
    reason: Text
    cost: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """What was chosen for a circuit, the check that ruled out the next smaller choice, and what else was considered."""

    circuit: str
    what: str
    chosen: str
    decided_by: str
    sentence: Text
    passes: bool
    cost: float = 0.0
    runners: tuple[RejectedChoice, ...] = ()


@dataclass(frozen=True, slots=True)
class Design:
    """A job with nothing left as auto (as far as its inputs allow), and why."""

    job: Job
    decisions: tuple[Decision, ...]


def rank_of(findings: list[Finding]) -> int:
    """0 for all good; more for advice, more again for each failure, most for what is not known."""
    weight = {"advice": RANK_ADVICE, "fail": RANK_FAIL, "missing": RANK_MISSING}
    return sum(weight.get(finding.verdict, 0) for finding in findings)


def bad_checks(findings: list[Finding]) -> list[str]:
    """The checks that speak against a choice, in their order."""
    return [finding.check for finding in findings if finding.verdict not in GOOD]


def left_open(circuit: Circuit, what: str, decided_by: str, reason: Text) -> Decision:
    """The decision to leave a part of a circuit to be chosen, and why."""
    return Decision(
        circuit=circuit.id,
        what=what,
        chosen="auto",
        decided_by=decided_by,
        sentence=message(None, "core.design.left_open", reason=reason),
        passes=False,
    )
