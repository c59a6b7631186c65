"""A reading as it is typed: 0,45 · >200 · LIM · 1.2kA · ok."""

from __future__ import annotations

import re
from dataclasses import dataclass

from vivid_lattice.core.document.readings import ReadingKind, ReadingState
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.formulas.electrode_fall import AGREE_SHARE, mean_of_fall_ohm
from vivid_lattice.core.messages import message
from vivid_lattice.core.testing.reading_kinds import TRAITS, Unit

#: Words for a reading beyond the range, of what is right, of what is wrong, of a test that was left out.
_ABOVE = frozenset({"lim", "ol", "o.l", "o.l.", "open", "inf", "∞", "over", "overrange", "over-range"})
_RIGHT = frozenset({"ok", "yes", "y", "pass", "passed", "right", "good", "✓", "trips", "holds", "no trip", "correct"})
_WRONG = frozenset(
    {"no", "n", "fail", "failed", "wrong", "bad", "not ok", "trip", "tripped", "reversed", "did not trip"}
)
_LEFT_OUT = frozenset({"n/a", "na", "n.a.", "left out", "not done", "-", "–"})
#: Words that say the contrary of a device that has to hold, and of one that has to trip.
_HOLDS = frozenset({"holds", "no trip"})
_TRIPS = frozenset({"trips", "trip", "tripped"})
_TO_HOLD: frozenset[ReadingKind] = frozenset({"rcd_half", "rcd_load", "rcd_other"})
#: What a unit is multiplied by to be the one that a kind of reading is kept in.
_FACTORS: dict[Unit, dict[str, float]] = {
    "Ω": {"": 1, "ohm": 1, "ohms": 1, "ω": 1, "r": 1, "mohm": 1e-3, "mω": 1e-3, "k": 1e3, "kohm": 1e3, "kω": 1e3},
    "MΩ": {"": 1, "m": 1, "mohm": 1, "mω": 1, "meg": 1, "g": 1e3, "gohm": 1e3, "gω": 1e3, "k": 1e-3, "kohm": 1e-3, "kω": 1e-3},
    "V": {"": 1, "v": 1, "kv": 1e3},
    "A": {"": 1, "a": 1, "ka": 1e3, "k": 1e3},
    "ms": {"": 1, "ms": 1, "s": 1e3},
    "mA": {"": 1, "ma": 1, "a": 1e3},
}  # fmt: skip
#: A megohm, which must not be read as a milliohm.
_MEGA = re.compile(r"\dM|\d\s+M")
_FIGURE = re.compile(r"(?P<sign>[<>≥≤]?)\s*(?P<number>\d+(?:[.,]\d+)?|[.,]\d+)\s*(?P<unit>[a-zµω∞]*)")


@dataclass(frozen=True, slots=True)
class TypedReading:
    """What a typed reading states: a figure in the unit of its kind, with the ``parts`` that it is the mean of; or what was seen."""

    state: ReadingState
    value: float | None = None
    parts: tuple[float, ...] = ()


def reading_text(text: str, kind: ReadingKind) -> TypedReading:
    """A typed reading of a kind.

    Raises  EntryNotUnderstood where it is no figure of the kind's unit, or no word for what was seen

    >>> reading_text(">200", "ir_le").value, reading_text("LIM", "ir_le").state
    (200.0, 'above-range')
    >>> reading_text("0,45", "zs").value, reading_text("1.2kA", "pfc_ln").value, reading_text("2 GΩ", "ir_ln").value
    (0.45, 1200.0, 2000.0)
    """
    word = " ".join(text.split()).casefold()
    if word in _LEFT_OUT:
        return TypedReading("left-out")
    unit = TRAITS[kind].unit
    if not unit:
        return TypedReading(_seen(word, kind, text))
    if word in _ABOVE:
        return TypedReading("above-range")
    if kind in ("rcd_1", "rcd_5", "rcd_ramp") and word in (*_HOLDS, "did not trip"):
        return TypedReading("above-range")
    if kind == "ra" and "/" in word:
        return _of_fall(text)
    found = _FIGURE.fullmatch(word)
    if found is None:
        raise EntryNotUnderstood(text, message(None, "core.testing.not_a_figure", unit=unit))
    factor = _FACTORS[unit].get(found["unit"])
    if factor is None or (unit == "Ω" and _MEGA.search(text)):
        raise EntryNotUnderstood(text, message(None, "core.testing.not_its_unit", typed=found["unit"], unit=unit))
    value = float(found["number"].replace(",", ".")) * factor
    # A decimal comma typed as a point makes figures that no floating point can hold exactly.
    state: ReadingState = {"<": "below-range", "≤": "below-range", ">": "above-range", "≥": "above-range"}.get(
        found["sign"], "value"
    )  # type: ignore[assignment]
    return TypedReading(state, round(value, 6))


def _of_fall(text: str) -> TypedReading:
    """Three readings of an electrode: 39.4/40.0/40.8. EntryNotUnderstood where they are not three, or too far apart."""
    each = [reading_text(part, "ra") for part in text.split("/")]
    parts = tuple(one.value for one in each if one.state == "value" and one.value is not None)
    if len(parts) != 3 or len(each) != 3:
        raise EntryNotUnderstood(text, message(None, "core.testing.fall.three"))
    mean = mean_of_fall_ohm(parts)
    if mean is None:
        raise EntryNotUnderstood(text, message(None, "core.testing.fall.apart", pct=f"{100 * AGREE_SHARE:g}"))
    return TypedReading("value", round(mean, 6), parts)


def _seen(word: str, kind: ReadingKind, text: str) -> ReadingState:
    """What was seen. At half its rating, and with loads on, an RCD has to hold; at its button it has to trip."""
    if kind in _TO_HOLD and word in _TRIPS:
        return "wrong"
    if kind in ("rcd_button", "afdd") and word in _HOLDS:
        return "wrong"
    if kind in ("rcd_button", "afdd") and word in _TRIPS:
        return "right"
    if word in _RIGHT:
        return "right"
    if word in _WRONG:
        return "wrong"
    raise EntryNotUnderstood(text, message(None, "core.testing.not_seen"))


def shown_reading(state: ReadingState, value: float | None, unit: str) -> str:
    """A reading as it is shown.

    >>> shown_reading("above-range", 200.0, "MΩ"), shown_reading("value", 0.45, "Ω"), shown_reading("right", None, "")
    ('> 200 MΩ', '0.45 Ω', '✓')
    """
    if state in ("right", "wrong", "left-out"):
        return {"right": "✓", "wrong": "✗", "left-out": "–"}[state]
    if value is None:
        return "LIM"
    sign = {"above-range": "> ", "below-range": "< "}.get(state, "")
    return f"{sign}{value:g} {unit}"
