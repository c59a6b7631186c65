"""Measures as they are typed, in metres or feet and inches."""

from __future__ import annotations

import re

_FOOT_M, _INCH_M = 0.3048, 0.0254
NUMBER = r"\d+(?:[.,]\d+)?"
#: 4.2 · 4.2m · 12' · 12ft · 12'6"
MEASURE = rf"(?:{NUMBER}(?:\s?(?:m\b|ft\b|'))?(?:\s?{NUMBER}\s?(?:in\b|\"))?)"


def metres(text: str) -> float:
    """A measure as it is typed, in metres.

    >>> metres("4.2"), metres("3,6 m"), round(metres("12'6\\""), 3)
    (4.2, 3.6, 3.81)
    """
    low = text.strip().lower().replace(",", ".")
    feet = re.fullmatch(r"([\d.]+)\s?(?:'|ft)(?:\s?([\d.]+)\s?(?:\"|in))?", low)
    if feet is not None:
        return round(float(feet[1]) * _FOOT_M + float(feet[2] or 0) * _INCH_M, 3)
    return float(low.rstrip("m ").strip())


#: 225 · 225 mm · 9.25 in · 9 1/4 in · 9-1/4" · 3.6 m
SMALL_MEASURE = r"(?:\d+(?:[.,]\d+)?(?:[ -]\d+/\d+)?\s?(?:mm|in|m|\")?)"


def millimetres(text: str) -> float:
    """A small measure as it is typed, in millimetres: plain numbers are millimetres; inches with their mark.

    >>> millimetres("225"), millimetres("9 1/4 in"), millimetres("3.6 m")
    (225.0, 234.95, 3600.0)
    """
    found = re.fullmatch(r"([\d.,]+)(?:[ -](\d+)/(\d+))?\s?(mm|in|m|\")?", text.strip().lower())
    if found is None:
        raise ValueError(text)
    whole = float(found[1].replace(",", "."))
    whole += float(found[2]) / float(found[3]) if found[2] else 0.0
    factor = {None: 1.0, "mm": 1.0, "m": 1000.0, "in": _INCH_M * 1000, '"': _INCH_M * 1000}[found[4]]
    return round(whole * factor, 3)
