"""Material, cuts, fixing and quotes over HTTP."""

from __future__ import annotations

import datetime
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from vivid_lattice.api.bodies import DocumentAnswer, DocumentRequest
from vivid_lattice.api.routes import ComputingRoute
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.price_list import with_price
from vivid_lattice.core.document.purchase import Article, Money
from vivid_lattice.core.document.quote import QuotedOption
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.material.buying import millimetres, prices_of_lengths
from vivid_lattice.core.material.line import GROUPS, CutList, Group, Material, group_title
from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.fixing.fixing_plan import FixingPlan, fixing_plan
from vivid_lattice.core.plan.house_plan import house_plan
from vivid_lattice.core.quote.changes import QuoteChange, quote_changes
from vivid_lattice.core.quote.options import option_title, priced_options
from vivid_lattice.core.quote.quote import Sums, quote_of, saved_quote
from vivid_lattice.core.quote.work import LabourRow, WorkLine, labour_units
from vivid_lattice.core.rules import rule_set

router = APIRouter(prefix="/api/material", tags=["material"], route_class=ComputingRoute)


class BuyingLine(BaseModel):
    """A line to buy. ``packs``: what is bought of it; ``cost`` none: the quantity or the price is not known."""

    group: Group
    article: str
    what: Text
    quantity: float | None
    unit: str
    each: float | None
    pack: int
    packs: float | None
    cost: float | None
    note: Text
    rooms: dict[str, float]


class CutPiece(BaseModel):
    """A piece of a length: what for, and how long."""

    label: Text
    length_m: float


class CutLength(BaseModel):
    """A length with the pieces cut from it, and its rest."""

    length_m: float
    at_hand: bool
    pieces: list[CutPiece]
    rest_m: float


class LengthPrice(BaseModel):
    """A length that an article is sold in, and its price; none: not known."""

    article: str
    length_m: float
    sold_as: str
    each: float | None


class CutView(BaseModel):
    """How an article is cut; no ``lengths``: to length by the merchant. ``gap``: by what share a cheaper plan could cost less; ``sold``: the
    lengths it could be bought in."""

    article: str
    what: Text
    lengths: list[CutLength]
    pieces: list[CutPiece]
    gap: float
    sold: list[LengthPrice]


class GroupView(BaseModel):
    """A group of the list by its title."""

    id: Group
    title: Text


class MaterialView(BaseModel):
    """The list of a document, how it is cut, and what could not be counted."""

    groups: list[GroupView]
    lines: list[BuyingLine]
    cuts: list[CutView]
    missing: list[Text]
    cost: float
    unpriced: int


class OptionView(BaseModel):
    """An option with its title, and what it comes to."""

    title: Text
    priced: QuotedOption


class QuoteView(BaseModel):
    """A document priced. ``sums`` none: ``lacks`` says what a quote needs; ``changes``: since the quote that was saved last."""

    material: MaterialView
    work: list[WorkLine]
    labour: list[LabourRow]
    hours: float
    sums: Sums | None
    lacks: list[Text]
    excluded: list[Text]
    changes: list[QuoteChange]


class PriceRequest(BaseModel):
    """The price of an article, of a pack of so many; ``each`` none: no price any more."""

    document: Job
    article: Article
    each: Money | None
    pack: Annotated[int, Field(ge=1, le=10_000)] = 1


class SaveQuoteRequest(BaseModel):
    """A document and the revision that it was saved as; none: not saved."""

    document: Job
    revision: Annotated[int, Field(ge=1)] | None = None


@router.post("/fixing")
def fixing_of_plan(request: DocumentRequest) -> FixingPlan:
    """How the plan of a document is fixed, drilled, chased and marked out."""
    job = checked(request.document)
    rules = rule_set(job.job.rules)
    return fixing_plan(job, rules, house_plan(job, rules))


@router.post("/price")
def price_of_article(request: PriceRequest) -> DocumentAnswer:
    """The document with the price of an article in its price list."""
    return DocumentAnswer(document=checked(with_price(request.document, request.article, request.each, request.pack)))


@router.post("/quote")
def show_quote(request: DocumentRequest) -> QuoteView:
    """A document priced, with its material, its hours, and what changed since the last quote."""
    job = checked(request.document)
    network = Installation.of(job, rule_set(job.job.rules))
    quote = quote_of(job)
    changes: list[QuoteChange] = []
    if job.quotes and quote.sums is not None:
        now = saved_quote(job, quote, (), revision=None, today=datetime.datetime.now().date())
        changes = list(quote_changes(job.quotes[-1], now))
    return QuoteView(
        material=_material(network, quote.material),
        work=list(quote.work),
        labour=list(labour_units(network)),
        hours=quote.hours,
        sums=quote.sums,
        lacks=list(quote.lacks),
        excluded=list(quote.excluded),
        changes=changes,
    )


@router.post("/quote/options")
def options_of_quote(request: DocumentRequest) -> list[OptionView]:
    """The options that the terms of a document name, each priced side by side."""
    job = checked(request.document)
    words = rule_set(job.job.rules).words
    return [OptionView(title=option_title(each.option, words), priced=each) for each in priced_options(job)]


@router.post("/quote/save")
def save_quote(request: SaveQuoteRequest) -> DocumentAnswer:
    """The document with a quote saved in it as it is now: it stays as it was made."""
    job = checked(request.document)
    today = datetime.datetime.now().date()
    made = saved_quote(job, quote_of(job), priced_options(job), revision=request.revision, today=today)
    return DocumentAnswer(document=checked(job.model_copy(update={"quotes": (*job.quotes, made)})))


def _material(network: Installation, held: Material) -> MaterialView:
    lines = [
        BuyingLine(
            group=line.group, article=line.article, what=line.what, quantity=line.quantity, unit=line.unit, each=line.each,
            pack=line.pack, packs=line.packs, cost=line.cost, note=line.note, rooms=dict(line.rooms),
        )
        for line in held.items
    ]  # fmt: skip
    groups = [GroupView(id=group, title=group_title(group, network.rules.words)) for group in GROUPS]
    return MaterialView(
        groups=[group for group in groups if any(line.group == group.id for line in lines)],
        lines=lines,
        cuts=[_cut(network, cut_list) for cut_list in held.cuts],
        missing=list(held.missing),
        cost=held.cost,
        unpriced=held.unpriced,
    )


def _cut(network: Installation, cut_list: CutList) -> CutView:
    waiting: dict[int, list[Text]] = {}
    for piece in cut_list.pieces:
        waiting.setdefault(millimetres(piece.length_m), []).append(piece.label)
    lengths = [
        CutLength(
            length_m=cut.stock.length_mm / 1000,
            at_hand=cut.stock.have is not None,
            pieces=[CutPiece(label=waiting[mm].pop(0), length_m=mm / 1000) for mm in cut.pieces_mm],
            rest_m=cut.rest_mm / 1000,
        )
        for cut in (cut_list.plan.cuts if cut_list.plan is not None else ())
    ]
    sold = [
        LengthPrice(
            article=f"{cut_list.article}:{length:g}", length_m=length, each=each,
            sold_as=network.rules.fixing.sold_length(length),
        )
        for length, each in prices_of_lengths(network.job, cut_list, network.rules.fixing)
    ]  # fmt: skip
    return CutView(
        article=cut_list.article,
        what=cut_list.what,
        lengths=lengths,
        pieces=[CutPiece(label=piece.label, length_m=piece.length_m) for piece in cut_list.pieces],
        gap=cut_list.plan.gap if cut_list.plan is not None else 0.0,
        sold=sold,
    )
