"""A circuit on the plan: the order of its points, its sections with length and conductors, and what joins in each box."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean

import networkx as nx

from vivid_lattice.core.document.job import Cable, Circuit, Job
from vivid_lattice.core.document.plan import CircuitRoute, FeedAt, PlanPoint, RouteShape
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.conductors.joints import Joint, joints_of
from vivid_lattice.core.plan.conductors.simulation import Simulation, idle_conductors
from vivid_lattice.core.plan.conductors.terminals import Terminals
from vivid_lattice.core.plan.conductors.wiring import FEED, BoxWiring, Section
from vivid_lattice.core.plan.geometry.house import Spot
from vivid_lattice.core.plan.routes.joint_boxes import branches_with_joints
from vivid_lattice.core.plan.routes.order import (
    Order,
    length_of,
    shortest_branches,
    shortest_path,
    shortest_tour,
)
from vivid_lattice.core.plan.routes.ways import CircuitWays, HouseWays
from vivid_lattice.core.plan.switching_groups import Devices, Group, LinesOf, box_of, devices_of, groups_of
from vivid_lattice.core.rules.plan_rules import CoreUse, PlanRules, SectionCable
from vivid_lattice.core.rules.protocol import RuleSet

#: What is left at the cable ends of each kind of point.
_SLACK: Mapping[str, str] = {
    "light": "light", "fan": "light", "alarm": "alarm", "cooker": "appliance", "shower": "appliance", "heater": "appliance",
    "charger": "appliance", "junction-box": "junction-box",
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedSection:
    """A piece of cable between two boxes. ``route_m``: between them; ``piece_m``: with what is left at its ends.

    carries  what it has to carry;  cable: the smallest that does, None where none has so many cores;  cores: which core does what
    """

    a: str
    b: str
    route_m: float
    piece_m: float
    carries: tuple[str, ...]
    cable: SectionCable | None
    cores: CoreUse | None

    @property
    def spare(self) -> int:
        """Cores that are left over, the protective one apart."""
        if self.cable is None or not self.cable.cores:
            return 0
        return self.cable.cores - len([net for net in self.carries if net != "PE"])


@dataclass(frozen=True, slots=True, kw_only=True)
class CircuitPlan:
    """A circuit as it runs.

    order    its points along the way, and by what share another order could be shorter
    length_m of the way to its furthest point, or all round a ring: what voltage drop and loop go by
    cable_m  of all pieces
    joints   of each box;  terminals: the devices in each;  spots: where each is, the board as ``feed``;  ways: how far they are apart
    proved   every position of every switch does what it should, nothing is shorted, missing or idle
    """

    circuit: Circuit
    shape: RouteShape
    feed_at: FeedAt
    order: Order
    sections: tuple[PlannedSection, ...]
    length_m: float
    cable_m: float
    furthest: str
    joints: Mapping[str, tuple[Joint, ...]]
    terminals: Mapping[str, tuple[Terminals, ...]]
    spots: Mapping[str, Spot]
    ways: CircuitWays
    proved: bool

    @property
    def devices(self) -> Mapping[str, tuple[str, ...]]:
        """What is in each box, by name."""
        return {box: tuple(device.name for device in devices) for box, devices in self.terminals.items()}


def planned_circuit(job: Job, rules: RuleSet, circuit: Circuit, ways: HouseWays) -> CircuitPlan:
    """A circuit on the plan of a job, by the ways of its house.

    Raises  NeedsInput where it has no point on the plan, or its board has no place
    """
    points = tuple(point for point in job.plan.points if point.circuit == circuit.id)
    house = ways.house
    board = job.find_board_of(circuit.id)
    place = next((each for each in job.plan.boards if board is not None and each.board == board.id), None)
    if not points:
        raise _need("core.plan.need.points", circuit)
    if place is None:
        raise _need("core.plan.need.board", circuit)
    chosen = next((route for route in job.plan.routes if route.circuit == circuit.id), CircuitRoute(circuit=circuit.id))
    spots = {FEED: house.spot_of_board(place), **{point.id: house.spot_of(point) for point in points}}
    return _Builder(circuit, points, spots, chosen, ways, rules.plan, job).plan()


def _need(key: str, circuit: Circuit) -> NeedsInput:
    return NeedsInput(
        Need(message(None, f"{key}.what", circuit=circuit.name), "plan.points", message(None, f"{key}.ask"))
    )


class _Builder:
    def __init__(
        self, circuit: Circuit, points: Sequence[PlanPoint], spots: dict[str, Spot], chosen: CircuitRoute,
        ways: HouseWays, rules: PlanRules, job: Job,
    ):  # fmt: skip
        self._circuit, self._points, self._spots, self._chosen = circuit, points, spots, chosen
        self._ways, self._rules = CircuitWays(ways, chosen, spots), rules
        self._groups = groups_of(points, job.plan.switching)
        self._box = box_of(points)
        self._kinds = {point.id: str(point.kind) for point in points}
        self.shape: RouteShape = chosen.shape or ("ring" if circuit.kind == "ring" else "radial")
        self.feed_at: FeedAt = chosen.feed_at or "light"

    def plan(self) -> CircuitPlan:
        """The circuit with all its parts."""
        stops, drops = self._stops()
        order, pairs = self._ordered(stops)
        on_ring = self.shape == "ring"
        sections = (*(Section(a, b, on_ring=on_ring) for a, b in pairs), *(Section(a, b) for a, b in drops))
        several = LinesOf(self._circuit) if len(self._circuit.lines) > 1 else None
        built = devices_of(self._points, self._groups, several)
        others = {name for name in self._spots if name != FEED and name not in self._box}
        boxes = {**built.boxes, **dict.fromkeys(sorted(others), ())}
        wiring = BoxWiring(boxes, sections, feed=self._feed())
        planned = tuple(self._section(section, wiring.conductors(section)) for section in sections)
        furthest, length_m = self._furthest(planned)
        return CircuitPlan(
            circuit=self._circuit,
            shape=self.shape,
            feed_at=self.feed_at,
            order=order,
            sections=planned,
            length_m=length_m,
            cable_m=_up_to_cm(sum(each.piece_m for each in planned)),
            furthest=furthest,
            joints={box: joints_of(wiring, box) for box in boxes},
            spots=self._spots,
            ways=self._ways,
            terminals=boxes,
            proved=_is_proved(wiring, built),
        )

    def _feed(self) -> tuple[str, ...]:
        """What the supply brings."""
        lines = self._circuit.lines if len(self._circuit.lines) > 1 else ("L",)
        return (*lines, *(("N",) if self._circuit.neutral else ()), "PE")

    # ------------------------------------------------------------------------------------------ what is joined to what

    def _stops(self) -> tuple[list[str], list[tuple[str, str]]]:
        """The boxes that the permanent line goes through, and the sections from them to the rest of each group. Groups that share a box have
        one root: there is one way to each box."""
        grouped = {self._box[point.id] for group in self._groups for point in group.points}
        stops = [point.id for point in self._points if self._box[point.id] == point.id and point.id not in grouped]
        drops: list[tuple[str, str]] = []
        for number, cluster in enumerate(self._clusters(), 1):
            root = self._root(cluster[0], number)
            stops.append(root)
            joined = {root}
            for group in cluster:
                drops += self._of_group(group, root, joined)
        return stops, drops

    def _clusters(self) -> list[list[Group]]:
        """Groups together that share a box."""
        graph: nx.Graph[object] = nx.Graph()
        for number, group in enumerate(self._groups):
            graph.add_edges_from((number, self._box[point.id]) for point in group.points)
        parts = nx.connected_components(graph)
        return [[self._groups[each] for each in sorted(n for n in part if isinstance(n, int))] for part in parts]

    def _root(self, group: Group, number: int) -> str:
        """Where the line of a group arrives."""
        first = self._box[group.switches[0].id]
        if self.feed_at == "switch":
            return first
        if self.feed_at == "light":
            return min(
                (self._box[light.id] for light in group.lights), key=lambda light: self._ways.between(light, first)
            )
        name = f"box-{number}"
        spots = [self._spots[light.id] for light in group.lights]
        level = spots[0].level
        own = [spot for spot in spots if spot.level == level]
        self._spots[name] = Spot(
            level, round(fmean(spot.x_m for spot in own), 2), round(fmean(spot.y_m for spot in own), 2), own[0].z_m
        )
        self._kinds[name] = "junction-box"
        return name

    def _of_group(self, group: Group, root: str, joined: set[str]) -> Iterator[tuple[str, str]]:
        """Sections of a group: its lights one after another, as their terminals take a cable in and one out; its switches too. What another
        group of the same root has joined is passed over."""
        lights = [self._box[light.id] for light in group.lights if self._box[light.id] not in joined]
        chain = shortest_path(root, lights, self._ways.table([root, *lights])).points
        yield from itertools.pairwise((root, *chain))
        joined.update(chain)
        switches = [self._box[switch.id] for switch in group.switches]
        start = next((number for number, switch in enumerate(switches) if switch in joined), None)
        if start is None:
            yield from self._chain((root, *switches), joined)
        else:
            # A switch whose box another group has joined: the others follow from it, before and behind.
            yield from self._chain(switches[start:], joined)
            yield from self._chain(switches[start::-1], joined)

    def _chain(self, boxes: Sequence[str], joined: set[str]) -> Iterator[tuple[str, str]]:
        for before, box in itertools.pairwise(boxes):
            if box not in joined:
                joined.add(box)
                yield before, box

    def _ordered(self, stops: list[str]) -> tuple[Order, list[tuple[str, str]]]:
        """The stops in their order, and the sections between them: pinned ones first, the rest by the shortest."""
        pinned = [name for name in self._chosen.order if name in stops]
        table = self._ways.table([FEED, *stops])
        if self.shape == "branch":
            pairs = list(shortest_branches(FEED, stops, table))
            return Order(tuple(b for _, b in pairs), sum(table[a][b] for a, b in pairs)), pairs
        if self.shape == "joints":
            return self._with_joints(stops)
        closed = self.shape == "ring"
        if set(pinned) == set(stops):
            order = Order(tuple(pinned), length_of(FEED, pinned, table, closed=closed))
        elif pinned:
            # What was pinned stays first; the rest follows from its end.
            rest = shortest_path(pinned[-1], [name for name in stops if name not in pinned], table)
            names = (*pinned, *rest.points)
            order = Order(names, length_of(FEED, names, table, closed=closed), rest.gap)
        else:
            order = (shortest_tour if closed else shortest_path)(FEED, stops, table)
        way = [FEED, *order.points, *([FEED] if closed else [])]
        return order, list(itertools.pairwise(way))

    def _with_joints(self, stops: list[str]) -> tuple[Order, list[tuple[str, str]]]:
        """Branches that meet in joint boxes, which become boxes of the circuit."""
        by = self._ways.by_default
        spots = {name: self._spots[name] for name in (FEED, *stops)}
        found = branches_with_joints(FEED, spots, by.between, by.above_floor_m)
        self._spots |= found.joints
        self._kinds |= dict.fromkeys(found.joints, "junction-box")
        return Order(tuple(b for _, b in found.pairs), found.length_m, found.gap), list(found.pairs)

    # ------------------------------------------------------------------------------------------ lengths

    def _slack(self, name: str) -> float:
        return self._rules.slack_m("board" if name == FEED else _SLACK.get(self._kinds[name], "box"))

    def _section(self, section: Section, carries: tuple[str, ...]) -> PlannedSection:
        route = self._ways.between(section.a, section.b)
        cable = self._circuit.cable
        wires = isinstance(cable, Cable) and cable.type in self._rules.wire_kinds
        fitting = [
            each for each in self._rules.cables if each.conductors >= len(carries) and (not wires or not each.cores)
        ]
        if wires and not fitting:
            # The table is of sheathed cables: wires are drawn in as many as are wanted, each in the colour of what it does.
            fitting = [SectionCable(len(carries), 0, str(message(None, "core.plan.wires")))]
        sheathed = bool(fitting) and fitting[0].cores > 0
        use = self._rules.core_use(" ".join(net.rstrip("0123456789") for net in carries))
        return PlannedSection(
            a=section.a,
            b=section.b,
            route_m=round(route, 3),
            piece_m=round(route + self._slack(section.a) + self._slack(section.b), 3),
            carries=carries,
            cable=fitting[0] if fitting else None,
            cores=use if sheathed or not wires or not self._rules.cables[0].cores else None,
        )

    def _furthest(self, sections: Sequence[PlannedSection]) -> tuple[str, float]:
        """The furthest point by cable, and how far; of a ring the whole loop."""
        if self.shape == "ring":
            loop = [each for each in sections if FEED in (each.a, each.b)]
            ring = sum(each.piece_m for each in sections)
            return (loop[-1].a if loop else FEED), _up_to_cm(ring)
        graph: nx.Graph[str] = nx.Graph()
        graph.add_weighted_edges_from((each.a, each.b, each.piece_m) for each in sections)
        far = nx.single_source_dijkstra_path_length(graph, FEED)
        name = max(far, key=lambda each: far[each])
        return str(name), _up_to_cm(float(far[name]))


def _up_to_cm(length_m: float) -> float:
    """A length as it goes into the run of a circuit [m]: rounded up, so that no check is flattered."""
    return math.ceil(round(length_m * 100, 6)) / 100


def _is_proved(wiring: BoxWiring, built: Devices) -> bool:
    """Whether each light changes with each of its switches and with no other, nothing is shorted, and no conductor is missing or idle.
    While a sensor of its group is on, a light is on."""
    simulation = Simulation(wiring)
    if not simulation.earthed or idle_conductors(wiring, built.switches):
        return False
    every_light = frozenset().union(*built.lights)
    for own, sensors, lights in zip(built.switches, built.sensors, built.lights, strict=True):
        states = {state.positions: state for state in simulation.states_of(own)}
        numbers = {place: number for number, place in enumerate(simulation.switches) if place in own}
        for positions, state in states.items():
            held = any(positions[numbers[each]] for each in sensors)
            if state.short or (held and not lights <= state.on):
                return False
            for place, number in numbers.items():
                worked = states[tuple(1 - each if at == number else each for at, each in enumerate(positions))]
                changed = (state.on ^ worked.on) & every_light
                if changed - lights or not (held or place in sensors or lights <= changed):
                    return False
    return True
