"""A line of trade shorthand into what it states: ``cooker B32 6mm 14m 9kW``, ``7 mcb 30 type 2 4mm shower``.

The one parser of the typed line, the survey and the tables. Order is free. A name is made of words for loads and rooms and
of plain words; a token with a number or a unit that nothing uses is reported, never dropped and never made part of a name.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from typing import Literal, cast

from vivid_lattice.core.document.job import LINES, CircuitKind, LoadKind
from vivid_lattice.core.document.rcd import RCD_TYPES
from vivid_lattice.core.document.rooms import Room, RoomKind
from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.entry import spelling
from vivid_lattice.core.entry.conductors import ConductorSize, conductor
from vivid_lattice.core.entry.devices import DEVICE_WORDS, EMPTY_WORDS, device_kind
from vivid_lattice.core.entry.earth_words import EarthWord, earth_word
from vivid_lattice.core.entry.line_meaning import settle
from vivid_lattice.core.entry.local_words import local_device
from vivid_lattice.core.entry.parsed_line import NotedTokens, ParsedLine, Piece, TypedLoad, Unused
from vivid_lattice.core.entry.rooms import NamedRoom, job_room, room_of_word, room_word_at
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.customary import Customary, EverydayWord, customary, token, tokens
from vivid_lattice.core.rules.protocol import RuleSet

Kind = Literal["circuit", "way", "name"]

#: More of one thing on a circuit is a slip of the finger.
_MAX_COUNT = 500
#: Words of the longest phrase in the customary words.
_MAX_PHRASE = 5
#: Where a line begins with one of these, it is part of the name as well as a method: the loft sockets.
_PLACES = frozenset({"loft", "attic", "roof"})
#: Before these words, a word of a method is the name of a storey: ground floor.
_STOREYS = frozenset({"floor", "level", "storey", "story"})
_LOAD_CURRENT = frozenset({"draw", "load", "ib", "take", "running", "runs", "fla", "flc"})
_LINE_NAME = re.compile(r"^l([123])$", re.IGNORECASE)
_LINE_NAMES = re.compile(r"^l[123](?:[+/&]?l[123])+$", re.IGNORECASE)
_PHASES = re.compile(
    r"^(?:([123])-?(?:p|ph|phase|~|pole)|(single|one|two|double|three)-(?:pole|phase))$", re.IGNORECASE
)
_PHASE_WORDS = {"single": 1, "one": 1, "two": 2, "double": 2, "three": 3}
_CURVE_RATING = re.compile(r"^([bcd])(\d{1,3}(?:\.\d)?)a?$", re.IGNORECASE)
_RATING_CURVE = re.compile(r"^(\d{1,3})([bcd])$", re.IGNORECASE)
_OLD_RATING = re.compile(r"^([lhgu])(6|10|16|20|25|32)a?$", re.IGNORECASE)
_COUNT = re.compile(r"^(\d{1,4})x$", re.IGNORECASE)
_COUNT_POWER = re.compile(r"^(\d{1,3})x(\d+(?:\.\d+)?k?v?[aw])$", re.IGNORECASE)
_CORE_COUNT = re.compile(r"^([2-5])(?:c|core|cores|-core)$", re.IGNORECASE)
_MILLIMETRES = re.compile(r"^(\d{1,4})mm$", re.IGNORECASE)
_VOLTS_BOTH = re.compile(r"^(\d{3})/(\d{3})v$", re.IGNORECASE)
_OWN_NUMBER = re.compile(r"^\d{1,2}$")
_RCD_TYPES = frozenset(type_.lower() for type_ in RCD_TYPES)


def parse_line(text: str, rules: RuleSet, rooms: Sequence[Room] = (), *, kind: Kind = "circuit") -> ParsedLine:
    """What a line states, with every token that was not used.

    rooms    rooms of the job, by whose names a room is recognised
    kind     'circuit': a new circuit; 'way': a way of an existing board, which begins with its number; 'name': the cell of a table,
             whose numbers belong to the name
    """
    return _Parser(text, rules, rooms, kind).parse()


class _Parser:
    def __init__(self, text: str, rules: RuleSet, rooms: Sequence[Room], kind: Kind):
        self._rules, self._rooms, self._kind = rules, rooms, kind
        self._words: Customary = customary(rules.id)
        self._line = ParsedLine(text=text)
        self._plain = spelling.plain(text)
        self._noted = NotedTokens()
        self._solo: list[tuple[int, str]] = []
        self._rcd_type_near: set[int] = set()
        self._phrases = self._other_phrases()

    # ------------------------------------------------------------------------------------------ the whole line

    def parse(self) -> ParsedLine:
        """Reads part after part; what the tokens mean together is settled at the end."""
        index = 0
        for number, part in enumerate(re.split(r"[,;\n]+", self._plain)):
            pieces = [
                Piece(raw, tokens(raw), number, index + at)
                for at, raw in enumerate(part.split())
                if raw.strip("()[]\"'.:-") or raw in ("+", "&")
            ]
            index += len(pieces) + 1
            if not pieces:
                continue
            if number and self._is_room(part.strip(), pieces):
                continue
            self._part([Piece(p.raw.strip("()[]\"':"), p.compared, p.part, p.index) for p in pieces])
        settle(self._line, self._noted, self._rooms)
        return self._line

    def _is_room(self, part: str, pieces: list[Piece]) -> bool:
        """Whether a part behind a comma is nothing but a room: one of the job's, or a word for one."""
        room = job_room(self._rooms, part)
        if room is not None:
            self._line.room = NamedRoom(room.name, room.kind, room.id)
            return True
        compared = [item for piece in pieces for item in piece.compared]
        word = room_word_at(compared, 0)
        numbered = len(compared) - 1 if _OWN_NUMBER.match(compared[-1]) else len(compared)
        if word is not None and word[0] == numbered:
            self._line.room = room_of_word(self._rooms, part, word[1])
            return True
        known = self._phrase_at(pieces, 0)
        if known is None and all(re.fullmatch(r"[^\W\d_][^\W\d_'.&/-]*", piece.raw) for piece in pieces):
            self._line.room = NamedRoom(part[:1].upper() + part[1:], "ordinary", kind_known=False)
            return True
        return False

    def _part(self, pieces: list[Piece]) -> None:
        at = 0
        if self._kind == "way" and not self._line.number and not self._noted.pieces and len(pieces) > 1:
            number = spelling.whole(pieces[0].raw.rstrip(".:"))
            if number is not None:
                self._line.number = number
                self._noted.pieces.append(pieces[0])
                at = 1
        while at < len(pieces):
            used = self._take(pieces, at)
            self._noted.pieces += pieces[at : at + used]
            at += used

    def _take(self, pieces: list[Piece], at: int) -> int:
        """How many pieces are used at a position; at least one."""
        piece = pieces[at]
        earth = earth_word([piece.low for piece in pieces[at : at + _MAX_PHRASE]], self._rules)
        if earth is not None:
            return self._use_earth(*earth)
        local = local_device([piece.low for piece in pieces[at : at + 2]])
        if local is not None:
            self._line.local.append(local)
            return 1
        phrase = self._phrase_at(pieces, at)
        compared = [item for other in pieces[at:] for item in other.compared]
        room = room_word_at(compared, 0)
        room_pieces = self._pieces_for(pieces, at, room[0]) if room else 0
        if (
            phrase is not None
            and phrase[0] >= room_pieces
            and not (phrase[1].sets.get("alone") and room_pieces == phrase[0])
        ):
            self._use_phrase(pieces[at : at + phrase[0]], phrase[1])
            return phrase[0]
        if room is not None and room_pieces:
            self._use_room(pieces[at : at + room_pieces], room[1], phrase[1] if phrase else None)
            following = at + room_pieces
            if following + 1 < len(pieces) and _OWN_NUMBER.match(pieces[following].raw):
                number = pieces[following]
                self._noted.name.append((number.index, number.raw))
                index, text, kind = self._noted.room_words[-1]
                self._noted.room_words[-1] = (index, f"{text} {number.raw}", kind)
                return room_pieces + 1
            return room_pieces
        for rule in _TOKEN_RULES:
            used = rule(self, pieces, at)
            if used:
                return used
        self._plain_word(piece)
        return 1

    def _pieces_for(self, pieces: list[Piece], at: int, count: int) -> int:
        """How many pieces so many tokens are; 0 where they end inside one."""
        used = 0
        while count > 0 and at + used < len(pieces):
            count -= len(pieces[at + used].compared)
            used += 1
        return used if count == 0 else 0

    # ------------------------------------------------------------------------------------------ phrases

    def _other_phrases(self) -> Mapping[tuple[str, ...], EverydayWord]:
        """Methods and cables by the words that the standard's own data gives them."""
        words: dict[tuple[str, ...], EverydayWord] = {}

        def add(text: str, **sets: str) -> None:
            words.setdefault(tokens(text), EverydayWord(text=text, kind="", load="", circuit="", sets=sets))

        for method in self._rules.factors.methods.values():
            for word in method.entry_words:
                add(word, method=method.id)
            add(f"method {method.id}", method=method.id)
            add(f"ref {method.id}", method=method.id)
        for cable in self._rules.cables.kinds.values():
            add(cable.id, cable=cable.id)
            add(cable.short, cable=cable.id)
        for device in self._rules.devices.kinds.values():
            add(device.id, device=device.id)
            add(device.short, device=device.id)
            add(device.title, device=device.id)
        for word in DEVICE_WORDS:
            add(word, device=word)
        return words

    def _use_earth(self, count: int, meaning: EarthWord) -> int:
        if meaning == "open-pen":
            self._line.open_pen = True
        else:
            self._line.earth.append(meaning)
        return count

    def _phrase_at(self, pieces: list[Piece], at: int) -> tuple[int, EverydayWord] | None:
        """The longest phrase that begins at a piece: how many pieces it has, and what it means."""
        for count in range(min(_MAX_PHRASE, len(pieces) - at), 0, -1):
            compared = tuple(item for piece in pieces[at : at + count] for item in piece.compared)
            word = self._words.words.get(compared) or self._phrases.get(compared)
            following = pieces[at + count].low if at + count < len(pieces) else ""
            named = "method" in (word.sets if word else ()) or pieces[at + count - 1].low == "ground"
            if word is not None and named and following in _STOREYS:
                continue  # the ground floor is no cable in the ground
            if word is not None:
                return count, word
        word = self._compound(pieces[at].compared) if self._rules.id == "iec-de" else None
        return (1, word) if word else None

    def _compound(self, compared: tuple[str, ...]) -> EverydayWord | None:
        """A compound word by its last part (Gartenlicht is a light)."""
        if len(compared) != 1 or len(compared[0]) < 7:
            return None
        ends = [
            (len(key[0]), word)
            for key, word in self._words.words.items()
            if len(key) == 1 and word.kind and len(key[0]) >= 4 and compared[0].endswith(key[0])
        ]
        return max(ends, key=lambda end: end[0])[1] if ends else None

    def _use_phrase(self, pieces: list[Piece], word: EverydayWord) -> None:
        text = " ".join(piece.raw for piece in pieces)
        index = pieces[0].index
        sets = word.sets
        if text.upper() == "AC" and index - 1 in self._rcd_type_near:
            self._line.device.rcd_type = "AC"
            return
        if word.kind:
            load = _typed_load([piece.raw for piece in pieces], word, index)
            if any(piece.low in ("radial", "radials") for piece in pieces):
                # Beside words for a ring too: what was said counts, not what is usual.
                self._line.circuit = self._line.circuit or "radial"
            self._room_in(pieces)
            (self._noted.alone if sets.get("alone") else self._line.loads).append(load)
            self._noted.name += [(piece.index, piece.raw) for piece in pieces]
        elif index == 0 and text.casefold() in _PLACES:
            self._noted.name += [(piece.index, piece.raw) for piece in pieces]
        elif sets.get("is") in ("board", "source", "line", "paper", "supply"):
            self._other_part(sets["is"], pieces, text)
        self._use_sets(sets, text, index, is_load=bool(word.kind))

    def _room_in(self, pieces: list[Piece]) -> None:
        """A room within a phrase for a load ('garage sockets')."""
        compared = [item for piece in pieces for item in piece.compared]
        for start in range(len(compared) if len(compared) > 1 else 0):
            word = room_word_at(compared, start)
            if word is not None and len(pieces) == len(compared):
                text = " ".join(piece.raw for piece in pieces[start : start + word[0]])
                self._noted.room_words.append((pieces[0].index, text, word[1]))
                return

    def _other_part(self, what: str, pieces: list[Piece], text: str) -> None:
        self._noted.name += [(piece.index, piece.raw) for piece in pieces]
        if what == "board":
            self._noted.alone.append(
                TypedLoad(
                    text=[piece.raw for piece in pieces],
                    kind="feeder",
                    load=None,
                    circuit="distribution",
                    position=pieces[0].index,
                )
            )
        elif what == "source":
            self._line.source_word = self._line.source_word or text

    def _use_sets(self, sets: Mapping[str, str], text: str, index: int, *, is_load: bool) -> None:
        """What an everyday word states apart from its load: see ``EverydayWord.sets``."""
        self._use_device_sets(sets, text, index)
        self._use_what_it_is(sets, text, index)
        if sets.get("is") == "spur" or "local" in sets or "old_cable" in sets or ("tariff" in sets and not is_load):
            self._use_note(sets, text, index)
        self._use_cable_sets(sets)
        self._use_phase_sets(sets)
        self._line.use = sets.get("use", self._line.use)
        self._line.clean_earth = self._line.clean_earth or "clean_earth" in sets
        if "room" in sets:
            self._line.room_kind = cast(RoomKind, sets["room"])

    def _use_device_sets(self, sets: Mapping[str, str], text: str, index: int) -> None:
        device = self._line.device
        if "device" in sets:
            device.kind, device.found_only = device_kind(self._rules, sets["device"])
            device.typed = True
            self._rcd_type_near.add(index)
        if "rcd_ma" in sets and device.rcd_ma is None:
            device.usual_rcd_ma = float(sets["rcd_ma"])
        device.arc_fault = device.arc_fault or "arc_fault" in sets
        device.modules = float(sets["modules"]) if "modules" in sets else device.modules
        device.switches_neutral = device.switches_neutral or ("switches_neutral" in sets or None)
        number = re.search(r"\d+", text)
        if "rating_a" in sets and device.rating_a is None and number:
            device.rating_a = float(sets["rating_a"])
        if sets.get("rating") == "figure" and number:
            device.rating_a = float(number.group())

    def _use_what_it_is(self, sets: Mapping[str, str], text: str, index: int) -> None:
        what = sets.get("is")
        if what == "rcd":
            self._line.shared_rcd = True
            self._rcd_type_near.add(index)
        elif what == "surge":
            self._line.unused.append(Unused(text, message(None, "core.entry.line.surge")))
        elif what == "cpc":
            self._noted.cpc_words.append(index)

    def _use_note(self, sets: Mapping[str, str], text: str, index: int) -> None:
        """What is at the equipment, or was there: kept in words, its rating read off."""
        self._line.notes.append(text)
        if sets.get("local") in ("switch", "isolator") and (number := re.match(r"(\d+)A\b", text, re.IGNORECASE)):
            self._line.isolator_a = float(number.group(1))
        if sets.get("local") == "fcu":
            self._solo.append((index, "fcu"))

    def _use_cable_sets(self, sets: Mapping[str, str]) -> None:
        line = self._line
        line.cable = sets.get("cable", line.cable)
        line.cpc_separate = line.cpc_separate or "cpc" in sets
        if "cores" in sets:
            line.cores = int(sets["cores"]) + 1
        method = sets.get("method")
        if method is not None and method in self._rules.factors.methods:
            line.method = method

    def _use_phase_sets(self, sets: Mapping[str, str]) -> None:
        line = self._line
        if sets.get("phases") == "3":
            line.lines = LINES
        elif "phases" in sets:
            line.phases_rule = sets["phases"]
        if sets.get("lines") == "multiwire":
            line.lines, line.neutral = LINES[:2], True
        if "volts" in sets:
            line.phases_rule = f"volts-{sets['volts']}"
        if "neutral" in sets:
            line.neutral = sets["neutral"] == "yes"

    def _use_room(self, pieces: list[Piece], kind: RoomKind, load_word: EverydayWord | None) -> None:
        text = " ".join(piece.raw for piece in pieces)
        self._noted.room_words.append((pieces[0].index, text, kind))
        self._noted.name += [(piece.index, piece.raw) for piece in pieces]
        if load_word is not None and load_word.sets.get("alone"):
            self._noted.alone.append(_typed_load([text], load_word, pieces[0].index))

    def _ring(self, piece: Piece) -> None:
        if self._rules.limits.knows_rings:
            self._line.circuit = "ring"
            self._noted.name.append((piece.index, piece.raw))
        else:
            self._unused(piece.raw, message(None, "core.entry.line.no_rings", title=self._rules.title))

    def _plain_word(self, piece: Piece) -> None:
        low = piece.low
        if low == "ring":
            self._ring(piece)
        elif low == "radial":
            self._line.circuit = self._line.circuit or "radial"
            self._noted.name.append((piece.index, piece.raw))
        elif low in ("continuous", "continuously"):
            self._line.continuous = True
        elif low in ("spread", "distributed", "spaced"):
            self._line.distributed = True
        elif low in ("tested", "proven") and self._kind == "way":
            self._line.tested = True
        elif self._kind != "name" and re.search(r"\d", piece.raw):
            self._unused(piece.raw, message(None, "core.entry.line.not_understood"))
        else:
            self._noted.name.append((piece.index, piece.raw))

    def _unused(self, text: str, reason: Text) -> None:
        self._line.unused.append(Unused(text, reason))

    # ------------------------------------------------------------------------------------------ tokens with a number

    def _neighbour(self, pieces: list[Piece], at: int, *words: str) -> bool:
        around = [pieces[i].low for i in (at - 1, at + 1) if 0 <= i < len(pieces)]
        return any(word in around for word in words)

    def _power_token(self, pieces: list[Piece], at: int) -> int:
        text = pieces[at].raw
        if match := _COUNT_POWER.match(text):
            self._noted.counts.append((pieces[at].index, int(match.group(1))))
            text = match.group(2)
        watts = spelling.power_w(text)
        if watts is None:
            return 0
        if not 0 < watts <= 100_000:
            self._unused(pieces[at].raw, message(None, "core.entry.line.power"))
        else:
            self._noted.powers.append((pieces[at].index, watts, pieces[at].raw))
        return 1

    def _length_token(self, pieces: list[Piece], at: int) -> int:
        metres = spelling.length_m(pieces[at].raw)
        if metres is None:
            return 0
        if self._line.length_m is not None:
            self._unused(pieces[at].raw, message(None, "core.entry.line.second_length", a=f"{self._line.length_m:g}"))
        elif not 0 < metres <= 5000:
            self._unused(pieces[at].raw, message(None, "core.entry.line.length"))
        else:
            self._line.length_m = metres
        return 1

    def _millimetre_token(self, pieces: list[Piece], at: int) -> int:
        """Millimetres beside 'insulation' or 'deep' are no conductor size."""
        match = _MILLIMETRES.match(pieces[at].raw)
        if match is None:
            return 0
        ahead = [piece.low for piece in pieces[at + 1 : at + 3]]
        if len(ahead) == 2 and ahead[0] in ("in", "through") and ahead[1] in ("insulation", "lagging"):
            self._line.in_insulation_mm = float(match.group(1))
            return 3
        if ahead[:1] in (["insulation"], ["lagging"]):
            self._unused(pieces[at].raw, message(None, "core.entry.line.insulation"))
            return 1
        if self._neighbour(pieces, at, "deep", "depth"):
            self._line.depth_mm = float(match.group(1))
            return 1
        return 0

    def _size_token(self, pieces: list[Piece], at: int) -> int:
        size = conductor(pieces[at].raw, self._rules, self._words.inch_mm2)
        if size is None and re.fullmatch(r"\d{1,2}\.\d", pieces[at].raw):
            # '2.5' alone is a conductor size in the trade; a whole number alone may be anything.
            bare = float(pieces[at].raw)
            size = (
                ConductorSize(area_mm2=bare)
                if any(bare in kind.sizes_mm2 for kind in self._rules.cables.kinds.values())
                else None
            )
        if size is None or not 0.1 < size.area_mm2 <= 400:
            return 0
        self._noted.sizes.append((pieces[at].index, size, pieces[at].raw))
        return 1

    def _current_token(self, pieces: list[Piece], at: int) -> int:
        value = spelling.amps(pieces[at].raw)
        if value is None:
            return 0
        index = pieces[at].index
        if not 0 < value <= 400:
            self._unused(pieces[at].raw, message(None, "core.entry.line.current"))
        elif self._switch_behind(pieces, at):
            self._line.isolator_a = value
            self._line.notes.append(pieces[at].raw)
        elif self._solo and self._solo[-1] == (index - 1, "fcu"):
            self._line.notes[-1] = f"{self._line.notes[-1]} {pieces[at].raw}"
        elif self._is_load_current(pieces, at):
            self._line.current_a = value
        elif at + 1 < len(pieces) and pieces[at + 1].low in ("fcu", "fused"):
            self._line.notes.append(pieces[at].raw)
        else:
            self._rating(value, pieces[at].raw)
        return 1

    def _switch_behind(self, pieces: list[Piece], at: int) -> bool:
        """Whether a current is the rating of a local switch or isolator that is named behind it."""
        phrase = self._phrase_at(pieces, at + 1) if at + 1 < len(pieces) else None
        return phrase is not None and phrase[1].sets.get("local") in ("switch", "isolator", "disconnect")

    def _is_load_current(self, pieces: list[Piece], at: int) -> bool:
        before = token(pieces[at - 1].raw) if at else ""
        after = token(pieces[at + 1].raw) if at + 1 < len(pieces) else ""
        return before in _LOAD_CURRENT or after in ("load", "running")

    def _load_word(self, pieces: list[Piece], at: int) -> int:
        """'draws', 'load' and the like before a current are not part of a name."""
        if token(pieces[at].raw) not in _LOAD_CURRENT:
            return 0
        near = [pieces[i].raw for i in (at + 1, at - 1) if 0 <= i < len(pieces)]
        return 1 if any(spelling.amps(text) is not None for text in near) else 0

    def _rating(self, value: float, text: str) -> None:
        if self._line.device.rating_a not in (None, value):
            self._unused(
                text, message(None, "core.entry.line.second_rating", a=f"{self._line.device.rating_a:g}", text=text)
            )
        else:
            self._line.device.rating_a = value

    def _device_token(self, pieces: list[Piece], at: int) -> int:
        text, device = pieces[at].raw, self._line.device
        if match := _CURVE_RATING.match(text) or None:
            self._rating(float(match.group(2)), text)
            device.curve, device.typed = cast(Curve, match.group(1).upper()), True
            self._rcd_type_near.add(pieces[at].index)
            return 1
        if match := _RATING_CURVE.match(text):
            self._rating(float(match.group(1)), text)
            device.curve, device.typed = cast(Curve, match.group(2).upper()), True
            return 1
        if self._kind == "way" and (match := _OLD_RATING.match(text)):
            self._rating(float(match.group(2)), text)
            device.old_type, device.typed = match.group(1).upper(), True
            device.kind = device.kind or device_kind(self._rules, "breaker")[0]
            return 1
        return 0

    def _residual_token(self, pieces: list[Piece], at: int) -> int:
        value = spelling.milliamps(pieces[at].raw)
        if value is None:
            return 0
        if not 0 < value <= 1000:
            self._unused(pieces[at].raw, message(None, "core.entry.line.residual"))
            return 1
        self._line.device.rcd_ma = value
        self._rcd_type_near.add(pieces[at].index)
        used = 1
        following = pieces[at + 1].low if at + 1 < len(pieces) else ""
        if following in _RCD_TYPES:
            self._line.device.rcd_type = following.upper()
            used = 2
        elif following == "s":
            self._line.device.rcd_delayed = True
            used = 2
        return used

    def _type_token(self, pieces: list[Piece], at: int) -> int:
        """'type' or 'curve' with its letter or number, on either side."""
        low = pieces[at].low
        if low in ("type", "curve", "typ") and at + 1 < len(pieces):
            near_rcd = at > 0 and pieces[at - 1].index in self._rcd_type_near
            return 2 if self._letter(pieces[at + 1].low, low, near_rcd) else 0
        if at + 1 < len(pieces) and pieces[at + 1].low == "curve" and len(low) == 1:
            return 2 if self._letter(low, "curve", False) else 0
        return 0

    def _letter(self, letter: str, word: str, near_rcd: bool) -> bool:
        device = self._line.device
        if letter in ("1", "2", "3", "4") and word == "type":
            device.old_type, device.typed = letter, True
        elif letter in ("ac", "a", "f") and word != "curve":
            device.rcd_type = letter.upper()
        elif letter == "s" and word != "curve":
            device.rcd_delayed = True
        elif letter == "b" and word != "curve" and (near_rcd or device.curve is not None):
            device.rcd_type = "B"
        elif letter in ("b", "c", "d"):
            device.curve, device.typed = cast(Curve, letter.upper()), True
        else:
            return False
        return True

    def _delay_token(self, pieces: list[Piece], at: int) -> int:
        low = pieces[at].low
        if low in ("delayed", "selective", "time-delayed", "time-delay"):
            self._line.device.rcd_delayed = True
            return 1
        if low == "time" and at + 1 < len(pieces) and pieces[at + 1].low in ("delay", "delayed"):
            self._line.device.rcd_delayed = True
            return 2
        return 0

    def _breaking_token(self, pieces: list[Piece], at: int) -> int:
        value = spelling.kiloamps(pieces[at].raw)
        if value is None:
            return 0
        if 0 < value <= 100:
            self._line.device.breaking_ka = value
        else:
            self._unused(pieces[at].raw, message(None, "core.entry.line.breaking"))
        return 1

    def _line_names(self, text: str) -> bool:
        """Lines by name, one (added to those before) or several together; whether the text is of that form."""
        if match := _LINE_NAME.match(text):
            self._line.lines = tuple(dict.fromkeys((*self._line.lines, LINES[int(match.group(1)) - 1])))
            return True
        if _LINE_NAMES.match(text):
            self._line.lines = tuple(dict.fromkeys(LINES[int(digit) - 1] for digit in re.findall(r"[123]", text)))
            return True
        return False

    def _phase_token(self, pieces: list[Piece], at: int) -> int:
        text, low = pieces[at].raw, pieces[at].low
        if self._line_names(text):
            return 1
        count, used = 0, 1
        if match := _PHASES.match(text):
            count = int(match.group(1)) if match.group(1) else _PHASE_WORDS[match.group(2).lower()]
        elif low in _PHASE_WORDS and at + 1 < len(pieces) and token(pieces[at + 1].raw) in ("phase", "pole"):
            count, used = _PHASE_WORDS[low], 2
        if count > 1:
            self._line.lines = LINES[:count]
        return used if count else 0

    def _ohm_token(self, pieces: list[Piece], at: int) -> int:
        """The resistance of an electrode of its own."""
        ohm = spelling.ohms(pieces[at].raw)
        if ohm is None:
            return 0
        if 0 < ohm <= 5000 and self._line.electrode_ohm is None:
            self._line.electrode_ohm = ohm
        else:
            self._unused(pieces[at].raw, message(None, "core.entry.line.electrode_ohm"))
        return 1

    def _volt_token(self, pieces: list[Piece], at: int) -> int:
        text = pieces[at].raw
        if _VOLTS_BOTH.match(text):
            self._line.phases_rule, self._line.neutral, self._line.volts_typed = "volts-240", True, True
            return 1
        value = spelling.volts(text)
        if value is None:
            return 0
        self._line.phases_rule, self._line.volts_typed = f"volts-{value:g}", True
        return 1

    def _run_token(self, pieces: list[Piece], at: int) -> int:
        """Power factor, ambient temperature, cores, grouped circuits."""
        text, low = pieces[at].raw, pieces[at].low
        if (factor := spelling.power_factor(text)) is not None:
            if 0 < factor <= 1:
                self._line.power_factor = factor
            else:
                self._unused(text, message(None, "core.entry.line.power_factor"))
            return 1
        if (degrees := spelling.degrees_c(text)) is not None and -40 <= degrees <= 90:
            self._line.ambient_c = degrees
            return 1
        if match := _CORE_COUNT.match(text):
            self._line.cores = int(match.group(1))
            return 1
        if low in ("grouped", "bunched") and at + 1 < len(pieces):
            number = spelling.whole(pieces[at + 1].raw)
            if number and 1 <= number <= 100:
                self._line.circuits_grouped = number
                return 2
        return 0

    def _count_token(self, pieces: list[Piece], at: int) -> int:
        """``8x``, ``8 x``, ``10 downlights``; behind the word for a device it is a rating."""
        text, index = pieces[at].raw, pieces[at].index
        match = _COUNT.match(text)
        number = int(match.group(1)) if match else spelling.whole(text)
        if number is None:
            return 0
        following = pieces[at + 1].low if at + 1 < len(pieces) else ""
        times = match is not None or following in ("x", "off", "no")
        if not times and self._line.device.typed and self._line.device.rating_a is None and self._kind != "name":
            self._rating(float(number), text)
            return 1
        if self._kind == "name" or (not times and (not following or re.search(r"\d", following))):
            return 0
        if not 1 <= number <= _MAX_COUNT:
            self._unused(text, message(None, "core.entry.line.count_range", max=str(_MAX_COUNT)))
        else:
            self._noted.counts.append((index, number))
        return 2 if times and match is None else 1

    def _empty_token(self, pieces: list[Piece], at: int) -> int:
        if self._kind != "way" or pieces[at].low not in EMPTY_WORDS:
            return 0
        self._line.device.empty = EMPTY_WORDS[pieces[at].low]
        self._line.device.typed = True
        return 1


def _typed_load(words: list[str], word: EverydayWord, position: int) -> TypedLoad:
    load, circuit = cast("LoadKind | None", word.load or None), cast(CircuitKind, word.circuit)
    return TypedLoad(text=words, kind=word.kind, load=load, circuit=circuit, position=position)


#: Tried in this order at each token that no phrase and no room begins with.
_TOKEN_RULES: tuple[Callable[[_Parser, list[Piece], int], int], ...] = (
    _Parser._empty_token,
    _Parser._type_token,
    _Parser._ohm_token,
    _Parser._delay_token,
    _Parser._load_word,
    _Parser._millimetre_token,
    _Parser._power_token,
    _Parser._length_token,
    _Parser._residual_token,
    _Parser._breaking_token,
    _Parser._current_token,
    _Parser._device_token,
    _Parser._phase_token,
    _Parser._volt_token,
    _Parser._size_token,
    _Parser._run_token,
    _Parser._count_token,
)
