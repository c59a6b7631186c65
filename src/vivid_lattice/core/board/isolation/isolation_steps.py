"""The order of isolation for the work to be done, and what stays live during that time."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.board.isolation.live_parts import isolators, source_id, stays_live, switch_id
from vivid_lattice.core.board.layout.board_devices import BoardDevice, leads_of_central_off
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.messages import Joined, Message, Text, message
from vivid_lattice.core.messages.message import Param


def _say(model: BoardModel, id_: str, **params: Param) -> Message:
    return message(model.rules.words, id_, **params)


@dataclass(frozen=True, slots=True)
class Isolation:
    """Steps in their order, the switches that are then open, and what stays live, in words."""

    steps: tuple[Text, ...]
    open: tuple[str, ...]
    stays_live: tuple[Text, ...]


def isolation_for(boards: Mapping[str, BoardModel], board: str, work: str) -> Isolation:
    """How to make dead what is to be worked on.

    work  a unit's id: inside the board, at that device; ``circuit:<id>``: out at a circuit; ``board``: the board as a whole
    """
    model = boards[board]
    out_at = work.removeprefix("circuit:") if work.startswith("circuit:") else ""
    if out_at:
        return _at_circuit(boards, model, out_at)
    main = model.units.by_id.get("main")
    # What a board drawn from its own supply does not show. Common practice, no source; IEC 60364-4-41, 410.3.3 asks that every
    # source is isolated (from memory).
    head: list[Text] = [
        _say(model, "core.isolation.tell_user"),
        *_sources(boards, model),
        _say(model, "core.isolation.other_sources"),
    ]
    at_main = work in ("main", "relay") or (work in model.units.by_id and model.units.by_id[work].feed == "ahead")
    feeder = model.tree.feeder(model.board)
    if main is None or at_main:
        where = (
            _say(model, "core.isolation.place_of_work") if main is None else _say(model, "core.isolation.incoming_side")
        )
        if feeder is not None and not is_origin(model.board.fed_by):
            above = model.board.fed_by.board
            switch = switch_id(above, f"way:{feeder.id}")
            name = _say(model, "core.isolation.way_of", n=model.board.fed_by.way, board=boards[above].board.name)
            return _inside(boards, model, head, name, (switch,), where)
        steps = (
            *head,
            _say(model, "core.isolation.no_switch", place=where),
            *_proving(model, where),
        )
        return Isolation(steps, isolators(boards), _words(boards, model, isolators(boards)))
    return _inside(
        boards,
        model,
        head,
        _say(model, "core.isolation.main"),
        (switch_id(board, "main"),),
        _say(model, "core.isolation.place_of_work"),
    )


def _sources(boards: Mapping[str, BoardModel], model: BoardModel) -> list[Text]:
    """A step for each source of the job that is entered, before anything is switched off: any of them may feed the board."""
    circuits = [circuit for circuit in model.job.circuits if circuit.source is not None]
    standby = [each.board.standby.name for each in boards.values() if each.board.standby is not None]
    steps: list[Text] = [_isolator(model, circuit) for circuit in circuits]
    return [*steps, *(_say(model, "core.isolation.standby", name=name) for name in standby)]


def _isolator(model: BoardModel, circuit: Circuit) -> Text:
    """The step for the isolator of a source; solar panels stay live behind it."""
    panels = circuit.source is not None and circuit.source.kind in ("solar", "hybrid")
    return _say(model, "core.isolation.panels" if panels else "core.isolation.source", name=circuit.name)


def _inside(
    boards: Mapping[str, BoardModel],
    model: BoardModel,
    head: list[Text],
    name: Text,
    open_: tuple[str, ...],
    where: Text,
) -> Isolation:
    open_ = (*open_, *isolators(boards))
    left = _words(boards, model, open_)
    steps: list[Text] = [
        *head,
        _say(model, "core.isolation.switch_off", device=name),
        *_proving(model, where),
    ]
    if left:
        steps.append(_say(model, "core.isolation.cover", parts=Joined.of(left)))
    return Isolation(tuple(steps), open_, left)


def _at_circuit(boards: Mapping[str, BoardModel], model: BoardModel, circuit: str) -> Isolation:
    unit = model.units.by_id[f"way:{circuit}"]
    way = next(way.number for way in model.board.ways if way.circuit == circuit)
    open_: tuple[str, ...] = (switch_id(model.board.id, unit.id),)
    own = [] if unit.circuit is None or unit.circuit.source is None else [unit.circuit]
    if own:
        open_ = (*open_, source_id(circuit))
    steps: list[Text] = [
        _say(model, "core.isolation.tell_circuit", circuit=unit.name),
        *(_isolator(model, each) for each in own),
        _say(model, "core.isolation.other_sources"),
        _say(model, "core.isolation.switch_off_way", n=way, device=unit.mark),
    ]
    steps += _gear(model, unit)
    for lead in _control_circuits(model, circuit):
        open_ = (*open_, switch_id(model.board.id, f"coil:{lead.id}"))
        steps.append(_say(model, "core.isolation.central", name=lead.central_off or ""))
    if "N" not in unit.switched and unit.circuit is not None and unit.circuit.neutral:
        steps.append(_say(model, "core.isolation.line_only"))
    steps += _proving(model, _say(model, "core.isolation.work_on_circuit", circuit=unit.name))
    left = _words(boards, model, open_)
    steps.append(_say(model, "core.isolation.cover_on"))
    return Isolation(tuple(steps), open_, left)


def _control_circuits(model: BoardModel, circuit: str) -> list[ControlGear]:
    """Where the push-buttons of a circuit's impulse relay have their supply from, if not from the circuit."""
    names = {gear.central_off for gear in model.board.control_gear if circuit in gear.switches}
    return [lead for lead in leads_of_central_off(model.board) if lead.central_off in names]


def _gear(model: BoardModel, unit: BoardDevice) -> list[Text]:
    devices = [
        device
        for device in model.units.all
        if device.kind == "gear" and (device.circuit is unit.circuit or device.id == unit.feed)
    ]
    return [_say(model, "core.isolation.gear", gear=device.name) for device in devices if device.poles]


def _proving(model: BoardModel, where: Text) -> list[Text]:
    lines = model.units.lines
    pairs = _say(model, "core.isolation.pairs_phases") if len(lines) > 1 else (_say(model, "core.isolation.pairs_one"))
    return [
        _say(model, "core.isolation.indicator"),
        _say(model, "core.isolation.test_dead", place=where, pairs=pairs),
        _say(model, "core.isolation.indicator_again"),
    ]


def _words(boards: Mapping[str, BoardModel], model: BoardModel, open_: tuple[str, ...]) -> tuple[Text, ...]:
    """What stays live in a board, by where it can be touched."""
    places: dict[Text, None] = {}
    for net, terminals in stays_live(boards, model.board.id, open_):
        for terminal in terminals:
            unit = model.units.by_id.get(terminal.device)
            if terminal.startswith("supply"):
                places[_say(model, "core.isolation.incoming")] = None
            elif unit is not None:
                places[_side_of(model, unit, terminal)] = None
            elif net.state == "through-load":
                places[_say(model, "core.isolation.neutrals")] = None
    return tuple(places)


def _side_of(model: BoardModel, unit: BoardDevice, terminal: Terminal) -> Text:
    """The side of a device that a terminal is on, in words."""
    if unit.kind == "way":
        side = "in" if terminal.side == "in" else "out"
        return _say(model, f"core.isolation.side.{side}", device=unit.name)
    side = terminal.side if terminal.side in ("in", "out") else "supply"
    return _say(model, f"core.isolation.terminals.{side}", device=unit.name)
