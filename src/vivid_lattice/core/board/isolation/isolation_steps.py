"""The order of isolation for the work in hand, and what stays live meanwhile."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.isolation.live_parts import stays_live, switch_id
from vivid_lattice.core.board.layout.board_devices import BoardDevice
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.document.base import is_origin

#: What a board drawn from its own supply does not show. Common practice, no source; IEC 60364-4-41, 410.3.3 asks that every
#: source is isolated (from memory).
_OTHER_SOURCES = (
    "Look for other sources: solar panels, a battery, a generator, a neighbour's supply or neutral, a neutral borrowed from "
    "another circuit. Isolate each one, or make sure that there is none."
)


@dataclass(frozen=True, slots=True)
class Isolation:
    """Steps in their order, the switches that are then open, and what stays live, in words."""

    steps: tuple[str, ...]
    open: tuple[str, ...]
    stays_live: tuple[str, ...]


def isolation_for(boards: Mapping[str, BoardModel], board: str, work: str) -> Isolation:
    """How to make dead what is to be worked on.

    work  a unit's id: inside the board, at that device; ``circuit:<id>``: out at a circuit; ``board``: the board as a whole
    """
    model = boards[board]
    out_at = work.removeprefix("circuit:") if work.startswith("circuit:") else ""
    if out_at:
        return _at_circuit(boards, model, out_at)
    main = model.units.by_id.get("main")
    head = [
        "Say what will be off and for how long; save what must not stop (freezer, alarm, medical equipment).",
        _OTHER_SOURCES,
    ]
    at_main = work in ("main", "relay") or (work in model.units.by_id and model.units.by_id[work].feed == "ahead")
    feeder = model.tree.feeder(model.board)
    if main is None or at_main:
        where = "it" if main is None else "the main switch's incoming side"
        if feeder is not None and not is_origin(model.board.fed_by):
            above = model.board.fed_by.board
            switch = switch_id(above, f"way:{feeder.id}")
            name = f"way {model.board.fed_by.way} of {boards[above].board.name}"
            return _inside(boards, model, head, name, (switch,), where)
        steps = (
            *head,
            f"Nothing of your own isolates {where}: the distributor, or whoever may, withdraws the cut-out fuse or opens an isolator ahead.",
            *_proving(model, where),
        )
        return Isolation(steps, (), _words(boards, model, ()))
    return _inside(boards, model, head, "the main switch", (switch_id(board, "main"),), "what you work on")


def _inside(
    boards: Mapping[str, BoardModel], model: BoardModel, head: list[str], name: str, open_: tuple[str, ...], where: str
) -> Isolation:
    left = _words(boards, model, open_)
    steps = [
        *head,
        f"Switch off {name}, lock it off, keep the key, put up a notice.",
        *_proving(model, where),
    ]
    if left:
        steps.append("Cover what stays live before you reach in: " + "; ".join(left) + ".")
    return Isolation(tuple(steps), open_, left)


def _at_circuit(boards: Mapping[str, BoardModel], model: BoardModel, circuit: str) -> Isolation:
    unit = model.units.by_id[f"way:{circuit}"]
    way = next(way.number for way in model.board.ways if way.circuit == circuit)
    open_ = (switch_id(model.board.id, unit.id),)
    steps = [
        f"Say that {unit.name} goes off.",
        _OTHER_SOURCES,
        f"Switch off way {way}, {unit.mark}; lock it off, keep the key, put up a notice.",
    ]
    steps += _gear(model, unit)
    if "N" not in unit.poles and unit.circuit is not None and unit.circuit.neutral:
        steps.append(
            "Its device breaks the line only: the neutral stays joined, and is live where another circuit has borrowed it. Test it too."
        )
    steps += _proving(model, f"the place of work on {unit.name}")
    left = _words(boards, model, open_)
    steps.append("The board itself stays live: its cover stays on.")
    return Isolation(tuple(steps), open_, left)


def _gear(model: BoardModel, unit: BoardDevice) -> list[str]:
    devices = [
        device
        for device in model.units.all
        if device.kind == "gear" and (device.circuit is unit.circuit or device.id == unit.feed)
    ]
    return [f"{device.name} is no isolator: that it is off proves nothing." for device in devices if device.poles]


def _proving(model: BoardModel, where: str) -> list[str]:
    lines = model.units.lines
    pairs = (
        "between all lines, each line and neutral, each of them and earth"
        if len(lines) > 1
        else ("line to neutral, line to earth, neutral to earth")
    )
    return [
        "Prove the voltage indicator on a known live source.",
        f"Test {where} dead: {pairs}.",
        "Prove the indicator again. Only then begin.",
    ]


def _words(boards: Mapping[str, BoardModel], model: BoardModel, open_: tuple[str, ...]) -> tuple[str, ...]:
    """What stays live in a board, by where it can be touched."""
    places: dict[str, None] = {}
    for net, terminals in stays_live(boards, model.board.id, open_):
        for terminal in terminals:
            unit = model.units.by_id.get(terminal.device)
            if terminal.startswith("supply"):
                places["the incoming conductors"] = None
            elif unit is not None:
                places[_side_of(unit, terminal)] = None
            elif net.state == "through-load":
                places["neutrals, through what is connected"] = None
    return tuple(places)


def _side_of(unit: BoardDevice, terminal: Terminal) -> str:
    """The side of a device that a terminal is on, in words."""
    if unit.kind == "way":
        return f"the {'incoming' if terminal.side == 'in' else 'outgoing'} side of {unit.name}"
    side = {"in": "incoming", "out": "outgoing"}.get(terminal.side, "supply")
    return f"the {side} clamps of the {unit.name.lower() if unit.kind == 'main' else unit.name}"
