"""Material counted from a plan: cables by section, boxes, connectors, clips, sleeves, conduit; each by room."""

from __future__ import annotations

import random
import unittest
from collections import Counter
from math import ceil

from tests.core.plan.test_fixing import typed
from tests.core.plan.test_generated_houses import house as generated
from vivid_lattice.core.document.job import Cable, Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.buying import millimetres
from vivid_lattice.core.material.fixings import split_rigid
from vivid_lattice.core.material.line import Material
from vivid_lattice.core.material.material import material
from vivid_lattice.core.plan.fixing.fixing_plan import fixing_plan
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set


def held(job: Job) -> Material:
    return material(Installation.of(job, rule_set(job.job.rules)))


def quantity(of: Material, article: str) -> float:
    return sum(line.quantity or 0.0 for line in of.items if line.article == article)


class Kitchen(unittest.TestCase):
    """The typed British kitchen, counted by hand."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.job = typed(
            "ground floor joists across depth 225 centres 400 span 4.2", "first floor joists none", "walls masonry 100"
        )
        cls.held = held(cls.job)

    def test_every_section_is_one_piece_of_the_cable_that_it_needs(self) -> None:
        plan = house_plan(self.job, rule_set("uk"))
        wanted: Counter[tuple[str, int]] = Counter()
        for circuit in plan.circuits:
            assert isinstance(circuit.circuit.cable, Cable)
            for section in circuit.sections:
                assert section.cable is not None
                article = f"cable:{circuit.circuit.cable.type}:{section.cable.cores}x{circuit.circuit.cable.area_mm2:g}"
                wanted[article, millimetres(section.piece_m)] += 1
        bought = Counter(
            (cut.article, millimetres(piece.length_m)) for cut in self.held.cuts for piece in cut.pieces if cut.article.startswith("cable:")
        )  # fmt: skip
        self.assertEqual(bought, wanted)
        self.assertIn("cable:flat-twin-pvc:3x1", {article for article, _ in wanted}, "strappers need three cores")

    def test_accessories_are_those_of_the_points(self) -> None:
        self.assertEqual(quantity(self.held, "accessory:socket-outlet-2-gangs"), 6)
        self.assertEqual(quantity(self.held, "accessory:switch-plate-1-gang-two-way"), 2)
        self.assertEqual(quantity(self.held, "accessory:cooker-outlet-with-switch"), 1)
        self.assertEqual(quantity(self.held, "accessory:ceiling-rose"), 1)

    def test_clips_have_five_percent_more_and_come_in_tens(self) -> None:
        rules = rule_set("uk")
        plan = fixing_plan(self.job, rules, house_plan(self.job, rules))
        counted: Counter[str] = Counter()
        for section in plan.sections:
            counted[str(section.what)] += section.count
        for line in self.held.items:
            if line.article.startswith("fixing:clip"):
                count = counted[str(line.what).removeprefix("Clip for ")]
                self.assertEqual(line.quantity, 10 * ceil(ceil(round(count * 1.05, 9)) / 10))
                self.assertEqual(sum(line.rooms.values()), count)

    def test_what_is_for_rooms_adds_up(self) -> None:
        for line in self.held.items:
            if line.group in ("box", "accessory") and line.rooms and "connector" not in line.article:
                self.assertEqual(sum(line.rooms.values()), line.quantity, line.article)

    def test_two_way_switching_has_its_sleeves(self) -> None:
        """uk.runs.ex.two-way-sleeves: brown on the drop and on the link, green-and-yellow on each section."""
        plan = house_plan(self.job, rule_set("uk"))
        lights = next(each for each in plan.circuits if each.circuit.id == "c2")
        brown = sum((section.cores.sleeves if section.cores else {}).get("brown", 0) for section in lights.sections)
        self.assertEqual(quantity(self.held, "accessory:sleeve-brown-short"), brown)
        sections = sum(len(each.sections) for each in plan.circuits)
        self.assertEqual(quantity(self.held, "accessory:sleeve-green-and-yellow-short"), 2 * sections)

    def test_nothing_is_missing_and_what_is_not_on_the_plan_is_told(self) -> None:
        self.assertFalse(
            [each for each in self.held.missing if "not on the plan" in str(each) or "fixings of" in str(each)]
        )
        bare = held(typed())
        self.assertTrue(any("the plan does not say what it is fixed to" in str(each) for each in bare.missing))

    def test_spares_are_as_the_job_states_them(self) -> None:
        purchase = self.job.purchase.model_copy(update={"accessories_pct": 50.0, "cable_pct": 10.0})
        more = held(self.job.model_copy(update={"purchase": purchase}))
        self.assertEqual(quantity(more, "accessory:socket-outlet-2-gangs"), 9)
        lengths = [sum(piece.length_m for cut in each.cuts for piece in cut.pieces) for each in (self.held, more)]
        self.assertGreater(lengths[1], lengths[0] * 1.08)


class Connectors(unittest.TestCase):
    """runs.ex.connector-list: ten boxes with joints of 3, 3, 2 and 4 ends, a tenth more."""

    def test_the_order_for_ten_boxes(self) -> None:
        rules = rule_set("uk")
        share = rules.fixing.waste("connectors")[0]
        ports = [each.ports for each in rules.plan.connectors]
        one_box = Counter(min(port for port in ports if port >= ends) for ends in (3, 3, 2, 4))
        self.assertEqual(one_box, Counter({2: 1, 3: 2, 5: 1}))
        order = {port: ceil(round(10 * count * (1 + share), 9)) for port, count in one_box.items()}
        self.assertEqual(order, {2: 11, 3: 22, 5: 11})


class Rigid(unittest.TestCase):
    """runs.ex.cut.rigid, uk.runs.ex.conduit-run, za.runs.ex.wire."""

    def test_a_long_part_is_whole_lengths_and_one_cut_piece(self) -> None:
        self.assertEqual(split_rigid(4.3, 3.0), [3.0, 1.3])
        self.assertEqual(split_rigid(4.55, 3.0), [3.0, 1.55])
        self.assertEqual([len(split_rigid(each, 4.0)) for each in (7.0, 2.2, 4.0, 8.0, 8.001)], [2, 1, 1, 2, 3])


class AnyHouse(unittest.TestCase):
    """Generated houses of every standard."""

    def test_every_piece_is_cut_once_and_single_wires_are_as_many_as_conductors(self) -> None:
        for standard in ("uk", "iec", "anz", "za", "na"):
            with self.subTest(standard=standard):
                job = generated(standard, random.Random(f"material {standard}"))
                of = held(job)
                plan = house_plan(job, rule_set(standard))
                pieces = sum(len(cut.pieces) for cut in of.cuts if cut.article.startswith(("cable:", "wire:")))
                wires = rule_set(standard).plan.wire_kinds
                sections = sum(
                    len(section.carries) if isinstance(each.circuit.cable, Cable) and each.circuit.cable.type in wires else 1
                    for each in plan.circuits
                    for section in each.sections
                    if section.cable is not None
                )  # fmt: skip
                stated = sum(circuit.id not in {each.circuit.id for each in plan.circuits} for circuit in job.circuits)
                self.assertGreaterEqual(pieces, sections)
                self.assertLessEqual(pieces, sections + 5 * stated)
                for cut in of.cuts:
                    if cut.plan is not None:
                        wanted = Counter(millimetres(piece.length_m) for piece in cut.pieces)
                        self.assertEqual(Counter(mm for each in cut.plan.cuts for mm in each.pieces_mm), wanted)
                if standard == "za":
                    conduit = [cut for cut in of.cuts if cut.article.startswith("conduit:")]
                    self.assertEqual([cut.article for cut in conduit if cut.plan is not None], ["conduit:20-mm"])
                    self.assertGreater(quantity(of, "conduit:bend-20-mm"), 0)
