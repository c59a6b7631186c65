"""A thousand documents of twenty circuits over all cores. Usage: make bench"""

from __future__ import annotations

import sys
import tempfile
import time
from os import cpu_count
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.builders import circuit, job, laid
from vivid_lattice.batch import check_all, documents_in
from vivid_lattice.core.job_file import to_text

DOCUMENTS, CIRCUITS, BUDGET_S = 1000, 20, 60.0


def main() -> int:
    """Exit code 0 when all are done within the budget."""
    with tempfile.TemporaryDirectory() as folder:
        for number in range(DOCUMENTS):
            held = (
                circuit(id=f"c{at}", name=f"Circuit {at}", run=(laid(8.0 + at + number % 7),)) for at in range(CIRCUITS)
            )
            (Path(folder) / f"plot-{number:04}.json").write_text(to_text(job(*held)), encoding="utf-8")
        start = time.perf_counter()
        lines = check_all(documents_in(Path(folder)))
        took = time.perf_counter() - start
    print(
        f"batch: {len(lines)} documents of {CIRCUITS} circuits in {took:.1f} s on {cpu_count()} cores (budget {BUDGET_S:g} s, ratio {BUDGET_S / took:.1f})"
    )
    return 0 if took <= BUDGET_S and len(lines) == DOCUMENTS else 1


if __name__ == "__main__":
    sys.exit(main())
