"""Typical homes, designed, against what a good electrician fits and expects to be told.

Source: common practice, no source; the expectations were written before the engine was changed to meet them.
"""

from __future__ import annotations

import unittest

from tests.ordinary.homes import Expectation, Fitted, expected, known_home
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.causes import cause_of
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Design
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.findings.assessment import Assessment
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set

#: Lines that get more than is usual, or another form, each with the reason.
OTHERWISE: dict[tuple[str, str, str], str] = {
    # NEC 440.4, 424.3: breaker and wire go by the label's least ampacity and largest breaker, which the line does not state.
    ("na", "two-bed", "air conditioner 18A 40ft, outside"): "by the label",
    ("na", "four-bed", "heat pump 28A 40ft, outside"): "by the label",
    ("na", "four-bed", "electric furnace 9.6kW 35ft, basement"): "by the label",
}


class Choices(unittest.TestCase):
    """Circuit by circuit: device, size, residual-current protection. And the home as a whole: what has to be said, and how much."""

    made: list[tuple[Expectation, Design, Assessment]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.made = []
        for one in expected():
            designed = design(known_home(one))
            cls.made.append((one, designed, assess(designed.job, explain=False)))

    def _circuits(self) -> list[tuple[Expectation, Job, Fitted, Circuit]]:
        return [
            (one, made.job, fitted, circuit)
            for one, made, _ in self.made
            for fitted, circuit in zip(one.circuits, made.job.circuits, strict=True)
            if (one.home.standard, one.home.name, fitted.text) not in OTHERWISE
        ]

    def test_the_device_is_the_usual_one(self) -> None:
        for one, _, fitted, circuit in self._circuits():
            with self.subTest(one.home.standard, home=one.home.name, line=fitted.text):
                device = circuit.device
                assert not isinstance(device, str), "left open"
                self.assertIn(device.rating_a, fitted.ratings_a)
                if fitted.curve and device.curve:
                    self.assertEqual(device.curve, fitted.curve)

    def test_the_cable_is_the_usual_one_or_a_size_larger(self) -> None:
        for one, _, fitted, circuit in self._circuits():
            with self.subTest(one.home.standard, home=one.home.name, line=fitted.text):
                cable = circuit.cable
                assert not isinstance(cable, str), "left open"
                cables = rule_set(one.home.standard).cables
                labels = [size.label.split()[0] for size in cables.kind(cable.type).sizes]
                chosen = cables.size_label(cable.area_mm2).split()[0]
                usual = labels.index(fitted.sizes[0])
                most = max(labels.index(size) for size in fitted.sizes if size in labels) + 1
                self.assertTrue(usual <= labels.index(chosen) <= most, f"{chosen}, usual {fitted.sizes}")

    def test_what_is_usually_behind_an_rcd_is(self) -> None:
        for one, job, fitted, circuit in self._circuits():
            if not fitted.by_rcd or isinstance(circuit.device, str):
                continue
            with self.subTest(one.home.standard, home=one.home.name, line=fitted.text):
                upstream = Installation.of(job, rule_set(one.home.standard)).tree.rcds_ahead(circuit)
                self.assertTrue(any(place.rcd.idn_ma <= 30 for place in upstream))

    def test_nothing_fails_and_nothing_is_missing(self) -> None:
        for one, _, found in self.made:
            for finding in found.findings:
                if finding.verdict == "fail" or (finding.verdict == "missing" and finding.check not in one.may_miss):
                    with self.subTest(
                        one.home.standard, home=one.home.name, check=finding.check, subject=finding.subject.id
                    ):
                        self.fail(f"{finding.verdict}: {(finding.sentence)!s}")

    def test_what_has_to_be_said_is_said_and_not_much_more(self) -> None:
        for one, _, found in self.made:
            with self.subTest(one.home.standard, home=one.home.name):
                advice = [finding for finding in found.findings if finding.verdict == "advice"]
                for check in one.must_advise:
                    self.assertIn(check, {finding.check for finding in advice})
                causes = {cause_of(finding) for finding in advice}
                self.assertLessEqual(len(causes), one.causes, causes)


if __name__ == "__main__":
    unittest.main()
