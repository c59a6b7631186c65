"""The switches and lights of a plan as devices with their conductors: one-way, two-way and intermediate, in either form."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

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


def devices_of(points: Sequence[PlanPoint], groups: Sequence[Group]) -> dict[str, tuple[Terminals, ...]]:
    """Every point with its devices: lights and switches of groups, and what is on the permanent line."""
    found: dict[str, list[Terminals]] = {point.id: [] for point in points}
    strappers = t.Strappers()
    for number, group in enumerate(groups, 1):
        for light in group.lights:
            found[light.id].append(t.light(group.switched, name=_NAMES[light.kind]))
        for switch, device in zip(group.switches, _switches(group, number, len(groups), strappers), strict=True):
            found[switch.id].append(device)
    for point in points:
        if not found[point.id] and point.kind not in ("switch", "pull-cord", "dimmer", "junction-box"):
            found[point.id].append(_permanent(point))
    return {name: tuple(devices) for name, devices in found.items()}


def _permanent(point: PlanPoint) -> Terminals:
    if point.kind == "alarm":
        return t.alarm()
    return t.outlet(name=_NAMES[point.kind])


def _switches(group: Group, number: int, of: int, strappers: t.Strappers) -> list[Terminals]:
    """The switches of a group in their order: one, or a two-way at either end with intermediate ones between."""
    names = [_NAMES[switch.kind] for switch in group.switches]
    if len(names) == 1:
        [switch] = group.switches
        if switch.kind == "sensor":
            return [t.sensor(group.switched)]
        return [*t.one_way((group.switched,), name=f"one-way {names[0]}" if names[0] == "switch" else names[0])]
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
