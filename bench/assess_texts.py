"""What an assessment at a key press costs, one cell explained: with its sentences made at the server, and with ids that the view
renders (``texts=none``).

Prints the ratio of both times and sizes, for the demo job and for one of forty circuits. Usage: python bench/assess_texts.py
"""

from __future__ import annotations

import json
import statistics
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from fastapi.testclient import TestClient

from tests.builders import circuit, job
from vivid_lattice.api.app import create_app, tune_garbage_collector
from vivid_lattice.core.job_file import to_text
from vivid_lattice.demo import demo_text

ROUNDS = 15


def _timed(client: TestClient, body: dict[str, object], query: str) -> tuple[float, int]:
    start = time.perf_counter()
    answer = client.post(f"/api/assess{query}", json=body)
    answer.raise_for_status()
    return 1000 * (time.perf_counter() - start), len(answer.content)


def main() -> None:
    """One line a job."""
    many = job(*(circuit(id=f"c{n}", name=f"Heater {n}") for n in range(40)))
    with (
        tempfile.TemporaryDirectory() as folder,
        TestClient(create_app(Path(folder) / "bench.sqlite3"), base_url="http://127.0.0.1:8765") as client,
    ):
        tune_garbage_collector()  # as the server does
        for name, text in (("demo job", demo_text("millrace")), ("40 circuits", to_text(many))):
            body = {"document": json.loads(text), "explain": [{"check": "capacity", "circuit": "c1"}]}
            rounds = [(_timed(client, body, ""), _timed(client, body, "?texts=none")) for _ in range(ROUNDS + 3)][3:]
            full, ids = (statistics.median(each[at][0] for each in rounds) for at in (0, 1))
            sizes = rounds[-1][0][1], rounds[-1][1][1]
            print(
                f"{name}: sentences {full:.1f} ms, {sizes[0]} B; ids {ids:.1f} ms, {sizes[1]} B; time {ids / full:.2f}, size {sizes[1] / sizes[0]:.2f}"
            )


if __name__ == "__main__":
    main()
