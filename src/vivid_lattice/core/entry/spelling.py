"""Text as it is typed into words that can be compared: decimal commas, units apart from their numbers, odd signs."""

from __future__ import annotations

import re

from vivid_lattice.core.units import M_PER_FT

_SIGNS = str.maketrans(
    {"\u00a0": " ", "\u2009": " ", "\u202f": " ", "×": "x", "²": "2", "’": "'", "–": "-", "—": "-", "\t": " "}
)
_DECIMAL_COMMA = re.compile(r"(?<=\d),(?=\d)")
#: A unit that is typed apart from its number, longer ones first.
_UNIT_APART = re.compile(
    r"(?<=\d)\s+(kva|kw|kcmil|mcm|metres|meters|metre|meter|feet|foot|gauge|awg|amps|amp|sqmm|mm2|mm|ma|ka|va|ft|°c|ohms|ohm|Ω|Ω|w|v|m|a)(?=$|[\s,;)])",
    re.IGNORECASE,
)
_TIMES = re.compile(r"(?<=\d)\s*[x*]\s*(?=\d)", re.IGNORECASE)
_FACTOR = re.compile(r"\b(?:pf|cos\s*φ|cosφ)\s*=?\s*(?=[\d.])", re.IGNORECASE)
_NUMBER = r"(\d+(?:\.\d+)?|\.\d+)"


def plain(text: str) -> str:
    """A line with a decimal point in each number, its unit joined to it, and signs that a keyboard has.

    >>> plain("cooker  7,2 kW 14 m"), plain("ring 2 × 2.5 mm²")
    ('cooker 7.2kW 14m', 'ring 2x2.5mm2')
    """
    line = _DECIMAL_COMMA.sub(".", text.translate(_SIGNS))
    line = _UNIT_APART.sub(r"\1", line)
    line = _TIMES.sub("x", line)
    line = _FACTOR.sub("pf", line)
    return re.sub(r"[ ]+", " ", line).strip()


def _unit(pattern: str) -> re.Pattern[str]:
    return re.compile(rf"^{_NUMBER}\s?(?:{pattern})$", re.IGNORECASE)


_WATTS, _KILOWATTS = _unit("w|va|watt|watts"), _unit("kw|kva")
_METRES = _unit("m|metre|metres|meter|meters")
_AMPS, _MILLIAMPS, _KILOAMPS = _unit("a|amp|amps"), _unit("ma"), _unit("ka")
_OHMS = _unit("ohm|ohms|Ω|Ω")
_VOLTS, _DEGREES = _unit("v|volt|volts"), _unit("°c|°|degc|deg")


def _value(pattern: re.Pattern[str], text: str, factor: float = 1.0) -> float | None:
    match = pattern.match(text)
    return float(match.group(1)) * factor if match else None


def power_w(text: str) -> float | None:
    """Power [W] of ``7.2kW`` or ``60W``; None for anything else. A VA is read as a W: of the two the larger current."""
    watts = _value(_WATTS, text)
    return watts if watts is not None else _value(_KILOWATTS, text, 1000.0)


def length_m(text: str) -> float | None:
    """Length [m] of ``14m`` or ``45ft``; None for anything else."""
    metres = _value(_METRES, text)
    feet = re.match(rf"^{_NUMBER}\s?(?:ft|feet|foot|')$", text, re.IGNORECASE)
    return metres if metres is not None else round(float(feet.group(1)) * M_PER_FT, 2) if feet else None


def amps(text: str) -> float | None:
    """Current [A] of ``16A``; None for anything else."""
    return _value(_AMPS, text)


def milliamps(text: str) -> float | None:
    """Current [mA] of ``30mA``; None for anything else."""
    return _value(_MILLIAMPS, text)


def kiloamps(text: str) -> float | None:
    """Current [kA] of ``6kA``; None for anything else."""
    return _value(_KILOAMPS, text)


def ohms(text: str) -> float | None:
    """Resistance [Ω] of ``40ohm`` or ``40Ω``; None for anything else.

    >>> ohms("40Ω"), ohms("0.5ohm"), ohms("40")
    (40.0, 0.5, None)
    """
    return _value(_OHMS, text)


def volts(text: str) -> float | None:
    """Voltage [V] of ``240V``; None for anything else."""
    return _value(_VOLTS, text)


def degrees_c(text: str) -> float | None:
    """Temperature [°C] of ``35°C``; None for anything else."""
    return _value(_DEGREES, text)


def power_factor(text: str) -> float | None:
    """Power factor of ``pf0.8`` as ``plain`` joins it; None for anything else."""
    match = re.match(rf"^pf{_NUMBER}$", text, re.IGNORECASE)
    return float(match.group(1)) if match else None


def whole(text: str) -> int | None:
    """A whole number without a unit; None for anything else."""
    return int(text) if text.isascii() and text.isdigit() and len(text) <= 4 else None
