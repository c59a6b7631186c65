"""Documents of older versions, read as if the newest program had written them."""

from __future__ import annotations

import json
import unittest
from pathlib import Path
from typing import Any

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Plan
from vivid_lattice.core.document.versions import FORMAT, VERSION, upgraded, version_of
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.findings.finding import Subject
from vivid_lattice.core.job_file import read_data, read_document, to_text
from vivid_lattice.demo import demo_job

#: The lead demo as the first version of the format wrote it.
OLD = Path(__file__).parents[2] / "data" / "document_v1.json"


#: A demo as the second version wrote it: its owner's refusal of surge protection, of which nobody wrote down how it was given.
SECOND = Path(__file__).parents[2] / "data" / "document_v2.json"


def old(**changed: Any) -> dict[str, Any]:
    return dict(json.loads(OLD.read_text("utf-8")), **changed)


class Upgrading(unittest.TestCase):
    """From 1 and 2 to 3."""

    def test_an_old_document_answers_as_the_new_one_does(self) -> None:
        job = read_document(OLD.read_bytes())
        # The demo states since then when its kiln, its water heater and its shower run, how its studio is earthed, its plan, which
        # gives its runs, and what articles cost.
        now = demo_job("millrace")
        then = {circuit.id: circuit for circuit in job.circuits}
        circuits = tuple(
            then[circuit.id]
            if any(load.at_peak for load in circuit.loads)
            else circuit.model_copy(update={"run": then[circuit.id].run})
            for circuit in now.circuits
        )
        boards = tuple(board.model_copy(update={"earthing": None}) for board in now.boards)
        now = now.model_copy(update={"work_details": job.work_details, "circuits": circuits, "boards": boards})
        now = now.model_copy(
            update={"plan": Plan(), "purchase": job.purchase, "prices": job.prices, "quote": job.quote}
        )
        self.assertEqual(job.format, FORMAT)
        self.assertEqual(job, now)
        self.assertEqual(assess(job).findings, assess(now).findings)

    def test_a_document_of_the_second_version_answers_as_the_new_one_and_asks_for_what_is_new(self) -> None:
        job, now = read_document(SECOND.read_bytes()), demo_job("ferry-landing")
        assert job.surge.declined is not None and now.surge.declined is not None
        self.assertIsNone(job.surge.declined.in_writing)
        asked = find(assess(job), "surge", Subject("supply", "supply"))
        assert asked is not None
        self.assertEqual([need.path for need in asked.needs], ["surge.declined.in_writing"])
        declined = job.surge.declined.model_copy(update={"in_writing": True})
        self.assertEqual(job.model_copy(update={"surge": job.surge.model_copy(update={"declined": declined})}), now)

    def test_the_price_list_moves_and_nothing_is_lost(self) -> None:
        data = old()
        prices = {"copper_per_kg": 9.5, "cable_per_m": 0.25, "devices": [{"kind": "rcbo", "each": 31.0}]}
        data["settings"] = {"design_for": "price", "prices": prices}
        job = read_data(data)
        self.assertEqual((job.settings.design_for, job.prices.copper_per_kg), ("price", 9.5))
        self.assertEqual([(one.kind, one.rating_a, one.each) for one in job.prices.devices], [("rcbo", None, 31.0)])

    def test_it_is_written_in_the_new_form_and_read_again_identical(self) -> None:
        job = read_document(OLD.read_bytes())
        self.assertEqual(json.loads(to_text(job))["format"], f"vivid-lattice/{VERSION}")
        self.assertEqual(read_document(to_text(job)), job)

    def test_a_damaged_old_document_is_named_by_its_path(self) -> None:
        for changed, path in (
            ({"settings": {"prices": {"copper_per_kg": "dear"}}}, "prices.copper_per_kg"),
            ({"settings": 7}, "settings"),
            ({"prices": {"cables": [{"type": "x"}]}}, "settings.prices"),
        ):
            with self.assertRaises(BadDocument) as caught:
                read_data(old(**changed))
            self.assertTrue(any(one.path.startswith(path) for one in caught.exception.problems), path)

    def test_a_newer_version_is_refused_with_what_to_do(self) -> None:
        with self.assertRaisesRegex(BadDocument, "versions 1 to 3; a newer program wrote it"):
            read_data(old(format="vivid-lattice/4"))
        for given in ("vivid-lattice/0", "vivid-lattice/x", "vivid-lattice", 7, "other/1"):
            self.assertRaises(BadDocument, read_data, old(format=given))

    def test_data_from_another_program_is_left_alone(self) -> None:
        self.assertEqual(
            upgraded({"format": "other/1", "settings": {"prices": 1}}), {"format": "other/1", "settings": {"prices": 1}}
        )
        self.assertEqual(version_of(Job.model_json_schema()["properties"]["format"]["const"]), VERSION)


if __name__ == "__main__":
    unittest.main()
