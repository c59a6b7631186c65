"""What the application asks of a test instrument. An adapter of a real tester has the methods of ``TestInstrument`` and raises these errors."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from vivid_lattice.core.document.readings import ReadingId, ReadingKind, ReadingSubject
from vivid_lattice.core.messages import Text, message

#: Why an instrument gives no reading. Each has a text of its own that says what to do.
REFUSALS = (
    "live-circuit",
    "leads-not-nulled",
    "null-refused",
    "battery-low",
    "no-earth",
    "voltage-out-of-range",
    "wrong-mode",
    "not-connected",
    "connection-lost",
    "not-understood",
)


class InstrumentRefused(Exception):
    """The instrument gives no reading. ``reason``: one of ``REFUSALS``. Nothing is entered; what was read before stays."""

    def __init__(self, reason: str):
        self.reason = reason if reason in REFUSALS else "not-understood"
        super().__init__(str(self.text))

    @property
    def text(self) -> Text:
        """What it says, and what to do."""
        return message(None, f"core.instrument.{self.reason.replace('-', '_')}")


@dataclass(frozen=True, slots=True, kw_only=True)
class InstrumentIdentity:
    """Which instrument it is: what a reading has to name."""

    name: str
    serial: str
    calibrated_on: str


@dataclass(frozen=True, slots=True, kw_only=True)
class InstrumentReading:
    """A reading as the instrument has displayed it. ``id``: chosen by the one who asked, so that asking twice gives the same reading;
    ``text``: as it is typed: 0.42, >999."""

    id: ReadingId
    test: ReadingKind
    subject: ReadingSubject
    text: str
    no_trip: bool = False


class TestInstrument(Protocol):
    """An adapter of a test instrument. Every method raises InstrumentRefused."""

    def identify(self) -> InstrumentIdentity:
        """Which instrument it is."""
        ...

    def null_leads(self) -> float:
        """Subtracts the resistance of the leads from now on; returns it [Ω]."""
        ...

    def read(
        self, identity: ReadingId, test: ReadingKind, subject: ReadingSubject, *, no_trip: bool = False
    ) -> InstrumentReading:
        """Takes a reading. Asked again with the same id, it gives the same reading and measures nothing."""
        ...

    def stored(self) -> tuple[InstrumentReading, ...]:
        """Readings in the memory of the instrument that were not acknowledged yet, the oldest first."""
        ...

    def acknowledge(self, identities: tuple[ReadingId, ...]) -> None:
        """Has the instrument forget readings that are saved elsewhere."""
        ...
