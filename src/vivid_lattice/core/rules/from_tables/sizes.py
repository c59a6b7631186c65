"""Conductor sizes as a standard names them: by area in mm², or by a gauge with its area."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vivid_lattice.core.rules.rule_data import RuleData, Table

_KEYED_BY_NAME = "size"


class SizeNames:
    """Between the area of a conductor, which the engine calculates with, and the name a standard gives it."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        entry: Mapping[str, Any] | None = standard.get("sizes")
        self.unit = str(entry["unit"]) if entry else "mm²"
        self._names: dict[float, str] = {}
        if entry:
            table = data.table(entry["table"])
            name_at, area_at = table.column(entry["label"]), table.column(entry["area"])
            self._names = {float(row[area_at]): str(row[name_at]) for row in table.rows}
        self._areas = {name: area for area, name in self._names.items()}

    def label(self, area_mm2: float) -> str:
        """The size as it is written without its unit."""
        return self._names.get(area_mm2, f"{area_mm2:g}")

    def with_unit(self, area_mm2: float) -> str:
        """The size with its unit: 2.5 mm², 12 AWG, 250 kcmil."""
        if area_mm2 not in self._names:
            return f"{area_mm2:g} mm²"
        name = self._names[area_mm2]
        return f"{name} kcmil" if name.isdigit() and int(name) >= 250 else f"{name} {self.unit}"

    def area(self, name: str) -> float | None:
        """Area [mm²] of a size by name; None where there is none of it."""
        return self._areas.get(name)

    def key(self, table: Table, area_mm2: float) -> float | str:
        """What a table is asked by for a size: its name where the table goes by names."""
        return self.label(area_mm2) if table.columns[0] == _KEYED_BY_NAME else area_mm2

    def areas_of(self, table: Table) -> tuple[float, ...]:
        """The sizes a table holds, as areas [mm²]."""
        if table.columns[0] == _KEYED_BY_NAME:
            return tuple(self._areas[str(row[0])] for row in table.rows if str(row[0]) in self._areas)
        return table.key_figures()

    def area_in(self, table: Table, column: str, key: float | str) -> float | None:
        """A size that a table's cell names, as its area [mm²]; None where the table has no such row."""
        at = table.column(column)
        for row in table.rows:
            if row[0] == key:
                return self.of_cell(row[at])
        return None

    def of_cell(self, cell: float | str | bool) -> float:
        """The area [mm²] of a size that is in a cell, by figure or by name."""
        return self._areas[cell] if isinstance(cell, str) else float(cell)
