"""How papers look: the colours and sizes of the application on paper, where only trouble has colour."""

from __future__ import annotations

from typing import Final

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.units import mm

from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.messages import message

INK: Final = HexColor("#141b28")
SOFT: Final = HexColor("#526072")
LINE: Final = HexColor("#c9d2de")
WASH: Final = HexColor("#eef2f8")
ACCENT: Final = HexColor("#2b4bdb")
WHITE: Final = HexColor("#ffffff")

OF_VERDICT: dict[Verdict, Color] = {
    "pass": HexColor("#6d8297"),
    "tight": HexColor("#8f5a00"),
    "fail": HexColor("#b3202a"),
    "advice": HexColor("#6a3fb5"),
    "missing": HexColor("#526072"),
    "not-applicable": HexColor("#9aa7b6"),
}


def verdict_word(verdict: str) -> str:
    """A verdict as people say it."""
    return str(message(None, f"core.verdict.{verdict}"))


MARGIN: Final = 15 * mm
TITLE_PT, HEAD_PT, TEXT_PT, SMALL_PT = 15.0, 10.5, 8.6, 7.2
LEADING: Final = 1.28
