"""Readings typed in a table and judged: against limits, the design and each other, by published examples and by hand.

Temperature factor and the share of 0.8: on-site guidance to BS 7671. Limits of loops: BS 7671, Tables 41.2 to 41.4. RCD times: IEC 61008-1.
Insulation: BS 7671, Table 64. Uncertainty: EN 61557. Bands of agreement: common practice, no source. All from memory.
"""

from __future__ import annotations

import unittest

from tests.builders import circuit, flat, job, laid, mcb, rcbo, supply
from vivid_lattice.core.document.job import Circuit, Device, Job, Load
from vivid_lattice.core.document.readings import Instrument, Testing
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.judgement import JudgedReading, judged, worst_of
from vivid_lattice.core.testing.reading_table import read_readings
from vivid_lattice.core.testing.reading_text import reading_text, shown_reading
from vivid_lattice.core.testing.test_plan import PlannedTest, plan_of
from vivid_lattice.demo import DEMOS, demo_job

SOCKETS = (Load(name="Sockets", kind="socket"),)


def radial(length_m: float | None, area_mm2: float, device: Device, **more: object) -> Circuit:
    facts = {"kind": "radial", "loads": SOCKETS, "cable": flat(area_mm2), "run": (laid(length_m),), "device": device}
    return circuit(**(facts | more))


def house(*circuits: Circuit, ze_ohm: float | None = 0.22, **more: object) -> Job:
    facts = {"system": "TN-C-S", "ze_ohm": ze_ohm, "fault_current_ka": 1.0}
    return job(*circuits, supply=supply(**(facts | more)))


def with_rows(of: Job, *rows: str, temperature_c: float = 20.0) -> Job:
    """The job with readings typed as rows: test, subject, value."""
    text = "test,subject,value\n" + "\n".join(rows)
    read = read_readings(Installation.of(of, rule_set(of.job.rules)), text)
    assert not read.problems, read.problems
    return of.model_copy(update={"testing": Testing(temperature_c=temperature_c, readings=read.readings)})


def judge(of: Job, *rows: str, temperature_c: float = 20.0) -> list[JudgedReading]:
    made = with_rows(of, *rows, temperature_c=temperature_c)
    return list(judged(Installation.of(made, rule_set(made.job.rules))))


def planned(of: Job, test: str, temperature_c: float = 20.0) -> PlannedTest:
    return next(
        each for each in plan_of(Installation.of(of, rule_set(of.job.rules)), temperature_c).tests if each.id == test
    )


class Typed(unittest.TestCase):
    def test_figures_units_and_words(self) -> None:
        for text, kind, state, value in (
            ("0,45", "zs", "value", 0.45),
            (".27", "r1r2", "value", 0.27),
            ("0.45 Ω", "zs", "value", 0.45),
            ("450 mΩ", "zs", "value", 0.45),
            (">200", "ir_le", "above-range", 200.0),
            ("> 999 MΩ", "ir_ln", "above-range", 999.0),
            ("LIM", "ir_le", "above-range", None),
            ("OL", "r1r2", "above-range", None),
            ("2GΩ", "ir_ln", "value", 2000.0),
            ("500k", "ir_ln", "value", 0.5),
            ("1.2kA", "pfc_ln", "value", 1200.0),
            ("28", "rcd_1", "value", 28.0),
            ("0.028 s", "rcd_1", "value", 28.0),
            ("<0.01", "r_bond", "below-range", 0.01),
            ("ok", "pol", "right", None),
            ("Reversed", "pol", "wrong", None),
            ("holds", "rcd_half", "right", None),
            ("trips", "rcd_half", "wrong", None),
            ("trips", "rcd_button", "right", None),
            ("did not trip", "rcd_1", "above-range", None),
            ("n/a", "zs", "left-out", None),
        ):
            typed = reading_text(text, kind)  # type: ignore[arg-type]
            self.assertEqual((typed.state, typed.value), (state, value), text)

    def test_what_is_no_reading_is_refused(self) -> None:
        for text, kind in (
            ("abc", "zs"),
            ("", "zs"),
            ("0.45 V", "zs"),
            ("2 MΩ", "r1r2"),
            (">200Mohm", "r2"),
            ("x", "pol"),
            ("-1", "zs"),
            ("1.2.3", "zs"),
            ("maybe", "pol"),
        ):
            with self.assertRaises(EntryNotUnderstood):
                reading_text(text, kind)  # type: ignore[arg-type]

    def test_what_is_shown_is_read_again(self) -> None:
        for state, value in (("value", 0.45), ("above-range", 200.0), ("below-range", 0.01)):
            typed = reading_text(shown_reading(state, value, "Ω"), "zs")  # type: ignore[arg-type]
            self.assertEqual((typed.state, typed.value), (state, value))


class Tables(unittest.TestCase):
    def rows(self, of: Job, text: str) -> tuple[int, list[int]]:
        read = read_readings(Installation.of(of, rule_set(of.job.rules)), text)
        return len(read.readings), [number for number, _ in read.problems]

    def test_a_bad_row_says_why_and_the_others_are_taken(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)))
        text = "\ufefftest,subject,value,temperature_c\nzs,1,0.5,12\n\nzs,9,0.5,\nbanana,1,2,\nzs,1,soon,\nzs,way 1,0.6,hot\nze,supply,0.2,\n"
        self.assertEqual(self.rows(of, text), (3, [4, 5, 6]))

    def test_a_head_that_is_not_one(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)))
        for text in ("", "a,b,c\n1,2,3", "test,subject\nzs,1", "test,subject,value,colour\nzs,1,2,red"):
            with self.assertRaises(BadDocument):
                self.rows(of, text)

    def test_a_subject_goes_by_its_way_its_name_and_its_id(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0), name="Hall sockets"))
        for subject in ("1", "way 1", "main/1", "hall  sockets", "c1", "circuit:c1"):
            self.assertEqual(self.rows(of, f"test,subject,value\nzs,{subject},0.5\n"), (1, []), subject)


class OwnInstrument(unittest.TestCase):
    """What an instrument states of itself counts, wherever its readings do."""

    def test_near_a_limit_a_worse_instrument_leaves_less(self) -> None:
        # B20: 1.74 Ω cold. 1.60 Ω with 5 % and 0.04 Ω may be 1.72; with 30 % it may be 2.12.
        of = house(radial(28.0, 2.5, mcb(20.0)), ze_ohm=0.31)
        read = with_rows(of, "zs,1,1.6").testing.readings[0].model_copy(update={"instrument": "t1"})
        for pct, verdict in ((None, "pass"), (5.0, "pass"), (30.0, "tight"), (0.0, "pass")):
            tester = Instrument(id="t1", name="Tester", uncertainty_pct=pct)
            made = of.model_copy(update={"testing": Testing(instruments=(tester,), readings=(read,))})
            [found] = judged(Installation.of(made, rule_set("uk")))
            self.assertEqual(found.verdict, verdict, pct)


class Published(unittest.TestCase):
    """Full sets of readings: on-site guidance, to half a per cent."""

    def test_a_radial_read_at_14_degrees(self) -> None:
        of = house(radial(28.0, 2.5, mcb(20.0)), ze_ohm=0.31)
        dead, live = planned(of, "r1r2:circuit:c1", 14), planned(of, "zs:circuit:c1", 14)
        self.assertAlmostEqual(dead.expected.value or 0, 0.53317, delta=0.0027)
        self.assertAlmostEqual(live.expected.value or 0, 0.84317, delta=0.0042)
        self.assertAlmostEqual(live.expected.warm or 0, 0.96554, delta=0.005)
        self.assertAlmostEqual(live.expected.most or 0, 1.74, delta=0.01)
        self.assertAlmostEqual(live.expected.by_calculation or 0, 2.185, delta=0.01)

    def test_a_ring_of_60_metres(self) -> None:
        of = house(radial(60.0, 2.5, mcb(32.0), kind="ring"), ze_ohm=0.28)
        for test, expected in (
            ("r1_end", 0.4446),
            ("rn_end", 0.4446),
            ("r2_end", 0.726),
            ("x_ln", 0.2223),
            ("x_le", 0.29265),
            ("zs", 0.57265),
        ):
            self.assertAlmostEqual(
                planned(of, f"{test}:circuit:c1").expected.value or 0, expected, delta=0.003, msg=test
            )

    def test_a_house_at_11_degrees(self) -> None:
        devices = (mcb(32.0), mcb(6.0), mcb(32.0), mcb(40.0), mcb(16.0))
        lengths, areas = (54.0, 31.0, 12.0, 16.0, 18.0), (2.5, 1.5, 6.0, 10.0, 2.5)
        circuits = [
            radial(length, area, device, id=f"c{n}", kind="ring" if n == 1 else "radial")
            for n, (length, area, device) in enumerate(zip(lengths, areas, devices, strict=True), 1)
        ]
        of = house(*circuits)
        zs_cold = (0.4739, 1.1225, 0.34135, 0.31933, 0.55854)
        zs_hot = (0.53606, 1.3434, 0.37106, 0.34365, 0.64142)
        for number, (cold, hot) in enumerate(zip(zs_cold, zs_hot, strict=True), 1):
            found = planned(of, f"zs:circuit:c{number}", 11).expected
            self.assertAlmostEqual(found.value or 0, cold, delta=0.005 * cold)
            self.assertAlmostEqual(found.warm or 0, hot, delta=0.005 * hot)

    def test_a_cold_reading_above_the_share_that_passes_by_calculation(self) -> None:
        of = house(radial(50.0, 6.0, mcb(40.0)), ze_ohm=0.31)
        read = judge(of, "ze,supply,0.31", "r1r2,1,0.62", "zs,1,0.93")
        self.assertEqual(read[2].verdict, "pass")
        self.assertIn("1.06", str(read[2].sentence))  # 0.31 + 1.2 · 0.62 = 1.054, rounded up
        self.assertEqual(judge(of, "zs,1,0.93")[0].verdict, "fail")
        # A loop that the dead readings do not explain has something in it that they did not see.
        for zs in ("1.3", "2.5"):
            self.assertEqual(judge(of, "ze,supply,0.31", "r1r2,1,0.13", f"zs,1,{zs}")[2].verdict, "fail", zs)
        self.assertEqual(judge(of, "ze,supply,0.31", "r1r2,1,0.66", "zs,1,0.93")[2].verdict, "fail")

    def test_agreement_with_the_design(self) -> None:
        # Half an ohm expected: 0.43, 0.62, 0.80 and 0.30 read; bands of a length off a drawing.
        of = house(radial(1000 * 0.5 / 19.51, 2.5, mcb(20.0)))
        for value, word in ((0.43, "agrees"), (0.62, "look-again"), (0.8, "above"), (0.3, "below"), (0.5, "agrees")):
            self.assertEqual(judge(of, f"r1r2,1,{value}")[0].agreement, word, value)


class Limits(unittest.TestCase):
    def verdicts(self, of: Job, *rows: str) -> list[str]:
        return [each.verdict for each in judge(of, *rows)]

    def test_insulation_about_its_least_value(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)))
        for value, verdict in (
            ("0.99", "fail"),
            ("1.0", "tight"),
            ("1.2", "pass"),
            (">200", "pass"),
            (">0.5", "missing"),
            ("LIM", "pass"),
            ("<0.5", "fail"),
        ):
            self.assertEqual(self.verdicts(of, f"ir_le,1,{value}"), [verdict], value)

    def test_times_of_rcds_general_and_delayed(self) -> None:
        general = house(radial(10.0, 2.5, rcbo(20.0)))
        for value, verdict in (("28", "pass"), ("299", "tight"), ("301", "fail"), ("did not trip", "fail")):
            self.assertEqual(self.verdicts(general, f"rcd_1,1,{value}"), [verdict], value)
        device = rcbo(20.0)
        assert device.rcd is not None
        slow = device.model_copy(update={"rcd": device.rcd.model_copy(update={"idn_ma": 100.0, "time_delayed": True})})
        delayed = house(radial(10.0, 2.5, slow))
        for value, verdict in (("100", "fail"), ("200", "pass"), ("501", "fail")):
            self.assertEqual(self.verdicts(delayed, f"rcd_1,1,{value}"), [verdict], value)

    def test_a_loop_at_its_share_and_beyond_its_range(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)))
        for value, verdict in (("0.5", "pass"), ("1.73", "tight"), ("LIM", "fail"), ("<0.1", "pass")):
            self.assertEqual(self.verdicts(of, f"zs,1,{value}"), [verdict], value)

    def test_r1r2_has_what_the_limit_leaves(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)), ze_ohm=0.35)
        # (2.185 − 0.35) / 1.2 = 1.529 Ω at 20 °C.
        most = planned(of, "r1r2:circuit:c1").expected.most or 0.0
        self.assertAlmostEqual(most, 1.529, delta=0.01)
        self.assertEqual(self.verdicts(of, "r1r2,1,1.6"), ["fail"])
        self.assertEqual(self.verdicts(of, "r1r2,1,LIM"), ["fail"])

    def test_only_the_rcd_disconnects(self) -> None:
        of = house(radial(10.0, 1.0, rcbo(20.0)))
        read = judge(of, "ze,supply,0.3", "r1r2,1,2.2", "zs,1,2.4")
        self.assertEqual((read[2].verdict, "RCD" in str(read[2].sentence)), ("advice", True))

    def test_a_test_left_out_needs_a_reason(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)))
        self.assertEqual(self.verdicts(of, "zs,1,n/a"), ["missing"])
        made = with_rows(of, "zs,1,n/a")
        reading = made.testing.readings[0].model_copy(update={"reason": "kiln in use"})
        made = made.model_copy(update={"testing": Testing(readings=(reading,))})
        self.assertEqual(worst_of(judged(Installation.of(made, rule_set("uk")))), "not-applicable")


class WithEachOther(unittest.TestCase):
    def words(self, of: Job, *rows: str) -> dict[str, str]:
        return {f"{each.kind}/{one.against}": one.agreement for each in judge(of, *rows) for one in each.comparisons}

    def test_a_ring(self) -> None:
        of = house(radial(60.0, 2.5, mcb(32.0), kind="ring"))
        sound = self.words(of, "r1_end,1,0.45", "rn_end,1,0.44", "r2_end,1,0.73", "x_ln,1,0.22", "x_le,1,0.29")
        self.assertEqual(set(sound.values()), {"agrees"})
        self.assertEqual(len(sound), 4)
        # The older cable with a smaller protective conductor, and a spur on a spur.
        odd = self.words(of, "r1_end,1,0.45", "rn_end,1,0.44", "r2_end,1,1.1", "x_ln,1,0.45")
        self.assertEqual((odd["r2_end/r1_end"], odd["x_ln/ends"]), ("above", "above"))

    def test_a_loop_with_ze_and_r1r2(self) -> None:
        of = house(radial(28.0, 2.5, mcb(20.0)))
        for zs, word in ((0.8, "agrees"), (0.45, "below"), (1.3, "above")):
            found = self.words(of, "ze,supply,0.25", "r1r2,1,0.55", f"zs,1,{zs}")
            self.assertEqual(found["zs/ze+r1r2"], word, zs)

    def test_a_reading_is_compared_with_the_design_and_not_with_itself(self) -> None:
        of = house(radial(28.0, 2.5, mcb(20.0)))
        self.assertEqual(judge(of, "r1r2,1,1.2")[0].agreement, "above")


class Plans(unittest.TestCase):
    def test_every_demo_has_a_plan_in_the_order_of_its_standard(self) -> None:
        for name in DEMOS:
            of = demo_job(name)
            plan = plan_of(Installation.of(of, rule_set(of.job.rules)))
            orders = {step.id: step.order for step in plan.steps}
            self.assertEqual([step.order for step in plan.steps], sorted(orders.values()), name)
            self.assertEqual([orders[t.step] for t in plan.tests], sorted(orders[t.step] for t in plan.tests), name)
            self.assertEqual(len({test.id for test in plan.tests}), len(plan.tests), name)
            self.assertGreaterEqual(len(plan.isolation), 5)

    def test_dead_tests_come_before_live_ones(self) -> None:
        for rules in ("uk", "anz", "iec", "iec-de", "na", "za"):
            states = [step.state for step in rule_set(rules).testing.steps]
            self.assertEqual(states, sorted(states), rules)

    def test_a_longer_cable_and_a_warmer_day_never_read_less(self) -> None:
        def reads(length_m: float, temperature_c: float) -> float:
            of = house(radial(length_m, 2.5, mcb(20.0)))
            return planned(of, "zs:circuit:c1", temperature_c).expected.value or 0.0

        lengths, days = (1.0, 5.0, 20.0, 80.0, 200.0), (-5.0, 5.0, 20.0, 35.0)
        for length in lengths:
            found = [reads(length, day) for day in days]
            self.assertEqual(found, sorted(set(found)))
        for day in days:
            found = [reads(length, day) for length in lengths]
            self.assertEqual(found, sorted(set(found)))

    def test_an_unknown_length_has_limits_and_no_expected_value(self) -> None:
        of = house(radial(None, 2.5, mcb(20.0)))
        found = planned(of, "r1r2:circuit:c1").expected
        self.assertEqual(found.value, None)
        self.assertTrue(found.missing)
        self.assertGreater(found.most or 0.0, 1.0)


if __name__ == "__main__":
    unittest.main()
