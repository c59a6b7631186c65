"""Many job documents checked over all cores, for a builder with many plots."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from os import cpu_count
from pathlib import Path

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import names_of
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.job_file import read_document
from vivid_lattice.files import write_atomically
from vivid_lattice.safe_text import escape_formula

#: Documents handed to a worker at a time: enough that the handing over does not count.
_CHUNK = 16
COLUMNS = ("file", "title", "verdict", "circuits", "fail", "missing", "advice", "tight", "pass", "worst", "problem")


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchLine:
    """What came of one document. ``verdict`` 'unreadable' where it could not be read, with the reason."""

    file: str
    title: str = ""
    verdict: str = "unreadable"
    circuits: int = 0
    fail: int = 0
    missing: int = 0
    advice: int = 0
    tight: int = 0
    passed: int = 0
    worst: str = ""
    problem: str = ""

    def cells(self) -> tuple[object, ...]:
        """The line in the order of COLUMNS."""
        counts = (self.circuits, self.fail, self.missing, self.advice, self.tight, self.passed)
        return (self.file, self.title, self.verdict, *counts, self.worst, self.problem)


def documents_in(folder: Path) -> list[Path]:
    """The job documents below a folder, in the order of their names."""
    return sorted(path for path in folder.rglob("*.json") if path.is_file())


def check_document(path: Path) -> BatchLine:
    """One document assessed; a document that cannot be read is an answer too, never an error."""
    try:
        raw = path.read_bytes()
    except OSError as why:
        return BatchLine(file=str(path), problem=str(why))
    return check_text(str(path), raw)


def check_text(name: str, raw: bytes) -> BatchLine:
    """The same for a document that has been read already, by the name it is to be answered under."""
    try:
        job = read_document(raw)
    except BadDocument as why:
        return BatchLine(file=name, problem=str(why))
    assessment = assess(job, explain=False)
    names = names_of(job)
    over = [finding for finding in assessment.findings if finding.verdict == "fail"]
    worst = min(over, key=lambda finding: finding.margin or 0.0, default=None)
    count = assessment.counts.get
    return BatchLine(
        file=name,
        title=job.job.title,
        verdict=assessment.verdict,
        circuits=len(job.circuits),
        fail=count("fail", 0),
        missing=count("missing", 0),
        advice=count("advice", 0),
        tight=count("tight", 0),
        passed=count("pass", 0),
        worst=f"{names[worst.subject.id]}: {worst.check}" if worst else "",
    )


def check_all(
    paths: Sequence[Path], workers: int | None = None, progress: Callable[[int, int], None] | None = None
) -> list[BatchLine]:
    """Every document assessed once, over so many processes (as many as there are cores), in the order given.

    progress  called with how many are done, and how many there are
    """
    chunks = [paths[at : at + _CHUNK] for at in range(0, len(paths), _CHUNK)]
    done: dict[int, list[BatchLine]] = {}
    finished = 0
    with ProcessPoolExecutor(workers or cpu_count()) as pool:
        waiting = {pool.submit(_check_chunk, chunk): number for number, chunk in enumerate(chunks)}
        for future in as_completed(waiting):
            lines = future.result()
            done[waiting[future]] = lines
            finished += len(lines)
            if progress is not None:
                progress(finished, len(paths))
    return [line for number in range(len(chunks)) for line in done[number]]


def _check_chunk(paths: Sequence[Path]) -> list[BatchLine]:
    return [check_document(path) for path in paths]


def summary(lines: Sequence[BatchLine]) -> Iterator[str]:
    """The batch in a few lines: how many of each verdict, and what fails most often."""
    yield f"{len(lines)} documents, {sum(line.circuits for line in lines)} circuits"
    for verdict in ("pass", "tight", "advice", "missing", "fail", "unreadable"):
        count = sum(line.verdict == verdict for line in lines)
        if count:
            yield f"  {verdict:12}{count:7}"


def write_csv(lines: Sequence[BatchLine], target: Path) -> None:
    """The batch as CSV, whole or not at all. A cell that a spreadsheet would take for a formula is made text."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    writer.writerows([escape_formula(cell) for cell in line.cells()] for line in lines)
    write_atomically(target, out.getvalue().encode("utf-8"))
