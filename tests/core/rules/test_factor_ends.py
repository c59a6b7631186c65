"""Every rating factor of every standard at both ends of its table, and beyond: a clear refusal that names the table's end."""

from __future__ import annotations

import re
import unittest
from collections.abc import Callable, Iterator
from typing import Any

from tests.builders import laid
from vivid_lattice.core.document.job import Cable, Section
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.from_tables.standard import StandardFromTables
from vivid_lattice.core.rules.protocol import Factor


def cables() -> Iterator[tuple[StandardFromTables, Cable, str]]:
    """Every kind of cable of every standard, by each of its methods."""
    for name in standard_ids():
        standard = rule_set(name)
        for kind in standard.cables.kinds.values():
            for method in kind.methods:
                yield standard, Cable(type=kind.id, area_mm2=kind.sizes_mm2[0]), method


def only(standard: StandardFromTables, section: Section, cable: Cable) -> float:
    """The one factor of a section; 1 where it is plainly that."""
    found: tuple[Factor, ...] = standard.factors.factors(section, cable)
    return found[0].value if found else 1.0


def climbed(
    ask: Callable[[float], float], values: list[float]
) -> tuple[list[tuple[float, float]], NotTabulated | None]:
    """The answers up to the first refusal, and that refusal."""
    found: list[tuple[float, float]] = []
    for value in values:
        try:
            found.append((value, ask(value)))
        except NotTabulated as why:
            return found, why
    return found, None


class Ends(unittest.TestCase):
    """Both ends and beyond."""

    def each(
        self, quantity: str, values: list[float], **more: Any
    ) -> Iterator[tuple[Any, list[tuple[float, float]], NotTabulated | None]]:
        for standard, cable, method in cables():

            def ask(value: float, standard: Any = standard, cable: Any = cable, method: str = method) -> float:
                return only(standard, laid(1.0, method, **({quantity: value} | more)), cable)

            with self.subTest(standard.id, cable=cable.type, method=method):
                yield (standard, cable, method), *climbed(ask, values)

    def falls(self, found: list[tuple[float, float]]) -> None:
        factors = [factor for _, factor in found]
        self.assertEqual(factors, sorted(factors, reverse=True))
        self.assertTrue(all(0 < factor < 2 for factor in factors), factors)

    def test_ambient(self) -> None:
        answered = 0
        for (standard, cable, method), found, why in self.each("ambient_c", [float(at) for at in range(5, 100)]):
            assert why is not None, "no insulation stands every ambient"
            base = standard.factors.base_ambient_c(laid(1.0, method))
            if len(found) > 1:
                answered += 1
                self.falls(found)
                self.assertEqual(dict(found)[base], 1.0)
                last = found[-1][0]
                # NEC: corrected from the insulation's 90 °C column, whatever the terminals; elsewhere from its own.
                self.assertLess(last, 90.0 if standard.id == "na" else standard.cables.kind(cable.type).operating_c)
                end = re.search(r"ends at ([\d.]+) °C", str(why))
                assert end is not None, str(why)
                self.assertLessEqual(abs(float(end[1]) - last), 1.0)
            self.assertEqual(why.needs[0].path, "run.ambient_c")
            self.assertTrue(why.needs[0].ask)
        self.assertGreater(answered, 40)

    def test_grouping(self) -> None:
        for (standard, _, method), found, why in self.each("circuits_grouped", list(range(1, 31))):
            self.assertEqual(found[0], (1, 1.0))
            self.assertGreaterEqual(len(found), 4, f"{standard.id} {method}: {why}")
            self.falls(found)
            self.assertLess(found[-1][1], 1.0)
            if why is not None:
                self.assertRegex(str(why), r"a grouping factor for \d+ circuits \(\S+ ends at \d+\)")

    def test_soil(self) -> None:
        answered = 0
        values = [round(0.5 + at / 10, 1) for at in range(36)]
        for (standard, _, method), found, why in self.each("soil_k_m_per_w", values):
            assert why is not None
            if standard.factors.medium(laid(1.0, method)) != "ground":
                self.assertEqual((found, str(why.needs[0].what)), ([], f"a soil factor for method {method}"))
            elif found:
                answered += 1
                self.falls(found)
                self.assertRegex(str(why), r"above \d")
                end = float(str(why).split("above ", 1)[1].split()[0])
                self.assertLessEqual(abs(end - found[-1][0]), 0.1)
        self.assertGreater(answered, 8)

    def test_insulation_by_length(self) -> None:
        for (standard, _, method), found, why in self.each(
            "in_insulation_mm", [1.0, 50.0, 100.0, 200.0, 400.0, 2000.0]
        ):
            if standard.id != "uk" or method != "C":
                assert why is not None
                self.assertEqual((found, why.needs[0].path), ([], "run.in_insulation_mm"))
                continue
            # BS 7671:2018, Table 52.2 (from memory): 0.88 at 50 mm, 0.5 from 400 mm on.
            self.assertEqual([factor for _, factor in found], [0.88, 0.88, 0.78, 0.63, 0.51, 0.5])

    def test_harmonics(self) -> None:
        # IEC 60364-5-52:2009, Annex E, Table E.52.1 (from memory): 1, 0.86, 0.86 by the neutral, 1 by the neutral.
        for name in ("uk", "iec", "iec-de", "anz", "za"):
            factors = rule_set(name).factors
            said = [factors.harmonic(third) for third in (0.0, 15.0, 15.1, 33.0, 33.1, 45.0, 45.1, 100.0)]
            values = [(round(factor.value, 2) if factor else 1.0, by_neutral) for factor, by_neutral in said]
            expected = [(1.0, False)] * 2 + [(0.86, False)] * 2 + [(0.86, True)] * 2 + [(1.0, True)] * 2
            self.assertEqual(values, expected, name)
        with self.assertRaisesRegex(NotTabulated, "harmonic factors"):
            rule_set("na").factors.harmonic(20.0)


if __name__ == "__main__":
    unittest.main()
