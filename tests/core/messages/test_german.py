"""German: the circuit chart by the job's setting and by ``--lang``, and the texts of the Documents view."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path

from tests.core.messages.test_plain_words import ROOT
from tests.reports.reading import plain, report_data, whole
from vivid_lattice.cli.main import main
from vivid_lattice.core.job_file import read_document
from vivid_lattice.core.messages.catalogue import BASE, templates
from vivid_lattice.demo import demo_text
from vivid_lattice.reports.catalogue import export


class German(unittest.TestCase):
    """What is in German, and what is not stays English."""

    def test_every_text_of_the_chart_and_of_the_page_is_there(self) -> None:
        wanted = {
            id_ for id_ in templates(BASE) if id_.startswith(("documents.chart.", "documents.page.", "documents.kind."))
        }
        self.assertGreater(len(wanted), 40)
        self.assertEqual(sorted(wanted - templates("de").keys()), [])

    def test_every_text_of_documents_and_routes_is_there(self) -> None:
        folder = ROOT / "web/src/messages/texts"
        english, german = (json.loads((folder / name / "web.json").read_text("utf-8")) for name in ("en", "de"))
        wanted = {
            id_ for id_ in english if id_.startswith(("web.documents.", "web.shell.", "web.save.", "web.routes."))
        }
        self.assertEqual(sorted(wanted - german.keys()), [])
        self.assertEqual(sorted(german.keys() - english.keys()), [])

    def test_the_job_says_the_language_of_its_documents(self) -> None:
        made = read_document(demo_text("millrace").encode())
        german = made.model_copy(update={"settings": made.settings.model_copy(update={"language": "de"})})
        text = whole(export(report_data(german), "chart", "mill").content)
        self.assertIn(plain("Stromkreise nach Abgang"), text)
        self.assertNotIn(plain("Fed from"), text)
        self.assertIn(plain("circuits by way"), whole(export(report_data(made), "chart", "mill").content))

    def test_the_shell_says_it_for_one_call(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            job, target = Path(folder) / "job.json", Path(folder) / "chart.pdf"
            job.write_text(demo_text("millrace"), "utf-8")
            self.assertEqual(main(["--lang", "de", "export", str(job), "--as", "chart", "-o", str(target)]), 0)
            self.assertIn(plain("Freischalten mit"), whole(target.read_bytes()))


if __name__ == "__main__":
    unittest.main()
