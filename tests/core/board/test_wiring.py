"""Sizes, lengths and steps of the wiring list; heat of a board; each against a sum done by hand."""

from __future__ import annotations

import unittest
from itertools import pairwise
from math import sqrt

from tests.builders import circuit, cutout, job, mcb, rcbo, supply
from tests.core.board.made import changed, housed, models, packed
from tests.texts import ids
from vivid_lattice.core.actions.move_device import lay_out
from vivid_lattice.core.board.layout.heat import effective_surface_m2, heat_of
from vivid_lattice.core.document.board_build import Enclosure, WiringDefaults
from vivid_lattice.core.document.device_family import packaged
from vivid_lattice.core.document.job import Device, Job, SharedRcd, Way
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.rules import rule_set

UK = rule_set("uk")


def grouped(count: int, rating_a: float = 16.0, **more: object) -> Job:
    """So many breakers behind one RCD of 63 A."""
    of = job(*(circuit(id=f"c{n}", name=f"C{n}", device=mcb(rating_a)) for n in range(1, count + 1)), **more)
    ways = tuple(way.model_copy(update={"rcd": "r1"}) for way in of.boards[0].ways)
    return changed(of, shared_rcds=(SharedRcd(id="r1", name="RCD", rating_a=63.0, rcd=Rcd(idn_ma=30.0)),), ways=ways)


class Links(unittest.TestCase):
    """Least sizes."""

    def _link(self, of: Job) -> tuple[float | None, str]:
        made = lay_out(housed(of, 2, 18), "main")[0]
        [one] = [w for w in models(made)["main"].wiring.conductors if w.end.terminal == "rcd:r1/L1/in"]
        return one.area_mm2, one.reason

    def test_a_link_carries_the_sum_behind_it_or_the_device_ahead_whichever_is_less(self) -> None:
        # Single cores in PVC, clipped: 4 mm² 37 A, 10 mm² 65 A, 16 mm² 87 A, 25 mm² 114 A. BS 7671:2018, Table 4D1A (from memory).
        # A household fuse of 80 A lets through 917 767 A²s at the most, its 5 s point: √917767 / 115 = 8.3 mm². One of 60 A is not
        # tabulated and is taken as the next, 63 A: 5.5 mm², so that 10 mm² is the next link.
        for count, ahead, needs, area in (
            (2, 60.0, 32.0, 10.0),
            (4, 80.0, 64.0, 10.0),
            (6, 80.0, 80.0, 16.0),
            (6, 100.0, 96.0, 25.0),
        ):
            of = grouped(count, supply=supply(cutout=cutout(ahead)))
            found, why = self._link(of)
            self.assertIn(f"load {needs:g} A", str(why))
            self.assertEqual(found, area, (count, ahead))

    def test_a_short_circuit_ahead_asks_for_more_copper_than_the_load_does(self) -> None:
        # The cut-out's let-through at the board, against k = 115: S = √(I²t)/k.
        of = grouped(1, 6.0, supply=supply(fault_current_ka=5.0))
        fuse = Device(kind="fuse-bs88-3", rating_a=100.0)
        energy = UK.devices.let_through(fuse, 5000.0).value
        area, why = self._link(of)
        self.assertGreaterEqual(area or 0, sqrt(energy) / 115)
        self.assertGreater(area or 0, 4.0, "the load alone, 6 A, would ask for no more than the habit")
        self.assertIn("load 6 A", str(why))

    def test_the_owner_may_wish_larger_links_and_an_unknown_ahead_is_said(self) -> None:
        of = grouped(1, 6.0, supply=supply(cutout=None))
        made = lay_out(housed(of, 2, 18), "main")[0]
        housing = made.boards[0].build.model_copy(update={"wiring_defaults": WiringDefaults(min_link_mm2=16.0)})
        [one] = [
            w
            for w in models(changed(made, build=housing))["main"].wiring.conductors
            if w.end.terminal == "rcd:r1/L1/in"
        ]
        self.assertEqual(one.area_mm2, 16.0)
        self.assertIn("core.wiring.size.carries_only", ids(one.reason))
        with self.assertRaises(NeedsInput):
            models(made)["main"].links.carries_a(None)

    def test_tails_and_earths_have_the_size_that_the_supply_states(self) -> None:
        model = models(packed(job()))["main"]
        found = {(w.start.terminal, w.conductor): w.area_mm2 for w in model.wiring.conductors}
        self.assertEqual(found["supply/L1", "L1"], 25.0)
        self.assertEqual(found["supply/PE", "PE"], 16.0)
        self.assertEqual(found["bond:1/PE", "PE"], 10.0)
        self.assertEqual(found["cable:c1/PE", "PE"], 1.5)  # flat twin and earth, 2.5/1.5

    def test_what_is_not_known_is_left_open_and_said(self) -> None:
        bare = job(supply=supply(tails=None, earthing={"conductor_mm2": None, "bonds": ()}))
        wiring = models(packed(bare))["main"].wiring
        self.assertTrue(any("tails" in str(one) for one in wiring.missing))
        self.assertTrue(all(w.area_mm2 is None for w in wiring.conductors if w.start.terminal == "supply/L1"))


class Lengths(unittest.TestCase):
    """Lengths from the drawing."""

    def test_a_conductor_is_as_long_as_its_way_and_its_slack_rounded_up_to_a_centimetre(self) -> None:
        for one in models(packed(job(circuit(), circuit(id="c2", name="Second"))))["main"].wiring.conductors:
            way = sum(abs(b.x - a.x) + abs(b.y - a.y) for a, b in pairwise(one.corners))
            slack = 0.0 if one.kind in ("own-lead", "plug") else 60.0
            self.assertGreaterEqual(one.length_mm, way + slack)
            self.assertLess(one.length_mm, way + slack + 10 + 1e-9)
            for a, b in pairwise(one.corners):
                self.assertTrue(a.x == b.x or a.y == b.y, "a conductor runs square")

    def test_the_leads_of_a_surge_device_are_those_of_the_drawing(self) -> None:
        device = Spd(
            id="s", name="Surge device", type="2", up_kv=1.4, uc_v=275.0, discharge_ka=20.0, short_circuit_ka=25.0,
            backup_a=32.0, max_backup_a=125.0, live_mm2=6.0, earth_mm2=6.0, leads_m=3.0,
        )  # fmt: skip
        made = lay_out(housed(changed(job(), spds=(device,)), 1, 12), "main")[0]
        self.assertIsNone(made.boards[0].spds[0].leads_m)
        model = models(made)["main"]
        leads = [
            w for w in model.wiring.conductors
            if w.conductor != "N" and {w.start.terminal.split("/")[0], w.end.terminal.split("/")[0]} & {"surge:s", "backup:s"}
        ]  # fmt: skip
        self.assertEqual(model.surge_leads_m("s"), sum(w.length_mm for w in leads) / 1000)
        self.assertEqual({w.conductor for w in leads}, {"L1", "PE"})

    def test_the_order_is_earth_first_and_supply_last(self) -> None:
        steps = [one.step for one in models(packed(grouped(3)))["main"].wiring.conductors]
        self.assertEqual((steps, steps[0], steps[-1]), (sorted(steps), 1, 6))


class Heat(unittest.TestCase):
    """Losses and temperature."""

    def test_six_breakers_of_16_a_lose_what_the_published_example_says(self) -> None:
        # common.we.board.heat: six 16 A breakers at the assumed loading 0.6 of IEC 61439-3, Table 101, each at the limit of
        # 3.5 W of IEC 60898-1, Table 15: 1.26 W each, 7.56 W together (arithmetic of the stated formula).
        of = job(*(circuit(id=f"c{n}", device=mcb(16.0)) for n in range(1, 7)))
        units = models(of)["main"].units
        heat = heat_of(units, Enclosure(title="Box", rows=1, modules=12), UK.board, 20.0, None)
        ways = [one for one in heat.losses if one.unit.startswith("way")]
        self.assertEqual([round(one.watt, 2) for one in ways], [1.26] * 6)
        self.assertAlmostEqual(sum(one.watt for one in ways), 7.56)

    def test_the_rise_is_the_loss_over_k_and_the_effective_surface(self) -> None:
        # IEC 60890, single enclosure for wall mounting: 1.4·0.4·(0.3+0.1) + 1.8·0.1·0.3 = 0.278 m².
        self.assertAlmostEqual(effective_surface_m2(400, 300, 100, UK.board), 0.278)
        enclosure = Enclosure(title="Box", rows=1, modules=12, width_mm=400, height_mm=300, depth_mm=100)
        units = models(job())["main"].units
        for material, k in (("metal", 5.5), ("moulded", 3.5)):
            heat = heat_of(units, enclosure.model_copy(update={"material": material}), UK.board, 20.0, None)
            self.assertAlmostEqual(heat.inside_c, 20 + heat.total_w / (k * 0.278))

    def test_a_family_that_states_its_losses_is_reckoned_by_them(self) -> None:
        family = next(one for one in packaged() if one.id == "tarn-b")
        of = job(circuit(device=mcb(16.0, family="tarn-b")))
        heat = heat_of(models(of)["main"].units, Enclosure(title="Box", rows=1, modules=12), UK.board, None, None)
        [way] = [one for one in heat.losses if one.unit == "way:c1"]
        self.assertEqual(way.pole_w, family.loss_w[family.ratings_a.index(16.0)])
        self.assertEqual(heat.room_c, 25.0)

    def test_the_main_switch_carries_no_more_than_the_device_ahead_lets_it(self) -> None:
        of = job(*(circuit(id=f"c{n}", device=rcbo(40.0)) for n in range(1, 9)))
        box = Enclosure(title="Box", rows=1, modules=12)
        open_, held = (heat_of(models(of)["main"].units, box, UK.board, None, ahead) for ahead in (None, 60.0))
        self.assertEqual([next(o for o in h.losses if o.unit == "main").share for h in (open_, held)], [1.0, 0.6])


class Packed(unittest.TestCase):
    """Units."""

    def test_widths_are_those_of_the_family_and_else_the_usual(self) -> None:
        # DIN 43880 and practice: common.module-width.
        for device, lines, phases, wide in (
            (mcb(16.0), (), 1, 1.0),
            (mcb(80.0), (), 1, 1.5),
            (rcbo(16.0, family="fell-rcbo"), (), 1, 2.0),
            (mcb(16.0), ("L1", "L2", "L3"), 3, 3.0),
            (rcbo(16.0), ("L1", "L2", "L3"), 3, 4.0),
            (mcb(16.0, arc_fault=True), (), 1, 2.0),
        ):
            of = job(circuit(device=device, lines=lines), supply=supply(phases=phases))
            self.assertEqual(models(of)["main"].units.by_id["way:c1"].wide, wide, (device.kind, lines))

    def test_a_circuit_without_a_device_or_a_line_is_left_open_and_not_guessed(self) -> None:
        of = job(circuit(id="c1", device="auto"), circuit(id="c2"), supply=supply(phases=3))
        model = models(of)["main"]
        self.assertEqual([one.id for one in model.units.open], ["c1", "c2"])
        self.assertEqual([unit.id for unit in model.units.all], ["main"])

    def test_a_surge_device_has_its_lines_towards_the_feed_and_its_earth_on_the_other_side(self) -> None:
        surge = (Spd(id="s", name="Surge device", type="2", backup_a=32.0),)
        for feed, other in (("top", "bottom"), ("bottom", "top")):
            model = models(packed(changed(job(), spds=surge)))["main"]
            object.__setattr__(model.places, "feed", feed)
            unit = model.units.by_id["surge:s"]
            self.assertEqual([model.places.side(unit, "in", one) for one in ("L1", "PE")], [feed, other])

    def test_numbers_of_ways_do_not_have_to_be_without_gaps(self) -> None:
        of = changed(
            job(circuit(id="c1"), circuit(id="c2")), ways=(Way(number=9, circuit="c1"), Way(number=3, circuit="c2"))
        )
        self.assertEqual([unit.id for unit in models(of)["main"].units.all], ["main", "way:c2", "way:c1"])


if __name__ == "__main__":
    unittest.main()
