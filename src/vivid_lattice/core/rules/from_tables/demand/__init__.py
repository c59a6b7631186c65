"""Demand from tables: what each circuit draws, and the methods by which standards add circuits up."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from math import inf
from types import MappingProxyType
from typing import Any

from vivid_lattice.core.document.job import Circuit, JobInfo
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.formulas.load_currents import CircuitSupply
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.from_tables.demand.categories import Categories
from vivid_lattice.core.rules.from_tables.demand.count import ByCount
from vivid_lattice.core.rules.from_tables.demand.currents import Currents, DemandMethod, Household
from vivid_lattice.core.rules.from_tables.demand.dwelling import ByDwelling
from vivid_lattice.core.rules.from_tables.demand.floor_area import ByArea, OptionalCalculation, StandardCalculation
from vivid_lattice.core.rules.from_tables.demand.full import InFull
from vivid_lattice.core.rules.from_tables.demand.points import ByPoints
from vivid_lattice.core.rules.protocol import CircuitDemand, MaximumDemand
from vivid_lattice.core.rules.rule_data import RuleData
from vivid_lattice.core.rules.sourced_value import SourcedValue

_Build = Callable[[RuleData, Mapping[str, Any], Currents], DemandMethod]
_METHODS: Mapping[str, _Build] = {
    "categories": Categories,
    "points": ByPoints,
    "count": ByCount,
    "dwelling": ByDwelling,
    "nec-standard": StandardCalculation,
    "nec-optional": OptionalCalculation,
    "full": InFull,
}


class DemandFromTables:
    """Demand rules read from a standard's tables."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        entries = {entry["id"]: entry for entry in standard["demand_method"]}
        order: list[str] = standard["demand"]["methods"]
        self._currents = Currents(data, entries[order[0]])
        self._methods = {name: _METHODS[entries[name]["by"]](data, entries[name], self._currents) for name in order}
        #: Whether one of the methods goes by the dwelling's floor area.
        self.by_floor_area = any(isinstance(method, ByArea) for method in self._methods.values())
        #: Whether a calculated demand over the rating of the service fails; from which rating on [A] any of the methods may be taken;
        #: and whether the main breaker may limit it.
        self.excess_fails = bool(standard["demand"].get("excess_fails", False))
        self.alternative_from_a = float(standard["demand"].get("alternative_from_a", inf))
        self.may_be_limited = bool(standard["demand"].get("may_be_limited", False))
        #: Points of a circuit that the usual method counts where no one has; None: it does not go by them.
        self.usual_points: SourcedValue | None = getattr(self._methods[order[0]], "usual_points", None)
        self.methods: Mapping[str, str] = MappingProxyType({name: entries[name]["title"] for name in order})

    def circuit_current(self, circuit: Circuit, supplied: CircuitSupply) -> CircuitDemand:
        """Design current Ib of a final circuit, line by line, with the steps.

        Raises NeedsInput where loads, a power, a power factor or the device is missing.
        """
        return self._currents.of(circuit, supplied)

    def maximum(
        self,
        circuits: Sequence[Circuit],
        supplied: Callable[[Circuit], CircuitSupply],
        job: JobInfo,
        phases: int,
        nominal_v: float,
        *,
        whole: bool,
        at_peak: bool = True,
        method: str | None = None,
    ) -> MaximumDemand:
        """Maximum demand of several final circuits with the standard's diversity, line by line [A].

        Distribution circuits are passed over, what they carry is counted where it is used; but one with a stated current, which feeds
        no board yet, counts.
        whole    all that the supply feeds, for methods that go by the dwelling
        at_peak  what is drawn while the job draws most: loads that are managed or kept off then do not count. False: every load counts
        Raises  NeedsInput as ``circuit_current`` does; NotTabulated for a method the standard does not know
        """
        chosen = method or next(iter(self._methods))
        if chosen not in self._methods:
            raise NotTabulated(
                message(None, "core.rules.demand.need.method", method=chosen, list=", ".join(self._methods)),
                path="settings.demand_method",
            )
        counted = (_at_peak(circuit) if at_peak else _drawing(circuit) for circuit in circuits)
        house = Household(
            circuits=tuple(circuit for circuit in counted if circuit is not None),
            supplied=supplied,
            job=job,
            phases=phases,
            nominal_v=nominal_v,
            whole=whole,
        )
        return self._methods[chosen].maximum(house)


def _drawing(circuit: Circuit) -> Circuit | None:
    """A circuit that draws anything itself; None for one that feeds a board, what it carries is counted where it is used."""
    return circuit if circuit.kind != "distribution" or circuit.design_current_a is not None else None


def _at_peak(circuit: Circuit) -> Circuit | None:
    """A circuit without the loads that do not run while the rest draws most; None where none is left."""
    if circuit.kind == "distribution":
        return _drawing(circuit)
    loads = tuple(load for load in circuit.loads if load.at_peak not in ("managed", "off"))
    if len(loads) == len(circuit.loads):
        return circuit
    return circuit.model_copy(update={"loads": loads}) if loads else None
