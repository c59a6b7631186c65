"""Jobs as people type them, whose results were dangerous, wrong or absurd before: one class a subject."""

from __future__ import annotations

import contextlib
import copy
import json
import unittest
from collections.abc import Iterator
from typing import Any

from tests.builders import circuit, cutout, feeder, finding, job, laid, mcb, rcbo, supply, two_boards
from tests.core.board.made import housed
from tests.core.checks.test_protection_verdicts import CASES
from tests.core.checks.test_verdicts import FAIL
from tests.core.document.test_feeds import SUPPLIES, typed
from tests.texts import ids
from vivid_lattice.core.actions.add_circuit import AddCircuitOption, add_circuit_options
from vivid_lattice.core.actions.move_device import lay_out, model_of
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.decisions import Design
from vivid_lattice.core.design.remedies import find, remedies
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Circuit, Job, Load, MainSwitch, SharedRcd
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import EquipmentPosition, Room
from vivid_lattice.core.document.supply import Bond, Earthing, Tails
from vivid_lattice.core.document.surge_and_relay import SurgeRisk
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.job_file import checked, read_data, to_text
from vivid_lattice.core.rules import rule_set

ORDINARY = SurgeRisk(lightning_protection=False, overhead_line=False, consequence="ordinary", furthest_m=8.0)


def of_supply(made: Job, check: str) -> Finding:
    found = find(assess(made), check, Subject("supply", "supply"))
    assert found is not None
    return found


def of_board(made: Job, check: str, board: str = "main") -> Finding:
    found = find(assess(made), check, Subject("board", board))
    assert found is not None
    return found


def chosen(made: Design, circuit_id: str) -> Circuit:
    return next(one for one in made.job.circuits if one.id == circuit_id)


class UnitedStates(unittest.TestCase):
    """NEC 2023, 210.8, 210.12, 210.19(A)(3) and 220.55 (from memory)."""

    def test_a_range_of_8_75_kw_or_more_has_40_a_whatever_its_demand(self) -> None:
        # 210.19(A)(3): 8 3/4 kW or more, branch circuit rating 40 A at the least; 220.55 counts a 12 kW range as 8 kW.
        for typed_, least in (("range 12kW 40ft", 40.0), ("range 8.8kW 40ft", 40.0), ("range 8kW 40ft", 0.0)):
            made = design(typed(typed_, rules="na"))
            device = chosen(made, "c1").device
            assert not isinstance(device, str)
            self.assertGreaterEqual(device.rating_a, least, typed_)
            self.assertEqual(finding(made.job, "overload").verdict, "pass", typed_)
        small = typed("range 12kW 35A 8AWG 40ft", rules="na")
        self.assertEqual(finding(small, "overload").verdict, "fail")

    def test_every_appliance_of_210_8_d_is_protected_by_design_and_fails_without(self) -> None:
        for line in ("dishwasher 1.2kW 30ft", "microwave 1.5kW 25ft", "sump pump 800W 40ft"):
            with self.subTest(line):
                bare = typed(f"{line} 20A breaker 12AWG", rules="na")
                self.assertEqual(finding(bare, "rcd-duty").verdict, "fail")
                made = design(typed(line, rules="na"))
                self.assertIn(finding(made.job, "rcd-duty").verdict, ("pass", "not-applicable"))
                self.assertIn(finding(made.job, "arc-fault").verdict, ("pass", "not-applicable"))
                self.assertTrue(remedies(bare, "rcd-duty", Subject("circuit", "c1")))

    def test_none_of_the_choices_of_design_fails_on_protection(self) -> None:
        lines = ("kitchen sockets 40ft, kitchen", "living room sockets 60ft, living", "bathroom sockets 30ft, bath",
                 "laundry sockets 30ft, laundry", "8 bedroom lights 10W 50ft, bedroom", "dryer 5kW 30ft", "water heater 4.5kW 30ft")  # fmt: skip
        made = design(typed(*lines, rules="na"))
        for found in assess(made.job).findings:
            if found.check in ("rcd-duty", "arc-fault", "rcd-type") and found.subject.kind == "circuit":
                self.assertNotIn(found.verdict, ("fail", "missing"), str(found.sentence))

    def test_a_recommended_drop_is_advice_and_alone_takes_no_larger_wire(self) -> None:
        # 210.19(A) informational note 4: 3 % is recommended, not required.
        made = design(typed("living room sockets 60ft, living", rules="na"))
        cable = chosen(made, "c1").cable
        assert not isinstance(cable, str)
        self.assertEqual(rule_set("na").cables.size_label(cable.area_mm2), "12 AWG")
        drop = finding(made.job, "voltage-drop")
        self.assertEqual(drop.verdict, "advice")
        assert drop.value is not None
        self.assertTrue(3.0 < drop.value <= 5.0)
        far = design(typed("living room sockets 120ft, living", rules="na"))
        drop = finding(far.job, "voltage-drop")
        assert drop.value is not None
        self.assertLessEqual(drop.value, 5.0)
        self.assertIn("Voltage drop", "".join(str(one.sentence) for one in far.decisions if one.what == "cable"))

    def test_there_are_no_types_and_no_rcds(self) -> None:
        made = design(typed("dishwasher 1.2kW 30ft", "kitchen sockets 40ft, kitchen", rules="na")).job
        self.assertEqual(finding(made, "rcd-type").verdict, "not-applicable")
        for found in assess(made).findings:
            for word in ("RCD", "type A", "residual-current"):
                self.assertNotIn(word, str(found.sentence), found.check)


class Nameplates(unittest.TestCase):
    """A bare current is a device's rating, unless no device is made in it."""

    def test_a_current_that_no_device_is_made_in_is_what_fixed_equipment_draws(self) -> None:
        of = typed("heat pump 14A 30ft", rules="na")
        self.assertEqual((of.circuits[0].design_current_a, of.circuits[0].device), (14.0, "auto"))
        # A heat pump is known by its running current, whatever is made; most equipment by its device.
        self.assertEqual(typed("heat pump 20A 30ft", rules="na").circuits[0].design_current_a, 20.0)
        rated = typed("dryer 30A 30ft", rules="na").circuits[0]
        self.assertIsNone(rated.design_current_a)
        assert not isinstance(rated.device, str)
        self.assertEqual(rated.device.rating_a, 30.0)
        for line in ("sockets 14A 20m", "heater B14 20m", "heater RCBO 14A 20m"):
            with self.assertRaises(EntryNotUnderstood):
                typed(line)


class NoSizeThatCarries(unittest.TestCase):
    """Where no size is known to be large enough, none is chosen: least of all the smallest."""

    def test_a_charger_past_the_table_of_its_cable_is_left_open(self) -> None:
        # 100 A on NM, whose equipment ground is tabulated to 2 AWG only (95 A in its column): NEC Table 310.16.
        made = design(typed("charger 19.2kW 40ft, garage", rules="na"))
        self.assertEqual(chosen(made, "c1").cable, "auto")
        [cable] = [one for one in made.decisions if one.what == "cable"]
        self.assertFalse(cable.passes)
        self.assertIn("too small for the device", str(cable.sentence))

    def test_design_never_chooses_a_cable_that_its_device_does_not_protect(self) -> None:
        for rules in SUPPLIES:
            for watts in ("3kW", "9kW", "14kW", "20kW"):
                made = design(typed(f"heater {watts} 30ft" if rules == "na" else f"heater {watts} 10m", rules=rules))
                if not isinstance(chosen(made, "c1").cable, str):
                    self.assertNotEqual(finding(made.job, "capacity").verdict, "fail", (rules, watts))


class FaultsPastTheDevice(unittest.TestCase):
    """A device that cannot break the fault is no reason for a larger cable."""

    def supplied(self, fault: str, *lines: str) -> Design:
        made = set_supply(blank("Mill", rule_set("uk")), f"TN-C-S 100A Ze 0.35 {fault}").job
        for line in lines:
            made = checked(add_entry(made, line, "main").job)
        return design(made)

    def areas(self, made: Design) -> list[float]:
        cables = [one.cable for one in made.job.circuits]
        return [cable.area_mm2 for cable in cables if not isinstance(cable, str)]

    def test_no_cable_is_larger_than_for_a_fault_that_the_device_breaks(self) -> None:
        lines = ("cooker 9kW 14m", "kitchen sockets ring 60m", "10 downlights 5W 30m")
        plain = self.areas(self.supplied("1.4kA", *lines))
        for fault in ("12kA", "16kA"):
            made = self.supplied(fault, *lines)
            for area, usual in zip(self.areas(made), plain, strict=True):
                self.assertLessEqual(area, usual, fault)
        for one in made.decisions:
            if one.what == "cable":
                self.assertFalse(one.passes)
                self.assertIn("core.check.breaking-capacity.title", ids(one.sentence))
        self.assertEqual(finding(made.job, "breaking-capacity").verdict, "fail")

    def test_a_typed_device_of_unknown_breaking_capacity_leaves_no_cable_open(self) -> None:
        made = self.supplied("16kA", "cooker B32 9kW 14m")
        cable = chosen(made, "c1").cable
        assert not isinstance(cable, str)
        self.assertEqual(cable.area_mm2, 6.0)
        self.assertEqual(finding(made.job, "breaking-capacity").verdict, "missing")

    def test_design_takes_the_breaking_capacity_that_is_sold_and_enough(self) -> None:
        # BS EN 60898-1: 6 and 10 kA.
        for fault, breaking in (("1.4kA", 6.0), ("6kA", 6.0), ("6.1kA", 10.0), ("10kA", 10.0), ("16kA", 6.0)):
            device = chosen(self.supplied(fault, "cooker 9kW 14m"), "c1").device
            assert not isinstance(device, str)
            self.assertEqual(device.breaking_ka, breaking, fault)


class Charging(unittest.TestCase):
    """Common practice, no source: charging points for the home detect 6 mA d.c. themselves."""

    def test_what_is_not_stated_is_assumed_and_never_a_fail(self) -> None:
        for rules in ("uk", "iec", "iec-de", "anz", "za"):
            made = typed("charger 7kW 12m RCBO 40A 30mA type A 10mm", rules=rules)
            found = finding(made, "rcd-type")
            self.assertEqual(found.verdict, "advice", rules)
            self.assertEqual([one.field for one in found.assumptions], ["loads.dc_residual"], rules)

    def test_design_takes_type_b_where_it_is_stated_not_to_detect(self) -> None:
        of = typed("charger 7kW 12m")
        for dc, type_ in (("smooth-detected", "A"), ("smooth", "B")):
            [held] = of.circuits
            load = held.loads[0].model_copy(update={"dc_residual": dc})
            made = design(of.model_copy(update={"circuits": (held.model_copy(update={"loads": (load,)}),)})).job
            device = made.circuits[0].device
            assert not isinstance(device, str) and device.rcd is not None
            self.assertEqual(device.rcd.type, type_)
            self.assertEqual(finding(made, "rcd-type").verdict, "pass")

    def test_a_three_phase_converter_asks_for_type_b_and_a_single_phase_one_for_f(self) -> None:
        # IEC 60755; DIN VDE 0100-530, 531.3.3: type F is for single-phase converters.
        three = set_supply(blank("Mill", rule_set("iec")), "three-phase TN-S 63A gG Ze 0.3 3kA").job
        for phases, type_, verdict in (
            ("three-phase", "F", "fail"),
            ("three-phase", "B", "pass"),
            ("L1", "F", "pass"),
        ):
            of = checked(add_entry(three, f"heat pump 3kW {phases} 12m RCBO C16 30mA type {type_}", "main").job)
            [held] = of.circuits
            load = held.loads[0].model_copy(update={"frequency_converter": True})
            of = of.model_copy(update={"circuits": (held.model_copy(update={"loads": (load,)}),)})
            self.assertEqual(finding(of, "rcd-type").verdict, verdict, (phases, type_))


class Surge(unittest.TestCase):
    """BS 7671:2018+A2, 443.4.1: provided, unless the owner declares in writing that the loss may be borne."""

    def test_design_adds_one_that_passes_in_every_standard_that_requires_it(self) -> None:
        for rules, required in (
            ("uk", True),
            ("iec", True),
            ("iec-de", True),
            ("na", True),
            ("anz", False),
            ("za", False),
        ):
            of = typed("lights 20m", rules=rules).model_copy(update={"surge": ORDINARY})
            self.assertEqual(of_supply(of, "surge").verdict == "fail", required, rules)
            made = design(of)
            self.assertEqual(len(made.job.boards[0].spds), int(required), rules)
            if required:
                self.assertEqual([one.decided_by for one in made.decisions if one.what == "spd"], ["surge"])
                self.assertIn(
                    of_supply(made.job, "surge").verdict, ("pass", "tight"), of_supply(made.job, "surge").sentence
                )

    def test_a_setting_turns_it_off(self) -> None:
        of = typed("lights 20m")
        off = of.model_copy(update={"settings": of.settings.model_copy(update={"design_spd": False})})
        self.assertEqual(design(off).job.boards[0].spds, ())

    def test_a_type_3_device_at_an_appliance_is_the_second_one(self) -> None:
        of = design(
            typed("lights 20m").model_copy(update={"surge": ORDINARY.model_copy(update={"furthest_m": 25.0})})
        ).job
        self.assertEqual(of_supply(of, "surge").verdict, "advice")
        [held] = of.circuits
        load = held.loads[0].model_copy(update={"surge_type_3": True})
        near = of.model_copy(update={"circuits": (held.model_copy(update={"loads": (load,)}),)})
        self.assertEqual(of_supply(near, "surge").verdict, "pass")

    def test_a_device_beside_the_meter_is_the_one_upstream(self) -> None:
        of = typed("lights 20m").model_copy(update={"surge": ORDINARY})
        [spd] = design(of).job.boards[0].spds
        small = of.boards[0].model_copy(update={"spds": (spd.model_copy(update={"max_backup_a": 63.0}),)})
        of = of.model_copy(update={"boards": (small,)})
        self.assertEqual(of_supply(of, "surge").verdict, "fail")
        tails = Tails(area_mm2=16.0, length_m=2.0, material="copper", device=cutout(63.0))
        fused = of.model_copy(update={"supply": of.supply.model_copy(update={"tails": tails})})
        self.assertEqual(of_supply(fused, "surge").verdict, "pass")

    def test_leads_follow_a_backup_device_above_125_a_too(self) -> None:
        # Common practice, no source: the leads follow their back-up device.
        of = typed("lights 20m").model_copy(update={"surge": ORDINARY})
        [spd] = design(of).job.boards[0].spds
        for live, verdict in ((16.0, "fail"), (25.0, "pass")):
            wired = spd.model_copy(
                update={
                    "form": "wired",
                    "leads_m": 0.3,
                    "live_mm2": live,
                    "earth_mm2": 16.0,
                    "backup_a": 160.0,
                    "max_backup_a": 160.0,
                }
            )
            board = of.boards[0].model_copy(update={"spds": (wired,)})
            self.assertEqual(of_supply(of.model_copy(update={"boards": (board,)}), "surge").verdict, verdict)


class Earth(unittest.TestCase):
    """BS 7671, 543.1.1: by table or by calculation."""

    def earthed(self, conductor_mm2: float, **changed: object) -> Job:
        parts = {"ze_ohm": 0.3, "tails": {"area_mm2": 25.0, "length_m": 2.0}} | changed
        held = Earthing(conductor_mm2=conductor_mm2, bonds=(Bond(name="water pipe", area_mm2=10.0),))
        return job(supply=supply(earthing=held, **parts))

    def test_a_conductor_below_the_table_may_be_shown_by_calculation(self) -> None:
        # Uo/Ze = 767 A; a 100 A fuse takes its time there, and √(I²t)/143 is what has to be sold.
        by_sum = of_supply(self.earthed(10.0), "earthing")
        self.assertIn(by_sum.verdict, ("pass", "tight"))
        self.assertEqual(of_supply(self.earthed(4.0), "earthing").verdict, "fail")
        # Without a loop there is no sum, so the table stands.
        self.assertEqual(of_supply(self.earthed(10.0, ze_ohm=None), "earthing").verdict, "fail")

    def test_what_is_asked_for_is_a_size_that_is_sold(self) -> None:
        said = str(of_supply(self.earthed(4.0), "earthing").sentence)
        sizes = {f"{size:g} mm²" for kind in rule_set("uk").cables.kinds.values() for size in kind.sizes_mm2}
        asked = said.partition("minimum ")[2].partition(")")[0].partition(",")[0]
        self.assertIn(asked, sizes, said)

    def test_the_nec_has_no_such_sum(self) -> None:
        self.assertFalse(rule_set("na").earthing.by_calculation)


def in_room(kind: str, load: str = "lamp", fixed: bool = True, **where: object) -> Finding:
    """What is said of one load of a room with zones."""
    room = Room(id="r", name="Room", kind=kind)  # type: ignore[arg-type]
    placed = EquipmentPosition.model_validate({"fixed": fixed} | where)
    held = Load(name="Item", kind=load, power_w=1500.0, room="r", position=placed)  # type: ignore[arg-type]
    return finding(job(circuit(loads=(held,)), rooms=(room,)), "special-location")


class Zones(unittest.TestCase):
    """BS 7671:2018, 701 and 703 (from memory)."""

    def test_ip20_in_zone_1_fails_whatever_its_manufacturer_says(self) -> None:
        where = {"distance_m": 0.3, "height_m": 2.0}
        for maker in (None, True, False):
            self.assertEqual(in_room("bath", ip="IP20", zone_permitted=maker, **where).verdict, "fail", maker)
        self.assertEqual(in_room("bath", ip="IPX4", zone_permitted=True, **where).verdict, "pass")

    def test_a_shower_asks_for_its_ip_and_its_maker_alone(self) -> None:
        bare = in_room("bath", load="shower")
        self.assertEqual(bare.verdict, "advice")
        self.assertEqual({need.path.rpartition(".")[2] for need in bare.needs}, {"ip", "zone_permitted"})
        self.assertEqual(in_room("bath", load="shower", ip="IPX4", zone_permitted=True).verdict, "pass")

    def test_a_wall_switch_in_zone_2_fails_and_a_pull_cord_does_not(self) -> None:
        for kind, verdict in (("switch", "fail"), ("pull-cord", "pass")):
            made = typed("bathroom lights 12m, bath RCBO B6 30mA")
            [held] = made.circuits
            room = made.rooms[0].id
            load = held.loads[0].model_copy(
                update={"position": EquipmentPosition(distance_m=2.0, height_m=2.0, ip="IPX4")}
            )
            accessory = {
                "name": "Switch",
                "kind": kind,
                "room": room,
                "position": {"distance_m": 0.3, "height_m": 1.2, "ip": "IPX4"},
            }
            changed = Circuit.model_validate(
                held.model_dump() | {"loads": (load.model_dump(),), "accessories": (accessory,)}, strict=False
            )
            of = made.model_copy(update={"circuits": (changed,)})
            self.assertEqual(
                finding(of, "special-location").verdict, verdict, (kind, finding(of, "special-location").sentence)
            )

    def test_a_sauna_heater_is_exempt_by_statement_alone(self) -> None:
        # 703.411.3.3: an RCD for all but the heater.
        for exempt, verdict in ((None, "missing"), (False, "fail"), (True, "not-applicable")):
            held = Load(name="Heater", kind="heater", power_w=3000.0, room="s", rcd_exempt=exempt)
            made = job(circuit(loads=(held,), device=mcb(16.0)), rooms=(Room(id="s", name="Sauna", kind="sauna"),))
            self.assertEqual(finding(made, "rcd-duty").verdict, verdict, exempt)

    def test_rooms_that_need_10_ma_in_australia(self) -> None:
        # AS/NZS 3000:2018, 2.6.3 and 4.4 with AS/NZS 3003 (from memory): 10 mA for sockets.
        for kind, milliamps, verdict in (
            ("childcare", 30.0, "fail"),
            ("childcare", 10.0, "pass"),
            ("treatment", 30.0, "fail"),
            ("ordinary", 30.0, "pass"),
        ):
            held = Load(name="Sockets", kind="socket", count=2, room="r")
            made = typed("sockets 10m", rules="anz")
            [one] = made.circuits
            changed = one.model_copy(update={"loads": (held,), "device": rcbo(16.0, "C", rcd=Rcd(idn_ma=milliamps))})
            of = made.model_copy(update={"circuits": (changed,), "rooms": (Room(id="r", name="Room", kind=kind),)})  # type: ignore[arg-type]
            self.assertEqual(finding(of, "rcd-duty").verdict, verdict, (kind, milliamps))

    def test_a_fixed_heat_pump_outdoors_is_not_mobile_and_a_socket_there_is(self) -> None:
        # BS 7671, 411.3.3 (ii): mobile equipment of up to 32 A for use outdoors.
        yard = Room(id="y", name="Yard", kind="outdoors")
        for load, verdict in (("air-conditioner", "not-applicable"), ("socket", "fail")):
            held = Load(name="Item", kind=load, power_w=2000.0 if load != "socket" else None, room="y")  # type: ignore[arg-type]
            made = job(
                circuit(loads=(held,), device=mcb(16.0, "C"), run=(laid(10.0, concealed_in="no"),)), rooms=(yard,)
            )
            self.assertEqual(finding(made, "rcd-duty").verdict, verdict, load)


class Smaller(unittest.TestCase):
    """Defects of one line each."""

    def test_division_counts_the_rcds_of_its_own_board(self) -> None:
        lit = [
            circuit(id=f"l{n}", kind="lighting", loads=(Load(name="Lamp", kind="lamp", power_w=50.0),))
            for n in range(2)
        ]
        made = two_boards(feeder(device=mcb(16.0, "C")), *lit)
        board = made.boards[1]
        group = SharedRcd(id="r1", name="RCD", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        ways = tuple(way.model_copy(update={"rcd": "r1"}) for way in board.ways)
        sub = board.model_copy(update={"shared_rcds": (group,), "ways": ways})
        first = made.boards[0].model_copy(update={"shared_rcds": (group.model_copy(update={"id": "other"}),)})
        both = made.model_copy(update={"boards": (first, sub)})
        alone = made.model_copy(update={"boards": (made.boards[0], sub)})
        self.assertEqual(of_board(both, "division", board.id).value, of_board(alone, "division", board.id).value)
        self.assertEqual(of_board(both, "division", board.id).verdict, of_board(alone, "division", board.id).verdict)

    def test_no_figure_is_printed_with_a_trailing_blank(self) -> None:
        for rules in SUPPLIES:
            for found in assess(
                design(typed("sockets 20m" if rules != "na" else "sockets 60ft", rules=rules)).job
            ).findings:
                for line in (
                    str(found.sentence),
                    *(str(step.shown) for step in found.working),
                    *(str(step.unit) for step in found.working),
                ):
                    self.assertEqual(line, line.strip(), found.check)
                    self.assertNotIn(" .", line.replace(" …", ""))

    def test_short_circuit_selectivity_cites_what_it_goes_by(self) -> None:
        fuse = finding(job(), "selectivity-short-circuit")
        assert fuse.rule is not None
        self.assertIn("annex on coordination", fuse.rule.publication)
        breakers = find(
            assess(two_boards(feeder(device=mcb(40.0, "C")), circuit())),
            "selectivity-short-circuit",
            Subject("circuit", "c1"),
        )
        assert breakers is not None and breakers.rule is not None
        self.assertIn("IEC 60947-2", breakers.rule.publication)

    def test_an_inrush_is_assumed_for_a_welder_and_said(self) -> None:
        found = finding(typed("welder 3kW B16 2.5mm 10m"), "overload")
        self.assertEqual(found.verdict, "advice")
        self.assertIn("loads.starting_multiple", [one.field for one in found.assumptions])

    def test_a_fail_says_how_many_times_and_a_pass_never_only(self) -> None:
        far = finding(job(circuit(run=(laid(900.0),))), "voltage-drop")
        self.assertIn("times the limit", str(far.sentence))
        for made in (job(), job(circuit(device=rcbo(20.0)))):
            for found in assess(made).findings:
                if found.verdict in ("pass", "tight"):
                    self.assertNotIn("only 0 %", str(found.sentence))

    def test_what_flows_into_a_fault_is_told_apart_from_what_the_conductors_carry(self) -> None:
        story = describe(typed("cooker B32 6mm 14m 9kW"), FaultEvent(kind="line-earth", circuit="c1", at=0.0))
        carried = max(flow.line_a for flow in story.path)
        self.assertGreater(carried, story.fault_a_most)
        self.assertTrue(any("core.fault.note.loads" in ids(note) for note in story.notes))
        bare = describe(job(circuit(loads=())), FaultEvent(kind="line-earth", circuit="c1", at=0.0))
        self.assertFalse(any("core.fault.note.loads" in ids(note) for note in bare.notes))

    def test_a_balanced_three_phase_supply_keeps_its_voltage(self) -> None:
        held = tuple(circuit(id=f"c{n}", lines=(f"L{n}",)) for n in (1, 2, 3))
        story = describe(
            job(*held, supply=supply(phases=3, cutout=cutout(63.0))),
            FaultEvent(kind="open-neutral", running=1.0, electrode_ohm=5000.0),
        )
        self.assertIn("about 230 V", str(story.outcome))


class NeutralOfAnRcd(unittest.TestCase):
    """The same current goes in and comes out."""

    def test_its_neutral_links_are_of_one_size(self) -> None:
        held = [circuit(id=f"c{n}", device=mcb(16.0)) for n in range(1, 4)]
        of = job(*held)
        group = SharedRcd(id="r1", name="RCD", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        ways = tuple(way.model_copy(update={"rcd": "r1"}) for way in of.boards[0].ways)
        board = of.boards[0].model_copy(
            update={"shared_rcds": (group,), "ways": ways, "main_switch": MainSwitch(rating_a=100.0)}
        )
        made = lay_out(housed(of.model_copy(update={"boards": (board,)}), 2, 14), "main")[0]
        links = [
            one
            for one in model_of(made, "main").wiring.conductors
            if one.kind == "link" and one.conductor == "N" and "rcd:r1" in one.id
        ]
        self.assertGreaterEqual(len(links), 2)
        self.assertEqual(len({one.area_mm2 for one in links}), 1, [(one.id, one.area_mm2) for one in links])


class OneMoreCircuit(unittest.TestCase):
    """A way of adding a circuit leaves no less than nothing."""

    def full(self) -> Job:
        held = (circuit(id=f"c{n}", name=f"C{n}", device=rcbo(16.0, family="fell-rcbo")) for n in range(1, 7))
        return lay_out(housed(job(*held), 1, 14), "main")[0]

    def ways(self, of: Job) -> dict[str, AddCircuitOption]:
        new = Circuit(
            id="new", name="Shed", kind="radial", loads=(Load(name="Sockets", kind="socket"),), run=(laid(18.0),)
        )
        return {one.id: one for one in add_circuit_options(of, "main", new)}

    def test_no_way_offers_minus_one_module(self) -> None:
        for rows in (14, 15, 16):
            held = (circuit(id=f"c{n}", name=f"C{n}", device=rcbo(16.0, family="fell-rcbo")) for n in range(1, 7))
            for one in self.ways(lay_out(housed(job(*held), 1, rows), "main")[0]).values():
                self.assertTrue(one.modules_left is None or one.modules_left >= 0, (rows, one.id, one.modules_left))

    def test_a_circuit_in_a_room_that_is_not_there_is_refused_by_its_path(self) -> None:
        held = Load(name="Sockets", kind="socket", room="garden")
        new = Circuit(id="new", name="Shed", kind="radial", loads=(held,), run=(laid(18.0),))
        with self.assertRaisesRegex(BadDocument, "garden"):
            add_circuit_options(self.full(), "main", new)

    def test_no_surge_protective_device_is_added_by_the_way(self) -> None:
        of = self.full().model_copy(update={"surge": ORDINARY})
        for one in self.ways(of).values():
            self.assertTrue(one.job is None or not any(board.spds for board in one.job.boards), one.id)

    def test_a_larger_board_is_offered(self) -> None:
        found = self.ways(self.full())["larger"]
        self.assertEqual(found.not_possible, "")
        assert found.job is not None and found.modules_left is not None
        enclosure = checked(found.job).boards[0].build.enclosure
        assert enclosure is not None
        self.assertGreater(enclosure.rows * enclosure.modules, 14)
        self.assertEqual(self.ways(typed("lights 20m"))["larger"].job, None)


class FixesOfBoardsAndSupply(unittest.TestCase):
    """A finding of a board or of the supply has a fix that the engine tried."""

    def offered(self, made: Job, check: str, kind: str) -> list[str]:
        subject = Subject("supply", "supply") if kind == "supply" else Subject("board", "main")
        return [one.label for one in remedies(made, check, subject)]

    def test_each_has_one(self) -> None:
        small = Earthing(conductor_mm2=4.0, bonds=(Bond(name="water pipe", area_mm2=4.0),))
        tails = {"area_mm2": 6.0, "length_m": 9.0}
        gear = ControlGear(
            id="g",
            name="Contactor",
            kind="contactor",
            rating_a=16.0,
            motor_rating_a=7.0,
            switches=("c1",),
            max_backup_a=100.0,
        )
        heavy = circuit(device=rcbo(32.0), loads=(Load(name="Heater", kind="heater", power_w=6000.0),))
        switched = job(heavy)
        switched = switched.model_copy(
            update={"boards": (switched.boards[0].model_copy(update={"control_gear": (gear,)}),)}
        )
        four = job(*(circuit(id=f"c{at}") for at in range(1, 5)))
        main = four.model_copy(
            update={"boards": (four.boards[0].model_copy(update={"main_switch": MainSwitch(rating_a=40.0)}),)}
        )
        for made, check, kind in (
            (job(supply=supply(tails=tails)), "tails", "supply"),
            (job(supply=supply(earthing=small)), "earthing", "supply"),
            (job(supply=supply(earthing=small)), "bonding", "supply"),
            (job(surge=ORDINARY), "surge", "supply"),
            (switched, "control-gear", "board"),
            (main, "main-switch", "board"),
        ):
            with self.subTest(check):
                subject = Subject("supply", "supply") if kind == "supply" else Subject("board", "main")
                here = find(assess(made), check, subject)
                assert here is not None
                self.assertEqual(here.verdict, "fail", str(here.sentence))
                self.assertTrue(self.offered(made, check, kind))


def without_each_input(full: Job) -> Iterator[tuple[Job, str]]:
    """The job without one input after another, wherever the document may be without it."""
    data = json.loads(to_text(full))
    for path in leaves(data):
        made = copy.deepcopy(data)
        at = made
        for key in path[:-1]:
            at = at[key]
        at[path[-1]] = None
        with contextlib.suppress(BadDocument):
            yield read_data(made), ".".join(str(key) for key in path)


def leaves(data: Any, path: tuple[str | int, ...] = ()) -> Iterator[tuple[str | int, ...]]:
    """The path of every value that is stated."""
    if isinstance(data, dict):
        for key, value in data.items():
            yield from leaves(value, (*path, key))
    elif isinstance(data, list):
        for at, value in enumerate(data):
            yield from leaves(value, (*path, at))
    elif data is not None and path:
        yield path


class Starved(unittest.TestCase):
    """A law: taking an input away never makes a check easier to pass."""

    def test_without_an_input_no_verdict_gets_better(self) -> None:
        cable = {"type": "flat-twin-pvc", "area_mm2": 1.5}
        full = job(
            circuit(cable=cable, device=mcb(32.0), loads=(Load(name="Sockets", kind="socket", count=4, room="b"),)),
            rooms=(Room(id="b", name="Bath", kind="bath"),),
            supply=supply(
                tails={"area_mm2": 6.0, "length_m": 9.0},
                earthing=Earthing(conductor_mm2=4.0, bonds=(Bond(name="gas", area_mm2=4.0),)),
            ),
            surge=ORDINARY,
        )
        before = {(one.check, one.subject): one for one in assess(full).findings}
        good = {"pass", "tight", "not-applicable"}
        for starved, what in without_each_input(full):
            for found in assess(starved).findings:
                was = before.get((found.check, found.subject))
                if was is not None and was.verdict in ("fail", "missing"):
                    self.assertNotIn(found.verdict, good, f"{found.check} without {what}: {(found.sentence)!s}")

    #: What a failing case rests on that is no input but the way things are put together, or has a figure of its own kind in the tables.
    BUILT = frozenset({"rcd", "cpc_mm2", "height_mm", "dissipates_w", "backup_a"})

    def test_no_case_that_fails_passes_without_an_input_unless_it_says_what_it_assumes(self) -> None:
        of_circuits = list(FAIL.items()) + [(one.check, one.made) for one in CASES if one.verdict == "fail"]
        for check, full in of_circuits:
            before = {one.subject: one.verdict for one in assess(full, explain=False).findings if one.check == check}
            for starved, what in without_each_input(full):
                if what.rpartition(".")[2] in self.BUILT:
                    continue
                for found in assess(starved, explain=False).findings:
                    if (
                        found.check == check
                        and before.get(found.subject) == "fail"
                        and found.verdict in ("pass", "tight")
                    ):
                        self.assertTrue(found.assumptions, f"{check} without {what}: {(found.sentence)!s}")
