"""Which column of a foreign table is what: guessed from its head, and for a person to correct."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Field:
    """Something a column can be: its id, what it is called, and the heads it goes by elsewhere (in lower case, without units)."""

    id: str
    title: str
    also: tuple[str, ...] = ()
    #: Whether a row without it cannot be used.
    needed: bool = False


FIELDS: tuple[Field, ...] = (
    Field("board", "Board", ("consumer unit", "switchboard", "panel", "distribution board", "db")),
    Field("way", "Way", ("no", "no.", "number", "way no", "circuit no", "circuit number", "nr")),
    Field("name", "Circuit", ("name", "description", "circuit description", "designation", "served", "label"), True),
    Field("kind", "Kind", ("circuit kind", "type of circuit", "circuit type")),
    Field("load", "Load", ("load kind", "appliance", "equipment")),
    Field("count", "Count", ("points", "quantity", "qty", "no of points", "number of points")),
    Field("power_w", "Power, W", ("power", "watts", "load w", "rating w")),
    Field("power_kw", "Power, kW", ("kw", "load kw", "kilowatts")),
    Field("power_factor", "Power factor", ("pf", "cos phi")),
    Field("current_a", "Design current, A", ("design current", "ib", "load current", "current")),
    Field("source", "Source", ("generation", "source of supply", "inverter")),
    Field("source_a", "Source output, A", ("source output", "rated output", "inverter output", "output current")),
    Field("room", "Room", ("location", "area", "where")),
    Field("lines", "Lines", ("line", "phase", "phases")),
    Field("length_m", "Length, m", ("length", "run", "cable length", "distance", "metres", "meters")),
    Field("method", "Method", ("reference method", "installation method", "ref method")),
    Field("cable", "Cable", ("cable type", "wiring")),
    Field("size_mm2", "Size, mm²", ("size", "csa", "conductor size", "live size", "cross section", "mm2", "mm²")),
    Field("device", "Device", ("protective device", "breaker", "ocpd", "device type")),
    Field("curve", "Curve", ("characteristic", "type b c d", "tripping curve")),
    Field("rating_a", "Rating, A", ("rating", "in", "device rating", "amps", "breaker rating")),
    Field("breaking_ka", "Breaking capacity, kA", ("breaking capacity", "ka", "icn", "short circuit capacity")),
    Field("rcd_ma", "RCD, mA", ("rcd", "idn", "rcd ma", "residual current")),
    Field("rcd_type", "RCD type", ("type of rcd",)),
    Field("modules", "Width, modules", ("width", "modules")),
    Field("switches_neutral", "Switches the neutral", ("switched neutral", "two pole", "double pole")),
    Field(
        "local_devices",
        "Devices outside the board",
        ("local devices", "isolator", "local isolator", "device at the outlet", "accessory devices"),
    ),
    Field("earth", "Earth of its points", ("earth", "earthing", "grounding", "local earth")),
    Field("electrode_ohm", "Electrode, Ω", ("electrode", "ra", "electrode resistance", "rod resistance")),
    Field("notes", "Notes", ("remarks", "comment", "comments")),
)

PRICE_FIELDS: tuple[Field, ...] = (
    Field("what", "What", ("article", "item", "kind", "type", "product", "description"), True),
    Field("rating_a", "Rating, A", ("rating", "amps", "in")),
    Field("size_mm2", "Size, mm²", ("size", "csa", "cross section", "mm2", "mm²")),
    Field("price", "Price", ("each", "per m", "price each", "net price", "cost", "unit price"), True),
    Field("pack", "Pack", ("pack of", "per pack", "pieces")),
)

_UNIT = re.compile(r"[\[\](),;:/]+")


def plain_head(head: str) -> str:
    """A head without case, brackets and doubled blanks.

    >>> plain_head(" Length (m) "), plain_head("Power [kW]")
    ('length m', 'power kw')
    """
    return " ".join(_UNIT.sub(" ", head.lower()).split())


def matched(heads: Sequence[str], fields: Sequence[Field]) -> dict[str, int]:
    """For each field the column that it is most likely in; a column is taken once. What is not recognised is left out."""
    names = [plain_head(head) for head in heads]
    columns: dict[str, int] = {}
    # The name as this program writes it goes before what it is called elsewhere.
    for by_title in (True, False):
        for field in fields:
            known = (plain_head(field.title),) if by_title else _also(field)
            free = (at for at, name in enumerate(names) if name in known and at not in columns.values())
            column = next(free, None)
            if field.id not in columns and column is not None:
                columns[field.id] = column
    return columns


def _also(field: Field) -> tuple[str, ...]:
    """Every head a field goes by, with its unit behind it too."""
    unit = plain_head(field.title.partition(",")[2])
    title = plain_head(field.title.partition(",")[0])
    names = (field.id, title, *field.also) if field.id != "power_kw" else field.also
    return (*names, *(f"{name} {unit}" for name in names if unit))


def number_in(text: str) -> float | None:
    """The figure at the beginning of a cell, with a decimal comma or point and any unit behind; None where there is none.

    >>> number_in("2,5 mm²"), number_in("14m"), number_in("1,234.5"), number_in("many"), number_in("-3")
    (2.5, 14.0, 1234.5, None, -3.0)
    """
    match = re.match(r"^[-+]?\d[\d.,\u00a0' ]*", text.strip())
    if not match:
        return None
    digits = re.sub(r"[\u00a0' ]", "", match.group()).rstrip(".,")
    if "," in digits and "." in digits:
        thousands = "," if digits.rfind(",") < digits.rfind(".") else "."
        digits = digits.replace(thousands, "")
    digits = digits.replace(",", ".")
    try:
        return float(digits)
    except ValueError:
        return None


def cell_of(row: Sequence[str], mapping: Mapping[str, int], field: str) -> str:
    """The text of a field in a row; empty where its column is not there."""
    column = mapping.get(field)
    return row[column].strip() if column is not None and 0 <= column < len(row) else ""
