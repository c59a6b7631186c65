"""Whatever is typed or sent: an answer, or a refusal in words. Never anything else."""

from __future__ import annotations

import json
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import job
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.job_file import checked, read_data, read_document
from vivid_lattice.demo import demo_text

DEMO = json.loads(demo_text("millrace"))
PIECES = [
    "cooker",
    "8 x",
    "lamp",
    "7.2kW",
    "14m",
    "pf 0.8",
    "buried",
    "loft",
    "bath",
    ",",
    "16A",
    "ring",
    "0m",
    "-3",
    "kW",
    "é",
    "99999 x",
]

scalars = st.none() | st.booleans() | st.integers(-10, 10**7) | st.floats() | st.text(max_size=12) | st.just("auto")
anything = st.recursive(
    scalars,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)


def places(data: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every place of a document."""
    keys = data.keys() if isinstance(data, dict) else range(len(data)) if isinstance(data, list) else ()
    return [path, *(deeper for key in keys for deeper in places(data[key], (*path, key)))]


def replaced(data: Any, path: tuple[Any, ...], value: Any) -> Any:
    """The data with something else at one place."""
    if not path:
        return value
    copy = data.copy()
    copy[path[0]] = replaced(data[path[0]], path[1:], value)
    return copy


PLACES = places(DEMO)


class Documents(unittest.TestCase):
    """A good document with something else in one place."""

    @given(st.sampled_from(PLACES), anything)
    @settings(max_examples=300, deadline=None)
    def test_is_read_whole_or_refused_in_words(self, path: tuple[Any, ...], value: Any) -> None:
        try:
            read = read_data(replaced(DEMO, path, value))
        except BadDocument as refused:
            self.assertTrue(refused.problems)
            self.assertTrue(all(problem.message and "\n" not in problem.line() for problem in refused.problems))
        else:
            assess(read)

    @given(st.binary(max_size=200) | st.text(max_size=200).map(str.encode))
    @settings(max_examples=200, deadline=None)
    def test_any_file_is_refused_in_words(self, raw: bytes) -> None:
        with self.assertRaises(BadDocument):
            read_document(raw)


class Lines(unittest.TestCase):
    """A typed line."""

    @given(st.lists(st.sampled_from(PIECES), max_size=7).map(" ".join) | st.text(max_size=60))
    @settings(max_examples=300, deadline=None)
    def test_becomes_a_circuit_that_holds_together_or_is_refused_in_words(self, text: str) -> None:
        before = job(rooms=(Room(id="bath", name="Bathroom"),))
        try:
            entered = add_entry(before, text, "main")
        except EntryNotUnderstood as refused:
            self.assertTrue(str(refused))
            return
        made = checked(design(entered.job).job)
        self.assertEqual(len(made.circuits), len(before.circuits) + 1)
        assess(made)


if __name__ == "__main__":
    unittest.main()
