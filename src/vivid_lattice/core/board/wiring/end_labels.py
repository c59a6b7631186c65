"""How the ends and conductors of a board are said: clamps by number, colours, ferrules, torque."""

from __future__ import annotations

from vivid_lattice.core.board.layout.board_devices import BoardDevice, line_index
from vivid_lattice.core.board.layout.device_kinds import GEAR
from vivid_lattice.core.board.layout.rail_positions import RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.document.job import Board, Job
from vivid_lattice.core.rules.protocol import RuleSet


class EndLabels:
    """Words for one board."""

    def __init__(self, job: Job, rules: RuleSet, board: Board, places: RailPositions):
        self._job, self._rules, self._board, self._places = job, rules, board, places
        self._ways = {way.circuit: way.number for way in board.ways}
        self._bars = {bar.id: bar.title for bar in places.scheme.bars}

    def end(self, end: Terminal) -> str:
        """An end in words: a clamp by its number, a bar's screw by its number, a cable by what it feeds."""
        if end.at_bar:
            screw = self._places.screw(end.without_bar)
            assert screw is not None
            return f"{self._bars[screw.bar]}, screw {screw.number}"
        name, conductor, role = end.device, end.conductor, end.side
        unit = self._places.units.by_id.get(name)
        if unit is not None:
            return f"{self._unit(unit)}, clamp {self.clamp(unit, conductor, role)}"
        return self._outside(name, conductor, role)

    def _unit(self, unit: BoardDevice) -> str:
        if unit.kind == "way" and unit.circuit is not None:
            return f"Way {self._ways[unit.circuit.id]} {unit.name}"
        return unit.name

    def clamp(self, unit: BoardDevice, conductor: str, role: str) -> str:
        """A clamp as it is printed on the device: odd at the top and even at the bottom, a pair a pole from the left; a neutral's
        by its letter and side; A1, A2 and the like by their name. On a panel a breaker has but its outgoing clamps.

        Source  EN 50005 for the numbers; top and bottom practice
        """
        if role == "tap":
            return conductor
        if self._places.enclosure.form == "panelboard":
            return conductor if unit.kind != "main" else f"{conductor} {'line' if role == 'in' else 'load'} side"
        top = self._places.side(unit, role, conductor) == "top"
        if conductor == "N":
            return "N top" if top else "N bottom"
        number = unit.lines.index(conductor) if conductor in unit.lines else 0
        return str(2 * number + (1 if top else 2))

    def _outside(self, name: str, conductor: str, role: str) -> str:
        kind, _, which = name.partition(":")
        if kind == "cable":
            circuit, _, leg = which.partition("+")
            way = self._ways.get(circuit)
            end = f", end {leg}" if leg else ""
            return f"cable of way {way}{end}, {self._conductor(conductor)}"
        if kind == "supply":
            return f"supply, {self._conductor(conductor)}"
        if kind == "bond" and self._job.supply.earthing is not None:
            return f"bonding of {self._job.supply.earthing.bonds[int(which) - 1].name}"
        if kind == "switch":
            return f"control line to the switch, {'out' if role == 'out' else 'back'}"
        if kind.startswith("block"):
            return f"terminal block {kind.removeprefix('block')}, {conductor}"
        return "metal case"

    def _conductor(self, conductor: str) -> str:
        if conductor == "PE":
            return self._rules.vocabulary.get("protective_conductor", "earth")
        return "neutral" if conductor == "N" else conductor

    def colour(self, conductor: str, kind: str) -> str:
        """Colour of a conductor as now laid; empty where the standard's file holds none."""
        texts = self._rules.colours_now
        if not texts:
            return ""
        if conductor == "PE" or kind in ("earth", "neutral-earth-link"):
            return texts[4]
        return texts[3] if conductor == "N" else texts[line_index(conductor)]

    def finish(self, kind: str, area_mm2: float | None, conductor: str) -> str:
        """How an end is made ready: ferrules on fine strands, nothing on the rest."""
        if kind in ("plug", "own-lead"):
            return "as made"
        if kind in ("cable", "supply", "earth"):
            return "bare" if area_mm2 is None or area_mm2 <= 10 else "bare, strands together"
        if conductor == "flexible" and area_mm2 is not None:
            colour = self._rules.board.ferrule_colour(area_mm2)
            return f"ferrule, {colour}" if colour else "ferrule"
        return "bare"

    def strip_mm(self, area_mm2: float | None) -> float:
        """Insulation to strip off [mm]; 0 where nothing is stripped."""
        return 0.0 if area_mm2 is None else self._rules.board.strip_mm(area_mm2).value

    def torque(self, end: Terminal, area_mm2: float | None) -> str:
        """Torque at an end: its maker's figure where the family states it, else the usual range; '' outside the board."""
        if end.at_bar:
            upto = next((size for size in (6, 16, 25) if (area_mm2 or 0) <= size), 25)
            return self._range(f"neutral or PE bar screw, {upto} mm2")
        unit = self._places.units.by_id.get(end.device)
        if unit is None:
            return ""
        if unit.family is not None and unit.family.torque_nm is not None:
            return f"{unit.family.torque_nm:g} N·m"
        return self._range(self._terminal(unit, end.conductor))

    def _terminal(self, unit: BoardDevice, conductor: str) -> str:
        if unit.kind == "main":
            return _main_terminal(unit)
        if unit.kind == "surge" and unit.surge is not None:
            return "SPD type 1" if unit.surge.type.startswith("1") else "SPD type 2"
        if unit.kind == "gear" and unit.gear is not None:
            traits = GEAR[unit.gear.kind]
            return traits.coil_terminal if conductor in ("A1", "A2") else traits.terminal
        return "RCBO" if unit.rcd else unit.traits.terminal

    def _range(self, device: str) -> str:
        low, high, _, _ = self._rules.board.torque(device)
        return f"{low:g}–{high:g} N·m, as printed"


def _main_terminal(unit: BoardDevice) -> str:
    """The row of the terminal table that a main switch goes by."""
    if unit.rcd:
        return "RCCB"
    return "main switch 63 A" if (unit.rating_a or 0) <= 63 else "main switch 100 A"
