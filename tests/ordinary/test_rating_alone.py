"""Circuits typed by what they feed and the rating alone, as most people say them: cooker 32A, range 40A, Herd B16.

The current is what the device carries, assumed and to confirm; the device has the RCD that the circuit must have; the cable follows.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.assumptions import open_assumptions
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job
from vivid_lattice.core.rules import rule_set

#: Standard, earthing system, line, kind of device, current taken [A], smallest cross-section [mm²].
LINES = (
    ("uk", "TN-C-S", "cooker 32A 12m", "rcbo", 32.0, 4.0),
    ("uk", "TN-C-S", "shower 40A 12m", "rcbo", 40.0, 6.0),
    ("uk", "TN-C-S", "immersion B16 9m", "rcbo", 16.0, 1.5),
    # NEC 210.20(A): a charging point is a continuous load, 80 % of its breaker; 210.8(D): a GFCI for the outlet of a range or dryer.
    ("na", "TN-C-S", "ev charger 40A 50ft", "breaker", 32.0, 8.3),
    ("na", "TN-C-S", "dryer 30A 25ft", "gfci-breaker", 30.0, 5.2),
    ("na", "TN-C-S", "water heater 30A 25ft", "breaker", None, 5.2),
    # AS/NZS 3000, 2.6.3.2.3: every final subcircuit of a dwelling has an RCD.
    ("anz", "MEN", "oven 32A 12m", "rcbo", 32.0, 4.0),
    ("anz", "MEN", "shower 32A 9m", "rcbo", 32.0, 4.0),
    ("za", "TN-S", "stove 40A 9m", "mcb", 40.0, 6.0),
    ("iec-de", "TN-C-S", "Herd B16 8m", "rcbo", 16.0, 1.5),
)  # fmt: skip


def typed(rules: str, system: str, line: str) -> tuple[Job, Circuit]:
    entered = enter_and_design(begin("Sluice house", rule_set(rules), system), line, "main")  # type: ignore[arg-type]
    return entered.job, entered.job.circuits[0]


class RatingAlone(unittest.TestCase):
    def test_device_cable_and_current(self) -> None:
        for rules, system, line, kind, amps, least_mm2 in LINES:
            with self.subTest(rules, line=line):
                job, circuit = typed(rules, system, line)
                assert isinstance(circuit.device, Device) and isinstance(circuit.cable, Cable)
                self.assertEqual(circuit.device.kind, kind)
                self.assertGreaterEqual(circuit.cable.area_mm2, least_mm2)
                if amps is not None:
                    self.assertEqual(circuit.design_current_a, amps)
                    self.assertIn(
                        f"circuits.{circuit.id}.design_current_a", [each.field for each in open_assumptions(job)]
                    )
                failing = [
                    each.check
                    for each in assess(job).findings
                    if each.subject.id == circuit.id and each.verdict in ("fail", "missing")
                ]
                self.assertEqual([check for check in failing if check != "rcd-type"], [])

    def test_a_power_that_is_typed_is_not_replaced(self) -> None:
        _, circuit = typed("uk", "TN-C-S", "cooker 7.2kW 32A 12m")
        self.assertEqual((circuit.design_current_a, circuit.loads[0].power_w), (None, 7200.0))

    def test_a_kind_that_is_typed_stays(self) -> None:
        for line, kind in (("cooker mcb 32A 12m", "mcb"), ("cooker rcbo 32A 12m", "rcbo")):
            self.assertEqual(typed("uk", "TN-C-S", line)[1].device.kind, kind, line)  # type: ignore[union-attr]


class ThreePhases(unittest.TestCase):
    """In a house with three phases a large load is on all of them."""

    def test_chargers_and_german_loads(self) -> None:
        for rules, line, phases in (
            ("iec-de", "Wallbox 11kW 14m", 3),  # VDE-AR-N 4100: no more than 4.6 kVA of unbalance
            ("iec-de", "Wärmepumpe 6kW 15m", 3),
            ("iec-de", "Waschmaschine 2kW 12m", 1),
            ("iec-de", "Wallbox 4.6kW L1 14m", 1),
            ("uk", "ev charger 22kW 20m", 3),  # IEC 61851-1: one phase ends at 32 A
            ("uk", "ev charger 7.4kW 20m", 1),
        ):
            job = begin("Sluice house", rule_set(rules), "TN-C-S", 3)
            circuit = enter_and_design(job, line, "main").job.circuits[0]
            self.assertEqual(max(1, len(circuit.lines)), phases, line)


class Names(unittest.TestCase):
    """What is a name stays a name; a building with a length is a feeder."""

    def test_names_and_buildings(self) -> None:
        for rules, line, name, kind in (
            ("uk", "ground floor lights 28m", "Ground floor lights", "lighting"),
            ("na", "ground floor lights 40ft", "Ground floor lights", "lighting"),
            ("uk", "loft sockets 20m", "Loft sockets", "radial"),
            ("uk", "sockets 20m loft", "Sockets", "radial"),
            ("uk", "ev charger 7kW 15m", "EV charger", "fixed"),
            ("uk", "workshop 30m swa exported earth", "Workshop", "distribution"),
            ("uk", "workshop sockets 12m", "Workshop sockets", "radial"),
            ("uk", "summer house 20m swa own rod", "Summer house", "distribution"),
            ("iec-de", "Gartenhaus 25m Erder", "Gartenhaus", "distribution"),
            ("iec-de", "Steckdosen 14m, Wohnzimmer", "Steckdosen, Wohnzimmer", "radial"),
        ):
            _, circuit = typed(rules, "TN-C-S", line)
            self.assertEqual((circuit.name, circuit.kind), (name, kind), line)


if __name__ == "__main__":
    unittest.main()
