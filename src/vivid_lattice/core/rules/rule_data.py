"""Rule data as it is packaged: TOML tables and rules, each with publication and provenance.

Loading validates: ids once, rows as long as their columns, keys rising, provenance from the closed list,
publications from the list of known ones. What is loaded is frozen.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cache, lru_cache
from types import MappingProxyType
from typing import Any, Literal

from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.rules.data_folder import data_root, homes
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.rules.standard_file import NAME, standard_file
from vivid_lattice.core.sources import Source

#: What is usual and in no publication; read on its own, by ``customary``.
CUSTOMARY_FILE = "customary.toml"
PROVENANCES = ("memory", "formula", "practice")
CONFIDENCES = ("high", "medium")

Cell = float | str | bool
Between = Literal["next-up", "exact"]
OutsideTable = Literal["refuse", "last"]


# Compared by identity: a table is loaded once, and its rows need not be hashed at every look-up.
@dataclass(frozen=True, slots=True, eq=False, kw_only=True)
class Table:
    """A table: columns by name, rows in order."""

    id: str
    title: str
    source: Source
    checked: str
    units: str
    columns: tuple[str, ...]
    rows: tuple[tuple[Cell, ...], ...]
    notes: str

    def column(self, name: str) -> int:
        """Index of a column; BadTable if there is none."""
        try:
            return self.columns.index(name)
        except ValueError:
            raise BadTable(self.id, f"has no column '{name}'") from None

    def key_figures(self, key: str | None = None) -> tuple[float, ...]:
        """The figures of one column (the first, unless named)."""
        at = self.column(key) if key else 0
        return tuple(float(row[at]) for row in self.rows)

    def number(
        self,
        column: str,
        key: float,
        *,
        key_column: str | None = None,
        between: Between = "exact",
        beyond: OutsideTable = "refuse",
    ) -> SourcedValue | None:
        """The figure of a column at a key.

        between   'exact': the key must stand in the table; 'next-up': the next larger key is taken
        beyond    'refuse': past the last key there is no answer; 'last': the last row holds on
        Returns   the figure with its source, or None where the table has no answer
        """
        at, value_at = self.column(key_column) if key_column else 0, self.column(column)
        for row in self.rows:
            here = float(row[at])
            if here == key:
                return SourcedValue(float(row[value_at]), self.source)
            if here > key:
                if between == "exact":
                    return None
                return SourcedValue(float(row[value_at]), self.source, f"{key:g} is not tabulated: row {here:g} taken")
        if beyond == "last" and self.rows:
            return SourcedValue(
                float(self.rows[-1][value_at]), self.source, f"past the last row, which holds on for {key:g}"
            )
        return None

    def look(
        self,
        column: str,
        key: float | str,
        *,
        key_column: str | None = None,
        where: Mapping[str, Cell] | None = None,
        between: Between = "exact",
        beyond: OutsideTable = "refuse",
    ) -> SourcedValue | None:
        """As ``number``, of the rows that hold what ``where`` asks; the key may be a word or a size by name."""
        kept = self if not where else _filtered(self, tuple(where.items()))
        if isinstance(key, str):
            at, value_at = kept.column(key_column) if key_column else 0, kept.column(column)
            return next((SourcedValue(float(row[value_at]), self.source) for row in kept.rows if row[at] == key), None)
        return kept.number(column, key, key_column=key_column, between=between, beyond=beyond)

    def row_where(self, **wanted: Cell) -> Mapping[str, Cell]:
        """The one row whose named columns hold the wanted values; BadTable if there is none."""
        return _row_where(self, tuple(wanted.items()))


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule in words, with its figures."""

    id: str
    text: str
    source: Source
    params: Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class RuleData:
    """All tables and rules of a standard, by id."""

    tables: Mapping[str, Table]
    rules: Mapping[str, Rule]

    def table(self, table_id: str) -> Table:
        """A table by id; BadTable if there is none."""
        try:
            return self.tables[table_id]
        except KeyError:
            raise BadTable(table_id, "is not packaged") from None

    def rule(self, rule_id: str) -> Rule:
        """A rule by id; BadTable if there is none."""
        try:
            return self.rules[rule_id]
        except KeyError:
            raise BadTable(rule_id, "is not packaged") from None


def parse(texts: Mapping[str, str], publications: tuple[str, ...]) -> RuleData:
    """Read and validate TOML texts (by file name) into frozen rule data.

    Raises BadTable, naming the table and what is wrong with it.
    """
    tables: dict[str, Table] = {}
    rules: dict[str, Rule] = {}
    for name, text in texts.items():
        try:
            raw = tomllib.loads(text)
        except tomllib.TOMLDecodeError as why:
            raise BadTable(name, f"is not TOML: {why}") from why
        for entry in raw.get("table", []):
            table = _table(entry, publications)
            if table.id in tables:
                raise BadTable(table.id, "is there twice")
            tables[table.id] = table
        for entry in raw.get("rule", []):
            rule = _rule(entry, publications)
            if rule.id in rules:
                raise BadTable(rule.id, "is there twice")
            rules[rule.id] = rule
    return RuleData(MappingProxyType(tables), MappingProxyType(rules))


@cache
def _filtered(table: Table, where: tuple[tuple[str, Cell], ...]) -> Table:
    wanted = [(table.column(name), value) for name, value in where]
    return replace(table, rows=tuple(row for row in table.rows if all(row[at] == value for at, value in wanted)))


@cache
def _row_where(table: Table, wanted: tuple[tuple[str, Cell], ...]) -> Mapping[str, Cell]:
    for row in table.rows:
        entry = dict(zip(table.columns, row, strict=True))
        if all(entry[name] == value for name, value in wanted):
            return MappingProxyType(entry)
    raise BadTable(table.id, f"has no row with {dict(wanted)}")


@lru_cache
def load(standard: str) -> RuleData:
    """The packaged data of a standard with what it shares of others, validated once a process."""
    folder, _ = homes()[standard]
    data = _folder(folder)
    tables, rules = dict(data.tables), dict(data.rules)
    for name in standard_file(standard)["standard"].get("shares", []):
        shared = _folder(name)
        tables |= shared.tables
        rules |= shared.rules
    return RuleData(MappingProxyType(tables), MappingProxyType(rules))


@lru_cache
def _folder(name: str) -> RuleData:
    return parse(dict(_texts(name)), known_publications())


@lru_cache
def known_publications() -> tuple[str, ...]:
    """Publications a table may name, from the one list of them."""
    raw = tomllib.loads((data_root() / "publications.toml").read_text("utf-8"))
    return tuple(raw["publications"])


def _texts(standard: str) -> Iterator[tuple[str, str]]:
    for path in sorted((data_root() / standard).iterdir(), key=lambda entry: entry.name):
        if path.name.endswith(".toml") and path.name not in (NAME, CUSTOMARY_FILE):
            yield path.name, path.read_text("utf-8")


def source_of(entry: Mapping[str, Any], publications: tuple[str, ...]) -> Source:
    where = str(entry.get("id", "a table without an id"))
    for needed in ("id", "publication", "provenance"):
        if not entry.get(needed):
            raise BadTable(where, f"lacks '{needed}'")
    if entry["provenance"] not in PROVENANCES:
        raise BadTable(where, f"provenance '{entry['provenance']}' is not one of {', '.join(PROVENANCES)}")
    confidence = entry.get("confidence", "high")
    if confidence not in CONFIDENCES:
        raise BadTable(where, f"confidence '{confidence}' is not one of {', '.join(CONFIDENCES)}")
    publication = str(entry["publication"])
    if entry["provenance"] != "formula" and not publication.startswith(publications):
        raise BadTable(where, f"publication '{publication}' is not in the list of known publications")
    return Source(publication, where, entry["provenance"], confidence)


def _table(entry: Mapping[str, Any], publications: tuple[str, ...]) -> Table:
    source = source_of(entry, publications)
    columns, rows = tuple(entry.get("columns", ())), tuple(tuple(row) for row in entry.get("rows", ()))
    if not columns or not rows:
        raise BadTable(source.table, "has no columns or no rows")
    if len(set(columns)) != len(columns):
        raise BadTable(source.table, "names a column twice")
    for number, row in enumerate(rows, 1):
        if len(row) != len(columns):
            raise BadTable(source.table, f"row {number} has {len(row)} cells for {len(columns)} columns")
    return Table(
        id=source.table,
        title=entry.get("title", ""),
        source=source,
        checked=entry.get("checked", ""),
        units=entry.get("units", ""),
        columns=columns,
        rows=rows,
        notes=entry.get("notes", ""),
    )


def _rule(entry: Mapping[str, Any], publications: tuple[str, ...]) -> Rule:
    source = source_of(entry, publications)
    if not entry.get("text"):
        raise BadTable(source.table, "has no text")
    return Rule(source.table, entry["text"], source, MappingProxyType(dict(entry.get("params", {}))))
