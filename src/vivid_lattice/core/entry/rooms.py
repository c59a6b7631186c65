"""Words for rooms, and the kind of room each names."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import free_id
from vivid_lattice.core.document.rooms import Room, RoomKind
from vivid_lattice.core.rules.customary import tokens

#: Common practice, no source. English and American words for rooms.
_WORDS: Mapping[RoomKind, tuple[str, ...]] = {
    "bath": ("bathroom", "bath", "family bathroom", "ensuite", "en suite", "powder room", "primary bath"),
    "shower": ("shower room", "wet room"),
    "sauna": ("sauna room", "sauna cabin"),
    "pool": ("pool", "swimming pool", "pool room", "pool house"),
    "outdoors": ("outside", "outdoors", "outdoor", "garden", "patio", "terrace", "balcony", "yard", "deck",
                 "porch", "carport"),
    "kitchen": ("kitchen", "kitchenette", "scullery"),
    "laundry": ("laundry", "laundry room", "utility", "utility room"),
    "garage": ("garage", "shed", "workshop", "outbuilding", "barn"),
    "basement": ("basement", "cellar", "crawl space", "crawlspace"),
    "bedroom": ("bedroom", "master bedroom", "guest room", "spare room", "nursery"),
    "living": ("living room", "living", "lounge", "sitting room", "dining room", "dining", "family room", "den", "sunroom",
               "study", "library"),
    "ordinary": ("hall", "hallway", "landing", "stairs", "stairwell", "office", "pantry", "larder", "plant room", "plant",
                 "closet", "cloakroom", "annexe"),
}  # fmt: skip

#: Common practice, no source. German words for rooms.
_GERMAN: Mapping[RoomKind, tuple[str, ...]] = {
    "bath": ("bad", "badezimmer"),
    "shower": ("duschbad", "dusche"),
    "sauna": ("saunaraum",),
    "pool": ("schwimmbad",),
    "outdoors": ("garten", "terrasse", "balkon", "außen", "draußen"),
    "kitchen": ("küche",),
    "laundry": ("waschküche", "hauswirtschaftsraum", "hwr"),
    "garage": ("garagen", "werkstatt"),
    "basement": ("keller",),
    "bedroom": ("schlafzimmer", "kinderzimmer"),
    "living": ("wohnzimmer", "esszimmer", "arbeitszimmer"),
    "ordinary": ("flur", "diele", "treppenhaus", "technikraum"),
}

#: Room words by their tokens.
ROOM_WORDS: Mapping[tuple[str, ...], RoomKind] = {
    tokens(word): kind for named in (_WORDS, _GERMAN) for kind, words in named.items() for word in words
}
_LONGEST = max(len(word) for word in ROOM_WORDS)


def room_words(german: bool) -> tuple[str, ...]:
    """Words for rooms as they are typed, in one language."""
    return tuple(word for words in (_GERMAN if german else _WORDS).values() for word in words)


@dataclass(frozen=True, slots=True)
class NamedRoom:
    """A room that a line names: one of the job's (``id``), or one to be added, of the kind its word names.

    ``kind_known``: False where only the name is known, so that an ordinary room is assumed.
    """

    name: str
    kind: RoomKind
    id: str | None = None
    kind_known: bool = True


def room_word_at(parts: Sequence[str], start: int) -> tuple[int, RoomKind] | None:
    """The longest room word that begins at a position: how many tokens it has, and the kind of room; None where none does."""
    for count in range(min(_LONGEST, len(parts) - start), 0, -1):
        kind = ROOM_WORDS.get(tuple(parts[start : start + count]))
        if kind is not None:
            return count, kind
    return None


def job_room(rooms: Sequence[Room], text: str) -> Room | None:
    """The room of a job that a text names, whole or by its beginning of three letters or more."""
    wanted = text.strip().casefold()
    if len(wanted) < 3:
        return None
    whole = next((room for room in rooms if wanted in (room.name.casefold(), room.id)), None)
    return whole or next((room for room in rooms if room.name.casefold().startswith(wanted)), None)


def named_room(text: str, rooms: Sequence[Room]) -> NamedRoom:
    """The room that a text names: one of the job's, or a new one, of the kind its first room word names, else an ordinary one."""
    room = job_room(rooms, text)
    if room is not None:
        return NamedRoom(room.name, room.kind, room.id)
    compared = tokens(text)
    kinds = (room_word_at(compared, start) for start in range(len(compared)))
    kind = next((word[1] for word in kinds if word is not None), None)
    name = text[:1].upper() + text[1:120]
    return NamedRoom(name, kind or "ordinary", kind_known=kind is not None)


def room_of_word(rooms: Sequence[Room], text: str, kind: RoomKind) -> NamedRoom:
    """The room that a word for a kind of room means: the job's only one, of kinds that a house has one of, else a new one."""
    if kind in ("outdoors", "bath", "kitchen", "sauna", "pool") and (room := room_of_kind(rooms, kind)):
        return NamedRoom(room.name, room.kind, room.id)
    return NamedRoom(text[:1].upper() + text[1:], kind)


def room_of_kind(rooms: Sequence[Room], kind: RoomKind) -> Room | None:
    """The job's only room of a kind; None where it has none, or several."""
    alike = [room for room in rooms if room.kind == kind]
    return alike[0] if len(alike) == 1 else None


def with_room(rooms: Sequence[Room], named: NamedRoom) -> tuple[tuple[Room, ...], str]:
    """The rooms with a named one among them, and its id."""
    if named.id is not None:
        return tuple(rooms), named.id
    there = next((room for room in rooms if room.name.casefold() == named.name.casefold()), None)
    if there is not None:
        return tuple(rooms), there.id
    room = Room(id=free_id(id_from(named.name), {known.id for known in rooms}), name=named.name, kind=named.kind)
    return (*rooms, room), room.id


def id_from(name: str) -> str:
    """An id made of a name: its letters and figures in ASCII, joined by hyphens, a letter first."""
    words = re.findall("[a-z0-9]+", name.lower())
    wish = "-".join(words)[:36] or "room"
    return wish if wish[0].isalpha() else f"room-{wish}"[:36]
