"""What joins in a box: each conductor with its ends, and the connectors that it takes."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.plan.conductors.terminals import EARTH, Net
from vivid_lattice.core.plan.conductors.wiring import BoxWiring, order_of


@dataclass(frozen=True, slots=True)
class Joint:
    """The ends of one conductor in a box: ``cables`` from sections, ``devices`` at terminals or tails."""

    net: Net
    cables: int
    devices: int

    @property
    def ends(self) -> int:
        """All that meets there."""
        return self.cables + self.devices

    @property
    def needs_connector(self) -> bool:
        """Whether it is a joint: one cable end on one terminal is none."""
        return self.cables > 1 or (self.cables == 1 and self.devices > 1)


def joints_of(wiring: BoxWiring, box: str) -> tuple[Joint, ...]:
    """The conductors of a box with their ends, in the order they are read."""
    cables = Counter(net for section in wiring.sections if box in section.ends for net in wiring.conductors(section))
    devices = Counter(net for device in wiring.boxes[box] for net in device.nets)
    devices[EARTH] += sum(device.earthed for device in wiring.boxes[box])
    nets = sorted(
        {*cables, *devices} - {net for net, ends in devices.items() if not ends and net not in cables}, key=order_of
    )
    return tuple(Joint(net, cables[net], devices[net]) for net in nets)


@dataclass(frozen=True, slots=True)
class Connectors:
    """Connectors for one joint: how many, of how many ports, and the links between them."""

    count: int
    ports: int

    @property
    def links(self) -> int:
        """Short wires from one to the next, which carry all that lies beyond."""
        return self.count - 1


def connectors_for(ends: int, stocked_ports: Sequence[int]) -> Connectors:
    """The smallest connector that takes a joint; a chain of the largest where none does.

    Equation  k = ⌈(n − 2)/(p − 2)⌉: each link takes two ports
    Errors    ValueError for fewer than two ends, or no connector of more than two ports where one is needed

    >>> connectors_for(4, (2, 3, 5)), connectors_for(6, (2, 3, 5)).links
    (Connectors(count=1, ports=5), 1)
    """
    if ends < 2:
        raise ValueError("a joint has two ends at least")
    fitting = [ports for ports in stocked_ports if ports >= ends]
    if fitting:
        return Connectors(1, min(fitting))
    largest = max(stocked_ports, default=0)
    if largest <= 2:
        raise ValueError("no connector takes so many ends")
    return Connectors(math.ceil((ends - 2) / (largest - 2)), largest)
