"""One more point: the textbook cases of each standard, as the circuits are typed."""

from __future__ import annotations

import unittest
from dataclasses import replace
from functools import cache
from typing import Any

from tests.browser.test_testing import house
from tests.core.plan.test_generated_houses import CIRCUITS, SYSTEMS
from vivid_lattice.core.actions.enter_line import enter_and_design
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Device, Job, with_circuit
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.extension.candidates import Place, candidates
from vivid_lattice.core.extension.decision import ExtensionDecision, decide
from vivid_lattice.core.extension.wanted import Host, WantedPoint
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.rules.extension_rules import Found
from vivid_lattice.demo import demo_job

RING, RADIAL, LIGHTS, COOKER = "c1", "c2", "c3", "c4"
DESK = WantedPoint(name="Desk", kind="double-socket", length_m=5.0, concealed_in="wall", depth_mm=30.0)


@cache
def british() -> Job:
    return house("kitchen ring 40m", "sockets 20A radial 25m", "lights 30m", "cooker 32A 12m")


def without_rcd(job: Job, circuit: str) -> Job:
    """An old circuit: a plain breaker of the same rating."""
    of = job.circuit(circuit)
    assert isinstance(of.device, Device)
    old = of.device.model_copy(update={"kind": "mcb", "rcd": None, "switches_neutral": None})
    return with_circuit(job, of.model_copy(update={"device": old}))


def said(decision: ExtensionDecision) -> str:
    return " | ".join(str(each) for each in (*decision.reasons, "→", *decision.instead))


class Ring(unittest.TestCase):
    """On-Site Guide, Appendix H; uk.runs.ex.spur-count."""

    def on_ring(
        self, found: Found = "ring", outlets: int | None = 8, spurs: int | None = 7, **more: Any
    ) -> ExtensionDecision:
        wanted = replace(DESK, **more)
        host = Host(circuit=RING, found=found, outlets_on_ring=outlets, spurs=spurs)
        return decide(british(), host, wanted)

    def test_as_many_spurs_as_outlets_and_no_more(self) -> None:
        one_more, two_more = self.on_ring(), self.on_ring(spurs=8)
        self.assertEqual((one_more.allowed, one_more.way), (True, "unfused-spur"))
        self.assertIs(two_more.allowed, False)
        self.assertIn("9 unfused spurs (maximum 8", said(two_more))
        self.assertIn("Fused spur", said(two_more))

    def test_a_fused_spur_does_not_count(self) -> None:
        fused = self.on_ring(spurs=8, fused=True, area_mm2=1.5)
        self.assertEqual((fused.allowed, fused.way), (True, "fused-spur"))
        self.assertIn("minimum 1.5 mm²", said(self.on_ring(fused=True, area_mm2=1.0)))

    def test_what_was_not_counted_is_no_pass(self) -> None:
        for unknown in (self.on_ring(spurs=None), self.on_ring(outlets=None)):
            self.assertIsNone(unknown.allowed)
            self.assertIn("not known", said(unknown))
        self.assertIsNone(self.on_ring(concealed_in=None).allowed)

    def test_boxes_that_take_no_spur(self) -> None:
        for found, words in (
            ("ring-with-spur", "three conductors are in its terminals"), ("spur-end", "one single or double outlet"),
            ("spur-middle", "a fault already"), ("not-proven", "not been confirmed"), ("radial-end", "another kind of circuit"),
        ):  # fmt: skip
            with self.subTest(found=found):
                decision = self.on_ring(found)  # type: ignore[arg-type]
                self.assertIs(decision.allowed, False)
                self.assertIn(words, said(decision))
                self.assertTrue(decision.instead)
                self.assertIsNone(decision.job)

    def test_not_proven_gives_the_steps_of_proving(self) -> None:
        steps = [str(each) for each in self.on_ring("not-proven").steps]
        self.assertTrue(any("end to end" in each for each in steps))
        self.assertFalse(any("Connect the new point" in each for each in steps))

    def test_two_outlets_on_one_unfused_spur_are_refused(self) -> None:
        two = WantedPoint(name="Desk", kind="socket", length_m=5.0, concealed_in="wall", outlets=2)
        host = Host(circuit=RING, found="ring", outlets_on_ring=8, spurs=1)
        self.assertIn("one single or double outlet", said(decide(british(), host, two)))

    def test_a_long_spur_fails_by_its_voltage_drop_and_says_so(self) -> None:
        long = self.on_ring(length_m=80.0)
        self.assertIs(long.allowed, False)
        self.assertIn("Voltage drop", said(long))
        drop = next(each for each in long.effects if each.check == "voltage-drop")
        assert drop.value_before is not None and drop.value_now is not None
        self.assertGreater(drop.value_now, drop.value_before)

    def test_a_thinner_cable_without_a_fuse_is_refused(self) -> None:
        self.assertIn("minimum 2.5 mm²", said(self.on_ring(area_mm2=1.5)))

    def test_a_steady_load_is_kept_off_the_ring(self) -> None:
        heater = self.on_ring(kind="fixed", power_w=2500.0)
        self.assertIn("2500 W", said(heater))
        self.assertIn("own circuit", said(heater))
        self.assertIsNot(self.on_ring(kind="fixed", power_w=2000.0).allowed, False)

    def test_the_order_is_dead_end_first_and_the_ring_is_tested(self) -> None:
        decision = self.on_ring()
        steps = [str(each) for each in decision.steps]
        far, host = (
            next(n for n, each in enumerate(steps) if words in each)
            for words in ("new point first", "existing box last")
        )
        dead, live = (next(n for n, each in enumerate(steps) if each.startswith(words)) for words in ("Dead", "Live"))
        self.assertLess(far, host)
        self.assertLess(host, dead)
        self.assertLess(dead, live)
        self.assertTrue(any("cross-connected" in str(each) for each in decision.tests))

    def test_it_is_added_as_a_spur(self) -> None:
        made = self.on_ring().job
        assert made is not None
        [spur] = made.circuit(RING).spurs
        self.assertEqual((spur.name, spur.length_m, spur.area_mm2, spur.fuse_a), ("Desk", 5.0, 2.5, None))


class Radial(unittest.TestCase):
    """Ends and middles of radial circuits, in every standard."""

    def test_the_end_of_a_radial_is_extended_with_its_own_size(self) -> None:
        decision = decide(british(), Host(circuit=RADIAL, found="radial-end"), DESK)
        self.assertEqual((decision.allowed, decision.way), (True, "extend"))
        assert decision.job is not None
        self.assertEqual(decision.job.circuit(RADIAL).run[-1].length_m, 5.0)
        thin = decide(british(), Host(circuit=RADIAL, found="radial-end"), WantedPoint(name="Desk", kind="socket", length_m=5, concealed_in="wall", area_mm2=1.5))  # fmt: skip
        self.assertIn("minimum 2.5 mm²", said(thin))

    def test_a_circuit_of_one_load_is_no_host(self) -> None:
        self.assertIn("one load", said(decide(british(), Host(circuit=COOKER, found="radial-end"), DESK)))

    def test_a_light_needs_its_power_and_goes_on_a_lighting_circuit(self) -> None:
        unknown = WantedPoint(name="Porch", kind="light", length_m=4.0, concealed_in="floor-or-ceiling")
        self.assertIsNone(decide(british(), Host(circuit=LIGHTS, found="radial-end"), unknown).allowed)
        known = WantedPoint(name="Porch", kind="light", length_m=4.0, concealed_in="floor-or-ceiling", power_w=12.0)
        self.assertIs(decide(british(), Host(circuit=LIGHTS, found="radial-middle"), known).allowed, True)

    def test_behind_a_connection_unit_the_load_is_asked(self) -> None:
        decision = decide(british(), Host(circuit=RADIAL, found="fused-load"), DESK)
        self.assertIsNone(decision.allowed)
        self.assertIn("within its fuse", said(decision))

    def test_in_every_standard_a_radial_end_and_no_ring_where_there_is_none(self) -> None:
        for standard, lines in CIRCUITS.items():
            with self.subTest(standard=standard):
                job = begin("House", rule_set(standard), SYSTEMS[standard])  # type: ignore[arg-type]
                sockets = lines[0].replace(" ring", " 20A radial") if standard == "uk" else lines[0]
                for line in (f"{sockets} 15m", f"{lines[1]} 15m"):
                    job = enter_and_design(job, line, "main").job
                of = job.circuits[0].id
                decision = decide(job, Host(circuit=of, found="radial-end"), DESK)
                # In North America the room decides whether an arc-fault device is needed: not stated, it is no pass.
                self.assertIs(decision.allowed, None if standard == "na" else True, said(decision))
                self.assertTrue(decision.effects and decision.steps and decision.tests)
                self.assertIs(decide(job, Host(circuit=of, found="not-proven"), DESK).allowed, False)
                if standard != "uk":
                    with self.assertRaises(NotPossible):
                        decide(job, Host(circuit=of, found="ring"), DESK)

    def test_an_old_circuit_without_rcd_is_refused_with_both_ways_out(self) -> None:
        old = without_rcd(british(), RADIAL)
        decision = decide(old, Host(circuit=RADIAL, found="radial-end"), DESK)
        self.assertIs(decision.allowed, False)
        self.assertIn("RCBO for this circuit", said(decision))
        self.assertIn("before the new cable", said(decision))

    def test_a_circuit_that_is_not_there_is_told(self) -> None:
        with self.assertRaisesRegex(NotPossible, "Kitchen ring"):
            decide(british(), Host(circuit="c9", found="ring"), DESK)


class Candidates(unittest.TestCase):
    """Where a point could be joined."""

    def test_without_a_plan_each_circuit_that_fits_once(self) -> None:
        found = candidates(british(), "double-socket")
        self.assertEqual([(each.circuit, each.found) for each in found], [(RING, "ring"), (RADIAL, "radial-end")])
        self.assertEqual([each.circuit for each in candidates(british(), "light")], [LIGHTS])
        self.assertTrue(all(each.length_m is None for each in found))

    def test_on_a_plan_the_nearest_box_first(self) -> None:
        job = demo_job("millrace")
        found = candidates(job, "socket", Place(room="kitchen", wall="back", along_m=0.5))
        lengths = [each.length_m for each in found if each.length_m is not None]
        self.assertEqual(lengths, sorted(lengths))
        self.assertEqual(found[0].box, "kitchen-socket-1")
        self.assertIsNone(found[-1].length_m, "a circuit that is not on the plan comes last")
        lights = candidates(job, "light", Place(room="kitchen", wall="back", along_m=0.5))
        self.assertEqual({each.found for each in lights}, {"radial-end", "radial-middle"})
