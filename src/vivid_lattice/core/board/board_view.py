"""A board as it is drawn and read: every device, terminal, bar, busbar and conductor with its place, and what is live of it."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace
from functools import partial

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.catalogue import usual_enclosure_form
from vivid_lattice.core.board.isolation.live_parts import LiveNet, live_nets
from vivid_lattice.core.board.labels import ChartLine, Notice, chart_of, notices_of
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.device_kinds import BoardDeviceKind
from vivid_lattice.core.board.layout.heat import Heat
from vivid_lattice.core.board.layout.layout_problem import modules_needed
from vivid_lattice.core.board.layout.rail_positions import MODULE_MM, SPACE_MM, PlacedDevice, RailPositions, Rectangle
from vivid_lattice.core.board.wiring.busbars import Busbar
from vivid_lattice.core.board.wiring.lanes import in_lanes
from vivid_lattice.core.board.wiring.netlist import Netlist
from vivid_lattice.core.board.wiring.wiring_list import STEPS, Block, Conductor, step_title
from vivid_lattice.core.messages import Text
from vivid_lattice.core.optional import or_none


@dataclass(frozen=True, slots=True, kw_only=True)
class TerminalView:
    """A terminal of a device: its number as marked, where it is, and the net it belongs to."""

    terminal: str
    number: Text
    conductor: str
    net: str
    x: float
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DeviceView:
    """A device in its place. ``row`` 0: it has a place of its own. ``way``: its number, of a circuit's device."""

    id: str
    kind: BoardDeviceKind
    name: Text
    mark: str
    circuit: str
    way: int | None
    row: int
    offset_modules: float
    wide: float
    box: Rectangle
    group: str
    switches: bool
    clamps: tuple[TerminalView, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class BarTerminalView:
    """A numbered terminal of a bar, and whose conductor is under it."""

    number: int
    terminal: str
    text: Text
    circuit: str
    x: float
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BarView:
    """A bar with its terminals."""

    id: str
    title: Text
    conductor: str
    colour: str
    box: Rectangle
    screws: tuple[BarTerminalView, ...]


@dataclass(frozen=True, slots=True)
class PinView:
    """A pin of a busbar; covered where it meets no terminal."""

    x: float
    y: float
    line: str
    covered: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class BusbarView:
    """A piece of busbar: what it is cut to and where."""

    id: str
    row: int
    lines: tuple[str, ...]
    teeth: tuple[PinView, ...]
    covered: int
    cut_mm: float
    rating_a: float | None


@dataclass(frozen=True, slots=True)
class UnplacedDevice:
    """A device that has no place yet."""

    id: str
    name: Text
    wide: float


@dataclass(frozen=True, slots=True)
class SurgeLeads:
    """Leads of a surge device as drawn [m]."""

    device: str
    name: Text
    leads_m: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardView:
    """Everything of a board that is drawn or listed. Without an enclosure there is nothing to draw: ``width_mm`` is 0 then.

    form, usual_form  of its enclosure, and of the enclosures that are usual on its supply
    """

    board: str
    form: str
    usual_form: str
    width_mm: float
    height_mm: float
    step_mm: float
    rows: tuple[Rectangle, ...]
    units: tuple[DeviceView, ...]
    not_placed: tuple[UnplacedDevice, ...]
    not_chosen: tuple[str, ...]
    blanks: tuple[Rectangle, ...]
    bars: tuple[BarView, ...]
    combs: tuple[BusbarView, ...]
    blocks: tuple[Block, ...]
    conductors: tuple[Conductor, ...]
    steps: tuple[Text, ...]
    missing: tuple[Text, ...]
    modules_needed: float
    modules_available: float
    heat: Heat | None
    surge: tuple[SurgeLeads, ...]
    live: tuple[LiveNet, ...]
    chart: tuple[ChartLine, ...]
    notices: tuple[Notice, ...]


def view_of(
    boards: Mapping[str, BoardModel],
    board: str,
    open_: Collection[str],
    supply_on: bool = True,
    *,
    wired: bool = True,
) -> BoardView:
    """A board with some switches (``board|unit``) open.

    wired  False: without its conductors, which take longest, while a device is held
    """
    model = boards[board]
    places = or_none(lambda: model.places)
    wiring = or_none(lambda: model.wiring) if places and wired else None
    view = BoardView(
        board=board,
        form="rail",
        usual_form=usual_enclosure_form(model.job.supply),
        width_mm=0.0,
        height_mm=0.0,
        step_mm=MODULE_MM,
        rows=(),
        units=(),
        not_placed=_unplaced(model.units.all if places is None else places.loose),
        not_chosen=tuple(circuit.name for circuit in model.units.open),
        blanks=(),
        bars=(),
        combs=(),
        blocks=(),
        conductors=(),
        steps=tuple(step_title(step, model.rules.words) for step in range(1, len(STEPS) + 1)),
        missing=(),
        modules_needed=modules_needed(model.units),
        modules_available=0.0,
        heat=None,
        surge=_surge_leads(model) if wired else (),
        live=tuple(live_net for live_net in live_nets(boards, open_, supply_on) if live_net.board == board),
        chart=chart_of(model),
        notices=notices_of(boards, model),
    )
    if places is not None:
        view = _laid_out(view, model, places)
    if wiring is not None:
        drawn = in_lanes(wiring.conductors, model.places)
        view = replace(view, blocks=wiring.blocks, conductors=drawn, missing=wiring.missing)
    return view


def _laid_out(view: BoardView, model: BoardModel, places: RailPositions) -> BoardView:
    """The view with what is known once the devices have their places."""
    enclosure = places.enclosure
    return replace(
        view,
        form=enclosure.form,
        width_mm=places.width_mm,
        height_mm=places.height_mm,
        step_mm=SPACE_MM if enclosure.form == "panelboard" else MODULE_MM,
        rows=_rows(places),
        units=_units(model, places, model.scheme),
        blanks=_blanks(places),
        bars=_bars(model, places),
        combs=tuple(_comb(places, comb) for comb in or_none(lambda: model.combs) or ()),
        modules_available=float(enclosure.rows * enclosure.modules),
        heat=model.heat,
    )


def _unplaced(units: Iterable[BoardDevice]) -> tuple[UnplacedDevice, ...]:
    return tuple(UnplacedDevice(unit.id, unit.name, unit.wide) for unit in units)


def _surge_leads(model: BoardModel) -> tuple[SurgeLeads, ...]:
    return tuple(
        SurgeLeads(device.id, device.name, or_none(partial(model.surge_leads_m, device.id)))
        for device in model.board.spds
    )


def _rows(places: RailPositions) -> tuple[Rectangle, ...]:
    """The rails (or columns) of an enclosure, as rectangles that devices stand in."""
    enclosure = places.enclosure
    if enclosure.form == "panelboard":
        middle, length = places.width_mm / 2, enclosure.modules * SPACE_MM
        return (Rectangle(middle - 80, 170.0, 76.0, length), Rectangle(middle + 4, 170.0, 76.0, length))[
            : enclosure.rows
        ]
    return tuple(
        Rectangle(places.rail_x, places.rail_y(row) - 42.5, enclosure.modules * MODULE_MM, 85.0)
        for row in range(1, enclosure.rows + 1)
    )


def _units(model: BoardModel, places: RailPositions, scheme: Netlist) -> tuple[DeviceView, ...]:
    ways = {way.circuit: way.number for way in model.board.ways}
    clamps: dict[str, list[TerminalView]] = {name: [] for name in places.placed}
    for net in scheme.nets:
        for terminal in net.terminals:
            name, conductor, role = terminal.device, terminal.conductor, terminal.side
            placed = places.placed.get(name)
            if placed is not None:
                point, number = places.point(terminal), model.words.clamp(placed.unit, conductor, role)
                clamps[name].append(
                    TerminalView(
                        terminal=terminal, number=number, conductor=net.conductor, net=net.id, x=point.x, y=point.y
                    )
                )
    return tuple(_unit(placed, ways, clamps[placed.unit.id]) for placed in places.in_order())


def _unit(placed: PlacedDevice, ways: Mapping[str, int], clamps: list[TerminalView]) -> DeviceView:
    unit = placed.unit
    circuit = unit.circuit.id if unit.circuit is not None else ""
    return DeviceView(
        id=unit.id,
        kind=unit.kind,
        name=unit.name,
        mark=unit.mark,
        circuit=circuit,
        way=ways.get(circuit) if unit.kind == "way" else None,
        row=placed.row,
        offset_modules=placed.offset_modules,
        wide=unit.wide,
        box=placed.box,
        group=unit.feed,
        switches=bool(unit.poles),
        clamps=tuple(clamps),
    )


def _blanks(places: RailPositions) -> tuple[Rectangle, ...]:
    """Openings that no device fills."""
    blanks = []
    for number, row in enumerate(_rows(places), 1):
        at = 0.0
        for start, end in [
            *((placed_device.offset_modules, placed_device.end) for placed_device in places.row(number)),
            (float(places.enclosure.modules), float(places.enclosure.modules)),
        ]:
            if start - at > 0.25:
                if places.enclosure.form == "panelboard":
                    blanks.append(Rectangle(row.x, row.y + at * SPACE_MM, row.w, (start - at) * SPACE_MM))
                else:
                    blanks.append(Rectangle(row.x + at * MODULE_MM, row.y, (start - at) * MODULE_MM, row.h))
            at = max(at, end)
    return tuple(blanks)


def _bars(model: BoardModel, places: RailPositions) -> tuple[BarView, ...]:
    bars = []
    for bar in places.scheme.bars:
        screws = []
        for place in places.bar_places[bar.id]:
            point = places.screw_point(place)
            unit = place.terminal.device
            circuit = place.terminal.circuit
            words = "link" if unit == "link" else model.words.end(place.terminal)
            screws.append(
                BarTerminalView(
                    number=place.number, terminal=place.terminal, text=words, circuit=circuit, x=point.x, y=point.y
                )
            )
        colour = model.words.colour(bar.conductor, "")
        bars.append(
            BarView(
                id=bar.id,
                title=bar.title,
                conductor=bar.conductor,
                colour=colour,
                box=places.bars[bar.id],
                screws=tuple(screws),
            )
        )
    return tuple(bars)


def _comb(places: RailPositions, comb: Busbar) -> BusbarView:
    first = next(tooth.terminal for tooth in comb.teeth if tooth.terminal)
    y = places.point(first).y
    teeth = tuple(
        PinView(places.rail_x + tooth.offset_modules * MODULE_MM, y, tooth.line, not tooth.terminal)
        for tooth in comb.teeth
    )
    return BusbarView(
        id=comb.id,
        row=comb.row,
        lines=comb.lines,
        teeth=teeth,
        covered=sum(tooth.covered for tooth in teeth),
        cut_mm=comb.cut_mm,
        rating_a=comb.stock.rating_a if comb.stock else None,
    )
