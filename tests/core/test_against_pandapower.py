"""The demo's network against pandapower: load flow for voltage drop, short-circuit calculation for loops and currents.

Where the methods differ, and how that is taken out:
- tables give mV/(A·m) rounded to two figures (up to 2.5 % from IEC 60228 resistance): the lines carry the tabulated
  drop, so that the flow is checked and not the table (tests/core/rules/test_tables.py checks the tables);
- tables reckon a constant current: the loads are constant-current ones, at nominal voltage;
- IEC 60909 puts a voltage factor c = 1.1 on the largest fault: it is divided out;
- of a measured or asked-for supply no angle is known: it is resistance in an earth fault loop and reactance in the
  largest current, each on the safe side, and the solver is given the same.
"""

from __future__ import annotations

import unittest

from tests.pandapower_model import Model
from vivid_lattice.core.document.job import Circuit, Job
from vivid_lattice.core.document.local_earthing import LocalEarthing
from vivid_lattice.demo import DEMOS, demo_job

TOLERANCE = 0.01


class DemoNetworks(unittest.TestCase):
    """Every circuit of every demo job."""

    def close(self, ours: float, theirs: float, what: str) -> None:
        self.assertLessEqual(abs(ours - theirs), TOLERANCE * abs(theirs), f"{what}: {ours} against {theirs}")

    def test_earth_fault_loops_and_currents(self) -> None:
        for name in DEMOS:
            model = self._faults(demo_job(name), "earth")
            for circuit in model.job.circuits:
                with self.subTest(name, circuit=circuit.name):
                    theirs = model.fault_a(circuit.id)
                    self.close(model.ours.loops.earth_fault_a(circuit), theirs, "earth fault current")
                    self.close(model.ours.loops.far_end_ohm(circuit), model.volts / theirs, "Zs")

    def test_largest_currents_at_every_board_and_far_end(self) -> None:
        for name in DEMOS:
            to_neutral, lines = self._faults(demo_job(name), "neutral"), self._faults(demo_job(name), "lines")
            loops = to_neutral.ours.loops
            share = loops.ahead.origin.volts_max / to_neutral.volts
            # An inverter adds a current of its own, whatever the impedances are.
            inverters_a = 1.5 * sum(
                circuit.source.rated_a or 0.0 for circuit in to_neutral.job.circuits if circuit.source
            )
            places = [(board.id, loops.board_fault(board)) for board in to_neutral.job.boards]
            places += [(circuit.id, loops.far_end_fault(circuit)) for circuit in to_neutral.job.circuits]
            for place, ours in places:
                with self.subTest(name, place=place):
                    self.close(ours.neutral_a - inverters_a, share * to_neutral.fault_a(place), "line to neutral")
                    if ours.lines_a is not None:
                        self.close(ours.lines_a, share * lines.fault_a(place), "between lines")

    def test_voltage_drop_to_every_far_end(self) -> None:
        # A feeder carries its diversified current and a final circuit its own, which no single load flow holds at
        # once: the flow is solved for one far end at a time, with what is left of the feeder's current at its board.
        # Demos of several lines are for tests/core/test_three_phase.py, which solves line by line.
        for job in map(demo_job, DEMOS):
            if job.supply.phases > 1 or not job.circuits:
                continue
            model = self._drops(job)
            for circuit in job.circuits:
                with self.subTest(job.job.title, circuit=circuit.name):
                    self.close(
                        100 * model.ours.drops.far_end_v(circuit) / model.volts, self._drop(model, circuit.id), "drop"
                    )

    def _faults(self, job: Job, what: str) -> Model:
        """The network of a fault to earth (warm), from line to neutral, or between all lines (cold)."""
        model = Model(job)
        loops, tree = model.ours.loops, model.ours.tree
        ahead = loops.ahead
        if what == "earth":
            origin = ahead.ze
        else:
            held = ahead.origin.line_cold + (ahead.origin.return_cold if what == "neutral" else 0)
            origin = held if ahead.calculated else complex(0.0, abs(held))
        for board in job.boards:
            feeder = tree.feeder(board)
            if feeder is None:
                model.line("source", board.id, origin)
            elif what == "earth" and board.earthing is not None and board.earthing.kind == "electrode":
                model.line("source", board.id, self._through_the_ground(model, feeder, board.earthing))
            else:
                model.joined(feeder.id, board.id)
        for circuit in job.circuits:
            run = loops.run(circuit)
            if what == "earth" and circuit.earthing is not None and circuit.earthing.kind == "electrode":
                model.line("source", circuit.id, self._through_the_ground(model, circuit, circuit.earthing))
                continue
            ohm = {"earth": run.loop, "neutral": 2 * run.line_cold, "lines": run.line_cold}[what]
            home = tree.place(circuit).board.id
            if circuit.kind == "ring":
                # A ring is a ring here too: two halves side by side, each of half the loop.
                model.line(home, circuit.id, 2 * ohm)
                model.line(home, circuit.id, 2 * ohm)
            else:
                model.line(home, circuit.id, ohm)
        return model

    def _through_the_ground(self, model: Model, circuit: Circuit, earthing: LocalEarthing) -> complex:
        """Lines to the end of a circuit, no more than Ze ahead of them, and back through an electrode of its own."""
        lines = sum((model.ours.loops.run(link).line_hot for link in model.ours.tree.chain(circuit)), 0j)
        assert earthing.electrode_ohm is not None
        return (model.job.supply.ze_ohm or 0.0) + lines + earthing.electrode_ohm

    def _drops(self, job: Job) -> Model:
        """The network with the tabulated drop of every run as its impedance, and no load yet."""
        model = Model(job)
        drops, tree = model.ours.drops, model.ours.tree
        [tails] = drops.tails()
        for board in job.boards:
            feeder = tree.feeder(board)
            if feeder is None:
                model.line("source", board.id, tails.mv_per_a_m * tails.counted_m / 1000)
            else:
                model.joined(feeder.id, board.id)
        for circuit in job.circuits:
            ohm = sum(part.mv_per_a_m * part.counted_m for part in drops.run(circuit)) / 1000
            model.line(tree.place(circuit).board.id, circuit.id, ohm)
        return model

    def _drop(self, model: Model, at: str) -> float:
        drops, tree = model.ours.drops, model.ours.tree
        [tails] = drops.tails()
        left, loads = tails.current_a, []
        for link in tree.chain(tree.circuits[at]):
            carried = drops.run(link)[0].current_a
            loads.append((tree.place(link).board.id, left - carried))
            left = carried
        model.load(*loads, (at, left))
        return model.drop_percent(at)


if __name__ == "__main__":
    unittest.main()
