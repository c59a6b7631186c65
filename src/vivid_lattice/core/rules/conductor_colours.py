"""How the colour of a conductor's insulation is painted, on screen and on paper."""

from __future__ import annotations

import re
from collections.abc import Mapping
from types import MappingProxyType

#: Paint of a colour, by the word it goes by. Chosen by eye, to be told apart on white and on dark ground.
PAINTS: Mapping[str, str] = MappingProxyType(
    {
        "brown": "#7a4a21",
        "black": "#1a1a1a",
        "grey": "#8a8f98",
        "blue": "#2f6fd6",
        "light blue": "#6db3f2",
        "dark blue": "#1d3f9c",
        "red": "#c22a2a",
        "white": "#ffffff",
        "yellow": "#e5c31b",
        "green": "#2f8f3e",
        "green-yellow": "#2f8f3e",
        "bare": "#a9743a",
    }
)
#: The longest word first, so that 'dark blue' is not read as blue.
_WORDS = re.compile("|".join(sorted(map(re.escape, PAINTS), key=len, reverse=True)))


def paint_of(colour: str) -> str | None:
    """The paint of the first colour that a text names; None where it names none.

    >>> paint_of("green-yellow or bare") == PAINTS["green-yellow"]
    True
    """
    named = _WORDS.search(colour)
    return PAINTS[named.group()] if named else None
