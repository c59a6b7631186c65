"""How the ends and conductors of a board are said: terminals by number, colours, ferrules, torque."""

from __future__ import annotations

from vivid_lattice.core.board.layout.board_devices import CENTRAL, BoardDevice, line_index
from vivid_lattice.core.board.layout.device_kinds import GEAR
from vivid_lattice.core.board.layout.rail_positions import RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.netlist import CLEAN, bonds_of
from vivid_lattice.core.document.job import Board, Job
from vivid_lattice.core.document.local_earthing import own_electrode_alone
from vivid_lattice.core.messages import Message, Text, message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.text import Shown


class EndLabels:
    """Words for one board."""

    def __init__(self, job: Job, rules: RuleSet, board: Board, places: RailPositions):
        self._job, self._rules, self._board, self._places = job, rules, board, places
        self._ways = {way.circuit: way.number for way in board.ways}
        self._bars = {bar.id: bar.title for bar in places.scheme.bars}

    def end(self, end: Terminal) -> Text:
        """An end in words: a terminal by its number, a bar's terminal by its number, a cable by what it feeds."""
        if end.at_bar:
            screw = self._places.screw(end.without_bar)
            assert screw is not None
            return self._say("core.wiring.end.bar", bar=self._bars[screw.bar], n=screw.number)
        name, conductor, role = end.device, end.conductor, end.side
        unit = self._places.units.by_id.get(name)
        if unit is not None:
            return self._say(
                "core.wiring.end.device", device=self._unit(unit), terminal=self.clamp(unit, conductor, role)
            )
        return self._outside(name, conductor, role)

    def _unit(self, unit: BoardDevice) -> Text:
        if unit.kind == "way" and unit.circuit is not None:
            return self._say("core.wiring.end.way", n=self._ways[unit.circuit.id], circuit=unit.name)
        return unit.name

    def _say(self, id_: str, **params: Param) -> Message:
        return message(self._rules.words, id_, **params)

    def clamp(self, unit: BoardDevice, conductor: str, role: str) -> Text:
        """A terminal as it is printed on the device: odd at the top and even at the bottom, a pair a pole from the left; a neutral's
        by its letter and side; A1, A2 and the like by their name. On a panel a breaker has but its outgoing terminals.

        Source  EN 50005 for the numbers; top and bottom practice
        """
        if role == "tap":
            return conductor
        if self._places.enclosure.form == "panelboard":
            if unit.kind != "main":
                return conductor
            return self._say(f"core.wiring.end.{'line' if role == 'in' else 'load'}_side", conductor=conductor)
        top = self._places.side(unit, role, conductor) == "top"
        if conductor == "N":
            return self._say("core.wiring.end.n_top" if top else "core.wiring.end.n_bottom")
        number = unit.lines.index(conductor) if conductor in unit.lines else 0
        return str(2 * number + (1 if top else 2))

    def _outside(self, name: str, conductor: str, role: str) -> Text:
        kind, _, which = name.partition(":")
        if kind == "cable":
            circuit, _, leg = which.partition("+")
            way = self._ways.get(circuit)
            if leg == CLEAN:
                return self._say("core.wiring.end.clean_earth", n=str(way))
            if leg:
                return self._say("core.wiring.end.ring", n=str(way), leg=leg, conductor=self._conductor(conductor))
            return self._say("core.wiring.end.cable", n=str(way), conductor=self._conductor(conductor))
        if kind == "electrode" or (
            kind == "supply" and conductor == "PE" and own_electrode_alone(self._board.earthing)
        ):
            return self._say("core.wiring.end.electrode")
        if kind == "supply":
            return self._say("core.wiring.end.supply", conductor=self._conductor(conductor))
        if kind == "bond":
            return self._say("core.wiring.end.bond", bond=bonds_of(self._job, self._board)[int(which) - 1].name)
        if kind == "switch":
            if which.endswith("+off"):
                return self._say(f"core.wiring.end.central_{'out' if role == 'out' else 'back'}")
            return self._say(f"core.wiring.end.switch_{'out' if role == 'out' else 'back'}")
        if kind.startswith("block"):
            return self._say("core.wiring.end.block", block=kind.removeprefix("block"), conductor=conductor)
        return self._say("core.wiring.end.case")

    def _conductor(self, conductor: str) -> Text:
        if conductor == "PE":
            return self._say("core.wiring.end.protective")
        return self._say("core.wiring.end.neutral") if conductor == "N" else conductor

    def colour(self, conductor: str, kind: str) -> str:
        """Colour of a conductor as now laid; empty where the standard's file holds none."""
        texts = self._rules.colours_now
        if not texts:
            return ""
        if conductor == "PE" or kind in ("earth", "neutral-earth-link"):
            return texts[4]
        return texts[3] if conductor == "N" else texts[line_index(conductor)]

    def finish(self, kind: str, area_mm2: float | None, conductor: str) -> Text:
        """How an end is made ready: ferrules on fine strands, nothing on the rest."""
        if kind in ("plug", "own-lead"):
            return self._say("core.wiring.end.factory_made")
        if kind in ("cable", "supply", "earth"):
            if area_mm2 is None or area_mm2 <= 10:
                return self._say("core.wiring.end.bare")
            return self._say("core.wiring.end.bare_together")
        if area_mm2 is not None and has_ferrule(kind, area_mm2, conductor):
            colour = self._rules.board.ferrule_colour(area_mm2)
            return (
                self._say("core.wiring.end.ferrule_colour", colour=colour)
                if colour
                else self._say("core.wiring.end.ferrule")
            )
        return self._say("core.wiring.end.bare")

    def strip_mm(self, area_mm2: float | None) -> float:
        """Insulation to strip off [mm]; 0 where nothing is stripped."""
        return 0.0 if area_mm2 is None else self._rules.board.strip_mm(area_mm2).value

    def torque(self, end: Terminal, area_mm2: float | None) -> Text:
        """Torque at an end: its manufacturer's figure where the family states it, else the usual range; '' outside the board."""
        if end.at_bar:
            upto = next((size for size in (6, 16, 25) if (area_mm2 or 0) <= size), 25)
            return self._range(f"neutral or PE bar terminal, {upto} mm2")
        unit = self._places.units.by_id.get(end.device)
        if unit is None:
            return ""
        if unit.family is not None and unit.family.torque_nm is not None:
            return self._say("core.wiring.end.torque", nm=Shown(f"{unit.family.torque_nm:g}"))
        return self._range(self._terminal(unit, end.conductor))

    def _terminal(self, unit: BoardDevice, conductor: str) -> str:
        if unit.kind == "main":
            return _main_terminal(unit)
        if unit.kind == "surge" and unit.surge is not None:
            return "SPD type 1" if unit.surge.type.startswith("1") else "SPD type 2"
        if unit.kind == "gear" and unit.gear is not None:
            traits = GEAR[unit.gear.kind]
            return traits.coil_terminal if conductor in ("A1", "A2", CENTRAL) else traits.terminal
        return "RCBO" if unit.rcd else unit.traits.terminal

    def _range(self, device: str) -> Text:
        low, high, _, _ = self._rules.board.torque(device)
        return self._say("core.wiring.end.torque_range", low=Shown(f"{low:g}"), high=Shown(f"{high:g}"))


def has_ferrule(kind: str, area_mm2: float | None, conductor: str) -> bool:
    """Whether an end of a conductor takes a ferrule: fine strands that are cut for the board."""
    cut = kind not in ("plug", "own-lead", "cable", "supply", "earth")
    return cut and conductor == "flexible" and area_mm2 is not None


def _main_terminal(unit: BoardDevice) -> str:
    """The row of the terminal table that a main switch goes by."""
    if unit.rcd:
        return "RCCB"
    return "main switch 63 A" if (unit.rating_a or 0) <= 63 else "main switch 100 A"
