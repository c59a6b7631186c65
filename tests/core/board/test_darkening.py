"""What goes dark with a device."""

from __future__ import annotations

import unittest

from tests.builders import circuit, mcb, two_boards
from tests.core.board.made import models
from vivid_lattice.core.board.isolation.affected_circuits import circuits_lost_with
from vivid_lattice.core.document.job import Job, SharedRcd
from vivid_lattice.core.document.rcd import Rcd


class Darkening(unittest.TestCase):
    """Two boards, the second with a shared RCD ahead of one of its ways."""

    def setUp(self) -> None:
        far = (circuit(id="a", name="A", device=mcb(6.0)), circuit(id="b", name="B", device=mcb(16.0)))
        made = two_boards(None, *far)
        main, sub = made.boards
        group = SharedRcd(id="r1", name="RCD 1", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        ways = (sub.ways[0].model_copy(update={"rcd": "r1"}), *sub.ways[1:])
        self.job: Job = made.model_copy(
            update={"boards": (main, sub.model_copy(update={"shared_rcds": (group,), "ways": ways}))}
        )

    def names(self, board: str, unit: str) -> list[str]:
        model = models(self.job)[board]
        return [one.id for one in circuits_lost_with(model.tree, model.board, model.units.by_id[unit])]

    def test_a_shared_rcd_takes_what_is_behind_it_and_nothing_else(self) -> None:
        self.assertEqual(self.names("sub", "rcd:r1"), ["a"])

    def test_a_way_takes_its_own_circuit_and_a_feeder_all_behind_it(self) -> None:
        self.assertEqual(self.names("sub", "way:b"), ["b"])
        self.assertEqual(self.names("main", "way:f1"), ["f1", "a", "b"])


if __name__ == "__main__":
    unittest.main()
