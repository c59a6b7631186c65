"""What a check looks at: the job, its rules and network, and the circuit in hand. Nothing here may be changed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.document.job import Board, Circuit, Device, Job
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings import Subject
from vivid_lattice.core.network.drops import Drops
from vivid_lattice.core.network.loops import Loops
from vivid_lattice.core.network.overcurrent_series import Series
from vivid_lattice.core.network.rcds import Rcds
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True)
class Installation:
    """A job with everything that is worked out once for all its checks."""

    job: Job
    rules: RuleSet
    tree: Tree
    loops: Loops
    drops: Drops
    rcds: Rcds
    series: Series
    boards: Mapping[str, BoardModel]

    @classmethod
    def of(cls, job: Job, rules: RuleSet, like: Installation | None = None) -> Installation:
        """The network of a job under a rule set.

        like  a network of the same job but for cables and runs: what it has worked out of currents and demand is taken over
        """
        tree = Tree(job)
        drops = Drops(job, rules, tree, like.drops if like else None)
        loops = Loops(job, rules, tree)
        boards = {board.id: BoardModel(job, rules, tree, loops, board) for board in job.boards}
        return cls(job, rules, tree, loops, drops, Rcds(job, rules, tree), Series(job, rules, tree), boards)


class SupplyContext:
    """The network, for a check that is asked about the supply as a whole."""

    __slots__ = ("explain", "job", "network", "rules", "subject")

    def __init__(self, network: Installation, explain: bool = True):
        self.network, self.explain = network, explain
        self.job, self.rules = network.job, network.rules
        self.subject = Subject("supply", "supply")


class BoardContext:
    """The network and a board, for a check that is asked about the board as a whole."""

    __slots__ = ("board", "explain", "job", "model", "network", "rules", "subject")

    def __init__(self, network: Installation, board: Board, explain: bool = True):
        self.network, self.board, self.explain = network, board, explain
        self.model = network.boards[board.id]
        self.job, self.rules = network.job, network.rules
        self.subject = Subject("board", board.id)


class CircuitContext:
    """The network, the circuit a check is asked about, and whether its working is to be written out.

    Made once a circuit and handed to every check, so that what they all need is looked up once: ``board`` is the board it
    leaves from, ``loaded`` its number of loaded conductors. NeedsInput where it has been given no way yet.
    """

    __slots__ = ("_device", "_name", "board", "circuit", "explain", "job", "loaded", "network", "rules", "subject")

    def __init__(self, network: Installation, circuit: Circuit, explain: bool = True):
        self.network, self.circuit, self.explain = network, circuit, explain
        self._name = ""
        self._device = None if isinstance(circuit.device, str) else circuit.device
        self.board: Board = network.tree.place(circuit).board
        self.loaded = network.tree.loaded(circuit)
        self.job, self.rules = network.job, network.rules
        self.subject = Subject("circuit", circuit.id)

    @property
    def device(self) -> Device:
        """The circuit's device; NeedsInput while it is left to the design."""
        if self._device is None:
            raise NeedsInput(
                Need(f"a protective device for {self.circuit.name}", "device", "Choose one, or let the design choose.")
            )
        return self._device

    def size(self, area_mm2: float) -> str:
        """A conductor size as the school writes it."""
        return self.rules.cables.size_label(area_mm2)

    def device_name(self) -> str:
        """The device as it is said: B32, or 30 A rewirable fuse."""
        if not self._name:
            device = self.device
            self._name = (
                f"{device.curve}{device.rating_a:g}"
                if device.curve
                else f"{device.rating_a:g} A {self.rules.devices.kind(device.kind).title.lower()}"
            )
        return self._name
