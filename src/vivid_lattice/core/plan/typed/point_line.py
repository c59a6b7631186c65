"""Points as they are typed: ``6 double sockets kitchen worktop`` · ``2 way light hall landing`` · ``smoke alarm landing``."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterator

from vivid_lattice.core.document.job import Job, free_id
from vivid_lattice.core.document.plan import LightSwitching, PlanPoint
from vivid_lattice.core.entry.rooms import id_from
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import message
from vivid_lattice.core.plan.circuit_of_points import circuit_of
from vivid_lattice.core.plan.placing import places_for
from vivid_lattice.core.plan.switch_places import switches_for
from vivid_lattice.core.plan.typed.read_point_line import PointLine, read_point_line
from vivid_lattice.core.rules import rule_set


def enter_points(job: Job, line: str) -> Job:
    """The job with the points of a line: put where such points usually are, each on the circuit that feeds such things there.

    A light brings a switch by each door that is named; several are two-way, with intermediate ones between.
    Raises  EntryNotUnderstood where no point or no room of the plan is named, or there is no wall left
    """
    read = read_point_line(job, line)
    made = _with_the_switch(job, read) if read.with_switch else list(_points(job, read))
    if not made:
        raise EntryNotUnderstood(line, message(None, "core.plan.point.no_wall", room=read.rooms[0].room))
    switching = list(job.plan.switching)
    if read.kind == "light":
        switches = list(switches_for(job, read, made))
        if switches:
            switching.append(
                LightSwitching(lights=tuple(one.id for one in made), switches=tuple(one.id for one in switches))
            )
        made += switches
    if read.with_switch and read.kind == "sensor":
        switching = [_joined(group, made[0]) for group in switching]
    plan = job.plan.model_copy(update={"points": (*job.plan.points, *made), "switching": tuple(switching)})
    return checked(job.model_copy(update={"plan": plan}))


def _with_the_switch(job: Job, line: PointLine) -> list[PlanPoint]:
    """A socket in the plate of the room's switch, or a sensor that works beside it."""
    switch = next(
        (
            each
            for each in job.plan.points
            if each.room == line.rooms[0].room and each.kind == "switch" and each.plate is None
        ),
        None,
    )
    if switch is None or line.kind not in ("socket", "sensor"):
        raise EntryNotUnderstood(line.text, message(None, "core.plan.point.no_switch", room=line.rooms[0].room))
    [made] = _points(job, dataclasses.replace(line, count=1, wall=switch.wall, at_m=switch.along_m))
    return [made.model_copy(update={"plate": switch.id, "circuit": switch.circuit, "gangs": 1, "height_m": None})]


def _joined(group: LightSwitching, sensor: PlanPoint) -> LightSwitching:
    """The group of a switch with the sensor in its plate."""
    if sensor.plate not in group.switches:
        return group
    return group.model_copy(update={"switches": (*group.switches, sensor.id)})


def _points(job: Job, line: PointLine) -> Iterator[PlanPoint]:
    shape = line.rooms[0]
    taken = {point.id for point in job.plan.points}
    circuit = circuit_of(job, line.kind, shape, line.word, line.wall)
    name = next(room.name for room in job.rooms if room.id == shape.room)
    # A socket-outlet is called a socket for short, a receptacle is not.
    socket = rule_set(job.job.rules).words.form("socket").removesuffix("-outlet")
    what = socket if line.kind == "socket" else line.kind.replace("-", " ")
    # Numbers go on from those that the room has.
    before = sum(point.room == shape.room and point.kind == line.kind for point in job.plan.points)
    for number, place in enumerate(places_for(job, line, shape), before + 1):
        which = f" {number}" if line.count > 1 or before else ""
        title = f"{name} {what}{which}"
        id_ = free_id(id_from(f"{name} {line.kind}{which}"), taken)
        taken.add(id_)
        yield PlanPoint(
            id=id_, kind=line.kind, name=title, room=shape.room, height_m=line.height_m, above_worktop=line.worktop,
            gangs=line.gangs, circuit=circuit.id if circuit is not None else None, **place,
        )  # fmt: skip
