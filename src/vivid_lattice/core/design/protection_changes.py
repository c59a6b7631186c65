"""Changes that fix what protects: an own residual-current device, another type, a delay, a larger device ahead."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from vivid_lattice.core.design.candidate_changes import CandidateChange, larger_device, with_device
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit, Device, Job, Way
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.messages import message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown

#: Types of residual-current device in the order of what they see.
_TYPES = ("A", "F", "B")
#: Rated residual currents of time-delayed devices [mA].
#: Rated residual currents that a larger one is replaced by [mA].
_LESS_MA = (300.0, 100.0, 30.0)
_DELAYED_MA = (100.0, 300.0, 500.0)


def larger_feeders(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """Each feeder ahead behind a larger device."""
    for feeder in Tree(job).chain(circuit)[:-1]:
        for move in larger_device(feeder, rules):
            yield CandidateChange(
                kind=f"ahead-{feeder.id}",
                label=message(rules.words, "core.fix.at", place=feeder.name, change=move.label),
                circuit=move.circuit,
            )


def own_rcd(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The circuit behind a residual-current breaker of its own, out of the one it shares."""
    device = circuit.device
    if is_auto(device) or device.kind not in rules.devices.kinds:
        return
    proposed = rules.devices.default_device(circuit.model_copy(update={"kind": "fixed"}), device.rating_a)
    kind = rules.devices.kinds[proposed.kind]
    if not kind.has_rcd or device.rating_a not in kind.ratings_a:
        return
    own_device = proposed.model_copy(
        update={"curve": device.curve or proposed.curve, "breaking_ka": device.breaking_ka or proposed.breaking_ka}
    )
    place = Tree(job).place(circuit)
    ways = tuple(_apart(way, circuit) for way in place.board.ways)
    board = place.board.model_copy(update={"ways": ways})
    yield CandidateChange(
        kind="own-rcd",
        label=message(rules.words, "core.fix.own_rcd", kind=kind.short, a=Shown(f"{device.rating_a:g}")),
        circuit=with_device(circuit, own_device),
        boards=(board,),
    )


def _apart(way: Way, circuit: Circuit) -> Way:
    return way.model_copy(update={"rcd": None}) if way.circuit == circuit.id else way


def other_types(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The nearest residual-current device in each further type."""
    device, board = circuit.device, Tree(job).place(circuit).board
    for type_ in _TYPES:
        if not is_auto(device) and device.rcd is not None:
            if device.rcd.type != type_:
                changed = device.model_copy(update={"rcd": device.rcd.model_copy(update={"type": type_})})
                yield CandidateChange(
                    kind="type",
                    label=message(rules.words, "core.fix.rcd_type", type=type_, old=device.rcd.type),
                    circuit=with_device(circuit, changed),
                )
            continue
        retyped = _board_with(board, circuit, {"type": type_})
        if retyped is not None:
            yield CandidateChange(
                kind="type",
                label=message(rules.words, "core.fix.rcd_type_shared", type=type_),
                circuit=circuit,
                boards=(retyped,),
            )


def _shared_ma(board: Board, circuit: Circuit) -> float | None:
    """Residual current of the shared RCD ahead of a circuit, or of the main switch [mA]; None where neither has one."""
    group = _group_of(board, circuit)
    for shared_rcd in board.shared_rcds:
        if shared_rcd.id == group:
            return shared_rcd.rcd.idn_ma
    switch = board.main_switch
    return switch.rcd.idn_ma if switch is not None and switch.rcd is not None else None


def less_residual(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The nearest residual-current device of the circuit with each smaller residual current; what is time-delayed stays so."""
    device, board = circuit.device, Tree(job).place(circuit).board
    for milliamps in _LESS_MA:
        label = message(rules.words, "core.fix.residual", ma=Shown(f"{milliamps:g}"))
        if not is_auto(device) and device.rcd is not None:
            if device.rcd.idn_ma > milliamps:
                changed = device.model_copy(update={"rcd": device.rcd.model_copy(update={"idn_ma": milliamps})})
                yield CandidateChange(kind="residual", label=label, circuit=with_device(circuit, changed))
            continue
        max_ma = _shared_ma(board, circuit)
        if max_ma is not None and max_ma > milliamps:
            changed_board = _board_with(board, circuit, {"idn_ma": milliamps})
            if changed_board is not None:
                yield CandidateChange(kind="residual", label=label, circuit=circuit, boards=(changed_board,))


def _group_of(board: Board, circuit: Circuit) -> str | None:
    return next((way.rcd for way in board.ways if way.circuit == circuit.id), None)


def delayed_ahead(job: Job, circuit: Circuit, rules: RuleSet) -> Iterator[CandidateChange]:
    """The residual-current device ahead of the nearest one time-delayed, and of three times its current."""
    tree = Tree(job)
    for link in reversed(tree.chain(circuit)):
        board = tree.place(link).board
        for milliamps in _DELAYED_MA:
            label = message(rules.words, "core.fix.delayed", ma=Shown(f"{milliamps:g}"))
            changed = _delayed_switch(board, milliamps)
            if changed is not None:
                yield CandidateChange(
                    kind=f"delayed-{board.id}",
                    label=message(rules.words, "core.fix.at", place=board.name, change=label),
                    circuit=circuit,
                    boards=(changed,),
                )
            device = link.device
            if link.id != circuit.id and not is_auto(device) and device.rcd is not None:
                yield CandidateChange(
                    kind=f"delayed-{link.id}",
                    label=message(rules.words, "core.fix.at", place=link.name, change=label),
                    circuit=with_device(link, _delayed_device(device, milliamps)),
                )


def _delayed(rcd: Rcd, milliamps: float) -> Rcd:
    return rcd.model_copy(update={"idn_ma": milliamps, "time_delayed": True})


def _delayed_device(device: Device, milliamps: float) -> Device:
    assert device.rcd is not None
    return device.model_copy(update={"rcd": _delayed(device.rcd, milliamps)})


def _delayed_switch(board: Board, milliamps: float) -> Board | None:
    switch = board.main_switch
    if switch is None or switch.rcd is None:
        return None
    return board.model_copy(update={"main_switch": switch.model_copy(update={"rcd": _delayed(switch.rcd, milliamps)})})


def _board_with(board: Board, circuit: Circuit, update: Mapping[str, object]) -> Board | None:
    """The board with the residual-current part changed that a circuit shares: its group's, else the main switch's."""
    group = _group_of(board, circuit)
    if group is not None:
        rcds = tuple(
            shared_rcd.model_copy(update={"rcd": shared_rcd.rcd.model_copy(update=update)})
            if shared_rcd.id == group
            else shared_rcd
            for shared_rcd in board.shared_rcds
        )
        return board.model_copy(update={"shared_rcds": rcds})
    switch = board.main_switch
    if switch is None or switch.rcd is None:
        return None
    return board.model_copy(
        update={"main_switch": switch.model_copy(update={"rcd": switch.rcd.model_copy(update=update)})}
    )
