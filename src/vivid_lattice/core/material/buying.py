"""Pieces of an article bought: the lengths it is sold in, the cheapest way to cut them, and the lines that follow."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.cutting import CutPlan, Stock, cutting
from vivid_lattice.core.material.line import Cut, CutList, Group, MaterialLine
from vivid_lattice.core.material.money import coins
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules.fixing_rules import FixingRules, Goods
from vivid_lattice.core.text import Shown


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A piece of an article: what for, how long [m], in which room ('' : in none)."""

    label: Text
    length_m: float
    room: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Pieces:
    """All pieces of an article. ``metre``: what a metre costs by the price list, None: it does not name it; ``goods``: how it is sold."""

    group: Group
    article: str
    what: Text
    goods: Goods
    pieces: Sequence[Piece]
    metre: float | None


def prices_of_lengths(job: Job, cuts: CutList, rules: FixingRules) -> list[tuple[float, float | None]]:
    """The lengths that an article could be bought in, and what each costs by the job [m]; None: no price yet."""
    own = {
        each.length_m: each.each
        for each in job.purchase.stock
        if each.article == cuts.article and each.length_m is not None and each.at_hand is None
    }
    usual = rules.sold_in_m(cuts.goods)
    return [(length, own.get(length)) for length in sorted({*usual, *own})]


def millimetres(length_m: float) -> int:
    """A length in whole millimetres, up: a piece is not cut short."""
    return -(-round(length_m * 1_000_000) // 1000)


def buy(counting: Counting, wanted: Pieces) -> tuple[list[MaterialLine], CutList]:
    """The lines of an article and how it is cut.

    Whole lengths where it is sold in such and no piece is longer; else cut to length by the metre.
    """
    stock, by_the_metre = _stock(counting.network.job, wanted, counting.network.rules.fixing.sold_in_m(wanted.goods))
    ordered = sorted(wanted.pieces, key=lambda piece: -piece.length_m)
    lengths = [millimetres(piece.length_m) for piece in ordered]
    saw = round(counting.network.rules.fixing.saw_m * 1000) if wanted.goods == "conduit" else 0
    rooms: dict[str, float] = defaultdict(float)
    for piece in wanted.pieces:
        rooms[piece.room] += piece.length_m
    plan: CutPlan | None = None
    if stock:
        try:
            plan = cutting(lengths, stock, saw_mm=saw)
        except NotPossible:
            plan = None
    metre_coins = None if by_the_metre is None else coins(sum(lengths) / 1000 * by_the_metre)
    if plan is not None and metre_coins is not None and (plan.price is None or metre_coins < plan.price):
        plan = None
    pieces = tuple(Cut(piece.label, piece.length_m) for piece in ordered)
    cuts = CutList(article=wanted.article, what=wanted.what, goods=wanted.goods, pieces=pieces, plan=plan)
    if plan is None:
        return [_to_length(counting, wanted, sum(lengths) / 1000, by_the_metre, pieces, rooms)], cuts
    return list(_whole(counting, wanted, plan, stock, pieces, rooms)), cuts


def _stock(job: Job, wanted: Pieces, usual_m: Sequence[float]) -> tuple[list[Stock], float | None]:
    """Lengths of an article with prices, and what a metre cut to length costs: as the job states; the usual ones where it states none."""
    own = [each for each in job.purchase.stock if each.article == wanted.article]
    by_metre = next((each.each for each in own if each.length_m is None), None)
    sold = [each for each in own if each.length_m is not None and each.at_hand is None]
    # What has no price is not compared with what has one.
    sold = [each for each in sold if each.each is not None] or sold
    stock = [
        Stock(millimetres(each.length_m), None if each.each is None else coins(each.each))
        for each in sold
        if each.length_m is not None
    ]
    if not sold and by_metre is None:
        # No length has a price of its own: of a listed price a metre each length costs its share.
        stock = [
            Stock(millimetres(length), None if wanted.metre is None else coins(wanted.metre * length))
            for length in usual_m
        ]
    stock += [
        Stock(millimetres(each.length_m), 0, each.at_hand)
        for each in own
        if each.length_m is not None and each.at_hand is not None
    ]
    return stock, by_metre


def _to_length(
    counting: Counting, wanted: Pieces, metres: float, metre: float | None, pieces: tuple[Cut, ...],
    rooms: Mapping[str, float],
) -> MaterialLine:  # fmt: skip
    return MaterialLine(
        group=wanted.group, article=wanted.article, what=wanted.what, quantity=round(metres, 2), unit="m",
        each=metre if metre is not None else wanted.metre, cuts=pieces,
        note=counting.say("core.material.cut_to_length", n=len(pieces)), rooms=dict(rooms),
    )  # fmt: skip


def _whole(
    counting: Counting, wanted: Pieces, plan: CutPlan, stock: Sequence[Stock], pieces: tuple[Cut, ...],
    rooms: Mapping[str, float],
) -> Iterator[MaterialLine]:  # fmt: skip
    """A line for each length that is bought; the pieces are on the first."""
    prices = {each.length_mm: each.price for each in stock if each.have is None}
    bought: Counter[int] = plan.bought
    rest = counting.say(
        "core.material.cut_note", n=len(pieces), m=Shown(f"{sum(piece.length_m for piece in pieces):.2f}"),
        rest=Shown(f"{sum(plan.rests_mm) / 1000:.2f}"),
    )  # fmt: skip
    for number, (length_mm, many) in enumerate(sorted(bought.items(), reverse=True)):
        price = prices[length_mm]
        yield MaterialLine(
            group=wanted.group,
            article=f"{wanted.article}:{length_mm / 1000:g}",
            what=counting.say(
                "core.material.length",
                what=wanted.what,
                length=Shown(counting.network.rules.fixing.sold_length(length_mm / 1000)),
            ),
            quantity=float(many),
            unit="pcs",
            each=None if price is None else price / 100,
            cuts=pieces if number == 0 else (),
            note=rest if number == 0 else "",
            rooms=dict(rooms) if number == 0 else {},
        )
    if not bought:
        yield MaterialLine(
            group=wanted.group, article=wanted.article, what=wanted.what, quantity=0.0, unit="m", each=0.0, cuts=pieces,
            note=counting.say("core.material.from_rests"), rooms=dict(rooms),
        )  # fmt: skip
