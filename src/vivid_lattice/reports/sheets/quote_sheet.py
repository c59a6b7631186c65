"""The last quote: our copy with cost prices, hours and what changed; the client's without any cost price."""

from __future__ import annotations

from collections.abc import Iterator

from reportlab.platypus import Flowable

from vivid_lattice.core.document.quote import QuotedLine, SavedQuote
from vivid_lattice.core.errors import BadDocument, DocumentProblem
from vivid_lattice.core.material.line import GROUPS, group_title
from vivid_lattice.core.quote.changes import QuoteChange, quote_changes
from vivid_lattice.core.quote.options import option_title
from vivid_lattice.reports import style
from vivid_lattice.reports.grid import Column, Grid, GridCell, Row
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.sheet import Boxed, Heading, PdfDocument, bullets, facts, paper, soft
from vivid_lattice.reports.sheets.parts import head_of


def last_quote(data: ReportData) -> SavedQuote:
    """The quote that was saved last. BadDocument where there is none."""
    if not data.job.quotes:
        raise BadDocument([DocumentProblem("quotes", data.say("documents.no_quote"))])
    return data.job.quotes[-1]


def ours(data: ReportData) -> PdfDocument:
    """Our copy."""
    return paper(data, data.say("documents.kind.quote.title"), list(_story(data, client=False)))


def client(data: ReportData) -> PdfDocument:
    """The client's copy."""
    return paper(data, data.say("documents.kind.quote-client.title"), list(_story(data, client=True)))


def money(quote: SavedQuote, coins: int | None) -> str:
    """An amount with its currency; '' of none."""
    return "" if coins is None else f"{quote.currency}{coins / 100:,.2f}"


def _story(data: ReportData, *, client: bool) -> Iterator[Flowable]:
    quote = last_quote(data)
    yield from head_of(data, data.say("documents.kind.quote.title"))
    made_from = data.say("documents.page.no_revision") if quote.revision is None else f"{quote.revision}"
    yield facts(
        [
            (data.say("documents.quote.number"), f"{quote.number}"),
            (data.say("documents.quote.made_on"), quote.made_on),
            (data.say("documents.quote.valid_until"), quote.valid_until),
            (data.say("documents.quote.revision"), made_from),
        ]
    )
    yield from (_scope(data, quote) if client else _priced(data, quote))
    yield Heading(data.say("documents.quote.price"))
    yield Grid([Column(head="", share=4), Column(head="", share=1.2, align="right")], list(_sums(data, quote, client)))
    if quote.options:
        yield Heading(data.say("documents.quote.options"))
        yield Grid(
            [
                Column(head="", share=3),
                Column(head=data.say("documents.quote.net"), share=1.2, align="right"),
                Column(head=data.say("documents.quote.total"), share=1.2, align="right"),
            ],
            list(_options(data, quote)),
        )
    if quote.excluded:
        yield Boxed(data.say("documents.quote.excluded"), list(quote.excluded), style.OF_VERDICT["missing"])
    if client:
        yield Heading(data.say("documents.quote.acceptance"))
        yield soft(data.say("documents.quote.acceptance_text", date=quote.valid_until), after=18)
        yield Grid(
            [Column(head="", share=1), Column(head="", share=1), Column(head="", share=1)],
            [
                Row(
                    [
                        data.say(f"documents.quote.sign.{part}") + " ____________________"
                        for part in ("name", "date", "sign")
                    ]
                )
            ],
        )
    elif len(data.job.quotes) > 1:
        before = data.job.quotes[-2]
        yield Heading(data.say("documents.quote.changed", n=before.number))
        changes = [_change(data, quote, each) for each in quote_changes(before, quote)]
        yield from bullets(changes or [data.say("documents.quote.nothing_changed")])


def _groups(quote: SavedQuote) -> Iterator[tuple[str, list[QuotedLine]]]:
    for group in GROUPS:
        lines = [line for line in quote.lines if line.group == group]
        if lines:
            yield group, lines


def _title(data: ReportData, group: str) -> str:
    return str(group_title(group, data.network.rules.words))  # type: ignore[arg-type]


def _scope(data: ReportData, quote: SavedQuote) -> Iterator[Flowable]:
    """What the client gets: things and quantities, no prices of parts."""
    rows = []
    for group, lines in _groups(quote):
        rows.append(Row([GridCell(text=_title(data, group)), ""], band=True))
        rows += [Row([line.text, _quantity(line)]) for line in lines]
    yield Heading(data.say("documents.quote.scope"))
    yield Grid([Column(head="", share=4), Column(head="", share=1, align="right")], rows)
    yield soft(data.say("documents.quote.work_included"))


def _quantity(line: QuotedLine) -> str:
    return "" if line.quantity is None else f"{line.quantity:g} {line.unit}"


def _priced(data: ReportData, quote: SavedQuote) -> Iterator[Flowable]:
    rows = []
    for group, lines in _groups(quote):
        rows.append(Row([GridCell(text=_title(data, group)), "", "", ""], band=True))
        rows += [
            Row([line.text, _quantity(line), money(quote, line.each_coins), money(quote, line.cost_coins)])
            for line in lines
        ]
    yield Heading(data.say("documents.quote.material"))
    heads = (
        "",
        data.say("documents.quote.quantity"),
        data.say("documents.quote.each"),
        data.say("documents.quote.cost"),
    )
    shares = (4, 1, 1, 1)
    yield Grid(
        [
            Column(head=head, share=share, align="right" if head else "left")
            for head, share in zip(heads, shares, strict=True)
        ],
        rows,
    )
    yield Heading(data.say("documents.quote.work"))
    yield Grid(
        [
            Column(head="", share=4),
            Column(head=data.say("documents.quote.quantity"), share=1, align="right"),
            Column(head=data.say("documents.quote.hours"), share=1, align="right"),
        ],
        [Row([work.text, f"{work.quantity:g} {work.unit}", f"{work.hours:.2f}"]) for work in quote.work],
    )


def _sums(data: ReportData, quote: SavedQuote, client: bool) -> Iterator[Row]:
    parts = [
        ("net", quote.net_coins),
        ("tax", quote.tax_coins),
        ("total", quote.gross_coins),
    ]
    if not client:
        parts = [
            ("material_sold", quote.material_coins),
            ("labour", quote.labour_coins),
            ("overhead", quote.overhead_coins),
            *parts,
        ]
    for name, coins in parts:
        label = data.say(f"documents.quote.{name}")
        if name == "tax":
            label = f"{label} {quote.tax_pct:g} %"
        if name == "labour":
            label = f"{label}, {quote.hours:.2f} h"
        bold = name == "total"
        yield Row([GridCell(text=label, bold=bold), GridCell(text=money(quote, coins), bold=bold)])


def _options(data: ReportData, quote: SavedQuote) -> Iterator[Row]:
    for option in quote.options:
        title = str(option_title(option.option, data.network.rules.words))
        if option.not_possible:
            yield Row([f"{title}: {option.not_possible}", "–", "–"])
        else:
            yield Row([title, money(quote, option.net_coins), money(quote, option.gross_coins)])


def _change(data: ReportData, quote: SavedQuote, change: QuoteChange) -> str:
    return data.say(
        f"documents.quote.change.{change.what}",
        text=change.text,
        before="–" if change.before is None else f"{change.before:g}",
        now="–" if change.now is None else f"{change.now:g}",
        cost_before=money(quote, change.before_coins) or "–",
        cost_now=money(quote, change.now_coins) or "–",
    )
