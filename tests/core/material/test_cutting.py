"""Cutting: the worked examples of the reference, every small case against all placements, larger ones against the simple method."""

from __future__ import annotations

import random
import unittest
from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import combinations_with_replacement

from hypothesis import given, settings
from hypothesis import strategies as st

from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.material.cutting import CutPlan, Stock, cutting, lower_bound, simple_cutting


def partitions(pieces: Sequence[int]) -> Iterator[list[list[int]]]:
    """Every way to share pieces out."""
    if not pieces:
        yield []
        return
    first, rest = pieces[0], pieces[1:]
    for shared in partitions(rest):
        yield [[first], *shared]
        for at in range(len(shared)):
            yield [*shared[:at], [first, *shared[at]], *shared[at + 1 :]]


def best_by_trying(pieces: Sequence[int], stock: Sequence[Stock]) -> tuple[int, int] | None:
    """Least money and, of that, the longest rest: every share, each from the cheapest length that holds it."""
    found: list[tuple[int, int]] = []
    for shared in partitions(pieces):
        options = [[each for each in stock if each.length_mm >= sum(part)] for part in shared]
        if not all(options):
            continue
        cost, rest = 0, 0
        for part, lengths in zip(shared, options, strict=True):
            price = min(each.price or 0 for each in lengths)
            cost += price
            rest = max(rest, max(each.length_mm for each in lengths if (each.price or 0) == price) - sum(part))
        found.append((cost, -rest))
    return min(found) if found else None


def money(plan: CutPlan) -> int:
    return sum(cut.stock.price or 0 for cut in plan.cuts)


class Examples(unittest.TestCase):
    """runs.ex.cut.*, na.runs.ex.coils, uk.runs.ex.cut-list, anz.runs.ex.conduit-lengths of the reference."""

    def cut(self, pieces: Sequence[int], *stock: tuple[int, int | None], saw: int = 0) -> CutPlan:
        return cutting(pieces, [Stock(length, price) for length, price in stock], saw_mm=saw)

    def test_two_drums_where_first_fit_takes_three(self) -> None:
        pieces = [14, 15, 24, 13, 18, 11]
        plan = self.cut(pieces, (50, None))
        self.assertEqual((len(plan.cuts), plan.rests_mm, plan.gap), (2, (5, 0), 0.0))
        self.assertEqual(len(simple_cutting(pieces, [Stock(50)]).cuts), 3)

    def test_no_two_long_pieces_share_a_drum(self) -> None:
        pieces = [33, 30, 28, 27, 21]
        self.assertEqual(len(self.cut(pieces, (50, None)).cuts), 4)
        self.assertEqual(lower_bound(pieces, 50), 4)

    def test_the_cheapest_of_two_sizes_of_ring(self) -> None:
        plan = self.cut([40, 31, 24, 14, 9], (25, 2200), (100, 7000))
        self.assertEqual((plan.price, plan.bought), (9200, Counter({25: 1, 100: 1})))

    def test_rigid_lengths_with_a_saw(self) -> None:
        self.assertEqual(len(self.cut([3000, 1300, 1600, 1350, 950], (3000, None), saw=3).cuts), 3)
        self.assertEqual(len(self.cut([4000, 1200, 2900, 2400, 1000], (4000, None), saw=3).cuts), 3)
        # 1.5 + 1.5 m of a length of 3 m is too long by what the saw takes.
        self.assertEqual(len(self.cut([1500, 1500], (3000, None), saw=3).cuts), 2)
        self.assertEqual(len(self.cut([1500, 1500], (3000, None)).cuts), 1)

    def test_coils_with_the_longest_single_rest(self) -> None:
        plan = self.cut([88, 73, 61, 42, 38, 29], (50, 4200), (100, 7600), (250, 16500))
        self.assertEqual((plan.price, plan.rests_mm), (24100, (18, 1)))
        self.assertEqual({cut.pieces_mm for cut in plan.cuts}, {(88, 73, 42, 29), (61, 38)})

    def test_rings_of_a_british_house(self) -> None:
        sockets = self.cut([22_400, 17_800, 9_600], (25_000, 2100), (50_000, 3800), (100_000, 7200))
        lights = self.cut([31_500, 14_200, 12_900, 8_300, 6_600], (25_000, 1500), (50_000, 2700), (100_000, 4600))
        self.assertEqual((sockets.price, lights.price), (3800, 4600))

    def test_an_exact_fit_is_allowed_and_a_millimetre_more_is_not(self) -> None:
        self.assertEqual(len(self.cut([30_000, 20_000], (50_000, None)).cuts), 1)
        self.assertEqual(len(self.cut([30_000, 20_001], (50_000, None)).cuts), 2)

    def test_a_rest_at_hand_is_used_first(self) -> None:
        stock = [Stock(100, 7000), Stock(40, 0, 1)]
        plan = cutting([30, 10], stock)
        self.assertEqual((plan.price, plan.bought), (0, Counter()))
        self.assertEqual(cutting([30, 20], stock).price, 7000)

    def test_a_piece_longer_than_any_length_is_refused(self) -> None:
        with self.assertRaisesRegex(NotPossible, "120 m is longer"):
            self.cut([120_000], (100_000, None))

    def test_nothing_to_cut(self) -> None:
        self.assertEqual(self.cut([], (50, None)).cuts, ())


class AgainstEveryPlacement(unittest.TestCase):
    """Small cases, all ways to share the pieces out tried."""

    def test_each_multiset_of_few_lengths(self) -> None:
        stock = [Stock(10, 11), Stock(16, 17), Stock(25, 24)]
        for count in range(1, 6):
            for pieces in combinations_with_replacement((3, 5, 8, 11, 14), count):
                with self.subTest(pieces=pieces):
                    plan = cutting(pieces, stock)
                    best = best_by_trying(pieces, stock)
                    assert best is not None
                    self.assertEqual((money(plan), -max(plan.rests_mm), plan.gap), (*best, 0.0))

    def test_seven_random_pieces(self) -> None:
        rng = random.Random(7)
        for _ in range(25):
            pieces = [rng.randint(2, 24) for _ in range(7)]
            stock = [Stock(25, rng.randint(20, 40)), Stock(50, rng.randint(40, 70))]
            best = best_by_trying(pieces, stock)
            assert best is not None
            plan = cutting(pieces, stock)
            self.assertEqual((money(plan), -max(plan.rests_mm)), best)


class Laws(unittest.TestCase):
    """Whatever is cut."""

    @settings(deadline=None, max_examples=30)
    @given(
        st.lists(st.integers(300, 24_000), min_size=1, max_size=24),
        st.lists(st.sampled_from([(25_000, 1500), (50_000, 2700), (100_000, 4600)]), min_size=1, max_size=3, unique=True),
        st.integers(0, 5),
    )  # fmt: skip
    def test_every_piece_is_cut_once_and_never_dearer_than_first_fit(
        self, pieces: list[int], lengths: list[tuple[int, int]], saw: int
    ) -> None:
        stock = [Stock(length, price) for length, price in lengths]
        plan = cutting(pieces, stock, saw_mm=saw)
        self.assertEqual(Counter(piece for cut in plan.cuts for piece in cut.pieces_mm), Counter(pieces))
        for cut in plan.cuts:
            used = sum(cut.pieces_mm) + saw * (len(cut.pieces_mm) - 1)
            self.assertEqual(cut.stock.length_mm - used, cut.rest_mm)
            self.assertGreaterEqual(cut.rest_mm, 0)
        simple = simple_cutting(pieces, stock, saw_mm=saw)
        self.assertLessEqual(money(plan), money(simple))
        self.assertGreaterEqual(plan.gap, 0.0)

    def test_a_large_job_is_never_dearer_than_the_simple_method(self) -> None:
        rng = random.Random(3)
        pieces = [rng.randint(1500, 24_000) for _ in range(150)]
        stock = [Stock(25_000, 1500), Stock(50_000, 2700), Stock(100_000, 4600)]
        plan, simple = cutting(pieces, stock), simple_cutting(pieces, stock)
        self.assertLessEqual(money(plan), money(simple))
        self.assertLess(plan.gap, 0.1)

    @given(st.lists(st.integers(1, 50), min_size=1, max_size=9))
    @settings(deadline=None, max_examples=40)
    def test_the_bound_is_never_above_what_is_needed(self, pieces: list[int]) -> None:
        self.assertLessEqual(lower_bound(pieces, 50), len(cutting(pieces, [Stock(50)]).cuts))
