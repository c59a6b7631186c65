"""What each standard asks of residual-current, arc-fault and surge protection and of special places, case by case.

Expected verdicts are read from the clauses named beside them (from memory), not from the product's tables.
"""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, finding, job, laid, supply
from tests.core.checks.test_protection_verdicts import DECLINED, PLAN, board, in_bath, surge_device
from tests.texts import keys
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job, JobInfo, Load
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import EquipmentPosition, Room
from vivid_lattice.core.rules import rule_set

SYSTEM = {"anz": "MEN", "anz-nz": "MEN", "na": "TN-C-S"}
METHOD = {"na": "cable", "anz": "touching", "anz-nz": "touching"}
BREAKER = {"na": Device(kind="breaker", rating_a=20.0)}
ROOMS = {kind: Room(id=kind, name=kind.title(), kind=kind) for kind in ("bath", "bedroom", "kitchen", "outdoors", "garage")}  # type: ignore[arg-type]  # fmt: skip


def in_standard(rules: str, *loads: Load, kind: str = "radial", device: Device | None = None, **more: Any) -> Job:
    """One circuit in a standard's own cable, behind a breaker without a residual-current part."""
    standard = rule_set(rules)
    cable = next(one for one in standard.cables.kinds.values() if (one.methods and 2.0 <= one.sizes_mm2[0] <= 2.6) or 2.5 in one.sizes_mm2)  # fmt: skip
    size = 2.5 if 2.5 in cable.sizes_mm2 else cable.sizes_mm2[0]
    method = METHOD.get(rules, "C") if METHOD.get(rules, "C") in cable.methods else sorted(cable.methods)[0]
    held: Circuit = circuit(
        kind=kind,
        loads=loads,
        run=(laid(10.0, method),),
        cable=Cable(type=cable.id, area_mm2=size, cpc=cable.cpc_choices[0]),
        device=device or BREAKER.get(rules) or Device(kind="mcb", curve="C", rating_a=16.0, breaking_ka=6.0),
    )
    parts: dict[str, Any] = {
        "job": JobInfo(title="Standard", rules=rules),
        "supply": supply(
            system=SYSTEM.get(rules, "TN-S"), nominal_v=standard.nominal_v, cutout=None, tails=None, earthing=None
        ),
        "rooms": tuple(ROOMS.values()),
    }
    return job(held, **(parts | more))


def socket(room: str) -> Load:
    return Load(name="Outlet", kind="socket", room=room)


def lamp(room: str) -> Load:
    return Load(name="Lamp", kind="lamp", power_w=20.0, room=room)


class ResidualCurrent(unittest.TestCase):
    """Which circuits have to have a device."""

    def test_sockets_are_asked_for_everywhere_but_by_room_in_north_america(self) -> None:
        # IEC 60364-4-41, 411.3.3; AS/NZS 3000:2018, 2.6.3.2; SANS 10142-1, 6.7.5; NEC 2023, 210.8(A).
        for rules, room, verdict in (
            ("iec", "bedroom", "fail"), ("anz", "bedroom", "fail"), ("anz-nz", "bedroom", "fail"), ("za", "bedroom", "fail"),
            ("na", "bedroom", "not-applicable"), ("na", "bath", "fail"), ("na", "kitchen", "fail"), ("na", "garage", "fail"),
        ):  # fmt: skip
            with self.subTest(rules, room=room):
                self.assertEqual(finding(in_standard(rules, socket(room)), "rcd-duty").verdict, verdict)

    def test_an_american_receptacle_without_a_room_is_missing(self) -> None:
        found = finding(in_standard("na", Load(name="Outlet", kind="socket")), "rcd-duty")
        self.assertEqual((found.verdict, [need.path for need in found.needs]), ("missing", ["loads.room"]))

    def test_lights_at_home(self) -> None:
        # IEC 60364-4-41:2017, 411.3.4: luminaires in a dwelling; SANS asks of sockets alone; AS/NZS of all final circuits.
        for rules, verdict in (("iec", "fail"), ("za", "not-applicable"), ("anz", "fail")):
            with self.subTest(rules):
                found = finding(in_standard(rules, lamp("bedroom"), kind="lighting"), "rcd-duty")
                self.assertEqual(found.verdict, verdict)

    def test_ranges_and_dryers_in_north_america(self) -> None:
        # NEC 2023, 210.8(D).
        for kind, verdict in (("cooker", "fail"), ("dryer", "fail"), ("water-heater", "not-applicable")):
            made = in_standard("na", Load(name="Appliance", kind=kind, power_w=2000.0, room="bedroom"), kind="fixed")  # type: ignore[arg-type]
            with self.subTest(kind):
                self.assertEqual(finding(made, "rcd-duty").verdict, verdict)

    def test_a_300_milliampere_device_does_where_fire_alone_asks(self) -> None:
        # IEC 60364-4-42, 422.3.9: 300 mA at most for places with a risk of fire.
        barn = Room(id="store", name="Store", kind="ordinary", fire_risk=True)
        heater = Load(name="Heater", kind="heater", power_w=1000.0, room="store")
        for milliamps, verdict in ((300.0, "pass"), (500.0, "fail")):
            rcbo = Device(kind="rcbo", curve="C", rating_a=16.0, breaking_ka=6.0, rcd=Rcd(idn_ma=milliamps))
            made = in_standard("iec", heater, kind="fixed", device=rcbo, rooms=(barn,))
            self.assertEqual(finding(made, "rcd-duty").verdict, verdict, milliamps)


class ArcFaults(unittest.TestCase):
    """Demanded, recommended, or not spoken of."""

    def test_living_rooms_in_north_america_and_not_the_bath(self) -> None:
        # NEC 2023, 210.12(B).
        for room, verdict in (("bedroom", "fail"), ("kitchen", "fail"), ("bath", "not-applicable")):
            self.assertEqual(finding(in_standard("na", socket(room)), "arc-fault").verdict, verdict, room)

    def test_one_load_without_a_room_is_not_taken_out_by_another_with_one(self) -> None:
        made = in_standard("na", socket("bath"), Load(name="Somewhere", kind="socket"))
        self.assertEqual(finding(made, "arc-fault").verdict, "fail")

    def test_what_is_recommended_never_fails_and_is_said(self) -> None:
        found = finding(in_standard("iec", socket("bedroom")), "arc-fault")
        self.assertEqual(found.verdict, "not-applicable")
        self.assertIn("recommended", keys(found))


class Surge(unittest.TestCase):
    """Without a device: who asks for one, and whether the owner may do without."""

    def test_by_standard_and_by_what_the_owner_decided(self) -> None:
        # BS 7671:2018+A2, 443.4.1; IEC 60364-4-44, 443.4; NEC 2023, 230.67; AS/NZS 3000:2018, 2.7 and SANS: no demand.
        declined = PLAN.model_copy(update={"declined": DECLINED})
        for rules, open_, waived in (
            ("uk", "fail", "not-applicable"), ("iec", "fail", "advice"), ("na", "fail", "fail"),
            ("anz", "not-applicable", "not-applicable"), ("za", "not-applicable", "not-applicable"),
        ):  # fmt: skip
            for plan, verdict in ((PLAN, open_), (declined, waived)):
                with self.subTest(rules, waived=plan is declined):
                    made = job(surge=plan) if rules == "uk" else in_standard(rules, lamp("bedroom"), surge=plan)
                    self.assertEqual(finding(made, "surge").verdict, verdict)

    def test_where_life_is_at_stake_nobody_may_do_without(self) -> None:
        plan = PLAN.model_copy(update={"consequence": "safety", "declined": DECLINED})
        for rules in ("uk", "iec", "na", "anz", "za"):
            made = job(surge=plan) if rules == "uk" else in_standard(rules, lamp("bedroom"), surge=plan)
            self.assertEqual(finding(made, "surge").verdict, "fail", rules)

    def test_level_and_leads_meet_at_the_limit(self) -> None:
        # Category II at 230 V: 2.5 kV (IEC 60664-1, table F.1); 1.5 kV marked leaves 1 kV, which is 1 m of leads.
        for up, leads, stands, verdict in (
            (2.0, 0.5, None, "pass"), (2.0, 0.501, None, "fail"), (1.4, 0.1, 1.5, "pass"), (1.41, 0.1, 1.5, "fail"),
        ):  # fmt: skip
            plan = PLAN.model_copy(update={"withstand_kv": stands})
            made = board(job(surge=plan), spds=(surge_device(up_kv=up, leads_m=leads),))
            found = finding(made, "surge")
            level = [step for step in found.working if step.symbol in ("U", "Uw")]
            self.assertEqual(level[0].result <= level[1].result + 1e-9, verdict == "pass", (up, leads))
            self.assertEqual(found.verdict == "fail", verdict == "fail", (up, leads, str(found.sentence)))

    def test_a_device_behind_a_larger_one_than_its_maker_allows_needs_its_own(self) -> None:
        # The cut-out of 100 A stands ahead; a backup breaker of its own counts in its place.
        for most, own, verdict in ((63.0, None, "fail"), (63.0, 63.0, "pass"), (63.0, 80.0, "fail"), (100.0, None, "pass")):  # fmt: skip
            device = surge_device(max_backup_a=most, backup_a=own, live_mm2=16.0)
            found = finding(board(job(surge=PLAN), spds=(device,)), "surge")
            self.assertEqual(found.verdict, verdict, (most, own))


class SpecialPlaces(unittest.TestCase):
    """Sauna, pool, jets, and extra-low voltage: IEC 60364-7-701 to -703 (from memory)."""

    def place(self, room: Room, kind: str = "lamp", **where: Any) -> str:
        load = Load(
            name="Item", kind=kind, power_w=20.0, room=room.id, position=EquipmentPosition.model_validate(where)
        )  # type: ignore[arg-type]
        return finding(job(circuit(loads=(load,)), rooms=(room,)), "special-location").verdict

    def test_a_sauna_by_heat(self) -> None:
        # 703.512.2: zone 3 stands 125 °C, its cables 170 °C; IP24; no socket-outlet; in zone 1 the heater's own alone.
        sauna = Room(id="s", name="Sauna", kind="sauna")
        high = {"distance_m": 1.0, "height_m": 1.6, "ip": "IP24"}
        for more, kind, verdict in (
            ({"rated_ambient_c": 125.0, "cable_rated_c": 170.0}, "lamp", "pass"),
            ({"rated_ambient_c": 124.0, "cable_rated_c": 170.0}, "lamp", "fail"),
            ({"rated_ambient_c": 125.0, "cable_rated_c": 169.0}, "lamp", "fail"),
            ({"cable_rated_c": 170.0}, "lamp", "advice"),
            ({"rated_ambient_c": 125.0, "cable_rated_c": 170.0, "ip": "IP23"}, "lamp", "fail"),
            ({"rated_ambient_c": 125.0, "cable_rated_c": 170.0}, "socket", "fail"),
            ({"distance_m": 0.4}, "lamp", "fail"),
            ({"distance_m": 0.4}, "heater", "pass"),
            ({"height_m": 0.5}, "lamp", "pass"),
        ):
            with self.subTest(more=more, kind=kind):
                self.assertEqual(self.place(sauna, kind, **(high | more)), verdict)

    def test_a_pool(self) -> None:
        # 702.410.3.101, 702.512.2: extra-low voltage in zones 0 (12 V) and 1; IPX8, IPX4 (jets: IPX5).
        pool = Room(id="p", name="Pool", kind="pool")
        for across, height, more, verdict in (
            (-1.0, -0.5, {"ip": "IPX8", "selv_v": 12.0}, "pass"), (-1.0, -0.5, {"ip": "IPX8", "selv_v": 24.0}, "fail"),
            (-1.0, -0.5, {"ip": "IPX7", "selv_v": 12.0}, "fail"), (1.0, 1.0, {"ip": "IPX5"}, "fail"),
            (1.0, 1.0, {"ip": "IPX5", "selv_v": 24.0}, "pass"), (4.0, 1.0, {}, "pass"),
        ):  # fmt: skip
            with self.subTest(across=across, more=more):
                self.assertEqual(self.place(pool, distance_m=across, height_m=height, **more), verdict)

    def test_jets_ask_for_more_in_a_bath(self) -> None:
        # 701.512.2: IPX5 where water jets are used for cleaning.
        for jets, ip, verdict in ((False, "IPX4", "pass"), (True, "IPX4", "fail"), (True, "IPX5", "pass"), (True, "IPX7", "fail")):  # fmt: skip
            room = Room(id="b", name="Bath", kind="bath", water_jets=jets)
            self.assertEqual(self.place(room, distance_m=0.3, height_m=1.0, ip=ip), verdict, (jets, ip))

    def test_every_item_that_is_not_measured_is_named(self) -> None:
        made = in_bath(distance_m=None)
        [held] = made.circuits
        twice = made.model_copy(update={"circuits": (held.model_copy(update={"loads": (*held.loads, held.loads[0].model_copy(update={"name": "Mirror"}))}),)})  # fmt: skip
        found = finding(twice, "special-location")
        self.assertEqual(len(found.needs), 2)
        self.assertTrue(any("Mirror" in str(one.value) for one in found.assumptions))


if __name__ == "__main__":
    unittest.main()
