"""A circuit as boxes and the sections of cable between them; what each section has to carry."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

import networkx as nx

from vivid_lattice.core.plan.conductors.terminals import EARTH, LINE, NEUTRAL, Net, Terminals

#: Where the circuit arrives, and where it goes on to: no box of its own.
FEED, ONWARD = "feed", "onward"
_ORDER: Mapping[str, int] = {LINE: 0, "SL": 1, "T": 2, "X": 3, "I": 3, "UP": 3, "DN": 3, NEUTRAL: 8, EARTH: 9}


@dataclass(frozen=True, slots=True)
class Section:
    """A piece of cable between two boxes. ``on_ring``: part of a ring, so that it carries line, neutral and earth whatever is behind it."""

    a: str
    b: str
    on_ring: bool = False

    @property
    def ends(self) -> frozenset[str]:
        """Its two boxes."""
        return frozenset((self.a, self.b))


@dataclass(frozen=True, slots=True)
class BoxWiring:
    """A circuit's boxes by name, each with the devices in it, and its sections. The supply comes from ``feed``.

    A section joins two boxes once; but for a ring, there is one way from the feed to each box.
    """

    boxes: Mapping[str, tuple[Terminals, ...]]
    sections: tuple[Section, ...]
    #: A conductor that is wanted in a box though nothing there needs it: a neutral at a switch.
    wanted: Mapping[str, tuple[Net, ...]] = field(default_factory=dict)
    #: What the supply brings: one line or several, the neutral where the circuit has one, the protective conductor.
    feed: tuple[Net, ...] = (LINE, NEUTRAL, EARTH)

    def terminals(self, box: str) -> tuple[Net, ...]:
        """The conductors that a box has a terminal for, the protective one too."""
        if box in (FEED, ONWARD):
            return self.feed
        own = [net for device in self.boxes[box] for net in device.nets]
        return (*own, *self.wanted.get(box, ()), EARTH)

    def conductors(self, section: Section) -> tuple[Net, ...]:
        """What a section carries: each conductor that has a terminal on either side of it, and nothing else.

        Source  connectivity of a tree: cut the section, and what has a terminal on both sides is needed
        """
        here, there = self._sides(section)
        both = set(self._nets(here)) & set(self._nets(there))
        if section.on_ring:
            both |= set(self.feed)
        return tuple(sorted(both, key=order_of))

    def all_conductors(self) -> dict[Section, tuple[Net, ...]]:
        """What every section carries."""
        return {section: self.conductors(section) for section in self.sections}

    def _nets(self, boxes: frozenset[str]) -> Iterator[Net]:
        for box in boxes:
            yield from self.terminals(box)

    def _sides(self, section: Section) -> tuple[frozenset[str], frozenset[str]]:
        """The boxes on either side of a section; a ring, with all its spurs, is on both."""
        graph: nx.Graph[str] = nx.Graph()
        graph.add_nodes_from(name for each in self.sections for name in (each.a, each.b))
        graph.add_edges_from((each.a, each.b) for each in self.sections if each is not section)
        if section.on_ring:
            everything = frozenset(graph.nodes)
            return everything, everything
        one = frozenset(nx.node_connected_component(graph, section.a))
        return one, frozenset(graph.nodes) - one


def order_of(net: Net) -> tuple[int, str]:
    """Conductors in the order they are read: line, switched lines, strappers, neutral, protective."""
    stem = net.rstrip("0123456789'")
    return _ORDER.get(stem, 4), net


def tree(pairs: Sequence[tuple[str, str]]) -> tuple[Section, ...]:
    """Sections of a circuit that branches and has no loop."""
    return tuple(Section(a, b) for a, b in pairs)


def ring(names: Sequence[str]) -> tuple[Section, ...]:
    """Sections of a ring: from the feed through some boxes and back."""
    stops = [FEED, *names, FEED]
    return tuple(Section(a, b, on_ring=True) for a, b in itertools.pairwise(stops))
