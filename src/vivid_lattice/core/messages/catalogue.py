"""The catalogue of messages: ICU templates by id, for each language, rendered with parameters.

Templates are in ``data/<language>/*.json``. A variant (``en-US``) states what differs from its base; a language that lacks a
message takes the English one.
"""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date, datetime
from decimal import Decimal
from functools import cache, lru_cache
from importlib.resources import files
from types import MappingProxyType
from typing import TYPE_CHECKING

from icu4py.messageformat import MessageFormat

from vivid_lattice.core.messages.icu import arguments

if TYPE_CHECKING:
    from vivid_lattice.core.messages.vocabulary import Vocabulary

BASE = "en"
#: The language that texts are made in, and whether a message is sent as its id with parameters; both for the call.
_language: ContextVar[str] = ContextVar("language", default=BASE)
as_ids: ContextVar[bool] = ContextVar("as_ids", default=False)


@contextmanager
def speaking(language: str = BASE, *, ids: bool = False) -> Iterator[None]:
    """Texts in a language within the block; with ``ids`` messages are serialised as id and parameters."""
    before = _language.set(language if language in languages() else BASE), as_ids.set(ids)
    try:
        yield
    finally:
        _language.reset(before[0])
        as_ids.reset(before[1])


@lru_cache
def languages() -> tuple[str, ...]:
    """Languages that have a catalogue."""
    return tuple(sorted(folder.name for folder in files(__package__).joinpath("data").iterdir() if folder.is_dir()))


@lru_cache
def templates(language: str) -> Mapping[str, str]:
    """A language's own templates by id, as its files state them. An id that two files state is a mistake: ValueError."""
    merged: dict[str, str] = {}
    for file in sorted(files(__package__).joinpath("data", language).iterdir(), key=lambda each: each.name):
        stated: dict[str, str] = json.loads(file.read_text("utf-8"))
        if twice := merged.keys() & stated.keys():
            raise ValueError(f"{file.name} states {sorted(twice)[0]} a second time")
        merged |= stated
    return MappingProxyType(merged)


def rendered(id_: str, params: Mapping[str, str | int], words: Vocabulary | None) -> str:
    """The sentence of a message. KeyError for an id or a parameter that is not there."""
    template = _template(id_, _language.get(), words.english if words else BASE)
    # A whole number is a number only where the template counts with it: any other would be grouped (1,200).
    given: dict[str, str | int | float | Decimal | date | datetime] = {
        name: value if name in template.counts else str(value) for name, value in params.items()
    }
    if template.words:
        if words is None:
            raise KeyError(f"{id_} uses words of the standard and was given none")
        given |= {name: words.form(name) for name in template.words}
    if not template.params <= given.keys():
        raise KeyError(f"{id_} needs {', '.join(sorted(template.params - given.keys()))}")
    return template.format.format(given) if given else template.plain


def localised(value: str) -> str:
    """A value as it is shown, with the decimal sign of the language."""
    return value.replace(".", ",") if _language.get() == "de" else value


class _Template:
    """A compiled template, with the parameters it takes and the words of the standard among them."""

    def __init__(self, text: str, language: str):
        self.format = MessageFormat(text, language)
        names = arguments(text)
        self.words: Collection[str] = frozenset(name for name in names if name.startswith("t_"))
        self.params = names - set(self.words)
        self.counts: Collection[str] = frozenset(re.findall(r"\{\s*(\w+)\s*,\s*plural\b", text))
        self.plain = self.format.format({}) if not names else ""


@cache
def _template(id_: str, language: str, english: str) -> _Template:
    order = (language, english, BASE) if language != BASE else (english, BASE)
    for each in order:
        if (text := templates(each).get(id_)) is not None:
            return _Template(text, each)
    raise KeyError(f"no message {id_}")
