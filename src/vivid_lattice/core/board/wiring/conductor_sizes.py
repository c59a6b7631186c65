"""The size of each conductor that meets a board: links by what they carry, the others by what the job says of them."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.board.layout.board_devices import BoardDevices
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.links import Links
from vivid_lattice.core.board.wiring.netlist import CLEAN, Net, bonds_of
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit, Job
from vivid_lattice.core.document.local_earthing import own_electrode_alone
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protocol import RuleSet

#: Conductors of a coil or of a device that only takes its reference: common practice, no source.
_CONTROL_MM2 = 1.5


@dataclass(frozen=True, slots=True)
class WireSize:
    """A size, as the standard writes it; ``missing`` what it could not be found for."""

    area_mm2: float | None
    label: Text
    reason: Text
    missing: Text = ""


class WireSizes:
    """Sizes for one board."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree, units: BoardDevices, board: Board):
        self._job, self._rules, self._tree, self._units, self._board = job, rules, tree, units, board

    def _say(self, id_: str, **params: Param) -> Message:
        return message(self._rules.words, id_, **params)

    def of(self, kind: str, net: Net, start: Terminal, end: Terminal, links: Links, behind: float | None) -> WireSize:
        """The size of a conductor of a kind between two ends."""
        ends = [item.without_bar for item in (start, end)]
        if kind in ("cable", "supply", "earth", "neutral-earth-link"):
            outside = next(end for end in ends if end.device not in self._units.by_id)
            return self._outside(outside, net.conductor)
        if kind == "own-lead":
            return WireSize(None, self._say("core.wiring.size.own_lead"), self._say("core.wiring.size.own_lead_why"))
        if kind == "plug":
            return WireSize(None, self._say("core.wiring.size.plugged"), self._say("core.wiring.size.plugged_why"))
        if kind == "control":
            return self._size_text(_CONTROL_MM2, self._say("core.wiring.size.control"))
        surge = next(
            (unit.surge for unit in (self._units.by_id.get(end.device) for end in ends) if unit and unit.surge),
            None,
        )
        if surge is not None:
            return self._surge(surge, net.conductor)
        try:
            link_size = links.size(links.carries_a(behind))
        except NeedsInput as lack:
            return WireSize(None, "", "", self._say("core.wiring.size.link_unknown", what=lack.needs[0].what))
        return self._size_text(link_size.area_mm2, link_size.reason)

    def _size_text(self, area_mm2: float, why: Text) -> WireSize:
        return WireSize(area_mm2, self._rules.cables.size_label(area_mm2), why)

    def _surge(self, device: Spd, conductor: str) -> WireSize:
        stated = device.earth_mm2 if conductor == "PE" else device.live_mm2
        if stated is not None:
            return self._size_text(stated, self._say("core.wiring.size.as_spd"))
        rules = or_none(lambda: self._rules.protection.surge)
        kind = "1" if device.type.startswith("1") else "2"
        area_mm2 = (rules.earth_mm2 if conductor == "PE" else rules.live_mm2).get(kind) if rules else None
        if area_mm2 is None:
            return WireSize(None, "", "", self._say("core.wiring.size.spd_unknown", spd=device.name))
        return self._size_text(float(area_mm2), self._say("core.wiring.size.spd_min"))

    def _outside(self, terminal: Terminal, conductor: str) -> WireSize:
        if terminal.kind == "cable" and terminal.device.endswith(f"+{CLEAN}"):
            clean = self._tree.circuits[terminal.circuit].clean_earth
            what = self._say("core.wiring.size.clean_earth", circuit=self._tree.circuits[terminal.circuit].name)
            return self._or_lacks(clean.area_mm2 if clean else None, what, self._say("core.wiring.size.as_stated"))
        if terminal.kind == "cable":
            return self._cable(terminal.circuit, conductor)
        if terminal.kind == "supply":
            return self._supply(conductor)
        earthing, own = self._job.supply.earthing, self._board.earthing
        if terminal.kind == "electrode":
            return self._electrode()
        if terminal.kind == "bond":
            bond = bonds_of(self._job, self._board)[int(terminal.name) - 1]
            return self._or_lacks(
                bond.area_mm2,
                self._say("core.wiring.size.bond", bond=bond.name),
                self._say("core.wiring.size.as_stated"),
            )
        if terminal.kind == "link":
            link_mm2 = own.link_mm2 if own is not None else earthing.link_mm2 if earthing is not None else None
            return self._or_lacks(
                link_mm2,
                self._say("core.wiring.size.link"),
                self._say("core.wiring.size.as_stated"),
            )
        return self._case()

    def _case(self) -> WireSize:
        line = self._supply_mm2("L1")
        least = self._rules.earthing.protective_mm2(line) if line is not None else None
        cutout = self._job.supply.cutout
        if least is None and cutout is not None:
            least = or_none(lambda: self._rules.earthing.protective_by_device_mm2(cutout.rating_a, "copper"))
        if least is None:
            return WireSize(None, "", "", self._say("core.wiring.size.case_unknown"))
        return self._size_text(least.value, self._say("core.wiring.size.case"))

    def _or_lacks(self, area_mm2: float | None, what: Text, why: Text) -> WireSize:
        if area_mm2 is None:
            return WireSize(None, "", "", self._say("core.wiring.size.unknown", what=what))
        return self._size_text(area_mm2, why)

    def _supply_mm2(self, conductor: str) -> float | None:
        feeder = self._tree.feeder(self._board)
        if feeder is not None:
            return None if is_auto(feeder.cable) else feeder.cable.area_mm2
        supply = self._job.supply
        if conductor == "PE":
            return supply.earthing.conductor_mm2 if supply.earthing else None
        return supply.tails.area_mm2 if supply.tails else None

    def _electrode(self) -> WireSize:
        """The earthing conductor to an electrode of the board's own."""
        own = self._board.earthing
        what = self._say("core.wiring.size.earthing")
        return self._or_lacks(own.conductor_mm2 if own else None, what, self._say("core.wiring.size.as_stated"))

    def _supply(self, conductor: str) -> WireSize:
        if conductor == "PE" and own_electrode_alone(self._board.earthing):
            return self._electrode()
        feeder = self._tree.feeder(self._board)
        if feeder is not None:
            return self._of_cable(feeder, conductor)
        what = self._say("core.wiring.size.earthing") if conductor == "PE" else self._say("core.wiring.size.tails")
        return self._or_lacks(self._supply_mm2(conductor), what, self._say("core.wiring.size.as_supply"))

    def _cable(self, circuit: str, conductor: str) -> WireSize:
        return self._of_cable(self._tree.circuits[circuit], conductor)

    def _of_cable(self, circuit: Circuit, conductor: str) -> WireSize:
        cable = circuit.cable
        if is_auto(cable):
            return WireSize(None, "", "", self._say("core.wiring.size.cable_unknown", circuit=circuit.name))
        if conductor != "PE":
            return self._size_text(cable.area_mm2, self._say("core.wiring.size.cable", circuit=circuit.name))
        area = or_none(lambda: self._rules.cables.cpc_area_mm2(cable, self._tree.loaded(circuit)).value)
        return self._or_lacks(
            area,
            self._say("core.wiring.size.cpc", circuit=circuit.name),
            self._say("core.wiring.size.cable", circuit=circuit.name),
        )
