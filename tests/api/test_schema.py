"""The API against its own OpenAPI document: whatever is sent, the answer is one that the document describes.

Generated documents hardly ever hold together, and most of the time goes into generating them. One operation gets such; all
others get one of a few small jobs that do, with everything else generated, so that what they calculate is reached.
"""

from __future__ import annotations

import copy
import json
import re
import tempfile
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.core.failures import Failure
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from tests.builders import circuit, feeder, job, laid, supply, two_boards
from vivid_lattice.api.app import create_app
from vivid_lattice.core.job_file import to_text

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
HEADERS = {"host": "127.0.0.1"}
EXAMPLES = 8
#: The operation that gets documents generated from the schema, most of them wrong.
GENERATED = ("post", "/api/assess")
#: What searches for seconds where it is given a job it can work on.
SOLVERS = {
    ("post", "/api/rcds/plan"),
    ("post", "/api/boards/lay-out"),
    ("post", "/api/boards/propose"),
    ("post", "/api/boards/propose-surge"),
    ("post", "/api/boards/add-circuit"),
}
_JOB = "#/components/schemas/Job"
SMALL = [
    json.loads(to_text(made))
    for made in (
        job(circuit()),
        job(circuit(cable="auto", device="auto", run=(laid(None),)), supply=supply(ze_ohm=None)),
        two_boards(feeder(), circuit()),
    )
]


def described(app: Any) -> dict[str, Any]:
    """The OpenAPI document, with small jobs in the place of generated ones wherever a request holds a job."""
    document: dict[str, Any] = copy.deepcopy(app.openapi())
    schemas = document["components"]["schemas"]
    sent = {name for operation in _operations(document) for name in _named(operation.get("requestBody", {}))}
    for name in sent - {"Job"}:
        schemas[name] = _with_small_jobs(schemas[name])
    generated = document["paths"][GENERATED[1]][GENERATED[0]]["requestBody"]["content"]["application/json"]
    [name] = _named(generated)
    generated["schema"] = copy.deepcopy(app.openapi()["components"]["schemas"][name])
    return document


def _operations(document: dict[str, Any]) -> Iterator[dict[str, Any]]:
    for path in document["paths"].values():
        yield from path.values()


def _named(part: Any) -> set[str]:
    """Names of the schemas that a part refers to by itself."""
    return set(re.findall(r'"#/components/schemas/(\w+)"', json.dumps(part)))


def _with_small_jobs(part: Any) -> Any:
    if isinstance(part, dict):
        return (
            {"enum": SMALL}
            if part.get("$ref") == _JOB
            else {key: _with_small_jobs(value) for key, value in part.items()}
        )
    return [_with_small_jobs(value) for value in part] if isinstance(part, list) else part


class AgainstSchema(unittest.TestCase):
    """Generated requests for every operation."""

    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        app = create_app(Path(folder.name) / "t.sqlite3")
        schema = schemathesis.openapi.from_dict(described(app))
        schema.app = app
        cls.operations = {
            (one.method.lower(), one.path): one for one in (result.ok() for result in schema.get_all_operations())
        }

    def test_every_operation_that_answers_at_once_does_as_it_is_described(self) -> None:
        quick = {at: one for at, one in self.operations.items() if at not in SOLVERS}
        self.assertGreater(len(quick), 50)
        for (method, path), operation in quick.items():
            with self.subTest(f"{method} {path}"):
                self._try(operation)

    def test_every_operation_that_searches_does_as_it_is_described(self) -> None:
        self.assertLessEqual(SOLVERS, self.operations.keys())
        for method, path in sorted(SOLVERS):
            with self.subTest(f"{method} {path}"):
                self._try(self.operations[method, path])

    def _try(self, operation: schemathesis.APIOperation) -> None:
        answers: list[int] = []

        @given(case=operation.as_strategy())
        @settings(
            max_examples=EXAMPLES, deadline=None, database=None, derandomize=True, phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        def run(case: schemathesis.Case) -> None:
            answers.append(case.call_and_validate(checks=CHECKS, headers=HEADERS).status_code)

        try:
            run()
        except Failure as failure:
            self.fail(str(failure))
        self.assertTrue(answers)


if __name__ == "__main__":
    unittest.main()
