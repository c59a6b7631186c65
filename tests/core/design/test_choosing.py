"""Designing, mending, typing a line, and saying what changed."""

from __future__ import annotations

import unittest

from tests.builders import circuit, feeder, finding, flat, job, laid, mcb, rcbo, supply, two_boards
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SIZING, SUPPLY_CHECKS
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.remedies import remedies
from vivid_lattice.core.document.changes import differences, in_words
from vivid_lattice.core.document.existing_board import ExistingBoard, ExistingWay, Survey
from vivid_lattice.core.document.job import (
    Accessory,
    Board,
    Circuit,
    Device,
    Job,
    JobInfo,
    Load,
    with_circuit,
    with_parts,
)
from vivid_lattice.core.document.local_device import LocalDevice
from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.document.supply import KnownDemand, SupplyRequest
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.findings.finding import Subject
from vivid_lattice.demo import demo_job


def designed(made: Job, circuit_id: str = "c1") -> Circuit:
    """A circuit after designing."""
    return next(found for found in design(made).job.circuits if found.id == circuit_id)


class Design(unittest.TestCase):
    """The smallest that pass all."""

    def test_it_chooses_what_the_worked_examples_choose(self) -> None:
        # tests/data/uk_worked_examples.toml: uk.ex.cooker-32a 4 mm², uk.ex.immersion-16a 1.5 mm², uk.ex.shower-45a-101 16 mm².
        cooker = (Load(name="Cooker", kind="cooker", power_w=10500.0, with_socket=True),)
        immersion = (Load(name="Immersion", kind="water-heater", power_w=3000.0),)
        shower = (Load(name="Shower", kind="shower", power_w=10000.0),)
        for loads, run, device, area in (
            (cooker, laid(15.0), "auto", 4.0),
            (immersion, laid(20.0, "102"), "auto", 1.5),
            (shower, laid(18.0, "101"), rcbo(45.0), 16.0),
        ):
            made = job(circuit(loads=loads, run=(run,), cable="auto", device=device), settings={"design_usual": False})
            found = designed(made)
            assert not isinstance(found.cable, str)
            self.assertEqual(found.cable.area_mm2, area)

    def test_the_next_smaller_size_fails_the_check_that_is_said_to_have_decided(self) -> None:
        made = job(circuit(cable="auto", device=rcbo(16.0), run=(laid(55.0),)))
        done = design(made)
        [decision] = done.decisions
        self.assertEqual(decision.decided_by, "voltage-drop")
        smaller = with_circuit(done.job, circuit(cable=flat(1.5), run=(laid(55.0),)))
        self.assertEqual(finding(smaller, decision.decided_by).verdict, "fail")

    def test_a_device_is_the_smallest_that_carries_the_load(self) -> None:
        for watts, rating in ((1300.0, 6.0), (1400.0, 10.0), (7300.0, 32.0), (7400.0, 40.0)):
            found = designed(
                job(
                    circuit(device="auto", cable="auto", loads=(Load(name="Heater", kind="heater", power_w=watts),)),
                    settings={"design_usual": False},
                )
            )
            assert isinstance(found.device, Device)
            self.assertEqual(found.device.rating_a, rating)

    def test_a_given_cable_keeps_the_device_within_it(self) -> None:
        found = designed(job(circuit(device="auto", cable=flat(1.5), run=(laid(20.0, "102"),))))
        assert isinstance(found.device, Device)
        self.assertEqual(found.device.rating_a, 16.0)

    def test_a_feeder_grows_when_the_far_circuit_cannot(self) -> None:
        far = circuit(cable="auto", run=(laid(30.0),), device=rcbo(16.0))
        done = design(two_boards(feeder(cable="auto", device="auto", run=(laid(110.0, "D"),)), far))
        sized = {check.id for check in SIZING}
        self.assertNotIn("fail", [found.verdict for found in assess(done.job).findings if found.check in sized])

    def test_what_lacks_an_input_stays_open_and_says_so(self) -> None:
        done = design(job(circuit(cable="auto", device="auto", run=(laid(None),))))
        self.assertEqual(done.job.circuits[0].cable, "auto")
        self.assertTrue(any("length" in str(decision.sentence) for decision in done.decisions if not decision.passes))

    def test_everything_auto_in_a_whole_job_is_filled_and_passes(self) -> None:
        demo = demo_job("millrace")
        bare = demo.model_copy(
            update={"circuits": tuple(c.model_copy(update={"cable": "auto", "device": "auto"}) for c in demo.circuits)}
        )
        done = design(bare)
        self.assertNotIn("auto", [value for c in done.job.circuits for value in (c.cable, c.device)])
        # How warm the kiln's breaker gets in its board no circuit alone can mend.
        self.assertEqual({f.check for f in assess(done.job).findings if f.verdict == "fail"}, {"thermal"})

    def test_the_job_given_is_left_as_it_was(self) -> None:
        made = job(circuit(cable="auto", device="auto"))
        design(made)
        self.assertEqual(made.circuits[0].cable, "auto")


class Remedies(unittest.TestCase):
    """Changes found by running the engine again."""

    def test_each_remedy_does_what_it_says(self) -> None:
        for name in ("millrace", "lock-lodge"):
            made = demo_job(name)
            for found in assess(made).findings:
                if found.verdict != "fail" or found.subject.kind != "circuit":
                    continue
                offered = remedies(made, found.check, found.subject)
                self.assertTrue(offered, str(found.sentence))
                for remedy in offered:
                    with self.subTest(found.subject.id, remedy=remedy.label):
                        mended = with_circuit(made, remedy.circuits[0])
                        after = finding(mended, found.check, found.subject.id)
                        self.assertEqual((after.verdict, after.shown_value), (remedy.verdict, remedy.shown_value))
                        self.assertIn(after.verdict, ("pass", "tight"))

    def test_a_smaller_size_than_the_offered_one_does_not_mend_it(self) -> None:
        made = job(circuit(run=(laid(60.0),)))
        [larger] = [r for r in remedies(made, "voltage-drop", Subject("circuit", "c1")) if r.id == "larger-cable"]
        self.assertEqual(larger.circuits[0].cable, flat(4.0))

    def test_the_shorter_route_is_the_longest_that_passes_to_a_tenth_of_a_metre(self) -> None:
        made = job(circuit(run=(laid(60.0),)))
        [shorter] = [r for r in remedies(made, "voltage-drop", Subject("circuit", "c1")) if r.id == "shorter"]
        length = shorter.circuits[0].run[0].length_m or 0
        # 11.5 V / (18 mV/(A·m) · 13.043 A) = 48.98 m (Table 4D5, BS 7671:2018+A2).
        self.assertAlmostEqual(length, 48.9, places=1)
        self.assertEqual(finding(job(circuit(run=(laid(length + 0.1),))), "voltage-drop").verdict, "fail")

    def test_what_a_remedy_makes_worse_is_said(self) -> None:
        made = job(circuit(loads=(Load(name="Heater", kind="heater", power_w=3600.0),), run=(laid(20.0, "103"),)))
        [smaller] = [r for r in remedies(made, "capacity", Subject("circuit", "c1")) if r.id == "smaller-device"]
        self.assertEqual(smaller.worsens, ("c1: overload",))

    def test_an_rcd_that_would_stand_in_is_offered_as_advice(self) -> None:
        made = job(circuit(device=mcb(16.0), run=(laid(130.0),)))
        [swapped] = [r for r in remedies(made, "disconnection", Subject("circuit", "c1")) if r.id == "other-kind"]
        self.assertEqual((swapped.verdict, str(swapped.label)), ("advice", "Use RCBO B16 instead of MCB B16"))
        self.assertIn("with advice", str(swapped.effect))

    def test_nothing_is_offered_where_nothing_is_wrong_or_nothing_helps(self) -> None:
        self.assertEqual(remedies(job(), "capacity", Subject("circuit", "c1")), ())
        self.assertEqual(remedies(job(), "capacity", Subject("circuit", "nobody")), ())
        hopeless = job(circuit(device=mcb(16.0)), supply=supply(ze_ohm=50.0))
        offered = {remedy.id for remedy in remedies(hopeless, "disconnection", Subject("circuit", "c1"))}
        self.assertNotIn("larger-cable", offered)


class Entry(unittest.TestCase):
    """A typed line."""

    def setUp(self) -> None:
        self.job = job(rooms=(Room(id="bath", name="Bathroom"), Room(id="k", name="Kitchen")))

    def entered(self, text: str) -> Circuit:
        added = add_entry(self.job, text, "main")
        return next(found for found in added.job.circuits if found.id == added.circuit)

    def test_the_lines_people_type(self) -> None:
        for text, kind, load, power, count, length, method in (
            ("cooker 7.2kW 14m", "fixed", "cooker", 7200.0, 1, 14.0, "C"),
            ("8 x downlight 6W, bath, 22m", "lighting", "lamp", 6.0, 8, 22.0, "C"),
            ("Kiln 6,6 kW 9 m surface", "fixed", "kiln", 6600.0, 1, 9.0, "C"),
            ("sluice pump 1100W pf 0.78 40m buried", "fixed", "motor", 1100.0, 1, 40.0, "D"),
            ("immersion heater 3kW 12m loft", "fixed", "water-heater", 3000.0, 1, 12.0, "101"),
        ):
            with self.subTest(text):
                made = self.entered(text)
                [found] = made.loads
                self.assertEqual((made.kind, found.kind, found.power_w, found.count), (kind, load, power, count))
                self.assertEqual((made.run[0].length_m, made.run[0].method), (length, method))

    def test_rooms_names_and_stated_currents(self) -> None:
        lamps = self.entered("8 x downlight 6W, bath, 22m")
        self.assertEqual((lamps.loads[0].room, lamps.name), ("bath", "Downlight, bathroom"))
        ring = self.entered("workshop ring 54m")
        [sockets] = ring.loads
        self.assertEqual((ring.kind, ring.name), ("ring", "Workshop ring"))
        self.assertEqual((sockets.kind, sockets.count, sockets.room), ("socket", None, "workshop"))
        self.assertEqual(self.entered("sockets draws 16A 20m").design_current_a, 16.0)

    def test_lines_feet_and_how_a_load_runs(self) -> None:
        self.job = job(job=JobInfo(title="Split", rules="na"), supply=supply(phases=2, nominal_v=120.0, cutout=None),
                       circuits=(), boards=(Board(id="main", name="Panel", fed_by="origin", way_count=20),))  # fmt: skip
        for text, lines, neutral, length in (
            ("dryer 5kW 40ft", ("L1", "L2"), True, 12.19),
            ("water heater 4.5kW 10m", ("L1", "L2"), False, 10.0),
            ("water heater 1.4kW 10m L2", ("L2",), True, 10.0),
            ("pump 750W 15m", (), True, 15.0),
            ("range 8kW 12m 2p", ("L1", "L2"), True, 12.0),
        ):
            with self.subTest(text):
                made = self.entered(text)
                self.assertEqual((made.lines, made.neutral, made.run[0].length_m), (lines, neutral, length))
        self.assertTrue(self.entered("lights 200W 20m continuous").loads[0].continuous)
        self.assertTrue(self.entered("lights 200W 20m spread").distributed_load)
        for text, said in (
            ("saw 2kW 9m 3ph", "no L1 and L2 and L3"),
            ("saw 2kW 9m L3", "The supply has no L3"),
            ("ring 30m", "no ring circuits"),
        ):
            with self.subTest(text), self.assertRaisesRegex(EntryNotUnderstood, said):
                self.entered(text)

    def test_it_takes_the_first_free_way_and_says_what_it_assumed(self) -> None:
        added = add_entry(self.job, "shower 9kW", "main")
        self.assertEqual([way.number for way in added.job.boards[0].ways], [1, 2])
        said = " ".join(map(str, added.assumed))
        self.assertIn("length not given", said)
        self.assertIn("way 2 of Main board", said)
        self.assertEqual(finding(added.job, "voltage-drop", added.circuit).verdict, "missing")

    def test_a_line_that_cannot_be_used_says_why(self) -> None:
        full = job(boards=(Board.model_validate(self.job.boards[0].model_dump() | {"way_count": 1}),))
        for made, text, said in (
            (self.job, "", "Type what the circuit feeds"),
            (self.job, "14m", "does not say what the circuit feeds"),
            (self.job, "flux capacitor 1.2kW", "“flux capacitor” names no load"),
            (self.job, "cooker 900000W 14m", "at most 100 kW"),
            (self.job, "cooker 7kW 0m", "above 0 m"),
            (full, "cooker 7kW 14m", "No free way in"),
        ):
            with self.subTest(said), self.assertRaises(EntryNotUnderstood) as caught:
                add_entry(made, text, "main")
            self.assertIn(said, str(caught.exception))


def texts(old: Job, new: Job) -> list[str]:
    """What changed, as it is read."""
    return [str(text) for text in differences(old, new)]


class History(unittest.TestCase):
    """What changed, in words."""

    def test_each_kind_of_change_reads_as_it_would_be_said(self) -> None:
        old = job(supply=supply(tails={"area_mm2": 16.0, "length_m": 2.0}))
        for changed, words in (
            (with_circuit(old, circuit(cable=flat(4.0))), "Heater: 2.5 → 4 mm²"),
            (with_circuit(old, circuit(run=(laid(14.5),))), "Heater: 20 → 14.5 m"),
            (with_circuit(old, circuit(run=(laid(None),))), "Heater: 20 m → none"),
            (
                with_circuit(old, circuit(device=rcbo(20.0, "C"))),
                "Heater: rcbo B16 30 mA A 6 kA → rcbo C20 30 mA A 6 kA",
            ),
            (with_circuit(old, circuit(run=(laid(20.0, "101"),))), "Heater: method C → 101"),
            (with_circuit(old, circuit(name="Kiln")), "Renamed: Heater → Kiln"),
            (with_circuit(old, circuit(run=(laid(20.0), laid(3.0)))), "Heater: run of 1 → 2 sections"),
            (old.model_copy(update={"supply": supply(ze_ohm=0.2, tails=old.supply.tails)}), "Ze: 0.35 → 0.2 Ω"),
            (old.model_copy(update={"supply": supply(tails=None)}), "Tails: 16 mm², 2 m → none"),
        ):
            with self.subTest(words):
                self.assertEqual(texts(old, changed), [words])

    def test_what_a_site_answers_does_not_change_in_silence(self) -> None:
        old = demo_job("weir-cottage")
        board, charger, solar = old.boards[2], old.circuit("c6"), old.circuit("c5")
        local = LocalDevice(name="Isolator", kind="isolator")
        for changed in (
            old.model_copy(update={"supply": old.supply.model_copy(update={"looped": True})}),
            old.model_copy(update={"supply": old.supply.model_copy(update={"meter_a": 80.0})}),
            old.model_copy(update={"supply": old.supply.model_copy(update={"demand": KnownDemand(measured_a=40.0)})}),
            old.model_copy(update={"supply": old.supply.model_copy(update={"request": SupplyRequest(rating_a=100.0)})}),
            with_parts(old, (), (board.model_copy(update={"busbar_a": 80.0}),)),
            with_parts(old, (), (board.model_copy(update={"standby": None}),)),
            with_circuit(old, solar.model_copy(update={"source": None})),
            with_circuit(old, charger.model_copy(update={"local_devices": (local,)})),
            with_circuit(old, charger.model_copy(update={"leakage_ma": 1.5})),
            with_circuit(
                old, charger.model_copy(update={"accessories": (Accessory(name="Box", kind="junction-box"),)})
            ),
        ):
            self.assertEqual(len(texts(old, changed)), 1)

    def test_what_changes_on_a_board_and_in_a_survey_is_said_too(self) -> None:
        old = demo_job("lamp-cottage")
        board, housing = old.boards[0], old.boards[0].build
        moved = tuple(
            spot.model_copy(update={"row": 2}) if spot.device == "way:c1" else spot for spot in housing.device_positions
        )
        way = ExistingWay(number=3, kind="blank")
        for changed, words in (
            ({"build": housing.model_copy(update={"device_positions": moved})}, "Cottage board: 1 device moved"),
            (
                {"build": housing.model_copy(update={"enclosure": None})},
                "Cottage board: enclosure Shale, 2 rows of 18 → none",
            ),
            ({"build": housing.model_copy(update={"mounting": None})}, "Cottage board: mounting place changed"),
            ({"voltage_relay": None}, "Cottage board: voltage relay changed"),
        ):
            new = old.model_copy(update={"boards": (board.model_copy(update=changed),)})
            self.assertEqual(texts(old, new), [words])
        surveys = [Survey(boards=(ExistingBoard(id="old", name="Old", ways=ways),)) for ways in ((), (way,))]
        empty, written = (old.model_copy(update={"survey": one}) for one in surveys)
        self.assertEqual(texts(empty, written), ["Old: way 3 added"])
        self.assertEqual(texts(written, empty), ["Old: way 3 removed"])
        self.assertEqual(texts(old, empty), ["Added: Old"])

    def test_nothing_changed_and_much_changed(self) -> None:
        self.assertEqual(str(in_words(job(), job())), "nothing changed")
        many = str(in_words(demo_job("millrace"), demo_job("ferry-landing")))
        self.assertRegex(many, r"; and \d+ more$")

    def test_a_circuit_added_and_taken_out(self) -> None:
        two = job(circuit(), circuit(id="c2", name="Pump"))
        self.assertIn("Added: Pump", texts(job(), two))
        self.assertIn("Removed: Pump", texts(two, job()))


class Registry(unittest.TestCase):
    """The one list of checks."""

    def test_every_finding_of_the_demo_stands_in_the_order_of_the_registry(self) -> None:
        made = demo_job("millrace")
        found = [finding.check for finding in assess(made).findings]
        wanted = [*(check.id for check in SUPPLY_CHECKS), *[check.id for check in BOARD_CHECKS] * len(made.boards)]
        self.assertEqual(found, [*wanted, *[check.id for check in CHECKS] * len(made.circuits)])


if __name__ == "__main__":
    unittest.main()
