"""What pages show before anyone asks: a layout and an enclosure, and surge protection with its leads as laid out.

Minimum discharge currents, and where type 1 or 1+2 is required: each standard's own rule on surge protection, from memory. Sizes of
panels and enclosures: common practice, no source.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.move_device import model_of
from vivid_lattice.core.actions.new_job import begin, typical_home
from vivid_lattice.core.actions.propose_layout import propose_layout
from vivid_lattice.core.actions.propose_surge import propose_surge
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.board_view import view_of
from vivid_lattice.core.document.job import Job, Way
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.demo import demo_job


def home(standard: str, name: str = "three-bed") -> Job:
    found = next(each for each in customary(standard).homes if each.id == name)
    return typical_home(found, rule_set(standard), "Home")


def without_surge(job: Job) -> Job:
    return job.model_copy(update={"boards": tuple(board.model_copy(update={"spds": ()}) for board in job.boards)})


class Layouts(unittest.TestCase):
    def test_every_typical_home_is_laid_out_with_everything_in_place(self) -> None:
        # A board on a rail, one of three phases with shared RCDs, and a panel, the largest of each: a search takes a second.
        for standard in ("uk", "iec-de", "na"):
            for each in (home for home in customary(standard).homes if home.id == "four-bed"):
                with self.subTest(standard, home=each.id):
                    proposal = propose_layout(typical_home(each, rule_set(standard), "Home"), "main")
                    job = proposal.document
                    view = view_of(Installation.of(job, rule_set(standard)).boards, "main", ())
                    self.assertEqual((view.not_placed, view.not_chosen), ((), ()))
                    self.assertGreaterEqual(proposal.free_modules, 0)

    def of_modules(self, count: int) -> Job:
        """A board of so many equal breakers of one module."""
        job = enter_and_design(begin("Many", rule_set("uk"), "TN-S"), "heater 2kW B16 10m", "main").job
        first, board = job.circuits[0], job.boards[0]
        circuits = tuple(first.model_copy(update={"id": f"h{number}"}) for number in range(count))
        ways = tuple(Way(number=number + 1, circuit=circuit.id) for number, circuit in enumerate(circuits))
        board = board.model_copy(update={"ways": ways, "way_count": count, "spds": ()})
        return checked(job.model_copy(update={"circuits": circuits, "boards": (board,), "assumptions": ()}))

    def test_a_board_for_which_none_leaves_spare_space_has_the_largest_enclosure(self) -> None:
        proposal = propose_layout(self.of_modules(115), "main")
        self.assertEqual((proposal.enclosure, proposal.free_modules), ("Granite, 5 rows of 24", 3.0))

    def test_a_board_larger_than_any_says_how_many_modules_it_needs(self) -> None:
        with self.assertRaisesRegex(BadDocument, "No enclosure in the list has space for 132 modules"):
            propose_layout(self.of_modules(130), "main")

    def test_a_circuit_without_a_device_is_named_in_the_words_of_the_standard(self) -> None:
        for standard in standard_ids():
            job = home(standard)
            first = job.circuits[0].model_copy(update={"device": "auto"})
            with self.subTest(standard), self.assertRaisesRegex(BadDocument, "not chosen yet"):
                propose_layout(job.model_copy(update={"circuits": (first, *job.circuits[1:])}), "main")


class Surge(unittest.TestCase):
    def test_it_passes_what_it_is_proposed_for_in_every_standard(self) -> None:
        for standard in standard_ids():
            with self.subTest(standard):
                proposal = propose_surge(without_surge(home(standard, "outbuilding")))
                self.assertIn(proposal.finding.verdict, ("pass", "tight", "advice"), str(proposal.finding.sentence))
                self.assertTrue(any(board.spds for board in proposal.document.boards))
                surge = next(each for each in assess(proposal.document).findings if each.check == "surge")
                self.assertNotIn(surge.verdict, ("fail",), str(surge.sentence))

    def test_its_leads_are_those_of_the_layout(self) -> None:
        proposal = propose_surge(demo_job("lamp-cottage"))
        model = model_of(proposal.document, proposal.document.boards[0].id)
        self.assertEqual(proposal.leads_m, model.surge_leads_m(proposal.device.id))
        self.assertEqual(proposal.board, "Cottage board")
        self.assertNotEqual(str(proposal.beside), "")

    def test_an_overhead_line_or_a_lightning_rod_takes_type_1_and_2(self) -> None:
        job = without_surge(home("uk"))
        for part, type_ in (({"overhead_line": True}, "1+2"), ({"lightning_protection": True}, "1+2"), ({}, "2")):
            with self.subTest(part):
                risk = job.surge.model_copy(update=part)
                self.assertEqual(propose_surge(job.model_copy(update={"surge": risk})).device.type, type_)

    def test_none_is_proposed_beside_one_or_for_an_empty_board(self) -> None:
        for job, why in ((home("uk"), "fitted already"), (begin("Empty", rule_set("uk"), "TN-S"), "no circuits yet")):
            with self.subTest(why), self.assertRaisesRegex(BadDocument, why):
                propose_surge(job)


if __name__ == "__main__":
    unittest.main()
