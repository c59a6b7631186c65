"""Methods of installation and rating factors from tables."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.job import Cable, Device, Section
from vivid_lattice.core.rules.protocol import Factor, Grouping, Looked, Method
from vivid_lattice.core.rules.tabled.cables import TabledCables
from vivid_lattice.core.rules.tabled.devices import TabledDevices
from vivid_lattice.core.rules.tables import RuleData

#: Greatest conductor the table of short lengths in insulation is made for [mm²].
_SURROUND_TO_MM2 = 10.0


class TabledFactors:
    """Rating factors read from a school's tables."""

    def __init__(self, data: RuleData, school: Mapping[str, Any], cables: TabledCables, devices: TabledDevices):
        self._data = data
        self._names: Mapping[str, str] = school["tables"]
        self._ambient: Mapping[str, Mapping[str, Any]] = school["ambient"]
        self._groupings = {entry["id"]: entry for entry in school["grouping"]}
        self._default_grouping: Mapping[str, str] = school["default_grouping"]
        self._cables, self._devices = cables, devices
        self._cache: dict[tuple[Any, ...], tuple[Factor, ...]] = {}
        self._device_cache: dict[tuple[str, str], tuple[Factor, ...]] = {}
        self.methods: Mapping[str, Method] = MappingProxyType(
            {
                entry["id"]: Method(
                    entry["id"], entry["title"], entry["text"], entry["medium"], tuple(entry["entry_words"])
                )
                for entry in school["method"]
            }
        )
        self.groupings: Mapping[str, Grouping] = MappingProxyType(
            {entry["id"]: Grouping(entry["id"], entry["title"], entry["medium"]) for entry in school["grouping"]}
        )
        self.ambients_c: Mapping[str, float] = MappingProxyType(
            {medium: float(entry["base_c"]) for medium, entry in self._ambient.items()}
        )
        self.drop_correction_rule = data.rule(self._names["drop_correction"]).source

    def medium(self, section: Section) -> str:
        """'air' or 'ground'; NotTabulated for a method the school does not know."""
        try:
            return self.methods[section.method].medium
        except KeyError:
            raise NotTabulated(
                f"no method '{section.method}' in these rules; known: {', '.join(self.methods)}",
                path="run.method",
            ) from None

    def base_ambient_c(self, section: Section) -> float:
        """Temperature the capacity table is made for [°C], in the section's medium."""
        return self.ambients_c[self.medium(section)]

    def factors(self, section: Section, cable: Cable) -> tuple[Factor, ...]:
        """Rating factors of a section: ambient, grouping, insulation, soil; only those that are not plainly 1."""
        key = (section, cable)
        if key not in self._cache:
            found = (
                self._ambient_factor(section, cable),
                self._group_factor(section),
                self._insulation_factor(section, cable),
                self._soil_factor(section),
            )
            self._cache[key] = tuple(factor for factor in found if factor)
        return self._cache[key]

    def _ambient_factor(self, section: Section, cable: Cable) -> Factor | None:
        base = self.base_ambient_c(section)
        ambient = section.ambient_c
        if ambient is None or ambient == base:
            return None
        medium = self.medium(section)
        insulation = self._cables.rated_as(cable)
        table = self._data.table(self._ambient[medium]["table"][insulation])
        column = table.columns[1]
        found = table.number(column, ambient, between="next-up")
        if found is None:
            raise NotTabulated(
                f"no factor for {ambient:g} °C {medium}: table {table.id} ends at {table.key_figures()[-1]:g} °C",
                path="run.ambient_c",
                ask="Keep the cable out of the heat, or take heat-proof cable by its maker's data.",
            )
        return Factor("Ca", f"{medium} at {ambient:g} °C" + _how(found), found.value, found.source)

    def _group_factor(self, section: Section) -> Factor | None:
        if section.circuits_grouped <= 1:
            return None
        medium = self.medium(section)
        chosen = section.grouping or self._default_grouping[medium]
        entry = self._groupings.get(chosen)
        if entry is None or entry["medium"] != medium:
            raise NotTabulated(f"no grouping '{chosen}' for a cable in {medium}", path="run.grouping")
        table = self._data.table(entry["table"])
        found = table.number(entry["column"], section.circuits_grouped, between="next-up", beyond=entry["beyond"])
        if found is None:
            raise NotTabulated(
                f"no factor for {section.circuits_grouped} circuits: table {table.id} ends at {table.key_figures()[-1]:g}",
                path="run.circuits_grouped",
                ask="Part the group, or count only circuits that are loaded together.",
            )
        meaning = f"{section.circuits_grouped} circuits, {entry['title'].lower()}"
        return Factor("Cg", meaning + _how(found), found.value, found.source)

    def _insulation_factor(self, section: Section, cable: Cable) -> Factor | None:
        if section.in_insulation_mm is None:
            return None
        if section.method != "C":
            raise NotTabulated(
                f"wholly surrounded by insulation is reckoned from method C, not {section.method}",
                path="run.in_insulation_mm",
                ask="Choose method C for this section; methods 100 to 103 hold the insulation already.",
            )
        table = self._data.table(self._names["insulation_surround"])
        found = table.number("Ci", section.in_insulation_mm, between="next-up", beyond="last")
        if found is None or (cable.area_mm2 > _SURROUND_TO_MM2 and section.in_insulation_mm < table.key_figures()[-1]):
            raise NotTabulated(
                f"the table of cables in insulation holds to {_SURROUND_TO_MM2:g} mm²",
                path="run.in_insulation_mm",
                ask="Keep the cable clear of the insulation, or reckon it as surrounded for half a metre, which halves it.",
            )
        return Factor("Ci", f"{section.in_insulation_mm:g} mm in insulation" + _how(found), found.value, found.source)

    def _soil_factor(self, section: Section) -> Factor | None:
        if section.soil_k_m_per_w is None:
            return None
        if self.medium(section) != "ground":
            raise NotTabulated(
                f"soil has no say in method {section.method}",
                path="run.soil_k_m_per_w",
                ask="Leave the soil empty, or choose the buried method.",
            )
        table = self._data.table(self._names["soil"])
        column = "in_ducts" if (section.grouping or "").startswith("ducts") else "direct_buried"
        found = table.number(column, section.soil_k_m_per_w, between="next-up")
        if found is None:
            raise NotTabulated(f"table {table.id} ends at {table.key_figures()[-1]:g} K·m/W", path="run.soil_k_m_per_w")
        return Factor("Cs", f"soil {section.soil_k_m_per_w:g} K·m/W" + _how(found), found.value, found.source)

    def device_factors(self, section: Section, device: Device) -> tuple[Factor, ...]:
        """Factors that go with a device giving overload protection: Cf (rewirable fuse) and Cc (buried)."""
        key = (self.medium(section), device.kind)
        if key not in self._device_cache:
            self._device_cache[key] = self._device_factors(*key)
        return self._device_cache[key]

    def _device_factors(self, medium: str, device_kind: str) -> tuple[Factor, ...]:
        table = self._data.table(self._names["device_factors"])
        row = table.row_where(case=self._devices.overload_row(device_kind, medium))
        found = (
            Factor("Cf", self._devices.kind(device_kind).title.lower(), float(row["Cf"]), table.source),
            Factor("Cc", "buried, overload-protected", float(row["Cc"]), table.source),
        )
        return tuple(factor for factor in found if factor.value != 1.0)

    def drop_correction_refused(self, section: Section, device: Device) -> str:
        """Why voltage drop may not be corrected for a cooler conductor; empty where it may."""
        if not self._devices.corrects_drop(device.kind):
            return f"not with a {self._devices.kind(device.kind).title.lower()}"
        if (
            self.medium(section) == "air"
            and section.ambient_c is not None
            and section.ambient_c < self.base_ambient_c(section)
        ):
            return f"not below {self.base_ambient_c(section):g} °C air"
        if self.medium(section) == "ground":
            return "the formula is made for air"
        return ""


def _how(found: Looked) -> str:
    return f" ({found.how})" if found.how else ""
