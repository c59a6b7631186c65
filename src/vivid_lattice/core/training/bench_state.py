"""What is so at a training board: what is on, off, locked, proved, open and taken off; what was read and named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from vivid_lattice.core.training.acts import Link, Measure, Name
from vivid_lattice.core.training.boards import TrainingBoard
from vivid_lattice.core.training.training_rules import LEADS_FROM_LEVEL, Stopped, stays_live


@dataclass(frozen=True, slots=True)
class Taken:
    """A test that was taken, with what the display showed. ``prepared``: with the link that it is read with."""

    measure: Measure
    text: str
    prepared: bool


@dataclass(kw_only=True)
class BenchState:
    """The state of a board. Devices are named by their circuit, shared ones by their own name; '' is the main switch. It begins live, closed
    and nothing proved. ``tested``: found dead by an indicator that was not proved again yet; they are ``proved`` once it is, the board too
    where its main switch was off. ``links``: what is joined at the board; ``neutrals_off``: of which circuits; ``told``: the people know what
    is tested; ``metal_live``: metalwork was read live to the ground."""

    board: TrainingBoard
    off: set[str] = field(default_factory=set)
    locked: set[str] = field(default_factory=set)
    tripped: set[str] = field(default_factory=set)
    proved: set[str] = field(default_factory=set)
    tested: set[str] = field(default_factory=set)
    open: set[str] = field(default_factory=set)
    taken_off: set[str] = field(default_factory=set)
    links: dict[str, Link] = field(default_factory=dict)
    neutrals_off: set[str] = field(default_factory=set)
    earth_off: bool = False
    told: bool = False
    metal_live: bool = False
    board_proved: bool = False
    indicator: bool = False
    nulled: bool = False
    hints: int = 0
    taken: list[Taken] = field(default_factory=list)
    named: list[Name] = field(default_factory=list)
    stopped: list[Stopped] = field(default_factory=list)
    closings: dict[str, int] = field(default_factory=dict)
    finished: bool = False

    @property
    def done(self) -> list[Measure]:
        """The tests that were taken, in their order."""
        return [each.measure for each in self.taken]

    @property
    def by_hand(self) -> bool:
        """Whether the learner sets the tester, and joins and disconnects what a test needs, herself."""
        return self.board.level >= LEADS_FROM_LEVEL

    @property
    def circuits(self) -> Sequence[str]:
        """Every circuit of the board."""
        return [each.id for each in self.board.job.circuits]

    def devices_of(self, circuit: str) -> tuple[str, ...]:
        """The devices that a circuit is behind, the main switch first."""
        return ("", *(name for name, group in self.board.groups.items() if circuit in group), circuit)

    def circuits_at(self, device: str) -> Sequence[str]:
        """The circuits that a device switches."""
        return [each for each in self.circuits if device in self.devices_of(each)]

    def is_on(self, circuit: str) -> bool:
        """Whether every device before a circuit is on: it has supply, as the chart has it."""
        return not any(each in self.off or each in self.tripped for each in self.devices_of(circuit))

    def _stays_live(self, circuit: str, off: str) -> bool:
        return any(stays_live().get(defect.id) == off for defect, _ in self.board.defects_of(circuit))

    def is_fed_elsewhere(self, circuit: str) -> bool:
        """Whether another device feeds a circuit, whatever its own does and the chart says."""
        return self._stays_live(circuit, "breaker")

    def has_voltage(self, circuit: str) -> bool:
        """Whether there is voltage, whatever the chart says."""
        if "" in self.off:
            return False
        if self._stays_live(circuit, "shared"):
            return not {circuit} & (self.off | self.tripped)
        return self.is_fed_elsewhere(circuit) or self.is_on(circuit)

    def is_isolated(self, circuit: str) -> bool:
        """Whether a circuit is off, and locked so."""
        return any(each in self.off and each in self.locked for each in self.devices_of(circuit))

    def whole_is_isolated(self) -> bool:
        """Whether the whole board is off, locked and proved dead."""
        return {""} <= self.off & self.locked and self.board_proved

    def is_other_supply_on(self) -> bool:
        """Whether a supply other than the network is not off and locked."""
        return any(not {each} <= self.off & self.locked for each in self.board.sources)

    def is_apart(self, circuit: str) -> bool:
        """Whether something of a circuit is not as it was: a cover off, a load or a neutral off, a link in."""
        return circuit in self.open | self.taken_off | self.neutrals_off
