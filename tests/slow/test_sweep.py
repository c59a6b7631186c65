"""Every event on every circuit of every demo, on one, two and three phases: an answer or a refusal, never a crash."""

from __future__ import annotations

import unittest
from cmath import isfinite

from tests.sweeps import demos_on_every_supply, demos_with_loads_on_a_line, events_on, further_circuit
from vivid_lattice.core.actions.add_circuit import add_circuit_options
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.phase_balance import rebalanced
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import CoreError
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.rules import rule_set


class Sweep(unittest.TestCase):
    """The whole of it. The samples in tests/core are made by the same functions."""

    #: Of so many events one is tried.
    EVERY = 1

    def test_every_event_is_answered_or_refused(self) -> None:
        answered = refused = 0
        for name, job in demos_on_every_supply():
            for event in events_on(job, every=self.EVERY):
                with self.subTest(name, event=event.model_dump(exclude_defaults=True)):
                    try:
                        outcome = describe(job, event)
                    except CoreError:
                        refused += 1
                        continue
                    answered += 1
                    self.assertTrue(outcome.outcome)
        # About as many can happen as cannot: between lines of a circuit on one line, on the bar of a circuit without a neutral.
        self.assertGreater(answered, refused / 2)

    def test_a_circuit_more_and_other_lines_are_answered(self) -> None:
        for name, job in [*demos_on_every_supply(), *demos_with_loads_on_a_line()][:: self.EVERY_JOB]:
            rules = rule_set(job.job.rules)
            with self.subTest(name):
                moved = rebalanced(job, rules)
                self.whole(moved)
                self.whole(design(job).job)
                for board in job.boards:
                    self.assertEqual(len(add_circuit_options(job, board.id, further_circuit(job))), 7)

    #: Of so many jobs one is tried.
    EVERY_JOB = 1

    def whole(self, job: Job) -> None:
        """An assessment has every finding, and no figure that is none."""
        found = assess(job, explain=False)
        wanted = len(SUPPLY_CHECKS) + len(BOARD_CHECKS) * len(job.boards) + len(CHECKS) * len(job.circuits)
        self.assertEqual(len(found.findings), wanted)
        self.assertTrue(all(isfinite(one.value) for one in found.findings if one.value is not None))


if __name__ == "__main__":
    unittest.main()
