"""Circuits solved by hand: loads along a run, let-through energy, a ring under fault, TT behind a 100 or 300 mA RCD."""

from __future__ import annotations

import unittest
from math import sqrt
from typing import Any

from tests.builders import circuit, finding, flat, job, laid, mcb, rcbo, supply
from tests.core.document.test_feeds import typed
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.remedies import remedies
from vivid_lattice.core.document.job import Circuit, Job, Load, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.expected_readings import expected


def lamps(count: int | None, watts: float, **more: Any) -> Load:
    return Load.model_validate(
        {"name": "Lamps", "kind": "lamp", "count": count, "power_w": watts, "power_factor": 1.0} | more
    )


def lit(*loads: Load, length_m: float = 40.0, **more: Any) -> Job:
    """A lighting circuit in 1.5 mm² (29 mV/(A·m), BS 7671 Table 4D5) with no tails."""
    parts: dict[str, Any] = {
        "kind": "lighting",
        "loads": loads,
        "cable": flat(1.5),
        "device": rcbo(6.0),
        "run": (laid(length_m),),
    }
    return job(circuit(**(parts | more)), supply=supply(tails=None))


def drop_v(made: Job) -> float:
    found = finding(made, "voltage-drop")
    assert found.value is not None
    return found.value * 2.3


class AlongARun(unittest.TestCase):
    """U = Σ I·l of the loads. For n equal loads at equal distances (n + 1)/2n of the whole: arithmetic."""

    def test_equal_loads_at_equal_distances(self) -> None:
        for count in (1, 2, 4, 10, 100):
            whole = 29 * (count * 23 / 230) * 40 / 1000
            with self.subTest(count):
                self.assertAlmostEqual(drop_v(lit(lamps(count, 23.0))), whole, places=9)
                along = drop_v(lit(lamps(count, 23.0), distributed_load=True))
                self.assertAlmostEqual(along, whole * (count + 1) / (2 * count), places=9)

    def test_loads_that_are_not_counted_are_at_the_end(self) -> None:
        self.assertAlmostEqual(drop_v(lit(lamps(None, 230.0), distributed_load=True)), 29 * 1.0 * 40 / 1000, places=9)

    def test_a_load_at_its_position(self) -> None:
        for along, metres in ((0.0, 0.0), (15.0, 15.0), (40.0, 40.0), (90.0, 40.0)):
            with self.subTest(along):
                self.assertAlmostEqual(drop_v(lit(lamps(1, 230.0, along_m=along))), 29 * metres / 1000, places=9)

    def test_unequal_loads_add_up_over_two_sections(self) -> None:
        # 1 A at 10 m, 2 A at 30 m, 0.5 A at the end of 15 + 25 m: Σ I·l = 10 + 60 + 20 = 90 A·m.
        made = lit(
            lamps(1, 230.0, along_m=10.0), lamps(1, 460.0, along_m=30.0), lamps(1, 115.0), run=(laid(15.0), laid(25.0))
        )
        self.assertAlmostEqual(drop_v(made), 29 * 90 / 1000, places=9)

    def test_ten_lamps_on_a_long_run_fail(self) -> None:
        # Ten lamps of 40 W over 75 m in 1.0 mm² (44 mV/(A·m)): 55 % of the whole, 3.16 V or more; half of it passed 3 %.
        made = lit(lamps(10, 92.0), length_m=75.0, cable=flat(1.0), distributed_load=True)
        share = 44 * 4.0 * 75 / 1000 / 230
        self.assertAlmostEqual(drop_v(made) / 230, share * 0.55, places=9)
        self.assertLess(share * 0.5, 0.03)
        self.assertEqual(finding(made, "voltage-drop").verdict, "fail")

    def test_further_along_is_never_better(self) -> None:
        drops = [
            drop_v(lit(lamps(1, 230.0, along_m=float(at)), lamps(3, 23.0), distributed_load=True))
            for at in range(0, 45, 5)
        ]
        self.assertEqual(drops, sorted(drops))


class LetThrough(unittest.TestCase):
    """A stated energy holds from the instantaneous threshold to the current it is stated for. B16: 5 · 16 = 80 A."""

    def test_a_breaker_inside_and_outside(self) -> None:
        rules = rule_set("uk")
        stated = mcb(16.0, let_through_a2s=9000.0, let_through_at_ka=3.0)
        for fault, energy in ((80.0, 9000.0), (1000.0, 9000.0), (3000.0, 9000.0)):
            with self.subTest(fault):
                self.assertEqual(rules.devices.clearing(stated, fault).energy_a2s, energy)
        plain = rules.devices.clearing(mcb(16.0), 3001.0).energy_a2s
        self.assertEqual(rules.devices.clearing(stated, 3001.0).energy_a2s, plain)
        unstated = mcb(16.0, let_through_a2s=9000.0)
        self.assertEqual(
            rules.devices.clearing(unstated, 1000.0).energy_a2s, rules.devices.clearing(mcb(16.0), 1000.0).energy_a2s
        )

    def test_a_fuse_only_where_it_limits_the_current(self) -> None:
        # BS 88-2 32 A: 0.1 s at the current of Fig. 3A3; 10 ms at √10 of it by constant energy.
        rules = rule_set("uk")
        fuse = mcb(32.0).model_copy(update={"kind": "fuse-bs88-2", "curve": None, "breaking_ka": None})
        stated = fuse.model_copy(update={"let_through_a2s": 2000.0, "let_through_at_ka": 10.0})
        quickest = min(rules.devices.clearing(fuse, amps).time_s for amps in (200.0, 400.0, 1000.0, 3000.0))
        self.assertLessEqual(quickest, 0.4)
        low = rules.devices.clearing(fuse, 320.0)
        self.assertEqual(rules.devices.clearing(stated, 320.0).energy_a2s, low.energy_a2s)
        self.assertEqual(rules.devices.clearing(stated, 5000.0).energy_a2s, 2000.0)
        self.assertNotEqual(rules.devices.clearing(stated, 10_001.0).energy_a2s, 2000.0)

    def test_the_protective_conductor_goes_by_the_stated_energy(self) -> None:
        # 20 000 A²s through k = 115: √20000 / 115 = 1.23 mm².
        device = rcbo(16.0, let_through_a2s=20_000.0, let_through_at_ka=6.0)
        found = finding(job(circuit(device=device)), "protective-conductor")
        self.assertAlmostEqual(found.value or 0, sqrt(20_000) / 115, places=9)

    def test_an_energy_without_its_current_is_asked_for_where_it_would_decide(self) -> None:
        run = (laid(1.0),)
        bare = job(
            circuit(run=run, device=rcbo(63.0, "D", let_through_a2s=30_000.0)), supply=supply(fault_current_ka=6.0)
        )
        found = finding(bare, "short-circuit-withstand")
        self.assertEqual(
            (found.verdict, [need.path for need in found.needs]), ("missing", ["device.let_through_at_ka"])
        )
        full = rcbo(63.0, "D", let_through_a2s=30_000.0, let_through_at_ka=6.0)
        whole = job(circuit(run=run, device=full), supply=supply(fault_current_ka=6.0))
        self.assertIn(finding(whole, "short-circuit-withstand").verdict, ("pass", "tight"))


class RingUnderFault(unittest.TestCase):
    """At the middle each leg carries half; next to the board one leg carries all."""

    def ring(self, length_m: float, **more: Any) -> Job:
        parts: dict[str, Any] = {
            "kind": "ring",
            "loads": (),
            "device": rcbo(32.0),
            "run": (laid(length_m),),
            "cable": flat(2.5),
        }
        return job(circuit(**(parts | more)))

    def test_the_middle_needs_half_of_what_a_radial_end_would(self) -> None:
        made = self.ring(60.0)
        network = Installation.of(made, rule_set("uk"))
        rules, loops = network.rules, network.loops
        middle = rules.devices.clearing(rcbo(32.0), loops.earth_fault_a(made.circuits[0])).energy_a2s
        near = rules.devices.clearing(rcbo(32.0), 230 / loops.board_ohm(made.boards[0])).energy_a2s
        found = finding(made, "protective-conductor")
        self.assertAlmostEqual(found.value or 0, max(sqrt(near), sqrt(middle) / 2) / 115, places=9)
        self.assertAlmostEqual(found.value or 0, sqrt(near) / 115, places=9)

    def test_a_large_source_makes_the_near_end_decide(self) -> None:
        weak, strong = (
            finding(job(self.ring(60.0).circuits[0], supply=supply(ze_ohm=ze)), "protective-conductor").value
            for ze in (0.8, 0.05)
        )
        assert weak is not None and strong is not None
        self.assertLess(weak, strong)


class BehindALargeRcd(unittest.TestCase):
    """TT: RA · IΔn ≤ 50 V (BS 7671 411.5.3): 500 Ω at 100 mA, 167 Ω at 300 mA. It was a finding about the breaker, by 13,858 %."""

    def earthed(self, ra_ohm: float, idn_ma: float, *, delayed: bool = True, own: bool = False) -> Job:
        device = rcbo(16.0) if own else mcb(16.0)
        made = job(circuit(device=device), supply=supply(system="TT", ze_ohm=ra_ohm))
        switch = MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=idn_ma, time_delayed=delayed))
        return made.model_copy(update={"boards": (made.boards[0].model_copy(update={"main_switch": switch}),)})

    def test_the_finding_is_about_the_rcd_and_its_limit(self) -> None:
        for ra, idn, limit, verdict in (
            (600.0, 100.0, 500.0, "fail"),
            (200.0, 300.0, 500 / 3, "fail"),
            (150.0, 300.0, 500 / 3, ""),
        ):
            with self.subTest(ra, idn=idn):
                found = finding(self.earthed(ra, idn, delayed=False), "disconnection")
                self.assertAlmostEqual(found.limit or 0, limit, places=6)
                self.assertEqual(found.unit, "Ω")
                if verdict:
                    self.assertEqual(found.verdict, verdict)
                else:
                    self.assertIn(found.verdict, ("pass", "tight", "advice"))

    def test_a_smaller_residual_current_is_offered(self) -> None:
        made = self.earthed(600.0, 100.0, delayed=False)
        found = finding(made, "disconnection")
        offered = {remedy.id for remedy in remedies(made, "disconnection", found.subject)}
        self.assertIn("residual", offered)

    def test_the_test_sheet_has_the_limit_of_the_rcd(self) -> None:
        made = self.earthed(600.0, 100.0, delayed=False)
        [one] = expected(Installation.of(made, rule_set("uk")))
        self.assertEqual((one.zs_by_rcd, one.zs_limit_ohm), (True, 500.0))

    def test_many_times_over_is_said_as_so_many_times(self) -> None:
        bare = job(circuit(device=mcb(16.0)), supply=supply(system="TT", ze_ohm=400.0))
        found = finding(bare, "disconnection")
        self.assertEqual(found.verdict, "fail")
        self.assertNotIn("%", str(found.sentence))

    def test_typed(self) -> None:
        job_ = set_supply(typed("heater 2kW B16 MCB 2.5mm 12m"), "TT Ra 250").job
        group = SharedRcd(id="r1", name="RCD 1", rating_a=63.0, rcd=Rcd(idn_ma=300.0))
        way = job_.boards[0].ways[0].model_copy(update={"rcd": "r1"})
        board = job_.boards[0].model_copy(update={"shared_rcds": (group,), "ways": (way,)})
        found = finding(job_.model_copy(update={"boards": (board,)}), "disconnection")
        self.assertEqual(found.verdict, "fail")
        self.assertAlmostEqual(found.limit or 0, 500 / 3)
        self.assertTrue(assess(job_).findings)


def _circuit(made: Job) -> Circuit:
    return made.circuits[0]


if __name__ == "__main__":
    unittest.main()
