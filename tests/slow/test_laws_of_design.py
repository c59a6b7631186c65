"""The laws of design over many more jobs than the sample in tests/core."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.design.test_laws_of_design import LENGTHS, LINES, SUPPLIED, passes_or_says, shorter_is_no_thicker


class Laws(unittest.TestCase):
    """Found by hypothesis."""

    EXAMPLES = 600

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(SUPPLIED, st.sampled_from(LINES), st.booleans(), LENGTHS)
    def test_a_shorter_run_never_gets_a_thicker_cable(
        self, of: tuple[str, str], line: str, usual: bool, lengths: list[int]
    ) -> None:
        shorter_is_no_thicker(self, of, line, usual, lengths)

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(SUPPLIED, st.sampled_from(LINES), st.integers(1, 60), st.booleans())
    def test_design_passes_its_own_checks_or_says_which_it_does_not(
        self, of: tuple[str, str], line: str, length: int, usual: bool
    ) -> None:
        passes_or_says(self, of, line, length, usual)


if __name__ == "__main__":
    unittest.main()
