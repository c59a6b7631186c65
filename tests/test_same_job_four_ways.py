"""The same circuits typed, pasted, imported from a table and taken from a surveyed board: equal results.

Every value is stated, so that nothing is left to what each way in assumes. The supply is stated in words as well. The values are of no
publication: what is tested is that the way in does not matter.
"""

from __future__ import annotations

import csv
import io
import json
from functools import cache

from tests.api.test_api import ApiCase
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.existing_board import ExistingBoard, Survey
from vivid_lattice.core.document.job import Job, MainSwitch, with_circuit
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, matched
from vivid_lattice.core.entry.way_line import read_way
from vivid_lattice.core.job_file import checked, read_document, to_text
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.survey.board_replacement import replaced_board

LINES = (
    "cooker 7.2kW B32 6kA rcbo 30mA 6mm 14m",
    "immersion heater 3kW B16 6kA rcbo 30mA 2.5mm 12m",
    "shower 8.5kW B40 6kA rcbo 30mA 10mm 9m",
)
TABLE = """Circuit,Power [kW],Device,Curve,Rating [A],Breaking capacity [kA],RCD [mA],Size [mm²],Length [m]
Cooker,7.2,rcbo,B,32,6,30,6,14
Immersion heater,3,rcbo,B,16,6,30,2.5,12
Shower,8.5,rcbo,B,40,6,30,10,9
"""
LENGTHS_M = (14.0, 12.0, 9.0)

Results = dict[tuple[str, str], tuple[str, str, str]]


@cache
def begun() -> Job:
    """An empty board on a stated supply."""
    job = set_supply(blank("Four ways", rule_set("uk")), "TN-C-S Ze 0.25 1.4kA 80A BS 88 tails 25mm 2m").job
    board = job.boards[0].model_copy(update={"main_switch": MainSwitch(rating_a=100.0), "assembly_ka": 16.0})
    return checked(job.model_copy(update={"boards": (board,)}))


@cache
def typed() -> Job:
    """Line by line."""
    job = begun()
    for line in LINES:
        job = enter_and_design(job, line, "main").job
    return job


def finished() -> Job:
    """The typed circuits, what is left of the job designed as it is for the others."""
    return design(typed()).job


def imported() -> Job:
    """From a table with heads of its own."""
    heads, *rows = list(csv.reader(io.StringIO(TABLE)))
    read = read_circuits(begun(), rows, matched(heads, FIELDS))
    assert not any(row.problems for row in read.rows), read.rows
    return design(read.job).job


def surveyed() -> Job:
    """From an existing board, its ways typed as they are read; the routes are measured afterwards, a survey has no lengths."""
    old = ExistingBoard(id="old", name="Old board")
    for line in LINES:
        old = old.model_copy(update={"ways": (*old.ways, read_way(rule_set("uk"), old, line))})
    job = checked(
        begun().model_copy(update={"survey": Survey(boards=(old.model_copy(update={"replaced_by": "main"}),))})
    )
    job = replaced_board(job, "old")
    for circuit, length_m in zip(job.circuits, LENGTHS_M, strict=True):
        job = with_circuit(
            job, circuit.model_copy(update={"run": (circuit.run[0].model_copy(update={"length_m": length_m}),)})
        )
    return design(job).job


def results(job: Job) -> Results:
    """Verdict, value and limit of each check on each circuit, by its name: ids are given as they come."""
    names = {circuit.id: circuit.name for circuit in job.circuits}
    return {
        (finding.check, names.get(finding.subject.id, finding.subject.id)): (
            finding.verdict,
            finding.shown_value,
            finding.shown_limit,
        )
        for finding in assess(job, explain=False).findings
        if finding.check not in ("labelling", "ways")
    }


class FourWays(ApiCase):
    """Each way in against the typed lines."""

    def setUp(self) -> None:
        super().setUp()
        self.maxDiff = None

    def test_lines_pasted_one_after_the_other(self) -> None:
        document = to_text(begun())
        job = begun()
        for line in LINES:
            answer = self.client.post(
                "/api/parse/circuit", json={"document": job.model_dump(mode="json"), "board": "main", "text": line}
            )
            self.assertEqual(answer.status_code, 200, answer.text)
            job = read_document(json.dumps(answer.json()["document"]))
        self.assertEqual(job, typed())
        self.assertEqual(to_text(begun()), document)

    def test_a_table(self) -> None:
        self.assertEqual(results(imported()), results(finished()))

    def test_a_surveyed_board(self) -> None:
        self.assertEqual(results(surveyed()), results(finished()))

    def test_the_results_are_those_of_three_designed_circuits(self) -> None:
        self.assertEqual(len(typed().circuits), 3)
        self.assertGreaterEqual(len({check for check, _ in results(typed())}), 15)
        self.assertEqual(results(finished())["voltage-drop", "Cooker"][0], "pass")
