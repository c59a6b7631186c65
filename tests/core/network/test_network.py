"""The tree and what adds up along it."""

from __future__ import annotations

import unittest

from tests.builders import circuit, feeder, finding, flat, job, laid, mcb, rcbo, step_result, supply, two_boards
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Board, Cable, FedByWay, Job, MainSwitch, Way
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set


def network(of: Job) -> Installation:
    """The network of a job."""
    return Installation.of(of, rule_set("uk"))


def three_boards() -> Job:
    """A board behind a board behind a board."""
    made = two_boards(feeder(), feeder(id="f2", name="Second feeder", run=(laid(20.0, "D"),)))
    third = Board(
        id="third", name="Third", fed_by=FedByWay(board="sub", way=1), way_count=4, ways=(Way(number=1, circuit="c1"),)
    )
    return checked(made.model_copy(update={"boards": (*made.boards, third), "circuits": (*made.circuits, circuit())}))


class Depth(unittest.TestCase):
    """Boards behind boards."""

    def test_the_loop_adds_up_over_every_feeder(self) -> None:
        # IEC 60228: 10 mm² 1.83 mΩ/m, both conductors, 90 °C factor 1.28; then 2.5/1.5 mm² at 1.20 (Table I3).
        expected = 0.35 + (30 + 20) * 2 * 1.83e-3 * 1.28 + 20 * (7.41 + 12.1) * 1e-3 * 1.2
        self.assertAlmostEqual(finding(three_boards(), "disconnection").value or 0, expected, places=9)

    def test_the_path_names_every_board_on_the_way(self) -> None:
        path = next(row.path for row in assess(three_boards()).circuits if row.circuit == "c1")
        self.assertEqual(
            [point.label for point in path], ["Origin", "Main board", "Sub-board", "Third", "End of Heater"]
        )
        drops = [point.drop_pct or 0 for point in path]
        self.assertEqual(drops, sorted(drops))

    def test_a_feeder_is_reckoned_with_all_that_hangs_behind_it(self) -> None:
        found = network(three_boards())
        far, near = (found.drops.design_current(found.tree.circuits[name]).current_a for name in ("f1", "f2"))
        self.assertEqual(far, near)
        self.assertEqual([one.id for one in found.tree.fed_through(found.tree.circuits["f1"])], ["f2", "c1"])

    def test_every_rcd_on_the_way_is_seen_nearest_first(self) -> None:
        made = three_boards()
        switch = MainSwitch(rating_a=63.0, rcd=Rcd(idn_ma=100.0, time_delayed=True))
        boards = (made.boards[0].model_copy(update={"main_switch": switch}), *made.boards[1:])
        found = network(made.model_copy(update={"boards": boards}))
        ahead = found.tree.rcds_ahead(found.tree.circuits["c1"])
        self.assertEqual([one.rcd.idn_ma for one in ahead], [30.0, 100.0])


class Conductors(unittest.TestCase):
    """Resistances of one circuit."""

    def test_a_separate_protective_conductor_stays_cooler_than_the_line(self) -> None:
        singles = Cable(type="single-pvc", area_mm2=4.0, cpc="separate", cpc_mm2=4.0)
        run = network(job(circuit(cable=singles, run=(laid(10.0, "B"),)))).loops.run(
            circuit(cable=singles, run=(laid(10.0, "B"),))
        )
        self.assertAlmostEqual(run.hot_ohm, 10 * 4.61e-3 * (1.20 + 1.04))

    def test_an_old_cable_with_a_smaller_protective_conductor_can_be_stated(self) -> None:
        # Note to uk.cpc.flat-twin-pvc: old 2.5 mm² cable may hold a 1.0 mm² conductor.
        old, new = (
            finding(job(circuit(cable=cable)), "disconnection").value or 0
            for cable in (flat(2.5, cpc_mm2=1.0), flat(2.5))
        )
        self.assertAlmostEqual(old - new, 20 * (18.1 - 12.1) * 1e-3 * 1.2)

    def test_a_ring_of_twice_the_length_has_half_the_loop_of_a_radial(self) -> None:
        ring = finding(job(circuit(kind="ring", device=rcbo(32.0), run=(laid(40.0),))), "disconnection")
        radial = finding(job(circuit(kind="radial", device=rcbo(32.0), run=(laid(20.0),))), "disconnection")
        self.assertAlmostEqual(step_result(ring, "R1+R2") * 2, step_result(radial, "R1+R2"))

    def test_sections_add_up_whatever_their_order(self) -> None:
        forth, back = ((laid(7.0), laid(5.0, "101"), laid(3.0, "102")), (laid(3.0, "102"), laid(7.0), laid(5.0, "101")))
        for check in ("voltage-drop", "disconnection"):
            values = [finding(job(circuit(run=run)), check).value or 0 for run in (forth, back)]
            self.assertAlmostEqual(*values)


class Tails(unittest.TestCase):
    """The first metres."""

    def test_they_carry_the_demand_but_never_more_than_the_cut_out_lets_through(self) -> None:
        tails = {"area_mm2": 25.0, "length_m": 3.0}
        light = network(job(supply=supply(tails=tails))).drops.tails()[0].current_a
        self.assertAlmostEqual(light, 10 + (3000 / 230 - 10) / 2)
        many = job(
            *(circuit(id=f"c{at}", kind="ring", device=rcbo(32.0)) for at in range(12)), supply=supply(tails=tails)
        )
        self.assertEqual(network(many).drops.tails()[0].current_a, 100.0)

    def test_while_a_load_is_unknown_they_are_reckoned_with_the_whole_cut_out(self) -> None:
        open_ = circuit(id="c2", loads=())
        made = job(circuit(), open_, supply=supply(tails={"area_mm2": 25.0, "length_m": 3.0}))
        self.assertEqual(network(made).drops.tails()[0].current_a, 100.0)
        self.assertIn(finding(made, "voltage-drop").verdict, ("pass", "tight"))


class Devices(unittest.TestCase):
    """Limits and clearing at the edges of the tables."""

    def setUp(self) -> None:
        self.devices = rule_set("uk").devices

    def test_the_smaller_of_table_and_formula_is_the_limit(self) -> None:
        # BS 7671:2018, Table 41.3 rounds B20 up to 2.19 and B45 down to 0.97; exact 2.185 and 0.9711.
        self.assertAlmostEqual(self.devices.loop_limit(mcb(20.0), 0.4).zs_ohm, 2.185)
        self.assertAlmostEqual(self.devices.loop_limit(mcb(45.0), 0.4).zs_ohm, 0.97)

    def test_a_fuse_is_slower_for_fixed_loads_above_32_a_and_its_limit_larger(self) -> None:
        # BS 7671:2018, Tables 41.2 and 41.4: 30 A rewirable 1.04 Ω at 0.4 s, 2.51 Ω at 5 s.
        fuse = mcb(30.0).model_copy(update={"kind": "fuse-bs3036", "curve": None})
        self.assertEqual([self.devices.loop_limit(fuse, time).zs_ohm for time in (0.4, 5.0)], [1.04, 2.51])

    def test_a_fuse_clears_a_larger_fault_with_no_more_energy(self) -> None:
        fuse = mcb(30.0).model_copy(update={"kind": "fuse-bs3036", "curve": None})
        large, edge, small = (self.devices.clearing(fuse, amperes) for amperes in (900.0, 210.2, 100.0))
        self.assertEqual((large.current_a, large.time_s), (edge.current_a, edge.time_s))
        self.assertEqual((large.time_s, small.time_s), (0.4, 5.0))

    def test_breaking_capacity_of_an_old_fuse_has_to_be_read_off(self) -> None:
        old = circuit(device=mcb(15.0).model_copy(update={"kind": "fuse-bs3036", "curve": None, "breaking_ka": None}))
        found = finding(job(old), "breaking-capacity")
        self.assertEqual(found.verdict, "missing")
        self.assertIn("usual values: 1, 2, 4 kA", str(found.needs[0].ask))


if __name__ == "__main__":
    unittest.main()
