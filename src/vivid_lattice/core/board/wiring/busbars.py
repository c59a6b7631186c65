"""Comb busbars: which devices side by side are fed by one, how many pins it has, and which of them are covered."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from vivid_lattice.core.board.catalogue import comb_for, combs
from vivid_lattice.core.board.layout.board_devices import AHEAD, BUS, BoardDevice, line_index
from vivid_lattice.core.board.layout.rail_positions import MODULE_MM, PlacedDevice, RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.document.board_build import BusbarStock

#: More free modules than this between two devices, and the busbar is cut there.
_MAX_GAP = 3.0
#: Positions are multiples of half a module, kept as floats: what is nearer than this is the same place.
_SAME_PLACE = 1e-6


@dataclass(frozen=True, slots=True)
class Pin:
    """A pin of a busbar: its place along the row [modules], its line, and the terminal it meets; '' where it is covered."""

    offset_modules: float
    line: str
    terminal: Terminal


@dataclass(frozen=True, slots=True, kw_only=True)
class Busbar:
    """A piece of busbar. ``feed``: what it is an arm of; ``source``: the member that feeds it, '' where a link does.
    ``stock``: what it is cut from; None where no packaged busbar carries the current."""

    id: str
    row: int
    feed: str
    source: str
    lines: tuple[str, ...]
    teeth: tuple[Pin, ...]
    members: tuple[str, ...]
    stock: BusbarStock | None

    @property
    def cut_mm(self) -> float:
        """Length it is cut to."""
        return (self.teeth[-1].offset_modules - self.teeth[0].offset_modules + 1) * MODULE_MM

    def terminals(self, line: str) -> tuple[Terminal, ...]:
        """The terminals it joins on a line."""
        return tuple(tooth.terminal for tooth in self.teeth if tooth.terminal and tooth.line == line)


def busbars_of(
    places: RailPositions, stock: BusbarStock | None, wanted: bool, load_a: dict[str, float]
) -> tuple[Busbar, ...]:
    """The busbars of a board as it is laid out: devices side by side that one feed supplies and whose lines fall on its pins.

    load_a  what each feed may have to carry on its worst line [A]; the stock is chosen by it where none is stated
    """
    if not wanted or places.enclosure.form == "panelboard":
        return ()
    busbars: list[Busbar] = []
    for row in range(1, places.enclosure.rows + 1):
        for feed, run in _runs(places.row(row), _heads(places)):
            for part, lines in _fitting(places, run, stock):
                busbars.append(_comb(places, f"comb{len(busbars) + 1}", row, feed, part, lines, stock, load_a))
    return tuple(busbars)


def _heads(places: RailPositions) -> dict[str, str]:
    """What feeds each unit's busbar: of a source, its own outgoing side."""
    heads = {unit.id: unit.id for unit in places.units.all if unit.traits.passes_on and unit.circuit is None}
    last = next((name for name in ("relay", "main") if name in places.units.by_id), None)
    if last:
        heads[last] = BUS
    return heads


def _runs(row: Sequence[PlacedDevice], heads: dict[str, str]) -> Iterator[tuple[str, list[PlacedDevice]]]:
    """Stretches of a row that one feed supplies, the source at an end of its stretch among them."""
    run: list[PlacedDevice] = []
    feed = ""
    for placed in row:
        unit = placed.unit
        if unit.kind == "surge":
            continue  # a busbar passes below it, its pins covered there
        hangs = unit.feed if unit.traits.from_busbar and unit.feed != AHEAD else ""
        near = bool(run) and placed.offset_modules - run[-1].end <= _MAX_GAP + _SAME_PLACE
        if run and near and hangs == feed and hangs:
            run.append(placed)
            continue
        if run and near and heads.get(unit.id) == feed and not _source_in(run, heads, feed):
            # A source at the right end closes its stretch.
            yield feed, [*run, placed]
            run, feed = [], ""
            continue
        if run:
            yield feed, run
        run, feed = ([placed], heads.get(unit.id, hangs)) if (hangs or unit.id in heads) else ([], "")
    if run:
        yield feed, run


def _source_in(run: Sequence[PlacedDevice], heads: dict[str, str], feed: str) -> bool:
    return any(heads.get(placed.unit.id) == feed for placed in run)


def _fitting(
    places: RailPositions, run: list[PlacedDevice], stock: BusbarStock | None
) -> Iterator[tuple[list[PlacedDevice], tuple[str, ...]]]:
    """The longest stretches of a run whose lines fall on the pins of one busbar, none longer than busbars come (a piece that is
    stated to be at hand is taken as it is, and the check says where it is too short); a stretch of one device needs none."""
    rest = run
    while len(rest) > 1:
        for count in range(len(rest), 1, -1):
            lines = _teeth_lines(places, rest[:count])
            if lines is not None and (stock is not None or _span(places, rest[:count]) <= _longest(len(lines))):
                yield rest[:count], lines
                rest = rest[count:]
                break
        else:
            rest = rest[1:]


def _span(places: RailPositions, run: Sequence[PlacedDevice]) -> int:
    """Pins from the first terminal of a stretch to its last."""
    pins = _terminals(places, run)
    return round(pins[-1][0] - pins[0][0]) + 1


def _longest(lines: int) -> int:
    return max((comb.pins for comb in combs() if comb.lines == lines), default=0)


def _terminals(places: RailPositions, run: Sequence[PlacedDevice]) -> list[tuple[float, str]]:
    return [(places.pole_at(placed, line), line) for placed in run for line in placed.unit.lines]


def _teeth_lines(places: RailPositions, run: Sequence[PlacedDevice]) -> tuple[str, ...] | None:
    """The lines of a busbar's pins in turn, from its first; None where the devices do not fall on them."""
    pins = _terminals(places, run)
    if not pins:
        return None
    first = pins[0][0]
    steps = [(round(at - first), line) for at, line in pins]
    if any(abs(at - first - step) > _SAME_PLACE for (at, _), (step, _) in zip(pins, steps, strict=True)):
        return None  # half a module off: no pin meets that terminal
    if len({line for _, line in pins}) == 1:
        return (pins[0][1],)
    lines = places.units.lines
    begin = line_index(pins[0][1])
    if all(line_index(line) == (begin + step) % len(lines) for step, line in steps):
        return tuple(lines[(begin + turn) % len(lines)] for turn in range(len(lines)))
    return None


def _comb(
    places: RailPositions,
    name: str,
    row: int,
    feed: str,
    run: Sequence[PlacedDevice],
    lines: tuple[str, ...],
    stock: BusbarStock | None,
    load_a: dict[str, float],
) -> Busbar:
    pin_at = {
        round(at - places.pole_at(run[0], run[0].unit.lines[0])): (at, line) for at, line in _terminals(places, run)
    }
    meets = {
        round(places.pole_at(placed, line) - places.pole_at(run[0], run[0].unit.lines[0])): _meets(
            placed.unit, line, feed
        )
        for placed in run
        for line in placed.unit.lines
    }
    first = places.pole_at(run[0], run[0].unit.lines[0])
    teeth = tuple(
        Pin(first + step, lines[step % len(lines)], meets.get(step, Terminal())) for step in range(max(pin_at) + 1)
    )
    source = next(
        (placed.unit.id for placed in run if placed.unit.feed != feed and placed.unit.kind not in ("way",)), ""
    )
    return Busbar(
        id=name,
        row=row,
        feed=feed,
        source=source,
        lines=tuple(dict.fromkeys(lines)),
        teeth=teeth,
        members=tuple(placed.unit.id for placed in run),
        stock=stock or comb_for(len(lines), load_a.get(feed, 0.0), len(teeth)),
    )


def _meets(unit: BoardDevice, line: str, feed: str) -> Terminal:
    """The terminal of a unit that a busbar of a feed meets: where it takes its supply, or, of the source, where it gives it."""
    role = "in" if unit.feed == feed and unit.traits.from_busbar else "out"
    return Terminal.of(unit.id, line, role)
