"""Seconds from New job to the saved report, by keyboard, in a real browser, against ten minutes for a newcomer. Usage: make bench

The browser types as fast as it can: what is measured is how long someone waits for the program, not how fast anyone types.
"""

from __future__ import annotations

import sys
import time
import unittest
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.browser.test_first_job import FirstJob

#: The flows of the test, and the seconds that an expert has for each.
FLOWS = {
    "test_sixteen_circuits_in_the_united_kingdom": 240.0,
    "test_fourteen_circuits_in_the_united_states": 240.0,
    "test_a_typical_home": 60.0,
}


def main() -> int:
    """Each flow once; 1 where one fails or takes longer than an expert has."""
    slow = False
    for name, budget_s in FLOWS.items():
        case = FirstJob(name)
        start = time.monotonic()
        result = unittest.TestResult()
        case.run(result)
        took_s = time.monotonic() - start
        words = name.removeprefix("test_").replace("_", " ")
        if not result.wasSuccessful():
            print(f"{words}: failed")
            return 1
        print(
            f"{words:<44} {case.actions:3} actions {took_s:6.1f} s, {took_s / case.actions:4.1f} s an action "
            f"(an expert has {budget_s:g} s, ratio {budget_s / took_s:.1f})"
        )
        slow |= took_s > budget_s
    return 1 if slow else 0


if __name__ == "__main__":
    sys.exit(main())
