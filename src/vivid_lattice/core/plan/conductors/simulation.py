"""Every switch in every position: what is on, what joins line and neutral, and which conductor could be left out."""

from __future__ import annotations

import itertools
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import networkx as nx

from vivid_lattice.core.plan.conductors.terminals import EARTH, NEUTRAL, Net
from vivid_lattice.core.plan.conductors.wiring import FEED, ONWARD, BoxWiring, Section

#: A conductor in a box: all its ends there are joined.
_At = tuple[str, Net]
#: A device by its box and its place there.
Place = tuple[str, int]


@dataclass(frozen=True, slots=True)
class State:
    """A position of every switch, in the order of the boxes and of the switches in each; the loads that are on, as box and place there."""

    positions: tuple[int, ...]
    on: frozenset[tuple[str, int]]
    short: bool


class Simulation:
    """A wiring as copper and contacts.

    without  conductors of sections that are left out
    carried  what every section carries, where the caller has it already
    """

    def __init__(
        self,
        wiring: BoxWiring,
        without: Iterable[tuple[Section, Net]] = (),
        *,
        carried: Mapping[Section, tuple[Net, ...]] | None = None,
    ):
        self._wiring = wiring
        gone = set(without)
        self._copper: nx.Graph[_At] = nx.Graph()
        for section, nets in (carried or wiring.all_conductors()).items():
            for net in nets:
                if (section, net) not in gone:
                    self._copper.add_edge((section.a, net), (section.b, net))
        for box in wiring.boxes:
            self._copper.add_nodes_from((box, net) for net in wiring.terminals(box))
        self._copper.add_nodes_from((FEED, net) for net in wiring.feed)
        self._switches = [
            ((box, place), device.contact)
            for box, devices in wiring.boxes.items()
            for place, device in enumerate(devices)
            if device.contact is not None
        ]
        self._loads = [
            ((box, place), device.load)
            for box, devices in wiring.boxes.items()
            for place, device in enumerate(devices)
            if device.load is not None
        ]

    @property
    def switches(self) -> tuple[Place, ...]:
        """The box of each switch and its place there, in the order of their positions."""
        return tuple(place for place, _ in self._switches)

    def states_of(self, switches: Collection[Place]) -> Iterator[State]:
        """What happens in every position of some switches, all others in their first."""
        choices = [range(len(contact.positions)) if place in switches else (0,) for place, contact in self._switches]
        for positions in itertools.product(*choices):
            yield self.state(positions)

    def states(self) -> Iterator[State]:
        """What happens in every position of every switch."""
        return self.states_of(self.switches)

    def state(self, positions: tuple[int, ...]) -> State:
        """What happens in one."""
        joined = self._copper.copy()
        for ((box, _), contact), position in zip(self._switches, positions, strict=True):
            joined.add_edges_from(((box, a), (box, b)) for a, b in contact.positions[position])
        reached = {net: _reach(joined, (FEED, net)) for net in self._wiring.feed}
        on = frozenset(place for place, load in self._loads if self._is_supplied(place[0], load, reached))
        return State(positions, on, len(set(reached.values())) < len(reached))

    def _is_supplied(self, box: str, load: tuple[Net, ...], reached: Mapping[Net, frozenset[_At]]) -> bool:
        """Whether each conductor of a load is reached from its own of the supply; a switched one from any line, the last from the neutral."""
        lines = [net for net in reached if net not in (NEUTRAL, EARTH)]
        for number, net in enumerate(load):
            last = number == len(load) - 1 and len(load) > 1
            sources = [net] if net in reached else [NEUTRAL] if last else lines
            if not any((box, net) in reached.get(source, ()) for source in sources):
                return False
        return True

    @property
    def earthed(self) -> bool:
        """Whether the protective conductor reaches every box."""
        reached = _reach(self._copper, (FEED, EARTH))
        boxes = {*self._wiring.boxes, *({ONWARD} if any(ONWARD in each.ends for each in self._wiring.sections) else ())}
        return all((box, EARTH) in reached for box in boxes)

    @property
    def goes_on(self) -> bool:
        """Whether line and neutral reach the place where the circuit goes on to."""
        return all(
            (ONWARD, net) in _reach(self._copper, (FEED, net))
            for net in self._wiring.feed
            if net != EARTH and any(ONWARD in section.ends for section in self._wiring.sections)
        )


def _reach(graph: nx.Graph[_At], start: _At) -> frozenset[_At]:
    return frozenset(nx.node_connected_component(graph, start))


def idle_conductors(
    wiring: BoxWiring, together: Sequence[Collection[Place]] | None = None
) -> tuple[tuple[Section, Net], ...]:
    """Conductors that could be left out with nothing changed: none, in a wiring that is as it should be. Of a ring each conductor has a
    second way round and is passed over.

    together  switches that are worked together, each in every position while the others stay; None: all of them at once
    """
    carried = wiring.all_conductors()
    whole = Simulation(wiring, carried=carried)
    groups = [whole.switches] if together is None else list(together)
    before = tuple(_what_it_does(whole, groups))
    found = []
    for section, nets in carried.items():
        for net in nets:
            if section.on_ring or _wanted(wiring, net):
                continue
            less = _what_it_does(Simulation(wiring, [(section, net)], carried=carried), groups)
            # The first difference is enough: most conductors are missed at once.
            if all(now == then for now, then in zip(less, before, strict=True)):
                found.append((section, net))
    return tuple(found)


def _what_it_does(simulation: Simulation, groups: Sequence[Collection[Place]]) -> Iterator[object]:
    yield simulation.earthed
    yield simulation.goes_on
    yield simulation.state(tuple(0 for _ in simulation.switches))
    for switches in groups:
        yield from simulation.states_of(switches)


def _wanted(wiring: BoxWiring, net: Net) -> bool:
    """Whether it runs there for a reason that no switch position shows: an interlink, or a neutral for later."""
    return net == "I" or any(net in nets for nets in wiring.wanted.values()) or net in ("UP", "DN")
