"""What a circuit feeds, asked once: typed jobs whose loads, rooms or counts were lost before."""

from __future__ import annotations

import unittest

from tests.builders import circuit, finding, laid, mcb
from vivid_lattice.core.actions.new_job import blank
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.document.feeds import feeds_fixed, feeds_lights, feeds_sockets, loads_of, rooms_of
from vivid_lattice.core.document.job import Job, Load
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.supply_line import set_supply
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set, standard_ids

SUPPLIES = {
    "uk": "TN-C-S 100A Ze 0.3 1.4kA", "anz": "MEN 63A Ze 0.3 3kA", "anz-nz": "MEN 63A Ze 0.3 3kA", "iec": "TN-C-S 40A gG Ze 0.3 3kA",
    "iec-de": "TN-C-S 63A gG Ze 0.3 3kA", "za": "TN-S C60 Ze 0.3 3kA", "na": "TN-C-S 200A 10kA",
}  # fmt: skip


def typed(*lines: str, rules: str = "uk") -> Job:
    """A job as it is typed: its supply, then its circuits."""
    job = set_supply(blank("Mill", rule_set(rules)), SUPPLIES[rules]).job
    for line in lines:
        job = checked(add_entry(job, line, "main").job)
    return job


class Definition(unittest.TestCase):
    """The loads that a circuit's kind implies."""

    def test_a_kind_implies_its_load_and_a_listed_one_replaces_it(self) -> None:
        ring = circuit(kind="ring", loads=())
        self.assertEqual([load.kind for load in loads_of(ring)], ["socket"])
        self.assertIsNone(loads_of(ring)[0].count)
        listed = circuit(kind="ring", loads=(Load(name="Sockets", kind="socket", count=4),))
        self.assertEqual(loads_of(listed), listed.loads)
        self.assertEqual([load.kind for load in loads_of(circuit(kind="lighting", loads=()))], ["lamp"])
        self.assertEqual(loads_of(circuit(kind="fixed", loads=())), ())

    def test_what_it_has(self) -> None:
        freezer = Load(name="Freezer", kind="appliance", power_w=200.0, power_factor=0.9, room="pantry")
        mixed = circuit(kind="radial", loads=(freezer,))
        self.assertTrue(feeds_sockets(mixed) and feeds_fixed(mixed) and not feeds_lights(mixed))
        unit = circuit(kind="fixed", loads=(Load(name="Cooker", kind="cooker", power_w=9000.0, with_socket=True),))
        self.assertTrue(feeds_sockets(unit) and feeds_fixed(unit))
        lights = circuit(kind="lighting", loads=())
        self.assertTrue(feeds_lights(lights) and not feeds_sockets(lights) and not feeds_fixed(lights))

    def test_rooms_and_whether_each_is_known(self) -> None:
        rooms = {"pantry": Room(id="pantry", name="Pantry")}
        freezer = Load(name="Freezer", kind="appliance", room="pantry")
        self.assertEqual(rooms_of(circuit(kind="radial", loads=(freezer,)), rooms), ((rooms["pantry"],), True))
        self.assertEqual(rooms_of(circuit(kind="radial", loads=()), rooms), ((), False))


class SocketsWithoutRcd(unittest.TestCase):
    """Sockets behind a plain breaker, as they are typed."""

    def test_each_standard_requires_an_rcd_or_asks(self) -> None:
        for rules in standard_ids():
            device = "20A" if rules == "na" else "B16 MCB"
            device = "C16 MCB" if rules == "za" else device
            size = "12/2" if rules == "na" else "2.5mm"
            for line in (
                f"garage sockets {device} {size} 20m surface",
                f"1 x socket {device} {size} 12m surface, bathroom",
            ):
                with self.subTest(line, rules=rules):
                    found = finding(typed(line, rules=rules), "rcd-duty", "c1")
                    self.assertEqual(found.verdict, "fail", str(found.sentence))

    def test_the_same_with_an_rcd_passes(self) -> None:
        for line in ("garage sockets B20 30mA 20m surface", "kitchen sockets ring RCBO B32 60m surface"):
            with self.subTest(line):
                self.assertEqual(finding(typed(line), "rcd-duty", "c1").verdict, "pass")

    def test_a_socket_without_its_load_listed_is_judged_the_same(self) -> None:
        job = typed("garage sockets B20 MCB 2.5mm 20m surface")
        bare = job.circuits[0].model_copy(update={"loads": ()})
        stripped = job.model_copy(update={"circuits": (bare,)})
        for check in ("rcd-duty", "arc-fault", "voltage-drop", "disconnection"):
            with self.subTest(check):
                self.assertEqual(finding(stripped, check, "c1").verdict, finding(job, check, "c1").verdict)

    def test_lights_of_a_mixed_circuit_count_as_lights(self) -> None:
        job = typed("sockets and lights 9W B16 2.5mm 20m surface", rules="iec-de")
        drop = finding(job, "voltage-drop", "c1")
        self.assertEqual(
            drop.limit, finding(typed("lights 9W B10 1.5mm 20m surface", rules="iec-de"), "voltage-drop", "c1").limit
        )

    def test_a_socket_in_a_bathroom_is_asked_for_its_place(self) -> None:
        found = finding(typed("1 x socket B20 30mA 12m surface, bathroom"), "special-location", "c1")
        self.assertEqual(found.verdict, "advice")
        self.assertIn("from zone 1", str(found.sentence))
        self.assertTrue(found.needs)

    def test_where_the_house_has_a_bath_only_what_could_be_in_it_is_asked_for_its_room(self) -> None:
        # Common practice, no source: lights, water heating and towel rails stand in bathrooms, cookers and smoke alarms do not.
        bath = "shower 9.5kW B45 30mA 10mm 17m, bathroom"
        for line, verdict in (
            ("lights 9W 20m", "advice"),
            ("water heater 3kW 12m", "advice"),
            ("towel rail 100W 12m", "advice"),
            ("sockets ring B32 30mA 2.5mm 60m surface", "not-applicable"),
            ("cooker 9kW 10m", "not-applicable"),
            ("smoke alarm 12m", "not-applicable"),
        ):
            self.assertEqual(finding(typed(line, bath), "special-location", "c1").verdict, verdict, line)


class Assessed(unittest.TestCase):
    """Whatever is typed is assessed."""

    def test_a_house_of_typed_lines_in_each_standard(self) -> None:
        for rules in standard_ids():
            job = typed(
                "sockets 20m, kitchen", "lights 9W 20m", "cooker 8kW 10m, kitchen", "water heater 3kW 12m", rules=rules
            )
            found = assess(job)
            self.assertGreater(len(found.findings), 60, rules)

    def test_division_counts_a_ring_without_listed_sockets(self) -> None:
        bare = circuit(id="r", kind="ring", loads=(), device=mcb(32.0), run=(laid(40.0),))
        self.assertTrue(feeds_sockets(bare))


if __name__ == "__main__":
    unittest.main()
