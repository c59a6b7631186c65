"""What happens when: voltages and currents against circuits solved by hand, and each event's devices by reasoning."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import circuit as plain
from tests.builders import cutout, flat, job, laid, mcb, rcbo, supply, two_boards
from tests.texts import ids
from vivid_lattice.core.document.energy_source import StandbySupply
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job, JobInfo, Load, SharedRcd, Way
from vivid_lattice.core.document.local_earthing import LocalEarthing
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.readings import Reading, ReadingSubject, Testing
from vivid_lattice.core.document.surge_and_relay import Spd, VoltageRelay
from vivid_lattice.core.errors import NeedsInput, OutOfRange
from vivid_lattice.core.faults.engine import run_event
from vivid_lattice.core.faults.event import KIND_FIELDS, FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.faults.nodal_analysis import ImpedanceNetwork
from vivid_lattice.core.faults.result_types import FaultResult
from vivid_lattice.core.faults.trip_causes import PossibleCause, possible_causes
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.network.island import Island
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_job


def story(of: Job, kind: str, **more: Any) -> FaultResult:
    return describe(of, FaultEvent.model_validate({"kind": kind} | more))


def openers(found: FaultResult) -> set[str]:
    """Devices that open, or may, in the first stage."""
    return {one.device for one in found.stages[0].openings}


def heater(watts: float, **more: Any) -> Circuit:
    parts: dict[str, Any] = {"loads": (Load(name="Heater", kind="heater", power_w=watts),), "run": (laid(0.001),)}
    return plain(**(parts | more))


def two_groups(*, ahead: bool = False) -> Job:
    """Four circuits, two behind each of two shared devices; with ``ahead`` a fifth ahead of both."""
    held = [heater(500.0 * n, id=f"c{n}", name=f"Heater {n}", device=mcb(16.0)) for n in range(1, 6 if ahead else 5)]
    made = job(*held)
    rcds = tuple(SharedRcd(id=name, name=name, rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for name in ("r1", "r2"))
    groups = {"c1": "r1", "c2": "r1", "c3": "r2", "c4": "r2"}
    ways = tuple(way.model_copy(update={"rcd": groups.get(way.circuit)}) for way in made.boards[0].ways)
    return made.model_copy(update={"boards": (made.boards[0].model_copy(update={"shared_rcds": rcds, "ways": ways}),)})


class ByHand(unittest.TestCase):
    """Published arithmetic of lost neutrals and touch voltages; physics, as in the reference's worked examples."""

    def test_three_lines_without_their_neutral(self) -> None:
        # 3000, 1500 and 400 W at 230 V: 141.05, 261.68 and 322.65 V; the star point stands at 106.11 V.
        cable = Cable(type="sheathed-pvc", area_mm2=2.5, cpc="core")
        held = [
            heater(watts, id=f"c{n}", name=f"H{n}", cable=cable, lines=(f"L{n}",), device=rcbo(16.0))
            for n, watts in ((1, 3000.0), (2, 1500.0), (3, 400.0))
        ]
        made = job(
            *held,
            job=JobInfo(title="Star", rules="iec"),
            supply=supply(system="TN-S", phases=3, cutout=None, ze_ohm=0.02, fault_current_ka=20.0),
        )
        run = run_event(made, FaultEvent(kind="open-neutral", running=1.0))
        for n, volts in ((1, 141.05), (2, 261.68), (3, 322.65)):
            self.assertAlmostEqual(abs(run.first_least.volt(f"c{n}.L{n}.E", f"c{n}.N.E")), volts, delta=0.6)
        self.assertAlmostEqual(abs(run.first_least.volt("main.N")), 106.11, delta=0.6)

    def test_a_split_phase_without_its_neutral(self) -> None:
        # 300 W on one side and 1200 W on the other share 240 V as 192 and 48 V.
        nm = Cable(type="nm", area_mm2=rule_set("na").cables.kind("nm").sizes_mm2[0], cpc="included")
        held = [
            heater(watts, id=f"c{n}", name=f"H{n}", cable=nm, lines=(f"L{n}",), run=(laid(0.001, "cable"),), device=Device(kind="breaker", rating_a=20.0))
            for n, watts in ((1, 300.0), (2, 1200.0))
        ]  # fmt: skip
        ahead = supply(
            phases=2, nominal_v=120.0, cutout=None, ze_ohm=0.05, fault_current_ka=5.0, tails=None, earthing=None
        )
        made = job(*held, job=JobInfo(title="Split", rules="na"), supply=ahead)
        # So large an electrode resistance that the ground carries nothing worth counting.
        run = run_event(made, FaultEvent(kind="open-neutral", running=1.0, electrode_ohm=5000.0))
        for n, volts in ((1, 192.0), (2, 48.0)):
            self.assertAlmostEqual(abs(run.first_least.volt(f"c{n}.L{n}.E", f"c{n}.N.E")), volts, delta=0.5)

    def test_an_open_pen_lifts_all_that_is_earthed(self) -> None:
        # 2300 W, 20 Ω of the house's own earth, 2 Ω at the source: 5.11 A, 102.22 V to the ground, and nothing opens.
        found = story(job(heater(2300.0)), "open-neutral", running=1.0, electrode_ohm=20.0)
        assert found.touch is not None
        self.assertAlmostEqual(found.touch.volts, 102.22, delta=1.0)
        self.assertTrue(found.touch.dangerous)
        self.assertEqual((openers(found), found.touch.seconds), (set(), None))
        self.assertTrue(any("core.fault.live.earthed" in ids(part) for part in found.still_live))

    def test_touch_voltage_is_the_protective_conductor_s_share(self) -> None:
        # U0 · R2 / Zs with the same figures as the loop check: both circuits are solved in different ways.
        made = job(plain(run=(laid(25.0),)))
        network = Installation.of(made, rule_set("uk"))
        run, zs = network.loops.run(made.circuits[0]), network.loops.far_end_ohm(made.circuits[0])
        found = story(made, "line-earth", circuit="c1", running=0.0, electrode_ohm=5000.0)
        self.assertAlmostEqual(found.fault_a_least, 230 / zs, delta=0.01 * 230 / zs)
        assert found.touch is not None
        self.assertAlmostEqual(found.touch.volts, 230 * run.r2_hot_ohm / zs, delta=1.5)

    def test_how_long_a_voltage_may_stand_goes_by_the_system(self) -> None:
        # IEC 60364-4-41, table 41.1: 0.4 s in TN, 0.2 s in TT. A device without delay opens within 0.3 s at IΔn (IEC 61008-1).
        electrode = supply(system="TT", ze_ohm=1600.0)
        held = job(plain(device=rcbo(16.0, rcd=Rcd(idn_ma=100.0))), supply=electrode)
        for made, slow in ((held, True), (job(plain()), False)):
            found = story(made, "line-earth", circuit="c1", running=0.0)
            assert found.touch is not None and found.touch.seconds is not None
            self.assertEqual((found.touch.seconds > 0.2, found.touch.dangerous), (slow, slow))

    def test_in_tt_the_electrode_takes_nearly_all(self) -> None:
        # RA 80 Ω, RB 2 Ω: If = 230/82 within the run's own resistance; the RCD alone sees enough.
        made = job(plain(), supply=supply(system="TT", ze_ohm=82.0))
        found = story(made, "line-earth", circuit="c1", running=0.0)
        self.assertAlmostEqual(found.fault_a_least, 2.8, delta=0.05)
        assert found.touch is not None
        self.assertAlmostEqual(found.touch.volts, 230 * 80 / 82, delta=1.5)
        self.assertEqual([one.part for one in found.stages[0].openings], ["residual"])

    def test_the_most_that_flows_is_what_the_rows_call_the_largest(self) -> None:
        # Nodes here, impedances added up there; between two of three lines √3/2 of the three-phase current (IEC 60909-0).
        cable = Cable(type="sheathed-pvc", area_mm2=2.5, cpc="core")
        kiln = (Load(name="Kiln", kind="heater", power_w=6000.0),)
        device = Device(kind="mcb", curve="C", rating_a=16.0, breaking_ka=10.0)
        held = plain(cable=cable, lines=("L1", "L2", "L3"), run=(laid(30.0),), device=device, loads=kiln)
        three = job(
            held,
            job=JobInfo(title="Three lines", rules="iec"),
            supply=supply(system="TN-S", phases=3, cutout=None, ze_ohm=0.2, fault_current_ka=6.0),
        )
        for made in (three, job(plain(run=(laid(35.0),)))):
            largest = Installation.of(made, rule_set(made.job.rules)).loops.far_end_fault(made.circuits[0])
            between = story(made, "line-neutral", circuit="c1", running=0.0, electrode_ohm=5000.0)
            self.assertAlmostEqual(between.fault_a_most / largest.neutral_a, 1.0, delta=0.005)
            self.assertLess(between.fault_a_least, between.fault_a_most)
            if largest.lines_a is not None:
                lines = story(made, "line-line", circuit="c1", running=0.0, electrode_ohm=5000.0)
                self.assertAlmostEqual(lines.fault_a_most / largest.lines_a, 3**0.5 / 2, delta=0.005)

    def test_currents_at_any_point_of_a_radial_and_of_a_ring(self) -> None:
        made = job(
            plain(run=(laid(40.0),)),
            plain(id="c2", name="Ring", kind="ring", loads=(), run=(laid(40.0),), device=rcbo(32.0)),
        )
        network = Installation.of(made, rule_set("uk"))
        ze = network.loops.ze_ohm()
        for name, held in (("c1", made.circuits[0]), ("c2", made.circuits[1])):
            run = network.loops.run(held)
            for at in (0.25, 0.5, 1.0):
                share = at if name == "c1" else at * (2 - at)
                found = story(made, "line-earth", circuit=name, at=at, running=0.0, electrode_ohm=5000.0)
                expected = 230 / (ze + share * run.hot_ohm)
                with self.subTest(name, at=at):
                    self.assertAlmostEqual(found.fault_a_least / expected, 1.0, delta=0.01)


class Netlists(unittest.TestCase):
    """The solver against numpy's own, and Kirchhoff."""

    @given(
        st.lists(
            st.tuples(st.integers(0, 5), st.integers(0, 5), st.floats(0.01, 1e3), st.floats(-300, 300)),
            min_size=6,
            max_size=20,
        )
    )
    @settings(max_examples=80, deadline=None)
    def test_random_circuits(self, held: list[tuple[int, int, float, float]]) -> None:
        net = ImpedanceNetwork("0")
        for number, (a, b, ohm, emf) in enumerate(held):
            net.join(f"b{number}", str(a), str(b if b != a else (a + 1) % 6), complex(ohm), complex(emf))
        solved = net.solve()
        into = np.zeros(len(net._nodes), dtype=complex)
        for branch in net.branches.values():
            amps = solved.amp(branch.name)
            into[branch.a] -= amps
            into[branch.b] += amps
        scale = max((abs(solved.amp(name)) for name in net.branches), default=1.0) + 1.0
        self.assertLess(float(np.max(np.abs(into[1:]))) / scale, 1e-6)

    def test_an_open_contact_carries_nothing_and_a_closed_one_loses_nothing(self) -> None:
        net = ImpedanceNetwork("0")
        net.join("source", "0", "a", 1 + 0j, 10 + 0j)
        net.join("contact", "a", "b")
        net.join("load", "b", "0", 9 + 0j)
        self.assertAlmostEqual(abs(net.solve().amp("contact")), 1.0, places=5)
        self.assertEqual(net.solve(["contact"]).amp("contact"), 0j)


class OnStandby(unittest.TestCase):
    """A board on its own source, which limits its current: the fault circuit against the sum of its parts, and who disconnects."""

    def island(self, **more: Any) -> Job:
        """A board on a 20 A inverter: a socket circuit, and a shed on an electrode of 40 Ω behind a feeder."""
        standby = StandbySupply(
            name="Inverter", kind="inverter", rated_a=20.0, changeover="automatic", switched_poles="all",
            neutral_earth_link="relay", electrode_ohm=60.0, fault_multiple=1.5, shutdown_s=0.3,
        ).model_copy(update=more)  # fmt: skip
        made = two_boards()
        own = LocalEarthing(kind="electrode", electrode_ohm=40.0, separation_m=5.0, feeder_earth_connected=False)
        main, sub = made.boards
        near = plain(id="near", name="Near", device=mcb(16.0), run=(laid(20.0),))
        ways = (*main.ways, Way(number=2, circuit=near.id))
        boards = (main.model_copy(update={"standby": standby, "ways": ways}), sub.model_copy(update={"earthing": own}))
        return made.model_copy(update={"boards": boards, "circuits": (*made.circuits, near)})

    def test_the_current_is_that_of_the_source_or_of_the_loop(self) -> None:
        of = self.island()
        network = Installation.of(of, rule_set("uk"))
        island = Island(of, network.tree, network.loops, network.job.boards[0])
        for circuit in island.circuits():
            if circuit.kind == "distribution":
                continue
            found = story(of, "line-earth", circuit=circuit.id, standby="main", running=0.0)
            by_hand = island.earth_fault(circuit, 30.0).current_a
            self.assertAlmostEqual(found.fault_a_least, by_hand, delta=0.02 * by_hand, msg=circuit.name)
            self.assertLessEqual(found.fault_a_most, 30.0 + 1e-6)

    def test_through_the_ground_it_is_the_two_electrodes(self) -> None:
        behind = next(way.circuit for way in self.island().boards[1].ways)
        found = story(self.island(), "line-earth", circuit=behind, standby="main", running=0.0)
        # 230 V over 40 Ω and 60 Ω in series, and the ohm or so of the runs.
        self.assertAlmostEqual(found.fault_a_least, 230 / (40 + 60 + 0.6), delta=0.03)

    def test_a_short_circuit_stops_the_source_where_no_breaker_trips(self) -> None:
        of = self.island()
        found = story(of, "line-neutral", circuit="near", standby="main", running=0.0)
        self.assertIn("standby", openers(found))
        self.assertLessEqual(found.stages[0].until_s or 9.0, 0.3)
        # It sees the voltage that its limit leaves: 30 A through the run of a fraction of an ohm.
        seen = next(one.current_a for one in found.stages[0].openings if one.device == "standby")
        self.assertTrue(0 < seen < 30, seen)
        on_supply = story(of, "line-neutral", circuit="near", running=0.0)
        self.assertNotIn("standby", openers(on_supply))
        self.assertGreater(on_supply.fault_a_least, 10 * found.fault_a_most)
        untold = story(self.island(shutdown_s=None), "line-neutral", circuit="near", standby="main", running=0.0)
        self.assertNotIn("standby", openers(untold))
        self.assertTrue(any("core.fault.lack_shutdown" in ids(note) for note in untold.notes))

    def test_where_the_source_does_not_reach_the_lights_are_out_already(self) -> None:
        weir = demo_job("weir-cottage")
        light = next(
            circuit
            for circuit in weir.circuits
            if any(load.kind == "lamp" for load in circuit.loads) and circuit.id == "c10"
        )
        room = light.loads[0].room
        states = [
            {one.room: one.lights_out for one in story(weir, "line-earth", circuit="c12", standby=board).rooms}
            for board in (None, "sub-2")
        ]
        self.assertEqual([state[room] for state in states], ["lit", "dark"])  # type: ignore[index]

    def test_what_of_its_data_is_not_known_is_told(self) -> None:
        known = [ids(note) for note in story(self.island(), "line-neutral", circuit="near", standby="main").notes]
        of = self.island(electrode_ohm=None, fault_multiple=None)
        told = [ids(note) for note in story(of, "line-neutral", circuit="near", standby="main").notes]
        for what in ("electrode", "multiple"):
            self.assertFalse(any(f"core.fault.assumed.{what}" in each for each in known), what)
            self.assertTrue(any(f"core.fault.assumed.{what}" in each for each in told), what)

    def test_through_the_ground_an_electrode_that_is_not_known_is_asked(self) -> None:
        of = self.island(electrode_ohm=None)
        network = Installation.of(of, rule_set("uk"))
        island = Island(of, network.tree, network.loops, network.job.boards[0])
        with self.assertRaises(NeedsInput) as asked:
            island.earth_fault(of.circuit(of.boards[1].ways[0].circuit), 30.0)
        self.assertEqual([need.path for need in asked.exception.needs], ["boards.standby.electrode_ohm"])

    def test_every_current_is_lower_in_the_ratio_of_the_limit(self) -> None:
        net = ImpedanceNetwork("0")  # type: ignore[arg-type]
        net.join("source", "0", "a", 0.01 + 0j, 230.0 + 0j)  # type: ignore[arg-type]
        net.join("fault", "a", "0", 1.0 + 0j)  # type: ignore[arg-type]
        net.join("load", "a", "0", 10.0 + 0j)  # type: ignore[arg-type]
        free = net.solve()
        net.limit = ("source",), 30.0  # type: ignore[assignment]
        held = net.solve()
        self.assertAlmostEqual(abs(held.amp("source")), 30.0)  # type: ignore[arg-type]
        for branch in ("fault", "load"):
            self.assertAlmostEqual(held.amp(branch) / free.amp(branch), held.share)  # type: ignore[arg-type]
        net.limit = ("source",), 1e6  # type: ignore[assignment]
        self.assertEqual(net.solve().share, 1.0)

    def test_what_cannot_be_is_said(self) -> None:
        weir = demo_job("weir-cottage")
        with self.assertRaisesRegex(OutOfRange, "not supplied by"):
            story(weir, "line-earth", circuit="c2", standby="sub-2")
        with self.assertRaisesRegex(OutOfRange, "no standby supply"):
            story(weir, "line-earth", circuit="c2", standby="main")
        with self.assertRaisesRegex(OutOfRange, "not joined"):
            story(self.island(neutral_earth_link="none"), "line-earth", circuit="near", standby="main")
        with self.assertRaises(NeedsInput):
            story(self.island(rated_a=None), "line-earth", circuit="near", standby="main")


class WhoOpens(unittest.TestCase):
    """Each event, and the devices it opens by reasoning."""

    def test_short_circuits_and_faults_open_the_circuit_s_own_device(self) -> None:
        made = job(plain(), plain(id="c2", name="Other"))
        for kind in ("line-neutral", "line-earth", "nail"):
            found = story(made, kind, circuit="c1")
            self.assertEqual((openers(found), found.circuits_lost), ({"c1"}, ("c1",)), kind)
            assert found.heat is not None
            self.assertTrue(found.heat.enough)

    def test_an_overload_opens_late_and_only_above_what_the_device_carries(self) -> None:
        made = job(heater(100.0))
        late = story(made, "overload", circuit="c1", amps=16 * 1.5, running=0.0).stages[0].openings[0]
        self.assertTrue(late.certain and (late.earliest_s or 0) > 60 and (late.latest_s or 1e9) <= 3600)
        self.assertEqual(openers(story(made, "overload", circuit="c1", amps=16 * 1.1, running=0.0)), set())

    def test_that_a_standby_source_gives_less_is_told_where_it_may_supply(self) -> None:
        weir = demo_job("weir-cottage")
        for circuit, told in (("c12", True), ("c2", False)):
            notes = story(weir, "line-earth", circuit=circuit).notes
            self.assertEqual(any("core.fault.note.standby" in ids(note) for note in notes), told, circuit)

    def test_leakage_by_size_and_waveform(self) -> None:
        made = job(heater(100.0, device=rcbo(16.0, rcd=Rcd(idn_ma=30.0, type="A"))))
        self.assertEqual(openers(story(made, "leakage", circuit="c1", milliamps=14.0, running=0.0)), set())
        may = story(made, "leakage", circuit="c1", milliamps=20.0, running=0.0)
        self.assertEqual((openers(may), may.circuits_lost, may.circuits_maybe_lost), ({"c1"}, (), ("c1",)))
        self.assertEqual(story(made, "leakage", circuit="c1", milliamps=35.0).circuits_lost, ("c1",))
        self.assertEqual(
            story(made, "leakage", circuit="c1", milliamps=45.0, waveform="pulsating").circuits_lost, ("c1",)
        )
        smooth = story(made, "leakage", circuit="c1", milliamps=45.0, waveform="smooth")
        self.assertEqual(smooth.circuits_lost, ())
        self.assertTrue(any("core.fault.note.blinded" in ids(note) for note in smooth.notes))
        type_b = job(heater(100.0, device=rcbo(16.0, rcd=Rcd(idn_ma=30.0, type="B"))))
        self.assertEqual(
            story(type_b, "leakage", circuit="c1", milliamps=61.0, waveform="smooth").circuits_lost, ("c1",)
        )

    def test_a_neutral_on_the_wrong_bar_opens_both_devices_or_the_one(self) -> None:
        self.assertEqual(
            openers(story(two_groups(), "neutral-wrong-bar", circuit="c1", other="c3")), {"main:r1", "main:r2"}
        )
        self.assertEqual(openers(story(two_groups(), "neutral-wrong-bar", circuit="c1")), {"main:r1"})
        # Ahead of the devices with its neutral behind one: that one alone sees it.
        self.assertEqual(
            openers(story(two_groups(ahead=True), "neutral-wrong-bar", circuit="c5", other="c1")), {"main:r1"}
        )
        rcbos = job(heater(1000.0, device=rcbo(16.0)), heater(1000.0, id="c2", name="Other", device=rcbo(16.0)))
        self.assertEqual(openers(story(rcbos, "neutral-wrong-bar", circuit="c1", other="c2")), {"c1", "c2"})

    def test_nothing_shows_while_nothing_draws(self) -> None:
        for kind, more in (
            ("neutral-wrong-bar", {"circuit": "c1", "other": "c3"}),
            ("rcd-neutral-crossed", {"rcd": "main:r1"}),
        ):
            found = story(two_groups(), kind, running=0.0, **more)
            self.assertEqual((openers(found), found.circuits_lost), (set(), ()), kind)

    def test_swapped_and_crossed_neutrals_and_a_borrowed_one(self) -> None:
        swapped = story(two_groups(), "neutrals-swapped", rcd="main:r1", other_rcd="main:r2")
        self.assertEqual(openers(swapped), {"main:r1", "main:r2"})
        self.assertEqual(openers(story(two_groups(), "rcd-neutral-crossed", rcd="main:r2")), {"main:r2"})
        self.assertEqual(
            openers(story(two_groups(), "borrowed-neutral", circuit="c1", other="c3")), {"main:r1", "main:r2"}
        )
        # Within one group it stays unseen.
        self.assertEqual(openers(story(two_groups(), "borrowed-neutral", circuit="c1", other="c2")), set())

    def test_a_neutral_that_touches_earth(self) -> None:
        self.assertEqual(openers(story(two_groups(), "neutral-earth", circuit="c3")), {"main:r2"})

    def test_a_relay_opens_for_a_wandering_supply_and_nothing_else_does(self) -> None:
        made = job(heater(100.0))
        relay = VoltageRelay(rating_a=100.0, over_v=265.0, under_v=190.0, over_s=0.2, under_s=1.0)
        watched = made.model_copy(update={"boards": (made.boards[0].model_copy(update={"voltage_relay": relay}),)})
        self.assertEqual(openers(story(made, "voltage", volts=280.0)), set())
        found = story(watched, "voltage", volts=280.0)
        self.assertEqual((openers(found), found.circuits_lost), ({"relay:main"}, ("c1",)))
        self.assertEqual(found.stages[0].openings[0].latest_s, 0.2)
        self.assertEqual(openers(story(watched, "voltage", volts=250.0)), set())
        self.assertEqual(story(watched, "voltage", volts=150.0).stages[0].openings[0].latest_s, 1.0)

    def test_a_surge_with_and_without_a_device(self) -> None:
        made = job()
        device = Spd(id="s", name="Surge device", type="2", up_kv=1.4, leads_m=0.5)
        held = made.model_copy(update={"boards": (made.boards[0].model_copy(update={"spds": (device,)}),)})
        self.assertIn("core.fault.outcome.surge_none_over", ids(story(made, "surge").outcome))
        self.assertIn("Surge limited to 1.9 kV", str(story(held, "surge").outcome))

    def test_a_loose_clamp_heats_and_nothing_opens(self) -> None:
        made = job(heater(3000.0))
        found = story(made, "loose-terminal", circuit="c1", ohm=0.2, running=1.0)
        # 13 A through 0.2 Ω are 34 W, less what the clamp itself takes off the current.
        self.assertRegex(str(found.outcome), r"3[234](\.\d)? W")
        self.assertIn("core.fault.outcome.chars", ids(found.outcome))
        self.assertEqual(openers(found), set())

    def test_a_feeder_that_may_open_too_darkens_the_rest_perhaps(self) -> None:
        found = story(demo_job("millrace"), "line-neutral", circuit="c13", at=0.0)
        self.assertEqual((found.circuits_lost, set(found.circuits_maybe_lost)), (("c13",), {"c14", "c15", "c16"}))
        rooms = {room.room: room for room in found.rooms}
        self.assertEqual((rooms["studio"].lights_out, rooms["kitchen"].lights_out), ("perhaps", "lit"))
        self.assertEqual(rooms["kiln-room"].certainly, ("Kiln",))

    def test_every_device_that_may_open_before_the_first_surely_has_is_told(self) -> None:
        # B32 at 120 A takes 41 s at the latest; its C50 feeder may open from 4.5 s on (IEC 60898-1 bands).
        for amps, devices in ((80.0, ["c13"]), (120.0, ["c13", "c12"])):
            found = story(demo_job("millrace"), "overload", circuit="c13", amps=amps, running=0.0)
            with self.subTest(amps):
                self.assertEqual([one.device for one in found.stages[0].openings], devices)
                self.assertEqual(bool(found.circuits_maybe_lost), len(devices) > 1)

    def test_without_any_protection_that_sees_it_the_touch_voltage_stays(self) -> None:
        made = job(plain(device=mcb(16.0)), supply=supply(system="TT", ze_ohm=82.0))
        found = story(made, "line-earth", circuit="c1")
        assert found.touch is not None
        self.assertEqual((openers(found), found.touch.seconds, found.touch.dangerous), (set(), None, True))
        self.assertTrue(any("core.fault.next.not_cleared" in ids(step) for step in found.next_steps))


class Laws(unittest.TestCase):
    """What holds for any size of event."""

    @given(st.floats(1.0, 200.0), st.floats(1.0, 200.0), st.sampled_from(["ac", "pulsating"]))
    @settings(max_examples=25, deadline=None)
    def test_more_leakage_never_opens_less_surely_or_later(self, one: float, other: float, waveform: str) -> None:
        made = job(heater(100.0, device=rcbo(16.0)))
        less, more = (
            story(made, "leakage", circuit="c1", milliamps=amps, waveform=waveform, running=0.0)
            for amps in sorted((one, other))
        )
        self.assertLessEqual(set(less.circuits_lost), set(more.circuits_lost))
        self.assertLessEqual(openers(less), openers(more))
        if less.circuits_lost:
            late = [found.stages[0].openings[0].latest_s or 0.0 for found in (less, more)]
            self.assertGreaterEqual(late[0], late[1])

    @given(st.floats(1.0, 30.0), st.floats(1.0, 30.0))
    @settings(max_examples=25, deadline=None)
    def test_more_overload_opens_no_later(self, one: float, other: float) -> None:
        made = job(heater(100.0))
        spans = []
        for times in sorted((one, other)):
            held = story(made, "overload", circuit="c1", amps=16.0 * times, running=0.0).stages[0].openings
            own = next((opening for opening in held if opening.device == "c1"), None)
            never = float("inf")
            spans.append(
                (never, never)
                if own is None
                else (own.earliest_s or 0.0, never if own.latest_s is None else own.latest_s)
            )
        self.assertGreaterEqual(spans[0][0], spans[1][0])
        self.assertGreaterEqual(spans[0][1], spans[1][1])

    @given(st.floats(0.05, 1.0), st.floats(0.05, 1.0), st.sampled_from(["line-neutral", "line-earth"]))
    @settings(max_examples=25, deadline=None)
    def test_further_out_less_flows(self, one: float, other: float, kind: str) -> None:
        made = job(plain(run=(laid(40.0),)))
        near, far = (story(made, kind, circuit="c1", at=at, running=0.0) for at in sorted((one, other)))
        self.assertGreaterEqual(near.fault_a_most, far.fault_a_most - 1e-6)
        self.assertGreaterEqual(near.fault_a_least, far.fault_a_least - 1e-6)
        for found in (near, far):
            self.assertLessEqual(found.fault_a_least, found.fault_a_most + 1e-6)
            for opening in found.stages[0].openings:
                if opening.latest_s is not None:
                    self.assertLessEqual(opening.earliest_s or 0.0, opening.latest_s)

    @given(st.integers(0, 3), st.integers(0, 3), st.floats(0.2, 1.0))
    @settings(max_examples=25, deadline=None)
    def test_a_neutral_on_another_bar_opens_just_the_devices_whose_sums_it_spoils(
        self, one: int, other: int, running: float
    ) -> None:
        # A circuit's return current leaves through another device: both see it; on its own bar nothing is wrong.
        made, groups = two_groups(), ("main:r1", "main:r1", "main:r2", "main:r2")
        if one == other:
            return
        event = {"circuit": f"c{one + 1}", "other": f"c{other + 1}", "running": running}
        spoiled = set() if groups[one] == groups[other] else {groups[one], groups[other]}
        try:
            self.assertEqual(openers(story(made, "neutral-wrong-bar", **event)), spoiled)
        except OutOfRange:
            self.assertEqual(spoiled, set())  # the same bar is no wrong one


class Asked(unittest.TestCase):
    """What is missing or not there is named."""

    def test_every_kind_of_event_runs_on_every_demo_or_says_what_it_lacks(self) -> None:
        for name in DEMOS:
            made = demo_job(name)
            final = [circuit for circuit in made.circuits if circuit.kind != "distribution"]
            if not final:
                continue  # an old board that is only surveyed yet
            places = [place.id for place in Installation.of(made, rule_set(made.job.rules)).rcds.all]
            for kind in KIND_FIELDS:
                event = FaultEvent(kind=kind, circuit=final[0].id, other=final[1].id, rcd=next(iter(places), None), other_rcd=places[-1] if len(places) > 1 else None)  # fmt: skip
                with self.subTest(name, kind=kind):
                    try:
                        found = describe(made, event)
                    except (NeedsInput, OutOfRange) as refused:
                        self.assertTrue(str(refused))
                        continue
                    self.assertTrue(found.outcome and str(found.next_steps[0]).startswith("Work dead"))
                    self.assertEqual(found, describe(made, event))

    def test_what_is_not_there_is_refused(self) -> None:
        for kind, more, said in (
            ("line-neutral", {"circuit": "c9"}, "No circuit “c9”"), ("line-line", {"circuit": "c1"}, "on two phases or more"),
            ("rcd-neutral-crossed", {"rcd": "main:r9"}, "No RCD “main:r9”"),
            ("line-earth", {"circuit": "c1", "line": "L2"}, "No L2 on Heater"),
        ):  # fmt: skip
            with self.assertRaisesRegex(OutOfRange, said):
                story(job(), kind, **more)
        with self.assertRaises(NeedsInput):
            story(job(), "line-earth")
        with self.assertRaises(NeedsInput):
            story(job(supply=supply(fault_current_ka=None)), "line-earth", circuit="c1")
        with self.assertRaises(NeedsInput):
            story(job(plain(run=(laid(None),))), "line-earth", circuit="c1")


class Causes(unittest.TestCase):
    """What it probably was."""

    def test_suspects_open_the_device_and_what_ran_comes_first(self) -> None:
        made = two_groups()
        found = possible_causes(made, "main:r2", ["c3"])
        self.assertEqual(found[0].event.circuit, "c3")
        self.assertLessEqual(sum(one.likelihood_pct for one in found), 100.0 + 1e-6)
        for one in found:
            self.assertIn("main:r2", openers(describe(made, one.event)), one.title)
            self.assertTrue(one.reason and one.how_to_check)

    def test_readings_since_the_trip_count_and_those_before_do_not(self) -> None:
        made = two_groups()
        before = {(one.event.kind, one.event.circuit): one.likelihood_pct for one in possible_causes(made, "main:r2")}

        def read(at: str, since: str = "2026-11-30T12:00") -> dict[tuple[str, str | None], PossibleCause]:
            readings = tuple(
                Reading(id=f"r{number}", test=test, subject=ReadingSubject(kind="circuit", id=circuit), at=at, **facts)
                for number, (test, circuit, facts) in enumerate(
                    (
                        ("ir_le", "c3", {"value": 0.2}),
                        ("ir_ln", "c3", {"state": "above-range", "value": 200.0}),
                        ("ir_ne", "c3", {"state": "above-range", "value": 200.0}),
                        ("ir_le", "c4", {"state": "above-range", "value": 200.0}),
                    )
                )
            )
            after = made.model_copy(update={"testing": Testing(readings=readings)})
            found = possible_causes(after, "main:r2", since=since)
            return {(one.event.kind, one.event.circuit): one for one in found}

        after = read("2026-11-30T14:00")
        self.assertGreater(after["line-earth", "c3"].likelihood_pct, 2 * before["line-earth", "c3"])
        self.assertIn("The readings since point to it", str(after["line-earth", "c3"].reason))
        sound = after.get(("line-earth", "c4"))
        self.assertLess(0.0 if sound is None else sound.likelihood_pct, before["line-earth", "c4"] / 2)
        earlier = read("2026-11-30T09:00")
        self.assertEqual({name: one.likelihood_pct for name, one in earlier.items()}, before)

    def test_a_breaker_without_a_residual_part_is_no_suspect_of_leakage(self) -> None:
        kinds = {
            one.event.kind
            for one in possible_causes(job(plain(device=mcb(16.0)), supply=supply(cutout=cutout())), "c1")
        }
        self.assertNotIn("leakage", kinds)
        self.assertIn("overload", kinds)

    def test_a_device_that_is_not_there_is_refused(self) -> None:
        with self.assertRaisesRegex(OutOfRange, "No device “nowhere”"):
            possible_causes(job(plain(cable=flat(2.5))), "nowhere")


if __name__ == "__main__":
    unittest.main()
