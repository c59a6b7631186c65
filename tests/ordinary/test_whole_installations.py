"""Ordinary jobs with solar panels, a battery, a charging point, a barn, a caravan outlet, typed as people type them.

What is expected is reasoned from the standard named with it; nothing fails silently: each question that is left is one that only the site answers.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Device, Job
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.rules import rule_set

#: Standard, earthing system, and lines; ``board|line`` for a board that an earlier line made.
JOBS: dict[str, tuple[str, str, tuple[str, ...]]] = {
    "uk farm cottage": ("uk", "TN-C-S", (
        "kitchen ring 40m", "solar PV 3.68kW 14m", "battery 5kW 6m", "ev charger 7.4kW 16m swa own rod 62 ohm", "barn 40m swa buried exported earth",
        "caravan hook-up 22m swa", "shed 28m swa own rod 38 ohm", "sub-2|sockets 8m", "rcd sockets 12m, garage", "boiler 200W 9m fcu 3A",
    )),
    "uk overhead line": ("uk", "TT", ("sockets ring 44m", "solar PV 3.68kW 14m", "barn 40m swa exported earth", "sub|sockets 9m", "caravan hook-up 20m swa")),
    "sleepout": ("anz", "MEN", ("power points 22m, living", "solar 5kW 12m", "sleepout 25m 16mm2 MEN", "sub|power points 9m", "shed 30m exported earth")),
    "house with panels": ("iec-de", "TN-C-S", ("Steckdosen 14m, Wohnzimmer", "Photovoltaik 9.8kW 15m", "Speicher PV 2kW 8m", "Unterverteilung 10A 24m TT")),
    "continental house": ("iec", "TN-S", ("sockets 15m, living room", "solar 4kW 12m", "feeder 30m own electrode 20 ohm", "sub|sockets 8m")),
    "detached garage": ("na", "TN-C-S", ("kitchen receptacles 35ft, kitchen", "solar 7.6kW 40ft", "detached garage 60ft own ground rod", "sub|receptacles 20ft, garage", "bathroom gfci receptacles 30ft")),
    "inverter house": ("za", "TN-S", ("plugs 14m, lounge", "inverter 5kW 6m", "cottage supply 30m exported earth", "sub|plugs 9m, bedroom")),
}  # fmt: skip


def typed(name: str) -> Job:
    rules, system, lines = JOBS[name]
    job = begin(name, rule_set(rules), system)  # type: ignore[arg-type]
    for line in lines:
        board, _, text = line.rpartition("|")
        job = enter_and_design(job, text, board or "main").job
    return job


def of(job: Job, subject: str, check: str) -> Finding:
    return next(each for each in assess(job).findings if each.subject.id == subject and each.check == check)


def named(job: Job, word: str) -> str:
    """The id of the circuit whose name has a word."""
    return next(circuit.id for circuit in job.circuits if word.casefold() in circuit.name.casefold())


class Typed(unittest.TestCase):
    """Every line is understood, and what it says is not lost."""

    def test_every_circuit_has_a_device_and_a_cable_and_nothing_but_a_caravan_fails(self) -> None:
        for name in JOBS:
            job = typed(name)
            for circuit in job.circuits:
                with self.subTest(name, circuit=circuit.name):
                    self.assertIsInstance(circuit.device, Device)
                    self.assertNotEqual(circuit.cable, "auto")
            failing = {(each.check, each.subject.id) for each in assess(job).findings if each.verdict == "fail"}
            # A PME earth may not go to a caravan (ESQCR 9(4)); on an electrode of the house it may.
            wanted = {("special-location", named(job, "caravan"))} if name == "uk farm cottage" else set()
            self.assertEqual(failing, wanted, name)

    def test_what_is_left_is_asked_of_the_site(self) -> None:
        asked = {
            "uk farm cottage": {"boards.busbar_a", "source.isolator", "boards.earthing.has_metalwork", "boards.earthing.separation_m", "earthing.separation_m"},
            "detached garage": {"boards.busbar_a", "source.isolator", "source.opposite_main", "boards.earthing.conductor_mm2"},
            "sleepout": {"boards.earthing.link_mm2", "boards.earthing.conductor_mm2", "boards.busbar_a"},
        }  # fmt: skip
        for name, wanted in asked.items():
            paths = {need.path for each in assess(typed(name)).findings for need in each.needs}
            self.assertTrue(wanted - {"source.opposite_main"} <= paths, (name, wanted - paths))

    def test_each_earth_is_what_its_line_says(self) -> None:
        for name, board, kind in (
            ("uk farm cottage", "sub", "exported"),
            ("uk farm cottage", "sub-2", "electrode"),
            ("sleepout", "sub", "neutral-link"),
            ("house with panels", "sub", "electrode"),
            ("detached garage", "sub", "exported-and-electrode"),
        ):
            earthing = typed(name).board(board).earthing
            assert earthing is not None
            self.assertEqual(earthing.kind, kind, (name, board))

    def test_the_shed_is_tt_and_the_barn_is_not(self) -> None:
        job = typed("uk farm cottage")
        behind = next(way.circuit for way in job.board("sub-2").ways)
        self.assertGreater(of(job, behind, "disconnection").value or 0.0, 38.0)
        self.assertLess(of(job, named(job, "barn"), "disconnection").value or 99.0, 2.0)

    def test_a_link_of_its_own_where_the_standard_has_none_is_no_word(self) -> None:
        job = begin("No MEN", rule_set("uk"), "TN-S")
        made = enter_and_design(job, "shed MEN 20m", "main").job
        self.assertEqual(len(made.boards), 1)

    def test_the_same_jobs_without_their_sources_keep_the_verdicts_of_the_other_circuits(self) -> None:
        rules, system, lines = JOBS["continental house"]
        job = begin("plain", rule_set(rules), system)  # type: ignore[arg-type]
        for line in lines:
            board, _, text = line.rpartition("|")
            if "solar" not in line:
                job = enter_and_design(job, text, board or "main").job
        with_source = typed("continental house")
        for circuit in job.circuits:
            for check in ("overload", "capacity", "disconnection", "rcd-duty"):
                same = of(with_source, named(with_source, circuit.name), check)
                self.assertEqual(of(job, circuit.id, check).verdict, same.verdict, (circuit.name, check))


if __name__ == "__main__":
    unittest.main()
