"""Where everything is, in millimetres: units on their rails, their terminals, and the bars.

Measured from the enclosure's upper left corner, to the right and downwards.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.layout.board_devices import BoardDevice, BoardDevices
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.netlist import Bar, Netlist
from vivid_lattice.core.document.board_build import BoardBuild, DevicePosition, Enclosure, TopOrBottom

#: Width of a module of a rail, and pitch of the spaces of a panel that breakers are plugged on [mm].
MODULE_MM, SPACE_MM = 18.0, 25.4
#: A device is so high on its rail, and its terminals lie so far from its middle [mm].
DEVICE_MM, CLAMP_MM = 85.0, 36.0
#: A breaker that is plugged on reaches so far from the middle of its panel [mm].
STAB_MM = 76.0
#: Between two terminals of a bar, and from the enclosure's edge to a bar [mm].
SCREW_MM, EDGE_MM = 7.0, 20.0
_SIDE_MM, _ROW_MM, _HEAD_MM = 40.0, 150.0, 170.0


@dataclass(frozen=True, slots=True)
class PositionMm:
    """A place in the enclosure [mm]."""

    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Rectangle:
    """A rectangle: upper left corner, width and height [mm]."""

    x: float
    y: float
    w: float
    h: float


@dataclass(frozen=True, slots=True)
class PlacedDevice:
    """A unit in its place. ``row`` 0: it has a place of its own, ahead of the rows. ``offset_modules`` in modules from the row's start."""

    unit: BoardDevice
    row: int
    offset_modules: float
    box: Rectangle

    @property
    def end(self) -> float:
        """Modules from the row's start to its far edge."""
        return self.offset_modules + self.unit.wide


@dataclass(frozen=True, slots=True)
class BarPlace:
    """A numbered terminal of a bar, and the terminal whose conductor goes there."""

    bar: str
    number: int
    terminal: Terminal


def size_mm(enclosure: Enclosure) -> tuple[float, float, float]:
    """Width, height and depth of an enclosure; what is not stated follows from its rows."""
    if enclosure.form == "panelboard":
        width, height = 370.0, _HEAD_MM + enclosure.modules * SPACE_MM + 80.0
    else:
        width, height = enclosure.modules * MODULE_MM + 2 * _SIDE_MM, enclosure.rows * _ROW_MM + 90.0
    return enclosure.width_mm or width, enclosure.height_mm or height, enclosure.depth_mm or 110.0


class RailPositions:
    """Units, terminals and bars of a board in its enclosure, by the spots of its document.

    A spot of a unit that there is no more is passed over; a unit without a spot is in ``loose``.
    """

    def __init__(
        self, units: BoardDevices, scheme: Netlist, housing: BoardBuild, enclosure: Enclosure, feed: TopOrBottom
    ):
        self.units, self.scheme, self.enclosure, self.feed = units, scheme, enclosure, feed
        self.width_mm, self.height_mm, self.depth_mm = size_mm(enclosure)
        spots = {spot.device: spot for spot in housing.device_positions}
        self.placed: Mapping[str, PlacedDevice] = {
            unit.id: self._placed(unit, spots.get(unit.id)) for unit in units.all if unit.id in spots or unit.wide == 0
        }
        self.loose: tuple[BoardDevice, ...] = tuple(unit for unit in units.all if unit.id not in self.placed)
        self.bars: Mapping[str, Rectangle] = dict(self._bars())
        self.bar_places: Mapping[str, tuple[BarPlace, ...]] = {bar.id: self._numbered(bar) for bar in scheme.bars}
        self._screws = {place.terminal: place for bar_places in self.bar_places.values() for place in bar_places}

    def _placed(self, unit: BoardDevice, spot: DevicePosition | None) -> PlacedDevice:
        if spot is None:  # the main breaker of a panel, at its head
            return PlacedDevice(unit, 0, 0.0, Rectangle(self.width_mm / 2 - 50, 50.0, 100.0, 90.0))
        if self.enclosure.form == "panelboard":
            left = spot.row == 1
            x = self.width_mm / 2 - (STAB_MM + 4 if left else -4)
            return PlacedDevice(
                unit,
                spot.row,
                spot.offset_modules,
                Rectangle(x, _HEAD_MM + spot.offset_modules * SPACE_MM, STAB_MM, unit.wide * SPACE_MM),
            )
        x = self.rail_x + spot.offset_modules * MODULE_MM
        return PlacedDevice(
            unit,
            spot.row,
            spot.offset_modules,
            Rectangle(x, self.rail_y(spot.row) - DEVICE_MM / 2, unit.wide * MODULE_MM, DEVICE_MM),
        )

    @property
    def from_left(self) -> bool:
        """Whether the main switch is in the left half of its row."""
        main = self.placed.get("main")
        return main is None or main.offset_modules + main.end <= self.enclosure.modules

    @property
    def rail_x(self) -> float:
        """Where a rail's first module begins [mm]."""
        return (self.width_mm - self.enclosure.modules * MODULE_MM) / 2

    def rail_y(self, row: int) -> float:
        """Middle of a rail [mm]."""
        return self.height_mm * (row - 0.5) / self.enclosure.rows

    def row(self, number: int) -> list[PlacedDevice]:
        """The units of a row, from its start."""
        return sorted(
            (placed_device for placed_device in self.placed.values() if placed_device.row == number),
            key=lambda placed_device: (placed_device.offset_modules, placed_device.unit.id),
        )

    def in_order(self) -> list[PlacedDevice]:
        """All units in place, row by row."""
        return sorted(self.placed.values(), key=lambda item: (item.row, item.offset_modules, item.unit.id))

    def from_main(self) -> list[PlacedDevice]:
        """The same, each row from the side of the main switch."""
        if self.from_left:
            return self.in_order()
        return sorted(self.placed.values(), key=lambda item: (item.row, -item.offset_modules, item.unit.id))

    # ------------------------------------------------------------------------------------------ terminals

    def pole_at(self, placed: PlacedDevice, conductor: str) -> float:
        """Middle of a terminal from the row's start [modules]."""
        unit = placed.unit
        names = [*unit.poles, *(tap for tap in unit.taps if tap not in unit.poles)] or [conductor]
        if unit.flying_lead and conductor == "N":
            return placed.offset_modules + unit.wide / 2
        poles = unit.lines if unit.flying_lead else names
        number = poles.index(conductor) if conductor in poles else len(poles) - 1
        # Terminals that do not find room side by side stand in two storeys.
        step = min(1.0, unit.wide / max(1, len(poles)))
        return placed.offset_modules + (number + 0.5) * step

    def side(self, unit: BoardDevice, role: str, conductor: str) -> TopOrBottom:
        """On which side of a unit a terminal lies: what leads on is towards the busbars, outgoing ways away from them."""
        comb: TopOrBottom = "bottom" if self.feed == "top" else "top"
        other: TopOrBottom = self.feed
        if unit.traits.from_busbar:
            return comb if role == "in" else other
        if unit.kind == "surge":
            return comb if conductor == "PE" else other
        if unit.kind == "gear" and unit.circuit is not None:
            return comb if role == "in" else other
        return comb if role == "out" else other

    def point(self, terminal: Terminal) -> PositionMm:
        """Where a conductor ends: at a unit's terminal, at a terminal of a bar, at the entry of a cable. KeyError of a loose unit's."""
        unit_id, conductor, role = terminal.device, terminal.conductor, terminal.side
        placed = self.placed.get(unit_id)
        if placed is None:
            if unit_id in self.units.by_id:
                raise KeyError(terminal)
            return self._entry(unit_id, conductor)
        box = placed.box
        if placed.row == 0:
            return PositionMm(box.x + box.w / 2, box.y if role == "in" else box.y + box.h)
        if self.enclosure.form == "panelboard":
            return _stab_point(placed, conductor, role)
        x = self.rail_x + self.pole_at(placed, conductor) * MODULE_MM
        middle = box.y + box.h / 2
        up = self.side(placed.unit, role, conductor) == "top"
        return PositionMm(x, middle - CLAMP_MM if up else middle + CLAMP_MM)

    def _entry(self, name: str, conductor: str) -> PositionMm:
        """Where what comes from outside enters: the supply on the feed's side, cables through the first entry there is."""
        if name == "case":
            return PositionMm(self.width_mm - 15, self.height_mm - 15)
        if name.startswith("supply"):
            return PositionMm(self.width_mm * 0.15, 0.0 if self.feed == "top" else self.height_mm)
        entries = self.enclosure.cable_entries
        away: TopOrBottom = self.feed
        if away in entries or "back" in entries:
            return PositionMm(self.width_mm * 0.5, 0.0 if away == "top" else self.height_mm)
        if "left" in entries:
            return PositionMm(0.0, self.height_mm / 2)
        return (
            PositionMm(self.width_mm, self.height_mm / 2)
            if "right" in entries
            else PositionMm(self.width_mm / 2, self.height_mm)
        )

    # ----------------------------------------------------------------------------------------------- bars

    def _bars(self) -> Iterator[tuple[str, Rectangle]]:
        neutral = [bar for bar in self.scheme.bars if bar.conductor == "N"]
        earth = [bar for bar in self.scheme.bars if bar.conductor != "N"]
        if self.enclosure.form == "panelboard":
            yield from self._stacked(neutral, 28.0)
            yield from self._stacked(earth, self.width_mm - 28.0)
            return
        where = self.enclosure.bar_position
        half = (self.width_mm - 2 * EDGE_MM) / 2
        if where == "split":
            yield from self._along(neutral, EDGE_MM, self.width_mm - 2 * EDGE_MM, EDGE_MM)
            yield from self._along(earth, EDGE_MM, self.width_mm - 2 * EDGE_MM, self.height_mm - EDGE_MM)
            return
        y = EDGE_MM if where == "top" else self.height_mm - EDGE_MM
        # The earth bar on the side of the main switch, where surge protection is: its leads are to be short.
        near, far = (EDGE_MM, EDGE_MM + half + 6) if self.from_left else (EDGE_MM + half + 6, EDGE_MM)
        yield from self._along(neutral, far, half - 6, y)
        yield from self._along(earth, near, half - 6, y)

    def _screws_on(self, bar: Bar) -> int:
        return next(len(net.terminals) for net in self.scheme.nets if net.bar == bar.id) + self._link_on(bar)

    def _link_on(self, bar: Bar) -> int:
        return 1 if self.scheme.link and bar.id in self.scheme.link else 0

    def _along(self, bars: list[Bar], x: float, length: float, y: float) -> Iterator[tuple[str, Rectangle]]:
        """Bars side by side, towards the main switch; where the terminals do not find room at their pitch they stand closer in
        the drawing."""
        counts = [max(3, self._screws_on(bar)) for bar in bars]
        gaps = 10.0 * (len(bars) - 1)
        pitch = min(SCREW_MM, (length - gaps) / max(1, sum(counts)))
        if not self.from_left:
            x += length - sum(counts) * pitch - gaps
        for bar, count in zip(bars, counts, strict=True):
            yield bar.id, Rectangle(x, y - 4, count * pitch, 8.0)
            x += count * pitch + 10.0

    def _stacked(self, bars: list[Bar], x: float) -> Iterator[tuple[str, Rectangle]]:
        y, length = _HEAD_MM, self.height_mm - _HEAD_MM - 40
        counts = [max(3, self._screws_on(bar)) for bar in bars]
        pitch = min(SCREW_MM, (length - 10.0 * (len(bars) - 1)) / max(1, sum(counts)))
        for bar, count in zip(bars, counts, strict=True):
            yield bar.id, Rectangle(x - 4, y, 8.0, count * pitch)
            y += count * pitch + 10.0

    def _numbered(self, bar: Bar) -> tuple[BarPlace, ...]:
        """The conductors of a bar in the order of its terminals: main conductors first, then as the breakers stand."""
        net = next(net for net in self.scheme.nets if net.bar == bar.id)
        order = {placed.unit.id: number for number, placed in enumerate(self.from_main())}
        ways = {
            f"cable:{placed.unit.circuit.id}": order[placed.unit.id]
            for placed in self.placed.values()
            if placed.unit.kind == "way" and placed.unit.circuit is not None
        }

        def rank(terminal: Terminal) -> tuple[int, int]:
            if terminal.kind in ("supply", "main", "case", "bond") or (
                terminal.device == bar.group and terminal.side == "out"
            ):
                return 0, 0
            if terminal.kind == "surge":
                return 0, 1  # its leads are to be short
            return 1, ways.get(terminal.cable, order.get(terminal.device, len(order)))

        texts = sorted(net.terminals, key=rank)
        if self._link_on(bar):
            heads = sum(rank(item) == (0, 0) for item in texts)
            texts = [*texts[:heads], Terminal(f"link/{bar.id}"), *texts[heads:]]
        return tuple(BarPlace(bar.id, number, item) for number, item in enumerate(texts, 1))

    def screw(self, terminal: Terminal) -> BarPlace | None:
        """The numbered terminal of the bar that a terminal's conductor goes to; None where its net has no bar."""
        return self._screws.get(terminal)

    def screw_point(self, place: BarPlace) -> PositionMm:
        """Where a terminal of a bar is."""
        box = self.bars[place.bar]
        count = max(3, len(self.bar_places[place.bar]))
        if box.w >= box.h:
            # Numbered from the side of the main switch, so that the main conductors are short.
            number = place.number if self.from_left else count + 1 - place.number
            return PositionMm(box.x + (number - 0.5) * box.w / count, box.y + 4)
        return PositionMm(box.x + 4, box.y + (place.number - 0.5) * box.h / count)


def _stab_point(placed: PlacedDevice, conductor: str, side: str) -> PositionMm:
    """A terminal of a plugged-on breaker: its line side at the stabs between the columns, its load side at the gutter."""
    box, lines = placed.box, placed.unit.lines
    left_column = placed.row == 1
    gutter, stabs = (box.x, box.x + box.w) if left_column else (box.x + box.w, box.x)
    number = lines.index(conductor) if conductor in lines else len(lines) - 1
    y = box.y + (max(0, number) + 0.5) * SPACE_MM
    return PositionMm(stabs if side == "in" and conductor != "N" else gutter, y)
