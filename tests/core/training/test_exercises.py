"""Exercises without a board: exactly one right answer each, the same by number, and the order in which they come again."""

from __future__ import annotations

import datetime
import unittest

from tests.core.training.test_boards import STANDARDS
from tests.exercises_judged import right_options
from vivid_lattice.core.rules import standard_ids
from vivid_lattice.core.training.exercises.exercise import ExerciseKind
from vivid_lattice.core.training.exercises.find_mistake import worked, wrong_lines
from vivid_lattice.core.training.exercises.maker import KINDS, exercise, kinds_of
from vivid_lattice.core.training.exercises.repetition import TOPICS, Given, due, next_exercise

DAY = datetime.date(2026, 3, 2)


class OneRightAnswer(unittest.TestCase):
    """Of each kind in each standard; 10,000 in tests/slow/test_exercises.py."""

    def test_exactly_one_option_is_right_and_it_is_the_one_that_is_named(self) -> None:
        for standard in standard_ids():
            for kind in kinds_of(standard):
                for number in range(6):
                    made = exercise(standard, kind, number)
                    with self.subTest(standard, kind=kind, number=number):
                        self.assertEqual(right_options(made), [made.right])
                        self.assertEqual(len({str(each) for each in made.options}), len(made.options))
                        self.assertTrue(all(str(each) for each in (made.question, *made.answer, *made.lines)))
                        self.assertTrue(made.source.publication)

    def test_the_same_number_is_the_same_exercise_and_others_differ(self) -> None:
        for standard in STANDARDS:
            for kind in kinds_of(standard):
                first, again = exercise(standard, kind, 5), exercise(standard, kind, 5)
                self.assertEqual(([*map(str, first.options)], first.facts), ([*map(str, again.options)], again.facts))
                several = {str(exercise(standard, kind, n).facts) for n in range(30)}
                self.assertGreater(len(several), 3, (standard, kind))

    def test_no_option_is_always_the_right_one(self) -> None:
        for standard in STANDARDS:
            for kind in kinds_of(standard):
                right = {exercise(standard, kind, n).right for n in range(30)}
                self.assertGreater(len(right), 1, (standard, kind))

    def test_a_calculation_without_a_mistake_has_no_wrong_line(self) -> None:
        given = {"power": 3000.0, "volts": 230.0, "per_m": 7.03, "cpc_per_m": 11.7, "length": 20.0, "ahead": 0.35}
        for what in ("drop", "loop"):
            self.assertEqual(wrong_lines(what, worked(what, given, -1)), ())
            for mistaken in range(4):
                self.assertEqual(wrong_lines(what, worked(what, given, mistaken)), (mistaken,))
        # By hand: 3000/230 = 13.04 A; 2 · 7.03 · 20 / 1000 = 0.2812 Ω; 3.66 V; 1.59 %.
        at = worked("drop", given, -1)
        self.assertEqual([at[name] for name in ("current", "both_ways", "drop", "percent")], [13.0, 0.281, 3.65, 1.59])


class ComingAgain(unittest.TestCase):
    """Spaced by what went wrong."""

    def given(self, kind: ExerciseKind, topic: str, days_ago: int, right: bool) -> Given:
        number = next(n for n in range(1, 500) if exercise("uk", kind, n).topic == topic)
        return Given("uk", kind, number, DAY - datetime.timedelta(days=days_ago), right)

    def test_every_topic_is_met_where_the_standard_has_its_kind(self) -> None:
        for standard in ("uk", "iec", "anz", "za", "na"):
            for kind in kinds_of(standard):
                met = {exercise(standard, kind, number).topic for number in range(120)}
                missing = set(TOPICS[kind]) - met
                # North American breakers have one curve; a protective conductor of the size of the line hides a mistake.
                self.assertLessEqual(
                    missing, {"other-curve", "loop-cold"} if standard != "uk" else set(), (standard, kind)
                )
                self.assertLessEqual(met, set(TOPICS[kind]))

    def test_what_was_never_asked_comes_in_turn_one_of_each_kind(self) -> None:
        self.assertEqual([kind for kind, _ in due("uk", [], DAY)][: len(KINDS)], list(KINDS))
        self.assertEqual([kind for kind, _ in due("na", [], DAY)][:3], ["cable-size", "selective-pair", "find-mistake"])

    def test_what_went_wrong_comes_first_and_what_went_well_waits(self) -> None:
        given = [self.given("rcd-type", "charger", 0, False), self.given("cable-size", "alone", 0, True)]
        order = due("uk", given, DAY)
        self.assertEqual((order[0], order[-1]), (("rcd-type", "charger"), ("cable-size", "alone")))

    def test_the_topic_that_went_wrong_comes_again_with_another_number(self) -> None:
        wrong = self.given("cable-size", "grouped", 0, False)
        for seed in (1, 5000, wrong.number):
            again = next_exercise("uk", [wrong], DAY, seed)
            self.assertEqual((again.kind, again.topic), ("cable-size", "grouped"))
            self.assertNotEqual(again.number, wrong.number)

    def test_exercises_go_on_and_none_comes_twice(self) -> None:
        given: list[Given] = []
        for seed in range(40):
            made = next_exercise("na", given, DAY, 1000 * seed)
            given.append(Given("na", made.kind, made.number, DAY, True))
        self.assertIn("find-mistake", {each.kind for each in given})
        self.assertEqual(len({(each.kind, each.number) for each in given}), 40)

    def test_each_time_it_goes_well_it_waits_longer(self) -> None:
        for times, waits in ((1, 1), (2, 3), (3, 7), (4, 14), (5, 30), (9, 30)):
            for days, is_due in ((waits - 1, False), (waits, True)):
                given = [self.given("neutral-bar", "own", days, True)] * times
                # a topic that is not due comes after those that were never asked
                self.assertEqual(due("uk", given, DAY)[-1] != ("neutral-bar", "own"), is_due, (times, days))

    def test_a_mistake_begins_again(self) -> None:
        given = [self.given("rcd-type", "plain", 40, True)] * 5 + [self.given("rcd-type", "plain", 0, False)]
        self.assertEqual(due("uk", given, DAY)[0], ("rcd-type", "plain"))


if __name__ == "__main__":
    unittest.main()
