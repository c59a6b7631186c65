"""Are the circuits shared out so that one device opening leaves the house usable?"""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.checks.support.finding_builder import not_applicable
from vivid_lattice.core.checks.support.requirements import RequirementResult, finding_from_requirements
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.feeds import feeds_lights, feeds_sockets, must_stay_on
from vivid_lattice.core.document.job import Circuit, Load
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.core.installation.contexts import BoardContext
from vivid_lattice.core.text import plain

ID = "division"


def check(ctx: BoardContext) -> Finding:
    """Circuits an RCD, least number of RCDs, lights over several devices, what must stay on apart from what trips, what has a
    circuit to itself.

    Source  the rule set's division rules; where it demands nothing, what is said is advice
    """
    final = _final(ctx)
    if not final:
        return not_applicable(ID, ctx, ctx.message("core.check.division.none"))
    open_ = next((circuit for circuit in final if is_auto(circuit.device)), None)
    if open_ is not None:
        raise NeedsInput(ctx.need("core.need.device", "device", circuit=open_.name))
    results = [
        *_most_per_rcd(ctx),
        *_least_rcds(ctx, final),
        *_lights(ctx, final),
        *_apart(ctx, final),
        *_alone(ctx, final),
        *_largest_rating(ctx, final),
    ]
    if not results:
        return not_applicable(ID, ctx, ctx.message("core.check.division.no_rule"))
    return finding_from_requirements(ID, ctx, results)


def _final(ctx: BoardContext) -> list[Circuit]:
    circuits = [ctx.network.tree.circuits[way.circuit] for way in ctx.board.ways]
    return [circuit for circuit in circuits if circuit.kind != "distribution"]


def _most_per_rcd(ctx: BoardContext) -> list[RequirementResult]:
    division = ctx.rules.protection.division
    if division.most_per_rcd is None or division.most_per_rcd_rule is None:
        return []
    results = []
    for place in ctx.network.rcds.all:
        if place.board is not ctx.board or place.own_device is not None:
            continue
        count = len(ctx.network.rcds.final_behind(place))
        verdict: Verdict = "pass" if count <= division.most_per_rcd else "fail"
        words = ctx.message("core.check.division.most", rcd=place.name, n=str(count), max=str(division.most_per_rcd))
        results.append(
            RequirementResult(
                verdict=verdict, text=words, value=count, limit=division.most_per_rcd, source=division.most_per_rcd_rule
            )
        )
    return results


def _nearest(ctx: BoardContext, circuit: Circuit) -> str | None:
    """Id of what takes a circuit with it in a fault to earth: its nearest residual-current device."""
    places = ctx.network.rcds.ahead_of(circuit)
    return places[0].id if places else None


def _least_rcds(ctx: BoardContext, final: list[Circuit]) -> list[RequirementResult]:
    division = ctx.rules.protection.division
    behind = [name for name in (_nearest(ctx, circuit) for circuit in final) if name is not None]
    if division.least_rcds is None or division.least_rcds_rule is None or len(behind) < 2:
        return []
    count = len(set(behind))
    verdict: Verdict = "pass" if count >= division.least_rcds else "fail"
    words = ctx.message("core.check.division.least", n=len(behind), count=str(count), min=str(division.least_rcds))
    return [
        RequirementResult(
            verdict=verdict, text=words, value=division.least_rcds, limit=count, source=division.least_rcds_rule
        )
    ]


def _lights(ctx: BoardContext, final: list[Circuit]) -> list[RequirementResult]:
    division = ctx.rules.protection.division
    lights = [circuit for circuit in final if feeds_lights(circuit)]
    if not lights or division.lights_least < 2:
        return []
    everywhere = [circuit for circuit in ctx.job.circuits if feeds_lights(circuit)]
    count = _device_count(ctx, everywhere)
    if count >= division.lights_least:
        return [
            RequirementResult(
                verdict="pass",
                text=ctx.message("core.check.division.lights_pass", n=count, min=str(division.lights_least)),
                value=division.lights_least,
                limit=count,
                source=division.lights_rule,
            )
        ]
    verdict: Verdict = "fail" if len(everywhere) > 1 else "advice"
    words = ctx.message("core.check.division.lights_fail", n=count, min=str(division.lights_least))
    return [
        RequirementResult(
            verdict=verdict, text=words, value=division.lights_least, limit=count, source=division.lights_rule
        )
    ]


def _apart(ctx: BoardContext, final: list[Circuit]) -> list[RequirementResult]:
    """What must stay on, and alarms, behind a device that also feeds sockets."""
    division = ctx.rules.protection.division
    kept = [circuit for circuit in final if must_stay_on(circuit)]
    results = []
    for circuit in kept:
        trips = _sockets_behind_same(ctx, circuit)
        if trips:
            words = ctx.message("core.check.division.essential", circuit=circuit.name, other=trips[0].name)
            results.append(
                RequirementResult(
                    verdict="advice", text=words, value=float(len(trips)), limit=0.0, source=division.separate_rule
                )
            )
        else:
            results.append(
                RequirementResult(
                    verdict="pass",
                    text=ctx.message("core.check.division.essential_pass", circuit=circuit.name),
                    value=0.0,
                    limit=0.0,
                    source=division.separate_rule,
                )
            )
    return results


def _alone(ctx: BoardContext, final: list[Circuit]) -> list[RequirementResult]:
    """Loads that have a circuit to themselves, and share one."""
    results = []
    for rule in ctx.rules.protection.division.own:
        for circuit in final:
            loads = [load for load in circuit.loads if load.kind in rule.kinds]
            if not loads or len(circuit.loads) == 1:
                continue
            verdict: Verdict = "pass" if _managed(circuit, loads) else "fail" if rule.demanded else "advice"
            words = ctx.message("core.check.division.own", load=loads[0].name, circuit=circuit.name)
            results.append(
                RequirementResult(
                    verdict=verdict, text=words, value=float(len(circuit.loads)), limit=1.0, source=rule.rule
                )
            )
    return results


def _largest_rating(ctx: BoardContext, final: list[Circuit]) -> list[RequirementResult]:
    """The socket circuits of a kind of room, of which one at least has a rating."""
    rule, rooms = ctx.rules.protection.division.one_of, ctx.network.tree.rooms
    if rule is None:
        return []

    def feeds(circuit: Circuit) -> bool:
        loads = [load for load in circuit.loads if load.kind == "socket" and load.room]
        return any(rooms[load.room or ""].kind == rule.room for load in loads if load.room in rooms)

    if not any(feeds(circuit) for circuit in final):
        return []
    devices = [circuit.device for circuit in ctx.job.circuits if feeds(circuit)]
    largest = max((device.rating_a for device in devices if not is_auto(device)), default=0.0)
    verdict: Verdict = "pass" if largest >= rule.rating_a.value else "fail"
    words = ctx.message(
        "core.check.division.room_rating", room=rule.room, a=plain(largest), min=plain(rule.rating_a.value)
    )
    return [
        RequirementResult(
            verdict=verdict, text=words, value=rule.rating_a.value, limit=largest, source=rule.rating_a.source
        )
    ]


def _device_count(ctx: BoardContext, circuits: list[Circuit]) -> int:
    """How many devices put the circuits out between them: the nearest RCD of each, or its own device."""
    return len({_nearest(ctx, circuit) or f"own {circuit.id}" for circuit in circuits})


def _sockets_behind_same(ctx: BoardContext, circuit: Circuit) -> list[Circuit]:
    """Circuits with sockets behind an RCD of this board that the circuit is behind, too."""
    places = [place for place in ctx.network.rcds.ahead_of(circuit) if place.board is ctx.board]
    return [other for place in places for other in place.behind if other is not circuit and feeds_sockets(other)]


def _managed(circuit: Circuit, loads: Sequence[Load]) -> bool:
    """Whether nothing but these loads is on the circuit, and load management holds all of them."""
    return len(loads) == len(circuit.loads) and all(load.at_peak == "managed" for load in loads)
