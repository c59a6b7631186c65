"""What the tokens of a typed line mean together: which sizes, loads, counts, powers and room are meant."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.entry.parsed_line import NotedTokens, ParsedLine, TypedLoad, Unused
from vivid_lattice.core.entry.rooms import NamedRoom, job_room, room_of_word
from vivid_lattice.core.entry.source_words import source_kind
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.customary import token

_JOINERS = frozenset({"and", "+", "&", "/", "plus", "with", "for", "und", "mit", "für"})
_ROOM_NAMES: Mapping[str, str] = {"bath": "Bathroom", "outdoors": "Outside", "pool": "Pool", "sauna": "Sauna room"}


def settle(line: ParsedLine, noted: NotedTokens, rooms: Sequence[Room]) -> None:
    """Completes a line by what was noted of its tokens; what belongs to nothing is reported as unused."""
    _LineMeaning(line, noted, rooms).settle()


class _LineMeaning:
    def __init__(self, line: ParsedLine, noted: NotedTokens, rooms: Sequence[Room]):
        self._line, self._noted, self._rooms = line, noted, rooms

    def _unused(self, text: str, reason: Text) -> None:
        self._line.unused.append(Unused(text, reason))

    def settle(self) -> None:
        """Completes the line."""
        line = self._line
        if not line.loads and not line.source_word:
            line.loads = self._noted.alone[:1]
        self._sizes()
        self._loads()
        self._powers()
        self._room()
        self._earth()
        self._noted.name.sort()
        name = " ".join(word for _, word in self._noted.name)
        name = re.sub(
            r"^(?:[&+/-]|and|with|for)\s+|\s+(?:[&+/-]|and|with|for|at|in|on|of|the)$", "", name.strip(), flags=re.I
        )
        line.name = name[:120]
        if line.source_word and not line.loads:
            self._source()

    def _source(self) -> None:
        """A source on a circuit of its own; a generator is connected at a changeover, and is no circuit."""
        kind = source_kind(piece.raw for piece in self._noted.pieces)
        if kind is None or kind == "generator":
            self._unused(self._line.source_word, message(None, "core.entry.line.generator"))
            return
        self._line.source = kind
        for number, (_, watts, text) in enumerate(self._noted.powers):
            if number == 0:
                self._line.source_w = watts
            else:
                self._unused(text, message(None, "core.entry.line.second_power"))

    def _earth(self) -> None:
        """A resistance is that of an electrode; protection against a broken PEN conductor is a charging point's."""
        line = self._line
        if line.electrode_ohm is not None and not {"electrode", "neutral-link"} & set(line.earth):
            self._unused(f"{line.electrode_ohm:g}Ω", message(None, "core.entry.line.no_electrode"))
            line.electrode_ohm = None
        if line.open_pen and not any(load.load == "charger" for load in line.loads):
            self._unused("open-PEN", message(None, "core.entry.line.no_charger"))

    def _sizes(self) -> None:
        """The first size is the line conductor's; one beside 'cpc' or 'earth' the protective conductor's."""
        for index, size, text in self._noted.sizes:
            beside_cpc = any(abs(index - word) == 1 for word in self._noted.cpc_words)
            if (
                beside_cpc
                and (self._line.conductor is not None or len(self._noted.sizes) > 1)
                and self._line.cpc_mm2 is None
            ):
                self._line.cpc_mm2 = size.area_mm2
            elif self._line.conductor is None:
                self._line.conductor = size
                self._line.cpc_mm2 = size.cpc_mm2 or self._line.cpc_mm2
                self._line.cores = size.cores or self._line.cores
            else:
                self._unused(text, message(None, "core.entry.line.second_size"))

    def _loads(self) -> None:
        """Which of several words for loads are loads: the last of a compound is, what is joined by 'and' is too."""
        line, loads = self._line, list[TypedLoad]()
        for load in sorted(line.loads, key=lambda load: load.position):
            before = loads[-1] if loads else None
            load.joined = before is not None and self._joined(before, load)
            if before is None or self._is_further(before, load):
                loads.append(load)
            else:
                loads[-1] = self._merged(before, load) if self._is_same(before, load) else load
        line.loads = loads
        self._ring()
        self._cooker_socket()

    def _is_same(self, before: TypedLoad, load: TypedLoad) -> bool:
        """Whether two words mean the same load."""
        if load.joined and load.kind == before.kind:
            return not self._powers_apart(before, load)
        return load.load is not None and load.load == before.load

    def _is_further(self, before: TypedLoad, load: TypedLoad) -> bool:
        """Whether a word is a load apart from the one before it."""
        if load.joined:
            return load.kind != before.kind or self._powers_apart(before, load)
        return before.load == "socket" and load.load not in ("socket", "lamp")

    def _ring(self) -> None:
        """Two cables to sockets are a ring; what feeds no socket is none."""
        line = self._line
        sockets = any(load.load == "socket" for load in line.loads)
        if line.circuit is None and sockets and line.conductor is not None and line.conductor.cables == 2:
            line.circuit = "ring"
        if line.circuit == "ring" and line.loads and not sockets:
            self._unused("ring", message(None, "core.entry.line.ring"))

    def _cooker_socket(self) -> None:
        """'cooker and socket' is a cooker whose control unit has a socket."""
        line = self._line
        if line.circuit is not None or len(line.loads) != 2:
            return
        cookers = [load for load in line.loads if load.load == "cooker"]
        second = line.loads[1]
        if len(cookers) == 1 and second.load == "socket" and second.joined:
            line.with_socket, line.loads = True, cookers

    def _powers_apart(self, before: TypedLoad, load: TypedLoad) -> bool:
        """Whether each of two loads has a power behind it."""
        return any(before.position < index < load.position for index, _, _ in self._noted.powers)

    def _merged(self, before: TypedLoad, load: TypedLoad) -> TypedLoad:
        """Two words for the same load: a ring goes before a radial, 'radial' alone says nothing more."""
        narrower = (
            load.load == "socket" and before.circuit != "ring" and token(load.name) != "radial" and not load.joined
        )
        named = load if narrower else before
        words = [*before.text, "and", *load.text] if load.joined else [*before.text, *load.text]
        return TypedLoad(text=words, kind=named.kind, load=named.load, circuit=named.circuit, position=before.position)

    def _joined(self, before: TypedLoad, load: TypedLoad) -> bool:
        between = [
            piece
            for piece in self._noted.pieces
            if before.position + len(before.text) - 1 < piece.index < load.position
        ]
        return any(piece.low in _JOINERS for piece in between) or any(
            piece.part != self._noted.pieces[0].part for piece in between
        )

    def _powers(self) -> None:
        """A count belongs to the load behind it, a power to the load before it, else to the next."""
        loads = self._line.loads
        for index, number in self._noted.counts:
            behind = next((load for load in loads if load.position > index), loads[-1] if loads else None)
            if behind is None or behind.count is not None:
                self._unused(f"{number}", message(None, "core.entry.line.count"))
            else:
                behind.count = number
        drawing = [load for load in loads if load.load not in (None, "socket")]
        for index, watts, text in self._noted.powers:
            before = [load for load in drawing if load.position < index]
            self._give_power(before[-1] if before else drawing[0] if drawing else None, watts, text)

    def _give_power(self, owner: TypedLoad | None, watts: float, text: str) -> None:
        if owner is None:
            if self._line.loads:
                self._unused(text, message(None, "core.entry.line.socket_power"))
            elif not self._line.source_word:
                self._unused(text, message(None, "core.entry.line.no_load"))
        elif owner.power_w is not None:
            self._unused(text, message(None, "core.entry.line.second_power"))
        else:
            owner.power_w = watts

    def _room(self) -> None:
        line = self._line
        if line.room is not None:
            return
        if self._noted.room_words and any(load.load is not None for load in line.loads):
            _, text, kind = self._noted.room_words[0]
            room = job_room(self._rooms, text)
            line.room = NamedRoom(room.name, room.kind, room.id) if room else room_of_word(self._rooms, text, kind)
        elif line.room_kind is not None:
            line.room = room_of_word(self._rooms, _ROOM_NAMES.get(line.room_kind, line.room_kind), line.room_kind)
