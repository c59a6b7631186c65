"""Ten thousand exercises, each judged again."""

from __future__ import annotations

import unittest

from tests.exercises_judged import right_options
from vivid_lattice.core.rules import standard_ids
from vivid_lattice.core.training.exercises.maker import exercise, kinds_of

COUNT = 10_000


class TenThousand(unittest.TestCase):
    """Over all standards and kinds in turn."""

    def test_each_has_exactly_one_right_answer(self) -> None:
        pairs = [(standard, kind) for standard in standard_ids() for kind in kinds_of(standard)]
        wrong = []
        for number in range(COUNT):
            standard, kind = pairs[number % len(pairs)]
            made = exercise(standard, kind, number)
            if right_options(made) != [made.right] or len({str(each) for each in made.options}) != len(made.options):
                wrong.append((standard, kind, number))
        self.assertEqual(wrong, [])


if __name__ == "__main__":
    unittest.main()
