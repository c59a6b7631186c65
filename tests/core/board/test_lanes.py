"""Conductors as they are drawn: beside each other in their channels, in the enclosure, their ends where they were.

What is tested is geometry; it has no source. Boards: the demo jobs, and typical homes of each standard as they are proposed.
"""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from itertools import combinations, pairwise

from vivid_lattice.core.actions.move_device import model_of
from vivid_lattice.core.actions.new_job import typical_home
from vivid_lattice.core.actions.propose_layout import propose_layout
from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.lanes import in_lanes
from vivid_lattice.core.board.wiring.wiring_list import Conductor
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.demo import DEMOS, demo_job

#: Closer than this, two conductors of a drawing cannot be told apart [mm].
APART_MM = 0.4
#: Stretches that run beside each other for so long [mm] are seen to.
ALONG_MM = 6.0

Stretch = tuple[str, int, float, float, float]


def boards() -> Iterator[tuple[str, BoardModel]]:
    for name in DEMOS:
        job = demo_job(name)
        for board in job.boards:
            if board.build.enclosure is not None and board.build.device_positions:
                yield f"{name} {board.id}", model_of(job, board.id)
    for standard in ("uk", "na"):
        home = next(home for home in customary(standard).homes if home.id == "three-bed")
        yield (
            f"{standard} home",
            model_of(propose_layout(typical_home(home, rule_set(standard), "Home"), "main").document, "main"),
        )


def stretches(conductor: Conductor) -> Iterator[Stretch]:
    """Those that end at no terminal: id, axis, where, from, to. What a device plugs onto is not drawn."""
    if conductor.kind == "plug":
        return
    corners, last = conductor.corners, len(conductor.corners) - 2
    outside = [
        Terminal(end.terminal).kind in ("supply", "cable", "bond", "case") and not Terminal(end.terminal).at_bar
        for end in (conductor.start, conductor.end)
    ]
    for at, (a, b) in enumerate(pairwise(corners)):
        if (at == 0 and not outside[0]) or (at == last and not outside[1]):
            continue
        if abs(a.x - b.x) > abs(a.y - b.y):
            yield conductor.id, 1, a.y, min(a.x, b.x), max(a.x, b.x)
        else:
            yield conductor.id, 0, a.x, min(a.y, b.y), max(a.y, b.y)


def on_top(a: Stretch, b: Stretch) -> bool:
    return (
        a[0] != b[0] and a[1] == b[1] and abs(a[2] - b[2]) < APART_MM and min(a[4], b[4]) - max(a[3], b[3]) > ALONG_MM
    )


class Lanes(unittest.TestCase):
    """Laws over every board."""

    boards: dict[str, tuple[BoardModel, tuple[Conductor, ...]]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.boards = {name: (model, in_lanes(model.wiring.conductors, model.places)) for name, model in boards()}

    def test_no_conductor_lies_on_another(self) -> None:
        for name, (model, drawn) in self.boards.items():
            routed = [s for conductor in model.wiring.conductors for s in stretches(conductor)]
            apart = [s for conductor in drawn for s in stretches(conductor)]
            with self.subTest(board=name):
                pairs = [(a, b) for a, b in combinations(apart, 2) if on_top(a, b)]
                before = sum(on_top(a, b) for a, b in combinations(routed, 2))
                self.assertEqual(pairs[:3], [], f"{len(pairs)} of {before} on top of each other")

    def test_ends_at_terminals_stay_and_everything_is_in_the_enclosure(self) -> None:
        for name, (model, drawn) in self.boards.items():
            for was, now in zip(model.wiring.conductors, drawn, strict=True):
                with self.subTest(board=name, conductor=now.id):
                    self.assertEqual(len(was.corners), len(now.corners))
                    for end, at in ((now.start, 0), (now.end, -1)):
                        terminal = Terminal(end.terminal)
                        if terminal.at_bar or terminal.kind not in ("supply", "cable", "bond", "case"):
                            self.assertEqual(was.corners[at], now.corners[at])
                    for corner in now.corners:
                        self.assertTrue(
                            0 <= corner.x <= model.places.width_mm and 0 <= corner.y <= model.places.height_mm
                        )

    def test_ways_stay_square_and_lengths_as_routed(self) -> None:
        for name, (model, drawn) in self.boards.items():
            for was, now in zip(model.wiring.conductors, drawn, strict=True):
                with self.subTest(board=name, conductor=now.id):
                    self.assertEqual(was.length_mm, now.length_mm)
                    for a, b in pairwise(now.corners):
                        self.assertLess(min(abs(a.x - b.x), abs(a.y - b.y)), 0.06)


if __name__ == "__main__":
    unittest.main()
