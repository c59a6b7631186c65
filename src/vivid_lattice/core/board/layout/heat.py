"""Heat in a board: what each device loses, how warm the air inside gets, and what a breaker carries in it."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.board.layout.board_devices import BoardDevice, BoardDevices
from vivid_lattice.core.board.layout.rail_positions import PlacedDevice, RailPositions, size_mm
from vivid_lattice.core.document.board_build import Enclosure
from vivid_lattice.core.document.device_family import DeviceFamily, packaged
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.messages import Text
from vivid_lattice.core.rules.board_rules import BoardRules
from vivid_lattice.core.rules.sourced_value import SourcedValue

#: Loads that run for hours on end, whatever the document says of them: common practice, no source.
_LONG = frozenset({"heater", "water-heater", "kiln", "charger"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Loss:
    """What a device loses: of a pole at its rating [W], poles that carry current, share of the rating, and in all [W]."""

    unit: str
    name: Text
    pole_w: float
    poles: int
    share: float
    watt: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Heat:
    """Heat of a board. ``surface_m2``: what it is given off through; ``inside_c``: the air among the devices."""

    losses: tuple[Loss, ...]
    total_w: float
    loading: SourcedValue
    surface_m2: float
    k_w: SourcedValue
    room_c: float
    inside_c: float


def effective_surface_m2(width_mm: float, height_mm: float, depth_mm: float, rules: BoardRules) -> float:
    """Surface that an enclosure on a wall gives off heat through.

    Equation  A = 1.4·W·(H+D) + 1.8·D·H  [m²]
    Source    IEC 60890, single enclosure for wall mounting (from memory)
    """
    rule = "common.board.heat-surface"
    back, sides = rules.figure(rule, "back_wall").value, rules.figure(rule, "sides").value
    return (back * width_mm * (height_mm + depth_mm) + sides * depth_mm * height_mm) / 1e6


def heat_of(
    units: BoardDevices, enclosure: Enclosure, rules: BoardRules, room_c: float | None, ahead_a: float | None
) -> Heat:
    """Losses of all devices at the assumed simultaneous loading, and the temperature that follows.

    Equation  P = Σ poles · loss · share²;  T = Troom + P / (k · A)
    Source    IEC 61439-3, Table 101 for the loading; IEC 60890 for the surface; k practice
    """
    outgoing = [unit for unit in units.all if unit.kind == "way"]
    loading = rules.loading(len(outgoing), household=True)
    losses = [
        device_loss
        for unit in units.all
        if (device_loss := _loss(unit, units, rules, loading.value, ahead_a)) is not None
    ]
    total = sum(loss.watt for loss in losses)
    surface = effective_surface_m2(*size_mm(enclosure), rules)
    k = rules.figure("common.board.heat-surface", f"k_{enclosure.material}")
    room = rules.figure("common.board.inside", "room_c").value if room_c is None else room_c
    return Heat(
        losses=tuple(losses),
        total_w=total,
        loading=loading,
        surface_m2=surface,
        k_w=k,
        room_c=room,
        inside_c=room + total / (k.value * surface),
    )


def _loss(
    unit: BoardDevice, units: BoardDevices, rules: BoardRules, loading: float, ahead_a: float | None
) -> Loss | None:
    if unit.rating_a is None or not unit.poles or not unit.traits.loses_heat:
        return None
    # A neutral in balance carries nothing; that of a circuit's device has no release, and is counted with its line.
    poles = len(unit.lines) if len(unit.lines) > 1 or unit.kind == "way" else len(unit.poles)
    share = loading
    if unit.traits.usual_families and unit.circuit is None:
        behind = max((_sum_a(units, unit, line) for line in unit.lines), default=0.0) * loading
        if ahead_a is not None:
            behind = min(behind, ahead_a)
        share = min(1.0, behind / unit.rating_a)
    watt_pole = _pole_w(unit, rules)
    return Loss(
        unit=unit.id, name=unit.name, pole_w=watt_pole, poles=poles, share=share, watt=poles * watt_pole * share**2
    )


def _sum_a(units: BoardDevices, unit: BoardDevice, line: str) -> float:
    """Ratings of the ways behind a unit on a line [A]; behind the main switch, of all."""
    ways = [device for device in _ways_behind(units, unit) if line in device.lines]
    return sum(way.rating_a or 0.0 for way in ways)


def _ways_behind(units: BoardDevices, unit: BoardDevice) -> list[BoardDevice]:
    """Ways fed through a unit, or through a device that it feeds."""
    ways = [device for device in units.all if device.kind == "way"]
    if unit.kind == "main":
        return ways
    behind = {unit.id} | {device.id for device in units.all if device.feed == unit.id}
    return [way for way in ways if way.feed in behind]


def _pole_w(unit: BoardDevice, rules: BoardRules) -> float:
    """Loss of a pole at the rating [W]: of its family, else usual of its kind, else the greatest its standard allows."""
    assert unit.rating_a is not None
    usual = (family for family in packaged() if family.id in unit.traits.usual_families)
    for family in (unit.family, *usual):
        loss_w = _at_rating(family, unit.rating_a) if family is not None and family.loss_w else None
        if loss_w is not None:
            return loss_w
    return rules.max_loss_w(unit.rating_a).value


def _at_rating(family: DeviceFamily, rating_a: float) -> float | None:
    """A family's loss at the rating, or at its next larger one [W]."""
    return next(
        (loss for rating, loss in zip(family.ratings_a, family.loss_w, strict=True) if rating >= rating_a), None
    )


def runs_long(circuit: Circuit) -> bool:
    """Whether a circuit's load runs for hours on end, so that its device gets warm through."""
    return any(load.continuous or load.kind in _LONG for load in circuit.loads)


def _warms(neighbour: PlacedDevice, device: PlacedDevice) -> bool:
    """Whether a device's neighbour in the row is against it, with less than half a module between, and runs for long."""
    left, right = sorted((neighbour, device), key=lambda placed: placed.offset_modules)
    circuit = neighbour.unit.circuit
    return right.offset_modules - left.end < 0.5 and circuit is not None and runs_long(circuit)


def warm_neighbours(places: RailPositions, unit: BoardDevice) -> int:
    """How many devices stand side by side with one, itself among them, that all run for long; 1 where it is alone."""
    placed = places.placed[unit.id]
    row = [placed_device for placed_device in places.row(placed.row) if placed_device.unit.kind == "way"]
    at = next(number for number, placed_device in enumerate(row) if placed_device.unit is unit)
    count = 1
    for step in (-1, 1):
        here = at
        while 0 <= here + step < len(row):
            if not _warms(row[here + step], row[here]):
                break
            count, here = count + 1, here + step
    return count
