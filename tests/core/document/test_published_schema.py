"""The published schema of the document: it is the one that the program reads by, and what the program writes obeys it."""

from __future__ import annotations

import json
import unittest
from pathlib import Path

import jsonschema_rs

from tests.builders import circuit, job, laid
from vivid_lattice.core.document.job import EXAMPLE, Job
from vivid_lattice.core.document.versions import VERSION
from vivid_lattice.core.job_file import to_text
from vivid_lattice.demo import DEMOS, demo_job

PUBLISHED = Path(__file__).resolve().parents[3] / f"docs/format/vivid-lattice-{VERSION}.schema.json"


class Published(unittest.TestCase):
    """``docs/format``; written by ``vivid-lattice schema``."""

    def test_it_is_the_schema_of_today(self) -> None:
        self.assertEqual(json.loads(PUBLISHED.read_text("utf-8")), Job.model_json_schema())

    def test_every_document_that_is_written_obeys_it(self) -> None:
        validator = jsonschema_rs.validator_for(json.loads(PUBLISHED.read_text("utf-8")))
        for made in (*(demo_job(name) for name in DEMOS), job(circuit(run=(laid(None),), cable="auto"))):
            validator.validate(json.loads(to_text(made)))
        validator.validate(EXAMPLE)

    def test_what_the_reader_refuses_by_form_it_refuses_too(self) -> None:
        validator = jsonschema_rs.validator_for(json.loads(PUBLISHED.read_text("utf-8")))
        good = json.loads(to_text(demo_job("millrace")))
        for changed in (
            {"format": "vivid-lattice/4"},
            {"circuits": [{"id": "c1"}]},
            {"supply": {"system": "TN-Q"}},
            {"surprise": 1},
        ):
            self.assertFalse(validator.is_valid(good | changed), changed)


if __name__ == "__main__":
    unittest.main()
