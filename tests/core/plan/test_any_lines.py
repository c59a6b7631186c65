"""Any lines: each is taken, or refused with a reason; what is made can be planned, drawn, judged, saved and read again, and is proved."""

from __future__ import annotations

import random
import unittest
from contextlib import suppress

from tests.core.plan.test_typed_plan import typed
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.plan.drawing import drawing_of
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.plan.proposals import proposals
from vivid_lattice.core.plan.remarks import questions, remarks
from vivid_lattice.core.rules import rule_set

ROOMS = ("kitchen", "hall", "bath", "study", "barn 2", "attic")
PARTS = (
    "front", "back", "left", "right", "at 0.2", "at 99", "h 1.1", "h 9", "h 0.2", "900 x 900", "insulation 99999", "width 500", "thickness 9", "door",
    "door left", "window back 1.2 at 0.5", "above", "kitchen", "less 1 x 1 back left", "open above", "insulated stud", "worktop", "with the switch",
    "with dimmer", "2 way", "3 way", "sockets", "light", "lights", "cooker", "smoke alarm", "pump", "junction box", "sink", "bath", "shower tray",
    "board", "x", "4 x 3", "0.3 x 0.4", "200 x 200", "right of hall", "above kitchen", "offset 3", "6", "99", "0", "-1", "insulation 200",
    "first floor", "ground floor", "void 0.2", "joists across", "cables apart", "ü", "'", "12' x 10'6\"",
)  # fmt: skip
CIRCUITS = {
    "uk": ("kitchen ring", "sockets", "lights", "cooker 32A"), "na": ("kitchen outlets 20A", "lights 15A", "range 50A"),
    "iec": ("sockets", "lights", "cooker"), "anz": ("power points", "lights", "cooker"), "za": ("plugs", "lights", "stove"),
}  # fmt: skip


def line(rng: random.Random) -> str:
    kind = rng.random()
    more = " ".join(rng.sample(PARTS, rng.randint(0, 3)))
    if kind < 0.35:
        return f"{rng.choice(ROOMS)} {rng.uniform(0.4, 9):.1f} x {rng.uniform(0.4, 9):.1f} {more}"
    if kind < 0.7:
        return f"{rng.randint(1, 7)} {rng.choice(('sockets', 'lights', 'double sockets'))} {rng.choice(ROOMS)} {more}"
    if kind < 0.8:
        return f"board {rng.choice(ROOMS)} {rng.choice(('left', 'back'))} at {rng.uniform(0, 5):.1f}"
    return " ".join(rng.sample(PARTS, rng.randint(1, 5)))


class AnyLines(unittest.TestCase):
    def test_taken_or_refused_with_a_reason(self) -> None:
        rng, taken, refused = random.Random(20261201), 0, 0
        for number in range(15):
            standard = list(CIRCUITS)[number % len(CIRCUITS)]
            job = typed(circuits=CIRCUITS[standard], standard=standard)
            lines = [line(rng) for _ in range(20)]
            for text in lines:
                try:
                    job = enter_plan_line(job, text)
                    taken += 1
                except (EntryNotUnderstood, BadDocument) as why:
                    self.assertTrue(str(why).strip(), text)
                    refused += 1
            with self.subTest(standard, lines=lines):
                self.sound(job)
        self.assertGreater(min(taken, refused), 60, (taken, refused))

    def sound(self, job: Job) -> None:
        rules = rule_set(job.job.rules)
        plan = house_plan(job, rules)
        self.assertTrue(all(circuit.proved for circuit in plan.circuits))
        for told in (remarks(job, rules, plan), questions(job, rules, plan)):
            self.assertTrue(all(str(each) for each in told))
        for proposal in proposals(job, rules):
            # A room may be so small, or so oddly named, that its points find no place.
            with suppress(EntryNotUnderstood):
                enter_plan_line(job, proposal.lines[0])
        self.assertEqual(len(drawing_of(job, plan, rules).points), len(job.plan.points) + len(job.plan.boards))
        assess(job, explain=False)
        self.assertEqual(read_document(to_text(job).encode()), job)


if __name__ == "__main__":
    unittest.main()
