"""A job as a circuit: every conductor from the source to the end of every circuit, with the contacts of every device.

Nodes are named ``board.bar`` and ``circuit.conductor.place`` (place 0 at the board, F at the fault, E at the end); contacts of a
device ``device|pole``. Devices are ``cutout``, a circuit's id for its own, ``board:part`` for a residual-current switch,
``relay:board`` for a voltage-watching relay.
"""

from __future__ import annotations

from cmath import exp, pi, rect
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from math import acos

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import LINES, RESISTIVE_LOADS, Board, Circuit, Line
from vivid_lattice.core.document.local_earthing import (
    WITH_ELECTRODE,
    LocalEarthing,
    links_neutral,
    own_electrode_alone,
)
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.faults import nodes
from vivid_lattice.core.faults.nodal_analysis import ImpedanceNetwork
from vivid_lattice.core.faults.nodes import BranchName, Node
from vivid_lattice.core.faults.on_standby import LimitedSource
from vivid_lattice.core.formulas.load_currents import LINE_ANGLES_DEG
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.loops import RunOhm
from vivid_lattice.core.network.tree import EarthInUse
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import Shown, shown_up

#: The standby source among the devices that open.
STANDBY = "standby"
#: The source's own electrode [Ω]. Common practice, no source.
SOURCE_ELECTRODE_OHM = 2.0
#: Power factor of loads of which no one stated one. Common practice, no source.
_USUAL_POWER_FACTOR = 0.95


@dataclass(kw_only=True)
class Wired:
    """The circuit of a job, and which contacts belong to which device.

    ``poles``: the line contacts of a device, by line; ``residual``: the contacts a residual-current device adds up, each with
    its sign; ``neutral_of``: the bar that each circuit's neutral comes back to.
    """

    net: ImpedanceNetwork
    poles: dict[str, list[BranchName]] = field(default_factory=dict)
    contacts: dict[str, list[BranchName]] = field(default_factory=dict)
    residual: dict[str, list[tuple[BranchName, int]]] = field(default_factory=dict)
    assumed: list[Text] = field(default_factory=list)


class ElectricalModel:
    """Builds the circuit of a network, with conductors warm (smallest currents) or cold (largest)."""

    def __init__(
        self,
        network: Installation,
        *,
        warm: bool,
        running: float | None,
        electrode_ohm: float,
        split: Circuit | None,
        at: float,
        detailed: frozenset[str],
        source: LimitedSource | None = None,
    ):
        """split, at  the circuit whose run is parted at a share of its length, for a fault there
        detailed   circuits whose contacts and runs are branches apart; of any other final circuit the two are one, which
                   changes no figure and halves the calculation
        source     what supplies while the supply is off; None: the supply
        """
        self._detailed = detailed
        self._network, self._warm, self._source_limit = network, warm, source
        self._electrode = electrode_ohm if source is None else source.electrode_ohm or electrode_ohm
        self._split, self._at = split, at
        self.job, self.tree = network.job, network.tree
        self.wired = Wired(net=ImpedanceNetwork(nodes.SOURCE))
        self._running = self._share() if running is None else running
        self._build()

    # ------------------------------------------------------------------------------------------ what runs

    def _share(self) -> float:
        """Share of what is connected that runs at once: half the maximum demand, and no more than half the cut-out carries.
        Common practice, no source: an ordinary hour, in which no device is near opening of itself."""
        demand = or_none(self._network.drops.whole_demand)
        currents = [or_none(lambda c=c: self._network.drops.design_current(c)) for c in self._final()]  # type: ignore[misc]
        total = sum(current.current_a for current in currents if current is not None)
        cutout = self.job.supply.cutout
        if demand is None or total <= 0:
            self.wired.assumed.append(self._network.message("core.fault.assumed.third"))
            return 1 / 3
        self.wired.assumed.append(self._network.message("core.fault.assumed.half"))
        amps = min(demand.current_a, cutout.rating_a if cutout else demand.current_a)
        return min(1.0, 0.5 * amps * max(1, len(demand.by_line)) / total)

    def _final(self) -> Iterator[Circuit]:
        return (
            circuit
            for circuit in self.job.circuits
            if circuit.kind != "distribution" and circuit.id in self.tree.places
        )

    # ------------------------------------------------------------------------------------------ building

    def _build(self) -> None:
        self._source()
        for board in self.job.boards:
            self._board(board)
        for circuit in self.job.circuits:
            if circuit.id in self.tree.places:
                self._circuit(circuit)

    def _source(self) -> None:
        supply, loops, net = self.job.supply, self._network.loops, self.wired.net
        origin, earth = loops.ahead.origin, loops.ahead.ze
        line = origin.line_warm if self._warm else origin.line_cold
        back = origin.return_warm if self._warm else origin.return_cold
        volts = origin.volts_min if self._warm else origin.volts_max
        rest = _rest(earth, line if supply.system == "TN-S" else line + back)
        if self._source_limit is None and not self._warm and not loops.ahead.calculated:
            # A measured loop has no angle: across that of the runs it makes the largest current, as in the rows' figures.
            line, back = 1j * abs(line), 1j * abs(back)
            self.wired.assumed.append(self._network.message("core.fault.assumed.angle"))
        for name in LINES[: supply.phases]:
            emf = rect(volts, LINE_ANGLES_DEG[supply.phases][name] * pi / 180)
            net.join(nodes.supply(name), nodes.SOURCE, nodes.origin(name), line, emf)
            self._contact("cutout", nodes.origin(name), nodes.meter(name), pole=name)
        net.join(nodes.SUPPLY_N, nodes.meter("N"), nodes.SOURCE, back)
        if self._source_limit is None:
            net.join(nodes.SOURCE_ELECTRODE, nodes.EARTH, nodes.SOURCE, complex(SOURCE_ELECTRODE_OHM))
        else:
            self._limited(self._source_limit)
        self._earth(earth, rest)

    def _limited(self, source: LimitedSource) -> None:
        """A source that limits its current, and stops when its voltage breaks down: its only electrode is that of the installation. What
        of its data is not known is told."""
        if source.electrode_ohm is None:
            self._assume("electrode", name=source.name, ohm=Shown(f"{self._electrode:g}"))
        if not source.multiple_known:
            self._assume("multiple", name=source.name, least=shown_up(source.least_a), most=shown_up(source.most_a))
        names = tuple(nodes.supply(name) for name in LINES[: self.job.supply.phases])
        self.wired.net.limit = names, source.least_a if self._warm else source.most_a
        self.wired.contacts[STANDBY] = self.wired.contacts["cutout"]

    def _assume(self, what: str, **params: Param) -> None:
        self.wired.assumed.append(self._network.message(f"core.fault.assumed.{what}", **params))

    def _earth(self, earth: complex, rest: complex) -> None:
        """Where the installation's earth comes from [Ω]: its own electrode, the supply's conductor, or the neutral."""
        system, net = self.job.supply.system, self.wired.net
        if system == "TT":
            source_ohm = max(earth.real - SOURCE_ELECTRODE_OHM, 0.5 * earth.real)
            net.join(nodes.MAIN_EARTH, nodes.meter("PE"), nodes.EARTH, complex(source_ohm))
        elif system == "TN-S":
            net.join(nodes.SUPPLY_PE, nodes.meter("PE"), nodes.SOURCE, rest)
        else:
            # Neutral and earth are one up to here; what the earth loop has more than the neutral loop lies in the link.
            net.join(nodes.LINK, nodes.meter("PE"), nodes.meter("N"), rest)
        if system != "TT":
            net.join(nodes.HOUSE_EARTH, nodes.meter("PE"), nodes.EARTH, complex(self._electrode))

    def _contact(self, device: str, a: Node, b: Node, *, pole: str, ohm: complex = 0j) -> BranchName:
        """A contact of a device, with what is in series with it; a line's counts for its overcurrent part."""
        name = nodes.contact(device, pole)
        self.wired.net.join(name, a, b, ohm)
        self.wired.contacts.setdefault(device, []).append(name)
        if pole in LINES:
            self.wired.poles.setdefault(device, []).append(name)
        return name

    def _sees(self, rcd: str, contact: BranchName, sign: int) -> None:
        self.wired.residual.setdefault(rcd, []).append((contact, sign))

    def _board(self, board: Board) -> None:
        """Incoming bars, the relay, the main switch, and each group's bars."""
        feeder = self.tree.feeder(board)
        lines = or_none(lambda: self.tree.board_lines(board)) or LINES[:1]
        switch = board.main_switch
        seen = switch is not None and switch.rcd is not None
        device = f"{board.id}:main"
        for name in (*lines, "N"):
            source = nodes.meter(name) if feeder is None else nodes.at_end(feeder.id, name)
            if board.voltage_relay is not None and name != "N":
                self._contact(f"relay:{board.id}", source, nodes.watched(board.id, name), pole=name)
                source = nodes.watched(board.id, name)
            contact = self._contact(device, source, nodes.bar(board.id, name), pole=name)
            if seen:
                self._sees(device, contact, 1)
        earth = nodes.meter("PE") if feeder is None else nodes.at_end(feeder.id, "PE")
        if not own_electrode_alone(board.earthing):
            self.wired.net.join(nodes.earth_of(board.id), earth, nodes.bar(board.id, "PE"))
        if board.earthing is not None and board.earthing.kind in WITH_ELECTRODE:
            self._own_electrode(board, board.earthing, nodes.bar(board.id, "PE"))
        if links_neutral(board.earthing):
            self.wired.net.join(nodes.link_of(board.id), nodes.bar(board.id, "N"), nodes.bar(board.id, "PE"))
        self._groups(board, lines)

    def _own_electrode(self, owner: Board | Circuit, own: LocalEarthing, earth: Node) -> None:
        """An electrode of a board's or circuit's own; while its resistance is not known, that of the event is taken, which is told."""
        loops = self._network.loops
        ohm = or_none(lambda: loops.local_electrode_ohm(EarthInUse(system="TT", own=own, owner=owner)))
        if ohm is None:
            ohm = self._electrode
            self._assume("electrode", name=owner.name, ohm=Shown(f"{ohm:g}"))
        self.wired.net.join(nodes.electrode_of(owner.id), earth, nodes.EARTH, complex(ohm))

    def _groups(self, board: Board, lines: Sequence[Line]) -> None:
        """The bars behind each shared RCD."""
        for group in board.shared_rcds:
            rcd = f"{board.id}:{group.id}"
            for name in (*lines, "N"):
                contact = self._contact(
                    rcd, nodes.bar(board.id, name), nodes.bar(f"{board.id}.{group.id}", name), pole=name
                )
                self._sees(rcd, contact, 1)

    def bar_of(self, circuit: Circuit) -> str:
        """The bars a circuit is connected to: of its board, or of the shared device it is behind."""
        place = self.tree.place(circuit)
        return f"{place.board.id}.{place.way.rcd}" if place.way.rcd else place.board.id

    def _circuit(self, circuit: Circuit) -> None:
        if circuit.id in self._detailed and any(device.rcd is not None for device in circuit.local_devices):
            self.wired.assumed.append(self._network.message("core.fault.assumed.local_rcd", circuit=circuit.name))
        try:
            lines = self.tree.supplied(circuit).lines
        except NeedsInput:
            lines = (LINES[0],)
            self.wired.assumed.append(self._network.message("core.fault.assumed.on_l1", circuit=circuit.name))
        whole = circuit.kind == "distribution" or circuit.id in self._detailed
        bar, device = self.bar_of(circuit), circuit.device
        has_own_rcd = not is_auto(device) and device.rcd is not None
        rcd = f"{self.tree.place(circuit).board.id}:{circuit.id}"
        for name in (*lines, "N"):
            if name == "N" and not circuit.neutral:
                continue
            if whole:
                contact = self._contact(circuit.id, nodes.bar(bar, name), nodes.at_board(circuit.id, name), pole=name)
            else:
                contact = self._contact(
                    circuit.id,
                    nodes.bar(bar, name),
                    nodes.at_end(circuit.id, name),
                    pole=name,
                    ohm=self._of_run(circuit, name),
                )
            if has_own_rcd:
                self._sees(rcd, contact, 1)
        if has_own_rcd:
            self.wired.contacts[rcd] = self.wired.contacts[circuit.id]
        earth_bar = nodes.bar(self.tree.place(circuit).board.id, "PE")
        if circuit.earthing is not None and circuit.earthing.kind in WITH_ELECTRODE:
            self._own_electrode(circuit, circuit.earthing, nodes.at_end(circuit.id, "PE"))
        if whole:
            self.wired.net.join(nodes.earth_of(circuit.id), earth_bar, nodes.at_board(circuit.id, "PE"))
            self._run(circuit, (*lines, *(("N",) if circuit.neutral else ()), "PE"))
        elif not own_electrode_alone(circuit.earthing):
            end = nodes.at_end(circuit.id, "PE")
            self.wired.net.join(nodes.run(circuit.id, "PE"), earth_bar, end, self._of_run(circuit, "PE"))
        if circuit.kind != "distribution":
            self._load(circuit, lines)

    def _of_run(self, circuit: Circuit, conductor: str) -> complex:
        """Impedance of a conductor of a circuit's run [Ω]; nothing, which is told, where its cable or length is not known.
        NeedsInput where that is the circuit the event is on."""
        run = or_none(lambda: self._network.loops.run(circuit))
        if run is None:
            if circuit is self._split:
                self._network.loops.run(circuit)  # says what it lacks
            self.wired.assumed.append(self._network.message("core.fault.assumed.no_run", circuit=circuit.name))
            return 0j
        return self._ohm(run, conductor)

    def _run(self, circuit: Circuit, conductors: tuple[str, ...]) -> None:
        for name in conductors:
            whole = self._of_run(circuit, name)
            if name == "PE" and own_electrode_alone(circuit.earthing):
                self._separated_earth(circuit, whole)
                continue
            if self._split is None or circuit.id != self._split.id:
                self.wired.net.join(
                    nodes.run(circuit.id, name), nodes.at_board(circuit.id, name), nodes.at_end(circuit.id, name), whole
                )
                continue
            near, far = self._parts(circuit, whole)
            self.wired.net.join(
                nodes.run(circuit.id, name), nodes.at_board(circuit.id, name), nodes.at_fault(circuit.id, name), near
            )
            self.wired.net.join(
                nodes.rest(circuit.id, name), nodes.at_fault(circuit.id, name), nodes.at_end(circuit.id, name), far
            )

    def _separated_earth(self, circuit: Circuit, whole: complex) -> None:
        """The protective conductor of a run whose points have an electrode of their own: it ends unconnected. A fault at the end is at
        the equipment; one along the run is to the cable's own."""
        if self._split is None or circuit.id != self._split.id:
            return
        if self._at >= 1:
            self.wired.net.join(
                nodes.rest(circuit.id, "PE"), nodes.at_fault(circuit.id, "PE"), nodes.at_end(circuit.id, "PE")
            )
            return
        near, _ = self._parts(circuit, whole)
        self.wired.net.join(
            nodes.run(circuit.id, "PE"), nodes.at_board(circuit.id, "PE"), nodes.at_fault(circuit.id, "PE"), near
        )

    def _ohm(self, run: RunOhm, conductor: str) -> complex:
        r1, r2 = (run.r1_hot_ohm, run.r2_hot_ohm) if self._warm else (run.r1_cold_ohm, run.r2_cold_ohm)
        return complex(r2 if conductor == "PE" else r1, run.x_ohm)

    def _parts(self, circuit: Circuit, whole: complex) -> tuple[complex, complex]:
        """A conductor up to the fault and beyond it. On a ring the furthest point is half way round: there one leg is a share x of
        the loop, and both together are x·(1−x) of it; the figure of a ring's run is a quarter of the loop."""
        if circuit.kind == "ring":
            x = self._at / 2
            return 4 * whole * x * (1 - x), 0j
        return whole * self._at, whole * (1 - self._at)

    def _load(self, circuit: Circuit, lines: tuple[Line, ...]) -> None:
        """What runs, as admittances at the end of the circuit, and the standing leakage as a capacitance to earth."""
        net, volts = self.wired.net, self.job.supply.nominal_v
        demand = or_none(lambda: self._network.drops.design_current(circuit))
        factor = _power_factor(circuit) or _USUAL_POWER_FACTOR
        for number, name in enumerate(lines):
            amps = (demand.by_line.get(name, 0.0) if demand else 0.0) * self._running
            end = nodes.at_end(circuit.id, name)
            if amps > 0:
                if circuit.neutral:
                    net.join(
                        nodes.load(circuit.id, name),
                        end,
                        nodes.at_end(circuit.id, "N"),
                        volts / amps * exp(1j * acos(factor)),
                    )
                elif len(lines) > 1:
                    other = nodes.at_end(circuit.id, lines[(number + 1) % len(lines)])
                    between = abs(exp(1j * 0) - exp(1j * 2 * pi / 3)) if self.job.supply.phases == 3 else 2.0
                    share = amps / (1.732 if len(lines) == 3 else 2)
                    net.join(nodes.load(circuit.id, name), end, other, between * volts / share * exp(1j * acos(factor)))
            leak = or_none(lambda: self._network.rcds.leakage_ma(circuit))
            if leak:
                net.join(
                    nodes.leakage(circuit.id, name),
                    end,
                    nodes.at_end(circuit.id, "PE"),
                    -1j * volts * 1000 / (leak / len(lines)),
                )


def _power_factor(circuit: Circuit) -> float | None:
    """The least power factor among a circuit's loads, 1 for plain resistance; None where one is not known."""
    power_factors = [
        1.0 if load.power_factor is None and load.kind in RESISTIVE_LOADS else load.power_factor
        for load in circuit.loads
    ]
    stated = [factor for factor in power_factors if factor is not None]
    return min(stated) if stated and len(stated) == len(power_factors) else None


def _rest(loop: complex, part: complex) -> complex:
    """What a loop has beyond a part of it; nothing where the figures, measured at two times, leave none."""
    return complex(max(0.0, loop.real - part.real), max(0.0, loop.imag - part.imag))
