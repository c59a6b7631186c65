"""Sockets along walls: worked examples of the reference by name, and rooms as they are typed."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.plan.test_typed_plan import shape_of, typed
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.plan.geometry.house import on_wall
from vivid_lattice.core.plan.geometry.wall_line import WallLine
from vivid_lattice.core.plan.spacing import WallSpace, least_sockets, spacing_gaps, wall_spaces
from vivid_lattice.core.rules import rule_set

RULES = rule_set("na")
FOOT_M = 0.3048


def room(*lines: str, standard: str = "na") -> Job:
    return typed(*lines, circuits=("bedroom outlets 20A",) if standard == "na" else ("sockets 20m",), standard=standard)


class WorkedExamples(unittest.TestCase):
    def test_a_bedroom_with_one_door(self) -> None:
        """na.runs.ex.room: 11 × 13 ft, a door of 2.5 ft 3 ft from a corner: one wall space of 45.5 ft, four receptacles."""
        job = room("bedroom 11ft x 13ft door front 2.5ft at 3ft")
        [space] = wall_spaces(job, RULES, shape_of(job, "bedroom"))
        self.assertAlmostEqual(space.length_m / FOOT_M, 45.5, places=2)
        assert RULES.plan.wall_spacing is not None
        self.assertEqual(least_sockets(space.length_m, RULES.plan.wall_spacing), 4)

    def test_given_positions(self) -> None:
        """na.runs.ex.positions: a space of 22 ft: at 6 and 17 ft it passes, at 7 and 18 ft it does not."""
        for at_ft, furthest_ft in (((6, 17), 6), ((7, 18), 7)):
            space = WallSpace(length_m=22 * FOOT_M, sockets=tuple(each * FOOT_M for each in at_ft))
            self.assertAlmostEqual(space.furthest_m / FOOT_M, furthest_ft)

    def test_the_least_number(self) -> None:
        """NEC 210.52(A): none under 2 ft, one up to 12 ft, two beyond."""
        spacing = RULES.plan.wall_spacing
        assert spacing is not None
        for feet, wanted in ((1.99, 0), (2.0, 1), (12.0, 1), (12.01, 2), (24.0, 2), (24.01, 3)):
            self.assertEqual(least_sockets(feet * FOOT_M, spacing), wanted, feet)


class Round(unittest.TestCase):
    def test_sockets_typed_by_number_are_spread_so_that_the_least_number_is_enough(self) -> None:
        """⌈w/12 ft⌉ places half a gap from every door pass in rooms of any shape, with doors anywhere."""
        for line in (
            "study 3 x 3 door front 0.8 at 0.5", "study 5 x 4 door left 0.8 at 0.2 door right 0.8 at 3", "study 7 x 4", "bedroom 6 x 5 less 2 x 1 back left door front",
            "bedroom 4.2 x 3.7 door right 0.9 at 0.1 window back 1.8 at 1.2",
        ):  # fmt: skip
            [bare] = spacing_gaps(room(line), RULES)
            name = line.split()[0]
            with self.subTest(line):
                done = room(line, f"{bare.needed} outlets {name}")
                self.assertEqual([str(gap.text) for gap in spacing_gaps(done, RULES)], [])

    def test_each_place_of_a_wall_is_found_again_on_the_line(self) -> None:
        for line in ("study 4 x 3", "study 4 x 4 less 1 x 1.5 back right", "study 4 x 4 less 1 x 1.5 front left"):
            way = WallLine(shape_of(room(line), "study"))
            for step in range(1, 40):
                at = way.length_m * (step + 0.37) / 41
                wall, along = way.wall_at(at)
                with self.subTest(line, wall=wall):
                    self.assertAlmostEqual(way.at(on_wall(shape_of(room(line), "study"), wall, along)), at, places=6)


class Typed(unittest.TestCase):
    BEDROOM = "bedroom 11ft x 13ft door front 2.5ft at 3ft"

    def test_too_few_are_told_once_with_what_is_needed(self) -> None:
        job = room(self.BEDROOM, "2 outlets bedroom")
        [gap] = spacing_gaps(job, RULES)
        self.assertEqual((gap.room, gap.needed, gap.present), ("bedroom", 4, 2))
        self.assertIn("6 ft at most", str(gap.text))
        self.assertIn("4 receptacles", str(gap.text))

    def test_points_are_called_as_the_standard_calls_them(self) -> None:
        points = room(self.BEDROOM, "2 outlets bedroom").plan.points
        self.assertEqual([point.name for point in points], ["Bedroom receptacle 1", "Bedroom receptacle 2"])

    def test_four_that_are_spread_pass(self) -> None:
        self.assertEqual(spacing_gaps(room(self.BEDROOM, "4 outlets bedroom"), RULES), ())

    def test_four_on_one_wall_do_not(self) -> None:
        [gap] = spacing_gaps(room(self.BEDROOM, "4 outlets bedroom back"), RULES)
        self.assertGreaterEqual(gap.present, gap.needed)

    def test_a_high_outlet_does_not_count(self) -> None:
        low, high = (room(self.BEDROOM, f"4 outlets bedroom h {height}") for height in ("5.4ft", "5.6ft"))
        self.assertEqual((len(spacing_gaps(low, RULES)), len(spacing_gaps(high, RULES))), (0, 1))

    def test_a_room_without_a_socket_is_told_and_one_without_a_rule_is_not(self) -> None:
        for line, count in (
            ("bedroom 4 x 3", 1), ("living room 4 x 3", 1), ("study 4 x 3", 1), ("hall 3 x 2", 0), ("kitchen 4 x 3", 0), ("closet 2 x 1", 0),
            ("bathroom 3 x 2", 0), ("garage 5 x 5", 0),
        ):  # fmt: skip
            with self.subTest(line):
                self.assertEqual(len(spacing_gaps(room(line), RULES)), count)

    def test_a_short_wall_between_two_doors_needs_none(self) -> None:
        near = room("study 3 x 3 door front 0.8 at 0.5 door front 0.8 at 1.8")
        lengths = sorted(space.length_m for space in wall_spaces(near, RULES, shape_of(near, "study")))
        self.assertAlmostEqual(lengths[0], 0.5, places=2)
        self.assertAlmostEqual(sum(lengths), 12 - 1.6, places=2)
        assert RULES.plan.wall_spacing is not None
        self.assertEqual(least_sockets(lengths[0], RULES.plan.wall_spacing), 0)

    def test_an_l_is_measured_round_its_inner_corner(self) -> None:
        job = room("study 4 x 4 less 1 x 1 back right")
        [space] = wall_spaces(job, RULES, shape_of(job, "study"))
        self.assertAlmostEqual(space.length_m, 16)
        self.assertTrue(space.closed)

    def test_where_there_is_no_such_rule_nothing_is_said(self) -> None:
        for standard in ("uk", "iec", "anz", "za"):
            with self.subTest(standard):
                job = room("bedroom 6 x 6", standard=standard)
                self.assertEqual(spacing_gaps(job, rule_set(standard)), ())

    @settings(deadline=None)
    @given(st.lists(st.floats(0, 1), min_size=1, max_size=12), st.floats(1, 40), st.booleans())
    def test_the_furthest_point_is_what_a_walk_along_the_wall_finds(
        self, shares: list[float], length: float, closed: bool
    ) -> None:
        at = sorted(share * length for share in shares)
        space = WallSpace(length_m=length, sockets=tuple(at), closed=closed)

        def away(place: float, socket: float) -> float:
            straight = abs(place - socket)
            return min(straight, length - straight) if closed else straight

        walked = max(min(away(step * length / 400, each) for each in at) for step in range(401))
        self.assertLessEqual(walked, space.furthest_m + 1e-9)
        self.assertGreaterEqual(walked, space.furthest_m - length / 400)


if __name__ == "__main__":
    unittest.main()
