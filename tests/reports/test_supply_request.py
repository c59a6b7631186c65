"""A larger supply that is requested: what stands before it, in each standard, and the sheet for the distributor."""

from __future__ import annotations

import unittest

from tests.builders import circuit, job, supply
from tests.reports.reading import plain, report_data, whole
from vivid_lattice.core.design.larger_supply import Prerequisite, larger_supply
from vivid_lattice.core.document.energy_source import EnergySource
from vivid_lattice.core.document.job import Job, Load
from vivid_lattice.core.document.supply import PrerequisiteStatus, SupplyRequest
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.reports.catalogue import export


def requested(rating_a: float = 100.0, phases: int | None = None, **changed: object) -> Job:
    """A 60 A supply with 16 mm² tails, that is to be larger."""
    request = SupplyRequest(rating_a=rating_a, phases=phases, wanted_by="2027-03-01", note="for a kiln")  # type: ignore[arg-type]
    parts = {"cutout": {"kind": "fuse-bs88-3", "rating_a": 60.0}, "tails": {"area_mm2": 16.0, "length_m": 2.0}, "request": request}  # fmt: skip
    kiln = circuit(loads=(Load(name="Kiln", kind="kiln", power_w=9000.0),))
    return job(kiln, supply=supply(**(parts | changed)))


def steps(of: Job) -> dict[str, Prerequisite]:
    found = larger_supply(of)
    assert found is not None
    return {step.id: step for step in found.prerequisites}


class Plan(unittest.TestCase):
    """60 to 80 to 100 A, a looped service, three phases."""

    def test_tails_go_with_the_rating(self) -> None:
        # 16 mm² carries 87 A clipped, 25 mm² 114 A (BS 7671, Table 4D1A, method C).
        self.assertTrue(steps(requested(80.0))["tails"].met)
        self.assertFalse(steps(requested(100.0))["tails"].met)
        self.assertTrue(steps(requested(100.0, tails={"area_mm2": 25.0, "length_m": 2.0}))["tails"].met)

    def test_a_looped_service_comes_first_and_not_looked_at_is_not_done(self) -> None:
        for looped, met in ((None, False), (True, False), (False, True)):
            self.assertEqual(steps(requested(looped=looped))["loop"].met, met)
        looked = {rules: rule_set(rules).looped_services for rules in standard_ids()}
        self.assertEqual([rules for rules, asked in looked.items() if asked], ["uk"])

    def test_the_meter_and_other_phases(self) -> None:
        self.assertFalse(steps(requested())["meter"].met)
        self.assertFalse(steps(requested(meter_a=80.0))["meter"].met)
        self.assertTrue(steps(requested(meter_a=100.0))["meter"].met)
        three = requested(phases=3, meter_a=100.0)
        self.assertIn("phases", steps(three))
        self.assertFalse(steps(three)["meter"].met)
        self.assertNotIn("phases", steps(requested()))

    def test_without_a_request_a_supply_that_is_enough_needs_nothing(self) -> None:
        self.assertIsNone(larger_supply(job()))


class Sheet(unittest.TestCase):
    """What the distributor reads."""

    def read(self, of: Job) -> str:
        return whole(export(report_data(of), "request").content)

    def test_it_holds_what_is_there_what_is_wanted_and_the_dates(self) -> None:
        status = (PrerequisiteStatus(id="visit", due_on="2027-02-11"), PrerequisiteStatus(id="isolator", done=True))
        made = requested(looped=True, prerequisites=status)
        pv = circuit(id="pv", name="Solar roof", loads=(), source=EnergySource(kind="solar", rated_a=16.0))
        with_source = job(*made.circuits, pv, supply=made.supply)
        text = self.read(with_source)
        for part in ("100 A", "60 A", "16 mm", "2027-03-01", "2027-02-11", "for a kiln", "Kiln", "9 kW", "Solar roof", "yes"):  # fmt: skip
            self.assertIn(plain(part), text)

    def test_with_nothing_requested_it_is_filled_in_by_hand(self) -> None:
        text = self.read(job())
        self.assertIn(plain("Rating of the service not stated yet"), text)
        self.assertNotIn(plain("Before the service is changed"), text)


if __name__ == "__main__":
    unittest.main()
