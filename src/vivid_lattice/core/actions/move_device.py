"""Laying a board out, moving a device on it, numbering its ways as they stand: a job in, a job out."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.layout.heat import runs_long
from vivid_lattice.core.board.layout.layout_problem import (
    LAYOUT_S,
    LayoutResult,
    layout_problem_of,
    modules_needed,
    starts_of,
)
from vivid_lattice.core.board.layout.rail_positions import PlacedDevice, RailPositions
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.board_build import BoardBuild, DevicePosition, space_number
from vivid_lattice.core.document.job import Board, FedByWay, Job
from vivid_lattice.core.errors import BadDocument, DocumentProblem, NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.text import Shown


def board_of(job: Job, board_id: str) -> Board:
    """A board by its id. BadDocument where there is none."""
    board = job.find_board(board_id)
    if board is None:
        raise BadDocument([DocumentProblem("board", message(None, "core.move_device.no_board", board=board_id))])
    return board


def model_of(job: Job, board_id: str) -> BoardModel:
    """Everything worked out of a board. BadDocument where there is none of that id."""
    board_of(job, board_id)
    return Installation.of(job, rule_set(job.job.rules)).boards[board_id]


def with_housing(job: Job, board_id: str, housing: BoardBuild) -> Job:
    """The job with a board's housing replaced; the surge devices of a board that is laid out take their leads from it."""
    return job.model_copy(
        update={
            "boards": tuple(
                board.model_copy(update={"build": housing}) if board.id == board_id else board for board in job.boards
            )
        }
    )


def lay_out(
    job: Job,
    board_id: str,
    *,
    seconds: float = LAYOUT_S,
    cancelled: Callable[[], bool] = lambda: False,
    better: Callable[[int, int], None] = lambda cost, bound: None,
) -> tuple[Job, LayoutResult]:
    """The job with a board laid out again, and how good the layout is.

    Its surge devices lose their stated leads: from now on they are as long as they are drawn.
    Raises  BadDocument where there is no enclosure, a device is not chosen yet, or nothing fits; with how to fix it
    """
    # The solver takes a second to load, which nothing but a search should wait for.
    from vivid_lattice.core.board.layout.layout_solver import solve_layout

    model = model_of(job, board_id)
    board = model.board
    try:
        enclosure, units = model.enclosure, model.units
    except NeedsInput as lack:
        raise _bad("; ".join(f"{need.what}: {need.ask}" for need in lack.needs)) from None
    if units.open:
        raise _bad(message(model.rules.words, "core.move_device.device_open", device=units.open[0].name))
    hot = frozenset(unit.id for unit in units.all if unit.kind == "way" and unit.circuit and runs_long(unit.circuit))
    wishes = board.build.layout_preferences
    task = layout_problem_of(units, enclosure, wishes, wishes.main_switch_side or model.rules.board.main_side, hot)
    present = starts_of(task, board.build.device_positions) if board.build.device_positions else None
    layout_result = solve_layout(task, present=present, seconds=seconds, cancelled=cancelled, better=better)
    if layout_result is None:
        needs, there_is = modules_needed(units), enclosure.rows * enclosure.modules
        if needs > there_is:
            raise _bad(
                message(
                    None,
                    "core.move_device.too_small",
                    needs=Shown(f"{needs:g}"),
                    enclosure=enclosure.title,
                    room=there_is,
                )
            )
        raise _bad(message(None, "core.move_device.no_order", needs=Shown(f"{needs:g}"), room=there_is))
    housing = board.build.model_copy(update={"device_positions": layout_result.spots})
    surge = tuple(device.model_copy(update={"leads_m": None}) for device in board.spds)
    changed = with_housing(job, board_id, housing)
    boards = tuple(
        board.model_copy(update={"spds": surge}) if board.id == board_id else board for board in changed.boards
    )
    return changed.model_copy(update={"boards": boards}), layout_result


def _bad(message: Text) -> BadDocument:
    return BadDocument([DocumentProblem("boards.build", message)])


def move(job: Job, board_id: str, unit: str, row: int, at: float) -> Job:
    """The job with a device put elsewhere; what is there makes room to its own side, as far as the row reaches.

    Raises  BadDocument where there is no such device or row, or the row has no room for it
    """
    model = model_of(job, board_id)
    places = _positions(lambda: model.places)
    device = model.units.by_id.get(unit)
    if device is None or device.wide == 0:
        raise _bad(message(None, "core.move_device.no_unit", unit=unit))
    others, room = _others_in_row(places, row, device), places.enclosure.modules
    spots = _made_room(model, device, others, min(max(0.0, round(at * 2) / 2), room - device.wide), room)
    kept = [spot for spot in model.board.build.device_positions if spot.device not in spots]
    moved = [DevicePosition(device=name, row=row, offset_modules=start) for name, start in spots.items()]
    housing = model.board.build.model_copy(
        update={"device_positions": tuple(sorted((*kept, *moved), key=lambda s: (s.row, s.offset_modules)))}
    )
    return with_housing(job, board_id, housing)


def _positions(read: Callable[[], RailPositions]) -> RailPositions:
    """The board's positions; BadDocument with what they need where they are not known yet."""
    try:
        return read()
    except NeedsInput as lack:
        raise _bad(lack.needs[0].what) from None


def _others_in_row(places: RailPositions, row: int, device: BoardDevice) -> list[PlacedDevice]:
    """What else is in a row that a device is put into; BadDocument where the row has no room for both."""
    if not 1 <= row <= places.enclosure.rows:
        raise _bad(message(None, "core.move_device.no_row", row=row, rows=places.enclosure.rows))
    others = [placed_device for placed_device in places.row(row) if placed_device.unit.id != device.id]
    if sum(other.unit.wide for other in others) + device.wide > places.enclosure.modules:
        raise _bad(
            message(None, "core.move_device.row_full", row=row, device=device.name, wide=Shown(f"{device.wide:g}"))
        )
    return others


def _made_room(
    model: BoardModel, device: BoardDevice, others: Sequence[PlacedDevice], at: float, room: float
) -> dict[str, float]:
    """Where each device of a row begins once one is put at a place: the others move aside, no further than they have to."""
    middle = at + device.wide / 2
    left = [other for other in others if (other.offset_modules + other.end) / 2 < middle]
    right = [other for other in others if (other.offset_modules + other.end) / 2 >= middle]
    # Not so near an end that those on that side find no room.
    at = max(at, sum(other.unit.wide for other in left))
    at = min(at, room - device.wide - sum(other.unit.wide for other in right))
    spots = {device.id: at}
    edge = at
    for other in reversed(left):
        edge = min(other.offset_modules, edge - other.unit.wide)
        spots[other.unit.id] = edge
    edge = at + device.wide
    for other in right:
        spots[other.unit.id] = max(other.offset_modules, edge)
        edge = spots[other.unit.id] + other.unit.wide
    if edge <= room and min(spots.values()) >= 0:
        return spots
    return _packed(
        [*(other.unit.id for other in left), device.id, *(other.unit.id for other in right)], model, spots, room
    )


def _packed(order: list[str], model: BoardModel, spots: dict[str, float], room: float) -> dict[str, float]:
    """The same order pushed together from the right end, then from the left, so that nothing reaches past the row."""
    wide = {name: model.units.by_id[name].wide for name in order}
    edge = float(room)
    for name in reversed(order):
        edge = min(spots[name], edge - wide[name])
        spots[name] = edge
    edge = 0.0
    for name in order:
        spots[name] = max(spots[name], edge)
        edge = spots[name] + wide[name]
    return spots


def numbered_as_placed(job: Job, board_id: str) -> Job:
    """The job with the ways of a board numbered as they stand, from the main switch on; what they feed follows.

    On a panel that breakers are plugged on a way has the number of its first space: odd ones down the left column, even
    ones down the right (common practice, no source). The second half of a tandem has the next number after the last space.
    Raises  BadDocument while a way has no place
    """
    model = model_of(job, board_id)
    places = _positions(lambda: model.laid_out)
    number = _numbers(places)
    old = {way.number: way.circuit for way in model.board.ways}
    boards = []
    for board in job.boards:
        if board.id == board_id:
            board = _renumbered(board, number)
        elif not is_origin(board.fed_by) and board.fed_by.board == board_id:
            fed = FedByWay(board=board_id, way=number[old[board.fed_by.way]])
            board = board.model_copy(update={"fed_by": fed})
        boards.append(board)
    return job.model_copy(update={"boards": tuple(boards)})


def _renumbered(board: Board, number: Mapping[str, int]) -> Board:
    """A board with its ways numbered by circuit, in the order of the numbers."""
    renumbered = (way.model_copy(update={"number": number[way.circuit]}) for way in board.ways)
    ways = tuple(sorted(renumbered, key=lambda way: way.number))
    way_count = max([board.way_count, *number.values()])
    return board.model_copy(update={"ways": ways, "way_count": way_count})


def _numbers(places: RailPositions) -> dict[str, int]:
    """Number of each circuit's way by where its device is: its order from the main switch on, or its space."""
    standing = [
        (placed_device, placed_device.unit.circuit.id)
        for placed_device in places.from_main()
        if placed_device.unit.kind == "way" and placed_device.unit.circuit
    ]
    if places.enclosure.form != "panelboard":
        return {circuit: number for number, (_, circuit) in enumerate(standing, 1)}
    numbers: dict[str, int] = {}
    beyond = places.enclosure.rows * places.enclosure.modules
    for placed_device, circuit in standing:
        number = space_number(placed_device.row, placed_device.offset_modules)
        if number in numbers.values():
            number = beyond = beyond + 1
        numbers[circuit] = number
    return numbers
