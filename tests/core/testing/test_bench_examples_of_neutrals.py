"""Worked examples of neutrals, parallel paths and electrodes, each by its name in the reference; currents and voltages by the solver of the
fault view, verdicts by typed readings."""

from __future__ import annotations

import math
import unittest

from tests.core.testing.test_bench_examples import typed
from tests.core.testing.test_diagnosis_of_neutrals import found, names
from tests.core.testing.test_judged_readings import with_rows
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.readings import ReadingKind
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.faults.nodal_analysis import ImpedanceNetwork, NetworkSolution
from vivid_lattice.core.formulas.device.loop import loop_limit_ohm
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.diagnosis.defects import defects
from vivid_lattice.core.testing.diagnosis.expressions import compiled
from vivid_lattice.core.testing.judgement import JudgedReading, judged
from vivid_lattice.core.testing.reading_text import reading_text


def formula(standard: str, defect: str, kind: ReadingKind, **symbols: float) -> float:
    one = next(each for each in defects(standard) if each.id == f"common.defect.{defect}")
    return compiled(one.effects[kind].formula)(symbols)


def verdict(of: Job, row: str) -> JudgedReading:
    made = with_rows(of, row)
    [one] = judged(Installation.of(made, rule_set(made.job.rules)))
    return one


class Neutrals(unittest.TestCase):
    def split(self, neutral_ohm: float, line_b: str = "B", a_ohm: float = 12.0, b_ohm: float = 20.0) -> NetworkSolution:
        """Two loads on a supply of 120/240 V; ``line_b``: the line of the second; the neutral from the star point N to the source."""
        net = ImpedanceNetwork("S")
        net.join("a", "S", "A", 1e-6, 120.0)
        net.join("b", "S", "B", 1e-6, -120.0)
        net.join("load a", "A", "N", a_ohm)
        net.join("load b", line_b, "N", b_ohm)
        net.join("neutral", "N", "S", neutral_ohm)
        return net.solve()

    def test_a_split_supply_with_its_neutral_sound_loose_and_open(self) -> None:
        """na.bench.ex.split: Millman: 4 A in the neutral; 115 and 125 V; 90 and 150 V."""
        self.assertAlmostEqual(abs(self.split(1e-6).amp("neutral")), 4.0, delta=0.02)
        for ohm, a_v, b_v in ((1.5, 115.0, 125.0), (1e7, 90.0, 150.0)):
            solved = self.split(ohm)
            self.assertAlmostEqual(abs(solved.volt("A", "N")), a_v, delta=0.005 * a_v)
            self.assertAlmostEqual(abs(solved.volt("B", "N")), b_v, delta=0.005 * b_v)

    def test_a_multiwire_circuit_on_two_lines_and_on_one(self) -> None:
        """na.bench.ex.multiwire: 11 and 9 A give 2 A in the neutral, or 20 A; 240 V between the lines, or none."""
        right = self.split(1e-6, a_ohm=120 / 11, b_ohm=120 / 9)
        wrong = self.split(1e-6, line_b="A", a_ohm=120 / 11, b_ohm=120 / 9)
        self.assertAlmostEqual(abs(right.amp("neutral")), 2.0, delta=0.01)
        self.assertAlmostEqual(abs(wrong.amp("neutral")), 20.0, delta=0.01)
        self.assertAlmostEqual(abs(right.volt("A", "B")), 240.0, delta=0.01)
        job = begin("Mill", rule_set("na"), "TN-C-S")
        job = enter_and_design(job, "multiwire receptacles 20A 18m", "main").job
        job = job.model_copy(update={"supply": job.supply.model_copy(update={"ze_ohm": 0.1})})
        self.assertEqual(names(found(job, "u_ll,1,0")[0])[0], "mwbc-same-line")

    def test_a_bond_left_in_a_subpanel(self) -> None:
        """na.bench.ex.subpanel: 20 A divide as 39.28 and 99.2 mΩ are: 5.673 A in the ground, 14.327 A in the neutral."""
        net = ImpedanceNetwork("M")
        net.join("load", "M", "P", 1e4, 20.0 * 1e4)
        net.join("neutral", "P", "M", 0.03928)
        net.join("ground", "P", "M", 0.0992)
        solved = net.solve()
        self.assertAlmostEqual(abs(solved.amp("ground")), 5.673, delta=0.02)
        self.assertAlmostEqual(abs(solved.amp("neutral")), 14.327, delta=0.05)

    def test_neutrals_joined_in_a_box(self) -> None:
        """bench.ex.neutrals-joined: 0.12 and 0.20 Ω read 0.32 Ω; of 2 A, 0.75 A come home by the other."""
        self.assertAlmostEqual(formula("uk", "neutrals-joined", "r_nn", Rn=0.12, RnB=0.2), 0.32)
        net = ImpedanceNetwork("bar")
        net.join("load", "bar", "box", 1e4, 2.0 * 1e4)
        net.join("own", "box", "bar", 0.12)
        net.join("other", "box", "bar", 0.2)
        self.assertAlmostEqual(abs(net.solve().amp("other")), 0.75, delta=0.0075)

    def test_a_coil_between_two_groups(self) -> None:
        """bench.ex.coil: 2.5, 5 and 8 VA at 230 V are 10.87, 21.74 and 34.78 mA: between half and the whole of 30 mA it may trip."""
        limits = rule_set("uk").testing.limits("rcd_ramp")
        holds = next(limit.value for limit in limits if limit.sense == "over") * 30.0
        trips = next(limit.value for limit in limits if limit.sense == "most") * 30.0
        for va, wanted_ma, opens in ((2.5, 10.87, "no"), (5.0, 21.739, "may trip"), (8.0, 34.783, "yes")):
            ma = 1000 * formula("uk", "coil-neutral-wrong-group", "i_res", VA=va, U0=230.0)
            self.assertAlmostEqual(ma, wanted_ma, delta=0.01)
            self.assertEqual("no" if ma <= holds else "yes" if ma > trips else "may trip", opens)

    def test_an_elevated_neutral(self) -> None:
        """za.bench.ex.neutral: 4 V pass, 38 V are reported to the supplier: about 25 V is the limit."""
        job = typed("za", "TN-C-S", 0.4, "sockets 20A RCBO 30mA 2.5mm2 33m")
        self.assertEqual(verdict(job, "u_me,supply,4").verdict, "pass")
        self.assertEqual(verdict(job, "u_me,supply,38").verdict, "fail")


class ParallelPaths(unittest.TestCase):
    def test_ze_read_beside_two_pipes(self) -> None:
        """bench.ex.ze-parallel: 62 Ω beside pipes of 8 and 2 Ω read 1.56 Ω."""
        net = ImpedanceNetwork("ground")
        net.join("test", "ground", "bar", 1e5, 1e5)
        for name, ohm in (("earth", 62.0), ("water", 8.0), ("gas", 2.0)):
            net.join(name, "bar", "ground", ohm)
        read = abs(net.solve().volt("bar")) / abs(net.solve().amp("test"))
        self.assertAlmostEqual(read, 1.5597, delta=0.0156)
        job = begin("Mill", rule_set("uk"), "TT")
        for line in ("sockets radial 20m", "lights 24m", "cooker 32A 12m"):
            job = enter_and_design(job, line, "main").job
        rows = [
            f"ze,supply,{read:.2f}",
            "r1r2,1,0.39",
            "r1r2,2,0.87",
            "r1r2,3,0.13",
            "zs,1,62.4",
            "zs,2,62.9",
            "zs,3,62.1",
        ]
        told = next(each for each in found(job, *rows) if each.circuit == "")
        self.assertEqual(names(told)[0], "ze-with-parallel-paths")
        self.assertAlmostEqual(told.possible[0].unknowns[0]["Zt"], 62.0, delta=5.0)

    def test_the_greatest_resistance_between_parts(self) -> None:
        """bench.ex.bond: 50 V over 30 mA, 80 A of a B16 and 160 A of a B32."""
        by_rcd = rule_set("uk").devices.rcd_loop_limit(Rcd(idn_ma=30.0), "TT")
        self.assertAlmostEqual(by_rcd.zs_ohm, 1666.7, delta=0.1)
        for ia_a, ohm in ((80.0, 0.625), (160.0, 0.3125)):
            self.assertAlmostEqual(loop_limit_ohm(50.0, 1.0, ia_a), ohm)

    def test_a_house_on_its_electrode(self) -> None:
        """iec.bench.ex.tt: 22 and 4 Ω: 8.846 A; at most 166.67 Ω for 300 mA, of which 22 Ω make 6.6 V, and 0.66 V at 30 mA."""
        job = typed("iec", "TT", 26.0, "sockets 18m")
        read = verdict(job, "pfc_le,main,8.8")
        self.assertAlmostEqual(read.expected.value or 0, 8.8462, delta=0.04)
        for idn_ma, touch_v in ((300.0, 6.6), (30.0, 0.66)):
            limit = rule_set("iec").devices.rcd_loop_limit(Rcd(idn_ma=idn_ma), "TT").zs_ohm
            self.assertAlmostEqual(50.0 * 22.0 / limit, touch_v, delta=0.033)
        self.assertAlmostEqual(
            rule_set("iec").devices.rcd_loop_limit(Rcd(idn_ma=300.0), "TT").zs_ohm, 166.67, delta=0.8
        )


class Electrodes(unittest.TestCase):
    def apparent_ohm(self, share: float) -> float:
        """A half sphere of 40 Ω in soil of 100 Ωm, the current spike at 25 m: what is read with the other spike at a share of that."""
        c, p = 25.0, 25.0 * share
        return 40.0 + 100.0 / (2 * math.pi) * (-1 / p - 1 / c + 1 / (c - p))

    def test_three_readings_of_a_fall_of_potential(self) -> None:
        """bench.ex.fall: 39.363 Ω half-way, 40.0 Ω at 61.8 %, 40.753 Ω at 72 %: within 5 % of their mean."""
        read = [self.apparent_ohm(share) for share in (0.5, 0.618, 0.72)]
        for ohm, wanted in zip(read, (39.363, 40.0, 40.753), strict=True):
            self.assertAlmostEqual(ohm, wanted, delta=0.005 * wanted)
        self.assertAlmostEqual(100 * (read[0] / 40.0 - 1), -1.5915, delta=0.01)
        made = reading_text("/".join(f"{ohm:.2f}" for ohm in read), "ra")
        self.assertAlmostEqual(made.value or 0, 40.0, delta=0.1)
        self.assertEqual(len(made.parts), 3)
        job = typed("iec", "TT", 45.0, "sockets 18m")
        self.assertIn(
            "Average of 39.36, 40, 40.75 Ω", str(verdict(job, "ra,electrode:supply,39.36/40.00/40.75").sentence)
        )

    def test_a_spike_that_is_too_near_is_refused(self) -> None:
        for text in ("30/40/55", "39/40", "39/40/41/40", "39/LIM/41", "39//41"):
            with self.assertRaises(EntryNotUnderstood, msg=text):
                reading_text(text, "ra")


class InUse(unittest.TestCase):
    def test_insulation_of_an_installation_in_use_with_its_loads_connected(self) -> None:
        """iec.bench.ex.periodic: 0.3 kΩ a volt dry, 0.15 outdoors: 69 and 34.5 kΩ at 230 V; 90 kΩ is enough, 52 is not, 45 is outdoors."""
        old = begin("Altbau", rule_set("iec-de"), "TN-S", existing=True)
        old = enter_and_design(old, "sockets 18m", "main").job
        old = enter_and_design(old, "outdoor sockets 18m", "main").job
        self.assertTrue(old.survey.boards)
        for row, wanted in (
            ("ir_le,c1,90k", "advice"),
            ("ir_le,c1,52k", "fail"),
            ("ir_le,c2,45k", "advice"),
            ("ir_le,c1,1.2", "pass"),
        ):
            with self.subTest(row):
                self.assertEqual(verdict(old, row).verdict, wanted)
        self.assertIn("0.069 MΩ", str(verdict(old, "ir_le,c1,90k").sentence))

    def test_new_work_and_other_standards_have_the_whole_megohm(self) -> None:
        new = enter_and_design(begin("Neubau", rule_set("iec-de"), "TN-S"), "sockets 18m", "main").job
        self.assertEqual(verdict(new, "ir_le,c1,90k").verdict, "fail")
        plain = enter_and_design(begin("Old", rule_set("iec"), "TN-S", existing=True), "sockets 18m", "main").job
        self.assertEqual(verdict(plain, "ir_le,c1,90k").verdict, "fail")


if __name__ == "__main__":
    unittest.main()
