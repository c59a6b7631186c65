"""A demand over the supply: what may be done about it, in the order of the standard's practice."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from vivid_lattice.core.document.job import Job, Load
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import DemandOption, customary

_HEATING = frozenset({"water-heater", "immersion", "geyser", "storage-heater", "underfloor", "floor-heat", "hot-tub"})


def demand_options(job: Job) -> tuple[DemandOption, ...]:
    """The ways out that fit a job, in order.

    Source  customary ways of the standard: common practice, no source
    """
    rules = rule_set(job.job.rules)
    loads = [load for circuit in job.circuits for load in circuit.loads]
    rating = job.supply.cutout.rating_a if job.supply.cutout else 0.0

    def of_kind(*kinds: str) -> int:
        return sum(load.items for load in loads if load.kind in kinds)

    def heats(load: Load) -> bool:
        return load.kind == "water-heater" or appliance_of(load, rules) in _HEATING

    fits: Mapping[str, Callable[[], bool]] = {
        "": lambda: True,
        "charger": lambda: of_kind("charger") > 0,
        "showers": lambda: of_kind("shower", "charger") > 1,
        "heating": lambda: any(heats(load) for load in loads),
        "feeder": lambda: any(circuit.kind == "distribution" for circuit in job.circuits),
        "below-80": lambda: rating < 80,
        "below-100": lambda: rating < 100,
        "single-phase": lambda: job.supply.phases == 1,
        "three-phase": lambda: job.supply.phases == 3,
    }
    return tuple(way for way in customary(rules.id).demand_options if fits[way.when]())
