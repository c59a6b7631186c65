"""Every check that protects has a case that passes, one that fails (or is advised against), and one starved of an input."""

from __future__ import annotations

import unittest
from dataclasses import dataclass
from typing import Any

from tests.builders import (
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
    supply,
    two_boards,
)
from tests.texts import ids, keys, says
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS
from vivid_lattice.core.design.remedies import find, remedies
from vivid_lattice.core.document.energy_source import EnergySource, StandbySupply
from vivid_lattice.core.document.job import Circuit, Job, JobInfo, Load, MainSwitch, SharedRcd, Spur, Way
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import EquipmentPosition, Room
from vivid_lattice.core.document.surge_and_relay import Spd, SurgeDecline, SurgeRisk, VoltageRelay
from vivid_lattice.core.findings.finding import Finding, Subject

BATH = Room(id="bath", name="Bath", kind="bath")
PLAN = SurgeRisk(lightning_protection=False, overhead_line=False, consequence="ordinary", furthest_m=8.0)
RELAY = VoltageRelay(rating_a=100.0, over_v=265.0, under_v=190.0)
SOCKETS = (Load(name="Sockets", kind="socket", count=4),)


def surge_device(**changed: Any) -> Spd:
    parts: dict[str, Any] = {
        "id": "s", "name": "Surge device", "type": "2", "up_kv": 1.4, "uc_v": 275.0, "discharge_ka": 20.0, "leads_m": 0.5,
        "short_circuit_ka": 25.0, "max_backup_a": 125.0, "live_mm2": 6.0, "earth_mm2": 6.0,
    }  # fmt: skip
    return Spd.model_validate(parts | changed)


def board(of: Job, **changed: Any) -> Job:
    """The job with its first board changed."""
    first = of.boards[0].model_copy(update=changed)
    return of.model_copy(update={"boards": (first, *of.boards[1:])})


def behind_one(*circuits: Circuit, rcd: Rcd | None = None, rating_a: float = 100.0, **more: Any) -> Job:
    """Circuits of one board behind one shared RCD."""
    made = job(*circuits, **more)
    group = SharedRcd(id="r1", name="RCD left", rating_a=rating_a, rcd=rcd or Rcd(idn_ma=30.0))
    ways = tuple(way.model_copy(update={"rcd": "r1"}) for way in made.boards[0].ways)
    return board(made, shared_rcds=(group,), ways=ways)


def ahead(rcd: Rcd, *circuits: Circuit) -> Job:
    """Circuits behind a main switch with a residual-current part."""
    return board(job(*circuits), main_switch=MainSwitch(rating_a=100.0, rcd=rcd))


def in_bath(kind: str = "lamp", **placed: Any) -> Job:
    where: dict[str, Any] = {"distance_m": 0.3, "height_m": 2.0, "ip": "IPX4"}
    load = Load(
        name="Lamp", kind=kind, power_w=20.0, room="bath", position=EquipmentPosition.model_validate(where | placed)
    )  # type: ignore[arg-type]
    return job(circuit(loads=(load,)), rooms=(BATH,))


def sockets(**changed: Any) -> Circuit:
    return circuit(**({"kind": "radial", "loads": SOCKETS, "device": rcbo(20.0)} | changed))


@dataclass(frozen=True)
class Case:
    """A job, what the check says of it, and the key of its message, or a name in it; of a missing input its field."""

    check: str
    made: Job
    verdict: str
    said: str = "."
    circuit: str = "c1"
    subject: str = "circuit"


def with_surge(plan: SurgeRisk = PLAN, supply_: Any = None, **changed: Any) -> Job:
    made = job(surge=plan) if supply_ is None else job(surge=plan, supply=supply_)
    return board(made, spds=(surge_device(**changed),))


DECLINED = SurgeDecline(name="The owner", date="2026-09-12", reason="loss would be borne", in_writing=True)
CHARGER = circuit(loads=(Load(name="Charging point", kind="charger", power_w=3000.0),))


def charging(dc: Any, **changed: Any) -> Circuit:
    """A charging point of which it is known what direct current can leak."""
    return CHARGER.model_copy(update={"loads": (CHARGER.loads[0].model_copy(update={"dc_residual": dc}),), **changed})


def guarded(guard: bool) -> Circuit:
    """A charging point whose guard against a lost PEN is known."""
    return CHARGER.model_copy(update={"loads": (CHARGER.loads[0].model_copy(update={"open_pen_protection": guard}),)})


def fused(fuse_a: float | None) -> LocalDevice:
    """A fused unit of 20 A."""
    return LocalDevice(name="Unit", kind="fused-unit", rating_a=20.0, fuse_a=fuse_a)


def fed_back(busbar_a: float | None = 125.0) -> Job:
    """A board with 16 A of solar panels, everything of it in order."""
    source = EnergySource(kind="solar", rated_a=16.0, isolator=True, distributor="notified")
    return board(job(circuit(), circuit(id="pv", loads=(), device=mcb(16.0), source=source)), busbar_a=busbar_a)


def on_standby(**changed: Any) -> Job:
    """A board that an inverter supplies while the supply is off, everything of it in order."""
    parts = {"name": "Inverter", "kind": "inverter", "rated_a": 16.0, "changeover": "automatic", "switched_poles": "all", "neutral_earth_link": "relay", "electrode_ohm": 40.0, "labelled": True}  # fmt: skip
    return board(job(), standby=StandbySupply.model_validate(parts | changed))


CASES: tuple[Case, ...] = (
    Case("selectivity-overload", job(), "pass"),
    Case("selectivity-overload", two_boards(feeder(device=mcb(16.0, "C")), circuit(device=rcbo(16.0))), "fail", "crossed"),
    Case("selectivity-overload", two_boards(feeder(device=mcb(50.0, "C")), circuit(device=rcbo(32.0))), "advice", "closer than 1.6"),
    Case("selectivity-overload", two_boards(feeder(device=mcb(50.0, "C")), circuit(device=rcbo(20.0))), "tight", "typical"),
    Case("selectivity-overload", job(circuit(device="auto")), "missing", "device"),
    Case("selectivity-short-circuit", job(), "pass", "total"),
    Case("selectivity-short-circuit", two_boards(), "advice", "partial_where"),
    Case("selectivity-short-circuit", job(supply=supply(fault_current_ka=None)), "missing", "supply.fault_current_ka"),
    Case("selectivity-residual", ahead(Rcd(idn_ma=100.0, time_delayed=True)), "pass", "pass"),
    Case("selectivity-residual", ahead(Rcd(idn_ma=100.0)), "fail", "fail"),
    Case("selectivity-residual", ahead(Rcd(idn_ma=30.0, time_delayed=True)), "fail", "fail"),
    Case("selectivity-residual", job(circuit(device="auto")), "missing", "device"),
    Case("rcd-duty", job(sockets()), "pass", "socket-outlets up to 32 A"),
    Case("rcd-duty", job(sockets(device=mcb(20.0))), "fail", "exemption"),
    Case("rcd-duty", behind_one(sockets(device=mcb(20.0)), rcd=Rcd(idn_ma=100.0)), "fail", "exemption"),
    Case("rcd-duty", job(circuit(device=mcb(16.0), run=(laid(20.0, concealed_in=None),))), "missing", "run.concealed_in"),
    Case("rcd-duty", job(circuit(device=mcb(16.0), run=(laid(20.0, concealed_in="wall", depth_mm=49.0),))), "fail", "at less than 50 mm depth"),
    Case("rcd-duty", job(circuit(device=mcb(16.0), run=(laid(20.0, concealed_in="wall", depth_mm=50.0),))), "not-applicable"),
    Case("rcd-duty", job(circuit(device=mcb(16.0), run=(laid(20.0, concealed_in="wall", depth_mm=10.0, earthed_metal_covering=True),))), "not-applicable"),
    Case("rcd-duty", job(circuit(device=mcb(16.0), run=(laid(20.0, concealed_in="metal-partition"),))), "fail", "metal parts"),
    Case("rcd-duty", behind_one(CHARGER.model_copy(update={"device": mcb(16.0)}), sockets(id="c2", device=mcb(20.0))), "fail", "insufficient"),
    Case("rcd-duty", job(circuit(device=mcb(16.0)), rooms=(BATH,)), "missing", "loads.room"),
    Case("rcd-type", job(), "pass", "pass"),
    # Common practice, no source: charging points for the home detect 6 mA d.c. themselves; it is for its data to say so.
    Case("rcd-type", job(CHARGER), "advice", "as assumed"),
    Case("rcd-type", job(charging("smooth-detected")), "pass", "pass"),
    Case("rcd-type", job(charging("smooth")), "fail", "fail"),
    Case("rcd-type", job(sockets(device=rcbo(20.0, rcd=Rcd(idn_ma=30.0, type="AC")))), "fail", "fail"),
    Case("rcd-type", ahead(Rcd(idn_ma=100.0, type="A", time_delayed=True), charging("smooth", device=rcbo(16.0, rcd=Rcd(idn_ma=30.0, type="B")))), "fail", "blinded"),
    Case("rcd-type", job(circuit(device="auto")), "missing", "device"),
    Case("leakage", job(), "pass", "leakage"),
    Case("leakage", job(circuit(loads=(Load(name="Filter", kind="appliance", leakage_ma=9.2),))), "fail", "leakage"),
    Case("leakage", job(circuit(loads=(Load(name="Heat pump", kind="air-conditioner", count=30),))), "pass", "leakage"),
    Case("leakage", job(circuit(leakage_ma=9.1)), "fail", "leakage"),
    Case("leakage", job(circuit(leakage_ma=8.9)), "tight", "leakage"),
    Case("leakage", behind_one(*(circuit(id=f"c{at}", loads=(Load(name="Heat pump", kind="air-conditioner"),)) for at in range(7))), "advice", "an estimate"),
    Case("leakage", job(circuit(run=(laid(None),))), "missing", "run.length_m"),
    Case("arc-fault", job(sockets(device=rcbo(20.0, arc_fault=True)), job=JobInfo(title="T", premises="care-home")), "pass", "pass"),
    Case("arc-fault", job(sockets(), job=JobInfo(title="T", premises="care-home")), "fail", "fail"),
    Case("arc-fault", job(sockets()), "not-applicable", "recommended"),
    Case("arc-fault", job(sockets(device="auto")), "missing", "device"),
    Case("special-location", in_bath(), "pass", "ip"),
    Case("special-location", in_bath(ip="IP20"), "fail", "ip"),
    Case("special-location", in_bath("socket", distance_m=2.5), "pass", "socket_ok"),
    Case("special-location", in_bath("socket", distance_m=2.499), "fail", "socket_near"),
    Case("special-location", in_bath(distance_m=0.0), "advice", "open"),
    Case("special-location", in_bath(distance_m=0.0, zone_permitted=False), "fail", "zone_1_maker"),
    Case("special-location", in_bath(distance_m=None), "advice", "outside the zones, or IPX4 in zone 2"),
    Case("special-location", in_bath(distance_m=-0.1, height_m=0.05, ip="IPX8"), "fail", "12 V"),
    Case("special-location", in_bath(distance_m=-0.2, height_m=0.5), "advice", "outside the zones, or IPX4 in zone 2"),
    Case("special-location", job(rooms=(BATH,)), "not-applicable"),
    Case("special-location", job(circuit(kind="lighting", loads=(Load(name="Lamp", kind="lamp", power_w=9.0),)), rooms=(BATH,)), "advice", "open"),
    Case("special-location", job(rooms=(Room(id="den", name="Den", kind="living"),)), "not-applicable"),
    Case("special-location", job(CHARGER), "missing", "loads.open_pen_protection"),
    Case("special-location", job(guarded(False)), "fail", "pen_fail"),
    Case("special-location", job(guarded(True)), "pass", "pen_pass"),
    Case("special-location", job(CHARGER, supply=supply(system="TN-S")), "not-applicable"),
    Case("rcd-loading", behind_one(circuit(device=mcb(16.0)), rating_a=16.0), "pass", ".", "main", "board"),
    Case("rcd-loading", behind_one(*(circuit(id=f"c{n}", device=mcb(16.0)) for n in range(3)), rating_a=40.0), "fail", "48 A", "main", "board"),
    Case("rcd-loading", behind_one(circuit(device="auto"), supply=supply(cutout=None)), "missing", "circuits.device", "main", "board"),
    Case("local-devices", job(circuit(local_devices=(fused(16.0),))), "pass", "fuse"),
    Case("local-devices", job(circuit(local_devices=(fused(3.0),))), "fail", "fuse"),
    Case("local-devices", job(circuit(local_devices=(fused(None),))), "missing", "local_devices.fuse_a"),
    Case("local-devices", job(), "not-applicable", "none"),
    Case("energy-sources", fed_back(), "pass", "busbar", "main", "board"),
    Case("energy-sources", fed_back(busbar_a=115.0), "fail", "busbar", "main", "board"),
    Case("energy-sources", fed_back(busbar_a=None), "missing", "boards.busbar_a", "main", "board"),
    Case("energy-sources", job(), "not-applicable", "none", "main", "board"),
    Case("standby-supply", on_standby(), "pass", "changeover", "main", "board"),
    Case("standby-supply", on_standby(changeover="none"), "fail", "changeover_none", "main", "board"),
    Case("standby-supply", on_standby(electrode_ohm=250.0), "advice", "electrode_unstable", "main", "board"),
    Case("standby-supply", on_standby(labelled=None), "missing", "boards.standby.labelled", "main", "board"),
    Case("standby-supply", job(), "not-applicable", "none", "main", "board"),
    Case("local-earthing", two_boards(), "pass", "permitted", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod()), "pass", "permitted", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(210.0)), "advice", "electrode_unstable", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(conductor_mm2=4.0)), "fail", "conductor", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(separation_m=2.49)), "fail", "separation", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(feeder_earth_connected=True)), "fail", "earth_joined", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(kind="neutral-link")), "fail", "not_permitted", "sub", "board"),
    Case("local-earthing", two_boards(earthing=exported(has_metalwork=True)), "fail", "no_bond", "sub", "board"),
    Case("local-earthing", two_boards(earthing=exported(bonds=({"name": "pipe", "area_mm2": 6.0},))), "fail", "bond", "sub", "board"),
    Case("local-earthing", two_boards(feeder(cable={"type": "swa-xlpe", "area_mm2": 6.0, "cpc": "core"}), earthing=exported(bonds=({"name": "pipe", "area_mm2": 10.0},))), "fail", "feeder_as_bond", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(None)), "missing", "boards.earthing.electrode_ohm", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(separation_m=None)), "missing", "boards.earthing.separation_m", "sub", "board"),
    Case("local-earthing", two_boards(earthing=own_rod(feeder_earth_connected=None)), "missing", "boards.earthing.feeder_earth_connected", "sub", "board"),
    Case("local-earthing", two_boards(earthing=exported(has_metalwork=None)), "missing", "boards.earthing.has_metalwork", "sub", "board"),
    Case("local-earthing", two_boards(earthing=None), "missing", "boards.earthing", "sub", "board"),
    Case("local-earthing", two_boards(feeder(run=(laid(5.0, "C"),), cable=flat(10.0)), earthing=None), "not-applicable", "none", "sub", "board"),
    Case("local-earthing", job(), "not-applicable", "at_origin", "main", "board"),
    Case("division", job(circuit(id="c1", kind="lighting"), circuit(id="c2", kind="lighting")), "pass", ".", "main", "board"),
    Case("division", behind_one(circuit(id="c1", kind="lighting"), circuit(id="c2", kind="lighting", device=rcbo(16.0))).model_copy(update={}), "pass", ".", "main", "board"),
    Case("division", behind_one(circuit(id="c1", kind="lighting", device=mcb(6.0)), circuit(id="c2", kind="lighting", device=mcb(6.0))), "fail", "lights_fail", "main", "board"),
    Case("division", behind_one(circuit(id="c1", loads=(Load(name="A", kind="alarm"),), device=mcb(6.0)), sockets(id="c2", device=mcb(20.0))), "advice", "essential", "main", "board"),
    Case("division", job(circuit(device="auto")), "missing", "device", "main", "board"),
    Case("voltage-relay", board(job(), voltage_relay=RELAY), "pass", ".", "main", "board"),
    Case("voltage-relay", board(job(), voltage_relay=RELAY.model_copy(update={"under_v": 220.0})), "fail", "under", "main", "board"),
    Case("voltage-relay", board(job(), voltage_relay=RELAY.model_copy(update={"over_v": 250.0})), "fail", "over", "main", "board"),
    Case("voltage-relay", board(job(), voltage_relay=RELAY.model_copy(update={"rating_a": 63.0})), "fail", "contact", "main", "board"),
    Case("voltage-relay", board(job(), voltage_relay=RELAY.model_copy(update={"reclose_s": 5.0})), "advice", "reclose", "main", "board"),
    Case("voltage-relay", board(job(supply=supply(cutout=None)), voltage_relay=RELAY), "missing", "supply.cutout", "main", "board"),
    Case("surge", with_surge(), "pass", ".", "supply", "supply"),
    Case("surge", with_surge(leads_m=0.8), "advice", "leads_aim", "supply", "supply"),
    Case("surge", with_surge(leads_m=1.1), "fail", "leads_max", "supply", "supply"),
    Case("surge", with_surge(short_circuit_ka=0.9), "fail", "short-circuit rating", "supply", "supply"),
    Case("surge", with_surge(uc_v=250.0), "fail", "value", "supply", "supply"),
    Case("surge", with_surge(max_backup_a=63.0), "fail", "backup", "supply", "supply"),
    Case("surge", with_surge(live_mm2=2.5, backup_a=32.0), "fail", "live lead", "supply", "supply"),
    Case("surge", with_surge(status="red"), "fail", "red", "supply", "supply"),
    Case("surge", with_surge(years=6), "advice", "years in service", "supply", "supply"),
    Case("surge", with_surge(PLAN.model_copy(update={"lightning_protection": True})), "fail", "type 1", "supply", "supply"),
    Case("surge", with_surge(PLAN.model_copy(update={"overhead_line": True})), "advice", "type 1", "supply", "supply"),
    Case("surge", with_surge(PLAN.model_copy(update={"furthest_m": 25.0})), "advice", "second device", "supply", "supply"),
    Case("surge", with_surge(supply_=supply(system="TT", ze_ohm=80.0)), "fail", "spark gap", "supply", "supply"),
    Case("surge", with_surge(up_kv=None), "missing", "boards.spds.up_kv", "supply", "supply"),
    Case("surge", with_surge(PLAN.model_copy(update={"furthest_m": None})), "pass", ".", "supply", "supply"),
    Case("surge", with_surge(PLAN.model_copy(update={"furthest_m": 10.0})), "pass", "level", "supply", "supply"),
    Case("surge", job(surge=PLAN), "fail", "no refusal in writing", "supply", "supply"),
    Case("surge", job(surge=PLAN.model_copy(update={"declined": DECLINED})), "not-applicable", "2026-09-12", "supply", "supply"),
    Case("surge", job(surge=PLAN.model_copy(update={"declined": DECLINED.model_copy(update={"in_writing": None})})), "missing", "surge.declined.in_writing", "supply", "supply"),
    Case("surge", job(surge=PLAN.model_copy(update={"declined": DECLINED.model_copy(update={"in_writing": False})})), "fail", "spoken", "supply", "supply"),
    Case("surge", job(surge=PLAN.model_copy(update={"consequence": "safety", "declined": DECLINED})), "fail", "required", "supply", "supply"),
)  # fmt: skip
#: Checks of which no ordinary rule forbids what they find: they advise.
ADVISE = {"selectivity-short-circuit"}


def answer(case: Case) -> Finding:
    subject = Subject(case.subject, "supply" if case.subject == "supply" else case.circuit)  # type: ignore[arg-type]
    found = find(assess(case.made), case.check, subject)
    assert found is not None, case
    return found


class EveryCheck(unittest.TestCase):
    """The answers each check must be able to give, and what they say."""

    def test_each_case_is_answered_as_it_should_be(self) -> None:
        for number, case in enumerate(CASES):
            with self.subTest(case.check, number=number, said=case.said):
                found = answer(case)
                self.assertEqual(found.verdict, case.verdict, str(found.sentence))
                if case.verdict == "missing":
                    self.assertIn(case.said, [need.path for need in found.needs])
                else:
                    self.assertTrue(says(found, case.said), f"{case.said}: {keys(found)} {found.sentence}")
                    self.assertTrue(found.rule is None or found.rule.publication)

    def test_there_is_a_case_of_each_kind_for_every_check(self) -> None:
        ids = {check.id for check in CHECKS if check.group == "protection"} | {"surge"}
        ids |= {check.id for check in BOARD_CHECKS if check.category == "protection"}
        ids -= {"demand", "main-switch"}  # the main switch: test_supply_and_gear
        for kind in (("pass",), ("fail", "advice"), ("missing",)):
            self.assertEqual({case.check for case in CASES if case.verdict in kind}, ids, kind)
        self.assertEqual({case.check for case in CASES if case.verdict == "fail"}, ids - ADVISE)


class Surge(unittest.TestCase):
    """Arithmetic of leads. IEC 60364-5-53 and physics (from memory): about 1 µH a metre, 1 kV a metre at 1 kA/µs."""

    def test_leads_add_a_kilovolt_a_metre(self) -> None:
        # Published example: Up 1.5 kV with 0.8 and 0.5 m of leads gives 2.3 and 2.0 kV, against 2.5 kV.
        for metres, arrives in ((0.8, 2.3), (0.5, 2.0)):
            made = with_surge(up_kv=1.5, leads_m=metres)
            found = find(assess(made), "surge", Subject("supply", "supply"))
            assert found is not None
            step = next(step for step in found.working if step.symbol == "U")
            self.assertAlmostEqual(step.result, arrives)

    def test_plug_on_and_wired_are_asked_by_what_each_is(self) -> None:
        plugged = with_surge(form="plug-on", leads_m=None, live_mm2=None, earth_mm2=None)
        wired = with_surge(leads_m=None, live_mm2=None, earth_mm2=None)
        self.assertEqual(finding(plugged, "surge").verdict, "pass")
        self.assertEqual({need.path for need in finding(wired, "surge").needs}, {"boards.spds.leads_m", "boards.spds.live_mm2", "boards.spds.earth_mm2"})  # fmt: skip


class SharedOut(unittest.TestCase):
    """Division by standard."""

    def test_three_circuits_an_rcd_where_the_standard_says_so(self) -> None:
        # AS/NZS 3000:2018, 2.6.2.4 (from memory): at most three final subcircuits, and at least two devices.
        def made(count: int) -> Job:
            cable = {"type": "flat-tps", "area_mm2": 2.5}
            held = [
                circuit(id=f"c{n}", cable=cable, run=(laid(10.0, "touching"),), device=mcb(16.0, "C"))
                for n in range(count)
            ]
            ahead_ = supply(system="MEN", cutout=None, tails=None, earthing=None)
            return behind_one(*held, job=JobInfo(title="MEN", rules="anz"), supply=ahead_)

        found = find(assess(made(4)), "division", Subject("board", "main"))
        assert found is not None
        self.assertEqual((found.verdict, found.value, found.limit), ("fail", 4, 3))
        self.assertIn("core.check.division.least", [id_ for step in found.working for id_ in ids(step.meaning)])

    def test_a_fixed_cooker_alone_needs_none_in_new_zealand_and_one_in_australia(self) -> None:
        for rules, verdict in (("anz", "fail"), ("anz-nz", "not-applicable")):
            cooker = (Load(name="Range", kind="cooker", power_w=3000.0, rcd_exempt=True),)
            held = circuit(loads=cooker, cable={"type": "flat-tps", "area_mm2": 2.5}, run=(laid(10.0, "touching"),), device=mcb(16.0, "C"))  # fmt: skip
            ahead_ = supply(system="MEN", cutout=None, tails=None, earthing=None)
            made = job(held, job=JobInfo(title="MEN", rules=rules), supply=ahead_)
            self.assertEqual(finding(made, "rcd-duty").verdict, verdict, rules)


class Mended(unittest.TestCase):
    """What is offered mends, found by assessing the changed job."""

    def offered(self, made: Job, check: str, circuit_id: str = "c1") -> list[str]:
        return [one.label for one in remedies(made, check, Subject("circuit", circuit_id))]

    def test_a_crossed_pair_by_a_larger_feeder_or_a_smaller_device(self) -> None:
        made = two_boards(feeder(device=mcb(16.0, "C")), circuit(device=rcbo(16.0), loads=()))
        labels = self.offered(made, "selectivity-overload")
        self.assertTrue(any(str(label).startswith("Feeder:") for label in labels), labels)
        self.assertTrue(any("B6" in str(label) or "B10" in str(label) for label in labels), labels)

    def test_two_rcds_in_series_by_a_delayed_one_ahead(self) -> None:
        labels = self.offered(ahead(Rcd(idn_ma=30.0)), "selectivity-residual")
        self.assertEqual([str(label) for label in labels], ["Main board: Use a time-delayed 100 mA RCD upstream"])

    def test_a_circuit_leaves_the_shared_device_for_its_own(self) -> None:
        made = behind_one(circuit(loads=(Load(name="Filter", kind="appliance", leakage_ma=5.0),), device=mcb(16.0)),
                          circuit(id="c2", loads=(Load(name="Filter", kind="appliance", leakage_ma=5.0),), device=mcb(16.0)))  # fmt: skip
        found = remedies(made, "leakage", Subject("circuit", "c1"))
        self.assertEqual([one.id for one in found], ["own-rcd"])
        self.assertIsNone(found[0].boards[0].ways[0].rcd)

    def test_a_charger_gets_type_b_and_sockets_an_own_device(self) -> None:
        self.assertIn("Use type B instead of type A", [str(label) for label in self.offered(job(CHARGER), "rcd-type")])
        self.assertTrue(self.offered(job(sockets(device=mcb(20.0))), "rcd-duty"))

    def test_a_fuse_in_a_plug_is_told_and_not_judged(self) -> None:
        found = finding(
            job(sockets(spurs=(Spur(name="Heater", length_m=2.0, area_mm2=2.5, fuse_a=13.0),))), "selectivity-overload"
        )
        self.assertEqual(found.verdict, "pass")
        self.assertEqual(
            sum("plug fuse" in str(step.meaning) or "fuse of Heater" in str(step.meaning) for step in found.working), 4
        )


class Ways(unittest.TestCase):
    """Which device a circuit hangs on."""

    def test_everything_on_the_way_counts_nearest_first(self) -> None:
        made = ahead(Rcd(idn_ma=100.0, time_delayed=True), circuit())
        group = SharedRcd(id="g", name="Group", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        made = board(made, shared_rcds=(group,), ways=(Way(number=1, circuit="c1", rcd="g"),))
        found = finding(made, "selectivity-residual")
        upstream = [str(step.meaning) for step in found.working if step.symbol == "IΔ1"]
        downstream = [str(step.meaning) for step in found.working if step.symbol == "IΔ2"]
        # Both devices on the way are held against the circuit's own, and nothing else is.
        self.assertEqual(len(upstream), 2)
        self.assertIn("main switch", upstream[0])
        self.assertIn("Group", upstream[1])
        self.assertEqual(len(set(downstream)), 1)
        self.assertIn("way 1", downstream[0])


if __name__ == "__main__":
    unittest.main()
