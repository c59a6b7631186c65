"""Earths of their own: loops and touch voltages against circuits solved by hand, and what follows from them in each standard."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import (  # fmt: skip
    circuit,
    exported,
    feeder,
    finding,
    flat,
    job,
    laid,
    mcb,
    own_rod,
    rcbo,
    step_result,
    supply,
    two_boards,
)
from tests.core.board.made import models
from tests.core.faults.test_faults import story
from tests.texts import ids
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.isolation.live_parts import live_nets
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job, JobInfo, Load, Way
from vivid_lattice.core.document.local_earthing import LocalEarthing
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.surge_and_relay import Spd
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.faults.engine import run_event
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.formulas.open_pen import max_electrode_ohm
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.expected_readings import expected


def loops_of(of: Job) -> Installation:
    return Installation.of(of, rule_set(of.job.rules))


def of_board(of: Job, board: str = "sub") -> Finding:
    found = find(assess(of), "local-earthing", Subject("board", board))
    assert found is not None
    return found


def switchboards(earthing: LocalEarthing, rules: str = "anz", **more: Any) -> Job:
    """A submain of 25 m in Australia, with an RCBO behind it."""
    cable = Cable(type="circular", area_mm2=10.0, cpc="included")
    link = feeder(run=(laid(25.0, "ug_enclosed"),), cable=cable, device=mcb(40.0, "C"))
    end = circuit(run=(laid(10.0, "touching"),), cable=Cable(type="flat-tps", area_mm2=2.5), device=rcbo(16.0, "C"))
    ahead = supply(system="MEN", ze_ohm=0.3, tails=None, earthing=None, cutout=None)
    return two_boards(link, end, earthing=earthing, job=JobInfo(title="MEN", rules=rules), supply=ahead, **more)


class Loops(unittest.TestCase):
    """Sums that anybody can follow."""

    def test_an_electrode_alone_is_line_there_and_ground_back(self) -> None:
        # 30 m of 10 mm² (1.83 mΩ/m, BS 7671 table of conductor resistances) ahead of an electrode of 40 Ω.
        network = loops_of(two_boards(earthing=own_rod(40.0)))
        feeding, end = network.job.circuits
        line_ohm = network.loops.run(feeding).r1_cold_ohm
        self.assertAlmostEqual(line_ohm, 0.0549, places=4)
        cold = network.loops.far_end_cold_ohm(end)
        self.assertAlmostEqual(cold, 0.35 + line_ohm + 40.0 + network.loops.run(end).cold_ohm, places=9)
        self.assertGreater(network.loops.far_end_ohm(end), 40.35 + line_ohm)
        # The feeder itself is earthed at the house: its own loop has nothing of the electrode.
        self.assertAlmostEqual(network.loops.far_end_cold_ohm(feeding), 0.35 + network.loops.run(feeding).cold_ohm, places=9)  # fmt: skip

    def test_an_exported_earth_is_as_before(self) -> None:
        found = [loops_of(two_boards(earthing=each)).loops.far_end_ohm(circuit()) for each in (exported(), None)]
        self.assertEqual(found[0], found[1])

    def test_a_link_of_its_own_returns_in_the_neutral_of_the_submain(self) -> None:
        network = loops_of(switchboards(LocalEarthing(kind="neutral-link")))
        feeding, end = network.job.circuits
        submain, final = network.loops.run(feeding), network.loops.run(end)
        self.assertAlmostEqual(network.loops.far_end_cold_ohm(end), 0.3 + 2 * submain.r1_cold_ohm + final.cold_ohm, places=9)  # fmt: skip
        self.assertAlmostEqual(network.loops.board_cold_ohm(network.job.boards[1]), 0.3 + 2 * submain.r1_cold_ohm, places=9)  # fmt: skip

    def test_a_charging_point_with_its_own_rod_behind_a_board_on_the_supply(self) -> None:
        held = circuit(loads=(Load(name="Charger", kind="charger", power_w=7000.0),), earthing=own_rod(80.0))
        network = loops_of(job(held))
        run = network.loops.run(held)
        self.assertAlmostEqual(network.loops.far_end_cold_ohm(held), 0.35 + run.r1_cold_ohm + 80.0, places=9)

    def test_calculated_rods_and_the_source_count_as_in_a_tt_supply(self) -> None:
        rods = {"soil_ohm_m": 100.0, "rod_length_m": 2.4, "rods": 2, "spacing_m": 2.4, "source_ohm": 5.0}
        island = two_boards(earthing=LocalEarthing.model_validate({"kind": "electrode", "electrode": rods}))
        tt = job(supply=supply(system="TT", ze_ohm=None, electrode=rods))
        own = loops_of(island).loops.local_electrode_ohm(loops_of(island).tree.earth_of_board(island.boards[1]))
        self.assertAlmostEqual(own, loops_of(tt).loops.ze_ohm(), places=9)

    def test_the_calculation_adds_up_to_its_result(self) -> None:
        for of in (two_boards(earthing=own_rod(40.0)), switchboards(LocalEarthing(kind="neutral-link"))):
            found = finding(of, "disconnection")
            parts = {"Ze", "RA", "(R1+R2)hot", "(R1+RN)hot", "R1hot"}
            total = sum(step.result for step in found.working if step.symbol in parts)
            # Reactances of the runs make the vector sum no smaller than the resistances.
            self.assertAlmostEqual(step_result(found, "Zs"), total, delta=0.01 * total)


class WhatFollows(unittest.TestCase):
    """Time, RCD, surge device, readings."""

    def test_behind_an_electrode_the_times_and_the_rcd_of_tt_apply(self) -> None:
        for earthing, time_s, verdict in ((own_rod(), 0.2, "pass"), (exported(), 0.4, "pass")):
            found = finding(two_boards(earthing=earthing), "disconnection")
            self.assertEqual((step_result(found, "t"), found.verdict), (time_s, verdict))
        bare = two_boards(None, circuit(device=mcb(16.0)), earthing=own_rod())
        self.assertEqual(finding(bare, "disconnection").verdict, "fail")
        self.assertEqual(finding(bare, "rcd-duty").verdict, "fail")

    def test_a_large_electrode_is_told_once_and_of_its_board(self) -> None:
        found = finding(two_boards(earthing=own_rod(300.0)), "disconnection")
        assert found.cause is not None
        self.assertEqual((found.verdict, found.cause.subject.id), ("advice", "sub"))

    def test_an_rcd_upstream_of_a_link_counts_for_nothing(self) -> None:
        link = LocalEarthing(kind="neutral-link", conductor_mm2=16.0, link_mm2=16.0, feeder_earth_connected=False, has_metalwork=False)  # fmt: skip
        made = switchboards(link)
        ahead, end = made.circuits
        by_rcbo = ahead.model_copy(update={"device": rcbo(40.0, "C", rcd=Rcd(idn_ma=30.0))})
        bare = end.model_copy(update={"device": mcb(16.0, "C")})
        sockets = bare.model_copy(update={"kind": "radial", "loads": (Load(name="S", kind="socket", count=2),)})
        behind = made.model_copy(update={"circuits": (by_rcbo, sockets)})
        self.assertEqual(finding(behind, "rcd-duty").verdict, "fail")
        self.assertIn("core.check.local-earthing.rcd_upstream", ids(of_board(behind).sentence))
        self.assertEqual(of_board(made).verdict, "pass")
        exported_instead = behind.boards[1].model_copy(update={"earthing": exported()})
        same = behind.model_copy(update={"boards": (behind.boards[0], exported_instead)})
        self.assertEqual(finding(same, "rcd-duty").verdict, "pass")

    def test_a_surge_device_behind_an_electrode_needs_a_spark_gap(self) -> None:
        device = Spd(id="s", name="S", type="2", up_kv=1.4, uc_v=275.0, discharge_ka=20.0, leads_m=0.4, short_circuit_ka=25.0, max_backup_a=125.0, live_mm2=6.0, earth_mm2=6.0)  # fmt: skip
        for earthing, gap in ((own_rod(), True), (exported(), False)):
            made = two_boards(earthing=earthing)
            sub = made.boards[1].model_copy(update={"spds": (device,)})
            found = finding(made.model_copy(update={"boards": (made.boards[0], sub)}), "surge")
            said = [id_ for step in found.working for id_ in ids(step.meaning)] + ids(found.sentence)
            self.assertEqual("core.check.surge.tt" in said, gap)

    def test_the_test_sheet_expects_the_electrode(self) -> None:
        readings = {each.circuit: each for each in expected(loops_of(two_boards(earthing=own_rod(40.0))))}
        self.assertGreater(readings["c1"].zs_cold_ohm or 0.0, 40.0)
        self.assertTrue(readings["c1"].zs_by_rcd)
        self.assertLess(readings["f1"].zs_cold_ohm or 99.0, 1.0)


class Standards(unittest.TestCase):
    """What each standard permits; where its tables hold no rule, the answer is not a pass."""

    def test_the_table_of_the_method_page(self) -> None:
        kinds = ("exported", "electrode", "exported-and-electrode", "neutral-link")
        wanted = {
            "uk": "yyyn",
            "iec": "yyyn",
            "iec-de": "yyyn",
            "anz": "y??y",
            "anz-nz": "y??y",
            "na": "nnyn",
            "za": "y??n",
        }
        for rules, answers in wanted.items():
            for kind, answer in zip(kinds, answers, strict=True):
                rule = rule_set(rules).earthing.local_earthing(kind)  # type: ignore[arg-type]
                found = "?" if rule is None else "y" if rule.value else "n"
                self.assertEqual(found, answer, f"{rules} {kind}")

    def test_no_rule_is_no_pass(self) -> None:
        found = of_board(switchboards(own_rod()))
        self.assertEqual(found.verdict, "missing")
        self.assertTrue(any("core.check.local-earthing.unavailable" in ids(need.what) for need in found.needs))

    def test_a_separate_structure_needs_its_electrode_and_a_four_wire_feeder(self) -> None:
        cable = Cable(type="thwn-cu", area_mm2=8.367, cpc="core")
        link = feeder(run=(laid(20.0, "raceway"),), cable=cable, device=Device(kind="breaker", rating_a=40.0), lines=("L1", "L2"))  # fmt: skip
        end = circuit(device=Device(kind="gfci-breaker", rating_a=20.0, rcd=Rcd(idn_ma=5.0)), run=(laid(10.0, "cable"),), cable=Cable(type="nm", area_mm2=3.31), lines=("L1",))  # fmt: skip
        ahead = supply(phases=2, nominal_v=120.0, cutout=None, tails=None, earthing=None)
        for kind, verdict in (("exported", "fail"), ("electrode", "fail"), ("neutral-link", "fail"), ("exported-and-electrode", "pass")):  # fmt: skip
            own = own_rod(25.0, kind=kind, link_mm2=8.367)
            made = two_boards(link, end, earthing=own, job=JobInfo(title="NA", rules="na"), supply=ahead)
            self.assertEqual(of_board(made).verdict, verdict, kind)

    def test_a_caravan_is_not_on_pme_and_may_be_on_a_separate_earth(self) -> None:
        outlet = (Load(name="Hook-up", kind="socket", appliance="caravan-hookup", count=1),)
        for system, earthing, verdict in (
            ("TN-C-S", None, "fail"),
            ("TN-C-S", own_rod(), "pass"),
            ("TN-S", None, "not-applicable"),
        ):
            held = circuit(kind="radial", loads=outlet, earthing=earthing)
            found = finding(job(held, supply=supply(system=system)), "special-location")
            self.assertEqual(found.verdict, verdict, (system, earthing))


class OpenPen(unittest.TestCase):
    """A broken PEN conductor: by a device, by an electrode, by a circuit solved by hand."""

    def charger(self, earthing: LocalEarthing | None = None, phases: int = 1, **more: Any) -> Finding:
        load = Load.model_validate({"name": "Charger", "kind": "charger", "power_w": 7000.0} | more)
        held = circuit(loads=(load,), earthing=earthing, design_current_a=32.0, device=rcbo(40.0), cable=flat(6.0), lines=("L1",))  # fmt: skip
        return finding(job(held, supply=supply(phases=phases)), "special-location")

    def test_thresholds_and_time_of_a_device(self) -> None:
        touch = {"detects": "touch-voltage", "threshold_v": 70.0, "within_s": 5.0, "disconnects_earth": True}
        watched = {"detects": "supply-voltage", "low_v": 207.0, "high_v": 253.0, "within_s": 5.0, "disconnects_earth": True}  # fmt: skip
        for device, verdict in (
            (touch, "pass"),
            (touch | {"threshold_v": 71.0}, "fail"),
            (touch | {"within_s": 5.1}, "fail"),
            (touch | {"disconnects_earth": False}, "fail"),
            (touch | {"threshold_v": None}, "missing"),
            # What fails by itself fails before the rest is known.
            (touch | {"threshold_v": 80.0, "within_s": None}, "fail"),
            (touch | {"threshold_v": None, "disconnects_earth": False}, "fail"),
            (watched | {"low_v": None, "high_v": 254.0}, "fail"),
            (watched, "pass"),
            (watched | {"low_v": 206.0}, "fail"),
            (watched | {"high_v": 254.0}, "fail"),
            (watched | {"within_s": None}, "missing"),
        ):
            self.assertEqual(self.charger(open_pen_device=device).verdict, verdict, device)
        self.assertEqual(self.charger(open_pen_device=watched, phases=3).verdict, "fail")
        self.assertEqual(self.charger(open_pen_device=touch, phases=3).verdict, "pass")

    def test_an_additional_electrode_for_the_whole_demand(self) -> None:
        # 70 · 230 / (32 · 160) = 3.14 Ω.
        self.assertAlmostEqual(max_electrode_ohm(32.0, 230.0, 70.0), 3.1445, places=3)
        for ohm, verdict in ((3.1, "pass"), (3.2, "fail")):
            own = own_rod(ohm, kind="exported-and-electrode")
            self.assertEqual(self.charger(own).verdict, verdict, ohm)
        self.assertEqual(self.charger(own_rod(3.1, kind="exported-and-electrode"), phases=3).verdict, "missing")

    def test_the_limit_is_the_voltage_it_is_made_of(self) -> None:
        # U0 across the loads and the electrode in series: at the limit the electrode has 70 V.
        for amps in (10.0, 32.0, 60.0, 100.0):
            ohm, loads_ohm = max_electrode_ohm(amps, 230.0, 70.0), 230.0 / amps
            self.assertAlmostEqual(230.0 * ohm / (ohm + loads_ohm), 70.0, places=9)

    def heaters(self, earthing: LocalEarthing) -> Job:
        """2300 W in the house and 1150 W in the outbuilding, on conductors that lose nothing."""
        short = {"run": (laid(1e-6),)}
        house = circuit(id="h", name="House", loads=(Load(name="Heater", kind="heater", power_w=2300.0),), **short)
        made = two_boards(feeder(run=(laid(1e-6, "D"),)), circuit(loads=(Load(name="Heater", kind="heater", power_w=1150.0),), **short), earthing=earthing)  # fmt: skip
        main = made.boards[0].model_copy(update={"ways": (*made.boards[0].ways, Way(number=2, circuit="h"))})
        raw = made.model_dump() | {"boards": [main.model_dump(), made.boards[1].model_dump()]}
        raw["circuits"] = [*raw["circuits"], house.model_dump()]
        return checked(Job.model_validate(raw, strict=False))

    def test_an_island_stays_at_true_earth_and_an_exported_earth_is_live(self) -> None:
        # 10 A and 5 A at 230 V are 15.33 Ω; 20 Ω of the house's own earth and 2 Ω at the source: I = 230 / 37.33 = 6.16 A, 123.2 V.
        event = FaultEvent(kind="open-neutral", running=1.0, electrode_ohm=20.0)
        run = run_event(self.heaters(own_rod(40.0)), event).first_least
        self.assertAlmostEqual(abs(run.volt("meter.PE", "earth")), 230 * 20 / (230 / 15 + 22), delta=1.0)
        self.assertLess(abs(run.volt("sub.PE", "earth")), 1.0)
        # Exported with an electrode of 20 Ω there: 10 Ω together, so that the metal is at 230 · 10 / (15.33 + 12) = 84.1 V, in both houses.
        both = run_event(self.heaters(own_rod(20.0, kind="exported-and-electrode")), event).first_least
        for node in ("meter.PE", "sub.PE"):
            self.assertAlmostEqual(abs(both.volt(node, "earth")), 230 * 10 / (230 / 15 + 12), delta=1.0)

    def test_a_fault_on_an_island_lifts_its_metal_and_not_the_house(self) -> None:
        # 230 V across 0.35 Ω of the line, 40 Ω of its electrode and 2 Ω at the source: 5.43 A, 217 V at its metal.
        made = two_boards(feeder(run=(laid(1e-6, "D"),)), circuit(run=(laid(1e-6),)), earthing=own_rod(40.0))
        found = story(made, "line-earth", circuit="c1", running=0.0, electrode_ohm=5000.0)
        assert found.touch is not None
        self.assertAlmostEqual(found.touch.volts, 230 * 40 / 42.3, delta=1.5)
        self.assertEqual({each.device for each in found.stages[0].openings}, {"c1"})
        run = run_event(made, FaultEvent(kind="line-earth", circuit="c1", running=0.0)).first_least
        self.assertLess(abs(run.volt("main.PE", "earth")), 12.0)

    def test_a_fault_at_a_point_with_its_own_electrode_and_one_along_its_cable(self) -> None:
        held: Circuit = circuit(earthing=own_rod(40.0), device=rcbo(16.0))
        at_end = story(job(held), "line-earth", circuit="c1", running=0.0, at=1.0)
        along = story(job(held), "line-earth", circuit="c1", running=0.0, at=0.5)
        self.assertLess(at_end.fault_a_least, 6.0)
        self.assertGreater(along.fault_a_least, 100.0)


class Documents(unittest.TestCase):
    """What contradicts itself is refused, and what is not connected is not drawn as connected."""

    def test_earths_that_cannot_be(self) -> None:
        made = job()
        at_origin = made.boards[0].model_copy(update={"earthing": own_rod()})
        for wrong in (
            made.model_copy(update={"boards": (at_origin,)}),
            job_with(made, own_rod(kind="neutral-link")),
            job_with(two_boards(), own_rod(), "f1"),
        ):
            with self.assertRaises(BadDocument):
                checked(wrong)

    def test_the_earth_bar_of_an_island_is_earthed_apart_from_its_feeder(self) -> None:
        made = two_boards(earthing=own_rod())
        nets = {(net.board, net.net): net.state for net in live_nets(models(made), [])}
        self.assertEqual(nets["sub", "PE"], "earth")


def job_with(of: Job, earthing: LocalEarthing, circuit_id: str = "c1") -> Job:
    circuits = tuple(each.model_copy(update={"earthing": earthing}) if each.id == circuit_id else each for each in of.circuits)  # fmt: skip
    return of.model_copy(update={"circuits": circuits})


if __name__ == "__main__":
    unittest.main()
