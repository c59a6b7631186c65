"""Which circuits serve which rooms: by the points of the plan where a room has any, and by what the circuits' loads state."""

from __future__ import annotations

from vivid_lattice.core.document.job import Circuit, Job


def circuits_of_room(job: Job, room: str) -> list[Circuit]:
    """The circuits with a load or a point in a room, in their order."""
    on_plan = {point.circuit for point in job.plan.points if point.room == room}
    return [
        circuit for circuit in job.circuits if circuit.id in on_plan or any(load.room == room for load in circuit.loads)
    ]


def lights_of_room(job: Job, room: str) -> frozenset[str]:
    """The circuits that light a room, by id: those of the lights on the plan; where it has none, of the lamps among the loads."""
    on_plan = {point.circuit for point in job.plan.points if point.room == room and point.kind == "light"} - {None}
    if on_plan:
        return frozenset(str(each) for each in on_plan)
    return frozenset(
        circuit.id for circuit in job.circuits for load in circuit.loads if load.kind == "lamp" and load.room == room
    )


def rooms_of_circuit(job: Job, circuit: Circuit) -> list[str]:
    """The rooms that a circuit serves, by id: those its loads state, then those of its points on the plan."""
    stated = (load.room for load in circuit.loads if load.room is not None)
    return list(dict.fromkeys((*stated, *(point.room for point in job.plan.points if point.circuit == circuit.id))))
