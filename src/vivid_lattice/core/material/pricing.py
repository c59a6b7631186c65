"""The price of an article by the user's own list."""

from __future__ import annotations

from dataclasses import replace

from vivid_lattice.core.document.job import Prices
from vivid_lattice.core.material.line import MaterialLine


def priced(line: MaterialLine, prices: Prices) -> MaterialLine:
    """A line with the price of its article, where the list names it; else as it is."""
    found = next((each for each in prices.articles if each.article == line.article), None)
    return line if found is None else replace(line, each=found.each, pack=found.pack)
