"""Breakers that run too warm in their board: the next rating, with the cable that it needs.

Loss of rating by 0.7 % a kelvin above 30 °C: practice, as the check has it. Ratings in steps of 32, 40 A: IEC 60898-1, from memory.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.new_job import typical_home
from vivid_lattice.core.actions.propose_layout import propose_layout
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks.thermal import too_warm
from vivid_lattice.core.design.remedies import find, remedies
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit, Job, with_parts
from vivid_lattice.core.findings.finding import Remedy, Subject
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.demo import demo_job


def warm(job: Job, board: str) -> list[str]:
    network = Installation.of(job, rule_set(job.job.rules))
    return [circuit.name for circuit in too_warm(BoardContext(network, job.board(board), explain=False))]


def fix(job: Job, board: str) -> Remedy:
    (remedy,) = remedies(job, "thermal", Subject("board", board))
    return remedy


def sizes(circuit: Circuit) -> tuple[float, float]:
    assert not is_auto(circuit.device) and not is_auto(circuit.cable)
    return circuit.device.rating_a, circuit.cable.area_mm2


class Cooler(unittest.TestCase):
    def test_the_kiln_gets_the_next_rating_and_the_cable_for_it(self) -> None:
        job = demo_job("millrace")
        self.assertEqual(warm(job, "studio"), ["Kiln"])
        remedy = fix(job, "studio")
        self.assertEqual(str(remedy.label), "Use the next rating: B40 instead of B32, with 10 mm² (Kiln)")
        (kiln,) = remedy.circuits
        self.assertEqual((sizes(job.circuit("c13")), sizes(kiln)), ((32.0, 4.0), (40.0, 10.0)))
        after = with_parts(job, remedy.circuits, remedy.boards)
        self.assertEqual(warm(after, "studio"), [])
        for check, subject in (("thermal", Subject("board", "studio")), ("capacity", Subject("circuit", "c13"))):
            finding = find(assess(after), check, subject)
            self.assertIn(finding and finding.verdict, ("pass", "tight"), check)

    def test_a_cable_that_carries_the_next_rating_stays(self) -> None:
        home = next(home for home in customary("uk").homes if home.id == "flat")
        job = propose_layout(typical_home(home, rule_set("uk"), "Flat"), "main").document
        (name,) = warm(job, "main")
        (changed,) = fix(job, "main").circuits
        before = job.circuit(changed.id)
        self.assertEqual(before.name, name)
        self.assertEqual(sizes(changed), (25.0, sizes(before)[1]))

    def test_a_cool_board_has_none(self) -> None:
        job = demo_job("millrace")
        self.assertEqual(warm(job, "mill"), [])
        self.assertEqual(remedies(job, "thermal", Subject("board", "mill")), ())


if __name__ == "__main__":
    unittest.main()
