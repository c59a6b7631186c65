"""Fixing: clips, holes, notches and chases at and over their limits, by the worked examples of the reference; and of typed houses."""

from __future__ import annotations

import random
import unittest
from functools import cache

from tests.browser.test_testing import house as british
from tests.core.plan.test_generated_houses import house as generated
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.fixing.chases import COVER_MM
from vivid_lattice.core.plan.fixing.counting import crossed_at, even_gap_m, fixings
from vivid_lattice.core.plan.fixing.drills import drill_for
from vivid_lattice.core.plan.fixing.fixing_plan import FixingPlan, fixing_plan
from vivid_lattice.core.plan.fixing.timber import (
    Bore,
    Timber,
    apart_m,
    edge_cover_m,
    hole_at_most_m,
    needs_protection,
    notch_at_most_m,
    refused,
    too_close,
    zone_m,
)
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.fixing_rules import Supports
from vivid_lattice.core.sources import Source

NOWHERE = Source("practice", "test", "practice", "high")
IN = 0.0254
HABIT = Supports(0.1, 0.1, 0.4, NOWHERE)
KITCHEN = (
    "kitchen 4.2 x 3.6 h 2.4 door left 0.8 at 1.2", "hall 1.2 x 5 left of kitchen door front 0.9 at 0.1", "landing 3 x 2 above hall",
    "board hall left at 0.5", "ground floor insulation none", "6 double sockets kitchen worktop", "cooker kitchen right at 1.9",
    "2 way light hall landing",
)  # fmt: skip


@cache
def kitchen() -> Job:
    job = british("kitchen ring", "lights", "cooker 32A")
    for line in KITCHEN:
        job = enter_plan_line(job, line)
    return job


def typed(*lines: str) -> Job:
    job = kitchen()
    for line in lines:
        job = enter_plan_line(job, line)
    return job


def fixed(job: Job) -> FixingPlan:
    rules = rule_set(job.job.rules)
    return fixing_plan(job, rules, house_plan(job, rules))


class Clips(unittest.TestCase):
    """runs.ex.clips, uk.runs.ex.clips-flat-cable, uk.runs.ex.conduit-run, na.runs.ex.staples."""

    def test_straight_parts_of_several_lengths(self) -> None:
        self.assertEqual([fixings(each, HABIT) for each in (0.15, 0.9, 2.2, 2.25, 6.0)], [1, 3, 6, 7, 16])
        self.assertEqual((fixings(0.0, HABIT), fixings(0.2, HABIT), fixings(0.201, HABIT)), (0, 1, 2))

    def test_flat_cable_by_the_british_table(self) -> None:
        rules = rule_set("uk").fixing
        down, along = rules.clips(11.0, "vertical"), rules.clips(11.0, "horizontal")
        self.assertEqual((down.gap_m, along.gap_m), (0.4, 0.3))
        self.assertEqual((fixings(1.9, down), fixings(3.5, along)), (6, 12))
        # At 9 mm the closer spacing, above it the wider; a cable whose least width is below 9 mm has the closer.
        self.assertEqual([rules.clips(wide, "horizontal").gap_m for wide in (9.0, 9.1)], [0.25, 0.3])
        lights = rules.cable_dimensions(2, 1.5)
        assert lights is not None
        self.assertEqual(rules.clips(lights.wide_least_mm, "horizontal").gap_m, 0.25)
        self.assertEqual(rules.clips(None, "vertical").gap_m, 0.4)

    def test_conduit_by_the_neat_habit_and_by_the_table(self) -> None:
        rules = rule_set("uk").fixing
        long = 4.6 - rules.stop_short_m
        self.assertEqual((long, fixings(long, rules.saddles())), (4.55, 12))
        gap = even_gap_m(long, rules.saddles())
        assert gap is not None
        self.assertAlmostEqual(gap, 0.3955, places=3)
        by_table = rules.saddles_at_most(20, "horizontal")
        assert by_table is not None
        self.assertEqual(fixings(long, by_table), 4)

    def test_staples_with_two_end_distances(self) -> None:
        self.assertEqual(fixings(204 * IN, rule_set("na").fixing.clips(10.0, "horizontal")), 5)


class Holes(unittest.TestCase):
    """runs.ex.holes, uk.runs.ex.joist-225, uk.runs.ex.drill-list, na.runs.ex.stud."""

    def test_joists_crossed_by_a_part(self) -> None:
        at = crossed_at(0.0, 4.1, 0.2, 0.45)
        self.assertEqual((len(at), at[-1]), (9, 3.8))
        self.assertEqual(crossed_at(0.0, 3.0, 0.3, 0.4), (0.3, 0.7, 1.1, 1.5, 1.9, 2.3, 2.7))
        self.assertEqual((crossed_at(0.0, 0.19, 0.2, 0.45), crossed_at(0.0, 0.2, 0.2, 0.45)), ((), (0.2,)))
        self.assertEqual(crossed_at(4.1, 0.0, 0.2, 0.45), at)

    def test_a_british_joist_at_and_over_its_limits(self) -> None:
        limits = rule_set("uk").fixing.timber("joist")
        assert limits is not None
        joist = Timber(0.225, 3.6)
        self.assertAlmostEqual(hole_at_most_m(joist, limits), 0.05625)
        self.assertAlmostEqual(notch_at_most_m(joist, limits), 0.028125)
        self.assertEqual([round(each, 4) for each in zone_m(joist, limits, "hole")], [0.9, 1.44])
        self.assertEqual([round(each, 4) for each in zone_m(joist, limits, "notch")], [0.252, 0.9])
        for bore, words in (
            (Bore("hole", 1.2, 0.025), None),
            (Bore("hole", 0.6, 0.025), "permitted 0.90 to 1.44"),
            (Bore("notch", 0.5, 0.03), "maximum 28.1 mm"),
            (Bore("hole", 1.2, 0.06), "maximum 56.2 mm"),
            (Bore("hole", 0.9, 0.05625), None),
            (Bore("hole", 1.44, 0.05625), None),
            (Bore("hole", 1.441, 0.025), "permitted"),
            (Bore("hole", 1.2, 0.0563), "maximum"),
            (Bore("notch", 0.252, 0.028125), None),
            (Bore("notch", 0.251, 0.01), "permitted"),
        ):
            with self.subTest(bore=bore):
                said = refused(joist, bore, limits)
                self.assertEqual(said is None, words is None)
                self.assertIn(words or "", str(said))
        self.assertAlmostEqual(apart_m(0.025, 0.025, limits), 0.075)
        self.assertIsNone(too_close(Bore("hole", 1.0, 0.025), [Bore("hole", 1.075, 0.025)], limits))
        self.assertIsNotNone(too_close(Bore("hole", 1.0, 0.025), [Bore("hole", 1.074, 0.025)], limits))
        self.assertIsNone(too_close(Bore("hole", 1.0, 0.025), [Bore("notch", 0.9, 0.01)], limits))
        self.assertIsNotNone(too_close(Bore("hole", 1.0, 0.025), [Bore("notch", 0.901, 0.01)], limits))
        self.assertIsNotNone(refused(Timber(0.251, 3.6), Bore("hole", 1.2, 0.025), limits))

    def test_cover_of_a_cable_in_a_hole(self) -> None:
        limits = rule_set("uk").fixing.timber("joist")
        assert limits is not None
        for depth, protected in ((0.125, False), (0.124, True)):
            self.assertEqual(needs_protection(Timber(depth, 3.6), Bore("hole", 1.2, 0.025), limits), protected)
        self.assertAlmostEqual(edge_cover_m(Timber(0.225, 3.6), Bore("hole", 1.2, 0.025)), 0.1)
        self.assertTrue(needs_protection(Timber(0.225, 3.6), Bore("notch", 0.5, 0.02), limits))

    def test_studs_of_north_america(self) -> None:
        limits = rule_set("na").fixing.timber("stud")
        assert limits is not None
        stud = Timber(3.5 * IN, 2.4)
        small, large = Bore("hole", 0.0, 0.75 * IN), Bore("hole", 0.0, 1.25 * IN)
        self.assertAlmostEqual(edge_cover_m(stud, small) / IN, 1.375)
        self.assertAlmostEqual(edge_cover_m(stud, large) / IN, 1.125)
        self.assertEqual([needs_protection(stud, each, limits) for each in (small, large)], [False, True])
        self.assertEqual([refused(stud, each, limits) for each in (small, large)], [None, None])
        self.assertIsNone(refused(stud, Bore("hole", 0.0, 1.4 * IN), limits))
        self.assertIsNotNone(refused(stud, Bore("hole", 0.0, 1.41 * IN), limits))

    def test_joists_of_north_america(self) -> None:
        limits = rule_set("na").fixing.timber("joist")
        assert limits is not None
        joist = Timber(9.25 * IN, 4.0)
        self.assertAlmostEqual(hole_at_most_m(joist, limits) / IN, 3.083, places=3)
        self.assertAlmostEqual(notch_at_most_m(joist, limits) / IN, 1.542, places=3)
        self.assertIsNotNone(refused(joist, Bore("notch", 2.0, 0.01), limits))
        self.assertIsNone(refused(joist, Bore("notch", 1.3, 0.01), limits))

    def test_the_drill_for_one_and_for_more_cables(self) -> None:
        rules = rule_set("uk").fixing
        self.assertEqual(drill_for([11.5], rules), 18)
        # Two of 9 mm are 18 mm across: 23 with room. Eight are more than the table of circles has.
        self.assertEqual((drill_for([9.0, 9.0], rules), drill_for([9.0] * 8, rules)), (25, None))
        self.assertEqual((drill_for([13.0], rules), drill_for([13.1], rules)), (18, 20))


class Chases(unittest.TestCase):
    """uk.runs.ex.chase, iec.runs.ex.chase-240."""

    def test_a_block_leaf_of_100_mm(self) -> None:
        rules = rule_set("uk").fixing
        down, along = rules.chase("vertical", 100.0, 1.0), rules.chase("horizontal", 100.0, 1.0)
        assert down is not None and along is not None
        self.assertEqual([round(each.depth_m * 1000, 1) for each in (down, along)], [33.3, 16.7])

    def test_a_german_wall_of_240_mm(self) -> None:
        rules = rule_set("iec-de").fixing
        along, short, down = (
            rules.chase("horizontal", 240.0, 1.8), rules.chase("horizontal", 240.0, 1.25),
            rules.chase("vertical", 240.0, 2.0),
        )  # fmt: skip
        assert along is not None and short is not None and down is not None
        self.assertEqual([each.depth_m * 1000 for each in (along, short, down)], [15, 25, 30])
        self.assertEqual((along.within_m, down.within_m), (0.4, None))
        self.assertTrue(10.3 + COVER_MM <= 15 < 20 + COVER_MM)
        # Between two rows the thinner wall; thinner than the table: none at all.
        between, thin = rules.chase("vertical", 239.0, 2.0), rules.chase("horizontal", 100.0, 1.0)
        assert between is not None and thin is not None
        self.assertEqual((between.depth_m, thin.depth_m), (0.03, 0.0))

    def test_not_available_is_said(self) -> None:
        self.assertIsNone(rule_set("za").fixing.chase("vertical", 110.0, 1.0))
        self.assertIsNone(rule_set("anz").fixing.timber("joist"))


class Typed(unittest.TestCase):
    """A house as it is typed."""

    def test_what_is_not_stated_is_asked_and_counts_as_nothing(self) -> None:
        plan = fixed(typed())
        self.assertEqual(len(plan.questions), 2)
        self.assertIn("which way do its joists run", str(plan.questions[0]))
        self.assertIn("masonry or stud", str(plan.questions[1]))
        self.assertEqual((plan.joists, plan.chases), ((), ()))
        self.assertGreater(sum(section.open_m for section in plan.sections), 30)

    def test_joists_without_their_size_are_drilled_but_never_pass(self) -> None:
        plan = fixed(typed("ground floor joists across centres 400", "walls masonry 100"))
        self.assertTrue(plan.joists)
        for row in plan.joists:
            self.assertIn("not known", str(row.lack))
            self.assertIsNone(row.cover_mm)
        self.assertTrue(any("how deep are its joists" in str(each) for each in plan.questions))

    def test_a_stated_house_is_drilled_chased_and_marked(self) -> None:
        plan = fixed(
            typed(
                "ground floor joists across depth 225 centres 400 span 4.2",
                "first floor joists none",
                "walls masonry 100",
            )
        )
        self.assertEqual([str(each) for each in plan.questions], [])
        self.assertTrue(all(row.lack is None and (row.refused or row.cover_mm is not None) for row in plan.joists))
        self.assertTrue(plan.refused, "routes along walls cross joists too near their support")
        self.assertTrue(all(chase.limit and chase.needed_mm for chase in plan.chases))
        level = [chase for chase in plan.chases if chase.direction == "horizontal"]
        self.assertTrue(level and all(chase.refused is None for chase in level), "10.2 mm of 16.7 mm")
        sections = [section for section in plan.sections if section.circuit == "c1"]
        self.assertEqual([part.count for section in sections[1:6] for part in section.parts], [3] * 5)
        [cooker] = [mark for mark in plan.marks if mark.point == "kitchen-cooker"]
        self.assertEqual(
            (cooker.wall, cooker.from_wall, cooker.distance_m, cooker.height_m), ("right", "back", 1.7, 1.1)
        )
        self.assertEqual(len(plan.marks), 1 + 6 + 1 + 1 + 2)

    def test_too_thin_a_wall_is_refused(self) -> None:
        plan = fixed(typed("walls masonry 60"))
        self.assertTrue(any("maximum 10 mm in this wall" in str(each) for each in plan.refused))

    def test_engineered_joists_are_left_to_their_manufacturer(self) -> None:
        plan = fixed(
            typed("ground floor joists across depth 225 centres 400 span 4.2 timber engineered", "walls masonry 100")
        )
        self.assertTrue(plan.joists and all("manufacturer" in str(row.lack) for row in plan.joists))

    def test_a_span_shorter_than_the_room_does_not_pass(self) -> None:
        plan = fixed(typed("ground floor joists across depth 225 centres 400 span 3", "walls masonry 100"))
        kitchen = [row for row in plan.joists if row.room == "kitchen"]
        self.assertTrue(kitchen and all("support between" in str(row.lack) for row in kitchen))

    def test_studs_are_counted_and_judged_where_the_standard_has_limits(self) -> None:
        plan = fixed(typed("walls stud 89 at 400"))
        self.assertLessEqual({row.count for row in plan.studs}, {1, 2})
        self.assertTrue(plan.studs)
        self.assertTrue(all("not available" in str(row.lack) for row in plan.studs))

    def test_bad_lines_are_told(self) -> None:
        job = typed()
        for line, words in (
            ("attic walls masonry 100", "not on the plan"), ("ground floor depth deep", "depth"), ("walls masonry 5000", "2000"),
            ("ground floor joists across depth 20", "50"),
        ):  # fmt: skip
            with self.subTest(line=line), self.assertRaisesRegex(EntryNotUnderstood, words):
                enter_plan_line(job, line)

    def test_inches_are_read(self) -> None:
        job = typed(
            "ground floor joists across depth 9 1/4 in centres 16 in span 12ft", 'kitchen walls stud 3.5" at 16 in'
        )
        floor = job.plan.floors[0]
        self.assertEqual((floor.joist_depth_mm, floor.joist_centres_mm, floor.joist_span_m), (234.95, 406.4, 3.658))
        kitchen = next(shape for shape in job.plan.rooms if shape.room == "kitchen")
        self.assertEqual((kitchen.wall_mm, kitchen.stud_centres_mm), (88.9, 406.4))


class AnyHouse(unittest.TestCase):
    """Laws over generated houses of every standard."""

    def test_nothing_passes_that_lacks_an_input_and_nothing_raises(self) -> None:
        for standard in ("uk", "iec", "anz", "za", "na"):
            rng = random.Random(standard)
            for _ in range(1):
                job = generated(standard, rng)
                bare = fixed(job)
                self.assertTrue(all(row.lack is not None or row.refused is not None for row in bare.joists))
                for line in (
                    f"ground floor joists {rng.choice(('across', 'along'))} depth 225 centres 400 span 5", "floor 1 joists none",
                    "floor 2 joists across depth 200 centres 400 span 4", f"walls {rng.choice(('masonry 100', 'stud 89 at 400'))}",
                ):  # fmt: skip
                    job = enter_plan_line(job, line)
                plan = fixed(job)
                has_limits = rule_set(standard).fixing.timber("joist") is not None
                for row in plan.joists:
                    self.assertTrue(has_limits or row.lack is not None)
                    if row.refused is None and row.lack is None:
                        assert row.zone_m is not None and row.size_mm is not None
                for section in plan.sections:
                    self.assertTrue(all(part.count is None or part.count >= 0 for part in section.parts))
                self.assertEqual(len({mark.point for mark in plan.marks}), len(plan.marks))
