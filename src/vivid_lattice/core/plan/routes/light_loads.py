"""Circuits that carry so little of what their cable may that they warm no cable beside them."""

from __future__ import annotations

from collections.abc import Iterator
from math import prod

from vivid_lattice.core.document.job import Cable, Circuit, Job
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.network.drops import Drops
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet


def light_loads(job: Job, rules: RuleSet, together: int) -> frozenset[str]:
    """Circuits that are left out when the rest of a group are counted. One whose current or cable is not known is counted.

    Equation  Ib ≤ s · It · Ca · Cg · …, with Cg for as many as ``together``
    Source    BS 7671 523.5, IEC 60364-5-52 B.52.2.1: s = 30 %
    """
    share = rules.plan.light_load_share
    if share is None:
        return frozenset()
    drops = Drops(job, rules, Tree(job))
    return frozenset(circuit.id for circuit in job.circuits if _is_light(circuit, drops, rules, share, together))


def _is_light(circuit: Circuit, drops: Drops, rules: RuleSet, share: float, together: int) -> bool:
    if not isinstance(circuit.cable, Cable) or circuit.kind == "distribution":
        return False
    try:
        current_a = drops.design_current(circuit).current_a
        return all(current_a <= share * rating_a for rating_a in _ratings_a(circuit, circuit.cable, rules, together))
    except (NeedsInput, NotTabulated):
        return False


def _ratings_a(circuit: Circuit, cable: Cable, rules: RuleSet, together: int) -> Iterator[float]:
    """What the cable carries in each part of its run in company [A]."""
    loaded = 3 if len(circuit.lines) == 3 else 2
    for section in circuit.run:
        grouped = section.model_copy(update={"circuits_grouped": max(together, 1)})
        factors = rules.factors.factors(grouped, cable, loaded)
        yield rules.cables.capacity_a(cable, section.method, loaded).value * prod(factor.value for factor in factors)
