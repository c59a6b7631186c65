"""A board with everything that is worked out once for its checks, its drawing and its lists."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

from vivid_lattice.core.board.layout.board_devices import BoardDevices, board_devices_of
from vivid_lattice.core.board.layout.heat import Heat, heat_of
from vivid_lattice.core.board.layout.rail_positions import RailPositions
from vivid_lattice.core.board.terminal import Terminal
from vivid_lattice.core.board.wiring.busbars import Busbar, busbars_of
from vivid_lattice.core.board.wiring.conductor_sizes import WireSizes
from vivid_lattice.core.board.wiring.end_labels import EndLabels
from vivid_lattice.core.board.wiring.links import Links, ahead_of
from vivid_lattice.core.board.wiring.netlist import Netlist, netlist_of
from vivid_lattice.core.board.wiring.wiring_list import Wiring, fed_a, wiring_of
from vivid_lattice.core.document.board_build import Enclosure
from vivid_lattice.core.document.job import Board, Job
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.messages import message
from vivid_lattice.core.network.loops import Loops
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet


class BoardModel:
    """What a board is made of. Each part is worked out when it is first needed; NeedsInput where it lacks something."""

    def __init__(self, job: Job, rules: RuleSet, tree: Tree, loops: Loops, board: Board):
        self.job, self.rules, self.tree, self.loops, self.board = job, rules, tree, loops, board
        #: Kept here by ``live_parts.live_behind_main``, which needs the other boards too.
        self.live_behind_main: tuple[Terminal, ...] | None = None

    @cached_property
    def units(self) -> BoardDevices:
        """Everything in it."""
        return board_devices_of(self.job, self.rules, self.tree, self.board)

    @cached_property
    def scheme(self) -> Netlist:
        """How it is joined."""
        return netlist_of(self.job, self.rules, self.tree, self.units)

    @cached_property
    def net_of(self) -> Mapping[str, str]:
        """The net that each of its terminals is on."""
        return {terminal: net.id for net in self.scheme.nets for terminal in net.terminals}

    @property
    def enclosure(self) -> Enclosure:
        """What it is housed in."""
        enclosure = self.board.build.enclosure
        if enclosure is None:
            raise NeedsInput(
                Need(
                    message(self.rules.words, "core.board.need.enclosure.what", board=self.board.name),
                    "boards.build.enclosure",
                    message(self.rules.words, "core.board.need.enclosure.ask"),
                )
            )
        return enclosure

    @property
    def begun(self) -> bool:
        """Whether anyone has begun to build it: it has an enclosure. Before that, nothing of its build can be judged."""
        return self.board.build.enclosure is not None

    @cached_property
    def places(self) -> RailPositions:
        """Where everything is. NeedsInput while there is no enclosure."""
        wishes = self.board.build.layout_preferences
        return RailPositions(self.units, self.scheme, self.board.build, self.enclosure, wishes.supply_entry)

    @cached_property
    def laid_out(self) -> RailPositions:
        """The same, once every unit has its place; NeedsInput before."""
        self.must_be_laid_out()
        return self.places

    def must_be_laid_out(self) -> None:
        """Nothing where every unit has its place; NeedsInput with what has none."""
        places = self.places
        if places.loose or self.units.open:
            names = [unit.name for unit in places.loose] + [circuit.name for circuit in self.units.open]
            need = "core.board.need.position" if len(names) == 1 else "core.board.need.positions"
            raise NeedsInput(
                Need(
                    message(
                        self.rules.words,
                        f"{need}.what",
                        device=names[0],
                        **({"n": len(names) - 1} if len(names) > 1 else {}),
                    ),
                    "boards.build.device_positions",
                    message(self.rules.words, "core.board.need.position.ask"),
                )
            )

    @cached_property
    def links(self) -> Links:
        """Sizes of its links."""
        ahead = ahead_of(self.job, self.rules, self.tree, self.loops, self.board)
        return Links(self.job, self.rules, self.board, ahead)

    def carried_a(self, feed: str) -> float:
        """What the busbar of a feed may have to carry: the device ahead of the board, or the total behind it if less [A]."""
        return self.links.carries_a(fed_a(self.units, feed))

    @cached_property
    def combs(self) -> tuple[Busbar, ...]:
        """Its busbars, as it is laid out."""
        feeds = {"bus", *(unit.id for unit in self.units.all if unit.traits.passes_on)}
        load = {feed: self.carried_a(feed) for feed in feeds}
        housing = self.board.build
        return busbars_of(self.places, housing.busbar_stock, housing.wiring_defaults.use_busbars, load)

    @cached_property
    def heat(self) -> Heat:
        """What its devices lose, and how warm it gets inside."""
        standing = self.board.build.mounting
        room_c = standing.ambient_c if standing else None
        return heat_of(self.units, self.enclosure, self.rules.board, room_c, self.links.ahead.rating_a)

    @cached_property
    def words(self) -> EndLabels:
        """How its ends and conductors are said."""
        return EndLabels(self.job, self.rules, self.board, self.places)

    def whole_wiring(self) -> Wiring:
        """Its wiring list, once every unit has its place; NeedsInput before, with what lacks one."""
        self.must_be_laid_out()
        return self.wiring

    @cached_property
    def wiring(self) -> Wiring:
        """Its wiring list."""
        sizes = WireSizes(self.job, self.rules, self.tree, self.units, self.board)
        habits = self.board.build.wiring_defaults
        return wiring_of(self.units, self.scheme, self.places, self.combs, self.links, sizes, self.words, habits)

    def surge_leads_m(self, device: str) -> float | None:
        """Length of a surge device's leads as the board is laid out: line side and earth side together [m]; None while it has
        no place. The line side runs from where the line leaves its bar or terminal, through the backup device, to the device.
        """
        unit, backup = f"surge:{device}", f"backup:{device}"
        if unit not in self.places.placed:
            return None
        by_line: dict[str, float] = {}
        for conductor in self.wiring.conductors:
            ends = {conductor.start.terminal.device, conductor.end.terminal.device}
            if conductor.conductor not in ("N", "PE") and conductor.kind != "supply" and ends & {unit, backup}:
                by_line[conductor.conductor] = by_line.get(conductor.conductor, 0.0) + conductor.length_mm
        earth = sum(
            conductor.length_mm
            for conductor in self.wiring.conductors
            if conductor.conductor == "PE" and conductor.start.terminal.device == unit
        )
        return (max(by_line.values(), default=0.0) + earth) / 1000
