"""What is so at a training board: what is on, off, locked, proved, open and taken off; what was read and named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from vivid_lattice.core.training.acts import Measure, Name
from vivid_lattice.core.training.boards import TrainingBoard
from vivid_lattice.core.training.training_rules import Stopped


@dataclass(kw_only=True)
class BenchState:
    """The state of a board. Devices are named by their circuit; '' is the main switch. It begins live, closed and nothing proved. ``tested``:
    found dead by an indicator that was not proved again yet; they are ``proved`` once it is, the board too where its main switch was off."""

    board: TrainingBoard
    off: set[str] = field(default_factory=set)
    locked: set[str] = field(default_factory=set)
    tripped: set[str] = field(default_factory=set)
    proved: set[str] = field(default_factory=set)
    tested: set[str] = field(default_factory=set)
    open: set[str] = field(default_factory=set)
    taken_off: set[str] = field(default_factory=set)
    board_proved: bool = False
    indicator: bool = False
    nulled: bool = False
    hints: int = 0
    done: list[Measure] = field(default_factory=list)
    named: list[Name] = field(default_factory=list)
    stopped: list[Stopped] = field(default_factory=list)
    closings: dict[str, int] = field(default_factory=dict)
    finished: bool = False

    @property
    def circuits(self) -> Sequence[str]:
        """Every circuit of the board."""
        return [each.id for each in self.board.job.circuits]

    def is_on(self, circuit: str) -> bool:
        """Whether the main switch and the device of a circuit are on: it has supply, as the chart has it."""
        return not {"", circuit} & self.off and circuit not in self.tripped

    def is_fed_elsewhere(self, circuit: str) -> bool:
        """Whether the chart names another device than the circuit's: its own switches nothing."""
        return any(
            (effect := defect.effects.get("ident")) is not None and effect.change != "same"
            for defect, _ in self.board.defects_of(circuit)
        )

    def has_voltage(self, circuit: str) -> bool:
        """Whether there is voltage, whatever the chart says."""
        return "" not in self.off and (self.is_fed_elsewhere(circuit) or self.is_on(circuit))

    def is_isolated(self, circuit: str) -> bool:
        """Whether a circuit is off, and locked so."""
        return any(device in self.off and device in self.locked for device in ("", circuit))
