"""Weighing one design against another: what if, two variants, the even load of lines, a larger service, price or size."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, cutout, feeder, finding, flat, job, laid, mcb, rcbo, supply, two_boards
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.compare import compare
from vivid_lattice.core.design.larger_supply import larger_supply
from vivid_lattice.core.design.phase_balance import balanced, rebalanced
from vivid_lattice.core.design.what_if import WhatIf, moved_to, ranges, what_if
from vivid_lattice.core.document.job import Cable, Job, JobInfo, Load, Prices, Settings
from vivid_lattice.core.document.supply import PrerequisiteStatus
from vivid_lattice.core.rules import rule_set

UK = rule_set("uk")


class WhatIfs(unittest.TestCase):
    """A quantity moved until something gives way."""

    def asked(self, made: Job, quantity: Any) -> WhatIf:
        found = what_if(made, "c1", quantity)
        assert found is not None, quantity
        return found

    def test_at_the_point_named_the_check_passes_and_just_past_it_fails(self) -> None:
        made = job(circuit(run=(laid(20.0),)))
        tried = 0
        for quantity in ("length", "load", "ambient", "ze"):
            found = self.asked(made, quantity)
            span = found.range.high - found.range.low
            for curve in found.curves:
                if curve.breaks_at is None:
                    continue
                tried += 1
                with self.subTest(quantity, check=curve.check, at=curve.breaks_at):
                    for value, broken in ((curve.breaks_at, False), (curve.breaks_at + 0.01 * span, True)):
                        changed, _ = moved_to(made, made.circuits[0], found.range, value)
                        moved = moved_to(made, made.circuits[0], found.range, value)[1]
                        changed = changed.model_copy(update={"circuits": (moved,)})
                        bad = finding(changed, curve.check).verdict in ("fail", "advice", "missing")
                        self.assertEqual(bad, broken)
        self.assertEqual(tried, 4)

    def test_grouping_moves_in_whole_circuits(self) -> None:
        found = self.asked(job(circuit(device=rcbo(20.0))), "grouping")
        [capacity] = [curve for curve in found.curves if curve.check == "capacity"]
        assert capacity.breaks_at is not None
        self.assertEqual(capacity.breaks_at, int(capacity.breaks_at))
        self.assertEqual(found.values, tuple(float(at) for at in range(1, 13)))

    def test_the_first_to_give_way_is_named(self) -> None:
        found = self.asked(job(circuit(run=(laid(20.0),))), "length")
        breaking = {curve.title: curve.breaks_at for curve in found.curves if curve.breaks_at is not None}
        self.assertEqual(found.first, min(breaking, key=lambda title: breaking[title]))

    def test_what_is_not_known_cannot_be_moved(self) -> None:
        made = job(circuit(run=(laid(None),)), supply=supply(ze_ohm=None))
        self.assertEqual({one.quantity for one in ranges(made, made.circuits[0])}, {"load", "ambient", "grouping"})
        self.assertIsNone(what_if(made, "c1", "length"))
        self.assertIsNone(what_if(made, "nobody", "load"))


class Variants(unittest.TestCase):
    """Two variants of a job, in words."""

    def test_what_turns_is_named_worst_first_with_both_figures(self) -> None:
        before, after = job(), job(circuit(run=(laid(90.0),), cable=flat(4.0)))
        found = compare(before, after)
        self.assertEqual((found.verdict_before, found.verdict_after), (assess(before).verdict, "fail"))
        self.assertTrue(any("90" in str(text) for text in found.text) and any("4" in str(text) for text in found.text))
        turned = {one.check: one for one in found.changed}
        drop = turned["voltage-drop"]
        self.assertEqual((drop.after, drop.better), ("fail", False))
        self.assertIn(finding(after, "voltage-drop").shown_value, drop.figure_after)
        self.assertEqual([one.better for one in found.changed], sorted(one.better for one in found.changed))

    def test_backwards_everything_is_better(self) -> None:
        found = compare(job(circuit(run=(laid(90.0),))), job())
        self.assertTrue(found.changed and all(one.better for one in found.changed))

    def test_the_same_twice_says_nothing(self) -> None:
        found = compare(job(), job())
        self.assertEqual((found.text, found.changed), ((), ()))

    def test_another_standard_is_a_difference_like_any_other(self) -> None:
        cable = Cable(type="sheathed-pvc", area_mm2=2.5)
        other = job(
            circuit(cable=cable, device=mcb(16.0)), job=JobInfo(title="Test", rules="iec"), supply=supply(cutout=None)
        )
        self.assertTrue(compare(job(), other).text)


class EvenLines(unittest.TestCase):
    """Lines proposed so that the load is even."""

    def made(self, watts: list[int], *lines: tuple[str, ...]) -> Job:
        held = [
            circuit(
                id=f"c{at}", loads=(Load(name="Heater", kind="heater", power_w=float(power)),), device=mcb(16.0),
                cable=Cable(type="sheathed-pvc", area_mm2=2.5), lines=lines[at] if at < len(lines) else (),
            )
            for at, power in enumerate(watts)
        ]  # fmt: skip
        return job(*held, job=JobInfo(title="Even", rules="iec"), supply=supply(phases=3, cutout=None))

    def by_line(self, made: Job) -> dict[str, float]:
        sums = dict.fromkeys(("L1", "L2", "L3"), 0.0)
        for one in made.circuits:
            for line in one.lines:
                sums[line] += (one.loads[0].power_w or 0) / len(one.lines)
        return sums

    def test_the_difference_is_never_more_than_the_largest_circuit(self) -> None:
        for watts in ([3000] * 7, [3500, 100, 100, 2000, 2500, 900], [1000, 2000, 3000]):
            made, given = balanced(self.made(watts), rule_set("iec"))
            sums = self.by_line(made)
            self.assertEqual(len(given), len(watts))
            self.assertLessEqual(max(sums.values()) - min(sums.values()), max(watts))

    def test_a_stated_line_stays_and_counts(self) -> None:
        made, given = balanced(self.made([3000, 1000, 1000], ("L1",)), rule_set("iec"))
        self.assertEqual((made.circuits[0].lines, given), (("L1",), ("c1", "c2")))
        self.assertEqual({made.circuits[1].lines, made.circuits[2].lines}, {("L2",), ("L3",)})

    def test_a_feeder_goes_on_the_line_that_its_circuits_are_said_to_be_on(self) -> None:
        inside = circuit(device=mcb(16.0), lines=("L3",))
        made = two_boards(feeder(), inside, supply=supply(phases=3, cutout=None))
        done, given = balanced(made, rule_set("uk"))
        self.assertEqual(
            ({one.id: one.lines for one in done.circuits}, given), ({"f1": ("L3",), "c1": ("L3",)}, ("f1",))
        )

    def test_a_load_said_to_be_on_a_line_moves_with_its_circuit(self) -> None:
        crowded = self.made([3000, 2000], ("L1",), ("L1",))
        loads = tuple(one.model_copy(update={"lines": ("L1",)}) for one in crowded.circuits[1].loads)
        moved = rebalanced(
            crowded.model_copy(
                update={"circuits": (crowded.circuits[0], crowded.circuits[1].model_copy(update={"loads": loads}))}
            ),
            rule_set("iec"),
        )
        self.assertEqual([one.lines for one in moved.circuits], [("L1",), ("L2",)])
        self.assertEqual(finding(moved, "overload").verdict, finding(crowded, "overload").verdict)

    def test_all_on_one_line_is_spread_anew(self) -> None:
        lines = [("L1",)] * 6
        sums = self.by_line(rebalanced(self.made([2000] * 6, *lines), rule_set("iec")))
        self.assertEqual(set(sums.values()), {4000.0})


class LargerService(unittest.TestCase):
    """When the cut-out is not enough."""

    def showers(self, count: int, **changed: Any) -> Job:
        held = [circuit(id=f"c{at}", loads=(Load(name="S", kind="shower", power_w=9500.0),)) for at in range(count)]
        return job(*held, supply=supply(cutout=cutout(60.0), **changed))

    def test_nothing_is_asked_where_it_is_enough_or_not_known(self) -> None:
        self.assertIsNone(larger_supply(job()))
        self.assertIsNone(larger_supply(job(supply=supply(cutout=None))))
        # 9.5 kW of shower are 41.3 A: within a cut-out of 60 A, and past one of 40 A.
        self.assertIsNone(larger_supply(self.showers(1)))
        self.assertIsNotNone(larger_supply(job(*self.showers(1).circuits, supply=supply(cutout=cutout(40.0)))))

    def test_the_next_size_with_what_has_to_come_first(self) -> None:
        made = self.showers(2, tails={"area_mm2": 16.0, "length_m": 2.0})
        found = larger_supply(made)
        assert found is not None
        self.assertGreaterEqual(found.wanted_a, found.demand_a)
        steps = {one.id: one for one in found.prerequisites}
        self.assertEqual(next(iter(steps)), "tails")
        # 25 mm² tails and a 100 A switch before a 100 A service: common practice, no source.
        self.assertIn("25", str(steps["tails"].what))
        self.assertFalse(steps["tails"].met)
        self.assertTrue(steps["switch"].met)
        self.assertTrue(all(one.who and one.reason for one in steps.values()))
        larger = self.showers(2, tails={"area_mm2": 25.0, "length_m": 2.0})
        again = larger_supply(larger)
        assert again is not None
        self.assertTrue({one.id: one.met for one in again.prerequisites}["tails"])

    def test_past_every_fuse_another_supply_is_asked_for(self) -> None:
        found = larger_supply(self.showers(12))
        assert found is not None
        self.assertIn("three-phase", " ".join(str(one.what) for one in found.prerequisites))

    def test_dates_go_with_the_document(self) -> None:
        dated = supply(prerequisites=(PrerequisiteStatus(id="visit", due_on="2027-03-01"),))
        self.assertEqual(
            Job.model_validate_json(job(supply=dated).model_dump_json()).supply.prerequisites[0].due_on, "2027-03-01"
        )


class PriceOrSize(unittest.TestCase):
    """What the design weighs."""

    OPEN = circuit(cable="auto", device="auto", run=(laid(25.0, "C"),))

    def test_by_price_it_never_costs_more_than_by_size_and_says_why_the_others_lost(self) -> None:
        sums = {}
        for aim in ("size", "price"):
            found = design(job(self.OPEN, settings=Settings(design_for=aim)))  # type: ignore[arg-type]
            [cable] = [one for one in found.decisions if one.what == "cable"]
            self.assertTrue(cable.passes)
            self.assertEqual(finding(found.job, "capacity").verdict in ("pass", "tight"), True)
            self.assertTrue(all(one.reason for one in cable.runners))
            sums[aim] = cable.cost
        self.assertLessEqual(sums["price"], sums["size"])

    def test_dear_copper_never_chooses_more_of_it(self) -> None:
        def area(price: float) -> float:
            wishes = {"settings": Settings(design_for="price"), "prices": Prices(copper_per_kg=price, cable_per_m=0.0)}
            cable = design(job(self.OPEN, **wishes)).job.circuits[0].cable
            assert not isinstance(cable, str)
            return cable.area_mm2

        self.assertLessEqual(area(100.0), area(0.01))

    def test_a_feeder_leaves_half_of_the_drop_to_what_it_feeds(self) -> None:
        made = two_boards(circuit(id="f1", name="Feeder", kind="distribution", loads=(), run=(laid(60.0, "D"),),
                                  cable="auto", device=mcb(40.0, "C")), self.OPEN)  # fmt: skip
        found = design(made)
        self.assertLessEqual(finding(found.job, "voltage-drop", "f1").value or 9, 2.5)
        self.assertTrue(all(one.passes for one in found.decisions))


if __name__ == "__main__":
    unittest.main()
