"""What a learner does at a board, one act after the other: the record that a session is replayed from."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.training.leads import Function, Point

#: A device by the circuit that it is of; '' is the main switch of the board.
_Device = Annotated[str, Field(max_length=60)]
_Circuit = Annotated[str, Field(min_length=1, max_length=60)]


class Look(DocumentModel):
    """A circuit looked at, with its accessories closed, or open once they are."""

    act: Literal["look"] = "look"
    circuit: _Circuit


class Switch(DocumentModel):
    """A device switched off or on."""

    act: Literal["switch"] = "switch"
    device: _Device = ""
    on: bool


class Lock(DocumentModel):
    """A device that is off locked and tagged, or unlocked."""

    act: Literal["lock"] = "lock"
    device: _Device = ""
    locked: bool = True


class ProveIndicator(DocumentModel):
    """The voltage indicator proved on a known source."""

    act: Literal["prove-indicator"] = "prove-indicator"


class ProveDead(DocumentModel):
    """Every pair of conductors of a circuit tested with the indicator."""

    act: Literal["prove-dead"] = "prove-dead"
    circuit: _Circuit


class Open(DocumentModel):
    """The covers of the accessories of a circuit off, or on again."""

    act: Literal["open"] = "open"
    circuit: _Circuit
    opened: bool = True


class TakeOff(DocumentModel):
    """Electronics, dimmers and surge modules of a circuit disconnected, or put back."""

    act: Literal["take-off"] = "take-off"
    circuit: _Circuit
    off: bool = True


class NullLeads(DocumentModel):
    """The leads of the tester shorted and nulled."""

    act: Literal["null"] = "null"


class Measure(DocumentModel):
    """The leads connected for a test of something, and the display read."""

    act: Literal["measure"] = "measure"
    test: ReadingKind
    subject: ReadingSubject


class Connect(DocumentModel):
    """The tester set to a function, its leads on two points of a circuit, or of the supply: '', and the display read."""

    act: Literal["connect"] = "connect"
    function: Function
    first: Point
    second: Point
    at: _Device = ""


class Hint(DocumentModel):
    """A hint taken, where the level has one left."""

    act: Literal["hint"] = "hint"


class Name(DocumentModel):
    """A defect named, with its place and its danger. ``circuit`` '': of the whole installation."""

    act: Literal["name"] = "name"
    defect: Annotated[str, Field(min_length=1, max_length=80)]
    circuit: Annotated[str, Field(max_length=60)] = ""
    danger: Literal["now", "soon", "hidden", "none"] | None = None


class Finish(DocumentModel):
    """The attempt ended: everything that is wrong is named."""

    act: Literal["finish"] = "finish"


Act = Annotated[
    Look
    | Switch
    | Lock
    | ProveIndicator
    | ProveDead
    | Open
    | TakeOff
    | NullLeads
    | Measure
    | Connect
    | Hint
    | Name
    | Finish,
    Field(discriminator="act"),
]
