"""How large a conductor inside a board must be: what it may carry, what it must withstand, and the custom of the trade."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from vivid_lattice.core.document.job import Board, Cable, Job
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.formulas.cable.adiabatic import min_area_for_energy_mm2
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.network.loops import Loops
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.network.upstream import upstream_of
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules.protocol import RuleSet
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown
from vivid_lattice.core.units import SLACK


@dataclass(frozen=True, slots=True)
class UpstreamDevice:
    """The overcurrent device ahead of a board: its rating, and the energy it lets through in a fault there; None: not known."""

    rating_a: float | None
    energy_a2s: float | None


@dataclass(frozen=True, slots=True)
class LinkSize:
    """A size for a link, and by what it was found."""

    area_mm2: float
    reason: Text
    source: Source


def ahead_of(job: Job, rules: RuleSet, tree: Tree, loops: Loops, board: Board) -> UpstreamDevice:
    """The device ahead of a board, as far as it is known."""
    upstream = upstream_of(job, tree, board)
    if upstream is None:
        return UpstreamDevice(None, None)
    device = upstream.device
    energy = or_none(lambda: rules.devices.let_through(device, loops.board_fault_a(board)).value)
    return UpstreamDevice(device.rating_a, energy)


class Links:
    """Sizes of links of one board."""

    def __init__(self, job: Job, rules: RuleSet, board: Board, ahead: UpstreamDevice):
        self._rules, self.ahead = rules, ahead
        stated = board.build.wiring_defaults.min_link_mm2
        self._least = rules.board.min_link_mm2 if stated is None else None
        self._least_mm2 = stated if stated is not None else rules.board.min_link_mm2.value
        self._sizes = rules.cables.kind(rules.tails_cable).sizes_mm2
        self._loaded = 3 if job.supply.phases == 3 else 2
        self._by_load: dict[tuple[float, float], LinkSize] = {}

    def carries_a(self, behind_a: float | None) -> float:
        """What a link may have to carry: the device ahead, or the total of those behind it where that is less [A].

        NeedsInput where neither is known.
        """
        figures = [item for item in (self.ahead.rating_a, behind_a) if item is not None]
        if not figures:
            raise NeedsInput(
                Need(
                    message(self._rules.words, "core.wiring.need.upstream.what"),
                    "supply.cutout",
                    message(self._rules.words, "core.wiring.need.upstream.ask"),
                )
            )
        return min(figures)

    def size(self, load_a: float, least_mm2: float | None = None) -> LinkSize:
        """The smallest size that carries a load, withstands the energy let through, and is no smaller than is usual.

        Equation  Iz ≥ I;  S ≥ √(I²t)/k
        Source    the rule set's tables for single cores, and its rule of links
        Raises    NotTabulated past the largest size that the tables hold
        """
        least = self._least_mm2 if least_mm2 is None else least_mm2
        key = (load_a, least)
        if key not in self._by_load:
            self._by_load[key] = self._size(load_a, least)
        return self._by_load[key]

    def _size(self, load_a: float, least: float) -> LinkSize:
        rules, source = self._rules, self._rules.board.source("link")
        for area in self._sizes:
            if area < least - SLACK:
                continue
            cable = Cable(type=rules.tails_cable, area_mm2=area)
            capacity = or_none(partial(rules.cables.capacity_a, cable, rules.tails_method, self._loaded))
            if capacity is None or capacity.value < load_a:
                continue
            carries = capacity.value
            k = rules.cables.k_live(cable).value
            stands = 0.0 if self.ahead.energy_a2s is None else min_area_for_energy_mm2(self.ahead.energy_a2s, k)
            if area < stands:
                continue
            figures = {"iz": Shown(f"{carries:g}"), "a": Shown(f"{load_a:g}")}
            why = (
                message(self._rules.words, "core.wiring.size.carries_only", **figures)
                if self.ahead.energy_a2s is None
                else message(self._rules.words, "core.wiring.size.carries", **figures)
            )
            return LinkSize(area, why, source)
        raise NeedsInput(
            Need(
                message(self._rules.words, "core.wiring.need.link.what", a=Shown(f"{load_a:g}")),
                "boards.build.wiring_defaults.min_link_mm2",
                message(self._rules.words, "core.wiring.need.link.ask"),
            )
        )
