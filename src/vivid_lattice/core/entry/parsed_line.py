"""What a typed line states, and what its words are while it is read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from vivid_lattice.core.document.energy_source import SourceKind
from vivid_lattice.core.document.job import CircuitKind, Line, LoadKind
from vivid_lattice.core.document.local_device import LocalDevice, LocalDeviceKind
from vivid_lattice.core.document.rooms import RoomKind
from vivid_lattice.core.entry.conductors import ConductorSize
from vivid_lattice.core.entry.devices import TypedDevice
from vivid_lattice.core.entry.earth_words import EarthWord
from vivid_lattice.core.entry.rooms import NamedRoom
from vivid_lattice.core.messages import Joined, Message, Text, message


@dataclass(frozen=True, slots=True)
class Unused:
    """A token that nothing of the line uses, and why."""

    text: str
    reason: Text


def unused_text(unused: Sequence[Unused]) -> Message:
    """What is not used of a line, each token with the reason, as one sentence."""
    items = [message(None, "core.entry.unused", word=token.text, reason=token.reason) for token in unused]
    return message(None, "core.entry.unused_all", list=Joined.of(items))


@dataclass(slots=True, kw_only=True)
class TypedLoad:
    """A load that a line names. ``count`` None: no number typed; ``kind``: key of the customary circuits."""

    text: list[str]
    kind: str
    load: LoadKind | None
    circuit: CircuitKind
    position: int
    count: int | None = None
    power_w: float | None = None
    joined: bool = False

    @property
    def name(self) -> str:
        """The words that name it, beginning with a capital."""
        text = " ".join(self.text)
        return text[:1].upper() + text[1:]


@dataclass(slots=True, kw_only=True)
class ParsedLine:
    """What a line states. None or empty: it says nothing of it.

    length_m, ambient_c, depth_mm, in_insulation_mm, circuits_grouped, method   how the cable runs
    circuit     'ring' or 'radial', as typed; ``kind``: the kind of circuit, where a table's own column states it
    phases_rule how its phases follow where none is typed: 'volts-240', 'where-three', 'over-7.2-kW'; ``volts_typed``: from a typed voltage
    name_given  the name is a cell or a label of its own and stays as it is
    current_a   load current that was typed as such (``draws 16A``)
    device      the protective device; ``conductor`` and ``cable``: size and kind of the cable
    isolator_a  rating of its local switch or isolator
    local       kinds of devices outside the board; ``local_devices``: whole ones, from a table
    earth       what is said of its earth, in the order typed; ``electrode_ohm``: of its own electrode
    source      a source in parallel with the supply, and its output [W]
    open_pen    protected against a broken PEN conductor; ``clean_earth``: its outlets have a protective conductor of their own
    notes       words that name a part which is not of the circuit: its switch, its isolator, the tariff
    """

    text: str
    number: int | None = None
    name: str = ""
    name_given: bool = False
    loads: list[TypedLoad] = field(default_factory=list)
    circuit: CircuitKind | None = None
    kind: CircuitKind | None = None
    device: TypedDevice = field(default_factory=TypedDevice)
    conductor: ConductorSize | None = None
    cpc_mm2: float | None = None
    cable: str | None = None
    cores: int | None = None
    cpc_separate: bool = False
    length_m: float | None = None
    method: str | None = None
    in_insulation_mm: float | None = None
    depth_mm: float | None = None
    ambient_c: float | None = None
    circuits_grouped: int | None = None
    current_a: float | None = None
    power_factor: float | None = None
    room: NamedRoom | None = None
    room_kind: RoomKind | None = None
    lines: tuple[Line, ...] = ()
    neutral: bool | None = None
    phases_rule: str = ""
    volts_typed: bool = False
    use: str | None = None
    continuous: bool = False
    distributed: bool = False
    tested: bool = False
    with_socket: bool = False
    isolator_a: float | None = None
    local: list[LocalDeviceKind] = field(default_factory=list)
    local_devices: tuple[LocalDevice, ...] = ()
    earth: list[EarthWord] = field(default_factory=list)
    electrode_ohm: float | None = None
    source: SourceKind | None = None
    source_w: float | None = None
    source_a: float | None = None
    open_pen: bool = False
    clean_earth: bool = False
    notes: list[str] = field(default_factory=list)
    source_word: str = ""
    shared_rcd: bool = False
    unused: list[Unused] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Piece:
    """A word of the line: as typed, its tokens for comparison, the part between commas it is in, its place in the line."""

    raw: str
    compared: tuple[str, ...]
    part: int
    index: int

    @property
    def low(self) -> str:
        return self.raw.casefold().rstrip(".")


@dataclass(slots=True)
class NotedTokens:
    """What tokens state whose meaning depends on the rest of the line, each with its place in it.

    pieces      every word that was read
    name        words of the name
    powers      power [W] and its text;  counts: a number of what follows
    sizes       conductor sizes and their text;  cpc_words: words for the protective conductor
    room_words  words for a room and its kind
    alone       loads of words that name one only where nothing else does
    """

    pieces: list[Piece] = field(default_factory=list)
    name: list[tuple[int, str]] = field(default_factory=list)
    powers: list[tuple[int, float, str]] = field(default_factory=list)
    counts: list[tuple[int, int]] = field(default_factory=list)
    sizes: list[tuple[int, ConductorSize, str]] = field(default_factory=list)
    cpc_words: list[int] = field(default_factory=list)
    room_words: list[tuple[int, str, RoomKind]] = field(default_factory=list)
    alone: list[TypedLoad] = field(default_factory=list)
