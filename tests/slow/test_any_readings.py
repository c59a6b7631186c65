"""Any readings of every demo: more of the sample in tests/core/testing, other ones each time."""

from __future__ import annotations

import random
import secrets
import unittest

from tests.core.testing.test_any_readings import handled
from vivid_lattice.demo import DEMOS, demo_job


class AnyReadings(unittest.TestCase):
    def test_of_every_demo(self) -> None:
        for name in DEMOS:
            for _ in range(5):
                seed = secrets.randbits(32)
                with self.subTest(name, seed=seed):
                    handled(self, demo_job(name), random.Random(seed))


if __name__ == "__main__":
    unittest.main()
