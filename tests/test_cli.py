"""The commands others check the engine by: their output and their exit codes."""

from __future__ import annotations

import io
import json
import os
import re
import subprocess
import sys
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest.mock import patch

from tests.builders import circuit, feeder, job, laid, mcb, two_boards
from vivid_lattice.cli.main import main
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.design.rcd_plans.architectures import SHAPES
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_text


class ShellCase(unittest.TestCase):
    """Commands as the shell runs them. Most are run in this process, which saves each the second that it takes to start;
    ``run_process`` starts one as the shell does."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def run_command(self, *args: str, **environment: str) -> subprocess.CompletedProcess[str]:
        """A command with its exit code, output and errors."""
        out, err = (io.TextIOWrapper(io.BytesIO(), encoding="utf-8", write_through=True) for _ in range(2))
        with patch.dict(os.environ, environment), redirect_stdout(out), redirect_stderr(err):
            try:
                code = main(args)
            except SystemExit as done:  # what argparse does with a command it does not know
                code = int(done.code or 0)
        said = [stream.buffer.getvalue().decode("utf-8") for stream in (out, err)]  # type: ignore[attr-defined]
        return subprocess.CompletedProcess(args, code, *said)

    def run_process(self, *args: str) -> subprocess.CompletedProcess[str]:
        """The same in a process of its own."""
        return subprocess.run(
            [sys.executable, "-m", "vivid_lattice.cli.main", *args],
            capture_output=True,
            text=True,
            check=False,
            timeout=300,
        )

    def written(self, text: str) -> str:
        path = self.folder / "job.json"
        path.write_text(text, encoding="utf-8")
        return str(path)


class Entry(ShellCase):
    """A job from nothing: begun, its supply and its circuits typed."""

    def path(self, name: str) -> str:
        return str(self.folder / name)

    def test_a_job_is_begun_supplied_and_filled(self) -> None:
        for rules, supply_line, circuit_line in (
            ("uk", "TN-C-S 100A Ze 0.35 1.4kA tails 25mm2 3m", "cooker B32 6mm 14m 9kW"),
            ("anz", "MEN 63A Ze 0.4 6kA", "hot water C20 2.5mm 12m 3.6kW"),
            ("iec-de", "TN-C-S 63A gG Ze 0.4 6kA", "Backofen B16 2.5mm 12m 3.5kW"),
            ("za", "TN-S C60 Ze 0.4 6kA", "geyser C20 2.5mm 12m 3kW"),
            ("na", "TN-C-S 200A 10kA", "range 12kW 6/3 50A 40ft"),
        ):
            with self.subTest(rules):
                new = self.run_command("new", "--rules", rules, "--title", "Mill", "-o", self.path("a.json"))
                self.assertEqual((new.returncode, new.stderr), (0, ""))
                done = self.run_command("supply", self.path("a.json"), supply_line, "-o", self.path("b.json"))
                self.assertEqual((done.returncode, done.stderr), (0, ""))
                added = self.run_command(
                    "add", self.path("b.json"), circuit_line, "lights 6W 20m", "-o", self.path("c.json")
                )
                self.assertEqual((added.returncode, added.stderr), (0, ""))
                made = read_document((self.folder / "c.json").read_bytes())
                self.assertEqual((made.job.rules, len(made.circuits)), (rules, 2))
                self.assertNotIsInstance(made.circuits[0].device, str)
                self.assertIn("assumed", added.stdout)

    def test_add_designs_what_is_left_open(self) -> None:
        self.run_command("new", "--rules", "uk", "-o", self.path("a.json"))
        self.run_command("supply", self.path("a.json"), "TN-C-S 80A Ze 0.2 1.4kA", "-o", self.path("b.json"))
        done = self.run_command("add", self.path("b.json"), "immersion 3kW 12m", "--design", "-o", self.path("c.json"))
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)
        [made] = read_document((self.folder / "c.json").read_bytes()).circuits
        self.assertFalse(isinstance(made.device, str) or isinstance(made.cable, str))

    def test_a_token_that_is_not_used_writes_nothing_unless_accepted(self) -> None:
        self.run_command("new", "--rules", "uk", "-o", self.path("a.json"))
        for command in (("add", "cooker 9q"), ("supply", "TN-S gizmo")):
            refused = self.run_command(command[0], self.path("a.json"), command[1], "-o", self.path("b.json"))
            self.assertEqual((refused.returncode, (self.folder / "b.json").exists()), (2, False))
            self.assertIn(command[1].split()[1], refused.stderr)
        done = self.run_command("add", self.path("a.json"), "cooker 9q", "--accept", "-o", self.path("b.json"))
        self.assertEqual(done.returncode, 0)
        self.assertIn("not used: '9q'", done.stdout)

    def test_what_no_one_stated_is_assumed_and_confirmed(self) -> None:
        new = self.run_command("new", "--rules", "uk", "--system", "TN-C-S", "-o", self.path("a.json"))
        self.assertIn("[supply.ze_ohm]", new.stdout)
        self.run_command("add", self.path("a.json"), "heater 2kW 12m", "--design", "-o", self.path("b.json"))
        self.assertEqual(self.run_command("assess", self.path("b.json")).returncode, 0)
        strict = self.run_command("assess", "--strict", self.path("b.json"))
        self.assertEqual(strict.returncode, 1)
        self.assertIn("9 assumed, to confirm", strict.stdout)
        listed = self.run_command("confirm", self.path("b.json"))
        fields = re.findall(r"\[([\w.]+)\]", listed.stdout)
        self.assertEqual(len(fields), 9)
        done = self.run_command("confirm", self.path("b.json"), *fields, "-o", self.path("c.json"))
        self.assertEqual((done.returncode, done.stdout), (0, ""))
        self.assertEqual(self.run_command("assess", "--strict", self.path("c.json")).returncode, 0)
        again = self.run_command("confirm", self.path("c.json"), fields[0], "-o", self.path("d.json"))
        self.assertEqual(again.returncode, 2)
        self.assertEqual(self.run_command("confirm", self.path("b.json"), fields[0]).returncode, 2)

    def test_the_earthing_system_is_asked(self) -> None:
        new = self.run_command("new", "--rules", "uk", "-o", self.path("a.json"))
        self.assertIn("asked: the earthing system", new.stdout)
        self.assertIsNone(read_document((self.folder / "a.json").read_bytes()).supply.ze_ohm)
        self.run_command("supply", self.path("a.json"), "80A", "-o", self.path("b.json"))
        self.assertIsNone(read_document((self.folder / "b.json").read_bytes()).supply.ze_ohm)
        self.run_command("supply", self.path("b.json"), "TN-S", "-o", self.path("c.json"))
        self.assertEqual(read_document((self.folder / "c.json").read_bytes()).supply.ze_ohm, 0.8)
        self.assertEqual(
            self.run_command("new", "--rules", "uk", "--system", "IT", "-o", self.path("a.json")).returncode, 2
        )

    def test_a_typical_home_is_begun_designed(self) -> None:
        new = self.run_command("new", "--rules", "uk", "--home", "three-bed", "-o", self.path("a.json"))
        self.assertEqual(new.returncode, 0, new.stderr)
        self.assertEqual(self.run_command("assess", self.path("a.json")).returncode, 0)
        self.assertEqual(
            self.run_command("new", "--rules", "uk", "--home", "castle", "-o", self.path("a.json")).returncode, 2
        )

    def test_wrong_arguments_are_said_in_one_line(self) -> None:
        self.assertEqual(self.run_command("new", "--rules", "xx", "-o", self.path("a.json")).returncode, 2)
        self.assertEqual(self.run_command("add", self.path("none.json"), "x", "-o", self.path("b.json")).returncode, 2)
        self.run_command("new", "--rules", "uk", "-o", self.path("a.json"))
        wrong = self.run_command(
            "add", self.path("a.json"), "lights 20m", "--board", "attic", "-o", self.path("b.json")
        )
        self.assertEqual(wrong.returncode, 2)
        self.assertIn("no board “attic”", wrong.stderr)


class Commands(ShellCase):
    """What a job is read, judged and served with."""

    def test_assess_answers_by_exit_code(self) -> None:
        for text, code in (
            (to_text(job()), 0),
            (to_text(job(circuit(run=(laid(60.0),)))), 1),
            (to_text(job(circuit(run=(laid(None),)))), 1),
            ('{"format": "vivid-lattice/7"}', 2),
        ):
            self.assertEqual(self.run_command("assess", self.written(text)).returncode, code)

    def test_a_process_answers_as_the_same_call_does_within_this_one(self) -> None:
        for text, code in ((to_text(job()), 0), (to_text(job(circuit(run=(laid(60.0),)))), 1), ("{", 2)):
            path = self.written(text)
            done, here = self.run_process("assess", path), self.run_command("assess", path)
            self.assertEqual(done.returncode, code)
            self.assertEqual((done.returncode, done.stdout, done.stderr), (here.returncode, here.stdout, here.stderr))

    def test_assess_as_json_is_the_whole_assessment(self) -> None:
        done = self.run_command("assess", self.written(to_text(job(circuit(run=(laid(60.0),))))), "--json")
        found = json.loads(done.stdout)
        [drop] = [one for one in found["findings"] if one["check"] == "voltage-drop"]
        self.assertEqual(
            (found["verdict"], drop["verdict"], drop["subject"]), ("fail", "fail", {"kind": "circuit", "id": "c1"})
        )
        self.assertTrue(drop["working"] and drop["remedies"] and drop["rule"]["publication"])

    def test_an_unreadable_document_is_one_line_and_no_traceback(self) -> None:
        for text in ("not json", '{"format": "vivid-lattice/3"', "{}"):
            done = self.run_command("assess", self.written(text))
            self.assertEqual((done.returncode, done.stdout, len(done.stderr.splitlines())), (2, "", 1))
        missing = self.run_command("assess", str(self.folder / "nowhere.json"))
        self.assertEqual((missing.returncode, len(missing.stderr.splitlines())), (2, 1))

    def test_design_writes_a_document_that_can_be_assessed(self) -> None:
        target = self.folder / "out.json"
        done = self.run_command(
            "design", self.written(to_text(job(circuit(cable="auto", device="auto")))), "-o", str(target)
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertNotIsInstance(read_document(target.read_bytes()).circuits[0].cable, str)
        self.assertEqual(self.run_command("assess", str(target)).returncode, 0)

    def test_a_board_is_laid_out_and_its_wiring_listed(self) -> None:
        target, table = self.folder / "out.json", self.folder / "wiring.csv"
        demo = self.written(demo_text("millrace").replace('"name": "Oven"', '"name": "=1+1"'))
        done = self.run_command("lay-out", demo, "--board", "mill", "-o", str(target))
        self.assertEqual((done.returncode, "best possible" in done.stdout), (0, True), done.stderr)
        self.assertEqual(len(read_document(target.read_bytes()).boards[0].build.device_positions), 14)
        listed = self.run_command("wiring", str(target), "--board", "mill")
        self.assertIn("supply, L1 → Main switch, terminal 1: brown, 25 mm²", listed.stdout)
        self.run_command("wiring", str(target), "--board", "mill", "--csv", str(table))
        lines = table.read_text("utf-8").splitlines()
        self.assertEqual(len(lines), 1 + sum(" → " in line for line in listed.stdout.splitlines()))
        self.assertFalse([cell for line in lines for cell in line.split(",") if cell.startswith("=")])
        refused = self.run_command("lay-out", self.written(to_text(job())), "--board", "main", "-o", str(target))
        self.assertEqual((refused.returncode, len(refused.stderr.splitlines())), (2, 1))

    def test_demo_jobs_are_listed_and_written(self) -> None:
        self.assertEqual(self.run_command("demo", "--list").stdout.split(), list(DEMOS))
        self.run_command("demo", "--write", str(self.folder / "demos"))
        for name in DEMOS:
            read_document((self.folder / "demos" / f"{name}.json").read_bytes())

    def test_schema_and_rules_are_printed(self) -> None:
        self.assertIn("circuits", json.loads(self.run_command("schema").stdout)["properties"])
        self.assertIn("uk.ccc.flat-twin-pvc", self.run_command("rules", "list").stdout)
        shown = self.run_command("rules", "show", "uk.ccc.flat-twin-pvc").stdout
        self.assertIn("BS 7671:2018+A2, Table 4D5 (memory, confidence high)", shown)
        self.assertEqual(self.run_command("rules", "show", "nothing").returncode, 2)

    def test_serve_refuses_to_be_reached_from_elsewhere_without_a_token(self) -> None:
        database = str(self.folder / "x.sqlite3")
        for host in ("0.0.0.0", "192.0.2.7", "::"):
            done = self.run_command("serve", "--host", host, "--database", database, VIVID_LATTICE_TOKEN="")
            self.assertEqual(done.returncode, 2)
            self.assertIn("access token", done.stderr)

    def test_serve_says_what_is_wrong_with_a_damaged_database(self) -> None:
        path = self.folder / "bad.sqlite3"
        path.write_bytes(b"no database at all " * 300)
        done = self.run_command("serve", "--port", "0", "--database", str(path))
        self.assertEqual((done.returncode, len(done.stderr.splitlines())), (2, 1))
        self.assertIn("is damaged", done.stderr)


class Protection(ShellCase):
    """What protects, from the shell."""

    def test_the_matrix_tells_a_crossed_pair_by_its_exit_code(self) -> None:
        done = self.run_command("matrix", self.written(to_text(job())))
        self.assertEqual((done.returncode, done.stdout.split()[0]), (0, "total"))
        crossed = two_boards(feeder(device=mcb(16.0, "C")), circuit())
        done = self.run_command("matrix", self.written(to_text(crossed)), "--json")
        standings = {(one["up"], one["down"]): one["status"] for one in json.loads(done.stdout)["pairs"]}
        self.assertEqual((done.returncode, standings["f1", "c1"]), (1, "none"))

    def test_an_event_is_run_and_a_wrong_one_is_one_line(self) -> None:
        path = self.written(to_text(job()))
        done = self.run_command("fault", path, "--kind", "line-earth", "--circuit", "c1", "--json")
        story = json.loads(done.stdout)
        self.assertEqual((done.returncode, story["circuits_lost"]), (0, ["c1"]))
        for more, said in (
            (["--at", "3"], "event.at"),
            (["--circuit", "c9"], "c9"),
            ([], "the circuit with the fault"),
        ):
            wrong = self.run_command("fault", path, "--kind", "nail", *(more if more else []))
            self.assertEqual((wrong.returncode, wrong.stdout, len(wrong.stderr.splitlines())), (2, "", 1), more)
            self.assertIn(said, wrong.stderr)

    def test_plans_are_compared_and_one_is_written(self) -> None:
        self.run_command("demo", "--write", str(self.folder))
        path, out = str(self.folder / "lamp-cottage.json"), str(self.folder / "out.json")
        done = self.run_command("plan-rcds", path, "--board", "main")
        self.assertEqual((done.returncode, len(done.stdout.splitlines())), (0, len(SHAPES)))
        one = self.run_command("plan-rcds", path, "--board", "main", "--architecture", "three", "-o", out)
        self.assertEqual(one.returncode, 0)
        self.assertEqual(len(read_document(Path(out).read_text("utf-8")).boards[0].shared_rcds), 3)
        refused = self.run_command("plan-rcds", path, "--board", "main", "--architecture", "one", "-o", out)
        self.assertEqual(refused.returncode, 1)


class Plan(ShellCase):
    def test_cables_conductors_and_joints_of_a_typed_house(self) -> None:
        made = begin("Mill", rule_set("uk"), "TN-C-S")
        for line in ("kitchen ring", "lights"):
            made = enter_and_design(made, line, "main").job
        for line in ("kitchen 4 x 3 door left", "board kitchen left at 0.2", "4 sockets kitchen", "light kitchen"):
            made = enter_plan_line(made, line)
        asked = self.run_command("plan", self.written(to_text(made)))
        self.assertEqual(asked.returncode, 1)
        self.assertIn("insulation over its ceiling is not stated", asked.stdout)
        path = self.written(to_text(enter_plan_line(made, "ground floor insulation none")))
        done = self.run_command("plan", path)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("Kitchen ring: ring, ", done.stdout)
        self.assertIn("L SL PE  flat two-core and cpc; brown L, blue SL", done.stdout)
        self.assertIn("joints L 3 in the terminals of the socket", done.stdout)
        self.assertIn("box 1 gang, 25 mm: cables 2 of 2", done.stdout)
        said = json.loads(self.run_command("plan", path, "--json").stdout)
        self.assertEqual([each["proved"] for each in said["circuits"]], [True, True])
        fills = [box["fill"] for box in said["circuits"][0]["boxes"]]
        self.assertEqual({(fill["counted"], fill["smallest_box"]) for fill in fills}, {("cables", "1 gang, 25 mm")})
        sections = said["circuits"][0]["sections"]
        self.assertAlmostEqual(sum(each["piece_m"] for each in sections), said["circuits"][0]["cable_m"], places=2)

    def test_a_job_without_a_plan_says_what_it_lacks(self) -> None:
        done = self.run_command("plan", self.written(demo_text("lamp-cottage")))
        self.assertEqual(done.returncode, 1)
        self.assertIn("needs points of", done.stdout)


class Testing(ShellCase):
    def test_the_plan_of_a_job_at_a_temperature(self) -> None:
        path = self.written(demo_text("millrace"))
        cold, warm = (
            json.loads(self.run_command("test-plan", path, "--temperature", c, "--json").stdout) for c in ("0", "30")
        )
        self.assertEqual([test["id"] for test in cold["tests"]], [test["id"] for test in warm["tests"]])
        value = {test["id"]: test["expected"]["value"] for test in cold["tests"]}
        other = {test["id"]: test["expected"]["value"] for test in warm["tests"]}
        # 1 + 0.004·(t − 20): 0.92 and 1.04.
        self.assertAlmostEqual(other["r1r2:circuit:c4"] / value["r1r2:circuit:c4"], 1.04 / 0.92, places=6)
        text = self.run_command("test-plan", path).stdout
        self.assertIn("Kiln: Zs: expected", text)
        self.assertIn("maximum 300 ms", text)

    def test_readings_are_judged_by_exit_code(self) -> None:
        path = self.written(demo_text("millrace"))
        table = self.folder / "readings.csv"
        for rows, code in (
            ("zs,Kiln,0.5\nir_le,Oven,>200\n", 0),
            ("zs,Kiln,0.5\nir_le,Oven,0.5\n", 1),
            ("zs,Kiln,0.5\nzs,nowhere,1\n", 2),
        ):
            table.write_text("test,subject,value\n" + rows, encoding="utf-8")
            done = self.run_command("judge", path, str(table))
            self.assertEqual(done.returncode, code, done.stdout + done.stderr)
            self.assertIn("Kiln: Zs 0.5 Ω", done.stdout)
        self.assertIn("row 3", done.stderr)
        found = json.loads(self.run_command("judge", path, str(table), "--json").stdout)
        self.assertEqual((len(found["readings"]), found["problems"][0]["row"], found["diagnoses"]), (1, 3, []))
        table.write_text("test,subject,value\nze,supply,0.2\nr1r2,Kiln,2.4\n", encoding="utf-8")
        told = self.run_command("judge", path, str(table)).stdout
        self.assertIn("Kiln: likely causes", told)
        self.assertIn("Poor joint in the line conductor", told)
        self.assertIn("next: ", told)
        table.write_text("colour\nred\n", encoding="utf-8")
        self.assertEqual(self.run_command("judge", path, str(table)).returncode, 2)


if __name__ == "__main__":
    unittest.main()
