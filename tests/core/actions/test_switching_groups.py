"""Switching groups typed in words: what is switched, what stays on, the contactors and relays that come of it, and how they are wired."""

from __future__ import annotations

import unittest

from tests.core.board.made import models
from vivid_lattice.core.actions.enter_line import DesignedEntry, enter_and_design
from vivid_lattice.core.actions.line_preview import preview
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.board.isolation.isolation_steps import isolation_for
from vivid_lattice.core.board.isolation.live_parts import live_nets
from vivid_lattice.core.document.board_build import ControlGear
from vivid_lattice.core.document.job import Job, SharedRcd, with_parts
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.entry.switching_words import read_switching
from vivid_lattice.core.errors import BadDocument, EntryNotUnderstood
from vivid_lattice.core.job_file import checked, read_document, to_text
from vivid_lattice.core.rules import rule_set

HOUSE = (
    "kitchen ring 40m", "upstairs ring 35m", "lights 30m, ground floor", "landing lights 22m", "shower 9.5kW 14m", "freezer 9m",
    "smoke alarms 30m", "router 5m, hall", "solar 3.68kW 12m",
)  # fmt: skip


def house(lines: tuple[str, ...] = HOUSE) -> Job:
    job = begin("Sluice house", rule_set("uk"), "TN-C-S")
    for line in lines:
        job = enter_and_design(job, line, "main").job
    return job


def typed(job: Job, line: str) -> DesignedEntry:
    return enter_and_design(job, line, "main")


class Words(unittest.TestCase):
    def test_lines_of_switching_and_lines_of_circuits(self) -> None:
        for line, wanted in (
            ("all off at the door", ("all-off", (), ())),
            ("All off at the door: lights, sockets", ("all-off", ("lights", "sockets"), ())),
            ("all off, keep on: freezer, router and alarms", ("all-off", (), ("freezer", "router", "alarms"))),
            ("master off; always on freezer", ("all-off", (), ("freezer",))),
            ("all off at the door keep on hall lights", ("all-off", (), ("hall lights",))),
            ("all off: lights, keep on: freezer", ("all-off", ("lights",), ("freezer",))),
            ("alles aus an der Tür, bleibt an: Gefrierschrank", ("all-off", (), ("gefrierschrank",))),
            ("keep on: freezer", ("keep-on", ("freezer",), ())),
            ("impulse relay: hall lights", ("impulse-relay", ("hall lights",), ())),
        ):
            words = read_switching(line)
            assert words is not None, line
            self.assertEqual((words.kind, words.names, words.keep), wanted, line)
        for line in ("hall lights 22m", "wall off-peak heater 2kW", "relay room sockets 9m", ""):
            self.assertIsNone(read_switching(line), line)

    def test_the_ground_floor_is_no_cable_in_the_ground(self) -> None:
        job = house(("lights 30m, ground floor", "ground floor sockets 20m", "sockets 20m in ground swa, shed"))
        self.assertEqual(job.circuits[0].name, "Lights, ground floor")
        media = [rule_set("uk").factors.methods[circuit.run[0].method].medium for circuit in job.circuits]
        self.assertEqual([medium == "ground" for medium in media], [False, False, True])


class CentralOff(unittest.TestCase):
    """Impulse relays switched off together. That a coil's current through two RCDs trips one of them: common practice, no source."""

    def test_relays_of_the_circuits_named_are_made_and_joined(self) -> None:
        entered = typed(house(), "central off at the door: ground floor, landing")
        gear = entered.job.boards[0].control_gear
        self.assertEqual(
            [(one.kind, one.central_off) for one in gear], [("impulse-relay", "Central off at the door")] * 2
        )
        self.assertEqual([one.coil_breaker_a for one in gear], [6.0, None])
        scheme = models(entered.job)["main"].scheme
        off = next(net for net in scheme.nets if any(end.endswith("/OFF/tap") for end in net.terminals))
        self.assertEqual(sum(end.endswith("/OFF/tap") for end in off.terminals), 2)
        self.assertTrue(any(end.startswith("switch:") and end.endswith("back") for end in off.terminals))

    def test_no_coil_crosses_a_residual_current_device(self) -> None:
        """Every coil has its line from the control breaker and its neutral on the board's own bar."""
        job = typed(house(), "central off: ground floor, landing").job
        of = {end: net.id for net in models(job)["main"].scheme.nets for end in net.terminals}
        for gear in job.boards[0].control_gear:
            self.assertEqual(of[f"gear:{gear.id}/A2/tap"], "N")  # type: ignore[index]
            self.assertTrue(of[f"switch:{gear.id}/L1/out"].startswith("coil:"))  # type: ignore[index]

    def test_without_names_it_is_for_every_relay_there_is(self) -> None:
        job = typed(house(), "impulse relay: landing").job
        job = typed(job, "central off").job
        self.assertEqual([one.central_off for one in job.boards[0].control_gear], ["Central off"])
        with self.assertRaises(EntryNotUnderstood):
            typed(house(), "central off")

    def test_isolating_a_circuit_names_the_control_circuit_of_its_buttons(self) -> None:
        job = typed(house(), "central off: landing").job
        landing = next(one.id for one in job.circuits if one.name == "Landing lights")
        steps = isolation_for(models(job), "main", f"circuit:{landing}")
        self.assertTrue(any("Central off" in str(step) for step in steps.steps))
        lead = job.boards[0].control_gear[0].id
        self.assertIn(f"main|coil:{lead}", steps.open)
        nets = {one.net: one.state for one in live_nets(models(job), [f"main|way:{landing}"])}
        self.assertEqual(nets[f"gear:{lead}.A1"], "live")
        nets = {one.net: one.state for one in live_nets(models(job), steps.open)}
        self.assertNotEqual(nets[f"gear:{lead}.A1"], "live")

    def test_only_a_relay_has_one_and_it_survives_the_file(self) -> None:
        job = typed(house(), "central off: landing").job
        self.assertEqual(read_document(to_text(job)), job)
        gear = job.boards[0].control_gear[0].model_copy(update={"kind": "time-switch"})
        board = job.boards[0].model_copy(update={"control_gear": (gear,)})
        with self.assertRaises(BadDocument):
            checked(with_parts(job, (), (board,)))


class VoltageRelays(unittest.TestCase):
    def test_settings_as_typed_and_the_rest_as_usual(self) -> None:
        for line, wanted in (
            ("voltage relay", (100.0, 264.0, 191.0)),
            ("voltage relay 63A over 265 under 190", (63.0, 265.0, 190.0)),
            ("Voltage relay, over 260V", (100.0, 260.0, 191.0)),
        ):
            relay = typed(house(), line).job.boards[0].voltage_relay
            assert relay is not None
            self.assertEqual((relay.rating_a, relay.over_v, relay.under_v), wanted, line)

    def test_it_is_upstream_of_the_whole_board_and_says_what_it_does_not_know(self) -> None:
        for line in ("voltage relay: lights", "voltage relay turbo"):
            with self.assertRaises(EntryNotUnderstood):
                typed(house(), line)

    def test_the_preview_shows_the_check_of_the_relay(self) -> None:
        self.assertEqual(preview(house(), "voltage relay", "main").verdict, "pass")
        self.assertEqual(preview(house(), "voltage relay over 240", "main").verdict, "fail")
        self.assertEqual(preview(house(), "voltage relay 32A", "main").verdict, "fail")


class AllOff(unittest.TestCase):
    def test_what_must_stay_on_stays_on_and_large_fixed_loads_have_their_own_switch(self) -> None:
        entered = typed(house(), "all off at the door")
        gear = entered.job.boards[0].control_gear
        names = {circuit.id: circuit.name for circuit in entered.job.circuits}
        off = {names[each] for one in gear for each in one.switches}
        self.assertEqual(off, {"Kitchen ring", "Upstairs ring", "Lights, ground floor", "Landing lights"})
        self.assertIsNone(entered.circuit)
        self.assertEqual(len(entered.said), 3)
        # 32 + 32 + 6 + 6 A behind a 100 A cut-out: more than 63 A, so two contactors, none below what its devices let through.
        self.assertEqual([one.rating_a for one in gear], [40.0, 40.0])
        for one in gear:
            self.assertLessEqual(sum(entered.job.circuit(each).device.rating_a for each in one.switches), one.rating_a)  # type: ignore[union-attr]
        self.assertEqual((gear[0].coil_breaker_a, gear[1].coil_breaker_a, gear[1].coil_with), (6.0, None, gear[0].id))

    def test_named_circuits_are_switched_and_kept(self) -> None:
        job = typed(house(), "all off at the door, keep on: landing").job
        self.assertNotIn("c4", {each for one in job.boards[0].control_gear for each in one.switches})
        job = typed(job, "keep on: upstairs ring").job
        (gear,) = job.boards[0].control_gear
        self.assertEqual((gear.name, gear.switches, gear.rating_a), ("All off at the door", ("c1", "c3"), 40.0))
        job = typed(job, "all off at the door: lights, freezer").job
        (gear,) = job.boards[0].control_gear
        self.assertEqual((gear.switches, gear.rating_a), (("c3", "c4", "c6"), 40.0))
        job = typed(job, "impulse relay: landing lights").job
        self.assertEqual([one.kind for one in job.boards[0].control_gear], ["contactor", "impulse-relay"])
        self.assertEqual(read_document(to_text(job).encode()), job)

    def test_a_shared_rcd_is_switched_whole_or_not_at_all(self) -> None:
        job = house(("sockets 20m, study", "lights 20m", "freezer 9m", "hall sockets 12m"))
        ways = tuple(way.model_copy(update={"rcd": "r1" if way.number <= 2 else "r2"}) for way in job.boards[0].ways)
        rcds = tuple(
            SharedRcd(id=name, name=f"RCD {name}", rating_a=63.0, rcd=Rcd(idn_ma=30.0)) for name in ("r1", "r2")
        )
        board = job.boards[0].model_copy(update={"ways": ways, "shared_rcds": rcds})
        plain = tuple(each.model_copy(update={"device": each.device.model_copy(update={"kind": "mcb", "rcd": None})}) for each in job.circuits)  # type: ignore[union-attr]  # fmt: skip
        entered = typed(checked(with_parts(job, plain, (board,))), "all off at the door")
        (gear,) = entered.job.boards[0].control_gear
        self.assertEqual(gear.switches, ("r1",))
        self.assertIn("Hall sockets", str(entered.said[-1]))

    def test_a_contactor_for_something_else_stays_and_what_was_read_of_one_is_not_lost(self) -> None:
        job = house()
        tariff = ControlGear(
            id="night", name="Night tariff", kind="contactor", rating_a=25.0, switches=("c4",), coil_breaker_a=6.0
        )
        job = checked(with_parts(job, (), (job.boards[0].model_copy(update={"control_gear": (tariff,)}),)))
        job = typed(job, "all off at the door").job
        gear = job.boards[0].control_gear
        self.assertEqual(gear[-1], tariff)
        self.assertNotIn("c4", {each for one in gear[:-1] for each in one.switches})
        read = tuple(one.model_copy(update={"max_backup_a": 100.0}) if one.id != "night" else one for one in gear)
        job = checked(with_parts(job, (), (job.boards[0].model_copy(update={"control_gear": read}),)))
        kept = typed(job, "keep on: upstairs ring").job.boards[0].control_gear
        self.assertEqual(
            [(one.name, one.max_backup_a) for one in kept], [("All off at the door", 100.0), ("Night tariff", None)]
        )

    def test_long_words_fit_in_a_name(self) -> None:
        job = typed(house(), "all off at " + "the far door " * 15).job
        self.assertTrue(all(len(one.name) <= 120 for one in job.boards[0].control_gear))
        circuit = job.circuits[2].model_copy(update={"name": "Lights " + "x" * 113})
        long = typed(checked(with_parts(house(), (circuit,))), "impulse relay: lights x").job
        self.assertTrue(all(len(one.name) <= 120 for one in long.boards[0].control_gear))

    def test_what_cannot_be_is_said(self) -> None:
        for lines, line, said in (
            ((), "all off", "nothing to switch yet"),
            (("sockets 9m",), "all off, keep on: freezr", "called “freezr”"),
            (("sockets 9m",), "keep on: sockets", "Nothing in"),
            (("freezer 9m",), "all off", "stays on"),
            (("lights 9m",), "impulse relay: cellar", "called “cellar”"),
        ):
            with self.assertRaisesRegex(EntryNotUnderstood, said):
                typed(house(lines), line)

    def test_its_effect_is_shown_before_it_is_entered(self) -> None:
        job = house()
        before = job.model_dump()
        shown = preview(job, "all off at the door", "main")
        self.assertEqual(shown.verdict, "missing")  # the largest device upstream is the manufacturer's to say
        self.assertIn("Kitchen ring", str(shown.chips[-1].text))
        self.assertEqual(job.model_dump(), before)


class Wired(unittest.TestCase):
    def test_coils_worked_together_share_one_breaker_and_one_switch(self) -> None:
        job = typed(house(), "all off at the door").job
        model = models(job)["main"]
        self.assertEqual([unit.id for unit in model.units.all if unit.kind == "coil"], ["coil:k"])
        coil = next(net.terminals for net in model.scheme.nets if "gear:k/A1/tap" in net.terminals)
        self.assertIn("gear:k-2/A1/tap", coil)

    def test_a_coil_is_switched_with_a_contactor_that_is_there(self) -> None:
        job = typed(house(), "all off at the door").job
        board = job.boards[0]
        lead, follower = board.control_gear
        for wrong in ("k-9", follower.id):
            gear = (lead, follower.model_copy(update={"coil_with": wrong}))
            changed = with_parts(job, (), (board.model_copy(update={"control_gear": gear}),))
            with self.assertRaises(BadDocument):
                checked(changed)

    def test_each_is_checked(self) -> None:
        job = typed(house(), "all off at the door").job
        board = job.boards[0]
        gear = tuple(one.model_copy(update={"max_backup_a": 100.0}) for one in board.control_gear)
        job = checked(with_parts(job, (), (board.model_copy(update={"control_gear": gear}),)))
        found = next(each for each in assess(job).findings if each.check == "control-gear")
        self.assertEqual(found.verdict, "pass")


if __name__ == "__main__":
    unittest.main()
