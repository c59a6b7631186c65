"""The API against its own OpenAPI document: whatever is sent, the answer is one that the document describes."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.core.failures import Failure
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from vivid_lattice.api.app import create_app

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
HEADERS = {"host": "127.0.0.1"}


class AgainstSchema(unittest.TestCase):
    """Generated requests for every operation."""

    def test_every_operation_answers_as_it_is_described(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            schema = schemathesis.openapi.from_asgi(
                "/api/openapi.json", create_app(Path(folder) / "t.sqlite3"), headers=HEADERS
            )
            operations = [result.ok() for result in schema.get_all_operations()]
            self.assertGreater(len(operations), 15)
            for operation in operations:
                with self.subTest(operation.label):
                    self._try(operation)

    def _try(self, operation: schemathesis.APIOperation) -> None:
        @given(case=operation.as_strategy())
        @settings(
            max_examples=12, deadline=None, database=None, derandomize=True, phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        def run(case: schemathesis.Case) -> None:
            case.call_and_validate(checks=CHECKS, headers=HEADERS)

        try:
            run()
        except Failure as failure:
            self.fail(str(failure))


if __name__ == "__main__":
    unittest.main()
