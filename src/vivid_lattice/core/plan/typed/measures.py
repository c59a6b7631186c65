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
