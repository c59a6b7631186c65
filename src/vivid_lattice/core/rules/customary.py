"""What is usual in a country and stands in no publication: everyday words, and inch sizes of old wiring."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from vivid_lattice.core.rules.tables import CUSTOMARY_FILE, RuleData, data_root, known_publications, parse, school_file


@dataclass(frozen=True, slots=True)
class Word:
    """An everyday word or phrase.

    kind     key of the customary circuits that it names; empty: it names none
    load     kind of load of that circuit; empty: the circuit feeds a board
    circuit  kind of that circuit
    sets     fields of a line that it sets, with their values
    """

    text: str
    kind: str
    load: str
    circuit: str
    sets: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Customary:
    """The words of a standard, each with its tokens in the form that ``token`` gives; and inch sizes as metric ones [mm²]."""

    words: Mapping[tuple[str, ...], Word]
    inch_mm2: Mapping[str, float]


def token(text: str) -> str:
    """A word as it is compared: without case, accents of quotation, and the plural's s.

    >>> token("Downlights"), token("gas"), token("T&E")
    ('downlight', 'ga', 't&e')
    """
    folded = text.casefold().replace("’", "'").strip(".")
    return folded[:-1] if len(folded) > 2 and folded.endswith("s") else folded


_HYPHEN = re.compile(r"(?<=[^\W\d])-(?=[^\W\d])")


def tokens(text: str) -> tuple[str, ...]:
    """A text as the tokens that are compared: split at blanks, and at hyphens between letters.

    >>> tokens("Sub-board"), tokens("14-50 outlets")
    (('sub', 'board'), ('14-50', 'outlet'))
    """
    return tuple(token(part) for part in _HYPHEN.sub(" ", text).split())


@lru_cache
def customary(rules_id: str) -> Customary:
    """What is usual under a standard; read at first use, since only typed lines and surveys need it."""
    names: Mapping[str, list[str]] = school_file(rules_id)["customary"]
    data = RuleData(MappingProxyType({}), MappingProxyType({}))
    for folder in names["folders"]:
        text = (data_root() / folder / CUSTOMARY_FILE).read_text("utf-8")
        read = parse({CUSTOMARY_FILE: text}, known_publications())
        data = RuleData(MappingProxyType(dict(data.tables) | dict(read.tables)), data.rules)
    words: dict[tuple[str, ...], Word] = {}
    for table_id in names["words"]:
        for row in data.table(table_id).rows:
            word, kind, load, circuit, sets = (str(cell) for cell in row)
            parts = (part.split("=", 1) for part in sets.split("; ") if part)
            entry = Word(word, kind, load, circuit, MappingProxyType(dict(parts)))
            words[tokens(word)] = entry
    inches: dict[str, float] = {}
    for table_id in names.get("inch_sizes", []):
        for row in data.table(table_id).rows:
            inches[str(row[0])] = float(row[4])
    return Customary(MappingProxyType(words), MappingProxyType(inches))
