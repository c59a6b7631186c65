"""What a circuit feeds: the one definition that every check, the design and the planning of RCDs go by."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.document.job import Circuit, CircuitKind, Load, LoadKind
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.document.rooms import Room

#: What a circuit of a kind feeds whether or not it is listed: sockets have no appliance of their own until one is plugged in.
_OF_KIND: Mapping[CircuitKind, LoadKind] = {"ring": "socket", "radial": "socket", "lighting": "lamp"}


def loads_of(circuit: Circuit) -> tuple[Load, ...]:
    """The loads of a circuit, with the sockets or lights that its kind implies where none is listed.

    The one that is implied is not counted, and in no room unless all the others are in the same one.
    """
    implied = _OF_KIND.get(circuit.kind)
    if implied is None or any(load.kind == implied for load in circuit.loads):
        return circuit.loads
    rooms = {load.room for load in circuit.loads}
    room = rooms.pop() if len(rooms) == 1 else None
    return (*circuit.loads, Load(name=circuit.name, kind=implied, count=None, room=room))


def feeds_sockets(circuit: Circuit) -> bool:
    """Whether people plug things into the circuit: it is a socket circuit, or one of its loads is or has a socket-outlet."""
    return any(load.kind == "socket" or load.with_socket for load in loads_of(circuit))


def feeds_lights(circuit: Circuit) -> bool:
    """Whether the circuit has lights."""
    return any(load.kind == "lamp" for load in loads_of(circuit))


def feeds_fixed(circuit: Circuit) -> bool:
    """Whether the circuit has equipment other than sockets and lights."""
    return any(load.kind not in ("socket", "lamp") for load in loads_of(circuit))


def feeds_kind(circuit: Circuit, *kinds: str) -> bool:
    """Whether one of the circuit's loads is of one of the kinds."""
    return any(load.kind in kinds for load in loads_of(circuit))


def must_stay_on(circuit: Circuit) -> bool:
    """Whether the circuit has a load that must stay on when something else trips; alarms always must."""
    return any(load.essential or load.kind == "alarm" for load in circuit.loads)


def rooms_of(circuit: Circuit, rooms: Mapping[str, Room]) -> tuple[tuple[Room, ...], bool]:
    """The rooms that the circuit's loads are in, and whether the room of each is known."""
    loads = loads_of(circuit)
    named = dict.fromkeys(load.room for load in loads if load.room is not None)
    return tuple(rooms[room] for room in named), all(load.room is not None for load in loads)


def served_by(circuit: Circuit, device: LocalDevice) -> tuple[Load, ...]:
    """The loads behind a local device: those it names, else those at or beyond its place; where neither tells, all of the circuit."""
    loads = loads_of(circuit)
    if device.serves:
        return tuple(load for load in loads if load.name in device.serves)
    if device.at_m is None:
        return loads
    return tuple(load for load in loads if load.along_m is None or load.along_m >= device.at_m)
