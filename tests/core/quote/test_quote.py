"""Quotes: every sum by hand, coins half up, options, saved quotes and what changed; the worked examples of the reference."""

from __future__ import annotations

import datetime
import unittest
from functools import cache

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.browser.test_testing import house
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.price_list import is_article, with_price
from vivid_lattice.core.document.purchase import MeasuredLength, StockLength
from vivid_lattice.core.document.quote import ExtraWork, LabourUnit, QuoteTerms, SavedQuote
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.material.line import MaterialLine
from vivid_lattice.core.material.material import material
from vivid_lattice.core.material.money import coins, share_coins
from vivid_lattice.core.quote.changes import quote_changes
from vivid_lattice.core.quote.options import option_job, priced_options
from vivid_lattice.core.quote.quote import quote_of, saved_quote
from vivid_lattice.core.quote.work import labour_units, work_of
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import demo_job

TODAY = datetime.date(2026, 11, 30)
TERMS = QuoteTerms(currency="£", rate=45.0, tax_pct=20.0, markup_pct=15.0, overhead_pct=10.0)


@cache
def small() -> Job:
    return house("kitchen ring 40m", "lights 30m", "cooker 32A 12m")


def installation(job: Job) -> Installation:
    return Installation.of(job, rule_set(job.job.rules))


def with_terms(job: Job, **more: object) -> Job:
    return job.model_copy(update={"quote": TERMS.model_copy(update=more)})


def priced(job: Job, each: float = 10.0) -> Job:
    for line in material(installation(job)).items:
        job = with_price(job, line.article, each)
    return job


class Money(unittest.TestCase):
    """Coins."""

    def test_half_a_coin_goes_up_and_binary_fractions_do_not_matter(self) -> None:
        self.assertEqual([coins(each) for each in (1.005, 2.675, 0.125, 8.25, 7.5 * 1.1)], [101, 268, 13, 825, 825])
        self.assertEqual(share_coins(1050, 17.5), 184)

    def test_a_pack_is_bought_whole(self) -> None:
        clips = MaterialLine(group="fixing", article="a", what="Clips", quantity=20, unit="pcs", each=2.4, pack=100)
        self.assertEqual((clips.packs, clips.cost), (1.0, 2.4))
        over = MaterialLine(group="fixing", article="a", what="Clips", quantity=101, unit="pcs", each=2.4, pack=100)
        self.assertEqual((over.packs, over.cost), (2.0, 4.8))

    def test_a_passage_of_two_way_lights(self) -> None:
        """uk.runs.ex.material."""
        lines = ((1, 15.0), (7.5, 1.1), (1, 2.35), (2, 1.8), (2, 0.65), (1, 2.4), (2, 0.9))
        costs = [
            MaterialLine(group="cable", article=str(n), what="", quantity=many, unit="pcs", each=each).cost or 0.0
            for n, (many, each) in enumerate(lines)
        ]
        self.assertEqual(sum(coins(cost) for cost in costs), 3470)


class Hours(unittest.TestCase):
    """Labour units."""

    def test_the_small_job_of_the_reference(self) -> None:
        """runs.ex.labour: 6.67 h."""
        usual = {row.work: row.hours for row in labour_units(installation(small()))}
        work = {"socket": 3, "box-masonry": 3, "chase-masonry": 6, "cable-void": 18, "connect": 1, "test": 1}
        self.assertAlmostEqual(sum(usual[name] * many for name, many in work.items()), 6.67)

    def test_the_factor_and_own_units_and_added_work(self) -> None:
        job = with_terms(
            small(),
            factor=1.3,
            labour=(LabourUnit(work="test", hours=1.0),),
            extra=(ExtraWork(name="Travel", hours=2.0),),
        )
        lines = {line.work: line for line in work_of(installation(job))}
        self.assertAlmostEqual(lines["test"].hours, 3 * 1.0 * 1.3)
        self.assertAlmostEqual(lines["connect"].hours, 3 * 0.35 * 1.3, places=3)
        self.assertEqual(lines["extra:1"].hours, 2.0)

    def test_a_planned_house_has_its_points_holes_and_chases(self) -> None:
        lines = {line.work: line.quantity for line in work_of(installation(demo_job("millrace")))}
        self.assertEqual(lines["light"], 18)
        self.assertGreater(lines["hole-timber"], 50)
        self.assertGreater(lines["chase-masonry"], 50)
        self.assertEqual((lines["connect"], lines["test"]), (16, 16))

    def test_a_board_alone_needs_no_cable(self) -> None:
        job = small()
        board = job.model_copy(update={"work_details": job.work_details.model_copy(update={"kind": "board-replaced"})})
        self.assertEqual({line.work for line in work_of(installation(board))}, {"connect", "test", "board"})
        held = material(installation(board))
        self.assertFalse([line for line in held.items if line.group == "cable"])
        self.assertTrue(any("there already" in str(each) for each in held.missing))


class Sums(unittest.TestCase):
    """Of a job as it is typed."""

    def test_nothing_is_quoted_that_lacks_a_rate_a_tax_or_prices(self) -> None:
        quote = quote_of(small())
        self.assertIsNone(quote.sums)
        self.assertEqual(len(quote.lacks), 3)
        with self.assertRaises(NeedsInput):
            saved_quote(small(), quote, (), revision=1, today=TODAY)
        self.assertIsNone(quote_of(with_terms(priced(small()), tax_pct=None)).sums)
        self.assertIsNotNone(quote_of(with_terms(priced(small()), tax_pct=0.0)).sums)

    def test_every_sum_by_hand(self) -> None:
        job = with_terms(priced(small()))
        quote = quote_of(job)
        assert quote.sums is not None
        cost = sum(coins((line.packs or 0) * 10.0) for line in quote.material.items if line.cost is not None)
        sold = cost + share_coins(cost, 15)
        labour = coins(quote.hours * 45)
        overhead = share_coins(sold + labour, 10)
        net = sold + labour + overhead
        self.assertEqual(
            (quote.sums.cost, quote.sums.material, quote.sums.labour, quote.sums.overhead, quote.sums.net),
            (cost, sold, labour, overhead, net),
        )
        self.assertEqual((quote.sums.tax, quote.sums.gross), (share_coins(net, 20), net + share_coins(net, 20)))

    def test_what_has_no_price_is_named_and_not_counted(self) -> None:
        job = with_terms(priced(small()))
        line = next(each for each in material(installation(job)).items if each.group == "device")
        without = with_price(job, line.article, None)
        before, now = quote_of(job), quote_of(without)
        assert before.sums is not None and now.sums is not None
        self.assertEqual(before.sums.cost - now.sums.cost, coins((line.packs or 0) * 10.0))
        self.assertTrue(any(str(line.what) in str(each) for each in now.excluded))

    @settings(deadline=None, max_examples=12)
    @given(st.floats(0, 60), st.floats(0, 40), st.floats(0, 25))
    def test_parts_add_up_whatever_the_shares(self, markup: float, overhead: float, tax: float) -> None:
        job = with_terms(_PRICED, markup_pct=markup, overhead_pct=overhead, tax_pct=tax)
        sums = quote_of(job).sums
        assert sums is not None
        self.assertEqual(sums.net, sums.material + sums.labour + sums.overhead)
        self.assertEqual(sums.gross, sums.net + sums.tax)


_PRICED = priced(small())


class Prices(unittest.TestCase):
    """Prices by article."""

    def test_a_drum_has_its_own_price_and_the_cheapest_are_bought(self) -> None:
        job = small()
        for length, each in ((25, 21.0), (50, 38.0), (100, 72.0)):
            job = with_price(job, f"cable:flat-twin-pvc:2x2.5:{length}", each)
        lines = {line.article: line for line in material(installation(job)).items}
        # 42 m in one piece.
        self.assertEqual(lines["cable:flat-twin-pvc:2x2.5:50"].cost, 38.0)
        self.assertNotIn("cable:flat-twin-pvc:2x2.5:25", lines)
        dear = with_price(job, "cable:flat-twin-pvc:2x2.5:50", 90.0)
        self.assertIn("cable:flat-twin-pvc:2x2.5:100", {line.article for line in material(installation(dear)).items})
        gone = with_price(dear, "cable:flat-twin-pvc:2x2.5:50", None)
        self.assertEqual(len(gone.purchase.stock), 2)

    def test_cut_to_length_where_that_is_cheaper(self) -> None:
        job = with_price(small(), "cable:flat-twin-pvc:2x2.5:50", 38.0)
        job = with_price(job, "cable:flat-twin-pvc:2x2.5", 0.85)
        [line] = [
            each for each in material(installation(job)).items if each.article.startswith("cable:flat-twin-pvc:2x2.5")
        ]
        self.assertEqual((line.quantity, line.unit, line.cost), (42.0, "m", 35.7))

    def test_a_rest_at_hand_costs_nothing(self) -> None:
        stock = (StockLength(article="cable:flat-twin-pvc:2x2.5", length_m=45.0, at_hand=1),)
        job = small().model_copy(update={"purchase": small().purchase.model_copy(update={"stock": stock})})
        [line] = [
            each for each in material(installation(job)).items if each.article.startswith("cable:flat-twin-pvc:2x2.5")
        ]
        self.assertEqual((line.quantity, line.cost), (0.0, 0.0))
        self.assertIn("rests in stock", str(line.note))

    def test_a_measured_length_fills_what_was_open(self) -> None:
        job = small()
        line = next(each for each in material(installation(job)).items if each.group == "bonding")
        self.assertIsNone(line.quantity)
        measured = (MeasuredLength(article=line.article, length_m=7.5),)
        job = job.model_copy(update={"purchase": job.purchase.model_copy(update={"measured": measured})})
        self.assertEqual(
            next(each for each in material(installation(job)).items if each.article == line.article).quantity, 7.5
        )

    def test_articles_are_told_from_kinds(self) -> None:
        self.assertEqual(
            [is_article(each) for each in ("box:junction-box", "mcb", ": x", "B16: x")], [True, False, False, False]
        )

    def test_every_article_is_one_and_stays_the_same_in_another_job(self) -> None:
        lines = material(installation(small())).items
        self.assertTrue(all(is_article(line.article) for line in lines))
        renamed = small().model_copy(
            update={"boards": tuple(b.model_copy(update={"name": "Other"}) for b in small().boards)}
        )
        self.assertEqual(
            [line.article for line in material(installation(renamed)).items], [line.article for line in lines]
        )


class Saved(unittest.TestCase):
    """Quotes that stay as they were made."""

    def save(self, job: Job, revision: int | None = 3) -> Job:
        made = saved_quote(job, quote_of(job), priced_options(job), revision=revision, today=TODAY)
        return job.model_copy(update={"quotes": (*job.quotes, made)})

    def test_it_has_its_revision_and_how_long_it_is_valid(self) -> None:
        job = self.save(with_terms(_PRICED, valid_days=14))
        [made] = job.quotes
        self.assertEqual(
            (made.number, made.revision, made.made_on, made.valid_until), (1, 3, "2026-11-30", "2026-12-14")
        )
        self.assertEqual(read_document(to_text(job).encode()).quotes, job.quotes)

    def test_it_does_not_change_with_the_job(self) -> None:
        job = self.save(with_terms(_PRICED))
        dearer = self.save(with_terms(priced(job, 20.0)), 4)
        first, second = dearer.quotes
        self.assertEqual(first, job.quotes[0])
        self.assertGreater(second.gross_coins, first.gross_coins)
        self.assertEqual({change.what for change in quote_changes(first, second)}, {"price"})

    def test_what_came_and_went_is_told(self) -> None:
        before = self.save(with_terms(_PRICED)).quotes[0]
        more = house("kitchen ring 40m", "lights 30m", "cooker 32A 12m", "shower 40A 10m")
        after: SavedQuote = self.save(with_terms(priced(more))).quotes[0]
        changes = quote_changes(before, after)
        self.assertTrue(any(change.what == "added" and "10 mm²" in change.text for change in changes))
        self.assertTrue(any(change.what == "hours" and change.now and change.before for change in changes))
        back = quote_changes(after, before)
        self.assertTrue(any(change.what == "removed" for change in back))
        self.assertEqual(quote_changes(before, before), ())


class Options(unittest.TestCase):
    """Side by side."""

    def test_shared_devices_cost_less_than_one_each_and_both_pass(self) -> None:
        job = with_terms(
            priced(house("kitchen ring 40m", "lights 30m", "sockets 20A radial 20m", "cooker 32A 12m")),
            options=("rcbo", "shared-rcd"),
        )
        for option in ("rcbo", "shared-rcd"):
            made = option_job(job, option)  # type: ignore[arg-type]
            assert isinstance(made, Job), str(made)
        rcbo, shared = priced_options(job)
        self.assertEqual(
            (rcbo.option, shared.option, rcbo.not_possible, shared.not_possible), ("rcbo", "shared-rcd", "", "")
        )
        self.assertNotEqual(rcbo.gross_coins, shared.gross_coins)

    def test_an_option_that_fails_a_check_is_none(self) -> None:
        job = with_terms(demo_job("millrace"), options=("without-spd", "designed"))
        without, designed = priced_options(job)
        self.assertIn("Surge protection required", without.not_possible)
        self.assertEqual(without.gross_coins, 0)
        self.assertGreater(designed.gross_coins, 0)

    def test_surge_protection_is_added_where_there_is_none(self) -> None:
        job = small().model_copy(
            update={"boards": tuple(board.model_copy(update={"spds": ()}) for board in small().boards)}
        )
        made = option_job(job, "with-spd")
        assert isinstance(made, Job)
        self.assertEqual(sum(len(board.spds) for board in made.boards), 1)
