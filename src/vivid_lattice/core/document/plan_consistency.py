"""What contradicts itself in a plan: rooms that are not in the job or twice on the plan, points and switching that lead nowhere."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.messages import Text, message

Contradiction = tuple[str, Text]


def plan_contradictions(job: Job) -> Iterator[Contradiction]:
    """Every contradiction of the plan of a job."""
    plan = job.plan
    rooms = {room.id for room in job.rooms}
    shaped = {shape.room for shape in plan.rooms}
    points = {point.id for point in plan.points}
    plated = {point.id for point in plan.points if point.plate is not None}
    circuits, boards = {circuit.id for circuit in job.circuits}, {board.id for board in job.boards}
    yield from _twice("plan.rooms", (shape.room for shape in plan.rooms))
    yield from _twice("plan.points", (point.id for point in plan.points))
    yield from _twice("plan.boards", (place.board for place in plan.boards))
    yield from _twice("plan.routes", (route.circuit for route in plan.routes))
    yield from _twice("plan.floors", (str(floor.level) for floor in plan.floors))
    yield from _twice("plan.switching", (light for group in plan.switching for light in group.lights))
    for index, shape in enumerate(plan.rooms):
        if shape.room not in rooms:
            yield f"plan.rooms[{index}].room", message(None, "core.file.plan.room", id=shape.room)
        if shape.notch and (shape.notch.width_m >= shape.width_m or shape.notch.depth_m >= shape.depth_m):
            yield f"plan.rooms[{index}].notch", message(None, "core.file.plan.notch")
    for index, point in enumerate(plan.points):
        if point.room not in shaped:
            yield f"plan.points[{index}].room", message(None, "core.file.plan.room", id=point.room)
        if point.circuit is not None and point.circuit not in circuits:
            yield f"plan.points[{index}].circuit", message(None, "core.file.plan.circuit", id=point.circuit)
        if point.plate is not None and (point.plate not in points or point.plate in plated or point.plate == point.id):
            yield f"plan.points[{index}].plate", message(None, "core.file.plan.point", id=point.plate)
        if (
            (point.wall is None) != (point.along_m is None)
            or (point.x_m is None) != (point.y_m is None)
            or (point.wall is None) == (point.x_m is None)
        ):
            yield f"plan.points[{index}]", message(None, "core.file.plan.place")
    for index, group in enumerate(plan.switching):
        for id_ in (*group.lights, *group.switches):
            if id_ not in points:
                yield f"plan.switching[{index}]", message(None, "core.file.plan.point", id=id_)
    for index, place in enumerate(plan.boards):
        if place.board not in boards or place.room not in shaped:
            yield f"plan.boards[{index}]", message(None, "core.file.plan.board", id=place.board)
    for index, route in enumerate(plan.routes):
        if route.circuit not in circuits:
            yield f"plan.routes[{index}].circuit", message(None, "core.file.plan.circuit", id=route.circuit)
        for id_ in (*route.order, *(end for pin in route.pinned for end in (pin.a, pin.b) if end != "feed")):
            if id_ not in points:
                yield f"plan.routes[{index}].order", message(None, "core.file.plan.point", id=id_)


def _twice(name: str, ids: Iterable[str]) -> Iterator[Contradiction]:
    for identity, count in Counter(ids).items():
        if count > 1:
            yield name, message(None, "core.file.twice", id=identity, n=count)
