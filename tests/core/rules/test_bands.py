"""Characteristics against the limits of the product standards, at every conventional current and at both edges."""

from __future__ import annotations

import unittest
from math import inf

from hypothesis import given, settings
from hypothesis import strategies as st

from vivid_lattice.core.curves import Band, Edge, crossing_a
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import NotTabulated, OutOfRange
from vivid_lattice.core.rules import rule_set

BANDS = rule_set("iec").bands
RATINGS = (6.0, 10.0, 16.0, 20.0, 25.0, 32.0, 40.0, 50.0, 63.0, 80.0, 100.0, 125.0)
#: IEC 60898-1:2015, Table 2 (from memory): the instantaneous range in times In.
INSTANT = {"B": (3, 5), "C": (5, 10), "D": (10, 20)}


class Breakers(unittest.TestCase):
    """IEC 60898-1:2015, Table 7, tests a to e (from memory)."""

    def test_conventional_currents(self) -> None:
        for curve in INSTANT:
            for rating in RATINGS:
                hours = 3600.0 if rating <= 63 else 7200.0
                band = BANDS.band("mcb", curve, rating)
                with self.subTest(band.name):
                    # a: 1.13 In does not trip within the conventional time; b: 1.45 In does.
                    self.assertGreaterEqual(band.opens_s(1.13 * rating)[0], hours)
                    self.assertEqual(band.opens_s(1.129 * rating), (inf, inf))
                    self.assertLessEqual(band.opens_s(1.45 * rating)[1], hours)
                    self.assertEqual(band.opens_s(1.449 * rating)[1], inf)

    def test_thermal_region_at_2_55_times(self) -> None:
        for curve in INSTANT:
            for rating in RATINGS:
                early, late = BANDS.band("mcb", curve, rating).opens_s(2.55 * rating)
                with self.subTest(curve, rating=rating):
                    self.assertAlmostEqual(early, 1.0)
                    self.assertAlmostEqual(late, 60.0 if rating <= 32 else 120.0)

    def test_magnetic_band(self) -> None:
        # d: at the lower limit it holds for 0.1 s at least, and opens within these times; e: at the upper within 0.1 s.
        most = {"B": (45.0, 90.0), "C": (15.0, 30.0), "D": (4.0, 8.0)}
        for curve, (low, high) in INSTANT.items():
            for rating in RATINGS:
                band = BANDS.band("mcb", curve, rating)
                with self.subTest(band.name):
                    early, late = band.opens_s(low * rating)
                    self.assertGreaterEqual(early, 0.1 - 1e-12)
                    self.assertAlmostEqual(late, most[curve][rating > 32])
                    self.assertLess(band.opens_s(low * rating * 1.001)[0], 0.1)
                    self.assertLessEqual(band.opens_s(high * rating)[1], 0.1)
                    self.assertGreater(band.opens_s(high * rating * 0.999)[1], 0.1)

    def test_a_rating_that_the_standard_does_not_hold_is_refused(self) -> None:
        with self.assertRaises(NotTabulated):
            BANDS.band("mcb", "B", 160.0)


class Fuses(unittest.TestCase):
    """Gates of gG fuses, IEC 60269-1, Tables 2 and 3, and IEC 60269-2 (from memory)."""

    #: Rating, least current for 10 s, most for 5 s, least for 0.1 s, most for 0.1 s [A].
    GATES = ((16, 33, 65, 85, 150), (25, 52, 110, 150, 260), (32, 75, 150, 200, 350), (63, 160, 320, 450, 820), (100, 290, 580, 820, 1450))  # fmt: skip

    def test_gates_at_both_edges(self) -> None:
        for rating, least10, most5, least01, most01 in self.GATES:
            band = BANDS.band("fuse-gg", None, float(rating))
            with self.subTest(rating):
                self.assertAlmostEqual(band.opens_s(least10)[0], 10.0)
                self.assertAlmostEqual(band.opens_s(most5)[1], 5.0)
                self.assertAlmostEqual(band.opens_s(least01)[0], 0.1)
                self.assertAlmostEqual(band.opens_s(most01)[1], 0.1)
                # Conventional: 1.25 In does not melt, 1.6 In does (16 A and above).
                self.assertEqual(band.opens_s(1.249 * rating)[0], inf)
                self.assertLess(band.opens_s(1.6 * rating)[1], inf)

    def test_energies_of_the_quickest_point(self) -> None:
        # IEC 60269-2, table of selectivity (from memory): least pre-arcing and greatest operating energy, within 1 %.
        for rating, takes, lets in ((16, 291, 1210), (32, 2500, 5750), (63, 9000, 21200), (100, 21200, 64000)):
            band = BANDS.band("fuse-gg", None, float(rating))
            self.assertAlmostEqual(band.lower.last_energy_a2s / takes, 1.0, delta=0.01)
            self.assertAlmostEqual(band.upper.last_energy_a2s / lets, 1.0, delta=0.01)

    def test_household_fuses_meet_their_loop_tables(self) -> None:
        # BS 7671:2018, Tables 41.2 and 41.4 (from memory): 218.5 V over the tabulated loop is the current for the time.
        uk = rule_set("uk").bands
        for kind, rating, zs, within in (
            ("fuse-bs88-3", 20.0, 1.93, 0.4), ("fuse-bs88-3", 100.0, 0.38, 5.0), ("fuse-bs3036", 30.0, 1.04, 0.4),
            ("fuse-bs3036", 15.0, 5.08, 5.0), ("fuse-bs1362", 13.0, 2.30, 0.4), ("fuse-bs1361", 30.0, 1.74, 5.0),
        ):  # fmt: skip
            with self.subTest(kind, rating=rating):
                self.assertLessEqual(uk.band(kind, None, rating).opens_s(218.5 / zs * 1.03)[1], within)

    def test_the_quick_edge_of_a_fuse_with_one_published_edge_is_no_slower_than_gg(self) -> None:
        uk = rule_set("uk").bands
        for rating in (63.0, 80.0, 100.0):
            for amps in (rating * times for times in (2, 5, 10, 20)):
                own, gates = uk.band("fuse-bs88-3", None, rating), uk.band("fuse-bs88-2", None, rating)
                self.assertLessEqual(own.opens_s(amps)[0], gates.opens_s(amps)[0] * (1 + 1e-9))


class Residual(unittest.TestCase):
    """IEC 61008-1:2010, Table 1, and IEC 62423 (from memory)."""

    def test_general_and_delayed_times(self) -> None:
        general = BANDS.residual(Rcd(idn_ma=30.0, type="A"))
        self.assertEqual([general.opens_s(0.03 * times)[1] for times in (1, 2, 5, 100)], [0.3, 0.15, 0.04, 0.04])
        self.assertEqual(general.opens_s(0.0149), (inf, inf))
        self.assertEqual(general.opens_s(0.0151)[1], inf)
        delayed = BANDS.residual(Rcd(idn_ma=100.0, type="A", time_delayed=True))
        self.assertEqual(
            [delayed.opens_s(0.1 * times) for times in (1, 2, 5)], [(0.13, 0.5), (0.06, 0.2), (0.05, 0.15)]
        )
        self.assertEqual(BANDS.residual(Rcd(idn_ma=30.0, type="F")).opens_s(0.3)[0], 0.01)

    def test_what_each_type_sees(self) -> None:
        sees = {
            kind: {wave: BANDS.residual(Rcd(idn_ma=30.0, type=kind)).opens_s(0.2, wave)[1] < inf for wave in ("ac", "pulsating", "smooth")}  # type: ignore[arg-type]
            for kind in ("AC", "A", "F", "B")
        }  # fmt: skip
        self.assertEqual(sees["AC"], {"ac": True, "pulsating": False, "smooth": False})
        for kind in ("A", "F"):
            self.assertEqual(sees[kind], {"ac": True, "pulsating": True, "smooth": False})
        self.assertTrue(all(sees["B"].values()))
        # Type A pulsating: surely at 1.4 IΔn, at 10 mA twice IΔn. Smooth, type B: from half to twice.
        a, ten = (BANDS.residual(Rcd(idn_ma=milliamps, type="A")) for milliamps in (30.0, 10.0))
        self.assertEqual((a.opens_s(0.0419, "pulsating")[1], ten.opens_s(0.0199, "pulsating")[1]), (inf, inf))
        self.assertEqual((a.opens_s(0.042, "pulsating")[1], ten.opens_s(0.02, "pulsating")[1]), (0.3, 0.3))

    def test_smooth_direct_current_blinds_by_type(self) -> None:
        for kind, stands_ma in (("AC", 0.0), ("A", 6.0), ("F", 10.0)):
            band = BANDS.residual(Rcd(idn_ma=30.0, type=kind))  # type: ignore[arg-type]
            self.assertLess(band.opens_s(0.3, "ac", stands_ma / 1000)[1], inf)
            self.assertEqual(band.opens_s(0.3, "ac", stands_ma / 1000 + 1e-6)[1], inf)
        self.assertLess(BANDS.residual(Rcd(idn_ma=30.0, type="B")).opens_s(0.3, "ac", 1.0)[1], inf)

    def test_class_a_ground_fault(self) -> None:
        # UL 943 (from memory): (20/I)^1.43 s; 5.6 s at 6 mA, 25 ms at 264 mA.
        found = rule_set("na").bands.residual(Rcd(idn_ma=5.0))
        self.assertAlmostEqual(found.opens_s(0.006)[1], 5.59, places=2)
        self.assertAlmostEqual(found.opens_s(0.264)[1], 0.025, places=3)
        self.assertEqual((found.opens_s(0.0039)[0], found.opens_s(0.0059)[1]), (inf, inf))


class Edges(unittest.TestCase):
    """What an edge is made of, and what it refuses."""

    def test_out_of_order_points_and_crossing_edges_are_refused(self) -> None:
        with self.assertRaisesRegex(OutOfRange, "points of an edge rise"):
            Edge(((10.0, 1.0), (5.0, 0.5)))
        with self.assertRaisesRegex(OutOfRange, "never rises"):
            Edge(((10.0, 1.0), (20.0, 2.0)))
        with self.assertRaisesRegex(OutOfRange, "edges cross"):
            Band(
                name="x",
                lower=Edge(((10.0, 5.0), (100.0, 1.0))),
                upper=Edge(((12.0, 4.0), (90.0, 0.5))),
                breaker=True,
                sources=(),
            )

    def test_between_two_points_it_is_straight_on_logarithmic_paper(self) -> None:
        edge = Edge(((10.0, 100.0), (1000.0, 1.0)))
        self.assertAlmostEqual(edge.time_s(100.0, after_step=False), 10.0)
        self.assertAlmostEqual(edge.current_a(10.0), 100.0)
        self.assertAlmostEqual(Edge(((10.0, 1.0),), "energy").time_s(100.0, after_step=True), 0.01)

    @given(st.sampled_from(["B", "C", "D"]), st.sampled_from(RATINGS), st.floats(1, 3), st.floats(1.0, 1e3))
    @settings(max_examples=200, deadline=None)
    def test_more_current_never_opens_later_and_the_edges_keep_their_order(
        self, curve: str, rating: float, more: float, amps: float
    ) -> None:
        band = BANDS.band("mcb", curve, rating)
        (early, late), (sooner, at_last) = band.opens_s(amps), band.opens_s(amps * more)
        self.assertLessEqual(sooner, early)
        self.assertLessEqual(at_last, late)
        self.assertLessEqual(early, late)
        self.assertIsNone(crossing_a(band.lower, band.upper))


if __name__ == "__main__":
    unittest.main()
