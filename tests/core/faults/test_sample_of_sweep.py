"""A sample of the long sweep (tests/slow): events over all demos, on one, two and three phases."""

from __future__ import annotations

import json
import unittest
from typing import Any

from tests.slow import test_sweep
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.job_file import read_data
from vivid_lattice.demo import demo_job, demo_text


class Sample(test_sweep.Sweep):
    """One event of many, one job of several."""

    EVERY, EVERY_JOB = 37, 4


class Crashed(unittest.TestCase):
    """Events on demos that once ended in an exception nobody had foreseen."""

    def refused(self, job: Job, said: str, **event: Any) -> None:
        with self.assertRaisesRegex(OutOfRange, said):
            describe(job, FaultEvent.model_validate(event))

    def test_a_neutral_cannot_be_on_the_bar_of_a_circuit_without_one(self) -> None:
        wool = demo_job("wool-loft")
        without = next(circuit.id for circuit in wool.circuits if not circuit.neutral)
        has = next(circuit.id for circuit in wool.circuits if circuit.neutral and circuit.kind != "distribution")
        for circuit, other in ((has, without), (without, has)):
            for kind in ("neutral-wrong-bar", "borrowed-neutral"):
                self.refused(wool, "has none", kind=kind, circuit=circuit, other=other, running=0.0)

    def test_neutrals_of_devices_without_one_cannot_be_swapped_or_crossed(self) -> None:
        self.refused(demo_job("press-house"), "has none", kind="neutrals-swapped", rcd="main:c1", other_rcd="main:c2")

    def test_a_breaker_whose_upper_edge_falls_never_opens_later_at_the_earliest_than_at_the_latest(self) -> None:
        data = json.loads(demo_text("keepers-house"))
        data["supply"]["phases"] = 2
        story = describe(read_data(data), FaultEvent(kind="line-neutral", circuit="c1", at=0.0, running=0.0))
        [opening, *_] = story.stages[0].openings
        assert opening.latest_s is not None
        self.assertLessEqual(opening.earliest_s, opening.latest_s)
        # A cycle and a half at 60 Hz; common practice, no source.
        self.assertAlmostEqual(opening.latest_s, 0.025)


if __name__ == "__main__":
    unittest.main()
