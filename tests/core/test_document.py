"""Bad documents: one clear line for each thing wrong, with its path, and never anything half read."""

from __future__ import annotations

import json
import unittest
from collections.abc import Callable
from typing import Any

from tests.builders import two_boards
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.demo import DEMOS, demo_job, demo_text


def document() -> dict[str, Any]:
    """A good document as plain data: two boards, a feeder and a circuit."""
    data: dict[str, Any] = json.loads(to_text(two_boards()))
    return data


def put(path: list[str | int], value: Any) -> Callable[[dict[str, Any]], None]:
    """A change of one place of the data."""

    def change(data: dict[str, Any]) -> None:
        at: Any = data
        for part in path[:-1]:
            at = at[part]
        at[path[-1]] = value

    return change


#: A change that breaks the document, the path that is named, and words of the line.
BROKEN: list[tuple[Callable[[dict[str, Any]], None], str, str]] = [
    (put(["format"], "vivid-lattice/4"), "format", "version 4 is not read"),
    (put(["format"], "something/1"), "format", "is not a job document"),
    (put(["job", "rules"], "mars"), "job.rules", "No standard “mars”. Available: anz"),
    (put(["job", "title"], ""), "job.title", "must not be empty"),
    (put(["circuits", 1, "run", 0, "length_m"], -3), "circuits[1].run[0].length_m", "must be over 0"),
    (put(["circuits", 1, "run", 0, "length_m"], "20"), "circuits[1].run[0].length_m", "must be a number, not '20'"),
    (put(["circuits", 1, "run"], []), "circuits[1].run", "minimum 1"),
    (put(["circuits", 1, "run", 0, "method"], "Z"), "circuits[1].run[0].method", "no method 'Z'"),
    (put(["circuits", 1, "cable", "area_mm2"], 0), "circuits[1].cable.area_mm2", "must be over 0"),
    (put(["circuits", 1, "cable", "type"], "string"), "circuits[1].cable.type", "no cable 'string'"),
    (put(["circuits", 1, "device", "kind"], "relay"), "circuits[1].device.kind", "no device 'relay'"),
    (put(["circuits", 1, "device", "rcd"], None), "circuits[1].device.rcd", "needs its residual-current part"),
    (put(["circuits", 1, "colour"], "red"), "circuits[1].colour", "not a field of the format"),
    (put(["circuits", 1, "two\nlines"], 1), "circuits[1].two\\nlines", "not a field of the format"),
    (put(["circuits", 1, "id"], "f1"), "circuits", "id “f1” is used 2 times"),
    (put(["circuits", 1, "loads", 0, "room"], "attic"), "circuits[1].loads[0].room", "no room 'attic'"),
    (put(["supply", "ze_ohm"], 0), "supply.ze_ohm", "must be over 0"),
    (put(["supply", "system"], "IT"), "supply.system", "must be"),
    (put(["supply", "phases"], 2), "supply.phases", "not split-phase"),
    (put(["supply", "nominal_v"], 400), "supply.nominal_v", "made for 230 V"),
    (put(["boards", 1, "fed_by"], {"board": "attic", "way": 1}), "boards[1].fed_by.board", "no board “attic”"),
    (put(["boards", 1, "fed_by"], {"board": "main", "way": 9}), "boards[1].fed_by.way", "has no circuit"),
    (put(["boards", 0, "fed_by"], {"board": "sub", "way": 1}), "boards[0].fed_by", "feeds itself in a loop"),
    (put(["boards", 1, "ways", 0, "circuit"], "c9"), "boards[1].ways[0].circuit", "no circuit 'c9'"),
    (put(["boards", 1, "ways", 0, "number"], 21), "boards[1].ways[0].number", "above the last one, 20"),
    (put(["boards", 1, "ways", 0, "rcd"], "g1"), "boards[1].ways[0].rcd", "no RCD “g1”"),
    (put(["boards", 1, "ways"], []), "circuits[1]", "is in no way"),
    (put(["circuits", 0, "kind"], "fixed"), "boards[1].fed_by.way", "is not a distribution circuit"),
]  # fmt: skip


#: The same in a three-phase document whose feeder brings L1 and L2 to the further board.
BROKEN_LINES: list[tuple[Callable[[dict[str, Any]], None], str, str]] = [
    (put(["circuits", 1, "lines"], ["L4"]), "circuits[1].lines[0]", "must be"),
    (put(["circuits", 1, "lines"], ["L1", "L1"]), "circuits[1].lines", "a phase is named twice"),
    (put(["circuits", 1, "lines"], ["L3"]), "circuits[1].lines", "L3 does not reach this board; available: L1, L2"),
    (put(["circuits", 1, "neutral"], False), "circuits[1].neutral", "needs at least two phases"),
    (put(["circuits", 1, "loads", 0, "lines"], ["L2"]), "circuits[1].loads[0].lines", "must be phases of the circuit (L1)"),
    (put(["supply", "phases"], 1), "circuits[0].lines", "the supply has no L2; it has L1"),
    (put(["supply", "phases"], 2), "supply.phases", "knows single-phase and three-phase supplies"),
    (put(["circuits", 1, "kind"], "ring"), "circuits[1].kind", "knows no ring circuits"),
    (put(["supply", "transformer"], {"rated_kva": 0, "impedance_pct": 4}), "supply.transformer.rated_kva", "must be over 0"),
    (put(["supply", "prerequisites"], [{"id": "visit", "due_on": "soon"}]), "supply.prerequisites[0].due_on", "must"),
]  # fmt: skip


def document_of_lines() -> dict[str, Any]:
    """A good three-phase document: a feeder of two lines, and behind it a circuit on L1."""
    cable = {"type": "sheathed-pvc", "area_mm2": 10.0, "cpc": "core"}
    data = document()
    data["job"]["rules"] = "iec"
    data["supply"] |= {"phases": 3, "cutout": None}
    for circuit, lines in zip(data["circuits"], (["L1", "L2"], ["L1"]), strict=True):
        circuit |= {"lines": lines, "cable": cable, "device": "auto"}
        circuit["run"][0]["method"] = "C"
    return data


def gear(**parts: Any) -> dict[str, Any]:
    return {"id": "k", "name": "All off", "kind": "contactor", "switches": ["c1"]} | parts


#: The same of a board's build and of a survey.
BROKEN_BUILD: list[tuple[Callable[[dict[str, Any]], None], str, str]] = [
    (put(["boards", 1, "control_gear"], [gear(switches=["f1"])]), "boards[1].control_gear[0].switches", "no circuit or RCD “f1”"),
    (put(["boards", 1, "control_gear"], [gear(), gear(id="k2")]), "boards[1].control_gear[1].switches", "switched by two contactors"),
    (put(["boards", 1, "control_gear"], [gear(kind="socket", switches=["c1", "c1"])]), "boards[1].control_gear[0].switches", "belongs to one circuit"),
    (put(["boards", 1, "control_gear"], [gear(), gear(switches=["c1"])]), "boards[1].control_gear", "id “k” is used 2 times"),
    (put(["boards", 1, "build", "device_positions"], [{"device": "main", "row": 1, "offset_modules": 0.25}]), "boards[1].build.device_positions[0].offset_modules", "multiple of 0.5"),
    (put(["boards", 1, "build", "device_positions"], [{"device": "main", "row": 1, "offset_modules": 0}] * 2), "boards[1].build.device_positions", "id “main” is used 2 times"),
    (put(["boards", 1, "build", "neutral_connections"], [{"circuit": "c1", "bar": "N-r9"}]), "boards[1].build.neutral_connections[0].bar", "no bar “N-r9”; this board has N"),
    (put(["boards", 1, "build", "neutral_connections"], [{"circuit": "f1", "bar": "N"}]), "boards[1].build.neutral_connections[0].circuit", "no circuit “f1”"),
    (put(["boards", 1, "build", "mounting"], {"room": "attic"}), "boards[1].build.mounting.room", "no room 'attic'"),
    (put(["boards", 1, "build", "labels", "texts"], [{"circuit": "f1", "text": "x"}]), "boards[1].build.labels.texts[0].circuit", "no circuit “f1”"),
    (put(["survey", "boards"], [{"id": "old", "name": "Old", "replaced_by": "attic"}]), "survey.boards[0].replaced_by", "no board “attic”"),
]  # fmt: skip


class BadDocuments(unittest.TestCase):
    """Each is refused for its own reason."""

    def test_each_slip_is_named_with_its_path(self) -> None:
        read_document(json.dumps(document_of_lines()))
        cases = [
            *((document, *case) for case in (*BROKEN, *BROKEN_BUILD)),
            *((document_of_lines, *case) for case in BROKEN_LINES),
        ]
        for make, change, path, said in cases:
            with self.subTest(path=path, said=said):
                data = make()
                change(data)
                with self.assertRaises(BadDocument) as caught:
                    read_document(json.dumps(data))
                lines = [problem.line() for problem in caught.exception.problems]
                self.assertTrue(any(line.startswith(f"{path}: ") and said in line for line in lines), lines)
                self.assertTrue(all("\n" not in line for line in lines))

    def test_what_is_no_document_at_all_is_said_plainly(self) -> None:
        for raw, said in (
            (b"\xff\xfe\x00", "not a text file"),
            (b"", "not JSON"),
            (b'{"format": ', "not JSON: Expecting value at line 1"),
            (b"[]", "not a list"),
            (b"null", "not a null"),
            (b"{}", 'missing; a job document says "format"'),
            (b'{"format": NaN}', "not a number that a job may contain: NaN"),
            (b"[" * 100_000, "nested too deeply"),
        ):
            with self.subTest(said), self.assertRaises(BadDocument) as caught:
                read_document(raw)
            self.assertIn(said, str(caught.exception))

    def test_several_slips_are_all_said_at_once(self) -> None:
        data = document()
        for change in (
            put(["supply", "ze_ohm"], -1),
            put(["circuits", 1, "run", 0, "length_m"], 0),
            put(["job", "title"], ""),
        ):
            change(data)
        with self.assertRaises(BadDocument) as caught:
            read_document(json.dumps(data))
        self.assertEqual(len(caught.exception.problems), 3)

    def test_a_flood_of_slips_is_cut_to_what_a_person_reads(self) -> None:
        data = document()
        data["circuits"] = [{"id": f"c{number}"} for number in range(900)]
        with self.assertRaises(BadDocument) as caught:
            read_document(json.dumps(data))
        self.assertLessEqual(len(caught.exception.problems), 40)


class GoodDocuments(unittest.TestCase):
    """What is right is read as it stands."""

    def test_the_demo_jobs_are_kept_in_the_form_the_program_writes(self) -> None:
        for name in DEMOS:
            with self.subTest(name):
                self.assertEqual(to_text(demo_job(name)), demo_text(name))

    def test_a_load_that_is_not_counted_is_kept_so(self) -> None:
        data = document()
        data["circuits"][0]["loads"] = [{"name": "Sockets", "kind": "socket", "count": None}]
        read = read_document(json.dumps(data))
        self.assertIsNone(read_document(to_text(read)).circuits[0].loads[0].count)

    def test_a_byte_order_mark_is_passed_over(self) -> None:
        self.assertEqual(read_document(b"\xef\xbb\xbf" + demo_text("millrace").encode()), demo_job("millrace"))

    def test_whole_numbers_are_figures_too(self) -> None:
        data = document()
        data["supply"]["ze_ohm"] = 1
        self.assertEqual(read_document(json.dumps(data)).supply.ze_ohm, 1.0)


if __name__ == "__main__":
    unittest.main()
