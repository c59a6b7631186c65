"""The house of a board: what is lit and what is dark, against the voltage that the engine predicts."""

from __future__ import annotations

import unittest

from tests.core.training.test_boards import STANDARDS, sound, with_defect
from vivid_lattice.core.network.loops import run_length_m
from vivid_lattice.core.testing.diagnosis.prediction import predicted
from vivid_lattice.core.training.acts import Switch
from vivid_lattice.core.training.bench import Bench
from vivid_lattice.core.training.boards import TrainingBoard
from vivid_lattice.core.training.house import HouseCircuit, house_circuit
from vivid_lattice.core.training.shown import middle_of
from vivid_lattice.core.training.sound_boards import possible_places
from vivid_lattice.core.training.training_rules import board_lines

D = "common.defect."


def house(bench: Bench) -> dict[str, HouseCircuit]:
    return {each.id: house_circuit(bench, each) for each in bench.board.job.circuits}


def every_board(standard: str) -> list[TrainingBoard]:
    return [sound(standard, which) for which in range(len(board_lines(standard)))]


class House(unittest.TestCase):
    """Every board of every standard."""

    def test_a_sound_house_is_lit_and_goes_dark_with_its_devices(self) -> None:
        for standard in STANDARDS:
            for board in every_board(standard):
                bench = Bench(board=board)
                self.assertEqual({p.state for each in house(bench).values() for p in each.points}, {"works"})
                circuit = board.job.circuits[0].id
                bench.do(Switch(device=circuit, on=False))
                states = {id_: {p.state for p in each.points} for id_, each in house(bench).items()}
                self.assertEqual([id_ for id_, seen in states.items() if seen == {"dead"}], [circuit])
                bench.do(Switch(on=False))
                self.assertEqual({p.state for each in house(bench).values() for p in each.points}, {"dead"})

    def test_it_shows_the_cable_and_the_length_of_the_design(self) -> None:
        for standard in STANDARDS:
            for board in every_board(standard):
                for circuit in board.job.circuits:
                    drawn = house_circuit(Bench(board=board), circuit)
                    self.assertEqual(drawn.length_m, run_length_m(circuit))
                    size = board.network.rules.cables.size_label(circuit.cable.area_mm2)  # type: ignore[union-attr]
                    self.assertIn(size, str(drawn.cable))
                    self.assertEqual(drawn.ring, circuit.kind == "ring")
                    self.assertEqual(sorted(p.at for p in drawn.points), [p.at for p in drawn.points])

    def test_the_end_of_a_circuit_is_dark_where_the_engine_has_no_voltage_there_and_only_there(self) -> None:
        seen = set()
        for standard in STANDARDS:
            for sound_board in every_board(standard):
                for id_, places in possible_places(sound_board).items():
                    defect = sound_board.known[id_]
                    if not places[0] or (id_, standard) in seen:
                        continue
                    seen.add((id_, standard))
                    board = with_defect(sound_board, defect, places[0])
                    bench = Bench(board=board)
                    unknowns = {defect.unknown(name): value for name, value in middle_of(defect).items()}
                    made = predicted(board.models[places[0]], [defect], unknowns, "u_ln")
                    last = house(bench)[places[0]].points[-1].state
                    dark = made.change in ("dead", "zero") or not bench.has_voltage(places[0])
                    self.assertEqual(last == "dead", dark, (standard, id_))
        self.assertGreater(len(seen), 150)

    def test_before_a_break_there_is_light(self) -> None:
        board = sound("uk", 0)
        lights = board.job.circuits[3].id
        bench = Bench(board=with_defect(board, board.known[D + "open-line"], lights))
        self.assertEqual([p.state for p in house(bench)[lights].points], ["works", "works", "dead", "dead"])

    def test_a_loose_neutral_of_the_supply_is_seen(self) -> None:
        board = sound("uk", 0)
        bench = Bench(board=with_defect(board, board.known[D + "main-neutral-loose"], ""))
        self.assertEqual({p.state for each in house(bench).values() for p in each.points}, {"dim"})
        three = next(each for each in every_board("iec") if each.job.supply.phases == 3)
        seen = house(Bench(board=with_defect(three, three.known[D + "main-neutral-loose"], "")))
        of = {circuit.lines: {p.state for p in seen[circuit.id].points} for circuit in three.job.circuits}
        self.assertEqual((of["L1",], of["L2",], of["L1", "L2", "L3"]), ({"bright"}, {"dim"}, {"works"}))


if __name__ == "__main__":
    unittest.main()
