"""A standard's description with something wrong in it is refused with file and line."""

from __future__ import annotations

import tempfile
import tomllib
import unittest
from pathlib import Path
from typing import Any
from unittest.mock import patch

from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.rules import data_folder, standard_file, standard_ids
from vivid_lattice.core.rules.standard_file import line_of

UK = (data_folder.data_root() / "uk" / "standard.toml").read_text("utf-8")
NZ = (data_folder.data_root() / "anz" / "variants" / "nz.toml").read_text("utf-8")


def paths(data: Any, before: tuple[str | int, ...] = ()) -> list[tuple[str | int, ...]]:
    """Every path of a description that ends in a value."""
    if isinstance(data, dict):
        return [path for key, value in data.items() for path in paths(value, (*before, key))]
    if isinstance(data, list) and data and all(isinstance(item, dict) for item in data):
        return [path for index, item in enumerate(data) for path in paths(item, (*before, index))]
    return [before]


class Refused(unittest.TestCase):
    """The packaged description of a standard, spoiled in one place."""

    def refusal(self, text: str, of: str = "uk", variant: str | None = None) -> str:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        root = Path(folder.name)
        (root / of.split("-")[0]).mkdir()
        (root / of.split("-")[0] / "standard.toml").write_text(text, "utf-8")
        schema = (data_folder.data_root() / "standard.schema.json").read_text("utf-8")
        (root / "standard.schema.json").write_text(schema, "utf-8")
        if variant is not None:
            (root / "variant.toml").write_text(variant, "utf-8")
        homes = {of: (of.split("-")[0], root / "variant.toml" if variant is not None else None)}
        caches = (standard_file.standard_file, standard_file._validator)
        for cached in caches:
            cached.cache_clear()
            self.addCleanup(cached.cache_clear)
        with (
            patch.object(standard_file, "data_root", lambda: root),
            patch.object(standard_file, "homes", lambda: homes),
            self.assertRaises(BadTable) as caught,
        ):
            standard_file.standard_file(of)
        return str(caught.exception)

    def line(self, text: str, begins: str) -> int:
        return next(number for number, line in enumerate(text.splitlines(), 1) if line.startswith(begins))

    def test_a_key_that_is_spelt_wrong_is_named_with_its_line(self) -> None:
        line = self.line(UK, "nominal_v")
        message = self.refusal(UK.replace("nominal_v", "nominal_volts", 1))
        self.assertIn("standard.toml of uk", message)
        self.assertRegex(message, r"line \d+")
        self.assertTrue("nominal_v" in message, message)
        wrong = self.refusal(UK.replace("\nnominal_v", "\nnominal_volt = 1\nnominal_v", 1))
        self.assertIn("nominal_volt", wrong)
        self.assertLess(abs(int(wrong.split("line ")[1].split(":")[0]) - line), 20)

    def test_text_where_a_number_is_wanted_is_named_with_its_very_line(self) -> None:
        line = self.line(UK, "nominal_v")
        lines = UK.splitlines()
        lines[line - 1] = 'nominal_v = "230"'
        self.assertIn(f"line {line}", self.refusal("\n".join(lines)))

    def test_what_is_no_toml_is_named_by_the_reader(self) -> None:
        self.assertIn("line 3", self.refusal("a = 1\nb = 2\nc = = 3\n"))

    def test_a_variant_is_blamed_for_what_it_states_itself(self) -> None:
        base = (data_folder.data_root() / "anz" / "standard.toml").read_text("utf-8")
        spoilt = (
            NZ + '\n[board]\nspare_pct = "many"\n'
            if "[board]" not in NZ
            else NZ.replace("[board]", '[board]\nspare_pct = "many"')
        )
        line = next(number for number, text in enumerate(spoilt.splitlines(), 1) if text == 'spare_pct = "many"')
        self.assertIn(f"variant.toml of anz-nz, line {line}", self.refusal(spoilt and base, "anz-nz", spoilt))


class Lines(unittest.TestCase):
    """Where a path stands in a text."""

    def test_every_value_of_every_standard_is_found_in_a_line_that_names_it(self) -> None:
        for standard in standard_ids():
            if "-" in standard:
                continue
            text = (data_folder.data_root() / standard / "standard.toml").read_text("utf-8")
            lines = text.splitlines()
            for path in paths(tomllib.loads(text)):
                with self.subTest(standard, path=path):
                    named = [part for part in path if isinstance(part, str)]
                    self.assertTrue(any(part in lines[line_of(text, path) - 1] for part in named))
