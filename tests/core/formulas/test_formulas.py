"""The formulas at their edges, and refused outside them by name."""

from __future__ import annotations

import unittest
from collections.abc import Callable

from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.findings.verdict import verdict_by, worst
from vivid_lattice.core.formulas.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.formulas.cable.capacity import installed_capacity_a, needed_tabulated_a
from vivid_lattice.core.formulas.cable.drop import drop_figure_mv, operating_temperature_factor, volt_drop_v
from vivid_lattice.core.formulas.cable.impedance import conductor_ohm, ring_mid_ohm, temperature_factor
from vivid_lattice.core.formulas.device.loop import fault_current_a, loop_limit_ohm
from vivid_lattice.core.formulas.load_currents import single_phase_current_a
from vivid_lattice.core.text import shown, shown_down, shown_up

REFUSED: list[tuple[str, Callable[[], float]]] = [
    ("mv_per_a_m", lambda: volt_drop_v(0, 1, 1)),
    ("current_a", lambda: volt_drop_v(18, -1, 1)),
    ("length_m", lambda: volt_drop_v(18, 1, -0.1)),
    ("power_factor", lambda: drop_figure_mv(18, 0, 18, 1.2)),
    ("tabulated_a", lambda: operating_temperature_factor(70, 30, 1, 1, 10, 0)),
    ("mohm_per_m", lambda: conductor_ohm(0, 1)),
    ("hot_factor", lambda: conductor_ohm(7.41, 1, 0)),
    ("end_to_end_ohm", lambda: ring_mid_ohm(-0.1)),
    ("k", lambda: min_area_for_energy_mm2(10_000, 0)),
    ("energy_a2s", lambda: min_area_for_energy_mm2(-1, 115)),
    ("ia_a", lambda: loop_limit_ohm(230, 0.95, 0)),
    ("cmin", lambda: loop_limit_ohm(230, 1.1, 160)),
    ("loop_ohm", lambda: fault_current_a(230, 0)),
    ("voltage_v", lambda: single_phase_current_a(1000, 0, 1)),
    ("power_factor", lambda: single_phase_current_a(1000, 230, 0)),
    ("power_factor", lambda: single_phase_current_a(1000, 230, 1.001)),
    ("temperature_c", lambda: temperature_factor(-234.5)),
    ("rating factor", lambda: installed_capacity_a(27, [0.8, 0])),
    ("rating factor", lambda: needed_tabulated_a(16, [-1])),
]


class Ranges(unittest.TestCase):
    """What a formula does not hold for."""

    def test_a_figure_outside_the_range_is_named_with_what_is_allowed(self) -> None:
        for name, call in REFUSED:
            with self.subTest(name), self.assertRaises(OutOfRange) as caught:
                call()
            self.assertEqual(caught.exception.name, name)
            self.assertTrue(caught.exception.allowed)


class Drop(unittest.TestCase):
    """The power factor acts as the publication says, on each side of 16 mm² (BS 7671:2018, Appendix 4, section 6)."""

    def test_to_16_mm2_it_takes_from_the_whole_figure(self) -> None:
        self.assertAlmostEqual(drop_figure_mv(2.8, 0.0, 2.8, 0.8), 2.24)

    def test_above_16_mm2_resistance_and_reactance_share(self) -> None:
        self.assertAlmostEqual(drop_figure_mv(1.85, 0.160, 1.90, 0.8), 1.85 * 0.8 + 0.160 * 0.6)

    def test_unknown_takes_the_impedance_which_no_power_factor_exceeds(self) -> None:
        for r, x, z in ((2.8, 0.0, 2.8), (1.85, 0.160, 1.90), (0.67, 0.150, 0.69)):
            for factor in (0.2, 0.5, 0.8, 0.95, 1.0):
                self.assertLessEqual(drop_figure_mv(r, x, z, factor), drop_figure_mv(r, x, z, None) * 1.01)

    def test_a_conductor_at_its_limit_is_not_corrected_and_none_is_made_worse(self) -> None:
        self.assertEqual(operating_temperature_factor(70, 30, 1.0, 1.0, 27, 27), 1.0)
        self.assertEqual(operating_temperature_factor(70, 30, 1.0, 1.0, 40, 27), 1.0)
        # An idle conductor is at ambient: (230 + 30) / (230 + 70).
        self.assertAlmostEqual(operating_temperature_factor(70, 30, 1.0, 1.0, 0, 27), 260 / 300)


class Ring(unittest.TestCase):
    """A ring is two halves side by side."""

    def test_the_middle_is_a_quarter_of_the_loop_and_no_point_is_further(self) -> None:
        loop = 1.6
        points = [1 / (1 / (loop * share) + 1 / (loop * (1 - share))) for share in (0.1, 0.25, 0.5, 0.75)]
        self.assertAlmostEqual(max(points), ring_mid_ohm(loop))


class Rounding(unittest.TestCase):
    """What is shown never flatters."""

    def test_a_figure_is_never_shown_smaller_nor_a_limit_larger_than_it_is(self) -> None:
        for value in (0.0774, 1.36563, 2.185, 4.9999, 5.0001, 9.995, 27.3615, 99.95, 174.6, 1456.67, 0.00332):
            self.assertGreaterEqual(float(shown_up(value)), value)
            self.assertLessEqual(float(shown_down(value)), value)

    def test_round_figures_stay_as_they_are(self) -> None:
        for value, text in (
            (16.0, "16"),
            (2.5, "2.5"),
            (0.35, "0.35"),
            (100.0, "100"),
            (1.13, "1.13"),
            (0.0, "0"),
            (0.29, "0.29"),
        ):
            self.assertEqual((shown_up(value), shown_down(value), shown(value)), (text, text, text))

    def test_verdicts_turn_at_their_edges(self) -> None:
        self.assertEqual(
            [verdict_by(margin) for margin in (0.1, 0.0999, 0.0, -1e-12, -0.001)],
            ["pass", "tight", "tight", "tight", "fail"],
        )

    def test_the_worst_of_several_speaks_for_all(self) -> None:
        self.assertEqual(worst(["pass", "tight", "advice"]), "advice")
        self.assertEqual(worst(["missing", "fail"]), "fail")
        self.assertEqual(worst([]), "not-applicable")


if __name__ == "__main__":
    unittest.main()
