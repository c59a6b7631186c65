"""What is usual in a country and is in no publication: everyday words, inch sizes of old wiring, customary circuits."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any, cast

from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.rules.customary_supply import TypicalHome, UsualLoad, UsualSupply
from vivid_lattice.core.rules.data_folder import data_root
from vivid_lattice.core.rules.rule_data import CUSTOMARY_FILE, RuleData, Table, known_publications, parse
from vivid_lattice.core.rules.standard_file import standard_file
from vivid_lattice.core.sources import Source


@dataclass(frozen=True, slots=True, kw_only=True)
class EverydayWord:
    """An everyday word or phrase.

    kind     key of the customary circuits that it names; empty: it names none
    load     kind of load of that circuit; empty: the circuit feeds a board
    circuit  kind of that circuit
    sets     fields of a line that it sets, with their values
    """

    text: str
    kind: str
    load: str
    circuit: str
    sets: Mapping[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualCircuit:
    """What is usually fitted for a kind of circuit within a band.

    kind, load, circuit  key of the customary circuits; kinds of load and circuit in the document (a feeder has no load)
    phases               lines of the circuit
    by, over, upto       what the band goes by: ``kW`` connected, ``label-kW`` at 240 V, ``A`` running current, ``m`` of run, empty: any
    device, curve        kind of device and its characteristic (None: it has none)
    rating_a             its rating; None: by the label of what is connected
    size                 of the conductor: mm², in North America the size's name
    rcd                  whether a 30 mA RCD protects it as a matter of course
    """

    kind: str
    load: str
    circuit: str
    phases: int
    by: str
    over: float
    upto: float
    device: str
    curve: Curve | None
    rating_a: float | None
    size: str
    rcd: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DemandOption:
    """What may be done where the demand exceeds the supply.

    way, how, requires  its name, what is done, what it takes
    when                what it is for: a charger, heating, a feeder, a supply below so many amperes, … ; empty: any
    enters              where in the job it is entered, and is then used
    """

    way: str
    how: str
    requires: str
    when: str
    enters: str


@dataclass(frozen=True, slots=True)
class UsualSharedRcds:
    """Shared RCDs as boards usually have them: so many circuits behind each, so many at least and at most."""

    circuits: int
    least: int
    most: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Customary:
    """The words of a standard, each with its tokens in the form that ``token`` gives; inch sizes as metric ones [mm²]; its
    customary circuits; the ways out of a demand over the supply, in order; the shared RCDs of a new board (None: it has none); what
    a new job assumes of its supply; the breaking capacity of a device that states none; the usual length [m] of a circuit and what is
    usual of its load, by kind of customary circuit (and number of lines); typical homes."""

    words: Mapping[tuple[str, ...], EverydayWord]
    inch_mm2: Mapping[str, float]
    circuits: tuple[UsualCircuit, ...]
    demand_options: tuple[DemandOption, ...]
    shared_rcds: UsualSharedRcds | None
    supply: tuple[UsualSupply, ...]
    breaking: UsualSupply | None
    lengths_m: Mapping[str, float]
    lengths_source: str
    loads: Mapping[tuple[str, int], UsualLoad]
    loads_source: str
    homes: tuple[TypicalHome, ...]


def token(text: str) -> str:
    """A word as it is compared: without case, accents of quotation, and the plural's s.

    >>> token("Downlights"), token("gas"), token("T&E")
    ('downlight', 'ga', 't&e')
    """
    folded = text.casefold().replace("’", "'").strip(".")
    return folded[:-1] if len(folded) > 2 and folded.endswith("s") else folded


_HYPHEN = re.compile(r"(?<=[^\W\d])-(?=[^\W\d])")


def tokens(text: str) -> tuple[str, ...]:
    """A text as the tokens that are compared: split at blanks, and at hyphens between letters.

    >>> tokens("Sub-board"), tokens("14-50 outlets")
    (('sub', 'board'), ('14-50', 'outlet'))
    """
    return tuple(token(part) for part in _HYPHEN.sub(" ", text).split())


#: What is assumed of a circuit's device; every other row is of the supply and the first board.
_BREAKING = "device.breaking_ka"
#: Columns of the table of such options.
_OPTION = ("way", "how", "requires", "when", "enters")


@lru_cache
def customary(rules_id: str) -> Customary:
    """What is usual under a standard; read at first use, since only typed lines and surveys need it."""
    names: Mapping[str, Any] = standard_file(rules_id)["customary"]
    data = RuleData(MappingProxyType({}), MappingProxyType({}))
    for folder in names["folders"]:
        text = (data_root() / folder / CUSTOMARY_FILE).read_text("utf-8")
        read = parse({CUSTOMARY_FILE: text}, known_publications())
        data = RuleData(MappingProxyType(dict(data.tables) | dict(read.tables)), data.rules)
    words: dict[tuple[str, ...], EverydayWord] = {}
    for table_id in names["words"]:
        for row in data.table(table_id).rows:
            word, kind, load, circuit, sets = (str(cell) for cell in row)
            parts = (part.split("=", 1) for part in sets.split("; ") if part)
            entry = EverydayWord(text=word, kind=kind, load=load, circuit=circuit, sets=MappingProxyType(dict(parts)))
            words[tokens(word)] = entry
    inches: dict[str, float] = {}
    for table_id in names.get("inch_sizes", []):
        for row in data.table(table_id).rows:
            inches[str(row[0])] = float(row[4])
    table = data.table(str(names["circuits"]))
    country = str(names.get("country", ""))
    circuits = tuple(_usual(row) for row in _rows(table, country))
    ways = tuple(
        DemandOption(**dict(zip(_OPTION, map(str, row), strict=True)))
        for row in data.table(str(names["ways_out"])).rows
    )
    assumed = tuple(_usual_supply(data, names["supply"], entry) for entry in standard_file(rules_id).get("assumed", ()))
    shared = UsualSharedRcds(**names["shared_rcds"]) if "shared_rcds" in names else None
    return Customary(
        words=MappingProxyType(words),
        inch_mm2=MappingProxyType(inches),
        circuits=circuits,
        demand_options=ways,
        shared_rcds=shared,
        supply=tuple(row for row in assumed if row.field != _BREAKING),
        breaking=next((row for row in assumed if row.field == _BREAKING), None),
        lengths_m=MappingProxyType({str(kind): float(str(m)) for kind, m in data.table(names["lengths"]).rows}),
        lengths_source=str(names["lengths"]),
        loads_source=str(names["unstated"]),
        loads=MappingProxyType(_usual_loads(data.table(names["unstated"]), country)),
        homes=tuple(_homes(data.table(names["homes_about"]), data.table(names["homes"]), country)),
    )


def _rows(table: Table, country: str = "") -> Iterator[dict[str, Any]]:
    """The rows of a table for a country: where the table tells countries apart, those of this one and those of all."""
    rows = (dict(zip(table.columns, row, strict=True)) for row in table.rows)
    return (row for row in rows if row.get("country", "") in ("", "both", country))


def _usual_supply(data: RuleData, tables: Sequence[str], entry: Mapping[str, Any]) -> UsualSupply:
    """A row of the customary supply, by its item and case; BadTable where none has both, or a new job does not take it."""
    row, source = _supply_row(data, tables, entry["item"], entry["case"])
    if row["assumed"] is not True:
        raise BadTable(
            source.table or tables[0], f"row {entry['item']}, {entry['case']} is not one that a new job takes"
        )
    other = _supply_row(data, tables, entry["item"], entry["other"])[0]["value"] if "other" in entry else None
    return UsualSupply(
        field=entry["field"],
        systems=tuple(entry.get("systems", ())),
        phases=tuple(int(number) for number in entry.get("phases", (1, 2, 3))),
        value=float(row["value"]),
        other=None if other is None else float(other),
        confirm=str(row["confirm"]),
        case=str(row["case"]),
        source=source,
    )


def _supply_row(data: RuleData, tables: Sequence[str], item: str, case: str) -> tuple[dict[str, Any], Source]:
    for name in tables:
        table = data.table(name)
        for row in _rows(table):
            if (row["item"], row["case"]) == (item, case):
                return row, table.source
    raise BadTable(tables[0], f"no row {item}, {case}")


def _usual_loads(table: Table, country: str) -> dict[tuple[str, int], UsualLoad]:
    loads = {}
    for row in _rows(table, country):
        power_w, current_a = 1000 * float(row["power_kW"]), float(row["current_A"])
        loads[str(row["kind"]), int(row["phases"])] = UsualLoad(power_w=power_w or None, current_a=current_a or None)
    return loads


def _homes(about: Table, lines: Table, country: str) -> Iterator[TypicalHome]:
    """The homes that have lines to type: a board that is there already is surveyed, not typed."""
    for home in _rows(about):
        entries = tuple(
            (str(row["name"]), str(row["line"]))
            for row in _rows(lines, country)
            if row["home"] == home["home"] and row["style"] == "entry"
        )
        if not entries:
            continue
        yield TypicalHome(
            id=str(home["home"]),
            title=str(home["title"]),
            system=str(home["system"]),
            phases=int(home["phases"]),
            ways=int(home["ways"] if "ways" in home else home["spaces"]),
            floor_m2=round(float(home["floor_ft2"]) * 0.09290304, 1) if "floor_ft2" in home else None,
            lines=entries,
        )


def _usual(row: Mapping[str, object]) -> UsualCircuit:
    """A row of the customary circuits."""
    by_label = row["floor"] == "cable"
    return UsualCircuit(
        kind=str(row["kind"]),
        load=str(row["load"]),
        circuit=str(row["circuit"]),
        phases=int(str(row["phases"])),
        by=str(row["by"]),
        over=float(str(row["over"])),
        upto=float(str(row["upto"])),
        device=str(row["device"]),
        curve=cast(Curve, row["curve"]) or None,
        rating_a=None if by_label else float(str(row["rating_A"])),
        size=f"{row['size']:g}" if isinstance(row["size"], (int, float)) else str(row["size"]),
        rcd=bool(row["rcd"]),
    )
