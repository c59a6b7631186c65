"""Cables from tables: capacity, voltage drop, make-up, resistance, heat constant."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.job import Cable
from vivid_lattice.core.rules.protocol import CableKind, DropFigure, HotFactors, Looked
from vivid_lattice.core.rules.tables import RuleData


class TabledCables:
    """Cable rules read from a school's tables."""

    def __init__(self, data: RuleData, school: Mapping[str, Any]):
        self._data = data
        self._names: Mapping[str, str] = school["tables"]
        self._hot: Mapping[str, Any] = school["hot"]
        self._entries: dict[str, Mapping[str, Any]] = {entry["id"]: entry for entry in school["cable"]}
        self._cache: dict[tuple[Any, ...], Any] = {}
        self.kinds: Mapping[str, CableKind] = MappingProxyType(
            {entry["id"]: self._kind(entry) for entry in school["cable"]}
        )

    def _kind(self, entry: Mapping[str, Any]) -> CableKind:
        return CableKind(
            id=entry["id"],
            title=entry["title"],
            short=entry["short"],
            insulation=entry["insulation"],
            operating_c=float(entry["operating_c"]),
            sizes_mm2=self._data.table(entry["capacity"]).key_figures(),
            methods=tuple(entry["methods"]),
            cpc_choices=tuple(entry["cpc_choices"]),
        )

    def kind(self, cable_type: str) -> CableKind:
        """A kind of cable by id; NotTabulated if the school has none of that name."""
        try:
            return self.kinds[cable_type]
        except KeyError:
            raise NotTabulated(f"no cable of the kind '{cable_type}' in these tables") from None

    def rated_as(self, cable: Cable) -> str:
        """The insulation class by whose tables the cable is rated (a 90 °C cable on 70 °C terminals: the 70 °C one)."""
        return str(self._entry(cable)["rated_as"])

    def capacity_a(self, cable: Cable, method: str) -> Looked:
        """Tabulated current-carrying capacity It [A] by method, two loaded conductors, before any factor.

        Raises NotTabulated where the table lacks the method or the size.
        """
        key = ("capacity", cable.type, cable.area_mm2, method)
        if key not in self._cache:
            self._cache[key] = self._capacity(cable, method)
        found: Looked = self._cache[key]
        return found

    def _capacity(self, cable: Cable, method: str) -> Looked:
        entry, kind = self._entry(cable), self.kind(cable.type)
        if method not in kind.methods:
            raise NotTabulated(
                f"{kind.title} has no capacity by method {method}; its tables hold {', '.join(kind.methods)}",
                ask="Choose one of these methods, or another kind of cable.",
            )
        table = self._data.table(entry["capacity"])
        found = table.number(f"method_{method}{entry['capacity_suffix']}", cable.area_mm2)
        return self._or_ends(found, cable, table.id, table.key_figures())

    def drop_figure(self, cable: Cable, method: str) -> DropFigure:
        """Tabulated voltage drop [mV/(A·m)], both conductors, at the table's conductor temperature."""
        key = ("drop", cable.type, cable.area_mm2, method)
        if key not in self._cache:
            entry = self._entry(cable)
            prefix = entry["drop_prefix"].get(method, entry["drop_prefix"]["default"])
            table = self._data.table(entry["drop"])
            r = self._or_ends(table.number(f"{prefix}r", cable.area_mm2), cable, table.id, table.key_figures()).value
            has_x = f"{prefix}x" in table.columns
            x = table.number(f"{prefix}x", cable.area_mm2) if has_x else None
            z = table.number(f"{prefix}z", cable.area_mm2) if has_x else None
            self._cache[key] = DropFigure(r, x.value if x else 0.0, z.value if z else r, table.source)
        found: DropFigure = self._cache[key]
        return found

    def cpc_area_mm2(self, cable: Cable) -> Looked:
        """Cross-section of the protective conductor [mm²]: as stated, as made up, a core, or the armour."""
        key = ("cpc", cable.type, cable.area_mm2, cable.cpc, cable.cpc_mm2)
        if key not in self._cache:
            self._cache[key] = self._cpc_area(cable)
        found: Looked = self._cache[key]
        return found

    def _cpc_area(self, cable: Cable) -> Looked:
        entry, kind = self._entry(cable), self.kind(cable.type)
        if cable.cpc not in kind.cpc_choices:
            raise NotTabulated(
                f"{kind.title} has no protective conductor of the kind '{cable.cpc}'; it has {', '.join(kind.cpc_choices)}",
                path="cable.cpc",
            )
        if cable.cpc == "armour":
            table = self._data.table(entry["armour_area"])
            return self._or_ends(table.number("armour_mm2", cable.area_mm2), cable, table.id, table.key_figures())
        if cable.cpc_mm2 is not None:
            return Looked(cable.cpc_mm2, self._data.table(self._names["resistance"]).source, "as stated in the job")
        if cable.cpc == "included":
            table = self._data.table(entry["included_cpc"])
            return self._or_ends(table.number("cpc_mm2", cable.area_mm2), cable, table.id, table.key_figures())
        return Looked(cable.area_mm2, self._data.table(self._names["resistance"]).source, "same size as the line")

    def line_mohm_per_m(self, cable: Cable) -> Looked:
        """Resistance of the line conductor at 20 °C [mΩ/m]."""
        return self._resistance(cable.area_mm2, cable)

    def cpc_mohm_per_m(self, cable: Cable) -> Looked:
        """Resistance of the protective conductor at 20 °C [mΩ/m]; of the armour where that is the conductor."""
        if cable.cpc == "armour":
            self.cpc_area_mm2(cable)
            table = self._data.table(self._entry(cable)["armour_resistance"])
            return self._or_ends(table.number("armour_r20", cable.area_mm2), cable, table.id, table.key_figures())
        return self._resistance(self.cpc_area_mm2(cable).value, cable)

    def _resistance(self, area_mm2: float, cable: Cable) -> Looked:
        key = ("r20", area_mm2)
        if key not in self._cache:
            table = self._data.table(self._names["resistance"])
            found = table.number(self._names["resistance_column"], area_mm2)
            if found is None:
                raise NotTabulated(f"the resistance table has no {area_mm2:g} mm² conductor (cable {cable.type})")
            self._cache[key] = found
        known: Looked = self._cache[key]
        return known

    def hot_factors(self, cable: Cable) -> HotFactors:
        """Multipliers from 20 °C to the conductor temperature assumed under fault."""
        key = ("hot", cable.type, cable.cpc)
        if key not in self._cache:
            table = self._data.table(self._names["hot"])
            column = self._entry(cable)["hot_column"]
            apart, together = (
                float(table.row_where(arrangement=self._hot[name])[column]) for name in ("apart", "together")
            )
            operating = self.kind(cable.type).operating_c
            separate = cable.cpc == "separate"
            self._cache[key] = HotFactors(
                together,
                apart if separate else together,
                operating,
                float(self._hot["apart_c"]) if separate else operating,
                table.source,
            )
        found: HotFactors = self._cache[key]
        return found

    def k_protective(self, cable: Cable) -> Looked:
        """Heat constant k of the protective conductor [A·√s/mm²]."""
        name, column, row = self._names["k_in_cable"], "copper", self._entry(cable)["k_row"]
        if cable.cpc == "armour":
            name, column, row = self._names["k_armour"], "steel", self._entry(cable)["insulation"]
        elif cable.cpc == "separate":
            name = self._names["k_separate"]
        table = self._data.table(name)
        return Looked(float(table.row_where(insulation=row)[column]), table.source)

    def _entry(self, cable: Cable) -> Mapping[str, Any]:
        self.kind(cable.type)
        return self._entries[cable.type]

    @staticmethod
    def _or_ends(found: Looked | None, cable: Cable, table: str, sizes: tuple[float, ...]) -> Looked:
        if found is None:
            raise NotTabulated(
                f"table {table} has no row for {cable.area_mm2:g} mm²; it holds {', '.join(f'{size:g}' for size in sizes)}"
            )
        return found
