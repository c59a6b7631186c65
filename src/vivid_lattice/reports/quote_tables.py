"""The last quote as tables: ours with cost prices, the client's without."""

from __future__ import annotations

from vivid_lattice.core.document.quote import SavedQuote
from vivid_lattice.core.quote.options import option_title
from vivid_lattice.reports.report_data import ReportData
from vivid_lattice.reports.tables import Cell, ReportTable


def _money(coins: int | None) -> float | None:
    return None if coins is None else coins / 100


def ours(data: ReportData, quote: SavedQuote) -> list[ReportTable]:
    """Material with prices, hours, sums."""
    material = ReportTable(
        id="quote-material", title="Material",
        heads=("Group", "Article", "What", "Quantity", "Unit", "Each", "Cost"),
        rows=tuple(
            (line.group, line.article, line.text, line.quantity, line.unit, _money(line.each_coins), _money(line.cost_coins))
            for line in quote.lines
        ),
        total=6,
    )  # fmt: skip
    work = ReportTable(
        id="quote-work", title="Work", heads=("Work", "Quantity", "Unit", "Hours"),
        rows=tuple((each.text, each.quantity, each.unit, each.hours) for each in quote.work),
    )  # fmt: skip
    sums = (
        ("Material", quote.material_coins), ("Labour", quote.labour_coins), ("Overhead", quote.overhead_coins), *_client_sums(quote)
    )  # fmt: skip
    return [material, work, _prices(data, quote, sums)]


def client(data: ReportData, quote: SavedQuote) -> list[ReportTable]:
    """What the client gets, and the price of all of it."""
    scope = ReportTable(
        id="quote-scope", title="Scope", heads=("Group", "What", "Quantity", "Unit"),
        rows=tuple((line.group, line.text, line.quantity, line.unit) for line in quote.lines),
    )  # fmt: skip
    return [scope, _prices(data, quote, _client_sums(quote))]


def _client_sums(quote: SavedQuote) -> tuple[tuple[str, int], ...]:
    return ("Net", quote.net_coins), (f"Tax {quote.tax_pct:g} %", quote.tax_coins), ("Total", quote.gross_coins)


def _prices(data: ReportData, quote: SavedQuote, sums: tuple[tuple[str, int], ...]) -> ReportTable:
    facts: list[tuple[Cell, ...]] = [
        ("Quote", quote.number), ("Made on", quote.made_on), ("Valid until", quote.valid_until), ("Revision", quote.revision),
        ("Currency", quote.currency), *((name, _money(coins)) for name, coins in sums),
    ]  # fmt: skip
    facts += [
        (str(option_title(each.option, data.network.rules.words)), each.not_possible or _money(each.gross_coins))
        for each in quote.options
    ]
    facts += [("Not included", text) for text in quote.excluded]
    return ReportTable(id="quote-price", title="Price", heads=("What", "Amount"), rows=tuple(facts))
