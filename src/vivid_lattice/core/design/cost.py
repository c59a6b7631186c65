"""What a choice costs by the job's own price list: cable by the metre or by its copper, devices by the pole."""

from __future__ import annotations

from vivid_lattice.core.document.job import Cable, Circuit, Device, Prices
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet

#: Mass of a conductor [kg/(mm²·m)].
_DENSITY = {"copper": 8.96e-3, "aluminium": 2.70e-3}
#: Aluminium costs about a quarter of copper by weight. Common practice, no source; the user's list rules otherwise.
_ALUMINIUM_SHARE = 0.25


def cable_cost(circuit: Circuit, cable: Cable, tree: Tree, rules: RuleSet, prices: Prices) -> float:
    """Cost of a circuit's cable: by the list's price of a metre of it; else its conductors by weight and its length by the
    metre; 0 while the length is not known.

    Conductors are the lines, the neutral where there is one, and the protective conductor where it is one of its own.
    """
    try:
        length = run_length_m(circuit)
        lines = len(tree.supplied(circuit).lines)
        has_own_price = cable.cpc in ("included", "core", "separate")
        cpc = rules.cables.cpc_area_mm2(cable, tree.loaded(circuit)).value if has_own_price else 0.0
    except NeedsInput:
        return 0.0
    listed = metre_price(cable, prices)
    if listed is not None:
        return listed * length
    material = rules.cables.kind(cable.type).material
    mass = (cable.area_mm2 * (lines + (1 if circuit.neutral else 0)) + cpc) * length * _DENSITY[material]
    metal = prices.copper_per_kg * (1.0 if material == "copper" else _ALUMINIUM_SHARE)
    return mass * metal + prices.cable_per_m * length


def device_cost(circuit: Circuit, device: Device, tree: Tree, prices: Prices) -> float:
    """Cost of a circuit's device: each of its poles; 0 for a kind the list does not name."""
    each = pole_price(device, prices) or 0.0
    try:
        return each * len(tree.supplied(circuit).lines)
    except NeedsInput:
        return each


def pole_price(device: Device, prices: Prices) -> float | None:
    """What a pole of a device costs by the list: of its own rating where that is named; None where its kind is not."""
    device_prices = [
        price for price in prices.devices if price.kind == device.kind and price.rating_a in (None, device.rating_a)
    ]
    return max(device_prices, key=lambda price: price.rating_a is not None).each if device_prices else None


def metre_price(cable: Cable, prices: Prices) -> float | None:
    """What a metre of a cable costs by the list; None where it does not name it."""
    return next(
        (price.per_m for price in prices.cables if (price.type, price.area_mm2) == (cable.type, cable.area_mm2)), None
    )
