"""Zones by geometry, at and either side of each boundary. IEC 60364-7-701, -702 and -703 (from memory)."""

from __future__ import annotations

import unittest

from vivid_lattice.core.formulas.zones import OUTSIDE, bath_zone, ip_enough, pool_zone, sauna_zone
from vivid_lattice.core.rules import rule_set

BATH = rule_set("uk").protection.zones("bath").figures
SAUNA = rule_set("iec").protection.zones("sauna").figures
POOL = rule_set("iec").protection.zones("pool").figures
MM = 0.001


class Bath(unittest.TestCase):
    """With a bath or tray, and a shower without one."""

    def test_across(self) -> None:
        for across, zone in ((-0.3, "1"), (0.0, "1"), (MM, "2"), (0.6, "2"), (0.6 + MM, OUTSIDE)):
            self.assertEqual(bath_zone(across, 1.0, True, BATH), zone, across)
        for across, zone in ((1.2 - MM, "1"), (1.2, "1"), (1.2 + MM, OUTSIDE)):
            self.assertEqual(bath_zone(across, 1.0, False, BATH), zone, across)

    def test_up(self) -> None:
        for height, zone in ((2.25, "1"), (2.25 + MM, OUTSIDE)):
            self.assertEqual(bath_zone(0.0, height, True, BATH), zone)
        # A shower head at 2.4 m lifts the top of the zones with it; one at 2.0 m does not lower it.
        self.assertEqual(bath_zone(0.0, 2.4, True, BATH, outlet_m=2.4), "1")
        self.assertEqual(bath_zone(0.3, 2.4 + MM, True, BATH, outlet_m=2.4), OUTSIDE)
        self.assertEqual(bath_zone(0.0, 2.25, True, BATH, outlet_m=2.0), "1")

    def test_in_the_water(self) -> None:
        self.assertEqual(bath_zone(-0.2, 0.05, True, BATH), "0")
        # In a bath whose rim is 0.55 m high, its hollow reaches up to there, and not past its edge.
        for across, height, zone in ((-0.2, 0.55, "0"), (-0.2, 0.55 + MM, "1"), (0.0, 0.3, "0"), (MM, 0.3, "2")):
            self.assertEqual(bath_zone(across, height, True, BATH, rim_m=0.55), zone)
        for height, zone in ((0.1, "0"), (0.1 + MM, "1")):
            self.assertEqual(bath_zone(0.5, height, False, BATH), zone)


class SaunaAndPool(unittest.TestCase):
    """Heat and the basin."""

    def test_sauna(self) -> None:
        for across, height, zone in ((0.5, 1.5, "1"), (0.5 + MM, 1.0, "3"), (0.5 + MM, 1.0 - MM, "2"), (2.0, 0.1, "2")):
            self.assertEqual(sauna_zone(across, height, SAUNA), zone)

    def test_pool(self) -> None:
        for across, height, zone in (
            (-0.5, -0.3, "0"), (0.0, 0.0, "0"), (0.0, 0.2, "1"), (MM, 0.0, "1"), (2.0, 2.5, "1"), (2.0 + MM, 1.0, "2"), (3.5, 1.0, "2"), (3.5 + MM, 1.0, OUTSIDE), (1.0, 2.5 + MM, OUTSIDE),
        ):  # fmt: skip
            self.assertEqual(pool_zone(across, height, POOL), zone, (across, height))


class Protection(unittest.TestCase):
    """IEC 60529 (from memory)."""

    def test_more_is_enough_and_jets_are_not_immersion(self) -> None:
        cases = (("IP44", "IPX4", True), ("IPX3", "IPX4", False), ("IP65", "IPX4", True), ("IPX7", "IPX5", False),
                 ("IPX7", "IPX4", True), ("IPX4", "IP24", False), ("IP24", "IP24", True), ("IPX8", "IPX7", True))  # fmt: skip
        for has, needs, enough in cases:
            self.assertEqual(ip_enough(has, needs), enough, (has, needs))


if __name__ == "__main__":
    unittest.main()
