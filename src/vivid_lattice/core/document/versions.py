"""Versions of the document format. A document of an older version is read as if it had been written by the newest.

``vivid-lattice/1``  the first
``vivid-lattice/2``  the price list is a part of its own (it was ``settings.prices``), with cables by type and size and
                     devices by rating; ``paperwork`` came with it
``vivid-lattice/3``  fields have the names of the trade (``field_names``); what a line states is stored whole: loads that are
                     not counted yet, what ``design`` takes where a choice is left open (``preferred``), marks of old breakers;
                     a let-through energy holds for the current it is stated for
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Final

from vivid_lattice.core.document.field_names import DOCUMENT, renamed

NAME: Final = "vivid-lattice"
VERSION: Final = 3
FORMAT: Final = "vivid-lattice/3"


def version_of(given: object) -> int | None:
    """The version a document says it is of; None where it is no document of this program.

    >>> version_of("vivid-lattice/1"), version_of("another/1"), version_of(None)
    (1, None, None)
    """
    name, _, number = str(given).partition("/")
    return int(number) if name == NAME and number.isascii() and number.isdigit() else None


def upgraded(data: Mapping[str, Any]) -> dict[str, Any]:
    """A document's data in the newest form; data of that form, or of none that is known, comes back as it is.

    Documents of version 3 that were saved before its fields had their present names are read too: a former name next to
    no present one is taken for it.
    """
    document = dict(data)
    while (version := version_of(document.get("format")) or 0) in _STEPS:
        document = _STEPS[version]({**document, "format": f"{NAME}/{version + 1}"})
    return renamed(document, DOCUMENT) if version == VERSION else document


def _prices_apart(data: dict[str, Any]) -> dict[str, Any]:
    """From 1 to 2. What does not have the form expected is left where it is, so that the reader names it by its path."""
    settings = data.get("settings")
    if not isinstance(settings, dict) or "prices" not in settings or "prices" in data:
        return data
    rest = {key: value for key, value in settings.items() if key != "prices"}
    return {**data, "settings": rest, "prices": settings["prices"]}


def _unchanged(data: dict[str, Any]) -> dict[str, Any]:
    """From 2 to 3: names alone, which ``upgraded`` sees to. The fields that came with it are not known of an older document."""
    return data


_STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _prices_apart, 2: _unchanged}
