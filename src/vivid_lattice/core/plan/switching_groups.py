"""The switches and lights of a plan as devices with their conductors: one-way, two-way and intermediate, in either form."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.plan import LightSwitching, PlanPoint, PointKind
from vivid_lattice.core.plan.conductors import terminals as t
from vivid_lattice.core.plan.conductors.terminals import Terminals

_NAMES: Mapping[PointKind, str] = {
    "socket": "socket", "light": "light", "switch": "switch", "pull-cord": "pull-cord", "dimmer": "dimmer", "sensor": "sensor",
    "fan": "fan", "cooker": "cooker outlet", "shower": "shower outlet", "connection-unit": "connection unit", "alarm": "alarm",
    "data": "data", "shaver": "shaver unit", "heater": "heater outlet", "junction-box": "junction box", "charger": "charger outlet",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Group:
    """Lights and the switches that control them together, on one circuit. ``switched``: the name of their switched line."""

    lights: tuple[PlanPoint, ...]
    switches: tuple[PlanPoint, ...]
    form: str
    switched: str

    @property
    def points(self) -> tuple[PlanPoint, ...]:
        """All of them."""
        return (*self.lights, *self.switches)


def groups_of(points: Sequence[PlanPoint], switching: Sequence[LightSwitching]) -> tuple[Group, ...]:
    """The groups that some points of a circuit make. A group whose lights are on another circuit is not among them."""
    by_id = {point.id: point for point in points}
    found = [
        (
            tuple(by_id[each] for each in group.lights if each in by_id),
            tuple(by_id[each] for each in group.switches if each in by_id),
            group.form,
        )
        for group in switching
    ]
    whole = [(lights, switches, form) for lights, switches, form in found if lights and switches]
    return tuple(
        Group(lights, switches, form, "SL" if len(whole) == 1 else f"SL{number}")
        for number, (lights, switches, form) in enumerate(whole, 1)
    )


@dataclass(frozen=True, slots=True)
class LinesOf:
    """The lines of a circuit of several, and those of its points: of the load in the room of a point, where that states its own."""

    circuit: Circuit

    @property
    def neutral(self) -> bool:
        """Whether the circuit has a neutral."""
        return self.circuit.neutral

    def of(self, point: PlanPoint) -> tuple[str, ...]:
        """The lines of a point."""
        own = next((load.lines for load in self.circuit.loads if load.room == point.room and load.lines), ())
        return tuple(own) or tuple(self.circuit.lines)


@dataclass(frozen=True, slots=True)
class Devices:
    """What is in every box, by the point whose plate it is; and for each group its switches, the sensors among them, and its lights, as box
    and place there."""

    boxes: Mapping[str, tuple[Terminals, ...]]
    switches: tuple[frozenset[tuple[str, int]], ...]
    sensors: tuple[frozenset[tuple[str, int]], ...]
    lights: tuple[frozenset[tuple[str, int]], ...]


def box_of(points: Sequence[PlanPoint]) -> dict[str, str]:
    """The box of each point: its own, or that of the point whose plate it shares, where that is among them."""
    ids = {point.id for point in points}
    return {point.id: point.plate if point.plate in ids and point.plate is not None else point.id for point in points}


def devices_of(points: Sequence[PlanPoint], groups: Sequence[Group], lines: LinesOf | None = None) -> Devices:
    """Every box with its devices: lights and switches of groups, and what is on the permanent line.

    lines  of a circuit of several lines: those of each point
    """
    box = box_of(points)
    found: dict[str, list[Terminals]] = {point.id: [] for point in points if box[point.id] == point.id}
    placed: set[str] = set()
    strappers = t.Strappers()

    def add(point: PlanPoint, device: Terminals, line: str = "") -> tuple[str, int]:
        placed.add(point.id)
        device = t.on_line(device, line) if line else device
        found[box[point.id]].append(device)
        return box[point.id], len(found[box[point.id]]) - 1

    lights, switches, sensors = [], [], []
    for number, group in enumerate(groups, 1):
        line = lines.of(group.lights[0])[0] if lines is not None else ""
        lit = [(light, t.light(group.switched, name=_NAMES[light.kind])) for light in group.lights]
        lights.append(frozenset(add(light, device, line) for light, device in lit))
        made = _switches(group, number, len(groups), strappers)
        added = [(switch, add(switch, device, line)) for switch, device in zip(group.switches, made, strict=True)]
        switches.append(frozenset(place for _, place in added))
        sensors.append(frozenset(place for switch, place in added if switch.kind == "sensor"))
    for point in points:
        if point.id not in placed and point.kind not in ("switch", "pull-cord", "dimmer", "junction-box"):
            add(point, _permanent(point, lines))
    return Devices(
        {name: tuple(devices) for name, devices in found.items()}, tuple(switches), tuple(sensors), tuple(lights)
    )


def _permanent(point: PlanPoint, lines: LinesOf | None) -> Terminals:
    device = t.alarm() if point.kind == "alarm" else t.outlet(name=_NAMES[point.kind])
    if lines is None:
        return device
    own = lines.of(point)
    if len(own) == 1 or point.kind == "alarm":
        return t.on_line(device, own[0])
    return t.outlet_on_lines(own, neutral=lines.neutral, name=_NAMES[point.kind])


def _one_way(group: Group, name: str) -> Terminals:
    [made] = t.one_way((group.switched,), name=f"one-way {name}" if name == "switch" else name)
    return made


def _switches(group: Group, number: int, of: int, strappers: t.Strappers) -> list[Terminals]:
    """The switches of a group in their order: one, or a two-way at either end with intermediate ones between; sensors in parallel."""
    names = [_NAMES[switch.kind] for switch in group.switches if switch.kind != "sensor"]
    made = iter(_in_series(group, names, number, of, strappers))
    return [t.sensor(group.switched) if switch.kind == "sensor" else next(made) for switch in group.switches]


def _in_series(group: Group, names: Sequence[str], number: int, of: int, strappers: t.Strappers) -> list[Terminals]:
    if len(names) < 2:
        return [_one_way(group, name) for name in names]
    if group.form == "three-wire":
        link = "X" if of == 1 else f"X{number}"
        made, pair = [t.two_way_three_wire(group.switched, link)], ("L", group.switched)
        for _ in names[1:-1]:
            following = strappers.pair()
            made.append(t.intermediate(pair, following))
            pair = following
        return [*made, t.two_way_three_wire(group.switched, link, pair=pair)]
    pair = strappers.pair()
    made = [t.two_way_at_supply(pair)]
    for _ in names[1:-1]:
        following = strappers.pair()
        made.append(t.intermediate(pair, following))
        pair = following
    return [*made, t.two_way_at_light(group.switched, pair)]
