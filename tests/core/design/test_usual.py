"""What is usual here as a minimum for design: customary circuits of each standard. Common practice, no source, unless a test names one."""

from __future__ import annotations

import unittest

from tests.core.document.test_feeds import typed
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Decision
from vivid_lattice.core.document.job import Cable, Device, Job, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.customary import customary


def made(
    line: str, rules: str = "uk", usual: bool = True, of: Job | None = None
) -> tuple[Device, Cable, list[Decision]]:
    """The device and the cable that design chooses for a typed circuit, with its decisions."""
    job = of or typed(line, rules=rules)
    job = job.model_copy(update={"settings": job.settings.model_copy(update={"design_usual": usual})})
    done = design(job)
    [circuit] = done.job.circuits
    assert not isinstance(circuit.device, str), done.decisions
    assert not isinstance(circuit.cable, str), done.decisions
    return circuit.device, circuit.cable, list(done.decisions)


class Minimum(unittest.TestCase):
    """No smaller device and cable than the row of its kind and band."""

    def test_what_nobody_would_fit_is_not_chosen(self) -> None:
        for rules, line, rating, curve, area in (
            ("uk", "cooker 9.6kW 8m, kitchen", 32.0, "B", 6.0),
            ("uk", "sockets 20m", 20.0, "B", 2.5),
            ("uk", "smoke alarm 2W 12m", 6.0, "B", 1.5),
            ("uk", "feeder 20A 10m buried", 20.0, "C", 2.5),
            ("iec-de", "hob 3.5kW 10m, kitchen", 16.0, "B", 2.5),
            ("iec-de", "sockets 10m", 16.0, "B", 1.5),
            ("iec-de", "sockets 20m", 16.0, "B", 2.5),
            ("iec", "sockets 10m", 16.0, "C", 2.5),
            ("za", "pool pump 750W 20m buried", 20.0, "C", 2.5),
            ("anz", "cooker 8kW 9m", 32.0, "C", 6.0),
            ("na", "water heater 4.5kW 25ft", 30.0, None, 5.261),
        ):
            device, cable, _ = made(line, rules)
            with self.subTest(rules, line=line):
                self.assertEqual((device.rating_a, device.curve), (rating, curve))
                self.assertAlmostEqual(cable.area_mm2, area, places=2)

    def test_the_decision_says_so_and_what_the_calculation_alone_would_take(self) -> None:
        _, _, decisions = made("cooker 9.6kW 8m, kitchen")
        said = {one.what: str(one.sentence) for one in decisions}
        self.assertEqual(said["device"], "B32: usual here; 20 A carries the load.")
        self.assertEqual(said["cable"], "6 mm²: usual here; 4 mm² would pass every check.")

    def test_the_setting_turns_it_off(self) -> None:
        device, cable, decisions = made("cooker 9.6kW 8m, kitchen", usual=False)
        self.assertLess(device.rating_a, 32.0)
        self.assertLess(cable.area_mm2, 6.0)
        self.assertNotIn("usual here", " ".join(str(one.sentence) for one in decisions))

    def test_where_the_calculation_asks_for_more_it_decides(self) -> None:
        # BS 7671:2018, 525: 5 % of 230 V; 60 m of 2.5 mm² at 18 mV/(A·m) and 20 A would lose 21.6 V.
        device, cable, _ = made("sockets 60m")
        self.assertEqual(device.rating_a, 20.0)
        self.assertGreater(cable.area_mm2, 4.0)

    def test_what_is_typed_is_kept(self) -> None:
        self.assertEqual(made("cooker 9.6kW 8m C20")[0].rating_a, 20.0)
        self.assertEqual(made("cooker 9.6kW 8m 4mm2")[1].area_mm2, 4.0)
        # Of a cable that is given the device is the one it allows.
        self.assertLessEqual(made("sockets 10m 1.5mm2")[0].rating_a, 20.0)

    def test_by_the_label_no_rating_is_raised(self) -> None:
        # NEC 440: the breaker of an air conditioner goes by its label.
        self.assertEqual(made("air conditioner 18A 40ft, outside", "na")[0].rating_a, 20.0)


class Protection(unittest.TestCase):
    """The form that is usual, and the shared RCDs that a board has."""

    def test_a_shared_rcd_of_the_board_is_used_before_an_rcbo(self) -> None:
        of = typed("oven 3kW 10m, kitchen", "sockets 10m, living", "sockets 12m, bedroom", rules="iec-de")
        rcds = tuple(SharedRcd(id=name, name=name, rating_a=40.0, rcd=Rcd(idn_ma=30.0)) for name in ("left", "right"))
        of = of.model_copy(update={"boards": (of.boards[0].model_copy(update={"shared_rcds": rcds}),)})
        done = design(of).job
        self.assertEqual({way.rcd for way in done.boards[0].ways}, {"left", "right"})
        for circuit in done.circuits:
            assert not isinstance(circuit.device, str)
            self.assertIsNone(circuit.device.rcd, circuit.name)

    def test_behind_a_shared_rcd_a_british_circuit_has_a_breaker_and_no_second_rcd(self) -> None:
        """Two 30 mA devices in series trip together: common practice, no source."""
        of = typed("kitchen ring 30m", "lights 300W 30m", "shower 9kW 12m, bathroom", rules="uk")
        of = of.model_copy(update={"boards": (of.boards[0].model_copy(update={"shared_rcds": (
            SharedRcd(id="r1", name="RCD 1", rating_a=63.0, rcd=Rcd(idn_ma=30.0, type="A")),
        ), "ways": tuple(way.model_copy(update={"rcd": "r1"}) for way in of.boards[0].ways[:2]) + of.boards[0].ways[2:]}),)})  # fmt: skip
        done = design(of).job
        kinds = [getattr(circuit.device, "kind", None) for circuit in done.circuits]
        self.assertEqual(kinds, ["mcb", "mcb", "rcbo"])

    def test_behind_a_main_switch_for_people_a_circuit_has_a_breaker_and_behind_one_of_300_ma_an_rcbo(self) -> None:
        for idn_ma, kind in ((30.0, "mcb"), (300.0, "rcbo")):
            of = typed("kitchen ring 30m", rules="uk")
            switch = MainSwitch(rating_a=80.0, rcd=Rcd(idn_ma=idn_ma, type="A"))
            of = of.model_copy(update={"boards": (of.boards[0].model_copy(update={"main_switch": switch}),)})
            [circuit] = design(of).job.circuits
            self.assertEqual(getattr(circuit.device, "kind", None), kind)

    def test_two_socket_circuits_of_one_name_are_not_taken_for_the_lines_of_one_load(self) -> None:
        of = set_supply(typed(rules="iec-de"), "3x63A").job
        for line in ("sockets 10m, kitchen", "sockets 12m, kitchen", "sockets 14m, living"):
            of = add_entry(of, line, "main").job
        done = design(of).job
        kitchen = [circuit for circuit in done.circuits if "itchen" in circuit.name]
        behind = {way.circuit: way.rcd for way in done.boards[0].ways}
        self.assertEqual(len({circuit.name for circuit in kitchen}), 1)
        self.assertNotEqual(kitchen[0].lines, kitchen[1].lines)
        self.assertEqual(len({behind[circuit.id] for circuit in kitchen}), 2)

    def test_from_three_circuits_a_new_german_board_has_shared_rcds(self) -> None:
        for lines, count in ((2, 0), (3, 2)):
            done = design(typed(*[f"sockets {at}m" for at in range(10, 10 + lines)], rules="iec-de"))
            self.assertEqual(len(done.job.boards[0].shared_rcds), count, lines)

    def test_a_new_german_board_has_two_to_four_shared_rcds_and_rcbos_where_usual(self) -> None:
        lines = [f"sockets {at}m" for at in range(10, 20)] + [
            "lights 9W 18m",
            "lights 9W 20m",
            "freezer 200W 8m",
            "hob 3.5kW 10m",
        ]
        of = typed(*lines[:12], rules="iec-de")
        board = of.boards[0].model_copy(update={"way_count": 30})
        of = of.model_copy(update={"boards": (board,)})
        for line in lines[12:]:
            of = add_entry(of, line, "main").job
        done = design(of)
        [board] = done.job.boards
        self.assertEqual((len(board.shared_rcds), {one.rating_a for one in board.shared_rcds}), (3, {63.0}))
        behind = {way.circuit: way.rcd for way in board.ways}
        lights = {behind[one.id] for one in done.job.circuits if one.kind == "lighting"}
        self.assertEqual(len(lights), 2, "one RCD does not put out every light")
        [freezer] = [one for one in done.job.circuits if "reezer" in one.name]
        assert not isinstance(freezer.device, str)
        self.assertIsNotNone(freezer.device.rcd)
        self.assertIsNone(behind[freezer.id])
        self.assertIn("3 × 63 A 30 mA type A", " ".join(str(one.sentence) for one in done.decisions))
        self.assertEqual(
            [one for one in assess(done.job).findings if one.verdict == "fail" and one.check != "surge"], []
        )

    def test_without_one_what_is_usually_behind_an_rcd_gets_its_own(self) -> None:
        for rules, line, own in (
            ("iec-de", "dishwasher 2.2kW 10m, kitchen", True),
            ("za", "pool pump 750W 20m buried", True),
            ("za", "stove 7kW 8m, kitchen", False),
        ):
            self.assertEqual(made(line, rules)[0].rcd is not None, own, (rules, line))


class Feeders(unittest.TestCase):
    """63 to 100 A, by a breaker or a fuse."""

    def test_feeders_above_50_a_are_designed(self) -> None:
        for rules in ("uk", "anz", "iec", "iec-de", "za"):
            for rating in (63.0, 80.0):
                device, cable, _ = made(f"garage submain {rating:g}A 15m buried", rules)
                with self.subTest(rules, rating=rating):
                    self.assertEqual(device.rating_a, rating)
                    self.assertGreaterEqual(cable.area_mm2, 16.0)

    def test_a_characteristic_that_opens_sooner_is_taken_before_a_cable_five_sizes_larger(self) -> None:
        device, cable, decisions = made("garage submain 63A 25m buried", "za")
        self.assertEqual((device.curve, cable.area_mm2), ("B", 16.0))
        self.assertIn("trips at less current", " ".join(str(one.sentence) for one in decisions))

    def test_a_british_feeder_of_63_a_has_a_fuse(self) -> None:
        self.assertEqual(made("garage submain 63A 15m buried")[0].kind, "fuse-bs88-2")


class Rows(unittest.TestCase):
    """The packaged rows hold together."""

    def test_bands_of_a_kind_meet_and_every_size_is_made(self) -> None:
        for name in standard_ids():
            rules = rule_set(name)
            labels = {size.label.split(" ")[0] for kind in rules.cables.kinds.values() for size in kind.sizes}
            for row in customary(name).circuits:
                with self.subTest(name, kind=row.kind, upto=row.upto):
                    self.assertIn(row.size, labels)
                    kind = rules.devices.kind(row.device)
                    if row.rating_a is not None:
                        self.assertIn(row.rating_a, kind.common_ratings_a)
                    self.assertTrue(row.curve is None or row.curve in kind.curves)
                    self.assertLessEqual(row.over, row.upto)


if __name__ == "__main__":
    unittest.main()
