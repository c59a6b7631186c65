"""A quote worked out: material by the price list, hours by the rate, overhead and tax; and an option's."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.quote import QuotedLine, QuotedOption, QuotedWork, SavedQuote
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.line import Material
from vivid_lattice.core.material.material import material
from vivid_lattice.core.material.money import coins, share_coins
from vivid_lattice.core.messages import Text, message, speaking
from vivid_lattice.core.quote.work import WorkLine, work_of
from vivid_lattice.core.rules import rule_set


@dataclass(frozen=True, slots=True, kw_only=True)
class Sums:
    """What a job comes to, in coins. ``material``: at what it is sold for, the markup in it."""

    cost: int
    material: int
    labour: int
    overhead: int
    net: int
    tax: int
    gross: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Quote:
    """A job priced. ``lacks``: what it does not have for a quote that can be given: a rate, a tax; ``excluded``: what is not in it."""

    material: Material
    work: tuple[WorkLine, ...]
    hours: float
    sums: Sums | None
    lacks: tuple[Text, ...]
    excluded: tuple[Text, ...]


def quote_of(job: Job) -> Quote:
    """A job priced as it is.

    Equation  material = Σ round(packs · price) · (1 + markup); labour = hours · rate; overhead on both; net = all of it;
              tax on the net at the end. Every line and every share is rounded to the coin, half up.
    Source    runs.price, common practice
    """
    network = Installation.of(job, rule_set(job.job.rules))
    held = material(network)
    work = work_of(network)
    hours = round(sum(line.hours for line in work), 2)
    terms = job.quote
    lacks: list[Text] = []
    if terms.rate is None:
        lacks.append(message(None, "core.quote.lack.rate"))
    if terms.tax_pct is None:
        lacks.append(message(None, "core.quote.lack.tax"))
    if held.items and held.unpriced == len(held.items):
        lacks.append(message(None, "core.quote.lack.prices"))
    excluded: list[Text] = [
        message(None, "core.quote.unmeasured" if line.quantity is None else "core.quote.excluded", what=line.what)
        for line in held.items
        if line.cost is None
    ]
    return Quote(
        material=held,
        work=work,
        hours=hours,
        sums=None if lacks else _sums(job, held, hours),
        lacks=tuple(lacks),
        excluded=(*excluded, *held.missing),
    )


def _sums(job: Job, held: Material, hours: float) -> Sums:
    terms = job.quote
    assert terms.rate is not None and terms.tax_pct is not None
    cost = coins(held.cost)
    sold = cost + share_coins(cost, terms.markup_pct)
    labour = coins(hours * terms.rate)
    overhead = share_coins(sold + labour, terms.overhead_pct)
    net = sold + labour + overhead
    tax = share_coins(net, terms.tax_pct)
    return Sums(cost=cost, material=sold, labour=labour, overhead=overhead, net=net, tax=tax, gross=net + tax)


def saved_quote(
    job: Job, quote: Quote, options: Sequence[QuotedOption], *, revision: int | None, today: datetime.date
) -> SavedQuote:
    """A quote as it is saved: frozen, with the revision that it was made from.

    Raises  NeedsInput where the rate, the tax or all prices are missing
    """
    sums, terms = quote.sums, job.quote
    if sums is None:
        lack = quote.lacks[0]
        raise NeedsInput(Need(lack, "quote", lack))
    with speaking(job.settings.language):
        return SavedQuote(
            number=max((each.number for each in job.quotes), default=0) + 1,
            made_on=today.isoformat(),
            valid_until=(today + datetime.timedelta(days=terms.valid_days)).isoformat(),
            revision=revision,
            currency=terms.currency,
            lines=tuple(
                QuotedLine(
                    group=line.group, article=line.article, text=str(line.what)[:400], quantity=line.packs, unit=line.unit,
                    each_coins=None if line.each is None else coins(line.each),
                    cost_coins=None if line.cost is None else coins(line.cost),
                )
                for line in quote.material.items
            ),
            work=tuple(
                QuotedWork(
                    work=line.work, text=str(line.title)[:400], quantity=line.quantity, unit=line.unit, hours=line.hours
                )
                for line in quote.work
            ),
            excluded=tuple(str(text)[:400] for text in quote.excluded),
            hours=quote.hours,
            material_coins=sums.material,
            labour_coins=sums.labour,
            overhead_coins=sums.overhead,
            net_coins=sums.net,
            tax_pct=terms.tax_pct or 0.0,
            tax_coins=sums.tax,
            gross_coins=sums.gross,
            options=tuple(options),
        )  # fmt: skip
