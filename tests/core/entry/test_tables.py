"""Circuits and prices out of tables: columns found by their heads, rows taken whole or explained."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import circuit, job, rcbo, supply
from tests.texts import ids
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.job import Cable, Device, Job
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.versions import FORMAT
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, PRICE_FIELDS, matched, number_in
from vivid_lattice.core.entry.tables.prices import read_prices
from vivid_lattice.core.entry.tables.rows import MAX_ROWS, ReadRow
from vivid_lattice.core.job_file import checked, read_data

HEADS = ("Circuit", "Power (kW)", "Length (m)", "Device", "Size", "Room", "Way", "Board", "Kind", "Method", "RCD mA")


def bare(**changed: Any) -> Job:
    """A job with an empty board and two rooms."""
    made = job(**changed)
    board = made.boards[0].model_copy(update={"ways": ()})
    rooms = (Room(id="k", name="Kitchen"), Room(id="b", name="Loft bath", kind="bath"))
    return made.model_copy(update={"boards": (board,), "circuits": (), "rooms": rooms})


def row(**cells: str) -> tuple[str, ...]:
    names = ("name", "kw", "length", "device", "size", "room", "way", "board", "kind", "method", "rcd")
    return tuple(cells.get(name, "") for name in names)


def read(*rows: tuple[str, ...], into: Job | None = None) -> tuple[Job, tuple[ReadRow, ...]]:
    done = read_circuits(into or bare(), rows, matched(HEADS, FIELDS))
    return done.job, done.rows


class Ways(unittest.TestCase):
    """Which way of a board a row goes to."""

    def test_the_last_way_is_one_and_the_one_after_it_is_not(self) -> None:
        last = bare().boards[0].way_count
        made, [good] = read(row(name="Kiln", kw="3", length="5", way=str(last)))
        self.assertEqual((good.problems, made.boards[0].ways[0].number), ((), last))
        _, [bad] = read(row(name="Kiln", kw="3", length="5", way=str(last + 1)))
        self.assertEqual([problem.field for problem in bad.problems], ["Way"])


class Columns(unittest.TestCase):
    """What a head means."""

    def test_heads_as_others_write_them(self) -> None:
        found = matched(("Circuit No.", "Description", "CSA mm²", "Breaker Rating (A)", "Type", "Remarks"), FIELDS)
        self.assertEqual((found["name"], found["size_mm2"], found["rating_a"], found["notes"]), (1, 2, 3, 5))

    def test_a_column_is_taken_once_and_its_own_name_goes_first(self) -> None:
        found = matched(("Rating", "Rating, A", "Power", "Power, kW"), FIELDS)
        self.assertEqual((found["rating_a"], found["power_kw"], found["power_w"]), (1, 3, 2))
        self.assertEqual(len(set(found.values())), len(found))

    def test_heads_that_say_nothing_are_left_alone(self) -> None:
        self.assertEqual(matched(("", "xyzzy", "  "), FIELDS), {})
        self.assertEqual(matched(("Item", "Price each"), PRICE_FIELDS), {"what": 0, "price": 1})

    @given(
        st.floats(0.01, 9999, allow_nan=False).map(lambda value: round(value, 2)),
        st.sampled_from(["", " mm²", "m", " A", "  "]),
    )
    def test_a_figure_is_read_whatever_its_point_and_unit(self, value: float, unit: str) -> None:
        for text in (f"{value}", f"{value}".replace(".", ",")):
            self.assertAlmostEqual(number_in(f" {text}{unit}") or 0, value)

    @given(st.text(max_size=20))
    def test_no_text_breaks_it(self, text: str) -> None:
        found = number_in(text)
        self.assertTrue(found is None or isinstance(found, float))


class Rows(unittest.TestCase):
    """Good rows and bad ones."""

    def test_a_row_becomes_the_circuit_it_describes(self) -> None:
        made, [one] = read(
            row(
                name="Loft shower",
                kw="9.5",
                length="17,5",
                device="B45 RCBO 30mA",
                size="10",
                room="loft bath",
                way="5",
                method="C",
            )
        )
        self.assertEqual(one.problems, ())
        [got] = made.circuits
        self.assertEqual((got.kind, got.run[0].length_m, got.run[0].method), ("fixed", 17.5, "C"))
        assert isinstance(got.device, Device) and isinstance(got.cable, Cable) and got.device.rcd is not None
        self.assertEqual(
            (got.device.kind, got.device.curve, got.device.rating_a, got.device.rcd.idn_ma), ("rcbo", "B", 45.0, 30.0)
        )
        self.assertEqual((got.cable.type, got.cable.area_mm2), ("flat-twin-pvc", 10.0))
        self.assertEqual((got.loads[0].kind, got.loads[0].power_w, got.loads[0].room), ("shower", 9500.0, "b"))
        self.assertEqual(made.boards[0].ways[0].number, 5)

    def test_a_source_is_read_from_its_name_and_power_or_from_its_columns(self) -> None:
        """A row of solar panels is no load that lacks its kind: its power is the source's output, 3680 W / 230 V = 16 A."""
        head = {"name": 0, "power_kw": 1, "length_m": 2, "source": 3, "source_a": 4}
        rows = [
            ("Solar PV", "3.68", "14", "", ""),
            ("Roof", "", "9", "hybrid", "21.5"),
            ("Store", "", "9", "battery", ""),
        ]
        made = read_circuits(bare(), rows, head).job
        self.assertEqual(
            [(each.source and (each.source.kind, each.source.rated_a)) for each in made.circuits],
            [("solar", 16.0), ("hybrid", 21.5), ("battery", None)],
        )
        for cells, said in (
            (("Roof", "", "9", "windmill", ""), "is not a source"),
            (("Roof", "", "9", "generator", ""), "is not a source"),
            (("Cooker", "7", "9", "", "20"), "without a source"),
        ):
            (read_row,) = read_circuits(bare(), [cells], head).rows
            self.assertTrue(any(said in str(each.message) for each in read_row.problems), cells)

    def test_what_is_left_out_is_left_to_the_design_and_said(self) -> None:
        made, [one] = read(row(name="Kitchen sockets"))
        self.assertEqual(
            (made.circuits[0].device, made.circuits[0].cable, made.circuits[0].run[0].length_m), ("auto", "auto", None)
        )
        self.assertTrue(any("core.entry.circuit.no_length" in ids(words) for words in one.assumed))
        found = [one for one in assess(made).findings if one.subject.id == made.circuits[0].id]
        self.assertNotIn("pass", {one.verdict for one in found if one.check in ("voltage-drop", "disconnection")})

    def test_each_bad_row_says_its_own_reason_and_leaves_the_others_alone(self) -> None:
        cases = (
            (row(), None),
            (row(kw="3", length="5"), "Circuit: empty; every circuit needs a name"),
            (row(name="Thingummy"), "Kind: no known word in the name"),
            (row(name="Heater", kind="octagon"), "Kind: “octagon” is not a circuit type"),
            (row(name="Heater", length="far"), "Length, m: “far” is not a number"),
            (row(name="Heater", length="-3"), "Length, m: -3 is not possible"),
            (row(name="Heater", length="9000"), "at most 5000"),
            (row(name="Heater", kw="5000"), "Power, kW: 5000 is not possible"),
            (row(name="Heater", board="Shed"), "Board: this job has no board “Shed”"),
            (row(name="Heater", way="99"), "Way: no way 99 in Main board"),
            (row(name="Heater", way="2.5"), "is not a whole number"),
            (row(name="Heater", size="7"), "is not available in 7 mm²"),
            (row(name="Heater", device="B17 RCBO"), "'17A'"),
            (row(name="Heater", device="gizmo"), "Device: “gizmo” is not a device"),
            (row(name="Heater", device="Z16"), "Device: “Z16” is not a device"),
            (row(name="Heater", device="B16 MCB", rcd="30"), "MCB has no residual-current part"),
            (row(name="Heater", method="XX"), "Method: “XX” is not an installation method"),
            (row(name="x" * 121, kind="fixed"), "121 characters"),
        )
        for cells, said in cases:
            made, rows = read(cells, row(name="Good heater", kw="2", length="9"))
            with self.subTest(said):
                self.assertEqual([one.name for one in made.circuits], ["Good heater"])
                if said is not None:
                    words = "; ".join(f"{one.field}: {one.message}" for one in rows[0].problems)
                    self.assertIn(said, words)
                    self.assertEqual(rows[1].problems, ())

    def test_a_device_written_in_words_is_read_as_it_is_meant(self) -> None:
        for words, kind, curve, rating in (
            ("B32 RCBO 30mA", "rcbo", "B", 32.0),
            ("RCBO C16 30 mA A 6 kA", "rcbo", "C", 16.0),
            ("6kA MCB B6", "mcb", "B", 6.0),
            ("BS EN 60898 MCB C20", "mcb", "C", 20.0),
            ("1P+N B16 30mA", "rcbo", "B", 16.0),
            ("16 A", "mcb", "B", 16.0),
        ):
            made, [one] = read(row(name="Heater", device=words))
            with self.subTest(words):
                self.assertEqual(one.problems, ())
                [got] = made.circuits
                assert isinstance(got.device, Device)
                self.assertEqual((got.device.kind, got.device.curve, got.device.rating_a), (kind, curve, rating))

    def test_a_room_that_the_job_lacks_is_added_and_a_device_without_rating_is_left_to_the_design(self) -> None:
        made, rows = read(
            row(name="Heater", room="Attic"), row(name="Socket", room="wet room"), row(name="Oven", device="rcbo")
        )
        self.assertEqual([one.problems for one in rows], [()] * 3)
        self.assertEqual(
            [(room.name, room.kind) for room in made.rooms[2:]], [("Attic", "ordinary"), ("Wet room", "shower")]
        )
        self.assertTrue(any("room Attic added" in str(text) for text in rows[0].assumed))
        oven = made.circuits[2]
        self.assertEqual((oven.device, oven.preferred.device if oven.preferred else None), ("auto", "rcbo"))
        chosen = design(made).job.circuits[2].device
        self.assertEqual(chosen if isinstance(chosen, str) else chosen.kind, "auto")  # its power is not known

    def test_a_way_is_given_once(self) -> None:
        made, rows = read(row(name="Heater", way="3"), row(name="Heater two", way="3"), row(name="Heater three"))
        self.assertIn("core.import.way_used", ids(rows[1].problems[0].message))
        self.assertEqual([way.number for way in made.boards[0].ways], [3, 1])

    def test_kilowatts_in_a_column_of_watts_are_noticed(self) -> None:
        mapping = {"name": 0, "power_w": 1}
        done = read_circuits(bare(), [("Shower", "9.5"), ("Shower", "9.5 kW"), ("Lamps", "9.5")], mapping)
        self.assertIn("core.import.power_odd", ids(done.rows[0].problems[0].message))
        self.assertEqual([one.loads[0].power_w for one in done.job.circuits], [9500.0, 9.5])

    def test_lines_of_a_three_phase_board(self) -> None:
        into = bare(supply=supply(system="TN-S", phases=3))
        mapping = {"name": 0, "lines": 1}
        done = read_circuits(
            into, [("Heater", "L2"), ("Heater", "3ph"), ("Heater", "L1+L3"), ("Heater", "red")], mapping
        )
        self.assertEqual([one.lines for one in done.job.circuits], [("L2",), ("L1", "L2", "L3"), ("L1", "L3")])
        self.assertIn("core.import.line", ids(done.rows[3].problems[0].message))

    def test_a_standard_without_rings_refuses_one(self) -> None:
        into = read_data(
            {
                "format": FORMAT,
                "job": {"title": "x", "rules": "iec"},
                "supply": {"system": "TN-S"},
                "boards": [{"id": "main", "name": "Main", "fed_by": "origin", "way_count": 4}],
            }
        )
        [one] = read_circuits(into, [("Ring", "ring")], {"name": 0, "kind": 1}).rows
        self.assertIn("no ring circuits", one.problems[0].message)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.tuples(*[st.text(max_size=12)] * 6), max_size=6))
    def test_whatever_the_cells_the_job_that_comes_back_holds_together(self, cells: list[tuple[str, ...]]) -> None:
        mapping = {"name": 0, "length_m": 1, "device": 2, "size_mm2": 3, "power_w": 4, "kind": 5}
        done = read_circuits(bare(), cells, mapping)
        self.assertEqual(checked(done.job), done.job)
        self.assertEqual(len(done.job.circuits), done.added)
        self.assertTrue(all(one.problems or one.text for one in done.rows))


class PriceLists(unittest.TestCase):
    """Devices by kind and rating, cables by kind and size."""

    MAPPING = matched(("Item", "Rating", "Size", "Price"), PRICE_FIELDS)

    def test_rows_become_prices_and_the_last_of_the_same_thing_counts(self) -> None:
        rows = [
            ("RCBO", "", "", "£31.50"),
            ("rcbo", "32", "", "40"),
            ("flat-twin-pvc", "", "2,5", "0,90"),
            ("RCBO", "32 A", "", "41"),
        ]
        done = read_prices(job(), rows, self.MAPPING)
        self.assertEqual([one.problems for one in done.rows], [()] * 4)
        self.assertEqual(
            {(one.kind, one.rating_a): one.each for one in done.job.prices.devices},
            {("rcbo", None): 31.5, ("rcbo", 32.0): 41.0},
        )
        self.assertEqual(
            [(one.type, one.area_mm2, one.per_m) for one in done.job.prices.cables], [("flat-twin-pvc", 2.5, 0.9)]
        )
        self.assertEqual(job().prices.devices, ())

    def test_bad_rows_say_why(self) -> None:
        for cells, said in (
            (("", "", "", "3"), "name a kind"),
            (("wallpaper", "", "", "3"), "is not a kind of device or cable"),
            (("rcbo", "", "", ""), "Price: is empty"),
            (("rcbo", "", "", "dear"), "is not a number"),
            (("rcbo", "", "", "-3"), "is not possible"),
            (("rcbo", "many", "", "3"), "is not a number over 0"),
            (("flat-twin-pvc", "", "", "3"), "priced by size"),
            (("flat-twin-pvc", "", "7", "3"), "is not available in 7 mm²"),
        ):
            [one] = read_prices(job(), [cells], self.MAPPING).rows
            words = "; ".join(f"{problem.field}: {problem.message}" for problem in one.problems)
            with self.subTest(said):
                self.assertIn(said, words)

    def test_a_list_that_is_full_says_so_and_replaces_still(self) -> None:
        full = [("rcbo", f"{number / 10 + 1:g}", "", "3") for number in range(MAX_ROWS)]
        held = read_prices(job(), full, self.MAPPING)
        self.assertEqual(held.added, MAX_ROWS)
        more = read_prices(held.job, [("mcb", "6", "", "2"), ("rcbo", "1", "", "9")], self.MAPPING)
        self.assertIn("core.import.price.full", ids(more.rows[0].problems[0].message))
        self.assertEqual((more.added, len(more.job.prices.devices)), (1, MAX_ROWS))
        self.assertEqual(checked(more.job), more.job)

    def test_a_price_that_came_in_turns_a_choice(self) -> None:
        # Two kinds of cable pass; the dearer one by the list is not taken.
        open_ = job(circuit(cable="auto", device=rcbo(16.0)), settings={"design_for": "price"})
        for dear, taken in (("flat-twin-pvc", "multicore-pvc"), ("multicore-pvc", "flat-twin-pvc")):
            rows = [(dear, "", size, "99") for size in ("1", "1.5", "2.5", "4", "6", "10")]
            read = read_prices(open_, rows, self.MAPPING)
            [chosen] = design(read.job).job.circuits
            assert isinstance(chosen.cable, Cable)
            self.assertEqual(chosen.cable.type, taken)


if __name__ == "__main__":
    unittest.main()
