"""LightSwitching as textbooks have it, each by its name in the reference: what each section carries, what joins in each box, what every switch
position does; and that no conductor is missing or idle."""

from __future__ import annotations

import itertools
import unittest
from collections.abc import Mapping

from vivid_lattice.core.plan.conductors import terminals as t
from vivid_lattice.core.plan.conductors.joints import Connectors, connectors_for, joints_of
from vivid_lattice.core.plan.conductors.simulation import Simulation, idle_conductors
from vivid_lattice.core.plan.conductors.terminals import Terminals
from vivid_lattice.core.plan.conductors.wiring import BoxWiring, Section, ring, tree

Boxes = Mapping[str, tuple[Terminals, ...]]


def wired(boxes: Boxes, *pairs: str, **wanted: tuple[str, ...]) -> BoxWiring:
    return BoxWiring(boxes, tree([tuple(pair.split("-", 1)) for pair in pairs]), wanted)  # type: ignore[misc]


def carried(wiring: BoxWiring, pair: str) -> set[str]:
    a, b = pair.split("-", 1)
    return set(wiring.conductors(next(each for each in wiring.sections if (each.a, each.b) == (a, b))))


class Examples(unittest.TestCase):
    def rows(self, wiring: BoxWiring, box: str) -> set[tuple[str, int, int]]:
        return {(joint.net, joint.cables, joint.devices) for joint in joints_of(wiring, box)}

    def connectors(self, wiring: BoxWiring, box: str) -> int:
        return sum(joint.needs_connector for joint in joints_of(wiring, box))

    def sound(self, wiring: BoxWiring) -> None:
        """No position shorts anything, earth is everywhere, nothing is idle."""
        simulation = Simulation(wiring)
        self.assertFalse(any(state.short for state in simulation.states()))
        self.assertTrue(simulation.earthed and simulation.goes_on)
        self.assertEqual(idle_conductors(wiring), ())

    def light_is_on(self, wiring: BoxWiring, box: str = "light", place: int = 0) -> dict[tuple[int, ...], bool]:
        return {state.positions: (box, place) in state.on for state in Simulation(wiring).states()}

    # ------------------------------------------------------------------------------------------ one switch

    def test_one_way_with_the_feed_at_the_light(self) -> None:
        """runs.ex.one-way.loop-in"""
        wiring = wired({"light": (t.light(),), "switch": t.one_way()}, "feed-light", "light-onward", "light-switch")
        self.assertEqual(carried(wiring, "light-switch"), {"L", "SL", "PE"})
        self.assertEqual(carried(wiring, "light-onward"), {"L", "N", "PE"})
        self.assertEqual(self.rows(wiring, "light"), {("L", 3, 0), ("N", 2, 1), ("SL", 1, 1), ("PE", 3, 1)})
        self.assertEqual(self.connectors(wiring, "light"), 3)
        self.assertEqual(self.light_is_on(wiring), {(0,): False, (1,): True})
        self.sound(wiring)

    def test_one_way_from_a_junction_box(self) -> None:
        """runs.ex.one-way.junction-box, runs.ex.connector-list"""
        wiring = wired(
            {"box": (), "light": (t.light(),), "switch": t.one_way()},
            "feed-box",
            "box-onward",
            "box-switch",
            "box-light",
        )
        self.assertEqual(carried(wiring, "box-switch"), {"L", "SL", "PE"})
        self.assertEqual(carried(wiring, "box-light"), {"SL", "N", "PE"})
        self.assertEqual(self.rows(wiring, "box"), {("L", 3, 0), ("N", 3, 0), ("SL", 2, 0), ("PE", 4, 0)})
        self.assertEqual(
            (self.connectors(wiring, "box"), sum(joint.ends for joint in joints_of(wiring, "box"))), (4, 12)
        )
        ports = sorted(connectors_for(joint.ends, (2, 3, 5)).ports for joint in joints_of(wiring, "box"))
        self.assertEqual(ports, [2, 3, 3, 5])
        self.sound(wiring)

    def test_one_way_with_the_feed_at_the_switch(self) -> None:
        """runs.ex.one-way.at-switch"""
        wiring = wired({"switch": t.one_way(), "light": (t.light(),)}, "feed-switch", "switch-onward", "switch-light")
        self.assertEqual(carried(wiring, "switch-light"), {"SL", "N", "PE"})
        self.assertEqual(self.rows(wiring, "switch"), {("L", 2, 1), ("N", 3, 0), ("SL", 1, 1), ("PE", 3, 0)})
        self.assertEqual(self.connectors(wiring, "switch"), 3)
        self.sound(wiring)

    def test_two_gangs_and_two_lights(self) -> None:
        """runs.ex.two-gang.loop-in"""
        wiring = wired(
            {"one": (t.light("SL1"),), "two": (t.light("SL2"),), "switch": t.one_way(("SL1", "SL2"))},
            "feed-one", "one-switch", "one-two",
        )  # fmt: skip
        self.assertEqual(carried(wiring, "one-switch"), {"L", "SL1", "SL2", "PE"})
        self.assertEqual(carried(wiring, "one-two"), {"SL2", "N", "PE"})
        self.assertEqual(
            self.rows(wiring, "one"), {("L", 2, 0), ("N", 2, 1), ("SL1", 1, 1), ("SL2", 2, 0), ("PE", 3, 1)}
        )
        self.assertEqual(self.light_is_on(wiring, "two"), {(0, 0): False, (0, 1): True, (1, 0): False, (1, 1): True})
        self.sound(wiring)

    def test_a_switch_with_an_outlet(self) -> None:
        """runs.ex.switch-with-socket"""
        wiring = wired({"pair": (*t.one_way(), t.outlet()), "light": (t.light(),)}, "feed-pair", "pair-light")
        self.assertEqual(carried(wiring, "pair-light"), {"SL", "N", "PE"})
        self.assertEqual(self.rows(wiring, "pair"), {("L", 1, 2), ("N", 2, 1), ("SL", 1, 1), ("PE", 2, 1)})
        self.assertTrue(all(("pair", 1) in state.on for state in Simulation(wiring).states()))
        self.sound(wiring)
        other = wired({"pair": (*t.one_way(), t.outlet()), "light": (t.light(),)}, "feed-light", "light-pair")
        self.assertEqual(carried(other, "light-pair"), {"L", "N", "SL", "PE"})

    # ------------------------------------------------------------------------------------------ two and three places

    def test_two_way_with_strappers_from_a_box(self) -> None:
        """runs.ex.two-way.strappers-from-box"""
        pair = t.Strappers().pair()
        wiring = wired(
            {"box": (), "s1": (t.two_way_at_supply(pair),), "s2": (t.two_way_at_light("SL", pair),), "light": (t.light(),)},
            "feed-box", "box-s1", "box-s2", "box-light",
        )  # fmt: skip
        self.assertEqual(carried(wiring, "box-s1"), {"L", "T1", "T2", "PE"})
        self.assertEqual(carried(wiring, "box-s2"), {"SL", "T1", "T2", "PE"})
        self.assertEqual(carried(wiring, "box-light"), {"SL", "N", "PE"})
        self.assertEqual(
            self.rows(wiring, "box"), {(net, 2, 0) for net in ("L", "N", "T1", "T2", "SL")} | {("PE", 4, 0)}
        )
        self.assertEqual(self.connectors(wiring, "box"), 6)
        self.toggles(self.light_is_on(wiring))
        self.sound(wiring)

    def test_two_way_of_three_wires(self) -> None:
        """runs.ex.two-way.three-wire, anz.runs.ex.loop-at-light: on when the two stand on different contacts."""
        boxes = {
            "light": (t.light(),), "s1": (t.two_way_three_wire("SL", "X"),), "s2": (t.two_way_three_wire("SL", "X"),)
        }  # fmt: skip
        for more in ((), ("light-onward",)):
            wiring = wired(boxes, "feed-light", *more, "light-s1", "s1-s2")
            self.assertEqual(carried(wiring, "light-s1"), {"L", "SL", "PE"})
            self.assertEqual(carried(wiring, "s1-s2"), {"L", "SL", "X", "PE"})
            self.assertEqual(self.rows(wiring, "s1"), {("L", 2, 1), ("SL", 2, 1), ("X", 1, 1), ("PE", 2, 0)})
            on = self.light_is_on(wiring)
            self.assertEqual(on, {(0, 0): False, (0, 1): True, (1, 0): True, (1, 1): False})
            self.sound(wiring)
        self.assertEqual(self.rows(wiring, "light"), {("L", 3, 0), ("N", 2, 1), ("SL", 1, 1), ("PE", 3, 1)})

    def test_three_places_with_an_intermediate_switch(self) -> None:
        """runs.ex.intermediate.strappers"""
        strappers = t.Strappers()
        first, second = strappers.pair(), strappers.pair()
        wiring = wired(
            {
                "box": (), "s1": (t.two_way_at_supply(first),), "middle": (t.intermediate(first, second),),
                "s2": (t.two_way_at_light("SL", second),), "light": (t.light(),),
            },
            "feed-box", "box-light", "box-s1", "s1-middle", "middle-s2",
        )  # fmt: skip
        self.assertEqual(carried(wiring, "box-s1"), {"L", "SL", "PE"})
        self.assertEqual(carried(wiring, "s1-middle"), {"SL", "T1", "T2", "PE"})
        self.assertEqual(carried(wiring, "middle-s2"), {"SL", "T3", "T4", "PE"})
        self.assertEqual(self.rows(wiring, "s1"), {("L", 1, 1), ("SL", 2, 0), ("T1", 1, 1), ("T2", 1, 1), ("PE", 2, 0)})
        self.assertEqual(
            self.rows(wiring, "middle"), {("SL", 2, 0), ("PE", 2, 0), *((f"T{n}", 1, 1) for n in (1, 2, 3, 4))}
        )
        self.toggles(self.light_is_on(wiring))
        self.sound(wiring)

    def test_three_way_switching_with_the_light_between(self) -> None:
        """na.runs.ex.three-way"""
        pair = t.Strappers().pair()
        boxes = {"s1": (t.two_way_at_supply(pair),), "light": (t.light(),), "s2": (t.two_way_at_light("SL", pair),)}
        wiring = wired(boxes, "feed-s1", "s1-light", "light-s2", s1=("N",))
        self.assertEqual(carried(wiring, "s1-light"), {"T1", "T2", "N", "PE"})
        self.assertEqual(carried(wiring, "light-s2"), {"SL", "T1", "T2", "PE"})
        self.assertEqual(
            self.rows(wiring, "light"), {("T1", 2, 0), ("T2", 2, 0), ("N", 1, 1), ("SL", 1, 1), ("PE", 2, 1)}
        )
        self.toggles(self.light_is_on(wiring))

    def toggles(self, on: Mapping[tuple[int, ...], bool]) -> None:
        """Whichever switch is worked, whatever the others are, the light changes."""
        for positions, lit in on.items():
            for number in range(len(positions)):
                other = tuple(1 - each if place == number else each for place, each in enumerate(positions))
                self.assertNotEqual(on[other], lit, (positions, other))

    def test_any_number_of_places_in_both_forms(self) -> None:
        for between in range(4):
            strappers = t.Strappers()
            pair = strappers.pair()
            boxes: dict[str, tuple[Terminals, ...]] = {"light": (t.light(),), "s0": (t.two_way_at_supply(pair),)}
            three: dict[str, tuple[Terminals, ...]] = {"light": (t.light(),), "s0": (t.two_way_three_wire("SL", "X"),)}
            now = ("L", "SL")
            for number in range(1, between + 1):
                following = strappers.pair()
                boxes[f"s{number}"] = (t.intermediate(pair, following),)
                three[f"s{number}"] = (t.intermediate(now, following),)
                pair = now = following
            boxes["last"] = (t.two_way_at_light("SL", pair),)
            three["last"] = (t.two_way_three_wire("SL", "X", pair=now),)
            for of in (boxes, three):
                stops = [name for name in of if name != "light"]
                pairs = ["feed-light", "light-s0", *(f"{a}-{b}" for a, b in itertools.pairwise(stops))]
                wiring = wired(of, *pairs)
                self.toggles(self.light_is_on(wiring))
                self.sound(wiring)

    # ------------------------------------------------------------------------------------------ others

    def test_a_pull_cord_and_a_fan_behind_an_isolator(self) -> None:
        """runs.ex.pull-cord-and-fan"""
        behind = t.Terminals(name="fan", nets=("L'", "SL'", "N'"), load=("L'", "N'"))
        wiring = wired(
            {"light": (t.light(),), "cord": t.one_way(name="pull-cord"), "isolator": t.isolator(("L", "SL", "N")), "fan": (behind,)},
            "feed-light", "light-cord", "light-isolator", "isolator-fan",
        )  # fmt: skip
        self.assertEqual(carried(wiring, "light-cord"), {"L", "SL", "PE"})
        self.assertEqual(carried(wiring, "light-isolator"), {"L", "N", "SL", "PE"})
        self.assertEqual(carried(wiring, "isolator-fan"), {"L'", "N'", "SL'", "PE"})
        self.assertEqual(self.rows(wiring, "light"), {("L", 3, 0), ("N", 2, 1), ("SL", 2, 1), ("PE", 3, 1)})

    def test_a_sensor_with_a_switch_that_keeps_the_light_on(self) -> None:
        """runs.ex.sensor-with-override"""
        wiring = wired(
            {"switch": t.one_way(), "sensor": (t.sensor(),), "light": (t.light(),)},
            "feed-switch", "switch-sensor", "sensor-light",
        )  # fmt: skip
        self.assertEqual(carried(wiring, "switch-sensor"), {"L", "N", "SL", "PE"})
        self.assertEqual(carried(wiring, "sensor-light"), {"SL", "N", "PE"})
        self.assertEqual(self.rows(wiring, "sensor"), {("L", 1, 1), ("N", 2, 1), ("SL", 2, 1), ("PE", 2, 0)})
        on = self.light_is_on(wiring)
        self.assertEqual(on, {(0, 0): False, (0, 1): True, (1, 0): True, (1, 1): True})
        self.sound(wiring)

    def test_alarms_with_an_interlink(self) -> None:
        """runs.ex.alarms"""
        boxes = {f"alarm_{n}": (t.alarm(),) for n in (1, 2, 3)}
        wiring = wired(boxes, "feed-alarm_1", "alarm_1-alarm_2", "alarm_2-alarm_3")
        self.assertEqual(carried(wiring, "feed-alarm_1"), {"L", "N", "PE"})
        for pair in ("alarm_1-alarm_2", "alarm_2-alarm_3"):
            self.assertEqual(carried(wiring, pair), {"L", "N", "I", "PE"})
        self.sound(wiring)

    def test_a_ring_has_its_conductors_all_round_and_a_spur_its_own(self) -> None:
        boxes = {name: (t.outlet(),) for name in ("a", "b", "c", "spur")}
        wiring = BoxWiring(boxes, (*ring(("a", "b", "c")), Section("b", "spur")))
        for section, nets in wiring.all_conductors().items():
            self.assertEqual(nets, ("L", "N", "PE"), section)
        self.assertEqual(self.rows(wiring, "b"), {("L", 3, 1), ("N", 3, 1), ("PE", 3, 1)})
        self.sound(wiring)


class Wrong(unittest.TestCase):
    """The simulation sees what is wrong."""

    def test_a_conductor_that_is_missing_or_too_many(self) -> None:
        wiring = wired({"switch": t.one_way(), "light": (t.light(),)}, "feed-switch", "switch-light")
        for section, nets in wiring.all_conductors().items():
            for net in nets:
                less = Simulation(wiring, [(section, net)])
                dark = all(not state.on for state in less.states())
                self.assertTrue(dark or not less.earthed, (section, net))
        idle = wired({"switch": t.one_way(), "light": (t.light_with_permanent_line(),)}, "feed-switch", "switch-light")
        self.assertEqual([net for _, net in idle_conductors(idle)], ["L"])

    def test_a_switch_that_joins_line_and_neutral(self) -> None:
        wrong = Terminals(name="switch", nets=("L", "N"), contact=t.Contact(((), (("L", "N"),))))
        wiring = wired({"switch": (wrong,)}, "feed-switch")
        self.assertEqual([state.short for state in Simulation(wiring).states()], [False, True])


class Connecting(unittest.TestCase):
    def test_joints_of_many_ends(self) -> None:
        """runs.ex.connectors"""
        for ends, ports, count, links in ((4, 5, 1, 0), (5, 5, 1, 0), (6, 5, 2, 1), (9, 4, 4, 3)):
            made = connectors_for(ends, (ports,))
            self.assertEqual((made.count, made.links), (count, links))
            self.assertGreaterEqual(made.count * made.ports - 2 * made.links, ends)

    def test_one_less_would_not_do(self) -> None:
        for ends in range(2, 40):
            for ports in range(3, 9):
                made = connectors_for(ends, (ports,))
                less = made.count - 1
                self.assertTrue(less == 0 or less * ports - 2 * (less - 1) < ends, (ends, ports, made))

    def test_no_connector_is_no_answer(self) -> None:
        for ends, stocked in ((1, (3,)), (3, (2,)), (3, ())):
            with self.assertRaises(ValueError):
                connectors_for(ends, stocked)
        self.assertEqual(connectors_for(2, (2, 3)), Connectors(1, 2))


if __name__ == "__main__":
    unittest.main()
