"""A house of 60 points: typed from nothing, and routed again with a circuit pinned in another order.

Usage: make bench, or python bench/plan.py. Prints each time with its share of the budget.
"""

from __future__ import annotations

import time

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import CircuitRoute
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set

AGAIN_S, NEW_S = 0.2, 2.0
CIRCUITS = (
    "kitchen ring",
    "upstairs sockets ring",
    "downstairs sockets ring",
    "lights down",
    "lights up",
    "cooker 32A",
)
LINES = (
    "kitchen 4.2 x 3.6 door left", "hall 1.6 x 5 left of kitchen door right", "lounge 5 x 4 left of hall door right",
    "board hall left at 0.4", "landing 1.6 x 5 above hall door right", "bedroom 4 x 4 right of landing door left",
    "study 3 x 4 left of landing door right", "8 double sockets kitchen", "2 double sockets hall", "10 double sockets lounge",
    "3 sockets landing", "9 sockets bedroom", "9 sockets study", "5 lights kitchen", "2 way light hall landing", "3 lights lounge",
    "light bedroom", "2 lights study", "cooker kitchen",
)  # fmt: skip


def designed() -> Job:
    """The circuits, without a plan."""
    job = begin("Mill", rule_set("uk"), "TN-C-S")
    for line in CIRCUITS:
        job = enter_and_design(job, line, "main").job
    return job


def main() -> None:
    """Prints both times."""
    rules = rule_set("uk")
    start = designed()
    began = time.perf_counter()
    job = start
    for line in LINES:
        job = enter_plan_line(job, line)
    typed_s = time.perf_counter() - began
    times = []
    for turn in range(5):
        first = [point.id for point in job.plan.points if point.circuit == "c2"][turn]
        route = CircuitRoute(circuit="c2", order=(first,))
        moved = job.model_copy(update={"plan": job.plan.model_copy(update={"routes": (route,)})})
        began = time.perf_counter()
        house_plan(moved, rules)
        times.append(time.perf_counter() - began)
    count = len(job.plan.points)
    print(f"{count} points, {len(LINES)} lines from nothing: {typed_s:.2f} s, {typed_s / NEW_S:.2f} of {NEW_S:g} s")
    again_s = sorted(times)[2]
    print(f"routed again: {again_s * 1000:.0f} ms, {again_s / AGAIN_S:.2f} of {AGAIN_S * 1000:.0f} ms")


if __name__ == "__main__":
    main()
