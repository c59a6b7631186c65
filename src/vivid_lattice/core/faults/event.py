"""What may happen in an installation: the event, where, and how much of it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel, Id
from vivid_lattice.core.document.job import Line
from vivid_lattice.core.messages import Message, Vocabulary, message

FaultKind = Literal[
    "overload",
    "line-neutral",
    "line-line",
    "line-earth",
    "neutral-earth",
    "leakage",
    "nail",
    "surge",
    "open-neutral",
    "voltage",
    "neutral-wrong-bar",
    "neutrals-swapped",
    "rcd-neutral-crossed",
    "borrowed-neutral",
    "loose-terminal",
]

#: The fields that count, by kind.
KIND_FIELDS: dict[FaultKind, tuple[str, ...]] = {
    "overload": ("circuit", "at", "amps", "standby"),
    "line-neutral": ("circuit", "at", "line", "ohm", "standby"),
    "line-line": ("circuit", "at", "line", "ohm", "standby"),
    "line-earth": ("circuit", "at", "line", "ohm", "standby"),
    "neutral-earth": ("circuit", "at", "standby"),
    "leakage": ("circuit", "at", "milliamps", "waveform", "standby"),
    "nail": ("circuit", "at", "standby"),
    "surge": ("surge_kv",),
    "open-neutral": ("electrode_ohm", "running"),
    "voltage": ("volts",),
    "neutral-wrong-bar": ("circuit", "other", "running"),
    "neutrals-swapped": ("rcd", "other_rcd", "running"),
    "rcd-neutral-crossed": ("rcd", "running"),
    "borrowed-neutral": ("circuit", "other", "running"),
    "loose-terminal": ("circuit", "ohm", "running"),
}


def kind_title(kind: FaultKind, words: Vocabulary) -> Message:
    """What a kind of event is called in the words of a standard."""
    return message(words, f"core.fault.kind.{kind}")


class FaultEvent(DocumentModel):
    """An event. Which fields count depends on its kind; ``at`` is the share of the run from the board (0) to its end (1),
    of a ring to its furthest point.

    ``running``: share of every circuit's load that runs during that time; none: what diversity lets run at once.
    """

    kind: FaultKind
    circuit: Id | None = None
    other: Annotated[
        Id | None, Field(description="The circuit whose neutral is used, or beside which a neutral is put.")
    ] = None
    rcd: Annotated[str | None, Field(max_length=90, description="A residual-current device, as board:part.")] = None
    other_rcd: Annotated[str | None, Field(max_length=90)] = None
    at: Annotated[float, Field(ge=0, le=1)] = 1.0
    line: Line | None = None
    amps: Annotated[float, Field(gt=0, le=10_000, description="Of an overload.")] = 50.0
    ohm: Annotated[
        float, Field(ge=0, le=100_000, description="Resistance of the fault itself, or of a loose terminal.")
    ] = 0.0
    milliamps: Annotated[float, Field(gt=0, le=10_000, description="Of a leakage.")] = 30.0
    waveform: Literal["ac", "pulsating", "smooth"] = "ac"
    volts: Annotated[float, Field(ge=0, le=600, description="Of a supply that wanders, line to neutral.")] = 280.0
    surge_kv: Annotated[float, Field(gt=0, le=20)] = 6.0
    electrode_ohm: Annotated[
        float, Field(gt=0, le=5000, description="Earthed metal of the house itself, to true earth.")
    ] = 20.0
    running: Annotated[float, Field(ge=0, le=1)] | None = None
    standby: (
        Annotated[Id, Field(description="The board that is on its standby supply; none: the supply is on.")] | None
    ) = None
