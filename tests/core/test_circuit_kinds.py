"""What is particular to each kind of circuit: spurs, armour and metal, motors and welders, spread and continuous loads."""

from __future__ import annotations

import unittest
from math import sqrt
from typing import Any

from tests.builders import circuit, finding, flat, job, laid, mcb, rcbo, step_result, supply
from tests.texts import keys
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import SIZING
from vivid_lattice.core.document.job import Cable, Circuit, Job, JobInfo, Load, Section, Spur
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.loops import Loops
from vivid_lattice.core.rules import rule_set


def loops(made: Job) -> Loops:
    return Installation.of(made, rule_set(made.job.rules)).loops


def ring(*spurs: Spur) -> Circuit:
    return circuit(kind="ring", loads=(), run=(laid(60.0),), device=rcbo(32.0), spurs=spurs)


def three_phase(held: Circuit, **changed: Any) -> Job:
    """A three-phase job of one circuit, by IEC rules."""
    lines = held.model_copy(update={"lines": ("L1", "L2", "L3")})
    return job(lines, job=JobInfo(title="Three lines", rules="iec"), supply=supply(phases=3, cutout=None, **changed))


class Spurs(unittest.TestCase):
    """Branches off a ring or radial."""

    SOCKET = Spur(name="Desk", length_m=8.0, area_mm2=2.5)

    def test_the_farthest_spur_stands_at_the_ring_s_far_point(self) -> None:
        # R1+R2 of a 60 m ring of 2.5/1.5 mm²: 60 · (7.41 + 12.1)/4 mΩ; the spur adds 8 · 19.51 mΩ (IEC 60228, Table I1).
        plain, spurred = (loops(job(ring(*spurs))).run(ring(*spurs)).cold_ohm for spurs in ((), (self.SOCKET,)))
        self.assertAlmostEqual(plain, 60 * 19.51 / 4000, places=4)
        self.assertAlmostEqual(spurred - plain, 8 * 19.51 / 1000, places=4)
        self.assertGreater(
            finding(job(ring(self.SOCKET)), "disconnection").value or 0,
            finding(job(ring()), "disconnection").value or 0,
        )

    def test_a_thin_spur_is_judged_by_its_own_size_and_a_fuse_makes_it_right(self) -> None:
        thin = self.SOCKET.model_copy(update={"area_mm2": 1.0})
        unfused = finding(job(ring(thin)), "capacity")
        self.assertEqual((unfused.verdict, "Desk" in str(unfused.sentence)), ("fail", True))
        self.assertIn(
            finding(job(ring(thin.model_copy(update={"fuse_a": 3.0}))), "capacity").verdict, ("pass", "tight")
        )


class Protective(unittest.TestCase):
    """What serves as protective conductor."""

    def test_armour_carries_by_its_own_area_and_resistance(self) -> None:
        armoured = circuit(run=(laid(30.0, "D"),), cable=Cable(type="swa-xlpe", area_mm2=10.0, cpc="armour"))
        cored = circuit(run=(laid(30.0, "D"),), cable=Cable(type="swa-xlpe", area_mm2=10.0, cpc="core"))
        found = finding(job(armoured), "protective-conductor")
        self.assertEqual(found.verdict, "pass")
        # k = 46 for steel armour on 90 °C insulation: BS 7671:2018, Table 54.4 (from memory).
        self.assertEqual(step_result(found, "k"), 46.0)
        self.assertGreater(loops(job(armoured)).run(armoured).cold_ohm, loops(job(cored)).run(cored).cold_ohm)

    def test_a_conductor_beside_the_armour_shares_the_current(self) -> None:
        alone = Cable(type="swa-xlpe", area_mm2=10.0, cpc="armour")
        beside = alone.model_copy(update={"parallel_cpc_mm2": 10.0})
        ohms = [
            loops(job(held)).run(held).cold_ohm
            for held in (circuit(run=(laid(30.0, "D"),), cable=cable) for cable in (alone, beside))
        ]
        line = 1.83 * 30 / 1000
        own = ohms[0] - line
        # Two resistances in parallel; 10 mm² copper is 1.83 mΩ/m (IEC 60228).
        self.assertAlmostEqual(ohms[1] - line, own * line / (own + line), places=5)

    def test_metal_conduit_counts_by_its_measured_resistance_and_not_without(self) -> None:
        singles = circuit(run=(laid(20.0, "B"),), cable=Cable(type="single-pvc", area_mm2=2.5, cpc="metal"))
        self.assertEqual(finding(job(singles), "disconnection").verdict, "missing")
        assert not isinstance(singles.cable, str)
        measured = singles.model_copy(update={"cable": singles.cable.model_copy(update={"cpc_mohm_per_m": 2.0})})
        self.assertAlmostEqual(loops(job(measured)).run(measured).cold_ohm, 20 * (7.41 + 2.0) / 1000, places=5)


class RcdRequirement(unittest.TestCase):
    """Loads that start hard, weld now and then, or run for hours."""

    def motor(self, **more: Any) -> Circuit:
        load = Load.model_validate({"name": "Saw", "kind": "motor", "power_w": 2200.0, "power_factor": 0.85} | more)
        return circuit(loads=(load,), device=more.pop("device", mcb(16.0)))

    def test_a_start_that_opens_a_b_and_not_a_d(self) -> None:
        held = self.motor(starting_multiple=7.0)
        hard = finding(job(held), "overload")
        running = 2200 / 230 / 0.85
        # Instantaneous bands of BS EN 60898-1: B stays closed to 3 In, D to 10 In (from memory).
        self.assertEqual((hard.verdict, hard.limit), ("fail", 48.0))
        self.assertAlmostEqual(hard.value or 0, 7 * running, places=6)
        gentle = finding(job(held.model_copy(update={"device": mcb(16.0, "D")})), "overload")
        self.assertEqual((gentle.verdict, gentle.limit), ("pass", 16.0))

    def test_a_start_nobody_stated_is_assumed_and_never_more_than_advice(self) -> None:
        found = finding(job(self.motor()), "overload")
        self.assertEqual(found.verdict, "advice")
        self.assertIn("start_advice", keys(found))

    def test_a_welder_heats_by_the_root_of_its_duty(self) -> None:
        load = Load(name="Welder", kind="welder", power_w=6900.0, power_factor=1.0, duty_pct=36.0)
        held = circuit(loads=(load,), device=mcb(20.0, "D"), cable=flat(4.0))
        found = finding(job(held), "overload")
        self.assertAlmostEqual(found.value or 0, 30 * sqrt(0.36), places=6)
        full = load.model_copy(update={"duty_pct": None})
        self.assertEqual(finding(job(held.model_copy(update={"loads": (full,)})), "overload").verdict, "fail")
        # Its voltage drop is that of the whole current while it welds.
        drop = [finding(job(held.model_copy(update={"loads": (one,)})), "voltage-drop").value for one in (load, full)]
        self.assertEqual(drop[0], drop[1])

    def test_many_loads_along_a_run_lose_little_more_than_half_of_what_they_lose_at_its_end(self) -> None:
        lamps = Load(name="Lamps", kind="lamp", count=100, power_w=5.0, power_factor=1.0)
        held = circuit(kind="lighting", loads=(lamps,), device=mcb(6.0))
        end, along = (
            finding(job(held.model_copy(update={"distributed_load": spread})), "voltage-drop").value or 0
            for spread in (False, True)
        )
        self.assertAlmostEqual(along, end * 101 / 200, places=7)

    def test_a_control_circuit_is_judged_like_any_other(self) -> None:
        found = {one.check: one.verdict for one in assess(job(circuit(kind="control", loads=(
            Load(name="Relays", kind="appliance", power_w=60.0, power_factor=0.9),), device=mcb(6.0), cable=flat(1.5)))).findings
            if one.check in {check.id for check in SIZING}}  # fmt: skip
        self.assertEqual(found.pop("overload"), "pass")
        self.assertLessEqual(set(found.values()), {"pass", "tight"})

    def test_behind_a_rewirable_fuse_a_cable_carries_0_725_as_much(self) -> None:
        held = circuit(device={"kind": "fuse-bs3036", "rating_a": 15.0, "breaking_ka": 1.0})
        plain, fused = finding(job(), "capacity"), finding(job(held), "capacity")
        self.assertAlmostEqual((fused.limit or 0) / (plain.limit or 1), 0.725)


class ByDevice(unittest.TestCase):
    """Where drop is reckoned with the device's rating."""

    def test_without_a_device_nothing_is_said_of_the_drop(self) -> None:
        # DIN 18015-1 (from memory): voltage drop by the rating of the device. Found by hypothesis: 'auto' once passed.
        cable = Cable(type="sheathed-pvc", area_mm2=1.5, cpc="core")
        load = Load(name="Lamp", kind="lamp", power_w=100.0, power_factor=1.0)
        held = circuit(kind="lighting", loads=(load,), cable=cable, device=mcb(10.0), run=(laid(35.0),))
        german: dict[str, Any] = {"job": JobInfo(title="By device", rules="iec-de"), "supply": supply(cutout=None)}
        self.assertEqual(finding(job(held, **german), "voltage-drop").verdict, "fail")
        open_ = finding(job(held.model_copy(update={"device": "auto"}), **german), "voltage-drop")
        self.assertEqual((open_.verdict, open_.needs[0].path), ("missing", "device"))


class Lines(unittest.TestCase):
    """Circuits of several lines."""

    def test_an_even_load_needs_no_neutral_and_loses_less(self) -> None:
        load = Load(name="Oven", kind="heater", power_w=9000.0)
        cable = Cable(type="sheathed-pvc", area_mm2=4.0, cpc="core")
        even = circuit(loads=(load,), cable=cable, device=mcb(20.0))
        uneven = even.model_copy(
            update={"loads": tuple(load.model_copy(update={"name": f"On {at}", "power_w": 3000.0 * part, "lines": (at,)})
                                   for at, part in (("L1", 1.4), ("L2", 1.0), ("L3", 0.6)))}
        )  # fmt: skip
        first, second = (finding(three_phase(held), "voltage-drop").value or 0 for held in (even, uneven))
        self.assertGreater(second, 1.2 * first)

    def test_harmonics_let_the_neutral_rule(self) -> None:
        # IEC 60364-5-52, Annex E (from memory): above 33 % the size goes by the neutral, three times the third harmonic.
        def held(third: float) -> Job:
            load = Load(name="Drives", kind="appliance", power_w=10_000.0, power_factor=0.95, third_harmonic_pct=third)
            cable = Cable(type="sheathed-pvc", area_mm2=10.0, cpc="core")
            return three_phase(circuit(loads=(load,), cable=cable, device=mcb(32.0)))

        none, some, much = (finding(held(third), "capacity") for third in (0.0, 20.0, 50.0))
        self.assertAlmostEqual((some.limit or 0) / (none.limit or 1), 0.86)
        self.assertAlmostEqual(much.value or 0, 3 * 0.5 * 32)

    def test_a_multiwire_branch_on_a_split_phase_loses_only_what_is_uneven_in_its_neutral(self) -> None:
        def drop(watts: tuple[float, float]) -> float:
            loads = tuple(
                Load(name=line, kind="heater", power_w=power, lines=(line,))  # type: ignore[arg-type]
                for line, power in zip(("L1", "L2"), watts, strict=True)
            )
            held = circuit(
                lines=("L1", "L2"), loads=loads, run=(Section(length_m=30.0, method="cable"),),
                cable=Cable(type="nm", area_mm2=3.31), device={"kind": "breaker", "rating_a": 20.0, "breaking_ka": 10.0},
            )  # fmt: skip
            ahead = supply(phases=2, nominal_v=120.0, cutout=None, system="TN-C-S")
            return finding(job(held, job=JobInfo(title="Split", rules="na"), supply=ahead), "voltage-drop").value or 0

        # A line alone: there and back. Both alike: there only, nothing in the neutral. Kirchhoff.
        self.assertAlmostEqual(drop((1200.0, 1200.0)), drop((1200.0, 1e-6)) / 2, places=2)


if __name__ == "__main__":
    unittest.main()
