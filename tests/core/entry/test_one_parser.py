"""The same circuit typed, surveyed and imported is the same circuit, and its loads, count and room are stored."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import supply
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.existing_board import ExistingBoard, Survey
from vivid_lattice.core.document.job import Circuit, Job, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, matched
from vivid_lattice.core.entry.way_line import read_way
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.survey.board_replacement import replaced_board

#: What ``design`` and the survey may choose differently, and what a line says nothing of.
_APART = {"id", "device", "notes"}


def typed(text: str, job: Job | None = None) -> Circuit:
    entry = add_entry(job or blank("Mill", rule_set("uk")), text, "main")
    return checked(entry.job).circuits[-1]


def verdicts(job: Job) -> set[tuple[str, str, Any, Any]]:
    """Check, verdict, value and limit of the last circuit."""
    name = job.circuits[-1].id
    return {(one.check, one.verdict, one.value, one.limit) for one in assess(job).findings if one.subject.id == name}


class Stored(unittest.TestCase):
    """Loads, their count and their room."""

    def test_sockets_have_their_load_count_and_room(self) -> None:
        for text, kind, count, room in (
            ("kitchen sockets ring 60m", "ring", None, "kitchen"),
            ("1 x socket 12m surface, bathroom", "radial", 1, "bathroom"),
            ("6 double sockets 20m, studio", "radial", 6, "studio"),
        ):
            with self.subTest(text):
                circuit = typed(text)
                [load] = circuit.loads
                self.assertEqual((circuit.kind, load.kind, load.count, load.room), (kind, "socket", count, room))

    def test_a_room_of_the_job_goes_before_a_new_one(self) -> None:
        job = add_entry(blank("Mill", rule_set("uk")), "lights 6W, studio", "main").job
        again = add_entry(job, "sockets 20m, studio", "main").job
        self.assertEqual([room.id for room in again.rooms], ["studio"])

    def test_what_was_typed_of_an_open_choice_is_kept_for_the_design(self) -> None:
        circuit = typed("shower 9.5kW 17m RCBO swa buried")
        assert circuit.preferred is not None
        self.assertEqual((circuit.preferred.device, circuit.preferred.cable), ("rcbo", "swa-xlpe"))
        self.assertEqual((circuit.device, circuit.cable), ("auto", "auto"))

    def test_cores_and_wires_say_the_phases(self) -> None:
        three = blank("Haus", rule_set("iec-de"), 3)
        self.assertEqual(typed("Herd 5x2.5 12m", three).lines, ("L1", "L2", "L3"))
        self.assertEqual(typed("Backofen 3x2.5 12m", three).lines, ())
        split = blank("Mill", rule_set("na"))
        self.assertEqual(
            (typed("dryer 5kW 10/3", split).lines, typed("dryer 5kW 10/3", split).neutral), (("L1", "L2"), True)
        )
        self.assertEqual(typed("water heater 4.5kW 10/2 240V", split).neutral, False)
        self.assertEqual(typed("heater 1kW 120V", split).lines, ())


class SameCircuit(unittest.TestCase):
    """One parser behind three doors."""

    HEADS = ("Circuit", "Power (kW)", "Length (m)", "Device", "Size", "Room", "Method")
    CASES = (
        ("cooker B32 6mm 14m 9kW clipped, kitchen", ("Cooker, kitchen", "9", "14", "B32", "6", "Kitchen", "clipped")),
        (
            "garage sockets B20 30mA 2.5mm 20m surface",
            ("Garage sockets", "", "20", "B20 30mA", "2.5", "Garage", "surface"),
        ),
        ("shower RCBO B45 10mm 17m 9.5kW", ("Shower", "9.5", "17", "RCBO B45", "10", "", "")),
        (
            "kitchen sockets ring B32 30mA 2.5mm 60m",
            ("Kitchen sockets ring", "", "60", "B32 30mA", "2.5", "Kitchen", ""),
        ),
    )

    def test_typed_and_imported(self) -> None:
        for line, row in self.CASES:
            with self.subTest(line):
                job = blank("Mill", rule_set("uk")).model_copy(update={"supply": supply()})
                by_line = add_entry(job, line, "main").job
                done = read_circuits(job, [row], matched(self.HEADS, FIELDS))
                self.assertEqual(done.rows[0].problems, ())
                self.assertEqual(by_line.circuits, done.job.circuits)
                self.assertEqual(verdicts(by_line), verdicts(done.job))

    def test_typed_and_pasted_as_a_single_cell(self) -> None:
        for line, _ in self.CASES:
            with self.subTest(line):
                job = blank("Mill", rule_set("uk"))
                pasted = read_circuits(job, [(line,)], {"name": 0})
                self.assertEqual(pasted.rows[0].problems, ())
                self.assertEqual(add_entry(job, line, "main").job.circuits, pasted.job.circuits)

    def test_typed_and_surveyed(self) -> None:
        rules = rule_set("uk")
        for line, _ in self.CASES:
            with self.subTest(line):
                way = read_way(rules, ExistingBoard(id="old", name="Old board"), f"1 {line}")
                board = ExistingBoard(id="old", name="Old board", ways=(way,))
                bare = blank("Mill", rules).model_copy(update={"boards": (), "survey": Survey(boards=(board,))})
                got, wanted = replaced_board(bare, "old").circuits[0], typed(line)
                self.assertEqual(
                    got.model_dump(exclude=_APART | {"name"}), wanted.model_dump(exclude=_APART | {"name"})
                )


class ImportRefused(unittest.TestCase):
    """A token that is not used."""

    def test_it_is_refused_and_can_be_accepted_into_the_notes(self) -> None:
        job = blank("Mill", rule_set("uk"))
        with self.assertRaisesRegex(EntryNotUnderstood, "“9q”"):
            add_entry(job, "cooker 9q 14m", "main")
        entry = add_entry(job, "cooker 9q 14m", "main", accept=True)
        self.assertEqual((entry.job.circuits[0].notes, entry.unused[0].text), ("9q", "9q"))

    def test_a_shared_rcd_is_the_boards_only_one_or_asked_for(self) -> None:
        job = blank("Mill", rule_set("uk"))
        with self.assertRaisesRegex(EntryNotUnderstood, "no shared RCD"):
            add_entry(job, "lights RCD 20m", "main")
        group = SharedRcd(id="r1", name="RCD 1", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        board = job.boards[0].model_copy(update={"shared_rcds": (group,)})
        entry = add_entry(job.model_copy(update={"boards": (board,)}), "lights RCD 20m", "main")
        self.assertEqual(entry.job.boards[0].ways[0].rcd, "r1")

    def test_each_standard_refuses_what_it_has_not(self) -> None:
        for rules in standard_ids():
            job = blank("Mill", rule_set(rules))
            with self.subTest(rules), self.assertRaises(EntryNotUnderstood):
                add_entry(job, "generator 4kW 10m", "main")
            if not rule_set(rules).limits.knows_rings:
                with self.subTest(rules), self.assertRaisesRegex(EntryNotUnderstood, "no ring circuits"):
                    add_entry(job, "sockets ring 40m", "main")


class SupplyLines(unittest.TestCase):
    """The supply as it is said."""

    def test_all_of_it(self) -> None:
        job = blank("Mill", rule_set("uk"))
        done = set_supply(job, "TN-C-S 100A Ze 0.35 measured 16kA tails 25mm2 3m earth 16mm2 bond 10mm2 water 3ph")
        made = done.job.supply
        assert made.cutout and made.tails and made.earthing
        self.assertEqual(
            (made.system, made.ze_ohm, made.ze_source, made.fault_current_ka), ("TN-C-S", 0.35, "measured", 16.0)
        )
        self.assertEqual((made.cutout.kind, made.cutout.rating_a, made.phases), ("fuse-bs88-3", 100.0, 3))
        self.assertEqual((made.tails.area_mm2, made.tails.length_m, made.tails.material), (25.0, 3.0, None))
        self.assertEqual((made.earthing.conductor_mm2, made.earthing.bonds[0].name), (16.0, "water"))
        self.assertTrue(any("cartridge" in str(text) for text in done.assumed))

    def test_names_of_systems_and_devices(self) -> None:
        for rules, text, system, kind in (
            ("uk", "PME 80A BS 1361", "TN-C-S", "fuse-bs1361"),
            ("uk", "TT 60A", "TT", "fuse-bs88-3"),
            ("anz", "MEN 63A", "MEN", "fuse-gg"),
            ("iec-de", "TN-C-S 63A gG", "TN-C-S", "fuse-gg"),
            ("za", "TN-S C60", "TN-S", "mcb"),
        ):
            with self.subTest(text):
                made = set_supply(blank("Mill", rule_set(rules)), text).job.supply
                assert made.cutout is not None
                self.assertEqual((made.system, made.cutout.kind), (system, kind))

    def test_what_is_not_used_or_not_of_the_standard_is_refused(self) -> None:
        job = blank("Mill", rule_set("uk"))
        for text, said in (
            ("TN-S 80A gizmo", "“gizmo”"),
            ("", "empty"),
            ("MEN 80A", "MEN"),
            ("tails 3m", "size is missing"),
            ("7x", "7x"),
        ):
            with self.subTest(text), self.assertRaisesRegex(EntryNotUnderstood, said):
                set_supply(job, text)
        self.assertIn("gizmo", set_supply(job, "TN-S 80A gizmo", accept=True).job.job.notes)


if __name__ == "__main__":
    unittest.main()
