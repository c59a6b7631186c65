"""What readings usually mean: one cause put into a circuit by hand, and the readings that it gives."""

from __future__ import annotations

import unittest

from tests.builders import mcb, rcbo
from tests.core.testing.test_judged_readings import house, radial, with_rows
from vivid_lattice.core.document.job import Job, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.data_folder import standard_ids
from vivid_lattice.core.testing.diagnosis.defects import defects
from vivid_lattice.core.testing.diagnosis.diagnose import diagnosed
from vivid_lattice.core.testing.diagnosis.diagnosis import Diagnosis
from vivid_lattice.core.testing.diagnosis.expressions import compiled
from vivid_lattice.core.testing.judgement import judged

#: 28 m of 2.5/1.5 mm²: R1 0.2075, R2 0.3388, R1+R2 0.546 Ω at 20 °C; with Ze 0.22 Ω, Zs 0.766 Ω.
RADIAL = house(radial(28.0, 2.5, rcbo(20.0)))
#: 60 m: ends of 0.4446, 0.4446 and 0.726 Ω; cross-connected 0.2223 and 0.2927 Ω.
RING = house(radial(60.0, 2.5, rcbo(32.0), kind="ring"))
THREE = house(
    radial(28.0, 2.5, rcbo(20.0)),
    radial(20.0, 2.5, rcbo(16.0), id="c2", name="Two"),
    radial(30.0, 1.5, rcbo(6.0), id="c3", name="Three"),
)


def explained(of: Job, *rows: str, temperature_c: float = 20.0) -> tuple[Diagnosis, ...]:
    made = with_rows(of, *rows, temperature_c=temperature_c)
    network = Installation.of(made, rule_set(made.job.rules))
    return diagnosed(network, judged(network))


def names(diagnosis: Diagnosis) -> list[str]:
    return [" + ".join(each.removeprefix("common.defect.") for each in one.ids) for one in diagnosis.possible]


class OfASharedDevice(unittest.TestCase):
    """An RCD of several circuits: what it does itself, and what leaks behind it."""

    @classmethod
    def setUpClass(cls) -> None:
        three = house(*(radial(20.0, 2.5, mcb(16.0), id=f"c{n}", name=f"Sockets {n}") for n in (1, 2, 3)))
        board = three.boards[0]
        ways = tuple(way.model_copy(update={"rcd": "r1" if way.circuit != "c3" else None}) for way in board.ways)
        rcd = SharedRcd(id="r1", name="RCD 1", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        cls.job = three.model_copy(update={"boards": (board.model_copy(update={"ways": ways, "shared_rcds": (rcd,)}),)})

    def of_device(self, *rows: str) -> Diagnosis:
        return next(each for each in explained(self.job, *rows) if each.circuit == "main/r1")

    def test_one_that_does_not_trip_at_all_is_told_and_its_name_is_given(self) -> None:
        found = self.of_device("rcd_1,rcd:main/r1,did not trip", "rcd_button,rcd:main/r1,wrong")
        self.assertEqual(names(found)[0], "rcd-stuck")
        self.assertEqual(str(found.name), "RCD 1")

    def test_a_slow_one_and_a_button_alone(self) -> None:
        sound = ("ir_ne,1,>200", "ir_ne,2,>200", "rcd_button,rcd:main/r1,ok")
        self.assertIn(names(self.of_device("rcd_1,rcd:main/r1,420", *sound))[0], ("rcd-slow", "rcd-delayed"))
        dead = self.of_device("rcd_1,rcd:main/r1,24", "rcd_button,rcd:main/r1,wrong")
        self.assertEqual(names(dead)[0], "button-dead")

    def test_a_neutral_that_touches_earth_behind_it(self) -> None:
        found = self.of_device("rcd_ramp,rcd:main/r1,did not trip", "rcd_button,rcd:main/r1,ok", "ir_ne,2,0")
        self.assertIn("ne-fault", names(found)[0])

    def test_the_next_test_is_of_the_device_or_of_a_circuit_behind_it_that_was_not_read(self) -> None:
        asked = []
        rows = ["rcd_1,rcd:main/r1,420"]
        for _ in range(4):
            found = self.of_device(*rows)
            if found.next_test is None or found.next_test.reading is None:
                break
            subject = found.next_test.reading.subject
            asked.append(f"{found.next_test.reading.test} {subject.id}")
            value = "ok" if not found.next_test.reading.unit else ">200" if "ir_" in asked[-1] else "22"
            rows.append(f"{found.next_test.reading.test},{subject.kind}:{subject.id},{value}")
        self.assertGreater(len(asked), 1)
        self.assertTrue(all(one.split()[1] in ("main/r1", "c1", "c2") for one in asked), asked)

    def test_a_circuit_that_is_not_behind_it_says_nothing_of_it(self) -> None:
        found = self.of_device("rcd_1,rcd:main/r1,did not trip", "rcd_button,rcd:main/r1,wrong", "ir_ne,3,0")
        self.assertNotIn("ne-fault", names(found)[0])


class OfOneCircuit(unittest.TestCase):
    def first(self, of: Job, *rows: str) -> Diagnosis:
        found = explained(of, *rows)
        self.assertEqual(len(found), 1, [names(each) for each in found])
        return found[0]

    def test_what_is_as_designed_is_not_explained(self) -> None:
        self.assertEqual(explained(RADIAL, "ze,supply,0.22", "r1r2,1,0.55", "zs,1,0.77", "ir_le,1,>200"), ())
        self.assertEqual(explained(RADIAL), ())

    def test_one_conductor_up_is_a_joint_and_all_up_is_a_longer_run(self) -> None:
        joint = self.first(RADIAL, "r1r2,1,0.95", "r1rn,1,0.42", "zs,1,1.17", "ze,supply,0.22")
        self.assertEqual(names(joint)[0], "joint-cpc")
        self.assertAlmostEqual(joint.possible[0].unknowns[0]["rj"], 0.40, delta=0.03)
        longer = self.first(RADIAL, "r1r2,1,0.95", "r1rn,1,0.72", "r2,1,0.59")
        # Leads that were not nulled add to each of them too: the loop, which is read live, tells.
        self.assertEqual((names(longer)[0], longer.certain), ("longer-run", False))
        assert longer.next_test is not None and longer.next_test.reading is not None
        self.assertEqual(longer.next_test.reading.test, "zs")
        longer = self.first(RADIAL, "r1r2,1,0.95", "r1rn,1,0.72", "r2,1,0.59", "zs,1,1.17", "ze,supply,0.22")
        self.assertEqual((names(longer)[0], longer.certain), ("longer-run", True))
        self.assertAlmostEqual(longer.possible[0].unknowns[0]["f"], 0.95 / 0.546, delta=0.04)

    def test_what_cannot_be_told_apart_yet_names_the_test_that_does(self) -> None:
        found = self.first(RADIAL, "r1r2,1,0.95", "zs,1,1.17", "ze,supply,0.22")
        self.assertFalse(found.certain)
        self.assertGreaterEqual(len(found.possible), 3)
        assert found.next_test is not None and found.next_test.reading is not None
        self.assertIn(found.next_test.reading.test, ("r2", "r1rn"))
        self.assertNotEqual(found.next_test.first, found.next_test.second)

    def test_an_open_conductor(self) -> None:
        found = self.first(RADIAL, "r1r2,1,LIM", "zs,1,LIM", "r1rn,1,0.415")
        self.assertEqual((names(found)[0], found.possible[0].danger), ("open-cpc", "now"))
        found = self.first(RING, "r1_end,1,LIM", "rn_end,1,0.45", "r2_end,1,0.72", "x_ln,1,0.445")
        self.assertEqual(names(found)[0], "ring-open-line")

    def test_a_spur_is_seen_in_the_cross_connected_readings_only(self) -> None:
        found = self.first(RING, "r1_end,1,0.45", "rn_end,1,0.45", "r2_end,1,0.72", "x_ln,1,0.36", "x_le,1,0.47")
        self.assertIn("spur", names(found)[0])

    def test_insulation_tells_where_it_is_low(self) -> None:
        either = self.first(RADIAL, "ir_le,1,0.3", "ir_ln,1,>200")
        self.assertEqual(set(names(either)), {"ir-damage-le", "element-leak"})
        damage = self.first(RADIAL, "ir_le,1,0.3", "ir_ln,1,>200", "ir_ne,1,>200")
        self.assertEqual(names(damage)[0], "ir-damage-le")
        damp = self.first(RADIAL, "ir_le,1,0.3", "ir_ln,1,0.4", "ir_ne,1,0.3")
        self.assertEqual(names(damp)[0], "ir-damp")

    def test_a_residual_current_device_that_does_not_trip(self) -> None:
        stuck = self.first(RADIAL, "rcd_1,1,did not trip", "rcd_button,1,wrong")
        self.assertEqual((names(stuck)[0], stuck.possible[0].danger), ("rcd-stuck", "now"))
        elsewhere = self.first(RADIAL, "rcd_1,1,did not trip", "rcd_button,1,ok", "zs,1,0.76", "ze,supply,0.22")
        self.assertIn("circuit-not-behind-rcd", names(elsewhere))

    def test_two_at_once(self) -> None:
        found = self.first(
            RADIAL, "r1r2,1,0.95", "r1rn,1,0.72", "r2,1,0.59", "rcd_1,1,did not trip", "rcd_button,1,wrong"
        )
        self.assertEqual(set(found.possible[0].ids), {"common.defect.longer-run", "common.defect.rcd-stuck"})

    def test_a_length_that_is_not_known_leaves_the_ratios(self) -> None:
        # 0.41 of R1+Rn makes R1+R2 0.54: 0.95 has a joint in the protective conductor.
        unknown = house(radial(None, 2.5, mcb(20.0)))
        found = self.first(unknown, "r1rn,1,0.415", "r1r2,1,1.25", "r2,1,1.05", "ze,supply,0.22", "zs,1,1.47")
        self.assertEqual(names(found)[0], "joint-cpc")


class OfTheInstallation(unittest.TestCase):
    def test_one_cause_that_explains_several_circuits_is_told_once(self) -> None:
        [found] = explained(THREE, "ze,supply,0.9", "zs,1,1.4", "zs,2,1.25", "zs,3,1.9", "r1r2,1,0.55")
        self.assertEqual((found.circuit, names(found)[0]), ("", "ze-high"))
        self.assertAlmostEqual(found.possible[0].unknowns[0]["dze"], 0.68, delta=0.06)

    def test_leads_that_were_not_nulled(self) -> None:
        found = explained(THREE, "r1r2,1,0.75", "r1r2,2,0.6", "r1r2,3,1.1", "ze,supply,0.22")
        self.assertEqual((len(found), names(found[0])[0]), (1, "leads-not-nulled"))

    def test_two_circuits_with_a_cause_each(self) -> None:
        found = explained(THREE, "r1r2,1,LIM", "r1rn,1,0.415", "ir_le,2,0.2", "ir_ln,2,>200", "ir_ne,2,>200")
        self.assertEqual([each.circuit for each in found], ["c1", "c2"])
        self.assertEqual(names(found[0])[0], "open-cpc")


class Readings(unittest.TestCase):
    def test_a_reading_of_a_conductor_does_not_move_what_it_is_compared_with(self) -> None:
        made = with_rows(RADIAL, "r1rn,1,0.72", "r1r2,1,0.55")
        results = judged(Installation.of(made, rule_set(made.job.rules)))
        values = {each.kind: (each.expected.value, each.agreement) for each in results}
        self.assertAlmostEqual(values["r1rn"][0] or 0, 0.415, delta=0.003)
        self.assertAlmostEqual(values["r1r2"][0] or 0, 0.546, delta=0.003)
        self.assertEqual((values["r1rn"][1], values["r1r2"][1]), ("above", "agrees"))

    def test_a_ring_end_does_not_move_what_it_is_compared_with(self) -> None:
        made = with_rows(RING, "r1_end,1,0.7", "rn_end,1,0.45", "r2_end,1,0.73")
        results = judged(Installation.of(made, rule_set(made.job.rules)))
        self.assertEqual([each.agreement for each in results], ["above", "agrees", "agrees"])
        self.assertAlmostEqual(results[0].expected.value or 0, 0.4446, delta=0.003)

    def test_what_is_off_fails_or_is_far_from_the_design_or_from_another_reading(self) -> None:
        made = with_rows(
            RADIAL, "ze,supply,0.22", "r1r2,1,0.55", "r1rn,1,0.72", "zs,1,1.6", "ir_le,1,0.3", "ir_ln,1,>200"
        )
        found = {each.kind: each for each in judged(Installation.of(made, rule_set("uk")))}
        self.assertEqual((found["r1rn"].verdict, found["r1rn"].agreement), ("not-applicable", "above"))
        # R1+R2 agrees with the design, and not with R1+Rn as it was read.
        self.assertEqual((found["r1r2"].verdict, found["r1r2"].agreement), ("pass", "agrees"))
        self.assertEqual([one.agreement for one in found["r1r2"].comparisons], ["below"])
        self.assertEqual(found["ir_le"].verdict, "fail")
        self.assertEqual({kind for kind, each in found.items() if each.off}, {"r1rn", "r1r2", "zs", "ir_le"})

    def test_a_current_below_the_largest_that_is_declared_is_not_off(self) -> None:
        of = house(radial(28.0, 2.5, rcbo(20.0)), fault_current_ka=16.0)
        made = with_rows(of, "ze,supply,0.22", "pfc_ln,main,1.1kA")
        [_, current] = judged(Installation.of(made, rule_set(made.job.rules)))
        self.assertEqual((current.verdict, current.agreement), ("pass", "none"))
        [_, high] = judged(Installation.of(with_rows(of, "ze,supply,0.22", "pfc_ln,main,6.5kA"), rule_set("uk")))
        self.assertEqual(high.verdict, "fail")


class Catalogue(unittest.TestCase):
    def test_every_standard_has_defects_with_what_to_look_for_and_what_to_do(self) -> None:
        for standard in standard_ids():
            known = defects(standard)
            self.assertGreater(len(known), 40, standard)
            for each in known:
                with self.subTest(each.id):
                    self.assertTrue(each.name and each.seen and each.repair and each.effects)
                    self.assertTrue(all(low < high for low, high in each.parameters.values()))

    def test_a_formula_is_arithmetic_and_nothing_else(self) -> None:
        for bad in ("__import__('os')", "a if b else c", "f(x)", "a[0]", "1+", "'a'"):
            with self.assertRaises(BadTable):
                compiled(bad)
        self.assertAlmostEqual(compiled("Ze+R1*(1-x)")({"Ze": 0.3, "R1": 1.0, "x": 0.5}), 0.8)


if __name__ == "__main__":
    unittest.main()
