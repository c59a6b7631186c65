"""How a board is joined: which terminals belong together, whatever conductors are used to join them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from vivid_lattice.core.board.layout.board_devices import (
    AHEAD,
    BUS,
    CENTRAL,
    BoardDevice,
    BoardDevices,
    leads_of_central_off,
)
from vivid_lattice.core.board.layout.device_kinds import GEAR
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.document.base import is_origin
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Board, Job
from vivid_lattice.core.document.local_earthing import WITH_ELECTRODE, links_neutral, own_electrode_alone
from vivid_lattice.core.document.supply import Bond
from vivid_lattice.core.messages import Text, Vocabulary, message
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet

#: What is behind the circuit in the name of the end of its clean earth.
CLEAN = "clean"


@dataclass(frozen=True, slots=True)
class Bar:
    """A neutral or earth bar. ``group``: whose neutrals belong on it; '' of the earth bar."""

    id: str
    title: Text
    conductor: str
    group: str


@dataclass(frozen=True, slots=True)
class Net:
    """Terminals that are one piece of metal once the board is wired. ``bar``: the bar among them, if any."""

    id: str
    conductor: str
    terminals: tuple[Terminal, ...]
    bar: str | None


@dataclass(frozen=True, slots=True)
class Netlist:
    """A board as it is to be joined: its nets, its bars, and the contacts of its units (terminal in, terminal out).

    ``unbroken``: what runs through a unit without a contact, as the neutral of a device that opens the line alone.
    ``link``: the neutral and earth nets that a link joins on purpose, where the standard and the supply have one.
    """

    nets: tuple[Net, ...]
    bars: tuple[Bar, ...]
    contacts: Mapping[str, tuple[tuple[Terminal, Terminal], ...]]
    unbroken: tuple[tuple[Terminal, Terminal], ...]
    link: tuple[str, str] | None


def neutral_bar(group: str) -> str:
    """Id of the neutral bar that belongs to a feed: the board's own, a shared RCD's, a contactor's.

    >>> neutral_bar("bus"), neutral_bar("rcd:r1")
    ('N', 'N-r1')
    """
    return "N" if group == BUS else f"N-{group.partition(':')[2]}"


@dataclass(slots=True)
class _NetBuilder:
    """Nets while they grow."""

    words: Vocabulary
    terminals: dict[str, list[Terminal]] = field(default_factory=dict)
    conductors: dict[str, str] = field(default_factory=dict)
    bars: dict[str, Bar] = field(default_factory=dict)
    contacts: dict[str, list[tuple[Terminal, Terminal]]] = field(default_factory=dict)
    unbroken: list[tuple[Terminal, Terminal]] = field(default_factory=list)

    def put(self, net: str, conductor: str, *terminals: str) -> None:
        self.conductors.setdefault(net, conductor)
        self.terminals.setdefault(net, []).extend(map(Terminal, terminals))

    def bar(self, bar: Bar) -> None:
        self.bars.setdefault(bar.id, bar)
        self.put(bar.id, bar.conductor)

    def through(self, unit: str, pole: str) -> None:
        self.contacts.setdefault(unit, []).append((Terminal.of(unit, pole, "in"), Terminal.of(unit, pole, "out")))


def netlist_of(job: Job, rules: RuleSet, tree: Tree, units: BoardDevices) -> Netlist:
    """The board's nets, from its units and what the job says of its supply."""
    board, made = units.board, _NetBuilder(rules.words)
    head = _head(made, units)
    made.bar(Bar("PE", message(rules.words, "core.wiring.bar.earth"), "PE", ""))
    made.put("PE", "PE", "supply/PE")
    enclosure = board.build.enclosure
    if enclosure is not None and enclosure.material == "metal":
        made.put("PE", "PE", "case/PE")
    if board.earthing is not None and board.earthing.kind in WITH_ELECTRODE and not own_electrode_alone(board.earthing):
        made.put("PE", "PE", "electrode/PE")
    made.put("PE", "PE", *(f"bond:{number}/PE" for number, _ in enumerate(bonds_of(job, board), 1)))
    for unit in units.all:
        if not unit.traits.in_main_path:
            _join(made, unit, units, head)
    for unit in units.all:
        if unit.kind == "way" and unit.circuit is not None:
            _cable(made, unit, units)
    nets = tuple(
        Net(name, made.conductors[name], tuple(terminals), name if name in made.bars else None)
        for name, terminals in made.terminals.items()
        if terminals
    )
    return Netlist(
        nets,
        tuple(made.bars.values()),
        {unit: tuple(terminals) for unit, terminals in made.contacts.items()},
        tuple(made.unbroken),
        _link(job, rules, board),
    )


def bonds_of(job: Job, board: Board) -> tuple[Bond, ...]:
    """What main bonding joins to the earth bar of a board: that of the supply in a board at the origin, else its own."""
    if is_origin(board.fed_by):
        return job.supply.earthing.bonds if job.supply.earthing is not None else ()
    return board.earthing.bonds if board.earthing is not None else ()


def _link(job: Job, rules: RuleSet, board: Board) -> tuple[str, str] | None:
    """Neutral and earth are joined in the first board where the standard's system has its link there, and in one with a link of its
    own."""
    if links_neutral(board.earthing):
        return ("N", "PE")
    if is_origin(board.fed_by) and job.supply.system in rules.earthing.link_systems:
        return ("N", "PE")
    return None


def _head(made: _NetBuilder, units: BoardDevices) -> dict[str, str]:
    """From the supply through the main switch and the relay to the bus. Returns the net ahead of it all, by conductor."""
    conductors = (*units.lines, "N")
    ahead = {conductor: f"ahead.{conductor}" for conductor in conductors}
    at = dict(ahead)
    for conductor in conductors:
        made.put(at[conductor], conductor, f"supply/{conductor}")
    for unit in units.all:
        if not unit.traits.in_main_path:
            continue
        for pole in unit.poles:
            made.put(at[pole], pole, Terminal.of(unit.id, pole, "in"))
            at[pole] = f"{unit.id}.{pole}"
            made.put(at[pole], pole, Terminal.of(unit.id, pole, "out"))
            made.through(unit.id, pole)
    # What has come out last is the bus, and the neutral's end is the first bar.
    for line in units.lines:
        _rename(made, at[line], f"{BUS}.{line}", ahead)
    made.bars["N"] = Bar("N", message(made.words, "core.wiring.bar.neutral"), "N", BUS)
    _rename(made, at["N"], "N", ahead)
    if "relay" in units.by_id:
        made.put("N", "N", Terminal.of("relay", "N", "tap"))
    return ahead


def _rename(made: _NetBuilder, old: str, new: str, ahead: dict[str, str]) -> None:
    made.terminals[new] = made.terminals.pop(old)
    made.conductors[new] = made.conductors.pop(old)
    for conductor, name in ahead.items():
        if name == old:
            ahead[conductor] = new


def _feed_net(unit_feed: str, conductor: str, ahead: Mapping[str, str]) -> str:
    """Net that a unit fed from ``unit_feed`` takes a conductor from."""
    if unit_feed == AHEAD:
        return ahead[conductor]
    if conductor == "N":
        return neutral_bar(unit_feed)
    return f"{unit_feed}.{conductor}"


def _join_load_side(made: _NetBuilder, unit: BoardDevice, pole: str) -> None:
    """A pole's load side, where it feeds other devices: the neutral's to a bar of the unit's own."""
    if unit.traits.passes_on and pole == "N":
        made.bar(
            Bar(neutral_bar(unit.id), message(made.words, "core.wiring.bar.neutral_of", rcd=unit.name), "N", unit.id)
        )
        made.put(neutral_bar(unit.id), "N", Terminal.of(unit.id, "N", "out"))
    elif unit.traits.passes_on or unit.kind == "backup":
        made.put(f"{unit.id}.{pole}", pole, Terminal.of(unit.id, pole, "out"))


def _join(made: _NetBuilder, unit: BoardDevice, units: BoardDevices, ahead: Mapping[str, str]) -> None:
    """A unit's terminals: in to what feeds it, out to a net of its own, taps where they belong."""
    if unit.gear is not None and unit.kind == "gear" and not GEAR[unit.gear.kind].upstream:
        return  # behind a circuit's device: joined with its cable
    for pole in unit.poles:
        made.put(_feed_net(unit.feed, pole, ahead), pole, Terminal.of(unit.id, pole, "in"))
        if pole in unit.switched:
            made.through(unit.id, pole)
        else:
            made.unbroken.append((Terminal.of(unit.id, pole, "in"), Terminal.of(unit.id, pole, "out")))
        _join_load_side(made, unit, pole)
    if unit.kind == "surge":
        _surge_taps(made, unit, units, ahead)
    if unit.kind == "gear" and unit.gear is not None:
        _control(made, unit, units)


def _surge_taps(made: _NetBuilder, unit: BoardDevice, units: BoardDevices, ahead: Mapping[str, str]) -> None:
    """A surge device between the lines behind its backup, the neutral ahead of that, and earth."""
    behind = units.by_id[unit.feed].feed if unit.feed in units.by_id else unit.feed
    for tap in unit.taps:
        source = "PE" if tap == "PE" else _feed_net(behind if tap == "N" else unit.feed, tap, ahead)
        made.put(source, tap, Terminal.of(unit.id, tap, "tap"))


def _control(made: _NetBuilder, unit: BoardDevice, units: BoardDevices) -> None:
    """The coil of a contactor: from its small breaker (else from the bus) out to its switch and back, then to the neutral; or from
    the coil that it is switched with."""
    gear, line = unit.gear, units.lines[0]
    assert gear is not None
    coil = f"coil:{gear.id}"
    if gear.coil_with is not None:
        made.put(f"gear:{gear.coil_with}.A1", line, Terminal.of(unit.id, "A1", "tap"))
        made.put("N", "N", Terminal.of(unit.id, "A2", "tap"))
        return
    if coil in units.by_id:
        made.put(f"{coil}.out", line, Terminal.of(coil, line, "out"), f"switch:{gear.id}/{line}/out")
    else:
        made.put(f"{BUS}.{line}", line, f"switch:{gear.id}/{line}/out")
    made.put(f"{unit.id}.A1", line, f"switch:{gear.id}/{line}/back", Terminal.of(unit.id, "A1", "tap"))
    made.put("N", "N", Terminal.of(unit.id, "A2", "tap"))


def cable_ends(unit: BoardDevice) -> tuple[str, ...]:
    """Names of the cables of a circuit: two of a ring, whose both ends come to the board."""
    assert unit.circuit is not None
    name = f"cable:{unit.circuit.id}"
    return (f"{name}+a", f"{name}+b") if unit.circuit.kind == "ring" else (name,)


def _through_gear(
    made: _NetBuilder, unit: BoardDevice, circuit_id: str, behind: Sequence[BoardDevice]
) -> dict[str, Terminal]:
    """The lines through the control gear behind a device; the terminal that each leaves the last of it at."""
    at = {line: Terminal.of(unit.id, line, "out") for line in unit.lines}
    breaking = [gear for gear in behind if gear.poles]
    for number, gear in enumerate(breaking):
        for line in gear.poles:
            made.put(f"{circuit_id}.{line}.{number}", line, at[line], Terminal.of(gear.id, line, "in"))
            made.through(gear.id, line)
            at[line] = Terminal.of(gear.id, line, "out")
    return at


def _cable(made: _NetBuilder, unit: BoardDevice, units: BoardDevices) -> None:
    """The outgoing cable of a circuit, with the control gear between its device and it."""
    circuit = unit.circuit
    assert circuit is not None
    behind = [device for device in units.all if device.kind == "gear" and device.circuit is circuit]
    at = _through_gear(made, unit, circuit.id, behind)
    ends = cable_ends(unit)
    own_net = f"{circuit.id}.N" if "N" in unit.poles else neutral_bar(unit.feed)
    # As it was found, or is wished: the outgoing neutral may have been put on another bar.
    elsewhere = {wish.circuit: wish.bar for wish in units.board.build.neutral_connections}
    neutral = elsewhere.get(circuit.id, own_net)
    if "N" in unit.poles:
        made.put(own_net, "N", Terminal.of(unit.id, "N", "out"))
    for line in unit.lines:
        made.put(f"{circuit.id}.{line}", line, at[line], *(f"{end}/{line}" for end in ends))
    if circuit.neutral:
        made.put(neutral, "N", *(f"{end}/N" for end in ends))
    made.put("PE", "PE", *(f"{end}/PE" for end in ends))
    if circuit.clean_earth is not None and (circuit.clean_earth.ends_at == "board" or is_origin(units.board.fed_by)):
        made.put("PE", "PE", f"cable:{circuit.id}+{CLEAN}/PE")
    for gear in behind:
        for tap in gear.taps:
            if gear.gear is not None and gear.gear.central_off is not None and tap in ("A1", "A2", CENTRAL):
                _central_tap(made, units, gear, gear.gear, tap)
            else:
                _gear_tap(made, unit, circuit.id, gear, tap, neutral)


def _central_tap(made: _NetBuilder, units: BoardDevices, unit: BoardDevice, gear: ControlGear, tap: str) -> None:
    """A coil of an impulse relay with a central off. All push-buttons, its own and the central one, are on the control circuit: through the
    circuit it switches, the current of a coil would leave by one residual-current device and come back by another."""
    lead = next(each for each in leads_of_central_off(units.board) if each.central_off == gear.central_off)
    line, terminal = units.lines[0], Terminal.of(unit.id, tap, "tap")
    fed, breaker = f"coil:{lead.id}.out", f"coil:{lead.id}"
    if tap == "A2":
        made.put("N", "N", terminal)
    elif tap == "A1":
        made.put(fed, line, f"switch:{gear.id}/{line}/out")
        made.put(f"{unit.id}.A1", line, f"switch:{gear.id}/{line}/back", terminal)
    else:
        central = f"switch:{lead.id}+off/{line}"
        if lead is gear:
            made.put(fed, line, Terminal.of(breaker, line, "out"), f"{central}/out")
            made.put(f"{breaker}.off", line, f"{central}/back")
        made.put(f"{breaker}.off", line, terminal)


def _gear_tap(made: _NetBuilder, unit: BoardDevice, circuit: str, gear: BoardDevice, tap: str, neutral: str) -> None:
    """A terminal of control gear behind a circuit's device that is not in its main path."""
    terminal = Terminal.of(gear.id, tap, "tap")
    if tap == "PE":
        made.put("PE", "PE", terminal)
    elif tap in ("N", "A2"):
        made.put(neutral, "N", terminal)
    elif tap == "A1":
        # An impulse relay's coil is fed through push-buttons from its own circuit.
        line, switch = unit.lines[0], f"switch:{gear.gear.id if gear.gear else ''}/{unit.lines[0]}"
        made.put(f"{circuit}.{line}.0", line, f"{switch}/out")
        made.put(f"{gear.id}.A1", line, f"{switch}/back", terminal)
    else:
        made.put(f"{circuit}.{tap}", tap, terminal)
