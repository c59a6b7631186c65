"""What is on a board's rails: every device with its width, its poles and what it is fed from."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import partial

from vivid_lattice.core.board.layout.device_kinds import GEAR, KINDS, BoardDeviceKind, KindTraits
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.device_family import DeviceFamily, packaged
from vivid_lattice.core.document.job import LINES, Board, Circuit, Device, Job, Line, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.surge_and_relay import Spd, VoltageRelay
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protocol import RuleSet

#: Where a unit gets its supply from: the board's own bus, or ahead of its main switch.
BUS, AHEAD = "bus", "ahead"
#: Terminals of a coil.
_COIL = ("A1", "A2")
#: Terminal of an impulse relay that switches it off with others.
CENTRAL = "OFF"
#: Breaker of a control circuit where none is stated [A]. Common practice, no source.
_CONTROL_BREAKER_A = 6.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardDevice:
    """A device on a rail.

    ``poles``: conductors that run through it, in the order of its terminals from the left; ``taps``: further terminals, that it only
    takes a supply from. ``feed``: what it is fed from, a unit's id or ``bus`` or ``ahead``. ``flying_lead``: its neutral comes as a
    flying lead. ``wide``: modules; 0 of what has a place of its own in the enclosure.
    """

    id: str
    kind: BoardDeviceKind
    name: Text
    mark: str
    wide: float
    poles: tuple[str, ...]
    taps: tuple[str, ...]
    feed: str
    rating_a: float | None
    family: DeviceFamily | None = None
    circuit: Circuit | None = None
    rcd: Rcd | None = None
    gear: ControlGear | None = None
    surge: Spd | None = None
    flying_lead: bool = False
    #: Poles that run through it unbroken: the neutral of what does not switch it.
    unbroken: tuple[str, ...] = ()

    @property
    def switched(self) -> tuple[str, ...]:
        """The poles that it switches."""
        return tuple(pole for pole in self.poles if pole not in self.unbroken)

    @property
    def is_half(self) -> bool:
        """Whether it is one of two breakers that share the place of one."""
        return 0 < self.wide < 1

    @property
    def traits(self) -> KindTraits:
        """What its kind does in a board."""
        return KINDS[self.kind]

    @property
    def lines(self) -> tuple[str, ...]:
        """The line conductors among its poles."""
        return tuple(pole for pole in self.poles if pole != "N")


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardDevices:
    """All devices of a board, from its supply outwards, the ways in the order of their numbers."""

    board: Board
    lines: tuple[Line, ...]
    all: tuple[BoardDevice, ...]
    by_id: Mapping[str, BoardDevice]
    #: Circuits whose device is not chosen yet, or whose lines are not known: they cannot be placed.
    open: tuple[Circuit, ...]


def family_of(job: Job, name: str | None) -> DeviceFamily | None:
    """A family by its id, among the user's own and those that come with the program."""
    if name is None:
        return None
    return next((family for family in (*job.families, *packaged()) if family.id == name), None)


def board_devices_of(job: Job, rules: RuleSet, tree: Tree, board: Board) -> BoardDevices:
    """Every device of a board. NeedsInput where the lines that reach the board are not known."""
    lines = tree.board_lines(board)
    open_: list[Circuit] = []
    devices = list(_units(job, rules, tree, board, lines, open_))
    return BoardDevices(
        board=board, lines=lines, all=tuple(devices), by_id={device.id: device for device in devices}, open=tuple(open_)
    )


def _relay(rules: RuleSet, relay: VoltageRelay, lines: tuple[Line, ...]) -> BoardDevice:
    return BoardDevice(
        id="relay",
        kind="relay",
        name=message(rules.words, "core.device.relay"),
        mark=f"{relay.under_v:g}–{relay.over_v:g} V",
        wide=rules.board.width("voltage relay", "3P" if len(lines) > 1 else "1P").value,
        poles=lines,
        taps=("N",),
        feed=BUS,
        rating_a=relay.rating_a,
    )


def _gear_behind(board: Board, circuit: Circuit) -> list[ControlGear]:
    """Control gear on the rail between a circuit's device and its cable."""
    return [
        gear
        for gear in board.control_gear
        if GEAR[gear.kind].on_rail and not GEAR[gear.kind].upstream and gear.switches[0] == circuit.id
    ]


def _units(
    job: Job, rules: RuleSet, tree: Tree, board: Board, lines: tuple[Line, ...], open_: list[Circuit]
) -> Iterator[BoardDevice]:
    stab = board.build.enclosure is not None and board.build.enclosure.form == "panelboard"
    if board.main_switch is not None:
        yield _main(job, rules, board.main_switch, lines, stab)
    if board.voltage_relay is not None:
        yield _relay(rules, board.voltage_relay, lines)
    ahead = board.main_switch is not None and board.main_switch.rcd is not None
    for device in board.spds:
        yield from _surge(rules, device, lines, AHEAD if ahead else BUS, stab)
    for gear in leads_of_central_off(board):
        yield _coil_breaker(rules, gear, gear.central_off or "", lines)
    contactors = [gear for gear in board.control_gear if GEAR[gear.kind].upstream]
    switched = {name: f"gear:{gear.id}" for gear in contactors for name in gear.switches}
    for gear in contactors:
        yield from _contactor(job, rules, gear, lines)
    for group in board.shared_rcds:
        yield _group(job, rules, group, lines, switched.get(group.id, BUS))
    for way in sorted(board.ways, key=lambda way: way.number):
        circuit = tree.circuits[way.circuit]
        feed = f"rcd:{way.rcd}" if way.rcd else switched.get(circuit.id, BUS)
        supplied = or_none(partial(tree.supplied, circuit))
        if supplied is None or is_auto(circuit.device):
            open_.append(circuit)
            continue
        yield _way(job, rules, circuit, circuit.device, supplied.lines, feed, stab)
        for gear in _gear_behind(board, circuit):
            yield _behind(job, rules, gear, circuit, supplied.lines)


def _main(job: Job, rules: RuleSet, main: MainSwitch, lines: tuple[Line, ...], stab: bool) -> BoardDevice:
    breaks = main.switched_poles or rules.board.main.breaks
    poles = (*lines, "N") if breaks == "all" or main.rcd is not None else lines
    family = family_of(job, main.family)
    if stab:
        wide = 0.0
    elif family is not None and family.poles >= len(poles):
        wide = family.modules
    elif main.rcd is not None:
        wide = rules.board.width("RCCB", "2P" if len(lines) == 1 else "4P").value
    else:
        wide = rules.board.width("main switch", f"{min(4, max(2, len(poles)))}P").value
    mark = f"{main.rating_a:g} A" + (f" {main.rcd.idn_ma:g} mA" if main.rcd else "")
    return BoardDevice(
        id="main",
        kind="main",
        name=message(rules.words, "core.device.main"),
        mark=mark,
        wide=wide,
        poles=poles,
        taps=(),
        feed=AHEAD,
        rating_a=main.rating_a,
        family=family,
        rcd=main.rcd,
    )


def _group(job: Job, rules: RuleSet, group: SharedRcd, lines: tuple[Line, ...], feed: str) -> BoardDevice:
    family = family_of(job, group.family)
    kind = "RCCB type B" if group.rcd.type == "B" else "RCCB"
    poles = (*lines, "N")
    fits = family is not None and family.poles >= len(poles)
    wide = family.modules if family and fits else rules.board.width(kind, "2P" if len(lines) == 1 else "4P").value
    mark = f"{group.rating_a:g} A {group.rcd.idn_ma:g} mA {group.rcd.type}"
    return BoardDevice(
        id=f"rcd:{group.id}",
        kind="rcd",
        name=group.name,
        mark=mark,
        wide=wide,
        poles=poles,
        taps=(),
        feed=feed,
        rating_a=group.rating_a,
        family=family,
        rcd=group.rcd,
    )


def _surge(rules: RuleSet, device: Spd, lines: tuple[Line, ...], feed: str, stab: bool) -> Iterator[BoardDevice]:
    backup = f"backup:{device.id}" if device.form == "wired" and device.backup_a is not None else None
    if backup:
        # A pole a line: it parts the device from the lines, and nothing else is behind it.
        yield BoardDevice(
            id=backup,
            kind="backup",
            name=message(rules.words, "core.device.backup", spd=device.name),
            mark=f"{device.backup_a:g} A",
            wide=float(len(lines)),
            poles=lines,
            taps=(),
            feed=feed,
            rating_a=device.backup_a,
        )
    kind = "SPD type 1 or 1+2" if device.type.startswith("1") else "SPD type 2"
    wide = rules.board.width(kind, "1P+N" if len(lines) == 1 else "3P+N").value
    if stab:
        wide = 2.0
    yield BoardDevice(
        id=f"surge:{device.id}",
        kind="surge",
        name=device.name,
        mark=f"type {device.type}",
        wide=wide,
        poles=(),
        taps=(*lines, "N", "PE"),
        feed=backup or feed,
        rating_a=None,
        surge=device,
    )


def _contactor(job: Job, rules: RuleSet, gear: ControlGear, lines: tuple[Line, ...]) -> Iterator[BoardDevice]:
    family = family_of(job, gear.family)
    single = len(lines) == 1
    kind, poles = ("contactor 20 A", "2P") if single else ("contactor 25 A", "4P")
    wide = 3.0 if gear.rating_a > 25 else rules.board.width(kind, poles).value
    if family is not None and family.poles >= len(lines) + 1 and gear.rating_a <= max(family.ratings_a, default=0):
        wide = family.modules
    if gear.coil_breaker_a is not None and gear.coil_with is None:
        yield _coil_breaker(rules, gear, gear.name, lines)
    yield BoardDevice(
        id=f"gear:{gear.id}",
        kind="gear",
        name=gear.name,
        mark=f"{gear.rating_a:g} A",
        wide=wide,
        poles=(*lines, "N"),
        taps=_COIL,
        feed=BUS,
        rating_a=gear.rating_a,
        family=family,
        gear=gear,
    )


def leads_of_central_off(board: Board) -> list[ControlGear]:
    """The impulse relays that state the breaker of a central off, one for each push-button."""
    leads: dict[str, ControlGear] = {}
    for gear in board.control_gear:
        if gear.central_off is not None:
            leads.setdefault(gear.central_off, gear)
    return list(leads.values())


def _coil_breaker(rules: RuleSet, gear: ControlGear, of: str, lines: tuple[Line, ...]) -> BoardDevice:
    """The breaker of a contactor's coil, or of the push-buttons of a central off."""
    rating_a = gear.coil_breaker_a or _CONTROL_BREAKER_A
    return BoardDevice(
        id=f"coil:{gear.id}",
        kind="coil",
        name=message(rules.words, "core.device.coil" if gear.central_off is None else "core.device.central", gear=of),
        mark=f"B{rating_a:g}",
        wide=1.0,
        poles=lines[:1],
        taps=(),
        feed=BUS,
        rating_a=rating_a,
        gear=gear,
    )


def _behind(job: Job, rules: RuleSet, gear: ControlGear, circuit: Circuit, lines: tuple[Line, ...]) -> BoardDevice:
    """Control gear behind the device of one circuit."""
    traits = GEAR[gear.kind]
    poles = "2P+E" if "PE" in traits.taps else "2P" if traits.taps == _COIL and len(lines) > 1 else "1P"
    family = family_of(job, gear.family)
    wide = family.modules if family else rules.board.width(traits.width_kind, poles).value
    taps = tuple(lines[0] if tap == "L" else tap for tap in traits.taps)
    if gear.central_off is not None:
        taps = (*taps, CENTRAL)
    through = lines if traits.breaks_lines else ()
    feed = f"way:{circuit.id}"
    mark = f"{gear.rating_a:g} A"
    return BoardDevice(
        id=f"gear:{gear.id}",
        kind="gear",
        name=gear.name,
        mark=mark,
        wide=wide,
        poles=through,
        taps=taps,
        feed=feed,
        rating_a=gear.rating_a,
        family=family,
        circuit=circuit,
        gear=gear,
    )


def _way(
    job: Job, rules: RuleSet, circuit: Circuit, device: Device, lines: tuple[Line, ...], feed: str, stab: bool
) -> BoardDevice:
    family = family_of(job, device.family)
    # What sees residual current has the neutral run through it; an arc-fault device watches both conductors.
    detects = device.rcd is not None or device.arc_fault
    switches_neutral = device.switches_neutral or (
        device.switches_neutral is None and _switches_neutral(family, len(lines))
    )
    through = detects or switches_neutral
    poles = (*lines, "N") if through and circuit.neutral else lines
    if stab:
        wide = 0.5 if device.is_half else float(len(lines))
    else:
        wide = device.modules or _width(rules, device, family, len(lines), through)
    return BoardDevice(
        id=f"way:{circuit.id}",
        kind="way",
        name=circuit.name,
        mark=device.label_with_rcd,
        wide=wide,
        poles=poles,
        taps=(),
        feed=feed,
        rating_a=device.rating_a,
        family=family,
        circuit=circuit,
        rcd=device.rcd,
        flying_lead=detects and circuit.neutral and (stab or wide <= 1),
        unbroken=() if switches_neutral else ("N",),
    )


def _switches_neutral(family: DeviceFamily | None, lines: int) -> bool:
    """Whether a family has a pole more than there are lines. What is not known to switch the neutral is taken to leave it joined."""
    return family is not None and family.poles > lines


def _width(rules: RuleSet, device: Device, family: DeviceFamily | None, lines: int, through: bool) -> float:
    """Width of a circuit's device [modules]: its family's, else the usual of its kind and poles."""
    kind = rules.devices.kind(device.kind)
    if family is not None and (lines == 1 or family.poles >= lines):
        return max(family.modules, 2.0) if device.arc_fault and family.kind != "arc-fault" else family.modules
    if device.arc_fault:
        return rules.board.width("AFDD with breaker", "1P+N").value if lines == 1 else 4.0
    if lines == 1 and through and device.rcd is None:
        return rules.board.width("MCB", "2P").value
    if lines == 1:
        return float(kind.modules) * (1.5 if device.rating_a > 63 and kind.action == "breaker" else 1.0)
    if through:
        if device.rcd is not None:
            return rules.board.width("RCBO", "2P" if lines == 2 else "3P+N").value
        return rules.board.width("MCB", "3P" if lines == 2 else "3P+N").value
    wide = rules.board.width("MCB", f"{lines}P").value
    return wide * 1.5 if device.rating_a > 63 else wide


def line_index(line: str) -> int:
    """Place of a line in the order of lines, from 0."""
    return [*LINES].index(line)  # type: ignore[arg-type]
