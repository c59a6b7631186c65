"""Any readings that a document may hold are judged, explained and planned: of every kind, in every state, at the ends of their ranges."""

from __future__ import annotations

import random
import unittest
from collections.abc import Iterator
from itertools import count

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Reading, Testing
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.judgement import judged
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.testing.subjects import subjects_of
from vivid_lattice.core.testing.test_plan import plan_of
from vivid_lattice.demo import DEMOS, demo_job

VALUES = (0.0, 1e-6, 0.01, 0.3, 1.0, 25.0, 300.0, 1e6)


def some_readings(of: Job, rng: random.Random) -> Iterator[Reading]:
    network, numbers = Installation.of(of, rule_set(of.job.rules)), count()
    for kind, traits in TRAITS.items():
        for subject in subjects_of(network, kind):
            if rng.random() < 0.5:
                continue
            states = ("value", "value", "above-range", "below-range") if traits.is_figure else ("right", "wrong")
            state = rng.choice((*states, "left-out"))
            value = rng.choice(VALUES) if state in ("value", "below-range") else None
            if state == "above-range" and rng.random() < 0.5:
                value = rng.choice(VALUES)
            yield Reading(
                id=f"r{next(numbers)}",
                test=kind, subject=subject.subject,
                state=state, value=value, no_trip=rng.random() < 0.2, alone=rng.choice((None, True, False)),
                temperature_c=rng.choice((None, -40.0, 120.0)),
            )  # fmt: skip


def handled(case: unittest.TestCase, of: Job, rng: random.Random) -> None:
    """Some readings of a job are judged, explained and planned, and the job is assessed with them."""
    readings = tuple(some_readings(of, rng))
    testing = Testing(readings=readings, temperature_c=rng.choice((-40.0, 20.0, 60.0)))
    made = checked(of.model_copy(update={"testing": testing}))
    network = Installation.of(made, rule_set(made.job.rules))
    results = judged(network)
    case.assertEqual(len(results), len(readings))
    for diagnosis in diagnosed(network, results):
        shares = [possible.probability for possible in diagnosis.possible]
        case.assertTrue(all(0 < share <= 1 for share in shares), shares)
        case.assertLessEqual(sum(shares), 1 + 1e-9)
    try:
        planned = {test.id for test in (*plan_of(network).tests, *plan_of(network).beyond)}
    except (NeedsInput, NotTabulated):
        planned = {result.test for result in results}
    case.assertLessEqual({result.test for result in results}, planned)
    case.assertTrue(assess(made).findings or not of.circuits)


class AnyReadings(unittest.TestCase):
    """A sample; `make test-slow` has all demos several times."""

    def test_of_some_demos(self) -> None:
        rng = random.Random(20261130)
        for name in list(DEMOS)[::3]:
            with self.subTest(name):
                handled(self, demo_job(name), rng)


if __name__ == "__main__":
    unittest.main()
