"""A typed line as a new circuit of a job, with what was assumed where the line says nothing."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, cast

from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.clean_earth import CleanEarth
from vivid_lattice.core.document.energy_source import EnergySource
from vivid_lattice.core.document.job import (
    Board,
    Cable,
    Circuit,
    CircuitKind,
    Device,
    FedByWay,
    Job,
    Line,
    Load,
    LoadKind,
    Preferred,
    Section,
    Way,
    free_id,
)
from vivid_lattice.core.document.local_device import WITH_FUSE, WITH_RCD, LocalDevice, LocalDeviceKind
from vivid_lattice.core.document.local_earthing import OF_POINTS, LocalEarthing, LocalEarthingKind
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.entry.circuit_phases import CircuitPhases
from vivid_lattice.core.entry.devices import OLD_DEVICES
from vivid_lattice.core.entry.parse import parse_line
from vivid_lattice.core.entry.parsed_line import ParsedLine, TypedLoad, Unused, unused_text
from vivid_lattice.core.entry.rooms import with_room
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.formulas.load_currents import driving_v
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.protocol import CableKind, DeviceKind, RuleSet

#: Power factor by kind of load: common practice, no source. Loads that are plain resistance need none.
_POWER_FACTORS: dict[LoadKind, float] = {
    "lamp": 0.9, "alarm": 0.9, "motor": 0.8, "dryer": 1.0, "air-conditioner": 0.9, "welder": 0.7, "appliance": 0.9, "charger": 1.0,
}  # fmt: skip
#: Power factor of a control circuit: its coils. Common practice, no source.
_CONTROL_FACTOR = 0.5
#: Rating of a fused connection unit [A]: BS 1363-4 (from memory).
_FUSED_UNIT_A = 13.0
#: Words that are written in capitals on a chart, however they are typed.
_ABBREVIATED = frozenset({"ac", "cctv", "ev", "led", "pv", "tv", "ups", "usb"})
#: Ways of a board in another building, until it is laid out: common practice, no source.
_FURTHER_WAYS = 6


@dataclass(frozen=True, slots=True)
class Entry:
    """A job with the new circuit in it, its id, its line as read, what was assumed where that says nothing, and what was not used."""

    job: Job
    circuit: str
    line: ParsedLine
    assumed: tuple[Text, ...]
    unused: tuple[Unused, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadCircuit:
    """A circuit as a line states it, the rooms of the job with those it adds, what was assumed, what was not used.

    ``board_earthing``: of the board that a feeder leads to, which the line states with it.
    """

    circuit: Circuit
    rooms: tuple[Room, ...]
    assumed: tuple[Text, ...]
    unused: tuple[Unused, ...]
    shared_rcd: bool
    isolator_a: float | None = None
    board_earthing: LocalEarthing | None = None


def _shared_rcd(board: Board, assumed: list[Text], unused: list[Unused]) -> str | None:
    """The shared RCD that a typed 'RCD' means: the only one of its board."""
    if len(board.shared_rcds) == 1:
        assumed.append(message(None, "core.entry.circuit.behind", rcd=board.shared_rcds[0].name))
        return board.shared_rcds[0].id
    which = message(None, "core.entry.circuit.which_rcd", board=board.name, n=len(board.shared_rcds))
    unused.append(Unused("RCD", which))
    return None


def _isolator(circuit: Circuit, rating_a: float, taken: set[str]) -> ControlGear:
    return ControlGear(
        id=free_id(f"iso-{circuit.id}", taken),
        name=f"Isolator, {circuit.name}"[:120],
        kind="isolator",
        rating_a=rating_a,
        switches=(circuit.id,),
    )


def add_entry(job: Job, text: str, board_id: str, *, accept: bool = False) -> Entry:
    """The job with a typed line added as a circuit in the first free way of a board.

    accept   a token that nothing uses is put into the circuit's notes; without it the line is refused
    Raises   EntryNotUnderstood with what the line lacks or what in it is not used; the job given is left as it was
    """
    board = job.find_board(board_id)
    if board is None:
        raise EntryNotUnderstood(text, message(None, "core.entry.circuit.no_board", id=board_id))
    number = free_way(board)
    if number is None:
        raise EntryNotUnderstood(text, message(None, "core.entry.circuit.full", board=board.name, n=board.way_count))
    rules = rule_set(job.job.rules)
    line = parse_line(text, rules, job.rooms)
    read = read_circuit(line, job, rules)
    assumed, unused = list(read.assumed), list(read.unused)
    rcd = _shared_rcd(board, assumed, unused) if read.shared_rcd else None
    circuit = read.circuit
    if unused and not accept:
        raise EntryNotUnderstood(text, unused_text(unused))
    if unused:
        notes = "; ".join([*filter(None, [circuit.notes]), *(token.text for token in unused)])
        circuit = circuit.model_copy(update={"notes": notes})
    gear = board.control_gear
    if read.isolator_a is not None and read.isolator_a <= 125:
        gear = (*gear, _isolator(circuit, read.isolator_a, {other.id for other in gear}))
    ways = (*board.ways, Way(number=number, circuit=circuit.id, rcd=rcd))
    grown = board.model_copy(update={"ways": ways, "control_gear": gear})
    boards = tuple(grown if known.id == board.id else known for known in job.boards)
    if read.board_earthing is not None:
        further = _further_board(job, board, number, circuit, read.board_earthing)
        boards = (*boards, further)
        assumed.append(
            message(rules.words, "core.entry.circuit.further_board", board=further.name, n=further.way_count)
        )
    added = job.model_copy(update={"rooms": read.rooms, "boards": boards, "circuits": (*job.circuits, circuit)})
    assumed.append(message(None, "core.entry.circuit.way", n=number, board=board.name))
    return Entry(added, circuit.id, line, tuple(assumed), tuple(unused))


def _further_board(job: Job, board: Board, number: int, circuit: Circuit, earthing: LocalEarthing) -> Board:
    """The board that a typed feeder leads to, with the earth that its line states."""
    board_id = free_id("sub", {known.id for known in job.boards})
    return Board(
        id=board_id,
        name=circuit.name,
        fed_by=FedByWay(board=board.id, way=number),
        way_count=_FURTHER_WAYS,
        earthing=earthing,
    )


def free_way(board: Board) -> int | None:
    """The lowest way of a board that nothing is in, or None."""
    taken = {way.number for way in board.ways}
    return next((number for number in range(1, board.way_count + 1) if number not in taken), None)


def free_circuit_id(job: Job) -> str:
    """An id that no circuit of the job has yet."""
    taken = {circuit.id for circuit in job.circuits}
    return next(name for number in range(1, len(taken) + 2) if (name := f"c{number}") not in taken)


def read_circuit(line: ParsedLine, job: Job, rules: RuleSet) -> ReadCircuit:
    """The circuit that a parsed line states; its id is free in the job.

    Raises  EntryNotUnderstood where the line names no load, or contradicts the standard or the supply
    """
    return _CircuitReader(line, job, rules).read()


class _CircuitReader:
    def __init__(self, line: ParsedLine, job: Job, rules: RuleSet):
        self._line, self._job, self._rules = line, job, rules
        self._assumed: list[Text] = []
        self._unused: list[Unused] = list(line.unused)

    def read(self) -> ReadCircuit:
        line = self._line
        kind = self._kind()
        rooms, room_id = self._room(kind)
        loads = self._loads(kind, room_id)
        lines, neutral = CircuitPhases(line, self._job, self._rules, self._assumed).of(kind)
        drawn = self._drawn_a(kind)
        if line.length_m is None:
            self._assumed.append(message(None, "core.entry.circuit.no_length"))
        section = Section(
            length_m=line.length_m,
            method=self._method(),
            ambient_c=line.ambient_c,
            circuits_grouped=line.circuits_grouped or 1,
            in_insulation_mm=line.in_insulation_mm,
            depth_mm=line.depth_mm,
        )
        circuit = Circuit(
            id=free_circuit_id(self._job),
            name=self._name(),
            kind=kind,
            loads=loads,
            lines=lines,
            neutral=neutral,
            distributed_load=line.distributed,
            design_current_a=line.current_a if drawn is None else drawn,
            source=self._source(lines),
            local_devices=self._local_devices(loads),
            clean_earth=CleanEarth() if line.clean_earth else None,
            use=line.use if line.use in self._rules.uses else None,
            run=(section,),
            notes="; ".join(line.notes),
        )
        circuit = circuit.model_copy(update={"cable": self._cable(circuit)})
        earthing = self._earthing()
        if kind != "distribution" and earthing is not None:
            circuit = circuit.model_copy(update={"earthing": self._of_points(earthing)})
        device = self._device(circuit) if drawn is None else "auto"
        circuit = circuit.model_copy(update={"device": device, "preferred": self._preferred(circuit, device)})
        return ReadCircuit(
            circuit=circuit,
            rooms=rooms,
            assumed=tuple(self._assumed),
            unused=tuple(self._unused),
            shared_rcd=line.shared_rcd,
            isolator_a=line.isolator_a,
            board_earthing=earthing if kind == "distribution" else None,
        )

    def _local_devices(self, loads: tuple[Load, ...]) -> tuple[LocalDevice, ...]:
        """An RCD at the outlets, or a fused unit: as typed, the fuse from beside the word for it. The rating of the unit is that of its
        outlet or fuse."""
        if self._line.local_devices:
            return self._line.local_devices
        notes = " ".join(self._line.notes)
        fused = re.search(
            r"(?:fcu|fused|spur)\D{0,12}?(\d+(?:\.\d+)?)\s*a?\b|(\d+(?:\.\d+)?)\s*a\b\s*(?:fcu|fused)",
            notes,
            re.IGNORECASE,
        )
        fuse_a = float(fused.group(1) or fused.group(2)) if fused else None
        unit = any(word in notes.casefold() for word in ("fcu", "fused", "switched spur"))
        kinds: list[LocalDeviceKind] = list(self._line.local) or (["fused-unit"] if unit else [])
        devices: list[LocalDevice] = []
        for kind in dict.fromkeys(kinds):
            rcd = self._usual_local_rcd() if kind in WITH_RCD else None
            label = message(self._rules.words, f"core.entry.local.{kind}")
            devices.append(
                LocalDevice(
                    name=f"{label} {number}" if (number := len(devices)) else str(label),
                    kind=kind,
                    rcd=rcd,
                    rating_a=None if kind == "rcd-outlet" else _FUSED_UNIT_A,
                    fuse_a=fuse_a if kind in WITH_FUSE else None,
                )
            )
        return tuple(devices) if loads else ()

    def _usual_local_rcd(self) -> Rcd:
        """The residual-current part of an outlet: the usual one of the standard's devices."""
        usual = next(
            (kind.usual_rcd for kind in self._rules.devices.kinds.values() if kind.usual_rcd is not None), None
        )
        rcd = usual or Rcd(idn_ma=30.0)
        self._assumed.append(message(None, "core.entry.circuit.rcd_ma", ma=f"{rcd.idn_ma:g}"))
        return rcd

    def _source(self, lines: tuple[Line, ...]) -> EnergySource | None:
        """A source as typed: its power as the current of each of its lines."""
        line, supply = self._line, self._job.supply
        if line.source is None:
            return None
        if line.source_a is not None:
            return EnergySource(kind=line.source, rated_a=line.source_a)
        if line.source_w is None:
            self._assumed.append(message(None, "core.entry.circuit.no_power"))
            return EnergySource(kind=line.source)
        count = len(lines) or 1
        rated_a = line.source_w / driving_v(count, supply.phases, supply.nominal_v)
        return EnergySource(kind=line.source, rated_a=min(400.0, round(rated_a, 2)))

    def _earthing(self) -> LocalEarthing | None:
        """What the line says of the earth. In North America an electrode is beside the conductor that comes with the feeder."""
        typed = set(self._line.earth)
        if not typed:
            return None
        kind: LocalEarthingKind
        if "neutral-link" in typed:
            kind = "neutral-link"
        elif "electrode" in typed:
            alone = self._rules.earthing.local_earthing("electrode")
            refused = alone is not None and not alone.value
            kind = "exported-and-electrode" if "exported" in typed or refused else "electrode"
        else:
            kind = "exported" if "exported" in typed else "same-building"
        return LocalEarthing(kind=kind, electrode_ohm=self._line.electrode_ohm)

    def _of_points(self, earthing: LocalEarthing) -> LocalEarthing | None:
        """The earth of a circuit's points: an electrode, or None where it is that of its board."""
        if earthing.kind == "neutral-link":
            self._unused.append(Unused("MEN", message(self._rules.words, "core.entry.circuit.link_of_board")))
        return earthing if earthing.kind in OF_POINTS else None

    def _drawn_a(self, kind: CircuitKind) -> float | None:
        """A bare current of fixed equipment as what it draws: of equipment that is known by its running current, as a heat pump
        is; of a feeder, whose board is not there yet; and of any other where no device is made in it. A device's rating otherwise."""
        typed, devices = self._line.device, self._rules.devices.kinds.values()
        bare = typed.kind is None and typed.curve is None and typed.rcd_ma is None
        if (
            kind not in ("fixed", "distribution")
            or not bare
            or typed.rating_a is None
            or self._line.current_a is not None
        ):
            return None
        loads = self._line.loads
        if kind == "distribution":
            self._assumed.append(message(None, "core.entry.circuit.feeder_current", a=f"{typed.rating_a:g}"))
            return typed.rating_a
        if len(loads) == 1 and loads[0].kind in self._by_current and loads[0].power_w is None:
            self._assumed.append(message(None, "core.entry.circuit.running_current", a=f"{typed.rating_a:g}"))
            return typed.rating_a
        if any(typed.rating_a in device.ratings_a for device in devices if device.current):
            return None
        self._assumed.append(
            message(None, "core.entry.circuit.drawn_current", a=f"{typed.rating_a:g}", b=f"{typed.rating_a:g}")
        )
        return typed.rating_a

    @property
    def _by_current(self) -> frozenset[str]:
        """Kinds of equipment whose customary circuits go by the running current."""
        return frozenset(row.kind for row in customary(self._rules.id).circuits if row.by == "A")

    def _name(self) -> str:
        """The words of the line, beginning with a capital, its room behind a comma unless they name it."""
        line = self._line
        if line.name_given:
            return line.name[:120]
        in_name = line.room is None or line.room.name.casefold() in line.name.casefold()
        # German writes its nouns with a capital.
        room = "" if line.room is None else line.room.name if self._rules.id == "iec-de" else line.room.name.lower()
        where = "" if in_name or line.room is None else f", {room}"
        name = " ".join(word.upper() if word.casefold() in _ABBREVIATED else word for word in line.name.split(" "))
        return f"{name[:1].upper()}{name[1:]}{where}"[:120]

    # ------------------------------------------------------------------------------------------ what it feeds

    def _kind(self) -> CircuitKind:
        line = self._line
        if line.kind is not None:
            return line.kind
        if line.source is not None:
            return "fixed"
        if not line.loads:
            raise EntryNotUnderstood(line.text, self._no_load())
        if line.circuit == "ring" and any(load.load == "socket" for load in line.loads):
            return "ring"
        kind = _foremost_kind([load.circuit for load in line.loads])
        ring_refused = kind == "ring" and (line.circuit == "radial" or not self._rules.limits.knows_rings)
        return "radial" if ring_refused else kind

    def _no_load(self) -> Message:
        name, unused = self._line.name, self._line.unused
        known = message(None, "core.entry.circuit.known_loads")
        source = next((token for token in unused if token.text == self._line.source_word), None)
        if source is not None:
            return unused_text([source])
        if not self._line.text.strip():
            return message(None, "core.entry.circuit.empty")
        if not name:
            lacks = message(None, "core.entry.circuit.no_load", list=known)
            return message(None, "core.phrase.two_sentences", a=lacks, b=unused_text(unused)) if unused else lacks
        ring = next((token for token in unused if token.text.casefold() == "ring"), None)
        if ring is not None:
            return unused_text([ring])
        return message(None, "core.entry.circuit.unknown_load", name=name, list=known)

    def _room(self, kind: CircuitKind) -> tuple[tuple[Room, ...], str | None]:
        named = self._line.room
        if named is None or kind == "distribution":
            return self._job.rooms, None
        rooms, room_id = with_room(self._job.rooms, named)
        if len(rooms) > len(self._job.rooms):
            kind_text = message(None, f"core.entry.room.{named.kind}")
            self._assumed.append(message(None, "core.entry.circuit.room_added", room=named.name, kind=kind_text))
        return rooms, room_id

    def _loads(self, kind: CircuitKind, room_id: str | None) -> tuple[Load, ...]:
        if kind == "distribution":
            if any(load.power_w is not None for load in self._line.loads):
                self._unused.append(Unused("power", message(None, "core.entry.circuit.feeder_power")))
            return ()
        loads = tuple(self._load(load, room_id) for load in self._line.loads if load.load is not None)
        if self._line.current_a is None and _without_power(loads):
            self._assumed.append(message(None, "core.entry.circuit.no_power"))
        return loads

    def _load(self, typed: TypedLoad, room_id: str | None) -> Load:
        assert typed.load is not None
        points = typed.load in ("socket", "lamp")
        return Load(
            name=typed.name[:120],
            kind=typed.load,
            appliance=typed.kind or None,
            count=typed.count if points else typed.count or 1,
            power_w=typed.power_w,
            power_factor=self._power_factor(typed),
            room=room_id,
            with_socket=self._line.with_socket and typed.load == "cooker",
            continuous=self._line.continuous,
            open_pen_protection=True if self._line.open_pen and typed.load == "charger" else None,
        )

    def _power_factor(self, typed: TypedLoad) -> float | None:
        if typed.load == "socket":
            return None
        if self._line.power_factor is not None:
            return self._line.power_factor
        assert typed.load is not None
        usual = _CONTROL_FACTOR if typed.circuit == "control" else _POWER_FACTORS.get(typed.load)
        if usual is not None and usual != 1.0:
            self._assumed.append(message(None, "core.entry.circuit.power_factor", value=f"{usual:g}"))
        return usual

    # ------------------------------------------------------------------------------------------ run, cable, device

    def _method(self) -> str:
        if self._line.method is not None:
            return self._line.method
        method = self._rules.factors.methods[self._rules.default_method]
        self._assumed.append(message(None, "core.entry.circuit.method", id=method.id, title=method.title.lower()))
        return method.id

    def _cable(self, circuit: Circuit) -> Cable | Literal["auto"]:
        line, kinds = self._line, self._rules.cables.kinds
        if line.conductor is None:
            return "auto"
        kind = kinds.get(line.cable or "") or self._usual_cable(circuit)
        if line.cable is None:
            self._assumed.append(message(None, "core.entry.circuit.cable", title=kind.title))
        if line.conductor.area_mm2 not in kind.sizes_mm2:
            sizes = ", ".join(size.label for size in kind.sizes)
            raise EntryNotUnderstood(
                line.text,
                message(
                    None,
                    "core.entry.circuit.cable_size",
                    title=kind.title,
                    area=f"{line.conductor.area_mm2:g}",
                    list=sizes,
                ),
            )
        choices: Sequence[str] = kind.cpc_choices
        cpc = "separate" if line.cpc_separate and "separate" in choices else choices[0]
        return Cable.model_validate(
            {"type": kind.id, "area_mm2": line.conductor.area_mm2, "cpc": cpc, "cpc_mm2": line.cpc_mm2}
        )

    def _usual_cable(self, circuit: Circuit) -> CableKind:
        """The usual cable for how the circuit is installed."""
        buried = self._rules.factors.methods[circuit.run[0].method].medium == "ground"
        indoors = self._rules.default_three_phase_cable if len(circuit.lines) == 3 else self._rules.default_cable
        return self._rules.cables.kinds[self._rules.default_buried_cable if buried else indoors]

    def _device(self, circuit: Circuit) -> Device | Literal["auto"]:
        typed = self._line.device
        if typed.kind is not None and typed.kind in OLD_DEVICES:
            self._unused.append(Unused(OLD_DEVICES[typed.kind], message(None, "core.entry.circuit.old_device")))
            return "auto"
        if typed.rating_a is None:
            return "auto"
        kind = self._device_kind(circuit)
        if typed.rating_a not in kind.ratings_a:
            ratings = ", ".join(f"{rating:g}" for rating in kind.ratings_a)
            self._unused.append(
                Unused(
                    f"{typed.rating_a:g}A",
                    message(None, "core.entry.circuit.no_rating", device=kind.title, list=ratings),
                )
            )
            return "auto"
        curve = typed.curve or kind.usual_curve
        if typed.curve is not None and typed.curve not in kind.curves:
            self._unused.append(
                Unused(
                    f"curve {typed.curve}",
                    message(None, "core.entry.circuit.no_curve", device=kind.title, curve=typed.curve),
                )
            )
            curve = kind.usual_curve
        if kind.curves and typed.curve is None:
            self._assumed.append(message(None, "core.entry.circuit.curve", curve=str(curve)))
        if typed.old_type is not None:
            self._unused.append(Unused(f"type {typed.old_type}", message(None, "core.entry.circuit.old_mark")))
        return Device(
            kind=kind.id,
            curve=curve if kind.curves else None,
            rating_a=typed.rating_a,
            breaking_ka=typed.breaking_ka,
            rcd=self._rcd(kind),
            arc_fault=typed.arc_fault,
            modules=typed.modules,
            switches_neutral=typed.switches_neutral,
        )

    def _device_kind(self, circuit: Circuit) -> DeviceKind:
        """The typed kind of device; with a residual current or without, where only that is typed."""
        typed = self._line.device
        kind = self._rules.devices.kinds.get(typed.kind or "")
        if kind is None:
            kind = self._usual_kind(circuit)
            if not typed.typed:
                self._assumed.append(message(None, "core.entry.circuit.device", device=kind.title.lower()))
        elif self._residual() and not kind.has_rcd:
            text = f"{typed.rcd_ma:g}mA" if typed.rcd_ma is not None else f"type {typed.rcd_type}"
            self._unused.append(Unused(text, message(None, "core.entry.circuit.no_rcd", device=kind.short)))
        return kind

    def _usual_kind(self, circuit: Circuit) -> DeviceKind:
        """The standard's usual kind, or the first breaker with, or without, a residual-current part as typed."""
        kinds = self._rules.devices.kinds
        usual = kinds[self._rules.devices.default_device(circuit, self._line.device.rating_a or 16.0).kind]
        if usual.has_rcd == bool(self._residual()):
            return usual
        breakers = (kind for kind in kinds.values() if kind.action == "breaker" and kind.has_rcd != usual.has_rcd)
        return next(kind for kind in breakers if kind.has_rcd or kind.current)

    def _residual(self) -> bool:
        typed = self._line.device
        return typed.rcd_ma is not None or (typed.rcd_type is not None and not self._line.shared_rcd)

    def _rcd(self, kind: DeviceKind) -> Rcd | None:
        if not kind.has_rcd:
            return None
        typed, usual = self._line.device, kind.usual_rcd
        idn = typed.rcd_ma or (usual.idn_ma if usual else 30.0)
        if typed.rcd_ma is None:
            self._assumed.append(message(None, "core.entry.circuit.rcd_ma", ma=f"{idn:g}"))
        given = typed.rcd_type or (usual.type if usual else "A")
        if typed.rcd_type is None:
            self._assumed.append(f"RCD type {given}, as usual")
        return Rcd(idn_ma=idn, type=cast(Literal["AC", "A", "F", "B"], given), time_delayed=typed.rcd_delayed)

    def _preferred(self, circuit: Circuit, device: Device | Literal["auto"]) -> Preferred | None:
        """What was typed of a cable without its size and of a device without its rating."""
        line, typed = self._line, self._line.device
        cable = line.cable if line.conductor is None else None
        stated = any((typed.kind, typed.curve, typed.rcd_ma, typed.rcd_type, typed.arc_fault, typed.modules))
        stated = stated or typed.switches_neutral is not None
        if device != "auto" or not stated or typed.kind in OLD_DEVICES or typed.rating_a is not None:
            return Preferred(cable=cable) if cable else None
        kind = self._device_kind(circuit)
        return Preferred(
            cable=cable,
            device=kind.id,
            curve=typed.curve,
            rcd=self._rcd(kind),
            arc_fault=typed.arc_fault,
            modules=typed.modules,
            switches_neutral=typed.switches_neutral,
        )


def _without_power(loads: Sequence[Load]) -> bool:
    """Whether something that is not an outlet has no power."""
    return any(load.power_w is None for load in loads if load.kind != "socket")


_FOREMOST: tuple[CircuitKind, ...] = ("ring", "radial", "distribution", "fixed", "lighting", "control")


def _foremost_kind(kinds: Sequence[CircuitKind | None]) -> CircuitKind:
    """The kind of circuit that loads of several kinds make together: outlets before fixed equipment, that before lights."""
    return next((kind for kind in _FOREMOST if kind in kinds), "fixed")
