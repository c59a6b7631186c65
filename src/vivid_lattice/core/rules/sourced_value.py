"""A figure from a rule set, with where it is."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.messages import Text
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True)
class SourcedValue:
    """A figure looked up: its value, where it is, and how the row was chosen if that was not plain."""

    value: float
    source: Source
    basis: Text = ""
