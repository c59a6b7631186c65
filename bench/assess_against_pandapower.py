"""The whole assessment of a 40-circuit, two-board job against pandapower's load flow and short-circuit calculation.

Both run on the same network in the same process, one after the other, best of several rounds. pandapower solves the
network exactly; the engine adds up the same impedances and also looks up tables, applies every check and writes
the workings. The ratio says how much quicker an answer at every keystroke is than a solver would be.
Usage: make bench
"""

from __future__ import annotations

import gc
import logging
import statistics
import sys
import time
import warnings
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))
warnings.simplefilter("ignore")
logging.disable(logging.WARNING)

from tests.builders import circuit, cutout, feeder, flat, laid, rcbo, supply, two_boards
from tests.pandapower_model import Model
from vivid_lattice.core.assess import assess
from vivid_lattice.core.job import Circuit, FedByWay, Job, Way

ROUNDS = 25
WANTED_RATIO = 10.0
BUDGET_MS = 20.0


def forty() -> Job:
    """Forty circuits on two boards, of every kind, some of several sections."""
    kinds = ("ring", "radial", "lighting", "fixed")
    held: list[Circuit] = []
    for number in range(39):
        kind = kinds[number % 4]
        run = (laid(12.0 + number), laid(4.0, "102")) if number % 3 == 0 else (laid(10.0 + number, ambient_c=35.0),)
        device = rcbo({"ring": 32.0, "radial": 20.0, "lighting": 6.0, "fixed": 16.0}[kind])
        held.append(
            circuit(id=f"c{number}", name=f"Circuit {number}", kind=kind, run=run, cable=flat(2.5), device=device)
        )
    made = two_boards(feeder(), *held[20:], supply=supply(tails={"area_mm2": 25.0, "length_m": 2.0}, cutout=cutout()))
    main, sub = made.boards
    ways = (Way(number=1, circuit="f1"), *(Way(number=at + 2, circuit=one.id) for at, one in enumerate(held[:20])))
    main = main.model_copy(update={"ways": ways, "ways_total": 30})
    sub = sub.model_copy(update={"fed_by": FedByWay(board="main", way=1)})
    return made.model_copy(update={"boards": (main, sub), "circuits": (made.circuits[0], *held)})


def solver(job: Job) -> Callable[[], None]:
    """What the assessment answers, by pandapower: one load flow for the drops, one short-circuit calculation of the
    line and neutral network for the largest currents, and one of the line and earth network for the loops."""
    live, earth = Model(job), Model(job)
    loops, tree = live.ours.loops, live.ours.tree
    live.line("source", "main", live.volts / loops.origin_fault_a())
    earth.line("source", "main", loops.ze_ohm())
    for model in (live, earth):
        model.joined("f1", "sub")
    for one in job.circuits:
        live.line(tree.place(one).board.id, one.id, 2 * loops.run(one).r1_cold_ohm)
        earth.line(tree.place(one).board.id, one.id, loops.run(one).hot_ohm)
        if one.kind != "distribution":
            live.load(one.id, 5.0)

    def solve() -> None:
        live.drop_percent("c0")
        for model in (live, earth):
            model.net.pop("res_bus_sc", None)
            model.fault_a("c0")

    return solve


def best_ms(call: Callable[[], object], rounds: int = ROUNDS) -> tuple[float, float]:
    """Best and median of several rounds [ms], after one to warm up; the collector rests meanwhile."""
    call()
    gc.collect()
    gc.disable()
    try:
        times = []
        for _ in range(rounds):
            start = time.perf_counter()
            call()
            times.append(1000 * (time.perf_counter() - start))
    finally:
        gc.enable()
    return min(times), statistics.median(times)


def main() -> int:
    """Exit code 0 when the ratio is reached."""
    job = forty()
    keystroke = best_ms(lambda: assess(job, explain={("capacity", "c0")}))
    whole = best_ms(lambda: assess(job))
    theirs = best_ms(solver(job))
    print(
        f"{len(job.circuits)} circuits on {len(job.boards)} boards, {len(assess(job).findings)} findings; best (median) of {ROUNDS}"
    )
    print(
        f"  every finding, one working      {keystroke[0]:8.1f} ms ({keystroke[1]:.1f})   what a keystroke asks; budget {BUDGET_MS:g} ms"
    )
    print(f"  every finding, every working    {whole[0]:8.1f} ms ({whole[1]:.1f})   what a report asks")
    print(f"  pandapower: flow, two faults    {theirs[0]:8.1f} ms ({theirs[1]:.1f})")
    ratio, with_workings = theirs[1] / keystroke[1], theirs[1] / whole[1]
    print(
        f"ratio of the medians: {ratio:.1f} times faster (wanted: {WANTED_RATIO:g}); with every working written out {with_workings:.1f} times"
    )
    return 0 if ratio >= WANTED_RATIO else 1


if __name__ == "__main__":
    sys.exit(main())
