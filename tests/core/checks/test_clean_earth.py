"""Clean earth of outlets and supplementary bonding at further boards, typed and judged, in each standard.

Isolated ground receptacles: NEC 250.146(D), 406.3(E), 408.40. Protection before function: IEC 60364-5-54, 545.1; BS 7671, 545.1.
Sizes of supplementary bonding: BS 7671, 544.2. All from memory.
"""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, exported, finding, flat, job, laid, mcb, own_rod, two_boards
from tests.core.board.made import models
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Circuit, Job, Load
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.material import material
from vivid_lattice.core.rules import rule_set


def outlets(earth: dict[str, Any] | None, **more: Any) -> Circuit:
    """A socket circuit of 2.5 mm² with 1.5 mm² beside it, and a clean earth."""
    whole = None if earth is None else {"area_mm2": 2.5, "ends_at": "board", "marked": True} | earth
    facts = {"kind": "radial", "loads": (Load(name="Desk", kind="socket"),), "device": mcb(16.0), "cable": flat(2.5)}
    return circuit(**(facts | {"clean_earth": whole, "run": (laid(10.0),)} | more))


def judged(earth: dict[str, Any]) -> Finding:
    return finding(job(outlets(earth)), "special-location")


class Judged(unittest.TestCase):
    def test_its_size_is_that_of_the_protective_conductor_it_replaces(self) -> None:
        for size, verdict in ((1.0, "fail"), (1.5, "pass"), (2.5, "pass")):
            self.assertEqual(judged({"area_mm2": size}).verdict, verdict, size)

    def test_what_is_not_known_is_asked(self) -> None:
        for field in ("area_mm2", "ends_at", "marked"):
            found = judged({field: None})
            self.assertEqual((found.verdict, found.needs[0].path), ("missing", f"clean_earth.{field}"))

    def test_marking_is_required_where_the_standard_does(self) -> None:
        self.assertEqual(judged({"marked": False}).verdict, "advice")
        of = enter_and_design(begin("J", rule_set("na"), "TN-C-S"), "IG receptacles 20A 40ft", "main").job
        earth = {"area_mm2": 3.31, "ends_at": "board", "marked": False}
        made = of.circuits[0].model_copy(update={"clean_earth": type(of.circuits[0].clean_earth)(**earth)})  # type: ignore[misc]
        of = of.model_copy(update={"circuits": (made,)})
        self.assertEqual(finding(of, "special-location", made.id).verdict, "fail")

    def test_it_stays_in_the_building_of_its_board(self) -> None:
        for earthing, end, verdict in (
            (own_rod(), "main-earth", "fail"),
            (exported(), "main-earth", "fail"),
            (own_rod(), "board", "pass"),
            (exported(kind="same-building"), "main-earth", "pass"),
        ):
            of = two_boards(earthing=earthing)
            inner = of.circuits[-1]
            made = outlets({"ends_at": end, "area_mm2": 16.0}, id=inner.id, name=inner.name)
            of = of.model_copy(update={"circuits": (*of.circuits[:-1], made)})
            self.assertEqual(finding(of, "special-location", made.id).verdict, verdict, (earthing.kind, end))

    def test_past_a_further_board_it_is_as_large_as_the_feeders_conductor(self) -> None:
        of = two_boards(earthing=exported(kind="same-building"))
        inner = of.circuits[-1]
        made = outlets({"ends_at": "main-earth", "area_mm2": 1.5}, id=inner.id, name=inner.name)
        of = of.model_copy(update={"circuits": (*of.circuits[:-1], made)})
        self.assertEqual(finding(of, "special-location", made.id).verdict, "fail")

    def test_a_standard_without_a_rule_says_so_and_passes_nothing(self) -> None:
        for rules, system in (("anz", "MEN"), ("za", "TN-S")):
            of = enter_and_design(begin("J", rule_set(rules), system), "sockets clean earth 16A 10m", "main").job
            found = finding(of, "special-location", of.circuits[0].id)
            self.assertEqual(found.verdict, "missing")
            self.assertIn("not available", " ".join(str(need.what) for need in found.needs))


class Followed(unittest.TestCase):
    def test_words_of_each_standard(self) -> None:
        for rules, system, line in (
            ("uk", "TN-S", "office sockets clean earth 20A 12m"),
            ("iec", "TN-S", "office sockets clean earth 16A 12m"),
            ("na", "TN-C-S", "IG receptacles 20A 40ft"),
            ("na", "TN-C-S", "office receptacles isolated ground 20A 40ft"),
        ):
            made = enter_and_design(begin("J", rule_set(rules), system), line, "main").job.circuits[0]
            self.assertIsNotNone(made.clean_earth, line)
            self.assertEqual(made.loads[0].kind, "socket")
        plain = enter_and_design(begin("J", rule_set("uk"), "TN-S"), "office sockets 20A 12m", "main").job
        self.assertIsNone(plain.circuits[0].clean_earth)

    def ends(self, of: Job, board: str) -> list[str]:
        return [str(end) for net in models(of)[board].scheme.nets for end in net.terminals if "+clean" in str(end)]

    def test_it_has_a_terminal_of_its_own_on_the_bar_it_ends_at(self) -> None:
        self.assertEqual(len(self.ends(job(outlets({})), "main")), 1)
        self.assertEqual(self.ends(job(outlets(None)), "main"), [])
        of = two_boards(earthing=exported(kind="same-building"))
        inner = of.circuits[-1]
        for end, count in (("board", 1), ("main-earth", 0)):
            made = outlets({"ends_at": end}, id=inner.id, name=inner.name)
            self.assertEqual(
                len(self.ends(of.model_copy(update={"circuits": (*of.circuits[:-1], made)}), "sub")), count
            )

    def test_its_conductor_is_material(self) -> None:
        items = material(Installation.of(job(outlets({"area_mm2": 4.0})), rule_set("uk"))).items
        [clean] = [item for item in items if "Clean earth" in str(item.what)]
        # 10 m stated, and 5 % more as it was not measured on a plan.
        self.assertEqual([cut.length_m for cut in clean.cuts], [10.5])


class SupplementaryBonding(unittest.TestCase):
    """544.2: to a pipe at least half of the protective conductor, 2.5 mm² protected, 4 mm² not."""

    def verdict(self, **bond: Any) -> Finding:
        pipe = {"name": "Basin pipe", "area_mm2": 4.0, "protective_mm2": 1.5, "to": "pipe", "protected": True} | bond
        of = two_boards(earthing=exported(supplementary=(pipe,)))
        return next(one for one in assess(of).findings if one.check == "local-earthing" and one.subject.id == "sub")

    def test_at_a_further_board(self) -> None:
        for bond, verdict in (
            ({}, "pass"),
            ({"area_mm2": 2.5}, "pass"),
            ({"area_mm2": 1.5}, "fail"),
            ({"area_mm2": 2.5, "protected": False}, "fail"),
            ({"area_mm2": 4.0, "protective_mm2": 10.0}, "fail"),
        ):
            self.assertEqual(self.verdict(**bond).verdict, verdict, bond)
        found = self.verdict(area_mm2=None)
        self.assertEqual((found.verdict, found.needs[0].path), ("missing", "boards.earthing.supplementary"))


if __name__ == "__main__":
    unittest.main()
