"""Sources beside the supply: busbars, devices fed from both sides, demand, islands, what stays live; by hand and by reasoning."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import circuit, feeder, finding, flat, job, laid, mcb, rcbo, supply, two_boards
from tests.core.board.made import models
from tests.texts import ids
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.board.isolation.live_parts import HOT, live_nets, source_id, switch_id
from vivid_lattice.core.board.labels import notices_of
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.energy_source import EnergySource, StandbySupply
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job, JobInfo, Load, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.network.island import Island
from vivid_lattice.core.rules import rule_set


def panels(**changed: Any) -> EnergySource:
    """16 A of solar panels with everything settled."""
    parts = {
        "kind": "solar",
        "rated_a": 16.0,
        "dc_residual": "none",
        "isolator": True,
        "distributor": "notified",
        "opposite_main": True,
    }
    return EnergySource.model_validate(parts | changed)


def solar(source: EnergySource | None = None, **changed: Any) -> Circuit:
    parts: dict[str, Any] = {
        "id": "pv",
        "name": "Solar",
        "loads": (),
        "run": (laid(12.0),),
        "device": mcb(20.0),
        "source": source or panels(),
    }
    return circuit(**(parts | changed))


def with_busbar(of: Job, busbar_a: float | None = 125.0, **changed: Any) -> Job:
    first = of.boards[0].model_copy(update={"busbar_a": busbar_a} | changed)
    return of.model_copy(update={"boards": (first, *of.boards[1:])})


def of_board(of: Job, check: str = "energy-sources", board: str = "main") -> Finding:
    found = find(assess(of), check, Subject("board", board))
    assert found is not None
    return found


def said(found: Finding) -> set[str]:
    return {id_ for step in found.working for id_ in ids(step.meaning)} | set(ids(found.sentence))


def installed(of: Job) -> Installation:
    return Installation.of(of, rule_set(of.job.rules))


class Busbars(unittest.TestCase):
    """Fed from both sides."""

    def test_the_device_upstream_and_the_sources_together(self) -> None:
        # Cut-out 100 A and 16 A: 116 A (BS 7671 551.7.2); a busbar of exactly that passes, one ampere less fails.
        for busbar_a, verdict in ((116.0, "pass"), (115.0, "fail")):
            self.assertEqual(of_board(with_busbar(job(circuit(), solar()), busbar_a)).verdict, verdict)

    def test_the_120_percent_rule_at_its_edge(self) -> None:
        # NEC 705.12(B): main 200 A, busbar 200 A: 240 A − 200 A = 40 A = 1.25 · 32 A. At the near end nothing is left.
        cable = Cable(type="nm", area_mm2=13.3)
        for amps, opposite, verdict in ((32.0, True, "pass"), (32.1, True, "fail"), (32.0, False, "fail"), (None, True, "missing")):  # fmt: skip
            held = solar(panels(rated_a=amps, opposite_main=opposite), lines=("L1", "L2"), neutral=False, run=(laid(12.0, "cable"),), cable=cable, device=Device(kind="breaker", rating_a=40.0))  # fmt: skip
            ahead = supply(phases=2, nominal_v=120.0, cutout=None, tails=None, earthing=None)
            made = job(held, job=JobInfo(title="NA", rules="na"), supply=ahead)
            found = of_board(with_busbar(made, 200.0, main_switch=MainSwitch(rating_a=200.0)))
            self.assertEqual(found.verdict, verdict, (amps, opposite))

    def test_sources_of_a_board_behind_count(self) -> None:
        made = two_boards(feeder(device=mcb(40.0)), circuit(), solar())
        self.assertEqual(of_board(with_busbar(made, 116.0)).verdict, "pass")
        self.assertEqual(of_board(with_busbar(made, 115.0)).verdict, "fail")
        sub = made.boards[1].model_copy(update={"busbar_a": 56.0})
        self.assertEqual(
            of_board(made.model_copy(update={"boards": (made.boards[0], sub)}), board="sub").verdict, "pass"
        )

    def test_what_is_not_known_is_asked(self) -> None:
        for changed, path in (
            ({"isolator": None}, "source.isolator"),
            ({"rated_a": None}, "source.rated_a"),
        ):
            found = of_board(with_busbar(job(circuit(), solar(panels(**changed)))))
            self.assertIn(path, [need.path for need in found.needs])
        self.assertIn("boards.busbar_a", [need.path for need in of_board(job(circuit(), solar())).needs])
        self.assertEqual(of_board(job()).verdict, "not-applicable")


class BothWays(unittest.TestCase):
    """Devices that a source feeds from their load side."""

    def test_each_device_on_the_way_is_asked_and_a_plain_breaker_is_not(self) -> None:
        self.assertEqual(of_board(with_busbar(job(circuit(), solar()))).verdict, "pass")
        for allowed, verdict in ((None, "missing"), (True, "pass"), (False, "fail")):
            own = solar(device=rcbo(20.0, bidirectional=allowed))
            self.assertEqual(of_board(with_busbar(job(circuit(), own))).verdict, verdict)
            switch = MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=100.0, time_delayed=True), bidirectional=allowed)
            self.assertEqual(of_board(with_busbar(job(circuit(), solar()), main_switch=switch)).verdict, verdict)
            group = SharedRcd(id="r", name="RCD", rating_a=63.0, rcd=Rcd(idn_ma=30.0), bidirectional=allowed)
            made = with_busbar(job(circuit(device=mcb(16.0)), solar()), shared_rcds=(group,))
            ways = tuple(way.model_copy(update={"rcd": "r"}) for way in made.boards[0].ways)
            self.assertEqual(of_board(with_busbar(made, ways=ways)).verdict, verdict)

    def test_the_type_follows_from_its_direct_current(self) -> None:
        for dc, type_, verdict in (("none", "A", "pass"), ("smooth", "A", "fail"), ("smooth", "B", "pass"), ("smooth-detected", "A", "pass")):  # fmt: skip
            own = solar(panels(dc_residual=dc), device=rcbo(20.0, rcd=Rcd(idn_ma=30.0, type=type_)))
            self.assertEqual(finding(job(own), "rcd-type", "pv").verdict, verdict, (dc, type_))
        asked = finding(job(solar(panels(dc_residual=None), device=rcbo(20.0))), "rcd-type", "pv")
        self.assertEqual([need.path for need in asked.needs], ["source.dc_residual"])

    def test_a_source_on_a_circuit_with_loads(self) -> None:
        # 2.5 mm², clipped: 27 A (BS 7671 Table 4D5). B16 with 10 A of source is 26 A, B20 with 10 A is 30 A.
        load = (Load(name="Heater", kind="heater", power_w=2000.0),)
        for device, verdict in ((mcb(16.0), "pass"), (mcb(20.0), "fail")):
            own = solar(panels(rated_a=10.0), loads=load, device=device, cable=flat(2.5))
            self.assertEqual(of_board(with_busbar(job(own))).verdict, verdict)

    def test_notification_and_consent(self) -> None:
        for amps, state, key in ((16.0, None, "connection_after"), (16.1, "notified", "connection_before"), (16.1, "accepted", "connection_done")):  # fmt: skip
            found = of_board(with_busbar(job(circuit(), solar(panels(rated_a=amps, distributor=state)))))
            self.assertIn(f"core.check.energy-sources.{key}", said(found))


class Currents(unittest.TestCase):
    """Demand, feeders, fault currents."""

    def test_solar_draws_nothing_and_a_battery_charges(self) -> None:
        base = installed(job(circuit())).drops.whole_demand().current_a
        with_solar = installed(job(circuit(), solar())).drops.whole_demand().current_a
        self.assertEqual(with_solar, base)
        for at_peak, more in ((None, 16.0), ("always", 16.0), ("off", 0.0)):
            battery = solar(panels(kind="battery", charging_at_peak=at_peak))
            amps = installed(job(circuit(), battery)).drops.whole_demand().current_a
            self.assertAlmostEqual(amps, base + more, places=6)

    def test_its_own_cable_carries_its_output(self) -> None:
        found = finding(job(solar(panels(rated_a=16.0), device=mcb(16.0))), "overload", "pv")
        self.assertEqual((found.value, found.limit), (16.0, 16.0))

    def test_a_feeder_carries_what_is_fed_back(self) -> None:
        made = two_boards(feeder(), circuit(loads=(Load(name="H", kind="heater", power_w=230.0),)), solar(panels(rated_a=30.0), device=mcb(32.0), cable=flat(6.0)))  # fmt: skip
        self.assertEqual(installed(made).drops.design_current(made.circuits[0]).current_a, 30.0)

    def test_fault_currents_grow_by_what_an_inverter_gives(self) -> None:
        plain, more = job(circuit()), job(circuit(), solar())
        before, after = (installed(each).loops.board_fault_a(each.boards[0]) for each in (plain, more))
        self.assertAlmostEqual(after - before, 1.5 * 16.0, places=6)

    def test_jobs_without_sources_keep_every_verdict(self) -> None:
        for made in (job(), two_boards()):
            checks = {"energy-sources", "standby-supply"}
            verdicts = {each.verdict for each in assess(made).findings if each.check in checks}
            self.assertEqual(verdicts, {"not-applicable"})


class Managed(unittest.TestCase):
    """A controller with a current transformer on the supply (BS 7671 722.311.201)."""

    def found(self, limit_a: float, fallback_a: float | None, *, at_peak: str | None = "managed") -> Finding:
        charger = Load(name="Charger", kind="charger", power_w=7360.0, power_factor=1.0, at_peak=at_peak)  # type: ignore[arg-type]
        held = (
            circuit(loads=(Load(name="Heater", kind="heater", power_w=9200.0),), device=rcbo(40.0), cable=flat(6.0)),
            circuit(id="ev", name="Charger", loads=(charger,), device=rcbo(40.0), cable=flat(6.0)),
        )
        known = {"management": {"limit_a": limit_a, "fallback_a": fallback_a}}
        return finding(
            job(*held, supply=supply(demand=known, cutout={"kind": "fuse-bs88-3", "rating_a": 60.0})), "demand"
        )

    def test_the_limit_or_what_flows_with_the_sensor_lost(self) -> None:
        # Cut-out 60 A: the limit decides, until what is not managed and what is left of the charger come to more.
        found = self.found(55.0, 0.0)
        rest_a = next(step.result for step in found.working if step.symbol == "Id + If")
        self.assertTrue(20.0 < rest_a <= 40.0, rest_a)
        self.assertEqual((found.verdict, found.value), ("pass", 55.0))
        at_limit, over = self.found(55.0, 60.0 - rest_a), self.found(55.0, 60.1 - rest_a)
        self.assertEqual((at_limit.verdict, over.verdict), ("pass", "fail"))
        self.assertAlmostEqual(over.value or 0.0, 60.1, places=6)
        self.assertEqual(self.found(61.0, 0.0).verdict, "fail")

    def test_what_it_needs(self) -> None:
        self.assertEqual([need.path for need in self.found(55.0, None).needs], ["supply.demand.management.fallback_a"])
        self.assertEqual([need.path for need in self.found(55.0, 0.0, at_peak=None).needs], ["loads.at_peak"])


STANDBY: dict[str, Any] = {
    "name": "Battery inverter",
    "kind": "inverter",
    "rated_a": 16.0,
    "changeover": "automatic",
    "switched_poles": "all",
    "neutral_earth_link": "relay",
    "electrode_ohm": 40.0,
    "fault_multiple": 1.5,
    "labelled": True,
}


def on_standby(*circuits: Circuit, rules: str = "uk", **changed: Any) -> Job:
    made = job(*circuits) if rules == "uk" else job(*circuits, job=JobInfo(title="T", rules=rules), supply=supply(system="TN-S", cutout=None, tails=None))  # fmt: skip
    return with_busbar(made, standby=StandbySupply.model_validate(STANDBY | changed))


class Islands(unittest.TestCase):
    """The supply is off."""

    def verdict(self, *circuits: Circuit, **changed: Any) -> str:
        return of_board(on_standby(*circuits, **changed), "standby-supply").verdict

    def test_the_current_is_that_of_the_source_or_of_the_loop_if_less(self) -> None:
        made = on_standby(circuit(run=(laid(20.0),)))
        network = installed(made)
        island = Island(made, network.tree, network.loops, made.boards[0])
        run = network.loops.run(made.circuits[0])
        self.assertAlmostEqual(island.earth_fault(made.circuits[0], 24.0).current_a, 24.0)
        # A source without a limit: U0 over the line and protective conductor of the run alone.
        self.assertAlmostEqual(island.earth_fault(made.circuits[0], 1e6).current_a, 230 / abs(run.loop), places=6)

    def test_a_breaker_does_not_trip_and_an_rcd_does(self) -> None:
        # 1.5 · 16 A = 24 A; B16 needs 80 A (BS EN 60898: 5 · In). A 30 mA RCD trips; 24 A is 800 · IΔn.
        self.assertEqual(self.verdict(circuit(device=rcbo(16.0))), "pass")
        bare = circuit(device=mcb(16.0))
        self.assertEqual(self.verdict(bare), "missing")
        self.assertEqual(self.verdict(bare, shutdown_s=0.4), "advice")
        self.assertEqual(self.verdict(bare, shutdown_s=0.5), "fail")
        # A generator that gives 6 times 16 A trips B16 by itself: 96 A.
        self.assertEqual(self.verdict(bare, kind="generator", fault_multiple=6.0), "pass")

    def test_an_rcd_upstream_of_the_board_counts_for_nothing(self) -> None:
        made = two_boards(feeder(device=rcbo(40.0)), circuit(device=mcb(16.0)))
        sub = made.boards[1].model_copy(update={"standby": StandbySupply.model_validate(STANDBY)})
        behind = made.model_copy(update={"boards": (made.boards[0], sub)})
        self.assertEqual(of_board(behind, "standby-supply", "sub").verdict, "missing")
        switch = MainSwitch(rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        own = behind.model_copy(update={"boards": (made.boards[0], sub.model_copy(update={"main_switch": switch}))})
        self.assertEqual(of_board(own, "standby-supply", "sub").verdict, "pass")

    def test_neutral_and_earth(self) -> None:
        safe = circuit(device=rcbo(16.0))
        for poles, link, verdict in (("all", "relay", "pass"), ("all", "fixed", "pass"), ("all", "none", "fail"), ("lines", "none", "fail"), (None, "relay", "missing"), ("all", None, "missing")):  # fmt: skip
            self.assertEqual(self.verdict(safe, switched_poles=poles, neutral_earth_link=link), verdict, (poles, link))
        # With a solid neutral North America joins nothing at the source (NEC 250.20(D), note).
        na = rule_set("na").sources.standby
        assert na is not None
        self.assertEqual(na.neutral, "either")

    def test_the_rest(self) -> None:
        safe = circuit(device=rcbo(16.0))
        for changed, verdict in (
            ({"changeover": "none"}, "fail"),
            ({"changeover": None}, "missing"),
            ({"electrode_ohm": None}, "missing"),
            ({"electrode_ohm": 250.0}, "advice"),
            ({"rated_a": 10.0, "fault_multiple": 1.0}, "advice"),
            ({"labelled": False}, "fail"),
            ({"labelled": None}, "missing"),
        ):
            self.assertEqual(self.verdict(safe, **changed), verdict, changed)
        assumed = of_board(on_standby(safe, fault_multiple=None), "standby-supply").assumptions
        self.assertEqual([each.field for each in assumed], ["boards.standby.fault_multiple"])

    def test_a_standard_without_rules_says_so(self) -> None:
        self.assertIsNone(rule_set("anz").sources.standby)
        cable = Cable(type="flat-tps", area_mm2=2.5)
        held = circuit(run=(laid(10.0, "touching"),), cable=cable, device=rcbo(16.0, "C"))
        made = job(held, job=JobInfo(title="MEN", rules="anz"), supply=supply(system="MEN", cutout=None, tails=None, earthing=None))  # fmt: skip
        found = of_board(with_busbar(made, standby=StandbySupply.model_validate(STANDBY)), "standby-supply")
        self.assertEqual(found.verdict, "missing")
        self.assertTrue(any("core.check.standby-supply.unavailable" in ids(need.what) for need in found.needs))


class LiveParts(unittest.TestCase):
    """What stays live, from any source."""

    def states(self, of: Job, *open_: str) -> dict[str, str]:
        return {net.net: net.state for net in live_nets(models(of), open_) if net.board == "main"}

    def test_with_the_main_switch_open_a_source_keeps_the_bus_live(self) -> None:
        made = job(circuit(), solar())
        main = switch_id("main", "main")
        self.assertEqual(self.states(made, main)["bus.L1"], "generated")
        self.assertEqual(self.states(made, main, source_id("pv"))["bus.L1"], "dead")
        self.assertEqual(self.states(made, main, switch_id("main", "way:pv"))["bus.L1"], "dead")

    def test_a_standby_supply_keeps_its_board_live_without_the_supply(self) -> None:
        made = on_standby(circuit())
        off = {net.net: net.state for net in live_nets(models(made), [], supply_on=False)}
        self.assertEqual(off["bus.L1"], "generated")

    def test_each_source_is_isolated_before_work_and_labelled(self) -> None:
        made = on_standby(circuit(), solar())
        boards = models(made)
        isolation = isolation_for(boards, "main", "board")
        said_ids = [id_ for step in isolation.steps for id_ in ids(step)]
        self.assertIn("core.isolation.panels", said_ids)
        self.assertIn("core.isolation.standby", said_ids)
        self.assertEqual(self.states(made, *isolation.open)["bus.L1"], "dead")
        self.assertTrue(any("Solar" in notice.text for notice in notices_of(boards, boards["main"])))
        plain = models(job())
        self.assertFalse(any("more than one supply" in notice.text for notice in notices_of(plain, plain["main"])))

    @settings(max_examples=40, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(st.sets(st.sampled_from(["main|main", "main|way:c1", "main|way:c2", "main|way:pv"])), st.booleans())
    def test_one_more_source_never_makes_fewer_parts_stay_live(self, open_: set[str], standby: bool) -> None:
        held = (circuit(), circuit(id="c2", name="Second"))
        load = circuit(id="pv", name="Third")
        more = job(*held, load.model_copy(update={"source": panels()}))
        if standby:
            more = with_busbar(more, standby=StandbySupply.model_validate(STANDBY))
        before = {net for net, state in self.states(job(*held, load), *open_).items() if state in HOT}
        after = {net for net, state in self.states(more, *open_).items() if state in HOT}
        self.assertEqual(before - after, set())


class Typed(unittest.TestCase):
    """As people type them."""

    def test_sources_in_each_standard(self) -> None:
        for rules, line, kind, amps, lines in (
            ("uk", "solar PV 3.68kW 12m", "solar", 16.0, 1),
            ("uk", "battery 5kW 6m", "battery", 21.74, 1),
            ("uk", "solar and battery hybrid 8kW 10m", "hybrid", 34.78, 1),
            ("uk", "V2H 7kW 15m", "vehicle", 30.43, 1),
            ("iec-de", "Balkonkraftwerk 800W 10m", "solar", 3.48, 1),
            ("na", "solar 7.6kW 40ft", "solar", 31.67, 2),
            ("anz", "solar 5kW 10m", "solar", 21.74, 1),
            ("za", "inverter 5kW 8m", "solar", 21.74, 1),
        ):
            made = with_busbar(Job.model_validate(blank_job(rules)))
            entry = add_entry(made, line, "main")
            held = entry.job.circuit(entry.circuit)
            assert held.source is not None
            self.assertEqual((held.source.kind, held.source.rated_a, held.kind), (kind, amps, "fixed"), line)
            self.assertEqual(len(held.lines or ("L1",)), lines, line)

    def test_a_generator_is_no_circuit_and_a_current_is_that_of_its_breaker(self) -> None:
        with self.assertRaisesRegex(EntryNotUnderstood, "standby supply"):
            add_entry(job(), "generator 5kW 6m", "main")
        entry = add_entry(job(), "solar 16A 12m", "main")
        held = entry.job.circuit(entry.circuit)
        assert held.source is not None and isinstance(held.device, Device)
        self.assertEqual((held.source.rated_a, held.device.rating_a), (None, 16.0))

    def test_documents_that_contradict_themselves_are_refused(self) -> None:
        with self.assertRaises(BadDocument):
            checked(job().model_copy(update={"circuits": (circuit(kind="distribution", loads=(), source=panels()),)}))
        with self.assertRaises(BadDocument):
            checked(on_standby(circuit(), circuit=None).model_copy(update={"boards": on_standby(circuit(), circuit="c1").boards}))  # fmt: skip


def blank_job(rules: str) -> Any:
    from vivid_lattice.core.actions.new_job import blank

    made = blank("T", rule_set(rules))
    return made.model_copy(update={"supply": made.supply.model_copy(update={"phases": 2 if rules == "na" else 1})}).model_dump()  # fmt: skip


if __name__ == "__main__":
    unittest.main()
