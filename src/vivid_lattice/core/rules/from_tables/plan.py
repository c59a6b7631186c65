"""Plans, read from a standard's ``plan.toml`` and the tables every standard shares."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from typing import Any

from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.plan_rules import (
    BoxMethod,
    BoxSize,
    Clearance,
    ConduitFill,
    Connector,
    CoreUse,
    LaidMethod,
    PointHeight,
    SectionCable,
    UsualPoints,
    WallSpacing,
    WallZones,
)
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.sources import Source

#: Below the ceiling, in walls, where the standard's data name no zone [m]. Common practice, no source.
_WALL_ZONE_M = 0.1
_USUAL, _FIXTURES = "common.plan.usual", "common.plan.fixtures"
#: Sizes of rooms that guidance on sockets tells apart [m²].
_SMALL_M2, _MIDDLE_M2 = 12.0, 25.0
_SLACK, _CONNECTORS = "common.plan.slack", "common.plan.connectors"


class PlanFromTables:
    """Plans under a standard. NotTabulated where it holds nothing of them."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._title = str(standard["standard"]["title"])
        self._entries: Mapping[str, Any] | None = standard.get("plan")

    def _table(self, name: str) -> Table:
        if self._entries is None:
            raise NotTabulated(
                message(None, "core.rules.plan.need.what", standard=self._title),
                path="job.rules",
                ask=message(None, "core.rules.need.ask"),
            )
        return self._data.table(self._entries[name])

    def height(self, kind: str) -> PointHeight | None:
        """The height of a kind of point; None: none is usual, as of a ceiling light."""
        table = self._table("heights")
        for name, least, usual, greatest in table.rows:
            if name == kind:
                limits = (float(str(each)) or None for each in (least, greatest))
                low, high = limits
                return PointHeight(low, float(str(usual)), high, table.source)
        return None

    def slack_m(self, end: str) -> float:
        """Length left at a cable end [m]."""
        table = self._data.table(_SLACK)
        return next(float(str(row[table.column("usual_m")])) for row in table.rows if row[0] == end)

    @cached_property
    def cables(self) -> tuple[SectionCable, ...]:
        """Cables for sections, by how many conductors they carry."""
        rows = self._table("cables").rows
        return tuple(SectionCable(int(str(most)), int(str(cores)), str(name)) for most, cores, name in rows)

    def core_use(self, carries: str) -> CoreUse | None:
        """Which core does what; None: not tabulated."""
        table = self._table("core_use")
        row = next((row for row in table.rows if row[0] == carries), None)
        if row is None:
            return None
        sleeves = {name: int(str(count)) for name, count in zip(table.columns[3:], row[3:], strict=True)}
        return CoreUse(str(row[1]), str(row[2]), table.source, sleeves)

    def terminal_ends(self, device: str) -> int:
        """How many cable ends the terminals of a device join without a connector; 0: they take one each."""
        return next((int(str(ends)) for name, ends in self._table("terminals").rows if name == device), 0)

    @property
    def _plan(self) -> Mapping[str, Any]:
        self._table("heights")  # says so where the standard holds nothing of plans
        assert self._entries is not None
        return self._entries

    @cached_property
    def conduit_fill(self) -> ConduitFill:
        """How conduits are filled."""
        entry = self._plan["conduit_fill"]
        source = Source(str(entry["publication"]), "plan.conduit_fill", "memory", "medium")
        least = float(entry.get("least_mm", 0.0))
        return ConduitFill(entry["method"], tuple(float(each) for each in entry.get("shares", ())), source, least)

    @property
    def box_method(self) -> BoxMethod | None:
        """What is counted in a box; None: the standard's data do not say."""
        entry = self._plan.get("box_fill")
        return None if entry is None else entry["method"]

    @cached_property
    def boxes(self) -> tuple[BoxSize, ...]:
        """Boxes with what each takes, the smallest first; none where nothing is counted."""
        entry = self._plan.get("box_fill")
        if entry is None:
            return ()
        rows = self._data.table(entry["table"]).rows
        if entry["method"] == "cables":
            return tuple(
                BoxSize(
                    f"{gangs} gang, {depth} mm",
                    int(str(gangs)),
                    {1.5: float(str(a)), 2.5: float(str(b)), 6.0: float(str(c))},
                )
                for gangs, depth, a, b, c in rows
            )
        if entry["method"] == "conductors":
            return tuple(BoxSize(str(name), 0, {1.5: float(str(a)), 2.5: float(str(b))}) for name, a, b in rows)
        return tuple(
            BoxSize(str(name), _gangs(str(name)), {math.inf: float(str(low))}, ceiling="ceiling" in str(name))
            for name, low, _ in rows
        )

    def table_rows(self, table: str) -> tuple[tuple[Any, ...], ...]:
        """Rows of one of the tables that plans share, by its id."""
        return tuple(tuple(row) for row in self._data.table(table).rows)

    @cached_property
    def wall_spacing(self) -> WallSpacing | None:
        """Sockets along walls; None: the standard has no such rule, or its data do not say."""
        return self._spacing("wall_spacing")

    @cached_property
    def counter_spacing(self) -> WallSpacing | None:
        """Sockets along worktops; None: the standard has no such rule, or its data do not say."""
        return self._spacing("counter_spacing")

    def _spacing(self, name: str) -> WallSpacing | None:
        if self._entries is None or name not in self._entries:
            return None
        table = self._table(name)
        [(reach, least, highest)] = ((float(str(each)) for each in row) for row in table.rows)
        return WallSpacing(reach_m=reach, least_m=least, highest_m=highest, source=table.source)

    @cached_property
    def connectors(self) -> tuple[Connector, ...]:
        """Connectors that are stocked."""
        return tuple(
            Connector(int(str(ports)), float(str(least)), float(str(most)))
            for ports, least, most, _ in self._data.table(_CONNECTORS).rows
        )

    @cached_property
    def wall_zone_m(self) -> float:
        """How far below the ceiling cables in walls run [m]: the preferred line of the standard's upper zone."""
        if self._entries is None or "horizontal_zones" not in self._entries:
            return _WALL_ZONE_M
        return self._zone("horizontal upper")[2]

    @cached_property
    def wire_kinds(self) -> frozenset[str]:
        """The kinds of cable that are single wires in conduit."""
        return frozenset(str(each) for each in (self._entries or {}).get("wires", ()))

    @property
    def first_floor(self) -> int:
        """The level of the floor that people call the first: 0 on the ground, 1 above it."""
        return int((self._entries or {}).get("first_floor", 1))

    @property
    def sockets_word(self) -> str:
        """What is typed for a circuit of sockets."""
        return str((self._entries or {}).get("sockets_word", "sockets"))

    @property
    def light_load_share(self) -> float | None:
        """The share of its rating in company up to which a circuit is left out when a group is counted; None: no such rule."""
        share = (self._entries or {}).get("light_load_share")
        return None if share is None else float(share)

    @cached_property
    def wall_zones(self) -> WallZones | None:
        """Where hidden cables run in walls; None: the standard has no such zones, or its data do not say."""
        entries = self._entries or {}
        if "edge_zones" in entries:
            rule = self._data.rule(entries["edge_zones"])
            edge = float(rule.params["edge_mm"]) / 1000
            return WallZones(
                top_m=(0.0, edge),
                bottom_m=None,
                middle_m=None,
                corner_m=(0.0, edge),
                from_accessory=True,
                source=rule.source,
            )
        if "horizontal_zones" in entries:
            top, bottom = self._zone("horizontal upper"), self._zone("horizontal lower")
            middle, corner = self._zone("horizontal middle"), self._zone("vertical")
            return WallZones(
                top_m=top[:2], bottom_m=bottom[:2], middle_m=middle[:2], corner_m=corner[:2], from_accessory=False,
                source=self._table("horizontal_zones").source,
            )  # fmt: skip
        return None

    def _zone(self, name: str) -> tuple[float, float, float]:
        row = next(row for row in self._table("horizontal_zones").rows if str(row[0]).startswith(name))
        low, high, preferred = (float(str(each)) / 100 for each in row[1:4])
        return low, high, preferred

    def method_of(self, lies_in: str, insulation_mm: float | None) -> LaidMethod | None:
        """The method of installation by where a sheathed cable lies; None: not tabulated, or it depends on insulation that is not stated."""
        if self._entries is None or "laid" not in self._entries:
            return None
        table = self._table("laid")
        rows = [(float(str(over)), str(method)) for place, over, method in table.rows if place == lies_in]
        if not rows or (insulation_mm is None and len(rows) > 1):
            return None
        fitting = [(over, method) for over, method in rows if (insulation_mm or 0.0) >= over]
        return LaidMethod(max(fitting)[1], table.source) if fitting else None

    @cached_property
    def methods_told_apart(self) -> frozenset[str]:
        """The methods that where a cable lies decides between; empty: not tabulated."""
        if self._entries is None or "laid" not in self._entries:
            return frozenset()
        return frozenset(str(row[2]) for row in self._table("laid").rows)

    @cached_property
    def clearances(self) -> tuple[Clearance, ...]:
        """How far points keep from what is fixed; empty: not tabulated."""
        if self._entries is None or "clear" not in self._entries:
            return ()
        table = self._table("clear")
        return tuple(
            Clearance(
                fixture=str(fixture), points="socket" if points == "socket" else "switch", sideways_m=float(str(side)),
                from_height_m=float(str(low)), to_height_m=float(str(high)),
                source=replace(table.source, publication=str(publication)),
            )
            for fixture, points, side, low, high, publication in table.rows
        )  # fmt: skip

    def required_within_m(self, place: str) -> tuple[float, Source] | None:
        """A hallway so long needs a socket, a basin needs one so near [m]; None: no such rule."""
        if self._entries is None or "required" not in self._entries:
            return None
        table = self._table("required")
        return next((float(str(row[1])), table.source) for row in table.rows if row[0] == place)

    def usual_points(self, name: str, area_m2: float) -> UsualPoints:
        """Points that a room of a name and size usually has: no fewer sockets than the standard's guidance calls least."""
        rows = self._data.table(_USUAL).rows
        own = next(row for row in rows if not row[0] or _is_called(name, str(row[0])))
        lights, places, sockets, above, alarm = (int(str(each)) for each in own[1:])
        if self._entries is not None and "least_sockets" in self._entries:
            least = next((row for row in self._table("least_sockets").rows if _is_called(name, str(row[0]))), None)
            if least is not None:
                by_size = int(str(least[1 if area_m2 <= _SMALL_M2 else 2 if area_m2 <= _MIDDLE_M2 else 3]))
                sockets = max(sockets, by_size - above)
        return UsualPoints(lights=lights, switch_places=places, sockets=sockets, above_worktop=above, alarm=bool(alarm))

    def usual_fixture_m(self, kind: str) -> tuple[float, float]:
        """The usual width and depth of something fixed [m]."""
        return next(
            (float(str(row[1])), float(str(row[2]))) for row in self._data.table(_FIXTURES).rows if row[0] == kind
        )


def _is_called(name: str, words: str) -> bool:
    """Whether a name has one of some words."""
    return bool(set(name.casefold().split()) & set(words.split()))


def _gangs(name: str) -> int:
    """The gangs that the name of a box states; 0: none."""
    return next((number for word, number in (("single", 1), ("two", 2), ("three", 3)) if name.startswith(word)), 0)
