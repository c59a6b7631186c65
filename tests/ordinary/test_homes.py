"""Typical homes of every standard, typed as people type them: what is understood of each line, and that no result is dangerous.

The homes are common practice, no source.
"""

from __future__ import annotations

import unittest

from tests.ordinary.homes import Home, homes, typed_home
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Design
from vivid_lattice.core.document.feeds import loads_of
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.rules import rule_set

#: Lines that are read as more than they name, or less closely: each with what is read, and why that does no harm.
READ_AS = {
    # The room makes it a socket circuit of the kitchen or the bath for the checks; the circuit itself is a plain one.
    ("za", "scullery sockets 16m, scullery"): ("sockets-radial",),
    ("na", "primary bath receptacles 48ft, primary bath"): ("receptacles",),
    # Sockets and light on one fuse, as old boards have it: both are kept.
    ("iec-de", "1 fuse 16 1.5mm kitchen sockets and light"): ("kitchen-sockets", "lighting"),
    ("iec-de", "2 fuse 16 1.5mm living sockets and light"): ("sockets-radial", "lighting"),
    ("iec-de", "3 fuse 16 1.5mm bedroom sockets and light"): ("sockets-radial", "lighting"),
    ("iec-de", "4 fuse 16 1.5mm bathroom sockets and light"): ("bathroom-sockets", "lighting"),
    # Two conductors in one clamp make it a ring when the way is read.
    ("uk", "2 fuse 30 2x2.5mm sockets up"): ("sockets-radial-20",),
    ("uk", "3 fuse 30 2x2.5mm sockets down"): ("sockets-radial-20",),
}
#: What a form of device can mend.
BY_DEVICE = ("rcd-duty", "arc-fault", "rcd-type", "overload", "capacity")


class Understood(unittest.TestCase):
    """Line by line."""

    def test_there_are_seven_homes_of_every_standard(self) -> None:
        count: dict[str, int] = {}
        for home in homes():
            count[home.standard] = count.get(home.standard, 0) + 1
        self.assertEqual(count, dict.fromkeys(("uk", "anz", "iec", "iec-de", "za", "na"), 7))

    def test_nothing_typed_is_lost_and_each_line_names_its_circuit(self) -> None:
        for home in homes():
            rules = rule_set(home.standard)
            for line in home.lines:
                with self.subTest(home.standard, line=line.text):
                    read = parse_line(line.text, rules, kind="way" if home.ways else "circuit")
                    self.assertEqual(read.unused, [])
                    expected = READ_AS.get((home.standard, line.text), (line.kind,))
                    self.assertEqual(tuple(load.kind for load in read.loads), expected)

    def test_lengths_counts_and_powers_are_kept(self) -> None:
        for home in homes():
            if home.ways:
                continue
            for line, circuit in zip(home.lines, typed_home(home).circuits, strict=True):
                with self.subTest(home.standard, line=line.text):
                    [section] = circuit.run
                    assert section.length_m is not None
                    self.assertTrue(line.least_m - 0.1 <= section.length_m <= line.most_m + 0.1, section.length_m)
                    powers = [load.power_w * load.items for load in circuit.loads if load.power_w is not None]
                    if line.power_w and powers:
                        self.assertAlmostEqual(sum(powers), line.power_w, delta=0.02 * line.power_w)


class Designed(unittest.TestCase):
    """The whole home, designed."""

    @classmethod
    def setUpClass(cls) -> None:
        #: Each home with its design and what the engine says of it.
        cls.made: list[tuple[Home, Design, tuple[Finding, ...]]] = []
        for home in homes():
            if not home.ways:
                made = design(typed_home(home))
                cls.made.append((home, made, assess(made.job, explain=False).findings))

    def test_no_choice_of_design_fails_where_another_device_would_not(self) -> None:
        for home, made, findings in self.made:
            chosen = {one.circuit for one in made.decisions if one.what == "device"}
            for found in findings:
                if found.verdict == "fail" and found.check in BY_DEVICE:
                    self.assertNotIn(
                        found.subject.id, chosen, f"{home.standard} {home.name} {found.check}: {(found.sentence)!s}"
                    )

    def test_sockets_are_protected_or_the_standard_asks_for_nothing(self) -> None:
        for home, made, findings in self.made:
            duty = {one.subject.id: one for one in findings if one.check == "rcd-duty"}
            for circuit in made.job.circuits:
                if not any(load.kind == "socket" for load in loads_of(circuit)) or isinstance(circuit.device, str):
                    continue
                # The NEC asks by room: a living room has arc-fault detection alone.
                good = ("pass", "not-applicable") if home.standard == "na" else ("pass",)
                self.assertIn(duty[circuit.id].verdict, good, f"{home.standard} {home.name} {circuit.name}")

    def test_a_cable_is_left_open_only_where_the_tables_end(self) -> None:
        for home, made, _ in self.made:
            for one in made.decisions:
                kind = next((held.kind for held in made.job.circuits if held.id == one.circuit), "")
                if one.what == "cable" and one.chosen == "auto" and kind != "distribution":
                    # No table goes so far; the line gives a device and not what the load draws; or makers differ in the earth (South Africa).
                    why = "would carry it|power of .* missing|size of the protective conductor missing"
                    self.assertRegex(str(one.sentence), why, f"{home.standard} {home.name} {one.circuit}")
