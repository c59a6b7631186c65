"""The cables of a plan as they are fixed: each section with its route, its outside and its ends."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.circuit_plan import CircuitPlan, PlannedSection
from vivid_lattice.core.plan.fill.conduit import ConduitChoice
from vivid_lattice.core.plan.fill.conduits_of_plan import conduits_of, is_wires
from vivid_lattice.core.plan.house_plan import HousePlan
from vivid_lattice.core.plan.routes.distance import Route
from vivid_lattice.core.rules.fixing_rules import CableDimensions
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class LaidCable:
    """A section as it is fixed. ``outside``: of its cable [mm], None: not known; ``conduit_mm``: the size of its conduit where it is single
    wires, None: there is none, or none is known; ``wires``: it is laid in conduit."""

    plan: CircuitPlan
    section: PlannedSection
    route: Route
    what: Text
    outside: CableDimensions | None
    wires: bool
    conduit_mm: float | None

    @property
    def wide_mm(self) -> float | None:
        """What a hole or clip has to take [mm]: the wider way of the cable, or the conduit."""
        if self.wires:
            return self.conduit_mm
        return None if self.outside is None else self.outside.wide_mm

    @property
    def thick_mm(self) -> float | None:
        """What a chase or notch has to take [mm]: the thinner way, or the conduit."""
        if self.wires:
            return self.conduit_mm
        return None if self.outside is None else self.outside.thick_mm


def laid_cables(plan: HousePlan, rules: RuleSet) -> Iterator[LaidCable]:
    """Every section of every circuit whose cable is chosen."""
    for circuit in plan.circuits:
        cable = circuit.circuit.cable
        if not isinstance(cable, Cable):
            continue
        conduits = conduits_of(circuit, plan.laying.sections, rules)
        wires = is_wires(circuit, rules)
        for section in circuit.sections:
            chosen = conduits.get((section.a, section.b))
            yield LaidCable(
                plan=circuit,
                section=section,
                route=plan.laying.sections[circuit.circuit.id, section.a, section.b],
                what=cable_words(section, cable, rules),
                outside=None if wires else _outside(section, cable, rules),
                wires=wires,
                conduit_mm=_size_mm(chosen) if isinstance(chosen, ConduitChoice) else None,
            )


def cable_words(section: PlannedSection, cable: Cable, rules: RuleSet) -> Text:
    """The cable of a section as it is ordered over the counter."""
    return cable_name(cable, rules, section.cable.name if section.cable is not None else "")


def cable_name(cable: Cable, rules: RuleSet, name: str = "") -> Text:
    """A cable by its kind, or by a name of its own, and its size."""
    size = rules.cables.size_label(cable.area_mm2)
    return message(None, "core.plan.fixing.cable", cable=name or rules.cables.kind(cable.type).title, size=size)


def _outside(section: PlannedSection, cable: Cable, rules: RuleSet) -> CableDimensions | None:
    cores = section.cable.cores if section.cable is not None else 0
    return rules.fixing.cable_dimensions(cores, cable.area_mm2)


def _size_mm(choice: ConduitChoice) -> float | None:
    """The outside of a conduit [mm], where it is named by that; None of trade sizes in inches."""
    number, _, unit = choice.conduit.partition(" ")
    return float(number) if unit == "mm" else None
