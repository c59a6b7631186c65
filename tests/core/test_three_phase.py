"""Three-phase jobs, line by line, against pandapower's unbalanced load flow and short-circuit calculation.

The jobs are generated: five to sixty circuits on one to three boards, of one and of three lines, evenly and unevenly
loaded. Every load is one that counts in full, so that a feeder carries exactly what hangs behind it and one load flow of the
whole network holds every figure at once.

The engine adds up what each line loses along its own voltage, as people do by hand; what an uneven load loses across it is
compared apart: it makes the engine's figure the larger one. What differs and is taken out: the solver's loads are set so that they draw the engine's constant currents; a current's
angle is that to its own line's nominal voltage, where the solver takes the voltage at the load (under a degree apart).
"""

from __future__ import annotations

import random
import unittest
from math import sqrt
from typing import Any

from tests.builders import supply
from tests.pandapower_model import Model, Unbalanced
from vivid_lattice.core.document.job import Board, Cable, Circuit, Device, FedByWay, Job, JobInfo, Load, Section, Way
from vivid_lattice.core.formulas.load_currents import LINE_ANGLES_DEG
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set

TOLERANCE = 0.01
LINES = ("L1", "L2", "L3")


def generated(count: int, seed: int, rules: str = "iec") -> Job:
    """A three-phase job of so many circuits, the same for the same seed."""
    dice = random.Random(seed)
    boards = 1 + (count > 8) + (count > 25)
    circuits, ways = [], {at: [] for at in range(boards)}
    for at in range(1, boards):
        circuits.append(
            _circuit(f"f{at}", "distribution", LINES, dice, loads=(), area=25.0, length=20.0 + 20 * dice.random())
        )
        ways[at - 1].append(f"f{at}")
    for number in range(count - len(circuits)):
        lines = LINES if dice.random() < 0.25 else (LINES[number % 3] if dice.random() < 0.8 else "L1",)
        watts = float(dice.randint(200, 1500) * len(lines))
        load = Load(name="Load", kind="charger", power_w=watts, power_factor=1.0)
        circuits.append(
            _circuit(f"c{number}", "fixed", lines, dice, loads=(load,), area=4.0, length=5 + 35 * dice.random())
        )
        ways[dice.randrange(boards)].append(f"c{number}")
    made = [
        Board(
            id=f"b{at}",
            name=f"Board {at}",
            fed_by="origin" if at == 0 else FedByWay(board=f"b{at - 1}", way=1),
            way_count=200,
            ways=tuple(Way(number=place, circuit=one) for place, one in enumerate(ways[at], 1)),
        )
        for at in range(boards)
    ]
    parts: dict[str, Any] = {
        "format": "vivid-lattice/3",
        "job": JobInfo(title="Generated", rules=rules),
        "supply": supply(
            phases=3,
            fault_current_ka=None,
            ze_ohm=None,
            cutout=None,
            tails=None,
            transformer={"rated_kva": 250.0, "impedance_pct": 4.0, "resistance_pct": 1.2},
            service_cable={"material": "aluminium", "area_mm2": 95.0, "length_m": 60.0},
        ),
        "boards": tuple(made),
        "circuits": tuple(circuits),
    }
    return checked(Job.model_validate(parts))


def _circuit(
    identity: str, kind: str, lines: Any, dice: random.Random, *, loads: Any, area: float, length: float
) -> Circuit:
    return Circuit.model_validate(
        {
            "id": identity,
            "name": identity,
            "kind": kind,
            "lines": tuple(lines) if lines is LINES else lines,
            "loads": loads,
            "run": (Section(length_m=round(length, 1), method="C"),),
            "cable": Cable(type="sheathed-pvc", area_mm2=area, cpc="core"),
            "device": Device(kind="mcb", curve="B", rating_a=16.0 if kind == "fixed" else 63.0, breaking_ka=10.0),
        }
    )


class LineByLine(unittest.TestCase):
    """Generated networks."""

    def close(self, ours: float, theirs: float, what: str, least: float = 0.0) -> None:
        self.assertLessEqual(
            abs(ours - theirs), max(TOLERANCE * abs(theirs), least), f"{what}: {ours} against {theirs}"
        )

    def test_voltage_drop_of_every_line_to_every_far_end(self) -> None:
        for count in (5, 17, 60):
            made = generated(count, seed=count)
            ours, model = Installation.of(made, rule_set("iec")), Unbalanced(230.0)
            for place in (*made.boards, *made.circuits):
                model.bus(place.id)
            model.line("source", "b0", complex(1e-5, 1e-6))
            for circuit in made.circuits:
                [part] = ours.drops.run(circuit)
                figure = ours.rules.cables.drop_figure(circuit.cable, "C")  # type: ignore[arg-type]
                z = complex(figure.r, figure.x) / 2 * part.counted_m / 1000
                model.line(ours.tree.place(circuit).board.id, circuit.id, z)
                if circuit.kind == "distribution":
                    model.line(circuit.id, ours.tree.feeds[circuit.id], complex(1e-5, 1e-6))
                else:
                    carried = ours.drops.design_current(circuit).by_line
                    model.load(circuit.id, tuple(carried.get(line, 0.0) for line in LINES), 1.0)  # type: ignore[arg-type]
            model.solve()
            for circuit in made.circuits:
                theirs = dict(zip(LINES, model.drop_percent(circuit.id), strict=True))
                found = ours.drops.far_end_lines_v(circuit)
                for line, lost in found.items():
                    with self.subTest(count, circuit=circuit.id, line=line):
                        along, magnitude = theirs[line]
                        # Within 1 %, or 0.06 % of the voltage where a line's own drop is mostly what others' return
                        # current makes of it.
                        self.close(100 * lost / 230.0, along, "drop", least=0.06)
                        self.assertGreaterEqual(100 * lost / 230.0, magnitude * (1 - TOLERANCE) - 0.06)

    def test_largest_and_smallest_currents_everywhere(self) -> None:
        for count in (5, 60):
            made = generated(count, seed=count)
            ours = Installation.of(made, rule_set("iec"))
            origin = ours.loops.ahead.origin
            for what, ahead in (
                ("lines", origin.line_cold),
                ("neutral", origin.line_cold + origin.return_cold),
                ("earth", origin.earth_warm),
            ):
                model = Model(made)
                model.line("source", "b0", ahead)
                for circuit in made.circuits:
                    run = ours.loops.run(circuit)
                    ohm = {"lines": run.line_cold, "neutral": 2 * run.line_cold, "earth": run.loop}[what]
                    model.line(ours.tree.place(circuit).board.id, circuit.id, ohm)
                    if circuit.kind == "distribution":
                        model.joined(circuit.id, ours.tree.feeds[circuit.id])
                for circuit in made.circuits:
                    with self.subTest(count, circuit=circuit.id, what=what):
                        theirs = model.fault_a(circuit.id)
                        if what == "earth":
                            self.close(ours.loops.earth_fault_a(circuit), theirs, "smallest to earth")
                            continue
                        share = origin.volts_max / 230.0
                        found = ours.loops.far_end_fault(circuit)
                        value = found.neutral_a if what == "neutral" else found.lines_a
                        if value is not None:
                            self.close(value, share * theirs, what)

    def test_a_balanced_load_sends_nothing_through_the_neutral_and_one_line_alone_all(self) -> None:
        # By hand: three lines of 10 A lose r·I·l each; one line of 10 A loses twice that, and lifts the others by a half.
        angles = LINE_ANGLES_DEG[3]
        self.assertEqual(sorted(angles.values()), [-120.0, 0.0, 120.0])
        for lines, share in ((LINES, 1.0), (("L1",), 2.0)):
            load = Load(name="Load", kind="charger", power_w=2300.0 * len(lines), power_factor=1.0)
            made = generated(5, seed=1)
            one = _circuit("c0", "fixed", lines, random.Random(0), loads=(load,), area=4.0, length=40.0)
            board = made.boards[0].model_copy(update={"ways": (Way(number=1, circuit="c0"),)})
            ours = Installation.of(
                checked(made.model_copy(update={"boards": (board,), "circuits": (one,)})), rule_set("iec")
            )
            r = 1000 * 0.0225 / 4.0  # mΩ/m; IEC 60364-5-52, Annex G
            x = 0.08 if len(lines) == 3 else 0.0
            wanted = share * 10.0 * 40.0 * sqrt(r**2 + 0 * x) / 1000
            self.assertAlmostEqual(ours.drops.far_end_v(one), wanted, delta=0.002 * wanted)


if __name__ == "__main__":
    unittest.main()
