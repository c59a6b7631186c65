"""The matrix of devices in series: every pair once, each standing as the characteristics say."""

from __future__ import annotations

import unittest

from tests.builders import circuit, cutout, feeder, job, mcb, rcbo, supply, two_boards
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.job import Job, Load, Spur
from vivid_lattice.core.findings.finding import Subject
from vivid_lattice.core.selectivity.matrix import PairResult, matrix
from vivid_lattice.demo import DEMOS, demo_job


def pair(of: Job, up: str, down: str) -> PairResult:
    return next(one for one in matrix(of).pairs if (one.up, one.down) == (up, down))


class Pairs(unittest.TestCase):
    """Which pairs there are: devices on one way, never neighbours."""

    def test_a_device_meets_every_device_ahead_of_it_and_no_neighbour(self) -> None:
        made = two_boards(feeder(), circuit(id="c1"), circuit(id="c2", name="Other"))
        self.assertEqual(
            {(one.up, one.down) for one in matrix(made).pairs},
            {("cutout", "f1"), ("cutout", "c1"), ("f1", "c1"), ("cutout", "c2"), ("f1", "c2")},
        )

    def test_plugs_and_spurs_stand_below_their_circuit_only(self) -> None:
        spur = Spur(name="Towel rail", length_m=2.0, area_mm2=2.5, fuse_a=3.0)
        sockets = (Load(name="Sockets", kind="socket", count=2),)
        made = job(circuit(kind="radial", loads=sockets, device=rcbo(20.0), spurs=(spur,)))
        found = matrix(made)
        self.assertEqual(
            {(one.up, one.down) for one in found.pairs}, {("cutout", "c1"), ("c1", "c1-spur1"), ("c1", "c1-plug")}
        )
        self.assertEqual({one.id for one in found.devices if one.outlet}, {"c1-spur1", "c1-plug"})

    def test_an_empty_job_and_one_left_to_the_design_have_none(self) -> None:
        self.assertEqual(matrix(job(circuit(device="auto"))).pairs, ())
        alone = job(supply=supply(cutout=None))
        self.assertEqual((matrix(alone).pairs, matrix(alone).devices), ((), ()))

    def test_every_device_of_a_pair_is_listed_and_drawn_once(self) -> None:
        for name in DEMOS:
            found = matrix(demo_job(name))
            listed = [one.id for one in found.devices]
            self.assertEqual(len(listed), len(set(listed)), name)
            self.assertEqual(set(listed), {end for one in found.pairs for end in (one.up, one.down)}, name)
            for band in found.bands:
                for edge in (band.lower, band.upper):
                    amps = [point.amps for point in edge]
                    self.assertEqual(amps, sorted(amps), (name, band.device))
                    self.assertTrue(all(point.amps > 0 and point.seconds > 0 for point in edge), (name, band.device))


class Standings(unittest.TestCase):
    """How a pair stands, by cases reasoned from the standards' edges."""

    def test_a_cutout_over_a_small_breaker_is_total(self) -> None:
        # 100 A gG over B16 at 1 kA: the fuse takes some 20 000 A²s before it melts (IEC 60269-1 gates), the breaker lets
        # through far less.
        one = pair(job(), "cutout", "c1")
        self.assertEqual((one.status, one.overload), ("total", "total"))
        assert one.fault_a is not None
        self.assertAlmostEqual(one.fault_a, 1000.0, delta=1.0)
        self.assertGreaterEqual(one.upto_a or 1e9, one.fault_a)

    def test_breaker_over_breaker_ends_where_the_upper_may_act_at_once(self) -> None:
        # IEC 60898-1: type C may trip at once from 5 In, type B from 3 In, type D from 10 In.
        for curve, times in (("B", 3), ("C", 5), ("D", 10)):
            one = pair(two_boards(feeder(device=mcb(40.0, curve)), circuit(device=rcbo(10.0))), "f1", "c1")
            self.assertEqual((one.status, one.upto_a), ("partial", 40.0 * times), curve)
            self.assertIn(f"up to {40 * times} A", str(one.sentence))

    def test_a_pair_turned_round_is_crossed(self) -> None:
        one = pair(two_boards(feeder(device=mcb(10.0)), circuit(device=rcbo(32.0), loads=())), "f1", "c1")
        self.assertEqual((one.status, one.overload), ("none", "none"))
        self.assertIn("may trip first", str(one.sentence))

    def test_what_lacks_a_figure_is_unknown_and_not_total(self) -> None:
        made = job(supply=supply(fault_current_ka=None, cutout=cutout()))
        one = pair(made, "cutout", "c1")
        self.assertEqual((one.status, one.upto_a, one.shown), ("unknown", None, "?"))
        self.assertIn("not known: needs", str(one.sentence))

    def test_the_matrix_and_the_checks_agree_on_every_demo(self) -> None:
        # Two ways to the same answer: the row's check takes its worst pair, the matrix shows each.
        severity = {"total": 0, "typical": 1, "partial": 2, "none": 3, "unknown": 4}
        for name in DEMOS:
            made = demo_job(name)
            assessed, found = assess(made), matrix(made)
            for held in made.circuits:
                own = [one for one in found.pairs if one.down == held.id]
                if not own:
                    continue
                worst = max(own, key=lambda one: severity[one.status])
                subject = Subject("circuit", held.id)
                short, over = (
                    find(assessed, check, subject) for check in ("selectivity-short-circuit", "selectivity-overload")
                )
                assert short is not None and over is not None
                with self.subTest(name, circuit=held.id):
                    if worst.status == "total":
                        self.assertEqual((short.verdict, over.verdict in {"pass", "tight", "advice"}), ("pass", True))
                    if any(one.status == "partial" for one in own):
                        self.assertEqual(short.verdict, "advice")
                    if worst.status == "none":
                        self.assertEqual(over.verdict, "fail")


if __name__ == "__main__":
    unittest.main()
