"""The conduit of each section of a circuit of single wires, by what it carries, how long it is and how often it turns."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.circuit_plan import CircuitPlan, PlannedSection
from vivid_lattice.core.plan.fill.conduit import ConduitChoice, Wires, conduit_for
from vivid_lattice.core.plan.routes.company import Key
from vivid_lattice.core.plan.routes.distance import Route
from vivid_lattice.core.rules.protocol import RuleSet


def is_wires(plan: CircuitPlan, rules: RuleSet) -> bool:
    """Whether a circuit is laid as single wires in conduit."""
    return isinstance(plan.circuit.cable, Cable) and plan.circuit.cable.type in rules.plan.wire_kinds


def conduits_of(
    plan: CircuitPlan, sections: Mapping[Key, Route], rules: RuleSet
) -> dict[tuple[str, str], ConduitChoice | Text]:
    """The smallest conduit of each section, drawn in from box to box; else why none is known. Nothing for sheathed cables, or where the
    cable is not chosen yet.

    Source  how a standard fills conduits: `conduit_fill`
    """
    cable = plan.circuit.cable
    if not isinstance(cable, Cable) or not is_wires(plan, rules):
        return {}
    found: dict[tuple[str, str], ConduitChoice | Text] = {}
    for section in plan.sections:
        route = sections[plan.circuit.id, section.a, section.b]
        try:
            found[section.a, section.b] = conduit_for(
                rules.plan,
                _wires(section, cable, rules),
                length_m=max(section.route_m, 0.1),
                bends=max(len(route) - 1, 0),
            )
        except NotPossible as lack:
            found[section.a, section.b] = lack.sentence
    return found


def _wires(section: PlannedSection, cable: Cable, rules: RuleSet) -> list[Wires]:
    """Wires of a section by size: the protective conductor may be of another."""
    live = len([net for net in section.carries if net != "PE"])
    earth_mm2 = cable.cpc_mm2 or cable.area_mm2
    if earth_mm2 == cable.area_mm2:
        return [Wires(_size(cable.area_mm2, rules), live + 1)]
    return [Wires(_size(cable.area_mm2, rules), live), Wires(_size(earth_mm2, rules), 1)]


def _size(area_mm2: float, rules: RuleSet) -> float | str:
    """A size as the standard writes it in its tables of conduits."""
    if rules.plan.conduit_fill.method != "raceway":
        return area_mm2
    return rules.cables.size_label(area_mm2).split()[0]
