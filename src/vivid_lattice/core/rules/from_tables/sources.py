"""Rules of sources beside the supply, read from a standard's tables."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.rules.source_rules import BusbarRule, ConnectionRule, StandbyRules
from vivid_lattice.core.sources import Source

#: What applies where a standard says nothing of its own: physics, or what its manufacturer states.
_COMMON: Mapping[str, Any] = {
    "busbar_rule": "common.sources.busbar",
    "isolation_rule": "common.sources.isolation",
    "load_side_rule": "common.sources.load-side",
}


class SourcesFromTables:
    """Sources in parallel with the supply, and standby supplies."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._entry: Mapping[str, Any] = _COMMON | standard.get("sources", {})
        self._standby: Mapping[str, Any] | None = standard.get("standby")

    def _rule(self, name: str) -> Source:
        return self._data.rule(self._entry[name]).source

    @cached_property
    def busbar(self) -> BusbarRule:
        """A busbar that is fed from both sides."""
        rule = self._data.rule(self._entry["busbar_rule"])
        return BusbarRule(
            output_factor=float(rule.params["output_factor"]),
            opposite_share=float(rule.params["opposite_share"]),
            source=rule.source,
        )

    @cached_property
    def final_circuit(self) -> Source | None:
        """The rule for a source on a circuit that feeds loads too; None where the standard's tables hold none."""
        return self._rule("final_rule") if "final_rule" in self._entry else None

    @cached_property
    def isolation(self) -> Source:
        """Where isolation and labels of every source are required."""
        return self._rule("isolation_rule")

    @cached_property
    def load_side(self) -> Source:
        """Where devices that a source feeds from their load side are ruled."""
        return self._rule("load_side_rule")

    @cached_property
    def backfed(self) -> Source | None:
        """Where a plug-in breaker that is fed from its load side must be fastened; None where nothing is required."""
        return self._rule("backfed_rule") if "backfed_rule" in self._entry else None

    @cached_property
    def connection(self) -> ConnectionRule:
        """When the network company is told."""
        entry: Mapping[str, Any] | None = self._entry.get("distributor")
        if entry is None:
            return ConnectionRule(None, self._data.rule("common.sources.distributor").source)
        return ConnectionRule(float(entry["upto_a"]), self._data.rule(entry["rule"]).source)

    @cached_property
    def standby(self) -> StandbyRules | None:
        """What supplies while the supply is off; None where the standard's tables hold no rule."""
        entry = self._standby
        if entry is None:
            return None
        earth = self._data.rule(entry["earth_rule"])
        return StandbyRules(
            changeover=self._data.rule(entry["changeover_rule"]).source,
            earth=earth.source,
            earth_text=earth.text.rstrip("."),
            needs_electrode=bool(entry["electrode"]),
            neutral=entry["neutral"],
        )

    def inverter_multiple(self) -> tuple[float, float, Source]:
        """What an inverter gives into a short circuit, × rated: at least, at most, and where that is from."""
        rule = self._data.rule("common.sources.inverter")
        return float(rule.params["min_multiple"]), float(rule.params["max_multiple"]), rule.source
