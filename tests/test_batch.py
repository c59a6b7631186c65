"""Many documents at once: each answered once, in order, whatever is wrong with it."""

from __future__ import annotations

import csv
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.builders import circuit, job, laid, supply
from vivid_lattice.batch import COLUMNS, check_all, check_document, documents_in, write_csv
from vivid_lattice.core.document.job import JobInfo
from vivid_lattice.core.job_file import to_text


class Batch(unittest.TestCase):
    """A folder of documents."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        (self.folder / "phase-2").mkdir()
        for name, text in {
            "a.json": to_text(job()),
            "b.json": to_text(job(circuit(run=(laid(60.0),)))),
            "phase-2/c.json": to_text(job(supply=supply(ze_ohm=None))),
            "phase-2/d.json": '{"format": "vivid-lattice/8"}',
            "notes.txt": "not a document",
        }.items():
            (self.folder / name).write_text(text, encoding="utf-8")

    def test_every_document_is_answered_once_and_in_order(self) -> None:
        seen: list[tuple[int, int]] = []
        lines = check_all(documents_in(self.folder), 2, lambda done, all_: seen.append((done, all_)))
        self.assertEqual([Path(line.file).name for line in lines], ["a.json", "b.json", "c.json", "d.json"])
        self.assertEqual([line.verdict for line in lines], ["pass", "fail", "missing", "unreadable"])
        self.assertEqual(lines[1].worst, "Heater: voltage-drop")
        self.assertIn("version 8 is not read", lines[3].problem)
        self.assertEqual(seen[-1], (4, 4))

    def test_more_documents_than_a_worker_takes_at_a_time_keep_their_order(self) -> None:
        paths = [self.folder / "a.json", self.folder / "b.json"] * 30
        lines = check_all(paths, 2)
        self.assertEqual([line.file for line in lines], [str(path) for path in paths])

    def test_the_command_says_what_is_wrong_and_writes_the_list(self) -> None:
        target = self.folder / "out.csv"
        command = [
            sys.executable,
            "-m",
            "vivid_lattice.cli.main",
            "check-batch",
            str(self.folder),
            "--csv",
            str(target),
        ]
        done = subprocess.run(command, capture_output=True, text=True, check=False, timeout=60)
        self.assertEqual(done.returncode, 1, done.stderr)
        self.assertIn("4 documents, 3 circuits", done.stdout)
        with target.open(newline="", encoding="utf-8") as file:
            rows = list(csv.reader(file))
        self.assertEqual((tuple(rows[0]), len(rows)), (COLUMNS, 5))
        empty = self.folder / "empty"
        empty.mkdir()
        for folder in (empty, self.folder / "nowhere"):
            done = subprocess.run([*command[:-3], str(folder)], capture_output=True, text=True, check=False, timeout=60)
            self.assertEqual((done.returncode, len(done.stderr.splitlines())), (2, 1))

    def test_a_title_that_is_a_formula_is_text_in_the_list(self) -> None:
        path = self.folder / "formula.json"
        path.write_text(to_text(job(job=JobInfo(title="=HYPERLINK(1)"))), encoding="utf-8")
        write_csv([check_document(path)], self.folder / "f.csv")
        self.assertIn("'=HYPERLINK(1)", (self.folder / "f.csv").read_text("utf-8"))


if __name__ == "__main__":
    unittest.main()
