"""Demand is an estimate: what it says above the supply, when it fails, and the ways out, each entered and then used."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, cutout, feeder, job, rcbo, supply, two_boards
from tests.core.document.test_feeds import typed
from tests.core.test_typed_jobs import of_board, of_supply
from tests.texts import keys
from vivid_lattice.core.design.demand_ways import demand_options
from vivid_lattice.core.design.larger_supply import larger_supply
from vivid_lattice.core.document.job import Job, Load, with_circuit
from vivid_lattice.core.document.supply import KnownDemand
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.demo import demo_job


def house(rating_a: float = 60.0, **more: Any) -> Job:
    """Two rings and a cooker on a small cut-out: On-Site Guide, Table A2 (from memory): 32 + 0.4 · 32 + 10 + 0.3 · 29.1 = 63.5 A."""
    rings = [circuit(id=f"r{at}", kind="ring", loads=(Load(name="Sockets", kind="socket", count=8),), device=rcbo(32.0)) for at in range(2)]  # fmt: skip
    cooker = circuit(id="c", loads=(Load(name="Cooker", kind="cooker", power_w=9000.0),), device=rcbo(32.0))
    return job(*rings, cooker, supply=supply(cutout=cutout(rating_a), **more))


def demand(of: Job) -> Finding:
    return of_supply(of, "demand")


class Estimate(unittest.TestCase):
    """Above the rating."""

    def test_two_rings_and_a_cooker_on_60_a_are_advice_and_not_a_fail(self) -> None:
        found = demand(house())
        self.assertEqual(found.verdict, "advice")
        self.assertAlmostEqual(found.value or 0, 32 + 0.4 * 32 + 10 + 0.3 * (9000 / 230 - 10), places=6)
        self.assertIn("over", keys(found))
        self.assertEqual(of_board(house(100.0), "demand").verdict, "pass")

    def test_at_the_rating_nothing_is_said(self) -> None:
        exact = demand(house()).value or 0
        self.assertEqual(demand(house(exact)).verdict, "tight")
        self.assertEqual(demand(house(exact - 0.001)).verdict, "advice")

    def test_a_stated_current_is_of_the_whole_circuit_and_counts_once(self) -> None:
        heaters = tuple(Load(name=name, kind="heater", at_peak="always", power_w=2000.0) for name in ("A", "B"))
        of = job(circuit(loads=heaters, design_current_a=35.0), supply=supply(cutout=cutout(60.0)))
        self.assertAlmostEqual(demand(of).value or 0, 35.0)
        self.assertNotEqual(demand(of).verdict, "fail")

    def test_in_the_united_states_a_calculated_load_above_the_service_fails(self) -> None:
        # NEC 220 and 230.42: the calculated load; 100 A and more by the optional method (220.82) where that gives less.
        lines = ("range 12kW 30ft", "dryer 5kW 30ft", "water heater 4.5kW 30ft", "electric furnace 20kW 30ft")
        for rating, verdict in ((100.0, "fail"), (200.0, "pass")):
            of = typed(*lines, rules="na")
            assert of.supply.cutout is not None
            cut = of.supply.cutout.model_copy(update={"rating_a": rating})
            info = of.job.model_copy(update={"floor_area_m2": 150.0})
            of = of.model_copy(update={"supply": of.supply.model_copy(update={"cutout": cut}), "job": info})
            self.assertEqual(demand(of).verdict, verdict, rating)

    def test_what_certainly_runs_at_once_above_the_rating_fails_everywhere(self) -> None:
        for rules in standard_ids():
            lines = [f"storage heater 3.4kW {at}m" for at in range(10, 20)]
            of = typed(*lines, rules="uk" if rules == "na" else rules)
            if rules == "za":  # it has no word for storage heating: what is stated counts
                circuits = [
                    one.model_copy(update={"loads": (one.loads[0].model_copy(update={"at_peak": "always"}),)})
                    for one in of.circuits
                ]
                of = of.model_copy(update={"circuits": tuple(circuits)})
            found = demand(of)
            self.assertEqual(found.verdict, "fail", rules)
            self.assertIn("certain_fix", keys(found))

    def test_one_load_larger_than_the_fuse_fails(self) -> None:
        kiln = circuit(loads=(Load(name="Kiln", kind="kiln", power_w=9000.0),))
        self.assertEqual(demand(job(kiln, supply=supply(cutout=cutout(30.0)))).verdict, "fail")

    def test_a_feeder_whose_board_is_not_there_yet_counts_as_stated(self) -> None:
        alone, with_feeder = typed("heater 2kW 12m"), typed("heater 2kW 12m", "garage submain 40A 20m buried")
        self.assertGreater(demand(with_feeder).value or 0, (demand(alone).value or 0) + 10)

    def test_a_board_of_its_own_is_judged_by_itself(self) -> None:
        far = [circuit(id=f"c{at}", loads=(Load(name="S", kind="shower", power_w=9500.0),)) for at in range(3)]
        made = two_boards(feeder(), *far, supply=supply(cutout=cutout(200.0)))
        found = of_board(made, "demand", made.boards[1].id)
        self.assertEqual(found.verdict, "not-applicable" if made.boards[1].main_switch is None else "advice")


class WaysOut(unittest.TestCase):
    """Each way out that is entered is used."""

    def test_a_measured_demand_takes_the_place_of_the_estimate(self) -> None:
        for measured, verdict in ((48.0, "pass"), (60.0, "pass"), (60.5, "fail")):
            known_ = KnownDemand(measured_a=measured, measured_days=30)
            found = demand(house(demand=known_))
            self.assertEqual((found.verdict, found.value), (verdict, measured))
            self.assertIn("over 30 days", str(found.sentence))

    def test_the_main_breaker_limits_where_the_standard_allows_it(self) -> None:
        # AS/NZS 3000:2018, 2.2.2(d), from memory; not in the United Kingdom.
        limited = KnownDemand(limited_a=63.0)
        for rules, verdict in (("anz", "pass"), ("uk", "advice")):
            of = typed(
                *(f"water heater 3kW {at}m" for at in range(10, 18)), "cooker 9kW 10m", "shower 9kW 12m", rules=rules
            )
            assert of.supply.cutout is not None
            cut = of.supply.cutout.model_copy(update={"rating_a": 63.0})
            of = of.model_copy(update={"supply": of.supply.model_copy(update={"demand": limited, "cutout": cut})})
            self.assertEqual(demand(of).verdict, verdict, rules)

    def test_managed_charging_and_a_priority_switch_drop_out(self) -> None:
        full = demand(typed("charger 7.4kW 12m", "cooker 9kW 8m")).value or 0
        cooker = demand(typed("cooker 9kW 8m")).value or 0
        for how in ("managed", "off"):
            of = typed("charger 7.4kW 12m", "cooker 9kW 8m")
            [charger, other] = of.circuits
            load = charger.loads[0].model_copy(update={"at_peak": how})
            of = of.model_copy(update={"circuits": (charger.model_copy(update={"loads": (load,)}), other)})
            self.assertAlmostEqual(demand(of).value or 0, cooker, places=6)
            self.assertGreater(full, cooker + 30)

    def test_the_feeder_of_a_board_carries_what_is_managed(self) -> None:
        """It runs at another time, and its feeder carries it then: 7.2 kW on 230 V are 31.3 A."""
        mill = demo_job("millrace")
        kiln = mill.circuit("c13")
        self.assertEqual(kiln.loads[0].at_peak, "off")
        drops = Installation.of(mill, rule_set("uk")).drops
        studio = drops.board_demand(mill.board("studio"))
        always = kiln.model_copy(update={"loads": (kiln.loads[0].model_copy(update={"at_peak": None}),)})
        same = Installation.of(with_circuit(mill, always), rule_set("uk")).drops
        self.assertEqual(studio.by_line, same.board_demand(mill.board("studio")).by_line)
        self.assertGreater(max(studio.by_line.values()), 7200 / 230)
        self.assertLess(max(drops.whole_demand().by_line.values()), max(same.whole_demand().by_line.values()))

    def test_all_loads_in_full_is_a_method(self) -> None:
        of = house().model_copy(update={"settings": house().settings.model_copy(update={"demand_method": "in-full"})})
        self.assertAlmostEqual(demand(of).value or 0, 32 + 32 + 10 + 0.3 * (9000 / 230 - 10), places=6)

    def test_they_are_in_the_standards_order_and_only_those_that_fit(self) -> None:
        ways = [one.way for one in demand_options(house())]
        self.assertEqual(ways[:3], ["Check the estimate", "Have the fuse read", "Measure the demand"])
        self.assertLess(ways.index("80 A fuse"), ways.index("100 A fuse"))
        self.assertEqual(ways[-1], "Three-phase service")
        self.assertNotIn("Manage the charging", ways)
        self.assertIn("Manage the charging", [one.way for one in demand_options(typed("charger 7.4kW 12m"))])
        self.assertNotIn("80 A fuse", [one.way for one in demand_options(house(80.0))])

    def test_every_standard_has_measuring_and_says_where_each_way_is_entered(self) -> None:
        entered = {"loads", "method", "measured", "limited", "at-peak", "lines", "feeder", "cutout", "phases"}
        for name in standard_ids():
            ways = customary(name).demand_options
            self.assertIn("measured", {one.enters for one in ways}, name)
            self.assertLessEqual({one.enters for one in ways}, entered, name)

    def test_the_larger_service_goes_by_the_same_figure(self) -> None:
        found = larger_supply(house())
        assert found is not None
        self.assertEqual(found.wanted_a, 80.0)
        self.assertIsNone(larger_supply(house(demand=KnownDemand(measured_a=40.0))))


if __name__ == "__main__":
    unittest.main()
