"""Measured values in place of what is not drawn: an old board swapped with no length known, judged as fully as a designed one.

A reading with no uncertainty that is the calculated value changes nothing; with any uncertainty nothing gets better; of a drawn and a measured
value the worse counts; a parallel path may make R1+R2 look good, so that no voltage drop follows from it alone. Lengths implied: on-site
guidance, examples without a drawing, to one per cent.
"""

from __future__ import annotations

import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import circuit, mcb, rcbo
from tests.core.testing.test_judged_readings import house, radial, with_rows
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import Instrument, Reading, ReadingKind, ReadingSubject, Testing
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import VERDICT_ORDER
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.core.rules import rule_set

EXACT = Instrument(id="exact", name="Exact", uncertainty_pct=0.0)


def read(of: Job, *values: tuple[ReadingKind, str, float], alone: bool | None = None, pct: float = 0.0) -> Job:
    """The job with readings at 20 °C of an instrument of so much uncertainty."""
    readings = tuple(
        Reading(
            id=f"r{number}",
            test=kind,
            subject=ReadingSubject(kind="supply" if owner == "supply" else "circuit", id=owner),
            value=value,
            instrument="exact",
            alone=alone,
        )
        for number, (kind, owner, value) in enumerate(values)
    )
    instrument = EXACT.model_copy(update={"uncertainty_pct": pct})
    return of.model_copy(update={"testing": Testing(instruments=(instrument,), readings=readings)})


def finding(of: Job, check: str, subject: str = "c1") -> Finding:
    return next(one for one in assess(of).findings if one.check == check and one.subject.id == subject)


def verdicts(of: Job) -> dict[tuple[str, str], str]:
    return {(one.check, one.subject.id): one.verdict for one in assess(of, explain=False).findings}


class WithoutADrawing(unittest.TestCase):
    def test_r1r2_gives_the_loop_and_the_length(self) -> None:
        # 4/1.5 mm², R1+R2 0.52 Ω at 16 °C, Ze 0.27: 31.6 m, 0.904 Ω warm.
        of = house(radial(None, 4.0, mcb(32.0)), ze_ohm=0.27)
        reading = Reading(
            id="r1",
            test="r1r2",
            subject=ReadingSubject(kind="circuit", id="c1"),
            value=0.52,
            temperature_c=16.0,
            instrument="exact",
        )
        of = of.model_copy(update={"testing": Testing(instruments=(EXACT,), readings=(reading,))})
        network = Installation.of(of, rule_set("uk"))
        run = network.loops.run(of.circuits[0])
        self.assertAlmostEqual(run.cold_ohm, 0.52846, delta=0.005)
        self.assertAlmostEqual(run.length_m, 31.625, delta=0.3)
        self.assertAlmostEqual(network.loops.far_end_ohm(of.circuits[0]), 0.90415, delta=0.009)
        found = finding(of, "disconnection")
        self.assertEqual(found.verdict, "pass")
        self.assertTrue(any("by the reading of R1+R2" in str(step.meaning) for step in found.working))

    def test_the_ends_of_a_ring_give_it_too(self) -> None:
        # 0.71, 0.71, 1.17 Ω at 9 °C, Ze 0.33: 100 m round, 0.920 Ω warm.
        of = house(radial(None, 2.5, mcb(32.0), kind="ring"), ze_ohm=0.33)
        of = read(of, ("r1_end", "c1", 0.71), ("rn_end", "c1", 0.71), ("r2_end", "c1", 1.17))
        of = of.model_copy(update={"testing": of.testing.model_copy(update={"temperature_c": 9.0})})
        network = Installation.of(of, rule_set("uk"))
        self.assertAlmostEqual(network.loops.run(of.circuits[0]).length_m, 100.23, delta=1.0)
        self.assertAlmostEqual(network.loops.far_end_ohm(of.circuits[0]), 0.91996, delta=0.009)
        self.assertNotEqual(finding(of, "voltage-drop").verdict, "missing")

    def test_no_drop_follows_from_r1r2_while_another_path_is_possible(self) -> None:
        of = house(radial(None, 4.0, mcb(32.0)))
        for alone, values, known in (
            (None, [("r1r2", "c1", 0.3)], False),
            (False, [("r1r2", "c1", 0.3)], False),
            (True, [("r1r2", "c1", 0.3)], True),
            (None, [("r1rn", "c1", 0.2)], True),
        ):
            made = read(of, *values, alone=alone)  # type: ignore[arg-type]
            self.assertEqual(finding(made, "voltage-drop").verdict != "missing", known, (alone, values))
            self.assertNotEqual(finding(made, "disconnection").verdict, "missing")

    def test_a_loop_alone_is_enough_for_the_loop(self) -> None:
        of = house(radial(None, 4.0, mcb(32.0)), ze_ohm=0.3)
        self.assertEqual(finding(of, "disconnection").verdict, "missing")
        self.assertEqual(finding(read(of, ("zs", "c1", 0.8)), "disconnection").verdict, "pass")
        self.assertEqual(finding(read(of, ("zs", "c1", 1.5)), "disconnection").verdict, "fail")

    def test_ze_and_the_prospective_current_replace_what_is_not_known(self) -> None:
        of = house(radial(10.0, 2.5, mcb(20.0)), ze_ohm=None, fault_current_ka=None)
        self.assertEqual(finding(of, "disconnection").verdict, "missing")
        made = with_rows(of, "ze,supply,0.25", "pfc_ln,main,1.2kA")
        self.assertEqual(finding(made, "disconnection").verdict, "pass")
        self.assertEqual(finding(made, "breaking-capacity").verdict, "pass")
        self.assertEqual(finding(with_rows(of, "ze,supply,2.5", "pfc_ln,main,1.2kA"), "disconnection").verdict, "fail")

    def test_a_swapped_board_ends_without_a_question_a_tester_could_answer(self) -> None:
        circuits = (
            radial(None, 2.5, rcbo(32.0), id="c1", name="Ring", kind="ring"),
            radial(None, 1.5, rcbo(6.0), id="c2", name="Lights", kind="lighting", loads=circuit().loads),
            radial(None, 6.0, rcbo(32.0), id="c3", name="Cooker", kind="fixed", loads=circuit().loads),
        )
        of = house(*circuits, ze_ohm=None, fault_current_ka=None)
        asked = {key for key, verdict in verdicts(of).items() if verdict == "missing"}
        made = with_rows(
            of,
            "ze,supply,0.2",
            "pfc_ln,main,1.5kA",
            "r1_end,1,0.5",
            "rn_end,1,0.5",
            "r2_end,1,0.82",
            "x_le,1,0.33",
            "r1rn,2,1.1",
            "r1r2,2,1.3",
            "r1rn,3,0.11",
            "r1r2,3,0.2",
            temperature_c=12.0,
        )
        still = {key for key, verdict in verdicts(made).items() if verdict == "missing"}
        self.assertGreater(len(asked), 10)
        lengths_and_supply = {
            (one.check, one.subject.id)
            for one in assess(made).findings
            for need in one.needs
            if one.verdict == "missing"
            and ("length" in need.path or need.path in ("supply.ze_ohm", "supply.fault_current_ka"))
        }
        # R1+R2 with nothing told of other paths: R1+Rn is there, so that the drop of each circuit is known.
        self.assertEqual(lengths_and_supply, set())
        self.assertLess(still, asked)


class Laws(unittest.TestCase):
    CASES = (("r1r2", 1.0), ("zs", 1.0), ("r1rn", 1.0))

    def calculated(self, length_m: float, area_mm2: float) -> tuple[Job, dict[str, float]]:
        of = house(radial(length_m, area_mm2, mcb(20.0)), ze_ohm=0.3)
        network = Installation.of(of, rule_set("uk"))
        run = network.loops.run(of.circuits[0])
        cold = network.loops.far_end_cold_ohm(of.circuits[0])
        return of, {"r1r2": run.cold_ohm, "r1rn": 2 * run.r1_cold_ohm, "zs": cold}

    @settings(max_examples=25, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(st.floats(1.0, 90.0), st.sampled_from((1.5, 2.5, 4.0, 6.0)), st.floats(0.0, 30.0))
    def test_a_calculated_value_read_changes_nothing_and_uncertainty_never_makes_it_better(
        self, length_m: float, area_mm2: float, pct: float
    ) -> None:
        of, values = self.calculated(length_m, area_mm2)
        plain = verdicts(of)
        for kind, value in values.items():
            same = verdicts(read(of, (kind, "c1", value), alone=True))  # type: ignore[arg-type]
            self.assertEqual(same, plain, kind)
            worse = verdicts(read(of, (kind, "c1", value), alone=True, pct=pct))  # type: ignore[arg-type]
            for key, verdict in worse.items():
                self.assertLessEqual(VERDICT_ORDER.index(verdict), VERDICT_ORDER.index(plain[key]), (kind, key))

    def test_the_worse_of_drawn_and_measured_counts(self) -> None:
        of, values = self.calculated(40.0, 2.5)
        zs = finding(of, "disconnection").value or 0.0
        for kind in ("r1r2", "r1rn"):
            lower = finding(read(of, (kind, "c1", values[kind] / 2)), "disconnection").value  # type: ignore[arg-type]
            higher = finding(read(of, (kind, "c1", values[kind] * 2)), "disconnection").value  # type: ignore[arg-type]
            self.assertEqual(lower, zs)
            self.assertGreater(higher or 0.0, zs)

    def test_readings_survive_the_file_and_leave_the_document_as_it_is(self) -> None:
        of = with_rows(house(radial(None, 2.5, mcb(20.0))), "zs,1,0.5", "ir_le,1,>200", "pol,1,ok")
        self.assertEqual(read_document(to_text(of)), of)
        assess(of)
        self.assertIsNone(of.circuits[0].run[0].length_m)

    def test_a_reading_of_what_is_not_there_does_no_harm(self) -> None:
        of = read(house(radial(10.0, 2.5, mcb(20.0))), ("zs", "gone", 99.0), ("r1r2", "c1", 0.0))
        self.assertEqual(verdicts(of), verdicts(house(radial(10.0, 2.5, mcb(20.0)))))


if __name__ == "__main__":
    unittest.main()
