"""The path of every section of a job, and how many cables lie together along the way.

Of two paths of one length a section takes the one that has less beside it, unless one is pinned.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass

from vivid_lattice.core.plan.circuit_plan import CircuitPlan, PlannedSection
from vivid_lattice.core.plan.routes.company import Company, Key, LaidCircuit, rises_at_board
from vivid_lattice.core.plan.routes.distance import Route
from vivid_lattice.core.plan.routes.leg import Leg
from vivid_lattice.core.plan.routes.lines import CableLines, axis_of


@dataclass(frozen=True, slots=True)
class Laying:
    """All routes of a job. ``sections``: by circuit and ends; ``circuits``: how each lies."""

    sections: Mapping[Key, Route]
    circuits: Mapping[str, LaidCircuit]


def lay(plans: Sequence[CircuitPlan], *, apart: bool, light: Callable[[int], Collection[str]] = lambda _: ()) -> Laying:
    """The paths of all sections, and what lies together.

    apart  cables that go the same way do not touch
    light  of a number that lie together, the circuits that carry too little to be counted with the rest
    """
    lines: CableLines = CableLines()
    sections: dict[Key, Route] = {}
    for plan in plans:
        for section in plan.sections:
            route = _chosen(plan, section, lines)
            sections[plan.circuit.id, section.a, section.b] = route
            for leg in _counted(section, route):
                lines.add(leg, plan.circuit.id)
    beside = CableLines() if apart else lines
    laid = _circuits(plans, Company(plans, sections, beside))
    most = max((leg.together for each in laid.values() for leg in (*each.way, *each.branches)), default=1)
    uncounted = light(most) if most > 1 else ()
    return Laying(sections, _circuits(plans, Company(plans, sections, beside, uncounted)) if uncounted else laid)


def _circuits(plans: Sequence[CircuitPlan], company: Company) -> dict[str, LaidCircuit]:
    return {plan.circuit.id: company.of(plan) for plan in plans}


def _chosen(plan: CircuitPlan, section: PlannedSection, lines: CableLines) -> Route:
    a, b = section.a, section.b
    routes, pin = plan.ways.of(a, b).routes(plan.spots[a], plan.spots[b]), plan.ways.pin(a, b)
    if pin is not None and pin.first is not None:
        wanted = 0 if pin.first == "x" else 1
        routes = [route for route in routes if _leaves_along(route) == wanted] or routes
    return min(routes, key=lambda route: round(sum(_beside_m(leg, lines) for leg in _counted(section, route)), 3))


def _leaves_along(route: Route) -> int | None:
    return next((axis_of(leg) for leg in route if not leg.upright), None)


def _beside_m(leg: Leg, lines: CableLines) -> float:
    return sum(end - begin for begin, end, _ in lines.beside(leg))


def _counted(section: PlannedSection, route: Route) -> Iterator[Leg]:
    """The parts of a route that others may lie beside."""
    return (leg for number, leg in enumerate(route) if not rises_at_board(section, route, number))
