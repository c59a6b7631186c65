"""Overcurrent devices in series, from the cut-out to the fuse in the plug, and how each pair keeps its order."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import inf

from vivid_lattice.core.curves import Band, Edge
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.device_family import DeviceFamily, packaged
from vivid_lattice.core.document.job import Board, Circuit, Device, Job
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.formulas.device.coordination import (
    OverloadOrder,
    SelectivityLimit,
    overload_order,
    short_circuit_reach,
)
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.network.upstream import as_device
from vivid_lattice.core.rules.protection_rules import DeviceKey
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown, plain
from vivid_lattice.core.units import SLACK, a_from_ka

#: Prospective currents of the rows that energy classes are given for [A].
_CLASS_ROWS_A = (3000.0, 6000.0, 10_000.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Overcurrent:
    """An overcurrent device on a way: its id, what it is called, where it is, and its characteristic's key.

    ``board``: the board it is in; None for the cut-out. ``circuit``: the circuit it protects; None for the cut-out.
    ``outlet``: it is a fuse at the end of a circuit: of a spur, or in a plug.
    """

    id: str
    name: Text
    where: Text
    key: DeviceKey
    device: Device | None
    board: Board | None
    circuit: Circuit | None
    outlet: bool = False


@dataclass(frozen=True, slots=True)
class Pair:
    """Two devices in series, the one nearer the source first."""

    up: Overcurrent
    down: Overcurrent


class Series:
    """The overcurrent devices of a job as they follow each other, each worked out once."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree):
        self._job, self._rules, self._tree = job, rules, tree
        self._devices: dict[str, Overcurrent | None] = {}
        self._pairs: dict[str, tuple[Pair, ...]] = {}
        self._reaches: dict[tuple[DeviceKey, Device, float], SelectivityLimit] = {}
        self._families: dict[str, DeviceFamily] = {family.id: family for family in (*packaged(), *job.families)}

    @cached_property
    def cutout(self) -> Overcurrent | None:
        """The distributor's fuse, where it has been entered."""
        cut_out = self._job.supply.cutout
        if cut_out is None:
            return None
        device = as_device(cut_out)
        key = DeviceKey(cut_out.kind, cut_out.curve, cut_out.rating_a)
        return Overcurrent(
            id="cutout",
            name=message(
                self._rules.words, "core.label.cut_out", curve=cut_out.curve or "", rating=plain(cut_out.rating_a)
            ),
            where=message(self._rules.words, "core.label.origin"),
            key=key,
            device=device,
            board=None,
            circuit=None,
        )

    def device_of(self, circuit: Circuit) -> Overcurrent | None:
        """A circuit's own device; None while it is left to the design."""
        if circuit.id not in self._devices:
            self._devices[circuit.id] = self._device_of(circuit)
        return self._devices[circuit.id]

    def _device_of(self, circuit: Circuit) -> Overcurrent | None:
        device = circuit.device
        if is_auto(device):
            return None
        place = self._tree.place(circuit)
        name = device.label
        return Overcurrent(
            id=circuit.id,
            name=message(self._rules.words, "core.label.device", device=name, circuit=circuit.name),
            where=message(self._rules.words, "core.label.way", n=str(place.way.number), board=place.board.name),
            key=DeviceKey(device.kind, device.curve, device.rating_a),
            device=device,
            board=place.board,
            circuit=circuit,
        )

    def way(self, circuit: Circuit) -> tuple[Overcurrent, ...]:
        """All overcurrent devices on the way to a circuit's end, its own last; those left open are left out."""
        devices = [self.cutout, *(self.device_of(link) for link in self._tree.chain(circuit))]
        return tuple(device for device in devices if device is not None)

    def outlets(self, circuit: Circuit) -> tuple[Overcurrent, ...]:
        """Fuses at the end of a circuit: of its spurs, and in the plugs behind its outlets."""
        own_device, fuse = self.device_of(circuit), self._rules.protection.outlet_fuse
        if own_device is None or fuse is None:
            return ()
        fuses: list[tuple[str, Text, DeviceKey]] = []
        for number, spur in enumerate(circuit.spurs, 1):
            if spur.fuse_a is not None:
                key = DeviceKey(fuse.key.kind, None, spur.fuse_a)
                fuses.append(
                    (
                        f"{circuit.id}-spur{number}",
                        message(None, "core.network.spur_fuse", a=Shown(f"{spur.fuse_a:g}"), spur=spur.name),
                        key,
                    )
                )
        if any(load.kind == "socket" for load in circuit.loads):
            fuses.append((f"{circuit.id}-plug", fuse.title, fuse.key))
        return tuple(
            Overcurrent(
                id=name,
                name=title,
                where=circuit.name,
                key=key,
                device=None,
                board=own_device.board,
                circuit=circuit,
                outlet=True,
            )
            for name, title, key in fuses
        )

    def pairs(self, circuit: Circuit) -> tuple[Pair, ...]:
        """The pairs a circuit's own device is one of: with each device ahead, and with each fuse at its end."""
        pairs = self._pairs.get(circuit.id)
        if pairs is None:
            own_device = self.device_of(circuit)
            ahead = [] if own_device is None else self.way(circuit)[:-1]
            outlets = () if own_device is None else self.outlets(circuit)
            pairs = tuple(Pair(up, own_device) for up in ahead if own_device) + tuple(
                Pair(own_device, fuse) for fuse in outlets if own_device
            )
            self._pairs[circuit.id] = pairs
        return pairs

    def family(self, device: Device | None) -> DeviceFamily | None:
        """The library's family a device is of; NotTabulated where the job and the program hold none of that name."""
        if device is None or device.family is None:
            return None
        if device.family not in self._families:
            raise NotTabulated(
                message(None, "core.network.need.family.what", family=device.family),
                path="device.family",
                ask=message(None, "core.network.need.family.ask"),
            )
        return self._families[device.family]

    def band(self, overcurrent: Overcurrent) -> Band:
        """The characteristic of a device: of its family where that has one of its own, else of its product standard."""
        family = self._own_curve(overcurrent.device)
        return (
            self._rules.bands.band(*overcurrent.key)
            if family is None
            else family_band(family, overcurrent.key.rating_a)
        )

    def _own_curve(self, device: Device | None) -> DeviceFamily | None:
        """The family of a device where that has a characteristic of its own, and does not go by its product standard's."""
        family = self.family(device)
        return family if family is not None and family.lower else None

    def order(self, pair: Pair) -> OverloadOrder:
        """How a pair keeps its order under overload. NotTabulated where a characteristic is not held."""
        if any(self._own_curve(device.device) is not None for device in (pair.up, pair.down)):
            return overload_order(self.band(pair.up), self.band(pair.down))
        return self._rules.bands.order(pair.up.key, pair.down.key)

    def reach(self, pair: Pair, fault_a: float) -> SelectivityLimit:
        """Up to which current a pair is selective under short circuit. NotTabulated as ``order``."""
        if pair.down.device is None or self._own_curve(pair.up.device) is not None:
            return self._reach(pair, fault_a)
        key = (pair.up.key, pair.down.device, fault_a)
        if key not in self._reaches:
            self._reaches[key] = self._reach(pair, fault_a)
        return self._reaches[key]

    def _reach(self, pair: Pair, fault_a: float) -> SelectivityLimit:
        rules, device = self._rules, pair.down.device
        if rules.bands.waits_rule(pair.up.key.kind) is not None:
            return SelectivityLimit(inf, "delay", None)

        def let_through(current_a: float) -> float | None:
            if device is None or device.kind not in rules.devices.kinds:
                return None
            if device.breaking_ka is not None and current_a > a_from_ka(device.breaking_ka) * (1 + SLACK):
                return None
            try:
                return rules.devices.let_through(device, current_a).value
            except NeedsInput:
                return None

        probes = sorted({fault_a, *_CLASS_ROWS_A})
        return short_circuit_reach(self.band(pair.up), self.band(pair.down), let_through, tuple(probes))


@lru_cache(maxsize=512)
def family_band(family: DeviceFamily, rating_a: float) -> Band:
    """The characteristic of a family's device of a rating."""
    edges = [
        Edge(tuple((point.times_in * rating_a, point.time_s) for point in points))
        for points in (family.lower, family.upper)
    ]
    return Band(
        name=f"{family.title} {rating_a:g} A", lower=edges[0], upper=edges[1], breaker=family.kind != "fuse", sources=()
    )
