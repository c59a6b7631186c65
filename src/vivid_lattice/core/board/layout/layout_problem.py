"""What a layout is on one long rail made of all rows: what has to hold, and what each untidiness costs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise
from typing import Literal

from vivid_lattice.core.board.layout.board_devices import AHEAD, BUS, BoardDevice, BoardDevices, line_index
from vivid_lattice.core.board.layout.device_kinds import GEAR
from vivid_lattice.core.document.board_build import (
    STEPS_A_MODULE,
    DevicePosition,
    Enclosure,
    LayoutPreferences,
    space_number,
)
from vivid_lattice.core.document.feeds import feeds_kind, feeds_lights

#: What an untidiness costs, per module or per case.
SPAN, MISFIT, INVERSION, HOT_PAIR, FORWARD = 8, 24, 6, 24, 1


#: Time a search may take [s]: with all around it a layout is there within two.
LAYOUT_S = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class LayoutItem:
    """A device to place: its width [steps], what feeds it and what it feeds, its turn among those of its feed, the line
    that its first terminal has to meet (None: any), and what is to be seen to. ``halves``: of two breakers that share a place, both;
    ``spaces``: numbers of the spaces of a panel that it may be in (None: any)."""

    id: str
    wide: int
    feed: str
    heads: str
    turn: int
    line: int | None
    hot: bool = False
    halves: tuple[str, ...] = ()
    spaces: frozenset[int] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LayoutProblem:
    """Devices, rows of so many steps, and the preferences. ``first``: those that stand beside the main switch, in that order.
    ``pitch``: steps between two pins; ``lines``: pins in turn on so many lines; ``strict``: a terminal on the wrong line is no
    layout at all (a panel's own bars). With ``mirrored`` everything is calculated from the right end of the rows. Where no
    line must be met, what one feed supplies is in its turn."""

    items: tuple[LayoutItem, ...]
    rows: int
    row: int
    first: tuple[str, ...]
    at_end: bool
    mirrored: bool
    pitch: int
    lines: int
    strict: bool
    together: bool

    @property
    def in_turn(self) -> bool:
        """Whether what one feed supplies must be in its turn."""
        return self.lines == 1


@dataclass(frozen=True, slots=True, kw_only=True)
class LayoutResult:
    """A layout found: where each device is, what it costs, the least that any could cost, and how long it took."""

    spots: tuple[DevicePosition, ...]
    cost: int
    bound: int
    proven: bool
    seconds: float


def _in_turn(units: BoardDevices, wishes: LayoutPreferences) -> list[BoardDevice]:
    """The devices that take room, in their order; lights first or last where the owner wants it."""
    placed = [unit for unit in units.all if unit.wide > 0]
    if wishes.lighting_position == "anywhere":
        return placed
    last_first = 1 if wishes.lighting_position == "last" else -1
    return sorted(placed, key=lambda unit: last_first * _is_light(unit))


def _beside_main(placed: Sequence[BoardDevice], wishes: LayoutPreferences) -> tuple[str, ...]:
    """What is beside the main switch, from it outwards."""
    surge = [unit.id for unit in placed if unit.traits.of_surge] if wishes.surge_beside_main else []
    return (*(unit.id for unit in placed if unit.traits.in_main_path), *surge)


def layout_problem_of(
    units: BoardDevices,
    enclosure: Enclosure,
    wishes: LayoutPreferences,
    main: Literal["left", "right", "top"],
    hot: frozenset[str],
) -> LayoutProblem:
    """The task of laying out a board in an enclosure.

    hot  ids of the units that run warm for long
    """
    placed = _in_turn(units, wishes)
    step = STEPS_A_MODULE if enclosure.form == "rail" else 1
    heads = {unit.id: unit.id for unit in placed if unit.traits.passes_on and unit.circuit is None}
    last = next((item for item in ("relay", "main") if item in units.by_id), None)
    mirrored = main == "right" and enclosure.form == "rail"
    halves = {pair[0].id: tuple(unit.id for unit in pair) for pair in pairs_of_halves(placed)}
    second = {half for pair in halves.values() for half in pair[1:]}
    items = tuple(
        LayoutItem(
            id=unit.id,
            wide=step if unit.is_half else round(unit.wide * step) + (1 if _wants_gap(unit) and step > 1 else 0),
            feed=_feed(unit),
            heads=BUS if unit.id == last else heads.get(unit.id, ""),
            turn=number,
            line=_line(unit, units, enclosure, mirrored),
            hot=unit.id in hot and wishes.separate_warm_devices,
            halves=halves.get(unit.id, ()),
            spaces=enclosure.tandem_space_numbers if unit.is_half and enclosure.form == "panelboard" else None,
        )
        for number, unit in enumerate(placed)
        if unit.id not in second
    )
    return LayoutProblem(
        items=items,
        rows=enclosure.rows,
        row=enclosure.modules * step,
        first=_beside_main(placed, wishes),
        at_end=main != "top",
        mirrored=mirrored,
        pitch=step,
        lines=len(units.lines),
        strict=enclosure.form == "panelboard",
        together=wishes.groups_together and enclosure.form == "rail",
    )


def pairs_of_halves(units: Sequence[BoardDevice]) -> list[list[BoardDevice]]:
    """The halves of double breakers by twos, in their order: both of a pair are on one line and one feed. An odd one is alone."""
    pairs: list[list[BoardDevice]] = []
    for unit in units:
        if not unit.is_half:
            continue
        mate = next(
            (pair for pair in pairs if len(pair) == 1 and (pair[0].feed, pair[0].lines) == (unit.feed, unit.lines)),
            None,
        )
        if mate is None:
            pairs.append([unit])
        else:
            mate.append(unit)
    return pairs


def _feed(unit: BoardDevice) -> str:
    """What a unit belongs together with. What has a place of its own beside the main switch is fed by nothing."""
    return "" if unit.traits.in_main_path or unit.traits.of_surge or unit.feed == AHEAD else unit.feed


def _wants_gap(unit: BoardDevice) -> bool:
    return unit.gear is not None and unit.kind == "gear" and GEAR[unit.gear.kind].upstream


def _line(unit: BoardDevice, units: BoardDevices, enclosure: Enclosure, mirrored: bool) -> int | None:
    """The line a unit's first terminal has to meet: of one with several, on a rail the first of them; a panel takes it anywhere.

    Seen from the right, the terminals run the other way round: a first terminal on pin p is p + width from that end.
    """
    if len(units.lines) == 1 or not unit.lines or not unit.traits.from_busbar:
        return None
    if enclosure.form == "panelboard" and len(unit.lines) > 1:
        return None
    index = line_index(unit.lines[0])
    return (-index - round(unit.wide)) % len(units.lines) if mirrored else index


def _is_light(unit: BoardDevice) -> bool:
    return unit.circuit is not None and (feeds_lights(unit.circuit) or feeds_kind(unit.circuit, "alarm"))


def modules_needed(units: BoardDevices) -> float:
    """Modules that all devices take together; a half without its mate takes a whole one."""
    return sum(unit.wide for unit in units.all if not unit.is_half) + len(pairs_of_halves(units.all))


# ------------------------------------------------------------------------------------------------------ cost


def cost_of(task: LayoutProblem, starts: Mapping[str, int]) -> int | None:
    """What a layout costs; None where it breaks a rule: overlapping, across two rows, out of place beside the main switch, or
    (on a panel) on the wrong line.

    starts  step that each device begins at, on one rail made of all rows
    """
    items = {item.id: item for item in task.items}
    if not _holds(task, items, starts):
        return None
    total = FORWARD * sum(ahead_of(task, starts[item.id]) for item in task.items)
    for feed, members in groups(task).items():
        if task.together:
            total += SPAN * _spread(members, starts)
        total += INVERSION * _inversions(task, in_order(feed, members), starts)
    if task.lines > 1 and not task.strict:
        total += MISFIT * min(_misfits(task, starts, turn) for turn in range(task.lines))
    return total + HOT_PAIR * _warm_pairs(task, starts)


def _inversions(task: LayoutProblem, members: Sequence[LayoutItem], starts: Mapping[str, int]) -> int:
    """How many neighbours in the order of a feed stand the other way round."""
    places = [ahead_of(task, starts[member.id]) for member in members]
    return sum(following < place for place, following in pairwise(places))


def _warm_pairs(task: LayoutProblem, starts: Mapping[str, int]) -> int:
    """How many pairs of devices that run for long stand against each other."""
    hot = sorted((item for item in task.items if item.hot), key=lambda item: starts[item.id])
    return sum(starts[b.id] - starts[a.id] - a.wide < task.pitch for a, b in combinations(hot, 2))


def _spread(members: Sequence[LayoutItem], starts: Mapping[str, int]) -> int:
    """How much more space a group takes than its devices do."""
    end = max(starts[member.id] + member.wide for member in members)
    return end - min(starts[member.id] for member in members) - sum(member.wide for member in members)


def _misfits(task: LayoutProblem, starts: Mapping[str, int], turn: int) -> int:
    """How many devices are off their line, with the busbar turned so."""
    return sum(item.line is not None and not fits_line(task, item, starts, turn) for item in task.items)


def ahead_of(task: LayoutProblem, start: int) -> int:
    """How far from the beginning a device is: along all rows, on a panel down its column."""
    return start % task.row if task.strict else start


def _holds(task: LayoutProblem, items: Mapping[str, LayoutItem], starts: Mapping[str, int]) -> bool:
    order = sorted(task.items, key=lambda item: starts[item.id])
    if any(starts[a.id] + a.wide > starts[b.id] for a, b in pairwise(order)):
        return False
    if any(starts[item.id] not in allowed(task, item) for item in task.items):
        return False
    chain = [items[item] for item in task.first]
    if any(starts[a.id] + a.wide != starts[b.id] for a, b in pairwise(chain)):
        return False
    return not task.in_turn or _stand_in_turn(task, starts)


def _stand_in_turn(task: LayoutProblem, starts: Mapping[str, int]) -> bool:
    """Whether what each feed supplies is in the order of its ways."""
    return all(
        starts[a.id] < starts[b.id]
        for feed, members in groups(task).items()
        for a, b in pairwise(in_order(feed, members))
    )


def groups(task: LayoutProblem) -> dict[str, list[LayoutItem]]:
    """Devices that belong together, each with what feeds it: by feed, in their turn."""
    items: dict[str, list[LayoutItem]] = {}
    for item in task.items:
        if item.heads:
            items.setdefault(item.heads, []).append(item)
        if item.feed:
            items.setdefault(item.feed, []).append(item)
    return {feed: sorted(members, key=lambda item: item.turn) for feed, members in items.items() if len(members) > 1}


def in_order(feed: str, members: Sequence[LayoutItem]) -> list[LayoutItem]:
    """The order in which devices that belong together are best placed: first what feeds them, then each in its turn."""
    return sorted(members, key=lambda member: (member.heads != feed, member.turn))


def fits_line(task: LayoutProblem, item: LayoutItem, starts: Mapping[str, int], turn: int) -> bool:
    local = starts[item.id] % task.row
    return local % task.pitch == 0 and (local // task.pitch + turn) % task.lines == item.line


def allowed(task: LayoutProblem, item: LayoutItem) -> set[int]:
    """Steps an item may begin at: whole within a row; the main switch at its end; on a panel only where its line is."""
    starts = {row * task.row + at for row in range(task.rows) for at in range(task.row - item.wide + 1)}
    if task.first and item.id == task.first[0]:
        starts = {0} if task.at_end else set(range(task.row - item.wide + 1))
    if task.strict and item.line is not None:
        starts = {at for at in starts if at % task.row % task.lines == item.line}
    if item.spaces is not None:
        starts = {at for at in starts if space_number(at // task.row + 1, at % task.row / task.pitch) in item.spaces}
    return starts


def spots_of(task: LayoutProblem, starts: Mapping[str, int]) -> tuple[DevicePosition, ...]:
    """Places of the document from steps on the one long rail."""
    items = {item.id: item for item in task.items}
    positions = []
    for name, start in starts.items():
        at = start % task.row
        if task.mirrored:
            at = task.row - at - items[name].wide
        for half, device in enumerate(items[name].halves or (name,)):
            offset = at / task.pitch + half / STEPS_A_MODULE
            positions.append(DevicePosition(device=device, row=start // task.row + 1, offset_modules=offset))
    return tuple(sorted(positions, key=lambda spot: (spot.row, spot.offset_modules)))


def starts_of(task: LayoutProblem, spots: Sequence[DevicePosition]) -> dict[str, int]:
    """Steps on the one long rail from the places of a document."""
    wide = {item.id: item.wide for item in task.items}
    second = {half for item in task.items for half in item.halves[1:]}
    starts = {}
    for spot in spots:
        if spot.device in second:
            continue
        at = round(spot.offset_modules * task.pitch)
        if task.mirrored and spot.device in wide:
            at = task.row - at - wide[spot.device]
        starts[spot.device] = (spot.row - 1) * task.row + at
    return starts
