"""Devices of a circuit outside its board: fuses, ratings, outlets, and RCDs at the point of use as far as each standard permits them."""

from __future__ import annotations

import unittest
from typing import Any

from tests.builders import circuit, finding, flat, job, laid, mcb, rcbo, supply
from tests.texts import ids
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.rcd_reach import rcd_reach
from vivid_lattice.core.document.job import Cable, Circuit, Device, Job, JobInfo, Load
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.material.material import material
from vivid_lattice.core.rules import rule_set


def device(kind: str = "fused-unit", **changed: Any) -> LocalDevice:
    return LocalDevice.model_validate({"name": "Unit", "kind": kind, "rating_a": 13.0} | changed)


def heater(watts: float = 2300.0, **more: Any) -> tuple[Load, ...]:
    return (Load.model_validate({"name": "Heater", "kind": "heater", "power_w": watts} | more),)


def with_device(*devices: LocalDevice, **changed: Any) -> Circuit:
    return circuit(**({"local_devices": devices, "loads": heater()} | changed))


RCD30 = Rcd(idn_ma=30.0)


class Suits(unittest.TestCase):
    """Each against its limit."""

    def verdict(self, *devices: LocalDevice, **changed: Any) -> str:
        return finding(job(with_device(*devices, **changed)), "local-devices").verdict

    def test_a_fuse_carries_its_load(self) -> None:
        # 2300 W at 230 V is 10 A.
        self.assertEqual(self.verdict(device(fuse_a=10.0)), "pass")
        self.assertEqual(self.verdict(device(fuse_a=5.0)), "fail")
        self.assertEqual(self.verdict(device()), "missing")
        self.assertEqual(self.verdict(device(fuse_a=13.0), loads=heater(3000.0)), "fail")

    def test_a_switch_carries_its_load_or_what_can_flow(self) -> None:
        self.assertEqual(self.verdict(device("isolator", rating_a=10.0)), "pass")
        self.assertEqual(self.verdict(device("isolator", rating_a=9.9)), "fail")
        self.assertEqual(self.verdict(device("isolator", rating_a=None)), "missing")
        motor = (Load(name="Pump", kind="motor", power_w=800.0, power_factor=0.8),)
        self.assertEqual(self.verdict(device("isolator", rating_a=16.0, lockable=True), loads=motor), "pass")
        self.assertEqual(self.verdict(device("isolator", rating_a=10.0, lockable=True), loads=motor), "fail")
        self.assertEqual(self.verdict(device("isolator", rating_a=16.0), loads=motor), "missing")
        self.assertEqual(self.verdict(device("isolator", rating_a=16.0, lockable=False), loads=motor), "advice")

    def test_an_outlet_is_protected_by_the_device_upstream(self) -> None:
        sockets = (Load(name="Outlet", kind="socket", count=1),)
        for device_a, outlet_a, verdict in ((16.0, 16.0, "pass"), (20.0, 16.0, "fail"), (32.0, 32.0, "pass")):
            held = {"kind": "radial", "loads": sockets, "device": rcbo(device_a), "cable": flat(6.0)}
            self.assertEqual(self.verdict(device("interlocked-outlet", rating_a=outlet_a), **held), verdict)

    def test_the_type_of_its_rcd(self) -> None:
        charger = (Load(name="Charger", kind="charger", power_w=2000.0, power_factor=1.0, dc_residual="smooth"),)
        for type_, verdict in (("A", "fail"), ("B", "pass")):
            own = device("rcd-isolator", rcd=Rcd(idn_ma=30.0, type=type_), rating_a=32.0, lockable=True)  # type: ignore[arg-type]
            self.assertEqual(self.verdict(own, loads=charger), verdict)
        self.assertEqual(self.verdict(device("rcd", rcd=None, rating_a=16.0)), "missing")

    def test_what_contradicts_itself_is_refused(self) -> None:
        for wrong in (
            device(serves=("No such",), fuse_a=3.0),
            device(rcd=RCD30, fuse_a=3.0),
            device("isolator", fuse_a=3.0),
        ):
            with self.assertRaises(BadDocument):
                checked(job(circuit()).model_copy(update={"circuits": (with_device(wrong),)}))

    def test_none_is_not_applicable_and_each_is_material(self) -> None:
        self.assertEqual(finding(job(circuit()), "local-devices").verdict, "not-applicable")
        made = job(with_device(device(fuse_a=10.0)))
        lines = [str(item.what) for item in material(Installation.of(made, rule_set("uk"))).items]
        self.assertTrue(any("fused unit" in line and "10 A" in line for line in lines), lines)


class AtThePointOfUse(unittest.TestCase):
    """An RCD outside the board, as far as the standard permits its place."""

    def sockets(self, *devices: LocalDevice, **section: Any) -> Job:
        run = (laid(12.0, **({"concealed_in": "no"} | section)),)
        loads = (Load(name="Sockets", kind="socket", count=2),)
        return job(circuit(kind="radial", loads=loads, device=mcb(20.0), local_devices=devices, run=run))

    def test_sockets_may_be_protected_at_the_outlet_and_a_concealed_cable_may_not(self) -> None:
        # BS 7671 411.3.3 and 522.6.202: the second protects the cable, from the board on.
        own = device("rcd-outlet", rcd=RCD30, rating_a=None)
        found = finding(self.sockets(own), "rcd-duty")
        self.assertEqual(found.verdict, "pass")
        self.assertIn("core.check.rcd-duty.local", ids(found.sentence))
        self.assertEqual(finding(self.sockets(), "rcd-duty").verdict, "fail")
        hidden = finding(self.sockets(own, concealed_in="wall", depth_mm=20.0), "rcd-duty")
        self.assertEqual(hidden.verdict, "fail")
        self.assertIn("core.check.rcd-duty.local_only", ids(hidden.sentence))
        self.assertEqual(finding(self.sockets(own, concealed_in=None), "rcd-duty").verdict, "missing")

    def test_every_load_that_gives_rise_to_it_is_behind_it(self) -> None:
        loads = (
            Load(name="Near", kind="socket", count=1, along_m=3.0),
            Load(name="Far", kind="socket", count=1, along_m=9.0),
        )
        for serves, at_m, verdict in (
            ((), None, "pass"),
            (("Far",), None, "fail"),
            ((), 2.0, "pass"),
            ((), 5.0, "fail"),
        ):
            own = device("rcd" if at_m else "rcd-outlet", rcd=RCD30, rating_a=20.0, serves=serves, at_m=at_m)
            held = circuit(kind="radial", loads=loads, device=mcb(20.0), local_devices=(own,), run=(laid(12.0),))
            self.assertEqual(finding(job(held), "rcd-duty").verdict, verdict, (serves, at_m))

    def test_a_position_beyond_the_end_of_the_run_is_asked(self) -> None:
        for at_m, asked in ((12.0, False), (12.1, True)):
            own = device("rcd", rcd=RCD30, rating_a=20.0, at_m=at_m)
            held = circuit(kind="radial", loads=(Load(name="Far", kind="socket", count=1),), device=mcb(20.0), local_devices=(own,), run=(laid(12.0),))  # fmt: skip
            paths = [need.path for need in finding(job(held), "local-devices").needs]
            self.assertEqual("local_devices.at_m" in paths, asked, at_m)

    def test_what_each_place_leaves_unprotected(self) -> None:
        """Geometry: a device protects what is behind it."""
        loads = (Load(name="Near", kind="socket", count=1, along_m=3.0), Load(name="Far", kind="socket", count=1))
        for local, own, expected in (
            (device("rcd", rcd=RCD30, rating_a=20.0, at_m=4.0), mcb(20.0), [(4.0, "others")]),
            (device("rcd-outlet", rcd=RCD30, rating_a=None), mcb(20.0), [(None, "cable_whole")]),
            (device("isolator", rating_a=20.0), rcbo(20.0), [(0.0, "whole")]),
            (device("rcd", rcd=RCD30, rating_a=20.0, at_m=0.0), rcbo(20.0), [(0.0, "whole"), (0.0, "cable_part")]),
        ):
            held = circuit(kind="radial", loads=loads, device=own, local_devices=(local,), run=(laid(12.0),))
            found = rcd_reach(job(held), held.id)
            self.assertEqual([each.from_m for each in found], [from_m for from_m, _ in expected])
            for each, (_, part) in zip(found, expected, strict=True):
                self.assertIn(f"core.rcd_reach.{part}", ids(each.text))
                self.assertEqual(each.length_m, 12.0)
        self.assertEqual(rcd_reach(job(held), "none"), ())

    def test_one_that_is_too_large_or_a_tt_supply_is_not_enough(self) -> None:
        large = device("rcd-outlet", rcd=Rcd(idn_ma=100.0), rating_a=None)
        self.assertEqual(finding(self.sockets(large), "rcd-duty").verdict, "fail")
        own = device("rcd-outlet", rcd=RCD30, rating_a=None)
        tt = self.sockets(own).model_copy(update={"supply": supply(system="TT", ze_ohm=40.0)})
        self.assertEqual(finding(tt, "rcd-duty").verdict, "fail")

    def test_the_first_receptacle_in_north_america(self) -> None:
        # NEC 210.8: protection by a receptacle of the GFCI type is protection.
        room = Room(id="bath", name="Bath", kind="bath")
        loads = (Load(name="Receptacles", kind="socket", count=2, room="bath"),)
        for devices, verdict in (((), "fail"), ((device("rcd-outlet", rcd=Rcd(idn_ma=5.0), rating_a=None),), "pass")):
            held = circuit(kind="radial", loads=loads, device=Device(kind="breaker", rating_a=20.0), local_devices=devices, run=(laid(9.0, "cable"),), cable=Cable(type="nm", area_mm2=3.31), lines=("L1",))  # fmt: skip
            ahead = supply(phases=2, nominal_v=120.0, cutout=None, tails=None, earthing=None)
            made = job(held, job=JobInfo(title="NA", rules="na"), supply=ahead, rooms=(room,))
            self.assertEqual(finding(made, "rcd-duty").verdict, verdict)

    def test_as_typed_the_board_gets_a_plain_breaker(self) -> None:
        for rules, line, kind in (
            ("uk", "rcd sockets 14m, shed", "rcd-outlet"),
            ("uk", "rcd fcu 13A heater 2kW 10m", "rcd-fused-unit"),
            ("na", "bathroom gfci receptacles 30ft", "rcd-outlet"),
        ):
            entry = add_entry(blank("T", rule_set(rules)), line, "main")
            held = entry.job.circuit(entry.circuit)
            self.assertEqual([each.kind for each in held.local_devices], [kind], line)
            assert held.local_devices[0].rcd is not None
            done = design(entry.job).job.circuit(entry.circuit)
            assert isinstance(done.device, Device)
            self.assertIsNone(done.device.rcd, line)

    def test_a_fused_unit_has_the_fuse_beside_its_word(self) -> None:
        for line, fuse_a in (("boiler 200W 12m fcu 3A", 3.0), ("towel rail 150W 8m 5A fcu", 5.0), ("boiler 200W 12m fcu", None)):  # fmt: skip
            entry = add_entry(blank("T", rule_set("uk")), line, "main")
            [own] = entry.job.circuit(entry.circuit).local_devices
            self.assertEqual((own.kind, own.fuse_a), ("fused-unit", fuse_a), line)


if __name__ == "__main__":
    unittest.main()
