"""Sizes of protective, earthing and bonding conductors from tables."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vivid_lattice.core.document.local_earthing import LocalEarthingKind
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.from_tables.sizes import SizeNames
from vivid_lattice.core.rules.protocol import CleanEarthRule, RefusedEarth
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.text import Shown


class EarthingFromTables:
    """Conductor sizes of the earthing arrangement, read from a standard's tables."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any], sizes: SizeNames):
        self._data, self._sizes = data, sizes
        self._protective: Mapping[str, Any] | None = standard.get("protective_size")
        self._by_device: Mapping[str, Any] | None = standard.get("protective_by_device")
        self._earthing: Mapping[str, Any] = standard["earthing"]
        self._bonding: Mapping[str, Any] = standard["bonding"]
        self._link: Mapping[str, Any] | None = standard.get("link")
        self._pen: Mapping[str, Any] | None = standard.get("pen")
        self._local: Mapping[str, Any] = standard.get("local_earthing", {})

    def protective_mm2(self, line_mm2: float) -> SourcedValue | None:
        """Least protective conductor for a line, without a calculation [mm²]; None where the standard goes by the device."""
        return self._size_by_line(self._protective, line_mm2) if self._protective else None

    def protective_by_device_mm2(self, rating_a: float, material: str) -> SourcedValue | None:
        """Least protective conductor for a device's rating [mm²]; None where the standard goes by the line or by a calculation."""
        entry = self._by_device
        if entry is None:
            return None
        table = self._data.table(entry["table"])
        upto, size = table.column(entry["upto"]), table.column(entry["size"][material])
        for row in table.rows:
            if float(row[upto]) >= rating_a:
                return SourcedValue(
                    self._sizes.of_cell(row[size]),
                    table.source,
                    message(None, "core.rules.earthing.device", a=Shown(f"{float(row[upto]):g}")),
                )
        raise NotTabulated(
            message(None, "core.rules.earthing.need.device", a=Shown(f"{rating_a:g}"), table=table.id),
            path="device.rating_a",
        )

    def upsized_with_line(self) -> SourcedValue | None:
        """The rule that a protective conductor grows with its line where that is larger than needed; None without one."""
        if self._by_device is None:
            return None
        return SourcedValue(1.0, self._data.rule(self._by_device["upsize_rule"]).source)

    def earthing_mm2(self, line_mm2: float, electrode_alone: bool, material: str = "copper") -> SourcedValue:
        """Least earthing conductor for the supply's line conductors [mm²]."""
        entry = self._earthing
        if "table" in entry:
            table = self._data.table(entry["table"])
            upto = entry["upto"][material] if isinstance(entry["upto"], dict) else entry["upto"]
            sourced_value = self._row_upto(table, upto, entry["size"], line_mm2)
            most = self._sizes.area(str(entry["rod_alone_most"])) if "rod_alone_most" in entry else None
            if electrode_alone and most is not None and sourced_value.value > most:
                return SourcedValue(most, sourced_value.source, message(None, "core.rules.earthing.rod"))
        else:
            by_line = self._size_by_line(self._protective, line_mm2) if self._protective else None
            if by_line is None:
                raise NotTabulated(message(None, "core.rules.earthing.need.sizes"))
            sourced_value = SourcedValue(by_line.value, self._data.rule(entry["rule"]).source, by_line.basis)
        least = float(entry.get("least_mm2", 0.0))
        return (
            sourced_value
            if sourced_value.value >= least
            else SourcedValue(least, sourced_value.source, message(None, "core.rules.earthing.least"))
        )

    def bonding_mm2(self, system: str, line_mm2: float, material: str = "copper") -> SourcedValue:
        """Least main bonding conductor [mm²]."""
        entry = self._bonding
        if self.bonded_by_neutral(system):
            by_neutral: Mapping[str, Any] = entry["by_neutral"]
            table = self._data.table(by_neutral["table"])
            return self._row_upto(table, by_neutral["upto"], by_neutral["size"], line_mm2)
        source = self._data.rule(entry["rule"]).source
        if entry.get("by_line"):
            return SourcedValue(
                self.earthing_mm2(line_mm2, False, material).value, source, message(None, "core.rules.earthing.as_gec")
            )
        share = float(entry.get("share_of_earthing", 0.0)) * self.earthing_mm2(line_mm2, False, material).value
        value = min(max(share, float(entry["least_mm2"])), float(entry.get("most_mm2", 1e9)))
        return SourcedValue(
            value,
            source,
            message(None, "core.rules.earthing.half", size=Shown(f"{entry['least_mm2']:g}")) if share else "",
        )

    def supplementary_mm2(self, protective_mm2: float, *, to_pipe: bool, protected: bool) -> SourcedValue:
        """Least supplementary bonding conductor [mm²], by the protective conductor of the exposed part it joins.

        to_pipe    whether it leads to metalwork that is not part of the installation, rather than to another exposed part
        protected  against mechanical damage
        Raises     NotTabulated where the standard's tables hold no sizes for it
        """
        entry: Mapping[str, Any] | None = self._bonding.get("supplementary")
        if entry is None:
            raise NotTabulated(message(None, "core.rules.earthing.need.room"), path="supply.earthing.supplementary")
        source, least = (
            self._data.rule(entry["rule"]).source,
            float(entry["protected_mm2" if protected else "bare_mm2"]),
        )
        share = float(entry["share_to_pipe"]) if to_pipe else float(entry["share_to_part"])
        if share * protective_mm2 <= least:
            return SourcedValue(
                least, source, message(None, f"core.rules.earthing.least_{'protected' if protected else 'bare'}")
            )
        return SourcedValue(
            share * protective_mm2,
            source,
            message(None, "core.rules.earthing.share", share=Shown(f"{share:g}"), size=Shown(f"{protective_mm2:g}")),
        )

    def what_to_bond(self) -> SourcedValue:
        """The rule that says which metalwork is bonded."""
        rule = self._data.rule(self._bonding["what_rule"])
        return SourcedValue(0.0, rule.source, rule.text)

    @property
    def by_calculation(self) -> bool:
        """Whether a calculation may take the place of the table."""
        return bool(self._earthing.get("by_calculation", False))

    def not_below_bonding(self, system: str) -> bool:
        """Whether the earthing conductor may not be smaller than the main bonding."""
        return system in self._earthing.get("not_below_bonding", [])

    def link_mm2(self, system: str, neutral_mm2: float) -> SourcedValue | None:
        """Least link between neutral and earth at the main board [mm²]; None where the consumer makes none."""
        entry = self._link
        if entry is None or system not in entry["systems"]:
            return None
        source = self._data.rule(entry["rule"]).source
        if entry["as"] == "neutral":
            return SourcedValue(neutral_mm2, source, message(None, "core.rules.earthing.as_neutral"))
        return SourcedValue(
            self.earthing_mm2(neutral_mm2, False).value, source, message(None, "core.rules.earthing.as_gec")
        )

    @property
    def link_systems(self) -> tuple[str, ...]:
        """Systems in which the consumer links neutral and earth."""
        return tuple(self._link["systems"]) if self._link else ()

    @property
    def pen_systems(self) -> tuple[str, ...]:
        """Systems in which a combined conductor is split at the origin."""
        return tuple(self._pen["systems"]) if self._pen else ()

    def pen_mm2(self) -> SourcedValue | None:
        """Least combined conductor [mm²]; None where the standard's consumers have none."""
        if self._pen is None:
            return None
        return SourcedValue(float(self._pen["least_mm2"]), self._data.rule(self._pen["rule"]).source)

    def bonded_by_neutral(self, system: str) -> bool:
        """Whether main bonding on the earth of a system goes by the neutral of the supply."""
        by_neutral: Mapping[str, Any] | None = self._bonding.get("by_neutral")
        return by_neutral is not None and system in by_neutral["systems"]

    def local_earthing(self, kind: LocalEarthingKind) -> SourcedValue | None:
        """Whether a board in another building, or the points of a circuit, may be earthed so: 1, or 0; None where the standard's tables hold
        no rule for it."""
        entry: Mapping[str, Any] | None = self._local.get(kind)
        if entry is None:
            return None
        rule = self._data.rule(entry["rule"])
        return SourcedValue(float(entry.get("permitted", True)), rule.source, rule.text.rstrip("."))

    def separation_m(self) -> SourcedValue | None:
        """Least distance between metal on two earths that are not joined [m]; None where the standard's tables hold none."""
        entry: Mapping[str, Any] | None = self._local.get("separation")
        return None if entry is None else SourcedValue(float(entry["min_m"]), self._data.rule(entry["rule"]).source)

    def refused_earth(self, system: str) -> RefusedEarth | None:
        """What may not be on the earth of a system (a caravan's outlet), and the rule; None where nothing is kept off it."""
        entry: Mapping[str, Any] | None = self._local.get("not_for")
        if entry is None or system not in entry["systems"]:
            return None
        rule = self._data.rule(entry["rule"])
        return RefusedEarth(frozenset(entry["appliances"]), rule.text.rstrip("."), rule.source)

    def clean_earth(self) -> CleanEarthRule | None:
        """What applies to a clean earth of outlets; None where the standard's tables hold nothing of it."""
        entry: Mapping[str, Any] | None = self._local.get("clean_earth")
        if entry is None:
            return None
        source = self._data.rule(entry["rule"]).source
        return CleanEarthRule(marking=entry["marking"], marking_required=bool(entry["marking_required"]), source=source)

    def _row_upto(self, table: Table, upto: str, size: str, line_mm2: float) -> SourcedValue:
        upto_at, size_at = table.column(upto), table.column(size)
        for row in table.rows:
            cell = row[upto_at]
            try:
                holds = self._sizes.of_cell(cell)
            except KeyError:  # a size past those the standard's conductors hold
                break
            if holds >= line_mm2:
                return SourcedValue(self._sizes.of_cell(row[size_at]), table.source)
        raise NotTabulated(message(None, "core.rules.earthing.need.line", size=Shown(f"{line_mm2:g}"), table=table.id))

    def _size_by_line(self, entry: Mapping[str, Any], line_mm2: float) -> SourcedValue:
        table = self._data.table(entry["table"])
        upto_at, size_at = table.column(entry["upto"]), table.column(entry["size"])
        how_at = table.column(entry["how"]) if "how" in entry else None
        for row in table.rows:
            if float(row[upto_at]) < line_mm2:
                continue
            if how_at is not None and row[how_at] == entry["same"]:
                return SourcedValue(line_mm2, table.source, message(None, "core.rules.earthing.as_line"))
            if how_at is not None and row[how_at] == entry["half"]:
                return SourcedValue(line_mm2 / 2, table.source, message(None, "core.rules.earthing.half_line"))
            return SourcedValue(float(row[size_at]), table.source)
        raise NotTabulated(message(None, "core.rules.earthing.need.line", size=Shown(f"{line_mm2:g}"), table=table.id))
