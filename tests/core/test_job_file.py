"""Data from outside is validated at a bounded cost: what is wrong is said, but never half a million times."""

from __future__ import annotations

import json
import unittest
from typing import Any

from pydantic import ValidationError

from tests.builders import job
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.validation import MAX_FIELDS, MAX_VALUES, validated
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.job_file import read_data, to_text
from vivid_lattice.demo import DEMOS, demo_job, demo_text


def document(**changed: Any) -> dict[str, Any]:
    """The document of a small job with parts replaced."""
    data: dict[str, Any] = json.loads(to_text(job()))
    return data | changed


class Good(unittest.TestCase):
    """What is right is read as before."""

    def test_every_demo_is_the_same_job_as_by_the_model_itself(self) -> None:
        for name in DEMOS:
            data = json.loads(demo_text(name))
            self.assertEqual(validated(Job, data), Job.model_validate(data))

    def test_a_job_stays_the_object_it_is(self) -> None:
        made = demo_job("millrace")
        self.assertIs(validated(Job, made), made)


class Wrong(unittest.TestCase):
    """What is wrong."""

    def problems(self, data: Any) -> list[str]:
        with self.assertRaises(BadDocument) as caught:
            read_data(data)
        return [problem.path for problem in caught.exception.problems]

    def test_every_mistake_of_a_small_document_is_told(self) -> None:
        wrong = [dict(json.loads(to_text(job()))["circuits"][0], kind="odd") for _ in range(3)]
        self.assertEqual(
            self.problems(document(circuits=wrong)), ["circuits[0].kind", "circuits[1].kind", "circuits[2].kind"]
        )

    def test_of_ninety_thousand_wrong_circuits_only_some_mistakes_are_made_into_errors(self) -> None:
        with self.assertRaises(ValidationError) as caught:
            validated(Job, document(circuits=[{"x": 1}] * 90_000))
        self.assertLess(caught.exception.error_count(), 12_000)
        self.assertEqual(len(self.problems(document(circuits=[{"x": 1}] * 90_000))), 40)

    def test_a_mistake_far_down_a_long_document_is_found(self) -> None:
        one = document()["circuits"][0]
        with self.assertRaises(ValidationError) as caught:
            validated(Job, document(circuits=[one] * 899 + [one | {"kind": "odd"}]))
        self.assertEqual([error["loc"] for error in caught.exception.errors()], [("circuits", 899, "kind")])

    def test_an_object_or_a_document_larger_than_any_is_refused_before_it_is_validated(self) -> None:
        fields = {f"x{at}": 1 for at in range(MAX_FIELDS)}
        with self.assertRaisesRegex(BadDocument, "fields"):
            validated(Job, document(**fields))
        with self.assertRaises(ValidationError):
            validated(Job, fields)
        with self.assertRaisesRegex(BadDocument, f"more than {MAX_VALUES} values"):
            validated(Job, document(circuits=[{}] * (MAX_VALUES + 1)))

    def test_more_shared_rcds_than_a_board_has_are_one_mistake(self) -> None:
        data = document()
        rcd = {"id": "a", "name": "A", "rating_a": 63, "rcd": {"idn_ma": 30}}
        data["boards"][0]["shared_rcds"] = [rcd] * 30_000
        self.assertEqual(self.problems(data), ["boards[0].shared_rcds"])


if __name__ == "__main__":
    unittest.main()
