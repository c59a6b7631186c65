"""A board as it is drawn and read: every device, clamp, bar, comb and conductor with its place, and what is live of it."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.isolation.live_parts import LiveNet, what_is_live
from vivid_lattice.core.board.labels import ChartLine, Notice, chart_of, notices_of
from vivid_lattice.core.board.layout.board_devices import UnitKind
from vivid_lattice.core.board.layout.heat import Heat
from vivid_lattice.core.board.layout.layout_problem import modules_needed
from vivid_lattice.core.board.layout.rail_positions import MODULE_MM, SPACE_MM, Box, Placed, Places
from vivid_lattice.core.board.wiring.busbars import Comb
from vivid_lattice.core.board.wiring.netlist import Scheme
from vivid_lattice.core.board.wiring.wiring_list import STEPS, Block, Conductor
from vivid_lattice.core.document.surge_and_relay import SurgeDevice
from vivid_lattice.core.optional import known


@dataclass(frozen=True, slots=True)
class ClampView:
    """A clamp of a device: its terminal, its number as marked, where it is, and the net it belongs to."""

    terminal: str
    number: str
    conductor: str
    net: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class UnitView:
    """A device in its place. ``row`` 0: it has a place of its own. ``way``: its number, of a circuit's device."""

    id: str
    kind: UnitKind
    name: str
    mark: str
    circuit: str
    way: int | None
    row: int
    at: float
    wide: float
    box: Box
    group: str
    switches: bool
    clamps: tuple[ClampView, ...]


@dataclass(frozen=True, slots=True)
class ScrewView:
    """A numbered screw of a bar, and whose conductor is under it."""

    number: int
    terminal: str
    words: str
    circuit: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class BarView:
    """A bar with its screws."""

    id: str
    title: str
    conductor: str
    colour: str
    box: Box
    screws: tuple[ScrewView, ...]


@dataclass(frozen=True, slots=True)
class ToothView:
    """A tooth of a comb; covered where it meets no clamp."""

    x: float
    y: float
    line: str
    covered: bool


@dataclass(frozen=True, slots=True)
class CombView:
    """A piece of comb: what it is cut to and where."""

    id: str
    row: int
    lines: tuple[str, ...]
    teeth: tuple[ToothView, ...]
    covered: int
    cut_mm: float
    rating_a: float | None


@dataclass(frozen=True, slots=True)
class LooseUnit:
    """A device that has no place yet."""

    id: str
    name: str
    wide: float


@dataclass(frozen=True, slots=True)
class SurgeLeads:
    """Leads of a surge device as drawn [m]."""

    device: str
    name: str
    leads_m: float | None


@dataclass(frozen=True, slots=True)
class BoardView:
    """Everything of a board that is drawn or listed. Without an enclosure there is nothing to draw: ``width_mm`` is 0 then."""

    board: str
    form: str
    width_mm: float
    height_mm: float
    step_mm: float
    rows: tuple[Box, ...]
    units: tuple[UnitView, ...]
    loose: tuple[LooseUnit, ...]
    undecided: tuple[str, ...]
    blanks: tuple[Box, ...]
    bars: tuple[BarView, ...]
    combs: tuple[CombView, ...]
    blocks: tuple[Block, ...]
    conductors: tuple[Conductor, ...]
    steps: tuple[str, ...]
    lacks: tuple[str, ...]
    needs_modules: float
    has_modules: float
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
    places = known(lambda: model.places)
    wiring = known(lambda: model.wiring) if places and wired else None
    scheme = model.scheme
    live = tuple(one for one in what_is_live(boards, open_, supply_on) if one.board == board)
    return BoardView(
        board=board,
        form=places.enclosure.form if places else "rail",
        width_mm=places.width_mm if places else 0.0,
        height_mm=places.height_mm if places else 0.0,
        step_mm=SPACE_MM if places and places.enclosure.form == "stab" else MODULE_MM,
        rows=_rows(places) if places else (),
        units=_units(model, places, scheme) if places else (),
        loose=tuple(LooseUnit(unit.id, unit.name, unit.wide) for unit in (places.loose if places else model.units.all)),
        undecided=tuple(circuit.name for circuit in model.units.open),
        blanks=_blanks(places) if places else (),
        bars=_bars(model, places) if places else (),
        combs=tuple(_comb(places, comb) for comb in known(lambda: model.combs) or ()) if places else (),
        blocks=wiring.blocks if wiring else (),
        conductors=wiring.conductors if wiring else (),
        steps=STEPS,
        lacks=wiring.lacks if wiring else (),
        needs_modules=modules_needed(model.units),
        has_modules=float(places.enclosure.rows * places.enclosure.modules) if places else 0.0,
        heat=model.heat if places else None,
        surge=tuple(_leads(model, device) for device in model.board.surge) if wired else (),
        live=live,
        chart=chart_of(model),
        notices=notices_of(boards, model),
    )


def _leads(model: BoardModel, device: SurgeDevice) -> SurgeLeads:
    return SurgeLeads(device.id, device.name, known(lambda: model.surge_leads_m(device.id)))


def _rows(places: Places) -> tuple[Box, ...]:
    """The rails (or columns) of an enclosure, as rectangles that devices stand in."""
    enclosure = places.enclosure
    if enclosure.form == "stab":
        middle, length = places.width_mm / 2, enclosure.modules * SPACE_MM
        return (Box(middle - 80, 170.0, 76.0, length), Box(middle + 4, 170.0, 76.0, length))[: enclosure.rows]
    return tuple(
        Box(places.rail_x, places.rail_y(row) - 42.5, enclosure.modules * MODULE_MM, 85.0)
        for row in range(1, enclosure.rows + 1)
    )


def _units(model: BoardModel, places: Places, scheme: Scheme) -> tuple[UnitView, ...]:
    ways = {way.circuit: way.number for way in model.board.ways}
    clamps: dict[str, list[ClampView]] = {name: [] for name in places.placed}
    for net in scheme.nets:
        for one in net.terminals:
            name, conductor, role = (*one.split("/"), "")[:3]
            placed = places.placed.get(name)
            if placed is not None:
                point, number = places.point(one), model.words.clamp(placed.unit, conductor, role)
                clamps[name].append(ClampView(one, number, net.conductor, net.id, point.x, point.y))
    return tuple(_unit(placed, ways, clamps[placed.unit.id]) for placed in places.in_order())


def _unit(placed: Placed, ways: Mapping[str, int], clamps: list[ClampView]) -> UnitView:
    unit = placed.unit
    circuit = unit.circuit.id if unit.circuit is not None else ""
    return UnitView(
        unit.id,
        unit.kind,
        unit.name,
        unit.mark,
        circuit,
        ways.get(circuit) if unit.kind == "way" else None,
        placed.row,
        placed.at,
        unit.wide,
        placed.box,
        unit.feed,
        bool(unit.poles),
        tuple(clamps),
    )


def _blanks(places: Places) -> tuple[Box, ...]:
    """Openings that no device fills."""
    found = []
    for number, row in enumerate(_rows(places), 1):
        at = 0.0
        for start, end in [
            *((one.at, one.end) for one in places.row(number)),
            (float(places.enclosure.modules), float(places.enclosure.modules)),
        ]:
            if start - at > 0.25:
                if places.enclosure.form == "stab":
                    found.append(Box(row.x, row.y + at * SPACE_MM, row.w, (start - at) * SPACE_MM))
                else:
                    found.append(Box(row.x + at * MODULE_MM, row.y, (start - at) * MODULE_MM, row.h))
            at = max(at, end)
    return tuple(found)


def _bars(model: BoardModel, places: Places) -> tuple[BarView, ...]:
    found = []
    for bar in places.scheme.bars:
        screws = []
        for place in places.bar_places[bar.id]:
            point = places.screw_point(place)
            unit = place.terminal.split("/")[0]
            circuit = unit.partition(":")[2].partition("+")[0] if unit.startswith(("way:", "cable:")) else ""
            words = "link" if unit == "link" else model.words.end(place.terminal)
            screws.append(ScrewView(place.number, place.terminal, words, circuit, point.x, point.y))
        colour = model.words.colour(bar.conductor, "")
        found.append(BarView(bar.id, bar.title, bar.conductor, colour, places.bars[bar.id], tuple(screws)))
    return tuple(found)


def _comb(places: Places, comb: Comb) -> CombView:
    first = next(tooth.terminal for tooth in comb.teeth if tooth.terminal)
    y = places.point(first).y
    teeth = tuple(
        ToothView(places.rail_x + tooth.at * MODULE_MM, y, tooth.line, not tooth.terminal) for tooth in comb.teeth
    )
    return CombView(
        comb.id,
        comb.row,
        comb.lines,
        teeth,
        sum(tooth.covered for tooth in teeth),
        comb.cut_mm,
        comb.stock.rating_a if comb.stock else None,
    )
