"""What a rule set says of papers: which certificate goes with which work, who is told, and what a test has to read."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from vivid_lattice.core.document.work_details import Work
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source

Page = Literal["a4", "letter"]


@dataclass(frozen=True, slots=True)
class SourcedText:
    """A sentence of a rule, and where it is."""

    text: str
    source: Source


@dataclass(frozen=True, slots=True)
class Insulation:
    """The test of insulation: its voltage [V d.c.], the least reading [MΩ], and what to do where something would be hurt by it."""

    volts: float
    least_mohm: float
    note: str
    source: Source


class DocumentRules(Protocol):
    """Papers and tests of a standard."""

    def certificate(self, work: Work) -> SourcedText: ...
    @property
    def notices_to_give(self) -> tuple[SourcedText, ...]: ...
    @property
    def insulation(self) -> Insulation: ...
    @property
    def cold_share(self) -> SourcedValue | None:
        """Share of a loop's limit that a reading on cold conductors may come to; None: the standard names none."""
        ...

    @property
    def rcd_multiples(self) -> tuple[float, ...]:
        """Multiples of its rated residual current that an RCD is tested at; none where the button alone is pressed."""
        ...

    @property
    def page(self) -> Page:
        """The size of paper that is used where the standard is at home."""
        ...

    @property
    def ring_test(self) -> SourcedText | None: ...
    @property
    def polarity(self) -> SourcedText: ...
