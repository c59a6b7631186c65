"""Runs every test, Python's and the web's, over all cores, and closes with one plain count.

Usage: tools/run_tests.py [--slow] [--with-lint] [--without WORD] [--workers N] [folder or file …]
"""

from __future__ import annotations

import argparse
import os
import sys
import time
from collections import defaultdict
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from tests.running import Ran, TestPart, parts_below, run_all

_SLOWEST = 10
_WEB = TestPart("web", ("npm", "run", "--silent", "test", "--", "--reporter=json"), ROOT / "web", counts=True)
_LINT = [TestPart(name, ("make", "--no-print-directory", name)) for name in ("lint-python", "lint-web")]


def main() -> int:
    """Exit code 0 when nothing failed and something ran."""
    parser = argparse.ArgumentParser(description="Runs the tests over all cores.")
    parser.add_argument("places", nargs="*", help="folders or files; all of them unless given")
    parser.add_argument("--slow", action="store_true", help="the long sweeps instead")
    parser.add_argument("--with-lint", action="store_true", help="style and types beside the tests")
    parser.add_argument(
        "--without", action="append", default=[], metavar="WORD", help="leave out what has it in its name"
    )
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 2)
    args = parser.parse_args()
    parts = parts_below(args.places or ["tests"], slow=args.slow)
    parts = [part for part in parts if not any(word in part.name for word in args.without)]
    if not args.places and not args.slow:
        parts = [_WEB, *parts]
    if args.with_lint:
        parts = [*_LINT, *parts]
    start = time.monotonic()
    done = []
    for ran in run_all(parts, args.workers):
        done.append(ran)
        _tell(ran)
    _tell_times(done, time.monotonic() - start)
    passed, failed, skipped = (
        sum(ran.passed for ran in done),
        sum(len(ran.failures) for ran in done),
        sum(ran.skipped for ran in done),
    )
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 0 if passed and not failed else 1


def _tell(ran: Ran) -> None:
    for test, text in ran.failures:
        print(f"FAILED {test}\n{text.rstrip()}\n", flush=True)
    print(f"  {ran.part.name}  {ran.seconds:.1f} s", flush=True)


def _tell_times(done: list[Ran], seconds: float) -> None:
    modules: dict[str, float] = defaultdict(float)
    for ran in done:
        modules[ran.part.module] += ran.seconds
    print("\nSeconds a module:")
    for name, took in sorted(modules.items(), key=lambda pair: -pair[1]):
        print(f"  {took:7.1f}  {name}")
    tests = sorted(((took, name) for ran in done for name, took in ran.times.items()), reverse=True)[:_SLOWEST]
    print(f"The {len(tests)} slowest tests:")
    for took, name in tests:
        print(f"  {took:7.1f}  {name}")
    print(f"{seconds:.0f} s in all\n")


if __name__ == "__main__":
    sys.exit(main())
