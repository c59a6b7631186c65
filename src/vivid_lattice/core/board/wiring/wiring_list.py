"""The wiring list: every conductor in a board from terminal to terminal, and every piece of busbar, in the order to do it in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from vivid_lattice.core.board.layout.board_devices import AHEAD, BoardDevice, BoardDevices
from vivid_lattice.core.board.layout.device_kinds import GEAR
from vivid_lattice.core.board.layout.rail_positions import PositionMm, RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.busbars import Busbar
from vivid_lattice.core.board.wiring.conductor_sizes import WireSizes
from vivid_lattice.core.board.wiring.end_labels import EndLabels, has_ferrule
from vivid_lattice.core.board.wiring.links import Links
from vivid_lattice.core.board.wiring.netlist import Net, Netlist
from vivid_lattice.core.board.wiring.routes import length_mm, route, way
from vivid_lattice.core.document.board_build import WiringDefaults
from vivid_lattice.core.messages import Message, Text, Vocabulary, message

Kind = Literal["link", "own-lead", "cable", "supply", "earth", "control", "lead", "neutral-earth-link", "plug"]

#: Slack of the leads of a surge device [mm].
_SURGE_SLACK_MM = 20.0

#: The order to wire in: earth first, supply last.
STEPS: tuple[str, ...] = ("earth", "bars", "surge", "gear", "circuits", "supply")


def step_title(step: int, words: Vocabulary) -> Message:
    """What a step is called, counted from 1."""
    return message(words, f"core.wiring.step.{STEPS[step - 1]}")


@dataclass(frozen=True, slots=True, kw_only=True)
class End:
    """An end of a conductor: the terminal in words, how it is made ready, how far it is stripped, how tight."""

    terminal: Terminal
    text: Text
    finish: Text
    strip_mm: float
    torque: Text
    ferrule: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Conductor:
    """A conductor of the list. ``area_mm2`` None: not known yet. ``shares``: how many conductors are under the fuller of its
    terminals; ``shared`` what the manufacturer's data say of that: 'yes', 'no', 'unknown', or '' where it is alone."""

    id: str
    kind: Kind
    step: int
    conductor: str
    colour: str
    area_mm2: float | None
    size: Text
    reason: Text
    length_mm: float
    start: End
    end: End
    corners: tuple[PositionMm, ...]
    shares: int = 1
    shared: str = ""


@dataclass(frozen=True, slots=True)
class Block:
    """A terminal block that a net needs, since its terminals take no second conductor, and where it finds room."""

    id: str
    net: str
    ways: int
    at: PositionMm


@dataclass(frozen=True, slots=True)
class Wiring:
    """All conductors and busbars of a board; ``missing``: what a size or a length could not be found for, in words."""

    conductors: tuple[Conductor, ...]
    combs: tuple[Busbar, ...]
    blocks: tuple[Block, ...]
    missing: tuple[Text, ...]


def wiring_of(
    units: BoardDevices,
    scheme: Netlist,
    places: RailPositions,
    combs: tuple[Busbar, ...],
    links: Links,
    sizes: WireSizes,
    words: EndLabels,
    habits: WiringDefaults,
) -> Wiring:
    """The list for a board that is laid out. Units that have no place yet are left out, and said."""
    making = _LinkBuilder(units, scheme, places, combs, links, sizes, words, habits)
    for net in scheme.nets:
        making.net(net)
    if scheme.link is not None:
        making.neutral_earth(scheme.link)
    no_position = (message(None, "core.wiring.no_position", device=unit.name) for unit in places.loose)
    return Wiring(making.done(), combs, tuple(making.blocks), tuple(dict.fromkeys((*no_position, *making.lacks))))


@dataclass(slots=True)
class _Node:
    """What a link can be clamped to: a terminal, or a piece of busbar with its two ends."""

    terminals: tuple[Terminal, ...]
    room: int
    comb: str = ""


class _LinkBuilder:
    def __init__(
        self,
        units: BoardDevices,
        scheme: Netlist,
        places: RailPositions,
        combs: tuple[Busbar, ...],
        links: Links,
        sizes: WireSizes,
        words: EndLabels,
        habits: WiringDefaults,
    ):
        self._units, self._scheme, self._places, self._combs = units, scheme, places, combs
        self._links, self._sizes, self._words, self._habits = links, sizes, words, habits
        self._made: list[Conductor] = []
        self.blocks: list[Block] = []
        self.lacks: list[Text] = []

    def done(self) -> tuple[Conductor, ...]:
        """The conductors in the order to wire them, each told how full its terminals are."""
        clamped = Counter(
            end.terminal
            for conductor in self._made
            if conductor.kind != "plug"
            for end in (conductor.start, conductor.end)
        )
        order = {placed.unit.id: number for number, placed in enumerate(self._places.from_main())}
        for placed in self._places.from_main():
            if placed.unit.circuit is not None and placed.unit.kind == "way":
                order[f"cable:{placed.unit.circuit.id}"] = order[placed.unit.id]
        rank = {"PE": 0, "N": 1}

        def key(conductor: Conductor) -> tuple[int, int, int, str]:
            at = min(order.get(end.terminal.cable, len(order)) for end in (conductor.start, conductor.end))
            return conductor.step, at, rank.get(conductor.conductor, 2), conductor.id

        return tuple(self._finished(conductor, clamped) for conductor in sorted(self._made, key=key))

    def _finished(self, conductor: Conductor, clamped: Counter[Terminal]) -> Conductor:
        full = max((conductor.start, conductor.end), key=lambda end: clamped[end.terminal])
        count = clamped[full.terminal]
        if count < 2 or conductor.kind == "plug":
            return conductor
        unit = self._units.by_id.get(full.terminal.device)
        doubles = unit.family.two_conductors if unit is not None and unit.family is not None else None
        text = "unknown" if doubles is None else "yes" if doubles and count == 2 else "no"
        return replace(conductor, shares=count, shared=text)

    # ---------------------------------------------------------------------------------------------- nets

    def net(self, net: Net) -> None:
        """The conductors of a net: to the terminals of its bar, or from its source along the nodes it is made of."""
        terminals = [terminal for terminal in net.terminals if self._in_place(terminal)]
        if net.bar is not None:
            for terminal in terminals:
                self._to_bar(net, terminal)
            return
        outside, plugged, wired = self._sorted(terminals)
        nodes = self._nodes(net, wired)
        if not nodes:
            # Nothing but what comes from outside, or is plugged on: joined to each other.
            for terminal in terminals[1:]:
                self._add(net, terminals[0], terminal, self._kind(terminal))
            return
        if self._places.enclosure.form == "panelboard" and self._on_stabs(net):
            self._stabs(net, nodes)
        else:
            self._tree(net, nodes)
        self._attach(net, nodes[0].terminals[0], plugged, outside)

    def _attach(self, net: Net, home: Terminal, plugged: Sequence[Terminal], outside: Sequence[Terminal]) -> None:
        """What is plugged on a net's first terminal, and what comes to it from outside the board."""
        for terminal in plugged:
            self._add(net, home, terminal, "plug")
        for terminal in outside:
            kind = self._kind(terminal)
            start, end = (terminal, home) if kind == "supply" else (home, terminal)
            self._add(net, start, end, kind)

    def _sorted(self, terminals: Sequence[Terminal]) -> tuple[list[Terminal], list[Terminal], list[Terminal]]:
        """Terminals outside the board, of devices that are plugged on, and those that are wired to each other."""
        outside, plugged, wired = list[Terminal](), list[Terminal](), list[Terminal]()
        for terminal in terminals:
            if self._is_outside(terminal):
                outside.append(terminal)
            else:
                (plugged if self._is_plugged(terminal) else wired).append(terminal)
        return outside, plugged, wired

    def _in_place(self, terminal: Terminal) -> bool:
        if terminal.device in self._places.placed:
            return True
        if terminal.device in self._units.by_id:
            return False
        return terminal.kind != "cable" or f"way:{terminal.circuit}" in self._places.placed

    def _is_outside(self, terminal: Terminal) -> bool:
        return terminal.device not in self._units.by_id

    def _is_plugged(self, terminal: Terminal) -> bool:
        """A surge device that is plugged on has its line (on a rail its neutral too) by that, not by a conductor."""
        unit = self._units.by_id[terminal.device]
        return unit.surge is not None and unit.kind == "surge" and unit.surge.form == "plug-on"

    def _nodes(self, net: Net, terminals: Sequence[Terminal]) -> list[_Node]:
        nodes: list[_Node] = []
        left = list(terminals)
        for comb in self._combs:
            texts = [terminal for terminal in comb.terminals(net.conductor) if terminal in left]
            if len(texts) > 1 or (texts and len(comb.lines) > 1):
                nodes.append(_Node(tuple(texts), 2, comb.id))
                left = [item for item in left if item not in texts]
        nodes += [_Node((item,), self._room(item)) for item in left]
        # The source comes first: what gives the net its supply.
        source = net.terminals[0]
        return sorted(nodes, key=lambda node: (source not in node.terminals, node.comb == ""))

    def _room(self, terminal: Terminal) -> int:
        unit = self._units.by_id[terminal.device]
        return 2 if unit.family is not None and unit.family.two_conductors else 1

    def _on_stabs(self, net: Net) -> bool:
        return net.id.startswith(("bus.", "ahead."))

    def _stabs(self, net: Net, nodes: Sequence[_Node]) -> None:
        """Breakers of a panel sit on its own bars: nothing is wired to them."""
        home = nodes[0].terminals[0]
        for node in nodes[1:]:
            for terminal in node.terminals:
                self._add(net, home, terminal, "plug")

    def _tree(self, net: Net, nodes: Sequence[_Node]) -> None:
        """Links from the source to every node, the nearest first, no terminal fuller than its data allow; else a block."""
        room = {id(node): node.room for node in nodes}
        joined, open_, edges = [nodes[0]], list(nodes[1:]), []
        while open_:
            pairs = [(self._apart(a, b), i, b) for i, a in enumerate(joined) if room[id(a)] > 0 for b in open_]
            if not pairs:
                self._through_block(net, nodes)
                return
            _, at, nearest = min(pairs, key=lambda pair: (pair[2].comb == "", pair[0], pair[1]))
            edges.append((joined[at], nearest))
            room[id(joined[at])] -= 1
            room[id(nearest)] -= 1
            joined.append(nearest)
            open_.remove(nearest)
        below = _below(edges)
        for a, b in edges:
            start, end = self._nearest(a, b)
            behind = sum(self._rating(terminal, net) for node in below[id(b)] for terminal in node.terminals)
            self._add(net, start, end, "link", behind)
        if self._habits.rcds_ring_fed and len(edges) > 1 and net.id.startswith("bus."):
            self._close_ring(net, nodes[0], edges[-1][1])

    def _close_ring(self, net: Net, first: _Node, last: _Node) -> None:
        start, end = self._nearest(first, last)
        self._add(net, start, end, "link", None)

    def _through_block(self, net: Net, nodes: Sequence[_Node]) -> None:
        home = nodes[0].terminals[0]
        p = self._places.point(home)
        # Beside the source of its net, a hand's breadth away from its terminal.
        away = 30.0 if p.y < self._places.height_mm - 45 else -30.0
        block = Block(f"block{len(self.blocks) + 1}", net.id, len(nodes), PositionMm(p.x + 9, p.y + away))
        self.blocks.append(block)
        behind = [sum(self._rating(terminal, net) for terminal in node.terminals) for node in nodes]
        self._add(net, home, Terminal.of(block.id, net.conductor, "1"), "link", sum(behind[1:]), block)
        for number, (node, load) in enumerate(zip(nodes[1:], behind[1:], strict=True), 2):
            self._add(net, Terminal.of(block.id, net.conductor, str(number)), node.terminals[0], "link", load, block)

    def _apart(self, a: _Node, b: _Node) -> float:
        start, end = self._nearest(a, b)
        p, q = self._places.point(start), self._places.point(end)
        return abs(p.x - q.x) + abs(p.y - q.y)

    def _nearest(self, a: _Node, b: _Node) -> tuple[Terminal, Terminal]:
        """The terminals of two nodes that lie nearest; a busbar is fed at one of its ends."""
        ends_a = (a.terminals[0], a.terminals[-1]) if a.comb else a.terminals[:1]
        ends_b = (b.terminals[0], b.terminals[-1]) if b.comb else b.terminals[:1]
        points = {item: self._places.point(item) for item in (*ends_a, *ends_b)}
        return min(
            ((item, other) for item in ends_a for other in ends_b),
            key=lambda pair: abs(points[pair[0]].x - points[pair[1]].x) + abs(points[pair[0]].y - points[pair[1]].y),
        )

    def _rating(self, terminal: Terminal, net: Net) -> float:
        """What a terminal takes from its net at most [A]: of a source, nothing; of a group, the total behind it."""
        unit = self._units.by_id.get(terminal.device)
        if unit is None or terminal.side == "out":
            return 0.0
        return behind_a(self._units, unit, net.conductor)

    # ----------------------------------------------------------------------------------------- conductors

    def _kind(self, terminal: Terminal) -> Kind:
        outside = terminal.kind
        return {"cable": "cable", "supply": "supply", "switch": "control"}.get(outside, "earth")  # type: ignore[return-value]

    def _to_bar(self, net: Net, terminal: Terminal) -> None:
        unit_id, _, role = terminal.device, terminal.conductor, terminal.side
        unit = self._units.by_id.get(unit_id)
        assert net.bar is not None
        screw = terminal.on_bar
        if unit is None:
            self._add(net, terminal, screw, self._kind(terminal))
        elif self._is_plugged(terminal) and not terminal.endswith("PE/tap") and self._places.enclosure.form == "rail":
            self._add(net, terminal, screw, "plug")
        elif unit.flying_lead and role == "in":
            self._add(net, terminal, screw, "own-lead")
        elif unit.kind == "surge":
            self._add(net, terminal, screw, "lead")
        elif unit.kind == "gear" and role == "tap" and unit.gear is not None and GEAR[unit.gear.kind].breaks_lines:
            self._add(net, terminal, screw, "control")
        else:
            # Into and out of an RCD flows the same; a main switch passes on whatever the device ahead does.
            through = role != "out" or unit.traits.passes_on
            self._add(net, terminal, screw, "link", behind_a(self._units, unit, net.conductor) if through else None)

    def neutral_earth(self, link: tuple[str, str]) -> None:
        """The link between the neutral and the earth bar."""
        net = next(net for net in self._scheme.nets if net.id == link[1])
        neutral, earth = (Terminal(f"link/{bar}").on_bar for bar in link)
        self._add(net, neutral, earth, "neutral-earth-link")

    def _add(
        self,
        net: Net,
        start: Terminal,
        end: Terminal,
        kind: Kind,
        behind: float | None = None,
        block: Block | None = None,
    ) -> None:
        sized = self._sizes.of(kind, net, start, end, self._links, behind)
        if sized.missing:
            self.lacks.append(sized.missing)
        corners = self._route(start, end, block)
        slack = 0.0 if kind in ("plug", "own-lead") else self._habits.extra_length_mm
        if self._of_surge(start) or self._of_surge(end):
            slack = min(slack, _SURGE_SLACK_MM)  # as straight and short as can be
        length = 0.0 if kind == "plug" else ceil((length_mm(corners) + slack) / 10) * 10.0
        finish = self._words.finish(kind, sized.area_mm2, self._habits.link_conductor)
        ferrule = has_ferrule(kind, sized.area_mm2, self._habits.link_conductor)
        self._made.append(
            Conductor(
                id=f"{start}>{end}",
                kind=kind,
                step=_step(kind, self._units.by_id.get(end.device), net),
                conductor=net.conductor,
                colour=self._words.colour(net.conductor, kind),
                area_mm2=sized.area_mm2,
                size=sized.label,
                reason=sized.reason,
                length_mm=length,
                start=self._end(start, sized.area_mm2, finish, ferrule),
                end=self._end(end, sized.area_mm2, finish, ferrule),
                corners=corners,
            )
        )

    def _of_surge(self, end: Terminal) -> bool:
        unit = self._units.by_id.get(end.device)
        return unit is not None and unit.traits.of_surge

    def _route(self, start: Terminal, end: Terminal, block: Block | None) -> tuple[PositionMm, ...]:
        if block is None:
            return route(self._places, start, end)
        if end.startswith(block.id):
            return way(self._places, self._places.point(start), block.at)
        return way(self._places, block.at, self._places.point(end))

    def _end(self, end: Terminal, area_mm2: float | None, finish: Text, ferrule: bool) -> End:
        strip = self._words.strip_mm(area_mm2)
        return End(
            terminal=end,
            text=self._words.end(end),
            finish=finish,
            strip_mm=strip,
            torque=self._words.torque(end, area_mm2),
            ferrule=ferrule,
        )


def _step(kind: Kind, unit: BoardDevice | None, net: Net) -> int:
    """Number of the step a conductor belongs to, from 1."""
    if kind in ("earth", "neutral-earth-link"):
        return 1
    if kind == "lead" or (unit is not None and unit.traits.of_surge):
        return 3
    if kind == "control" or (unit is not None and unit.traits.of_control):
        return 4
    if kind in ("cable", "own-lead") or (unit is not None and unit.kind == "way" and net.bar is not None):
        return 5
    if kind == "supply":
        return 1 if net.conductor == "PE" else 6
    return 2


def _below(edges: Sequence[tuple[_Node, _Node]]) -> dict[int, list[_Node]]:
    """Every node with those that are fed through it."""
    below: dict[int, list[_Node]] = {id(b): [b] for _, b in edges}
    for a, b in reversed(edges):
        if id(a) in below:
            below[id(a)] += below[id(b)]
    return below


def behind_a(units: BoardDevices, unit: BoardDevice, conductor: str) -> float:
    """The total of the ratings that a unit feeds on a line [A]; of a neutral, the most of any line."""
    if conductor == "N":
        return max((behind_a(units, unit, line) for line in units.lines), default=0.0)
    if unit.traits.from_busbar or (unit.circuit is not None and unit.rating_a is not None):
        return (unit.rating_a or 0.0) if conductor in unit.lines or not unit.lines else 0.0
    if unit.traits.passes_on:
        fed = [device for device in units.all if device.feed == unit.id and device is not unit]
        return sum(behind_a(units, device, conductor) for device in fed)
    return 0.0


def fed_a(units: BoardDevices, feed: str) -> float:
    """The total of ratings that a feed supplies, on its worst line [A]."""
    return max(
        (sum(behind_a(units, device, line) for device in _hanging(units, feed)) for line in units.lines), default=0.0
    )


def _hanging(units: BoardDevices, feed: str) -> Iterator[BoardDevice]:
    return (
        device
        for device in units.all
        if device.feed == feed and feed != AHEAD and not device.traits.in_main_path and device.kind != "surge"
    )
