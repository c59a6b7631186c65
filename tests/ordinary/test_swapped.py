"""Old boards, typed way by way and swapped, against what a good electrician fits on the cables that are there.

Source: common practice, no source. The cable is the limit; a rating is never raised because the old fuse was odd.
"""

from __future__ import annotations

import unittest

from tests.ordinary.homes import Fitted, Swap, swapped, swaps
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set


class Swapped(unittest.TestCase):
    """A board of each standard."""

    made: list[tuple[Swap, Job]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.made = [(one, swapped(one)) for one in swaps()]

    def _ways(self) -> list[tuple[Swap, Job, Fitted, Circuit]]:
        return [
            (one, job, fitted, circuit)
            for one, job in self.made
            for fitted, circuit in zip(one.fitted, job.circuits, strict=True)
        ]

    def test_every_standard_has_a_board(self) -> None:
        self.assertEqual(len({one.home.standard for one, _ in self.made}), 6)

    def test_each_way_gets_the_usual_device_on_the_cable_that_is_there(self) -> None:
        for one, _, fitted, circuit in self._ways():
            with self.subTest(one.home.standard, way=fitted.text):
                device, cable = circuit.device, circuit.cable
                assert not isinstance(device, str) and not isinstance(cable, str), "left open"
                self.assertEqual((device.kind, device.curve or ""), (fitted.kind, fitted.curve))
                self.assertIn(device.rating_a, fitted.ratings_a)
                label = rule_set(one.home.standard).cables.size_label(cable.area_mm2).split()[0]
                self.assertEqual(label, fitted.sizes[0])

    def test_what_is_usually_behind_an_rcd_is(self) -> None:
        for one, job, fitted, circuit in self._ways():
            if fitted.by_rcd:
                with self.subTest(one.home.standard, way=fitted.text):
                    upstream = Installation.of(job, rule_set(one.home.standard)).tree.rcds_ahead(circuit)
                    self.assertTrue(any(place.rcd.idn_ma <= 30 for place in upstream))

    def test_the_lines_of_one_load_stay_behind_one_rcd(self) -> None:
        [german] = [job for one, job in self.made if one.home.standard == "iec-de"]
        hob = {circuit.id for circuit in german.circuits if circuit.name.casefold() == "hob"}
        behind = {way.rcd for board in german.boards for way in board.ways if way.circuit in hob}
        self.assertEqual((len(hob), len(behind)), (3, 1))
        self.assertNotIn(None, {way.rcd for board in german.boards for way in board.ways})

    def test_the_empty_board_of_a_new_job_is_the_one_that_replaces_it(self) -> None:
        for one, job in self.made:
            self.assertEqual(len(job.boards), 1, one.home.standard)
            self.assertEqual(job.survey.boards[0].replaced_by, job.boards[0].id)

    def test_nothing_fails_but_what_is_there_and_no_run_is_taken_as_short_enough(self) -> None:
        for one, job in self.made:
            found = assess(job, explain=False).findings
            with self.subTest(one.home.standard):
                failing = {finding.check: str(finding.sentence) for finding in found if finding.verdict == "fail"}
                self.assertEqual(set(failing), set(one.may_fail), failing)
                # No run is known: no cable is said to be short enough.
                drops = [finding for finding in found if finding.check == "voltage-drop"]
                self.assertEqual({finding.verdict for finding in drops}, {"missing"})
                self.assertEqual(len(drops), len(job.circuits))


if __name__ == "__main__":
    unittest.main()
