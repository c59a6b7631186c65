"""Two breakers in the place of one, and devices that open the neutral, typed as people type them, laid out, wired and judged.

Tandem breakers only where the panel's label permits them, both halves on one leg: NEC 408.54 and 110.3(B), from memory, as the
rule ``na.panel.tandem``. Widths and numbers of spaces: common practice, no source.
"""

from __future__ import annotations

import unittest

from tests.builders import circuit, finding, job, mcb
from tests.core.board.made import changed, housed, models
from vivid_lattice.core.actions.add_circuit import add_circuit_options
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.move_device import lay_out, numbered_as_placed
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.board_build import Enclosure, space_number
from vivid_lattice.core.document.job import Device, Job
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.material.material import material
from vivid_lattice.core.rules import rule_set


def panel(*lines: str, spaces: str | None = "all", modules: int = 6) -> Job:
    """A split-phase panel with circuits typed one by one."""
    of = begin("Panel", rule_set("na"), "TN-C-S")
    for line in lines:
        of = enter_and_design(of, line, "main").job
    of = housed(of, 2, modules, "panelboard")
    build = of.boards[0].build
    assert build.enclosure is not None
    enclosure = build.enclosure.model_copy(update={"tandem_spaces": spaces})
    return checked(changed(of, build=build.model_copy(update={"enclosure": enclosure})))


def space_finding(of: Job) -> Finding:
    return next(one for one in assess(of).findings if one.check == "ways")


def device(of: Job, number: int) -> Device:
    made = of.circuits[number].device
    assert not is_auto(made)
    return made


HALVES = ("basement lights 15A tandem 40ft", "hall lights 15A tandem 40ft")


class Typed(unittest.TestCase):
    def test_the_words_of_each_standard_give_the_width_and_the_poles(self) -> None:
        cases = (
            ("na", "TN-C-S", "basement lights 15A tandem 40ft", 0.5, None),
            ("uk", "TN-S", "heater 2kW two-pole RCBO B16 10m", None, True),
            ("uk", "TN-S", "heater 2kW one-module RCBO B16 switched neutral 10m", 1.0, True),
            ("uk", "TN-S", "heater 2kW B16 10m", None, None),
            ("anz", "MEN", "heater 2kW double-pole RCBO 16A 10m", None, True),
            ("za", "TN-S", "heater 2kW slim double breaker 16A 10m", 0.5, None),
            ("iec", "TT", "heater 2kW RCBO B16 1P+N 10m", None, True),
            ("iec-de", "TN-S", "Heizung 2kW Doppelautomat B16 10m", 0.5, None),
        )
        for rules, system, line, modules, neutral in cases:
            with self.subTest(line):
                of = enter_and_design(begin("Job", rule_set(rules), system), line, "main").job
                made = device(of, 0)
                self.assertEqual((made.modules, made.switches_neutral), (modules, neutral))

    def test_they_last_where_the_rating_is_chosen(self) -> None:
        of = enter_and_design(begin("Job", rule_set("uk"), "TN-S"), "heater 2kW two-pole RCBO 10m", "main").job
        self.assertTrue(device(of, 0).switches_neutral)

    def test_a_two_pole_isolator_says_nothing_of_the_breaker(self) -> None:
        of = enter_and_design(begin("Job", rule_set("uk"), "TN-S"), "heater 2kW B16 10m 20A DP switch", "main").job
        self.assertIsNone(device(of, 0).switches_neutral)


class LaidOut(unittest.TestCase):
    def test_two_halves_share_one_space_on_one_line(self) -> None:
        of, _ = lay_out(panel(*HALVES), "main")
        spots = {spot.device: spot for spot in of.boards[0].build.device_positions}
        first, second = (spots[f"way:{each.id}"] for each in of.circuits)
        self.assertEqual((first.row, int(first.offset_modules)), (second.row, int(second.offset_modules)))
        self.assertEqual({first.offset_modules % 1, second.offset_modules % 1}, {0.0, 0.5})
        self.assertNotIn(space_finding(of).verdict, ("fail", "missing"))

    def test_they_are_only_where_the_label_permits_them(self) -> None:
        of, _ = lay_out(panel(*HALVES, spaces="7-8, 9-10"), "main")
        for spot in of.boards[0].build.device_positions:
            if spot.offset_modules % 1:
                self.assertIn(space_number(spot.row, spot.offset_modules), (7, 8, 9, 10))
        wrong = panel(*HALVES, spaces="1").boards[0].build.enclosure
        build = of.boards[0].build.model_copy(update={"enclosure": wrong})
        self.assertEqual(space_finding(changed(of, build=build)).verdict, "fail")

    def test_the_second_half_is_numbered_after_the_last_space(self) -> None:
        of, _ = lay_out(panel(*HALVES), "main")
        numbers = sorted(way.number for way in numbered_as_placed(of, "main").boards[0].ways)
        self.assertLessEqual(numbers[0], 12)
        self.assertEqual(numbers[1], 13)

    def test_an_odd_half_takes_a_whole_place(self) -> None:
        for lines, needed in ((HALVES[:1], 1.0), (HALVES, 1.0), ((*HALVES, HALVES[0]), 2.0)):
            on_one = panel(*lines)
            circuits = tuple(each.model_copy(update={"lines": ("L1",)}) for each in on_one.circuits)
            on_one = on_one.model_copy(update={"circuits": circuits})
            self.assertEqual(
                sum(unit.wide for unit in models(on_one)["main"].units.all if unit.kind == "way"), len(lines) / 2
            )
            # What the check counts: the spaces in use, with the surge device's two.
            surge = 2.0 * len(on_one.boards[0].spds)
            self.assertIn(f"{needed + surge:g} of 12", str(space_finding(on_one).working[0].meaning))

    def test_a_double_breaker_on_a_rail_takes_one_module(self) -> None:
        of = job(
            circuit(id="c1", device=mcb(16.0, modules=0.5)), circuit(id="c2", name="Two", device=mcb(10.0, modules=0.5))
        )
        of, _ = lay_out(housed(of, 1, 12), "main")
        places = {spot.device: spot.offset_modules for spot in of.boards[0].build.device_positions}
        self.assertEqual(abs(places["way:c1"] - places["way:c2"]), 0.5)


class Judged(unittest.TestCase):
    def test_a_label_that_is_not_read_is_asked(self) -> None:
        found = space_finding(panel(*HALVES, spaces=None))
        self.assertEqual(found.verdict, "missing")
        self.assertEqual(found.needs[0].path, "boards.build.enclosure.tandem_spaces")

    def test_a_label_that_permits_none_fails(self) -> None:
        self.assertEqual(space_finding(panel(*HALVES, spaces="none")).verdict, "fail")

    def test_a_half_never_feeds_a_multiwire_circuit(self) -> None:
        of = panel(*HALVES)
        first = of.circuits[0].model_copy(update={"lines": ("L1", "L2")})
        of = of.model_copy(update={"circuits": (first, *of.circuits[1:])})
        found = space_finding(of)
        self.assertEqual(found.verdict, "fail")
        self.assertIn("na.panel.tandem", str(found.rule))

    def test_spaces_of_a_label(self) -> None:
        box = {"title": "Box", "form": "panelboard", "rows": 2, "modules": 6}
        for text, numbers in (("all", set(range(1, 13))), ("none", set()), ("2-4, 9", {2, 3, 4, 9}), ("7", {7})):
            self.assertEqual(Enclosure.model_validate({**box, "tandem_spaces": text}).tandem_space_numbers, numbers)
        for bad in ("some", "1-", "a-b", "1;2"):
            with self.assertRaises(ValueError):
                Enclosure.model_validate({**box, "tandem_spaces": bad})


class FullPanel(unittest.TestCase):
    def test_two_breakers_become_a_tandem_where_the_label_permits_it(self) -> None:
        lines = [
            f"lights {room} 15A 30ft" for room in ("hall", "attic", "porch", "stairs", "cellar", "closet", "pantry")
        ]
        lines.append("water heater 4.5kW 240V 30ft")
        for spaces, usable in (("all", True), ("none", False), (None, False)):
            of = panel(*lines, spaces=spaces, modules=6)
            plain = tuple(
                each.model_copy(update={"device": device(of, number).model_copy(update={"arc_fault": False})})
                for number, each in enumerate(of.circuits)
            )
            of = of.model_copy(update={"circuits": plain})
            added = plain[0].model_copy(update={"id": "new", "name": "New"})
            options = {each.id: each for each in add_circuit_options(of, "main", added)}
            self.assertEqual(options["tandem"].job is not None, usable, str(options["tandem"]))

    def test_a_pair_is_one_piece_of_material(self) -> None:
        of = panel(*HALVES)
        circuits = tuple(each.model_copy(update={"lines": ("L1",)}) for each in of.circuits)
        of = of.model_copy(update={"circuits": circuits})
        lines = material(Installation.of(of, rule_set("na"))).items
        (double,) = [line for line in lines if "Tandem" in str(line.what)]
        self.assertEqual(double.quantity, 1.0)
        self.assertEqual([line for line in lines if line.group == "device"], [double])


class TwoPoles(unittest.TestCase):
    def test_a_two_pole_breaker_takes_two_modules_and_the_neutral_through_it(self) -> None:
        for made, wide, poles in (
            (mcb(16.0), 1.0, ("L1",)),
            (mcb(16.0, switches_neutral=True), 2.0, ("L1", "N")),
            (mcb(16.0, switches_neutral=True, modules=1.0), 1.0, ("L1", "N")),
        ):
            unit = models(job(circuit(device=made)))["main"].units.by_id["way:c1"]
            self.assertEqual((unit.wide, unit.poles, unit.switched), (wide, poles, poles))

    def test_the_verdicts_of_its_circuit_are_those_of_one_pole(self) -> None:
        one, two = (job(circuit(device=mcb(16.0, switches_neutral=both))) for both in (None, True))
        for check in ("overload", "disconnection", "capacity"):
            self.assertEqual(finding(one, check).verdict, finding(two, check).verdict)


if __name__ == "__main__":
    unittest.main()
