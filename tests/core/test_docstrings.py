"""The examples in the docstrings are run, and the lists that stand in two places agree."""

from __future__ import annotations

import argparse
import doctest
import importlib
import pkgutil
import re
import unittest
from pathlib import Path

import vivid_lattice
from vivid_lattice.cli.main import parser
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS
from vivid_lattice.core.rules.differences import as_markdown, differences

ROOT = Path(__file__).resolve().parent.parent.parent


#: Commands that only the build uses.
NOT_FOR_USERS = {"openapi"}


def command_names() -> set[str]:
    """The commands of the shell, as its own parser has them."""
    parsers = [action for action in parser()._actions if isinstance(action, argparse._SubParsersAction)]
    return {name for action in parsers for name in action.choices}


def load_tests(loader: unittest.TestLoader, tests: unittest.TestSuite, pattern: str | None) -> unittest.TestSuite:
    """Add the docstring examples of every module."""
    for module in pkgutil.walk_packages(vivid_lattice.__path__, "vivid_lattice."):
        tests.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return tests


class Documented(unittest.TestCase):
    """What the program has, the documentation has too."""

    def test_every_check_has_its_page_of_one_build(self) -> None:
        for check in (*SUPPLY_CHECKS, *BOARD_CHECKS, *CHECKS):
            with self.subTest(check.id):
                page = (ROOT / "docs" / "method" / f"{check.id}.md").read_text("utf-8")
                self.assertTrue(page.startswith(f"# `{check.id}`"))
                headings = re.findall(r"^## (.+)$", page, re.M)
                self.assertGreaterEqual(set(headings), {"Formula", "Standards", "Limits"})
                if check.id != "demand":  # where the sources stand in the table of methods
                    self.assertIn("Source", headings)

    def test_the_page_of_differences_is_made_from_the_data_there_is(self) -> None:
        written = (ROOT / "docs" / "method" / "standards.md").read_text("utf-8")
        self.assertEqual(written, as_markdown(differences()), "run: python tools/standards_page.py")

    def test_every_command_stands_in_the_readme(self) -> None:
        readme = (ROOT / "README.md").read_text("utf-8")
        commands = command_names()
        self.assertGreater(len(commands), 15)
        for command in sorted(commands - NOT_FOR_USERS):
            with self.subTest(command):
                self.assertRegex(readme, rf"(vivid-lattice |\| ){command}\b")

    def test_no_check_names_a_standard(self) -> None:
        for path in (ROOT / "src/vivid_lattice/core/checks").glob("*.py"):
            with self.subTest(path.name):
                self.assertNotRegex(
                    path.read_text("utf-8"), r'"(uk|iec|anz|za|na)"|rules\.id|\b(uk|iec|anz|za|na)\.[a-z]'
                )


if __name__ == "__main__":
    unittest.main()
