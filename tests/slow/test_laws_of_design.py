"""The laws of design over many more jobs than the sample in tests/core."""

from __future__ import annotations

import unittest

from hypothesis import given, settings

from tests.core.design.test_laws_of_design import CIRCUITS, RUNS, Runs, Typed, passes_or_says, shorter_is_no_thicker


class Laws(unittest.TestCase):
    """Found by hypothesis."""

    EXAMPLES = 600

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(RUNS)
    def test_a_shorter_run_never_gets_a_thicker_cable(self, runs: Runs) -> None:
        shorter_is_no_thicker(self, *runs)

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(CIRCUITS)
    def test_design_passes_its_own_checks_or_says_which_it_does_not(self, circuit: Typed) -> None:
        passes_or_says(self, *circuit)


if __name__ == "__main__":
    unittest.main()
