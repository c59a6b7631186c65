"""Tests shared out over processes: what the parts are, how one is run, and what is said of them.

A part is a test module, or a class of one that takes long. A worker runs one part after the other, so that what is slow to
set up (the browser and its server, pandapower) is set up once a worker.
"""

from __future__ import annotations

import ast
import io
import json
import subprocess
import time
import unittest
import warnings
from collections.abc import Iterator, Sequence
from concurrent.futures import Future, ProcessPoolExecutor, as_completed
from contextlib import suppress
from dataclasses import dataclass, field
from multiprocessing import get_context
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
#: Long sweeps; ``make test`` has a sample of each.
SLOW = "tests.slow"
#: Modules whose classes are parts of their own: each class takes as long as another module.
_BY_CLASS = (
    "tests.browser.",
    "tests.api.test_schema",
    "tests.core.test_against_pandapower",
    "tests.reports.test_sheets",
)
#: What takes longest goes first, so that no worker is left with it at the end.
_FIRST = (
    "tests.browser.",
    "tests.api.test_schema",
    "tests.core.test_against_pandapower",
    "tests.reports.",
    "tests.test_cli",
    "tests.api.",
    "tests.store.",
)


@dataclass(frozen=True)
class TestPart:
    """What one worker runs at a time: a test module, one of its classes, or a command that has to succeed, which may
    print its own tests as JSON (``counts``)."""

    name: str
    command: tuple[str, ...] = ()
    folder: Path = ROOT
    counts: bool = False

    @property
    def module(self) -> str:
        """The module the part is of."""
        return ".".join(piece for piece in self.name.split(".") if piece == piece.lower())


@dataclass
class Ran:
    """What came of a part. ``times``: seconds of each test, by id."""

    part: TestPart
    seconds: float = 0.0
    times: dict[str, float] = field(default_factory=dict)
    failures: list[tuple[str, str]] = field(default_factory=list)
    skipped: int = 0

    @property
    def passed(self) -> int:
        """How many tests passed."""
        # A failing subtest is named by its test and what it differs in.
        failed = {name for test, _ in self.failures for name in (test, test.split(" ", 1)[0])}
        return len(self.times.keys() - failed) - self.skipped


def parts_below(folders: Sequence[str], *, slow: bool = False) -> list[TestPart]:
    """The parts of all test modules below some folders or files, what takes longest first."""
    found = []
    for folder in folders:
        path = ROOT / folder
        for file in sorted(path.rglob("test_*.py") if path.is_dir() else [path]):
            module = ".".join(file.relative_to(ROOT).with_suffix("").parts)
            if module.startswith(SLOW) == slow or folder.startswith(SLOW.replace(".", "/")):
                found += [TestPart(name) for name in _names(module, file)]
    return sorted(found, key=_turn)


def _turn(part: TestPart) -> int:
    return next((at for at, start in enumerate(_FIRST) if part.name.startswith(start)), len(_FIRST))


def _names(module: str, file: Path) -> Iterator[str]:
    if not module.startswith(_BY_CLASS):
        yield module
        return
    for node in ast.parse(file.read_text("utf-8")).body:
        if isinstance(node, ast.ClassDef) and any(
            isinstance(one, ast.FunctionDef) and one.name.startswith("test_") for one in node.body
        ):
            yield f"{module}.{node.name}"


class _Timed(unittest.TextTestResult):
    """Notes how long each test takes."""

    def __init__(self, *args: object, **kwargs: object):
        super().__init__(*args, **kwargs)  # type: ignore[arg-type]
        self.times: dict[str, float] = {}
        self._since = 0.0

    def startTest(self, test: unittest.TestCase) -> None:
        self._since = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        self.times[test.id()] = time.monotonic() - self._since


def run_part(part: TestPart) -> Ran:
    """Run a part in this process."""
    start = time.monotonic()
    ran = _run_command(part) if part.command else _run_tests(part)
    ran.seconds = time.monotonic() - start
    return ran


def _run_tests(part: TestPart) -> Ran:
    warnings.simplefilter("error", ResourceWarning)
    suite = unittest.defaultTestLoader.loadTestsFromName(part.name)
    result = unittest.TextTestRunner(stream=io.StringIO(), verbosity=0, resultclass=_Timed).run(suite)
    assert isinstance(result, _Timed)
    bad = [(test.id(), text) for test, text in (*result.failures, *result.errors)]
    bad += [(test.id(), "passed, though it is marked as failing") for test in result.unexpectedSuccesses]
    if not result.testsRun and not bad:
        bad.append((part.name, "has no test that runs"))
    return Ran(part, 0.0, result.times, bad, len(result.skipped))


def _run_command(part: TestPart) -> Ran:
    done = subprocess.run(part.command, cwd=part.folder, capture_output=True, text=True, check=False)
    ran = Ran(part)
    if part.counts:
        with suppress(json.JSONDecodeError):
            _count(ran, json.loads(done.stdout))
    if (done.returncode or (part.counts and not ran.times)) and not ran.failures:
        ran.failures.append((part.name, f"{done.stdout}\n{done.stderr}"))
    return ran


def _count(ran: Ran, report: Any) -> None:
    """The tests of the front end, as its runner reports them."""
    for file in report["testResults"]:
        for test in file["assertionResults"]:
            name = f"{Path(file['name']).name}: {test['fullName']}"
            ran.times[name] = (test.get("duration") or 0.0) / 1000
            if test["status"] == "failed":
                ran.failures.append((name, "\n".join(test["failureMessages"])))
            elif test["status"] != "passed":
                ran.skipped += 1
        if file["status"] == "failed" and file["message"]:
            ran.failures.append((file["name"], file["message"]))


def run_all(parts: Sequence[TestPart], workers: int) -> Iterator[Ran]:
    """Every part, as it is done. A worker that dies takes its part with it, which is said."""
    with ProcessPoolExecutor(workers, mp_context=get_context("spawn")) as pool:
        waiting: dict[Future[Ran], TestPart] = {pool.submit(run_part, part): part for part in parts}
        for done in as_completed(waiting):
            try:
                yield done.result()
            except Exception as why:  # the process is gone, or its answer cannot be read
                yield Ran(waiting[done], failures=[(waiting[done].name, f"the worker failed: {why!r}")])
