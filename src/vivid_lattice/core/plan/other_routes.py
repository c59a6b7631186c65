"""Other routes of a circuit: how long it is by each way, and whether it would pass its checks."""

from __future__ import annotations

from dataclasses import dataclass

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import CircuitRoute, RouteShape, Way
from vivid_lattice.core.findings.verdict import VERDICT_ORDER, Verdict
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.rules.protocol import RuleSet

_WAYS: tuple[Way, ...] = ("ceiling", "floor", "loft", "surface", "wall")


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherRoute:
    """A route that a circuit could have. ``verdict``: the worst of its checks then; ``fails``: the checks that fail; ``passes``: none does,
    and none lacks an input."""

    way: Way
    shape: RouteShape
    apart: bool
    length_m: float
    verdict: Verdict
    fails: tuple[str, ...]
    passes: bool
    current: bool


def other_routes(job: Job, rules: RuleSet, circuit_id: str) -> tuple[OtherRoute, ...]:
    """The routes of a circuit by every way and shape, and with cables apart, each with the checks worked out again: those that pass first,
    the shortest of them before. KeyError if there is no such circuit."""
    circuit = job.circuit(circuit_id)
    before = next((route for route in job.plan.routes if route.circuit == circuit_id), CircuitRoute(circuit=circuit_id))
    shapes: tuple[RouteShape, ...] = ("ring",) if circuit.kind == "ring" else ("radial", "branch", "joints")
    found = []
    for apart in (False, True) if job.plan.apart is not True else (True,):
        for way in _WAYS:
            for shape in shapes:
                route = CircuitRoute(circuit=circuit_id, way=way, shape=shape, feed_at=before.feed_at)
                current = (way, shape, apart) == (before.way, before.shape or shapes[0], job.plan.apart is True)
                found.append(_tried(job, rules, before if current else route, way, shape, apart=apart, current=current))
    # Branches that are no shorter than a radial are the same cables.
    radial = {(each.way, each.apart): each.length_m for each in found if each.shape == "radial"}
    found = [
        each
        for each in found
        if each.current or each.shape == "radial" or each.length_m != radial.get((each.way, each.apart))
    ]
    return tuple(sorted(found, key=lambda each: (not each.passes, each.apart, each.length_m)))


def _tried(
    job: Job, rules: RuleSet, route: CircuitRoute, way: Way, shape: RouteShape, *, apart: bool, current: bool
) -> OtherRoute:
    routes = (*(each for each in job.plan.routes if each.circuit != route.circuit), route)
    plan = job.plan.model_copy(update={"routes": routes, "apart": apart or job.plan.apart})
    tried = with_planned_runs(job.model_copy(update={"plan": plan}), rules)
    findings = [each for each in assess(tried, explain=False).findings if each.subject.id == route.circuit]
    length = sum(section.length_m or 0.0 for section in tried.circuit(route.circuit).run)
    return OtherRoute(
        way=way, shape=shape, apart=apart, length_m=round(length, 2), current=current,
        verdict=min((each.verdict for each in findings), key=VERDICT_ORDER.index, default="pass"),
        passes=all(each.verdict not in ("fail", "missing") for each in findings),
        fails=tuple(each.check for each in findings if each.verdict == "fail"),
    )  # fmt: skip
