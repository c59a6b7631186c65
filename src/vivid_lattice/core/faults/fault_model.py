"""Puts an event into the installation: where the fault is joined, what is cut, what is crossed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.errors import NeedsInput, NotPossible
from vivid_lattice.core.faults import nodes
from vivid_lattice.core.faults.electrical_model import ElectricalModel, Wired
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.faults.nodal_analysis import CONTACT_OHM
from vivid_lattice.core.faults.nodes import BranchName, Node
from vivid_lattice.core.faults.on_standby import LimitedSource
from vivid_lattice.core.faults.tripping import DirectCurrent
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Joined, Message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.rcds import RcdPlace
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import a_from_ma

#: A nail's own resistance, and what it touches [Ω]. Common practice, no source.
_NAIL_OHM = 0.05
#: Name of the branch that is the fault.
FAULT = BranchName("fault")


@dataclass(frozen=True, slots=True)
class Scene:
    """The circuit with the event in it, the direct current it drives as well, and how it is said."""

    wired: Wired
    direct: DirectCurrent | None
    title: Message


class FaultBuilder:
    """Sets scenes of one event: with conductors warm, and cold."""

    def __init__(self, network: Installation, event: FaultEvent, source: LimitedSource | None = None):
        self._network, self.event, self.source = network, event, source
        self.circuit = self._circuit(event.circuit) if event.circuit else None

    def _circuit(self, name: str) -> Circuit:
        circuit = self._network.tree.circuits.get(name)
        if circuit is None:
            raise NotPossible(
                self.message("core.fault.no_circuit", circuit=name, known=Joined.of(self._network.tree.circuits, ", "))
            )
        self._network.tree.place(circuit)
        return circuit

    def where(self) -> Circuit:
        """The circuit the event is on; NeedsInput where none is named."""
        if self.circuit is None:
            raise NeedsInput(self._network.need("core.fault.need.circuit", "event.circuit"))
        return self.circuit

    def scene(self, *, warm: bool) -> Scene:
        """The installation with the event in it."""
        event = self.event
        split = self.circuit if event.kind in _ON_A_RUN else None
        electrical_model = ElectricalModel(
            self._network,
            warm=warm,
            running=event.running,
            electrode_ohm=event.electrode_ohm,
            split=split,
            at=event.at,
            detailed=self._named(),
            source=self.source,
        )
        title, direct = _SET[event.kind](self, electrical_model.wired)
        return Scene(electrical_model.wired, direct, title)

    def _named(self) -> frozenset[str]:
        """Circuits the event names, by themselves or by a residual-current device of their own."""
        rcds = (self.event.rcd, self.event.other_rcd)
        circuits = (name.split(":", 1)[-1] for name in rcds if name is not None)
        return frozenset(name for name in (self.event.circuit, self.event.other, *circuits) if name is not None)

    def line(self) -> str:
        """The line the event is on: as named, else the circuit's first."""
        lines = self._network.tree.supplied(self.where()).lines
        if self.event.line is not None and self.event.line not in lines:
            raise NotPossible(
                self.message(
                    "core.fault.no_phase", phase=self.event.line, circuit=self.where().name, phases=", ".join(lines)
                )
            )
        return self.event.line or lines[0]

    def spot(self) -> Message:
        """The place on the run, in words."""
        at = self.event.at
        if at >= 1:
            end = "core.fault.at_furthest" if self.where().kind == "ring" else "core.fault.at_end"
            return self.message(end, circuit=self.where().name)
        if at <= 0:
            return self.message("core.fault.at_board", circuit=self.where().name)
        return self.message("core.fault.along", circuit=self.where().name, n=Shown(f"{at * 100:.0f}"))

    def node(self, conductor: str) -> Node:
        """Node of a conductor at the fault."""
        return nodes.at_fault(self.where().id, conductor)

    def short(self, wired: Wired, a: Node, b: Node, ohm: float) -> None:
        """Joins two nodes by the fault."""
        wired.net.join(FAULT, a, b, complex(max(ohm, CONTACT_OHM)))

    def rcd(self, name: str | None) -> RcdPlace:
        """A residual-current device by its id; NeedsInput or OutOfRange where it is not named or not there."""
        places = {place.id: place for place in self._network.rcds.all}
        if name is None:
            raise NeedsInput(self._network.need("core.fault.need.rcd", "event.rcd"))
        if name not in places:
            if not places:
                raise NotPossible(self.message("core.fault.no_rcds"))
            raise NotPossible(self.message("core.fault.no_rcd", rcd=name, known=Joined.of(places, ", ")))
        return places[name]

    def other(self) -> Circuit:
        """The other circuit of an event that has two."""
        if self.event.other is None:
            raise NeedsInput(self._network.need("core.fault.need.other", "event.other"))
        return self._circuit(self.event.other)

    def message(self, id_: str, **params: Param) -> Message:
        """A message in the words of the job's standard."""
        return self._network.message(id_, **params)

    def bar_of(self, circuit: Circuit) -> str:
        """Bars a circuit is connected to."""
        place = self._network.tree.place(circuit)
        return f"{place.board.id}.{place.way.rcd}" if place.way.rcd else place.board.id

    @property
    def volts(self) -> float:
        """Nominal voltage, line to neutral [V]."""
        return self._network.job.supply.nominal_v

    @property
    def system(self) -> str:
        """System of earthing."""
        return self._network.job.supply.system


_Set = tuple[Message, DirectCurrent | None]


def _overload(hand: FaultBuilder, wired: Wired) -> _Set:
    event = hand.event
    wired.net.join(
        FAULT,
        hand.node(hand.line()),
        hand.node("N") if hand.where().neutral else hand.node(_second(hand)),
        complex(hand.volts / event.amps),
    )
    return hand.message("core.fault.title.overload", a=Shown(f"{event.amps:g}"), place=hand.spot()), None


def _second(hand: FaultBuilder) -> str:
    """Another line of the circuit."""
    lines = hand._network.tree.supplied(hand.where()).lines
    others = [line for line in lines if line != hand.line()]
    if not others:
        raise NotPossible(hand.message("core.fault.one_phase", circuit=hand.where().name, phase=hand.line()))
    return others[0]


def _must_have_neutral(hand: FaultBuilder, *circuits: Circuit) -> None:
    """Nothing where each has a neutral; NotPossible where one has none, so that the event cannot happen to it."""
    for circuit in circuits:
        if not circuit.neutral:
            raise NotPossible(hand.message("core.fault.no_neutral", circuit=circuit.name))


def _line_neutral(hand: FaultBuilder, wired: Wired) -> _Set:
    _must_have_neutral(hand, hand.where())
    hand.short(wired, hand.node(hand.line()), hand.node("N"), hand.event.ohm)
    return hand.message("core.fault.title.line_neutral", phase=hand.line(), place=hand.spot()), None


def _line_line(hand: FaultBuilder, wired: Wired) -> _Set:
    hand.short(wired, hand.node(hand.line()), hand.node(_second(hand)), hand.event.ohm)
    return hand.message("core.fault.title.line_line", phase=hand.line(), other=_second(hand), place=hand.spot()), None


def _line_earth(hand: FaultBuilder, wired: Wired) -> _Set:
    hand.short(wired, hand.node(hand.line()), hand.node("PE"), hand.event.ohm)
    return hand.message("core.fault.title.line_earth", phase=hand.line(), place=hand.spot()), None


def _neutral_earth(hand: FaultBuilder, wired: Wired) -> _Set:
    _must_have_neutral(hand, hand.where())
    hand.short(wired, hand.node("N"), hand.node("PE"), hand.event.ohm)
    return hand.message("core.fault.title.neutral_earth", place=hand.spot()), None


def _leakage(hand: FaultBuilder, wired: Wired) -> _Set:
    event = hand.event
    title = hand.message(
        f"core.fault.title.leakage.{event.waveform}", ma=Shown(f"{event.milliamps:g}"), place=hand.spot()
    )
    if event.waveform == "ac":
        wired.net.join(FAULT, hand.node(hand.line()), hand.node("PE"), complex(hand.volts / a_from_ma(event.milliamps)))
        return title, None
    # Its mean runs apart from the alternating currents, along the same way.
    return title, DirectCurrent(hand.where().id, a_from_ma(event.milliamps), event.waveform)


def _nail(hand: FaultBuilder, wired: Wired) -> _Set:
    hand.short(wired, hand.node(hand.line()), hand.node("PE"), max(_NAIL_OHM, hand.event.ohm))
    return hand.message("core.fault.title.nail", place=hand.spot()), None


def _surge(hand: FaultBuilder, wired: Wired) -> _Set:
    return hand.message("core.fault.title.surge", kv=Shown(f"{hand.event.surge_kv:g}")), None


def _open_neutral(hand: FaultBuilder, wired: Wired) -> _Set:
    wired.net.cut(nodes.SUPPLY_N)
    combined = hand.system in ("TN-C-S", "MEN")
    return hand.message("core.fault.title.open_pen" if combined else "core.fault.title.open_neutral"), None


def _voltage(hand: FaultBuilder, wired: Wired) -> _Set:
    share = hand.event.volts / hand.volts
    for name, branch in list(wired.net.branches.items()):
        if branch.emf_v:
            wired.net.branches[name] = replace(branch, emf_v=branch.emf_v * share)
    title = "core.fault.title.too_high" if hand.event.volts > hand.volts else "core.fault.title.too_low"
    return hand.message(title, v=Shown(f"{hand.event.volts:g}")), None


def _wrong_bar(hand: FaultBuilder, wired: Wired) -> _Set:
    """The circuit's neutral on the bar of another circuit's device; named none, on the board's own main bar."""
    circuit, board = hand.where(), hand._network.tree.place(hand.where()).board
    _must_have_neutral(hand, circuit, *((hand.other(),) if hand.event.other else ()))
    wrong = nodes.at_board(hand.other().id, "N") if hand.event.other else nodes.bar(board.id, "N")
    right = nodes.bar(hand.bar_of(circuit), "N")
    if hand.event.other and is_auto(hand.other().device):
        raise NeedsInput(hand._network.need("core.need.device", "device", circuit=hand.other().name))
    is_own_bar = not is_auto(circuit.device) and circuit.device.rcd is not None
    if hand.event.other is not None and not _has_own_neutral(hand.other()):
        wrong = nodes.bar(hand.bar_of(hand.other()), "N")
    # Where its own device breaks the neutral, the tail is moved behind it; else the contact itself is connected to the other bar.
    wired.net.join(nodes.contact(circuit.id, "N"), wrong, nodes.at_board(circuit.id, "N"))
    if is_own_bar:
        wired.residual[f"{board.id}:{circuit.id}"] = [
            pair for pair in wired.residual.get(f"{board.id}:{circuit.id}", []) if not pair[0].endswith("|N")
        ]
    if wrong == right and not is_own_bar:
        raise NotPossible(hand.message("core.fault.same_bar", circuit=circuit.name))
    if hand.event.other:
        return hand.message("core.fault.title.wrong_bar", circuit=circuit.name, other=hand.other().name), None
    return hand.message("core.fault.title.main_bar", circuit=circuit.name, board=board.name), None


def _has_own_neutral(circuit: Circuit) -> bool:
    return not is_auto(circuit.device) and circuit.device.rcd is not None


def _bar(place: RcdPlace) -> Node:
    """Node behind a residual-current device's neutral contact."""
    if place.own_device is not None:
        return nodes.at_board(place.own_device.id, "N")
    part = place.id.split(":", 1)[1]
    return nodes.bar(place.board.id, "N") if part == "main" else nodes.bar(f"{place.board.id}.{part}", "N")


def _contact(place: RcdPlace) -> BranchName:
    return nodes.contact(place.own_device.id, "N") if place.own_device is not None else nodes.contact(place.id, "N")


def _swapped(hand: FaultBuilder, wired: Wired) -> _Set:
    first, other = hand.rcd(hand.event.rcd), hand.rcd(hand.event.other_rcd)
    if first.id == other.id or first.board is not other.board:
        raise NotPossible(hand.message("core.fault.two_rcds"))
    _must_have_neutral(hand, *(place.own_device for place in (first, other) if place.own_device is not None))
    for place, crossed in ((first, other), (other, first)):
        branch = wired.net.branches[_contact(place)]
        wired.net.join(_contact(place), wired.net.name_of(branch.a), _bar(crossed))
    return hand.message("core.fault.title.swapped", rcd=first.name, other=other.name), None


def _crossed(hand: FaultBuilder, wired: Wired) -> _Set:
    """Supply's neutral on the load terminal and the load's on the supply terminal: the current runs the other way."""
    place = hand.rcd(hand.event.rcd)
    _must_have_neutral(hand, *((place.own_device,) if place.own_device is not None else ()))
    wired.residual[place.id] = [
        (name, -sign if name.endswith("|N") else sign) for name, sign in wired.residual[place.id]
    ]
    return hand.message("core.fault.title.crossed", rcd=place.name), None


def _borrowed(hand: FaultBuilder, wired: Wired) -> _Set:
    """The load of a circuit returns by another's neutral."""
    circuit, other = hand.where(), hand.other()
    _must_have_neutral(hand, circuit, other)
    moved = [name for name in wired.net.branches if nodes.is_load_of(name, circuit.id)]
    if circuit.id == other.id or not moved:
        raise NotPossible(hand.message("core.fault.two_circuits"))
    for name in moved:
        branch = wired.net.branches[name]
        wired.net.join(name, wired.net.name_of(branch.a), nodes.at_end(other.id, "N"), branch.ohm)
    return hand.message("core.fault.title.borrowed", circuit=circuit.name, other=other.name), None


def _loose(hand: FaultBuilder, wired: Wired) -> _Set:
    circuit, line = hand.where(), hand.line()
    ohm = hand.event.ohm or 0.05
    name = nodes.run(circuit.id, line)
    branch = wired.net.branches[name]
    wired.net.branches[name] = replace(branch, ohm=branch.ohm + ohm)
    return hand.message("core.fault.title.loose", circuit=circuit.name, ohm=Shown(f"{ohm:g}")), None


_ON_A_RUN = frozenset({"overload", "line-neutral", "line-line", "line-earth", "neutral-earth", "leakage", "nail"})
_SET: Mapping[str, Callable[[FaultBuilder, Wired], _Set]] = {
    "overload": _overload,
    "line-neutral": _line_neutral,
    "line-line": _line_line,
    "line-earth": _line_earth,
    "neutral-earth": _neutral_earth,
    "leakage": _leakage,
    "nail": _nail,
    "surge": _surge,
    "open-neutral": _open_neutral,
    "voltage": _voltage,
    "neutral-wrong-bar": _wrong_bar,
    "neutrals-swapped": _swapped,
    "rcd-neutral-crossed": _crossed,
    "borrowed-neutral": _borrowed,
    "loose-terminal": _loose,
}
