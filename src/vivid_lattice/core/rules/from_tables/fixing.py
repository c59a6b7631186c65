"""Fixing, read from a standard's ``fixing.toml`` and the tables that every standard shares."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cached_property
from typing import Any

from vivid_lattice.core.rules.fixing_rules import (
    CableDimensions,
    ChaseLimit,
    Direction,
    Goods,
    Member,
    Supports,
    TimberLimits,
)
from vivid_lattice.core.rules.rule_data import RuleData, Table

_MM_PER_IN, _M_PER_FT = 25.4, 0.3048
#: Longest length of the short horizontal chases of the German table [m], and how near to the ceiling or floor all of them are.
_SHORT_CHASE_M, _NEAR_EDGE_M = 1.25, 0.4
_CLIPS, _HABIT, _DRILLS, _CIRCLE = (
    "common.fixing.clips",
    "common.fixing.habit",
    "common.fixing.drills",
    "common.fixing.circle",
)
_CABLE, _CONDUIT = "common.purchase.cable", "common.purchase.conduit"
_WASTE, _SAW, _LABOUR = "common.purchase.waste", "common.purchase.saw", "common.labour"


class FixingFromTables:
    """Fixing under a standard, and how goods are sold there."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any], family: str, label: Callable[[float], str]):
        self._data, self._family, self._label = data, family, label
        self._entries: Mapping[str, Any] = standard.get("fixing", {})

    def _of(self, name: str) -> Table | None:
        return self._data.table(self._entries[name]) if name in self._entries else None

    def _habit(self, what: str) -> tuple[float, float, float]:
        row = next(row for row in self._data.table(_HABIT).rows if row[0] == what)
        first, gap, short = (_m(cell) for cell in row[1:])
        return first, gap, short

    def clips(self, wide_mm: float | None, direction: Direction, *, armoured: bool = False) -> Supports:
        """Clips of a cable by its greater dimension; None: not known, and the closest of the table is taken."""
        support = self._of("support")
        if support is not None:
            return _supports(support, next(row for row in support.rows if row[0] == "cable"))
        table = self._data.table(self._entries.get("clips", _CLIPS))
        kind = "armoured" if armoured else "PVC or thermosetting, no armour"
        rows = [row for row in table.rows if "cable" not in table.columns or row[0] == kind]
        row = rows[0]
        if wide_mm is not None:
            row = next((each for each in rows if wide_mm <= float(str(each[-3]))), rows[-1])
        first, _, _ = self._habit("cable")
        return Supports(first, first, _m(row[-2] if direction == "horizontal" else row[-1]), table.source)

    @property
    def staples_in_walls(self) -> bool:
        """Whether cables inside hollow walls are stapled too: where the standard's supports are of cables anywhere."""
        return "support" in self._entries

    def saddles(self) -> Supports:
        """Saddles of light plastic conduit as in neat work."""
        first, gap, _ = self._habit("conduit")
        return Supports(first, first, gap, self._data.table(_HABIT).source)

    def saddles_at_most(self, size_mm: float, direction: Direction) -> Supports | None:
        """The standard's greatest spacing of conduit supports."""
        support = self._of("support")
        if support is not None:
            rows = (row for row in support.rows if row[0] == "conduit" and size_mm <= float(str(row[2])))
            found = next(rows, None)
            return None if found is None else _supports(support, found)
        table = self._of("conduit")
        if table is None:
            return None
        row = next((row for row in table.rows if size_mm <= float(str(row[1]))), None)
        first, _, _ = self._habit("conduit")
        if row is None:
            return None
        return Supports(first, first, _m(row[2] if direction == "horizontal" else row[3]), table.source)

    @property
    def stop_short_m(self) -> float:
        """How far conduit stops before a fitting whose entry stays free [m]."""
        return self._habit("conduit")[2]

    def cable_dimensions(self, cores: int, area_mm2: float) -> CableDimensions | None:
        """The outside of a sheathed cable by its cores without the protective one."""
        table = self._of("cable_size")
        if table is None:
            return None
        if "wide_in" in table.columns:
            size = self._label(area_mm2).split()[0]
            row = next((row for row in table.rows if row[:2] == (cores, size)), None)
            wide = None if row is None else float(str(row[2])) * _MM_PER_IN
            return None if wide is None else CableDimensions(wide, wide, wide, table.source)
        row = next((row for row in table.rows if (row[0], float(str(row[1]))) == (cores, area_mm2)), None)
        if row is None:
            return None
        thick, wide = float(str(row[2])), float(str(row[3]))
        return CableDimensions(thick, wide, float(str(row[4])) if len(row) > 4 else wide, table.source)

    def timber(self, member: Member) -> TimberLimits | None:
        """Holes and notches in a kind of member."""
        table = self._of("timber")
        row = None if table is None else next((row for row in table.rows if row[0] == member), None)
        if table is None or row is None:
            return None
        at = {name: float(str(cell)) for name, cell in zip(table.columns[1:], row[1:], strict=True)}
        return TimberLimits(
            hole_share=at["hole_D"],
            hole_from=at["hole_from_L"],
            hole_to=at["hole_to_L"],
            edge_m=_m(at["edge_mm"]) or None,
            apart_diameters=at["apart_diameters"],
            apart_m=_m(at["apart_mm"]),
            notch_share=at["notch_D"],
            notch_from=at["notch_from_L"],
            notch_to=at["notch_to_L"],
            notch_clear_m=_m(at["notch_clear_mm"]),
            deepest_m=_m(at["deepest_mm"]) or None,
            cover_m=_m(at["cover_mm"]),
            source=table.source,
        )

    def chase(self, direction: Direction, wall_mm: float, length_m: float) -> ChaseLimit | None:
        """The greatest depth of a chase in a masonry wall of a thickness."""
        table = self._of("chase")
        if table is None:
            return None
        if "divided_by" in table.columns:
            share = next(float(str(row[1])) for row in table.rows if row[0] == direction)
            return ChaseLimit(wall_mm / share / 1000, None, table.source)
        rows = [row for row in table.rows if float(str(row[0])) <= wall_mm]
        if not rows:
            return ChaseLimit(0.0, None, table.source)
        if direction == "vertical":
            return ChaseLimit(_m(rows[-1][3]), None, table.source)
        column = 2 if length_m <= _SHORT_CHASE_M else 1
        return ChaseLimit(_m(rows[-1][column]), _NEAR_EDGE_M, table.source)

    @cached_property
    def drills_mm(self) -> tuple[float, ...]:
        """Drills that are kept [mm], the smallest first."""
        return self._data.table(_DRILLS).key_figures()

    def circle(self, cables: int) -> float | None:
        """The diameter round equal round cables, by that of one; None: more than the table has."""
        return next((float(str(row[1])) for row in self._data.table(_CIRCLE).rows if row[0] == cables), None)

    def sold_in_m(self, goods: Goods) -> tuple[float, ...]:
        """Lengths in which goods are sold [m]."""
        if goods == "conduit":
            rows = [(family, length) for family, length in self._data.table(_CONDUIT).rows]
        else:
            rows = [(family, length) for family, kind, length in self._data.table(_CABLE).rows if kind == goods]
        return tuple(float(str(length)) for family, length in rows if family == self._family)

    def sold_length(self, length_m: float) -> str:
        """A length as it is sold, in the unit of the trade: 50 m, 250 ft."""
        return f"{round(length_m / _M_PER_FT, 2):g} ft" if self._family == "na" else f"{length_m:g} m"

    def waste(self, item: str) -> tuple[float, float]:
        """What is bought beside what is counted, as a share: with a cut list, and by estimate."""
        row = next(row for row in self._data.table(_WASTE).rows if row[0] == item)
        return float(str(row[1])), float(str(row[2]))

    def labour(self) -> tuple[tuple[str, str, str, float], ...]:
        """Labour units: kind of work, its title, per what, hours."""
        rows = self._data.table(_LABOUR).rows
        return tuple((str(work), str(title), str(per), float(str(hours))) for work, title, per, hours in rows)

    @cached_property
    def saw_m(self) -> float:
        """What a saw takes at each cut [m]."""
        return _m(self._data.table(_SAW).rows[0][0])


def _m(cell: object) -> float:
    return round(float(str(cell)) / 1000, 6)


def _supports(table: Table, row: tuple[object, ...]) -> Supports:
    first, last, gap = (_m(cell) for cell in row[3:6])
    return Supports(first, last, gap, table.source)
