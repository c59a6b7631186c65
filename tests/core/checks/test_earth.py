"""Conductors at the main earth and in rooms, standard by standard; and the supply that is calculated."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, finding, job, laid, mcb, rcbo, supply
from vivid_lattice.core.document.job import Cable, Circuit, Job, JobInfo, Load, Section, Spur
from vivid_lattice.core.document.supply import Earthing
from vivid_lattice.core.errors import NeedsInput, NotTabulated
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set, standard_ids


def bonded(*bonds: dict[str, Any], main: float | None = None) -> Job:
    """A job with bonding within a room, and a bonded water pipe where ``main`` says how."""
    entering = ({"name": "water pipe", "area_mm2": main},) if main else ()
    held = Earthing.model_validate({"conductor_mm2": 16.0, "bonds": entering, "supplementary": bonds})
    return job(supply=supply(tails={"area_mm2": 25.0, "length_m": 2.0}, earthing=held))


def bond(area: float | None, protective: float | None, **more: Any) -> dict[str, Any]:
    return {"name": "bath pipes", "area_mm2": area, "protective_mm2": protective} | more


class ByTheLine(unittest.TestCase):
    """The least protective conductor by the size of the line: Table 54.7 of BS 7671:2018, IEC 60364-5-54, Table 54.2 (from
    memory): the line's own to 16 mm², 16 mm² to 35, half of it above."""

    def test_the_same_then_sixteen_then_half(self) -> None:
        for standard in ("uk", "iec"):
            for line_mm2, least in ((4.0, 4.0), (16.0, 16.0), (25.0, 16.0), (35.0, 16.0), (50.0, 25.0), (70.0, 35.0)):
                with self.subTest(standard, line=line_mm2):
                    found = rule_set(standard).earthing.protective_mm2(line_mm2)
                    assert found is not None
                    self.assertEqual(found.value, least)


class WithinARoom(unittest.TestCase):
    """Supplementary bonding. BS 7671:2018, 544.2.1 to 544.2.3, and IEC 60364-5-54:2011, 544.2 (from memory)."""

    def test_least_sizes(self) -> None:
        # protective conductor of the part, to metalwork or another part, protected or not, least size
        published = (
            (1.5, True, True, 2.5),
            (1.5, True, False, 4.0),
            (6.0, True, True, 3.0),
            (10.0, True, False, 5.0),
            (2.5, False, True, 2.5),
            (6.0, False, True, 6.0),
            (6.0, False, False, 6.0),
        )
        for standard in ("uk", "iec", "iec-de", "za"):
            earthing = rule_set(standard).earthing
            for protective, to_pipe, protected, least in published:
                with self.subTest(standard, protective=protective, to_pipe=to_pipe, protected=protected):
                    found = earthing.supplementary_mm2(protective, to_pipe=to_pipe, protected=protected)
                    self.assertEqual(found.value, least)
                    self.assertTrue(found.source.publication)
        # AS/NZS 3000:2018, 5.6 (from memory): 4 mm² for every equipotential bond.
        self.assertEqual(rule_set("anz").earthing.supplementary_mm2(6.0, to_pipe=False, protected=True).value, 4.0)
        with self.assertRaisesRegex(NotTabulated, "supplementary bonding sizes"):
            rule_set("na").earthing.supplementary_mm2(6.0, to_pipe=True, protected=True)

    def test_the_one_with_least_in_hand_answers_for_all(self) -> None:
        found = finding(bonded(bond(4.0, 1.5), bond(2.5, 1.5, protected=False), main=10.0), "bonding")
        self.assertEqual((found.verdict, found.value, found.limit), ("fail", 4.0, 2.5))
        self.assertIn("supplementary bonding of bath pipes", str(found.sentence))
        self.assertEqual([step.result for step in found.working if step.symbol == "Sp"], [10.0, 4.0, 2.5])
        self.assertEqual(finding(bonded(bond(4.0, 1.5, protected=False), main=10.0), "bonding").verdict, "pass")

    def test_a_size_nobody_measured_is_missing(self) -> None:
        for open_ in (bond(None, 1.5), bond(4.0, None)):
            found = finding(bonded(open_), "bonding")
            self.assertEqual((found.verdict, found.needs[0].path), ("missing", "supply.earthing.supplementary"))

    def test_nothing_to_bond_is_said_and_not_passed(self) -> None:
        self.assertEqual(finding(bonded(), "bonding").verdict, "not-applicable")


class MainEarth(unittest.TestCase):
    """Where the consumer links neutral and earth, and where a combined conductor is split."""

    def test_links_and_combined_conductors_by_standard(self) -> None:
        held = {name: rule_set(name).earthing for name in standard_ids()}
        self.assertEqual(
            {name: one.link_systems for name, one in held.items() if one.link_systems},
            {"anz": ("MEN",), "anz-nz": ("MEN",), "na": ("TN-C-S",)},
        )
        self.assertEqual({name for name, one in held.items() if one.pen_systems}, {"uk", "iec", "iec-de"})

    def test_a_combined_conductor_under_10_mm2_fails(self) -> None:
        # IEC 60364-5-54:2011, 543.4.1 (from memory): a PEN has 10 mm² of copper at least.
        for area, verdict in ((10.0, "pass"), (6.0, "fail")):
            held = Earthing(conductor_mm2=16.0, pen_mm2=area)
            made = job(supply=supply(tails={"area_mm2": 25.0, "length_m": 2.0}, earthing=held))
            self.assertEqual(finding(made, "earthing").verdict, verdict)

    def test_a_link_nobody_looked_at_is_missing(self) -> None:
        ahead = supply(system="MEN", cutout=None, tails={"area_mm2": 16.0, "length_m": 2.0})
        cable = Cable(type="flat-tps", area_mm2=2.5)
        held = circuit(cable=cable, run=(Section(length_m=10.0, method="touching"),), device=rcbo(16.0, "C"))
        made = job(held, job=JobInfo(title="MEN", rules="anz"), supply=ahead)
        self.assertEqual(finding(made, "earthing").needs[0].path, "supply.earthing.link_mm2")


class Calculated(unittest.TestCase):
    """A supply worked out from its transformer."""

    TRANSFORMER = {"rated_kva": 160.0, "impedance_pct": 4.0}  # noqa: RUF012

    def made(self, **changed: Any) -> Job:
        ahead = supply(ze_ohm=None, fault_current_ka=None, cutout=None, transformer=self.TRANSFORMER)
        cable = Cable(type="sheathed-pvc", area_mm2=2.5, cpc="core")
        held = circuit(cable=cable, device=mcb(16.0))
        return job(held, job=JobInfo(title="Calculated", rules="iec"), supply=ahead.model_copy(update=changed))

    def test_without_its_service_cable_the_loop_is_missing_and_the_largest_current_is_there(self) -> None:
        made = self.made()
        found = finding(made, "disconnection")
        self.assertEqual((found.verdict, found.needs[0].path), ("missing", "supply.service_cable"))
        self.assertIsNotNone(finding(made, "breaking-capacity").value)

    def test_a_board_at_the_transformer_is_a_statement(self) -> None:
        transformer = self.made().supply.transformer
        assert transformer is not None
        at_board = self.made(transformer=transformer.model_copy(update={"at_board": True}))
        self.assertNotEqual(finding(at_board, "disconnection").verdict, "missing")

    def test_the_working_shows_the_impedance_that_was_used(self) -> None:
        transformer = self.made().supply.transformer
        assert transformer is not None
        made = self.made(transformer=transformer.model_copy(update={"at_board": True}))
        ahead = Installation.of(made, rule_set("iec")).loops.ahead
        zt = next(step for step in ahead.steps() if step.symbol == "Zt")
        self.assertAlmostEqual(zt.result, abs(ahead.origin.line_cold), places=9)
        # Z = uk · U² / S, IEC 60909-0 (from memory): 0.04 · 230² / 160 kVA on one phase.
        self.assertAlmostEqual(zt.result, 0.04 * 230**2 / 160_000, places=9)


class OpenSpurs(unittest.TestCase):
    """A spur whose length nobody measured."""

    def made(self, length: float | None, lines: tuple[str, ...] = ()) -> Circuit:
        spur = Spur(name="Desk", length_m=length, area_mm2=2.5)
        return circuit(kind="radial", loads=(), device=rcbo(16.0), spurs=(spur,), lines=lines)

    def test_neither_loop_nor_drop_is_answered(self) -> None:
        for check in ("disconnection", "voltage-drop"):
            found = finding(job(self.made(None)), check)
            self.assertEqual((found.verdict, found.needs[0].path), ("missing", "spurs.length_m"))
        self.assertNotEqual(finding(job(self.made(3.0)), "disconnection").verdict, "missing")

    def test_of_several_lines_it_may_hang_on_the_worst(self) -> None:
        def held(line: str) -> Job:
            loads = tuple(
                Load(name=name, kind="heater", power_w=3000.0 if name == line else 300.0, lines=(name,))  # type: ignore[arg-type]
                for name in ("L1", "L2", "L3")
            )
            cable = Cable(type="sheathed-pvc", area_mm2=2.5, cpc="core")
            spur = Spur(name="Desk", length_m=10.0, area_mm2=2.5)
            one = circuit(
                lines=("L1", "L2", "L3"), loads=loads, cable=cable, device=mcb(16.0), spurs=(spur,), run=(laid(20.0),)
            )
            return job(one, job=JobInfo(title="Lines", rules="iec"), supply=supply(phases=3, cutout=None))

        drops = [finding(held(line), "voltage-drop").value or 0 for line in ("L1", "L2", "L3")]
        self.assertAlmostEqual(drops[0], drops[1], places=9)
        self.assertAlmostEqual(drops[0], drops[2], places=9)


class Terminals(unittest.TestCase):
    """NEC 110.14(C) (from memory): 60 °C to 100 A, 75 °C above, unless all are marked otherwise."""

    def test_the_column_changes_past_100_a(self) -> None:
        cables = rule_set("na").cables
        self.assertEqual(cables.terminals_text(), "60 °C to 100 A, 75 °C above")
        big = Cable(type="thwn-cu", area_mm2=cables.kind("thwn-cu").sizes_mm2[-1], cpc="separate")
        ceilings = [cables.terminal_ceiling(big, rating, None) for rating in (100.0, 110.0)]
        marked = cables.terminal_ceiling(big, 100.0, 75)
        assert ceilings[0] and ceilings[1] and marked
        self.assertLess(ceilings[0].value, ceilings[1].value)
        self.assertEqual(marked.value, ceilings[1].value)
        self.assertEqual(rule_set("uk").cables.terminals_text(), "")

    def test_usual_parts_of_a_device_are_the_standard_s(self) -> None:
        # UL 943 class A trips from 4 to 6 mA; household RCDs elsewhere have 30 mA (from memory).
        for name, kind, curve, milliamps in (
            ("na", "gfci-breaker", None, 5.0),
            ("uk", "rcbo", "B", 30.0),
            ("anz", "rcbo", "C", 30.0),
        ):
            found = rule_set(name).devices.kind(kind)
            assert found.usual_rcd is not None
            self.assertEqual((found.usual_curve, found.usual_rcd.idn_ma), (curve, milliamps))

    def test_nothing_is_taken_for_a_transformer_s_rating(self) -> None:
        ahead = supply(ze_ohm=None, fault_current_ka=None)
        with self.assertRaises(NeedsInput):
            Installation.of(job(supply=ahead), rule_set("uk")).loops.origin_fault_a()


if __name__ == "__main__":
    unittest.main()
