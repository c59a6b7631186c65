"""Pairs in series: cases reasoned from the standards, and every pair against a simulation in time of drawn devices."""

from __future__ import annotations

import unittest
from itertools import product
from math import inf, log
from random import Random

from vivid_lattice.core.curves import Band
from vivid_lattice.core.formulas.device.coordination import overload_order, short_circuit_reach
from vivid_lattice.core.rules import rule_set

BANDS = rule_set("iec").bands


def breaker(curve: str, rating: float) -> Band:
    return BANDS.band("mcb", curve, rating)


def fuse(rating: float) -> Band:
    return BANDS.band("fuse-gg", None, rating)


def never(_: float) -> None:
    """No energy of the downstream device is held."""


class Reasoned(unittest.TestCase):
    """What the standards and the handbooks say of typical pairs."""

    def test_two_gg_fuses_of_ratio_1_6_are_selective_throughout(self) -> None:
        # IEC 60269-2, 5.7 (from memory): ratio 1.6 and 16 A or more.
        for up, down in ((25, 16), (32, 20), (40, 25), (63, 40), (80, 50), (100, 63)):
            with self.subTest(up=up, down=down):
                self.assertEqual(short_circuit_reach(fuse(up), fuse(down), never, ()).current_a, inf)
        for up, down in ((20, 16), (63, 50), (50, 40)):
            self.assertLess(short_circuit_reach(fuse(up), fuse(down), never, ()).current_a, inf)

    def test_two_breakers_are_selective_up_to_where_the_upstream_one_may_act_at_once(self) -> None:
        for curve, times in (("B", 3), ("C", 5), ("D", 10)):
            reach = short_circuit_reach(breaker(curve, 50.0), breaker("B", 16.0), never, ())
            self.assertEqual((reach.current_a, reach.by), (50.0 * times, "bands"))

    def test_a_breaker_behind_a_fuse_goes_by_energy(self) -> None:
        # IEC 60269-1 (from memory): a 63 A gG takes 9000 A²s in 4 ms before it melts.
        table = {1000.0: 8000.0, 3000.0: 15000.0}
        reach = short_circuit_reach(fuse(63), breaker("B", 16.0), table.get, (1000.0, 3000.0))
        self.assertEqual((reach.current_a, reach.by), (1000.0, "energy"))
        self.assertAlmostEqual(reach.up_a2s or 0, 9000.0)
        # Where no energy is held, times decide: 450 A is the least that melts it within 0.1 s.
        self.assertAlmostEqual(short_circuit_reach(fuse(63), breaker("B", 16.0), never, (1000.0,)).current_a, 450.0)

    def test_overload_of_the_wrong_way_round_and_of_equals(self) -> None:
        self.assertFalse(overload_order(breaker("B", 16.0), breaker("B", 20.0)).typical)
        self.assertFalse(overload_order(breaker("B", 32.0), breaker("B", 32.0)).typical)
        good = overload_order(breaker("C", 63.0), breaker("B", 6.0))
        self.assertTrue(good.selective and good.typical)
        usual = overload_order(breaker("C", 50.0), breaker("B", 32.0))
        self.assertEqual((usual.selective, usual.typical), (False, True))
        assert usual.from_a is not None and usual.to_a is not None
        # C50 carries 56.5 A for ever and may act at once from 250 A; B32 surely acts at once from 160 A.
        self.assertTrue(56.5 <= usual.from_a < usual.to_a <= 160.0)


class BruteForce(unittest.TestCase):
    """Devices drawn anywhere within their bands, put in series, and a fault run in time."""

    RATINGS = (6.0, 10.0, 16.0, 20.0, 32.0, 40.0, 63.0)

    @staticmethod
    def drawn(band: Band, amps: float, share: float) -> float:
        """When a device that lies at a share of its band (0 the quick edge, 1 the slow one) opens at a current [s]."""
        early, late = band.opens_s(amps)
        if late == inf:
            return early if share == 0.0 else inf
        return early * (late / early) ** share if early > 0 else late * share

    def race(self, up: Band, down: Band, currents: list[float], random: Random) -> bool:
        """Whether in any of many draws the upstream device opens while the downstream one is still closed."""
        for amps in currents:
            for one, other in [(0.0, 1.0), *((random.random(), random.random()) for _ in range(3))]:
                opens_up, opens_down = self.drawn(up, amps, one), self.drawn(down, amps, other)
                # Both see the same current until one opens; a tie to a millionth is a tie.
                if opens_up < inf and opens_up < opens_down * (1 - 1e-6):
                    return True
        return False

    def test_order_under_overload_is_kept_just_where_no_draw_races(self) -> None:
        random = Random(7)
        held = [breaker(curve, rating) for curve, rating in product("BCD", self.RATINGS)] + [
            fuse(rating) for rating in (16, 25, 40, 63)
        ]
        for up, down in product(held, held):
            order = overload_order(up, down)
            end = min(up.lower.step_a or up.lower.current_a(0.1), 1e9) * (1 - 1e-9)
            start = up.least_a
            count = 160
            currents = [start * (end / start) ** (at / count) for at in range(count + 1)]
            if order.from_a is not None:
                currents.append(order.at_a)
            with self.subTest(up=up.name, down=down.name):
                self.assertEqual(order.selective, not self.race(up, down, currents, random))

    def test_below_its_reach_an_upstream_breaker_stays_closed_while_the_other_acts_at_once(self) -> None:
        random = Random(11)
        for up, down in product([breaker("C", 63.0), breaker("D", 40.0)], [breaker("B", 6.0), breaker("B", 10.0)]):
            reach = short_circuit_reach(up, down, never, ())
            low = down.upper.step_a or 0.0
            currents = [low * (reach.current_a / low) ** (at / 50) for at in range(51)]
            self.assertFalse(self.race(up, down, currents, random))
            self.assertTrue(self.race(up, down, [reach.current_a * 1.01], random))
            self.assertGreater(log(reach.current_a / low), 0)


if __name__ == "__main__":
    unittest.main()
