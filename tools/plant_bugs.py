"""Plants each bug of tests/planted_bugs.toml in a copy of the program, and runs the tests that should find it.

Usage: tools/plant_bugs.py [--workers N] [words that the file's name holds …]
"""

from __future__ import annotations

import argparse
import os
import re
import shutil
import subprocess
import sys
import tempfile
import tomllib
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent


@dataclass(frozen=True)
class Outcome:
    """What came of a bug: the test that found it, or what is wrong with the entry."""

    bug: dict[str, Any]
    found_by: str = ""
    problem: str = ""


def plant(bug: dict[str, Any]) -> Outcome:
    """One bug in a copy of the source of its own, and the tests named with it."""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "src"
        shutil.copytree(ROOT / "src", source, ignore=shutil.ignore_patterns("__pycache__"))
        file = source / "vivid_lattice" / bug["file"]
        text = file.read_text("utf-8")
        if text.count(bug["find"]) != 1:
            return Outcome(bug, problem=f"stands {text.count(bug['find'])} times in the file; it has to stand once")
        file.write_text(text.replace(bug["find"], bug["put"]), "utf-8")
        done = subprocess.run(
            [sys.executable, "-W", "ignore", "-m", "unittest", "--failfast", *bug["tests"]],
            cwd=ROOT,
            env=os.environ | {"PYTHONPATH": str(source), "PYTHONDONTWRITEBYTECODE": "1"},
            capture_output=True,
            text=True,
            check=False,
        )
    found = re.search(r"^(?:FAIL|ERROR): (\w+) \(([\w.]+)", done.stderr, re.M)
    if done.returncode and found:
        return Outcome(bug, found_by=f"{found[2]}" if found[2].endswith(found[1]) else f"{found[2]}.{found[1]}")
    return Outcome(bug, problem="" if not done.returncode else done.stderr[-300:])


def main() -> int:
    """Exit code 0 when every bug is found."""
    parser = argparse.ArgumentParser(description="Plants bugs and looks whether the tests find them.")
    parser.add_argument("words", nargs="*")
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 2)
    args = parser.parse_args()
    bugs = tomllib.loads((ROOT / "tests/planted_bugs.toml").read_text("utf-8"))["bug"]
    chosen = [bug for bug in bugs if all(word in bug["file"] for word in args.words)]
    with ThreadPoolExecutor(args.workers) as pool:
        outcomes = list(pool.map(plant, chosen))
    for outcome in outcomes:
        said = outcome.found_by or f"NOT FOUND {outcome.problem}"
        print(f"{outcome.bug['file']}: {outcome.bug['what']}\n    {said}")
    missed = sum(not outcome.found_by for outcome in outcomes)
    print(f"{len(outcomes) - missed} of {len(outcomes)} found")
    return 1 if missed or not outcomes else 0


if __name__ == "__main__":
    sys.exit(main())
