"""What a circuit has that a defect can be in: a residual-current device shared with others, several lines, a contactor."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial

from vivid_lattice.core.checks import rcd_type
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.installation.contexts import CircuitContext
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.loops import chosen_cable
from vivid_lattice.core.network.tree import EarthInUse

#: Systems whose neutral and earth come in one conductor from the network.
_PEN_SYSTEMS = frozenset({"TN-C-S", "TN-C", "MEN"})
#: Where the earth comes from.
OWN_ELECTRODE, SUPPLY_EARTH, ON_ELECTRODE = "own-electrode", "supply-earth", "electrode"
_OF_EARTH = frozenset({OWN_ELECTRODE, SUPPLY_EARTH, ON_ELECTRODE})


def facts_of_earth(facts: frozenset[str], earth: EarthInUse) -> frozenset[str]:
    """What is so of any circuit on another earth."""
    own = {OWN_ELECTRODE if earth.owner is not None else SUPPLY_EARTH}
    return (facts - _OF_EARTH) | own | ({ON_ELECTRODE} if earth.system == "TT" else set())


def facts_of(network: Installation, circuit: Circuit) -> frozenset[str]:
    """The names of what a circuit has, of those that defects need."""
    return frozenset(name for name, holds in FACTS.items() if holds(network, circuit))


def _has_rcd(network: Installation, circuit: Circuit) -> bool:
    return any(circuit in place.behind for place in network.rcds.all)


def _own_rcd(network: Installation, circuit: Circuit) -> bool:
    return not is_auto(circuit.device) and circuit.device.rcd is not None


def _separate_rcd(network: Installation, circuit: Circuit) -> bool:
    """Whether one is ahead of it that is not in its own breaker, and has neutral terminals of its own."""
    return any(circuit in place.behind and place.own_device is None for place in network.rcds.all)


def _two_rcds(network: Installation, circuit: Circuit) -> bool:
    """Whether its board has two residual-current devices side by side, each with its own neutral."""
    board = network.tree.place(circuit).board
    return sum(place.board.id == board.id for place in network.rcds.all) > 1


def _lines(least: int, network: Installation, circuit: Circuit) -> bool:
    return len(circuit.lines) >= least


def _multiwire(network: Installation, circuit: Circuit) -> bool:
    return len(circuit.lines) > 1 and circuit.neutral


def _control_gear(network: Installation, circuit: Circuit) -> bool:
    """Whether a contactor or a relay of the board switches it, or it is a control circuit."""
    place = network.tree.place(circuit)
    names = {circuit.id, place.way.rcd}
    switched = any(names & set(gear.switches) for gear in place.board.control_gear)
    return switched or circuit.kind == "control"


def _lighting(network: Installation, circuit: Circuit) -> bool:
    return circuit.kind == "lighting" or any(load.kind == "lamp" for load in circuit.loads)


def _direct_current(network: Installation, circuit: Circuit) -> bool:
    """Whether something that it feeds leaks direct current, which a type AC device does not see."""
    ctx = CircuitContext(network, circuit, explain=False)
    return circuit.source is not None or not rcd_type.needs_only_ac(ctx, (circuit,))


def _aluminium(network: Installation, circuit: Circuit) -> bool:
    return network.rules.cables.kind(chosen_cable(circuit).type).material == "aluminium"


def _own_electrode(network: Installation, circuit: Circuit) -> bool:
    """Whether its earth is an electrode of its own, where the supply has another."""
    earth = network.tree.earth_of(circuit)
    return earth.system == "TT" and earth.owner is not None


def _voltage_relay(network: Installation, circuit: Circuit) -> bool:
    return network.tree.place(circuit).board.voltage_relay is not None


def _pen(network: Installation, circuit: Circuit) -> bool:
    return network.job.supply.system in _PEN_SYSTEMS


def _on_electrode(network: Installation, circuit: Circuit) -> bool:
    return network.tree.earth_of(circuit).system == "TT"


def _own_link(network: Installation, circuit: Circuit) -> bool:
    """Whether neutral and earth are joined in the installation."""
    return network.job.supply.system in network.rules.earthing.link_systems


FACTS: Mapping[str, Callable[[Installation, Circuit], bool]] = {
    "rcd": _has_rcd,
    "own-rcd": _own_rcd,
    "separate-rcd": _separate_rcd,
    "two-rcds": _two_rcds,
    "one-line": lambda network, circuit: not _multiwire(network, circuit),
    "several-lines": partial(_lines, 2),
    "three-lines": partial(_lines, 3),
    "multiwire": _multiwire,
    "control-gear": _control_gear,
    "lighting": _lighting,
    "direct-current": _direct_current,
    "aluminium": _aluminium,
    OWN_ELECTRODE: _own_electrode,
    SUPPLY_EARTH: lambda network, circuit: not _own_electrode(network, circuit),
    "voltage-relay": _voltage_relay,
    "pen": _pen,
    ON_ELECTRODE: _on_electrode,
    "own-link": _own_link,
}
