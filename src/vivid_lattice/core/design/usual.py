"""What is usually fitted for a circuit: the row of the customary circuits that its kind and size lead to."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from vivid_lattice.core.document.job import Circuit, Job, Load
from vivid_lattice.core.document.rooms import Room, RoomKind
from vivid_lattice.core.document.supply import Curve
from vivid_lattice.core.entry.appliance import appliance_of
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.rules.customary import UsualCircuit, customary
from vivid_lattice.core.rules.protocol import DeviceKind, RuleSet
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True, kw_only=True)
class Usual:
    """The usual device and conductor of a circuit. ``rating_a`` None: by the label of what is connected; ``rcd``: a 30 mA RCD
    protects it."""

    device: str
    curve: Curve | None
    rating_a: float | None
    area_mm2: float
    rcd: bool


#: No smaller breaker [A] and conductor [mm²] is usual for a source. Common practice, no source.
_SOURCE_A, _SOURCE_MM2 = 16.0, 2.5
#: Sockets of a room of a kind: keys of the customary circuits, of which a standard has one.
_ROOM_SOCKETS: dict[RoomKind, tuple[str, ...]] = {
    "kitchen": ("kitchen-sockets", "small-appliance"),
    "laundry": ("laundry-sockets", "utility-sockets", "laundry"),
    "bath": ("bathroom-sockets", "bathroom"),
    "garage": ("garage-sockets", "garage"),
    "outdoors": ("outdoor-sockets", "outdoor"),
    "basement": ("basement",),
}


def usual_of(
    circuit: Circuit,
    rules: RuleSet,
    rooms: Mapping[str, Room],
    running_a: Callable[[], float],
    nominal_v: float,
) -> Usual | None:
    """What is usual for a circuit; of several kinds of load the largest device and conductor. None where no row fits.

    running_a  current of the circuit [A], requested only where a row goes by it
    Source     customary circuits of the standard: common practice, no source
    """
    if circuit.source is not None and not circuit.loads:
        return _of_source(rules)
    fitting = (_row(circuit, key, rules, running_a, nominal_v) for key in customary_kinds(circuit, rules, rooms))
    rows = [row for row in fitting if row is not None]
    if not rows:
        return None
    largest = max(rows, key=lambda row: (row.rating_a or 0.0, _area(row, rules)))
    usual = Usual(
        device=largest.device,
        curve=largest.curve,
        rating_a=largest.rating_a,
        area_mm2=max(_area(row, rules) for row in rows),
        rcd=any(row.rcd for row in rows),
    )
    return _without_rcd(usual, rules) if _has_local_rcd(circuit) else usual


def _has_local_rcd(circuit: Circuit) -> bool:
    """Whether an RCD at an outlet or along the cable takes the place of one in the board, as far as the standard permits."""
    return any(device.rcd is not None for device in circuit.local_devices)


def _without_rcd(usual: Usual, rules: RuleSet) -> Usual:
    plain = _plain_breaker(rules)
    if plain is None or not rules.devices.kinds[usual.device].has_rcd:
        return usual
    curve = usual.curve if usual.curve in plain.curves else plain.usual_curve
    return replace(usual, device=plain.id, curve=curve if plain.curves else None, rcd=False)


def _plain_breaker(rules: RuleSet) -> DeviceKind | None:
    """The standard's breaker without a residual-current part; None where it has none."""
    kinds = (kind for kind in rules.devices.kinds.values() if kind.action == "breaker" and kind.current)
    return next((kind for kind in kinds if not kind.has_rcd), None)


def usual_form(circuit: Circuit, rules: RuleSet, rooms: Mapping[str, Room]) -> Usual | None:
    """What kind of device is usual for a circuit of which neither size nor run is known: the first row of its kind, without its
    rating and conductor. None where no row is of its kind."""
    if circuit.source is not None and not circuit.loads:
        return _of_source(rules)
    for key in customary_kinds(circuit, rules, rooms):
        for row in customary(rules.id).circuits:
            if (row.kind, row.circuit) == (key, circuit.kind):
                usual = Usual(device=row.device, curve=row.curve, rating_a=None, area_mm2=0.0, rcd=row.rcd)
                return _without_rcd(usual, rules) if _has_local_rcd(circuit) else usual
    return None


def _of_source(rules: RuleSet) -> Usual | None:
    """A breaker without an RCD, which current may run through in both directions; one with an RCD only where that is required. Common
    practice, no source."""
    plain = _plain_breaker(rules)
    if plain is None:
        return None
    rating_a = min(rating for rating in plain.ratings_a if rating >= _SOURCE_A)
    sizes = rules.cables.kinds[rules.default_cable].sizes_mm2
    area_mm2 = min(size for size in sizes if size >= _SOURCE_MM2)
    return Usual(device=plain.id, curve=plain.usual_curve, rating_a=rating_a, area_mm2=area_mm2, rcd=False)


def customary_kinds(circuit: Circuit, rules: RuleSet, rooms: Mapping[str, Room]) -> list[str]:
    """Keys of the customary circuits that a circuit is of."""
    if circuit.kind == "distribution":
        buried = any(rules.factors.methods[section.method].medium == "ground" for section in circuit.run)
        return ["feeder" if buried else "feeder-inside"]
    keys = [
        _of_room(circuit, load, rules, rooms) or appliance_of(load, rules) or _plain(circuit, load, rules)
        for load in circuit.loads
    ]
    return list(dict.fromkeys(key for key in keys if key))


def _of_room(circuit: Circuit, load: Load, rules: RuleSet, rooms: Mapping[str, Room]) -> str:
    """The key of sockets that stand in a room which has customary circuits of its own."""
    room = rooms.get(load.room or "") if load.kind == "socket" else None
    keys = _ROOM_SOCKETS.get(room.kind, ()) if room else ()
    return next(
        (row.kind for row in customary(rules.id).circuits if row.kind in keys and row.circuit == circuit.kind), ""
    )


def _plain(circuit: Circuit, load: Load, rules: RuleSet) -> str:
    """The key by the kinds of load and circuit alone: the first row of both."""
    rows = customary(rules.id).circuits
    return next((row.kind for row in rows if (row.load, row.circuit) == (load.kind, circuit.kind)), "")


def _row(
    circuit: Circuit, key: str, rules: RuleSet, running_a: Callable[[], float], nominal_v: float
) -> UsualCircuit | None:
    rows = [row for row in customary(rules.id).circuits if row.kind == key and row.circuit == circuit.kind]
    phases = 3 if len(circuit.lines) == 3 else 1
    same = [row for row in rows if row.phases == phases]
    # A row of other phases is a minimum too, where none of the circuit's own fits.
    for row in (*same, *(row for row in rows if row.phases != phases)):
        if not row.by or row.over < _value(circuit, row, rules, running_a, nominal_v) <= row.upto * (1 + SLACK):
            return row
    if (
        circuit.kind == "distribution"
        and same
        and _value(circuit, same[-1], rules, running_a, nominal_v) > same[-1].upto
    ):
        # A feeder past the last row has the kind of device of that row, and the rest by calculation.
        return replace(same[-1], rating_a=None, size="")
    return None


def _value(
    circuit: Circuit, row: UsualCircuit, rules: RuleSet, running_a: Callable[[], float], nominal_v: float
) -> float:
    """What the band of a row goes by: kW connected (by the label, whatever its voltage), running current [A], or metres of run."""
    if row.by == "A":
        return running_a()
    if row.by == "m":
        return run_length_m(circuit)
    loads = [load for load in circuit.loads if (appliance_of(load, rules) or row.kind) == row.kind]
    power_w = sum((load.power_w or 0.0) * load.items for load in loads)
    return (power_w or _stated_power_w(circuit, nominal_v)) / 1000


def _area(row: UsualCircuit, rules: RuleSet) -> float:
    """The conductor of a row [mm²]."""
    named = {size.label: size.area_mm2 for kind in rules.cables.kinds.values() for size in kind.sizes}
    return next((area for label, area in named.items() if label.split(" ")[0] == row.size), 0.0)


def usual_in(job: Job, circuit: Circuit, rules: RuleSet) -> Usual | None:
    """What is usual for a circuit, where the job's setting goes by it and nothing that it goes by is missing."""
    if not job.settings.design_usual:
        return None

    def running_a() -> float:
        return Installation.of(job, rules).drops.design_current(circuit).current_a

    try:
        rooms = {room.id: room for room in job.rooms}
        return usual_of(circuit, rules, rooms, running_a, job.supply.nominal_v)
    except NeedsInput:
        return None


def _stated_power_w(circuit: Circuit, nominal_v: float) -> float:
    """Power of a circuit whose design current is stated [W], on one line or three; 0 where it is not."""
    lines = 3 if len(circuit.lines) == 3 else 1
    return (circuit.design_current_a or 0.0) * nominal_v * lines
