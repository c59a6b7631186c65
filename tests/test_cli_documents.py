"""Papers and files from the shell: what is written, and the exit codes."""

from __future__ import annotations

import io
import unittest
from contextlib import redirect_stderr
from pathlib import Path
from unittest.mock import patch

from tests.builders import circuit, job, laid
from tests.reports.reading import pages
from tests.test_cli import ShellCase
from vivid_lattice.cli.main import main
from vivid_lattice.core.errors import Stopped
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.demo import demo_text
from vivid_lattice.reports.catalogue import KINDS


class Shell(ShellCase):
    """Each command in a process of its own."""

    def file(self, name: str, text: str) -> str:
        path = self.folder / name
        path.write_text(text, encoding="utf-8")
        return str(path)

    def test_a_paper_is_written_under_its_own_name_or_a_given_one(self) -> None:
        mill = self.file("mill.json", demo_text("millrace"))
        done = self.run_command("export", mill, "--as", "hand-over", "-o", str(self.folder))
        self.assertEqual(done.returncode, 0, done.stderr)
        [made] = self.folder.glob("*.pdf")
        self.assertEqual(made.name, "Millrace-watermill-with-a-pottery-studio-Client-handover.pdf")
        self.assertIn("from a file", pages(made.read_bytes())[0])
        target = self.folder / "x.dxf"
        self.assertEqual(
            self.run_command("export", mill, "--as", "dxf", "--board", "mill", "-o", str(target)).returncode, 0
        )
        self.assertGreater(target.stat().st_size, 1000)
        listed = self.run_command("export", mill, "--as", "list").stdout
        self.assertEqual(len(listed.splitlines()), len(KINDS))
        named = self.folder / "named.csv"
        self.assertEqual(self.run_command("export", mill, "--as", "csv", "-o", str(named)).returncode, 0)
        self.assertIn("Kitchen ring", named.read_text("utf-8-sig"))

    def test_a_comparison_of_two_files(self) -> None:
        one = self.file("one.json", to_text(job()))
        other = self.file("other.json", to_text(job(circuit(run=(laid(60.0),)))))
        target = self.folder / "c.pdf"
        done = self.run_command("export", one, "--as", "comparison", "--against", other, "-o", str(target))
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("Heater: 60 → 20 m", " ".join(pages(target.read_bytes())))

    def test_what_cannot_be_is_one_line_and_leaves_no_file(self) -> None:
        mill = self.file("mill.json", demo_text("millrace"))
        for args, said in (
            (("export", mill, "--as", "nothing"), "No document type"),
            (("export", mill, "--as", "svg"), "Choose a board"),
            (("export", str(self.folder / "gone.json"), "--as", "report"), "No such file"),
            (("export", "x", "--as", "report", "--database", str(self.folder / "none.sqlite3")), "database not found"),
            (("import-table", "circuits", mill, "--job", mill), "JSON file, not a table"),
            (("import", self.file("p.json", "%PDF"), "--database", str(self.folder / "d.sqlite3")), "not JSON"),
            (("restore", mill, "--database", str(self.folder / "d.sqlite3")), "not a database"),
        ):
            done = self.run_command(*args)
            with self.subTest(args[:2]):
                self.assertEqual(done.returncode, 2)
                self.assertIn(said, done.stderr)
                self.assertEqual(len(done.stderr.strip().splitlines()), 1)
        self.assertFalse(list(self.folder.glob("*.partial")) + list(self.folder.glob("*.pdf")))

    def test_one_that_is_stopped_writes_nothing_and_says_so(self) -> None:
        target = self.folder / "x.pdf"
        for stopped in (KeyboardInterrupt, Stopped):
            with (
                patch("vivid_lattice.reports.catalogue.export", side_effect=stopped),
                redirect_stderr(io.StringIO()) as said,
            ):
                code = main(["export", self.file("m.json", to_text(job())), "--as", "report", "-o", str(target)])
            self.assertEqual((code, target.exists()), (130, False))
            self.assertIn("cancelled; nothing was written", said.getvalue())

    def test_out_of_one_database_and_into_another_by_bundle_and_by_backup(self) -> None:
        one, other = str(self.folder / "one.sqlite3"), str(self.folder / "other.sqlite3")
        job_id = self.run_command(
            "import", self.file("mill.json", demo_text("millrace")), "--database", one
        ).stdout.split()[0]
        bundle = str(self.folder / "mill.zip")
        self.assertEqual(
            self.run_command("export", job_id, "--database", one, "--as", "zip", "-o", bundle).returncode, 0
        )
        self.assertEqual(self.run_command("import", bundle, "--database", other).returncode, 0)
        backup = str(self.folder / "backup.sqlite3")
        self.assertIn("1 jobs, 1 revisions", self.run_command("backup", backup, "--database", one).stdout)
        self.run_command("import", bundle, "--database", one)
        looked = self.run_command("restore", backup, "--database", one)
        self.assertIn("Inspected only", looked.stdout)
        self.assertIn("previous data backed up", self.run_command("restore", backup, "--database", one, "--yes").stdout)
        self.assertIn("1 jobs", self.run_command("backup", str(self.folder / "b2.sqlite3"), "--database", one).stdout)

    def test_a_table_is_looked_at_and_written_only_when_asked(self) -> None:
        rows = self.file("t.csv", "What,Far\nHeater,12\nMangle,3\n")
        into = self.file("job.json", to_text(job()))
        looked = self.run_command(
            "import-table", "circuits", rows, "--job", into, "--map", "name=What", "--map", "length_m=Far"
        )
        self.assertEqual(looked.returncode, 1)
        self.assertIn("1 of 2 rows", looked.stdout)
        self.assertIn("no known word in the name", looked.stdout)
        target = self.folder / "out.json"
        self.run_command(
            "import-table",
            "circuits",
            rows,
            "--job",
            into,
            "--map",
            "name=What",
            "--map",
            "length_m=Far",
            "-o",
            str(target),
        )
        self.assertEqual([one.run[0].length_m for one in read_document(target.read_bytes()).circuits], [20.0, 12.0])
        wrong = self.run_command("import-table", "circuits", rows, "--job", into, "--map", "name=Nowhere")
        self.assertIn("columns are What, Far", wrong.stderr)
        self.assertEqual(Path(into).read_text("utf-8"), to_text(job()))


if __name__ == "__main__":
    unittest.main()
