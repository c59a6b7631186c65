"""How often the cause of readings is told: a sample of `make bench`, with the same boards each time; and the wiring it is measured with, by hand."""

from __future__ import annotations

import random
import unittest

from tests.defects_put_in import ANY, RADIAL, RING, class_of
from tests.diagnosis_trials import put_into_some, trials
from tests.faulty_wiring import Wiring
from tests.trial_boards import BOARDS
from vivid_lattice.core.testing.diagnosis.defects import defects


def wiring(*, ring: bool) -> Wiring:
    return Wiring(
        ring=ring, line_ohm=0.4, neutral_ohm=0.4, cpc_ohm=0.6, ze_ohm=0.3, zln0_ohm=0.2, rcd_ma=(15.0, 30.0), rng=random.Random(1)
    )  # fmt: skip


class TheWiring(unittest.TestCase):
    def test_a_sound_radial(self) -> None:
        found = wiring(ring=False)
        for kind, ohm in (("r1r2", 1.0), ("r1rn", 0.8), ("r2", 0.6)):
            self.assertAlmostEqual(found.dead(kind) or 0, ohm, places=4)
        self.assertAlmostEqual(found.loop("zs") or 0, 1.3, places=4)
        self.assertAlmostEqual(found.loop("zln") or 0, 1.0, places=4)

    def test_a_sound_ring(self) -> None:
        found = wiring(ring=True)
        self.assertAlmostEqual(found.dead("r1_end") or 0, 0.4, places=4)
        # Equal conductors cross-connected read the same at every point: a quarter of both.
        self.assertAlmostEqual(found.dead("x_ln") or 0, 0.2, places=4)
        # At the middle of six legs: half of each way round, in parallel.
        self.assertAlmostEqual(found.loop("zs") or 0, 0.3 + 0.1 + 0.15, places=3)

    def test_what_is_put_in(self) -> None:
        found = wiring(ring=False)
        found.joints["E", 3] = 0.5
        self.assertAlmostEqual(found.dead("r1r2") or 0, 1.5, places=4)
        self.assertAlmostEqual(found.loop("zln") or 0, 1.0, places=4)
        found.breaks.add(("E", 2))
        self.assertIsNone(found.loop("zs"))
        found.parallel_ohm = 2.0
        self.assertAlmostEqual(found.loop("zs") or 0, 0.3 + 0.4 + 2.0, places=3)
        self.assertAlmostEqual(found.dead("r2") or 0, 2.0, places=3)
        broken = wiring(ring=True)
        broken.breaks.add(("L", 3))
        self.assertEqual(broken.reading("r1_end"), "LIM")
        self.assertAlmostEqual(broken.dead("x_ln") or 0, 0.4, places=4)

    def test_every_defect_put_in_is_one_of_the_catalogue(self) -> None:
        known = {each.id.rsplit(".", 1)[1] for standard in BOARDS for each in defects(standard)}
        put_in = {*RADIAL, *RING, *ANY}
        for name in put_in:
            self.assertLessEqual(class_of(name), known)
        self.assertEqual(sorted(known - put_in), [])

    def test_every_defect_can_be_put_into_some_board(self) -> None:
        """A warm conductor changes no reading by more than a quarter; a cross-connection at one leg shows at the points near the board, not in
        the highest reading of the ring."""
        rng = random.Random(7)
        without = {name for name in {*RADIAL, *RING, *ANY} if put_into_some(name, 1, rng) is None}
        self.assertEqual(without, {"conductor-warm", "ring-linked-same-leg"})


class Rates(unittest.TestCase):
    def test_causes_are_told_and_sound_boards_are_left_alone(self) -> None:
        done = list(trials(40, 20261130))
        faulty = [trial for trial in done if trial.true]
        first = sum(bool(trial.told) and trial.is_true(trial.told[0]) for trial in faulty)
        second = sum(any(trial.is_true(told) for told in trial.told[:2]) for trial in faulty)
        certain = [trial for trial in faulty if trial.certain]
        self.assertEqual([trial.rows for trial in done if not trial.true and trial.told], [])
        self.assertGreaterEqual(first / len(faulty), 0.8)
        self.assertGreaterEqual(second / len(faulty), 0.9)
        self.assertGreaterEqual(len(certain) / len(faulty), 0.9)
        wrong = [(sorted(trial.true), trial.certain) for trial in certain if not trial.is_right]
        self.assertLessEqual(len(wrong), 1, wrong)


if __name__ == "__main__":
    unittest.main()
