"""Layout of 40 devices, what a drag asks, and the wiring list of 60 ways, each against its budget. Usage: make bench"""

from __future__ import annotations

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from bench.timing import best_ms, told
from tests.builders import circuit, job, mcb, supply
from vivid_lattice.core.actions.move_device import lay_out, model_of, move, with_housing
from vivid_lattice.core.board.board_view import view_of
from vivid_lattice.core.checks import BOARD_CHECKS, run_board_check
from vivid_lattice.core.document.board_build import BoardBuild, Enclosure
from vivid_lattice.core.document.job import Job, Load, SharedRcd, Way
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set

LAYOUT_MS, DRAG_MS, WIRING_MS = 2000.0, 30.0, 100.0


def board_of(count: int, phases: int) -> Job:
    """So many ways behind two shared RCDs, every third of them warm for long, in an enclosure with a fifth to spare."""
    held = []
    for n in range(count):
        load = Load(name=f"L{n}", kind="heater" if n % 3 == 0 else "lamp", power_w=1000.0, power_factor=1.0)
        line = () if phases == 1 else (("L1", "L2", "L3")[n % 3],)
        held.append(circuit(id=f"c{n}", name=f"Circuit {n}", loads=(load,), lines=line, device=mcb(16.0)))
    made = job(*held[:1], supply=supply(phases=phases)).model_copy(update={"circuits": tuple(held)})
    groups = tuple(SharedRcd(id=f"r{n}", name=f"RCD {n}", rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for n in (1, 2))
    ways = tuple(Way(number=n + 1, circuit=one.id, rcd=f"r{1 + n * 2 // count}") for n, one in enumerate(held))
    board = made.boards[0].model_copy(update={"shared_rcds": groups, "ways": ways, "way_count": 100})
    made = made.model_copy(update={"boards": (board,)})
    return with_housing(
        made,
        "main",
        BoardBuild(enclosure=Enclosure(title="Box", rows=4, modules=-(-count * 6 // 18), bar_terminals=200)),
    )


def asked_by_a_drag(of: Job, unit: str) -> None:
    """What the interface asks at each new place of a device that is held: the move, the checks of the build, the drawing."""
    moved = move(of, "main", unit, 4, 3.0)
    network = Installation.of(moved, rule_set(moved.job.rules))
    context = BoardContext(network, moved.boards[0], explain=False)
    for check in BOARD_CHECKS:
        if check.category == "build":
            run_board_check(check, context)
    view_of(network.boards, "main", [], wired=False)


def main() -> int:
    """Exit code 0 when all are within their budgets."""
    good = True
    for phases in (1, 3):
        start = time.perf_counter()
        made, found = lay_out(board_of(37, phases), "main")
        took = 1000 * (time.perf_counter() - start)
        rest = "proven" if found.proven else f"gap {100 * (found.cost - found.bound) / found.cost:.0f} %"
        good &= told(f"layout of {len(found.spots)} devices, {phases} lines, {rest}", took, LAYOUT_MS)
        good &= told("a drag among them", best_ms(lambda m=made: asked_by_a_drag(m, "way:c5"), 15), DRAG_MS)  # type: ignore[misc]
    sixty, _ = lay_out(board_of(60, 1), "main")
    good &= told("wiring list of 60 ways", best_ms(lambda: model_of(sixty, "main").wiring, 7), WIRING_MS)
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
