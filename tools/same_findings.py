"""Whether every finding of the demos and the ordinary homes has the id, verdict, value and limit it had before the code was put in order.

Usage: PYTHONPATH=. tools/same_findings.py            compare with tools/same_findings.txt; exit code 1 and the lines that differ where any does
       PYTHONPATH=. tools/same_findings.py --store    store what is found now

For the issues that rename and move code and must not change a result; to be deleted with the last of them.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from hashlib import sha256
from pathlib import Path

from tests.ordinary.homes import expected, known_home, swapped, swaps
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.job import Job
from vivid_lattice.demo import DEMOS, demo_job

STORED = Path(__file__).with_suffix(".txt")


def jobs() -> Iterator[tuple[str, Job]]:
    """The demos, the ordinary homes as they are designed, and the boards that are swapped."""
    for name in DEMOS:
        yield f"demo {name}", demo_job(name)
    for expectation in expected():
        yield f"home {expectation.home.standard} {expectation.home.name}", design(known_home(expectation)).job
    for swap in swaps():
        yield f"swap {swap.home.standard}", swapped(swap)


def lines() -> Iterator[str]:
    """A line a job and check: the subjects and verdicts in a digest with values and limits to twelve figures."""
    for name, job in jobs():
        by_check: dict[str, list[str]] = {}
        for finding in assess(job, explain=False).findings:
            numbers = ["-" if number is None else f"{number:.11e}" for number in (finding.value, finding.limit)]
            subject = f"{finding.subject.kind}:{finding.subject.id}"
            by_check.setdefault(finding.check, []).append(" ".join([subject, finding.verdict, *numbers]))
        for check, results in by_check.items():
            digest = sha256("\n".join(results).encode()).hexdigest()[:12]
            yield f"{name} | {check} | {len(results)} | {digest}"


def main() -> int:
    """Exit code 0 where nothing differs."""
    current = list(lines())
    if "--store" in sys.argv:
        STORED.write_text("\n".join(current) + "\n", "utf-8")
        return 0
    stored = STORED.read_text("utf-8").splitlines()
    changed = sorted(set(current) ^ set(stored))
    print("\n".join(changed) or f"{len(current)} lines, nothing differs")
    return 1 if changed or not current else 0


if __name__ == "__main__":
    sys.exit(main())
