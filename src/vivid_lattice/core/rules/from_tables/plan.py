"""Plans, read from a standard's ``plan.toml`` and the tables every standard shares."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.plan_rules import Connector, CoreUse, PointHeight, SectionCable
from vivid_lattice.core.rules.rule_data import RuleData, Table

_SLACK, _CONNECTORS = "common.plan.slack", "common.plan.connectors"


class PlanFromTables:
    """Plans under a standard. NotTabulated where it holds nothing of them."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._title = str(standard["standard"]["title"])
        self._entries: Mapping[str, str] | None = standard.get("plan")

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
        return None if row is None else CoreUse(str(row[1]), str(row[2]), table.source)

    def terminal_ends(self, device: str) -> int:
        """How many cable ends the terminals of a device join without a connector; 0: they take one each."""
        return next((int(str(ends)) for name, ends in self._table("terminals").rows if name == device), 0)

    @cached_property
    def connectors(self) -> tuple[Connector, ...]:
        """Connectors that are stocked."""
        return tuple(
            Connector(int(str(ports)), float(str(least)), float(str(most)))
            for ports, least, most, _ in self._data.table(_CONNECTORS).rows
        )
