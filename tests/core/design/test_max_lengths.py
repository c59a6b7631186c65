"""The longest run in each size, against the published kind of example and against assessing at that length."""

from __future__ import annotations

import unittest

from tests.builders import circuit, finding, flat, job, laid, mcb, rcbo, supply
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.max_lengths import max_lengths
from vivid_lattice.core.document.job import Circuit


class LongestRuns(unittest.TestCase):
    """A circuit in every size."""

    def of(self, made: Circuit) -> dict[float, tuple[float | None, str]]:
        return {found.area_mm2: (found.length_m, found.decided_by) for found in max_lengths(job(made), made.id)}

    def test_it_agrees_with_the_examples_of_longest_circuits(self) -> None:
        # tests/data/uk_worked_examples.toml: uk.ex.max-length-radial 31.94 m by voltage drop, uk.ex.max-length-type-c 16.46 m
        # by Zs; the limit there is the rounded 0.68 Ω, here too.
        radial = self.of(circuit(kind="radial", device=rcbo(20.0), cable=flat(2.5)))
        self.assertEqual(radial[2.5], (31.9, "voltage-drop"))
        type_c = self.of(circuit(design_current_a=32.0, device=mcb(32.0, "C"), cable=flat(4.0)))
        self.assertEqual(type_c[4.0], (16.4, "disconnection"))

    def test_a_tenth_of_a_metre_more_fails_the_check_that_is_said(self) -> None:
        for area, (length, check) in self.of(circuit()).items():
            if length is None or not check:
                continue
            with self.subTest(area=area):
                for metres, failing in ((length, False), (length + 0.1, True)):
                    found = assess(job(circuit(cable=flat(area), run=(laid(round(metres, 1)),)))).findings
                    verdicts = {one.check: one.verdict for one in found if one.subject.kind == "circuit"}
                    self.assertEqual(verdicts[check] in ("fail", "advice"), failing)

    def test_a_size_that_never_passes_says_why(self) -> None:
        self.assertEqual(self.of(circuit(device=rcbo(32.0)))[2.5], (None, "capacity"))

    def test_a_short_run_that_fails_by_heat_does_not_hide_the_long_one_that_passes(self) -> None:
        # B20 on 1.5/1.0 mm²: at the board 18 kA²s take 1.17 mm²; far off less current flows, and voltage drop ends the run.
        self.assertEqual(self.of(circuit(device=rcbo(20.0)))[1.5][1], "voltage-drop")
        near = job(circuit(device=rcbo(20.0), cable=flat(1.5), run=(laid(0.5),)))
        self.assertEqual(finding(near, "protective-conductor").verdict, "fail")

    def test_larger_sizes_reach_further(self) -> None:
        reached = [length for length, _ in self.of(circuit()).values() if length is not None]
        self.assertEqual(reached, sorted(reached))

    def test_the_length_there_is_plays_no_part_even_where_it_is_unknown(self) -> None:
        self.assertEqual(self.of(circuit(run=(laid(None),))), self.of(circuit(run=(laid(500.0),))))

    def test_several_sections_keep_their_proportions(self) -> None:
        one, two = (self.of(circuit(run=run))[4.0][0] or 0 for run in ((laid(10.0),), (laid(4.0), laid(6.0))))
        self.assertAlmostEqual(one, two, delta=0.1)

    def test_a_device_of_unknown_breaking_capacity_hides_no_length_and_is_named(self) -> None:
        marked, unmarked = circuit(device=mcb(16.0)), circuit(device=mcb(16.0, breaking_ka=None))
        self.assertEqual(self.of(unmarked), self.of(marked))
        self.assertEqual({one.without for one in max_lengths(job(unmarked), "c1")}, {("breaking-capacity",)})
        self.assertEqual({one.without for one in max_lengths(job(marked), "c1")}, {()})

    def test_without_the_loop_no_length_is_given(self) -> None:
        found = max_lengths(job(circuit(), supply=supply(ze_ohm=None)), "c1")
        self.assertEqual({one.length_m for one in found}, {None})

    def test_nothing_is_said_where_nothing_can_be(self) -> None:
        for made in (circuit(cable="auto"), circuit(run=(laid(None), laid(3.0)))):
            self.assertEqual(self.of(made), {})
        self.assertEqual(max_lengths(job(), "nobody"), ())


if __name__ == "__main__":
    unittest.main()
