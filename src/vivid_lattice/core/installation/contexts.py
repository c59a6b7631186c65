"""What a check is given: the installation, and the circuit or board it is asked about. Nothing here may be changed."""

from __future__ import annotations

from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Board, Circuit, Device
from vivid_lattice.core.errors import Need, NeedsInput
from vivid_lattice.core.findings.finding import Subject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Message
from vivid_lattice.core.messages.message import Param


class _InStandard:
    """Messages in the words of the job's standard."""

    __slots__ = ()
    network: Installation

    def message(self, id_: str, **params: Param) -> Message:
        """A message in the words of the job's standard."""
        return Message(id_, params, self.network.rules.words)

    def need(self, key: str, path: str, **params: Param) -> Need:
        """An input that is missing, as ``Installation.need``."""
        return self.network.need(key, path, **params)


class SupplyContext(_InStandard):
    """The network, for a check that is asked about the supply as a whole."""

    __slots__ = ("explain", "job", "network", "rules", "subject")

    def __init__(self, network: Installation, explain: bool = True):
        self.network, self.explain = network, explain
        self.job, self.rules = network.job, network.rules
        self.subject = Subject("supply", "supply")


class BoardContext(_InStandard):
    """The network and a board, for a check that is asked about the board as a whole."""

    __slots__ = ("board", "explain", "job", "model", "network", "rules", "subject")

    def __init__(self, network: Installation, board: Board, explain: bool = True):
        self.network, self.board, self.explain = network, board, explain
        self.model = network.boards[board.id]
        self.job, self.rules = network.job, network.rules
        self.subject = Subject("board", board.id)


class CircuitContext(_InStandard):
    """The network, the circuit a check is asked about, and whether its working is to be written out.

    Made once a circuit and handed to every check, so that what they all need is looked up once: ``board`` is the board it
    leaves from, ``loaded`` its number of loaded conductors. NeedsInput where it has been given no way yet.
    """

    __slots__ = ("_device", "_name", "board", "circuit", "explain", "job", "loaded", "network", "rules", "subject")

    def __init__(self, network: Installation, circuit: Circuit, explain: bool = True):
        self.network, self.circuit, self.explain = network, circuit, explain
        self._name = ""
        self._device = None if is_auto(circuit.device) else circuit.device
        self.board: Board = network.tree.place(circuit).board
        self.loaded = network.tree.loaded(circuit)
        self.job, self.rules = network.job, network.rules
        self.subject = Subject("circuit", circuit.id)

    @property
    def device(self) -> Device:
        """The circuit's device; NeedsInput while it is left to the design."""
        if self._device is None:
            raise NeedsInput(self.need("core.need.device", "device", circuit=self.circuit.name))
        return self._device

    def size(self, area_mm2: float) -> str:
        """A conductor size as the standard writes it."""
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
