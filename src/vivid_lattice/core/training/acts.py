"""What a learner does at a board, one act after the other: the record that a session is replayed from."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vivid_lattice.core.document.base import DocumentModel
from vivid_lattice.core.document.readings import ReadingKind, ReadingSubject
from vivid_lattice.core.training.leads import Function, Point

#: A device by the circuit that it is of, or the shared residual-current device by its own name; '' is the main switch of the board.
_Device = Annotated[str, Field(max_length=60)]
_Circuit = Annotated[str, Field(min_length=1, max_length=60)]
#: What shows whether there is voltage.
Detector = Literal["two-pole", "one-pole", "non-contact", "multimeter"]
#: What is joined at the board for a test.
Link = Literal["none", "line-earth", "line-neutral", "crossed-neutral", "crossed-earth"]
#: What people do to be done sooner, and what is never right, as the rules of training name it.
ShortcutKind = Literal[
    "rcd-out", "bigger-device", "cutout", "voltage-by-touch", "metal-for-earth", "wrong-category", "alone-live",
]  # fmt: skip


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
    """Every pair of conductors of a circuit tested with the indicator, or with something else that is at hand."""

    act: Literal["prove-dead"] = "prove-dead"
    circuit: _Circuit
    by: Detector = "two-pole"


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


class Tell(DocumentModel):
    """The people told what is tested and what has no supply during the test, with their consent; no person at the open ends."""

    act: Literal["tell"] = "tell"


class LinkAtBoard(DocumentModel):
    """Conductors of a circuit joined at the board for a test; ``none``: the link is out again."""

    act: Literal["link"] = "link"
    circuit: _Circuit
    link: Link = "none"


class DisconnectNeutral(DocumentModel):
    """The neutral of a circuit off its bar, or back on it."""

    act: Literal["disconnect-neutral"] = "disconnect-neutral"
    circuit: _Circuit
    off: bool = True


class EarthingConductor(DocumentModel):
    """The earthing conductor taken off the main earthing terminal, or put back."""

    act: Literal["earthing-conductor"] = "earthing-conductor"
    off: bool = True


class Shortcut(DocumentModel):
    """Something that is never right, whatever the board is like."""

    act: Literal["shortcut"] = "shortcut"
    what: ShortcutKind


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
    | Tell
    | LinkAtBoard
    | DisconnectNeutral
    | EarthingConductor
    | Shortcut
    | NullLeads
    | Measure
    | Connect
    | Hint
    | Name
    | Finish,
    Field(discriminator="act"),
]
