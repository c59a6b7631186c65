"""What the parts of the list are counted from, and what they could not count."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Message, Text
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.fixing.fixing_plan import FixingPlan, fixing_plan
from vivid_lattice.core.plan.house_plan import HousePlan, house_plan


@dataclass(kw_only=True)
class Counting:
    """An installation with its plan, as the list is counted."""

    network: Installation
    missing: list[Text] = field(default_factory=list)

    def size(self, area_mm2: float) -> str:
        """A conductor size as the standard writes it."""
        return self.network.rules.cables.size_label(area_mm2)

    def say(self, id_: str, **params: Param) -> Message:
        """A text in the words of the standard."""
        return self.network.message(id_, **params)

    def lack(self, id_: str, **params: Param) -> None:
        """Something that could not be counted."""
        self.missing.append(self.say(id_, **params))

    @cached_property
    def house(self) -> HousePlan | None:
        """The plan; None where the job has none."""
        job = self.network.job
        return house_plan(job, self.network.rules) if job.plan.points else None

    @cached_property
    def planned(self) -> Mapping[str, CircuitPlan]:
        """Circuits on the plan, by id."""
        return {} if self.house is None else {each.circuit.id: each for each in self.house.circuits}

    @cached_property
    def fixing(self) -> FixingPlan | None:
        """How the plan is fixed; None where there is none."""
        return None if self.house is None else fixing_plan(self.network.job, self.network.rules, self.house)

    @cached_property
    def room_of(self) -> Mapping[str, str]:
        """The room of each point, by id."""
        return {point.id: point.room for point in self.network.job.plan.points}

    @property
    def wired(self) -> bool:
        """Whether the wiring is new: where a board alone is replaced, or inspected, cables and points are there."""
        return self.network.job.work_details.kind not in ("board-replaced", "inspection")

    @cached_property
    def _ends(self) -> Mapping[str, str]:
        return {point.id: point.name for point in self.network.job.plan.points}

    def section(self, circuit: Circuit, a: str, b: str) -> Message:
        """A section of a circuit by what it joins."""
        board = self.network.job.find_board_of(circuit.id)
        names = [self._ends.get(end) or (board.name if end == FEED and board is not None else end) for end in (a, b)]
        return self.say("core.material.section", circuit=circuit.name, a=names[0], b=names[1])

    def waste(self, item: str, stated_pct: float | None) -> float:
        """What is bought beside what is counted, as a share: as stated in the job, or as usual with a cut list."""
        return stated_pct / 100 if stated_pct is not None else self.network.rules.fixing.waste(item)[0]
