"""Runs every test, Python's and the web's, and closes with one plain count. Usage: tools/run_tests.py [folder …]"""

from __future__ import annotations

import re
import subprocess
import sys
import time
import unittest
import warnings
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


class _Progress(unittest.TextTestResult):
    """Prints a line a test module, and each failure as it happens."""

    def __init__(self, *args: object, **kwargs: object):
        super().__init__(*args, **kwargs)  # type: ignore[arg-type]
        self._module, self._since = "", time.monotonic()

    def startTest(self, test: unittest.TestCase) -> None:
        module = type(test).__module__
        if module != self._module:
            now = time.monotonic()
            if self._module:
                print(f"  {self._module}  {now - self._since:.1f} s", flush=True)
            self._module, self._since = module, now
        super().startTest(test)


def run_python(folders: list[str]) -> tuple[int, int, int]:
    """Passed, failed, skipped of the unittest tests below the folders."""
    warnings.simplefilter("error", ResourceWarning)
    suite = unittest.TestSuite(
        unittest.defaultTestLoader.discover(str(ROOT / folder), top_level_dir=str(ROOT)) for folder in folders
    )
    result = unittest.TextTestRunner(verbosity=0, resultclass=_Progress).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    return result.testsRun - failed - skipped, failed, skipped


def run_web() -> tuple[int, int, int]:
    """Passed, failed, skipped of the front end's own tests."""
    done = subprocess.run(
        ["npm", "run", "--silent", "test"], cwd=ROOT / "web", capture_output=True, text=True, check=False
    )
    plain = re.sub(r"\x1b\[[0-9;]*m", "", done.stdout)
    line = next((line for line in plain.splitlines() if line.strip().startswith("Tests")), "")
    counts = {word: int(number) for number, word in re.findall(r"(\d+) (passed|failed|skipped)", line)}
    if done.returncode or not counts:
        print(plain, done.stderr, sep="\n")
    return counts.get("passed", 0), max(counts.get("failed", 0), int(done.returncode != 0)), counts.get("skipped", 0)


def main() -> int:
    """Exit code 0 when nothing failed and something ran."""
    sys.path.insert(0, str(ROOT))
    folders = sys.argv[1:]
    parts = [run_python(folders or ["tests"])] + ([] if folders else [run_web()])
    passed, failed, skipped = (sum(part[at] for part in parts) for at in range(3))
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 0 if passed and not failed else 1


if __name__ == "__main__":
    sys.exit(main())
