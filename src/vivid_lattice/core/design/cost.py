"""What a choice costs by the job's own small price list: copper by weight, cable by the metre, devices by the pole."""

from __future__ import annotations

from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.job import Cable, Circuit, Device, Prices
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet

#: Mass of a conductor [kg/(mm²·m)].
_DENSITY = {"copper": 8.96e-3, "aluminium": 2.70e-3}
#: Aluminium costs about a quarter of copper by weight. Common practice, no source; the user's list rules otherwise.
_ALUMINIUM_SHARE = 0.25


def cable_cost(circuit: Circuit, cable: Cable, tree: Tree, rules: RuleSet, prices: Prices) -> float:
    """Cost of a circuit's cable: its conductors by weight and its length by the metre; 0 while the length is not known.

    Conductors are the lines, the neutral where there is one, and the protective conductor where it is one of its own.
    """
    try:
        length = run_length_m(circuit)
        lines = len(tree.supplied(circuit).lines)
        own = cable.cpc in ("included", "core", "separate")
        cpc = rules.cables.cpc_area_mm2(cable, tree.loaded(circuit)).value if own else 0.0
    except NeedsInput:
        return 0.0
    material = rules.cables.kind(cable.type).material
    mass = (cable.area_mm2 * (lines + (1 if circuit.neutral else 0)) + cpc) * length * _DENSITY[material]
    metal = prices.copper_per_kg * (1.0 if material == "copper" else _ALUMINIUM_SHARE)
    return mass * metal + prices.cable_per_m * length


def device_cost(circuit: Circuit, device: Device, tree: Tree, prices: Prices) -> float:
    """Cost of a circuit's device: each of its poles; 0 for a kind the list does not name."""
    each = next((price.each for price in prices.devices if price.kind == device.kind), 0.0)
    try:
        return each * len(tree.supplied(circuit).lines)
    except NeedsInput:
        return each
