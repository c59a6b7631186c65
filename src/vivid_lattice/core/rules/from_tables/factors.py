"""Methods of installation and rating factors from tables."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.document.job import Cable, Device, Section
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules.from_tables.cables import CablesFromTables
from vivid_lattice.core.rules.from_tables.devices import DevicesFromTables
from vivid_lattice.core.rules.protocol import Factor, Grouping, Method
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown

#: Greatest conductor the table of short lengths in insulation is made for [mm²].
_SURROUND_TO_MM2 = 10.0


class FactorsFromTables:
    """Rating factors read from a standard's tables."""

    def __init__(
        self, data: RuleData, standard: Mapping[str, Any], cables: CablesFromTables, devices: DevicesFromTables
    ):
        self._data = data
        self._names: Mapping[str, str] = standard["tables"]
        self._ambient: Mapping[str, Mapping[str, Any]] = standard["ambient"]
        self._methods = {entry["id"]: entry for entry in standard["method"]}
        self._groupings = {entry["id"]: entry for entry in standard["grouping"]}
        self._default_grouping: Mapping[str, str] = standard["default_grouping"]
        self._soil_columns: Mapping[str, str] = standard.get(
            "soil_columns", {"duct": "in_ducts", "direct": "direct_buried"}
        )
        self._cables, self._devices = cables, devices
        self._cache: dict[tuple[Any, ...], tuple[Factor, ...]] = {}
        self._device_cache: dict[tuple[str, str], tuple[Factor, ...]] = {}
        self.methods: Mapping[str, Method] = MappingProxyType(
            {
                entry["id"]: Method(
                    id=entry["id"],
                    short=entry.get("short", entry["id"]),
                    title=entry["title"],
                    text=entry["text"],
                    medium=entry["medium"],
                    picture=entry.get("picture", ""),
                    entry_words=tuple(entry["entry_words"]),
                )
                for entry in standard["method"]
            }
        )
        self.groupings: Mapping[str, Grouping] = MappingProxyType(
            {entry["id"]: Grouping(entry["id"], entry["title"], entry["medium"]) for entry in standard["grouping"]}
        )
        self.ambients_c: Mapping[str, float] = MappingProxyType(
            {medium: float(entry["base_c"]) for medium, entry in self._ambient.items()}
        )
        name = self._names.get("drop_correction")
        self.drop_correction_rule: Source | None = data.rule(name).source if name else None

    def medium(self, section: Section) -> str:
        """'air' or 'ground'; NotTabulated for a method the standard does not know."""
        try:
            return self.methods[section.method].medium
        except KeyError:
            raise NotTabulated(
                message(None, "core.rules.factor.need.method", method=section.method, list=", ".join(self.methods)),
                path="run.method",
            ) from None

    def base_ambient_c(self, section: Section) -> float:
        """Temperature the capacity table is made for [°C], in the section's medium."""
        return self.ambients_c[self.medium(section)]

    def factors(self, section: Section, cable: Cable, loaded: int = 2) -> tuple[Factor, ...]:
        """Rating factors of a section: ambient, grouping, insulation, soil; only those that are not plainly 1.

        loaded  loaded conductors of a circuit, where the standard counts conductors and not circuits
        """
        if _plain(section):
            self.medium(section)
            return ()
        key = (section, cable.type, cable.area_mm2, loaded)
        kept = self._cache.get(key)
        if kept is None:
            factors = (
                self._ambient_factor(section, cable),
                self._group_factor(section, loaded),
                self._insulation_factor(section, cable),
                self._soil_factor(section),
            )
            kept = self._cache[key] = tuple(factor for factor in factors if factor)
        return kept

    def _ambient_factor(self, section: Section, cable: Cable) -> Factor | None:
        base = self.base_ambient_c(section)
        ambient = section.ambient_c
        if ambient is None or ambient == base:
            return None
        medium = self.medium(section)
        source = self._ambient[medium].get("table", {}).get(self._cables.rated_as(cable))
        if source is None:
            raise NotTabulated(
                message(None, "core.rules.factor.need.ambient", t=Shown(f"{base:g}"), medium=medium),
                path="run.ambient_c",
                ask=message(None, "core.rules.factor.need.ambient_ask"),
            )
        table, column, key, where = self._reference(source)
        sourced_value = table.look(column, ambient, key_column=key, where=where, between="next-up")
        if sourced_value is None or sourced_value.value <= 0:
            at, value_at = table.column(key) if key else 0, table.column(column)
            keys = [row[at] for row in table.rows if float(row[value_at]) > 0]
            raise NotTabulated(
                message(
                    None,
                    "core.rules.factor.need.ambient_end",
                    t=Shown(f"{ambient:g}"),
                    medium=medium,
                    table=table.id,
                    most=Shown(f"{max(map(float, keys)):g}"),
                ),
                path="run.ambient_c",
                ask=message(None, "core.rules.factor.need.ambient_end_ask"),
            )
        return Factor(
            "Ca",
            _how(message(None, f"core.rules.factor.ambient.{medium}", t=Shown(f"{ambient:g}")), sourced_value),
            sourced_value.value,
            sourced_value.source,
        )

    def _reference(self, source: Any) -> tuple[Table, str, str | None, Mapping[str, Any] | None]:
        """A table named plainly (its second column counts), or with column, key and the rows that are meant."""
        if isinstance(source, str):
            table = self._data.table(source)
            return table, table.columns[1], None, None
        return self._data.table(source["table"]), source["column"], source.get("key"), source.get("where")

    def _grouping_of(self, section: Section) -> Mapping[str, Any]:
        """The table of a section's grouping, as stated or usual for its medium. Raises NotTabulated where they do not go together."""
        medium = self.medium(section)
        chosen = section.grouping or self._default_grouping[medium]
        entry: Mapping[str, Any] | None = self._groupings.get(chosen)
        if entry is None or entry["medium"] != medium:
            raise NotTabulated(
                message(None, "core.rules.factor.need.grouping", grouping=chosen, medium=medium), path="run.grouping"
            )
        return entry

    def _group_factor(self, section: Section, loaded: int) -> Factor | None:
        if section.circuits_grouped <= 1:
            return None
        entry = self._grouping_of(section)
        table = self._data.table(entry["table"])
        by_conductors = entry.get("counts") == "conductors"
        count = section.circuits_grouped * loaded if by_conductors else section.circuits_grouped
        if by_conductors and count <= 3:
            return None
        sourced_value = table.number(
            entry["column"], count, key_column=entry.get("key"), between="next-up", beyond=entry["beyond"]
        )
        if sourced_value is None:
            raise NotTabulated(
                message(
                    None,
                    "core.rules.factor.need.group",
                    n=section.circuits_grouped,
                    table=table.id,
                    most=Shown(f"{table.key_figures()[-1]:g}"),
                ),
                path="run.circuits_grouped",
                ask=message(None, "core.rules.factor.need.group_ask"),
            )
        counted = (
            message(None, "core.rules.factor.conductors", n=count)
            if by_conductors
            else message(None, "core.rules.board.circuits", n=section.circuits_grouped)
        )
        meaning = message(None, "core.rules.factor.group", counted=counted, arrangement=str(entry["title"]))
        if not by_conductors:
            meaning = _how(meaning, sourced_value)
        return Factor("Cg", meaning, sourced_value.value, sourced_value.source)

    def _insulation_factor(self, section: Section, cable: Cable) -> Factor | None:
        if section.in_insulation_mm is None:
            return None
        name = self._names.get("insulation_surround")
        if name is None:
            raise NotTabulated(
                message(None, "core.rules.factor.need.insulation"),
                path="run.in_insulation_mm",
                ask=message(None, "core.rules.factor.need.insulation_ask"),
            )
        if section.method != "C":
            raise NotTabulated(
                message(None, "core.rules.factor.need.surround", method=section.method),
                path="run.in_insulation_mm",
                ask=message(None, "core.rules.factor.need.surround_ask"),
            )
        table = self._data.table(name)
        sourced_value = table.number("Ci", section.in_insulation_mm, between="next-up", beyond="last")
        if sourced_value is None or (
            cable.area_mm2 > _SURROUND_TO_MM2 and section.in_insulation_mm < table.key_figures()[-1]
        ):
            raise NotTabulated(
                message(None, "core.rules.factor.need.size", size=Shown(f"{_SURROUND_TO_MM2:g}")),
                path="run.in_insulation_mm",
                ask=message(None, "core.rules.factor.need.size_ask"),
            )
        return Factor(
            "Ci",
            _how(
                message(None, "core.rules.factor.insulation", mm=Shown(f"{section.in_insulation_mm:g}")), sourced_value
            ),
            sourced_value.value,
            sourced_value.source,
        )

    def _soil_factor(self, section: Section) -> Factor | None:
        if section.soil_k_m_per_w is None:
            return None
        if self.medium(section) != "ground":
            raise NotTabulated(
                message(None, "core.rules.factor.need.soil_method", method=section.method),
                path="run.soil_k_m_per_w",
                ask=message(None, "core.rules.factor.need.soil_method_ask"),
            )
        name = self._names.get("soil")
        if name is None:
            raise NotTabulated(
                message(None, "core.rules.factor.need.soil"),
                path="run.soil_k_m_per_w",
                ask=message(None, "core.rules.factor.need.soil_ask"),
            )
        table = self._data.table(name)
        ducted = (section.grouping or "").startswith("ducts") or self._methods[section.method].get("laid") == "duct"
        column = self._soil_columns["duct" if ducted else "direct"]
        sourced_value = table.number(column, section.soil_k_m_per_w, between="next-up")
        if sourced_value is None:
            raise NotTabulated(
                message(
                    None, "core.rules.factor.need.soil_end", most=Shown(f"{table.key_figures()[-1]:g}"), table=table.id
                ),
                path="run.soil_k_m_per_w",
            )
        return Factor(
            "Cs",
            _how(message(None, "core.rules.factor.soil", value=Shown(f"{section.soil_k_m_per_w:g}")), sourced_value),
            sourced_value.value,
            sourced_value.source,
        )

    def device_factors(self, section: Section, device: Device) -> tuple[Factor, ...]:
        """Factors that go with a device giving overload protection: Cf (its fusing factor) and Cc (buried)."""
        key = (self.medium(section), device.kind)
        if key not in self._device_cache:
            title = self._devices.kind(device.kind).title
            cf, cc = self._devices.overload_factors(device.kind, key[0])
            factors = (
                Factor("Cf", title, cf.value, cf.source),
                Factor("Cc", message(None, "core.rules.factor.buried"), cc.value, cc.source),
            )
            self._device_cache[key] = tuple(factor for factor in factors if factor.value != 1.0)
        return self._device_cache[key]

    def harmonic(self, third_pct: float) -> tuple[Factor | None, bool]:
        """Factor of a three-phase cable whose neutral carries third harmonics, and whether the neutral's current rules.

        NotTabulated where the standard holds no table of it.
        """
        name = self._names.get("harmonic")
        if name is None:
            raise NotTabulated(message(None, "core.rules.factor.need.harmonic"), path="loads.third_harmonic_pct")
        table = self._data.table(name)
        for row in table.rows:
            if float(row[0]) <= third_pct <= float(row[1]):
                by_neutral = row[table.column("size_by")] == "neutral current"
                value = float(row[table.column("factor")])
                factor = (
                    Factor(
                        "Ch",
                        message(None, "core.rules.factor.harmonic", n=Shown(f"{third_pct:g}")),
                        value,
                        table.source,
                    )
                    if value != 1.0
                    else None
                )
                return factor, by_neutral
        raise NotTabulated(
            message(None, "core.rules.factor.need.harmonic_end", n=Shown(f"{third_pct:g}"), table=table.id),
            path="loads.third_harmonic_pct",
        )

    def drop_correction_refused(self, section: Section, device: Device) -> Text:
        """Why voltage drop may not be corrected for a cooler conductor; empty where it may."""
        if self.drop_correction_rule is None:
            return message(None, "core.rules.factor.refused.none")
        if not self._devices.corrects_drop(device.kind):
            return message(None, "core.rules.factor.refused.device", device=self._devices.kind(device.kind).title)
        if (
            self.medium(section) == "air"
            and section.ambient_c is not None
            and section.ambient_c < self.base_ambient_c(section)
        ):
            return message(None, "core.rules.factor.refused.air", t=Shown(f"{self.base_ambient_c(section):g}"))
        if self.medium(section) == "ground":
            return message(None, "core.rules.factor.refused.formula")
        return ""


def _plain(section: Section) -> bool:
    """Whether nothing is said of a section that a factor could go by."""
    return (
        section.ambient_c is None
        and section.circuits_grouped == 1
        and section.in_insulation_mm is None
        and section.soil_k_m_per_w is None
    )


def _how(meaning: Message, sourced_value: SourcedValue) -> Message:
    """What a factor is, with what its value rests on where the table says."""
    if not sourced_value.basis:
        return meaning
    return message(None, "core.rules.factor.based", meaning=meaning, basis=sourced_value.basis)
