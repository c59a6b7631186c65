"""The matrix of 60 devices, a fault in the lead demo, and a plan of 24 circuits, each against its budget. Usage: make bench"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from bench.timing import best_ms, told
from tests.builders import circuit, feeder, job, mcb, two_boards
from vivid_lattice.core.design.rcd_plans.architectures import TITLES
from vivid_lattice.core.design.rcd_plans.plan import plan
from vivid_lattice.core.document.job import Job, Load
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.selectivity.matrix import matrix
from vivid_lattice.demo import demo_job

MATRIX_MS, FAULT_MS, PLAN_MS = 50.0, 10.0, 2000.0
DEVICES, CIRCUITS = 60, 24


def sixty() -> Job:
    """A cut-out, a feeder and 58 circuits behind it: 60 devices, 117 pairs."""
    held = [circuit(id=f"c{n}", name=f"Circuit {n}", device=mcb((6.0, 10.0, 16.0, 20.0)[n % 4])) for n in range(58)]
    made = two_boards(feeder(device=mcb(63.0, "C")), *held[:20])
    main, sub = made.boards
    wide = two_boards(feeder(device=mcb(63.0, "C")), *held[:20])
    ways = tuple(sub.ways[0].model_copy(update={"number": n + 1, "circuit": one.id}) for n, one in enumerate(held))
    sub = sub.model_copy(update={"ways": ways, "way_count": 60})
    return wide.model_copy(update={"boards": (main, sub), "circuits": (made.circuits[0], *held)})


def twenty_four() -> Job:
    """Twenty-four circuits of every use."""
    kinds = (("lighting", "lamp", 6.0), ("radial", "socket", 20.0), ("fixed", "heater", 16.0), ("fixed", "alarm", 6.0))
    held = []
    for n in range(CIRCUITS):
        kind, load, rating = kinds[n % 4]
        loads = (
            Load.model_validate({"name": f"L{n}", "kind": load, "leakage_ma": 0.4 + 0.1 * (n % 5), "power_w": 60.0}),
        )
        held.append(circuit(id=f"c{n}", name=f"Circuit {n}", kind=kind, loads=loads, device=mcb(rating)))
    return job(*held)


def main() -> int:
    """Exit code 0 when all are within their budgets."""
    many, demo, board = sixty(), demo_job("millrace"), twenty_four()
    found = matrix(many)
    good = told(
        f"matrix of {len(found.devices)} devices, {len(found.pairs)} pairs",
        best_ms(lambda: matrix(many), 15),
        MATRIX_MS,
    )
    for event in (
        FaultEvent(kind="line-earth", circuit="c13"),
        FaultEvent(kind="line-neutral", circuit="c16"),
        FaultEvent(kind="open-neutral"),
    ):
        good &= told(
            f"a fault in the lead demo: {event.kind}", best_ms(lambda e=event: describe(demo, e), 15), FAULT_MS
        )  # type: ignore[misc]
    for architecture in TITLES:
        done = plan(board, "main", architecture)
        how = "proven" if done.proven else f"gap {done.gap_pct:.1f} %"
        took = best_ms(lambda a=architecture: plan(board, "main", a), 1)  # type: ignore[misc]
        good &= told(
            f"plan of {CIRCUITS} circuits: {done.title}, {(done.not_possible and 'refused') or how}", took, PLAN_MS
        )
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
