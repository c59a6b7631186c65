"""What the user states of an article: its price by the list, and a length that was measured on site."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.document.job import Prices
from vivid_lattice.core.document.purchase import Purchase
from vivid_lattice.core.material.line import MaterialLine


def priced(line: MaterialLine, prices: Prices) -> MaterialLine:
    """A line with the price of its article, where the list names it; else as it is."""
    found = next((each for each in prices.articles if each.article == line.article), None)
    return line if found is None else replace(line, each=found.each, pack=found.pack)


def measured(line: MaterialLine, purchase: Purchase) -> MaterialLine:
    """A line of unknown length with the length that was measured of its article; else as it is."""
    found = next((each.length_m for each in purchase.measured if each.article == line.article), None)
    return line if line.quantity is not None or found is None else replace(line, quantity=found)
