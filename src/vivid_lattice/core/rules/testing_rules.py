"""What a rule set says of testing: the tests in their order, how to isolate, how far a reading is to be believed, its limits."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from vivid_lattice.core.rules.document_rules import SourcedText
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source

Sense = Literal["most", "least", "over"]


@dataclass(frozen=True, slots=True, kw_only=True)
class TestStep:
    """A test of the standard's sequence. ``readings``: the readings it gives; ``prepare``: what is disconnected or joined first;
    ``restore``: what is put back; ``caution``: what it does not show."""

    id: str
    order: int
    state: Literal["dead", "live"]
    title: str
    readings: tuple[str, ...]
    before: str
    prepare: str
    how: str
    restore: str
    caution: str
    source: Source


@dataclass(frozen=True, slots=True)
class IsolationStep:
    """A step of safe isolation, and what is recorded of it."""

    number: int
    text: str
    record: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Uncertainty:
    """How far a reading is to be believed: a share of it [%] and an amount in its unit."""

    pct: float
    absolute: float
    source: Source

    def above(self, value: float) -> float:
        """The most that the true value may be."""
        return value * (1 + self.pct / 100) + self.absolute

    def below(self, value: float) -> float:
        """The least that the true value may be, never under 0."""
        return max(0.0, value * (1 - self.pct / 100) - self.absolute)


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreement:
    """Bands of a reading about what it is compared with: inside the first it agrees, outside the second it disagrees.

    Each has a share below and above [%] and an amount in the unit of the reading; the wider of share and amount counts.
    """

    agree_minus_pct: float
    agree_plus_pct: float
    agree_abs: float
    disagree_minus_pct: float
    disagree_plus_pct: float
    disagree_abs: float
    source: Source

    def agrees_from(self, expected: float) -> tuple[float, float]:
        """Least and greatest reading that agrees."""
        return _band(expected, self.agree_minus_pct, self.agree_plus_pct, self.agree_abs)

    def disagrees_from(self, expected: float) -> tuple[float, float]:
        """Below the first and above the second a reading disagrees."""
        return _band(expected, self.disagree_minus_pct, self.disagree_plus_pct, self.disagree_abs)


def _band(expected: float, minus_pct: float, plus_pct: float, absolute: float) -> tuple[float, float]:
    below, above = max(expected * minus_pct / 100, absolute), max(expected * plus_pct / 100, absolute)
    return max(0.0, expected - below), expected + above


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingLimit:
    """A limit of a reading that no other table of the standard holds. ``unit`` may be a multiple of the rated residual current."""

    sense: Sense
    value: float
    unit: str
    standing: str
    source: Source


@dataclass(frozen=True, slots=True)
class RoutineRow:
    """A check between inspections, or kind of premises with the longest usual time to its next one. ``of``: the kind of device it is of."""

    text: str
    months: int
    of: Literal["rcd", "afdd", "spd", "alarm", "board", "inspection"]
    source: Source


#: How soon an observation has to be dealt with: at once, before long, with the next work, or once it is looked into.
Urgency = Literal["now", "soon", "better", "note"]


@dataclass(frozen=True, slots=True)
class ObservationCode:
    """A code of observations, in the standard's own words. ``unsatisfactory``: whether one such makes the whole report so;
    ``action``: what follows from it."""

    code: str
    meaning: str
    urgency: Urgency
    unsatisfactory: bool
    action: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CataloguedObservation:
    """Something that is found at inspections. ``code``: as it is usually coded; ``also``: when otherwise; ``readings``: the kinds of
    reading that can show it, the most typical first; ``system``: the only earthing system it is met in; '' any."""

    id: str
    title: str
    code: str
    also: str
    reason: str
    clause: str
    readings: tuple[str, ...]
    system: str
    source: Source


class TestingRules(Protocol):
    """Testing of a standard. NotTabulated where it holds nothing of it."""

    @property
    def steps(self) -> tuple[TestStep, ...]: ...
    @property
    def isolation(self) -> tuple[IsolationStep, ...]: ...
    @property
    def isolation_source(self) -> Source: ...
    @property
    def temperature(self) -> tuple[float, float, Source]:
        """Share that a conductor's resistance rises by a kelvin, the temperature it is counted from [°C], and the rule."""
        ...

    @property
    def guard(self) -> SourcedValue:
        """Operating uncertainty of an instrument whose own data are not known, as a share."""
        ...

    @property
    def no_trip_rule(self) -> Source: ...
    def rcd_least_ms(self, multiple: float, *, delayed: bool) -> SourcedValue | None:
        """The time before which an RCD may not trip at a multiple of its rated residual current [ms]; None: at once."""
        ...

    def uncertainty(self, reading: str, *, no_trip: bool = False) -> Uncertainty | None:
        """The usual uncertainty of a reading; ``no_trip``: taken without tripping the RCD. None of what has no value."""
        ...

    def agreement(self, reading: str, against: str) -> Agreement | None: ...
    def limits(self, reading: str) -> tuple[ReadingLimit, ...]: ...
    def periodic_insulation(self, *, wet: bool, loads_connected: bool) -> SourcedValue | None:
        """Least insulation of an installation in use [Ω per volt]; None: as that of new work."""
        ...

    @property
    def routine(self) -> tuple[RoutineRow, ...]: ...
    @property
    def codes(self) -> tuple[ObservationCode, ...]:
        """The codes of observations, the most serious first."""
        ...

    @property
    def observations(self) -> tuple[CataloguedObservation, ...]: ...
    @property
    def outcome(self) -> SourcedText:
        """What the outcome of a report follows from."""
        ...
