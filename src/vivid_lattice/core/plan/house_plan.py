"""The plan of a whole job: every circuit with points on it as it runs, and what those that are not there lack."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.messages import Text
from vivid_lattice.core.plan.circuit_plan import CircuitPlan, planned_circuit
from vivid_lattice.core.plan.conductors.joints import Connectors, Joint, connectors_for
from vivid_lattice.core.plan.geometry.house import House, Spot
from vivid_lattice.core.plan.routes.lay import Laying, lay
from vivid_lattice.core.plan.routes.light_loads import light_loads
from vivid_lattice.core.plan.routes.ways import HouseWays
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class HousePlan:
    """A job on its plan. ``lacks``: circuits that are not on it, by id, with what is missing; ``undecided``: points without a circuit;
    ``laying``: the paths of all sections."""

    circuits: tuple[CircuitPlan, ...]
    lacks: Mapping[str, Text]
    undecided: tuple[str, ...]
    spots: Mapping[str, Spot]
    laying: Laying


def house_plan(job: Job, rules: RuleSet) -> HousePlan:
    """The plan of a job."""
    house = House(job.plan, rules.plan)
    ways = HouseWays(house)
    found: list[CircuitPlan] = []
    lacks: dict[str, Text] = {}
    for circuit in job.circuits:
        try:
            found.append(planned_circuit(job, rules, circuit, ways))
        except (NeedsInput, NotTabulated) as lack:
            if circuit.kind == "distribution":
                continue  # It has no points: its length is stated.
            lacks[circuit.id] = lack.needs[0].what
    return HousePlan(
        circuits=tuple(found),
        lacks=lacks,
        undecided=tuple(point.id for point in job.plan.points if point.circuit is None and point.kind != "data"),
        spots={point.id: house.spot_of(point) for point in job.plan.points},
        laying=lay(found, apart=job.plan.apart is True, light=lambda together: light_loads(job, rules, together)),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeJoint:
    """A joint as it is made: in the terminals of a device, or in connectors; neither where one cable end is on one terminal."""

    joint: Joint
    terminals_of: str
    connectors: Connectors | None


def made_joints(plan: CircuitPlan, rules: RuleSet) -> dict[str, tuple[MadeJoint, ...]]:
    """How each joint of each box is made: in the terminals of a device where they take so many ends, else in the smallest connector."""
    ports = [connector.ports for connector in rules.plan.connectors]
    found: dict[str, tuple[MadeJoint, ...]] = {}
    for box, joints in plan.joints.items():
        devices = plan.devices[box]
        made = []
        for joint in joints:
            device = next((name for name in devices if joint.needs_connector and _takes(rules, name, joint)), "")
            needs = joint.needs_connector and not device
            made.append(
                MadeJoint(
                    joint=joint, terminals_of=device, connectors=connectors_for(joint.ends, ports) if needs else None
                )
            )
        found[box] = tuple(made)
    return found


def _takes(rules: RuleSet, device: str, joint: Joint) -> bool:
    """Whether a device has terminals for all cable ends of a joint: strappers and switched lines that pass it are none of its own."""
    own = joint.devices > 0 or joint.net in ("L", "N", "PE")
    return own and joint.devices <= 1 and joint.cables <= rules.plan.terminal_ends(device)
