"""The design report of 60 circuits with every sum, each sheet of it, a workbook and a bundle, against their budgets. Usage: make bench"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from bench.board import board_of
from bench.timing import best_ms, told
from tests.core.board.made import packed
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, matched
from vivid_lattice.imports.table import read_table
from vivid_lattice.reports.catalogue import export
from vivid_lattice.reports.page_preview import page_picture
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.tables import as_csv, circuits

REPORT_MS, OTHER_MS, PAGE_MS, IMPORT_MS = 3000.0, 1500.0, 250.0, 1500.0
WHEN = "2026-01-31T09:00:00"


def made(job: Job, kind: str) -> bytes:
    """An export from the beginning: assessed, laid out on pages, written."""
    return export(ReportData(job=job, made_at=WHEN, revision=1, saved_at=WHEN), kind).content


def imported(job: Job, raw: bytes) -> int:
    """A table read and every row of it tried on an empty board."""
    table = read_table(raw)
    bare = job.boards[0].model_copy(update={"ways": (), "shared_rcds": ()})
    empty = job.model_copy(update={"boards": (bare,), "circuits": ()})
    return read_circuits(empty, table.rows, matched(table.heads, FIELDS)).added


def main() -> int:
    """Exit code 0 when all are within their budgets."""
    job = packed(board_of(60, 1))
    good = told("design report of 60 circuits, every sum", best_ms(lambda: made(job, "report"), 3), REPORT_MS)
    for kind in ("tests", "wiring", "hand-over", "xlsx", "html", "dxf", "zip"):
        good &= told(f"{kind} of 60 circuits", best_ms(lambda kind=kind: made(job, kind), 3), OTHER_MS)  # type: ignore[misc]
    report = made(job, "report")
    good &= told("a page of it as a picture", best_ms(lambda: page_picture(report, 30), 5), PAGE_MS)
    raw = as_csv(circuits(ReportData(job=job, made_at=WHEN)))
    assert imported(job, raw) == 60
    good &= told("60 circuits from a table", best_ms(lambda: imported(job, raw), 3), IMPORT_MS)
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
