"""Checks exactly at their limits, and a little to either side: a limit that is met is met."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, finding, flat, job, laid, mcb, rcbo
from tests.core.checks.test_protection_verdicts import RELAY, ahead, behind_one, board, sockets
from vivid_lattice.core.assess import assess
from vivid_lattice.core.findings import Finding, Subject, margin_of, verdict_by
from vivid_lattice.core.job import Circuit, Job, Load, Rcd, Spur
from vivid_lattice.core.remedies import find


def board_finding(made: Job, check: str) -> Finding:
    """What a check says of the first board."""
    found = find(assess(made), check, Subject("board", "main"))
    assert found is not None
    return found


def relay_finding(**changed: Any) -> Finding:
    """What the check says of a relay in a healthy board of 230 V, for which 216.2 V to 253 V are allowed."""
    return board_finding(board(job(), relay=RELAY.model_copy(update=changed)), "voltage-relay")


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
            made = ahead(Rcd(idn_ma=idn_ma, delayed=True), circuit())
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
