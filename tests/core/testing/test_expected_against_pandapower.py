"""What a tester should read, at several temperatures, against pandapower's load flow with its own correction of conductors for temperature.

A circuit is stated to both by what is printed on the cable: its length and the resistance of its conductors at 20 °C (IEC 60228; On-Site
Guide, Table I1, from memory). pandapower calculates with 0.00403 per kelvin (IEC 60287-1-1), the plan with the figure of its standard.
"""

from __future__ import annotations

import unittest
from math import sqrt

import pandapower as pp

from tests.builders import mcb
from tests.core.testing.test_judged_readings import house, radial
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.expected_value import Expected
from vivid_lattice.core.testing.test_plan import plan_of

#: Line and protective conductor of flat cable at 20 °C [Ω/m], by area [mm²].
OHM_PER_M = {1.5: (12.10e-3, 18.10e-3), 2.5: (7.41e-3, 12.10e-3), 4.0: (4.61e-3, 12.10e-3), 6.0: (3.08e-3, 7.41e-3)}
TEMPERATURES_C = (-5.0, 12.0, 35.0)
VOLTS = 230.0


def by_load_flow(ahead_ohm: float, conductor_ohm: float, temperature_c: float) -> float:
    """The loop of a supply and conductors at a temperature [Ω]: what one ampere drops on the way, by load flow."""
    net = pp.create_empty_network(f_hz=50)
    source, origin, end = pp.create_buses(net, 3, vn_kv=sqrt(3) * VOLTS / 1000)
    pp.create_ext_grid(net, source)
    if ahead_ohm:
        _lay(net, source, origin, ahead_ohm, 20.0)
    else:
        pp.create_switch(net, source, origin, et="b")
    _lay(net, origin, end, conductor_ohm, temperature_c)
    pp.create_load(net, end, p_mw=3 * VOLTS / 1e6, const_i_p_percent=100.0)
    pp.runpp(
        net, voltage_depend_loads=True, consider_line_temperature=True, tolerance_mva=1e-9, init="flat", numba=False
    )
    return float(VOLTS * (1 - net.res_bus.vm_pu[end]))


def _lay(net: pp.pandapowerNet, start: int, end: int, ohm: float, temperature_c: float) -> None:
    pp.create_line_from_parameters(
        net, start, end, length_km=1.0, r_ohm_per_km=ohm, x_ohm_per_km=0.0, c_nf_per_km=0.0, max_i_ka=1.0,
        alpha=4.03e-3, temperature_degree_celsius=temperature_c,
    )  # fmt: skip


def should_read(network: Installation, kind: str, temperature_c: float) -> Expected:
    plan = plan_of(network, temperature_c)
    return next(each.expected for each in plan.tests if each.test == kind and each.subject.id == "c1")


def network_of(of: Job) -> Installation:
    return Installation.of(of, rule_set("uk"))


class AtTheTemperatureOfTheDay(unittest.TestCase):
    def test_r1r2_and_zs_of_radials(self) -> None:
        for area_mm2, (line, protective) in OHM_PER_M.items():
            of = network_of(house(radial(24.0, area_mm2, mcb(20.0)), ze_ohm=0.3))
            for temperature_c in TEMPERATURES_C:
                conductors = 24.0 * (line + protective)
                for kind, ahead in (("r1r2", 0.0), ("zs", 0.3)):
                    with self.subTest(kind, area_mm2=area_mm2, temperature_c=temperature_c):
                        expected = should_read(of, kind, temperature_c).value
                        solved = by_load_flow(ahead, conductors, temperature_c)
                        assert expected is not None
                        self.assertAlmostEqual(expected / solved, 1.0, delta=0.01)

    def test_the_ends_of_a_ring(self) -> None:
        of = network_of(house(radial(48.0, 2.5, mcb(32.0), kind="ring"), ze_ohm=0.3))
        line, protective = OHM_PER_M[2.5]
        for temperature_c in TEMPERATURES_C:
            for kind, ohm_per_m in (("r1_end", line), ("rn_end", line), ("r2_end", protective)):
                with self.subTest(kind, temperature_c=temperature_c):
                    expected = should_read(of, kind, temperature_c).value
                    assert expected is not None
                    self.assertAlmostEqual(
                        expected / by_load_flow(0.0, 48.0 * ohm_per_m, temperature_c), 1.0, delta=0.01
                    )


class Laws(unittest.TestCase):
    def test_a_longer_cable_or_a_warmer_day_never_reads_less(self) -> None:
        for kind, tests in (("radial", ("r1r2", "zs")), ("ring", ("r1_end", "r2_end", "x_le", "zs"))):
            before = dict.fromkeys(tests, 0.0)
            for length_m in (1.0, 1.5, 25.0, 120.0, 200.0):
                of = network_of(house(radial(length_m, 2.5, mcb(32.0), kind=kind), ze_ohm=0.3))
                for test in tests:
                    values = [should_read(of, test, temperature_c).value or 0.0 for temperature_c in (-5.0, 20.0, 35.0)]
                    self.assertEqual(values, sorted(values), (kind, test, length_m))
                    self.assertGreater(values[0], before[test], (kind, test, length_m))
                    before[test] = values[0]

    def test_a_band_holds_its_value_and_never_goes_below_nothing(self) -> None:
        for length_m in (0.5, 20.0, 200.0):
            of = house(radial(length_m, 2.5, mcb(20.0)), ze_ohm=0.3)
            plan = plan_of(network_of(of), 5.0)
            banded = [each.expected for each in plan.tests if each.expected.low is not None]
            self.assertGreater(len(banded), 2)
            for expected in banded:
                assert expected.low is not None and expected.high is not None and expected.value is not None
                self.assertLessEqual(0.0, expected.low)
                self.assertTrue(expected.low <= expected.value <= expected.high)


if __name__ == "__main__":
    unittest.main()
