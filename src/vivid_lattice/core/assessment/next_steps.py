"""What to do next on a job: a short list in order of importance, each entry with the place where it is done."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.findings.assessment import CauseGroup, NextStep, NextStepKind
from vivid_lattice.core.findings.verdict import Verdict

#: What each kind of open cause is dealt with as.
_KIND_OF: dict[Verdict, NextStepKind] = {"fail": "fix", "missing": "input", "advice": "advice"}


def next_steps(job: Job, causes: Sequence[CauseGroup], to_confirm: int) -> tuple[NextStep, ...]:
    """What fails, what lacks an input, circuits to design, what is assumed, then advice; kinds with nothing to do are left out.

    causes      what is not in order, the worst first
    to_confirm  how many values are assumed
    """
    open_circuits = [circuit.id for circuit in job.circuits if is_auto(circuit.device) or is_auto(circuit.cable)]
    steps = [
        _of_causes("fix", causes),
        _of_causes("input", causes),
        NextStep(kind="design", n=len(open_circuits), causes=(), circuits=tuple(open_circuits)),
        NextStep(kind="confirm", n=to_confirm, causes=(), circuits=()),
        _of_causes("advice", causes),
    ]
    return tuple(step for step in steps if step.n)


def _of_causes(kind: NextStepKind, causes: Sequence[CauseGroup]) -> NextStep:
    members = tuple(at for at, cause in enumerate(causes) if _KIND_OF[cause.verdict] == kind)
    return NextStep(kind=kind, n=len(members), causes=members, circuits=())
