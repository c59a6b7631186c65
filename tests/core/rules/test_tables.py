"""The packaged figures obey the laws they come from; a typing slip breaks one before it reaches a customer."""

from __future__ import annotations

import unittest
from math import log, sqrt

from tests.builders import flat
from vivid_lattice.core.document.job import Cable
from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.rule_data import Table, known_publications, load, parse

UK = load("uk")


def columns(table_id: str) -> dict[str, list[float]]:
    """A table's numeric columns by name."""
    table = UK.table(table_id)
    return {
        name: [float(row[at]) for row in table.rows]
        for at, name in enumerate(table.columns)
        if all(isinstance(row[at], (int, float)) for row in table.rows)
    }


class EveryTable(unittest.TestCase):
    """What holds for all of them."""

    def test_capacities_rise_with_size_and_never_fall_behind_their_neighbours(self) -> None:
        for table in _named("uk.ccc."):
            found = columns(table.id)
            for name, values in found.items():
                with self.subTest(table.id, column=name):
                    self.assertEqual(values, sorted(set(values)))

    def test_voltage_drop_falls_with_size(self) -> None:
        for table in _named("uk.vd."):
            for name, values in columns(table.id).items():
                if name.endswith(("r", "z")):
                    with self.subTest(table.id, column=name):
                        self.assertEqual(values, sorted(values, reverse=True))

    def test_factors_fall_and_start_at_or_above_one_only_where_it_is_kinder_than_the_base(self) -> None:
        for table in [*_named("uk.ca."), *_named("uk.cg."), UK.table("uk.ci.surrounded"), UK.table("uk.cs.soil")]:
            for name, values in list(columns(table.id).items())[1:]:
                with self.subTest(table.id, column=name):
                    self.assertEqual(values, sorted(values, reverse=True))
                    self.assertTrue(all(0 < value < 2 for value in values))


class AgainstFormulas(unittest.TestCase):
    """Tables against the physics they are made from."""

    def test_voltage_drop_is_twice_the_hot_resistance(self) -> None:
        # mV/(A·m) of a pair = 2 · R20 · (1 + α20 · (t − 20)), α20 of copper 0.00393: IEC 60228 figures, general physics.
        resistance = dict(zip(*list(columns("uk.r20.copper").values())[:2], strict=True))
        for table, hot_c in (("uk.vd.flat-twin-pvc", 70), ("uk.vd.multicore-pvc", 70), ("uk.vd.swa-xlpe", 90)):
            found = columns(table)
            r = found.get("r") or found["single_phase_r"]
            for area, drop in zip(found["area_mm2"], r, strict=True):
                with self.subTest(table, area=area):
                    expected = 2 * resistance[area] * (1 + 0.00393 * (hot_c - 20))
                    self.assertLess(abs(drop - expected) / expected, 0.025)

    def test_loop_tables_are_218_5_volts_over_the_operating_current(self) -> None:
        # BS 7671:2018, 411.4.4: Zs = Uo · Cmin / Ia, Uo 230 V, Cmin 0.95, rounded to 0.01 Ω.
        for curve, multiple in (("b", 5), ("c", 10), ("d", 20)):
            found = columns(f"uk.zs.mcb-{curve}")
            for rating, ia, limit in zip(found["rating_A"], found["ia_A"], found["zs_max_ohm"], strict=True):
                with self.subTest(curve, rating=rating):
                    self.assertEqual(ia, multiple * rating)
                    self.assertLessEqual(abs(limit - 218.5 / ia), 0.0051)

    def test_fuse_tables_agree_with_their_operating_current(self) -> None:
        for name in ("bs3036-0.4s", "bs3036-5s", "bs88-2-0.4s", "bs88-2-5s", "bs88-3-0.4s", "bs88-3-5s"):
            found = columns(f"uk.zs.{name}")
            for limit, ia in zip(found["zs_max_ohm"], found["ia_A"], strict=True):
                with self.subTest(name, limit=limit):
                    self.assertLess(abs(limit * ia - 218.5) / 218.5, 0.01)

    def test_ambient_factors_follow_the_heat_balance(self) -> None:
        # Ca = √((tp − t) / (tp − t0)); at 25 °C the British table gives less than the formula, on the safe side.
        for name, limit, base in (
            ("air-70c", 70, 30),
            ("air-90c", 90, 30),
            ("ground-70c", 70, 20),
            ("ground-90c", 90, 20),
        ):
            ambient, factors = columns(f"uk.ca.{name}").values()
            for celsius, factor in zip(ambient, factors, strict=True):
                with self.subTest(name, celsius=celsius):
                    expected = sqrt((limit - celsius) / (limit - base))
                    self.assertLessEqual(factor, expected + 0.006)
                    self.assertGreaterEqual(factor, expected - (0.04 if celsius == 25 else 0.006))

    def test_r1_plus_r2_is_the_sum_of_the_two_conductors(self) -> None:
        resistance = dict(zip(*list(columns("uk.r20.copper").values())[:2], strict=True))
        for line, cpc, together in zip(*columns("uk.r1r2.copper").values(), strict=True):
            with self.subTest(line=line, cpc=cpc):
                self.assertAlmostEqual(resistance[line] + resistance[cpc], together, places=2)

    def test_heat_constants_follow_the_adiabatic_formula(self) -> None:
        # k = K √ln((β + θf) / (β + θi)); K and β by IEC 60364-5-54, annex A (from memory).
        materials = {"copper": (226, 234.5), "aluminium": (148, 228.0), "steel": (78, 202.0)}
        for name in ("uk.k.live", "uk.k.cpc-separate", "uk.k.cpc-in-cable", "uk.k.armour"):
            found = columns(name)
            for material, (constant, beta) in materials.items():
                for initial, final, k in zip(
                    found["initial_C"], found["final_C"], found.get(material, []), strict=False
                ):
                    with self.subTest(name, material=material, final=final):
                        self.assertAlmostEqual(constant * sqrt(log((beta + final) / (beta + initial))), k, delta=0.6)

    def test_current_of_the_device_factor_is_1_45_over_2(self) -> None:
        # BS 7671:2018, 433.1.202: a rewirable fuse operates at 2 In, a cable may be asked for 1.45 Iz.
        self.assertEqual(rule_set("uk").devices.kind("fuse-bs3036").overload_factor, 1.45 / 2)


class Lookups(unittest.TestCase):
    """Between two rows, at their edges, and past the last."""

    def setUp(self) -> None:
        self.table = UK.table("uk.cg.bunched")

    def test_between_rows_the_next_larger_is_taken_and_said(self) -> None:
        found = self.table.number("Cg", 10, between="next-up")
        assert found is not None
        self.assertEqual(found.value, 0.45)
        self.assertIn("row 12", found.basis)

    def test_at_an_edge_the_row_itself_stands(self) -> None:
        for circuits, factor in ((9, 0.50), (20, 0.38)):
            found = self.table.number("Cg", circuits, between="next-up")
            assert found is not None
            self.assertEqual((found.value, found.basis), (factor, ""))

    def test_past_the_last_row_there_is_no_answer_unless_the_last_holds_on(self) -> None:
        self.assertIsNone(self.table.number("Cg", 21, between="next-up"))
        layer = UK.table("uk.cg.single-layer").number("wall_or_floor", 15, between="next-up", beyond="last")
        assert layer is not None
        self.assertEqual(layer.value, 0.70)

    def test_an_exact_table_has_nothing_between_its_rows(self) -> None:
        self.assertIsNone(UK.table("uk.vd.flat-twin-pvc").number("r", 3.0))

    def test_a_cable_rated_on_cooler_terminals_takes_the_cooler_table(self) -> None:
        # BS 7671:2018+A2, 512.1.5 (from memory): 10 mm² armoured XLPE in the ground, 60 A as PVC and not 71 A.
        cables = rule_set("uk").cables
        self.assertEqual(cables.capacity_a(Cable(type="swa-xlpe", area_mm2=10.0, cpc="core"), "D").value, 60)

    def test_an_unusual_ambient_takes_the_next_worse_row(self) -> None:
        from tests.builders import laid

        for celsius, factor in ((31.0, 0.94), (35.0, 0.94), (36.0, 0.87), (10.0, 1.03)):
            with self.subTest(celsius=celsius):
                [found] = rule_set("uk").factors.factors(laid(10.0, ambient_c=celsius), flat(2.5))
                self.assertEqual((found.symbol, found.value), ("Ca", factor))


class Loading(unittest.TestCase):
    """Data that breaks its own form is refused by name."""

    GOOD = '[[table]]\nid = "t.a"\npublication = "IEC 60228"\nprovenance = "memory"\ncolumns = ["x", "y"]\nrows = [[1, 2]]\n'

    def refused(self, text: str, why: str) -> None:
        with self.assertRaisesRegex(BadTable, why):
            parse({"test.toml": text}, known_publications())

    def test_a_table_in_order_is_read(self) -> None:
        self.assertEqual(parse({"test.toml": self.GOOD}, known_publications()).table("t.a").rows, ((1, 2),))

    def test_each_slip_is_named(self) -> None:
        self.refused(self.GOOD + self.GOOD, "is there twice")
        self.refused(self.GOOD.replace("[[1, 2]]", "[[1, 2, 3]]"), "row 1 has 3 cells for 2 columns")
        self.refused(self.GOOD.replace('"memory"', '"hearsay"'), "provenance 'hearsay'")
        self.refused(self.GOOD.replace("IEC 60228", "A blog"), "not in the list of known publications")
        self.refused(self.GOOD.replace('"x", "y"', '"x", "x"'), "names a column twice")
        self.refused(self.GOOD.replace('publication = "IEC 60228"\n', ""), "lacks 'publication'")
        self.refused("[[table]\n", "is not TOML")

    def test_what_is_loaded_cannot_be_written_in(self) -> None:
        with self.assertRaises(TypeError):
            UK.tables["uk.cg.bunched"] = UK.tables["uk.cg.bunched"]  # type: ignore[index]


def _named(prefix: str) -> list[Table]:
    return [table for name, table in UK.tables.items() if name.startswith(prefix)]


if __name__ == "__main__":
    unittest.main()
