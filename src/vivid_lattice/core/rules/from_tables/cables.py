"""Cables from tables: capacity, voltage drop, make-up, resistance, heat constant."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import sqrt
from types import MappingProxyType
from typing import Any, TypeVar

from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.errors import Need, NeedsInput, NotTabulated
from vivid_lattice.core.formulas.cable.impedance import temperature_factor
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.from_tables.sizes import SizeNames
from vivid_lattice.core.rules.protocol import CableKind, CableSize, DropFigure, HotFactors
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import Shown

_Entry = Mapping[str, Any]
_Cached = TypeVar("_Cached")


class CablesFromTables:
    """Cable rules read from a standard's tables."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any], sizes: SizeNames):
        self._data, self._sizes = data, sizes
        defaults = standard.get("cable_defaults", {})
        self._entries: dict[str, _Entry] = {entry["id"]: {**defaults, **entry} for entry in standard["cable"]}
        self._reactance: Mapping[str, Any] = standard.get("reactance", {})
        self._terminals: Mapping[str, Any] | None = standard.get("terminals")
        self._cache: dict[tuple[Any, ...], Any] = {}
        self.kinds: Mapping[str, CableKind] = MappingProxyType(
            {cable: self._kind(entry) for cable, entry in self._entries.items()}
        )

    def _kind(self, entry: _Entry) -> CableKind:
        most = float(entry.get("upto_mm2", 1e9))
        areas = sorted(
            {
                area
                for source in entry["capacity"]
                for area in self._sizes.areas_of(self._data.table(source["table"]))
                if area <= most
            }
        )
        return CableKind(
            id=entry["id"],
            title=entry["title"],
            short=entry["short"],
            insulation=entry["insulation"],
            material=entry["material"],
            operating_c=float(entry["operating_c"]),
            sizes_mm2=tuple(areas),
            sizes=tuple(CableSize(area, self._sizes.label(area)) for area in areas),
            methods=tuple(entry["methods"]),
            loaded=tuple(sorted({int(source["loaded"]) for source in entry["capacity"]})),
            cpc_choices=tuple(entry["cpc_choices"]),
        )

    def kind(self, cable_type: str) -> CableKind:
        """A kind of cable by id; NotTabulated if the standard has none of that name."""
        try:
            return self.kinds[cable_type]
        except KeyError:
            raise NotTabulated(message(None, "core.rules.cable.kind", type=cable_type)) from None

    def rated_as(self, cable: Cable) -> str:
        """The insulation class by whose tables the cable is rated (a 90 °C cable on 70 °C terminals: the 70 °C one)."""
        return str(self._entry(cable)["rated_as"])

    def size_label(self, area_mm2: float) -> str:
        """A conductor size as the standard writes it: 2.5 mm², or 12 AWG."""
        return self._sizes.with_unit(area_mm2)

    # ------------------------------------------------------------------------------------------ capacity

    def capacity_a(self, cable: Cable, method: str, loaded: int = 2) -> SourcedValue:
        """Tabulated current-carrying capacity It [A] by method and number of loaded conductors, before any factor.

        Raises NotTabulated where the tables lack the method, the number of loaded conductors or the size.
        """
        return self._cached(
            ("capacity", cable.type, cable.area_mm2, method, loaded), self._capacity, cable, method, loaded
        )

    def _capacity(self, cable: Cable, method: str, loaded: int) -> SourcedValue:
        entry, kind = self._entry(cable), self.kind(cable.type)
        if method not in kind.methods:
            raise NotTabulated(
                message(
                    None, "core.rules.cable.need.method", cable=kind.title, method=method, list=", ".join(kind.methods)
                ),
                ask=message(None, "core.rules.cable.need.method_ask"),
            )
        fitting = [
            source
            for source in entry["capacity"]
            if source["loaded"] == loaded and method in source.get("methods", kind.methods)
        ]
        if not fitting:
            raise NotTabulated(
                message(None, "core.rules.cable.need.loaded", cable=kind.title, n=loaded),
                ask=message(None, "core.rules.cable.need.loaded_ask"),
            )
        for source in fitting:
            table = self._data.table(source["table"])
            column = source["column"].format(method=method)
            if column not in table.columns:
                continue
            sourced_value = table.look(column, self._sizes.key(table, cable.area_mm2))
            if sourced_value is not None and cable.area_mm2 <= float(entry.get("upto_mm2", cable.area_mm2)):
                return SourcedValue(sourced_value.value, sourced_value.source, source.get("how", ""))
        raise self._ends(cable, fitting[0]["table"], kind.sizes_mm2)

    def terminal_ceiling(self, cable: Cable, rating_a: float, marked_c: int | None) -> SourcedValue | None:
        """Ampacity [A] that terminals allow whatever the insulation bears; None where the standard has no such rule."""
        entry, usually = self._entry(cable).get("terminals"), self._terminals
        if entry is None or usually is None:
            return None
        usual = int(usually["upto_c"] if rating_a <= usually["upto_a"] else usually["above_c"])
        degrees = min(marked_c or usual, int(entry.get("most_c", 90)))
        columns: Mapping[str, str] = entry["columns"]
        fitting = [at for at in map(int, columns) if at <= degrees]
        table = self._data.table(entry["table"])
        sourced_value = table.look(columns[str(max(fitting))], self._sizes.key(table, cable.area_mm2))
        if sourced_value is None:
            raise self._ends(cable, table.id, self.kind(cable.type).sizes_mm2)
        return SourcedValue(
            sourced_value.value,
            self._data.rule(entry["rule"]).source,
            message(None, "core.rules.cable.ceiling", t=degrees),
        )

    def terminals_text(self) -> str:
        """What terminals are taken for while no one has read their marking; empty where the standard has no such rule."""
        usual = self._terminals
        return f"{usual['upto_c']} °C to {usual['upto_a']} A, {usual['above_c']} °C above" if usual else ""

    # ------------------------------------------------------------------------------------------ voltage drop

    def drop_figure(self, cable: Cable, method: str, loaded: int = 2) -> DropFigure:
        """Voltage drop [mV/(A·m)] at the table's conductor temperature: of two loaded conductors both together, of three
        between lines."""
        return self._cached(("drop", cable.type, cable.area_mm2, method, loaded), self._drop, cable, method, loaded)

    def _drop(self, cable: Cable, method: str, loaded: int) -> DropFigure:
        entry = self._entry(cable)
        share = 2.0 if loaded == 2 else sqrt(3.0)
        for source in entry["drop"]:
            if source.get("loaded", loaded) != loaded or method not in source.get("methods", [method]):
                continue
            by = source.get("by")
            if by == "resistivity":
                r = share * 1000 * float(source["ohm_mm2_per_m"]) / cable.area_mm2
                x = share * float(source["x_mohm_per_m"])
                return DropFigure(
                    r=r, x=x, z=sqrt(r**2 + x**2), any_power_factor=False, source=self._data.rule(source["rule"]).source
                )
            if by == "resistance":
                beta = float(entry["hot"]["beta"])
                r = share * self.line_mohm_per_m(cable).value * temperature_factor(float(source["at_c"]), beta)
                x = share * float(source["x_mohm_per_m"])
                return DropFigure(
                    r=r, x=x, z=sqrt(r**2 + x**2), any_power_factor=False, source=self.line_mohm_per_m(cable).source
                )
            table = self._data.table(source["table"])
            key, scale = self._sizes.key(table, cable.area_mm2), float(source.get("scale", 1.0))
            sourced_value = table.look(source["r"], key)
            if sourced_value is None:
                raise self._ends(cable, table.id, self._sizes.areas_of(table))
            x_found = table.look(source["x"], key) if "x" in source else None
            z_found = table.look(source["z"], key) if "z" in source else None
            return DropFigure(
                r=sourced_value.value * scale,
                x=x_found.value * scale if x_found else 0.0,
                z=(z_found or sourced_value).value * scale,
                any_power_factor=bool(source.get("any_power_factor", False)),
                source=table.source,
            )
        raise NotTabulated(message(None, "core.rules.cable.need.drop", cable=self.kind(cable.type).title, n=loaded))

    # ------------------------------------------------------------------------------------------ resistance

    def line_mohm_per_m(self, cable: Cable) -> SourcedValue:
        """Resistance of the line conductor at 20 °C [mΩ/m]."""
        return self._cached(("r20", cable.type, cable.area_mm2), self._resistance, cable, cable.area_mm2)

    def reactance_mohm_per_m(self, cable: Cable) -> float:
        """Reactance of one conductor [mΩ/m]; 0 at the sizes where it is neglected."""
        if not self._reactance or cable.area_mm2 <= float(self._reactance["above_mm2"]):
            return 0.0
        return float(self._reactance["mohm_per_m"])

    def _resistance(self, cable: Cable, area_mm2: float) -> SourcedValue:
        sources = self._entry(cable)["r20"]
        for source in sources:
            if area_mm2 > float(source.get("upto_mm2", area_mm2)):
                continue
            table = self._data.table(source["table"])
            sourced_value = table.look(source["column"], self._sizes.key(table, area_mm2))
            if sourced_value is not None:
                cold = temperature_factor(float(source.get("at_c", 20.0)), float(source.get("beta", 234.5)))
                return SourcedValue(
                    sourced_value.value * float(source.get("scale", 1.0)) / cold,
                    sourced_value.source,
                    sourced_value.basis,
                )
        raise NotTabulated(
            message(
                None,
                "core.rules.cable.need.resistance",
                size=self._sizes.with_unit(area_mm2),
                cable=cable.type,
                table=sources[-1]["table"],
            )
        )

    def hot_factors(self, cable: Cable) -> HotFactors:
        """Multipliers from 20 °C to the conductor temperature assumed under fault."""
        return self._cached(("hot", cable.type, cable.cpc), self._hot, cable)

    def _hot(self, cable: Cable) -> HotFactors:
        entry, operating = self._entry(cable), self.kind(cable.type).operating_c
        hot: Mapping[str, Any] = entry["hot"]
        apart_c = float(hot["apart_c"]) if cable.cpc == "separate" else operating
        table = self._data.table(hot["table"])
        if "beta" in hot:
            beta = float(hot["beta"])
            line, cpc = temperature_factor(operating, beta), temperature_factor(apart_c, beta)
        else:
            column = entry["hot_column"]
            together = float(table.row_where(arrangement=hot["together"])[column])
            apart = float(table.row_where(arrangement=hot["apart"])[column])
            line, cpc = together, apart if cable.cpc == "separate" else together
        return HotFactors(line=line, cpc=cpc, line_c=operating, cpc_c=apart_c, source=table.source)

    # ------------------------------------------------------------------------------------------ protective conductor

    def cpc_area_mm2(self, cable: Cable, loaded: int = 2) -> SourcedValue:
        """Cross-section of the protective conductor [mm²]: as stated, as made up, a core, the armour or other metal.

        A copper conductor laid beside it is no part of this figure.
        """
        key = ("cpc", cable.type, cable.area_mm2, cable.cpc, cable.cpc_mm2, loaded)
        return self._cached(key, self._cpc_area, cable, loaded)

    def _cpc_area(self, cable: Cable, loaded: int) -> SourcedValue:
        entry, kind = self._entry(cable), self.kind(cable.type)
        if cable.cpc not in kind.cpc_choices:
            raise NotTabulated(
                message(
                    None,
                    "core.rules.cable.need.cpc",
                    type=cable.cpc,
                    cable=kind.title,
                    list=", ".join(kind.cpc_choices),
                ),
                path="cable.cpc",
            )
        stated = self._data.table(entry["r20"][-1]["table"]).source
        if cable.cpc_mm2 is not None:
            return SourcedValue(cable.cpc_mm2, stated, message(None, "core.rules.cable.stated"))
        if cable.cpc == "armour":
            return self._armour(cable, loaded, "area", "cable.cpc_mm2")
        if cable.cpc == "metal":
            raise NeedsInput(
                Need(
                    message(None, "core.rules.cable.need.metal_area"),
                    "cable.cpc_mm2",
                    message(None, "core.rules.cable.need.metal_area_ask"),
                )
            )
        if cable.cpc == "included":
            source = entry["included_cpc"]
            table = self._data.table(source["table"])
            key = self._sizes.key(table, cable.area_mm2)
            area = self._sizes.area_in(table, source["column"], key)
            if area is None:
                raise self._ends(cable, table.id, self._sizes.areas_of(table))
            return SourcedValue(area, table.source)
        if "state_cpc" in entry:
            raise NeedsInput(Need(message(None, "core.rules.cable.need.cpc_size"), "cable.cpc_mm2", entry["state_cpc"]))
        return SourcedValue(cable.area_mm2, stated, message(None, "core.rules.cable.same"))

    def cpc_mohm_per_m(self, cable: Cable, loaded: int = 2) -> SourcedValue:
        """Resistance of the protective conductor at 20 °C [mΩ/m], with a copper conductor laid beside it in parallel."""
        key = ("r2", cable, loaded)
        return self._cached(key, self._cpc_resistance, cable, loaded)

    def _cpc_resistance(self, cable: Cable, loaded: int) -> SourcedValue:
        alone = self._own_cpc_resistance(cable, loaded)
        if cable.parallel_cpc_mm2 is None:
            return alone
        beside = self._resistance(cable, cable.parallel_cpc_mm2)
        value = alone.value * beside.value / (alone.value + beside.value)
        return SourcedValue(
            value,
            alone.source,
            message(None, "core.rules.cable.parallel", a=Shown(f"{alone.value:.4g}"), b=Shown(f"{beside.value:.4g}")),
        )

    def _own_cpc_resistance(self, cable: Cable, loaded: int) -> SourcedValue:
        if cable.cpc_mohm_per_m is not None:
            source = self._data.table(self._entry(cable)["r20"][-1]["table"]).source
            return SourcedValue(cable.cpc_mohm_per_m, source, message(None, "core.rules.cable.stated"))
        if cable.cpc == "armour":
            return self._armour(cable, loaded, "r20", "cable.cpc_mohm_per_m")
        if cable.cpc == "metal":
            raise NeedsInput(
                Need(
                    message(None, "core.rules.cable.need.metal_ohm"),
                    "cable.cpc_mohm_per_m",
                    message(None, "core.rules.cable.need.metal_ohm_ask"),
                )
            )
        return self._resistance(cable, self.cpc_area_mm2(cable, loaded).value)

    def _armour(self, cable: Cable, loaded: int, what: str, path: str) -> SourcedValue:
        entries: Mapping[str, Mapping[str, Any]] = self._entry(cable).get("armour", {})
        source = entries.get(str(loaded), {}).get(what)
        sourced_value = self._data.table(source[0]).look(source[1], cable.area_mm2) if source else None
        if sourced_value is None:
            raise NotTabulated(
                message(
                    None,
                    "core.rules.cable.need.armour_area" if what == "area" else "core.rules.cable.need.armour_ohm",
                    size=Shown(f"{cable.area_mm2:g}"),
                ),
                path=path,
                ask=message(None, "core.rules.cable.need.armour_ask"),
            )
        return sourced_value

    def k_protective(self, cable: Cable) -> SourcedValue:
        """Heat constant k of the protective conductor [A·√s/mm²]."""
        which = "core" if cable.cpc == "included" else cable.cpc
        return self._cached(("k", cable.type, which), self._k, cable, which)

    def k_live(self, cable: Cable) -> SourcedValue:
        """Heat constant k of the live conductors [A·√s/mm²]."""
        return self._cached(("k", cable.type, "live"), self._k, cable, "live")

    def _k(self, cable: Cable, which: str) -> SourcedValue:
        cell = self._entry(cable)["k"].get(which)
        if cell is None:
            raise NotTabulated(
                message(None, "core.rules.cable.need.k", cable=self.kind(cable.type).title), path="cable"
            )
        table = self._data.table(cell[0])
        column = table.column(cell[1])
        for row in table.rows:
            if row[0] == cell[2]:
                return SourcedValue(float(row[column]), table.source)
        raise NotTabulated(message(None, "core.rules.cable.need.row", row=cell[2], table=table.id), path="cable")

    # ------------------------------------------------------------------------------------------ plumbing

    def _cached(self, key: tuple[Any, ...], work: Callable[..., _Cached], *given: Any) -> _Cached:
        kept: _Cached | None = self._cache.get(key)
        if kept is None:
            kept = self._cache[key] = work(*given)
        return kept

    def _entry(self, cable: Cable) -> _Entry:
        self.kind(cable.type)
        return self._entries[cable.type]

    def _ends(self, cable: Cable, table: str, areas: tuple[float, ...]) -> NotTabulated:
        marks = ", ".join(self._sizes.label(area) for area in areas)
        return NotTabulated(
            message(
                None, "core.rules.cable.need.size", size=self._sizes.with_unit(cable.area_mm2), table=table, list=marks
            )
        )
