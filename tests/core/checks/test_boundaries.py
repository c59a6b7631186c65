"""Checks exactly at their limits, and a little to either side: a limit that is met is met."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, finding, flat, job, laid, mcb, rcbo, supply, two_boards
from tests.core.board.made import housed
from tests.core.checks.test_protection_verdicts import (
    PLAN,
    RELAY,
    ahead,
    behind_one,
    board,
    in_bath,
    sockets,
    surge_device,
)
from tests.texts import keys
from vivid_lattice.core.actions.move_device import lay_out
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.job import Circuit, Job, Load, Spur
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.findings.verdict import margin_of, verdict_by


def board_finding(made: Job, check: str) -> Finding:
    """What a check says of the first board."""
    found = find(assess(made), check, Subject("board", "main"))
    assert found is not None
    return found


def board_or_supply(made: Job) -> Finding:
    """What is said of surge protection."""
    found = find(assess(made), "surge", Subject("supply", "supply"))
    assert found is not None
    return found


def packed_in_twelve(made: Job, **wishes: Any) -> Job:
    """The job with its board in an enclosure of twelve modules, laid out."""
    return lay_out(housed(made, 1, 12, **wishes), "main")[0]


def relay_finding(**changed: Any) -> Finding:
    """What the check says of a relay in a healthy board of 230 V, for which 216.2 V to 253 V are allowed."""
    return board_finding(board(job(), voltage_relay=RELAY.model_copy(update=changed)), "voltage-relay")


class Relays(unittest.TestCase):
    """Thresholds of a voltage-watching relay behind a 100 A cut-out. The band is 230 V +10/−6 % (ESQCR 2002, reg. 27)."""

    def test_each_threshold_to_either_side(self) -> None:
        for changed, verdict in (
            ({"under_v": 216.1}, "pass"),
            ({"under_v": 216.2}, "fail"),
            ({"over_v": 253.1}, "pass"),
            ({"over_v": 253.0}, "fail"),
            # 1.2 times 230 V; common practice, no source.
            ({"over_v": 276.0}, "pass"),
            ({"over_v": 276.1}, "advice"),
            ({"over_s": 1.0}, "pass"),
            ({"over_s": 1.1}, "advice"),
            ({"rating_a": 100.0}, "pass"),
            ({"rating_a": 99.0}, "fail"),
            # Closing again needs 190 V + hysteresis ≤ 230 V ≤ 265 V − hysteresis.
            ({"hysteresis_v": 35.0}, "pass"),
            ({"hysteresis_v": 35.1}, "fail"),
            ({"under_v": 265.0}, "fail"),
            ({"current_a": 100.1}, "fail"),
        ):
            with self.subTest(str(changed)):
                self.assertEqual(relay_finding(**changed).verdict, verdict)


class Residual(unittest.TestCase):
    """Residual currents."""

    def test_a_ratio_of_three_is_enough_and_a_little_less_is_not(self) -> None:
        # IEC 60364-5-53, 536.4.1.4 (from memory): three times, and a delay.
        for idn_ma, verdict in ((90.0, "pass"), (89.9, "fail")):
            made = ahead(Rcd(idn_ma=idn_ma, time_delayed=True), circuit())
            self.assertEqual(finding(made, "selectivity-residual").verdict, verdict)

    def test_leakage_of_three_tenths_is_allowed_and_a_little_more_is_not(self) -> None:
        # BS 7671:2018+A2, 531.3.2 (from memory): 30 % of 30 mA.
        for leak_ma, verdict in ((8.999, "tight"), (9.001, "fail")):
            load = Load(name="Filter", kind="heater", power_w=1000.0, leakage_ma=leak_ma)
            # A run so short that its own capacitance counts nothing.
            made = job(circuit(loads=(load,), run=(laid(0.001),)))
            self.assertEqual(finding(made, "leakage").verdict, verdict)

    def test_a_shared_rcd_may_carry_its_rating_and_no_more(self) -> None:
        def behind(rating_a: float) -> Finding:
            made = behind_one(*(circuit(id=f"c{at}", device=mcb(16.0)) for at in range(1, 6)), rating_a=rating_a)
            return board_finding(made, "rcd-loading")

        self.assertIn(behind(80.0).verdict, ("pass", "tight"))
        self.assertEqual(behind(79.0).verdict, "fail")


class Spurs(unittest.TestCase):
    """An unfused spur feeds one outlet, which may take 20 A. On-Site Guide, Appendix H (from memory)."""

    def drop_pct(self, *spurs: Spur, **changed: Any) -> float:
        ring = sockets(kind="ring", device=rcbo(32.0), run=(laid(40.0),), spurs=spurs, **changed)
        return finding(job(ring), "voltage-drop").value or 0.0

    def test_its_drop_is_that_of_20_a_or_of_its_fuse_or_of_the_circuit(self) -> None:
        spur = Spur(name="Freezer", length_m=5.0, area_mm2=2.5)
        # BS 7671 Table 4D5: 18 mV/(A·m) for 2.5 mm² at 5 m.
        for fuse_a, current_a in ((None, 20.0), (13.0, 13.0), (3.0, 3.0)):
            added = self.drop_pct(spur.model_copy(update={"fuse_a": fuse_a})) - self.drop_pct()
            with self.subTest(fuse_a):
                self.assertAlmostEqual(added, 100 * 18 * current_a * 5 / 1000 / 230, places=9)
        small = sockets(device=rcbo(16.0), run=(laid(40.0),), spurs=(spur,))
        alone = sockets(device=rcbo(16.0), run=(laid(40.0),))
        added = self._drop(job(small)) - self._drop(job(alone))
        self.assertAlmostEqual(added, 100 * 18 * 16 * 5 / 1000 / 230, places=9)

    def _drop(self, made: Job) -> float:
        return finding(made, "voltage-drop").value or 0.0

    def test_its_cable_has_to_carry_its_fuse(self) -> None:
        # BS 7671 Table 4D5, method C: 1.5 mm² carries 20 A.
        for fuse_a, verdict in ((20.0, None), (20.01, "fail"), (32.0, "fail")):
            spur = Spur(name="Heater", length_m=2.0, area_mm2=1.5, fuse_a=fuse_a)
            found = finding(job(sockets(kind="ring", device=rcbo(32.0), spurs=(spur,))), "capacity")
            with self.subTest(fuse_a):
                self.assertEqual(found.verdict == "fail", verdict == "fail")
                if verdict:
                    self.assertEqual((found.value, found.limit), (fuse_a, 20.0))


class RailPositions(unittest.TestCase):
    """Where an item is."""

    def test_at_the_very_edge_of_a_bath_the_rim_is_asked_for_and_beside_it_it_is_not(self) -> None:
        for across_m, asked in ((-0.1, True), (0.0, True), (0.001, False)):
            found = finding(in_bath(distance_m=across_m, height_m=0.4), "special-location")
            with self.subTest(across_m):
                self.assertEqual("rooms.rim_height_m" in [need.path for need in found.needs], asked)


class Boards(unittest.TestCase):
    """A board's build."""

    def test_exactly_as_much_as_is_to_stay_free_is_enough(self) -> None:
        # Main switch 2 modules, one RCBO 1: of 12 modules 9 stay free, which are 75 %.
        for wish, verdict in ((75.0, "pass"), (75.1, "advice")):
            made = packed_in_twelve(job(), spare_pct=wish)
            found = board_finding(made, "ways")
            with self.subTest(wish):
                self.assertEqual((found.verdict, found.limit if verdict == "advice" else 9.0), (verdict, 9.0))

    def test_a_type_3_device_belongs_at_a_board_further_in_and_never_alone_at_the_origin(self) -> None:
        device = surge_device(type="3")
        plan = {"surge": PLAN}
        at_origin = board(job(**plan), spds=(device,))
        self.assertEqual(board_or_supply(at_origin).verdict, "fail")
        further = two_boards(**plan)
        main, sub = further.boards
        further = further.model_copy(
            update={
                "boards": (
                    main.model_copy(update={"spds": (surge_device(),)}),
                    sub.model_copy(update={"spds": (device,)}),
                )
            }
        )
        self.assertNotIn("type_3", keys(board_or_supply(further)))
        self.assertNotEqual(board_or_supply(further).verdict, "fail")


class Phases(unittest.TestCase):
    """Several phases."""

    def test_a_circuit_of_no_stated_line_on_a_board_of_three_is_on_none_yet(self) -> None:
        made = job(circuit(), supply=supply(phases=3))
        for check in ("overload", "voltage-drop"):
            found = finding(made, check)
            with self.subTest(check):
                self.assertEqual((found.verdict, [need.path for need in found.needs]), ("missing", ["lines"]))

    def test_the_larger_of_the_two_fault_currents_is_what_a_device_has_to_break(self) -> None:
        # 6 kA between line and neutral; between lines of a supply whose line alone is the smaller part it is more.
        ahead = supply(phases=3, fault_current_ka=5.9, fault_current_lines_ka=6.1)
        made = job(circuit(lines=("L1", "L2", "L3"), device=mcb(16.0)), supply=ahead)
        found = finding(made, "breaking-capacity")
        self.assertAlmostEqual(found.value or 0, 6.1)
        self.assertEqual((found.verdict, found.limit), ("fail", 6.0))


class Margins(unittest.TestCase):
    """The verdict of a figure against its limit."""

    def test_at_the_limit_it_passes_without_margin_and_past_a_tenth_it_is_not_tight(self) -> None:
        for value, verdict in ((16.0, "tight"), (16.0001, "fail"), (14.4, "pass"), (14.401, "tight"), (0.0, "pass")):
            self.assertEqual(verdict_by(margin_of(value, 16.0)), verdict)

    def test_a_rating_equal_to_the_design_current_or_the_capacity_passes(self) -> None:
        def made(current_a: float, **changed: Any) -> Circuit:
            load = Load(name="Heater", kind="heater", power_w=current_a * 230)
            return circuit(loads=(load,), **changed)

        for current_a, verdict in ((16.0, "tight"), (16.001, "fail")):
            self.assertEqual(finding(job(made(current_a)), "overload").verdict, verdict)
        # BS 7671 Table 4D5, method C: 2.5 mm² carries 27 A.
        for rating_a, verdict in ((27.0, "tight"), (27.01, "fail")):
            device = rcbo(16.0).model_copy(update={"rating_a": rating_a})
            self.assertEqual(finding(job(made(10.0, device=device, cable=flat(2.5))), "capacity").verdict, verdict)


if __name__ == "__main__":
    unittest.main()
