"""What each box of a planned circuit holds against what it takes: counted from its cables, joints and devices."""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.document.plan import PlanPoint
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.plan.circuit_plan import CircuitPlan
from vivid_lattice.core.plan.fill.box import BoxContent, BoxFill, box_fill
from vivid_lattice.core.plan.house_plan import MadeJoint
from vivid_lattice.core.rules.protocol import RuleSet

#: Ports from which a connector takes room of its own; the sizes of a double socket's box.
_COUNTED_PORTS, _MOST_GANGS = 3, 2
_NO_BOX = ("junction-box",)


def fills_of(
    plan: CircuitPlan, points: Mapping[str, PlanPoint], made: Mapping[str, tuple[MadeJoint, ...]], rules: RuleSet
) -> dict[str, BoxFill]:
    """The fill of each box by its point. A light joins in its own terminals unless the standard counts volume, and has no box. Nothing
    where the circuit has no cable yet: what its conductors take is not known.

    Source  what a box is counted by: `box_fill`
    """
    cable = plan.circuit.cable
    if not isinstance(cable, Cable):
        return {}
    by_volume = rules.plan.box_method == "volume"
    size: float | str = cable.area_mm2
    if by_volume:
        size = rules.cables.size_label(cable.area_mm2).split()[0]
    found: dict[str, BoxFill] = {}
    for box, joints in made.items():
        point = points.get(box)
        if point is None or point.kind in _NO_BOX or (point.wall is None and not by_volume):
            continue
        devices = len(plan.devices[box])
        content = BoxContent(
            cables=tuple(len(section.carries) for section in plan.sections if box in (section.a, section.b)),
            size=size,
            gangs=_gangs(point, devices, by_volume=by_volume),
            connectors=sum(
                each.connectors.count for each in joints if each.connectors and each.connectors.ports >= _COUNTED_PORTS
            ),
            devices=devices if point.wall is not None else 0,
            ceiling=point.wall is None,
        )
        try:
            found[box] = box_fill(rules.plan, content)
        except NotPossible:
            # Larger wires than the table of volumes: such a box is sized by its conduits.
            found[box] = BoxFill(method=None, used=0.0, parts=(), box=None, limit=None)
    return found


def _gangs(point: PlanPoint, devices: int, *, by_volume: bool) -> int:
    """A double socket is of two gangs, but on one yoke where volume is counted; switches are beside each other on one plate elsewhere."""
    if by_volume:
        return max(devices, 1)
    return min(point.gangs, _MOST_GANGS) if point.kind == "socket" else 1
