"""Every table and rule of the packaged data is in use, or marked as reference only with the reason."""

from __future__ import annotations

import re
import tomllib
import unittest
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import vivid_lattice
from tests.builders import finding
from tests.core.document.test_feeds import typed
from tests.core.test_typed_jobs import of_board
from tests.texts import keys
from vivid_lattice.core.document.job import Load
from vivid_lattice.core.rules.reference_only import reference_only

PACKAGE = Path(vivid_lattice.__file__).parent
DATA = PACKAGE / "core" / "rules" / "data"


def _describes_a_standard(file: Path) -> bool:
    return file.name == "standard.toml" or file.parent.name == "variants"


@cache
def packaged() -> frozenset[str]:
    """Ids of all tables and rules."""
    found: set[str] = set()
    for file in DATA.rglob("*.toml"):
        if _describes_a_standard(file) or file.name in ("reference_only.toml", "publications.toml"):
            continue
        data = tomllib.loads(file.read_text("utf-8"))
        found |= {entry["id"] for kind in ("table", "rule") for entry in data.get(kind, [])}
    return frozenset(found)


def _sources() -> Iterator[str]:
    """What may name a table or rule: the files that describe the standards, and the program itself."""
    for file in DATA.rglob("*.toml"):
        if _describes_a_standard(file):
            yield file.read_text("utf-8")
    for file in PACKAGE.rglob("*.py"):
        yield file.read_text("utf-8")


@cache
def named() -> frozenset[str]:
    """Ids that something names."""
    words = set(re.findall(r"[\"']([a-z]+(?:[.][\w.-]+)+)[\"']", "\n".join(_sources())))
    return frozenset(packaged() & words)


class InUse(unittest.TestCase):
    """The list of the rest is empty."""

    def test_what_is_not_in_use_says_why(self) -> None:
        self.assertEqual(sorted(packaged() - named() - reference_only().keys()), [])

    def test_what_is_in_use_is_not_called_reference(self) -> None:
        self.assertEqual(sorted(named() & reference_only().keys()), [])

    def test_every_id_of_the_list_is_packaged_and_every_reason_is_said(self) -> None:
        self.assertEqual(sorted(reference_only().keys() - packaged()), [])
        self.assertTrue(all(len(reason) > 30 for reason in reference_only().values()))


class Broken(unittest.TestCase):
    """Rules of dwellings that were packaged and not in use before."""

    def test_each_fails_where_it_is_broken(self) -> None:

        charger, lamp = (
            Load(name="Charger", kind="charger", power_w=3600.0),
            Load(name="Lamp", kind="lamp", power_w=9.0),
        )
        for rules, verdict in (
            ("uk", "fail"),
            ("anz", "fail"),
            ("iec", "fail"),
            ("na", "fail"),
            ("za", "not-applicable"),
        ):
            of = typed("heater 2kW 12m C16" if rules != "na" else "heater 2kW 12ft 20A", rules=rules)
            [held] = of.circuits
            of = of.model_copy(update={"circuits": (held.model_copy(update={"loads": (charger, lamp)}),)})
            found = of_board(of, "division")
            with self.subTest(rules):
                self.assertEqual("own" in keys(found), verdict == "fail", str(found.sentence))

    def test_lampholders_and_receptacles(self) -> None:

        # BS 7671:2018+A2, 559.5.1.204: 16 A. NEC 210.11(C): 20 A for kitchen, laundry and bath. From memory.
        for rules, line, verdict in (
            ("uk", "lights B16 9W 12m", "pass"),
            ("uk", "lights B20 9W 12m", "fail"),
            ("na", "kitchen receptacles 15A 20ft, kitchen", "fail"),
            ("na", "kitchen receptacles 20A 20ft, kitchen", "not-applicable"),
            ("na", "bath receptacles 15A 20ft, bath", "fail"),
            ("na", "living receptacles 15A 20ft, living", "not-applicable"),
        ):
            self.assertEqual(finding(typed(line, rules=rules), "overload").verdict, verdict, line)

    def test_one_of_the_garage_circuits_has_20_a(self) -> None:

        # NEC 210.11(C)(4), from memory: at least one.
        alone = typed("garage receptacles 15A 20ft, garage", rules="na")
        self.assertEqual(of_board(alone, "division").verdict, "fail")
        both = typed("garage receptacles 15A 20ft, garage", "garage receptacles 20A 20ft, garage", rules="na")
        self.assertNotEqual(of_board(both, "division").verdict, "fail")


if __name__ == "__main__":
    unittest.main()
