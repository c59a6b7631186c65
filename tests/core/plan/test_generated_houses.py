"""Houses made at random in every standard: every point is joined by exactly the conductors it needs, and every switch does what it should."""

from __future__ import annotations

import random
import unittest
from collections.abc import Iterator

from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import CircuitRoute
from vivid_lattice.core.entry.rooms import id_from
from vivid_lattice.core.plan.conductors.wiring import FEED
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.house_plan import house_plan, made_joints
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.plan.switching_groups import box_of
from vivid_lattice.core.rules import rule_set

SYSTEMS = {"uk": "TN-C-S", "iec": "TN-S", "anz": "MEN", "za": "TN-C-S", "na": "TN-C-S"}
CIRCUITS = {
    "uk": ("sockets ring", "lights", "cooker 32A"), "iec": ("sockets", "lights", "cooker 16A"), "anz": ("sockets", "lights", "oven 20A"),
    "za": ("sockets", "lights", "stove 32A"), "na": ("receptacles", "lights", "range"),
}  # fmt: skip
ROOMS = ("Parlour", "Loft", "Snug", "Scullery", "Gallery")


def house(standard: str, rng: random.Random) -> Job:
    job = begin("House", rule_set(standard), SYSTEMS[standard])  # type: ignore[arg-type]
    for line in CIRCUITS[standard]:
        job = enter_and_design(job, line, "main").job
    before = ""
    names = rng.sample(ROOMS, rng.randint(2, 5))
    for name in names:
        size = f"{rng.uniform(2.5, 6):.1f} x {rng.uniform(2.5, 5):.1f} h {rng.uniform(2.3, 3):.1f}"
        place = f" {rng.choice(('right of', 'above')) if before else ''} {before}" if before else ""
        job = enter_plan_line(
            job, f"{name} {size}{place} door {rng.choice(('front', 'left'))} 0.8 at {rng.uniform(0.2, 1):.1f}"
        )
        before = name
    job = enter_plan_line(job, f"board {names[0]} back at 0.6")
    for name in names:
        job = enter_plan_line(job, f"{rng.randint(1, 4)} sockets {name}")
        ways = rng.choice(("", "2 way ", "3 way "))
        others = " ".join(rng.sample(names, min(len(names), 2))) if ways else ""
        job = enter_plan_line(
            job, f"{ways}{'light' if ways else f'{rng.randint(1, 4)} lights'} {name} {others}".strip()
        )
        if rng.random() < 0.3:
            job = enter_plan_line(job, f"{rng.randint(1, 2)} lights {name}")
        if rng.random() < 0.3 and any(each.room == id_from(name) and each.kind == "switch" for each in job.plan.points):
            job = enter_plan_line(job, f"{rng.choice(('socket', 'sensor'))} {name} with the switch")
    routes = tuple(
        CircuitRoute(
            circuit=circuit.id, way=rng.choice(("ceiling", "floor")), feed_at=rng.choice(("light", "switch", "junction-box")),
            shape=rng.choice((None, "branch", "joints")) if circuit.kind != "ring" else None,
        )
        for circuit in job.circuits
    )  # fmt: skip
    switching = tuple(
        group.model_copy(update={"form": rng.choice(("strappers", "three-wire"))}) for group in job.plan.switching
    )
    return job.model_copy(update={"plan": job.plan.model_copy(update={"routes": routes, "switching": switching})})


def houses(count: int, seed: int) -> Iterator[tuple[str, Job]]:
    rng = random.Random(seed)
    for number in range(count):
        standard = list(SYSTEMS)[number % len(SYSTEMS)]
        yield standard, house(standard, rng)


class Generated(unittest.TestCase):
    def test_every_circuit_is_proved_and_whole(self) -> None:
        for standard, job in houses(15, 20261130):
            rules = rule_set(standard)
            plan = house_plan(job, rules)
            self.assertEqual(plan.undecided, ())
            self.assertGreaterEqual(len(plan.circuits), 2)
            for circuit in plan.circuits:
                where = (standard, circuit.circuit.name, circuit.shape, circuit.feed_at)
                self.assertTrue(circuit.proved, where)
                own = [point for point in job.plan.points if point.circuit == circuit.circuit.id]
                points = set(box_of(own).values())
                joined = {name for section in circuit.sections for name in (section.a, section.b)} - {FEED}
                self.assertEqual({name for name in joined if not name.startswith(("box-", "joint-"))}, points, where)
                for section in circuit.sections:
                    self.assertIn("PE", section.carries, where)
                    self.assertGreater(section.piece_m, section.route_m, where)
                    if section.cable is not None:
                        self.assertGreaterEqual(section.spare, 0, where)
                for joints in made_joints(circuit, rules).values():
                    for made in joints:
                        done = bool(made.terminals_of) or made.connectors is not None
                        self.assertEqual(done, made.joint.needs_connector, where)

    def test_lengths_of_the_plan_are_those_of_the_circuits(self) -> None:
        for standard, job in houses(5, 7):
            rules = rule_set(standard)
            with_lengths = with_planned_runs(job, rules)
            for circuit in house_plan(with_lengths, rules).circuits:
                run = sum(section.length_m or 0.0 for section in circuit.circuit.run)
                self.assertAlmostEqual(run, circuit.length_m, delta=0.006)
                self.assertLess(circuit.length_m, circuit.cable_m + 0.01)  # rounded up to the centimetre
            self.assertEqual(with_planned_runs(with_lengths, rules), with_lengths)
            # Wherever a cable of the circuit lies, its run has a part that lies so, with as many together.
            for id_, laid in house_plan(with_lengths, rules).laying.circuits.items():
                run = with_lengths.circuit(id_).run
                for leg in (*laid.way, *laid.branches):
                    if leg.together > 1:
                        self.assertGreaterEqual(max(section.circuits_grouped for section in run), leg.together)

    def test_a_pinned_order_is_kept(self) -> None:
        [(standard, job)] = houses(1, 3)
        rules = rule_set(standard)
        free = house_plan(job, rules).circuits[0]
        pinned = tuple(reversed(free.order.points))
        route = CircuitRoute(circuit=free.circuit.id, order=pinned)
        changed = job.model_copy(update={"plan": job.plan.model_copy(update={"routes": (route,)})})
        found = house_plan(changed, rules).circuits[0]
        self.assertEqual(found.order.points, pinned)
        self.assertTrue(found.proved)


if __name__ == "__main__":
    unittest.main()
