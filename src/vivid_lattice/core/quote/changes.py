"""What changed between two quotes: lines that came, went, or have another quantity or price; hours; sums."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.document.quote import SavedQuote


@dataclass(frozen=True, slots=True, kw_only=True)
class QuoteChange:
    """A line that differs. Quantities and money of before and now; None: there was none, or it had no price."""

    what: Literal["added", "removed", "quantity", "price", "hours"]
    text: str
    before: float | None
    now: float | None
    before_coins: int | None
    now_coins: int | None


def quote_changes(before: SavedQuote, now: SavedQuote) -> tuple[QuoteChange, ...]:
    """How a quote differs from the one before it, line by line."""
    return (*_lines(before, now), *_work(before, now))


def _lines(before: SavedQuote, now: SavedQuote) -> Iterator[QuoteChange]:
    old, new = _by_article(before), _by_article(now)
    for article in dict.fromkeys([*old, *new]):
        a, b = old.get(article), new.get(article)
        if a == b:
            continue
        text, quantity, cost = (b or a or ("", None, None))[0], b[1] if b else None, b[2] if b else None
        what: Literal["added", "removed", "quantity", "price"] = (
            "added" if a is None else "removed" if b is None else "quantity" if a[1] != b[1] else "price"
        )
        if a is not None and b is not None and a[1:] == b[1:]:
            continue
        yield QuoteChange(
            what=what, text=text, before=a[1] if a else None, now=quantity, before_coins=a[2] if a else None, now_coins=cost
        )  # fmt: skip


def _by_article(quote: SavedQuote) -> dict[str, tuple[str, float | None, int | None]]:
    """Text, quantity and cost of each article, over all its lines."""
    found: dict[str, list[tuple[str, float | None, int | None]]] = defaultdict(list)
    for line in quote.lines:
        found[line.article].append((line.text, line.quantity, line.cost_coins))
    return {
        article: (
            lines[0][0],
            None if any(each[1] is None for each in lines) else round(sum(each[1] or 0.0 for each in lines), 3),
            None if any(each[2] is None for each in lines) else sum(each[2] or 0 for each in lines),
        )
        for article, lines in found.items()
    }


def _work(before: SavedQuote, now: SavedQuote) -> Iterator[QuoteChange]:
    old, new = ({line.work: line for line in each.work} for each in (before, now))
    for work in dict.fromkeys([*old, *new]):
        a, b = old.get(work), new.get(work)
        if (a.hours if a else 0.0) != (b.hours if b else 0.0):
            text = b.text if b is not None else a.text if a is not None else ""
            yield QuoteChange(
                what="hours", text=text, before=a.hours if a else None, now=b.hours if b else None, before_coins=None,
                now_coins=None,
            )  # fmt: skip
