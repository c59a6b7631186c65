"""The one face that papers are set in: it holds every sign that a calculation needs, and the letters of most of Europe."""

from __future__ import annotations

from functools import cache, lru_cache
from importlib.resources import as_file, files
from typing import Any
from weakref import WeakKeyDictionary

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "Sheet", "Sheet-Bold"
_FILES = {REGULAR: "DejaVuSansCondensed.ttf", BOLD: "DejaVuSansCondensed-Bold.ttf"}
#: Drawn where the face lacks a letter, so that it is seen that one is missing.
_LACKING = "\u25af"


class _Face(TTFont):
    """Remembers how a text is written in a document: the words of sums come over and over again."""

    def __init__(self, name: str, file: str):
        super().__init__(name, file)
        self._written: WeakKeyDictionary[Any, dict[str, Any]] = WeakKeyDictionary()

    def splitString(self, text: str, doc: Any, encoding: str = "utf-8") -> Any:
        """A text as the parts of the face that hold it."""
        cached = self._written.setdefault(doc, {})
        line = cached.get(text)
        if line is None:
            line = cached[text] = super().splitString(text, doc, encoding)
        return line


@cache
def register() -> frozenset[int]:
    """Make the face known to the PDF library, once; returns the code points it holds."""
    code_points: frozenset[int] = frozenset()
    for name, file in _FILES.items():
        with as_file(files("vivid_lattice.reports") / "fonts" / file) as path:
            font = _Face(name, str(path))
        pdfmetrics.registerFont(font)
        code_points = frozenset(font.face.charToGlyph) if name == REGULAR else code_points
    pdfmetrics.registerFontFamily(REGULAR, normal=REGULAR, bold=BOLD, italic=REGULAR, boldItalic=BOLD)
    return code_points


@lru_cache(maxsize=16384)
def printable(text: str) -> str:
    """A text with every sign that cannot be drawn replaced: what no face shows (controls, marks that turn the direction of
    writing) is left out; a letter that this one lacks is an empty box.

    >>> printable("Kiln\\u202e 30 °C \\u7a91")
    'Kiln 30 °C ▯'
    """
    code_points = register()
    if text.isascii() and text.isprintable():
        return text
    kept = []
    for sign in text:
        if sign in "\n\t":
            kept.append(" " if sign == "\t" else sign)
        elif sign == "\u00a0" or (sign.isprintable() and ord(sign) in code_points):
            kept.append(sign)
        elif sign.isprintable():
            kept.append(_LACKING)
    return "".join(kept)


@lru_cache(maxsize=65536)
def _word_width(word: str, font: str) -> float:
    return float(pdfmetrics.stringWidth(word, font, 1000)) / 1000


def width_pt(text: str, font: str, size_pt: float) -> float:
    """Width of a text [pt], put together from its words, each measured once."""
    words = text.split(" ")
    return size_pt * (sum(_word_width(word, font) for word in words) + _word_width(" ", font) * (len(words) - 1))


def wrapped(text: str, font: str, size_pt: float, room_pt: float) -> list[str]:
    """A text in lines that fit; a word that is wider than a line is broken."""
    return list(_wrapped(text, font, size_pt, round(room_pt, 3)))


@lru_cache(maxsize=16384)
def _wrapped(text: str, font: str, size_pt: float, room_pt: float) -> tuple[str, ...]:
    lines = []
    for paragraph in printable(text).split("\n"):
        line, used = "", 0.0
        space = size_pt * _word_width(" ", font)
        for word in paragraph.split(" "):
            wide = size_pt * _word_width(word, font)
            if line and used + space + wide > room_pt:
                lines.append(line)
                line, used = "", 0.0
            while wide > room_pt and len(word) > 1:
                fits = max(1, _fitting(word, font, size_pt, room_pt))
                lines.append(word[:fits])
                word = word[fits:]
                wide = size_pt * _word_width(word, font)
            line = f"{line} {word}" if line else word
            used += (space if used else 0.0) + wide
        lines.append(line)
    return tuple(lines)


def _fitting(word: str, font: str, size_pt: float, room_pt: float) -> int:
    """How many of a word's letters fit."""
    used = 0.0
    for at, sign in enumerate(word):
        used += size_pt * _word_width(sign, font)
        if used > room_pt:
            return at
    return len(word)
