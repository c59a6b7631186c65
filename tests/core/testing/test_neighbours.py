"""Readings beside those of neighbours: insulation in parallel and of similar circuits, residual-current devices in series.

Resistances in parallel: 1/R = 1/R1 + 1/R2 (Ohm's law). That insulation far below that of its like deserves a look, and that of two RCDs in
series the upstream one has to take longer, is common practice, no source.
"""

from __future__ import annotations

import unittest

from tests.builders import circuit, feeder, mcb, rcbo, two_boards
from tests.core.testing.test_judged_readings import house, radial, with_rows
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.comparisons import ReadingComparison
from vivid_lattice.core.testing.judgement import judged


def compared(of: Job, test: str, against: str) -> ReadingComparison | None:
    readings = {each.test: each for each in judged(Installation.of(of, rule_set(of.job.rules)))}
    return next((one for one in readings[test].comparisons if one.against == against), None)


class Insulation(unittest.TestCase):
    def like(self, *values: str) -> Job:
        circuits = [radial(20.0, 2.5, mcb(20.0), id=f"c{n}", name=f"Sockets {n}") for n in range(1, len(values) + 1)]
        return with_rows(house(*circuits), *(f"ir_le,{n},{value}" for n, value in enumerate(values, 1)))

    def test_one_far_below_its_like_is_worth_a_look_though_it_passes(self) -> None:
        of = self.like("3", "200", ">999", "150")
        found = compared(of, "ir_le:circuit:c1", "similar")
        assert found is not None
        self.assertEqual((found.agreement, found.value), ("look-again", 200.0))
        self.assertIn("similar circuits", str(found.text))
        other = compared(of, "ir_le:circuit:c2", "similar")
        assert other is not None
        self.assertEqual(other.agreement, "agrees")

    def test_two_alone_and_circuits_of_other_cables_say_nothing(self) -> None:
        self.assertIsNone(compared(self.like("3", "200"), "ir_le:circuit:c1", "similar"))
        mixed = house(
            radial(20.0, 2.5, mcb(20.0)), *(radial(20.0, 6.0, mcb(32.0), id=f"c{n}", name=f"C{n}") for n in (2, 3, 4))
        )
        of = with_rows(mixed, "ir_le,1,3", "ir_le,2,200", "ir_le,3,200", "ir_le,4,200")
        self.assertIsNone(compared(of, "ir_le:circuit:c1", "similar"))

    def test_a_feeder_reads_what_its_circuits_make_in_parallel(self) -> None:
        of = two_boards(feeder(device=mcb(40.0, "C")), circuit(), circuit(id="c2", name="Second", device=mcb(6.0)))
        ids = [one.id for one in of.circuits]
        feed = next(identity for identity in ids if identity not in ("c1", "c2"))
        # 1/(1/60 + 1/30) = 20 MΩ.
        for value, word in (("19", "agrees"), ("400", "agrees"), ("5", "look-again")):
            made = with_rows(of, f"ir_le,circuit:{feed},{value}", "ir_le,circuit:c1,60", "ir_le,circuit:c2,30")
            found = compared(made, f"ir_le:circuit:{feed}", "parallel")
            assert found is not None
            self.assertAlmostEqual(found.value, 20.0)
            self.assertEqual(found.agreement, word, value)
        part = with_rows(of, f"ir_le,circuit:{feed},5", "ir_le,circuit:c1,60")
        self.assertIsNone(compared(part, f"ir_le:circuit:{feed}", "parallel"))


class InSeries(unittest.TestCase):
    def test_the_upstream_rcd_takes_longer_than_the_one_downstream(self) -> None:
        of = two_boards(feeder(device=rcbo(40.0, "C", rcd=Rcd(idn_ma=100.0, time_delayed=True))), circuit())
        feed = next(one.id for one in of.circuits if one.id != "c1")
        for upstream, word in (("180", "agrees"), ("15", "look-again")):
            made = with_rows(of, f"rcd_1,rcd:{feed},{upstream}", "rcd_1,rcd:c1,24")
            found = compared(made, f"rcd_1:rcd:{feed}", "series")
            assert found is not None
            self.assertEqual((found.agreement, found.value), (word, 24.0))
            self.assertIsNone(compared(made, "rcd_1:rcd:c1", "series"))


if __name__ == "__main__":
    unittest.main()
