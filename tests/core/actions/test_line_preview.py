"""A line while it is typed: what is read, chosen and assumed, and the verdict it gets; the words it is completed with.

Lengths and powers that are assumed: common practice, no source.
"""

from __future__ import annotations

import unittest

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.line_preview import LinePreview, preview
from vivid_lattice.core.actions.new_job import begin, blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.entry.line_words import line_words
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.rules import rule_set, standard_ids


def job(standard: str = "uk") -> Job:
    return begin("Loft", rule_set(standard), rule_set(standard).systems[-1])  # type: ignore[arg-type]


def chips(found: LinePreview, state: str) -> list[str]:
    return [str(chip.text) for chip in found.chips if chip.state == state]


class Preview(unittest.TestCase):
    def test_what_the_line_states_is_read_and_the_rest_chosen(self) -> None:
        found = preview(job(), "ring B32 2.5/1.5mm 55m kitchen", "main")
        self.assertLessEqual({"ring", "B32 RCBO A 30 mA", "55 m", "Kitchen"}, set(chips(found, "read")))
        self.assertEqual(chips(found, "assumed"), [])
        self.assertIn("Clipped direct", chips(found, "chosen"))

    def test_a_length_that_is_assumed_has_the_longest_that_passes_beside_it(self) -> None:
        (length,) = (text for text in chips(preview(job(), "ring kitchen", "main"), "assumed") if " m" in text)
        self.assertRegex(length, r"^\d+ m, up to [\d.]+ m$")
        usual, longest = (float(text.split()[0]) for text in length.replace("up to ", "").split(", "))
        for metres, passes in ((longest, True), (longest + 0.1, False)):
            found = preview(job(), f"ring kitchen 2.5mm {metres:.1f}m", "main")
            self.assertEqual(found.verdict in ("pass", "tight"), passes, f"{metres} m: {found.sentence}")
        self.assertLess(usual, longest)

    def test_a_rating_alone_means_the_device_that_is_usual(self) -> None:
        """The kind that the design takes where no rating is typed: with the RCD that the circuit must have and no shared one gives."""
        for standard, line, kind in (
            ("uk", "ring B32 55m kitchen", "rcbo"), ("uk", "ring B32 mcb 55m kitchen", "mcb"),
            ("uk", "cooker B32 6mm 14m", "rcbo"), ("iec-de", "sockets B16 20m kitchen", "rcbo"), ("na", "water heater 30A 25ft", "breaker"),
        ):  # fmt: skip
            with self.subTest(standard=standard, line=line):
                entered = enter_and_design(job(standard), line, "main")
                device = entered.job.circuit(entered.circuit).device
                self.assertEqual(None if is_auto(device) else device.kind, kind)

    def test_what_is_not_used_is_told_and_nothing_is_entered(self) -> None:
        before = job()
        found = preview(before, "cooker 7.2kW 14m 4q", "main")
        self.assertEqual(chips(found, "unused"), ["4q"])
        self.assertEqual(before, job())

    def test_it_is_the_circuit_that_is_entered(self) -> None:
        for line in ("cooker", "shower 9.5kW 17m", "lights hall"):
            with self.subTest(line):
                found, entered = preview(job(), line, "main"), enter_and_design(job(), line, "main")
                device = entered.job.circuit(entered.circuit).device
                self.assertFalse(is_auto(device))
                self.assertTrue(any(device.label in str(chip.text) for chip in found.chips if not is_auto(device)))

    def test_a_line_that_is_no_circuit_is_refused(self) -> None:
        with self.assertRaises(EntryNotUnderstood):
            preview(job(), "17m", "main")


class Breaking(unittest.TestCase):
    """A breaker that is typed by its rating alone."""

    def of(self, start: Job) -> tuple[float | None, str]:
        entered = enter_and_design(start, "heater 2kW B16 10m", "main")
        device = entered.job.circuit(entered.circuit).device
        assert not is_auto(device)
        found = next(each for each in assess(entered.job).findings if each.check == "breaking-capacity")
        return device.breaking_ka, found.verdict

    def test_on_a_new_board_it_is_the_usual_one(self) -> None:
        """6 kA: common practice, no source. The board's conditional rating covers the 16 kA that are declared."""
        self.assertEqual(self.of(job())[0], 6.0)
        self.assertNotIn(self.of(job())[1], ("missing", "fail"))

    def test_where_nothing_is_assumed_it_is_asked(self) -> None:
        old = blank("Old", rule_set("uk"))
        self.assertEqual(self.of(old), (None, "missing"))


class Words(unittest.TestCase):
    def test_every_word_for_completion_is_understood(self) -> None:
        for standard in standard_ids():
            rules = rule_set(standard)
            with self.subTest(standard):
                words = line_words(rules)
                self.assertGreater(len(words), 100)
                self.assertEqual(len(words), len(set(words)))
                for word in words:
                    self.assertEqual(parse_line(f"{word} 10m", rules).unused, [], word)

    def test_german_rooms_are_offered_in_germany_alone(self) -> None:
        for standard in standard_ids():
            self.assertEqual("küche" in line_words(rule_set(standard)), standard == "iec-de", standard)


if __name__ == "__main__":
    unittest.main()
