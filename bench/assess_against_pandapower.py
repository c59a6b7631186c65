"""The whole assessment of 40-circuit jobs, single-phase and three-phase, against pandapower's load flow and short-circuit
calculation of the same network; and how the cost grows with the number of circuits.

Both run on the same network in the same process, taking turns, best of several rounds. pandapower solves the
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
from collections.abc import Callable, Sequence
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))
warnings.simplefilter("ignore")
logging.disable(logging.WARNING)

from tests.builders import circuit, cutout, feeder, flat, laid, rcbo, supply, two_boards
from tests.core.test_three_phase import LINES, generated
from tests.pandapower_model import Model, Unbalanced
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.job import Circuit, FedByWay, Job, Way
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set

ROUNDS = 25
WANTED_RATIO = 10.0
BUDGET_MS = 20.0
DESIGN_S = 1.0


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
    main = main.model_copy(update={"ways": ways, "way_count": 30})
    sub = sub.model_copy(update={"fed_by": FedByWay(board="main", way=1)})
    return made.model_copy(update={"boards": (main, sub), "circuits": (made.circuits[0], *held)})


def solver(job: Job) -> Callable[[], None]:
    """What the assessment answers, by pandapower: one load flow for the drops, and a short-circuit calculation for each of what
    the checks and the row show: largest current (line and neutral cold), smallest (warm), the earth loop as a meter reads
    it, and warm."""
    nets = {what: Model(job) for what in ("cold", "warm", "meter", "earth")}
    loops, tree = nets["cold"].ours.loops, nets["cold"].ours.tree
    for what, model in nets.items():
        ahead = loops.ze_ohm() if what in ("meter", "earth") else model.volts / loops.origin_fault_a()
        model.line("source", "main", ahead)
        model.joined("f1", "sub")
    for one in job.circuits:
        run = loops.run(one)
        ohms = {
            "cold": 2 * run.r1_cold_ohm,
            "warm": 2 * run.line_hot.real,
            "meter": run.cold_ohm,
            "earth": run.hot_ohm,
        }
        for what, model in nets.items():
            model.line(tree.place(one).board.id, one.id, ohms[what])
    nets["warm"].load(*((one.id, 5.0) for one in job.circuits if one.kind != "distribution"))

    def solve() -> None:
        nets["warm"].drop_percent("c0")
        for model in nets.values():
            model.net.pop("res_bus_sc", None)
            model.fault_a("c0")

    return solve


def three_phase_solver(job: Job) -> Callable[[], None]:
    """What the assessment of a three-phase job answers, by pandapower: one unbalanced load flow for the drops of every line,
    and short-circuit calculations of the lines, of line and neutral cold and warm, and of line and earth cold and warm."""
    ours, flow = Installation.of(job, rule_set(job.job.rules)), Unbalanced(job.supply.nominal_v)
    flow.ROUNDS = 1
    for place in (*job.boards, *job.circuits):
        flow.bus(place.id)
    flow.line("source", "b0", complex(1e-5, 1e-6))
    faults = {what: Model(job) for what in ("lines", "neutral", "neutral warm", "meter", "earth")}
    for model in faults.values():
        model.line("source", "b0", ours.loops.ahead.origin.line_cold)
    for one in job.circuits:
        home, run = ours.tree.place(one).board.id, ours.loops.run(one)
        flow.line(home, one.id, run.line_hot)
        ohms = {
            "lines": run.line_cold,
            "neutral": 2 * run.line_cold,
            "neutral warm": 2 * run.line_hot,
            "meter": run.cold_ohm,
            "earth": run.loop,
        }
        for what, model in faults.items():
            model.line(home, one.id, ohms[what])
        if one.kind == "distribution":
            flow.line(one.id, ours.tree.feeds[one.id], complex(1e-5, 1e-6))
            for model in faults.values():
                model.joined(one.id, ours.tree.feeds[one.id])
        else:
            carried = ours.drops.design_current(one).by_line
            flow.load(one.id, tuple(carried.get(line, 0.0) for line in LINES), 1.0)

    def solve() -> None:
        flow.solve()
        for model in faults.values():
            model.net.pop("res_bus_sc", None)
            model.fault_a("c0")

    return solve


def best_ms(calls: Sequence[Callable[[], object]], rounds: int = ROUNDS) -> list[tuple[float, float]]:
    """Best and median of several rounds of each call [ms], after one to warm up; the collector rests meanwhile.

    The calls take turns, so that a machine that slows down for a while slows all of them alike.
    """
    for call in calls:
        call()
    times: list[list[float]] = [[] for _ in calls]
    gc.collect()
    gc.disable()
    try:
        for _ in range(rounds):
            for call, held in zip(calls, times, strict=True):
                start = time.perf_counter()
                call()
                held.append(1000 * (time.perf_counter() - start))
    finally:
        gc.enable()
    return [(min(held), statistics.median(held)) for held in times]


def compared(title: str, job: Job, solve: Callable[[], None], rounds: int) -> tuple[float, float]:
    """Both, one after the other, printed; what a keystroke takes [ms] and how many times longer the solver, by the best."""
    asked = {("capacity", job.circuits[-1].id)}
    keystroke, whole, theirs = best_ms([lambda: assess(job, explain=asked), lambda: assess(job), solve], rounds)
    print(
        f"{title}: {len(job.circuits)} circuits on {len(job.boards)} boards, {len(assess(job).findings)} findings; best (median)"
    )
    print(
        f"  every finding, one working      {keystroke[0]:8.1f} ms ({keystroke[1]:.1f})   what a keystroke asks; budget {BUDGET_MS:g} ms"
    )
    print(f"  every finding, every working    {whole[0]:8.1f} ms ({whole[1]:.1f})   what a report asks")
    print(f"  pandapower                      {theirs[0]:8.1f} ms ({theirs[1]:.1f})")
    ratio = theirs[0] / keystroke[0]
    print(f"  ratio {ratio:.1f} (wanted: {WANTED_RATIO:g}); with every working written out {theirs[0] / whole[0]:.1f}")
    return keystroke[0], ratio


def designing(job: Job) -> float:
    """What choosing every cable and device of a job anew takes [s], by size and by price, printed; the longer of the two."""
    emptied = {"cable": "auto", "device": "auto"}
    held = tuple(one if one.kind == "distribution" else one.model_copy(update=emptied) for one in job.circuits)
    took = []
    for aim in ("size", "price"):
        settings = job.settings.model_copy(update={"design_for": aim})
        opened = job.model_copy(update={"circuits": held, "settings": settings})
        took.append(best_ms([lambda opened=opened: design(opened)], 3)[0][0] / 1000)  # type: ignore[misc]
    print(f"designing all of it anew: by size {took[0]:.2f} s, by price {took[1]:.2f} s (wanted: under {DESIGN_S:g} s)")
    return max(took)


def growth() -> float:
    """The cost of 5, 20, 80 and 320 circuits, printed; that of a circuit among 320 over that of one among 20."""
    each = {}
    for count in (5, 20, 80, 320):
        job = generated(count, seed=count)
        took = best_ms([lambda job=job: assess(job, explain=False)], 5)[0][0]  # type: ignore[misc]
        each[count] = took / count
        print(f"  {count:4} circuits {took:8.1f} ms, {1000 * took / count:6.0f} µs each")
    return each[320] / each[20]


def main() -> int:
    """Exit code 0 when budget and ratio are kept and the cost grows in proportion."""
    single = forty()
    one = compared("single-phase", single, solver(single), ROUNDS)
    three = generated(40, seed=40)
    other = compared("three-phase, uneven", three, three_phase_solver(three), ROUNDS)
    designed = max(designing(single), designing(three))
    print("growth:")
    grown = growth()
    print(f"  a circuit among 320 costs {grown:.2f} times one among 20")
    kept = all(took <= BUDGET_MS and ratio >= WANTED_RATIO for took, ratio in (one, other))
    return 0 if kept and grown < 2 and designed < DESIGN_S else 1


if __name__ == "__main__":
    sys.exit(main())
